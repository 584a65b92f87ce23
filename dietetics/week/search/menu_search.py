"""A week improved and bounded by whole days: menus as columns, priced against the master program,
in a tree of decisions that is searched from the lowest bound on.

The bound is valid at any moment: at the prices of any solve, no week of a node costs less than what
the rows and other variables cost at least, and on every day the least reduced cost of a menu
(Lagrange; the formula stands in docs/mathematics.md).
"""

from __future__ import annotations

import heapq
import math
import time
from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from dietetics.week.day_prices import cost_of_day
from dietetics.week.question.answer import Answer, answer_of
from dietetics.week.question.priorities import miss_lines, misses_of_day
from dietetics.week.question.question import Choice, Slot, place_among
from dietetics.week.question.recheck import broken_rules, checked_week
from dietetics.week.search.day_menus import DayMenus, Floats
from dietetics.week.search.improving import Told
from dietetics.week.search.master_program import Master, Relaxed
from dietetics.week.search.menu_branching import Gains, ways_on
from dietetics.week.search.menu_node import CLOSE, NodeWork, OpenNode, lowest
from dietetics.week.search.settling import Settled

MOST_BETWEEN = 40  # nodes between two ways straight down
NEAR = 10_000  # menus of a day that are priced before all are


class _OverError(Exception):
    """The time is up, or nobody wants more."""


@dataclass(frozen=True)
class Effort:
    """When a search ends: after so many seconds, nodes of the tree or steps of the simplex method
    (`pivots`), or where the best week is so near to its bound (as a share of its points).

    Every `straight_down` nodes, and twice as seldom after each time that was in vain, it goes on
    with the likelier way below a node until one is closed, to find a better week; 1 is always.
    Between, the node with the lowest bound is next.
    """

    seconds: float = 20.0
    steps: float = math.inf
    near_enough: float = 0.0
    straight_down: int = 5
    pivots: float = math.inf


def improve_by_menus(
    settled: Settled, effort: Effort = Effort(), told: Told | None = None
) -> Answer:
    """A settled week improved and bounded with so much effort, or until `told` says no. Never worse
    than it was. The bound is proven whatever stops the search: no week that misses no more and is
    about as varied costs less.
    """
    if not settled.menus:  # no day has a meal
        return settled.week
    search = MenuSearch(settled, effort, told)
    search.run()
    return checked_week(search.answer())


