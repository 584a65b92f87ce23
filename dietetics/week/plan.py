"""A week as a value: seven days by meals, what stands in each cell, what is cooked when; and every
change of it.

A change takes a plan and returns another; nothing is altered in place, so that taking back is
keeping the old one.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, replace
from typing import Any

from dietetics.errors import DieteticsError
from dietetics.untrusted_input import plain_text
from dietetics.week.daynames import DAY_NAMES

DAYS = 7
KINDS: Mapping[str, str] = {
    "home": "at home",
    "travel": "travelling: cold, packed, no kitchen",
    "off": "off plan",
}
FREE, DRINK = "free", "drink:"
EARLIEST = -70  # a portion frozen ten weeks ago
SCALES = (0.25, 0.5, 0.75, 1.0, 1.25, 1.5, 1.75, 2.0, 2.5, 3.0)
MOST_ENTRIES, MOST_TIMES_COOKED, MOST_SCALE = 8, 6.0, 20.0
MOST_COOKINGS = 200


@dataclass(frozen=True)
class Entry:
    """Something in a cell. `dish` is a key such as "bowl-12", "batch-5", "food:oats", "drink:tea"
    or "free"; `name` what it was called when it was put there, kept for when it is gone; `scale`
    how many of its servings.
    """

    dish: str
    name: str
    scale: float = 1.0


@dataclass(frozen=True)
class Cell:
    """One meal of one day. A locked cell is kept by the solver; a skipped one is no meal at all."""

    entries: tuple[Entry, ...] = ()
    locked: bool = False
    skipped: bool = False


@dataclass(frozen=True)
class Cooking:
    """A batch cooked in the evening of a day (-1 is the evening before the first), before its last
    meal.

    An earlier day is of a week before: what was left of it, carried over. `pots` is how many times
    the whole recipe; `frozen` the share of what came out that goes to the freezer, 0 to 1.
    """

    batch: str
    day: int
    pots: float = 1.0
    frozen: float = 0.0


@dataclass(frozen=True)
class Day:
    """A day: how it is spent, and a cell for each meal."""

    cells: tuple[Cell, ...]
    kind: str = "home"


@dataclass(frozen=True)
class Plan:
    """Meals by name, the days, the cookings in order."""

    meals: tuple[str, ...]
    days: tuple[Day, ...]
    cookings: tuple[Cooking, ...] = ()

    def cell(self, day: int, meal: int) -> Cell:
        """One cell. Raises `week-no-cell`."""
        if not (0 <= day < len(self.days) and 0 <= meal < len(self.meals)):
            raise DieteticsError("week-no-cell", day=day, meal=meal)
        return self.days[day].cells[meal]

    def places(self) -> Iterable[tuple[int, int, Cell]]:
        """Every cell with its day and meal, by day."""
        return ((d, m, cell) for d, day in enumerate(self.days) for m, cell in enumerate(day.cells))


def empty_plan(meals: Iterable[str], days: int = DAYS) -> Plan:
    """A week with nothing in it. Raises `week-no-meals`."""
    names = tuple(meals)
    if not names:
        raise DieteticsError("week-no-meals")
    return Plan(names, tuple(Day(tuple(Cell() for _ in names)) for _ in range(days)))


def change(plan: Plan, day: int, meal: int, turn: Callable[[Cell], Cell]) -> Plan:
    """The plan with one cell turned into another."""
    cells = list(plan.days[day].cells) if plan.cell(day, meal) else []
    cells[meal] = turn(cells[meal])
    return _with_day(plan, day, replace(plan.days[day], cells=tuple(cells)))


def _with_day(plan: Plan, day: int, made: Day) -> Plan:
    return replace(plan, days=(*plan.days[:day], made, *plan.days[day + 1 :]))


def put(plan: Plan, day: int, meal: int, entry: Entry) -> Plan:
    """Put one thing into a cell in place of what was there; the lock goes. Raises `week-scale`."""
    _served(entry)
    return change(plan, day, meal, lambda _: Cell((entry,)))


def _served(entry: Entry) -> None:
    """Refuse a portion that is none, or out of all proportion."""
    if not 0 < entry.scale <= MOST_SCALE:
        raise DieteticsError("week-scale", scale=entry.scale, name=entry.name, most=MOST_SCALE)


def add(plan: Plan, day: int, meal: int, entry: Entry) -> Plan:
    """Put one more thing added to this meal. Raises `week-cell-full`, `week-scale`."""
    _served(entry)
    if len(plan.cell(day, meal).entries) >= MOST_ENTRIES:
        raise DieteticsError("week-cell-full", most=MOST_ENTRIES)
    return change(
        plan, day, meal, lambda cell: replace(cell, entries=(*cell.entries, entry), skipped=False)
    )


def clear(plan: Plan, day: int, meal: int) -> Plan:
    """Empty a cell."""
    return change(plan, day, meal, lambda _: Cell())


def skip(plan: Plan, day: int, meal: int) -> Plan:
    """Make a cell no meal, or a meal again: a two-meal day among three."""
    return change(plan, day, meal, lambda cell: Cell(skipped=not cell.skipped))


def lock(plan: Plan, day: int, meal: int) -> Plan:
    """Lock a cell, or unlock it."""
    return change(plan, day, meal, lambda cell: replace(cell, locked=not cell.locked))


def scale(plan: Plan, day: int, meal: int, steps: int) -> Plan:
    """Turn the first thing of a cell up or down by household steps of a quarter serving (halves
    above two).
    """
    cell = plan.cell(day, meal)
    if not cell.entries:
        return plan
    now = min(range(len(SCALES)), key=lambda i: abs(SCALES[i] - cell.entries[0].scale))
    new = SCALES[min(max(now + steps, 0), len(SCALES) - 1)]
    first = replace(cell.entries[0], scale=new)
    return change(plan, day, meal, lambda c: replace(c, entries=(first, *c.entries[1:])))


def copy(plan: Plan, day: int, meal: int, to: Iterable[tuple[int, int]]) -> Plan:
    """Copy a cell's things onto other cells; locked ones and days off plan are left as they are."""
    entries = plan.cell(day, meal).entries
    for d, m in to:
        target = plan.cell(d, m)
        if (d, m) != (day, meal) and not target.locked and plan.days[d].kind != "off":
            plan = change(plan, d, m, lambda cell: replace(cell, entries=entries, skipped=False))
    return plan


