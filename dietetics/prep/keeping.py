"""How what was cooked is kept: containers by size and count, cold in time, what is frozen, and the
order in which it is eaten.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

CONTAINERS_ML = (150, 250, 350, 500, 750, 1000, 1500)  # usual sizes: common practice
LEAST_OVER_G = 50.0  # less is a spoonful
SAME = 0.1  # portions that differ by less are one size
FILLED = 0.9  # a container is not filled to its rim


@dataclass(frozen=True)
class Kept:
    """One batch after cooking: containers of a size, how many go to the freezer, and the last day
    (of the week, 0 the first) it is eaten from the refrigerator. Portions are from `least_g` on
    where they differ; `over_g` is what no meal takes; `is_by_meal` where each is for one meal.
    """

    dish: str
    count: int
    size_ml: int
    portion_g: float
    frozen: int
    last_day: int
    least_g: float | None = None
    over_g: float = 0.0
    is_by_meal: bool = False

    def words(self) -> str:
        """In words: "5 containers of 500 mL, 1 of them frozen"."""
        many = "containers" if self.count != 1 else "container"
        span = f"{self.least_g:,.0f} to " if self.least_g is not None else ""
        words = f"{self.count} {many} of {self.size_ml:,} mL ({span}{self.portion_g:,.0f} g each)"
        if self.over_g >= LEAST_OVER_G:
            words += f" and about {round(self.over_g, -1):,.0f} g over"
        if self.frozen:
            words += f", {self.frozen} of them to the freezer"
        return words


def kept_of(
    dish: str,
    pots: float,
    servings: float | None,
    weight_g: float,
    density_g_per_ml: float,
    day: int,
    keeps_days: int,
    frozen_share: float,
) -> Kept:
    """Containers for a batch that was cooked `pots` times on a day: one for each serving, of the
    least usual size that holds it.
    """
    count = max(1, round((servings or 1) * pots))
    portion_g = weight_g * pots / count
    size = _size_for(portion_g, density_g_per_ml)
    return Kept(dish, count, size, portion_g, round(count * frozen_share), day + keeps_days)


def kept_by_meal(kept: Kept, meals_g: Sequence[float], density_g_per_ml: float) -> Kept:
    """The same batch in a container for each meal that takes of it, as large as the meal takes.

    It stays in servings where a part is frozen, where no meal takes of it, and where the meals take
    more than there is.
    """
    cooked_g = kept.count * kept.portion_g
    over_g = cooked_g - sum(meals_g)
    if kept.frozen or not meals_g or over_g < -LEAST_OVER_G:
        return kept
    least, most = min(meals_g), max(meals_g)
    return replace(
        kept,
        count=len(meals_g),
        size_ml=_size_for(most, density_g_per_ml),
        portion_g=most,
        least_g=None if most - least <= SAME * most else least,
        over_g=over_g,
        is_by_meal=True,
    )


def _size_for(grams: float, density_g_per_ml: float) -> int:
    """The least usual container that holds a portion and is not filled to its rim."""
    wanted = grams / density_g_per_ml / FILLED
    return next((one for one in CONTAINERS_ML if one >= wanted), CONTAINERS_ML[-1])


def in_use_by_order(kept: Sequence[Kept]) -> list[Kept]:
    """What is eaten first, first."""
    return sorted(kept, key=lambda one: (one.last_day, one.dish))
