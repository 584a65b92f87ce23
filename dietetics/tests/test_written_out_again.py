"""Numbers of published equations and tables, written out again from their source and held against
what the program reckons with them: a slip of a digit in either is seen.
"""

from __future__ import annotations

import unittest

from dietetics.follow.course import PREGNANCY_PACE, agreed_pace
from dietetics.follow.expected_weight import (
    ETA_F,
    ETA_L,
    FORBES_KG,
    GAMMA_F,
    GAMMA_L,
    RHO_F,
    RHO_G,
    RHO_L,
)  # fmt: skip
from dietetics.targets.energy import required_kcal
from dietetics.targets.person import Person

ACTIVITIES = ("inactive", "low-active", "active", "very-active")


class EnergyRequirement(unittest.TestCase):
    """NASEM, Dietary Reference Intakes for Energy, 2023 (from memory): kcal a day for a person of a
    hundred kilograms, 200 cm and so many years, reckoned by hand from the printed equations.
    """

    def reckoned(self, sex: str, years: float, activity: str, **more: object) -> float:
        """What the program says of 100 kg and 200 cm."""
        found = required_kcal(Person(sex, years, 200.0, 100.0, activity, **more))
        assert found is not None
        return found

    def test_adults(self) -> None:
        for sex, per_year, rows in (
            ("male", -10.83, (753.07 + 1300 + 1410, 581.47 + 1660 + 1494, 1004.82 + 1304 + 1591,
                              -517.88 + 3122 + 1911)),
            ("female", -7.01, (584.90 + 1144 + 1171, 575.77 + 1320 + 1214, 710.25 + 1308 + 1234,
                               511.83 + 1814 + 1256)),
        ):  # fmt: skip
            for activity, without_age in zip(ACTIVITIES, rows, strict=True):
                with self.subTest(sex=sex, activity=activity):
                    found = self.reckoned(sex, 40, activity)
                    self.assertAlmostEqual(found, without_age + 40 * per_year, places=6)

    def test_between_three_and_eighteen_with_the_energy_of_growth(self) -> None:
        for sex, per_year, rows, growth in (
            ("male", 3.68, (-447.51 + 2602 + 1315, 19.12 + 1724 + 2028, -388.19 + 2532 + 2046,
                            -671.75 + 3076 + 2325), {3: 20, 8: 15, 13: 25, 16: 20}),
            ("female", -22.25, (55.59 + 1686 + 1707, -297.54 + 2554 + 1473, -189.55 + 2348 + 1834,
                                -709.59 + 3644 + 1425), {3: 15, 8: 15, 13: 30, 16: 20}),
        ):  # fmt: skip
            for activity, without_age in zip(ACTIVITIES, rows, strict=True):
                for years, grown in growth.items():
                    with self.subTest(sex=sex, activity=activity, years=years):
                        found = self.reckoned(sex, years, activity)
                        wanted = without_age + years * per_year + grown
                        self.assertAlmostEqual(found, wanted, places=6)

    def test_pregnancy(self) -> None:
        """9.16 kcal a week of pregnancy, and what is laid down by the BMI before it."""
        rows = (1131.20 + 68 + 1215, 693.35 + 1146 + 1020, -223.84 + 2646 + 815,
                -779.72 + 3690 + 873)  # fmt: skip
        # 200 cm: 60 kg is BMI 15, 90 is 22.5, 110 is 27.5, 130 is 32.5
        for before, laid_down in ((60.0, 300), (90.0, 200), (110.0, 150), (130.0, -50)):
            for activity, without_age in zip(ACTIVITIES, rows, strict=True):
                with self.subTest(before=before, activity=activity):
                    found = self.reckoned(
                        "female", 30, activity,
                        pregnant=True, pregnancy_week=30, weight_before_kg=before,
                    )  # fmt: skip
                    wanted = without_age - 30 * 2.04 + 30 * 9.16 + laid_down
                    self.assertAlmostEqual(found, wanted, places=6)


class WeightModel(unittest.TestCase):
    """Hall et al., Lancet 2011;378:826 (from memory), in the units of its appendix."""

    def test_energies_of_tissue(self) -> None:
        # 39.5, 7.6 and 17.6 MJ per kg of fat, lean tissue and glycogen; 4.184 kJ are a kcal
        for value, megajoules in ((RHO_F, 39.5), (RHO_L, 7.6), (RHO_G, 17.6)):
            self.assertAlmostEqual(value, megajoules * 1000 / 4.184, delta=1)
        # 13 and 92 kJ per kg and day; 750 and 960 kJ per kg laid down; Forbes' 10.4 kg
        for value, kilojoules in ((GAMMA_F, 13), (GAMMA_L, 92), (ETA_F, 750), (ETA_L, 960)):
            self.assertAlmostEqual(value, kilojoules / 4.184, delta=0.01 * value + 0.1)
        self.assertEqual(FORBES_KG, 10.4)


class GainInPregnancy(unittest.TestCase):
    """IOM 2009 (from memory), kg a week in the second and third trimester."""

    def test_by_the_bmi_before(self) -> None:
        wanted = {
            "underweight": (0.44, 0.58), "usual weight": (0.35, 0.50), "overweight": (0.23, 0.33),
            "obesity": (0.17, 0.27),
        }  # fmt: skip
        self.assertEqual(PREGNANCY_PACE, wanted)
        for before, (low, high) in zip((45.0, 60.0, 75.0, 90.0), wanted.values(), strict=True):
            person = Person(
                "female", 30, 165.0, before + 6, pregnant=True, pregnancy_week=24,
                weight_before_kg=before,
            )  # fmt: skip
            agreed = agreed_pace(person)
            self.assertEqual((agreed.low, agreed.high), (low, high))
            self.assertAlmostEqual(agreed.kg_a_week, (low + high) / 2)
