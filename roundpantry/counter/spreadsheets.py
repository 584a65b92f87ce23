"""Workbooks in and out, for every app: bounded before they are read, without formulas when they are
written.
"""

from __future__ import annotations

import io
import re
from collections.abc import Iterable, Sequence
from typing import Any
from zipfile import BadZipFile, ZipFile

from dietetics.untrusted_input import harmless_cell, plain_text

MOST_PARTS, MOST_UNZIPPED = (
    200,
    20_000_000,
)  # of a workbook: files in it, and bytes of all of them together
# What a part costs grows with its tags, not its bytes. Of cells and their texts a workbook as large
# as the largest upload (2,000 rows of 50 columns) has 600,000; of styles, names and sheets one that
# people made has some hundreds.
MOST_CELL_TAGS, MOST_OTHER_TAGS = 900_000, 30_000
MOST_SHEETS, MOST_NESTED = 60, 30
CELLS = re.compile(r"xl/(?:sharedStrings|worksheets/[^/]*)\.xml", re.IGNORECASE)
_TAG = re.compile(rb"<(/)?[^<>]*?(/)?>")
MOST_CELL = 5000  # characters of a cell that are read


class UnreadableWorkbookError(ValueError):
    """A file that is no workbook, or one that is too large; the message is for the practitioner."""


def workbook_bytes(
    title: str, rows: Iterable[Sequence[Any]], widths: dict[str, float] | None = None
) -> bytes:
    """Rows as a workbook of one sheet, its first row held in place."""
    from openpyxl import Workbook

    book = Workbook()
    sheet = book.active
    sheet.title = title
    for row in rows:
        sheet.append([harmless_cell(cell) for cell in row])
    sheet.freeze_panes = "A2"
    for column, width in (widths or {}).items():
        sheet.column_dimensions[column].width = width
    buffer = io.BytesIO()
    book.save(buffer)
    return buffer.getvalue()


def workbook_rows(
    content: bytes, most_rows: int, most_columns: int, formulas: bool = False
) -> list[list[Any]]:
    """The cells of the first sheet, text and numbers, up to so many rows and columns; `formulas`
    reads them as written.

    Raises UnreadableWorkbookError.
    """
    _bounded(content)
    from openpyxl import load_workbook

    try:
        book = load_workbook(
            io.BytesIO(content), read_only=True, data_only=not formulas, keep_links=False
        )
        sheet = book.worksheets[0]
        found = sheet.iter_rows(max_row=most_rows, max_col=most_columns, values_only=True)
        return [[_cell(value) for value in row] for row in found]
    except Exception as error:  # noqa: BLE001 whatever a foreign file makes a foreign library raise: it is no workbook
        raise UnreadableWorkbookError(
            f"The file is not a workbook that can be read ({type(error).__name__})."
        ) from None


def _bounded(content: bytes) -> None:
    """Refuse a file that would take more memory or time than it is worth, before it is read."""
    if content[:8] == b"\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1":
        raise UnreadableWorkbookError(
            "The file is locked with a password, or of an old kind. Save it as XLSX without one."
        )
    try:
        with ZipFile(io.BytesIO(content)) as parts:
            sizes = [part.file_size for part in parts.infolist()]
            if len(sizes) > MOST_PARTS or sum(sizes) > MOST_UNZIPPED:
                raise UnreadableWorkbookError(
                    f"The workbook unzips to {sum(sizes):,} bytes in {len(sizes):,} parts; "
                    f"{MOST_UNZIPPED:,} and {MOST_PARTS} are the most."
                )
            for part in parts.infolist():
                _bounded_part(part.filename, parts.read(part))
    except (BadZipFile, ValueError, OSError, NotImplementedError, RuntimeError) as error:
        if isinstance(error, UnreadableWorkbookError):
            raise
        raise UnreadableWorkbookError("The file is not a workbook that can be read.") from None


def _bounded_part(name: str, content: bytes) -> None:
    """Refuse a part with more tags, sheets or nesting than a table that people made."""
    tags, is_cells = content.count(b"<"), bool(CELLS.fullmatch(name))
    most = MOST_CELL_TAGS if is_cells else MOST_OTHER_TAGS
    if tags > most:
        what = "cells and texts" if is_cells else f"parts in {name}"
        raise UnreadableWorkbookError(
            f"The workbook has too many {what}: {tags:,} tags, {most:,} are the most. "
            "Copy the table into a new workbook and upload that."
        )
    if name.lower() == "xl/workbook.xml" and content.count(b"<sheet ") > MOST_SHEETS:
        raise UnreadableWorkbookError(f"The workbook has more than {MOST_SHEETS} sheets.")
    if not is_cells and _nesting(content) > MOST_NESTED:
        raise UnreadableWorkbookError("The file is not a workbook that can be read (nested).")


def _nesting(content: bytes) -> int:
    """How deep the tags of a part lie in each other."""
    depth = deepest = 0
    for found in _TAG.finditer(content):
        if found[1]:
            depth -= 1
        elif not found[2] and not found[0].startswith((b"<?", b"<!")):
            depth += 1
            deepest = max(deepest, depth)
    return deepest


def _cell(value: Any) -> Any:
    return plain_text(value[:MOST_CELL]) if isinstance(value, str) else value
