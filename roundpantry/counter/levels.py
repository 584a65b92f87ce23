"""Levels as they are drawn: numbers for the SVG and words for the screen reader, formatted before
the template.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import lru_cache

from django.template.loader import get_template

from dietetics.composition.sums import Composition
from dietetics.nutrients import NUTRIENTS, nutrient
from dietetics.targets.windows import HIGH_LINE, LOW_LINE, Level

SHORT_NAMES = {"kcal_per_g": "Density"}
TUBE_LEFT, TUBE_WIDTH = 4.0, 192.0


@dataclass(frozen=True)
class DrawnLevel:
    """A level ready for its template: texts, state, and places on the tube in SVG units."""

    key: str
    name: str
    value: str
    wants: str
    verdict: str
    state: str
    words: str
    importance: str
    lines: tuple[str, ...]
    fill_left: str
    fill_width: str
    bubble: str
    tail_from: str
    tail_width: str


def _x(place: float) -> float:
    return TUBE_LEFT + place * TUBE_WIDTH


def drawn_level(level: Level) -> DrawnLevel:
    """Format one level."""
    window, one = level.window, nutrient(level.window.key)
    low, high = window.low, window.high
    left = LOW_LINE if low is not None else 0.0
    right = HIGH_LINE if high is not None else 1.0
    if low is not None and low == high:
        left = right = 0.5
    lines = [f"{_x(place):.1f}" for place, side in ((left, low), (right, high)) if side is not None]
    verdict = {"in": "met" if level.certain else "met as far as known", "unknown": "unknown"}.get(
        level.state, f"{one.number(level.by)} {level.state}"
    )
    bubble = "" if level.place is None else f"{_x(level.place):.1f}"
    tail_from = TUBE_LEFT if level.place is None else _x(level.place)
    return DrawnLevel(
        key=window.key,
        name=SHORT_NAMES.get(one.key, one.name),
        value=level.figure.shown(),
        wants=f"{window.text()} {one.unit}",
        verdict=verdict,
        state=level.state if level.certain or level.state != "in" else "unsure",
        words=level.words(),
        importance=window.importance,
        lines=tuple(lines),
        fill_left=f"{_x(left):.1f}",
        fill_width=f"{max(right - left, 0.005) * TUBE_WIDTH:.1f}",
        bubble=bubble,
        tail_from=f"{tail_from:.1f}",
        tail_width=f"{level.tail * TUBE_WIDTH:.1f}",
    )


@lru_cache(maxsize=4096)
def _html(drawn: DrawnLevel, why_base: str) -> str:
    return get_template("counter/level.html").render({"level": drawn, "why_base": why_base})


def levels_html(levels: Sequence[Level], why_base: str = "") -> list[str]:
    """All levels of a bar as HTML, each made once for each state of it.

    `why_base` is the address that answers *Why?* for a nutrient's key; without it a level cannot be
    pressed.
    """
    return [_html(drawn_level(level), why_base) for level in levels]


@dataclass(frozen=True)
class FigureRow:
    """One nutrient of a table of figures: name, and a text a column with whether something is
    unknown.
    """

    key: str
    name: str
    cells: tuple[tuple[str, str], ...]


def figure_rows(
    compositions: Iterable[Composition], keys: Sequence[str] | None = None
) -> list[FigureRow]:
    """Rows of figures for a table, one column a composition: (value, note on what is unknown)."""
    columns = list(compositions)
    rows = []
    for one in NUTRIENTS:
        if keys is not None and one.key not in keys:
            continue
        cells = []
        for composition in columns:
            figure = composition[one.key]
            cells.append((figure.shown(), "" if figure.complete else figure.open_words()))
        rows.append(FigureRow(one.key, one.name, tuple(cells)))
    return rows
