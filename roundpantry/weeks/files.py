"""A week as a file: XLSX and CSV with one row a portion, JSON, and a calendar of its meals; and
read back.
"""

from __future__ import annotations

import json
from collections.abc import Callable, Mapping
from datetime import date, datetime, time, timedelta
from importlib import import_module
from typing import Any

from dietetics.amounts.weighing import amount_text
from dietetics.dishes.recipe_files import decoded
from dietetics.errors import DieteticsError
from dietetics.untrusted_input import bounded_json
from dietetics.week.plan import Plan, plan_json, plan_of
from dietetics.week.words.week_files import (
    COLUMNS,
    MOST_ROWS,
    plan_csv,
    plan_of_csv,
    plan_of_rows,
    portion_rows,
)
from roundpantry.counter import clock
from roundpantry.counter.spreadsheets import UnreadableWorkbookError, workbook_bytes, workbook_rows
from roundpantry.weeks.models import Week
from roundpantry.weeks.week_snapshot import snapshot_of

FORMAT = "round-pantry-plan/1"
MOST_BYTES = 2_000_000
USUAL_HOURS = {"breakfast": 8, "lunch": 12, "snack": 16, "juice": 16, "dinner": 19}


def as_csv(week: Week) -> bytes:
    """One row a portion, then one a cooking."""
    found = snapshot_of(week)
    return plan_csv(found.plan, found.available.dishes).encode()


def as_json(week: Week) -> bytes:
    """The plan with whose week it is; described in docs/week.md."""
    data = {
        "format": FORMAT,
        "start": week.start.isoformat(),
        "version": week.version,
        **plan_json(snapshot_of(week).plan),
    }
    return json.dumps(data, ensure_ascii=False, indent=1).encode()


def as_xlsx(week: Week) -> bytes:
    """The same rows as the CSV, on a sheet."""
    found = snapshot_of(week)
    rows = [
        [row[name] for name in COLUMNS] for row in portion_rows(found.plan, found.available.dishes)
    ]
    return workbook_bytes(
        f"Week of {week.start.isoformat()}", [COLUMNS, *rows], {"B": 14, "D": 14, "F": 16, "G": 42}
    )


def as_calendar(week: Week) -> bytes:
    """Every meal as an event at its hour, every cooking evening as one. Times are the clock's,
    wherever the client is.
    """
    icalendar = import_module("icalendar")
    found = snapshot_of(week)
    book = icalendar.Calendar()
    book.add("prodid", "-//Round Pantry//Week//EN")
    book.add("version", "2.0")
    hours = meal_hours(found.plan, week.client.meal_hours)
    for d, m, cell in found.plan.places():
        if not cell.entries or found.plan.days[d].kind == "off":
            continue
        names = " and ".join(
            f"{'' if e.scale == 1 else amount_text(e.scale) + ' × '}{e.name}" for e in cell.entries
        )
        at = datetime.combine(week.start + timedelta(days=d), hours[m])
        total = found.days[d].meals[m]
        words = f"{total['energy_kcal'].shown()}, {total['protein_g'].shown()} protein"
        book.add_component(
            calendar_event(
                icalendar, f"{week.pk}-{d}-{m}", f"{found.plan.meals[m]}: {names}", at, 30, words
            )
        )
    for day in sorted({c.day for c in found.plan.cookings if c.day >= -1}):
        pots = [c for c in found.plan.cookings if c.day == day]
        names = ", ".join(
            f"{amount_text(c.pots)} × {_pot_name(found.available.pots, c.batch)}" for c in pots
        )
        at = datetime.combine(week.start + timedelta(days=day), time(17, 30))
        book.add_component(
            calendar_event(icalendar, f"{week.pk}-cook-{day}", f"Cook: {names}", at, 90, "")
        )
    return bytes(book.to_ical())


def _pot_name(pots: Mapping[str, Any], key: str) -> str:
    return pots[key].name if key in pots else key


def meal_hours(plan: Plan, written: str) -> list[time]:
    """The hours of the meals as written for the client ("6:30, 12:00"), or the usual ones."""
    found = []
    for text in written.split(","):
        hour, _, minute = text.strip().partition(":")
        if (
            hour.isdecimal()
            and (not minute or minute.isdecimal())
            and int(hour) < 24
            and int(minute or 0) < 60
        ):
            found.append(time(int(hour), int(minute or 0)))
    if len(found) == len(plan.meals):
        return found
    return [
        time(USUAL_HOURS.get(name.lower(), min(8 + 4 * n, 22))) for n, name in enumerate(plan.meals)
    ]


def calendar_event(
    icalendar: Any, uid: str, title: str, at: datetime, minutes: int, words: str
) -> Any:
    event = icalendar.Event()
    event.add("uid", f"week-{uid}@round-pantry")
    event.add("summary", title)
    event.add("dtstart", at)
    event.add("dtend", at + timedelta(minutes=minutes))
    event.add("dtstamp", clock.now())
    if words:
        event.add("description", words)
    return event


WRITERS: dict[str, tuple[Callable[[Week], bytes], str]] = {
    "csv": (as_csv, "text/csv; charset=utf-8"),
    "json": (as_json, "application/json"),
    "xlsx": (as_xlsx, "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"),
    "ics": (as_calendar, "text/calendar; charset=utf-8"),
}


def read_plan(name: str, data: bytes) -> tuple[Plan, date | None]:
    """A plan out of a file that was written here: JSON, CSV or XLSX by its name. Raises
    `week-unreadable`.
    """
    if len(data) > MOST_BYTES:
        raise DieteticsError(
            "week-unreadable",
            problem=f"the file has {len(data):,} bytes; {MOST_BYTES:,} is the most",
        )
    kind = name.lower().rpartition(".")[2]
    if kind == "xlsx":
        return _of_xlsx(data), None
    text = decoded(data)
    if kind == "csv":
        return plan_of_csv(text), None
    try:
        facts = bounded_json(text)
    except DieteticsError as error:
        raise DieteticsError(
            "week-unreadable", problem=f"it is neither CSV, XLSX nor JSON: {error}"
        ) from None
    if not isinstance(facts, dict) or facts.get("format") != FORMAT:
        raise DieteticsError("week-unreadable", problem=f"its “format” is not {FORMAT}")
    try:
        start = date.fromisoformat(str(facts.get("start", "")))
    except ValueError:
        start = None
    return plan_of(facts), start


def _of_xlsx(data: bytes) -> Plan:
    try:
        rows = workbook_rows(data, MOST_ROWS + 2, len(COLUMNS) + 5)
    except UnreadableWorkbookError as error:
        raise DieteticsError("week-unreadable", problem=str(error)) from None
    heads = [str(cell) for cell in rows[0]] if rows else []
    if not {"day", "meal", "dish", "scale"} <= set(heads):
        raise DieteticsError(
            "week-unreadable", problem="the first row must name the columns day, dish, meal, scale"
        )
    found = [
        (n, dict(zip(heads, row, strict=False)))
        for n, row in enumerate(rows[1:], 2)
        if any(v is not None for v in row)
    ]
    return plan_of_rows(found)
