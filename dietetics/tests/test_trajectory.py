"""The smoothed weight against another implementation of the same filter, and against made-up
clients whose true weight and pace are known.
"""

from __future__ import annotations

import math
import random
import unittest
from collections.abc import Callable
from dataclasses import replace
from datetime import date, timedelta

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from dietetics.errors import DieteticsError
from dietetics.follow.course import AgreedPace, Course, agreed_pace, judge_course, overnight_words
from dietetics.follow.trajectory import WeighIn, trajectory
from dietetics.targets.person import Person

START = date(2026, 9, 1)
CLIENTS = 200
WATER_SD = 0.006  # of the weight, as simulated: less than the filter assumes by a seventh


def series(days: dict[int, float]) -> list[WeighIn]:
    """Weigh-ins by the day after the start."""
    return [WeighIn(START + timedelta(days=n), kg) for n, kg in days.items()]


def by_one_large_system(days: dict[int, float]) -> tuple[np.ndarray, np.ndarray]:
    """Level and slope of every day, and their covariances, without any filter: all days at once, as
    the mean of the normal distribution that first weight, drift and weigh-ins make together. The
    smoother that goes from day to day has to find the same (Rauch, Tung & Striebel, AIAA J
    1965;3:1445). A Kalman smoother of the library statsmodels 0.15 gave the same to six places.

    The noise is written out again here from what the module says of itself: 0.7 % of the weight,
    0.04 kg a day, a pace that drifts by 0.2 kg a week in four weeks, and at first 1 kg a week.
    """
    count = max(days) + 1
    drift = (0.2 / 7) ** 2 / 28
    step = np.array([[1.0, 1.0], [0.0, 1.0]])
    certainty = np.linalg.inv([[0.04**2 + drift / 3, drift / 2], [drift / 2, drift]])
    precision, pull = np.zeros((2 * count, 2 * count)), np.zeros(2 * count)
    at_first = np.diag([(0.007 * days[0]) ** -2, (1.0 / 7) ** -2])
    precision[:2, :2] += at_first
    pull[:2] += at_first @ [days[0], 0.0]
    for n in range(count - 1):  # the next day is this one, a pace further, give or take
        both = np.hstack([-step, np.eye(2)])
        precision[2 * n : 2 * n + 4, 2 * n : 2 * n + 4] += both.T @ certainty @ both
    for n, kg in days.items():
        if n:  # the first weigh-in is where it begins
            precision[2 * n, 2 * n] += (0.007 * kg) ** -2
            pull[2 * n] += kg * (0.007 * kg) ** -2
    spread = np.linalg.inv(precision)
    return (spread @ pull).reshape(count, 2), spread.diagonal().reshape(count, 2)


class AgainstAnotherImplementation(unittest.TestCase):
    def compare(self, days: dict[int, float]) -> None:
        state, spread = by_one_large_system(days)
        line = trajectory(series(days))
        self.assertEqual(line.far_out, ())
        for n, one in enumerate(line.days):
            self.assertAlmostEqual(one.kg, state[n, 0], places=6)
            self.assertAlmostEqual(one.pace, 7 * state[n, 1], places=6)
            self.assertAlmostEqual(one.sd, math.sqrt(spread[n, 0]), places=6)
            self.assertAlmostEqual(one.pace_sd, 7 * math.sqrt(spread[n, 1]), places=6)

    def test_weekly_and_level(self) -> None:
        self.compare({0: 72.0, 7: 72.4, 14: 71.8, 21: 72.1, 28: 71.9})

    def test_daily_and_falling(self) -> None:
        draw = random.Random(20)
        self.compare({n: 80 - 0.07 * n + draw.gauss(0, 0.4) for n in range(60)})

    def test_irregular_with_a_long_gap(self) -> None:
        self.compare({0: 65.0, 1: 65.3, 9: 64.8, 120: 63.1, 127: 63.4, 300: 62.0})


