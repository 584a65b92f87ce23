"""Targets against published equations worked by hand, the intake tables' second source, and
conditions.
"""

from __future__ import annotations

import csv
import unittest
from pathlib import Path

from hypothesis import given
from hypothesis import strategies as st

from dietetics.errors import DieteticsError
from dietetics.nutrients import BY_KEY
from dietetics.targets.conditions import CONDITIONS, KIDNEY, nutrients_minded
from dietetics.targets.energy import FLOOR_KCAL, energy_of, required_kcal, resting_kcal
from dietetics.targets.intakes import intakes_of
from dietetics.targets.measurements import read_height_cm, read_weight_kg
from dietetics.targets.person import ACTIVITIES, GOALS, Person
from dietetics.targets.proposal import propose
from dietetics.targets.schools import DEFAULT_SCHOOL, schools
from dietetics.targets.weight import weight_used

SECOND = Path(__file__).resolve().parents[2] / "reference" / "extracts" / "second_intakes.csv"


def window(person: Person, key: str) -> tuple[float | None, float | None] | None:
    """A proposed window as (low, high)."""
    target = propose(person).target(key)
    return (target.window.low, target.window.high) if target else None


class Minded(unittest.TestCase):
    """Which targets conditions ask for; the keys are those of the tables."""

    def test_conditions_name_the_nutrients_they_are_about(self) -> None:
        self.assertEqual(nutrients_minded(frozenset()), frozenset())
        self.assertEqual(nutrients_minded(frozenset({"reflux"})), frozenset())
        both = nutrients_minded(frozenset({"warfarin", "hypertension"}))
        self.assertEqual(both, {"vitamin_k_ug", "sodium_mg"})
        for key in CONDITIONS:
            for one in nutrients_minded(frozenset({key})):
                self.assertIn(one, BY_KEY)
        for kidney in KIDNEY:
            self.assertIn("potassium_mg", nutrients_minded(frozenset({kidney})))


class Energy(unittest.TestCase):
    """Six persons worked by hand."""

    # sex, age, cm, kg, activity, resting by hand, requirement by hand
    PERSONS = (
        (
            "female",
            34,
            165,
            70,
            "low-active",
            700 + 1031.25 - 170 - 161,
            575.77 - 238.34 + 1089.0 + 849.80,
        ),
        ("male", 40, 180, 80, "active", 800 + 1125 - 200 + 5, 1004.82 - 433.20 + 1173.60 + 1272.80),
        (
            "female",
            71,
            160,
            60,
            "inactive",
            600 + 1000 - 355 - 161,
            584.90 - 497.71 + 915.20 + 702.60,
        ),
        (
            "male",
            19,
            175,
            65,
            "very-active",
            650 + 1093.75 - 95 + 5,
            -517.88 - 205.77 + 2731.75 + 1242.15,
        ),
        (
            "male",
            55,
            170,
            90,
            "inactive",
            900 + 1062.5 - 275 + 5,
            753.07 - 595.65 + 1105.0 + 1269.0,
        ),
        (
            "female",
            25,
            178,
            72,
            "very-active",
            720 + 1112.5 - 125 - 161,
            511.83 - 175.25 + 1614.46 + 904.32,
        ),
    )

    def test_six_persons(self) -> None:
        for sex, age, cm, kg, activity, resting, required in self.PERSONS:
            person = Person(sex, age, cm, kg, activity)
            self.assertAlmostEqual(resting_kcal(person), resting, places=6)
            self.assertAlmostEqual(required_kcal(person), required, places=6)

    def test_the_equation_of_children_ends_at_nineteen(self) -> None:
        child = (
            -297.54 - 22.25 * 18 + 12.77 * 165 + 14.73 * 60 + 20
        )  # NASEM 2023, girls, low active, with growth
        self.assertAlmostEqual(required_kcal(Person("female", 18, 165, 60)), child)
        adult = 575.77 - 7.01 * 19 + 6.60 * 165 + 12.14 * 60
        self.assertAlmostEqual(required_kcal(Person("female", 19, 165, 60)), adult)
        self.assertIsNone(window(Person("female", 2, 90, 13), "energy_kcal"))

    def test_half_a_kilo_a_week_is_550_kcal_a_day(self) -> None:
        self.assertAlmostEqual(
            energy_of(Person("female", 34, 165, 70, goal="lose", pace_kg_per_week=0.5)).change, -550
        )

    @given(
        st.sampled_from(["female", "male"]),
        st.integers(19, 95),
        st.integers(145, 205),
        st.integers(40, 180),
        st.sampled_from(sorted(ACTIVITIES)),
        st.sampled_from(sorted(GOALS)),
        st.floats(0, 2),
    )
    def test_windows_are_never_under_the_floor(
        self, sex: str, age: int, cm: int, kg: int, activity: str, goal: str, pace: float
    ) -> None:
        who = Person(sex, age, cm, kg, activity, goal, pace)
        energy = energy_of(who)
        if who.bmi < 16:  # a risk of refeeding: no target of ours (NICE CG32)
            self.assertIsNone(energy.low)
            return
        self.assertGreaterEqual(energy.low, FLOOR_KCAL[sex] - 1e-9)
        self.assertLessEqual(energy.low, energy.high)


