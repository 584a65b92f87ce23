"""A scaled portion told in household measures: worked out by hand."""

from __future__ import annotations

import unittest

from dietetics.composition.foods import load_shelf
from dietetics.composition.sums import FoodContent, Item
from dietetics.dishes.bowls import Portion, portion_words

SHELF = load_shelf()


def part(amount: float, unit: str, grams: float) -> Portion:
    """Cooked lentils in some measure."""
    item = Item.exact("Lentil soup, thick", FoodContent(SHELF.food("lentils-cooked")), grams)
    return Portion("1", item, "legume", grams, amount, unit, f"{amount} {unit}")


class PortionWords(unittest.TestCase):
    def test_told_in_the_measure_of_the_part(self) -> None:
        for portion, scale, words in (
            (part(1, "cup", 240), 1.5, "1½ cups Lentil soup"),
            (part(1, "cup", 240), 1.25, "1¼ cups Lentil soup"),
            (part(2, "slice", 60), 1.25, "2½ slices Lentil soup"),
            (part(2, "slice", 60), 0.5, "1 slice Lentil soup"),
            (part(2, "tbsp", 30), 1.5, "3 tbsp Lentil soup"),
            (part(1, "cup, chopped", 90), 2, "2 cups, chopped Lentil soup"),
            (part(120, "g", 120), 1.25, "150 g Lentil soup"),
        ):
            with self.subTest(words):
                self.assertEqual(portion_words(portion, scale), words)

    def test_grams_stand_beside_where_no_measure_is_near(self) -> None:
        # three quarters of a slice is told as half or one: neither is within a twentieth
        self.assertEqual(portion_words(part(1, "slice", 40), 0.75), "1 slice Lentil soup (30 g)")
        # five eighths of a cup is on no cup measure
        self.assertEqual(portion_words(part(0.5, "cup", 60), 1.25), "½ cup Lentil soup (75 g)")
        # never none of what is there
        self.assertEqual(portion_words(part(1, "slice", 40), 0.2), "½ slice Lentil soup (8 g)")
