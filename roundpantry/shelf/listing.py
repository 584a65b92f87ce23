"""Foods formatted for lists and pages, before any template sees them."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from dietetics.composition.foods import Food, load_shelf
from dietetics.composition.search import index_of
from dietetics.composition.sums import Composition, FoodContent, Item, compose
from dietetics.nutrients import nutrient
from roundpantry.counter.levels import figure_rows

GROUP_NAMES = {
    "grain": "Grains, bread and pasta",
    "starchy-vegetable": "Starchy vegetables",
    "legume": "Beans, lentils and peas",
    "soy-food": "Soy foods",
    "wheat-protein": "Wheat protein",
    "leafy-green": "Leafy greens",
    "vegetable": "Other vegetables",
    "mushroom": "Mushrooms",
    "fruit": "Fruit",
    "dried-fruit": "Dried fruit",
    "nut": "Nuts",
    "seed": "Seeds",
    "nut-butter": "Nut and seed butters",
    "plant-milk": "Plant milks",
    "plant-yoghurt": "Plant yoghurts",
    "herb-spice": "Herbs and spices",
    "condiment": "Condiments",
    "sweetener": "Sweeteners",
    "oil": "Oils",
    "processed": "Processed foods",
}
LISTED = ("energy_kcal", "protein_g", "fibre_g", "sodium_mg", "potassium_mg")


@dataclass(frozen=True)
class FoodRow:
    """A food as a line of a list."""

    key: str
    name: str
    group: str
    state: str
    cells: tuple[str, ...]
    matched: str


def state_name(state: str) -> str:
    """A state in words: "canned, rinsed"."""
    return state.replace("canned-", "canned, ").replace("-", " ")


def food_row(food: Food, matched: str = "") -> FoodRow:
    """Format one line; the matched name is shown where it is not the food's own."""
    cells = []
    for key in LISTED:
        value = food.per_100g[key]
        cells.append("unknown" if value is None else nutrient(key).number(value))
    other = matched if matched.lower() not in food.name.lower() else ""
    return FoodRow(food.key, food.name, GROUP_NAMES[food.group], state_name(food.state), tuple(cells), other)


def found_rows(query: str, limit: int) -> list[FoodRow]:
    """What a search finds, best first."""
    return [food_row(hit.food, hit.matched) for hit in index_of(load_shelf()).search(query, limit)]


@lru_cache(maxsize=1)
def group_rows() -> list[tuple[str, list[FoodRow]]]:
    """Every group of the shelf with its foods, in the order of the table."""
    groups: dict[str, list[FoodRow]] = {}
    for food in load_shelf():
        groups.setdefault(GROUP_NAMES[food.group], []).append(food_row(food))
    return list(groups.items())


def _of(food: Food, grams: float) -> Composition:
    return compose([Item.exact(food.name, FoodContent(food), grams)])


def food_page(food: Food) -> dict[str, Any]:
    """Everything a food's page shows."""
    shelf = load_shelf()
    energy = food.per_100g["energy_kcal"]
    columns: list[tuple[str, Composition]] = [("100 g", _of(food, 100.0))]
    if energy:
        columns.append((f"100 kcal ({10_000 / energy:,.0f} g)", _of(food, 10_000 / energy)))
    for measure in food.measures[:2]:
        name = f"1 {measure.unit}{', ' + measure.cut if measure.cut else ''} ({measure.grams:g} g)"
        columns.append((name, _of(food, measure.grams)))
    return {
        "food": food,
        "group": GROUP_NAMES[food.group],
        "state": state_name(food.state),
        "heads": [name for name, _ in columns],
        "rows": figure_rows([composition for _, composition in columns]),
        "twins": [twin for twin in shelf.families[food.family] if twin is not food],
        "yields": shelf.yields_of(food.family),
    }