class AgainstKnownClients(unittest.TestCase):
    """95 % of the true values lie inside the 95 % interval, for three kinds of truth."""

    def share_inside(self, truth: Callable[[int], float], pace: float | None, seed: int) -> float:
        draw = random.Random(seed)
        inside = 0
        for _ in range(CLIENTS):
            days = sorted({0, 83, *(n for n in range(84) if draw.random() < 0.4)})
            weights = {n: truth(n) * (1 + draw.gauss(0, WATER_SD)) for n in days}
            line = trajectory(series(weights))
            ends = line.now.low <= truth(83) <= line.now.high
            low, high = line.pace_interval
            inside += ends and (pace is None or low <= pace <= high)
        return inside / CLIENTS

    def test_a_constant_weight(self) -> None:
        self.assertGreaterEqual(self.share_inside(lambda n: 72.0, 0.0, 1), 0.95)

    def test_half_a_kilogram_less_a_week(self) -> None:
        self.assertGreaterEqual(self.share_inside(lambda n: 85 - 0.5 * n / 7, -0.5, 2), 0.95)

    def test_the_interval_of_the_pace_is_not_so_wide_that_it_says_nothing(self) -> None:
        draw = random.Random(7)
        line = trajectory(
            series({3 * n: (85 - 1.5 * n / 7) * (1 + draw.gauss(0, WATER_SD)) for n in range(28)})
        )
        low, high = line.pace_interval
        self.assertLess(high - low, 0.6)

    def test_a_step_of_two_kilograms(self) -> None:
        share = self.share_inside(lambda n: 80.0 if n < 30 else 78.0, None, 3)
        self.assertGreaterEqual(share, 0.95)

    def test_a_gap_widens_the_band(self) -> None:
        line = trajectory(series({0: 72.0, 7: 72.1, 14: 72.0, 90: 71.5, 97: 71.6}))
        middle = line.on(START + timedelta(days=50))
        beside = line.on(START + timedelta(days=10))
        assert middle is not None and beside is not None
        self.assertGreater(middle.sd, 2 * beside.sd)


class WhatIsNotBelieved(unittest.TestCase):
    WEEKS = {7 * n: 72.0 + 0.1 * (-1) ** n for n in range(8)}

    def test_one_weigh_in_far_out_is_shown_and_not_believed(self) -> None:
        line = trajectory(series(self.WEEKS | {30: 62.0}))
        self.assertEqual([one.kg for one in line.far_out], [62.0])
        self.assertAlmostEqual(line.now.kg, 72.0, delta=0.3)

    def test_two_that_agree_are_a_change(self) -> None:
        line = trajectory(series(self.WEEKS | {56: 67.0, 60: 66.9}))
        self.assertEqual(line.far_out, ())
        self.assertAlmostEqual(line.now.kg, 67.0, delta=0.4)

    def test_two_that_do_not_agree_are_not(self) -> None:
        line = trajectory(series(self.WEEKS | {56: 62.0, 60: 82.0}))
        self.assertEqual(len(line.far_out), 2)

    def test_none_one_and_all_equal(self) -> None:
        with self.assertRaises(DieteticsError):
            trajectory([])
        one = trajectory(series({0: 72.0}))
        self.assertEqual((len(one.days), one.now.kg, one.now.pace), (1, 72.0, 0.0))
        same = trajectory(series(dict.fromkeys(range(0, 70, 7), 72.0)))
        self.assertAlmostEqual(same.now.pace, 0.0, places=9)

    def test_two_values_on_one_day_are_two_observations(self) -> None:
        day = [WeighIn(START, 72.0), WeighIn(START, 72.6)]
        line = trajectory([*day, WeighIn(START + timedelta(days=7), 72.3)])
        self.assertEqual(len(line.weigh_ins), 3)
        self.assertLess(line.days[0].sd, 0.007 * 72)

    @given(st.lists(st.tuples(st.integers(0, 400), st.floats(40, 160)), min_size=1, max_size=30))
    def test_any_weigh_ins_give_a_line_with_a_doubt(self, rows: list[tuple[int, float]]) -> None:
        given_ones = [WeighIn(START + timedelta(days=n), kg) for n, kg in rows]
        line = trajectory(given_ones)
        for one in line.days:
            self.assertTrue(math.isfinite(one.kg) and one.sd >= 0 and one.pace_sd >= 0)
        self.assertEqual(len(line.weigh_ins), len(rows))


LOSING = Person("female", 45, 168, 80, goal="lose", pace_kg_per_week=0.5)


