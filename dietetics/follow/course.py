"""On course or not: the pace with its interval beside what was agreed, in words.

A plan is looked at over two to four weeks (common practice): before that, and while the interval
is wide, nothing is said but that it cannot be told yet. One big change overnight is water.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from enum import Enum
from itertools import pairwise

from dietetics.follow.trajectory import DAYS_A_WEEK, Trajectory, WeighIn
from dietetics.targets.energy import KCAL_PER_KG, SURPLUS_KCAL, gain_before
from dietetics.targets.person import FIRST_TRIMESTER_WEEKS, Person

LEAST_DAYS, LEAST_WEIGH_INS = 14, 3  # common practice: two to four weeks
WIDEST_KG_A_WEEK = 0.4  # half the interval of the pace: with more nothing is told (our judgement)
STEADY_KG_A_WEEK = 0.15  # a pace smaller than this is steady (our judgement)
FAST_SHARE = 0.01  # of the weight a week, as in the cautions
OVERNIGHT_SHARE, OVERNIGHT_DAYS = 0.008, 1  # of the weight, from one day to the next
SETTLED_AFTER_WEIGH_INS = 2


class Course(Enum):
    """How the pace stands to what was agreed."""

    UNKNOWN = "cannot be told yet"
    ON_COURSE = "on course"
    SLOWER = "slower than agreed"
    FASTER = "faster than agreed"
    WRONG_WAY = "the other way"
    TOO_FAST = "too fast"


@dataclass(frozen=True)
class Judgement:
    """The course with the sentence that says it."""

    course: Course
    words: str
    overnight: str = ""


@dataclass(frozen=True)
class AgreedPace:
    """What was agreed, kg a week: negative where weight should be lost, 0 where it should stay. In
    pregnancy any pace from `low` to `high` is as advised.
    """

    kg_a_week: float
    low: float
    high: float
    words: str


# kg a week in the second and third trimester, by BMI before pregnancy (IOM 2009, from memory)
PREGNANCY_PACE = {
    "underweight": (0.44, 0.58),
    "usual weight": (0.35, 0.50),
    "overweight": (0.23, 0.33),
    "obesity": (0.17, 0.27),
}


def agreed_pace(person: Person) -> AgreedPace:
    """The pace a client's record agrees on."""
    if person.pregnant:
        if person.pregnancy_week is not None and person.pregnancy_week <= FIRST_TRIMESTER_WEEKS:
            return AgreedPace(0.0, -0.2, 0.2, "about steady in the first three months")
        low, high = PREGNANCY_PACE[gain_before(person)[0]]
        words = f"advised {low:g} to {high:g} more in pregnancy"
        return AgreedPace((low + high) / 2, low, high, words)
    if person.goal == "lose":
        pace = -person.pace_kg_per_week
    elif person.goal == "gain":
        pace = person.pace_kg_per_week
    else:
        pace = SURPLUS_KCAL.get(person.goal, 0.0) * DAYS_A_WEEK / KCAL_PER_KG
    return AgreedPace(pace, pace, pace, _agreed_words(pace))


def judge_course(line: Trajectory, agreed: AgreedPace) -> Judgement:
    """The course of a trajectory."""
    overnight = overnight_words(line.weigh_ins)
    why = _why_unknown(line, agreed)
    if why:
        return Judgement(Course.UNKNOWN, f"Cannot be told yet: {why}.", overnight)
    course = _course(line, agreed)
    low, high = line.pace_interval
    verb = "lost" if line.pace < 0 else "gained"
    ends = sorted((_toward(low, line.pace), _toward(high, line.pace)))
    pace = f"{abs(line.pace):.1f} kg a week {verb}, between {_end(ends[0])} and {_end(ends[1])}"
    return Judgement(course, f"{pace}; {agreed.words}: {course.value}.", overnight)


def _toward(value: float, pace: float) -> float:
    """A pace counted in the direction of the one told."""
    return -value if pace < 0 else value


def _end(value: float) -> str:
    text = f"{abs(value):.1f}"
    return f"−{text}" if value < 0 and float(text) else text


def _agreed_words(agreed: float) -> str:
    if not agreed:
        return "agreed to stay"
    return f"agreed {round(abs(agreed), 2):g} {'less' if agreed < 0 else 'more'}"


def _why_unknown(line: Trajectory, wanted: AgreedPace) -> str:
    believed = len(line.weigh_ins) - len(line.far_out)
    span = (line.weigh_ins[-1].day - line.weigh_ins[0].day).days
    low, high = line.pace_interval
    either = wanted.kg_a_week and low <= 0 <= high and low <= wanted.kg_a_week <= high
    if span < LEAST_DAYS or believed < LEAST_WEIGH_INS:
        return f"{_plural(believed, 'weigh-in')} in {_plural(span + 1, 'day')}"
    if (high - low) / 2 > WIDEST_KG_A_WEEK or either:
        span_words = f"{_signed(low)} and {_signed(high)} kg a week"
        return f"the pace lies anywhere between {span_words}, {wanted.words}"
    return ""


def _signed(value: float) -> str:
    """A pace with its sign, the minus as it is printed."""
    return f"{value:+.1f}".replace("-", "−")


def _plural(count: int, word: str) -> str:
    return f"{count} {word}{'' if count == 1 else 's'}"


def _course(line: Trajectory, wanted: AgreedPace) -> Course:
    low, high = line.pace_interval
    pace = line.pace
    if pace < -FAST_SHARE * line.now.kg:
        return Course.TOO_FAST
    agreed = wanted.kg_a_week
    if low <= wanted.high and wanted.low <= high:
        return Course.ON_COURSE
    if not agreed:
        steady = abs(pace) <= STEADY_KG_A_WEEK
        return Course.ON_COURSE if steady else Course.WRONG_WAY
    if agreed * pace < 0 and not low <= 0 <= high:
        return Course.WRONG_WAY
    return Course.SLOWER if abs(pace) < abs(agreed) else Course.FASTER


def overnight_words(weigh_ins: Sequence[WeighIn]) -> str:
    """What is said of the last change from one day to the next, where it is too big to be fat."""
    recent = weigh_ins[-SETTLED_AFTER_WEIGH_INS - 1 :]
    for before, after in reversed(list(pairwise(recent))):
        days, change = (after.day - before.day).days, after.kg - before.kg
        if days == OVERNIGHT_DAYS and abs(change) >= OVERNIGHT_SHARE * before.kg:
            more = "more" if change > 0 else "less"
            return (
                f"{abs(change):.1f} kg {more} than the day before is water, not fat: look at the "
                "line, not at one day."
            )
    return ""
