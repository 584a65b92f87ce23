"""What is counted: one registry of nutrients with key, name, unit and decimals shown.

Every table column, window, level and printed figure takes its name and unit from here.
"""

from __future__ import annotations

from dataclasses import dataclass

from dietetics.errors import DieteticsError


@dataclass(frozen=True)
class Nutrient:
    """One counted thing. `kind` is "table" (a column), "linear" (a weighted sum of columns) or "ratio"."""

    key: str
    name: str
    unit: str
    decimals: int
    kind: str = "table"

    def text(self, value: float) -> str:
        """Return `value` as shown on every screen, with its unit, for example "27.4 g"."""
        return f"{self.number(value)} {self.unit}".strip()

    def number(self, value: float) -> str:
        """Return `value` rounded as shown, without its unit."""
        rounded = round(value, self.decimals) + 0.0
        return f"{rounded:,.{self.decimals}f}"


NUTRIENTS: tuple[Nutrient, ...] = (
    Nutrient("energy_kcal", "Energy", "kcal", 0),
    Nutrient("protein_g", "Protein", "g", 1),
    Nutrient("fat_g", "Fat", "g", 1),
    Nutrient("saturated_fat_g", "Saturated fat", "g", 1),
    Nutrient("carbohydrate_g", "Carbohydrate", "g", 1),
    Nutrient("sugars_g", "Sugars", "g", 1),
    Nutrient("fibre_g", "Fibre", "g", 1),
    Nutrient("sodium_mg", "Sodium", "mg", 0),
    Nutrient("potassium_mg", "Potassium", "mg", 0),
    Nutrient("phosphorus_mg", "Phosphorus", "mg", 0),
    Nutrient("calcium_mg", "Calcium", "mg", 0),
    Nutrient("magnesium_mg", "Magnesium", "mg", 0),
    Nutrient("iron_mg", "Iron", "mg", 1),
    Nutrient("zinc_mg", "Zinc", "mg", 1),
    Nutrient("selenium_ug", "Selenium", "µg", 0),
    Nutrient("iodine_ug", "Iodine", "µg", 0),
    Nutrient("vitamin_c_mg", "Vitamin C", "mg", 0),
    Nutrient("folate_ug", "Folate", "µg", 0),
    Nutrient("vitamin_k_ug", "Vitamin K", "µg", 0),
    Nutrient("vitamin_b12_ug", "Vitamin B12", "µg", 1),
    Nutrient("vitamin_d_ug", "Vitamin D", "µg", 1),
    Nutrient("ala_g", "Alpha-linolenic acid", "g", 2),
    Nutrient("pral_meq", "Acid load", "mEq", 1, "linear"),
    Nutrient("kcal_per_g", "Energy density", "kcal/g", 2, "ratio"),
)
BY_KEY: dict[str, Nutrient] = {nutrient.key: nutrient for nutrient in NUTRIENTS}
TABLE_KEYS: tuple[str, ...] = tuple(n.key for n in NUTRIENTS if n.kind == "table")
ADDITIVE_KEYS: tuple[str, ...] = tuple(n.key for n in NUTRIENTS if n.kind != "ratio")
DENSITY = "kcal_per_g"
ACID_LOAD = "pral_meq"


def nutrient(key: str) -> Nutrient:
    """Return the registered nutrient, or raise DieteticsError `unknown-nutrient`."""
    try:
        return BY_KEY[key]
    except KeyError:
        raise DieteticsError("unknown-nutrient", key=key) from None
