"""Every way to spend a day that may be worth it: one choice for each meal, with what it misses and
its exact cost.

A day of four meals and forty dishes has some eleven million. Where a meal can be filled so that
nothing is missed by itself, the choices that miss something are left out at first. Of the menus
with the same dishes, only those are kept that no other beats by taking no more of any pot, missing
no more and costing no more. (What crosses days asks which dishes a day holds and what they take of
pots, and nothing else, so the other can stand in its place.)
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import product

import numpy as np
from numpy.typing import NDArray

from dietetics.week.question.priorities import (
    BITS,
    MOST_MISSED,
    MOST_OF_A_DAY,
    RECOMMENDED,
    REQUIRED,
    ROUNDING,
    USUAL,
    MissLine,
    miss_lines,
    misses_of_meal,
)
from dietetics.week.question.question import Question, Slot
from dietetics.week.search.week_rows import Model

Floats = NDArray[np.float64]
Whole = NDArray[np.int32]
Ranks = NDArray[np.int64]
Marks = NDArray[np.bool_]
AT_ONCE = 1_000_000  # ways to spend a day that are in memory at once


@dataclass
class DayMenus:
    """The menus of a day: for each the variables of its cells (meals × menus), what it costs with
    all that is settled within the day, and what it misses, packed into one number each.
    """

    day: int
    cells: Whole
    costs: Floats
    ranks: Ranks

    def kept(self, which: Marks | NDArray[np.intp]) -> DayMenus:
        """Those of the menus that are marked, or at these places."""
        return DayMenus(self.day, self.cells[:, which], self.costs[which], self.ranks[which])


@dataclass
class _Meal:
    """One meal of days that are alike: its dishes (-1 nothing) by their portions, the smallest
    first. Where a dish has no such portion, the cost is infinite.
    """

    dishes: Whole
    costs: Floats  # dishes × portions
    vectors: Floats  # dishes × portions × keys
    misses: Floats  # dishes × portions: what the meal misses by itself
    heavy: Floats  # dishes × portions: what its weight counts
    from_pots: Marks
    places: Whole  # dishes × portions: the number among the choices of the meal
    locked: bool


@dataclass(frozen=True)
class Listed:
    """The menus of every day that has a meal, and whether some were left out that miss more at a
    meal than others there, or for want of room.
    """

    days: list[DayMenus]
    meals_left_out: bool
    cut: bool


def menus_of(question: Question, model: Model, most_ways: int, every_meal: bool = False) -> Listed:
    """The menus of every day that has a meal, of at most so many ways to spend it: where there are
    more, the dearest choices of its meals go. Without `every_meal`, choices that miss something by
    themselves are left out where others do not.
    """
    by_day: dict[int, list[int]] = {}
    for day, meal in question.slots:
        by_day.setdefault(day, []).append(meal)
    alike: dict[object, list[int]] = {}
    for day, meals in by_day.items():
        there = tuple(
            (meal, (day, meal) in question.locks, tuple((c.dish, c.scale, c.vector) for c in ways))
            for meal in meals
            for ways in [model.choices[day, meal]]
        )
        alike.setdefault(there, []).append(day)
    found, left_out, cut = list[DayMenus](), False, False
    lines = miss_lines(question)
    for days in alike.values():
        slots = [(days[0], meal) for meal in by_day[days[0]]]
        offered = [_offered(question, model, slot, every_meal) for slot in slots]
        held = _few(question, model, slots, offered, most_ways)
        left_out |= any(
            len(one) < len(model.choices[slot]) for one, slot in zip(offered, slots, strict=True)
        )
        cut |= held != offered
        sides = [_meal(question, model, slot, one) for slot, one in zip(slots, held, strict=True)]
        parts = [_worth_having(question, lines, sides, rows) for rows in _parts(sides)]
        picked = np.concatenate([part[0] for part in parts], axis=1)
        costs = np.concatenate([part[1] for part in parts])
        ranks = np.concatenate([part[2] for part in parts])
        for day in days:
            variables = [
                _variables(model, (day, meal), side.places)
                for (_, meal), side in zip(slots, sides, strict=True)
            ]
            cells = np.stack([v[row] for v, row in zip(variables, picked, strict=True)])
            found.append(DayMenus(day, cells.astype(np.int32), costs, ranks))
    return Listed(sorted(found, key=lambda one: one.day), left_out, cut)


def _variables(model: Model, slot: Slot, places: Whole) -> NDArray[np.int64]:
    """The variables of a meal's choices, -1 where there is none."""
    return np.array([model.cells[slot, n] if n >= 0 else -1 for n in places.ravel().tolist()])


def _offered(question: Question, model: Model, slot: Slot, every_meal: bool) -> list[int]:
    """The numbers of a meal's choices: all, or those that miss nothing by themselves where some do
    not.
    """
    numbers = range(len(model.choices[slot]))
    good = [n for n in numbers if misses_of_meal(question, slot, model.choices[slot][n]).meals == 0]
    return good if good and not every_meal else list(numbers)


