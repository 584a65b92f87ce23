"""Every written line of a recipe is a reading, a question, a step, or shown as what is no
ingredient; none is gone. A line that says what the recipe makes names nothing else.
"""

from __future__ import annotations

import re
import unittest
from collections.abc import Iterator
from pathlib import Path

from hypothesis import example, given, settings
from hypothesis import strategies as st

from dietetics.amounts.line_reader import LineReader
from dietetics.composition.foods import load_shelf
from dietetics.dishes.recipes import Recipe, read_recipe
from dietetics.errors import DieteticsError
from dietetics.tests.samples import again, sample

CORPUS = Path(__file__).parent / "corpus"
READER = LineReader(load_shelf())
TAILS = (
    "",
    ", made up to 500 ml",
    " to make 300 ml",
    " (makes 300 g)",
    ", makes 2 cups",
    " (serves 4)",
    ", enough for 4",
    ", yields 3 cups",
)
OF_A_YIELD = re.compile(
    r"\b(?:serves?|servings?|portions?|makes?|made|yields?|yielded|gives|for|feeds|people|weigh\w*|"
    r"weight|fill\w*|mornings|helpings|about|up|to|of|the|recipe|this|it|enough|total|or|so)\b",
    re.IGNORECASE,
)


def written_lines() -> Iterator[str]:
    """Every line of ingredients of the corpora."""
    for path in sorted(CORPUS.glob("lines*.txt")):
        for row in path.read_text(encoding="utf-8").splitlines():
            line = re.split(r"\s*(?:=>|\t|\|)\s*", row)[0].strip()
            if line and not line.startswith("#"):
                yield line


def gone(recipe: Recipe, line: str) -> bool:
    """True for a line that stands nowhere in what was read, and that names a food."""
    plain = line.strip()
    shown = [reading.text for reading in recipe.lines]
    shown += [*recipe.asides, *recipe.steps, recipe.title]
    if any(plain in one or one.rstrip("…") in plain for one in shown if one):
        return False
    rest = re.sub(r"[\d½⅓⅔¼¾⅛/.,:;()-]+", " ", OF_A_YIELD.sub(" ", plain)).strip()
    return any(reading.food is not None for reading in READER.read(rest)) if rest else False


class Lines(unittest.TestCase):
    def test_of_real_lines_none_is_gone_whatever_stands_behind(self) -> None:
        every = [line + tail for line in written_lines() for tail in TAILS]
        self.assertGreater(len(every), 3000)
        for line in sample("no line vanishes", every, 0.05):
            recipe = read_recipe(f"Test stew\n2 cups carrots\n{line}\n1 tbsp olive oil", READER)
            with self.subTest(line, again=again()):
                self.assertFalse(gone(recipe, line))

    @settings(max_examples=60, deadline=None)
    @given(st.text(min_size=1, max_size=60))
    @example("vegetable stock, made up to 500 ml")
    @example("4 portions rice")
    @example("For serving: 1 ripe avocado, makes 2 cups")
    @example("For the topping: 2 tbsp walnuts, serves 4")
    @example("1 batch dressing (makes 1 cup)")
    def test_of_any_text_none_is_gone(self, text: str) -> None:
        line = " ".join(text.split())
        if not re.search(r"[a-z]{3}", line):
            return
        try:
            recipe = read_recipe(f"Test stew\n2 cups carrots\n{line}\n1 tbsp olive oil", READER)
        except DieteticsError:
            return
        self.assertFalse(gone(recipe, line), line)

    def test_what_a_food_makes_is_no_amount_of_it(self) -> None:
        for line, key, grams in (
            ("2 tsp bouillon powder to make 300 ml", "bouillon-powder", 8),
            ("1 bouillon cube, made up to 500 ml", "bouillon-cube", 10),
            ("stock powder, makes 1 litre", "bouillon-powder", None),
        ):
            reading = READER.read(line)[0]
            self.assertEqual(reading.food and reading.food.key, key, line)
            if grams is None:
                self.assertIsNone(reading.grams, line)
            else:
                self.assertAlmostEqual(reading.grams or 0, grams, delta=1, msg=line)

    def test_made_up_to_is_with_water(self) -> None:
        cube, water = READER.read("1 bouillon cube, made up to 500 ml")
        self.assertEqual((cube.food.key, water.food.key), ("bouillon-cube", "water"))
        self.assertAlmostEqual(water.grams, 500, delta=5)
