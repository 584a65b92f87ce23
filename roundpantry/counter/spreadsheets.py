"""Workbooks in and out, for every app: bounded before they are read, without formulas when they are
written.
"""

from __future__ import annotations

import io
from collections.abc import Iterable, Sequence
from typing import Any
from zipfile import BadZipFile, ZipFile

from dietetics.untrusted_input import harmless_cell, plain_text

MOST_PARTS, MOST_UNZIPPED = (
    200,
    20_000_000,
)  # of a workbook: files in it, and bytes of all of them together
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
    """Refuse a file that would unzip to more than can be read, before anything is unzipped."""
    if content[:8] == b"\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1":
        raise UnreadableWorkbookError(
            "The file is locked with a password, or of an old kind. Save it as XLSX without one."
        )
    try:
        with ZipFile(io.BytesIO(content)) as parts:
            sizes = [part.file_size for part in parts.infolist()]
    except (BadZipFile, ValueError, OSError, NotImplementedError):
        raise UnreadableWorkbookError("The file is not a workbook that can be read.") from None
    if len(sizes) > MOST_PARTS or sum(sizes) > MOST_UNZIPPED:
        raise UnreadableWorkbookError(
            f"The workbook unzips to {sum(sizes):,} bytes in {len(sizes):,} parts; "
            f"{MOST_UNZIPPED:,} and {MOST_PARTS} are the most."
        )


def _cell(value: Any) -> Any:
    return plain_text(value[:MOST_CELL]) if isinstance(value, str) else value