def _few(
    question: Question,
    model: Model,
    slots: Sequence[Slot],
    offered: Sequence[list[int]],
    most_ways: int,
) -> list[list[int]]:
    """At most so many ways to spend a day: where there are more, the choices of the fullest meal
    that cost most by themselves go, one by one, those that miss most first, each dish's best and an
    empty meal kept longest.
    """
    ways = 1
    for one in offered:
        ways *= len(one)
    if ways <= most_ways:
        return list(offered)
    orders = [
        _in_order(question, model, slot, one) for slot, one in zip(slots, offered, strict=True)
    ]
    sizes = [len(one) for one in orders]
    while ways > most_ways:
        at = max(range(len(sizes)), key=lambda n: sizes[n])
        ways = ways // sizes[at] * (sizes[at] - 1)
        sizes[at] -= 1
    return [sorted(one[:size]) for one, size in zip(orders, sizes, strict=True)]


def _in_order(question: Question, model: Model, slot: Slot, numbers: Sequence[int]) -> list[int]:
    """A meal's choices, those kept longest first: the best portion of every dish, then the rest."""
    options = model.choices[slot]

    def worth(n: int) -> tuple[int, float]:
        return misses_of_meal(question, slot, options[n]).packed(), options[n].cost

    by_worth = sorted(numbers, key=lambda n: (worth(n), n))
    best: dict[int, int] = {}
    for n in by_worth:
        best.setdefault(options[n].dish, n)
    first = sorted(best.values(), key=lambda n: (options[n].dish >= 0, worth(n), n))
    return [*first, *(n for n in by_worth if n not in set(first))]


def _meal(question: Question, model: Model, slot: Slot, numbers: Sequence[int]) -> _Meal:
    options = model.choices[slot]
    by_dish: dict[int, list[int]] = {}
    for n in sorted(numbers, key=lambda n: (options[n].dish, options[n].scale)):
        by_dish.setdefault(options[n].dish, []).append(n)
    shape = (len(by_dish), max(len(one) for one in by_dish.values()))
    found = _Meal(
        np.array(list(by_dish), dtype=np.int32),
        np.full(shape, np.inf),
        np.zeros((*shape, len(question.keys))),
        np.zeros(shape),
        np.zeros(shape),
        np.zeros(len(by_dish), dtype=bool),
        np.full(shape, -1, dtype=np.int32),
        slot in question.locks,
    )
    for row, places in enumerate(by_dish.values()):
        for column, n in enumerate(places):
            choice = options[n]
            missed = misses_of_meal(question, slot, choice)
            found.vectors[row, column] = choice.vector
            found.from_pots[row] |= bool(choice.uses)
            found.places[row, column] = n
            found.costs[row, column] = model.program.costs[model.cells[slot, n]]
            found.misses[row, column] = missed.meals
            found.heavy[row, column] = missed.usual
    return found


def _parts(meals: Sequence[_Meal]) -> Iterator[list[Whole]]:
    """The dishes of each meal in parts that fit into memory, and in which a meal's dishes either
    all take from pots or none does.
    """
    for pattern in product((False, True), repeat=len(meals)):
        rows = [
            np.flatnonzero(meal.from_pots == wanted).astype(np.int32)
            for meal, wanted in zip(meals, pattern, strict=True)
        ]
        if all(len(row) for row in rows):
            yield from _smaller(rows, meals, 0)


