"""Phytate against zinc: how much of a day's zinc is likely held back, as far as the second table
knows phytate.

Phytate was measured in raw foods. It is taken to stay with the protein when a food is cooked, so
soaking, sprouting and leavening are not seen and the figure is on the high side.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from functools import lru_cache

from dietetics.composition.foods import Food, read_table

PHYTATE_G_PER_MOL, ZINC_G_PER_MOL = 660.04, 65.38  # myo-inositol hexakisphosphate, zinc
HELD_BACK = 15.0  # moles a mole: above it zinc is poorly absorbed
SOURCE = "WHO/FAO 2004, from memory"  # Vitamin and mineral requirements in human nutrition, 2nd ed.


@dataclass(frozen=True)
class PhytateZinc:
    """Moles of phytate for each of zinc, the phytate in mg, and the foods that bring most of it."""

    ratio: float
    phytate_mg: float
    mostly: tuple[str, ...]

    def words(self) -> str:
        """The ratio in a sentence, with where it comes from and what it means."""
        held = (
            "zinc is poorly absorbed"
            if self.ratio > HELD_BACK
            else "zinc is fairly well absorbed, provided the unknown foods contain no phytate"
        )
        return (
            f"The phytate-to-zinc molar ratio is about {self.ratio:.0f} as far as known, mainly "
            f"from {' and '.join(self.mostly)}: "
            f"{held} ({'above' if self.ratio > HELD_BACK else 'up to'} {HELD_BACK:.0f}; {SOURCE})."
        )


@lru_cache(maxsize=1)
def phytate_per_g_protein() -> Mapping[str, float]:
    """mg of phytate for each g of protein, by food family: both measured in one laboratory's
    sample.

    Indian Food Composition Tables 2017; families without either are left out.
    """
    protein = {
        row["code"]: float(row["protein_g"])
        for row in read_table("second_opinion.csv")
        if row["protein_g"]
    }
    return {
        row["family"]: float(row["phytate_mg"]) / protein[row["code"]]
        for row in read_table("amino_acids.csv")
        if row["phytate_mg"] and protein.get(row["code"])
    }


def phytate_to_zinc(
    foods: Iterable[tuple[Food, float]], zinc_mg: float | None
) -> PhytateZinc | None:
    """Phytate to zinc by moles of foods given with their grams. None where no phytate or no zinc is
    known.
    """
    held: dict[str, float] = {}
    for food, grams in foods:
        rate, protein = phytate_per_g_protein().get(food.family), food.per_100g.get("protein_g")
        if rate is not None and protein is not None:
            name = food.name.partition(",")[0].lower()
            held[name] = held.get(name, 0.0) + rate * protein * grams / 100
    phytate = sum(held.values())
    if not zinc_mg or not phytate:
        return None
    mostly = tuple(name for name, _ in sorted(held.items(), key=lambda one: -one[1])[:2])
    return PhytateZinc((phytate / PHYTATE_G_PER_MOL) / (zinc_mg / ZINC_G_PER_MOL), phytate, mostly)
