"""What comes from outside, bounded before anything reads it: characters that are none, and JSON
that would take the machine.

A file of a few kilobytes can ask for gigabytes: nesting a hundred thousand deep, a number of five
thousand digits, a list that never ends. All of that is seen in one walk over the text, before it is
parsed.
"""

from __future__ import annotations

import json
import re
import unicodedata
from typing import Any

from dietetics.errors import DieteticsError

MOST_DEPTH = 60  # a recipe as published lies five or six deep
MOST_DIGITS = 40  # of one number; a float has seventeen that count
MOST_LINE, MOST_PAGE = (
    600,
    60_000,
)  # characters: what is typed into one line, and a page of a recipe
MOST_GAP = 24  # blanks in a row; columns of a label are parted by fewer
MOST_VALUES = 200_000  # of one text: a year of weeks has a tenth
# One walk, never back: a string that does not close runs to the end of the text and is no reason to
# begin anew.
_PIECES = re.compile(r'"(?:[^"\\]|\\.)*+"?|[\[{]|[\]}]|,|[0-9]+', re.DOTALL)
_GAP = re.compile(rf"[^\S\n]{{{MOST_GAP + 1},}}")
_ENDLESS = re.compile(rf"[0-9]{{{MOST_DIGITS + 1},}}")
_KEPT = {"\n", "\t"}
_DIRECTIONS = [
    *range(0x202A, 0x202F),
    *range(0x2066, 0x206A),
]  # turn the reading direction: one name looks like another
_GONE = {
    **{code: None for code in [*range(0x20), *range(0x7F, 0xA0)] if chr(code) not in _KEPT},
    **dict.fromkeys([*_DIRECTIONS, 0xFFFE, 0xFFFF, *range(0xD800, 0xE000)]),
}


def plain_text(text: str) -> str:
    """The text with lines ended one way, and without characters that are none: controls, halves of
    pairs, turned direction.

    A form feed and a vertical tab end a line too.
    """
    lined = (
        text.replace("\r\n", "\n").replace("\r", "\n").replace("\x0b", "\n").replace("\x0c", "\n")
    )
    return lined.translate(_GONE)


def ascii_digits(text: str) -> str:
    """The text with the digits of every script as 0 to 9: what a reader takes for a digit is a
    digit, in any of them, and nothing else is ("²" is none).

    >>> ascii_digits("٣ cups, ½ of ７")
    '3 cups, ½ of 7'
    """
    if text.isascii():
        return text
    return "".join(str(unicodedata.decimal(ch)) if ch.isdecimal() else ch for ch in text)


def readable(text: str, most: int = MOST_PAGE) -> str:
    """What every reader begins with: a text in which a digit is 0 to 9, no number is endless, no
    gap is wider than a column, and which is no longer than `most`. Raises DieteticsError
    `text-too-long`.
    """
    if len(text) > most:
        raise DieteticsError("text-too-long", length=len(text), most=most)
    return _GAP.sub(" " * MOST_GAP, without_endless_numbers(ascii_digits(text)))


def without_endless_numbers(text: str) -> str:
    """The text with every row of more figures than a number has put as "#": it is no amount, and
    nobody walks along it twice.
    """
    return _ENDLESS.sub("#", text)


def bounded_json(text: str) -> Any:
    """The value of a JSON text. Raises DieteticsError `json-refused` with what is wrong, before or
    while it is parsed.
    """
    depth = values = 0
    for piece in _PIECES.finditer(text):
        first = piece[0][0]
        if first in "[{":
            depth, values = depth + 1, values + 1
        elif first in "]}":
            depth -= 1
        elif first == ",":
            values += 1
        if depth > MOST_DEPTH:
            raise DieteticsError("json-refused", problem=f"it is nested deeper than {MOST_DEPTH}")
        if values > MOST_VALUES:
            raise DieteticsError(
                "json-refused", problem=f"it contains more than {MOST_VALUES:,} values"
            )
        if first.isdigit() and len(piece[0]) > MOST_DIGITS:
            raise DieteticsError(
                "json-refused",
                problem=f"a number has {len(piece[0]):,} digits, {MOST_DIGITS} are the most",
            )
    try:
        found = json.loads(text, parse_constant=_no_number)
        json.dumps(found, ensure_ascii=False).encode()
    except UnicodeEncodeError:
        raise DieteticsError("json-refused", problem="it contains a broken character") from None
    except (ValueError, RecursionError) as error:
        raise DieteticsError(
            "json-refused", problem=f"it is not JSON ({str(error)[:80]})"
        ) from None
    return found


def _no_number(name: str) -> float:
    raise ValueError(f"{name} is not a number")


FORMULA_STARTS = (
    "=",
    "+",
    "-",
    "@",
    "＝",
    "＋",
    "－",
    "＠",
    "\t",
    "\r",
    "\n",
)  # wide forms are taken for the plain ones


def harmless_cell(value: Any) -> Any:
    """A cell for any table that leaves the program: text that a spreadsheet would run is kept as
    text by an apostrophe.

    Characters that a workbook cannot hold are left out. Numbers and empty cells pass as they are.

    >>> harmless_cell("=1+1"), harmless_cell(-3)
    ("'=1+1", -3)
    """
    if not isinstance(value, str):
        return value
    plain = plain_text(value)
    return f"'{plain}" if plain.startswith(FORMULA_STARTS) else plain


def written_cell(value: Any) -> Any:
    """The text that `harmless_cell` made safe, as it was."""
    return (
        value[1:]
        if isinstance(value, str) and value.startswith("'") and value[1:].startswith(FORMULA_STARTS)
        else value
    )
