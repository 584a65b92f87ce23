"""Foods formatted for lists and pages, before any template sees them."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any

from django.contrib.auth.models import User

from dietetics.composition.foods import Food, load_shelf
from dietetics.composition.search import Found, index_of
from dietetics.nutrients import nutrient
from roundpantry.shelf.models import Label
from roundpantry.shelf.records import OWN, often_used, shelf_of

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
    return FoodRow(
        food.key, food.name, GROUP_NAMES[food.group], state_name(food.state), tuple(cells), other
    )


def find(user: User, query: str, limit: int) -> list[Found]:
    """What a practitioner finds: own labels first, then what they use often, then the rest by how
    well it fits.

    Only the best dozen by fit are lifted by use, so that a habit never hides what was typed.
    """
    shelf = shelf_of(user)
    hits = index_of(shelf).search(query, max(limit, 12))
    used = often_used(user)
    best = sorted(
        range(len(hits)),
        key=lambda i: (
            hits[i].food.state != "label" or not hits[i].food.key.startswith(OWN),
            -used.get(hits[i].food.key, 0) if i < 12 else 0,
            i,
        ),
    )
    return [hits[i] for i in best][:limit]


def found_rows(user: User, query: str, limit: int) -> list[FoodRow]:
    """What a search finds, as lines of a list."""
    return [food_row(hit.food, hit.matched) for hit in find(user, query, limit)]


def best_key(user: User, words: str) -> str:
    """The key of the best hit, or nothing."""
    found = find(user, words, 1)
    return found[0].food.key if found else ""


def heads() -> list[str]:
    """Column heads of a list of foods, with the practitioner's units."""
    return [
        f"{nutrient(key).name} {nutrient(key).unit}" if key != "energy_kcal" else nutrient(key).unit
        for key in LISTED
    ]


def group_rows() -> list[tuple[str, list[FoodRow]]]:
    """Every group of the shelf with its foods, in the order of the table."""
    groups: dict[str, list[FoodRow]] = {}
    for food in load_shelf():
        groups.setdefault(GROUP_NAMES[food.group], []).append(food_row(food))
    return list(groups.items())


def label_rows(labels: Iterable[Label]) -> list[dict[str, Any]]:
    """A practitioner's labels for the shelf's list."""
    rows = []
    for label in labels:
        versions = label.versions.all()
        if versions:
            newest = versions[0]
            rows.append(
                {
                    "pk": label.pk,
                    "name": newest.name,
                    "version": newest.number,
                    "draft": newest.draft,
                    "retired": label.retired,
                }
            )
    return rows
