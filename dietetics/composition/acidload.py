"""Potential renal acid load, a weighted sum of five columns of the food table."""

from __future__ import annotations

from collections.abc import Mapping

# Remer & Manz, J Am Diet Assoc 1995;95:791-797: mEq per g protein and per mg of each mineral.
PRAL_TERMS: Mapping[str, float] = {
    "protein_g": 0.49,
    "phosphorus_mg": 0.037,
    "potassium_mg": -0.021,
    "magnesium_mg": -0.026,
    "calcium_mg": -0.013,
}
PRAL_SOURCE = "Remer & Manz, J Am Diet Assoc 1995;95:791–797"


def potential_renal_acid_load_meq(values: Mapping[str, float | None]) -> float | None:
    """Return the potential renal acid load in mEq of the given amounts (negative: alkaline).

    PRAL = 0.49 protein_g + 0.037 P_mg - 0.021 K_mg - 0.026 Mg_mg - 0.013 Ca_mg,
    Remer & Manz 1995. None (unknown) if any of the five is unknown.

    >>> eaten = {"protein_g": 10, "phosphorus_mg": 100, "potassium_mg": 300, "magnesium_mg": 50}
    >>> potential_renal_acid_load_meq({**eaten, "calcium_mg": None})
    >>> round(potential_renal_acid_load_meq({**eaten, "calcium_mg": 100}), 2)  # 4.9+3.7-6.3-1.3-1.3
    -0.3
    """
    total = 0.0
    for key, weight in PRAL_TERMS.items():
        value = values.get(key)
        if value is None:
            return None
        total += weight * value
    return total
