"""A batch adapted to a client, formatted before any template sees it: costs, substitutes, what was
changed.
"""

from __future__ import annotations

from typing import Any

from django.urls import reverse

from dietetics.cautions.exclusions import Terms, exclusions, exclusions_of
from dietetics.cautions.facts import Eaten, MealFacts
from dietetics.cautions.registry import meal_cautions
from dietetics.cautions.verdict import Verdict
from dietetics.composition.foods import Food
from dietetics.composition.sums import Composition, Figure
from dietetics.dishes.adapting import (
    Substitution,
    costs,
    difference_words,
    differences,
    effect,
    effect_words,
    figure_changes,
    for_words,
    substitutions,
)
from dietetics.dishes.batches import Batch as BatchValue
from dietetics.dishes.bowls import foods_of
from dietetics.nutrients import nutrient
from dietetics.targets.conditions import POTASSIUM_WATCHED
from dietetics.targets.windows import above, ceiling_words
from roundpantry.batches.models import Batch, BatchLine
from roundpantry.batches.portions_page import HEADLINE_KEYS
from roundpantry.batches.records import batch_value, counted_items, counted_lines
from roundpantry.clients.models import Client
from roundpantry.clients.records import client_facts_of
from roundpantry.shelf.records import food_of, shelf_of
from roundpantry.targets.records import main_meal, newest_set, windows_of, windows_of_meal

COSTS = (
    ("sodium_mg", "Sodium mg"),
    ("potassium_mg", "Potassium mg"),
    ("phosphorus_mg", "Phosphorus mg"),
    ("energy_kcal", "kcal"),
)
MINERAL_CEILINGS = frozenset({"potassium_mg", "phosphorus_mg", "sodium_mg"})


def fitting_page(batch: Batch, client: Client | None) -> dict[str, Any]:
    """What each line costs a client, what may stand in for it, and what has been changed against
    the parent.
    """
    value = batch_value(batch)
    lines = [line for line in batch.lines.all() if not line.heading]
    items = counted_items(batch)
    by_line = {}
    what, share_g, shown = value.shown
    parts = value.weight_g / share_g if share_g and value.weight_g else 1.0
    for number, ((line, _), price) in enumerate(
        zip(counted_lines(batch), costs(items, parts), strict=True)
    ):
        by_line[line.pk] = (number, price)
    shelf = shelf_of(batch.practitioner)
    rows = []
    for line in lines:
        placed = by_line.get(line.pk)
        index = placed[0] if placed is not None else None
        cost = placed[1] if placed is not None else None
        food = food_of(line.batch.practitioner_id, line.food_key) if line.food_key else None
        offered = (
            substitutions(food, line.grams or 0.0, shelf)
            if food and index is not None
            else for_words(line.text, shelf)
        )
        rows.append(
            {
                "line": line,
                "food": food.name if food and food.name.lower() not in line.text.lower() else "",
                "grams": "" if line.grams is None else f"{line.grams:,.0f}",
                "costs": [
                    (label, _cell(cost.amounts[key], key) if cost else "") for key, label in COSTS
                ],
                "worst": f"{cost.share:.0%} of the {nutrient(cost.worst).name_in_text}"
                if cost and cost.share >= 0.25
                else "",
                "marks": _marks(food, client),
                "swaps": [_swap(items, index, one, parts, client) for one in offered],
                "instead_of": line.instead_of,
            }
        )
    return {
        "batch": batch,
        "rows": rows,
        "cost_names": [label for _, label in COSTS],
        "client": client,
        "fit_url": reverse("batches:fit", args=[batch.pk]),
        "headline": [(nutrient(k).name, shown[k].shown()) for k in HEADLINE_KEYS],
        "column": what,
        "changed": _changed(batch, value),
        "wants": _wants(value, client),
        "why": batch.why_changed.splitlines(),
        "cautions": _cautions(value, client),
    }


def _cell(amount: float | None, key: str) -> str:
    return "unknown" if amount is None else nutrient(key).number(amount)


def _marks(food: Food | None, client: Client | None) -> str:
    """What about a food can hurt this client."""
    if food is None or client is None:
        return ""
    return ", ".join(verdict.short for verdict in exclusions(food, Terms(client_facts_of(client))))


