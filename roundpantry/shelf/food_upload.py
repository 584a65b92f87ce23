"""Own foods as CSV and XLSX with the same columns, and a dry run that says row by row what an
upload would do.
"""

from __future__ import annotations

import csv
import io
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Any

from dietetics.errors import DieteticsError
from dietetics.labels.checks import check_label
from dietetics.labels.facts import PER_100G, PER_SERVING, LabelFacts
from dietetics.nutrients import TABLE_KEYS, nutrient
from dietetics.untrusted_input import harmless_cell, plain_text, written_cell
from roundpantry.counter.spreadsheets import UnreadableWorkbookError, workbook_bytes, workbook_rows
from roundpantry.shelf.food_rows import GROUP_NAMES
from roundpantry.shelf.models import LabelVersion
from roundpantry.shelf.records import facts_json, facts_of

PLAIN = (
    "name",
    "group",
    "basis",
    "serving_text",
    "serving_g",
    "servings_per_package",
    "net_g",
    "ingredients",
)
COLUMNS = ("label", *PLAIN, *TABLE_KEYS)
MOST_ROWS, MOST_BYTES = 2000, 2_000_000


@dataclass(frozen=True)
class DryRow:
    """What one row of an upload would do: add, change or refuse, and why."""

    number: int
    name: str
    action: str
    why: str
    facts: dict[str, Any] | None = None
    label: int | None = None


class UnreadableFileError(ValueError):
    """A file that is no table of foods; the message is for the practitioner."""


def rows_of(versions: Iterable[LabelVersion]) -> list[list[Any]]:
    """The labels as rows under COLUMNS; unknown is an empty cell."""
    rows = []
    for version in versions:
        facts = facts_of(version)
        plain = ["" if getattr(facts, key) is None else getattr(facts, key) for key in PLAIN]
        rows.append([version.label_id, *plain, *[facts.values.get(key, "") for key in TABLE_KEYS]])
    return rows


def to_csv(rows: Sequence[Sequence[Any]]) -> bytes:
    """Rows as CSV with a byte-order mark, so that spreadsheets see UTF-8."""
    buffer = io.StringIO()
    writer = csv.writer(buffer)
    writer.writerow(COLUMNS)
    writer.writerows([[harmless_cell(cell) for cell in row] for row in rows])
    return buffer.getvalue().encode("utf-8-sig")


def to_xlsx(rows: Sequence[Sequence[Any]]) -> bytes:
    """Rows as a workbook of one sheet."""
    return workbook_bytes("own foods", [COLUMNS, *rows])


def read_table(name: str, content: bytes) -> list[list[str]]:
    """The cells of an uploaded file as text. Raises UnreadableFileError."""
    if len(content) > MOST_BYTES:
        raise UnreadableFileError(
            f"The file has {len(content):,} bytes; {MOST_BYTES:,} is the most."
        )
    if name.lower().endswith(".xlsx") or content[:2] == b"PK":
        return _from_xlsx(content)
    for encoding in (
        "utf-8-sig",
        "utf-16" if content[:2] in (b"\xff\xfe", b"\xfe\xff") else "utf-8",
    ):
        try:
            text = content.decode(encoding)
            break
        except UnicodeDecodeError as error:
            where = error.start
    else:
        raise UnreadableFileError(
            f"The file is not UTF-8 text (byte {where}). Save it as “CSV UTF-8”."
        )
    if "\x00" in text:
        raise UnreadableFileError("The file is not text.")
    text = plain_text(text)
    first_line = text.splitlines()[0] if text.splitlines() else ""
    delimiter = max((",", ";", "\t"), key=first_line.count)
    try:
        return [list(row) for row in csv.reader(io.StringIO(text), delimiter=delimiter)]
    except csv.Error as error:
        raise UnreadableFileError(f"The file is not a CSV table: {error}.") from None


def _from_xlsx(content: bytes) -> list[list[str]]:
    try:
        rows = workbook_rows(content, MOST_ROWS + 2, len(COLUMNS) + 5, formulas=True)
    except UnreadableWorkbookError as error:
        raise UnreadableFileError(str(error)) from None
    return [["" if cell is None else str(cell) for cell in row] for row in rows]