def _smaller(rows: list[Whole], meals: Sequence[_Meal], at: int) -> Iterator[list[Whole]]:
    size = 1
    for row, meal in zip(rows, meals, strict=True):
        size *= len(row) * meal.costs.shape[1]
    if size <= AT_ONCE or at == len(rows):
        yield rows
        return
    pieces = min(len(rows[at]), -(-size // AT_ONCE))
    for piece in np.array_split(rows[at], pieces):
        yield from _smaller([*rows[:at], piece, *rows[at + 1 :]], meals, at + 1)


def _worth_having(
    question: Question, lines: Sequence[MissLine], meals: Sequence[_Meal], rows: list[Whole]
) -> tuple[NDArray[np.int64], Floats, Ranks]:
    """Of the menus of these dishes those worth having: for each meal the place of dish and portion
    (meals × menus), what they cost and what they miss.
    """
    count = len(meals)
    day = _Day(meals, rows)
    costs, ranks = day.costs(question), day.ranks(lines)
    _forbid_the_same_dish(question, meals, rows, costs)
    from_pots = [bool(meal.from_pots[row[0]]) for meal, row in zip(meals, rows, strict=True)]
    tied = [2 * n + 1 for n in range(count) if from_pots[n]]
    free = [2 * n + 1 for n in range(count) if not from_pots[n]]
    order = [2 * n for n in range(count)] + tied + free
    costs, ranks = costs.transpose(order), ranks.transpose(order)
    shape = costs.shape
    flat = (*shape[: count + len(tied)], -1)
    costs, ranks = costs.reshape(flat), ranks.reshape(flat)
    kept = _not_beaten(costs, ranks, count)
    where = np.unravel_index(np.flatnonzero(kept), shape)
    axis_of = {axis: n for n, axis in enumerate(order)}
    picked = [
        rows[n][where[axis_of[2 * n]]].astype(np.int64) * meals[n].costs.shape[1]
        + where[axis_of[2 * n + 1]]
        for n in range(count)
    ]
    return np.array(picked), costs[kept], ranks[kept]


class _Day:
    """The sums over the meals of a day, for every menu of certain dishes at once."""

    def __init__(self, meals: Sequence[_Meal], rows: list[Whole]) -> None:
        self.meals, self.rows = meals, rows
        self._totals: dict[int, Floats] = {}

    def _added(self, parts: Sequence[Floats]) -> Floats:
        """A value of each meal (dishes × portions) added up, spread over every axis; small ones
        are added first.
        """
        count, found = len(self.meals), np.zeros(1)
        for n, (values, row) in enumerate(zip(parts, self.rows, strict=True)):
            shape = [1] * (2 * count)
            shape[2 * n : 2 * n + 2] = (len(row), values.shape[1])
            found = found + values[row].reshape(shape)
        return found

    def total(self, place: int) -> Floats:
        """What the day holds at one place of the question's keys."""
        if place not in self._totals:
            self._totals[place] = self._added([meal.vectors[:, :, place] for meal in self.meals])
        return self._totals[place]

    def costs(self, question: Question) -> Floats:
        """What every menu costs: its cells, and what the day then misses."""
        found = self._added([meal.costs for meal in self.meals])
        for one in question.day_prices:
            amount = one.weight * self.total(one.first)
            if one.second_weight:
                amount += one.second_weight * self.total(one.second)
            amount -= one.limit
            np.maximum(amount, 0.0, out=amount)
            amount *= one.price
            found += amount
        return found

    def ranks(self, lines: Sequence[MissLine]) -> Ranks:
        """What every menu misses, packed."""
        meals = self._added([meal.misses for meal in self.meals])
        heavy = self._added([meal.heavy for meal in self.meals])
        by_priority: dict[int, Ranks] = {USUAL: heavy.astype(np.int64)}
        for line in lines:
            amount = line.weight * self.total(line.first)
            if line.second_weight:
                amount += line.second_weight * self.total(line.second)
            missed = _counted(line, amount - line.limit)
            there = by_priority.get(line.priority)
            by_priority[line.priority] = missed if there is None else there + missed
        packed = meals.astype(np.int64)
        for priority in (REQUIRED, USUAL, RECOMMENDED):
            packed = packed << BITS
            if priority in by_priority:
                packed |= np.minimum(by_priority[priority], MOST_OF_A_DAY)
        found: Ranks = packed
        return found


def _counted(line: MissLine, above: Floats) -> Ranks:
    """`MissLine.missed` for many sums at once."""
    above *= line.percent
    nothing = above <= line.near + ROUNDING
    above *= line.share
    above += line.any_miss - ROUNDING
    np.ceil(above, out=above)
    np.clip(above, 0, MOST_MISSED, out=above)
    above[nothing] = 0.0
    return above.astype(np.int64)


def _forbid_the_same_dish(
    question: Question, meals: Sequence[_Meal], rows: list[Whole], costs: Floats
) -> None:
    """A dish comes once a day, save one that may come oftener, or that is locked at both meals."""
    count = len(meals)
    for one, other in product(range(count), repeat=2):
        if one >= other or (meals[one].locked and meals[other].locked):
            continue
        left, right = meals[one].dishes[rows[one]], meals[other].dishes[rows[other]]
        for i, j in zip(*np.nonzero(left[:, None] == right[None, :]), strict=True):
            dish = int(left[i])
            if dish >= 0 and question.offers[dish].apart:
                at: list[int | slice] = [slice(None)] * (2 * count)
                at[2 * one], at[2 * other] = int(i), int(j)
                costs[tuple(at)] = np.inf


def _not_beaten(costs: Floats, ranks: Ranks, first: int) -> Marks:
    """True where no menu of the same dishes with portions as small or smaller from pots misses and
    costs as little. The axes from `first` on are portions from pots, the smallest first; the last
    are all portions of meals that take from none.
    """
    kept: Marks = np.isfinite(costs)
    if costs.shape[-1] > 1:
        order = np.lexsort((costs, ranks), axis=-1)
        in_order = np.take_along_axis(costs, order, axis=-1)
        least = np.minimum.accumulate(in_order, axis=-1)
        better = np.ones(costs.shape, dtype=bool)
        better[..., 1:] = in_order[..., 1:] < least[..., :-1]
        marks = np.empty(costs.shape, dtype=bool)
        np.put_along_axis(marks, order, better, axis=-1)
        kept &= marks
    for axis in range(first, costs.ndim - 1):
        before: list[slice] = [slice(None)] * costs.ndim
        after = list(before)
        before[axis], after[axis] = slice(None, -1), slice(1, None)
        one, other = tuple(before), tuple(after)
        kept[other] &= ~((costs[one] <= costs[other]) & (ranks[one] <= ranks[other]))
    return kept
