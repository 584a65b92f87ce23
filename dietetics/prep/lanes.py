"""A timetable as lanes over time: one for each pair of hands and each device, with what is done in
it.
"""

from __future__ import annotations

from dataclasses import dataclass

from dietetics.prep.tasks import BLENDER, BURNER, OVEN, Task
from dietetics.prep.timetable import Timetable


@dataclass(frozen=True)
class Bar:
    """A task in a lane, from a minute to another; `alone` where nobody stands beside it."""

    task: Task
    start: int
    end: int
    alone: bool


@dataclass(frozen=True)
class Lane:
    """A lane and its bars, in their order."""

    name: str
    bars: tuple[Bar, ...]


def lanes_of(found: Timetable) -> list[Lane]:
    """The lanes that are used: hands first, then ovens, burners and the other devices."""
    lanes = _side_by_side("Hands", _hands(found), found.asked.kitchen.cooks)
    for oven in range(found.asked.kitchen.ovens):
        name = "Oven" if found.asked.kitchen.ovens == 1 else f"Oven {oven + 1}"
        users = [bar for bar in _device(found, OVEN) if found.ovens.get(bar.task.key) == oven]
        lanes += _side_by_side(name, users, found.asked.kitchen.trays)
    for device in (BURNER, BLENDER, *found.asked.kitchen.devices[3:]):
        name = device.capitalize()
        lanes += _side_by_side(name, _device(found, device), found.asked.kitchen.count(device))
    lanes += _side_by_side("Standing", _standing(found), len(found.asked.tasks))
    return lanes


def _hands(found: Timetable) -> list[Bar]:
    starts = found.starts
    return [
        Bar(task, starts[task.key], starts[task.key] + task.hands_min, False)
        for task in found.in_order
        if task.hands_min
    ]


def _device(found: Timetable, device: str) -> list[Bar]:
    """What a device is held for."""
    return [
        Bar(task, *found.asked.from_to(task, found.starts[task.key]), alone=device != BLENDER)
        for task in found.in_order
        if task.device == device
    ]


def _standing(found: Timetable) -> list[Bar]:
    """What waits without a device: soaking, pressing, resting."""
    return [
        Bar(t, found.starts[t.key] + t.hands_min, found.starts[t.key] + t.minutes, True)
        for t in found.in_order
        if not t.device and t.wait_min
    ]


def _side_by_side(name: str, bars: list[Bar], most: int) -> list[Lane]:
    """Bars put into as few lanes as they need, each in the first that is free."""
    lanes: list[list[Bar]] = []
    for bar in sorted(bars, key=lambda one: (one.start, one.end)):
        free = next((lane for lane in lanes if lane[-1].end <= bar.start), None)
        if free is None:
            lanes.append([bar])
        else:
            free.append(bar)
    numbered = len(lanes) > 1 and most > 1
    return [
        Lane(f"{name} {n}" if numbered else name, tuple(lane))
        for n, lane in enumerate(lanes, start=1)
    ]
