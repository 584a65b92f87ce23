"""Small rules at their edges: what a cook, a shopper or a practitioner would notice at once if they
were off by one. Each value is worked by hand from the sentence beside it.
"""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import date

from dietetics.amounts.line_reader import LineReader, LineReading
from dietetics.amounts.weighing import SPAN_BY_MARK
from dietetics.cautions.verdict import Verdict
from dietetics.composition.foods import Shelf, load_shelf
from dietetics.composition.phosphorus import AbsorbedPhosphorus
from dietetics.errors import DieteticsError
from dietetics.follow.trajectory import SmoothedDay, WeighIn, trajectory
from dietetics.labels.checks import check_label
from dietetics.labels.columns import amount, number
from dietetics.labels.facts import PER_100G
from dietetics.labels.label_reader import read_label
from dietetics.nutrients import (
    CARBOHYDRATE_KCAL_PER_G,
    FAT_KCAL_PER_G,
    KJ_PER_KCAL,
    LB_G,
    OZ_G,
    PROTEIN_KCAL_PER_G,
)  # fmt: skip
from dietetics.prep.kitchen import Kitchen, kitchen_of_words
from dietetics.prep.tasks import BLENDER, BURNER, OVEN, PRESSURE
from dietetics.shopping.as_bought import Span, as_bought, edible_share, package_of
from dietetics.shopping.list_words import buy_words, over_words, plain_text, weight_words
from dietetics.shopping.shopping_list import (
    Need,
    ShopKnowledge,
    loose_g,
    shopping_list,
    units_for,
)  # fmt: skip

START = date(2026, 9, 1)

SHELF = load_shelf()


class Labels(unittest.TestCase):
    """Units of a label, and what is said of its list."""

    def test_units_are_brought_to_ours(self) -> None:
        for key, value, unit, wanted in (
            ("energy", 418.4, "kj", 100.0), ("energy", 100, "kcal", 100.0),
            ("protein_g", 5, "g", 5.0), ("protein_g", 5000, "mg", 5.0),
            ("sodium_mg", 0.4, "g", 400.0), ("sodium_mg", 400, "mg", 400.0),
            ("vitamin_b12_ug", 0.0024, "mg", 2.4), ("vitamin_b12_ug", 2.4, "µg", 2.4),
            ("vitamin_b12_ug", 2.4, "μg", 2.4),  # the Greek letter, which looks the same
            ("salt", 1.0, "g", 400.0),  # salt = sodium × 2.5, Regulation (EU) 1169/2011
        ):  # fmt: skip
            with self.subTest(key=key, unit=unit):
                self.assertAlmostEqual(amount(key, value, unit), wanted, delta=wanted * 0.02)
        self.assertIsNone(amount("protein_g", 5, ""), "grams or milligrams: nobody knows")

    def test_printed_numbers(self) -> None:
        for text, unit, wanted in (
            ("1,200", "mg", 1200), ("1.450", "kJ", 1450), ("1.450", "g", 1.45), ("1,5", "g", 1.5),
            ("12,5", "mg", 12.5), ("0.345", "mg", 0.345), ("12", "", 12), ("1,200", "", 1.2),
            ("1.450", "kcal", 1450), ("1,450", "µg", 1450), ("123.4567", "mg", 123.4567),
        ):  # fmt: skip
            self.assertEqual(number(text, unit), wanted, (text, unit))

    def test_the_same_food_in_five_layouts(self) -> None:
        """400 kcal, 20 g protein, 10 g fat, 50 g carbohydrate, 400 mg sodium per 100 g."""
        wanted = {"energy_kcal": 400, "protein_g": 20, "fat_g": 10, "carbohydrate_g": 50,
                  "sodium_mg": 400}  # fmt: skip
        for text in (
            "Pier mix\nPer 100 g\nEnergy 400 kcal\nFat 10 g\nCarbohydrate 50 g\nProtein 20 g\n"
            "Salt 1 g",
            "Pier mix\nNutrition per 100 g\nEnergy 1674 kJ / 400 kcal\nFat 10 g\n"
            "Carbohydrate 50 g\nProtein 20 g\nSodium 400 mg",
            "Pier mix\nPer 100 g: 400 kcal, 10 g fat, 50 g carbohydrate, 20 g protein, "
            "400 mg sodium",
            "Pier mix\nServing size 50 g\n | per 100 g | per serving\n"
            "Energy | 400 kcal | 200 kcal\n"
            "Fat | 10 g | 5 g\nCarbohydrate | 50 g | 25 g\nProtein | 20 g | 10 g\n"
            "Sodium | 400 mg | 200 mg",
            "Pier mix\nServing size 50 g\n | per serving | per 100 g\n"
            "Energy | 200 kcal | 400 kcal\n"
            "Fat | 5 g | 10 g\nCarbohydrate | 25 g | 50 g\nProtein | 10 g | 20 g\n"
            "Sodium | 200 mg | 400 mg",
        ):
            facts = read_label(text).facts
            with self.subTest(text):
                self.assertEqual(facts.basis, PER_100G)
                for key, value in wanted.items():
                    self.assertAlmostEqual(facts.values[key], value, delta=0.5, msg=key)

    def test_two_columns_that_contradict_the_serving_are_asked_about(self) -> None:
        found = read_label(
            "Pier mix\nServing size 50 g\n | per 100 g | per serving\n"
            "Energy | 400 kcal | 300 kcal\n"
            "Fat | 10 g | 9 g\nCarbohydrate | 50 g | 40 g\nProtein | 20 g | 17 g"
        )
        self.assertTrue(found.questions or not found.facts.values, found)

    def test_kilojoules_alone(self) -> None:
        facts = read_label(
            "Pier oats\nPer 100 g\nEnergy 1500 kJ\nFat 7 g\nCarbohydrate 60 g\nProtein 13 g"
        ).facts
        self.assertAlmostEqual(facts.values["energy_kcal"], 1500 / 4.184, delta=0.1)

    def test_a_list_that_is_missing_and_one_that_was_not_recognised(self) -> None:
        figures = "Per 100 g\n370 kcal\nFat 7 g\nCarbohydrate 60 g\nProtein 13 g\n"
        said = {one.key: one.text for one in check_label(read_label(f"Oats\n{figures}").facts)}
        self.assertIn("The ingredient list is missing", said["ingredients"])
        odd = read_label(f"Oats\n{figures}Ingredients: zzyx qwv").facts
        said = {one.key: one.text for one in check_label(odd)}
        self.assertIn("was not recognised", said["ingredients"])


