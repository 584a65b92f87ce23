"""A timetable of an evening: the question, the answer, and what bounds it from below.

Time is in whole minutes from the beginning. A task's hands come first and its wait after; see
`tasks.Task` for what a device is held for.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace
from enum import StrEnum
from functools import cached_property

from dietetics.errors import DieteticsError
from dietetics.prep.kitchen import Kitchen
from dietetics.prep.tasks import BLENDER, OVEN, Task, checked_tasks

PREHEAT_MIN = 12  # minutes until an oven is hot: common practice
OVEN_CHANGE_MIN = 10  # minutes from one heat to another: common practice


class Proof(StrEnum):
    """How good a timetable is known to be."""

    SHORTEST = "shortest"
    WITHIN = "within"
    UNPROVEN = "unproven"


@dataclass(frozen=True)
class Asked:
    """The question. `started` holds tasks that run or are done, at their minute; nothing else
    starts before `now`.
    """

    tasks: tuple[Task, ...]
    kitchen: Kitchen = field(default_factory=Kitchen)
    started: Mapping[str, int] = field(default_factory=dict)
    now: int = 0

    @cached_property
    def by_key(self) -> Mapping[str, Task]:
        """The tasks by their keys."""
        return {task.key: task for task in self.tasks}

    def earliest(self, task: Task) -> int:
        """The first minute a task may start: not before the oven is hot."""
        if task.key in self.started:
            return self.started[task.key]
        hot = PREHEAT_MIN - task.hands_min if task.device == OVEN else 0
        return max(self.now, hot)

    def from_to(self, task: Task, start: int) -> tuple[int, int]:
        """The minutes for which a task that starts then holds its device."""
        if task.device == OVEN:
            return start + task.hands_min, start + task.minutes
        if task.device == BLENDER:
            return start, start + task.hands_min
        return start, start + task.minutes


def asked_of(
    tasks: Iterable[Task],
    kitchen: Kitchen | None = None,
    started: Mapping[str, int] | None = None,
    now: int = 0,
) -> Asked:
    """A question that can be answered. What is done the evening before is not in it.

    Raises DieteticsError: those of `checked_tasks`, `prep-no-device` for an oven or another device
    that the kitchen does not have.
    """
    kitchen = kitchen or Kitchen()
    found = [task for task in checked_tasks(tasks) if not task.night]
    there = {task.key for task in found}
    kept = []
    for task in found:
        if task.device and kitchen.count(task.device) == 0:
            raise DieteticsError("prep-no-device", device=task.device, text=task.text)
        after = tuple(key for key in task.after if key in there)
        trays = min(task.trays, kitchen.trays)
        kept.append(_with(task, after, trays))
    return Asked(tuple(kept), kitchen, dict(started or {}), now)


def _with(task: Task, after: tuple[str, ...], trays: int) -> Task:
    if after == task.after and trays == task.trays:
        return task
    return replace(task, after=after, trays=trays)


@dataclass(frozen=True)
class Timetable:
    """An answer: the minute each task starts, the oven each has, and how good it is.

    `least` is a length that no timetable goes below, `why_least` what says so; `late` names tasks
    that had to wait longer after another than they should.
    """

    asked: Asked
    starts: Mapping[str, int]
    ovens: Mapping[str, int]
    least: int
    why_least: str
    late: tuple[str, ...] = ()

    @cached_property
    def length(self) -> int:
        """Minutes from the beginning to the end of the last task."""
        return max((self.starts[t.key] + t.minutes for t in self.asked.tasks), default=0)

    @property
    def gap(self) -> float:
        """How much longer than the proven least it may be, as a share."""
        return (self.length - self.least) / self.least if self.least else 0.0

    @property
    def proof(self) -> Proof:
        """Shortest, within a stated gap, or not known to be good."""
        if self.length <= self.least:
            return Proof.SHORTEST
        return Proof.WITHIN if self.least else Proof.UNPROVEN

    @property
    def in_order(self) -> tuple[Task, ...]:
        """The tasks by their starts."""
        return tuple(sorted(self.asked.tasks, key=lambda t: (self.starts[t.key], t.key)))


def least_length(asked: Asked) -> tuple[int, str]:
    """Minutes that no timetable goes below, and why: the longest chain of tasks, or the busiest
    hands or device.

    For hands and devices: what they are needed for, divided by how many there are, with the least
    that has to come before the first and after the last.
    """
    before, behind = heads(asked), tails(asked)
    found: list[tuple[int, str]] = [(asked.now, "what is running")]
    for task in asked.tasks:
        chain = before[task.key] + task.minutes + behind[task.key]
        found.append((chain, f"the longest chain of steps, through “{task.text}”"))
    by_hand = [task for task in asked.tasks if task.hands_min and task.key not in asked.started]
    if by_hand:
        work = sum(task.hands_min for task in by_hand)
        head = min(before[task.key] for task in by_hand)
        tail = min(task.wait_min + behind[task.key] for task in by_hand)
        share = -(-work // asked.kitchen.cooks)
        found.append((head + share + tail, f"{work} minutes of hands"))
    for device in asked.kitchen.devices:
        found += _least_of_device(asked, device, before, behind)
    return max(found, key=lambda pair: pair[0])


def _least_of_device(
    asked: Asked, device: str, before: Mapping[str, int], behind: Mapping[str, int]
) -> list[tuple[int, str]]:
    users = [t for t in asked.tasks if t.device == device and t.key not in asked.started]
    if not users:
        return []
    held, head, tail = 0, [], []
    for task in users:
        start, end = asked.from_to(task, 0)
        held += (end - start) * (task.trays if device == OVEN else 1)
        head.append(before[task.key] + start)
        tail.append(task.minutes - end + behind[task.key])
    room = asked.kitchen.count(device) * (asked.kitchen.trays if device == OVEN else 1)
    return [(min(head) + -(-held // room) + min(tail), f"{held} minutes of the {device}")]


def heads(asked: Asked) -> dict[str, int]:
    """For each task the first minute it can start, by its chain alone."""
    found: dict[str, int] = {}
    for task in asked.tasks:  # each stands behind what it waits for
        ready = [found[key] + asked.by_key[key].minutes for key in task.after]
        found[task.key] = max([asked.earliest(task), *ready])
        if task.key in asked.started:
            found[task.key] = asked.started[task.key]
    return found


def tails(asked: Asked) -> dict[str, int]:
    """For each task the minutes that must pass after its end, by its chain alone."""
    found = dict.fromkeys(asked.by_key, 0)
    for task in reversed(asked.tasks):
        for key in task.after:
            found[key] = max(found[key], task.minutes + found[task.key])
    return found
