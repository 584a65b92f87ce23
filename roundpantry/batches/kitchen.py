"""Portions, fitting, the label and the log of a batch, formatted before any template sees them."""

from __future__ import annotations

from datetime import date, timedelta
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
from dietetics.dishes.allergens import Allergens, batch_allergens
from dietetics.dishes.batches import Batch as BatchValue
from dietetics.dishes.bowls import foods_of
from dietetics.dishes.cooking import storing_words
from dietetics.nutrients import nutrient
from dietetics.targets.conditions import POTASSIUM_WATCHED
from dietetics.targets.windows import above, ceiling_words
from roundpantry.batches.models import Batch, BatchLine
from roundpantry.batches.records import batch_items, batch_value, counted_lines, learnt_yield
from roundpantry.clients.models import Client
from roundpantry.clients.records import client_facts_of
from roundpantry.shelf.records import food_of, shelf_of
from roundpantry.targets.records import main_meal, newest_set, windows_of, windows_of_meal

TOLD = ("energy_kcal", "protein_g", "fat_g", "fibre_g", "sodium_mg", "potassium_mg", "phosphorus_mg", "kcal_per_g")
LABEL_KEYS = ("energy_kcal", "protein_g", "fat_g", "carbohydrate_g", "fibre_g", "sodium_mg", "potassium_mg")
COSTS = (
    ("sodium_mg", "Sodium mg"),
    ("potassium_mg", "Potassium mg"),
    ("phosphorus_mg", "Phosphorus mg"),
    ("energy_kcal", "kcal"),
)
MINERAL_CEILINGS = frozenset({"potassium_mg", "phosphorus_mg", "sodium_mg"})


def portions_page(batch: Batch) -> dict[str, Any]:
    """Who gets what of a batch, what is left, and which containers to fill."""
    value = batch_value(batch)
    shares = list(batch.shares.all())
    rows = []
    for share in shares:
        part = value.total.scaled(share.grams / value.weight_g) if value.weight_g else value.total
        rows.append(
            {"share": share, "grams": f"{share.grams:,.0f}", "whole": f"{share.grams * share.times:,.0f}",
             "energy": part["energy_kcal"].text(), "protein": part["protein_g"].text(), "sodium": part["sodium_mg"].text()}
        )  # fmt: skip
    given = sum(share.grams * share.times for share in shares)
    left = value.weight_g - given
    vessel = value.total.scaled(batch.vessel_g / value.weight_g) if batch.vessel_g and value.weight_g else None
    return {
        "batch": batch, "rows": rows, "weight": f"{value.weight_g:,.0f}", "given": f"{given:,.0f}", "left": f"{abs(left):,.0f}",
        "short": left < -0.5, "containers": sum(share.times for share in shares),
        "serving_g": "" if value.servings is None else f"{value.serving_g:,.0f}",
        "vessel": [(nutrient(k).name, vessel[k].shown()) for k in TOLD] if vessel else [],
        "vessel_g": "" if batch.vessel_g is None else f"{batch.vessel_g:g} g",
        "fills": "" if not batch.vessel_g else f"{value.weight_g / batch.vessel_g:.1f}",
    }  # fmt: skip


def fitting_page(batch: Batch, client: Client | None) -> dict[str, Any]:
    """What each line costs a client, what may stand in for it, and what has been changed against the parent."""
    value = batch_value(batch)
    lines = [line for line in batch.lines.all() if not line.heading]
    items = batch_items(batch)
    by_line = {}
    what, share_g, shown = value.shown
    parts = value.weight_g / share_g if share_g and value.weight_g else 1.0
    for index, ((line, _), cost) in enumerate(zip(counted_lines(batch), costs(items, parts), strict=True)):
        by_line[line.pk] = (index, cost)
    shelf = shelf_of(batch.practitioner)
    rows = []
    for line in lines:
        index, cost = by_line.get(line.pk, (None, None))
        food = food_of(line.batch.practitioner_id, line.food_key) if line.food_key else None
        offered = (
            substitutions(food, line.grams or 0.0, shelf) if food and index is not None else for_words(line.text, shelf)
        )
        rows.append(
            {
                "line": line, "food": food.name if food and food.name.lower() not in line.text.lower() else "",
                "grams": "" if line.grams is None else f"{line.grams:,.0f}",
                "costs": [(label, _cell(cost.amounts[key], key) if cost else "") for key, label in COSTS],
                "worst": f"{cost.share:.0%} of the {nutrient(cost.worst).name.lower()}" if cost and cost.share >= 0.25 else "",
                "marks": _marks(food, client), "swaps": [_swap(items, index, one, parts, client) for one in offered],
                "instead_of": line.instead_of,
            }
        )  # fmt: skip
    return {
        "batch": batch, "rows": rows, "cost_names": [label for _, label in COSTS],
        "client": client, "fit_url": reverse("batches:fit", args=[batch.pk]),
        "headline": [(nutrient(k).name, shown[k].shown()) for k in TOLD], "column": what, "changed": _changed(batch, value),
        "wants": _wants(value, client), "why": batch.why_changed.splitlines(), "cautions": _cautions(value, client),
    }  # fmt: skip


def _cell(amount: float | None, key: str) -> str:
    return "unknown" if amount is None else nutrient(key).number(amount)


def _marks(food: Food | None, client: Client | None) -> str:
    """What about a food can hurt this client."""
    if food is None or client is None:
        return ""
    return ", ".join(verdict.short for verdict in exclusions(food, Terms(client_facts_of(client))))


def _swap(items: Any, index: int | None, one: Substitution, servings: float, client: Client | None) -> dict[str, Any]:
    changes = effect(items, index, one, servings)
    against = against_substitution(one, client)
    return {
        "key": one.key, "words": one.words, "effect": effect_words(changes), "bad": ", ".join(v.short for v in against),
        "kept_out": any(verdict.forbids for verdict in against),
    }  # fmt: skip


