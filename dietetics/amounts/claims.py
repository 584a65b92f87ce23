"""Whether a row of the shelf honours a word that was written of it: unsalted, sweetened,
gluten-free, in oil.

A claim is honoured by the row's tags, by what its columns say, or, for whole food that never holds
the thing, by what it is. What cannot be told is not honoured: the line asks.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping

from dietetics.composition.foods import Food

# sodium per 100 g up to which an unsalted row may be called so: beet greens and chard hold 226
UNSALTED_MOST_MG = 150.0
WHOLE_GROUPS = frozenset(
    {
        "grain",
        "starchy-vegetable",
        "legume",
        "leafy-green",
        "vegetable",
        "mushroom",
        "fruit",
        "nut",
        "seed",
        "herb-spice",
    }
)
MINIMALLY_PROCESSED = 2  # degree of processing up to which nothing is added


def _whole(food: Food) -> bool:
    return food.group in WHOLE_GROUPS and food.processing <= MINIMALLY_PROCESSED


def _salt_free(food: Food) -> bool:
    if "salt-free" in food.tags:
        return True
    if food.salted or "salt-low" in food.tags:
        return False
    sodium = food.per_100g.get("sodium_mg")
    raw = food.state in ("raw", "dry", "dried")
    return raw or sodium is None or sodium <= UNSALTED_MOST_MG


def _salt_low(food: Food) -> bool:
    return "salt-low" in food.tags or (
        _whole(food) and not food.salted and not food.state.startswith("canned")
    )


def _unsweetened(food: Food) -> bool:
    if "sugar-free" in food.tags:
        return True
    return "sweetened" not in food.tags and (
        _whole(food) or food.group in ("oil", "soy-food", "wheat-protein", "nut-butter")
    )


def _sugar_free(food: Food) -> bool:
    """No sugar at all: an unsweetened food, but no fruit or nut, which hold their own."""
    sugars = food.per_100g.get("sugars_g")
    drink = food.group in ("plant-milk", "plant-yoghurt")
    return (
        _unsweetened(food)
        and food.group not in ("fruit", "dried-fruit", "nut-butter")
        and not (drink and (sugars or 1) > 0.5)
    )


def _without(*allergens: str) -> Callable[[Food], bool]:
    return lambda food: not set(allergens) & set(food.allergens)


HONOURED_BY: Mapping[str, Callable[[Food], bool]] = {
    "salt-free": _salt_free,
    "salt-low": _salt_low,
    "salted": lambda food: food.salted,
    "unsweetened": _unsweetened,
    "sugar-free": _sugar_free,
    "sugar-low": lambda food: "sugar-low" in food.tags,
    "sweetened": lambda food: "sweetened" in food.tags,
    "fat-free": lambda food: "fat-free" in food.tags,
    "fat-low": lambda food: "fat-low" in food.tags,
    "light": lambda food: "fat-low" in food.tags,
    "fat-full": lambda food: "fat-full" in food.tags,
    "oil-free": lambda food: not food.oil_added and food.group != "oil",
    "fortified": lambda food: food.fortified,
    "unfortified": lambda food: not food.fortified and (_whole(food) or "unfortified" in food.tags),
    "gluten-free": _without("gluten", "wheat", "gluten-trace"),
    "wheat-free": _without("wheat"),
    "soy-free": _without("soy"),
    "nut-free": _without("tree-nuts", "peanut"),
    "peanut-free": _without("peanut"),
    "sesame-free": _without("sesame"),
    "vegan": _without("milk", "egg", "fish", "crustaceans", "molluscs"),
    "in-oil": lambda food: "in-oil" in food.tags,
    "in-brine": lambda food: (
        "in-brine" in food.tags or (food.salted and food.state.startswith("canned"))
    ),
    "in-syrup": lambda food: "in-syrup" in food.tags,
    "in-juice": lambda food: (
        "in-juice" in food.tags or food.state == "canned-undrained" and "in-syrup" not in food.tags
    ),
    "in-water": lambda food: (
        "in-water" in food.tags or food.state.startswith("canned") and "in-oil" not in food.tags
    ),
    "undrained": lambda food: food.state == "canned-undrained",
    "dry-roasted": lambda food: food.state == "roasted" and not food.oil_added,
    "parboiled": lambda _food: False,
}
# In the practitioner's words, when a row does not honour them.
CLAIM_WORDS: Mapping[str, str] = {
    "salt-free": "no salt added", "salt-low": "less salt", "salted": "salted",
    "unsweetened": "no sugar added",
    "sugar-free": "no sugar",
    "sugar-low": "less sugar", "sweetened": "sweetened", "fat-free": "fat-free",
    "fat-low": "less fat", "light": "light",
    "fat-full": "full fat", "oil-free": "no oil", "fortified": "fortified",
    "unfortified": "not fortified",
    "gluten-free": "gluten-free", "wheat-free": "wheat-free", "soy-free": "soy-free",
    "nut-free": "nut-free",
    "peanut-free": "peanut-free", "sesame-free": "sesame-free", "vegan": "vegan",
    "in-oil": "in oil", "in-brine": "in brine",
    "in-syrup": "in syrup", "in-juice": "in juice", "in-water": "in water",
    "undrained": "with its liquid",
    "dry-roasted": "dry roasted", "parboiled": "parboiled",
}  # fmt: skip


def honours(food: Food, claim: str) -> bool:
    """True when a row is what the claim says."""
    return HONOURED_BY[claim](food)
