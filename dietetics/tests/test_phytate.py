"""Phytate against zinc, worked by hand from the two tables."""

from __future__ import annotations

import unittest

from dietetics.composition.foods import load_shelf
from dietetics.composition.phytate import phytate_per_g_protein, phytate_to_zinc

SHELF = load_shelf()


class PhytateAgainstZinc(unittest.TestCase):
    def test_brown_rice_by_hand(self) -> None:
        # A013: 742 mg phytate and 9.16 g protein in 100 g: 81.0 mg for each g of protein.
        self.assertAlmostEqual(phytate_per_g_protein()["brown-rice"], 81.0, places=1)
        rice = SHELF.food("brown-rice-cooked")
        found = phytate_to_zinc([(rice, 200.0)], 1.4)
        phytate = 2 * rice.per_100g["protein_g"] * 742 / 9.16
        self.assertAlmostEqual(found.phytate_mg, phytate, places=6)
        self.assertAlmostEqual(found.ratio, phytate / 660.04 / (1.4 / 65.38), places=6)
        self.assertIn("poorly absorbed (above 15", found.words())

    def test_zinc_beside_it_brings_the_ratio_down(self) -> None:
        rice = SHELF.food("brown-rice-cooked")
        less, more = phytate_to_zinc([(rice, 100.0)], 2.0), phytate_to_zinc([(rice, 100.0)], 8.0)
        self.assertAlmostEqual(less.ratio / more.ratio, 4.0)
        self.assertIn("fairly well", more.words())

    def test_what_is_not_known_is_not_told(self) -> None:
        kale, rice = SHELF.food("kale-raw"), SHELF.food("brown-rice-cooked")
        self.assertIsNone(phytate_to_zinc([(rice, 100.0)], None))
        self.assertIsNone(phytate_to_zinc([(rice, 100.0)], 0.0))
        self.assertIsNone(phytate_to_zinc([], 5.0))
        both = phytate_to_zinc([(rice, 100.0), (kale, 5.0)], 2.0)
        self.assertEqual(both.mostly[0], "brown rice")

    def test_whole_grains_hold_more_than_milled_ones(self) -> None:
        rates = phytate_per_g_protein()
        self.assertGreater(rates["brown-rice"], rates["white-rice"])
        self.assertGreater(len(rates), 30)
