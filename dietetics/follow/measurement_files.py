"""Measurements as a CSV file, out and in: every row is read, or said to be wrong, before any is
kept.
"""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date, time

from dietetics.errors import DieteticsError
from dietetics.follow.kinds import Kind, kind, kinds, names
from dietetics.follow.written_days import take_day
from dietetics.untrusted_input import ascii_digits, harmless_cell, plain_text

COLUMNS = ("day", "time", "kind", "value", "unit", "low", "high", "reported_by", "remark")
REPORTERS = ("practitioner", "client", "clinician")
MOST_ROWS, MOST_REMARK = 5_000, 300


@dataclass(frozen=True)
class MeasuredRow:
    """A row of a file, in base units."""

    kind: Kind
    value: float
    day: date
    at: time | None = None
    low: float | None = None
    high: float | None = None
    reported_by: str = "practitioner"
    remark: str = ""
    typed: str = ""


@dataclass(frozen=True)
class ReadRow:
    """A row as it was read: its line in the file, and the measurement or what is wrong with it."""

    line: int
    row: MeasuredRow | None
    problem: str = ""


def as_csv(rows: Iterable[MeasuredRow]) -> str:
    """Rows as CSV in base units, the oldest first."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(COLUMNS)
    for one in sorted(rows, key=lambda row: (row.day, row.at or time())):
        at = f"{one.at:%H:%M}" if one.at else ""
        numbers = ["" if x is None else f"{x:.10g}" for x in (one.low, one.high)]
        cells = (
            one.day.isoformat(),
            at,
            one.kind.key,
            f"{one.value:.10g}",
            one.kind.unit,
            *numbers,
            one.reported_by,
            one.remark,
        )
        writer.writerow([harmless_cell(cell) for cell in cells])
    return out.getvalue()


def read_csv(text: str, today: date) -> tuple[ReadRow, ...]:
    """Every row of a file. Raises DieteticsError `measured-file` where there is no table of
    measurements in it, or too many rows.
    """
    lines = plain_text(ascii_digits(text).lstrip("\ufeff")).splitlines()
    separator = ";" if lines and lines[0].count(";") > lines[0].count(",") else ","
    try:
        table = list(csv.reader(lines, delimiter=separator))
    except csv.Error as error:
        raise DieteticsError("measured-file", problem=str(error)) from None
    table = [row for row in table if any(cell.strip() for cell in row)]
    if not table:
        raise DieteticsError("measured-file", problem="it is empty")
    head = [cell.strip().lower().replace(" ", "_") for cell in table[0]]
    missing = [name for name in ("day", "kind", "value") if name not in head]
    if missing:
        problem = f"its first line does not name {', '.join(missing)}"
        raise DieteticsError("measured-file", problem=problem)
    if len(table) - 1 > MOST_ROWS:
        problem = f"{len(table) - 1:,} rows are more than {MOST_ROWS:,}"
        raise DieteticsError("measured-file", problem=problem)
    return tuple(_read(n, head, cells, today) for n, cells in enumerate(table[1:], start=2))


def _read(line: int, head: Sequence[str], cells: Sequence[str], today: date) -> ReadRow:
    given = {name: cell.strip() for name, cell in zip(head, cells, strict=False)}
    try:
        return ReadRow(line, _row(given, today))
    except DieteticsError as error:
        return ReadRow(line, None, str(error))


def _row(given: dict[str, str], today: date) -> MeasuredRow:
    found = _kind(given.get("kind", ""))
    day = _day(given.get("day", ""), today)
    value = _number(given.get("value", ""), "value")
    unit_name = given.get("unit", "")
    unit = found.unit_named(unit_name) if unit_name else found.units[0]
    if unit is None or (not unit_name and found.unit and not found.is_likely(value)):
        raise DieteticsError(
            "measured-unit", name=found.name, unit=unit_name or "no unit", known=_units(found)
        )
    base = unit.to_base(value)
    typed = f"{given.get('value', '')} {unit_name}".strip()
    if not found.can_be(base):
        least, most = found.text(found.least), found.text(found.most)
        raise DieteticsError(
            "measured-impossible", name=found.name, text=typed, least=least, most=most
        )
    ends = [
        unit.to_base(_number(given[name], name)) if given.get(name) else None
        for name in ("low", "high")
    ]
    reported = given.get("reported_by") or "practitioner"
    if reported not in REPORTERS:
        raise DieteticsError("measured-reporter", text=reported, known=", ".join(REPORTERS))
    remark = given.get("remark", "")[:MOST_REMARK]
    return MeasuredRow(
        found, base, day, _time(given.get("time", "")), ends[0], ends[1], reported, remark, typed
    )


def _units(found: Kind) -> str:
    return ", ".join(unit.name for unit in found.units if unit.name) or "none"


def _kind(text: str) -> Kind:
    plain = text.lower()
    if plain in kinds():
        return kind(plain)
    named = next((key for word, key, _ in names() if word == plain), "")
    return kind(named or text or "nothing")


def _day(text: str, today: date) -> date:
    rest, day = take_day(text, today)
    if day is None or rest.strip():
        raise DieteticsError("day-impossible", text=text or "nothing")
    if day > today:
        raise DieteticsError("measured-future", day=day.isoformat())
    return day


def _time(text: str) -> time | None:
    if not text:
        return None
    try:
        return time.fromisoformat(text if ":" in text else f"{text}:00")
    except ValueError:
        raise DieteticsError("measured-time", text=text) from None


def _number(text: str, name: str) -> float:
    try:
        found = float(text.replace(",", ".") if text.count(",") == 1 else text)
    except ValueError:
        raise DieteticsError("measured-number", name=name, text=text or "nothing") from None
    if not abs(found) < float("inf"):
        raise DieteticsError("measured-number", name=name, text=text)
    return found
