"""Rules of protein, supplements and measures for every kind of person, written out again from their
sources and at the edges where one rule ends and the next begins.
"""

from __future__ import annotations

import unittest

from dietetics.errors import DieteticsError
from dietetics.targets.measurements import read_height_cm, read_weight_kg
from dietetics.targets.person import Person
from dietetics.targets.protein import rate_of, recommended_g_per_kg
from dietetics.targets.schools import school
from dietetics.targets.supplements import amounts_a_day, read_supplements


def person(age: float = 40, **more: object) -> Person:
    """A woman of middle size, whatever else is said of her."""
    height, weight = (100.0, 16.0) if age < 5 else (140.0, 35.0) if age < 14 else (168.0, 62.0)
    facts = {"sex": "female", "age_years": age, "height_cm": height, "weight_kg": weight, **more}
    return Person(**facts)


def conditions(*names: str, age: float = 40, **more: object) -> Person:
    """The same, with conditions."""
    return person(age, conditions=frozenset(names), **more)


class ProteinOfEveryKindOfPerson(unittest.TestCase):
    """g per kg a day: IOM 2005 plus 10 % for plants; PROT-AGE 2013; ACSM 2016; KDOQI 2020 and KDIGO
    2024 (from memory).
    """

    CASES = (
        (person(40), 0.88, 1.6, False),
        (person(64), 0.88, 1.6, False),
        (person(65), 1.0, 1.6, False),
        (person(40, goal="build"), 1.2, 2.0, False),
        (person(70, goal="build"), 1.2, 2.0, False),
        (person(3), 1.05 * 1.1, 2.1, False),
        (person(4), 0.95 * 1.1, 1.9, False),
        (person(13), 0.95 * 1.1, 1.9, False),
        (person(14), 0.85 * 1.1, 1.7, False),
        (person(18), 0.85 * 1.1, 1.7, False),
        (person(19), 0.88, 1.6, False),
        (person(30, pregnant=True), 1.21, 1.8, False),
        (person(30, breastfeeding=True), 1.43, 2.0, False),
        (conditions("ckd-1"), 0.8, 1.3, True),
        (conditions("ckd-2"), 0.8, 1.3, True),
        (conditions("ckd-3"), 0.55, 0.60, True),
        (conditions("ckd-5"), 0.55, 0.60, True),
        (conditions("ckd-3", "diabetes-2"), 0.6, 0.8, True),
        (conditions("dialysis"), 1.0, 1.2, True),
        (conditions("transplant"), 0.8, 1.3, True),
        (
            conditions("ckd-3", "insulin", "diabetes-2"),
            0.8,
            1.3,
            True,
        ),  # KDIGO 2024: not restricted
        (conditions("ckd-4", "frail"), 0.8, 1.3, True),
        (conditions("ckd-3", age=80), 0.8, 1.3, True),
        (conditions("sarcopenia"), 1.2, 1.5, False),
        (conditions("cancer"), 1.0, 1.5, False),
        (conditions("ckd-3", age=30, pregnant=True), 1.1, 1.32, True),
        (conditions("ckd-3", age=10), 0.95, 1.14, True),
        (conditions("dialysis", age=30, breastfeeding=True), 1.3, 1.56, True),
    )

    def test_by_age_stage_goal_and_kidneys(self) -> None:
        plain = school("balanced-bowl")
        for who, low, high, clinician in self.CASES:
            found = rate_of(who, plain)
            with self.subTest(who=who):
                self.assertAlmostEqual(found.low, low, places=6)
                self.assertAlmostEqual(found.high, high, places=6)
                self.assertEqual(found.needs_clinician, clinician)

    def test_a_schools_own_range_is_for_adults_with_sound_kidneys(self) -> None:
        training = school("training")
        self.assertEqual(training.protein_g_per_kg, (1.6, 2.2))
        adult = rate_of(person(40), training)
        self.assertEqual((adult.low, adult.high), (1.6, 2.2))
        self.assertIn("approach", adult.why)
        self.assertAlmostEqual(rate_of(person(10), training).low, 0.95 * 1.1)
        self.assertEqual(rate_of(conditions("ckd-3"), training).high, 0.6)

    def test_what_nobody_may_fall_below(self) -> None:
        for who, wanted in (
            (person(40), None), (person(10), 0.95), (person(30, pregnant=True), 1.1),
            (person(30, breastfeeding=True), 1.3),
        ):  # fmt: skip
            self.assertEqual(recommended_g_per_kg(who), wanted)