class LittleEaten(unittest.TestCase):
    """Who is soon full gets food that holds enough, whatever the approach asks of others."""

    def test_the_energy_fits_into_what_is_eaten_and_a_fifth_of_it_is_fat(self) -> None:
        old = Person("female", 85, 155, 50)
        for person in (old, Person("male", 70, 172, 60, appetite="poor")):
            energy, density, fat = (
                window(person, key) for key in ("energy_kcal", "kcal_per_g", "fat_g")
            )
            most_g = 1500 if person is old else 1500
            self.assertAlmostEqual(density[0], energy[0] / most_g, delta=0.01)
            self.assertIsNone(density[1])
            middle = propose(person).energy.target
            self.assertAlmostEqual(fat[0], 0.20 * middle / 9, delta=0.51)

    def test_others_keep_the_ceiling_of_their_approach(self) -> None:
        low, high = window(Person("female", 40, 165, 62), "kcal_per_g")
        self.assertIsNone(low)
        self.assertIsNotNone(high)


class Protein(unittest.TestCase):
    """By condition, in g per kg of a person of 70 kg."""

    def test_by_condition(self) -> None:
        cases = (
            (frozenset(), 34, "hold", "balanced-bowl", 0.88, None),
            (frozenset(), 65, "hold", "balanced-bowl", 1.0, 1.6),
            (frozenset(), 64, "hold", "balanced-bowl", 0.88, 1.6),
            (frozenset({"ckd-3"}), 34, "hold", "kidney-aware", 0.55, 0.60),
            (frozenset({"ckd-4"}), 70, "hold", "kidney-aware", 0.55, 0.60),
            (frozenset({"ckd-3", "diabetes-2"}), 34, "hold", "kidney-aware", 0.6, 0.8),
            (frozenset({"dialysis"}), 34, "hold", "kidney-aware", 1.0, 1.2),
            (frozenset(), 34, "hold", "training", 1.6, 2.2),
            (frozenset({"ckd-3"}), 34, "build", "training", 0.55, 0.60),
            (frozenset(), 34, "build", "balanced-bowl", 1.2, 2.0),
        )
        for conditions, age, goal, school, low, high in cases:
            found = window(
                Person("female", age, 165, 70, goal=goal, school=school, conditions=conditions),
                "protein_g",
            )
            self.assertAlmostEqual(found[0], low * 70, delta=0.06, msg=str(conditions))
            if conditions:  # of the healthy no ceiling is required (IOM AMDR: 10-35 % of energy)
                self.assertAlmostEqual(found[1], high * 70, delta=0.06, msg=str(conditions))
            else:
                self.assertIsNone(found[1])

    def test_the_weight_used_is_adjusted_from_bmi_30(self) -> None:
        self.assertEqual(weight_used(Person("female", 40, 165, 81))[0], 81)
        reference = 25 * 1.65**2
        self.assertAlmostEqual(
            weight_used(Person("female", 40, 165, 110))[0], reference + (110 - reference) / 4
        )

    def test_kidney_disease_asks_the_clinician(self) -> None:
        plan = propose(
            Person("male", 71, 174, 76, conditions=frozenset({"ckd-3"}), school="kidney-aware")
        )
        self.assertTrue(plan.target("protein_g").needs_clinician)
        self.assertIsNone(plan.target("potassium_mg"))
        self.assertIsNone(plan.target("phosphorus_mg"))
        self.assertEqual(
            {a.key for a in plan.asked},
            {"potassium_mg", "phosphorus_mg", "protein_g", "energy_kcal", "sodium_mg"},
        )


