"""One node of the search by whole days: what has been decided on the way to it, and its solve with
every menu that those decisions leave.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, field
from typing import TYPE_CHECKING

import numpy as np
from numpy.typing import NDArray

from dietetics.week.search.day_menus import DayMenus, Floats, Whole
from dietetics.week.search.master_program import Relaxed, reduced_costs, signed

if TYPE_CHECKING:
    from dietetics.week.search.menu_search import MenuSearch

Marks = NDArray[np.bool_]
CLOSE = 1e-4  # of the points, or of a point: a week so near to its bound is the best
AT_THE_ROOT, IN_A_NODE = 60, 40  # menus added a day and round
MOST_ROUNDS = 200
HANDED_DOWN = 20_000  # menus that a node leaves to the two below it; more are found again
MOST_COLUMNS = 2_500  # above, those that are far from being chosen are taken out


@dataclass(frozen=True)
class Decision:
    """One step down the tree. `kind` is "other" for the bounds of a variable, "dish" for a dish on
    a day (`high` 1) or not (0), "cell" for one choice of a cell or not.
    """

    kind: str
    which: int
    low: float = 0.0
    high: float = 0.0
    day: int = -1


@dataclass(order=True)
class OpenNode:
    """A node that waits for its turn. No week below it costs less than `bound`. `menus` are those
    that are left; None where they are found again from those of the root.
    """

    bound: float
    number: int
    decisions: tuple[Decision, ...] = field(compare=False)
    lower: Floats = field(compare=False)
    upper: Floats = field(compare=False)
    menus: list[DayMenus] | None = field(compare=False, default=None)


class NodeWork:
    """A node while it is worked on: its bounds, its menus, its solves.

    `near` are the menus that were nearest to being chosen at the root; they are priced first, all
    of them only when those give nothing more.
    """

    def __init__(self, search: MenuSearch, node: OpenNode) -> None:
        self.search, self.node, self.master = search, node, search.master
        self.lower, self.upper = node.lower, node.upper
        if node.menus is None:
            self.menus = self._left(search.menus, node.decisions)
            self.near = self._left(search.near, node.decisions)
        else:
            self.menus = self.near = self._left(node.menus, node.decisions[-1:])
        if len(self.master.columns) > MOST_COLUMNS:
            self.master.purge(MOST_COLUMNS // 2)
        self._bring()

    def _left(self, menus: list[DayMenus], decisions: tuple[Decision, ...]) -> list[DayMenus]:
        for one in decisions:
            if one.kind != "other":
                menus = [
                    day.kept(self._fits(day.cells, one)) if day.day == one.day else day
                    for day in menus
                ]
        return menus

    def _fits(self, cells: Whole, one: Decision) -> Marks:
        """Which menus of a day keep a decision about a dish or a cell."""
        there = (
            self.search.dish_of[cells] == one.which if one.kind == "dish" else cells == one.which
        )
        found: Marks = there.any(axis=0) == bool(one.high)
        return found

    def _bring(self) -> None:
        """Bounds and columns of the master program as this node has them."""
        self.master.bound_others(self.lower, self.upper)
        days, cells = self.master.table()
        allowed = np.ones(len(days), dtype=bool)
        for one in self.node.decisions:
            if one.kind != "other":
                allowed &= (days != one.day) | self._fits(cells, one)
        self.master.allow(allowed)

    def converge(self) -> Relaxed | None:
        """Add menus until none would better the solve; None where the node is closed by then."""
        search, node = self.search, self.node
        if any(len(one.costs) == 0 for one in self.menus) or np.any(self.lower > self.upper):
            node.bound = math.inf
            return None
        most = IN_A_NODE if node.decisions else AT_THE_ROOT
        relaxed, added = None, False
        for _ in range(MOST_ROUNDS):
            relaxed = self.master.solve(added)
            if relaxed is None or math.isinf(relaxed.points):
                node.bound = node.bound if relaxed is None else math.inf
                return None
            added = self.near is not self.menus and self._add_worthy(relaxed, self.near, most) > 0
            if added:
                search.look_up()
                continue
            reduced = self._bounded(relaxed)
            search.look_up()
            if node.bound >= search.room():
                return None
            if relaxed.points + search.model.constant - node.bound < CLOSE / 10:
                break
            added = self._add(self.menus, reduced, most) > 0
            if not added:
                break
        return relaxed

    def _bounded(self, relaxed: Relaxed) -> list[Floats]:
        """The reduced cost of every menu; what no week of the node costs less than is noted."""
        master = self.master
        prices = signed(relaxed.row_prices, master.row_lower, master.row_upper)
        least, self.reduced_others = master.least_without_days(prices, self.lower, self.upper)
        cells = master.cell_prices(prices)
        reduced = [reduced_costs(one, cells) for one in self.menus]
        bound = least + self.search.model.constant + sum(float(one.min()) for one in reduced)
        self.last = bound, reduced
        self.node.bound = max(self.node.bound, bound)
        return reduced

    def _add_worthy(self, relaxed: Relaxed, menus: list[DayMenus], most: int) -> int:
        """Add the menus of these that would better a solve; how many there were."""
        prices = signed(relaxed.row_prices, self.master.row_lower, self.master.row_upper)
        cells = self.master.cell_prices(prices)
        worthy, reduced = [], []
        for one in menus:
            costs = reduced_costs(one, cells)
            better = costs < relaxed.day_prices[self.master.days[one.day]] - CLOSE / 10
            if better.any():
                worthy.append(one.kept(better))
                reduced.append(costs[better])
        return self._add(worthy, reduced, most)

    def _add(self, menus: list[DayMenus], reduced: list[Floats], most: int) -> int:
        return self.master.add(
            [one.kept(lowest(costs, most)) for one, costs in zip(menus, reduced, strict=True)]
        )

    def fix(self) -> None:
        """Leave out what no better week of this node can hold: menus, and ways of the other
        variables; at the root for good.
        """
        bound, reduced = self.last
        room = self.search.best.points - bound
        whole, costs = self.search.whole, self.reduced_others
        self.upper = np.where(whole & (costs > room), self.lower, self.upper)
        self.lower = np.where(whole & (-costs > room), self.upper, self.lower)
        if not self.node.decisions:
            self.search.narrow(self.last)
            self.menus, self.near = self.search.menus, self.search.near
            self.few = sum(len(one.costs) for one in self.menus) <= HANDED_DOWN
            return
        marks = [costs - costs.min() <= room for costs in reduced]
        self.few = sum(int(mark.sum()) for mark in marks) <= HANDED_DOWN
        if self.few:
            self.menus = [one.kept(mark) for one, mark in zip(self.menus, marks, strict=True)]


def lowest(costs: Floats, most: int) -> NDArray[np.intp]:
    """The places of the lowest of the costs."""
    if len(costs) <= most:
        return np.arange(len(costs))
    return np.argpartition(costs, most)[:most]
