"""The batch page and list formatted for their templates."""

from __future__ import annotations

import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Any

from dietetics.amounts.line_reader import ASK
from dietetics.cautions.facts import Eaten, MealFacts
from dietetics.cautions.food_rules import allergens_open, foods_excluded
from dietetics.composition.foods import load_shelf
from dietetics.composition.sums import Composition
from dietetics.dishes.adapting import for_words
from dietetics.dishes.allergens import batch_allergens
from dietetics.dishes.batches import SERVINGS_NOT_WRITTEN
from dietetics.dishes.batches import Batch as BatchValue
from dietetics.dishes.bowls import foods_of, is_sauce_name
from dietetics.dishes.cooking import METHODS, bowls_coated, is_usual, yield_words
from dietetics.dishes.steps import read_step
from dietetics.nutrients import nutrient
from dietetics.targets.meal_components import is_component
from dietetics.targets.windows import Window, levels_of
from roundpantry.batches.models import Batch, BatchLine
from roundpantry.batches.portions_page import allergen_name, log_rows
from roundpantry.batches.records import batch_value, expected_of, learnt_yield, line_content
from roundpantry.clients.models import Client
from roundpantry.clients.records import client_facts_of
from roundpantry.counter.levels import figure_rows, levels_html
from roundpantry.shelf.records import newer_key, shelf_of
from roundpantry.targets.records import main_meal, newest_set, windows_of_meal

CONFIDENCE_WORDS = {
    "high": "sure",
    "fair": "fairly sure",
    "low": "rough",
    "ask": "two possible meanings",
}


@dataclass(frozen=True)
class LineRow:
    """A line as shown: texts ready, and what may be done about it."""

    pk: int
    text: str
    food_key: str
    food: str
    grams: str
    span: str
    how: str
    confidence: str
    confidence_words: str
    reason: str
    remarks: list[str]
    alternatives: list[dict[str, Any]]
    heading: bool
    method: str
    instead_of: str
    swaps: bool
    dish: Batch | None
    choices: list[dict[str, Any]]
    written: list[tuple[str, bool]]


def line_row(line: BatchLine) -> LineRow:
    """Format one line."""
    food = line_content(line)
    span = ""
    low, high = line.grams_low, line.grams_high
    if (
        line.grams is not None
        and low is not None
        and high is not None
        and high - low > 0.05 * line.grams
    ):
        span = f"{low:,.0f}–{high:,.0f}"
    return LineRow(
        line.pk,
        line.text,
        line.food_key,
        food.name if food else "",
        _grams(line.grams),
        span,
        line.how,
        line.confidence,
        CONFIDENCE_WORDS.get(line.confidence, ""),
        line.reason,
        _remarks(line),
        line.alternatives,
        line.heading,
        line.method,
        line.instead_of,
        food is None and not line.heading and bool(for_words(line.text, load_shelf())),
        line.dish,
        line.choices if line.reason else [],
        heard(line.text, line.neutral),
    )


def heard(text: str, neutral: Iterable[str]) -> list[tuple[str, bool]]:
    """The written line in pieces, each with whether it was heard and changed nothing: shown in
    grey.
    """
    words = sorted({re.escape(word) for word in neutral if word}, key=len, reverse=True)
    if not words:
        return [(text, False)]
    pattern = re.compile(rf"\b((?:{'|'.join(words)})\w{{0,2}})\b", re.IGNORECASE)
    return [(piece, i % 2 == 1) for i, piece in enumerate(pattern.split(text)) if piece]


def _remarks(line: BatchLine) -> list[str]:
    """The line's remarks, and that its label has a newer version where it has."""
    newer = (
        ["this label has a newer version; the line keeps the one it was made with"]
        if newer_key(line.batch.practitioner_id, line.food_key)
        else []
    )
    return [*line.remarks, *newer, *_dish_remarks(line)]


def _dish_remarks(line: BatchLine) -> list[str]:
    """What is to be known of a dish in a dish: that lines of it were not read, and that a version
    of it was made since.
    """
    if line.dish is None:
        return []
    found = [f"{line.dish.title} makes its own figures: changes there apply here"]
    unread = batch_value(line.dish).unread_lines
    if unread:
        found.append(f"{unread} line{'' if unread == 1 else 's'} of {line.dish.title} not read")
    newer = line.dish.variants.order_by("-created_at").first()
    if newer is not None:
        found.append(f"a newer one exists: {newer.title}")
    return found


def _grams(value: float | None) -> str:
    if value is None:
        return ""
    return f"{value:,.0f}" if value >= 20 else f"{value:.1f}"


def list_rows(batches: Iterable[Batch]) -> list[dict[str, Any]]:
    """Every batch with its serving's energy and protein."""
    rows = []
    for batch in batches:
        value = batch_value(batch)
        what, grams, serving = value.shown
        rows.append(
            {
                "batch": batch,
                "servings": "not given" if value.servings is None else f"{value.servings:g}",
                "serving_g": f"{grams:,.0f} g",
                "per_100g": value.servings is None,
                "energy": serving["energy_kcal"].text(),
                "protein": serving["protein_g"].text(),
                "density": serving["kcal_per_g"].text(),
                "open": len(value.unread),
                "ask": sum(1 for line in batch.lines.all() if line.confidence == ASK),
            }
        )
    return rows


