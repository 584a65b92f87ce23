"""How long dishes keep, against answers written by hand before the rule was, from USDA FSIS and
common practice.
"""

from __future__ import annotations

import tomllib
import unittest
from dataclasses import replace
from pathlib import Path
from typing import Any

from dietetics.amounts.line_reader import LineReader
from dietetics.composition.foods import load_shelf
from dietetics.dishes.recipes import read_recipe
from dietetics.prep.keeping_time import KeepingTime, days_said, keeping_time
from dietetics.prep.to_cook import CookedLine, DishToCook

INPUTS = Path(__file__).parent / "inputs"
SOUP = KeepingTime("cooked", "cooked dish", 4, True, "a source")


def dish_from(text: str) -> tuple[DishToCook, tuple[str, ...]]:
    """A pasted recipe as something to cook, with what stands around it."""
    recipe = read_recipe(text.strip(), LineReader(load_shelf()))
    lines = [
        CookedLine(line.text, line.food, line.grams or 0.0)
        for line in recipe.lines
        if not line.heading
    ]
    return DishToCook("a", recipe.title, tuple(lines), recipe.steps), recipe.asides


def cases(name: str) -> list[dict[str, Any]]:
    """The dishes of a file with their answers."""
    with (INPUTS / name).open("rb") as file:
        return list(tomllib.load(file)["dish"])


class WrittenByHand(unittest.TestCase):
    """Seventy-eight dishes with the days a careful cook would say."""

    def test_each_keeps_as_long_as_was_said(self) -> None:
        for case in cases("keeping_times.toml") + cases("keeping_times_more.toml"):
            with self.subTest(case["name"]):
                dish, asides = dish_from(case["text"])
                found = keeping_time(dish, asides)
                least, most = case["days"]
                self.assertTrue(least <= found.days <= most, found)
                self.assertEqual(case.get("freezes", found.freezes), found.freezes, found)


class WhatElseCounts(unittest.TestCase):
    """The recipe's own words, the dishes in a dish, and the practitioner's own days."""

    def test_a_dish_keeps_no_longer_than_what_is_in_it(self) -> None:
        dish = DishToCook("a", "Plate", (CookedLine("200 g salsa", None, 200.0),), ("Mix.",))
        salsa = replace(SOUP, days=2, freezes=False)
        found = keeping_time(dish, within=[salsa, SOUP])
        self.assertEqual((found.days, found.freezes), (2, False))

    def test_fewer_days_of_the_recipe_count_and_more_are_only_said(self) -> None:
        text = next(c["text"] for c in cases("keeping_times.toml") if c["name"] == "soup")
        fewer, _ = dish_from(f"{text}\n2. Store in the fridge for up to 2 days.")
        more, _ = dish_from(f"{text}\n2. Store in the fridge for up to 6 days.")
        self.assertEqual(keeping_time(fewer).days, 2)
        self.assertEqual(keeping_time(more).days, 4)
        self.assertIn("Its recipe says 6 days.", keeping_time(more).words())

    def test_days_in_the_freezer_and_minutes_are_not_days_in_the_fridge(self) -> None:
        for text in (
            "Freeze for up to 3 months.",
            "It keeps in the freezer for 60 days.",
            "Refrigerate for 30 minutes.",
            "Chill overnight.",
        ):
            self.assertIsNone(days_said([text]), text)
        self.assertEqual(days_said(["Keeps for 3 to 4 days in the refrigerator."]), 4)
        self.assertEqual(days_said(["It keeps a week in the fridge."]), 7)
        self.assertEqual(days_said(["Keeps for 5 days in the fridge, or freeze for 60 days."]), 5)

    def test_a_line_that_was_not_read_is_told(self) -> None:
        lines = (
            CookedLine("200 g salsa", None, 200.0),  # a dish of the practitioner
            CookedLine("a head of something", None, 0.0),
        )
        found = keeping_time(DishToCook("a", "Plate", lines, ("Mix.",)), within=[SOUP])
        self.assertEqual(found.unread, 1)
        self.assertIn("1 line was not read: it may keep shorter.", found.words())

    def test_only_more_days_than_it_keeps_are_remarked(self) -> None:
        self.assertEqual(SOUP.longer_words(4), "")
        self.assertEqual(SOUP.longer_words(1), "")
        self.assertIn("You keep it 5 days", SOUP.longer_words(5))
        self.assertIn("4 days", SOUP.longer_words(5))

    def test_dry_lines_that_something_is_poured_over_and_beans_in_vinegar_keep_no_weeks(
        self,
    ) -> None:
        for text in (
            "Couscous\n200 g couscous\n1 tsp cumin\n1. Pour boiling water over and leave it.",
            "Oats for tomorrow\n100 g rolled oats\n20 g chia seeds\n1. Cover with milk overnight.",
            "Bean pickle salad\n400 g canned chickpeas, drained\n2 tbsp cider vinegar\n1. Mix.",
            "Mix\n200 g rolled oats\n1 cup of something nobody knows\n1. Mix.",
        ):
            dish, asides = dish_from(text)
            self.assertLessEqual(keeping_time(dish, asides).days, 4, text)

    def test_what_is_eaten_at_once_says_so(self) -> None:
        self.assertIn("Eaten on the day", replace(SOUP, days=0).words())
