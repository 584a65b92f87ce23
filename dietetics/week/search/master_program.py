"""The master program of a week: one menu is chosen a day, and the rows that cross days hold.

Only some menus are columns of it at a time; its prices tell which others would better it, and how
much a week can cost at least, whatever menus are left out.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from importlib import import_module
from typing import Any

import numpy as np
from numpy.typing import NDArray

from dietetics.balance.solver import INFINITY, fresh_solver
from dietetics.week.search.day_menus import DayMenus, Floats, Whole
from dietetics.week.search.week_rows import Model

Column = tuple[int, tuple[int, ...]]  # the day of a menu, and the variables of its cells
STAND_IN = 50_000.0  # points: what stands in for a menu, or a use, that no column gives
SMALL = 1e-9
DEVEX, CHOSEN_BY_IT = 1, -1  # how the solver weighs the edges of the dual simplex method
# The solves are small, many and begin near their ends: what prepares a long one costs more here
# than it saves (about a sixth of the time of a first week).
OPTIONS = (
    ("presolve", "off"),
    ("solver", "simplex"),
    ("simplex_scale_strategy", 0),
    ("primal_simplex_bound_perturbation_multiplier", 0.0),
)


@dataclass(frozen=True)
class Relaxed:
    """The program solved without wholeness: its value, the other variables, what each column has,
    the prices of the rows and of the days.
    """

    points: float
    others: Floats
    shares: Floats
    row_prices: Floats
    day_prices: Floats


class Master:
    """Columns are added and taken out; bounds of the other variables may be moved and put back.

    `others` are the variables of the model that are not cells. Day by day, in the order of `days`,
    one row says that one menu is chosen.
    """

    def __init__(self, model: Model, days: Sequence[int]) -> None:
        self.highspy = import_module("highspy")
        program = model.program
        self.days = {day: n for n, day in enumerate(days)}
        in_cells = model.of_menus()
        self.others = np.array([j for j in range(len(program.costs)) if j not in in_cells])
        self.place = {int(j): n for n, j in enumerate(self.others)}
        kept = _crossing(model)
        rows = _dense(model, kept)
        self.row_lower = np.array(program.row_lower)[kept]
        self.row_upper = np.array(program.row_upper)[kept]
        self.costs = np.array(program.costs)[self.others]
        self.lower = np.array(program.lower)[self.others]
        self.upper = np.array(program.upper)[self.others]
        self.other_rows = rows[:, self.others]
        self.cell_rows = rows
        self.cell_rows[:, self.others] = 0.0
        self.columns: list[Column] = []
        self.there: set[Column] = set()
        self._table: tuple[Whole, Whole] | None = None
        self.pivots = 0  # steps of the simplex method so far
        self.solver = self._begun()

    def _begun(self) -> Any:
        """The solver with every row and all that is no menu."""
        helped = np.flatnonzero(
            np.isfinite(self.row_lower) & (self.cell_rows.max(axis=1) > 0)
        )  # rows that ask for dishes: a stand-in keeps them possible while no column has one
        self.stand_ins = len(helped) + len(self.days)
        solver = fresh_solver(INFINITY, 0)
        for name, value in OPTIONS:
            solver.setOptionValue(name, value)
        lp = self.highspy.HighsLp()
        rows, count = len(self.row_lower), len(self.others)
        lp.num_row_ = rows + len(self.days)
        lp.num_col_ = count + self.stand_ins
        ones = np.ones(len(self.days))
        lp.row_lower_ = np.concatenate([self.row_lower, ones])
        lp.row_upper_ = np.concatenate([self.row_upper, ones])
        lp.col_cost_ = np.concatenate([self.costs, np.full(self.stand_ins, STAND_IN)])
        lp.col_lower_ = np.concatenate([self.lower, np.zeros(self.stand_ins)])
        lp.col_upper_ = np.concatenate([self.upper, np.full(self.stand_ins, INFINITY)])
        starts, indices, values = [0], list[int](), list[float]()
        for column in range(count):
            there = np.flatnonzero(self.other_rows[:, column])
            indices += there.tolist()
            values += self.other_rows[there, column].tolist()
            starts.append(len(indices))
        for row in (*helped.tolist(), *range(rows, rows + len(self.days))):
            indices.append(row)
            values.append(1.0)
            starts.append(len(indices))
        lp.a_matrix_.format_ = self.highspy.MatrixFormat.kColwise
        lp.a_matrix_.start_ = np.array(starts, dtype=np.int32)
        lp.a_matrix_.index_ = np.array(indices, dtype=np.int32)
        lp.a_matrix_.value_ = np.array(values)
        if solver.passModel(lp) == self.highspy.HighsStatus.kError:
            raise RuntimeError("the solver refused the program")
        return solver

    @property
    def first_column(self) -> int:
        """Where the menus begin among the solver's columns."""
        return len(self.others) + self.stand_ins

    def add(self, menus: Sequence[DayMenus]) -> int:
        """Add the menus that are not there yet; how many were added."""
        parts, costs = [], []
        for one in menus:
            fresh = []
            for n, variables in enumerate(one.cells.T.tolist()):
                key = (one.day, tuple(variables))
                if key not in self.there:
                    self.there.add(key)
                    self.columns.append(key)
                    fresh.append(n)
            if fresh:
                found = np.zeros((len(fresh), len(self.row_lower) + len(self.days)))
                found[:, : len(self.row_lower)] = self._rows_of(one.cells[:, fresh]).T
                found[:, len(self.row_lower) + self.days[one.day]] = 1.0
                parts.append(found)
                costs.append(one.costs[fresh])
        if not parts:
            return 0
        self._table = None
        self._give(np.concatenate(parts), np.concatenate(costs))
        return sum(len(found) for found in parts)

    def _give(self, found: Floats, costs: Floats) -> None:
        """Give the solver columns (columns × rows) with their costs."""
        count = len(costs)
        columns, rows = np.nonzero(np.abs(found) > SMALL)
        self.solver.addCols(
            count,
            costs,
            np.zeros(count),
            np.full(count, INFINITY),
            len(rows),
            np.searchsorted(columns, np.arange(count)).astype(np.int32),
            rows.astype(np.int32),
            found[columns, rows],
        )

    def _rows_of(self, cells: Whole) -> Floats:
        """What every row counts of each menu (rows × menus)."""
        found = self.cell_rows[:, cells[0]]
        for meal in cells[1:]:
            found += self.cell_rows[:, meal]
        return found

    def bound_others(self, lower: Floats, upper: Floats) -> None:
        """Move the bounds of all other variables."""
        count = len(self.others)
        self.solver.changeColsBounds(count, np.arange(count, dtype=np.int32), lower, upper)

    def allow(self, allowed: NDArray[np.bool_]) -> None:
        """Let only the marked columns be chosen."""
        count = len(self.columns)
        where = np.arange(self.first_column, self.first_column + count, dtype=np.int32)
        upper = np.where(allowed, INFINITY, 0.0)
        self.solver.changeColsBounds(count, where, np.zeros(count), upper)

    def solve(self, added: bool = False, most_steps: int = 0) -> Relaxed | None:
        """Solve without wholeness, from where the last solve ended; None where the solver gave up.
        `added` tells that columns came since, `most_steps` ends a trial early.

        The points are infinite where the other variables contradict one another: whatever is asked
        of menus has a stand-in.
        """
        self.solver.setOptionValue("simplex_strategy", 4 if added else 1)
        self.solver.setOptionValue("simplex_iteration_limit", most_steps or 2_000_000)
        weights = (
            DEVEX if most_steps else CHOSEN_BY_IT
        )  # exact ones are dear where few steps follow
        self.solver.setOptionValue("simplex_dual_edge_weight_strategy", weights)
        self.solver.run()
        self.pivots += self.solver.getInfo().simplex_iteration_count
        status, kinds = self.solver.getModelStatus(), self.highspy.HighsModelStatus
        if status == kinds.kInfeasible:
            none = np.zeros(0)
            return Relaxed(INFINITY, none, none, none, none)
        if status not in (kinds.kOptimal, kinds.kIterationLimit):
            return None
        solution = self.solver.getSolution()
        values = np.array(solution.col_value)
        prices = np.array(solution.row_dual)
        return Relaxed(
            float(self.solver.getInfo().objective_function_value),
            values[: len(self.others)],
            values[self.first_column :],
            prices[: len(self.row_lower)],
            prices[len(self.row_lower) :],
        )

    def largest(self, relaxed: Relaxed) -> dict[int, tuple[int, ...]]:
        """The cells of the menu that has most of each day, where one has any."""
        best: dict[int, tuple[float, tuple[int, ...]]] = {}
        for (day, cells), share in zip(self.columns, relaxed.shares, strict=False):
            if share > best.get(day, (0.0, ()))[0]:
                best[day] = (float(share), cells)
        return {day: cells for day, (_, cells) in best.items()}

    def cell_prices(self, row_prices: Floats) -> Floats:
        """What the rows pay for each cell, by the variables of the model."""
        return _paid(row_prices, self.cell_rows)

    def least_without_days(
        self, prices: Floats, lower: Floats, upper: Floats
    ) -> tuple[float, Floats]:
        """Of any week at these prices, which have the signs of their rows: what the rows and the
        other variables cost at least, and the reduced costs of those variables. The days come on
        top.
        """
        held = np.where(prices > 0, self.row_lower, self.row_upper)
        rows = float((prices[prices != 0] * held[prices != 0]).sum())
        reduced = self.costs - _paid(prices, self.other_rows)
        others = float(np.where(reduced > 0, reduced * lower, reduced * upper).sum())
        return rows + others, reduced

    def purge(self, kept: int) -> None:
        """Take out the columns that the last prices leave far from being chosen."""
        costs = np.array(self.solver.getSolution().col_dual)[self.first_column :]
        if len(costs) == len(self.columns) > kept:
            self.remove(costs > max(np.partition(costs, kept)[kept], SMALL))

    def remove(self, gone: NDArray[np.bool_]) -> None:
        """Take the marked columns out."""
        if not gone.any():
            return
        where = np.flatnonzero(gone) + self.first_column
        basis = self.solver.getBasis()
        statuses = list(basis.col_status)
        self.solver.deleteCols(len(where), where.astype(np.int32))
        out = set(where.tolist())
        basis.col_status = [one for n, one in enumerate(statuses) if n not in out]
        self.solver.setBasis(basis)
        self.there -= {self.columns[n - self.first_column] for n in out}
        self.columns = [one for n, one in enumerate(self.columns) if not gone[n]]
        self._table = None

    def table(self) -> tuple[Whole, Whole]:
        """The day of every column, and the variables of its cells (meals × columns; -1 where a day
        has fewer meals).
        """
        if self._table is None:
            most = max((len(cells) for _, cells in self.columns), default=0)
            days = np.array([day for day, _ in self.columns], dtype=np.int32)
            padded = [(*cells, *[-1] * (most - len(cells))) for _, cells in self.columns]
            self._table = days, np.array(padded, dtype=np.int32).reshape(-1, most).T
        return self._table


