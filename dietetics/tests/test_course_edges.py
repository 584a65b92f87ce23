"""How a pace stands to what was agreed, at the edges of each course: a line is laid with the pace
and the doubt that are wanted, four weeks long.
"""

from __future__ import annotations

import unittest
from datetime import date, timedelta

from dietetics.follow.course import AgreedPace, Course, judge_course, overnight_words
from dietetics.follow.trajectory import SmoothedDay, Trajectory, WeighIn

START = date(2026, 9, 1)


def line(
    pace: float, half: float = 0.1, kg: float = 80.0, weigh_ins: int = 5, days: int = 28,
    far_out: int = 0,
) -> Trajectory:  # fmt: skip
    """A line of so many days that ends at `kg`, with a pace in kg a week known to ± `half`."""
    last = START + timedelta(days=days)
    # the doubts of two ends make the half interval: 1.96 √2 sd × 7 ÷ days
    sd = half * days / 7 / (1.96 * 2**0.5)
    ends = (
        SmoothedDay(START, kg - pace * days / 7, sd, pace, 0.1),
        SmoothedDay(last, kg, sd, pace, 0.1),
    )
    step = days / (weigh_ins - 1)
    weighed = tuple(WeighIn(START + timedelta(days=round(n * step)), kg) for n in range(weigh_ins))
    return Trajectory(ends, weighed, weighed[:far_out])


def agreed(pace: float, low: float | None = None, high: float | None = None) -> AgreedPace:
    """A pace that was agreed, kg a week."""
    return AgreedPace(
        pace, pace if low is None else low, pace if high is None else high, "as agreed"
    )


class Edges(unittest.TestCase):
    def course(self, found: Trajectory, wanted: AgreedPace) -> Course:
        """The course of a line."""
        return judge_course(found, wanted).course

    def test_the_pace_and_its_doubt_are_those_that_were_laid(self) -> None:
        found = line(-0.5, 0.1)
        self.assertAlmostEqual(found.pace, -0.5)
        low, high = found.pace_interval
        self.assertAlmostEqual(low, -0.6, places=3)
        self.assertAlmostEqual(high, -0.4, places=3)

    def test_losing_as_agreed_slower_faster_and_the_other_way(self) -> None:
        for pace, wanted in (
            (-0.5, Course.ON_COURSE), (-0.41, Course.ON_COURSE), (-0.59, Course.ON_COURSE),
            (-0.39, Course.SLOWER), (-0.11, Course.SLOWER), (-0.61, Course.FASTER),
            (-0.79, Course.FASTER), (-0.81, Course.TOO_FAST), (0.2, Course.WRONG_WAY),
            (0.05, Course.SLOWER),
        ):  # fmt: skip
            with self.subTest(pace):
                self.assertIs(self.course(line(pace, 0.1), agreed(-0.5)), wanted)

    def test_gaining(self) -> None:
        for pace, wanted in (
            (0.3, Course.ON_COURSE), (0.15, Course.SLOWER), (0.45, Course.FASTER),
            (-0.3, Course.WRONG_WAY),
        ):  # fmt: skip
            self.assertIs(self.course(line(pace, 0.1), agreed(0.3)), wanted, pace)

    def test_what_should_stay(self) -> None:
        for pace, wanted in (
            (0.0, Course.ON_COURSE), (0.14, Course.ON_COURSE), (-0.14, Course.ON_COURSE),
            (0.16, Course.WRONG_WAY), (-0.3, Course.WRONG_WAY),
        ):  # fmt: skip
            self.assertIs(self.course(line(pace, 0.01), agreed(0.0)), wanted, pace)

    def test_a_range_is_kept_from_end_to_end(self) -> None:
        wanted = agreed(0.42, 0.35, 0.5)
        for pace, course in (
            (0.34, Course.SLOWER), (0.36, Course.ON_COURSE), (0.49, Course.ON_COURSE),
            (0.51, Course.FASTER),
        ):  # fmt: skip
            self.assertIs(self.course(line(pace, 0.005), wanted), course, pace)

    def test_more_than_a_hundredth_of_the_weight_a_week_is_too_fast_whatever_was_agreed(
        self,
    ) -> None:
        self.assertIs(self.course(line(-1.01, 0.1, kg=100), agreed(-1.0)), Course.TOO_FAST)
        self.assertIs(self.course(line(-0.99, 0.1, kg=100), agreed(-1.0)), Course.ON_COURSE)

    def test_when_it_cannot_be_told(self) -> None:
        for found, told in (
            (line(-0.5, days=14, weigh_ins=3), True), (line(-0.5, days=13, weigh_ins=3), False),
            (line(-0.5, weigh_ins=2), False), (line(-0.5, weigh_ins=4, far_out=2), False),
            (line(-0.5, weigh_ins=4, far_out=1), True), (line(-0.5, 0.39), True),
            (line(-0.5, 0.41), False),
            # both what was agreed and nothing at all lie in the interval
            (line(-0.2, 0.35), False),
        ):  # fmt: skip
            with self.subTest(found=found.weigh_ins, pace=found.pace_interval):
                course = self.course(found, agreed(-0.5))
                self.assertEqual(course is not Course.UNKNOWN, told)
        self.assertIn(
            "2 weigh-ins in 29 days", judge_course(line(-0.5, weigh_ins=2), agreed(-0.5)).words
        )

    def test_the_sentence(self) -> None:
        self.assertEqual(
            judge_course(line(-0.5, 0.1), agreed(-0.5)).words,
            "0.5 kg a week lost, between 0.4 and 0.6; as agreed: on course.",
        )
        self.assertEqual(
            judge_course(line(0.08, 0.2), agreed(0.0)).words,
            "0.1 kg a week gained, between −0.1 and 0.3; as agreed: on course.",
        )


class Overnight(unittest.TestCase):
    def test_eight_thousandths_from_one_day_to_the_next(self) -> None:
        for change, days, words in (
            (0.81, 1, "0.8 kg more than the day before is water"),
            (-0.81, 1, "0.8 kg less than the day before is water"),
            (0.79, 1, ""), (0.81, 2, ""), (-0.5, 1, ""),
        ):  # fmt: skip
            pair = [WeighIn(START, 100.0), WeighIn(START + timedelta(days=days), 100.0 + change)]
            found = overnight_words(pair)
            self.assertEqual(found[: len(words)], words)
            self.assertEqual(bool(found), bool(words), (change, days))

    def test_only_the_last_two_changes_count(self) -> None:
        day = [START + timedelta(days=n) for n in range(5)]
        jump = [WeighIn(day[0], 100.0), WeighIn(day[1], 101.0)]
        self.assertTrue(overnight_words([*jump, WeighIn(day[2], 101.0)]))
        self.assertFalse(overnight_words([*jump, *(WeighIn(d, 101.0) for d in day[2:4])]))