class WhatWasAgreed(unittest.TestCase):
    def test_by_the_goal_of_the_record(self) -> None:
        self.assertEqual(agreed_pace(LOSING).kg_a_week, -0.5)
        self.assertEqual(agreed_pace(replace(LOSING, goal="gain")).kg_a_week, 0.5)
        self.assertEqual(agreed_pace(replace(LOSING, goal="hold")).kg_a_week, 0.0)
        # a surplus of 250 kcal a day to build muscle, at 7,700 kcal a kilogram
        build = agreed_pace(replace(LOSING, goal="build")).kg_a_week
        self.assertAlmostEqual(build, 0.227, places=3)

    def test_in_pregnancy_by_the_weight_before_it(self) -> None:
        # IOM 2009, second and third trimester: usual weight 0.35-0.50, obesity 0.17-0.27 kg a week
        usual = replace(LOSING, pregnant=True, pregnancy_week=22, weight_before_kg=62)
        self.assertEqual((agreed_pace(usual).low, agreed_pace(usual).high), (0.35, 0.50))
        heavy = replace(usual, weight_kg=95, weight_before_kg=90)
        self.assertEqual((agreed_pace(heavy).low, agreed_pace(heavy).high), (0.17, 0.27))
        early = agreed_pace(replace(usual, pregnancy_week=9))
        self.assertEqual((early.low, early.kg_a_week, early.high), (-0.2, 0.0, 0.2))


LOSS = AgreedPace(-2.0, -2.0, -2.0, "agreed 2 less")


class OnCourse(unittest.TestCase):
    def judged(self, pace: float, agreed: float, weeks: int = 8) -> tuple[Course, str]:
        line = trajectory(series({3 * n: 80 + pace * 3 * n / 7 for n in range(weeks * 7 // 3)}))
        found = judge_course(line, AgreedPace(agreed, agreed, agreed, f"agreed {agreed:g}"))
        return found.course, found.words

    def test_courses(self) -> None:
        cases = (
            (-0.5, -0.5, Course.ON_COURSE), (-0.05, -0.5, Course.SLOWER),
            (0.0, 0.0, Course.ON_COURSE), (-1.2, -0.5, Course.TOO_FAST),
            (0.5, -0.5, Course.WRONG_WAY), (-0.5, 0.0, Course.WRONG_WAY),
            (0.75, 0.25, Course.FASTER), (0.4, 0.4, Course.ON_COURSE),
        )  # fmt: skip
        for pace, agreed, want in cases:
            with self.subTest(pace=pace, agreed=agreed):
                self.assertEqual(self.judged(pace, agreed)[0], want)

    def test_the_sentence_holds_the_pace_its_interval_and_what_was_agreed(self) -> None:
        words = self.judged(-0.5, -0.5)[1]
        self.assertRegex(words, r"^0\.5 kg a week lost, between 0\.\d and 0\.\d; agreed -0\.5: ")

    def test_neither_stalled_nor_on_course_is_claimed_while_both_are_possible(self) -> None:
        draw = random.Random(4)
        days = {5 * n: 90 - 0.25 * 5 * n / 7 + draw.gauss(0, 0.1) for n in range(6)}
        found = judge_course(trajectory(series(days)), agreed_pace(LOSING))
        self.assertEqual(found.course, Course.UNKNOWN)
        self.assertIn("anywhere between", found.words)

    def test_a_wide_interval_says_nothing(self) -> None:
        found = judge_course(trajectory(series({0: 140.0, 7: 138.5, 14: 139.5})), LOSS)
        self.assertEqual(found.course, Course.UNKNOWN)
        self.assertIn("anywhere between", found.words)

    def test_what_should_stay_is_said_so(self) -> None:
        line = trajectory(series(dict.fromkeys(range(0, 56, 4), 70.0)))
        words = judge_course(line, agreed_pace(replace(LOSING, goal="hold"))).words
        self.assertTrue(words.endswith("agreed to stay: on course."), words)

    def test_too_early_is_said_with_what_there_is(self) -> None:
        days = {0: 80.0, 2: 79.0, 4: 79.5, 6: 79.0, 8: 78.5}
        found = judge_course(trajectory(series(days)), agreed_pace(LOSING))
        self.assertEqual(found.words, "Cannot be told yet: 5 weigh-ins in 9 days.")

    def test_a_pound_overnight_is_water(self) -> None:
        days = series({0: 72.0, 7: 72.0, 8: 73.0})
        self.assertIn("1.0 kg more than the day before is water", overnight_words(days))
        self.assertEqual(overnight_words(series({0: 72.0, 7: 72.0, 14: 73.0})), "")


if __name__ == "__main__":
    unittest.main()
