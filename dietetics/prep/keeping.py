"""How what was cooked is kept: containers by size and count, cold in time, what is frozen, and the
order in which it is eaten.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

CONTAINERS_ML = (150, 250, 350, 500, 750, 1000, 1500)  # usual sizes: common practice
FILLED = 0.9  # a container is not filled to its rim


@dataclass(frozen=True)
class Kept:
    """One batch after cooking: containers of a size, how many go to the freezer, and the last day
    (of the week, 0 the first) it is eaten from the refrigerator.
    """

    dish: str
    count: int
    size_ml: int
    portion_g: float
    frozen: int
    last_day: int

    def words(self) -> str:
        """In words: "5 containers of 500 mL, 1 of them frozen"."""
        many = "containers" if self.count != 1 else "container"
        words = f"{self.count} {many} of {self.size_ml:,} mL ({self.portion_g:,.0f} g each)"
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
    wanted = portion_g / density_g_per_ml / FILLED
    size = next((one for one in CONTAINERS_ML if one >= wanted), CONTAINERS_ML[-1])
    return Kept(dish, count, size, portion_g, round(count * frozen_share), day + keeps_days)


def in_use_by_order(kept: Sequence[Kept]) -> list[Kept]:
    """What is eaten first, first."""
    return sorted(kept, key=lambda one: (one.last_day, one.dish))
