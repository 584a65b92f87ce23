"""The changes of a plan that its page can send: each by its name, in words, and what it does.

What was sent is read by `forms.CellChangeForm`; which fields a change needs is judged here.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass

from dietetics.errors import DieteticsError
from dietetics.week import plan as core
from dietetics.week.daynames import working_days
from dietetics.week.plan import Entry, Plan


@dataclass(frozen=True)
class SentChange:
    """One change as it was sent, against the `revision` that was seen; what was left out is None
    or "".
    """

    revision: int
    day: int | None = None
    meal: int | None = None
    position: int | None = None
    steps: int | None = None
    to_day: int | None = None
    to_meal: int | None = None
    scale: float | None = None
    pots: float | None = None
    frozen: float | None = None
    dish: str = ""
    name: str = ""
    batch: str = ""
    kind: str = ""
    because: str = ""

    def needed(self, name: str) -> int:
        """A number that the change cannot do without. Raises `week-unreadable`."""
        value = getattr(self, name)
        if value is None:
            problem = f"{name.replace('_', ' ')} is missing"
            raise DieteticsError("week-unreadable", problem=problem)
        return int(value)

    def cell(self) -> tuple[int, int]:
        """The cell that is changed: its day and meal, counted from 0."""
        return self.needed("day"), self.needed("meal")

    def to_cell(self) -> tuple[int, int]:
        """The cell it goes to."""
        return self.needed("to_day"), self.needed("to_meal")

    def entry(self) -> Entry:
        """What is put in. Raises `week-unreadable` where no dish is named."""
        if not self.dish:
            raise DieteticsError("week-unreadable", problem="no dish was named")
        return Entry(self.dish, self.name or self.dish, 1.0 if self.scale is None else self.scale)


def _remove(plan: Plan, sent: SentChange) -> Plan:
    place = sent.needed("position")

    def turn(cell: core.Cell) -> core.Cell:
        rest = tuple(e for n, e in enumerate(cell.entries) if n != place)
        return core.Cell(rest, cell.locked, cell.skipped)

    return core.change(plan, *sent.cell(), turn)


def _step_entry(plan: Plan, sent: SentChange) -> Plan:
    """Turn one thing of a cell; the first without a position, by one step without steps."""
    place, steps = sent.position or 0, 1 if sent.steps is None else sent.steps
    day, meal = sent.cell()
    cell = plan.cell(day, meal)
    if not 0 <= place < len(cell.entries):
        return plan
    entries = list(cell.entries)
    entries.insert(0, entries.pop(place))
    turned = core.change(plan, day, meal, lambda c: core.Cell(tuple(entries), c.locked, c.skipped))
    turned = core.scale(turned, day, meal, steps)
    back = list(turned.cell(day, meal).entries)
    back.insert(place, back.pop(0))
    return core.change(turned, day, meal, lambda c: core.Cell(tuple(back), c.locked, c.skipped))


def _cook(plan: Plan, sent: SentChange) -> Plan:
    """Change the pots of a cooking by `steps` halves, or set them, or freeze a share of it."""
    day = sent.needed("day")
    now = next((c for c in plan.cookings if (c.batch, c.day) == (sent.batch, day)), None)
    pots, frozen = (now.pots, now.frozen) if now else (0.0, 0.0)
    if sent.frozen is not None:
        return core.cook(plan, sent.batch, day, pots, sent.frozen)
    if sent.pots is not None:
        return core.cook(plan, sent.batch, day, sent.pots, frozen)
    steps = 2 if sent.steps is None else sent.steps
    return core.cook(plan, sent.batch, day, max(0.0, pots + 0.5 * steps), frozen)


ACTIONS: Mapping[str, tuple[str, Callable[[Plan, SentChange], Plan]]] = {
    "put": ("put in", lambda p, s: core.put(p, *s.cell(), s.entry())),
    "add": ("added to a meal", lambda p, s: core.add(p, *s.cell(), s.entry())),
    "remove": ("removed", _remove),
    "clear": ("emptied", lambda p, s: core.clear(p, *s.cell())),
    "skip": ("meal removed or restored", lambda p, s: core.skip(p, *s.cell())),
    "lock": ("locked or unlocked", lambda p, s: core.lock(p, *s.cell())),
    "scale": ("portion changed", _step_entry),
    "copy": ("copied", lambda p, s: core.copy(p, *s.cell(), [s.to_cell()])),
    "repeat": ("repeated Monday to Friday", lambda p, s: core.repeat(p, *s.cell(), working_days())),
    "fill": ("filled to the end of the week", lambda p, s: core.fill(p, *s.cell())),
    "move": ("moved", lambda p, s: core.move(p, s.cell(), s.to_cell())),
    "swap": (
        "days swapped",
        lambda p, s: core.swap_days(p, s.needed("day"), s.needed("to_day")),
    ),
    "spend": ("type of day changed", lambda p, s: core.spend(p, s.needed("day"), s.kind)),
    "cook": ("cooking changed", _cook),
}
