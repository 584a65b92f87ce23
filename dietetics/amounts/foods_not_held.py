"""Names of foods that the shelf does not hold: foods from animals, and plant foods without a row.

They are known as names, so that none is taken for a food whose name is near ("tamarillo" for
tomatillo).
"""

from __future__ import annotations

from collections.abc import Collection, Mapping
from dataclasses import dataclass
from functools import lru_cache

from dietetics.composition.foods import read_table
from dietetics.composition.name_words import naming_words


@dataclass(frozen=True)
class NotHeld:
    """A food the shelf lacks: its name, whether it comes from an animal, keys of what may stand in,
    a note.
    """

    name: str
    words: tuple[str, ...]
    animal: bool
    stand_ins: tuple[str, ...]
    note: str

    def reason(self) -> str:
        """Why a line with this food stays unread, in words."""
        if self.animal:
            return f"{self.note or f'{self.name} is not a plant food'}: not in the food table"
        return f"{self.name} is not in the food table"


@lru_cache(maxsize=1)
def _names() -> tuple[NotHeld, ...]:
    return tuple(
        NotHeld(
            row["name"],
            naming_words(row["name"]),
            row["kind"] == "animal",
            tuple(row["stand_ins"].split()),
            row["note"],
        )
        for row in read_table("names_not_held.csv")
    )


@lru_cache(maxsize=1)
def _by_last_word() -> Mapping[str, tuple[NotHeld, ...]]:
    found: dict[str, list[NotHeld]] = {}
    for one in _names():
        found.setdefault(one.words[-1], []).append(one)
    return {
        word: tuple(sorted(ones, key=lambda one: -len(one.words))) for word, ones in found.items()
    }


@lru_cache(maxsize=1)
def animal_words() -> frozenset[str]:
    """Single words that name a food from an animal."""
    return frozenset(one.words[0] for one in _names() if one.animal and len(one.words) == 1)


@lru_cache(maxsize=1)
def plant_heads() -> frozenset[str]:
    """Last words of the plant foods that are not held."""
    return frozenset(one.words[-1] for one in _names() if not one.animal)


@lru_cache(maxsize=1)
def known_words() -> frozenset[str]:
    """Every word of a name that is not held: none of them is a misspelling."""
    return frozenset(word for one in _names() for word in one.words)


def name_not_held(words: Collection[str]) -> NotHeld | None:
    """The longest name that is not held among these words of a phrase; None when there is none."""
    there = set(words)
    found = [
        one
        for word in there
        for one in _by_last_word().get(word, ())
        if there.issuperset(one.words)
    ]
    return max(found, key=lambda one: (len(one.words), one.animal), default=None)
