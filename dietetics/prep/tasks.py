"""A task of an evening's cooking as a value: what is done, for how long with hands and without,
with what, and after what.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field

from dietetics.errors import DieteticsError

OVEN, BURNER, BLENDER, PRESSURE = "oven", "burner", "blender", "pressure cooker"
DEVICES = (OVEN, BURNER, BLENDER, PRESSURE)
MOST_TASKS = 200
MOST_MINUTES = 24 * 60
QUICK, SLOW = 0.67, 1.5
NIGHT_MINUTES = 480.0  # what waits as long as a night is begun the evening before


@dataclass(frozen=True)
class Minutes:
    """A time with its doubt, in minutes: least, likely, most."""

    low: float = 0.0
    likely: float = 0.0
    high: float = 0.0

    def times(self, factor: float) -> Minutes:
        """All three multiplied."""
        return Minutes(self.low * factor, self.likely * factor, self.high * factor)

    def plus(self, other: Minutes) -> Minutes:
        """Two times, one after the other."""
        return Minutes(self.low + other.low, self.likely + other.likely, self.high + other.high)

    def less(self, other: Minutes) -> Minutes:
        """A time without a part of it."""
        return Minutes(self.low - other.low, self.likely - other.likely, self.high - other.high)

    @classmethod
    def exactly(cls, minutes: float) -> Minutes:
        """A time without doubt."""
        return cls(minutes, minutes, minutes)

    @classmethod
    def guess(cls, minutes: float) -> Minutes:
        """A time out of a table: a quick cook takes two thirds of it, a slow one half as long
        again (common practice).
        """
        return cls(QUICK * minutes, minutes, SLOW * minutes)

    def words(self) -> str:
        """In words: "25–30 min", "overnight"."""
        if self.low >= NIGHT_MINUTES:
            return "overnight"
        low, high = round(self.low), round(self.high)
        return f"{low} min" if low == high else f"{low}–{high} min"


@dataclass(frozen=True)
class Task:
    """One thing to do. `hands` come first, `wait` passes alone after them.

    `device` is held from the start to the end of the wait; an oven from the end of the hands, a
    blender while the hands are at it. `within` says how many minutes after the last of `after`, or
    after the task `behind`, it has to start at the latest. `night` marks the evening before,
    `guessed` names what nobody wrote: "hands", "wait", "celsius", "after". `asked_celsius` and
    `asked_wait` are the recipe's where sharing an oven moved them. `dishes` are those it is done
    for, `parts` the foods with grams it is about, where that is known; `pot_g` grams in the pot of
    what is boiled or simmered, `to_boil` the part of its wait until the pot boils.
    """

    key: str
    dish: str
    text: str
    verb: str
    hands: Minutes
    wait: Minutes = field(default_factory=Minutes)
    device: str = ""
    celsius: float | None = None
    trays: int = 1
    after: tuple[str, ...] = ()
    within: int | None = None
    behind: str = ""
    night: bool = False
    guessed: frozenset[str] = frozenset()
    asked_celsius: float | None = None
    asked_wait: Minutes | None = None
    dishes: tuple[str, ...] = ()
    parts: tuple[tuple[str, float], ...] = ()
    pot_g: float = 0.0
    to_boil: Minutes = field(default_factory=Minutes)

    @property
    def hands_min(self) -> int:
        """Whole minutes of hands that a timetable reckons with."""
        return max(0, round(self.hands.likely))

    @property
    def wait_min(self) -> int:
        """Whole minutes that pass alone."""
        return max(0, round(self.wait.likely))

    @property
    def minutes(self) -> int:
        """Whole minutes from start to end."""
        return self.hands_min + self.wait_min


def checked_tasks(tasks: Iterable[Task]) -> tuple[Task, ...]:
    """The tasks in an order in which each stands behind what it waits for.

    Raises DieteticsError `prep-too-many`, `prep-twice`, `prep-unknown-after`, `prep-circle`,
    `prep-minutes`.
    """
    found = tuple(tasks)
    if len(found) > MOST_TASKS:
        raise DieteticsError("prep-too-many", count=len(found), most=MOST_TASKS)
    by_key = {task.key: task for task in found}
    if len(by_key) < len(found):
        twice = next(t.key for n, t in enumerate(found) if t.key in {o.key for o in found[:n]})
        raise DieteticsError("prep-twice", key=twice)
    for task in found:
        if not 0 <= task.minutes <= MOST_MINUTES:
            raise DieteticsError("prep-minutes", text=task.text, minutes=task.minutes)
        for key in task.after:
            if key not in by_key:
                raise DieteticsError("prep-unknown-after", text=task.text, key=key)
    return _in_order(found, by_key)


def _in_order(tasks: Sequence[Task], by_key: dict[str, Task]) -> tuple[Task, ...]:
    """Each behind what it waits for, otherwise as they came. Raises `prep-circle`."""
    done: dict[str, Task] = {}
    left = list(tasks)
    while left:
        ready = [task for task in left if all(key in done for key in task.after)]
        if not ready:
            raise DieteticsError("prep-circle", tasks=" → ".join(_circle(left[0], by_key, done)))
        done |= {task.key: task for task in ready}
        left = [task for task in left if task.key not in done]
    return tuple(done.values())


def _circle(start: Task, by_key: dict[str, Task], done: dict[str, Task]) -> list[str]:
    """The texts of tasks that wait for each other in a ring."""
    seen: list[Task] = []
    now = start
    while now not in seen:
        seen.append(now)
        now = by_key[next(key for key in now.after if key not in done)]
    ring = seen[seen.index(now) :]
    return [task.text for task in (*ring, ring[0])]