class Shopping(unittest.TestCase):
    """A list as a shopper reads it."""

    def bought(self, key: str, grams: float, **known: object):
        """The line for so many grams of a food."""
        need = Need(SHELF.food(key), Span(grams, grams, grams), "a dish")
        return shopping_list([need], ShopKnowledge(**known)).lines[0]

    def test_only_a_pinch_is_of_a_spice_and_small(self) -> None:
        spice = next(
            f.key for f in SHELF if package_of(f).section == "spices" and f.state != "cooked"
        )
        self.assertTrue(self.bought(spice, 0.5).only_a_pinch)
        self.assertFalse(self.bought(spice, 500).only_a_pinch)
        self.assertFalse(self.bought("kale-raw", 0.5).only_a_pinch)
        self.assertIn("look at home first", plain_text(shopping_list(
            [Need(SHELF.food(spice), Span(0.5, 0.5, 0.5), "x")]), "List", False))  # fmt: skip

    def test_prices_by_the_package_and_by_the_kilogram(self) -> None:
        onion = self.bought("onion-raw", 300, pack_price={"onion-raw": 0.5})
        self.assertIsNotNone(onion.units)
        self.assertAlmostEqual(onion.price, onion.units[1] * 0.5)
        loose = next(f.key for f in SHELF if f.state == "raw" and not package_of(f).unit)
        line = self.bought(loose, 1500, pack_price={loose: 4.0})
        self.assertAlmostEqual(line.price, 4.0 * line.shop_g.likely / 1000)
        self.assertIsNone(self.bought(loose, 1500).price)
        found = shopping_list(
            [Need(SHELF.food(k), Span(500, 500, 500), "x") for k in ("onion-raw", loose)],
            ShopKnowledge(pack_price={loose: 4.0}),
        )
        priced = next(one for one in found.lines if one.food.key == loose)
        self.assertEqual(found.price, (priced.price, 1))

    def test_whole_packages(self) -> None:
        package = package_of(SHELF.food("onion-raw"), 100.0)
        for grams, wanted in ((0, 0), (1, 1), (100, 1), (104, 1), (106, 2), (200, 2), (211, 3)):
            with self.subTest(grams):  # the last twentieth buys no further one
                found = units_for(Span(grams, grams, grams), package)
                self.assertEqual(found, (wanted, wanted, wanted))
        self.assertEqual(units_for(Span(90, 150, 310), package), (1, 2, 3))

    def test_what_is_at_home_is_taken_off_and_nearly_enough_is_enough(self) -> None:
        for at_home, left in ((0, 1000), (400, 600), (940, 60), (960, 0), (2000, 0)):
            line = self.bought("lentils-dry", 1000, at_home_g={"lentils-dry": at_home})
            self.assertAlmostEqual(line.usable_g.likely, left)
            self.assertEqual(line.buys_nothing, left == 0)
            self.assertEqual(line.at_home_g, min(at_home, 1000))

    def test_an_edible_share_of_one_source_is_a_twentieth_unsure(self) -> None:
        shares = [(f, edible_share(f)) for f in SHELF if f.state == "raw" and f.edible_share]
        once = [f for f, found in shares if found.low < found.likely == f.edible_share]
        self.assertTrue(once)
        for food in once:
            found = edible_share(food)
            self.assertAlmostEqual(found.low, max(food.edible_share - 0.05, 0.05))
            self.assertAlmostEqual(found.high, min(food.edible_share + 0.05, 1.0))
        cooked = edible_share(SHELF.food("brown-rice-cooked"))
        self.assertEqual((cooked.low, cooked.likely, cooked.high), (1.0, 1.0, 1.0))

    def test_unsweetened_is_not_looked_for_where_the_figures_are_of_a_sweetened_one(self) -> None:
        row = next(f for f in SHELF if f.key == "soy-milk-unsweetened")
        for name, wanted in (
            ("Oat drink, unsweetened", True), ("Oat drink, sweetened", False), ("Oat drink", True),
        ):  # fmt: skip
            said = package_of(replace(row, name=name)).look_for
            self.assertEqual(said.startswith("unsweetened; "), wanted, name)
            self.assertIn("with calcium", said)

    def test_where_no_yield_is_known_energy_tells_it_and_a_vegetable_shrinks(self) -> None:
        """Cooking adds and takes water, the energy stays: 360 kcal dry and 120 cooked are × 3."""
        dry = replace(
            SHELF.food("quinoa-dry"),
            family="made-up",
            key="made-dry",
            default=True,
            per_100g={**SHELF.food("quinoa-dry").per_100g, "energy_kcal": 360.0},
        )
        wet = replace(SHELF.food("quinoa-cooked"), family="made-up", key="made-cooked",
                      per_100g={**SHELF.food("quinoa-cooked").per_100g, "energy_kcal": 120.0},
        )  # fmt: skip
        shelf = Shelf([dry, wet, *SHELF], SHELF.yields)
        found = as_bought(wet, Span(300, 300, 300), shelf)
        self.assertEqual(found.food.key, "made-dry")
        self.assertAlmostEqual(found.usable_g.likely, 100)
        self.assertAlmostEqual(found.usable_g.low, 300 / 3.3)
        self.assertAlmostEqual(found.usable_g.high, 300 / 2.7)
        self.assertIn("energy of both rows", found.how)
        raw = replace(SHELF.food("kale-raw"), family="leaf", key="leaf-raw", edible_share=None)
        for state, factors in (("cooked", (0.8, 0.9, 1.0)), ("roasted", (0.65, 0.75, 0.85))):
            made = replace(raw, state=state, key=f"leaf-{state}")
            found = as_bought(made, Span(90, 90, 90), Shelf([raw, made, *SHELF], SHELF.yields))
            spans = (found.usable_g.high, found.usable_g.likely, found.usable_g.low)
            for grams, factor in zip(spans, factors, strict=True):
                self.assertAlmostEqual(grams, 90 / factor)

    def test_half_at_home_is_half_to_carry(self) -> None:
        whole, half = (
            self.bought("kale-raw", 200, at_home_g={"kale-raw": grams}) for grams in (0, 100)
        )
        self.assertAlmostEqual(half.shop_g.likely, whole.shop_g.likely / 2)

    def test_weights_in_words(self) -> None:
        for grams, household, wanted in (
            (7.4, False, "7 g"), (19.6, False, "20 g"), (43, False, "45 g"), (97, False, "95 g"),
            (104, False, "100 g"), (996, False, "1,000 g"), (1000, False, "1 kg"),
            (1250, False, "1.25 kg"), (28.0, True, "30 g"), (28.4, True, "1 oz (30 g)"),
            (453.6, True, "1 lb (450 g)"), (510.3, True, "1 lb 2 oz (510 g)"),
        ):  # fmt: skip
            with self.subTest(grams):
                self.assertEqual(weight_words(grams, household), wanted)

    def test_a_rest_is_worth_a_line_from_twenty_grams_and_a_tenth_of_the_package(self) -> None:
        package = package_of(SHELF.food("tofu-firm"), 300.0)
        for need, told in ((275, True), (285, False), (270, True), (271, False), (100, True)):
            line = self.bought("tofu-firm", need, pack_g={"tofu-firm": 300.0})
            self.assertEqual(line.over_g, 300 - need)
            wanted = told and 300 - need >= 30  # a tenth of 300 g is more than 20 g
            self.assertEqual(bool(over_words(line, False)), wanted, need)
        small = self.bought("tofu-firm", 81, pack_g={"tofu-firm": 100.0})
        self.assertEqual(over_words(small, False), "", "19 g are hardly anything")
        self.assertEqual(package.usable_g.likely, 300)

    def test_pieces_are_told_with_their_peel(self) -> None:
        line = self.bought("onion-raw", 300)
        onion, share = SHELF.food("onion-raw"), edible_share(SHELF.food("onion-raw")).likely
        each = package_of(onion).usable_g.likely
        grams = line.units[1] * each / share
        said = buy_words(line, False)
        self.assertTrue(said.startswith(f"{line.units[1]} onions"), said)
        self.assertIn(f"about {weight_words(grams, False)}", said)

    def test_what_is_left_over_is_told_where_it_is_worth_a_line(self) -> None:
        can = self.bought("black-beans-canned", 130)
        self.assertEqual(can.units[1], 1)
        self.assertIn("left over, keeps", over_words(can, False))
        self.assertIn("once opened", over_words(can, False))
        self.assertEqual(over_words(self.bought("black-beans-canned", 235), False), "")
        self.assertIn("1 can of", buy_words(can, False))
        self.assertEqual(loose_g(self.bought("lentils-dry", 10)) % 10, 0)


