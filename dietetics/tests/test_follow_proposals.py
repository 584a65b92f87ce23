"""What is proposed, and what is withheld: the order of practice, the limits of size, and the people
whose energy is never lowered.
"""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import date

from hypothesis import given
from hypothesis import strategies as st

from dietetics.follow.course import Course, Judgement
from dietetics.follow.eaten import PARTLY, PLANNED, SKIPPED, adherence_of
from dietetics.follow.observed_energy import ObservedEnergy
from dietetics.follow.proposals import BloodFlag, FollowFacts, Proposal, proposals, withheld
from dietetics.targets.person import Person

WOMAN = Person("female", 45, 168, 89, goal="lose", pace_kg_per_week=0.5, goal_weight_kg=77)
KEPT = adherence_of([[PLANNED] * 3] * 7)
SLOW = FollowFacts(
    WOMAN, -0.5, Judgement(Course.SLOWER, "0.1 kg a week lost."), -0.1, 89, energy=(1800, 2000),
    equation_kcal=2400, adherence=KEPT,
)  # fmt: skip


def codes(facts: FollowFacts) -> list[str]:
    return [one.code for one in proposals(facts)]


def energy(facts: FollowFacts) -> Proposal:
    return next(one for one in proposals(facts) if one.code == "energy")


class Sizes(unittest.TestCase):
    def test_less_energy_where_less_is_lost_than_agreed(self) -> None:
        one = energy(SLOW)
        # 0.4 kg a week more are 440 kcal a day at 7,700 kcal/kg; a tenth of 1,900 is the most
        self.assertEqual(one.energy, (1610, 1810))
        self.assertIn("a tenth", one.effect)

    def test_the_whole_gap_where_it_is_small(self) -> None:
        self.assertEqual(energy(replace(SLOW, pace=-0.4)).energy, (1690, 1890))  # 110 kcal

    def test_more_energy_where_too_much_is_lost(self) -> None:
        fast = replace(SLOW, judgement=Judgement(Course.TOO_FAST, "1.2 kg."), pace=-1.2)
        self.assertEqual(energy(fast).energy, (1990, 2190))
        self.assertEqual([one.code for one in withheld(fast)], ["pace"])

    def test_never_under_the_minimum(self) -> None:
        low = replace(SLOW, energy=(1250, 1350))
        self.assertEqual(energy(low).energy, (1200, 1300))
        self.assertNotIn("energy", codes(replace(SLOW, energy=(1210, 1300))))

    def test_on_course_or_unknown_nothing_changes(self) -> None:
        for course in (Course.ON_COURSE, Course.UNKNOWN):
            self.assertEqual(codes(replace(SLOW, judgement=Judgement(course, "x"))), [])

    def test_near_the_goal_the_pace_halves_and_at_it_weight_is_held(self) -> None:
        calm = replace(SLOW, judgement=Judgement(Course.ON_COURSE, "x"), pace=-0.5)
        near = proposals(replace(calm, weight_kg=80.0))
        self.assertEqual([(one.code, one.pace) for one in near], [("near-goal", 0.25)])
        self.assertIn("0.25 kg a week", near[0].title)
        there = proposals(replace(calm, weight_kg=76.9))
        self.assertEqual([(one.code, one.pace) for one in there], [("goal-reached", 0.0)])
        self.assertEqual(codes(replace(calm, weight_kg=84.0)), [])

    def test_the_observed_expenditure_is_offered_where_it_differs(self) -> None:
        seen = ObservedEnergy(2150, 200, 42, 40, -1.0, 1950)
        calm = replace(SLOW, judgement=Judgement(Course.ON_COURSE, "x"), observed=seen)
        one = next(p for p in proposals(calm) if p.code == "observed")
        self.assertIn("Observed 2,150 ± 200 kcal over 42 days; equation 2,400", one.why)
        assert one.energy is not None
        # 2,150 - 550 kcal would be 1,600; at most a tenth of 1,900 is changed at once
        self.assertAlmostEqual(sum(one.energy) / 2, 1710, delta=10)
        near = replace(calm, observed=ObservedEnergy(2600, 100, 42, 40, -1.0, 1950))
        raised = next(p for p in proposals(near) if p.code == "observed")
        assert raised.energy is not None
        self.assertAlmostEqual(sum(raised.energy) / 2, 2600 - 550, delta=10)
        self.assertEqual(codes(replace(calm, equation_kcal=2250)), [])


