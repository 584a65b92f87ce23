"""How varied a week is by kind: vegetables, beans and grains by family, and colours. What a dish
brings is planned for, what was planned is counted and told.

How many kinds are wanted and which greens are bitter is our own judgement. A family counts from
COUNTS_FROM_G: of one serving where it is planned, of a day where it is told.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping, Sequence

from dietetics.composition.foods import Food
from dietetics.dishes.bowls import COUNTS_FROM_G, PROTEIN_GROUPS, VEGETABLE_GROUPS
from dietetics.dishes.colours import colours_of
from dietetics.week.week_words import Topic, counted

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
OFTEN_DAYS = 5  # of a week: named as the one that comes most often
Eaten = Iterable[tuple[Food, float]]


def plant_kinds_of(foods: Iterable[tuple[Food, float]]) -> dict[str, frozenset[str]]:
    """The kinds that one serving of these foods brings, by their group."""
    held = list(foods)
    grams = _grams(held)
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


def kinds_of_week(days: Sequence[Eaten], wanted: Mapping[str, int] | None = None) -> list[Topic]:
    """The kinds eaten on these days, each counted from COUNTS_FROM_G a day, and the colours; fewer
    than `wanted` is told.
    """
    wanted = wanted or {}
    eaten = [_grams(day) for day in days]
    found = []
    for name, groups in GROUPS:
        on: dict[str, int] = {}
        for day in eaten:
            for family in {family for (group, family), g in day.items() if group in groups and g}:
                on[family] = on.get(family, 0) + 1
        words = counted(len(on), "kind")
        often = sorted(
            (family for family in on if on[family] >= OFTEN_DAYS), key=lambda f: (-on[f], f)
        )
        if often:
            count = f"{on[often[0]]} of {counted(len(eaten), 'day')}"
            words += f"; {often[0].replace('-', ' ')} on {count}"
        found.append(_short_of(Topic(name, words, bool(on)), len(on), wanted))
    colours = colours_of((pair for day in days for pair in day), COUNTS_FROM_G)
    found.append(_short_of(Topic(COLOURS, ", ".join(colours) or "none"), len(colours), wanted))
    bitter = sum(any(family in BITTER for _, family in day) for day in eaten)
    if bitter and bitter == len(eaten):
        found.append(Topic(BITTER_GREENS, "every day", good=False))
    return found


def _short_of(topic: Topic, count: int, wanted: Mapping[str, int]) -> Topic:
    """The topic, and how many kinds were wanted where there are fewer."""
    least = wanted.get(topic.name, 0)
    if count >= least:
        return topic
    return Topic(topic.name, f"{topic.words}; {least} wanted", good=False)


def _grams(day: Eaten) -> dict[tuple[str, str], float]:
    """Grams of a day by group and family, without what is only seasoning."""
    found: dict[tuple[str, str], float] = {}
    for food, grams in day:
        key = (food.group, food.family)
        found[key] = found.get(key, 0.0) + grams
    return {key: grams for key, grams in found.items() if grams >= COUNTS_FROM_G}
