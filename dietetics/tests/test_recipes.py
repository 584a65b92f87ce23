"""Recipes as people write them: lines, what they make, and what was not understood."""

from __future__ import annotations

import unittest
from pathlib import Path

from dietetics.amounts.line_reader import LineReader
from dietetics.composition.foods import load_shelf
from dietetics.dishes.recipes import Recipe, read_recipe
from dietetics.errors import DieteticsError

INPUTS = Path(__file__).parent / "inputs"
READER = LineReader(load_shelf())


def recipe(name: str) -> Recipe:
    """One of the four recipes."""
    return read_recipe((INPUTS / f"{name}.txt").read_text(encoding="utf-8"), READER)


class AMethodWithoutAHeading(unittest.TestCase):
    def test_sentences_that_tell_what_to_do_are_steps(self) -> None:
        text = (
            "Beans\n400 g carrots\nSimmer for 20 minutes.\nmashed potato, 200 g\nRoast at 200 "
            "C, 25 min\npress tofu"
        )
        recipe = read_recipe(text, LineReader(load_shelf()))
        self.assertEqual(recipe.steps, ("Simmer for 20 minutes.", "Roast at 200 C, 25 min"))
        self.assertEqual(
            [line.text for line in recipe.lines],
            ["400 g carrots", "mashed potato, 200 g", "press tofu"],
        )


class SeasoningWithoutAnAmount(unittest.TestCase):
    """Salt to taste is a share of the dish: 1 % of 1,240 g are 12.4 g, of 100 g a quarter spoon."""

    def read(self, text: str) -> dict[str, tuple[float, float]]:
        found = read_recipe(text, READER)
        return {
            one.food.key: (one.grams, one.grams_high)
            for one in found.lines
            if one.food and one.grams is not None and one.grams_high is not None
        }

    def test_the_range_grows_with_the_dish_and_the_least_counts(self) -> None:
        pot = self.read(
            "Stew\n500 g tomatoes\n500 g potatoes\n240 g cooked chickpeas\nsalt, pepper"
        )
        self.assertEqual(pot["salt-table"], (0.1, 12.4))
        self.assertEqual(pot["black-pepper"], (0.1, 2.5))
        plate = self.read("Salad\n100 g tomatoes\nsalt")
        self.assertEqual(plate["salt-table"], (0.1, 1.5))

    def test_a_written_amount_stays(self) -> None:
        pot = self.read("Stew\n1 kg tomatoes\n1 tsp salt")
        self.assertLess(pot["salt-table"][1], 7)


class SharedRecipes(unittest.TestCase):
    """Four recipes with the food and grams of each line worked out by hand beforehand (grams,
    allowed share).
    """

    EXPECTED = {
        "lamplighter-beans": [
            ("butter-beans-rinsed", 480, 0.1),
            ("lentils-dry", 288, 0.05),
            ("leek-raw", 150, 0.2),
            ("carrot-raw", 142, 0.02),
            ("garlic-raw", 10.5, 0.1),
            ("cabbage-raw", 357, 0.1),
            ("tomatoes-canned", 400, 0.01),
            ("tomato-paste", 40, 0.05),
            ("paprika", 9.1, 0.1),
            ("salt-table", 2.7, 0.02),
            ("water", 1200, 0.01),
            ("lemon-juice", 23, 0.1),
            ("parsley-fresh", 15, 0.5),
        ],
        "breakwater-dressing": [
            ("cashews-raw", 65, 0.1),
            ("hemp-seeds", 20, 0.05),
            ("orange-raw", 131, 0.1),
            ("lemon-juice", 61, 0.02),
            ("dates-medjool", 24, 0.05),
            ("garlic-raw", 3, 0.05),
            ("mustard-yellow", 10, 0.05),
            ("water", 79, 0.02),
            ("black-pepper", 0.3, 2),
        ],
        "harbour-porridge": [
            ("rolled-oats-dry", 80, 0.001),
            ("soy-milk-unsweetened", 257, 0.02),
            ("water", 237, 0.02),
            ("apple-raw", 182, 0.05),
            ("mixed-spice", 1.7, 0.1),
            ("flax-ground", 9.5, 0.1),
            ("chia-seeds", 7.2, 0.2),
            ("walnuts", 30, 0.001),
            ("brazil-nuts", 10, 0.05),
            ("apricots-dried", 21, 0.4),
        ],
        "tideline-bowl": [
            ("quinoa-cooked", 170, 0.01),
            ("tofu-firm", 140, 0.001),
            ("edamame-frozen", 116, 0.02),
            ("kale-raw", 21, 0.1),
            ("beet-raw", 50, 0.2),
            ("avocado", 37.5, 0.1),
            ("nori-dried", 2.6, 0.1),
            ("tahini", 20, 0.02),
            ("water", 29.6, 0.02),
            ("vinegar-rice", 10, 0.5),
            ("miso-white", 5.7, 0.05),
        ],
    }

    def test_every_line(self) -> None:
        for name, expected in self.EXPECTED.items():
            read = recipe(name)
            self.assertEqual(read.unmatched, (), name)
            self.assertEqual(
                [line.food.key for line in read.lines], [key for key, _, _ in expected], name
            )
            for line, (key, grams, share) in zip(read.lines, expected, strict=True):
                self.assertAlmostEqual(line.grams, grams, delta=grams * share, msg=f"{name}: {key}")
                self.assertTrue(line.grams_low <= line.grams <= line.grams_high, line.text)
                self.assertTrue(line.how, line.text)

    def test_a_count_stands_before_a_claim(self) -> None:
        makes = recipe("lamplighter-beans").makes
        self.assertEqual((makes.servings, makes.yield_g), (7, 1740))
        self.assertIn("6–8", " ".join(makes.remarks))
        self.assertAlmostEqual(makes.serving_ml, 236.588, places=2)

    def test_makes_cups_and_servings(self) -> None:
        makes = recipe("breakwater-dressing").makes
        self.assertEqual(makes.servings, 10)
        self.assertAlmostEqual(makes.volume_ml, 1.25 * 236.588, places=2)

    def test_ounces_of_cooked_quinoa_have_two_meanings(self) -> None:
        quinoa = recipe("tideline-bowl").lines[0]
        self.assertEqual(quinoa.confidence, "ask")
        self.assertAlmostEqual(quinoa.alternatives[0].grams, 139, delta=1)

    def test_a_surprising_yield_is_remarked(self) -> None:
        self.assertIn(
            "44% of the weight was lost", " ".join(recipe("lamplighter-beans").batch().remarks())
        )


