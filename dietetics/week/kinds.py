"""How varied a week is by kind: vegetables, beans and grains by family, and colours. Counted and
told, not planned for; which greens are bitter is our own judgement.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from dietetics.composition.foods import Food
from dietetics.dishes.bowls import COUNTS_FROM_G, PROTEIN_GROUPS, VEGETABLE_GROUPS
from dietetics.dishes.colours import colours_of
from dietetics.week.week_words import Topic, counted

BITTER = frozenset({"arugula", "endive", "radicchio", "dandelion-greens", "mustard-greens",
    "turnip-greens"})  # fmt: skip
GROUPS = (
    ("Vegetables", VEGETABLE_GROUPS),
    ("Beans and soy", PROTEIN_GROUPS),
    ("Grains", frozenset({"grain"})),
)
OFTEN_DAYS = 5  # of a week: named as the one that comes most often
Eaten = Iterable[tuple[Food, float]]


def kinds_of_week(days: Sequence[Eaten]) -> list[Topic]:
    """The kinds eaten on these days, each counted from COUNTS_FROM_G a day, and the colours."""
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
        found.append(Topic(name, words, bool(on)))
    colours = colours_of((pair for day in days for pair in day), COUNTS_FROM_G)
    found.append(Topic("Colours", ", ".join(colours) or "none"))
    bitter = sum(any(family in BITTER for _, family in day) for day in eaten)
    if bitter and bitter == len(eaten):
        found.append(Topic("Bitter greens", "every day", good=False))
    return found


def _grams(day: Eaten) -> dict[tuple[str, str], float]:
    """Grams of a day by group and family, without what is only seasoning."""
    found: dict[tuple[str, str], float] = {}
    for food, grams in day:
        key = (food.group, food.family)
        found[key] = found.get(key, 0.0) + grams
    return {key: grams for key, grams in found.items() if grams >= COUNTS_FROM_G}
