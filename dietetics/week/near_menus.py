"""Some of the ways to spend a day, where all of them are too many: those near to what the master
program would choose, found from a week that is there by exchanging one meal at a time.

Each round the program is solved with what it has, and its prices tell which of the menus so far
are worth looking around. No bound follows, since a menu that was never looked at may be better.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from dietetics.week.answer import Answer
from dietetics.week.day_menus import DayMenus, Floats, Whole
from dietetics.week.master_program import Master, Relaxed, signed
from dietetics.week.menu_node import CLOSE, lowest
from dietetics.week.question import Question, Slot, place_among
from dietetics.week.week_rows import Model

LOOKED_AROUND = 6  # menus of a day whose neighbours are looked at in a round
TRIED_OF_A_MEAL = 40  # choices of a meal, those that are cheapest by themselves
KEPT_OF_A_ROUND = 60  # new menus of a day that a round keeps
ADDED = 8  # menus of a day that a round gives to the master program

Marks = NDArray[np.bool_]


@dataclass
class _Meal:
    """The choices of a meal of one day: variables, dishes, own costs, amounts (choices × keys)."""

    variables: Whole
    dishes: Whole
    costs: Floats
    vectors: Floats
    locked: bool


class _Day:
    """The menus of a day so far, as the number of the choice of every meal (meals × menus)."""

    def __init__(self, question: Question, model: Model, start: Answer, day: int) -> None:
        self.question, self.day = question, day
        self.slots = [slot for slot in model.choices if slot[0] == day]
        self.meals = [_meal(question, model, slot) for slot in self.slots]
        # a dish comes once a day, save one that may come oftener; the last stands for no dish
        self.once = np.array([offer.apart > 0 for offer in question.offers] + [False])
        sizes = [len(meal.costs) for meal in self.meals]
        self.radix = np.cumprod([1, *sizes[:-1]]).astype(np.int64)
        first = self._first(model, start)
        self.picked = first[:, np.unique(self.radix @ first, return_index=True)[1]]
        self.costs = self._costs(self.picked)
        self.codes = self.radix @ self.picked

    def _first(self, model: Model, start: Answer) -> Whole:
        """Nothing at any meal, and the days of the week that is there, where they can be."""
        found = [[0] * len(self.meals)]
        for other in {slot[0] for slot in start.chosen}:
            there = [start.chosen.get((other, meal)) for _, meal in self.slots]
            numbers = [
                place_among(model.choices[slot], one) if one is not None else -1
                for slot, one in zip(self.slots, there, strict=True)
            ]
            if min(numbers) >= 0:
                found.append(numbers)
        menus = np.array(found, dtype=np.int32).T
        allowed = np.ones(menus.shape[1], dtype=bool)
        for n in range(len(self.meals)):
            allowed &= self._allowed(menus, n)
        return menus[:, allowed]

    def _costs(self, picked: Whole) -> Floats:
        """What menus cost: their cells, and what the day then misses."""
        sums = np.zeros((picked.shape[1], len(self.question.keys)))
        found = np.zeros(picked.shape[1])
        for meal, row in zip(self.meals, picked, strict=True):
            sums += meal.vectors[row]
            found += meal.costs[row]
        for one in self.question.day_prices:
            over = one.weight * sums[:, one.first] - one.limit
            if one.second_weight:
                over += one.second_weight * sums[:, one.second]
            found += one.price * np.maximum(over, 0.0)
        return found

    def look_around(self, cell_prices: Floats) -> None:
        """Keep what is new and cheap at these prices among the neighbours of the cheapest menus."""
        base = self.picked[:, lowest(self.reduced(cell_prices), LOOKED_AROUND)]
        parts = []
        for n, meal in enumerate(self.meals):
            if not meal.locked:
                tried = lowest(meal.costs - cell_prices[meal.variables], TRIED_OF_A_MEAL)
                around = np.repeat(base, len(tried), axis=1)
                around[n] = np.tile(tried.astype(np.int32), base.shape[1])
                parts.append(around[:, self._allowed(around, n)])
        if not parts:
            return
        found = np.concatenate(parts, axis=1)
        codes, places = np.unique(self.radix @ found, return_index=True)
        fresh = ~np.isin(codes, self.codes)
        codes, found = codes[fresh], found[:, places[fresh]]
        costs = self._costs(found)
        best = lowest(costs - self._paid(found, cell_prices), KEPT_OF_A_ROUND)
        self.picked = np.concatenate([self.picked, found[:, best]], axis=1)
        self.costs = np.concatenate([self.costs, costs[best]])
        self.codes = np.concatenate([self.codes, codes[best]])

    def _allowed(self, menus: Whole, changed: int) -> Marks:
        """Which menus hold the dish of this meal at no other, where it comes once a day."""
        this = self.meals[changed]
        dishes = this.dishes[menus[changed]]
        twice = np.zeros(menus.shape[1], dtype=bool)
        for n, meal in enumerate(self.meals):
            if n != changed and not (meal.locked and this.locked):
                twice |= meal.dishes[menus[n]] == dishes
        allowed: Marks = ~(twice & self.once[dishes])
        return allowed

    def _paid(self, picked: Whole, cell_prices: Floats) -> Floats:
        found = np.zeros(picked.shape[1])
        for meal, row in zip(self.meals, picked, strict=True):
            found += cell_prices[meal.variables[row]]
        return found

    def reduced(self, cell_prices: Floats) -> Floats:
        """What each menu costs above what the rows pay for its cells."""
        return self.costs - self._paid(self.picked, cell_prices)

    def menus(self, which: NDArray[np.intp] | slice) -> DayMenus:
        """Some of the menus."""
        picked = self.picked[:, which]
        rows = [meal.variables[row] for meal, row in zip(self.meals, picked, strict=True)]
        return DayMenus(self.day, np.stack(rows), self.costs[which])


def _meal(question: Question, model: Model, slot: Slot) -> _Meal:
    options = model.choices[slot]
    variables = [model.cells[slot, n] for n in range(len(options))]
    return _Meal(
        np.array(variables, dtype=np.int32),
        np.array([one.dish for one in options], dtype=np.int32),
        np.array([model.program.costs[one] for one in variables]),
        np.array([one.vector for one in options]),
        slot in question.locks,
    )


class NearMenus:
    """The menus of every day near to the best mix of days, and the last solve of the master
    program with those that were worth it.
    """

    def __init__(self, question: Question, model: Model, master: Master, start: Answer) -> None:
        self.master = master
        self.days = [_Day(question, model, start, day) for day in master.days]
        master.add([one.menus(slice(None)) for one in self.days])

    def grow(self, rounds: int) -> Relaxed | None:
        """Look around so many times, or until nothing better is found. None where the solver gave
        up.
        """
        master = self.master
        for number in range(rounds + 1):
            relaxed = master.solve(True)
            if relaxed is None or np.isinf(relaxed.points) or number == rounds:
                return relaxed
            prices = signed(relaxed.row_prices, master.row_lower, master.row_upper)
            if not self._added(master.cell_prices(prices), relaxed.day_prices):
                return relaxed
        raise AssertionError("the last round returns")

    def _added(self, cell_prices: Floats, day_prices: Floats) -> int:
        better = []
        for one in self.days:
            one.look_around(cell_prices)
            reduced = one.reduced(cell_prices)
            best = lowest(reduced, ADDED)
            enough = day_prices[self.master.days[one.day]] - CLOSE / 10
            better.append(one.menus(best[reduced[best] < enough]))
        return self.master.add(better)
