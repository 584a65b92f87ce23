"""Small rules at their boundaries, each worked by hand: a factor turned round, a condition left out
or a limit moved by a step is noticed here.
"""

from __future__ import annotations

import unittest
from dataclasses import replace
from types import SimpleNamespace

from dietetics.amounts.claims import HONOURED_BY
from dietetics.amounts.line_reader import LineReader
from dietetics.amounts.units import US_HOUSEHOLD
from dietetics.composition.derivation import explain_item
from dietetics.composition.foods import load_shelf
from dietetics.composition.sums import FoodContent, Item
from dietetics.dishes.stated_yield import StatedYield, read_stated_yield
from dietetics.follow.observed_energy import ObservedEnergy
from dietetics.labels.checks import check_label
from dietetics.labels.facts import PER_100G, LabelFacts
from dietetics.prep.evening import clock_lines
from dietetics.prep.kitchen import Kitchen
from dietetics.prep.stand_ins import with_what_is_there
from dietetics.prep.tasks import BURNER, OVEN, PRESSURE, Minutes, Task
from dietetics.prep.timetable import Asked, Timetable
from dietetics.shopping.shopping_list import loose_g

SHELF = load_shelf()
READER = LineReader(SHELF)


def heated(device: str, minutes: float) -> Task:
    """A stew that takes five minutes of hands and so many alone."""
    alone = Minutes(minutes, minutes, minutes)
    return Task("stew", "Stew", "Cook the stew", "cook", Minutes(5, 5, 5), alone, device=device)


class Kitchens(unittest.TestCase):
    def test_without_a_pressure_cooker_it_simmers_two_and_a_half_times_as_long(self) -> None:
        (moved,), words = with_what_is_there([heated(PRESSURE, 20)], Kitchen(pressure_cookers=0))
        self.assertEqual((moved.device, moved.wait_min), (BURNER, 50))
        self.assertIn("at a simmer, about 50 min", words[0])
        self.assertEqual(moved.guessed, {"wait", "hands"})

    def test_without_an_oven_it_takes_seven_tenths_in_a_pan(self) -> None:
        task = replace(heated(OVEN, 40), celsius=200)
        (moved,), _ = with_what_is_there([task], Kitchen(ovens=0))
        self.assertEqual((moved.device, moved.wait_min, moved.celsius), (BURNER, 28, None))

    def test_what_is_alone_on_the_stove_is_ready_when_hands_and_wait_are_over(self) -> None:
        lines = clock_lines(
            Timetable(Asked((heated(BURNER, 30),), Kitchen()), {"stew": 10}, {}, 35, "")
        )
        self.assertEqual([(one.kind, one.minute) for one in lines], [("start", 10), ("end", 45)])


class Claims(unittest.TestCase):
    def test_gluten_free_is_what_names_none_of_its_allergens(self) -> None:
        free = HONOURED_BY["gluten-free"]
        self.assertTrue(free(SHELF.food("quinoa-dry")))
        self.assertFalse(free(SHELF.food("bulgur-dry")))


class Labels(unittest.TestCase):
    def facts(self, **more: object) -> LabelFacts:
        """A label whose figures fit one another: 4 × 10 + 4 × 20 + 9 × 5 = 165 kcal."""
        values = {
            "energy_kcal": 165.0, "protein_g": 10.0, "carbohydrate_g": 20.0, "fat_g": 5.0,
        }  # fmt: skip
        given = {"name": "Spread", "basis": PER_100G, "values": values, **more}
        return LabelFacts(**given)

    def keys(self, facts: LabelFacts) -> dict[str, bool]:
        """What is found, and whether it has to be answered."""
        return {check.key: check.serious for check in check_label(facts)}

    def test_servings_times_size_is_about_the_net_weight(self) -> None:
        for servings, said in ((4, None), (4.2, None), (4.6, False), (40, True)):
            given = self.facts(servings_per_package=servings, serving_g=50.0, net_g=200.0)
            self.assertEqual(self.keys(given).get("package"), said, servings)

    def test_energy_that_is_four_times_too_much_looks_like_kilojoules(self) -> None:
        values = {**self.facts().values, "energy_kcal": 690.0}
        (check,) = [c for c in check_label(self.facts(values=values)) if c.key == "energy"]
        self.assertIn("kJ typed as kcal", check.text)
        values["energy_kcal"] = 165 * 4.85  # too much for kilojoules
        (check,) = [c for c in check_label(self.facts(values=values)) if c.key == "energy"]
        self.assertNotIn("kJ", check.text)


class Weights(unittest.TestCase):
    def test_loose_food_is_asked_for_in_steps_of_fifty_grams(self) -> None:
        for grams, asked in ((0.0, 0), (10, 50), (50, 50), (50.1, 100), (99, 100), (120, 150)):
            line = SimpleNamespace(shop_g=SimpleNamespace(likely=grams))
            self.assertEqual(loose_g(line), asked)

    def test_a_wedge_is_a_sixth_of_a_piece_with_all_of_its_range(self) -> None:
        whole, wedge = (READER.read(line)[0] for line in ("1 avocado", "1 wedge of avocado"))
        self.assertAlmostEqual(wedge.grams, whole.grams / 6)
        self.assertAlmostEqual(wedge.grams_high, whole.grams_high / 6)
        self.assertAlmostEqual(wedge.grams_low, whole.grams_low / 6)


class Words(unittest.TestCase):
    def test_observed_energy_is_said_to_ten_kilocalories(self) -> None:
        found = ObservedEnergy(2344.0, 126.0, 21, 18, -0.4, 2200.0)
        self.assertEqual(found.words(), "2,340 ± 130 kcal")

    def test_plural_in_ies(self) -> None:
        found = read_stated_yield("makes 12 patties", StatedYield(), US_HOUSEHOLD)
        self.assertEqual(found.servings, 12)


class Spans(unittest.TestCase):
    def test_a_weight_that_is_not_sure_is_told_with_its_span(self) -> None:
        food = FoodContent(SHELF.food("quinoa-dry"))
        sure = explain_item(Item.exact("Quinoa", food, 100.0), "protein_g", None)
        vague = Item("Quinoa", food, 100.0, 80.0, 120.0)
        self.assertNotIn("between", sure.sentence)
        self.assertIn("between 80 and 120 g", explain_item(vague, "protein_g", None).sentence)
