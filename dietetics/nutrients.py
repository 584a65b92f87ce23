"""What is counted: one registry of nutrients with key, name, unit and decimals shown.

Every table column, window, level and printed figure takes its name and unit from here.
"""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from dataclasses import dataclass

from dietetics.errors import DieteticsError

KJ_PER_KCAL = 4.184
LB_G, OZ_G = 453.592, 28.3495  # international avoirdupois pound and ounce, rounded
# Atwater general factors, kcal per g (FAO Food and Nutrition Paper 77, 2003). Labels count the
# same; carbohydrate without its fibre.
PROTEIN_KCAL_PER_G, FAT_KCAL_PER_G, CARBOHYDRATE_KCAL_PER_G = 4.0, 9.0, 4.0


@dataclass(frozen=True)
class Display:
    """How a practitioner wants figures shown. Figures themselves are always kept in kcal and
    kcal/g.
    """

    kilojoules: bool = False
    per_pound: bool = False


_PLAIN = Display()
DISPLAY: ContextVar[Display] = ContextVar("display", default=_PLAIN)


@contextmanager
def shown_in(display: Display) -> Iterator[None]:
    """Show figures in these units inside the block."""
    token = DISPLAY.set(display)
    try:
        yield
    finally:
        DISPLAY.reset(token)


def in_text(name: str) -> str:
    """A name within a sentence: its first letter small, capitals elsewhere kept."""
    return name[:1].lower() + name[1:]


@dataclass(frozen=True)
class Nutrient:
    """One counted thing. `kind` is "table" (a column), "linear" (a weighted sum of columns) or
    "ratio".

    `base_unit` and `base_decimals` are those of stored figures; `unit` and `decimals` those shown.
    """

    key: str
    name: str
    base_unit: str
    base_decimals: int
    kind: str = "table"

    @property
    def name_in_text(self) -> str:
        """The name within a sentence: "energy density", "vitamin K"."""
        return in_text(self.name)

    @property
    def factor(self) -> float:
        """Shown figure ÷ stored figure, under the practitioner's units."""
        display = DISPLAY.get()
        factor = 1.0
        if display.kilojoules and self.key in ("energy_kcal", "kcal_per_g"):
            factor = KJ_PER_KCAL
        if display.per_pound and self.key == "kcal_per_g":
            factor *= LB_G
        return factor

    @property
    def unit(self) -> str:
        """The unit shown."""
        display = DISPLAY.get()
        unit = self.base_unit
        if display.kilojoules:
            unit = unit.replace("kcal", "kJ")
        return unit.replace("/g", "/lb") if display.per_pound else unit

    @property
    def decimals(self) -> int:
        """Decimals shown: a density per pound needs none."""
        return 0 if DISPLAY.get().per_pound and self.key == "kcal_per_g" else self.base_decimals

    def text(self, value: float) -> str:
        """Return a stored figure as shown on every screen, with its unit.

        >>> nutrient("protein_g").text(27.44), nutrient("sodium_mg").text(1234.4)
        ('27.4 g', '1,234 mg')
        """
        return f"{self.number(value)} {self.unit}".strip()

    def number(self, value: float, extra: int = 0) -> str:
        """Return a stored figure as shown, without its unit, `extra` decimals finer."""
        places = self.decimals + extra
        return f"{self.rounded(value, extra) + 0.0:,.{places}f}"

    def rounded(self, value: float, extra: int = 0) -> float:
        """A stored figure as the number shown."""
        return round(value * self.factor, self.decimals + extra)


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
    Nutrient("vitamin_a_ug", "Vitamin A", "µg", 0),
    Nutrient("vitamin_e_mg", "Vitamin E", "mg", 1),
    Nutrient("thiamin_mg", "Thiamin", "mg", 2),
    Nutrient("riboflavin_mg", "Riboflavin", "mg", 2),
    Nutrient("niacin_mg", "Niacin", "mg", 1),
    Nutrient("vitamin_b6_mg", "Vitamin B6", "mg", 2),
    Nutrient("choline_mg", "Choline", "mg", 0),
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
