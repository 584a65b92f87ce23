"""From a node straight down to a whole week: what is nearly there is taken, what is hardly there is
given up, and the rest solved again, until nothing is left in parts.
"""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np

from dietetics.week.day_menus import DayMenus, Floats
from dietetics.week.master_program import Relaxed
from dietetics.week.menu_branching import WHOLE
from dietetics.week.menu_node import NodeWork, lowest

MOST_STEPS, ROUNDS_OF_A_STEP, ADDED = 60, 3, 10  # ADDED: menus a day and round
NEAR = 8_000  # menus of a day that are looked at
WORTH_POLISHING = 1.04  # a week found, as a multiple of the best


@dataclass(frozen=True)
class Style:
    """What a dive settles first: fires and main dishes "together", whole "days", "mains" or
    "fires". Of a fire or dish, what is under `hardly` is given up together with the step.
    """

    first: str
    hardly: float = 0.15


STYLES = (Style("together"), Style("days"), Style("together", 0.3), Style("fires"))


def dive(work: NodeWork, relaxed: Relaxed, style: Style) -> None:
    """Offer the search a whole week from below this node, if one is found that is cheap enough.

    No style is the best everywhere, so a search takes them in turn.
    """
    _Dive(work, style).down(relaxed)
    work.put_back()


class _Dive:
    def __init__(self, work: NodeWork, style: Style) -> None:
        model = work.search.model
        fires, mains = list(model.fires.values()), list(model.mains.values())
        groups = {"together": [[*fires, *mains]], "mains": [mains, fires]}
        self.groups = [*groups.get(style.first, [fires, mains]), list(model.new.values())]
        self.days_first, self.hardly = style.first == "days", style.hardly
        self.work, self.search, self.master = work, work.search, work.master
        self.lower, self.upper = work.lower.copy(), work.upper.copy()
        self.taken: dict[int, int] = {}  # the column of each day that is settled
        _, reduced = work.last
        self.menus: list[DayMenus] = []
        for one, costs in zip(work.menus, reduced, strict=True):
            where = np.zeros(len(costs), dtype=bool)
            where[lowest(costs, NEAR)] = True
            self.menus.append(one.kept(where))

    def down(self, relaxed: Relaxed) -> None:
        """Step by step, while it can still end in a better week."""
        most = self.search.best.points * WORTH_POLISHING - self.search.model.constant
        for _ in range(MOST_STEPS):
            if not self._step(relaxed):
                self.search.offer_largest(relaxed, WORTH_POLISHING)
                return
            found = self._solved()
            if found is None or found.points > most:
                return
            relaxed = found

    def _solved(self) -> Relaxed | None:
        """Solve with a few rounds of menus for the days that are not settled."""
        added, relaxed = False, None
        for _ in range(ROUNDS_OF_A_STEP):
            self._bring()
            relaxed = self.master.solve(added)
            if relaxed is None or math.isinf(relaxed.points):
                return None
            self.search.look_up()
            open_days = [one for one in self.menus if one.day not in self.taken]
            added = self.work.add_worthy(relaxed, open_days, ADDED) > 0
            if not added:
                return relaxed
        self._bring()
        return self.master.solve(True)

    def _bring(self) -> None:
        """The master program as this step has it."""
        self.master.bound_others(self.lower, self.upper)
        days, _ = self.master.table()
        allowed = np.ones(len(days), dtype=bool)
        allowed[: len(self.work.allowed)] = self.work.allowed
        for day, column in self.taken.items():
            allowed &= (days != day) | (np.arange(len(days)) == column)
        self.master.allow(allowed)

    def _step(self, relaxed: Relaxed) -> bool:
        """Settle what is nearly whole; False where nothing is left in parts."""
        if self.days_first and self._settle_day(relaxed):
            return True
        if any(self._settle_one(relaxed, group) for group in self.groups):
            return True
        return self._more_pots(relaxed) or self._settle_day(relaxed)

    def _values(self, relaxed: Relaxed, variables: Iterable[int]) -> tuple[np.ndarray, Floats]:
        places = np.array([self.master.place[one] for one in variables], dtype=int)
        return places, relaxed.others[places]

    def _settle_one(self, relaxed: Relaxed, variables: Iterable[int]) -> bool:
        places, values = self._values(relaxed, variables)
        parts = (values > WHOLE) & (values < 1 - WHOLE)
        if not parts.any():
            return False
        self.upper[places[parts & (values < self.hardly)]] = 0.0
        largest = places[np.argmax(np.where(parts, values, -1.0))]
        self.lower[largest] = self.upper[largest] = 1.0
        return True

    def _more_pots(self, relaxed: Relaxed) -> bool:
        places, values = self._values(relaxed, self.search.model.pots.values())
        parts = np.abs(values - np.round(values)) > WHOLE
        if not parts.any():
            return False
        one = int(np.argmax(np.where(parts, values - np.floor(values), -1.0)))
        self.lower[places[one]] = math.ceil(values[one])
        return True

    def _settle_day(self, relaxed: Relaxed) -> bool:
        best, column = 0.0, -1
        for n, share in enumerate(relaxed.shares):
            if self.master.columns[n][0] not in self.taken and best < share < 1 - WHOLE:
                best, column = float(share), n
        if column < 0:
            return False
        self.taken[self.master.columns[column][0]] = column
        return True
