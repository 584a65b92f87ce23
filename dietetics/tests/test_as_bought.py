"""What has to be bought, held against handbooks and the trade's own factors."""

from __future__ import annotations

import csv
from pathlib import Path
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from dietetics.composition.foods import load_shelf
from dietetics.errors import DieteticsError
from dietetics.shopping.as_bought import Span, as_bought, edible_share
from dietetics.shopping.shopping_list import Need, ShopKnowledge, shopping_list

AGREE = (
    0.15  # two published shares further apart than this: the span is told, the middle says little
)
CASES = Path(__file__).parent / "inputs" / "as_bought_cases.csv"


KEYS = [food.key for food in load_shelf()]


def cases():
    """The cases that were written before the code."""
    with CASES.open(encoding="utf-8") as handle:
        return list(csv.DictReader(line for line in handle if not line.startswith("#")))


def exactly(grams):
    """Grams without doubt."""
    return Span(grams, grams, grams)


def needed(key, grams, dish="a dish"):
    """A need of a food of the shelf."""
    return Need(load_shelf().food(key), exactly(grams), dish)


def line_of(key, *needs, **known):
    """The line of a food as bought on the list of some needs."""
    lines = shopping_list(needs, ShopKnowledge(**known)).lines
    return next(line for line in lines if line.food.key == key)


class AsBoughtTests(TestCase):
    def test_grams_as_bought_hold_what_the_handbook_or_the_trade_says(self):
        for row in cases():
            if not row["low_g"]:
                continue
            low, high = float(row["low_g"]), float(row["high_g"])
            food = load_shelf().food(row["used"])
            found = as_bought(food, exactly(float(row["grams"])))
            with self.subTest(row["used"]):
                self.assertEqual(found.food.key, row["bought"])
                self.assertLessEqual(found.shop_g.low, high)
                self.assertGreaterEqual(found.shop_g.high, low)
                share = edible_share(found.food)
                if share.high - share.low <= AGREE:
                    self.assertGreaterEqual(found.shop_g.likely, 0.9 * low)
                    self.assertLessEqual(found.shop_g.likely, 1.1 * high)

    def test_whole_cans_for_drained_beans(self):
        for row in cases():
            if row["cans"]:
                with self.subTest(row["used"]):
                    line = line_of(row["bought"], needed(row["used"], float(row["grams"])))
                    self.assertEqual(line.units[1], int(row["cans"]))

    def test_two_halves_of_an_onion_are_one_onion(self):
        line = line_of(
            "onion-raw", needed("onion-raw", 55, "Soup"), needed("onion-raw", 55, "Mash")
        )
        self.assertEqual(line.units, (1, 1, 1))
        self.assertEqual([dish for dish, _ in line.uses], ["Soup", "Mash"])

    def test_what_is_at_home_is_taken_off_and_may_be_enough(self):
        wants = needed("quinoa-dry", 400)
        line = line_of("quinoa-dry", wants, at_home_g={"quinoa-dry": 150})
        self.assertEqual((line.usable_g.likely, line.at_home_g), (250, 150))
        enough = line_of("quinoa-dry", wants, at_home_g={"quinoa-dry": 500})
        self.assertTrue(enough.buys_nothing)
        self.assertEqual(enough.units, (0, 0, 0))

    def test_a_package_of_another_size_and_what_is_left_of_it(self):
        line = line_of("tofu-firm", needed("tofu-firm", 500), pack_g={"tofu-firm": 300})
        self.assertEqual((line.units[1], line.over_g), (2, 100))

    def test_doubt_in_an_amount_is_doubt_in_the_number_of_bunches(self):
        kale = load_shelf().food("kale-raw")
        need = Need(kale, Span(350, 450, 550), "Soup")
        least, likely, most = shopping_list([need]).lines[0].units  # a bunch is 200 g
        self.assertEqual((least, likely, most), (2, 3, 3))

    def test_water_is_not_bought_and_a_cooked_grain_is_bought_dry(self):
        found = shopping_list([needed("water", 900), needed("quinoa-cooked", 305)])
        self.assertEqual([line.food.key for line in found.lines], ["quinoa-dry"])
        self.assertAlmostEqual(found.lines[0].usable_g.likely, 100, delta=1)

    def test_tea_is_named_and_not_left_out_in_silence(self):
        found = shopping_list([needed("tea-green", 240, "Morning tea")])
        self.assertEqual(found.lines, ())
        self.assertIn("Morning tea", found.unknown[0])

    def test_less_than_nothing_is_refused(self):
        with self.assertRaises(DieteticsError):
            shopping_list([needed("kale-raw", -1)])

    def test_prices_add_up_and_lines_without_one_are_counted(self):
        found = shopping_list(
            [needed("tofu-firm", 500), needed("kale-raw", 100)],
            ShopKnowledge(pack_price={"tofu-firm": 2.5}),
        )
        self.assertEqual(found.price, (5.0, 1))


class EveryFoodTests(TestCase):
    def test_every_food_can_be_bought_and_bought_form_is_a_state_that_shops_sell(self):
        for food in load_shelf():
            with self.subTest(food.key):
                found = as_bought(food, exactly(100))
                self.assertLessEqual(found.usable_g.low, found.usable_g.likely)
                self.assertLessEqual(found.usable_g.likely, found.usable_g.high)
                self.assertGreaterEqual(found.shop_g.likely, found.usable_g.likely - 1e-9)
                self.assertGreater(found.usable_g.low, 0)

    @given(st.lists(st.tuples(st.sampled_from(KEYS), st.floats(0.5, 3000)), min_size=1, max_size=9))
    def test_what_is_bought_is_enough_and_a_package_less_is_not(self, pairs):
        for line in shopping_list([needed(key, grams) for key, grams in pairs]).lines:
            if line.units is None:
                continue
            size = line.package.usable_g.high
            self.assertGreaterEqual(line.units[1] * size, 0.95 * line.usable_g.likely - 1e-6)
            self.assertLessEqual(line.units[0], line.units[1])
            self.assertLess((line.units[1] - 1) * line.package.usable_g.low, line.usable_g.likely)
