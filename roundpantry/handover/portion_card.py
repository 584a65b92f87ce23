"""The portion card, laid out on paper in millimetres."""

from __future__ import annotations

from typing import Any

from dietetics.handover.true_size import Outline, outlines

WIDE_MM, TOP_MM, WORDS_MM, GAP_MM = 160.0, 16.0, 8.0, 8.0


def card_page() -> dict[str, Any]:
    """Scoops and bowls one in the other, resting on the same point; the ball apart beneath them."""
    nested = [one for one in outlines() if not one.is_ball]
    ground = TOP_MM + max(one.across_mm for one in nested)
    circles = [
        _circle(one, WIDE_MM / 2, ground - one.across_mm / 2, ground - one.across_mm + WORDS_MM)
        for one in nested
    ]
    y = ground + GAP_MM
    for one in outlines():
        if one.is_ball:
            middle = y + one.across_mm / 2
            circles.append(
                _circle(one, one.across_mm / 2 + 1, middle, y + one.across_mm + WORDS_MM)
            )
            y += one.across_mm
    height = f"{y + 2 * WORDS_MM:.0f}"
    return {
        "circles": circles,
        "height": height,
        "width": f"{WIDE_MM:.0f}",
        "ticks": range(5, 106, 10),
    }


def _circle(one: Outline, x: float, y: float, words_at: float) -> dict[str, str]:
    return {
        "x": f"{x:.1f}",
        "y": f"{y:.2f}",
        "r": f"{one.across_mm / 2:.2f}",
        "words": one.words,
        "words_at": f"{words_at:.1f}",
    }