class Order(unittest.TestCase):
    def test_first_what_was_really_eaten(self) -> None:
        off = adherence_of([[PLANNED, SKIPPED, PARTLY]] * 7)
        self.assertEqual(codes(replace(SLOW, adherence=off)), ["diary"])
        self.assertEqual(codes(replace(SLOW, adherence=None))[0], "diary")

    def test_nobody_spends_a_third_less_than_the_equation(self) -> None:
        seen = ObservedEnergy(1650, 160, 41, 39, -0.5, 1560)
        found = proposals(replace(SLOW, observed=seen, equation_kcal=2530))
        self.assertEqual([one.code for one in found], ["written-little"])
        self.assertIn("35 % less", found[0].why)

    def test_blood_values_stand_first_and_change_nothing_by_themselves(self) -> None:
        flag = BloodFlag(
            "potassium", "Potassium", "5.6 mmol/L", date(2026, 11, 20), True, "3.5–5.1"
        )
        found = proposals(replace(SLOW, blood=[flag]))
        self.assertEqual(found[0].code, "blood-potassium")
        self.assertFalse(found[0].can_be_taken)
        self.assertIn("today", found[0].title)
        low = proposals(replace(SLOW, blood=[replace(flag, is_high=False)]))[0]
        self.assertNotIn("today", low.title)
        self.assertIn("below", low.why)
        self.assertIn("5.6 mmol/L on 20 Nov 2026 is above", found[0].why)

    def test_hunger_and_protein_that_is_missed(self) -> None:
        calm = replace(SLOW, judgement=Judgement(Course.ON_COURSE, "x"))
        self.assertEqual(codes(replace(calm, hunger=4.0)), ["hunger"])
        named = proposals(replace(calm, hunger=4.0, densest=("Walnut bake", 2.31)))
        self.assertIn("Swap Walnut bake (2.31 kcal/g", named[0].title)
        self.assertEqual(codes(replace(calm, missed={"protein_g": 0.7})), ["protein"])
        self.assertEqual(codes(replace(calm, missed={"protein_g": 0.3}, hunger=2.0)), [])


class Withholding(unittest.TestCase):
    def test_whose_energy_is_never_lowered(self) -> None:
        for person in (
            replace(WOMAN, pregnant=True, pregnancy_week=22), replace(WOMAN, breastfeeding=True),
            Person("female", 16, 168, 75),
            replace(WOMAN, conditions=frozenset({"eating-disorder"})),
            Person("female", 45, 168, 51), replace(WOMAN, conditions=frozenset({"dialysis"})),
            Person("male", 74, 178, 68),
        ):  # fmt: skip
            facts = replace(SLOW, person=person)
            self.assertTrue(withheld(facts), person)
            for one in proposals(facts):
                self.assertFalse(one.energy and one.energy[0] < 1800, person)

    def test_no_number_is_proposed_in_an_eating_disorder(self) -> None:
        person = replace(WOMAN, conditions=frozenset({"eating-disorder"}))
        fast = Judgement(Course.TOO_FAST, "1.2 kg.")
        self.assertEqual(codes(replace(SLOW, person=person, judgement=fast, pace=-1.2)), [])

    def test_loss_that_nobody_wanted_comes_first(self) -> None:
        old = Person("male", 74, 175, 80)
        found = withheld(replace(SLOW, person=old, agreed=0.0, lost_share=0.06))
        self.assertEqual([one.code for one in found], ["unintended-loss"])
        self.assertEqual(withheld(replace(SLOW, lost_share=0.06)), ())  # wanted

    def test_what_a_clinician_set_is_never_touched(self) -> None:
        theirs = replace(
            SLOW, clinicians=frozenset({"energy_kcal", "protein_g"}), missed={"protein_g": 1.0}
        )
        self.assertEqual([one for one in proposals(theirs) if one.can_be_taken], [])

    @given(
        st.floats(-2, 2), st.floats(-1, 1), st.floats(1250, 4000), st.sampled_from(list(Course)),
        st.floats(45, 150),
    )  # fmt: skip
    def test_no_window_lies_under_the_minimum_or_jumps(
        self, pace: float, agreed: float, middle: float, course: Course, weight: float
    ) -> None:
        facts = replace(
            SLOW, pace=pace, agreed=agreed, energy=(middle - 50, middle + 50), weight_kg=weight,
            judgement=Judgement(course, "x"),
        )  # fmt: skip
        for one in proposals(facts):
            if one.energy is not None:
                self.assertGreaterEqual(one.energy[0], min(1200, middle - 50) - 5)
                self.assertLessEqual(abs(sum(one.energy) / 2 - middle), 0.1 * middle + 5)


if __name__ == "__main__":
    unittest.main()