def dry_run(table: list[list[str]], own: dict[int, LabelVersion]) -> list[DryRow]:
    """Say what each row would do. Raises UnreadableFileError when the head is not ours or there are
    too many rows.
    """
    table = [row for row in table if any(cell.strip() for cell in row)]
    if not table:
        raise UnreadableFileError("The file is empty.")
    head = [cell.strip().lstrip("\ufeff").lower() for cell in table[0]]
    if "name" not in head:
        raise UnreadableFileError(
            "The first row must name the columns. Understood: "
            f"{', '.join(head[:6]) or 'nothing'}. Wanted: name, …"
        )
    unknown = [name for name in head if name and name not in COLUMNS]
    if unknown:
        raise UnreadableFileError(
            f"Columns not known: {', '.join(unknown[:8])}. Known: {', '.join(COLUMNS[:9])} and "
            "nutrient keys."
        )
    if len(table) - 1 > MOST_ROWS:
        raise UnreadableFileError(f"The file has more than {MOST_ROWS:,} rows; split it.")
    seen: dict[str, int] = {}
    result = []
    for number, row in enumerate(table[1:], 2):
        cells = dict(zip(head, (cell.strip() for cell in row), strict=False))
        result.append(_dry_row(number, cells, own, seen))
    return result


def _dry_row(
    number: int, cells: dict[str, str], own: dict[int, LabelVersion], seen: dict[str, int]
) -> DryRow:
    name = written_cell(cells.get("name", ""))
    try:
        facts = _facts(cells, name)
        label = _label_number(cells.get("label", ""), own)
    except DieteticsError as error:
        return DryRow(number, name, "refuse", str(error))
    except ValueError as error:
        return DryRow(number, name, "refuse", str(error))
    key = str(label) if label is not None else name.lower()
    if key in seen:
        return DryRow(number, name, "refuse", f"the same food is in row {seen[key]} already")
    seen[key] = number
    serious = [check.text for check in check_label(facts) if check.serious]
    if serious:
        return DryRow(number, name, "refuse", " ".join(serious))
    stored = facts_json(facts)
    if label is not None and facts_json(facts_of(own[label])) == stored:
        return DryRow(number, name, "same", "no change")
    action = "add" if label is None else "change"
    why = "a new food" if label is None else f"a new version of label {label}"
    return DryRow(number, name, action, why, stored, label)


def _label_number(text: str, own: dict[int, LabelVersion]) -> int | None:
    if not text:
        return None
    if not text.removesuffix(".0").isdecimal() or int(text.removesuffix(".0")) not in own:
        raise ValueError(f"label “{text}” is not one of yours; leave it empty to add a food")
    return int(text.removesuffix(".0"))


def _facts(cells: dict[str, str], name: str) -> LabelFacts:
    for key, cell in cells.items():
        if cell.startswith(("=", "@", "＝", "＠")):
            raise ValueError(f"{key} contains a formula ({cell[:20]}); write its value")
    cells = {key: written_cell(cell) for key, cell in cells.items()}
    if not name:
        raise ValueError("the name is empty")
    group = cells.get("group") or "processed"
    if group not in GROUP_NAMES:
        raise ValueError(f"group “{group}” is not known; known: {', '.join(GROUP_NAMES)}")
    basis = cells.get("basis") or PER_100G
    if basis not in (PER_SERVING, PER_100G):
        raise ValueError(f"basis “{basis}” must be “{PER_SERVING}” or “{PER_100G}”")
    values = {
        key: number
        for key in TABLE_KEYS
        if (number := _uploaded_number(key, cells.get(key, ""))) is not None
    }
    sizes = {
        key: _uploaded_number(key, cells.get(key, ""))
        for key in ("serving_g", "servings_per_package", "net_g")
    }
    return LabelFacts(
        name=name[:80],
        basis=basis,
        values=values,
        group=group,
        serving_text=cells.get("serving_text", "")[:40],
        ingredients=cells.get("ingredients", "")[:5000],
        **sizes,
    )


def _uploaded_number(key: str, text: str) -> float | None:
    """A cell as a number; a decimal comma is read as one; blank is unknown."""
    if not text:
        return None
    plain = text.replace("\u00a0", "").replace(" ", "")
    if "," in plain and "." not in plain:
        plain = plain.replace(",", ".")
    try:
        value = float(plain)
    except ValueError:
        raise ValueError(f"{key}: “{text[:20]}” is not a number") from None
    if not 0 <= value < 1e7:
        name = nutrient(key).name if key in TABLE_KEYS else key
        raise ValueError(f"{name}: {text[:20]} is not possible; it must be zero or more")
    return value
