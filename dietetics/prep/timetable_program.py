"""The timetable as a constraint program, solved by OR-Tools CP-SAT with one worker and a limit in
the solver's own deterministic time: the same question gets the same answer on every machine.

The solver and what it brings are loaded here, when they are asked for, and nowhere else.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from importlib import import_module
from itertools import combinations
from typing import Any

from dietetics.prep.tasks import BLENDER, OVEN, Task
from dietetics.prep.timetable import OVEN_CHANGE_MIN, Asked

WORK = 0.5  # deterministic seconds for the length: about five of a slow processor
TIDY_WORK = 0.15  # and for the ties
SEED = 7
DISH_WEIGHT, BLENDER_WEIGHT = 100, 20  # of a minute's spread, against one of a start


@dataclass(frozen=True)
class Solved:
    """What the solver said. `status` is one of "optimal", "feasible", "infeasible", "unknown" and
    "invalid"; `least` is its bound on the length, 0 where it has none.
    """

    status: str
    starts: Mapping[str, int]
    ovens: Mapping[str, int]
    least: int


def solve(
    asked: Asked, hint: Mapping[str, int], hint_ovens: Mapping[str, int], horizon: int
) -> Solved:
    """The shortest timetable within `horizon` minutes, begun from one that is there."""
    cp = import_module("ortools.sat.python.cp_model")
    model = _Model(cp, asked, horizon)
    model.hint(hint, hint_ovens)
    model.program.minimize(model.length)
    solver, status = _run(cp, model.program, WORK)
    if status in ("infeasible", "unknown", "invalid"):
        least = 0 if status != "unknown" else max(0, int(solver.best_objective_bound))
        return Solved(status, {}, {}, least)
    return Solved(status, *model.answer(solver), round(solver.best_objective_bound))


def tidied(
    asked: Asked, starts: Mapping[str, int], ovens: Mapping[str, int], length: int
) -> Solved:
    """A timetable no longer than `length` in which dishes are done in one go as far as may be."""
    cp = import_module("ortools.sat.python.cp_model")
    model = _Model(cp, asked, length)
    model.hint(starts, ovens)
    model.program.minimize(model.jumping())
    solver, status = _run(cp, model.program, TIDY_WORK)
    if status not in ("optimal", "feasible"):
        return Solved(status, {}, {}, 0)
    return Solved(status, *model.answer(solver), 0)


def _run(cp: Any, program: Any, work: float) -> tuple[Any, str]:
    solver = cp.CpSolver()
    solver.parameters.num_workers = 1
    solver.parameters.random_seed = SEED
    solver.parameters.max_deterministic_time = work
    status = solver.solve(program)
    names = {
        cp.OPTIMAL: "optimal",
        cp.FEASIBLE: "feasible",
        cp.INFEASIBLE: "infeasible",
        cp.MODEL_INVALID: "invalid",
        cp.UNKNOWN: "unknown",
    }
    return solver, names[status]


class _Model:
    """The constraint program of a question; formulas in docs/mathematics.md."""

    def __init__(self, cp: Any, asked: Asked, horizon: int) -> None:
        self.asked, self.program = asked, cp.CpModel()
        self.start: dict[str, Any] = {}
        self.in_oven: dict[tuple[str, int], Any] = {}
        for task in asked.tasks:
            if task.key in asked.started:
                at = asked.started[task.key]
                self.start[task.key] = self.program.new_int_var(at, at, task.key)
            else:
                low, high = asked.earliest(task), horizon - task.minutes
                self.start[task.key] = self.program.new_int_var(low, max(low, high), task.key)
        self.length = self.program.new_int_var(0, horizon, "length")
        self._order()
        self._hands_and_devices()
        self._ovens()

    def _order(self) -> None:
        for task in self.asked.tasks:
            at = self.start[task.key]
            self.program.add(self.length >= at + task.minutes)
            if task.key in self.asked.started:
                continue
            ends = []
            for key in task.after:
                end = self.start[key] + self.asked.by_key[key].minutes
                self.program.add(at >= end)
                ends.append(end)
            if task.within is not None and ends:
                last = self.program.new_int_var(0, 10**6, f"{task.key} ready")
                counted = [
                    end
                    for key, end in zip(task.after, ends, strict=True)
                    if task.behind in (key, "") or task.behind not in task.after
                ]
                self.program.add_max_equality(last, counted)
                self.program.add(at <= last + task.within)

    def _span(self, task: Task, name: str, of_hands: bool) -> Any:
        start, end = (0, task.hands_min) if of_hands else self.asked.from_to(task, 0)
        return self.program.new_fixed_size_interval_var(
            self.start[task.key] + start, end - start, f"{task.key} {name}"
        )

    def _hands_and_devices(self) -> None:
        kitchen = self.asked.kitchen
        hands = [self._span(t, "hands", True) for t in self.asked.tasks if t.hands_min]
        self.program.add_cumulative(hands, [1] * len(hands), kitchen.cooks)
        for device in kitchen.devices:
            if device == OVEN:
                continue
            spans = [self._span(t, device, False) for t in self.asked.tasks if t.device == device]
            if spans:
                self.program.add_cumulative(spans, [1] * len(spans), kitchen.count(device))

    def _ovens(self) -> None:
        users = [task for task in self.asked.tasks if task.device == OVEN]
        for task in users:
            here = [
                self.program.new_bool_var(f"{task.key} in {k}")
                for k in range(self.asked.kitchen.ovens)
            ]
            self.program.add_exactly_one(here)
            for k, chosen in enumerate(here):
                self.in_oven[task.key, k] = chosen
        for k in range(self.asked.kitchen.ovens):
            spans, trays = [], []
            for task in users:
                start, end = self.asked.from_to(task, 0)
                spans.append(
                    self.program.new_optional_fixed_size_interval_var(
                        self.start[task.key] + start,
                        end - start,
                        self.in_oven[task.key, k],
                        f"{task.key} oven {k}",
                    )
                )
                trays.append(task.trays)
            if spans:
                self.program.add_cumulative(spans, trays, self.asked.kitchen.trays)
            for one, other in combinations(users, 2):
                if one.celsius != other.celsius:
                    self._apart(one, other, k)

    def _apart(self, one: Task, other: Task, oven: int) -> None:
        """Two heats in one oven: one is out, and the heat changed, before the other goes in."""
        first = self.program.new_bool_var(f"{one.key} before {other.key} in {oven}")
        both = [self.in_oven[one.key, oven], self.in_oven[other.key, oven]]
        for earlier, later, when in ((one, other, first), (other, one, first.negated())):
            _, out = self.asked.from_to(earlier, 0)
            into, _ = self.asked.from_to(later, 0)
            self.program.add(
                self.start[later.key] + into >= self.start[earlier.key] + out + OVEN_CHANGE_MIN
            ).only_enforce_if([*both, when])

    def jumping(self) -> Any:
        """Minutes from the first to the last task of each dish, added up: work that jumps between
        dishes makes them long. A fifth of the same for the blender, which is washed once where its
        uses follow each other; a hundredth of every start: nothing waits for nothing.
        """
        parts = [
            DISH_WEIGHT * self._spread(dish, [t for t in self.asked.tasks if t.dish == dish])
            for dish in dict.fromkeys(task.dish for task in self.asked.tasks)
        ]
        blended = [task for task in self.asked.tasks if task.device == BLENDER]
        if len(blended) > 1:
            parts.append(BLENDER_WEIGHT * self._spread("the blender", blended))
        return sum(parts) + sum(self.start.values())

    def _spread(self, name: str, tasks: list[Task]) -> Any:
        """Minutes from the first start of some tasks to the last end."""
        first = self.program.new_int_var(0, 10**6, f"{name} begins")
        last = self.program.new_int_var(0, 10**6, f"{name} ends")
        for task in tasks:
            self.program.add(first <= self.start[task.key])
            self.program.add(last >= self.start[task.key] + task.minutes)
        return last - first

    def hint(self, starts: Mapping[str, int], ovens: Mapping[str, int]) -> None:
        """Where to begin."""
        for key, at in starts.items():
            self.program.add_hint(self.start[key], at)
        for (key, oven), chosen in self.in_oven.items():
            self.program.add_hint(chosen, int(ovens.get(key, 0) == oven))

    def answer(self, solver: Any) -> tuple[dict[str, int], dict[str, int]]:
        """Starts and ovens as whole numbers."""
        starts = {key: solver.value(at) for key, at in self.start.items()}
        ovens = {key: oven for (key, oven), chosen in self.in_oven.items() if solver.value(chosen)}
        return starts, ovens
