"""Every way to spend a day that may be worth it: one choice for each meal, with its exact cost.

A day of four meals and forty dishes has some eleven million. Most cannot be in a best week: of the
menus with the same dishes, only those are kept that no other beats by taking no more of any pot
and costing no more. (What crosses days asks which dishes a day holds and what they take of pots,
and nothing else, so the other can stand in its place.)
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import product

import numpy as np
from numpy.typing import NDArray

from dietetics.week.question import Choice, Question
from dietetics.week.week_rows import Model

Floats = NDArray[np.float64]
Whole = NDArray[np.int32]
AT_ONCE = 3_000_000  # ways to spend a day that are in memory at once


@dataclass
class DayMenus:
    """The menus of a day: for each the variables of its cells (meals × menus), and what it costs
    with all that is settled within the day.
    """

    day: int
    cells: Whole
    costs: Floats

    def kept(self, which: NDArray[np.bool_] | NDArray[np.intp]) -> DayMenus:
        """Those of the menus that are marked, or at these places."""
        return DayMenus(self.day, self.cells[:, which], self.costs[which])


@dataclass
class _Meal:
    """One meal of days that are alike: its dishes (-1 nothing) by their portions, the smallest
    first. Where a dish has no such portion, the cost is infinite.
    """

    dishes: Whole
    costs: Floats  # dishes × portions
    vectors: Floats  # dishes × portions × keys
    from_pots: NDArray[np.bool_]
    variables: dict[int, Whole]  # by day: dishes × portions, -1 where it cannot stand there
    locked: bool


def menus_of(question: Question, model: Model) -> list[DayMenus]:
    """The menus of every day that has a meal."""
    by_day: dict[int, list[int]] = {}
    for day, meal in question.slots:
        by_day.setdefault(day, []).append(meal)
    alike: dict[tuple[object, ...], list[int]] = {}
    for day, meals in by_day.items():
        locked = any((day, meal) in question.locks for meal in meals)
        alike.setdefault((*meals, "locked" if locked else "", day if locked else -1), []).append(
            day
        )
    found = []
    for days in alike.values():
        sides = [_meal(question, model, days, meal) for meal in by_day[days[0]]]
        parts = [_worth_having(question, sides, dishes) for dishes in _parts(sides)]
        picked = np.concatenate([part[0] for part in parts], axis=1)
        costs = np.concatenate([part[1] for part in parts])
        for day in days:
            cells = np.stack(
                [side.variables[day].ravel()[row] for side, row in zip(sides, picked, strict=True)]
            )
            found.append(DayMenus(day, cells, costs).kept(np.all(cells >= 0, axis=0)))
    return sorted(found, key=lambda one: one.day)


def _meal(question: Question, model: Model, days: Sequence[int], meal: int) -> _Meal:
    there: dict[tuple[int, float], Choice] = {}
    for day in days:
        there.update({(c.dish, c.scale): c for c in model.choices[day, meal]})
    dishes = sorted({dish for dish, _ in there})
    most = max(sum(dish == one for one, _ in there) for dish in dishes)
    shape = (len(dishes), most)
    found = _Meal(
        np.array(dishes, dtype=np.int32),
        np.full(shape, np.inf),
        np.zeros((*shape, len(question.keys))),
        np.zeros(len(dishes), dtype=bool),
        {day: np.full(shape, -1, dtype=np.int32) for day in days},
        (days[0], meal) in question.locks,
    )
    for row, dish in enumerate(dishes):
        scales = sorted(scale for one, scale in there if one == dish)
        for column, scale in enumerate(scales):
            choice = there[dish, scale]
            found.vectors[row, column] = choice.vector
            found.from_pots[row] |= bool(choice.uses)
            for day in days:
                number = next(
                    (n for n, c in enumerate(model.choices[day, meal])
                     if (c.dish, c.scale) == (dish, scale)), None
                )  # fmt: skip
                if number is not None:
                    variable = model.cells[(day, meal), number]
                    found.variables[day][row, column] = variable
                    found.costs[row, column] = model.program.costs[variable]
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
    question: Question, meals: Sequence[_Meal], rows: list[Whole]
) -> tuple[Whole, Floats]:
    """Of the menus of these dishes those worth having: for each meal the place of dish and portion
    (meals × menus), and what they cost.
    """
    count = len(meals)
    costs = _costs(question, meals, rows)
    _forbid_the_same_dish(question, meals, rows, costs)
    from_pots = [bool(meal.from_pots[row[0]]) for meal, row in zip(meals, rows, strict=True)]
    tied = [2 * n + 1 for n in range(count) if from_pots[n]]
    free = [2 * n + 1 for n in range(count) if not from_pots[n]]
    costs = costs.transpose([2 * n for n in range(count)] + tied + free)
    free_shape = costs.shape[count + len(tied) :]
    costs = costs.reshape(*costs.shape[: count + len(tied)], -1)
    portions = costs.argmin(axis=-1)
    costs = np.take_along_axis(costs, portions[..., None], axis=-1)[..., 0]
    where = np.nonzero(_not_beaten(costs, count) & np.isfinite(costs))
    free_portions = np.unravel_index(portions[where], free_shape) if free else ()
    picked = []
    for n in range(count):
        axis = 2 * n + 1
        column = (
            where[count + tied.index(axis)] if from_pots[n] else free_portions[free.index(axis)]
        )
        picked.append(rows[n][where[n]] * meals[n].costs.shape[1] + column)
    return np.array(picked, dtype=np.int32), costs[where]


def _spread(values: Floats, at: int, count: int) -> Floats:
    """The values of one meal (dishes × portions), along its own two of the axes of a menu."""
    shape = [1] * (2 * count)
    shape[2 * at : 2 * at + 2] = values.shape
    return values.reshape(shape)


def _costs(question: Question, meals: Sequence[_Meal], rows: list[Whole]) -> Floats:
    """What every menu costs: its cells, and what the day then misses."""
    count = len(meals)

    def total(place: int) -> Floats:
        parts = [
            _spread(meal.vectors[row, :, place], n, count)
            for n, (meal, row) in enumerate(zip(meals, rows, strict=True))
        ]
        return _added(parts)

    cells = [
        _spread(meal.costs[row], n, count)
        for n, (meal, row) in enumerate(zip(meals, rows, strict=True))
    ]
    found = _added(cells)
    for one in question.day_prices:
        amount = one.weight * total(one.first)
        if one.second_weight:
            amount = amount + one.second_weight * total(one.second)
        found += one.price * np.maximum(amount - one.limit, 0.0)
    return found


def _added(parts: Sequence[Floats]) -> Floats:
    """The sum over all meals, spread over every axis; small ones are added first."""
    found = parts[0]
    for part in parts[1:]:
        found = found + part
    return found


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


def _not_beaten(costs: Floats, first: int) -> NDArray[np.bool_]:
    """True where no menu of the same dishes with portions as small or smaller costs as little; the
    axes from `first` on are portions, the smallest first.
    """
    least = costs
    for axis in range(first, costs.ndim):
        least = np.minimum.accumulate(least, axis=axis)
    kept = np.ones(costs.shape, dtype=bool)
    for axis in range(first, costs.ndim):
        before: list[slice] = [slice(None)] * costs.ndim
        after = list(before)
        before[axis], after[axis] = slice(None, -1), slice(1, None)
        kept[tuple(after)] &= costs[tuple(after)] < least[tuple(before)]
    return kept
