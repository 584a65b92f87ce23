"""A scaled portion told in household measures: worked out by hand."""

from __future__ import annotations

import unittest

from dietetics.amounts.line_reader import LineReader
from dietetics.amounts.weighing import Scales
from dietetics.composition.foods import load_shelf
from dietetics.composition.sums import FoodContent, Item
from dietetics.dishes.bowls import Portion, portion_words
from dietetics.dishes.portions import read_batch_portion, read_portion
from dietetics.dishes.recipes import read_recipe
from dietetics.errors import DieteticsError

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


class AsTheyAreSaid(unittest.TestCase):
    """Portions by the food's own name, its energy, or a share of the batch."""

    def test_of_a_food(self) -> None:
        shelf = load_shelf()
        scales = Scales(shelf)
        for key, text, grams in (
            ("olives-green", "10 olives", 10 * shelf.food("olives-green").measure("piece").grams),
            ("almonds", "12 almonds", 12 * shelf.food("almonds").measure("piece").grams),
            ("avocado", "half an avocado", 0.5 * shelf.food("avocado").measure("piece").grams),
            # 579 kcal in 100 g (USDA SR Legacy): 300 kcal are 51.8 g
            ("almonds", "300 kcal of it", 300 / 579 * 100),
            ("almonds", "300 calories", 300 / 579 * 100),
        ):
            with self.subTest(key, text=text):
                read = read_portion(text, shelf.food(key), scales)
                self.assertAlmostEqual(read.weight.grams, grams, delta=0.5)
        for text in ("10 cherries", "300 kcal of rice", "0 kcal"):
            with self.assertRaises(DieteticsError, msg=text):
                read_portion(text, shelf.food("almonds"), scales)

    def test_of_a_batch(self) -> None:
        shelf = load_shelf()
        recipe = "Banana pancakes\nMakes 12 pancakes\n2 cups oat flour\n2 bananas\n1 cup soy milk"
        batch = read_recipe(recipe, LineReader(shelf)).batch(12)
        for text, share in (("2 pancakes", 2 / 12), ("3 portions of 5", 3 / 5), ("half", 1 / 24)):
            read = read_batch_portion(text, batch)
            self.assertAlmostEqual(read.weight.grams, share * batch.weight_g, delta=0.6, msg=text)
        kcal = batch.total["energy_kcal"].amount
        read = read_batch_portion(f"{kcal / 4:.0f} kcal", batch)
        self.assertAlmostEqual(read.weight.grams, batch.weight_g / 4, delta=0.5)
        for text in ("6 portions of 5", "2 muffins"):
            with self.assertRaises(DieteticsError, msg=text):
                read_batch_portion(text, batch)
