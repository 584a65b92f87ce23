"""How varied a week was by kind, in words: vegetables, beans and grains by family, and colours."""

from __future__ import annotations

from collections.abc import Mapping, Sequence

from dietetics.dishes.bowls import COUNTS_FROM_G
from dietetics.dishes.colours import colours_of
from dietetics.week.kinds import BITTER, BITTER_GREENS, COLOURS, GROUPS, Eaten, grams_by_family
from dietetics.week.words.week_words import Topic, counted

OFTEN_DAYS = 5  # of a week: named as the one that comes most often


def kinds_of_week(days: Sequence[Eaten], wanted: Mapping[str, int] | None = None) -> list[Topic]:
    """The kinds eaten on these days, each counted from COUNTS_FROM_G a day, and the colours; fewer
    than `wanted` is told.
    """
    wanted = wanted or {}
    eaten = [grams_by_family(day) for day in days]
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