class WhatItMakes(unittest.TestCase):
    """Lines that say what a recipe gives."""

    def read(self, line: str) -> Recipe:
        """A recipe of one ingredient with this line before it."""
        return read_recipe(f"# Pot\n{line}\n300 g cooked lentils\n700 g water", READER)

    def test_ways_to_say_it(self) -> None:
        for line, servings, grams in (
            ("Serves 4. Pot weighed 0.9 kg when done.", 4, 900),
            ("servings: 5", 5, None),
            ("yield: 740 g", None, 740),
            ("makes 6 portions", 6, None),
            ("Serves 3", 3, None),
            ("makes 800 g, about 4 servings", 4, 800),
            ("We filled 5 x 1/2 cup pots", 5, None),
            ("Yield 12 balls", 12, None),
            ("serves two", 2, None),
        ):
            makes = self.read(line).makes
            self.assertEqual((makes.servings, makes.yield_g), (servings, grams), line)

    def test_a_serving_size_gives_the_number(self) -> None:
        self.assertAlmostEqual(self.read("serving: 125 g").batch().servings, 8)

    def test_a_range_is_said(self) -> None:
        self.assertIn("range", " ".join(self.read("Serves 4-6").makes.remarks))

    def test_given_figures_stand_before_the_text(self) -> None:
        batch = self.read("Serves 4. Pot weighed 900 g.").batch(servings=3, yield_g=600)
        self.assertEqual((batch.servings, batch.weight_g), (3, 600))


class BadInput(unittest.TestCase):
    """Nothing is dropped in silence and nothing breaks."""

    def test_empty_and_long(self) -> None:
        for text in ("", " \n\t ", "x" * 200_000, "1 cup rice\n" * 500):
            with self.assertRaises(DieteticsError):
                read_recipe(text, READER)

    def test_lines_that_cannot_be_read_say_why(self) -> None:
        for line, reason in (
            ("-2 cups rice", "below zero"),
            ("25 kg potatoes", "20"),
            ("2 cups unobtainium", "no food"),
            ("tofu", "no amount"),
            ("3 sheets quinoa", "no weight"),
            ("0 cups rice", "above zero"),
            ("x" * 400, "longer"),
            ("🙂", "no food"),
            ("1/0 cup rice", ""),
        ):
            readings = READER.read(line)
            self.assertEqual(len(readings), 1, line)
            self.assertFalse(readings[0].matched, line)
            self.assertIn(reason, readings[0].reason, line)

    def test_headings_and_method_are_kept(self) -> None:
        text = "Evening pot\nFor the sauce:\n2 tbsp tahini\nMethod\nStir 5 minutes."
        read = read_recipe(text, READER)
        self.assertEqual(read.title, "Evening pot")
        self.assertTrue(read.lines[0].heading)
        self.assertEqual(read.steps, ("Stir 5 minutes.",))
