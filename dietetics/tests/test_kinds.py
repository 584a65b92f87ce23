"""Kinds of a week, counted by hand."""

from __future__ import annotations

import unittest

from dietetics.composition.foods import load_shelf
from dietetics.week.kinds import plant_kinds_of, wanted_on
from dietetics.week.words.kinds_eaten import kinds_of_week

SHELF = load_shelf()


def day(**grams: float) -> list[tuple[object, float]]:
    """Foods of a day by key (underscores for hyphens)."""
    return [(SHELF.food(key.replace("_", "-")), value) for key, value in grams.items()]


class Kinds(unittest.TestCase):
    def topics(self, *days: object) -> dict[str, tuple[str, bool]]:
        """Words and verdict by topic."""
        return {one.name: (one.words, one.good) for one in kinds_of_week(days)}

    def test_each_family_counts_once_and_a_little_does_not(self) -> None:
        found = self.topics(
            day(kale_raw=60, lentils_cooked=120, tomato_raw=5, brown_rice_cooked=150),
            day(kale_raw=60, tofu_firm=90, carrot_raw=40),
        )
        self.assertEqual(
            found["Vegetables"], ("2 kinds", True)
        )  # kale and carrot; 5 g is seasoning
        self.assertEqual(found["Beans and soy"], ("2 kinds", True))
        self.assertEqual(found["Grains"], ("1 kind", True))
        self.assertNotIn("Bitter greens", found)

    def test_what_comes_on_most_days_is_named(self) -> None:
        found = self.topics(*[day(kale_raw=60)] * 5, day(carrot_raw=50), day(carrot_raw=50))
        self.assertEqual(found["Vegetables"], ("2 kinds; kale on 5 of 7 days", True))
        self.assertEqual(found["Grains"], ("0 kinds", False))

    def test_what_one_serving_brings(self) -> None:
        held = plant_kinds_of(day(kale_raw=60, arugula_raw=30, tomato_raw=5, lentils_cooked=120))
        self.assertEqual(held["Vegetables"], {"kale", "arugula"})  # 5 g is seasoning
        self.assertEqual(len(held["Beans and soy"]), 1)
        self.assertEqual(held["Bitter greens"], {"arugula"})
        self.assertNotIn("Grains", held)

    def test_less_is_wanted_in_a_short_week(self) -> None:
        wanted = {"Vegetables": 8, "Grains": 3}
        self.assertEqual(wanted_on(wanted, 7), wanted)
        self.assertEqual(wanted_on(wanted, 4), {"Vegetables": 5, "Grains": 2})  # 4.6 and 1.7

    def test_fewer_than_wanted_is_told(self) -> None:
        days = [day(kale_raw=60, brown_rice_cooked=150)]
        found = {one.name: (one.words, one.good) for one in kinds_of_week(days, {"Vegetables": 2,
            "Grains": 1})}  # fmt: skip
        self.assertEqual(found["Vegetables"], ("1 kind; 2 wanted", False))
        self.assertEqual(found["Grains"], ("1 kind", True))

    def test_bitter_greens_every_day_are_told(self) -> None:
        week = [day(arugula_raw=30)] * 6
        self.assertNotIn("Bitter greens", self.topics(*week, day(kale_raw=60)))
        self.assertEqual(
            self.topics(*week, day(arugula_raw=30))["Bitter greens"], ("every day", False)
        )
