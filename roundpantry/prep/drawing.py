"""The lanes of an evening as SVG: hands and devices over time, each dish in its own glaze."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import datetime, time, timedelta

from django.utils.html import format_html, format_html_join
from django.utils.safestring import SafeString

from dietetics.prep.lanes import Bar, Lane
from dietetics.prep.tasks import OVEN

WIDTH, LEFT, TOP, LANE_HEIGHT, BAR = 1000.0, 92.0, 24.0, 30.0, 22.0
GLAZES = ("grain", "leaf", "bean", "ripple", "curd", "root", "berry", "gill")
TICKS_MIN = (5, 10, 15, 30, 60, 120)
MOST_TICKS = 14
LABEL_LEAST = 15.0  # a bar narrower than this has no room for its number


def glaze_of(dishes: Sequence[str]) -> Mapping[str, str]:
    """A glaze for each dish of the evening, by its place."""
    return {dish: GLAZES[n % len(GLAZES)] for n, dish in enumerate(dishes)}


def clock(start_at: time, minute: int) -> str:
    """The time of a minute of the evening: "17:42"."""
    at = datetime(2000, 1, 2, start_at.hour, start_at.minute) + timedelta(minutes=minute)
    return f"{at:%H:%M}"


def draw_lanes(
    lanes: Sequence[Lane],
    length: int,
    start_at: time,
    glazes: Mapping[str, str],
    numbers: Mapping[str, int],
) -> SafeString:
    """The lanes with the clock above them. A bar is numbered as the list by the clock is."""
    scale = (WIDTH - LEFT - 8) / max(length, 1)
    height = TOP + LANE_HEIGHT * len(lanes) + 6
    step = next((t for t in TICKS_MIN if length / t <= MOST_TICKS), TICKS_MIN[-1])
    ticks = format_html_join(
        "",
        '<line class="tick-line" x1="{0}" x2="{0}" y1="{1}" y2="{2}"/>'
        '<text class="axis" x="{0}" y="14">{3}</text>',
        [
            (f"{LEFT + minute * scale:.1f}", TOP - 4, height, clock(start_at, minute))
            for minute in range(0, length + 1, step)
        ],
    )
    rows = format_html_join(
        "",
        '<g><text class="lane-title" x="0" y="{}">{}</text>{}</g>',
        [
            (
                TOP + n * LANE_HEIGHT + 17,
                lane.name,
                _bars(lane, TOP + n * LANE_HEIGHT, scale, glazes, numbers),
            )
            for n, lane in enumerate(lanes)
        ],
    )
    return format_html(
        '<svg class="prep-lanes" viewBox="0 0 {} {}" role="img" aria-label="{}">{}{}</svg>',
        WIDTH,
        height,
        "Lanes over time; the list below says the same in words",
        ticks,
        rows,
    )


def _bars(
    lane: Lane, y: float, scale: float, glazes: Mapping[str, str], numbers: Mapping[str, int]
) -> SafeString:
    return format_html_join(
        "", "{}", [(_bar(bar, y, scale, glazes, numbers),) for bar in lane.bars]
    )


def _bar(
    bar: Bar, y: float, scale: float, glazes: Mapping[str, str], numbers: Mapping[str, int]
) -> SafeString:
    x, width = LEFT + bar.start * scale, max((bar.end - bar.start) * scale, 1.0)
    glaze = glazes.get(bar.task.dishes[0] if bar.task.dishes else "", GLAZES[0])
    thin = bar.alone and bar.task.device != OVEN
    top, tall = (y + 9, 8.0) if thin else (y + 2, BAR)
    label = str(numbers.get(bar.task.key, ""))
    if bar.task.device == OVEN and bar.alone and bar.task.celsius:
        wide = f"{label} · {bar.task.celsius:.0f} °C"
        label = wide if width > 62 else label
    text = ""
    if width >= LABEL_LEAST and not thin:
        text = format_html(
            '<text class="bar-number" x="{}" y="{}">{}</text>',
            f"{x + width / 2:.1f}",
            f"{y + 17:.1f}",
            label,
        )
    return format_html(
        '<rect class="prep-bar" x="{}" y="{}" width="{}" height="{}" fill="url(#glaze-{})">'
        "<title>{}: {}</title></rect>{}",
        f"{x:.1f}",
        f"{top:.1f}",
        f"{width:.1f}",
        f"{tall:.1f}",
        glaze,
        bar.task.dish,
        bar.task.text,
        text,
    )
