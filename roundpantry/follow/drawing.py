"""The weight over time as SVG: the line with its band, the weigh-ins, what was agreed, what is
expected, and the day each version of the targets began. It reads in grey: every line has a dash of
its own.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta

from django.utils.html import format_html, format_html_join
from django.utils.safestring import SafeString

from dietetics.follow.trajectory import Trajectory, WeighIn
from roundpantry.counter.dates import short_day_text

WIDTH, HEIGHT = 760.0, 320.0
LEFT, RIGHT, TOP, BOTTOM = 54.0, 14.0, 22.0, 28.0
LEAST_SPAN_KG = 3.0  # so that ordinary water does not look like a mountain
STEPS_KG = (0.5, 1, 2, 5, 10, 20)
MOST_LINES, MOST_DATES = 7, 7


@dataclass(frozen=True)
class PathPoint:
    """A weight on a day."""

    day: date
    kg: float


@dataclass(frozen=True)
class _Scale:
    first: date
    days: int
    low: float
    high: float

    def x(self, day: date) -> float:
        return LEFT + (WIDTH - LEFT - RIGHT) * (day - self.first).days / max(self.days, 1)

    def y(self, kg: float) -> float:
        inner = HEIGHT - TOP - BOTTOM
        return TOP + inner * (self.high - kg) / (self.high - self.low)

    def at(self, day: date, kg: float) -> str:
        return f"{self.x(day):.1f},{self.y(kg):.1f}"


def draw_weight(
    line: Trajectory,
    first: date,
    last: date,
    agreed: Sequence[PathPoint],
    expected: Sequence[PathPoint],
    versions: Sequence[tuple[date, int]],
    words: str,
) -> SafeString:
    """The picture from a first to a last day. `words` say the same to whoever does not see it."""
    days = [one for one in line.days if one.day >= first]
    shown = [one for one in line.weigh_ins if one.day >= first]
    paths = [*agreed, *expected]
    values = [one.low for one in days] + [one.high for one in days]
    values += [one.kg for one in shown] + [one.kg for one in paths]
    middle, half = (min(values) + max(values)) / 2, (max(values) - min(values)) / 2
    half = max(half, LEAST_SPAN_KG / 2) * 1.06
    scale = _Scale(first, (last - first).days, middle - half, middle + half)
    band = [scale.at(one.day, one.high) for one in days]
    band += [scale.at(one.day, one.low) for one in reversed(days)]
    return format_html(
        '<svg class="weight-line" viewBox="0 0 {} {}" role="img" aria-label="{}">'
        "{}{}{}{}{}{}{}</svg>",
        WIDTH,
        HEIGHT,
        words,
        _grid(scale),
        _versions(scale, versions),
        format_html('<polygon class="weight-band" points="{}"/>', " ".join(band)),
        _path("weight-agreed", scale, agreed),
        _path("weight-expected", scale, expected),
        _path("weight-smooth", scale, [PathPoint(one.day, one.kg) for one in days]),
        _dots(scale, line, shown),
    )


def _path(name: str, scale: _Scale, points: Sequence[PathPoint]) -> SafeString:
    if len(points) < 2:
        return SafeString("")
    drawn = " ".join(scale.at(one.day, one.kg) for one in points)
    return format_html('<polyline class="{}" points="{}"/>', name, drawn)


def _dots(scale: _Scale, line: Trajectory, shown: Sequence[WeighIn]) -> SafeString:
    out = set(line.far_out)
    return format_html_join(
        "",
        '<circle class="{}" cx="{}" cy="{}" r="3.5"><title>{}</title></circle>',
        [
            (
                "weigh-in far-out" if one in out else "weigh-in",
                f"{scale.x(one.day):.1f}",
                f"{scale.y(one.kg):.1f}",
                f"{short_day_text(one.day)}: {one.kg:.1f} kg"
                f"{', not believed' if one in out else ''}",
            )
            for one in shown
        ],
    )


def _grid(scale: _Scale) -> SafeString:
    step = next((s for s in STEPS_KG if (scale.high - scale.low) / s <= MOST_LINES), STEPS_KG[-1])
    first = -(-scale.low // step) * step
    kilos = [first + n * step for n in range(int((scale.high - first) / step) + 1)]
    rows = format_html_join(
        "",
        '<line class="grid-line" x1="{}" x2="{}" y1="{}" y2="{}"/>'
        '<text class="axis" x="{}" y="{}" text-anchor="end">{}</text>',
        [
            (
                LEFT,
                WIDTH - RIGHT,
                *[f"{scale.y(kg):.1f}"] * 2,
                LEFT - 6,
                f"{scale.y(kg) + 4:.1f}",
                f"{kg:g} kg" if kg == kilos[-1] else f"{kg:g}",
            )
            for kg in kilos
        ],
    )
    every = max(1, -(-scale.days // MOST_DATES))
    every = 7 * -(-every // 7) if every > 3 else every
    dates = [scale.first + timedelta(days=n) for n in range(0, scale.days + 1, every)]
    columns = format_html_join(
        "",
        '<text class="axis" x="{}" y="{}" text-anchor="middle">{}</text>',
        [(f"{scale.x(day):.1f}", HEIGHT - 8, short_day_text(day)) for day in dates],
    )
    return format_html("{}{}", rows, columns)


def _versions(scale: _Scale, versions: Sequence[tuple[date, int]]) -> SafeString:
    return format_html_join(
        "",
        '<line class="version-line" x1="{0}" x2="{0}" y1="{1}" y2="{2}"/>'
        '<text class="axis" x="{0}" y="{3}" text-anchor="{5}">targets {4}</text>',
        [
            (
                f"{scale.x(day):.1f}",
                TOP - 6,
                HEIGHT - BOTTOM,
                TOP - 9,
                number,
                "start" if scale.x(day) < LEFT + 40 else "middle",
            )
            for day, number in versions
            if scale.first <= day
        ],
    )
