"""Outlines at true size, to train the eye: how wide a scoop, a ball or a bowl of so many
millilitres is. Geometry alone: scoops and bowls are taken as half spheres.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from dietetics.composition.foods import ML_PER_US_CUP

MM_PER_CM = 10.0


@dataclass(frozen=True)
class Outline:
    """A round outline: its words, and how wide it is in mm."""

    words: str
    across_mm: float
    is_ball: bool = False


def half_sphere_mm(millilitres: float) -> float:
    """How wide a half sphere of so many millilitres is, in mm: V = 2/3 π r³.

    >>> round(half_sphere_mm(1000)), round(half_sphere_mm(118.3))
    (156, 77)
    """
    radius_cm: float = (3 * millilitres / (2 * math.pi)) ** (1 / 3)
    return 2 * radius_cm * MM_PER_CM


def sphere_ml(across_mm: float) -> float:
    """How many millilitres a ball of this width holds: V = 4/3 π r³.

    >>> round(sphere_ml(50))
    65
    """
    radius_cm = across_mm / 2 / MM_PER_CM
    return 4 / 3 * math.pi * radius_cm**3


BALL_MM = 50.0


def outlines() -> tuple[Outline, ...]:
    """The outlines of the portion card, the largest first."""
    cup = ML_PER_US_CUP
    return (
        Outline("rim of a 1-litre bowl", half_sphere_mm(1000)),
        Outline("1 cup, level", half_sphere_mm(cup)),
        Outline("½ cup, level", half_sphere_mm(cup / 2)),
        Outline(f"a ball of 5 cm, about {sphere_ml(BALL_MM):.0f} mL", BALL_MM, True),
        Outline("2 tablespoons", half_sphere_mm(cup / 8)),
        Outline("1 tablespoon", half_sphere_mm(cup / 16)),
    )
