"""The diary by exception: what was eaten, added up by hand."""

from __future__ import annotations

import unittest

from dietetics.composition.foods import load_shelf
from dietetics.composition.sums import FoodContent, Item, compose
from dietetics.follow.eaten import MealEaten, adherence_of, day_eaten, share_of

SHELF = load_shelf()
# kcal per 100 g as published: USDA SR Legacy, quick oats, dry; USDA FNDDS, apple, raw
OATS_KCAL, APPLE_KCAL = 371.0, 61.0


def of(key: str, grams: float):  # type: ignore[no-untyped-def]
    """So many grams of a food."""
    food = SHELF.food(key)
    return compose([Item.exact(food.name, FoodContent(food), grams)])


class Shares(unittest.TestCase):
    def test_how_much_was_eaten_of_a_meal(self) -> None:
        for how, text, want in (
            ("as planned", "", 1.0), ("skipped", "", 0.0), ("swapped", "a sandwich", 0.0),
            ("partly", "", 0.5), ("partly", "half of it", 0.5), ("partly", "80 %", 0.8),
            ("partly", "a quarter", 0.25), ("partly", "left a quarter", 0.75),
            ("partly", "2/3 of the bowl", 2 / 3), ("partly", "most of it", 0.75),
            ("partly", "did not eat half", 0.5), ("partly", "300 %", 1.0),
        ):  # fmt: skip
            self.assertAlmostEqual(share_of(how, text), want, msg=f"{how} {text}")


class Days(unittest.TestCase):
    def test_a_day_with_exceptions_is_what_was_eaten(self) -> None:
        meals = [
            MealEaten("Breakfast", of("rolled-oats-dry", 100)),
            MealEaten("Lunch", of("rolled-oats-dry", 100), "partly", 0.5),
            MealEaten("Snack", of("rolled-oats-dry", 100), "skipped", 0.0),
            MealEaten("Dinner", of("rolled-oats-dry", 100), "swapped", 0.0, of("apple-raw", 200)),
        ]
        found = day_eaten(meals, of("apple-raw", 100))
        kcal = found["energy_kcal"]
        self.assertTrue(kcal.complete)
        want = 1.5 * OATS_KCAL + 3 * APPLE_KCAL
        assert kcal.amount is not None
        self.assertAlmostEqual(kcal.amount, want, delta=0.01 * want)

    def test_a_line_that_was_not_understood_leaves_the_day_open(self) -> None:
        meals = [MealEaten("Dinner", of("rolled-oats-dry", 100), "swapped", 0.0, None, 1)]
        figure = day_eaten(meals)["energy_kcal"]
        self.assertFalse(figure.complete)
        more = day_eaten([MealEaten("Breakfast", of("rolled-oats-dry", 100)), *meals])
        self.assertFalse(more["energy_kcal"].complete)

    def test_nothing_eaten_is_zero_and_known(self) -> None:
        figure = day_eaten([MealEaten("Lunch", of("apple-raw", 100), "skipped", 0.0)])
        self.assertEqual(
            (figure["energy_kcal"].amount, figure["energy_kcal"].complete), (0.0, True)
        )


class InWords(unittest.TestCase):
    def test_adherence_is_words_and_days(self) -> None:
        found = adherence_of(
            [["as planned"] * 3, ["as planned", "partly", "as planned"], ["skipped", "swapped"]]
        )
        self.assertEqual(
            found.words(),
            "5 of 8 meals as planned, 1 partly, 1 swapped, 1 skipped; 1 of 3 days without a "
            "change.",
        )
        self.assertEqual(adherence_of([]).words(), "Nothing was reported yet.")


if __name__ == "__main__":
    unittest.main()
