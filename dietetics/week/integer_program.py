"""A week improved and bounded: the same costs as a mixed-integer program, cell by cell, started
from a week that is there already. For weeks whose days are too many to be held as menus.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import replace
from importlib import import_module
from typing import Any

from dietetics.balance.solver import INFINITY, fresh_solver, highs_lp
from dietetics.week.answer import Answer, answer_of
from dietetics.week.question import HALF, Choice, Question, Slot
from dietetics.week.recheck import checked_week
from dietetics.week.week_rows import Model, rows_across_days

Told = Callable[[float, float, float], bool]  # (seconds, points, bound) → go on?
MANY_NODES = 2_000_000_000


def build(question: Question) -> Model:
    """The program of a question: what crosses days, one choice a meal, and what days miss."""
    model = rows_across_days(question)
    for slot, options in model.choices.items():
        model.program.row({model.cells[slot, n]: 1.0 for n in range(len(options))}, 1, 1)
    _days(question, model)
    return model


def _days(question: Question, model: Model) -> None:
    """How far each day misses its targets and the dietary approach, in points."""
    program = model.program
    for day in sorted({slot[0] for slot in question.slots}):
        here = [
            (model.cells[slot, n], choice.vector)
            for slot, options in model.choices.items()
            if slot[0] == day
            for n, choice in enumerate(options)
        ]
        for one in question.day_prices:
            missed = program.variable(0, INFINITY, 1.0)
            terms = {
                cell: one.price * value
                for cell, vector in here
                if (
                    value := one.weight * vector[one.first] + one.second_weight * vector[one.second]
                )
            }
            program.row({**terms, missed: -1.0}, upper=one.price * one.limit)


def improve_by_cells(
    question: Question, start: Answer, seconds: float = 20.0, told: Told | None = None
) -> Answer:
    """The start improved and bounded within `seconds`, or until `told` says no. Never worse than
    the start.

    The bound is proven whatever stops the search: no week costs less.
    """
    highspy = import_module("highspy")
    model = build(question)
    solver = fresh_solver(seconds, MANY_NODES)
    for name, value in (("mip_rel_gap", 1e-4), ("mip_abs_gap", 1e-4)):
        solver.setOptionValue(name, value)
    if solver.passModel(highs_lp(model.program)) == highspy.HighsStatus.kError:
        raise RuntimeError("the solver refused the program")
    _start_from(highspy, solver, model, start)
    seen = {"bound": -INFINITY}
    _listen(highspy, solver, model, told, seen)
    solver.run()
    status, kinds = solver.getModelStatus(), highspy.HighsModelStatus
    info = solver.getInfo()
    bound = float(info.mip_dual_bound) if status != kinds.kInfeasible else -INFINITY
    bound = max(bound, seen["bound"]) + model.constant
    found = start
    if info.primal_solution_status == highspy.SolutionStatus.kSolutionStatusFeasible:
        read = _read(question, model, solver.getSolution().col_value, start)
        found = read if read.points < start.points - 1e-6 else start
    proven = max(bound, 0.0) if bound > -INFINITY else None
    return checked_week(replace(found, bound=None if proven is None else min(proven, found.points)))


def _start_from(highspy: Any, solver: Any, model: Model, start: Answer) -> None:
    """Give the solver the week that is there: its cells and pots; the rest follows from them."""
    values = [0.0] * len(model.program.costs)
    for slot, options in model.choices.items():
        wanted = start.chosen[slot]
        n = next(
            (i for i, o in enumerate(options) if (o.dish, o.scale) == (wanted.dish, wanted.scale)),
            0,
        )
        values[model.cells[slot, n]] = 1.0
    keys = start.question.pot_index
    for (key, day), count in start.cooked.items():
        values[model.pots[keys[key], day]] = round(count / HALF)
        values[model.fires[keys[key], day]] = 1.0
    indices = [*model.cells.values(), *model.pots.values(), *model.fires.values()]
    numpy = import_module("numpy")
    solver.setSolution(
        len(indices),
        numpy.array(indices, dtype=numpy.int32),
        numpy.array([values[i] for i in indices], dtype=float),
    )


def _listen(
    highspy: Any, solver: Any, model: Model, told: Told | None, seen: dict[str, float]
) -> None:
    """Hear how far the search is, and stop it when nobody wants more."""
    kinds = highspy.cb.HighsCallbackType

    def heard(kind: Any, message: str, out: Any, into: Any, data: Any) -> None:
        bound = float(out.mip_dual_bound)
        if abs(bound) < 1e20:
            seen["bound"] = max(seen["bound"], bound)
        points = float(out.mip_primal_bound) + model.constant
        if told is not None and not told(
            float(out.running_time), points, seen["bound"] + model.constant
        ):
            into.user_interrupt = True

    solver.setCallback(heard, None)
    solver.startCallback(kinds.kCallbackMipInterrupt)


def _read(question: Question, model: Model, values: Any, start: Answer) -> Answer:
    chosen: Mapping[Slot, Choice] = {
        slot: options[max(range(len(options)), key=lambda n: values[model.cells[slot, n]])]
        for slot, options in model.choices.items()
    }
    return answer_of(question, chosen, start.seed, start.moves)
