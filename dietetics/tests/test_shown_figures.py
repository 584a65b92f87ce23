"""How every figure is shown: its unit and decimals in each of a practitioner's units, and the
outlines of the card of true sizes. Written out again here, from what a label or a table shows.
"""

from __future__ import annotations

import unittest

from dietetics.handover.true_size import half_sphere_mm, outlines, sphere_ml
from dietetics.nutrients import ADDITIVE_KEYS, NUTRIENTS, TABLE_KEYS, Display, nutrient, shown_in

# 1234.5678 of each, as it is shown
SHOWN = {
    "energy_kcal": "1,235 kcal", "protein_g": "1,234.6 g", "fat_g": "1,234.6 g",
    "saturated_fat_g": "1,234.6 g", "carbohydrate_g": "1,234.6 g", "sugars_g": "1,234.6 g",
    "fibre_g": "1,234.6 g", "sodium_mg": "1,235 mg", "potassium_mg": "1,235 mg",
    "phosphorus_mg": "1,235 mg", "calcium_mg": "1,235 mg", "magnesium_mg": "1,235 mg",
    "iron_mg": "1,234.6 mg", "zinc_mg": "1,234.6 mg", "selenium_ug": "1,235 µg",
    "iodine_ug": "1,235 µg", "vitamin_c_mg": "1,235 mg", "folate_ug": "1,235 µg",
    "vitamin_k_ug": "1,235 µg", "vitamin_b12_ug": "1,234.6 µg", "vitamin_d_ug": "1,234.6 µg",
    "ala_g": "1,234.57 g", "vitamin_a_ug": "1,235 µg", "vitamin_e_mg": "1,234.6 mg",
    "thiamin_mg": "1,234.57 mg", "riboflavin_mg": "1,234.57 mg", "niacin_mg": "1,234.6 mg",
    "vitamin_b6_mg": "1,234.57 mg", "choline_mg": "1,235 mg", "pral_meq": "1,234.6 mEq",
    "kcal_per_g": "1,234.57 kcal/g",
}  # fmt: skip


class Figures(unittest.TestCase):
    def test_every_nutrient_has_its_unit_and_decimals(self) -> None:
        self.assertEqual({one.key: one.text(1234.5678) for one in NUTRIENTS}, SHOWN)

    def test_what_is_summed_and_what_stands_in_tables(self) -> None:
        self.assertEqual(set(TABLE_KEYS), set(SHOWN) - {"pral_meq", "kcal_per_g"})
        self.assertEqual(set(ADDITIVE_KEYS), set(SHOWN) - {"kcal_per_g"})

    def test_kilojoules_and_pounds(self) -> None:
        energy, density, protein = map(nutrient, ("energy_kcal", "kcal_per_g", "protein_g"))
        # 100 kcal are 418.4 kJ; 1 kcal/g is 453.6 kcal/lb, or 1,898 kJ/lb
        for kilojoules, per_pound, wanted in (
            (False, False, ("100 kcal", "1.00 kcal/g", "5.0 g")),
            (True, False, ("418 kJ", "4.18 kJ/g", "5.0 g")),
            (False, True, ("100 kcal", "454 kcal/lb", "5.0 g")),
            (True, True, ("418 kJ", "1,898 kJ/lb", "5.0 g")),
        ):
            with self.subTest(wanted), shown_in(Display(kilojoules, per_pound)):
                shown = (energy.text(100), density.text(1), protein.text(5))
                self.assertEqual(shown, wanted)
        self.assertEqual(energy.text(100), "100 kcal", "units end with their block")

    def test_finer_and_never_minus_nought(self) -> None:
        self.assertEqual(nutrient("protein_g").number(27.446, extra=1), "27.45")
        self.assertEqual(nutrient("sodium_mg").number(-0.2), "0")
        self.assertEqual(nutrient("fibre_g").rounded(2.26), 2.3)
        self.assertEqual(nutrient("vitamin_k_ug").name_in_text, "vitamin K")
        self.assertEqual(nutrient("kcal_per_g").name_in_text, "energy density")


class TrueSizes(unittest.TestCase):
    """A half sphere of V mL is 2 × ∛(3V ÷ 2π) cm wide: 15.63 cm for a litre."""

    def test_each_outline(self) -> None:
        found = [(one.words, round(one.across_mm, 1), one.is_ball) for one in outlines()]
        self.assertEqual(
            found,
            [
                ("rim of a 1-litre bowl", 156.3, False),
                ("1 cup, level", 96.7, False),  # 236.588 mL
                ("½ cup, level", 76.7, False),
                ("a ball of 5 cm, about 65 mL", 50.0, True),  # 4/3 π 2.5³
                ("2 tablespoons", 48.3, False),  # 29.57 mL
                ("1 tablespoon", 38.4, False),  # 14.79 mL
            ],
        )

    def test_there_and_back(self) -> None:
        self.assertAlmostEqual(sphere_ml(half_sphere_mm(100)), 200, places=6)
