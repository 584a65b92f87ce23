"""How long an evening may take when every time is at its least or at its most: the same order kept,
everything as early as it then can be.
"""

from __future__ import annotations

from itertools import pairwise

from dietetics.prep.lanes import lanes_of
from dietetics.prep.tasks import OVEN, Task
from dietetics.prep.timetable import OVEN_CHANGE_MIN, PREHEAT_MIN, Timetable


def length_range(found: Timetable) -> tuple[int, int]:
    """Minutes of the evening with all times at their least, and at their most."""
    return _length(found, "low"), _length(found, "high")


def _times(task: Task, end: str) -> tuple[float, float]:
    """Whole minutes of hands and of waiting, both at one end of their doubt."""
    return float(round(getattr(task.hands, end))), float(round(getattr(task.wait, end)))


def _length(found: Timetable, end: str) -> int:
    """The longest way through what waits for what, and who follows whom in a lane."""
    asked = found.asked
    starts = {task.key: 0.0 for task in asked.tasks}
    follows = [
        (one, other)
        for lane in lanes_of(found)
        for one, other in pairwise(lane.bars)
        if lane.name != "Standing" and not lane.name.startswith("Standing ")
    ]
    for _ in range(len(asked.tasks) + 1):
        before = dict(starts)
        for task in asked.tasks:
            hands, _ = _times(task, end)
            least = PREHEAT_MIN - hands if task.device == OVEN else 0.0
            ready = [starts[k] + sum(_times(asked.by_key[k], end)) for k in task.after]
            starts[task.key] = max([starts[task.key], least, *ready])
        for one, other in follows:
            gap = OVEN_CHANGE_MIN if one.task.celsius != other.task.celsius and one.alone else 0
            out = starts[one.task.key] + _out(one.task, one.alone, end) + gap
            into = _into(other.task, other.alone, end)
            starts[other.task.key] = max(starts[other.task.key], out - into)
        if starts == before:
            break
    ends = [starts[task.key] + sum(_times(task, end)) for task in asked.tasks]
    return round(max(ends, default=0.0))


def _into(task: Task, alone: bool, end: str) -> float:
    """Minutes after its start at which a task takes its place in a lane."""
    hands, _ = _times(task, end)
    return hands if alone and task.device == OVEN else 0.0


def _out(task: Task, alone: bool, end: str) -> float:
    """Minutes after its start at which it leaves it."""
    hands, wait = _times(task, end)
    return hands + wait if alone else hands