def _paid(prices: Floats, rows: Floats) -> Floats:
    """What rows pay for each variable; most prices are nil."""
    there = np.flatnonzero(prices)
    found: Floats = np.einsum("r,rv->v", prices[there], rows[there])
    return found


def signed(prices: Floats, lower: Floats, upper: Floats) -> Floats:
    """Prices with the sign that their row allows: rounding is no reason for a bound too high."""
    prices = np.where(np.isinf(lower), np.minimum(prices, 0.0), prices)
    return np.where(np.isinf(upper), np.maximum(prices, 0.0), prices)


def _crossing(model: Model) -> Whole:
    """The rows that are not of the cells of one day alone: those are kept by every menu."""
    program = model.program
    day_of = [-1] * len(program.costs)
    for (slot, _), variable in model.cells.items():
        day_of[variable] = slot[0]
    found = []
    for row in range(len(program.row_lower)):
        span = slice(program.starts[row], program.starts[row + 1])
        days = {day_of[variable] for variable in program.indices[span]}
        if len(days) > 1 or days == {-1}:
            found.append(row)
    return np.array(found, dtype=np.int32)


def _dense(model: Model, rows: Whole) -> Floats:
    """Rows of the model in full (rows × variables)."""
    program = model.program
    starts = np.array(program.starts)
    indices, values = np.array(program.indices), np.array(program.values)
    found = np.zeros((len(rows), len(program.costs)))
    for n, row in enumerate(rows):
        span = slice(starts[row], starts[row + 1])
        found[n, indices[span]] = values[span]
    return found


def reduced_costs(menus: DayMenus, prices: Floats) -> Floats:
    """What each menu costs above what the rows pay for its cells."""
    found = menus.costs.copy()
    for row in menus.cells:
        found -= prices[row]
    return found
