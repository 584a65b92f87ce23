"""The week as a constraint program, solved by OR-Tools CP-SAT: one menu a day out of a list, under
the same rows that hold the days together in every program of a week.

One worker, and limits in the solver's own deterministic time: the same question gets the same
answer on every machine. The solver is loaded here, when it is asked for, and nowhere else.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from importlib import import_module
from typing import Any

from dietetics.week.question.priorities import BITS
from dietetics.week.search.day_menus import DayMenus
from dietetics.week.search.week_rows import Model

SEED = 7
FINE = 10**9  # shares of a pot are counted in whole billionths
A_POINT = 1000  # points are counted in whole thousandths
MISSING_UNIT = 1000  # of what is missing of a pot, in a whole one
A_MISS = 10**3  # against one meal without a dish
FOREMOST = 2 * BITS  # what stands above these bits of a rank: meals and required targets
EXTRAS = 256  # above the most batches that evenings can take too many
SMALL = 1e-9
# How many rows are relaxed to linear ones. All of them prove in a tenth of the time what a search
# with none may not; with none or some, a good week is found sooner.
NO_ROWS, SOME_ROWS, ALL_ROWS = 0, 1, 2
# Beside relaxations, what prepares a long search costs more than it saves.
SETTINGS = {
    "symmetry_level": 0,
    "cp_model_probing_level": 0,
    "max_presolve_iterations": 1,
}


def lacking_of(lacks: tuple[float, int]) -> int:
    """What a week lacks (`Answer.lacking`), in one number."""
    missing, empty = lacks
    return -int(-missing * MISSING_UNIT // 1) * A_MISS + empty


def lacks_of(lacking: int) -> tuple[float, int]:
    """What a number of `lacking_of` stands for."""
    missing, empty = divmod(lacking, A_MISS)
    return missing / MISSING_UNIT, empty


@dataclass(frozen=True)
class Found:
    """What the solver says: the menus chosen by day, the value of what was to be least, what it
    cannot be less than, and every variable that is no cell. No menus where it found none.
    """

    menus: Mapping[int, int]
    value: int
    least: int
    others: Mapping[int, int]

    @property
    def proven(self) -> bool:
        """True where nothing less is possible with these menus."""
        return bool(self.menus) and self.value <= self.least


class PriorityProgram:
    """Built once for a list of menus; what is to be least, and what may no longer grow, change
    from one solve to the next.
    """

    def __init__(
        self, model: Model, menus: Sequence[DayMenus], may_lack: bool, may_miss: bool
    ) -> None:
        self.cp = import_module("ortools.sat.python.cp_model")
        self.model, self.menus = model, menus
        self.program = self.cp.CpModel()
        self.chosen: dict[int, list[Any]] = {}
        self.variables: dict[int, Any] = {}
        self.shared: list[int] = []  # cells that several menus hold
        self._choose_menus()
        self._others(may_lack, may_miss)
        self._rows()

    def _choose_menus(self) -> None:
        """One menu a day; a cell has what the chosen one has there."""
        program = self.program
        for day in self.menus:
            names = [program.new_bool_var("") for _ in day.costs]
            self.chosen[day.day] = names
            program.add_exactly_one(names)
            holding: dict[int, list[Any]] = {}
            for name, cells in zip(names, day.cells.T.tolist(), strict=True):
                for cell in cells:
                    holding.setdefault(cell, []).append(name)
            for cell, held in holding.items():
                if len(held) == 1:
                    self.variables[cell] = held[0]
                else:
                    there = self.variables[cell] = program.new_bool_var("")
                    self.shared.append(cell)
                    program.add(sum(held) == there)

    def _others(self, may_lack: bool, may_miss: bool) -> None:
        """Everything that is no cell. What is missing of pots, and batches above what an evening
        takes, are nothing unless they have to be.
        """
        program, cells = self.model.program, self.model.of_menus()
        missing, extra = set(self.model.missing), set(self.model.extra)
        for j in range(len(program.costs)):
            if j in cells:
                continue
            low, high = round(program.lower[j]), round(program.upper[j])
            if j in missing:
                high *= MISSING_UNIT
            if (j in missing and not may_miss) or (j in extra and not may_lack):
                high = low
            self.variables[j] = self.program.new_int_var(low, high, "")

    def _rows(self) -> None:
        program = self.model.program
        missing = set(self.model.missing)
        for row in range(len(program.row_lower)):
            span = slice(program.starts[row], program.starts[row + 1])
            terms = [
                (self.variables[j], value / MISSING_UNIT if j in missing else value)
                for j, value in zip(program.indices[span], program.values[span], strict=True)
                if j in self.variables
            ]
            self._add(terms, program.row_lower[row], program.row_upper[row])

    def _add(self, terms: Sequence[tuple[Any, float]], lower: float, upper: float) -> None:
        """A row in whole numbers, rounded so that nothing is kept out for a rounding."""
        whole = all(abs(value - round(value)) < SMALL for _, value in terms)
        unit = 1 if whole else FINE
        names = [name for name, _ in terms]
        values = [round(value * unit) for _, value in terms]
        low = -(2**62) if lower == float("-inf") else -int(-lower * unit + SMALL)
        high = 2**62 if upper == float("inf") else int(upper * unit + SMALL)
        if lower > 0:
            low = round(lower * unit)
        weighted = self.cp.LinearExpr.weighted_sum(names, values)
        self.program.add_linear_constraint(weighted, low, high)

    def lacking(self) -> Any:
        """What is missing of pots, then meals without a dish, in one number."""
        missing = [self.variables[j] for j in self.model.missing]
        empty = [self.variables[j] for j in self.model.empty if j in self.variables]
        return A_MISS * sum(missing) + sum(empty)

    def foremost(self, least: Mapping[int, int]) -> Any:
        """What meals and required targets miss above the least of each day by itself, then batches
        above what an evening takes, in one number.
        """
        names, values = list[Any](), list[int]()
        for day in self.menus:
            names += self.chosen[day.day]
            values += ((day.ranks >> FOREMOST) - (least[day.day] >> FOREMOST)).tolist()
        missed = self.cp.LinearExpr.weighted_sum(names, values)
        return EXTRAS * missed + sum(self.variables[j] for j in self.model.extra)

    def missed(self, least: Mapping[int, int]) -> Any:
        """What is missed above the least that each day by itself would, packed."""
        names, values = list[Any](), list[int]()
        for day in self.menus:
            names += self.chosen[day.day]
            values += (day.ranks - least[day.day]).tolist()
        return self.cp.LinearExpr.weighted_sum(names, values)

    def variety(self) -> Any:
        """What variety lacks, in thousandths of a point."""
        return self._points(self.model.variety)

    def points(self) -> Any:
        """All points, in thousandths."""
        cells = self.model.of_menus()
        costs = self.model.program.costs
        there = self._points(j for j in range(len(costs)) if j not in cells and costs[j])
        names = [name for day in self.menus for name in self.chosen[day.day]]
        values = [round(cost * A_POINT) for day in self.menus for cost in day.costs.tolist()]
        return there + self.cp.LinearExpr.weighted_sum(names, values)

    def _points(self, which: Any) -> Any:
        costs, missing = self.model.program.costs, set(self.model.missing)
        parts = [
            (self.variables[j], round(costs[j] * A_POINT / (MISSING_UNIT if j in missing else 1)))
            for j in which
        ]
        return self.cp.LinearExpr.weighted_sum([a for a, _ in parts], [b for _, b in parts])

    def hold(self, what: Any, most: int) -> None:
        """From here on it may not be more than so much."""
        self.program.add(what <= most)

    def hint(self, menus: Mapping[int, int], others: Mapping[int, int]) -> None:
        """Begin the next solve with these menus, and what else goes with them."""
        self.program.clear_hints()
        for day, names in self.chosen.items():
            for n, name in enumerate(names):
                self.program.add_hint(name, int(menus.get(day) == n))
        for j, value in others.items():
            self.program.add_hint(self.variables[j], value)
        there = {c for day in self.menus for c in day.cells[:, menus[day.day]].tolist()}
        for cell in self.shared:
            self.program.add_hint(self.variables[cell], int(cell in there))

    def any_week(self, work: float) -> Found:
        """Any menus with which everything holds that is held."""
        return self.least(0, work, NO_ROWS)

    def least(self, what: Any, work: float, relaxed: int = ALL_ROWS) -> Found:
        """The menus with which something is least, within so much deterministic work."""
        self.program.minimize(what)
        solver = self.cp.CpSolver()
        solver.parameters.num_workers = 1
        solver.parameters.random_seed = SEED
        solver.parameters.max_deterministic_time = work
        solver.parameters.linearization_level = relaxed
        for name, value in SETTINGS.items():
            setattr(solver.parameters, name, value)
        status = solver.solve(self.program)
        if status not in (self.cp.OPTIMAL, self.cp.FEASIBLE):
            return Found({}, 0, 0, {})
        menus = {
            day: next(n for n, name in enumerate(names) if solver.boolean_value(name))
            for day, names in self.chosen.items()
        }
        least = round(solver.best_objective_bound)
        cells = self.model.of_menus()
        others = {j: solver.value(name) for j, name in self.variables.items() if j not in cells}
        return Found(menus, round(solver.objective_value), least, others)