class Supplements(unittest.TestCase):
    """Amounts a day in the nutrient's own unit; one international unit is 0.025 µg of vitamin D,
    0.3 µg of vitamin A, 0.67 mg of vitamin E (IOM).
    """

    CASES = (
        ("B12 50 µg daily", "vitamin_b12_ug", 50.0),
        ("B12 1000 mcg twice a week", "vitamin_b12_ug", 2000 / 7),
        ("vitamin b12 2,500 µg weekly", "vitamin_b12_ug", 2500 / 7),
        ("B12 1 mg three times a week", "vitamin_b12_ug", 3000 / 7),
        ("cyanocobalamin 100 µg every other day", "vitamin_b12_ug", 50.0),
        ("vitamin D 1000 IU", "vitamin_d_ug", 25.0),
        ("D3 0.025 mg a day", "vitamin_d_ug", 25.0),
        ("vitamin D 20000 IU monthly", "vitamin_d_ug", 20000 * 0.025 * 12 / 365.25),
        ("vitamin A 1000 IU", "vitamin_a_ug", 300.0),
        ("vitamin E 100 IU daily", "vitamin_e_mg", 67.0),
        ("iodine 150 µg", "iodine_ug", 150.0),
        ("calcium 500 mg twice daily", "calcium_mg", 1000.0),
        ("calcium 0.25 g three times a day", "calcium_mg", 750.0),
        ("iron 14 mg", "iron_mg", 14.0),
        ("zinc 10 mg per day", "zinc_mg", 10.0),
        ("folic acid 400 µg", "folate_ug", 400.0),
        ("selenium 55 ug", "selenium_ug", 55.0),
        ("ascorbic acid 0.5 g", "vitamin_c_mg", 500.0),
        ("protein 25 g", "protein_g", 25.0),
    )

    def test_each_way_of_writing(self) -> None:
        for text, key, wanted in self.CASES:
            with self.subTest(text):
                self.assertAlmostEqual(amounts_a_day(read_supplements(text))[key], wanted, places=4)

    def test_several_of_one_are_added(self) -> None:
        found = amounts_a_day(read_supplements("B12 10 µg daily, cobalamin 5 µg, zinc 5 mg"))
        self.assertEqual((found["vitamin_b12_ug"], found["zinc_mg"]), (15.0, 5.0))

    def test_more_than_fifty_grams_is_a_slip(self) -> None:
        self.assertEqual(amounts_a_day(read_supplements("protein 50 g"))["protein_g"], 50)
        with self.assertRaises(DieteticsError):
            read_supplements("protein 51 g")


class Measures(unittest.TestCase):
    """Height and weight as people say them: an inch is 2.54 cm, a pound 0.45359237 kg, a stone 14
    pounds.
    """

    def test_heights(self) -> None:
        for text, wanted in (
            ("165", 165), ("165 cm", 165), ("1.65 m", 165), ("1,65 m", 165), ("65 in", 165.1),
            ("65 inches", 165.1), ('65"', 165.1), ("5 ft 5", 165.1), ("5'5\"", 165.1),
            ("5 feet 5 inches", 165.1), ("6 ft", 182.88), ("5′11″", 180.34), ("5 foot 5.5", 166.37),
        ):  # fmt: skip
            with self.subTest(text):
                self.assertAlmostEqual(read_height_cm(text), wanted, places=6)

    def test_weights(self) -> None:
        for text, wanted in (
            ("70", 70), ("70.5 kg", 70.5), ("70,5", 70.5), ("154 lb", 69.85322498),
            ("154 pounds", 69.85322498), ("1 pound", 0.45359237), ("2 lbs", 0.90718474),
            ("11 st 3", 71.21400209), ("11 stone", 69.85322498), ("11 st 3 lbs", 71.21400209),
            ("71200 g", 71.2), ("70 kilos", 70), ("70 kilo", 70),
        ):  # fmt: skip
            with self.subTest(text):
                self.assertAlmostEqual(read_weight_kg(text), wanted, places=6)

    def test_neither(self) -> None:
        for read in (read_height_cm, read_weight_kg):
            for text in ("", "tall", "5 ells", "1 2", "-70"):
                with self.subTest(text), self.assertRaises(DieteticsError):
                    read(text)
