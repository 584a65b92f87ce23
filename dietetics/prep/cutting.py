"""How long a home cook cuts: by grams and cut, from `tables/cutting_rates.csv`."""

from __future__ import annotations

import re
from dataclasses import dataclass
from functools import lru_cache

from dietetics.composition.foods import read_table

USUAL_G_PER_MIN = 110.0  # of a cut nobody names


@dataclass(frozen=True)
class Cut:
    """A way to cut: the words that ask for it, grams a minute, and the families it is for; none
    where it is for all.
    """

    words: frozenset[str]
    g_per_min: float
    families: frozenset[str]


@lru_cache(maxsize=1)
def _cuts() -> tuple[Cut, ...]:
    return tuple(
        Cut(
            frozenset(row["words"].split()),
            float(row["g_per_min"]),
            frozenset(row["families"].split()),
        )
        for row in read_table("cutting_rates.csv")
    )


def cutting_min(text: str, grams: float, family: str = "") -> float:
    """Minutes to cut so many grams of a food of a family as a text asks for."""
    words = set(re.findall(r"[a-zé]+", text.lower()))
    for cut in _cuts():
        if words & cut.words and (not cut.families or family in cut.families):
            return grams / cut.g_per_min
    return grams / USUAL_G_PER_MIN
