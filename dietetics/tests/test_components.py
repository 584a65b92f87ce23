"""What is part of a meal: a sauce by its name, and a serving with under a fifth of the meal's
energy (worked by hand).
"""

from __future__ import annotations

import unittest
from dataclasses import replace

from dietetics.composition.foods import load_shelf
from dietetics.composition.sums import FoodContent, Item, compose
from dietetics.targets.meal_components import is_component
from dietetics.targets.windows import Window

KALE = replace(
    load_shelf().food("kale-raw"),
    per_100g={**load_shelf().food("kale-raw").per_100g, "energy_kcal": 100.0},
)
MEAL = (Window("protein_g", 20, 30), Window("energy_kcal", 500, 600))


def serving(grams: float, food=KALE):
    """So many kcal of a food with 100 kcal in 100 g."""
    return compose([Item.exact(food.name, FoodContent(food), grams, "g")])


class Components(unittest.TestCase):
    """A meal of 500 to 600 kcal: under 100 kcal is a part of it."""

    def test_at_the_threshold(self) -> None:
        self.assertTrue(is_component("Slaw", serving(99), MEAL))
        self.assertFalse(is_component("Slaw", serving(100), MEAL))

    def test_a_meal_with_a_maximum_alone_and_one_without_energy(self) -> None:
        self.assertTrue(is_component("Slaw", serving(99), (Window("energy_kcal", None, 500),)))
        self.assertFalse(is_component("Slaw", serving(1), (Window("protein_g", 20, 30),)))

    def test_a_sauce_is_one_however_rich(self) -> None:
        self.assertTrue(is_component("Harbour dressing", serving(400), MEAL))

    def test_energy_that_is_not_known_makes_nothing_a_component(self) -> None:
        unknown = replace(KALE, per_100g={**KALE.per_100g, "energy_kcal": None})
        self.assertFalse(is_component("Slaw", serving(10, unknown), MEAL))