class Weight(unittest.TestCase):
    """The smoothed line."""

    def test_the_interval_is_of_ninety_five_in_a_hundred(self) -> None:
        day = SmoothedDay(START, 70.0, 0.5, 0.0, 0.1)
        self.assertAlmostEqual(day.low, 70 - 1.96 * 0.5, places=2)
        self.assertAlmostEqual(day.high, 70 + 1.96 * 0.5, places=2)

    def test_no_weigh_in_is_no_line(self) -> None:
        with self.assertRaises(DieteticsError):
            trajectory([])
        one = trajectory([WeighIn(START, 70.0)])
        self.assertEqual((one.pace, one.now.kg), (0.0, 70.0))


class Kitchens(unittest.TestCase):
    """What stands in a kitchen."""

    def test_counts_and_their_limits(self) -> None:
        usual = Kitchen()
        self.assertEqual(
            [usual.count(one) for one in (OVEN, BURNER, BLENDER, PRESSURE, "steamer")],
            [1, 4, 1, 1, 0],
        )
        self.assertEqual((usual.cooks, usual.trays), (1, 2))
        bare = Kitchen(ovens=0, burners=0, blenders=0, pressure_cookers=0)
        self.assertEqual(bare.count(OVEN), 0)
        for wrong in ({"cooks": 0}, {"trays": 0}, {"ovens": -1}, {"burners": 9}):
            with self.subTest(wrong), self.assertRaises(DieteticsError):
                Kitchen(**wrong)
        self.assertEqual(Kitchen(burners=8).burners, 8)

    def test_a_kitchen_in_words(self) -> None:
        for words, device, count in (
            ("no oven, two burners", OVEN, 0), ("no oven, two burners", BURNER, 2),
            ("one oven, three burners", BURNER, 3), ("four burners and a blender", BURNER, 4),
            ("two ovens", OVEN, 2), ("without blender", BLENDER, 0),
        ):  # fmt: skip
            with self.subTest(words=words, device=device):
                self.assertEqual(kitchen_of_words(words)[0].count(device), count)


