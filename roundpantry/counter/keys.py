"""The keys of the program, once: the list that `?` opens and the scripts both take them from here.

A row says where its keys work, what each does, and how a person reads it. The browser looks an
action up under the place and the key; what an action does stands in the scripts.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from django.http import HttpRequest

PAGE, PART, MEAL = "page", "part", "meal"  # anywhere, on an ingredient, on a meal of the week


@dataclass(frozen=True)
class KeyRow:
    """One line of the list: keys as they are printed, their words, and the action of each key."""

    shown: tuple[str, ...]
    words: str
    where: str = PAGE
    actions: Mapping[str, str] = field(default_factory=dict)
    then: str = ""


KEY_ROWS = (
    KeyRow(("/",), "search foods", PAGE, {"/": "search"}),
    KeyRow(("n",), "add new, where the page allows it", PAGE, {"n": "new"}),
    KeyRow(
        ("←", "→", "↑", "↓"),
        "on an ingredient of the dish: smaller, larger; in a portion field: ↑ ↓",
    ),
    KeyRow(("b",), "balance the bowl, or plan the week", PAGE, {"b": "balance"}),
    KeyRow(
        ("1", "…", "8", "0"),
        "take a fix or a dish by its number; 0 uses the closest portions",
        PAGE,
        {str(number): "take" for number in range(10)},
    ),
    KeyRow(
        ("l", "d", "[", "]", "Del", "Enter"),
        "on an ingredient: lock, duplicate, move up, move down, remove; on the dish: more about it",
        PART,
        {
            "l": "lock",
            "d": "double",
            "[": "up",
            "]": "down",
            "Delete": "remove",
            "Enter": "panel",
        },
    ),
    KeyRow(
        ("Enter", "c", "v", "r", "f", "x", "l", "k", "s", "+", "−"),
        "on a meal of the week: open, copy, paste, Monday to Friday, to Sunday, empty, lock, no "
        "meal, swap days, portion size",
        MEAL,
        {
            "Enter": "open",
            " ": "open",
            "c": "mark",
            "v": "paste",
            "r": "repeat",
            "f": "fill",
            "x": "clear",
            "Delete": "clear",
            "l": "lock",
            "k": "skip",
            "s": "swap",
            "+": "larger",
            "=": "larger",
            "-": "smaller",
        },
    ),
    KeyRow(("w",), "switch client", PAGE, {"w": "client"}),
    KeyRow(("u",), "undo on the bench and on the week", PAGE, {"u": "undo"}),
    KeyRow(
        ("g",), "go to a page (letters are shown in the menu)", PAGE, {"g": "go"}, "then a letter"
    ),
    KeyRow(("?",), "this list", PAGE, {"?": "keys"}),
    KeyRow(("Esc",), "close this, or leave a field"),
)


def key_map() -> dict[str, dict[str, str]]:
    """For each place the action of each key, as the scripts read it."""
    found: dict[str, dict[str, str]] = {PAGE: {}, PART: {}, MEAL: {}}
    for row in KEY_ROWS:
        found[row.where].update(row.actions)
    return found


KEY_MAP = key_map()


def keys(request: HttpRequest) -> dict[str, Any]:
    """For every template: the rows of the list, and the map for the scripts."""
    return {"key_rows": KEY_ROWS, "key_map": KEY_MAP}
