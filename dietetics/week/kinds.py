"""Kinds of plants: vegetables, beans and grains by family, and colours; which of them a dish
brings, and how many are wanted in a week.

How many kinds are wanted and which greens are bitter is our own judgement. A family counts from
COUNTS_FROM_G: of one serving where it is planned, of a day where it is told.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping

from dietetics.composition.foods import Food
from dietetics.dishes.bowls import COUNTS_FROM_G, PROTEIN_GROUPS, VEGETABLE_GROUPS
from dietetics.dishes.colours import colours_of

BITTER = frozenset({"arugula", "endive", "radicchio", "dandelion-greens", "mustard-greens",
    "turnip-greens"})  # fmt: skip
VEGETABLES, BEANS, GRAINS, COLOURS = "Vegetables", "Beans and soy", "Grains", "Colours"
BITTER_GREENS = "Bitter greens"
USUAL_KINDS = {VEGETABLES: 8, BEANS: 3, GRAINS: 3, COLOURS: 4}  # of a week of seven days
MOST_BITTER = 4  # servings a week: not every day
GROUPS = (
    (VEGETABLES, VEGETABLE_GROUPS),
    (BEANS, PROTEIN_GROUPS),
    (GRAINS, frozenset({"grain"})),
)
Eaten = Iterable[tuple[Food, float]]


def plant_kinds_of(foods: Iterable[tuple[Food, float]]) -> dict[str, frozenset[str]]:
    """The kinds that one serving of these foods brings, by their group."""
    held = list(foods)
    grams = grams_by_family(held)
    found = {
        name: frozenset(family for group, family in grams if group in groups)
        for name, groups in GROUPS
    }
    found[COLOURS] = frozenset(colours_of(held, COUNTS_FROM_G))
    found[BITTER_GREENS] = frozenset(family for _, family in grams if family in BITTER)
    return {name: kinds for name, kinds in found.items() if kinds}


def wanted_on(wanted: Mapping[str, int], days: int) -> dict[str, int]:
    """Of the kinds wanted in seven days, how many are wanted in so many.

    >>> wanted_on({"Vegetables": 8}, 4)
    {'Vegetables': 5}
    """
    return {name: math.ceil(least * days / 7) for name, least in wanted.items()}


def grams_by_family(day: Eaten) -> dict[tuple[str, str], float]:
    """Grams of a day by group and family, without what is only seasoning."""
    found: dict[tuple[str, str], float] = {}
    for food, grams in day:
        key = (food.group, food.family)
        found[key] = found.get(key, 0.0) + grams
    return {key: grams for key, grams in found.items() if grams >= COUNTS_FROM_G}