class Lines(unittest.TestCase):
    """Lines of a recipe."""

    def read(self, text: str) -> LineReading:
        """The one reading of a line."""
        (found,) = LineReader(SHELF).read(text)
        return found

    def test_a_can_is_drained_unless_it_says_otherwise(self) -> None:
        self.assertEqual(self.read("1 can black beans").food.state, "canned-drained")
        rinsed = self.read("1 can black beans, drained and rinsed").food
        self.assertEqual(rinsed.state, "canned-rinsed")

    def test_a_rough_amount_is_wider_and_a_density_widest(self) -> None:
        """About ten to each side of "about"; a quarter where only the density of the group is
        known.
        """
        exact, rough = self.read("100 g kale"), self.read("about 100 g kale")
        self.assertEqual((exact.grams_low, exact.grams, exact.grams_high), (100, 100, 100))
        self.assertAlmostEqual(rough.grams, 100)
        self.assertAlmostEqual(rough.grams_low, 90, delta=0.5)
        self.assertAlmostEqual(rough.grams_high, 110, delta=0.5)
        self.assertEqual(SPAN_BY_MARK["density of its group"], 0.25)
        wanted = {
            "table": 0.05,
            "derived": 0.08,
            "from memory": 0.1,
            "stated": 0,
            "practitioner": 0,
        }
        self.assertEqual({k: SPAN_BY_MARK[k] for k in wanted}, wanted)

    def test_stems_come_off_a_bunch_and_not_off_a_cup(self) -> None:
        whole, bare = self.read("1 bunch kale"), self.read("1 bunch kale, stems removed")
        share = whole.food.edible_share
        self.assertLess(share, 1)
        self.assertAlmostEqual(bare.grams, whole.grams * share, delta=0.5)
        self.assertIn("without stems", bare.how)
        cup = self.read("1 cup chopped kale, stems removed")
        self.assertNotIn("without stems", cup.how)


