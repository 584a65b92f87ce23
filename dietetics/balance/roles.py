"""What a food does in a bowl: its role, which bowls it belongs to, and whether it is ready to be
put in.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from dietetics.composition.foods import Food, Shelf

ROLES: Mapping[str, str] = {
    "grain": "base", "starchy-vegetable": "base", "legume": "star", "soy-food": "star",
    "wheat-protein": "star",
    "leafy-green": "greens", "vegetable": "vegetable", "mushroom": "vegetable", "fruit": "fruit",
    "dried-fruit": "fruit",
    "nut": "topping", "seed": "topping", "nut-butter": "sauce", "condiment": "sauce",
    "oil": "sauce",
    "plant-yoghurt": "creamy", "plant-milk": "creamy", "sweetener": "sweetener",
    "herb-spice": "seasoning",
    "processed": "other", "batch": "other",
}  # fmt: skip
FAMILY_ROLES: Mapping[str, str] = {
    "miso-white": "sauce", "lemon-juice": "sauce", "lime-juice": "sauce", "avocado": "topping",
    "nori": "seasoning",
    "wakame": "seasoning", "laver": "seasoning", "kelp": "seasoning", "garlic": "seasoning",
    "ginger": "seasoning",
    "olives-black": "topping", "olives-green": "topping", "salsa": "sauce", "tomato-sauce": "sauce",
}  # fmt: skip
ROLE_NAMES: Mapping[str, str] = {
    "base": "Base", "star": "Main protein", "greens": "Greens", "vegetable": "Vegetable",
    "fruit": "Fruit",
    "topping": "Topping", "sauce": "Sauce", "creamy": "Milk or yoghurt", "sweetener": "Sweetener",
    "seasoning": "Seasoning", "other": "Other",
}  # fmt: skip
SWEET_GROUPS = frozenset({"fruit", "dried-fruit", "plant-yoghurt", "plant-milk", "sweetener"})
SWEET_FAMILIES = frozenset({"oats", "steel-cut-oats", "granola"})
SAVOURY_GROUPS = frozenset(
    {"legume", "vegetable", "leafy-green", "mushroom", "wheat-protein", "starchy-vegetable"}
)
SAVOURY_FRUIT = frozenset({"avocado", "lemon-juice", "lime-juice", "lemon-raw", "lime-raw"})
COMES_IN = {
    "savoury": frozenset(
        {"legume", "soy-food", "wheat-protein", "grain", "starchy-vegetable", "leafy-green",
        "vegetable", "mushroom",
         "nut", "seed", "nut-butter", "oil"}
    ),
    "sweet": frozenset({"fruit", "nut", "seed", "nut-butter", "plant-yoghurt", "plant-milk"}),
}  # fmt: skip
# Vegetables that are eaten raw; common practice.
EATEN_RAW = frozenset(
    {"carrot", "cucumber", "red-pepper", "green-pepper", "yellow-pepper", "tomato",
    "cherry-tomatoes", "celery", "radish",
     "cabbage", "red-cabbage", "napa-cabbage", "snow-peas", "beet", "fennel", "daikon", "kohlrabi",
     "bean-sprouts",
     "alfalfa-sprouts", "jicama", "zucchini", "broccoli", "cauliflower", "green-onion"}
)  # fmt: skip
RAW_ANYWAY = frozenset({"leafy-green", "fruit", "nut", "seed", "herb-spice"})
UNCOOKED_STATES = frozenset({"raw", "dry"})
NEVER_COOKED = frozenset({"herb-spice", "condiment", "sweetener", "nut", "seed", "plant-milk"})
NOT_READY_STATES = frozenset({"dry", "canned-undrained"})
# flour, starch, paste, juice, dried herbs: nothing that is put into a bowl as it stands
INGREDIENT_TAG = "ingredient"


def role_of(group: str, family: str = "") -> str:
    """The role of a food in a bowl: its family's own, or its group's."""
    return FAMILY_ROLES.get(family) or ROLES.get(group, "other")


def mood_of(foods: Iterable[Food]) -> str:
    """Whether a bowl is "sweet" (oats, fruit, yoghurt, and nothing savoury) or "savoury"."""
    seen = list(foods)
    savoury = any(food.group in SAVOURY_GROUPS or food.family in SAVOURY_FRUIT for food in seen)
    sweet = any(food.group in SWEET_GROUPS or food.family in SWEET_FAMILIES for food in seen)
    return "sweet" if sweet and not savoury else "savoury"


@dataclass(frozen=True)
class CookedForm:
    """The cooked form of a raw or dry food: grams if the weight was taken cooked, and if it was
    taken before cooking.

    `from_uncooked_g` is None where no yield is known.
    """

    food: Food
    same_g: float
    from_uncooked_g: float | None


def cooked_form(food: Food, grams: float, shelf: Shelf) -> CookedForm | None:
    """What is probably meant by a raw or dry food in a bowl that is not eaten so (sweet potato, dry
    beans).

    None for what is eaten raw, and where the shelf has no cooked form of it.
    """
    eaten_so = food.group in RAW_ANYWAY or food.family in EATEN_RAW
    if (
        food.state not in UNCOOKED_STATES
        or (food.state == "raw" and eaten_so)
        or food.group in NEVER_COOKED
    ):
        return None
    forms = [one for one in shelf.families.get(food.family, ()) if one.state == "cooked"]
    plain = [one for one in forms if one.salted == food.salted and not one.oil_added] or forms
    if not plain:
        return None
    yields = shelf.yields_of(food.family)
    return CookedForm(plain[0], grams, grams * yields[0].likely if yields else None)


def ready(food: Food) -> bool:
    """True for a food that can be put into a bowl as it stands on the shelf: cooked, or eaten raw,
    and no ingredient.
    """
    if INGREDIENT_TAG in food.tags or food.state in NOT_READY_STATES:
        return False
    if food.state == "raw":
        return food.group in RAW_ANYWAY or food.family in EATEN_RAW
    return food.processing <= 3