class MenuSearch:
    """The whole search: what is known (best week, bound), and what is open."""

    def __init__(self, settled: Settled, effort: Effort, told: Told | None) -> None:
        self.effort, self.settled = effort, settled
        self.question, self.best, self.told = settled.week.question, settled.week, told
        self.began = time.perf_counter()
        self.bound, self.closed = -math.inf, math.inf
        self.open: list[OpenNode] = []
        self.now: OpenNode | None = None
        self.below: OpenNode | None = None  # what a way straight down goes on with
        self.going_down = False
        self.down_each = effort.straight_down
        self.down_at = effort.straight_down - 1  # nodes worked on before the next such way
        self.down_from = math.inf  # the best points when the last one began
        self.worked = self.count = 0
        self.gains: Gains = {}
        self.at_root: tuple[float, list[Floats]] | None = None
        self.offered: set[frozenset[tuple[int, ...]]] = set()

    def run(self) -> None:
        """Search until nothing is open, or the time is over."""
        try:
            self._prepare()
            while self.open:
                self.now = self._next()
                self.look_up()
                if self.now.bound >= self.room() or not self._went_on(self.now):
                    self.closed = min(self.closed, self.now.bound)
                self.now = None
            self.look_up()
        except _OverError:
            pass

    def _next(self) -> OpenNode:
        """The next node: straight down from the last one, or that with the lowest bound."""
        below, self.below = self.below, None
        if below is not None and below.bound < self.room():
            self.open.remove(below)
            heapq.heapify(self.open)
            return below
        if self.going_down:  # that way has ended
            each = self.effort.straight_down
            in_vain = self.best.points >= self.down_from and each > 1
            self.down_each = min(2 * self.down_each, MOST_BETWEEN) if in_vain else each
            self.down_at = self.worked + self.down_each - 1
        self.going_down = self.worked >= self.down_at
        self.down_from = self.best.points
        return heapq.heappop(self.open)

    def _prepare(self) -> None:
        """Every menu, and the master program with the week that is there."""
        self.model = self.settled.model
        self.slot_of = {variable: place for place, variable in self.model.cells.items()}
        self.dish_of = np.full(len(self.model.program.costs), -1, dtype=np.int32)
        for (slot, n), variable in self.model.cells.items():
            self.dish_of[variable] = self.model.choices[slot][n].dish
        self.master = Master(self.model, sorted({slot[0] for slot in self.question.slots}))
        self.menus = self.near = self._without_the_dear(self._marked(self.settled.menus))
        self.whole = np.zeros(len(self.master.others), dtype=bool)
        for group in (self.model.fires, self.model.mains, self.model.new, self.model.pots):
            self.whole[[self.master.place[variable] for variable in group.values()]] = True
        self._add_week(self.best)
        lower, upper = self.master.lower.copy(), self.master.upper.copy()
        self.open = [OpenNode(self.bound, 0, (), lower, upper)]

    def _marked(self, menus: Sequence[DayMenus]) -> list[DayMenus]:
        """The menus with their marks for what they miss, on days where not all miss the same."""
        found = []
        for one in menus:
            marks = [self.settled.marks.get((one.day, rank), -1) for rank in one.ranks.tolist()]
            cells = np.vstack([one.cells, np.array(marks, dtype=np.int32)])
            found.append(one if -1 in marks else replace(one, cells=cells))
        return found

    def _without_the_dear(self, menus: list[DayMenus]) -> list[DayMenus]:
        """Without those that cost more than the week that is there, the other days at their
        cheapest.
        """
        least = [float(one.costs.min()) for one in menus]
        room = self.best.points - self.model.constant - sum(least)
        return [
            one.kept(one.costs - low <= room + CLOSE) for one, low in zip(menus, least, strict=True)
        ]

    def _add_week(self, week: Answer) -> None:
        """The days of a week as columns."""
        found, lines = [], miss_lines(self.question)
        for day in self.master.days:
            cells, sums = [], np.zeros(len(self.question.keys))
            choices = []
            for slot, options in self.model.choices.items():
                if slot[0] == day:
                    n = place_among(options, week.chosen[slot])
                    cells.append(self.model.cells[slot, n])
                    sums += options[n].vector
                    choices.append((slot, options[n]))
            costs = sum(self.model.program.costs[cell] for cell in cells)
            costs += cost_of_day(self.question.day_prices, sums.tolist())
            rank = misses_of_day(self.question, lines, choices).packed()
            column = np.array(cells, dtype=np.int32)[:, None]
            found.append(DayMenus(day, column, np.array([costs]), np.array([rank])))
        self.master.add(self._marked(found))

    def look_up(self) -> None:
        """Tell how far the search is. Raises _OverError when it is over."""
        passed = time.perf_counter() - self.began
        waiting = [node.bound for node in self.open[:1]] + ([self.now.bound] if self.now else [])
        lowest_open = min([*waiting, self.closed, self.best.points])
        self.bound = max(self.bound, lowest_open)
        if self.told is not None and not self.told(passed, self.best.points, self.bound):
            raise _OverError
        effort = self.effort
        near = self.best.points - self.bound <= effort.near_enough * self.best.points
        if near and effort.near_enough and self.worked > 1:
            raise _OverError
        if passed > effort.seconds or self.worked >= effort.steps:
            raise _OverError
        if self.master.pivots >= effort.pivots:
            raise _OverError

    def room(self) -> float:
        """How dear a week may be that is still worth looking for."""
        return self.best.points - max(CLOSE, CLOSE * self.best.points)

    def _went_on(self, node: OpenNode) -> bool:
        """Solve a node with all its menus and leave the two ways on from it; False where it is
        closed instead, with its bound.
        """
        work = NodeWork(self, node)
        relaxed = work.converge()
        if relaxed is None:
            return False
        self.offer_largest(relaxed)
        self.worked += 1
        self.look_up()
        work.fix()
        if node.bound >= self.room():
            return False
        left = work.menus if work.few else None
        decisions = ways_on(work, relaxed)
        for likelier, decision in zip((True, False), decisions, strict=False):
            self.count += 1
            lower, upper = work.lower.copy(), work.upper.copy()
            if decision.kind == "other":
                lower[decision.which], upper[decision.which] = decision.low, decision.high
            taken = (*node.decisions, decision)
            below = OpenNode(node.bound, self.count, taken, lower, upper, left)
            heapq.heappush(self.open, below)
            if likelier and self.going_down:
                self.below = below
        return bool(decisions)

    def offer_largest(self, relaxed: Relaxed) -> None:
        """Offer the largest column of every day as a week."""
        largest = self.master.largest(relaxed)
        days = frozenset(largest.values())
        if len(largest) == len(self.menus) and days not in self.offered:
            self.offered.add(days)
            self._offer([*largest.values()])

    def _offer(self, days: Sequence[Sequence[int]]) -> None:
        """A week of these cells: kept where it is better than the best, and nothing is worse."""
        chosen: dict[Slot, Choice] = {}
        for cells in days:
            for variable in cells:
                if int(variable) in self.slot_of:
                    slot, n = self.slot_of[int(variable)]
                    chosen[slot] = self.model.choices[slot][n]
        found = answer_of(self.question, chosen)
        better = found.points < self.best.points - CLOSE / 10
        if better and self.settled.allows(found) and not broken_rules(found):
            self.best = found
            self._add_week(self.best)
            self.narrow(self.at_root)

    def narrow(self, at_root: tuple[float, list[Floats]] | None) -> None:
        """Leave out for good the menus that no better week can hold, by the bound and the reduced
        costs at the root.
        """
        if at_root is None:
            return
        bound, reduced = at_root
        room = self.best.points - bound
        marks = [costs - costs.min() <= room for costs in reduced]
        reduced = [costs[mark] for costs, mark in zip(reduced, marks, strict=True)]
        self.menus = [one.kept(mark) for one, mark in zip(self.menus, marks, strict=True)]
        self.at_root = bound, reduced
        self.near = []
        for one, costs in zip(self.menus, reduced, strict=True):
            mark = np.zeros(len(costs), dtype=bool)
            mark[lowest(costs, NEAR)] = True
            self.near.append(one.kept(mark))

    def answer(self) -> Answer:
        """The best week, with what is proven of it."""
        if self.bound == -math.inf or not self.settled.whole:
            return self.best
        return replace(self.best, bound=max(0.0, min(self.bound, self.best.points)))
