"""The density ladder: the shelf in one picture, energy density across, protein for the same energy
upward.

The scale across is logarithmic. Groups are told apart by glaze; the client's density window is a
band.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from dietetics.composition.foods import Food
from dietetics.nutrients import nutrient
from dietetics.targets.windows import Window
from roundpantry.bowls.drawing import glaze_of

WIDTH, HEIGHT = 1040.0, 470.0
LEFT, RIGHT, TOP, BOTTOM = 46.0, 12.0, 14.0, 40.0
LOWEST, HIGHEST = 0.1, 9.2  # kcal per g
MOST_PROTEIN = 22.0  # g per 100 kcal; pure protein would be 25
TICKS = (0.1, 0.2, 0.4, 0.6, 1.0, 1.5, 2.5, 4.0, 6.0, 9.0)


@dataclass(frozen=True)
class Rung:
    """One food on the ladder."""

    key: str
    name: str
    x: str
    y: str
    glaze: str
    title: str


@dataclass(frozen=True)
class Ladder:
    """The drawing."""

    rungs: tuple[Rung, ...]
    ticks: tuple[tuple[str, str], ...]
    rows: tuple[tuple[str, str], ...]
    band: tuple[str, str] | None
    band_text: str
    off: int


def _x(density: float) -> float:
    share = math.log(density / LOWEST) / math.log(HIGHEST / LOWEST)
    return LEFT + min(max(share, 0.0), 1.0) * (WIDTH - LEFT - RIGHT)


def _y(protein: float) -> float:
    return HEIGHT - BOTTOM - min(protein / MOST_PROTEIN, 1.0) * (HEIGHT - TOP - BOTTOM)


def place(food: Food) -> tuple[float, float] | None:
    """Energy density in kcal/g and protein in g per 100 kcal, or None where either cannot be
    given.
    """
    energy, protein = food.per_100g["energy_kcal"], food.per_100g["protein_g"]
    if not energy or protein is None or energy / 100 < LOWEST:
        return None
    return energy / 100, protein * 100 / energy


def draw_ladder(foods: Sequence[Food], window: Window | None) -> Ladder:
    """Draw foods by density; those without a place are counted, not dropped in silence."""
    rungs, off = [], 0
    density_unit = nutrient("kcal_per_g")
    for food in foods:
        at = place(food)
        if at is None:
            off += 1
            continue
        title = f"{food.name}: {density_unit.text(at[0])}, {at[1]:.1f} g protein per 100 kcal"
        rungs.append(
            Rung(
                food.key,
                food.name,
                f"{_x(at[0]):.1f}",
                f"{_y(at[1]):.1f}",
                glaze_of(food.group),
                title,
            )
        )
    band, text = None, ""
    if window is not None:
        left = _x(window.low) if window.low else LEFT
        right = _x(window.high) if window.high else WIDTH - RIGHT
        band, text = (
            (f"{left:.1f}", f"{max(right - left, 1.0):.1f}"),
            f"{window.text()} {density_unit.unit}",
        )
    return Ladder(
        tuple(rungs),
        tuple((f"{_x(t):.1f}", density_unit.number(t)) for t in TICKS),
        tuple((f"{_y(p):.1f}", f"{p}") for p in (0, 5, 10, 15, 20)),
        band,
        text,
        off,
    )
