"""A line with two possible meanings counts in no figure until somebody says which it is."""

from __future__ import annotations

import unittest

from dietetics.amounts.line_reader import ASK, LineReader
from dietetics.composition.foods import load_shelf
from dietetics.composition.sums import FoodContent, Item, asked, compose
from dietetics.dishes.allergens import batch_allergens
from dietetics.dishes.batches import Batch, BatchContent, explain_batch
from dietetics.dishes.bowls import foods_of
from dietetics.dishes.comparison import Plate, by_food
from dietetics.dishes.recipes import read_recipe

SHELF = load_shelf()
READER = LineReader(SHELF)
STEW = "Stew\n200 g cooked lentils\n2 heaped tbsp tomato purée\n\nMethod:\nSimmer for 10 minutes."
# Table: lentils 115 kcal per 100 g, so 230 kcal. Purée is a paste in one country and sieved
# tomatoes in another: as a paste, 40 g (32 to 53) of 89 kcal per 100 g would add 28 to 47 kcal.


def item(key: str, grams: float) -> Item:
    """So much of a food."""
    return Item.exact(key, FoodContent(SHELF.food(key)), grams)


class AskedLines(unittest.TestCase):
    """Figures, allergens and explanations of a dish with an open question."""

    def setUp(self) -> None:
        self.batch = read_recipe(STEW, READER).batch(servings=2)

    def test_the_figure_is_that_of_the_other_lines_and_says_at_least(self) -> None:
        energy = self.batch.total["energy_kcal"]
        self.assertAlmostEqual(energy.amount, 230.0)  # type: ignore[arg-type]
        self.assertFalse(energy.complete)
        self.assertIn("at least 230 kcal", energy.text())

    def test_the_weight_counts_and_the_food_is_named(self) -> None:
        self.assertAlmostEqual(self.batch.ingredients_g, 240.0, delta=1)
        whole = Item.exact("Stew", BatchContent(self.batch), self.batch.weight_g)
        self.assertEqual(
            {food.key for food, _ in foods_of(whole)}, {"lentils-cooked", "tomato-paste"}
        )

    def test_why_says_what_it_would_add(self) -> None:
        lentils, puree = explain_batch(self.batch, "energy_kcal").parts
        self.assertIsNone(puree.value)
        self.assertIn("Two meanings are possible", puree.sentence)
        self.assertIn("would add 28 to 47 kcal", puree.sentence)
        self.assertAlmostEqual(lentils.value, 230.0)  # type: ignore[arg-type]

    def test_an_allergen_in_it_is_told_whatever_it_turns_out_to_be(self) -> None:
        batch = Batch("Cream", (asked(item("tofu-silken", 100.0)), item("kale-raw", 50.0)))
        self.assertIn("soy", batch_allergens(batch).contains)

    def test_a_dish_of_two_questions_has_no_figure_at_all(self) -> None:
        both = compose([asked(item("tofu-silken", 100.0)), asked(item("kale-raw", 50.0))])
        self.assertEqual(both["protein_g"].text(), "unknown")
        self.assertEqual(both.grams, 150.0)

    def test_answered_it_counts(self) -> None:
        reading = next(one for one in read_recipe(STEW, READER).lines if one.confidence == ASK)
        answered = Item.exact("paste", FoodContent(reading.food), 40.0)  # type: ignore[arg-type]
        energy = compose([item("lentils-cooked", 200.0), answered])["energy_kcal"]
        per_100g = SHELF.food("tomato-paste").per_100g["energy_kcal"] or 0.0
        self.assertAlmostEqual(energy.amount, 230.0 + 0.4 * per_100g)  # type: ignore[arg-type]
        self.assertTrue(energy.complete)

    def test_in_a_comparison_it_adds_as_little_as_in_the_sum(self) -> None:
        whole = Item.exact("Stew", BatchContent(self.batch), self.batch.weight_g)
        plate = Plate("Stew", (whole,), whole.grams, 300.0)
        by_name = by_food(plate, "energy_kcal")
        self.assertAlmostEqual(sum(by_name.values()), 230.0)
        self.assertEqual(len(by_name), 1)


# Written first: what a dietitian counts for it, in g. A wedge is an eighth of the fruit (7 to 8 g),
# pressed over a plate: at least one, and no more than half a fruit (common practice, from memory).
PRESSED_OVER = (
    ("lemon wedges, to serve", "lemon-raw"),
    ("Lime wedges for serving", "lime-raw"),
    ("extra lemon wedges", "lemon-raw"),
    ("lemon wedges (optional)", "lemon-raw"),
    ("lemon, cut into wedges, to serve", "lemon-raw"),
    ("lime, to serve", "lime-raw"),
)
STILL_ASKED = (
    "lemon",
    "lime",
    "orange wedges, to serve",
    "cooked rice, to serve",
    "bread, to serve",
)
# "2 hot water" is two cups or a mistake, and never two pieces: a piece of water has no weight.
NO_PIECES = ("1 water", "2 hot water", "4 ice cubes")


class WhatIsPressedOver(unittest.TestCase):
    """Wedges: small, never asked about, never exact."""

    def test_wedges_count_a_little(self) -> None:
        for line, key in PRESSED_OVER:
            with self.subTest(line):
                (read,) = READER.read(line)
                assert read.food is not None and read.grams is not None
                assert read.grams_high is not None
                self.assertEqual((read.food.key, read.confidence), (key, "low"))
                self.assertTrue(5 <= read.grams <= 15, read.grams)
                self.assertTrue(20 <= read.grams_high <= 50, read.grams_high)

    def test_what_is_eaten_is_asked_for(self) -> None:
        for line in STILL_ASKED:
            with self.subTest(line):
                self.assertTrue(all(read.grams is None for read in READER.read(line)))

    def test_water_has_no_pieces(self) -> None:
        for line in NO_PIECES:
            with self.subTest(line):
                self.assertTrue(all(read.grams is None for read in READER.read(line)))
