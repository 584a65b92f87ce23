"""Parts of a question made from foods, batches and portions, with their steps and portion sense."""

from __future__ import annotations

from dataclasses import replace

from dietetics.amounts.weighing import Scales
from dietetics.balance.portion_limits import (
    MOST_SERVINGS,
    UNSIZED_SERVING_G,
    fewest_share,
    most_grams,
    sensible_range,
)
from dietetics.balance.question import Part
from dietetics.composition.foods import Food
from dietetics.composition.sums import FoodContent, Item
from dietetics.dishes.batches import BatchContent
from dietetics.dishes.bowls import Portion, foods_of, step_of
from dietetics.dishes.portions import first_portion


def part_of_portion(portion: Portion, locked: bool = False, chosen: float | None = None) -> Part:
    """A portion of a bowl as a part that may be turned, on its own steps and within portion sense.

    `chosen` is the portion preferred where it is not the one that is there.
    """
    per_unit = portion.item.grams / portion.amount
    most = _most_grams(portion.item) / per_unit
    prefer = portion.amount if chosen is None else chosen
    least, most = sensible_range(prefer, portion.step, most, fewest_share(portion.group))
    shares = tuple((food, grams / portion.item.grams) for food, grams in foods_of(portion.item))
    return Part(
        portion.key,
        portion.item.label,
        portion.item.content,
        shares,
        portion.group,
        portion.volume_ml / portion.item.grams,
        portion.unit,
        per_unit,
        portion.step,
        least,
        most,
        prefer,
        locked,
    )


def _most_grams(item: Item) -> float:
    if isinstance(item.content, FoodContent):
        return most_grams(item.content.food)
    if isinstance(item.content, BatchContent):
        batch = item.content.batch
        return MOST_SERVINGS * (UNSIZED_SERVING_G if batch.servings is None else batch.serving_g)
    return item.grams


def part_of_food(key: str, food: Food, scales: Scales, metric: bool = False) -> Part:
    """A food as a part that may come in: its usual first portion, its steps, as much as portion
    sense allows.
    """
    first = first_portion(food, scales, metric=metric)
    per_unit = first.weight.grams / first.amount
    step = step_of(first.unit)
    least, most = sensible_range(
        first.amount, step, most_grams(food) / per_unit, fewest_share(food.group)
    )
    density, _ = food.density_g_per_ml
    return Part(
        key,
        food.name,
        FoodContent(food),
        ((food, 1.0),),
        food.group,
        1 / density,
        first.unit,
        per_unit,
        step,
        least,
        most,
        first.amount,
    )


def kept_out(part: Part, reason: str) -> Part:
    """The part, which may not be in the bowl, with the reason; unchanged without one."""
    return replace(part, kept_out=reason) if reason else part
