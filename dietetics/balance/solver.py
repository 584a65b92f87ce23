"""The solver layer: a linear or mixed-integer program in, a checked status and values out. HiGHS
does the search.

`highspy` is loaded on the first solve, so that nothing else pays for it, and after a server has
forked. One thread, options set before the first solve, every status checked: other orders hang or
fail silently.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from importlib import import_module
from typing import Any

from dietetics.time_limits import limit_s

INFINITY = math.inf
OPTIMAL, FEASIBLE, INFEASIBLE, UNBOUNDED, GAVE_UP = (
    "optimal",
    "feasible",
    "infeasible",
    "unbounded",
    "gave-up",
)
MOST_NODES = (
    20_000  # a cap on nodes stops at the same place on every machine; the clock is a backstop
)
TOLERANCE = 1e-7


@dataclass
class Program:
    """Minimise cost · x with rows between bounds. Built up by `variable` and `row`; solving changes
    nothing in it.
    """

    costs: list[float] = field(default_factory=list)
    lower: list[float] = field(default_factory=list)
    upper: list[float] = field(default_factory=list)
    whole: list[bool] = field(default_factory=list)
    row_lower: list[float] = field(default_factory=list)
    row_upper: list[float] = field(default_factory=list)
    starts: list[int] = field(default_factory=lambda: [0])
    indices: list[int] = field(default_factory=list)
    values: list[float] = field(default_factory=list)

    def variable(
        self, lower: float = 0.0, upper: float = INFINITY, cost: float = 0.0, whole: bool = False
    ) -> int:
        """Add a variable; return its index."""
        self.costs.append(cost)
        self.lower.append(lower)
        self.upper.append(upper)
        self.whole.append(whole)
        return len(self.costs) - 1

    def row(
        self, terms: Mapping[int, float], lower: float = -INFINITY, upper: float = INFINITY
    ) -> int:
        """Add lower ≤ Σ coefficient · variable ≤ upper; return its index."""
        for index, value in terms.items():
            if value:
                self.indices.append(index)
                self.values.append(value)
        self.starts.append(len(self.indices))
        self.row_lower.append(lower)
        self.row_upper.append(upper)
        return len(self.row_lower) - 1


@dataclass(frozen=True)
class Solution:
    """What came of a program. `bound` is proven: no solution costs less. `prices` are the rows'
    dual values (LP only).
    """

    status: str
    objective: float
    bound: float
    values: tuple[float, ...]
    prices: tuple[float, ...]

    @property
    def found(self) -> bool:
        """True when there are values to use."""
        return self.status in (OPTIMAL, FEASIBLE)

    @property
    def gap(self) -> float:
        """How far the objective may lie above the best possible, in its own unit; 0 when proven,
        infinite when unknown.
        """
        if self.status == OPTIMAL:
            return 0.0
        return max(0.0, self.objective - self.bound) if self.status == FEASIBLE else INFINITY


def fresh_solver(seconds: float, nodes: int) -> Any:
    """A solver with the options every solve has."""
    highspy = import_module("highspy")
    solver = (
        highspy.Highs.__base__()
    )  # the class beneath adds callbacks that print a banner to stdout
    for name, value in (
        ("output_flag", False),
        ("threads", 1),
        ("random_seed", 1),
        ("mip_rel_gap", 0.0),
        ("mip_abs_gap", 1e-6),
        ("time_limit", seconds),
        ("mip_max_nodes", nodes),
    ):
        if solver.setOptionValue(name, value) == highspy.HighsStatus.kError:
            raise RuntimeError(f"the solver does not take {name}={value}")
    return solver


def highs_lp(program: Program, relaxed: bool = False) -> Any:
    """The program as the solver's own model; `relaxed` leaves wholeness out."""
    highspy, numpy = import_module("highspy"), import_module("numpy")
    lp = highspy.HighsLp()
    lp.num_col_, lp.num_row_ = len(program.costs), len(program.row_lower)
    for name in ("costs", "lower", "upper", "row_lower", "row_upper"):
        column = {"costs": "col_cost_", "lower": "col_lower_", "upper": "col_upper_"}.get(
            name, f"{name}_"
        )
        setattr(lp, column, numpy.array(getattr(program, name), dtype=float))
    lp.a_matrix_.format_ = highspy.MatrixFormat.kRowwise
    lp.a_matrix_.start_ = numpy.array(program.starts, dtype=numpy.int32)
    lp.a_matrix_.index_ = numpy.array(program.indices, dtype=numpy.int32)
    lp.a_matrix_.value_ = numpy.array(program.values, dtype=float)
    if not relaxed and any(program.whole):
        kinds = highspy.HighsVarType
        lp.integrality_ = [
            kinds.kInteger if whole else kinds.kContinuous for whole in program.whole
        ]
    return lp


def solve(
    program: Program, seconds: float = 2.0, nodes: int = MOST_NODES, relaxed: bool = False
) -> Solution:
    """Solve a program; `relaxed` drops wholeness and gives prices. Raises RuntimeError for a
    malformed program.
    """
    if not program.costs:
        return _without_variables(program)
    highspy = import_module("highspy")
    solver = fresh_solver(limit_s(seconds), nodes)
    if solver.passModel(highs_lp(program, relaxed)) == highspy.HighsStatus.kError:
        raise RuntimeError("the solver refused the program")
    ran = solver.run()
    status = _status(highspy, solver)
    if ran == highspy.HighsStatus.kError and status != GAVE_UP:
        raise RuntimeError("the solver failed")
    if status not in (OPTIMAL, FEASIBLE):
        return Solution(status, INFINITY, -INFINITY, (), ())
    info, solution = solver.getInfo(), solver.getSolution()
    pure = relaxed or not any(program.whole)
    objective = float(info.objective_function_value)
    bound = objective if status == OPTIMAL or pure else float(info.mip_dual_bound)
    prices = tuple(solution.row_dual) if pure else ()
    return Solution(status, objective, bound, _rounded(program, solution.col_value, pure), prices)


def _without_variables(program: Program) -> Solution:
    """Where nothing can be turned there is nothing to search: the rows hold, or they do not."""
    pairs = zip(program.row_lower, program.row_upper, strict=True)
    if all(low <= TOLERANCE and high >= -TOLERANCE for low, high in pairs):
        return Solution(OPTIMAL, 0.0, 0.0, (), (0.0,) * len(program.row_lower))
    return Solution(INFEASIBLE, INFINITY, -INFINITY, (), ())


def _status(highspy: Any, solver: Any) -> str:
    kinds = highspy.HighsModelStatus
    status = solver.getModelStatus()
    known = {
        kinds.kOptimal: OPTIMAL,
        kinds.kInfeasible: INFEASIBLE,
        kinds.kUnboundedOrInfeasible: INFEASIBLE,
        kinds.kUnbounded: UNBOUNDED,
    }
    if status in known:
        return known[status]
    if status in (kinds.kTimeLimit, kinds.kIterationLimit, kinds.kSolutionLimit, kinds.kInterrupt):
        has = (
            solver.getInfo().primal_solution_status
            == highspy.SolutionStatus.kSolutionStatusFeasible
        )
        return FEASIBLE if has else GAVE_UP
    return GAVE_UP


def _rounded(program: Program, values: Sequence[float], pure: bool) -> tuple[float, ...]:
    """Whole variables as whole numbers: the solver leaves 2.9999999."""
    if pure:
        return tuple(values)
    return tuple(
        float(round(v)) if whole else v for v, whole in zip(values, program.whole, strict=True)
    )
