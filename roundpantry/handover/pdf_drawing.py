"""The drawing of a bowl in a PDF: the sectors of the page's drawing, in tones of grey that stay
apart on any printer.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from importlib import import_module
from typing import Any

from dietetics.handover.booklet import PicturePart
from roundpantry.bowls.drawing import BADGE_FITS_DEGREES, RIM_OUTER

TONES = {
    "grain": 0.93, "root": 0.78, "bean": 0.55, "curd": 0.98, "leaf": 0.68, "ripple": 0.85,
    "gill": 0.62, "berry": 0.5, "speckle": 0.88, "wave": 0.96, "weave": 0.73,
}  # fmt: skip
STEP_DEGREES = 4.0
BADGE = 15.0


def bowl_drawing(parts: Sequence[PicturePart], side: float, numbered: bool = False) -> Any:
    """A bowl as a drawing of that width and height in points."""
    shapes = import_module("reportlab.graphics.shapes")
    colors = import_module("reportlab.lib.colors")
    scale = side / (2 * RIM_OUTER)
    drawing = shapes.Drawing(side, side)
    inside = shapes.Group(transform=(scale, 0, 0, scale, side / 2, side / 2))
    drawing.add(inside)
    line = {"strokeColor": colors.black, "strokeWidth": 1.5}
    inside.add(shapes.Circle(0, 0, RIM_OUTER, fillColor=colors.white, **line))
    for part in parts:
        tone = TONES.get(part.glaze, 0.9)
        points = [value for point in _outline(part) for value in point]
        inside.add(shapes.Polygon(points, fillColor=colors.Color(tone, tone, tone), **line))
    for part in parts if numbered else ():
        if part.end - part.start >= BADGE_FITS_DEGREES and part.outer - part.inner > BADGE:
            x, y = _at((part.inner + part.outer) / 2, (part.start + part.end) / 2)
            inside.add(shapes.Circle(x, y, BADGE, fillColor=colors.white, **line))
            words = {"textAnchor": "middle", "fontSize": 20, "fontName": "Helvetica-Bold"}
            inside.add(shapes.String(x, y - 7, str(part.number), **words))
    return drawing


def _at(radius: float, degrees: float) -> tuple[float, float]:
    """A point of the drawing, whose angles run clockwise from the top."""
    turned = math.radians(90 - degrees)
    return radius * math.cos(turned), radius * math.sin(turned)


def _outline(part: PicturePart) -> list[tuple[float, float]]:
    """A sector of a ring as a polygon of short sides."""
    steps = max(1, math.ceil((part.end - part.start) / STEP_DEGREES))
    angles = [part.start + (part.end - part.start) * n / steps for n in range(steps + 1)]
    outer = [_at(part.outer, angle) for angle in angles]
    inner = [_at(part.inner, angle) for angle in reversed(angles)]
    return outer + (inner if part.inner > 0 else [(0.0, 0.0)])