def _swap(
    items: Any, index: int | None, one: Substitution, servings: float, client: Client | None
) -> dict[str, Any]:
    changes = effect(items, index, one, servings)
    against = against_substitution(one, client)
    return {
        "key": one.key,
        "words": one.words,
        "effect": effect_words(changes),
        "bad": ", ".join(v.short for v in against),
        "kept_out": any(verdict.forbids for verdict in against),
    }


def against_substitution(one: Substitution, client: Client | None) -> list[Verdict]:
    """What speaks against the foods of a substitution for a client, the gravest first."""
    return (
        exclusions_of([Eaten(food, grams) for food, grams in one.parts], client_facts_of(client))
        if client
        else []
    )


def _changed(batch: Batch, value: BatchValue) -> dict[str, Any]:
    """The differences to the parent: lines, and the figures of a serving before and after."""
    if batch.parent is None:
        return {}
    before = batch_value(batch.parent)
    return {
        "parent": batch.parent,
        "lines": [difference_words(d) for d in differences(before.items, value.items)],
        "figures": [
            (nutrient(k).name, a.shown(), b.shown(), _share(a, b))
            for k, a, b in figure_changes(*_comparable(before, value), HEADLINE_KEYS)
        ],
    }


def _comparable(before: BatchValue, after: BatchValue) -> tuple[Composition, Composition]:
    """Both as a serving, or both as 100 g where either does not say how many servings it makes."""
    if before.servings is None or after.servings is None:
        return before.per_100g, after.per_100g
    return before.per_serving, after.per_serving


def changed_page(batch: Batch, client: Client | None) -> dict[str, Any]:
    """What was changed in a variant and why, for the client: differences, figures, what goes in
    now, how it is made.
    """
    value = batch_value(batch)
    return {
        "batch": batch,
        "client": client,
        "changed": _changed(batch, value),
        "why": batch.why_changed.splitlines(),
        "lines": [
            (line.text, "" if line.grams is None else f"{line.grams:,.0f} g")
            for line in batch.lines.all()
            if not line.heading
        ],
        "steps": [step for step in batch.steps.splitlines() if step.strip()],
        "cautions": _cautions(value, client),
        "servings": "" if value.servings is None else f"{value.servings:g}",
        "serving_g": f"{value.shown[1]:,.0f}",
    }


def _share(before: Figure, after: Figure) -> str:
    """By how much a figure changed; nothing where a part of it is unknown."""
    known = before.complete and after.complete and before.amount and after.amount is not None
    return f"{(after.amount or 0.0) / (before.amount or 1.0) - 1:+.0%}" if known else ""


def _wants(value: BatchValue, client: Client | None) -> list[str]:
    """What a serving is over, of the client's main meal."""
    present = newest_set(client) if client else None
    meal = main_meal(present) if present else None
    if meal is None:
        return []
    if value.servings is None:
        return []
    serving = value.per_serving
    return [
        f"{nutrient(w.key).name} {serving[w.key].shown()}: the target for the whole "
        f"{meal.name.lower()} is {w.text()}"
        for w in above(windows_of_meal(meal), serving)
    ]


def _cautions(value: BatchValue, client: Client | None) -> list[str]:
    if client is None or value.servings is None:
        return []
    present = newest_set(client)
    kidney = bool(POTASSIUM_WATCHED & set(client.conditions)) and present is not None
    ceilings = (
        ceiling_words(windows_of(present), value.per_serving, MINERAL_CEILINGS)
        if kidney and present
        else []
    )
    eaten = tuple(
        Eaten(food, grams / value.known_servings)
        for item in value.items
        for food, grams in foods_of(item)
    )
    meal = MealFacts(client_facts_of(client), eaten, value.per_serving)
    found = [f"{verdict.text} {verdict.action}" for verdict in meal_cautions(meal)]
    return (
        [
            *found,
            f"A serving: {'; '.join(ceilings)}. Ask the kidney clinician before changing limits.",
        ]
        if ceilings
        else found
    )


def substitution_of(line: BatchLine, key: str) -> Substitution | None:
    """A substitution offered for a line, by its key."""
    shelf = shelf_of(line.batch.practitioner)
    food = food_of(line.batch.practitioner_id, line.food_key) if line.food_key else None
    offered = (
        substitutions(food, line.grams or 0.0, shelf)
        if food and line.grams
        else for_words(line.text, shelf)
    )
    return next((one for one in offered if one.key == key), None)