class Phosphorus(unittest.TestCase):
    """What is likely to be absorbed, in words."""

    def test_words(self) -> None:
        known = AbsorbedPhosphorus(320, 400, 480, 800, ())
        self.assertTrue(known.words().startswith("Of 800 mg phosphorus about 400 mg is likely"))
        self.assertIn("(320–480;", known.words())
        self.assertNotIn("Unknown", known.words())
        part = AbsorbedPhosphorus(320, 400, 480, 800, ("okara", "yuba"))
        self.assertTrue(part.words().endswith(" Unknown in okara, yuba."))
        nothing = AbsorbedPhosphorus(0, 0, 0, 0, ("okara",))
        self.assertEqual(nothing.words(), "Phosphorus is unknown in okara.")
        self.assertEqual(AbsorbedPhosphorus(0, 0, 0, 0, ()).words(), "")


class Atwater(unittest.TestCase):
    """General factors, kcal a gram (FAO Food and Nutrition Paper 77, 2003)."""

    def test_factors(self) -> None:
        found = (PROTEIN_KCAL_PER_G, FAT_KCAL_PER_G, CARBOHYDRATE_KCAL_PER_G)
        self.assertEqual(found, (4, 9, 4))
        self.assertEqual((KJ_PER_KCAL, LB_G, OZ_G), (4.184, 453.592, 28.3495))


class Reviewed(unittest.TestCase):
    """A caution that was reviewed comes back when it is worse by more than a hundredth."""

    def test_comes_back(self) -> None:
        for measure, back in ((100.0, False), (101.0, False), (101.1, True), (0.0, False)):
            verdict = Verdict("potassium", "warning", "x", measure=measure)
            self.assertEqual(verdict.comes_back(100.0), back, measure)
        self.assertFalse(Verdict("potassium", "warning", "x", measure=0.0).comes_back(0.0))
