"""Seasoning without an amount, in proportion to the dish it goes into: salt "to taste" in a pot of
two litres is more than on a plate. What counts is the least; the most that may be meant is shown.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from dietetics.amounts.line_reader import SALT_FAMILIES, LineReading

# The most that dishes are commonly seasoned with, as a share of their weight: common practice of
# home cooks, from memory. Bought savoury dishes hold about as much salt.
MOST_SALT, MOST_SPICE = 0.01, 0.002


def seasoned(lines: Sequence[LineReading]) -> tuple[LineReading, ...]:
    """The lines of a dish, with the range of each seasoning that has no amount by the weight of
    what it seasons.
    """
    dish_g = sum(line.grams or 0.0 for line in lines if not line.is_unmeasured_seasoning)
    return tuple(_in_proportion(line, dish_g) for line in lines)


def _in_proportion(line: LineReading, dish_g: float) -> LineReading:
    if not line.is_unmeasured_seasoning or line.food is None or line.grams is None:
        return line
    share = MOST_SALT if line.food.family in SALT_FAMILIES else MOST_SPICE
    most = round(share * dish_g, 1)
    if most <= (line.grams_high or 0.0):
        return line
    how = (
        f"no amount written: at least {line.grams:g} g counts, up to {most:g} g may be meant in a "
        f"dish of {dish_g:,.0f} g (common practice)"
    )
    return replace(line, grams_high=most, how=how)