def repeat(plan: Plan, day: int, meal: int, days: Iterable[int]) -> Plan:
    """The same meal on several days: "same breakfast Monday to Friday"."""
    return copy(plan, day, meal, [(d, meal) for d in days])


def fill(plan: Plan, day: int, meal: int) -> Plan:
    """Copy a cell onto the same meal of every later day of the week."""
    return repeat(plan, day, meal, range(day + 1, len(plan.days)))


def move(plan: Plan, start: tuple[int, int], end: tuple[int, int]) -> Plan:
    """Take what is in one cell to another; what is there comes back in exchange. Locked cells stay
    where they are.
    """
    first, second = plan.cell(*start), plan.cell(*end)
    if first.locked or second.locked:
        raise DieteticsError("week-locked")
    return change(change(plan, *start, lambda _: second), *end, lambda _: first)


def swap_days(plan: Plan, one: int, other: int) -> Plan:
    """Exchange two days whole."""
    for day in (one, other):
        plan.cell(day, 0)
    days = list(plan.days)
    days[one], days[other] = days[other], days[one]
    return replace(plan, days=tuple(days))


def spend(plan: Plan, day: int, kind: str) -> Plan:
    """Say how a day is spent. Raises `week-unknown-kind`."""
    if kind not in KINDS:
        raise DieteticsError("week-unknown-kind", kind=kind, known=", ".join(KINDS))
    plan.cell(day, 0)
    return _with_day(plan, day, replace(plan.days[day], kind=kind))


def cook(plan: Plan, batch: str, day: int, pots: float = 1.0, frozen: float = 0.0) -> Plan:
    """Cook a batch on a day, in place of what was said of it before; no pots takes it off. Raises
    `week-cooking`.
    """
    if (
        not (EARLIEST <= day < len(plan.days))
        or not 0 <= pots <= MOST_TIMES_COOKED
        or not 0 <= frozen <= 1
    ):
        raise DieteticsError(
            "week-cooking", day=day, pots=pots, frozen=frozen, most=MOST_TIMES_COOKED
        )
    rest = tuple(c for c in plan.cookings if (c.batch, c.day) != (batch, day))
    made = (*rest, Cooking(batch, day, pots, frozen)) if pots > 0 else rest
    return replace(plan, cookings=tuple(sorted(made, key=lambda c: (c.day, c.batch))))


def plan_json(plan: Plan) -> dict[str, Any]:
    """The plan as plain values; empty things are left out."""
    return {
        "meals": list(plan.meals),
        "days": [
            {"kind": day.kind, "cells": [_cell_json(cell) for cell in day.cells]}
            for day in plan.days
        ],
        "cookings": [
            {
                "batch": c.batch,
                "day": c.day,
                "pots": c.pots,
                **({"frozen": c.frozen} if c.frozen else {}),
            }
            for c in plan.cookings
        ],
    }


def _cell_json(cell: Cell) -> dict[str, Any]:
    found: dict[str, Any] = {
        "entries": [{"dish": e.dish, "name": e.name, "scale": e.scale} for e in cell.entries]
    }
    if cell.locked:
        found["locked"] = True
    if cell.skipped:
        found["skipped"] = True
    return found


