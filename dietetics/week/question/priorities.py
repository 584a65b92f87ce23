"""What matters more in a week and what less. Of two weeks the one that misses less of what comes
first is better, whatever the rest costs: first every meal a meal, then required targets, evenings
that are not too full, the weight and the fibre that a person can eat, recommended targets and the
foods of the approach, and variety; only then cooking, liking and left-overs, which are counted in
points.

How much is a miss, and of what, is our judgement and stands here once. A figure is judged with its
own doubt: what lies within half a per cent of a required line is at its limit, not missed.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import NamedTuple

from dietetics.nutrients import DENSITY
from dietetics.targets import usual_food
from dietetics.targets.schools import FIBRE, WEIGHT
from dietetics.targets.windows import AT_THE_LIMIT, Window
from dietetics.week.day_prices import Ask, line_of
from dietetics.week.question.answer import Answer, extra_pots
from dietetics.week.question.question import Choice, Question, Slot

# In per cent of a line: what is no miss, as for the levels of a day.
NEAR, NEAR_USUAL = 100 * AT_THE_LIMIT, 100 * usual_food.NEAR
MOST_MISSED, MOST_OF_A_DAY = 99, 499
EMPTY_MEAL = 100  # a meal of whatever size is better than none
A_FIFTH = 0.2  # a meal may lie so far outside its share of the day's energy
RECOMMENDED_SHARE, ANY_RECOMMENDED = 0.15, 10.0  # one that is missed at all, and each per cent
ROUNDING = 1e-9
BITS = 12  # of each priority in one number: seven days never carry into the next


class Misses(NamedTuple):
    """What is missed, the most important first; the less, the better."""

    meals: int = 0
    required: int = 0
    usual: int = 0
    recommended: int = 0

    def packed(self) -> int:
        """All in one number that is ordered alike."""
        return (
            ((self.meals << BITS | self.required) << BITS | self.usual) << BITS
        ) | self.recommended

    def plus(self, other: Misses) -> Misses:
        """Both together."""
        return Misses(*(a + b for a, b in zip(self, other, strict=True)))


REQUIRED, USUAL, RECOMMENDED = 1, 2, 3  # places in Misses


@dataclass(frozen=True)
class MissLine:
    """One side of what is asked of a day: it is missed where the weighted sum is above `limit`, by
    `percent` for each unit. The sums stand at the places `first` and `second` of a question's keys;
    `priority` is a place in Misses.
    """

    priority: int
    first: int
    weight: float
    second: int
    second_weight: float
    limit: float
    percent: float

    @property
    def near(self) -> float:
        """Per cent that are no miss."""
        return NEAR_USUAL if self.priority == USUAL else NEAR

    @property
    def share(self) -> float:
        """What a per cent counts."""
        return RECOMMENDED_SHARE if self.priority == RECOMMENDED else 1.0

    @property
    def any_miss(self) -> float:
        """What a miss counts however small it is."""
        return ANY_RECOMMENDED if self.priority == RECOMMENDED else 0.0

    def missed(self, sums: Sequence[float]) -> int:
        """What it counts on a day with these sums."""
        above = self.weight * sums[self.first] + self.second_weight * sums[self.second] - self.limit
        return counted(self.percent * above, self.near, self.share, self.any_miss)


def counted(percent: float, near: float, share: float = 1.0, any_miss: float = 0.0) -> int:
    """What so many per cent missed count: nothing up to `near`, whole numbers above.

    >>> counted(0.4, 0.5), counted(0.6, 0.5), counted(12.0, 2.0, 0.15, 10.0), counted(400, 0.5)
    (0, 1, 12, 99)
    """
    if percent <= near + ROUNDING:
        return 0
    return min(MOST_MISSED, math.ceil(share * percent + any_miss - ROUNDING))


def miss_lines(question: Question) -> tuple[MissLine, ...]:
    """What is asked of a day, the watched windows apart."""
    place = {key: n for n, key in enumerate(question.keys)}
    found: list[MissLine] = []
    for window in question.windows:
        if window.importance != "watch":
            found += _of_window(window, place, question.usual_energy)
    for ask in question.asks:
        if ask.importance != "watch":
            found += _of_ask(ask, place[ask.amount_key])
    return tuple(found)


def _of_window(window: Window, place: dict[str, int], usual_energy: float) -> Iterable[MissLine]:
    priority = REQUIRED if window.importance == "must" else RECOMMENDED
    low, high = window.low, window.high
    if window.key == DENSITY:
        energy, grams, percent = place["energy_kcal"], place["grams"], 100 / usual_energy
        if high is not None:
            yield MissLine(priority, energy, 1.0, grams, -high, 0.0, percent)
        if low is not None:
            yield MissLine(priority, energy, -1.0, grams, low, 0.0, percent)
        return
    at = place[window.key]
    if low is not None:
        yield MissLine(priority, at, -1.0, at, 0.0, -low, 100 / line_of(low, high))
    if high is not None:
        yield MissLine(priority, at, 1.0, at, 0.0, high, 100 / line_of(high, low))


def _of_ask(ask: Ask, at: int) -> Iterable[MissLine]:
    priority = USUAL if ask.key in (WEIGHT, FIBRE) else RECOMMENDED
    if ask.low:
        yield MissLine(priority, at, -1.0, at, 0.0, -ask.low, 100 / ask.low)
    if ask.high:
        yield MissLine(priority, at, 1.0, at, 0.0, ask.high, 100 / ask.high)


def misses_of_meal(question: Question, slot: Slot, choice: Choice) -> Misses:
    """What a meal misses by itself: it is empty, far outside its share of the day's energy, or
    heavier than is usually eaten at one. A locked meal is as somebody wanted it; one whose energy
    is unknown is not judged by it here, and leaves its day short of it.
    """
    if slot in question.locks:
        return Misses()
    if choice.dish < 0:
        return Misses(meals=EMPTY_MEAL)
    meal = question.whole_meal(slot, question.offers[choice.dish], choice.scale)
    share, missed, amount = question.meals[slot[1]].share, 0, meal.amounts.get("energy_kcal")
    window = next((one for one in question.windows if one.key == "energy_kcal"), None)
    if window is not None and amount is not None and share:
        low, high = (1 - A_FIFTH) * (window.low or 0.0) * share, math.inf
        if window.high is not None:
            high = (1 + A_FIFTH) * window.high * share
        if amount < low:
            missed = counted(100 * (low - amount) / low, NEAR)
        elif amount > high:
            missed = counted(100 * (amount - high) / high, NEAR)
    most, heavy = question.rules.most_meal_g, 0
    if most:
        heavy = counted(100 * (meal.grams - most) / most, NEAR_USUAL)
    return Misses(meals=missed, usual=heavy)


def misses_of_day(
    question: Question, lines: Sequence[MissLine], day: Iterable[tuple[Slot, Choice]]
) -> Misses:
    """What the meals of a day and the day itself miss."""
    of_meals, rows = Misses(), list[tuple[float, ...]]()
    for slot, choice in day:
        of_meals = of_meals.plus(misses_of_meal(question, slot, choice))
        rows.append(choice.vector)
    sums = [sum(column) for column in zip(*rows, strict=True)]
    found = list(of_meals)
    for line in lines:
        found[line.priority] += line.missed(sums)
    return Misses(found[0], *(min(MOST_OF_A_DAY, one) for one in found[1:]))


class Standing(NamedTuple):
    """Where a week stands among others, the most important first; the less, the better. An evening
    takes more batches than it should rather than that a meal or a required target suffers, and for
    nothing else.
    """

    lacking: tuple[float, int]
    meals: int
    required: int
    full_evenings: int
    usual: int
    recommended: int
    points: float


def standing_of(answer: Answer) -> Standing:
    """Where a week stands; variety is in its points."""
    missed = misses_of(answer)
    extra = extra_pots(answer.question, answer.cooked)
    return Standing(
        answer.lacking(), missed.meals, missed.required, extra, *missed[2:], answer.points
    )


def gives_up(before: Answer, after: Answer) -> bool:
    """True where a second week is worse in what matters more than points, whatever it is for."""
    return standing_of(before)[:-1] < standing_of(after)[:-1]


def misses_of(answer: Answer) -> Misses:
    """What a week misses, its days together."""
    question, found = answer.question, Misses()
    lines = miss_lines(question)
    for day in {slot[0] for slot in question.slots}:
        cells = [(slot, answer.chosen[slot]) for slot in question.slots if slot[0] == day]
        found = found.plus(misses_of_day(question, lines, cells))
    return found
