"""What some clients need of a dish that others do not: told by their daily windows, so that dishes
made for it are given to them and to nobody else.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from dietetics.nutrients import DENSITY
from dietetics.targets.windows import Window

LITTLE_PROTEIN, ENOUGH_FAT, MUCH_ENERGY = "little protein", "enough fat", "much energy"
PURPOSES = (LITTLE_PROTEIN, ENOUGH_FAT, MUCH_ENERGY)
PROTEIN_KCAL_PER_G, FAT_KCAL_PER_G = 4.0, 9.0  # Atwater
# Shares of the energy. KDOQI 2020, 3.0.1: 0.55 to 0.60 g/kg of protein at 25 to 35 kcal/kg are 6 to
# 10 %. IOM 2005: fat from 4 to 18 years is 25 to 35 %, for adults from 20 %. Half a percent of room
# for rounding.
MOST_PROTEIN, LEAST_FAT = 0.105, 0.245
# Above, dishes of the usual density (1.0 to 1.1 kcal/g) come to more than two and a half kilograms
# a day (our judgement).
MUCH_KCAL = 2_700.0


def purposes_of(windows: Iterable[Window]) -> frozenset[str]:
    """The purposes that daily windows have; none where their energy is not known."""
    by_key = {window.key: window for window in windows}
    energy = _middle(by_key)
    if energy is None:
        return frozenset()
    found = set()
    protein, fat = by_key.get("protein_g"), by_key.get("fat_g")
    most = protein.high if protein else None
    if most is not None and most * PROTEIN_KCAL_PER_G <= MOST_PROTEIN * energy:
        found.add(LITTLE_PROTEIN)
    if fat and fat.low and fat.low * FAT_KCAL_PER_G >= LEAST_FAT * energy:
        found.add(ENOUGH_FAT)
    density = by_key.get(DENSITY)
    if energy >= MUCH_KCAL or (density is not None and density.low is not None):
        found.add(MUCH_ENERGY)
    return frozenset(found)


def _middle(by_key: Mapping[str, Window]) -> float | None:
    """The middle of the energy window, kcal; None where there is none."""
    window = by_key.get("energy_kcal")
    ends = [one for one in (window.low, window.high) if one] if window else []
    return sum(ends) / len(ends) if ends else None
