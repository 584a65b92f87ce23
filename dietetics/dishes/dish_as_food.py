"""A dish seen as a food: so that a line of another dish can name it ("½ cup Pier hummus"), and what
a cup of it weighs.

A dish has no measured cup. Its density comes from what went in: 1 g per mL where it is wet,
otherwise the foods' own cups together, which is rough and says so.
"""

from __future__ import annotations

from collections.abc import Mapping

from dietetics.composition.foods import ADDITIVES, ML_PER_US_CUP, Food, Measure, Shelf
from dietetics.dishes.allergens import batch_allergens
from dietetics.dishes.batches import Batch
from dietetics.dishes.bowls import foods_of
from dietetics.nutrients import TABLE_KEYS

DISH = "dish-"
WET_SHARE = 0.25  # of the weight from water, milks, juices and broths: then it pours, our judgement
POURING_G_PER_ML = 1.0
LEAST_G_PER_ML, MOST_G_PER_ML = 0.25, 1.1
_WET_GROUPS = frozenset({"plant-milk", "plant-yoghurt"})
_WET_FOODS = frozenset({"water", "vegetable-broth", "vegetable-broth-low-sodium"})
_WET_STATES = frozenset({"cooked", "canned-drained", "canned-rinsed", "canned-undrained"})


def _is_wet(food: Food) -> bool:
    return food.group in _WET_GROUPS or food.key in _WET_FOODS or food.group == "oil"


def _is_soft(food: Food) -> bool:
    return food.state in _WET_STATES or food.group in ("condiment", "nut-butter")


def dish_density(batch: Batch) -> tuple[float, str]:
    """Grams per mL of a dish as it came out, and how that is known. Common practice; ± 15 % wet, ±
    25 % dry.
    """
    pairs = [pair for item in batch.items for pair in foods_of(item)]
    whole = sum(grams for _, grams in pairs)
    if not whole:
        return POURING_G_PER_ML, "1 g per mL (± 15 %, common practice)"
    wet = sum(grams for food, grams in pairs if _is_wet(food))
    soft = sum(grams for food, grams in pairs if _is_soft(food) and not _is_wet(food))
    if wet / whole >= WET_SHARE or (wet + soft) / whole >= 0.9 and wet:
        return POURING_G_PER_ML, "1 g per mL (a wet dish, ± 15 %, common practice)"
    volume = sum(grams / food.density_g_per_ml[0] for food, grams in pairs)
    taken_up = max(0.0, batch.weight_g - whole)  # water, a gram to the millilitre
    whole_ml = whole / min(max(whole / volume, LEAST_G_PER_ML), MOST_G_PER_ML) + taken_up
    density = batch.weight_g / whole_ml
    density = min(max(density, LEAST_G_PER_ML), MOST_G_PER_ML)
    return density, f"{density:.2f} g per mL (estimated from its ingredients, ± 25 %)"


def dish_food(key: str, batch: Batch) -> Food:
    """A dish as a food of the shelf, to be named and weighed; its figures come from the batch, not
    from here.
    """
    density, how = dish_density(batch)
    spoons = {"cup": ML_PER_US_CUP, "tbsp": ML_PER_US_CUP / 16, "tsp": ML_PER_US_CUP / 48}
    measures = [Measure(unit, "", round(density * size, 1), how) for unit, size in spoons.items()]
    if batch.servings is not None and batch.weight_g:
        measures.append(Measure("serving", "", batch.serving_g, "the dish ÷ its servings"))
    name, held = batch.name.strip() or "Dish", batch_allergens(batch)
    foods = [food for item in batch.items for food, _ in foods_of(item)]
    return Food(
        key=key,
        name=name,
        synonyms=_short_names(name),
        family=key,
        group="processed",
        state="as-sold",
        default=False,
        salted=any(food.salted for food in foods),
        fortified=False,
        oil_added=any(food.oil_added or food.group == "oil" for food in foods),
        tags=frozenset(tag for food in foods for tag in food.tags & ADDITIVES),
        processing=2,
        allergens=held.contains,
        traces=held.traces,
        allergens_known=held.complete,
        edible_share=None,
        dataset="your own dish",
        source_row=name,
        derivation="",
        proxy="",
        per_100g={k: batch.per_100g[k].amount for k in TABLE_KEYS},
        measures=tuple(measures),
        density_note=density,
        names=(name, *_short_names(name)),
    )


def _short_names(name: str) -> tuple[str, ...]:
    """ "Pier hummus, for Maren" is also "Pier hummus"."""
    short = name.split(",", maxsplit=1)[0].strip()
    return (short,) if short and short != name else ()


def with_dishes(shelf: Shelf, dishes: Mapping[str, Batch]) -> Shelf:
    """The shelf with dishes in front, each under its key."""
    if not dishes:
        return shelf
    return Shelf([*(dish_food(key, batch) for key, batch in dishes.items()), *shelf], shelf.yields)