class Intakes(unittest.TestCase):
    """The table against its second source, at edge ages and in pregnancy."""

    CODES = {
        "ca": "calcium_mg",
        "p": "phosphorus_mg",
        "mg": "magnesium_mg",
        "fe": "iron_mg",
        "zn": "zinc_mg",
        "se": "selenium_ug",
        "i": "iodine_ug",
        "vitc": "vitamin_c_mg",
        "vitd": "vitamin_d_ug",
        "vitk": "vitamin_k_ug",
        "vitb12": "vitamin_b12_ug",
        "folsum": "folate_ug",
        "f18d3n3": "ala_g",
        "k": "potassium_mg",
        "vita": "vitamin_a_ug",
        "thia": "thiamin_mg",
        "ribf": "riboflavin_mg",
        "nia": "niacin_mg",
        "vitb6c": "vitamin_b6_mg",
        "vite": "vitamin_e_mg",
        "choline": "choline_mg",
    }
    EXPLAINED = {
        ("calcium_mg", "male"): "the registry gives the older figure, 1,200 mg",
        (
            "vitamin_k_ug",
            "male",
        ): (
            "the registry gives 110 and 120 µg in columns that seem shifted; the 2001 report "
            "gives 120 and 90"
        ),
        ("vitamin_k_ug", "female"): "as above",
        ("ala_g", "male"): "the registry prints 1.6e-3 and 1.1e-3 where grams are meant",
        ("ala_g", "female"): "as above",
        (
            "vitamin_b6_mg",
            "male",
        ): "the registry gives 1.5, the mean of 1.3 to 50 years and 1.7 after",
        ("vitamin_b6_mg", "female"): "the registry gives 1.35, near the mean of 1.3 and 1.5",
        (
            "potassium_mg",
            "male",
        ): "the registry gives 4,700 mg of 2005; NASEM 2019 lowered it to 3,400",
    }

    def amount(self, key: str, **changes: object) -> float:
        """A daily intake of a person of 40 with changes."""
        facts = {"sex": "female", "age_years": 40, "height_cm": 165, "weight_kg": 65, **changes}
        return next(i.amount for i in intakes_of(Person(**facts)) if i.key == key)

    def test_against_the_second_source(self) -> None:
        with SECOND.open(encoding="utf-8") as handle:
            rows = {
                r["code"]: r
                for r in csv.DictReader(line for line in handle if not line.startswith("#"))
            }
        compared = 0
        for code, key in self.CODES.items():
            for column, sex in (("usrdam", "male"), ("usrdaf", "female")):
                cell = rows[code][column]
                if not cell:
                    continue
                theirs = float(cell) * {"g": 1, "mg": 1e3, "ug": 1e6}[key.rsplit("_", 1)[1]]
                if (key, sex) in self.EXPLAINED:
                    self.assertNotAlmostEqual(self.amount(key, sex=sex), theirs)
                else:
                    self.assertAlmostEqual(
                        self.amount(key, sex=sex), theirs, delta=0.01 * theirs, msg=f"{key} {sex}"
                    )
                    compared += 1
        self.assertGreaterEqual(compared, 24)

    def test_upper_levels_against_the_second_source(self) -> None:
        """Of adults; magnesium, niacin, folic acid, vitamins A and E count supplements or added
        vitamins alone (IOM).
        """
        with SECOND.open(encoding="utf-8") as handle:
            rows = {
                r["code"]: r
                for r in csv.DictReader(line for line in handle if not line.startswith("#"))
            }
        intakes = {i.key: i for i in intakes_of(Person("female", 40, 165, 65))}
        compared = 0
        for code, key in self.CODES.items():
            if not rows[code]["ulus"]:
                self.assertIsNone(intakes[key].upper, key)
                continue
            theirs = (
                float(rows[code]["ulus"]) * {"g": 1, "mg": 1e3, "ug": 1e6}[key.rsplit("_", 1)[1]]
            )
            self.assertAlmostEqual(intakes[key].upper, theirs, delta=0.01 * theirs, msg=key)
            compared += 1
        self.assertGreaterEqual(compared, 14)
        apart = {
            key
            for key, one in intakes.items()
            if one.upper is not None and not one.upper_counts_food
        }
        self.assertEqual(
            apart, {"magnesium_mg", "niacin_mg", "folate_ug", "vitamin_a_ug", "vitamin_e_mg"}
        )

    def test_children_by_hand(self) -> None:
        """1-3, 4-8, 9-13 years as the reports print them: amount and upper level."""
        for key, printed in (
            ("calcium_mg", ((700, 2500), (1000, 2500), (1300, 3000))), ("iron_mg", ((7, 40), (10,
            40), (8, 40))),
            ("zinc_mg", ((3, 7), (5, 12), (8, 23))), ("iodine_ug", ((90, 200), (90, 300), (120,
            600))),
            ("selenium_ug", ((20, 90), (30, 150), (40, 280))), ("vitamin_d_ug", ((15, 63), (15, 75),
            (15, 100))),
            ("vitamin_a_ug", ((300, 600), (400, 900), (600, 1700))), ("vitamin_c_mg", ((15, 400),
            (25, 650), (45, 1200))),
            ("vitamin_b12_ug", ((0.9, None), (1.2, None), (1.8, None))), ("riboflavin_mg", ((0.5,
            None), (0.6, None), (0.9, None))),
            ("choline_mg", ((200, 1000), (250, 1000), (375, 2000))), ("vitamin_b6_mg", ((0.5, 30),
            (0.6, 40), (1.0, 60))),
        ):  # fmt: skip
            for age, cm, kg, (amount, upper) in zip(
                (2, 6, 11), (88, 116, 144), (12, 21, 37), printed, strict=True
            ):
                found = next(i for i in intakes_of(Person("female", age, cm, kg)) if i.key == key)
                self.assertEqual((found.amount, found.upper), (amount, upper), f"{key} at {age}")

    def test_edge_ages(self) -> None:
        self.assertEqual(
            [self.amount("iron_mg", age_years=a) for a in (18, 19, 50, 51)], [15, 18, 18, 8]
        )
        self.assertEqual(
            [self.amount("calcium_mg", age_years=a) for a in (18, 19, 50, 51, 70, 71)],
            [1300, 1000, 1000, 1200, 1200, 1200],
        )
        self.assertEqual(
            [self.amount("calcium_mg", age_years=a, sex="male") for a in (50, 51, 70, 71)],
            [1000, 1000, 1000, 1200],
        )
        self.assertEqual([self.amount("vitamin_d_ug", age_years=a) for a in (70, 71)], [15, 20])
        self.assertEqual([self.amount("magnesium_mg", age_years=a) for a in (30, 31)], [310, 320])

    def test_pregnancy_and_plants(self) -> None:
        self.assertEqual(self.amount("folate_ug", pregnant=True, age_years=31), 600)
        self.assertEqual(self.amount("iodine_ug", breastfeeding=True, age_years=31), 290)
        iron = next(i for i in intakes_of(Person("female", 31, 170, 68)) if i.key == "iron_mg")
        self.assertAlmostEqual(iron.low, 32.4)  # 18 × 1.8


