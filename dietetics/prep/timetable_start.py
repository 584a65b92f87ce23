"""A good timetable at once: tasks put one after another at the first minute that has room, in the
best of several orders. The same question gives the same answer everywhere.
"""

from __future__ import annotations

import random
from collections.abc import Callable, Mapping

from dietetics.prep.tasks import OVEN, Task
from dietetics.prep.timetable import OVEN_CHANGE_MIN, Asked, heads, least_length, tails

# tried, and tried where the solver follows; the first few by rule, the others shaken
ORDERS, FEW_ORDERS = 48, 24
Placed = tuple[dict[str, int], dict[str, int], list[str]]  # starts, ovens, what came too late
Rank = Callable[[Task], tuple[float, ...]]


class Room:
    """What is in use in each minute of the evening."""

    def __init__(self, asked: Asked, horizon: int) -> None:
        self.asked, self.horizon = asked, horizon
        kitchen = asked.kitchen
        self.free = {"hands": [kitchen.cooks] * horizon}
        for device in kitchen.devices:
            if device != OVEN:
                self.free[device] = [kitchen.count(device)] * horizon
        self.trays = [[kitchen.trays] * horizon for _ in range(kitchen.ovens)]
        self.heat: list[list[float | None]] = [[None] * horizon for _ in range(kitchen.ovens)]

    def oven_for(self, task: Task, start: int) -> int | None:
        """An oven with room for a task that starts then, or None. What needs no oven has oven 0."""
        if task.device != OVEN:
            return 0
        a, b = self.asked.from_to(task, start)
        around = slice(max(a - OVEN_CHANGE_MIN, 0), b + OVEN_CHANGE_MIN)
        for oven, trays in enumerate(self.trays):
            if all(left >= task.trays for left in trays[a:b]) and all(
                heat in (None, task.celsius) for heat in self.heat[oven][around]
            ):
                return oven
        return None

    def fits(self, task: Task, start: int) -> bool:
        """True where hands and device are free for a task that starts then."""
        if any(left < 1 for left in self.free["hands"][start : start + task.hands_min]):
            return False
        if task.device in self.free:
            a, b = self.asked.from_to(task, start)
            if any(left < 1 for left in self.free[task.device][a:b]):
                return False
        return self.oven_for(task, start) is not None

    def take(self, task: Task, start: int) -> int:
        """Put a task there; returns its oven."""
        for minute in range(start, min(start + task.hands_min, self.horizon)):
            self.free["hands"][minute] -= 1
        a, b = self.asked.from_to(task, start)
        if task.device in self.free:
            for minute in range(a, min(b, self.horizon)):
                self.free[task.device][minute] -= 1
        oven = self.oven_for(task, start) or 0
        if task.device == OVEN:
            for minute in range(a, min(b, self.horizon)):
                self.trays[oven][minute] -= task.trays
                self.heat[oven][minute] = task.celsius
        return oven


def good_start(asked: Asked, orders: int = ORDERS) -> Placed:
    """The best of so many orders: fewest that come too late, then the shortest."""
    behind, before = tails(asked), heads(asked)
    rules: list[Rank] = [
        lambda t: (-behind[t.key] - t.minutes, before[t.key]),
        lambda t: (-behind[t.key] - t.wait_min, before[t.key]),
        lambda t: (before[t.key] + t.hands_min, -behind[t.key]),
        lambda t: (-t.wait_min, -behind[t.key]),
    ]
    least = least_length(asked)[0]
    best: tuple[tuple[int, int], Placed] | None = None
    rng = random.Random("timetable")
    for number in range(orders):
        rank = rules[number] if number < len(rules) else _shaken(rules[0], rng)
        placed = _in_order_of(asked, rank)
        judged = (len(placed[2]), _length(asked, placed[0]))
        if best is None or judged < best[0]:
            best = (judged, placed)
        if best[0] <= (0, least):
            break
    assert best is not None
    return best[1]


def _shaken(rank: Rank, rng: random.Random) -> Rank:
    """The same order, a little shaken."""
    noise: dict[str, float] = {}

    def shaken(task: Task) -> tuple[float, ...]:
        shake = noise.setdefault(task.key, rng.uniform(0.5, 1.5))
        return (rank(task)[0] * shake,)

    return shaken


def _length(asked: Asked, starts: Mapping[str, int]) -> int:
    return max((starts[t.key] + t.minutes for t in asked.tasks), default=0)


def _in_order_of(asked: Asked, rank: Rank) -> Placed:
    """Every task at the first minute that has room, the ready one of the least rank first; what has
    to follow soon goes before all others.
    """
    horizon = asked.now + sum(t.minutes + OVEN_CHANGE_MIN for t in asked.tasks) + 60
    horizon = max([horizon, *(start + 60 for start in asked.started.values())])
    room = Room(asked, horizon)
    starts: dict[str, int] = {}
    ovens: dict[str, int] = {}
    late: list[str] = []
    for task in asked.tasks:
        if task.key in asked.started:
            starts[task.key] = asked.started[task.key]
            ovens[task.key] = room.take(task, starts[task.key])
    left = [task for task in asked.tasks if task.key not in starts]
    while left:
        ready = [task for task in left if all(key in starts for key in task.after)]
        task = min(ready, key=lambda t: (t.within is None, rank(t), t.key))
        left.remove(task)
        ends = [starts[key] + asked.by_key[key].minutes for key in task.after]
        start = max([asked.earliest(task), *ends])
        while not room.fits(task, start):
            start += 1
        behind = dict(zip(task.after, ends, strict=True)).get(task.behind, max(ends, default=0))
        if task.within is not None and ends and start > behind + task.within:
            late.append(task.key)
        starts[task.key] = start
        ovens[task.key] = room.take(task, start)
    return starts, ovens, late
