"""BMI for age against the printed charts, and who is not planned to lose weight."""

from __future__ import annotations

import unittest

from dietetics.errors import DieteticsError
from dietetics.targets.deficit_holds import hold_reasons
from dietetics.targets.growth import least_bmi
from dietetics.targets.person import ClinicianNote, Person


class Growth(unittest.TestCase):
    """The fifth percentile of BMI for age, as the CDC prints it (kg/m², from memory of the
    charts).
    """

    def test_against_the_printed_charts(self) -> None:
        for sex, age, printed in (
            ("male", 10, 14.2),
            ("female", 10, 14.0),
            ("male", 2, 14.7),
            ("female", 15, 16.3),
        ):
            self.assertAlmostEqual(least_bmi(sex, age), printed, delta=0.15, msg=f"{sex} {age}")

    def test_outside_the_charts_the_ends_stand(self) -> None:
        self.assertEqual(least_bmi("male", 1), least_bmi("male", 2))
        self.assertEqual(least_bmi("female", 40), least_bmi("female", 21))
        self.assertLess(least_bmi("female", 6), least_bmi("female", 16))


class Holds(unittest.TestCase):
    """Who is not planned to lose weight, at the edges."""

    def person(self, **changes: object) -> Person:
        """A woman of 34 who wants to lose, with changes."""
        facts = {
            "sex": "female",
            "age_years": 34,
            "height_cm": 165,
            "weight_kg": 70,
            "goal": "lose",
            **changes,
        }
        return Person(**facts)

    def test_each_reason_and_its_edge(self) -> None:
        for reason, yes, no in (
            ("pregnancy", {"pregnant": True}, {}),
            ("breastfeeding", {"breastfeeding": True, "breastfeeding_month": 12}, {}),
            ("growing", {"age_years": 18}, {"age_years": 19}),
            ("eating-disorder", {"conditions": frozenset({"eating-disorder"})}, {}),
            ("thin-for-age", {"weight_kg": 50.3}, {"weight_kg": 50.4}),  # 18.5 × 1.65² = 50.37
            ("dialysis", {"conditions": frozenset({"peritoneal-dialysis"})},
            {"conditions": frozenset({"ckd-5"})}),
            ("bmi-under-20", {"weight_kg": 54.4}, {"weight_kg": 54.5}),  # 20 × 1.65² = 54.45
            ("old-and-not-heavy", {"age_years": 65, "weight_kg": 68.0}, {"age_years": 65,
            "weight_kg": 68.1}),  # 25 × 1.65² = 68.06
            ("old-and-not-heavy", {"age_years": 65, "weight_kg": 68.0}, {"age_years": 64,
            "weight_kg": 68.0}),
            ("osteoporosis", {"conditions": frozenset({"osteoporosis"}), "weight_kg": 68.0},
             {"conditions": frozenset({"osteoporosis"}), "weight_kg": 68.1}),
            ("heart-failure", {"conditions": frozenset({"heart-failure"})}, {}),
            ("unintended-loss", {"loss_percent": 5, "loss_unintended": True},
             {"loss_percent": 5}),
            ("refeeding-two-signs", {"weight_kg": 50, "loss_percent": 10},
             {"weight_kg": 50, "loss_percent": 9}),
        ):  # fmt: skip
            with self.subTest(reason=reason, no=no):
                self.assertIn(reason, hold_reasons(self.person(**yes)))
                self.assertNotIn(reason, hold_reasons(self.person(**no)))

    def test_before_pregnancy_counts_for_the_bmi(self) -> None:
        thin = self.person(pregnant=True, weight_kg=60, weight_before_kg=48)
        self.assertAlmostEqual(thin.bmi, 48 / 1.65**2)
        self.assertIn("thin-for-age", hold_reasons(thin))

    def test_impossible_stages(self) -> None:
        for changes in (
            {"pregnancy_week": 60},
            {"breastfeeding_month": 0},
            {"weight_before_kg": 1000},
        ):
            with self.assertRaises(DieteticsError, msg=str(changes)):
                self.person(**changes)
        with self.assertRaises(DieteticsError):
            self.person(sex="male", conditions=frozenset({"gestational-diabetes"}))

    def test_a_note_is_dated_and_named(self) -> None:
        noted = self.person(
            pregnant=True, deficit_note=ClinicianNote("Dr M. Example", "2026-11-02")
        )
        self.assertTrue(hold_reasons(noted))
        self.assertEqual(noted.deficit_note.by, "Dr M. Example")
