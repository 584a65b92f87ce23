"""What clients need of a dish, told by their daily windows."""

from __future__ import annotations

import unittest

from dietetics.targets.purposes import ENOUGH_FAT, LITTLE_PROTEIN, MUCH_ENERGY, purposes_of
from dietetics.targets.windows import Window


def day(protein_high: float | None = None, fat_low: float | None = None) -> list[Window]:
    found = [Window("energy_kcal", 1900, 2100)]
    if protein_high is not None:
        found.append(Window("protein_g", None, protein_high))
    if fat_low is not None:
        found.append(Window("fat_g", fat_low))
    return found


class Purposes(unittest.TestCase):
    """Of 2,000 kcal: 50 g of protein are a tenth (50 × 4 = 200), 55.6 g of fat a quarter."""

    def test_a_tenth_of_the_energy_is_little_protein(self) -> None:
        self.assertEqual(purposes_of(day(protein_high=50)), {LITTLE_PROTEIN})
        self.assertEqual(purposes_of(day(protein_high=52.4)), {LITTLE_PROTEIN})
        self.assertEqual(purposes_of(day(protein_high=53)), frozenset())

    def test_a_quarter_of_the_energy_is_enough_fat(self) -> None:
        self.assertEqual(purposes_of(day(fat_low=55.6)), {ENOUGH_FAT})
        self.assertEqual(purposes_of(day(fat_low=54)), frozenset())
        self.assertEqual(purposes_of(day(fat_low=44.4)), frozenset(), "an adult's fifth")

    def test_a_floor_of_protein_is_no_ceiling_and_a_ceiling_of_fat_no_floor(self) -> None:
        windows = [*day(), Window("protein_g", 40), Window("fat_g", None, 60)]
        self.assertEqual(purposes_of(windows), frozenset())

    def test_nothing_is_told_without_energy(self) -> None:
        self.assertEqual(purposes_of([Window("protein_g", None, 50), Window("fat_g", 60)]), set())
        self.assertEqual(purposes_of([]), frozenset())

    def test_much_energy_and_a_floor_of_density_want_dense_dishes(self) -> None:
        """2.7 kg of food at 1 kcal/g; who eats little at a time has a floor of density."""
        for low, high, found in ((2600, 2790, set()), (2620, 2800, {MUCH_ENERGY})):
            self.assertEqual(purposes_of([Window("energy_kcal", low, high)]), found)
        energy = Window("energy_kcal", 1500, 1650)
        self.assertEqual(purposes_of([energy, Window("kcal_per_g", 1.2)]), {MUCH_ENERGY})
        self.assertEqual(purposes_of([energy, Window("kcal_per_g", None, 1.2)]), set())

    def test_energy_with_one_side_open_counts_as_that_side(self) -> None:
        windows = [Window("energy_kcal", 2000), Window("protein_g", None, 50)]
        self.assertEqual(purposes_of(windows), {LITTLE_PROTEIN})
        windows = [Window("energy_kcal", None, 2000), Window("fat_g", 55.6)]
        self.assertEqual(purposes_of(windows), {ENOUGH_FAT})
