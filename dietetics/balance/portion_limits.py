"""Portion sense: the least and the most of a part that a person would serve, so that a legal answer
is not silly.

Two cups of nutritional yeast would fill many a window. The table's figures are common practice.
"""

from __future__ import annotations

import math
from functools import lru_cache

from dietetics.composition.foods import Food, read_table

FEWEST, MOST_TIMES = (
    1 / 3,
    3.0,
)  # of the portion a practitioner chose: outside this it is another dish (our judgement)
FEWEST_VEGETABLES = 1 / 2  # nobody balances a bowl by taking its vegetables away
SHRINK_PRICE = (
    2.0  # what it costs to cut a vegetable, against turning anything else by the same share
)
VEGETABLES = frozenset({"vegetable", "leafy-green", "mushroom"})
MOST_SERVINGS = 2.0
UNSIZED_SERVING_G = 300.0  # of a dish that nobody said the servings of: a plateful (our judgement)


@lru_cache(maxsize=1)
def _table() -> dict[tuple[str, str], float]:
    return {
        (row["kind"], row["key"]): float(row["most_g"]) for row in read_table("portion_sense.csv")
    }


def most_grams(food: Food) -> float:
    """The most of a food in one bowl, in g: its family's figure, or its group's. Common
    practice.
    """
    table = _table()
    return table.get(("family", food.family), table[("group", food.group)])


def fewest_share(group: str) -> float:
    """The least share of a chosen portion that a balance may leave, by food group."""
    return FEWEST_VEGETABLES if group in VEGETABLES else FEWEST


def shrink_price(group: str) -> float:
    """What cutting a portion of this group costs, as a multiple of the plain price."""
    return SHRINK_PRICE if group in VEGETABLES else 1.0


def sensible_range(
    prefer: float, step: float, most: float, fewest: float = FEWEST
) -> tuple[float, float]:
    """(least, most) of a part in its own unit, on its steps, around the portion that is there.

    `most` is portion sense in the same unit, `fewest` the least share of what is there. The portion
    chosen by hand is always inside.
    """
    least = max(step, math.floor(prefer * fewest / step + 1e-9) * step)
    wide = max(math.ceil(prefer * MOST_TIMES / step - 1e-9) * step, prefer + 2 * step)
    sensible = math.floor(most / step + 1e-9) * step
    return min(least, prefer), max(prefer, min(wide, max(sensible, step)))
