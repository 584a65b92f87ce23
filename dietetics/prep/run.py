"""An evening while it is cooked: what is under way, what is done, and the rest planned anew when
something takes longer.

A run is a value; every press makes another. Time is in minutes since the beginning, and comes from
outside.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace

from dietetics.errors import DieteticsError
from dietetics.prep.kitchen import Kitchen
from dietetics.prep.planning import quick_timetable
from dietetics.prep.tasks import OVEN, Minutes, Task
from dietetics.prep.timetable import PREHEAT_MIN, Timetable, asked_of

MORE_MIN = 5  # "needs 5 more"
SAID_FROM_MIN = 2  # a smaller change of the end is not worth a word


@dataclass(frozen=True)
class Run:
    """An evening under way.

    `tasks` as they were planned, `starts` the plan now. `waiting` gives for each task whose hands
    are done the minute at which its wait is over; `done` the minute each was finished, `hands_at`
    the minute the hands of each were done, `skipped` what was left out. `pace` is how many times
    the usual minutes of hands it was planned with.
    """

    tasks: tuple[Task, ...]
    kitchen: Kitchen
    starts: Mapping[str, int]
    waiting: Mapping[str, int] = field(default_factory=dict)
    done: Mapping[str, int] = field(default_factory=dict)
    skipped: frozenset[str] = frozenset()
    hands_at: Mapping[str, int] = field(default_factory=dict)
    pace: float = 1.0

    def task(self, key: str) -> Task:
        """A task by its key. Raises DieteticsError `prep-no-task`."""
        found = next((task for task in self.tasks if task.key == key), None)
        if found is None:
            raise DieteticsError("prep-no-task", key=key)
        return found

    @property
    def left(self) -> tuple[Task, ...]:
        """What has not been begun, by its planned start."""
        gone = {*self.done, *self.waiting, *self.skipped}
        left = [task for task in self.tasks if task.key not in gone]
        return tuple(sorted(left, key=lambda t: (self.starts.get(t.key, 0), t.key)))

    @property
    def is_over(self) -> bool:
        """True when nothing is left and nothing waits."""
        return not self.left and not self.waiting

    def is_ready(self, task: Task) -> bool:
        """True when all that a task needs is done."""
        return all(key in self.done for key in self.needs(task))

    def needs(self, task: Task) -> tuple[str, ...]:
        """What a task waits for; in place of what was left out, what that waited for."""
        found: list[str] = []
        for key in task.after:
            found += self.needs(self.task(key)) if key in self.skipped else (key,)
        return tuple(dict.fromkeys(found))

    @property
    def end(self) -> int:
        """The minute at which all is done as it stands."""
        ends = [self.starts[t.key] + t.minutes for t in self.left if t.key in self.starts]
        return max([*ends, *self.waiting.values(), *self.done.values(), 0])


def run_of(found: Timetable, pace: float = 1.0) -> Run:
    """A run that begins with a timetable, planned at a cook's pace."""
    return Run(found.asked.tasks, found.asked.kitchen, dict(found.starts), pace=pace)


def hands_done(run: Run, key: str, now: int) -> Run:
    """The hands' part of a task is over: it is done, or its wait begins now. Raises
    `prep-no-task`, `prep-not-yet`.
    """
    task = run.task(key)
    if key in run.done or key in run.skipped or key in run.waiting:
        return run
    if not run.is_ready(task):
        raise DieteticsError("prep-not-yet", text=task.text)
    run = replace(run, hands_at={**run.hands_at, key: now})
    if task.wait_min:
        return replace(run, waiting={**run.waiting, key: now + task.wait_min})
    return replace(run, done={**run.done, key: now})


def wait_over(run: Run, key: str, now: int) -> Run:
    """What waited is ready. Raises `prep-no-task`."""
    run.task(key)
    if key not in run.waiting:
        return run
    waiting = {other: end for other, end in run.waiting.items() if other != key}
    return replace(run, waiting=waiting, done={**run.done, key: now})


def more_time(run: Run, key: str, now: int, minutes: int = MORE_MIN) -> Run:
    """What waits needs some minutes more, from its end or from now, whichever is later. Raises
    `prep-no-task`.
    """
    run.task(key)
    if key not in run.waiting:
        return run
    return replace(run, waiting={**run.waiting, key: max(run.waiting[key], now) + minutes})


def skip(run: Run, key: str) -> Run:
    """Leave a task out; what needs it goes on without it. Raises `prep-no-task`."""
    run.task(key)
    waiting = {other: end for other, end in run.waiting.items() if other != key}
    if key in run.done:
        return run
    return replace(run, waiting=waiting, skipped=run.skipped | {key})


def _crowded(run: Run) -> set[str]:
    """What waits although the kitchen as it was described has no room for it: a third pot on two
    burners, two heats in one oven. It stands somewhere, and takes nobody else's place.
    """
    used: dict[str, int] = {}
    ovens: list[tuple[float | None, int]] = []  # heat and trays of each oven in use
    found = set()
    for task in run.tasks:
        if task.key not in run.waiting or not task.device:
            continue
        if task.device == OVEN:
            fits = next(
                (
                    n
                    for n, (heat, trays) in enumerate(ovens)
                    if heat == task.celsius and trays + task.trays <= run.kitchen.trays
                ),
                None,
            )
            if fits is not None:
                ovens[fits] = (task.celsius, ovens[fits][1] + task.trays)
            elif len(ovens) < run.kitchen.ovens:
                ovens.append((task.celsius, task.trays))
            else:
                found.add(task.key)
        elif used.get(task.device, 0) < run.kitchen.count(task.device):
            used[task.device] = used.get(task.device, 0) + 1
        else:
            found.add(task.key)
    return found


def planned_anew(run: Run, now: int, before: Run) -> tuple[Run, str]:
    """The rest of the evening from now on, and how its end moved since `before`, in words; "" where
    it stays.

    What waits keeps its end; an oven that has been on is hot.
    """
    gone = {*run.done, *run.skipped}
    crowded = _crowded(run)
    tasks, started = [], {}
    for task in run.tasks:
        if task.key in gone:
            continue
        after = tuple(key for key in run.needs(task) if key not in gone)
        if task.key in run.waiting:
            left = max(run.waiting[task.key] - now, 0)
            task_left = replace(task, hands=Minutes(), wait=Minutes.exactly(left), after=())
            if task.key in crowded:
                task_left = replace(task_left, device="")
            tasks.append(task_left)
            started[task.key] = now
        else:
            tasks.append(replace(task, after=after))
    shift = PREHEAT_MIN  # minutes before the beginning, so that a hot oven needs no heating again
    asked = asked_of(
        tasks, run.kitchen, {key: at + shift for key, at in started.items()}, now + shift
    )
    found = quick_timetable(asked)
    starts = {key: at - shift for key, at in found.starts.items() if key not in started}
    made = replace(run, starts={**run.starts, **starts})
    moved = made.end - before.end
    if abs(moved) < SAID_FROM_MIN:
        return made, ""
    return made, f"{abs(moved)} minutes {'later' if moved > 0 else 'earlier'} than before"
