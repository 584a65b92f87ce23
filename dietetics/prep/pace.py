"""A cook's own pace: how long their hands take against the usual minutes, from evenings that they
ticked off.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import replace
from statistics import median

from dietetics.prep.run import Run
from dietetics.prep.tasks import Task

LEAST_PLANNED_MIN = 15  # minutes of hands that an evening has to show: our judgement
SLOWEST, QUICKEST = 2.0, 0.5  # beyond these it was something else: our judgement
BREAK_TIMES, BREAK_MORE = 3, 5  # a gap of more than 3 times the plan and 5 minutes is a break
LEAST_EVENINGS, LATEST = 2, 5
USUAL_PACE = 1.0


def pace_of(run: Run) -> float | None:
    """How many times as long as usual the hands took on an evening; None where too little of it can
    be told. Only tasks count that could begin when the one before was finished: what passes while
    nothing is ready is no work.
    """
    in_order = sorted(run.hands_at, key=lambda key: run.hands_at[key])
    planned = took = 0
    for before, key in zip(in_order, in_order[1:], strict=False):
        begun = run.hands_at[before]
        task = run.task(key)
        minutes = run.hands_at[key] - begun
        was_ready = all(run.done.get(need, begun + 1) <= begun for need in run.needs(task))
        if was_ready and minutes <= BREAK_TIMES * task.hands_min + BREAK_MORE:
            planned, took = planned + task.hands_min, took + minutes
    if planned < LEAST_PLANNED_MIN:
        return None
    return min(max(run.pace * took / planned, QUICKEST), SLOWEST)


def usual_pace(paces: Sequence[float]) -> float | None:
    """The pace to plan with, from those of evenings, the latest first; None from less than two."""
    return median(paces[:LATEST]) if len(paces) >= LEAST_EVENINGS else None


def at_pace(tasks: Iterable[Task], pace: float) -> list[Task]:
    """The tasks with the hands' minutes that nobody wrote at a cook's pace."""
    return [
        replace(task, hands=task.hands.times(pace)) if "hands" in task.guessed else task
        for task in tasks
    ]
