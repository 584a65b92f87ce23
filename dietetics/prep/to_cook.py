"""A dish that is to be cooked, as a value: its lines with grams, its steps, and how it is kept."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from dietetics.composition.foods import Food


@dataclass(frozen=True)
class CookedLine:
    """An ingredient line: as written, the food it means and grams as cooked now."""

    text: str
    food: Food | None
    grams: float


@dataclass(frozen=True)
class DishToCook:
    """A dish to be cooked: its lines (scaled), its steps, the way it is cooked ("pot", "roasted"
    …), and how many containers it is shared out into. `is_plain` is a single food that everybody
    knows how to cook.
    """

    key: str
    name: str
    lines: tuple[CookedLine, ...]
    steps: tuple[str, ...] = ()
    method: str = "pot"
    containers: int = 1
    corrections: Mapping[str, Mapping[str, float | str]] = field(default_factory=dict)
    is_plain: bool = False


def short_name(food: Food) -> str:
    """A food as a cook calls it."""
    name = food.name.partition(",")[0]
    return name[0].lower() + name[1:]


def listed(names: Sequence[str]) -> str:
    unique = list(dict.fromkeys(names))
    if len(unique) <= 1:
        return "".join(unique) or "everything"
    return f"{', '.join(unique[:-1])} and {unique[-1]}"
