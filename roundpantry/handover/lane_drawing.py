"""The picture of a cooking evening in a booklet: who and what is busy when, in tones of grey by
dish; the same boxes on the page and in the PDF.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from importlib import import_module
from typing import Any

from dietetics.handover.booklet import CookingEvening

TONES = (0.55, 0.92, 0.72, 0.4, 0.82, 0.63, 0.97, 0.48)
WIDTH, LEFT, TOP, LANE, LEGEND = 480.0, 62.0, 14.0, 13.0, 11.0
TICKS_MIN, MOST_TICKS = (10, 15, 30, 60, 120), 9
HOUR_MIN = 60
LEGEND_LETTERS = 4.6  # points that a letter of the legend takes


@dataclass(frozen=True)
class Box:
    """A rectangle, from the top left corner of the picture, in points."""

    x: float
    y: float
    width: float
    height: float
    tone: float

    @property
    def fill(self) -> str:
        """The tone as a colour of a page."""
        part = round(self.tone * 255)
        return f"#{part:02x}{part:02x}{part:02x}"


@dataclass(frozen=True)
class Words:
    """Words at a place, in points from the top left corner."""

    x: float
    y: float
    text: str


@dataclass(frozen=True)
class LanePicture:
    """The picture of an evening: its height, boxes, words, and the minutes that are marked."""

    height: float
    boxes: tuple[Box, ...]
    words: tuple[Words, ...]
    ticks: tuple[float, ...]
    width: float = WIDTH


def lane_picture(evening: CookingEvening) -> LanePicture | None:
    """The picture of an evening; None where none was kept with it."""
    if not evening.lanes or not evening.length:
        return None
    scale = (WIDTH - LEFT) / evening.length
    boxes = [
        Box(
            LEFT + bar.start * scale,
            TOP + LANE * n + (4 if bar.alone else 1),
            max(1.0, (bar.end - bar.start) * scale),
            LANE - (8 if bar.alone else 2),
            _tone(bar.dish),
        )
        for n, lane in enumerate(evening.lanes)
        for bar in lane.bars
    ]
    words = [Words(0, TOP + LANE * n + 10, one.name) for n, one in enumerate(evening.lanes)]
    minutes = _ticks(evening.length)
    words += [Words(LEFT + minute * scale, 9, _clock(evening.times, minute)) for minute in minutes]
    below = TOP + LANE * len(evening.lanes) + 4
    legend_boxes, legend_words, height = _legend(evening.dishes, below)
    return LanePicture(
        height,
        (*boxes, *legend_boxes),
        (*words, *legend_words),
        tuple(LEFT + minute * scale for minute in minutes),
    )


def _tone(dish: int) -> float:
    return TONES[dish % len(TONES)] if dish >= 0 else 1.0


def _ticks(length: int) -> list[int]:
    step = next((t for t in TICKS_MIN if length / t <= MOST_TICKS), TICKS_MIN[-1])
    return list(range(0, length, step))


def _clock(times: str, minute: int) -> str:
    """The clock at a minute of an evening from "17:30 to 18:35"."""
    hours, _, minutes = times[:5].partition(":")
    at = int(hours) * HOUR_MIN + int(minutes) + minute
    return f"{at // HOUR_MIN % 24:02d}:{at % HOUR_MIN:02d}"


def _legend(dishes: Sequence[str], top: float) -> tuple[list[Box], list[Words], float]:
    """Which tone is which dish, in as many rows as it takes."""
    boxes, words = [], []
    x, y = 0.0, top
    for n, name in enumerate(dishes):
        wide = 16 + len(name) * LEGEND_LETTERS
        if x and x + wide > WIDTH:
            x, y = 0.0, y + LEGEND
        boxes.append(Box(x, y, 9, 7, _tone(n)))
        words.append(Words(x + 12, y + 7, name))
        x += wide + 6
    return boxes, words, y + LEGEND


def lane_shapes(picture: LanePicture, font: str) -> Any:
    """The picture for a PDF."""
    shapes = import_module("reportlab.graphics.shapes")
    colors = import_module("reportlab.lib.colors")
    drawing = shapes.Drawing(picture.width, picture.height)
    grey = {"strokeColor": colors.Color(0.7, 0.7, 0.7), "strokeWidth": 0.4}
    for x in picture.ticks:
        drawing.add(shapes.Line(x, 0 + LEGEND, x, picture.height - TOP + 2, **grey))
    for box in picture.boxes:
        tone = colors.Color(box.tone, box.tone, box.tone)
        y = picture.height - box.y - box.height
        drawing.add(
            shapes.Rect(
                box.x, y, box.width, box.height, fillColor=tone, strokeColor=colors.black,
                strokeWidth=0.4,
            )
        )  # fmt: skip
    for one in picture.words:
        text = {"fontName": font, "fontSize": 7.5}
        drawing.add(shapes.String(one.x, picture.height - one.y, one.text, **text))
    return drawing