class Schools(unittest.TestCase):
    """Rule sets in files."""

    def test_all_five_are_there_and_hold_together(self) -> None:
        self.assertEqual(
            set(schools()),
            {"starch-centred", "greens-and-beans", "balanced-bowl", "training", "kidney-aware"},
        )
        for school in schools().values():
            self.assertEqual(sum(meal.energy for meal in school.meals), 100, school.key)
            self.assertEqual(sum(meal.protein for meal in school.meals), 100, school.key)
            self.assertTrue(school.why and school.since and school.require)
        self.assertEqual(schools()[DEFAULT_SCHOOL].forbid, ())
        self.assertTrue(schools()["starch-centred"].starch_led)

    def test_schools_move_windows(self) -> None:
        starch, training = (
            Person("female", 34, 165, 70, school=s) for s in ("starch-centred", "training")
        )
        self.assertEqual(window(starch, "kcal_per_g"), (None, 1.3))
        self.assertGreater(window(training, "protein_g")[0], window(starch, "protein_g")[0])


class Refused(unittest.TestCase):
    """Nothing is computed from a contradiction."""

    def test_impossible_people(self) -> None:
        usual = {"sex": "female", "age_years": 34, "height_cm": 165, "weight_kg": 70}
        for changes in (
            {"height_cm": 17},
            {"weight_kg": 7000},
            {"age_years": -1},
            {"sex": "x"},
            {"activity": "often"},
            {"goal": "fly"},
            {"conditions": frozenset({"ckd-3", "ckd-5"})},
            {"conditions": frozenset({"flu"})},
            {"sex": "male", "pregnant": True},
            {"goal_weight_kg": 45},
            {"pace_kg_per_week": 9},
        ):
            with self.assertRaises(DieteticsError, msg=str(changes)):
                Person(**{**usual, **changes})

    def test_an_unknown_school(self) -> None:
        with self.assertRaises(DieteticsError):
            propose(Person("female", 34, 165, 70, school="moon"))

    def test_every_condition_can_be_planned_for(self) -> None:
        for condition in CONDITIONS:
            self.assertTrue(
                propose(Person("female", 34, 165, 70, conditions=frozenset({condition}))).targets
            )


