"""Two plates formatted: drawn to one scale, told apart in words, and the difference laid out as a
waterfall.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from dietetics.dishes.comparison import (
    Contribution,
    Plate,
    at_equal,
    difference_sentence,
    more_food_words,
    waterfall,
)
from dietetics.nutrients import NUTRIENTS, nutrient
from roundpantry.bowls.drawing import Dish, draw
from roundpantry.compare.records import Side

BY = {"served": "as served", "energy": "at equal energy", "protein": "at equal protein"}
EQUAL_KEYS = {"energy": "energy_kcal", "protein": "protein_g"}
WHENCE = ("energy_kcal", "fat_g", "protein_g", "sodium_mg", "potassium_mg", "fibre_g")
TOLD = (
    "energy_kcal",
    "protein_g",
    "kcal_per_g",
    "fibre_g",
    "fat_g",
    "sodium_mg",
    "potassium_mg",
    "calcium_mg",
    "iron_mg",
)
LARGEST = 215.0
BAR_LEFT, BAR_WIDTH, ROW_HEIGHT = 250.0, 420.0, 26.0


@dataclass(frozen=True)
class DrawnPlate:
    """A plate drawn to the scale of the fullest."""

    name: str
    dish: Dish
    scale: str
    facts: str


def drawn(sides: Sequence[Side], plates: Sequence[Plate]) -> list[DrawnPlate]:
    """Every plate as a dish whose area is its volume, all on one scale."""
    fullest = max((plate.volume_ml for plate in plates), default=1.0) or 1.0
    found = []
    for side, plate in zip(sides, plates, strict=True):
        dish = draw(side.bowl)
        radius = LARGEST * math.sqrt(plate.volume_ml / fullest)
        scale = radius / max(float(dish.food_radius), 1e-6)
        total = plate.total
        facts = (
            f"{plate.grams:,.0f} g, {plate.volume_ml:,.0f} mL · {total['energy_kcal'].text()} · "
        )
        facts += f"{total['protein_g'].text()} protein · {total['kcal_per_g'].text()}"
        found.append(DrawnPlate(plate.name, dish, f"{scale:.4f}", facts))
    return found


@dataclass(frozen=True)
class Bar:
    """One step of the waterfall, in SVG units, with its words."""

    name: str
    x: str
    y: str
    width: str
    middle: str
    words: str
    kind: str


def bars(first: Plate, second: Plate, key: str) -> list[Bar]:
    """The waterfall from the first plate's figure to the second's: two whole bars and a step for
    each food between.
    """
    one = nutrient(key)
    steps = waterfall(first, second, key)
    start, end = first.total[key].amount, second.total[key].amount
    if start is None or end is None or not steps:
        return []
    highest = _highest(start, steps)
    unit = BAR_WIDTH / highest if highest else 0.0
    found = [_bar(0, first.name, 0.0, start, unit, one.text(start), "whole")]
    running = start
    for number, step in enumerate(steps, 1):
        low, high = sorted((running, running + step.change))
        words = f"{'+' if step.change > 0 else '−'}{one.text(abs(step.change))}"
        found.append(
            _bar(number, step.name, low, high, unit, words, "more" if step.change > 0 else "less")
        )
        running += step.change
    found.append(_bar(len(steps) + 1, second.name, 0.0, end, unit, one.text(end), "whole"))
    return found


def _highest(start: float, steps: Sequence[Contribution]) -> float:
    running, highest = start, start
    for step in steps:
        running += step.change
        highest = max(highest, running)
    return highest


def _bar(
    number: int, name: str, low: float, high: float, unit: float, words: str, kind: str
) -> Bar:
    y = number * ROW_HEIGHT + 4
    short = name if len(name) <= 34 else name[:33] + "…"
    return Bar(
        short,
        f"{BAR_LEFT + low * unit:.1f}",
        f"{y:.1f}",
        f"{max((high - low) * unit, 1.0):.1f}",
        f"{y + 11:.1f}",
        words,
        kind,
    )


def plates_page(sides: Sequence[Side], by: str, whence: str) -> dict[str, Any]:
    """Everything the page shows for what was chosen."""
    served = [side.plate for side in sides]
    equal = at_equal(served, EQUAL_KEYS[by]) if by in EQUAL_KEYS and served else served
    plates = equal or served
    pair = len(plates) >= 2
    steps = bars(plates[0], plates[1], whence) if pair else []
    unknown = [p.name for p in plates if whence and not p.total[whence].complete]
    cannot = by in EQUAL_KEYS and bool(served) and equal is None
    return {
        "drawn": drawn(sides, plates),
        "by": by,
        "bys": list(BY.items()),
        "cannot": cannot,
        "sentence": difference_sentence(plates[0], plates[1]) if pair else "",
        "more": more_food_words(plates[0], plates[1]) if pair and by != "served" else "",
        "names": [plate.name for plate in plates],
        "bars": steps,
        "height": f"{len(steps) * ROW_HEIGHT + 8:.0f}",
        "whence": whence,
        "whences": [(key, nutrient(key).name) for key in WHENCE],
        "whence_name": nutrient(whence).name_in_text,
        "unknown": unknown,
        "rows": _rows(plates),
    }


def _rows(plates: Sequence[Plate]) -> list[tuple[str, list[str], list[str], list[str]]]:
    """For each nutrient: of the plate, of 100 g, of 100 kcal."""
    found = []
    for one in NUTRIENTS:
        if one.key not in TOLD:
            continue
        whole, per_g, per_kcal = [], [], []
        for plate in plates:
            amount, energy = plate.total[one.key].amount, plate.total["energy_kcal"].amount
            whole.append(plate.total[one.key].shown())
            ratio = one.kind == "ratio" or amount is None
            per_g.append(
                "" if ratio or not plate.grams else one.number((amount or 0.0) / plate.grams * 100)
            )
            per_kcal.append(
                "" if ratio or not energy else one.number((amount or 0.0) / energy * 100)
            )
        found.append((one.name, whole, per_g, per_kcal))
    return found
