"""Signs that somebody else must look at: each at its edge, and none where all is well.

The lines are common practice, IOM 2009 (loss in pregnancy) and ESPEN 2021 (wasting), from memory.
"""

from __future__ import annotations

import unittest

from dietetics.follow.proposals import Basis, FollowFacts, proposals, withheld
from dietetics.follow.red_flags import Scales, red_flags, rows
from dietetics.targets.conditions import CONDITIONS
from dietetics.targets.needs_table import MARKS
from dietetics.targets.person import Person
from dietetics.tests.test_follow_proposals import SLOW


def person(*having: str, **more: object) -> Person:
    """A woman of 30 with these."""
    facts = {"sex": "female", "age_years": 30, "height_cm": 165, "weight_kg": 70, **more}
    return Person(**facts, conditions=frozenset(having))  # type: ignore[arg-type]


PREGNANT = {"pregnant": True, "pregnancy_week": 30}


class Flags(unittest.TestCase):
    def keys(
        self, who: Person, pace: float | None = 0.0, lost: float = 0.0, kg: float = 70
    ) -> list:
        """The signs that are there."""
        return [flag.key for flag in red_flags(who, Scales(pace, kg, lost))]

    def test_each_at_its_edge(self) -> None:
        for who, shown, not_shown, key in (
            (person(**PREGNANT), {"pace": 1.4}, {"pace": 0.9}, "pregnancy-gain"),
            (person(**PREGNANT), {"pace": -0.1}, {"pace": -0.05}, "pregnancy-loss"),
            (person("eating-disorder"), {"lost": 0.05}, {"lost": 0.049}, "eating-disorder-loss"),
            (person("eating-disorder"), {"kg": 50.3}, {"kg": 50.4}, "eating-disorder-thin"),
            (person("heart-failure"), {"pace": 2.0}, {"pace": 1.9}, "heart-failure-gain"),
            (person("cancer"), {"lost": 0.02}, {"lost": 0.019}, "wasting"),
            (person("dialysis"), {"lost": 0.03}, {"lost": 0.0}, "wasting"),
            (person(age_years=12, weight_kg=40), {"pace": -0.1}, {"pace": 0.1}, "child-losing"),
            (person("glp-1", goal="lose"), {"pace": -0.7}, {"pace": -0.69}, "glp-1-fast"),
        ):
            with self.subTest(key):
                self.assertEqual(self.keys(who, **shown), [key])
                self.assertEqual(self.keys(who, **not_shown), [])

    def test_measured_values_at_their_edge(self) -> None:
        """Pressure: NICE NG133 and NG136; potassium: UK Kidney Association 2023; glucose: ADA 2024;
        the rest common practice. All from memory.
        """
        for who, kind, shown, not_shown, key in (
            (person(**PREGNANT), "systolic", 140, 139, "pregnancy-systolic"),
            (person(**PREGNANT), "diastolic", 90, 89, "pregnancy-diastolic"),
            (person(), "systolic", 180, 179, "very-high-systolic"),
            (person(), "diastolic", 120, 119, "very-high-diastolic"),
            (person(), "potassium", 6.0, 5.9, "potassium-very-high"),
            (person("ckd-4"), "potassium", 5.5, 5.4, "potassium-high"),
            (person(), "potassium", 3.0, 3.1, "potassium-low"),
            (person(), "phosphate", 0.6, 0.61, "phosphate-low"),
            (person(), "sodium", 129, 130, "sodium-low"),
            (person("insulin"), "glucose", 3.9, 4.0, "glucose-low"),
            (person(), "glucose", 15.0, 14.9, "glucose-very-high"),
        ):
            with self.subTest(key):
                for value, expected in ((shown, [key]), (not_shown, [])):
                    found = red_flags(who, Scales(0.0, 70, 0.0, {kind: value}))
                    self.assertEqual([flag.key for flag in found], expected)
        self.assertEqual(red_flags(person(), Scales(0.0, 70, 0.0, {"glucose": 3.9})), ())

    def test_both_numbers_of_one_pressure_are_one_flag_with_its_figure(self) -> None:
        scales = Scales(0.0, 70, 0.0, {"systolic": 148.0, "diastolic": 96.0})
        found = red_flags(person(**PREGNANT), scales)
        self.assertEqual(
            [one.text for one in found], ["Pregnant and a blood pressure of 148 mmHg."]
        )
        self.assertEqual(found[0].soon, "today")

    def test_early_in_pregnancy_a_little_less_is_no_flag(self) -> None:
        early = person(pregnant=True, pregnancy_week=9)
        self.assertEqual(self.keys(early, pace=-0.3), [])

    def test_the_midwife_is_named_with_pressure_and_swelling(self) -> None:
        flag = red_flags(person(**PREGNANT), Scales(1.4, 74))[0]
        self.assertEqual(flag.soon, "today")
        for words in ("Midwife", "blood pressure", "swelling"):
            self.assertIn(words, flag.action)
        self.assertIn("1.4 kg a week", flag.text)

    def test_nobody_else_is_flagged(self) -> None:
        for goal in ("lose", "hold", "gain"):
            self.assertEqual(self.keys(person(goal=goal), pace=-0.5, lost=0.08), [])
        self.assertEqual(self.keys(person("cancer"), pace=None), [])

    def test_every_row_says_on_whose_word(self) -> None:
        for row in rows().values():
            self.assertTrue(row.source and row.whom and row.action)
            self.assertIn(row.mark, MARKS)
            self.assertEqual(row.when.conditions - set(CONDITIONS), set())


class BeforeAnythingIsChanged(unittest.TestCase):
    """A flag comes first, and a change of energy rests on enough."""

    def codes(self, **changes: object) -> list[str]:
        """What is proposed to the woman who loses more slowly than agreed."""
        facts = {**vars(SLOW), **changes}
        return [one.code for one in proposals(FollowFacts(**facts))]

    def test_four_weigh_ins_over_a_fortnight_and_half_a_diary(self) -> None:
        self.assertIn("energy", self.codes())
        for basis in (Basis(3, 14, 0.5), Basis(4, 13, 0.5), Basis(4, 14, 0.49)):
            found = self.codes(basis=basis)
            self.assertNotIn("energy", found)
            self.assertIn("weigh-first", found)
        self.assertIn("energy", self.codes(basis=Basis(4, 14, 0.5)))

    def test_the_words_say_what_there_is(self) -> None:
        self.assertIn("1 weigh-in over 0 days", Basis(1, 0, 0.25).words())
        self.assertIn("25%", Basis(1, 0, 0.25).words())

    def test_a_flag_withholds_every_change_of_energy(self) -> None:
        thin = person("eating-disorder", goal="lose")
        facts = FollowFacts(**{**vars(SLOW), "person": thin, "lost_share": 0.09})
        self.assertEqual(withheld(facts)[0].code, "eating-disorder-loss")
        self.assertNotIn("energy", [one.code for one in proposals(facts)])