class Measurements(unittest.TestCase):
    """Heights and weights as people say them (1 in = 2.54 cm, 1 lb = 0.45359237 kg, 1 st = 14
    lb).
    """

    def test_heights(self) -> None:
        for text, cm in (
            ("165", 165),
            ("165 cm", 165),
            ("1.65 m", 165),
            ("1,65 m", 165),
            ("5 ft 5", 165.1),
            ("5'5\"", 165.1),
            ("5 feet 5 inches", 165.1),
            ("65 in", 165.1),
            ("6'", 182.88),
        ):
            self.assertAlmostEqual(read_height_cm(text), cm, places=6, msg=text)

    def test_weights(self) -> None:
        for text, kg in (
            ("70", 70),
            ("70 kg", 70),
            ("70,5 kg", 70.5),
            ("154 lb", 154 * 0.45359237),
            ("11 st", 154 * 0.45359237),
            ("11 st 3", 157 * 0.45359237),
            ("154 lbs.", 154 * 0.45359237),
        ):
            self.assertAlmostEqual(read_weight_kg(text), kg, places=6, msg=text)

    def test_what_is_neither(self) -> None:
        for read in (read_height_cm, read_weight_kg):
            for text in ("", "tall", "-5", "5 apples", "ft 5", "1/2"):
                with self.assertRaises(DieteticsError, msg=text):
                    read(text)