def against_substitution(one: Substitution, client: Client | None) -> list[Verdict]:
    """What speaks against the foods of a substitution for a client, the gravest first."""
    return exclusions_of([Eaten(food, grams) for food, grams in one.parts], client_facts_of(client)) if client else []


def _changed(batch: Batch, value: BatchValue) -> dict[str, Any]:
    """The differences to the parent: lines, and the figures of a serving before and after."""
    if batch.parent is None:
        return {}
    before = batch_value(batch.parent)
    return {
        "parent": batch.parent, "lines": [difference_words(d) for d in differences(before.items, value.items)],
        "figures": [(nutrient(k).name, a.shown(), b.shown(), _share(a, b))
                    for k, a, b in figure_changes(*_comparable(before, value), TOLD)],
    }  # fmt: skip


def _comparable(before: BatchValue, after: BatchValue) -> tuple[Composition, Composition]:
    """Both as a serving, or both as 100 g where either does not say how many servings it makes."""
    if before.servings is None or after.servings is None:
        return before.per_100g, after.per_100g
    return before.per_serving, after.per_serving


def changed_page(batch: Batch, client: Client | None) -> dict[str, Any]:
    """What was changed in a variant and why, for the client: differences, figures, what goes in now, how it is made."""
    value = batch_value(batch)
    return {
        "batch": batch, "client": client, "changed": _changed(batch, value), "why": batch.why_changed.splitlines(),
        "lines": [(line.text, "" if line.grams is None else f"{line.grams:,.0f} g") for line in batch.lines.all()
                  if not line.heading],
        "steps": [step for step in batch.steps.splitlines() if step.strip()], "cautions": _cautions(value, client),
        "servings": "" if value.servings is None else f"{value.servings:g}", "serving_g": f"{value.shown[1]:,.0f}",
    }  # fmt: skip


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
        f"{nutrient(w.key).name} {serving[w.key].shown()}: the target for the whole {meal.name.lower()} is {w.text()}"
        for w in above(windows_of_meal(meal), serving)
    ]


def _cautions(value: BatchValue, client: Client | None) -> list[str]:
    if client is None or value.servings is None:
        return []
    present = newest_set(client)
    kidney = bool(POTASSIUM_WATCHED & set(client.conditions)) and present is not None
    ceilings = ceiling_words(windows_of(present), value.per_serving, MINERAL_CEILINGS) if kidney and present else []
    eaten = tuple(Eaten(food, grams / value.known_servings) for item in value.items for food, grams in foods_of(item))
    meal = MealFacts(client_facts_of(client), eaten, value.per_serving)
    found = [f"{verdict.text} {verdict.action}" for verdict in meal_cautions(meal)]
    return (
        [*found, f"A serving: {'; '.join(ceilings)}. Ask the kidney clinician before changing limits."]
        if ceilings
        else found
    )


def substitution_of(line: BatchLine, key: str) -> Substitution | None:
    """A substitution offered for a line, by its key."""
    shelf = shelf_of(line.batch.practitioner)
    food = food_of(line.batch.practitioner_id, line.food_key) if line.food_key else None
    offered = substitutions(food, line.grams or 0.0, shelf) if food and line.grams else for_words(line.text, shelf)
    return next((one for one in offered if one.key == key), None)


def label_page(batch: Batch, made_on: date, most: int) -> dict[str, Any]:
    """Labels for containers, one for each portion that somebody gets, or for each serving: name, made on, use by, grams,
    figures, allergens, how to reheat."""
    value = batch_value(batch)
    portions = [(share.who, share.grams) for share in batch.shares.all() for _ in range(share.times)]
    if not portions and value.servings is not None:
        portions = [("", value.serving_g)] * max(1, round(value.servings))
    portions = portions or [("", value.weight_g)]
    allergens = batch_allergens(value)
    return {
        "batch": batch, "made_on": made_on, "use_by": made_on + timedelta(days=batch.keeps_days),
        "labels": [(who, f"{grams:,.0f}", _label_figures(value, grams)) for who, grams in portions[:most]],
        "allergens": _allergen_words(allergens), "open": allergens.why_open(),
        "caution": storing_words(food for item in value.items for food, _ in foods_of(item)),
    }  # fmt: skip


def allergen_name(key: str) -> str:
    """An allergen as it is said."""
    return key.replace("-", " ")


def _allergen_words(found: Allergens) -> str:
    held = ", ".join(allergen_name(a) for a in found.contains)
    traces = ", ".join(allergen_name(a) for a in found.traces)
    words = [held, f"may contain {traces}" if traces else ""]
    said = "; ".join(word for word in words if word)
    return said or ("none of the common allergens" if found.complete else "none in the lines understood")


def _label_figures(value: BatchValue, grams: float) -> list[tuple[str, str]]:
    if not value.weight_g:
        return []
    part = value.total.scaled(grams / value.weight_g)
    return [(nutrient(key).name, part[key].shown()) for key in LABEL_KEYS]


def log_rows(batch: Batch) -> dict[str, Any]:
    """Every cooking with its yield against what went in."""
    learnt = learnt_yield(batch)
    rows = [
        {"one": c, "grams": f"{c.yield_g:,.0f} g", "share": f"{c.yield_g / c.went_in_g:.0%}" if c.went_in_g else ""}
        for c in batch.cookings.all()
    ]
    words = f"Expected from your records: {learnt[0]:.0%}–{learnt[2]:.0%} of the ingredients." if learnt else ""
    return {"cookings": rows, "learnt_words": words}
