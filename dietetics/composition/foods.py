"""The shelf: foods with their published row, household measures and yields, read from `tables/`.

A blank cell is unknown and stays None; nothing here turns it into zero.
"""

from __future__ import annotations

import csv
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass, field
from functools import lru_cache
from pathlib import Path

from dietetics.composition.acidload import potential_renal_acid_load_meq
from dietetics.errors import DieteticsError
from dietetics.nutrients import ACID_LOAD, TABLE_KEYS

TABLES = Path(__file__).resolve().parent.parent / "tables"
ADDITIVES = frozenset(
    {"phosphate", "potassium-chloride"}
)  # tags of a food that name an additive it holds
ML_PER_US_CUP = 236.588
ML_PER_SPOON = {"cup": ML_PER_US_CUP, "tbsp": ML_PER_US_CUP / 16, "tsp": ML_PER_US_CUP / 48}

# Where a food has neither a cup nor a spoon: grams per mL of its group. Common practice, ± a
# quarter.
GROUP_DENSITY_G_PER_ML: Mapping[str, float] = {
    "grain": 0.75,
    "starchy-vegetable": 0.65,
    "legume": 0.75,
    "soy-food": 0.9,
    "wheat-protein": 0.8,
    "leafy-green": 0.15,
    "vegetable": 0.5,
    "mushroom": 0.35,
    "fruit": 0.65,
    "dried-fruit": 0.6,
    "nut": 0.55,
    "seed": 0.65,
    "nut-butter": 1.05,
    "plant-milk": 1.03,
    "plant-yoghurt": 1.04,
    "herb-spice": 0.45,
    "condiment": 1.05,
    "sweetener": 1.0,
    "oil": 0.92,
    "processed": 0.6,
}


@dataclass(frozen=True)
class Measure:
    """A household measure of one food: `unit` with an optional `cut`, its grams, and how the weight
    is known.
    """

    unit: str
    cut: str
    grams: float
    mark: str


@dataclass(frozen=True)
class Yield:
    """Weight after cooking ÷ weight before, as low, likely and high."""

    family: str
    method: str
    low: float
    likely: float
    high: float
    source: str


@dataclass(frozen=True)
class Food:
    """One row of the shelf in one state. `per_100g` holds every table nutrient and the acid load;
    None is unknown.

    `traces` are allergens that a label says it may contain; `allergens_known` is False where no
    list was recognised.
    """

    key: str
    name: str
    synonyms: tuple[str, ...]
    family: str
    group: str
    state: str
    default: bool
    salted: bool
    oil_added: bool
    fortified: bool
    processing: int
    allergens: tuple[str, ...]
    edible_share: float | None
    dataset: str
    source_row: str
    derivation: str
    proxy: str
    per_100g: Mapping[str, float | None]
    measures: tuple[Measure, ...]
    density_note: float | None = None
    tags: frozenset[str] = frozenset()
    traces: tuple[str, ...] = ()
    allergens_known: bool = True
    names: tuple[str, ...] = field(default=(), compare=False)

    @property
    def source(self) -> str:
        """The row and everything done to it, in one sentence."""
        text = f"{self.dataset}: “{self.source_row}”"
        if self.derivation:
            text += f"; {self.derivation}"
        if self.proxy:
            text += f"; similar food used ({self.proxy})"
        return text

    @property
    def density_g_per_ml(self) -> tuple[float, str]:
        """Grams per mL and how it is known: a measure of this food, a note, or its group (± a
        quarter).
        """
        for unit, millilitres in ML_PER_SPOON.items():
            loose = [m for m in self.measures if m.unit == unit]
            best = next((m for m in loose if not m.cut), loose[0] if loose else None)
            if best is not None:
                return best.grams / millilitres, best.mark
        if self.density_note is not None:
            return self.density_note, "from memory"
        return GROUP_DENSITY_G_PER_ML[self.group], "density of its group"

    def measure(self, unit: str, cut: str = "") -> Measure | None:
        """Return the measure with this unit and cut, or None."""
        return next((m for m in self.measures if m.unit == unit and m.cut == cut), None)


class Shelf:
    """All foods by key and family, with yields. Frozen after it is made; own foods make a new
    shelf.
    """

    def __init__(self, foods: Iterable[Food], yields: Iterable[Yield]) -> None:
        self.foods: dict[str, Food] = {food.key: food for food in foods}
        self.yields: tuple[Yield, ...] = tuple(yields)
        self.families: dict[str, list[Food]] = {}
        for food in self.foods.values():
            self.families.setdefault(food.family, []).append(food)

    def __iter__(self) -> Iterator[Food]:
        return iter(self.foods.values())

    def __len__(self) -> int:
        return len(self.foods)

    def food(self, key: str) -> Food:
        """Return the food, or raise DieteticsError `unknown-food`."""
        try:
            return self.foods[key]
        except KeyError:
            raise DieteticsError("unknown-food", key=key) from None

    def yields_of(self, family: str) -> tuple[Yield, ...]:
        """Return the cooking yields known for a family of foods."""
        return tuple(y for y in self.yields if y.family == family)


def read_table(name: str) -> list[dict[str, str]]:
    """Return the rows of a committed table, its source comment skipped."""
    with (TABLES / name).open(encoding="utf-8", newline="") as handle:
        return list(csv.DictReader(line for line in handle if not line.startswith("#")))


def cell_number(cell: str) -> float | None:
    """A figure of a table; an empty cell is unknown, and never zero."""
    return float(cell) if cell else None


def _food(row: Mapping[str, str], measures: tuple[Measure, ...]) -> Food:
    values: dict[str, float | None] = {key: cell_number(row[key]) for key in TABLE_KEYS}
    values[ACID_LOAD] = potential_renal_acid_load_meq(values)
    plain = row["name"].split(",")[0]
    return Food(
        key=row["key"],
        name=row["name"],
        synonyms=tuple(s for s in row["synonyms"].split(";") if s),
        family=row["family"],
        group=row["group"],
        state=row["state"],
        default=bool(row["default"]),
        salted=bool(row["salted"]),
        oil_added=bool(row["oil_added"]),
        fortified=bool(row["fortified"]),
        processing=int(row["processing"]),
        allergens=tuple(a for a in row["allergens"].split(",") if a),
        edible_share=cell_number(row["edible_share"]),
        dataset=row["dataset"],
        source_row=row["source_row"],
        derivation=row["derivation"],
        proxy=row["proxy"],
        per_100g=values,
        measures=measures,
        density_note=cell_number(row["density_g_per_ml"]),
        tags=frozenset(t for t in row["tags"].split(",") if t),
        names=(row["name"], plain, *(s for s in row["synonyms"].split(";") if s)),
    )


@lru_cache(maxsize=1)
def load_shelf() -> Shelf:
    """Read the committed tables once and return the shelf."""
    measures: dict[str, list[Measure]] = {}
    for row in read_table("measures.csv"):
        measures.setdefault(row["food"], []).append(
            Measure(row["unit"], row["cut"], float(row["grams"]), row["mark"])
        )
    foods = [_food(row, tuple(measures.get(row["key"], ()))) for row in read_table("foods.csv")]
    yields = [
        Yield(
            row["family"],
            row["method"],
            float(row["low"]),
            float(row["likely"]),
            float(row["high"]),
            row["source"],
        )
        for row in read_table("yields.csv")
    ]
    return Shelf(foods, yields)
