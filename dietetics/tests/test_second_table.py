"""The Indian tables as a second laboratory's opinion, and amino acids against what is known of
foods.
"""

from __future__ import annotations

import statistics
import unittest

from dietetics.composition.aminoacids import (
    ADULT_PATTERN_MG_PER_G,
    pattern_of,
    richest_in,
    score,
    score_of,
    second_opinions,
)
from dietetics.composition.foods import load_shelf

SHELF = load_shelf()
# More than 25 % apart in protein or energy, and why. The row is kept: two tables are two samples.
WATERY = (
    "a leaf, vegetable or fruit of little protein or energy: variety and water decide, and "
    "it is a gram or a few kcal"
)
AVAILABLE = "the Indian energy counts available carbohydrate, which is lower where fibre is high"
STARCHY = "another cultivar with other water"
EXPLAINED = {
    **dict.fromkeys(
        ("parsley-fresh", "apple-raw", "cilantro-fresh", "eggplant-raw", "red-pepper-raw",
        "avocado", "strawberries-raw",
         "shiitake-raw", "celery-raw", "mint-fresh", "onion-raw", "yellow-pepper-raw", "mango-raw",
         "amaranth-leaves-raw",
         "napa-cabbage-raw", "radish-raw", "green-pepper-raw", "daikon-raw", "brussels-sprouts-raw",
         "orange-raw",
         "spinach-raw", "beet-greens-raw", "green-leaf-lettuce-raw", "kohlrabi-raw",
         "watermelon-raw", "ginger-raw",
         "green-beans-raw", "cucumber-raw", "red-cabbage-raw", "papaya-raw"), WATERY),
    **dict.fromkeys(("guava-raw", "pear-raw", "pomegranate-seeds", "apricots-dried"), AVAILABLE),
    **dict.fromkeys(("yam-raw", "cassava-raw", "corn-raw", "peas-raw"), STARCHY),
    "whole-wheat-flour": "Indian atta is of softer wheat with less protein",
    "brown-rice-dry": "an Indian variety with more protein",
}  # fmt: skip


class SecondOpinion(unittest.TestCase):
    """Median absolute difference stated; each outlier over 25 % explained."""

    def differences(self, key: str) -> dict[str, float]:
        """Relative difference to the other table by food."""
        found = {}
        for food, other in second_opinions().items():
            ours = SHELF.food(food).per_100g[key]
            if ours and key in other.values:
                found[food] = abs(other.values[key] / ours - 1)
        return found

    def test_protein_and_energy(self) -> None:
        for key, most in (("protein_g", 0.14), ("energy_kcal", 0.16)):
            apart = self.differences(key)
            self.assertGreaterEqual(len(apart), 90)
            self.assertLess(statistics.median(apart.values()), most, key)
            far = {food for food, gap in apart.items() if gap > 0.25}
            self.assertEqual(far - set(EXPLAINED), set(), key)

    def test_staples_agree_closely(self) -> None:
        """Dry pulses, grains and nuts hardly vary: within 25 % in protein, rice and flour apart."""
        for food, gap in self.differences("protein_g").items():
            if SHELF.food(food).group in ("legume", "nut", "seed") and food != "peas-raw":
                self.assertLess(gap, 0.25, food)


class AminoAcids(unittest.TestCase):
    """What every textbook says: lysine limits grains, sulphur acids limit beans, and together they
    rise.
    """

    def test_limiting_acids(self) -> None:
        for key, acid in (
            ("brown-rice-dry", "lysine"),
            ("whole-wheat-flour", "lysine"),
            ("almonds", "lysine"),
            ("peanuts-raw", "lysine"),
            ("black-beans-dry", "methionine + cysteine"),
            ("kidney-beans-dry", "methionine + cysteine"),
            ("lentils-dry", "methionine + cysteine"),
        ):
            self.assertEqual(score_of(SHELF.food(key)).limiting, acid, key)

    def test_soy_is_complete_and_wheat_protein_is_not(self) -> None:
        self.assertGreater(score_of(SHELF.food("soybeans-dry")).score, 1)
        self.assertLess(score_of(SHELF.food("seitan")).score, 0.6)

    def test_rice_and_beans_are_better_than_either(self) -> None:
        rice, beans = SHELF.food("brown-rice-cooked"), SHELF.food("black-beans-cooked")
        mixed = score([(rice, 200), (beans, 150)]).score
        self.assertGreater(mixed, max(score_of(rice).score, score_of(beans).score))

    def test_no_pattern_is_unknown_and_lowers_the_share(self) -> None:
        oats, beans = SHELF.food("rolled-oats-dry"), SHELF.food("black-beans-cooked")
        self.assertIsNone(pattern_of(oats))
        self.assertIsNone(score_of(oats))
        self.assertLess(score([(oats, 50), (beans, 100)]).covered, 1)

    def test_patterns_are_possible(self) -> None:
        for food in SHELF:
            pattern = pattern_of(food)
            known = (
                [v for v in pattern.mg_per_g_protein.values() if v is not None] if pattern else []
            )
            self.assertLessEqual(sum(known), 700, food.key)
            self.assertTrue(all(1 <= v <= 200 for v in known), food.key)

    def test_what_lifts_lysine_is_a_bean(self) -> None:
        lifters = richest_in("lysine", ("legume", "soy-food"), list(SHELF))
        self.assertTrue(all(f.group in ("legume", "soy-food") for f in lifters))
        lysine = ADULT_PATTERN_MG_PER_G["lysine"]
        self.assertTrue(all(pattern_of(f).mg_per_g_protein["lysine"] > lysine for f in lifters))