def _levels(value: BatchValue, client: Client | None) -> dict[str, Any]:
    """One serving against the client's main meal, when there is a client with targets."""
    present = newest_set(client) if client else None
    meal = main_meal(present) if present else None
    if client is None or meal is None or not value.items or value.servings is None:
        return {"levels": [], "levels_title": ""}
    windows = windows_of_meal(meal)
    if is_component(value.name, value.per_serving, windows):
        return {
            "levels": [],
            "levels_title": "",
            "levels_hint": _adds_words(value, client, meal.name, windows),
        }
    levels = levels_html(levels_of(windows, value.per_serving))
    return {"levels": levels, "levels_title": f"One serving in {client.name}'s {meal.name.lower()}"}


def _adds_words(value: BatchValue, client: Client, meal: str, windows: Sequence[Window]) -> str:
    """What a serving adds to a meal: each figure with its share of the meal's target."""
    parts = []
    for window in windows:
        figure, whole = value.per_serving[window.key], window.low or window.high
        if figure.amount is not None and whole and nutrient(window.key).kind == "table":
            parts.append(
                f"{nutrient(window.key).name_in_text} {figure.shown()} "
                f"({figure.amount / whole:.0%} of target)"
            )
    return f"One serving adds to {client.name}'s {meal.lower()}: {', '.join(parts)}."


def _warnings(value: BatchValue, client: Client | None) -> list[str]:
    """What speaks against the foods of a batch for the open client, and what is not known of
    them.
    """
    if client is None:
        return []
    eaten = tuple(Eaten(food, grams) for item in value.items for food, grams in foods_of(item))
    meal = MealFacts(client_facts_of(client), eaten, value.total)
    return [
        f"For {client.name}: {verdict.text}"
        for verdict in (*foods_excluded(meal), *allergens_open(meal))
    ]


def _expected(batch: Batch) -> dict[str, Any]:
    """What the pot should weigh, and how far the measured weight is from that."""
    expected = expected_of(batch)
    if not expected.lines:
        return {}
    learnt = learnt_yield(batch) is not None
    lines = [
        (
            one.label,
            f"{one.before_g:,.0f}",
            f"{one.likely_g:,.0f}",
            f"{one.low_g:,.0f}–{one.high_g:,.0f}",
            one.source,
        )
        for one in expected.lines
    ]
    low, likely, high = expected.weights_g
    span = f"{low:,.0f}–{high:,.0f} g, {likely:,.0f} g likely"
    verdict = "" if batch.yield_g is None else yield_words(expected, batch.yield_g)
    return {
        "span": span,
        "lines": lines,
        "verdict": verdict,
        "learnt": learnt,
        "usual": bool(verdict) and is_usual(expected, batch.yield_g or 0.0),
    }


def batch_page(batch: Batch, client: Client | None) -> dict[str, Any]:
    """Everything the batch page shows."""
    value = batch_value(batch)
    lines = [line_row(line) for line in batch.lines.all()]
    what, grams, serving = value.shown
    columns: list[Composition] = [serving, value.per_100g, value.total]
    allergens = batch_allergens(value)
    return {
        "batch": batch,
        "lines": lines,
        "open": [line for line in lines if line.reason],
        "asking": sum(1 for line in lines if line.confidence == ASK),
        "weight": f"{'about ' if value.is_expected else ''}{value.weight_g:,.0f}",
        "ingredients": f"{value.ingredients_g:,.0f}",
        "serving_g": f"{grams:,.0f}",
        "servings": "" if value.servings is None else f"{value.servings:g}",
        "column": what,
        "scope": "100g" if value.servings is None else "serving",
        "unread": value.unread_lines,
        "allergens": allergens,
        "held": [allergen_name(a) for a in allergens.contains],
        "may_hold": [allergen_name(a) for a in allergens.traces],
        "yield_g": "" if batch.yield_g is None else f"{batch.yield_g:g} g",
        "expected": _expected(batch),
        "methods": list(METHODS.items()),
        "steps": [
            (step.text, step.words())
            for line in batch.steps.splitlines()
            if (step := read_step(line)).text.strip()
        ],
        "water_g": f"{batch.water_g:g}" if batch.water_g else "0",
        "most_water": f"{max(500, round(value.weight_g, -2)):g}",
        "coats": bowls_coated(value.weight_g) if is_sauce_name(batch.title) else None,
        "warnings": _warnings(value, client),
        "remarks": [*batch.remarks, *(r for r in value.remarks() if r != SERVINGS_NOT_WRITTEN)],
        "made_of": [line.batch for line in batch.used_in.select_related("batch")],
        "figures": figure_rows(columns) if value.items else [],
        "headline": [
            (nutrient(k).name, serving[k].shown(), k)
            for k in ("energy_kcal", "protein_g", "kcal_per_g", "fibre_g", "sodium_mg")
        ],
        "food_names": [food.name for food in shelf_of(batch.practitioner)],
        **log_rows(batch),
        **_levels(value, client),
    }
