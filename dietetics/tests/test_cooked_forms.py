"""Raw foods that are eaten cooked, and dishes that are sauces."""

from __future__ import annotations

import unittest

from dietetics.balance.roles import cooked_form
from dietetics.composition.foods import load_shelf
from dietetics.dishes.bowls import is_sauce_name

SHELF = load_shelf()


class CookedForms(unittest.TestCase):
    """What is asked about, and what is not."""

    def test_what_is_never_eaten_raw_is_asked_about(self) -> None:
        for key, cooked in (("sweet-potato-raw", "sweet-potato"), ("potato-raw", "potato"),
            ("lentils-dry", "lentils"),
                            ("brown-rice-dry", "brown-rice"), ("quinoa-dry",
                            "quinoa")):  # fmt: skip
            with self.subTest(key):
                found = cooked_form(SHELF.food(key), 100, SHELF)
                self.assertIsNotNone(found)
                self.assertEqual((found.food.state, found.food.family), ("cooked", cooked))
                self.assertFalse(found.food.salted)

    def test_what_is_eaten_raw_or_cooked_already_is_not(self) -> None:
        for key in (
            "carrot-raw",
            "kale-raw",
            "apple-raw",
            "almonds",
            "quinoa-cooked",
            "tofu-firm",
            "lemon-juice",
        ):
            with self.subTest(key):
                self.assertIsNone(cooked_form(SHELF.food(key), 100, SHELF))

    def test_dry_rice_grows_as_the_yield_says(self) -> None:
        """100 g of dry brown rice boil to about 270 g (yields table, common practice)."""
        found = cooked_form(SHELF.food("brown-rice-dry"), 100, SHELF)
        self.assertEqual((found.same_g, round(found.from_uncooked_g)), (100, 270))


class SauceNames(unittest.TestCase):
    """A dish is a sauce when it is called one, and not when it lies in one."""

    def test_names(self) -> None:
        for name, wanted in (
            ("Breakwater dressing", True), ("Breakwater dressing, for Ama", True),
            ("Peanut sauce (spicy)", True),
            ("Hummus dressing with lemon", True), ("Lentils in tomato sauce", False),
            ("Pasta with pesto", False),
            ("Pier hummus without sesame", False), ("Applesauce cake", False),
            ("Sunflower dressing base", True),
        ):  # fmt: skip
            with self.subTest(name):
                self.assertEqual(is_sauce_name(name), wanted)
