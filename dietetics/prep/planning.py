"""From a question to a timetable: a good one at once, then better and proven, and re-checked."""

from __future__ import annotations

from dataclasses import replace
from importlib import import_module

from dietetics.prep.timetable import Asked, Proof, Timetable, least_length
from dietetics.prep.timetable_recheck import checked
from dietetics.prep.timetable_start import FEW_ORDERS, ORDERS, good_start


def quick_timetable(asked: Asked, orders: int = ORDERS) -> Timetable:
    """A good timetable without the solver, and the length that none goes below."""
    starts, ovens, late = good_start(asked, orders)
    least, why = least_length(asked)
    return checked(Timetable(asked, starts, ovens, least, why, tuple(late)))


def timetable(asked: Asked) -> Timetable:
    """The shortest timetable, proven or with its gap; ties go to dishes done in one go.

    Where the solver finds none in which everything follows in time, the quick one stands, and says
    what comes too late.
    """
    quick = quick_timetable(asked, FEW_ORDERS)
    if len(asked.tasks) < 2:
        return quick
    solver = import_module("dietetics.prep.timetable_program")
    best = quick
    if quick.late or quick.proof is not Proof.SHORTEST:
        horizon = quick.length if not quick.late else 2 * quick.length + 60
        found = solver.solve(asked, quick.starts, quick.ovens, horizon)
        if not found.starts:
            return quick
        least, why = quick.least, quick.why_least
        if found.least > least:
            least, why = found.least, "a search through all others"
        best = checked(Timetable(asked, found.starts, found.ovens, least, why))
    tidy = solver.tidied(asked, best.starts, best.ovens, best.length)
    if not tidy.starts:
        return best
    return checked(replace(best, starts=tidy.starts, ovens=tidy.ovens))