def plan_of(data: Any) -> Plan:
    """Read a plan from plain values. Raises `week-unreadable` with what is wrong with them."""
    try:
        meals = tuple(_word(name, 40) for name in data["meals"])
        days = tuple(
            Day(tuple(_cell_of(cell) for cell in day["cells"]), _word(day.get("kind", "home"), 10))
            for day in data["days"]
        )
        cookings = tuple(
            Cooking(
                _word(c["batch"], 60),
                int(c["day"]),
                float(c.get("pots", 1)),
                float(c.get("frozen", 0)),
            )
            for c in data.get("cookings", [])
        )
    except (KeyError, TypeError, ValueError, AttributeError, OverflowError) as error:
        raise DieteticsError(
            "week-unreadable", problem=f"{type(error).__name__}: {error}"
        ) from None
    problems = [
        (not meals or len(meals) > 8, "it needs one to eight meals"),
        (not 1 <= len(days) <= DAYS, "it needs one to seven days"),
        (any(len(day.cells) != len(meals) for day in days), "every day needs a cell for each meal"),
        (any(day.kind not in KINDS for day in days), f"a day must be one of {', '.join(KINDS)}"),
        (
            any(
                not EARLIEST <= c.day < len(days)
                or not 0 < c.pots <= MOST_TIMES_COOKED
                or not 0 <= c.frozen <= 1
                for c in cookings
            ),
            "cooking needs a day of the week (-1 for the evening before), up to "
            f"{MOST_TIMES_COOKED:g} batches, a frozen share of 0 to 1",
        ),
        (
            any(
                not 0 < e.scale <= MOST_SCALE for day in days for c in day.cells for e in c.entries
            ),
            f"a portion must be above 0 and at most {MOST_SCALE:g}",
        ),
        (
            len({(c.batch, c.day) for c in cookings}) != len(cookings),
            "a batch is cooked once on an evening",
        ),
        (len(cookings) > MOST_COOKINGS, f"more than {MOST_COOKINGS} batches cooked"),
    ]
    for wrong, words in problems:
        if wrong:
            raise DieteticsError("week-unreadable", problem=words)
    return Plan(meals, days, cookings)


def as_stored(plan: Plan) -> Plan:
    """The plan as it will be read back from what is stored of it. Raises `week-unreadable` where it
    cannot be.

    What is not read back as it is must not be stored: a week that cannot be shown cannot be mended
    either.
    """
    return plan_of(plan_json(plan))


def repaired(data: Any) -> tuple[Plan, list[str]]:
    """As much of a stored plan as can be read, and what was left out, in words. A plan without
    meals is no plan at all.

    Raises `week-unreadable` where not even the meals can be read.
    """
    given = data if isinstance(data, dict) else {}
    plan = plan_of(
        {
            "meals": given.get("meals"),
            "days": [{"cells": [{} for _ in given.get("meals") or ()]}] * DAYS,
        }
    )
    days, lost = given.get("days"), list[str]()
    for d, day in enumerate(days if isinstance(days, list) else ()):
        for m in range(len(plan.meals)):
            try:
                read = plan_of(
                    {"meals": [plan.meals[m]], "days": [{"cells": [day["cells"][m]]}]}
                ).cell(0, 0)
                plan = change(plan, d, m, lambda _, cell=read: cell)  # type: ignore[misc]
            except (DieteticsError, KeyError, IndexError, TypeError):
                lost.append(
                    f"{DAY_NAMES[d] if d < DAYS else f'day {d + 1}'}, {plan.meals[m].lower()}"
                )
        kind = day.get("kind", "home") if isinstance(day, dict) else "home"
        if d < DAYS and kind in KINDS:
            plan = spend(plan, d, kind)
        elif d < DAYS:
            lost.append(f"the type of day of {DAY_NAMES[d]}")
    cookings = given.get("cookings")
    for one in cookings if isinstance(cookings, list) else ():
        try:
            plan = plan_of({**plan_json(plan), "cookings": [*plan_json(plan)["cookings"], one]})
        except DieteticsError:
            lost.append("a cooking")
    return plan, lost


def _cell_of(data: Any) -> Cell:
    entries = tuple(
        Entry(_word(e["dish"], 60), _word(e.get("name", e["dish"]), 120), float(e.get("scale", 1)))
        for e in data.get("entries", [])
    )
    if len(entries) > MOST_ENTRIES:
        raise ValueError(f"more than {MOST_ENTRIES} items in a meal")
    return Cell(entries, bool(data.get("locked", False)), bool(data.get("skipped", False)))


def _word(value: Any, most: int) -> str:
    if not isinstance(value, str) or not value.strip() or plain_text(value) != value:
        raise ValueError(f"{repr(value)[:60]} is not a name")
    return value.strip()[:most]
