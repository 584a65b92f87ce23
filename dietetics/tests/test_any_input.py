"""Any text at all is answered: a reading, a reason, or an error of ours, and never anything
else.
"""

from __future__ import annotations

import unittest

from hypothesis import given, settings
from hypothesis import strategies as st

from dietetics.amounts.line_reader import LineReader
from dietetics.amounts.weighing import ABSURD_GRAMS, Scales, amount_text
from dietetics.composition.foods import load_shelf
from dietetics.dishes.portions import read_portion
from dietetics.dishes.recipes import read_recipe
from dietetics.errors import DieteticsError

SHELF = load_shelf()
READER = LineReader(SHELF)
WORDS = [
    "1", "2", "1/2", "½", "1 1/2", "2-3", "to", "x", "400", "g", "kg", "oz", "cup", "cups", "T",
    "t", "tbsp", "tin", "tins", "(", ")", ",",
    "-", "and", "plus", "of", "a", "half", "juice", "zest", "about", "heaped", "scant", "small",
    "large", "cooked", "dry", "drained",
    "rinsed", "quinoa", "tofu", "black beans", "kale", "lemon", "garlic", "cloves", "water", "salt",
    "block", "handful", "pinch", "serves",
    "makes", "servings", "weighed", "yield", ":", "0", "-5", "1/0", "🙂", "½½", "each", "is", "%",
    "#",
]  # fmt: skip
PHRASES = st.lists(st.sampled_from(WORDS), min_size=1, max_size=14).map(" ".join)


class AnyLine(unittest.TestCase):
    """Lines of random characters and of random kitchen words."""

    def check(self, text: str) -> None:
        """Every reading is whole: a food with a weight in its span, or a reason."""
        for reading in READER.read(text):
            if reading.matched:
                self.assertGreater(reading.grams, 0, text)
                self.assertLessEqual(reading.grams, ABSURD_GRAMS, text)
                self.assertLessEqual(reading.grams_low, reading.grams + 1e-9, text)
                self.assertGreaterEqual(reading.grams_high, reading.grams - 1e-9, text)
                self.assertIn(reading.confidence, ("high", "fair", "low", "ask"), text)
                self.assertTrue(reading.how, text)
            elif not reading.heading:
                self.assertTrue(reading.reason, text)

    @settings(max_examples=300)
    @given(st.text(max_size=120))
    def test_random_characters(self, text: str) -> None:
        self.check(text)

    @settings(max_examples=400)
    @given(PHRASES)
    def test_random_kitchen_words(self, text: str) -> None:
        self.check(text)

    @given(st.lists(PHRASES, min_size=1, max_size=8))
    def test_recipes_of_random_lines(self, lines: list[str]) -> None:
        try:
            recipe = read_recipe("\n".join(lines), READER)
            recipe.batch()
        except DieteticsError:
            return
        self.assertEqual(sum(1 for line in recipe.lines if line.matched), len(recipe.items))

    @given(st.sampled_from(sorted(SHELF.foods)), PHRASES)
    def test_portions_are_read_or_refused_in_words(self, key: str, text: str) -> None:
        try:
            portion = read_portion(text, SHELF.food(key), Scales(SHELF))
        except DieteticsError as error:
            self.assertTrue(str(error))
            return
        self.assertGreater(portion.weight.grams, 0)

    @given(
        st.sampled_from(sorted(SHELF.foods)),
        st.sampled_from(["cup", "tbsp", "g", "piece", "oz"]),
        st.integers(1, 64),
    )
    def test_a_portion_as_shown_is_read_back_to_the_same_weight(
        self, key: str, unit: str, eighths: int
    ) -> None:
        food, scales = SHELF.food(key), Scales(SHELF)
        try:
            first = read_portion(f"{eighths / 4:g} {unit}", food, scales)
        except DieteticsError:
            return
        again = read_portion(first.text, food, scales)
        self.assertAlmostEqual(
            again.weight.grams, first.weight.grams, delta=0.02 * first.weight.grams
        )

    @given(st.integers(1, 400))
    def test_amounts_are_written_as_people_write_them(self, quarters: int) -> None:
        shown = amount_text(quarters / 4)
        self.assertNotIn(".", shown)
        self.assertEqual(shown.endswith(("¼", "½", "¾")), quarters % 4 != 0)
