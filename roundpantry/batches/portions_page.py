"""Portions, the label and the cooking log of a batch, formatted before any template sees them."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, timedelta
from typing import Any

from dietetics.dishes.allergens import Allergens, batch_allergens
from dietetics.dishes.batches import Batch as BatchValue
from dietetics.dishes.bowls import foods_of
from dietetics.dishes.cooking import storing_words
from dietetics.nutrients import nutrient
from dietetics.week.batch_supply import FROZEN_DAYS
from roundpantry.batches.models import Batch
from roundpantry.batches.records import batch_value, days_kept, keeping_of, learnt_yield

HEADLINE_KEYS = (
    "energy_kcal",
    "protein_g",
    "fat_g",
    "fibre_g",
    "sodium_mg",
    "potassium_mg",
    "phosphorus_mg",
    "kcal_per_g",
)
LABEL_KEYS = (
    "energy_kcal",
    "protein_g",
    "fat_g",
    "carbohydrate_g",
    "fibre_g",
    "sodium_mg",
    "potassium_mg",
)


def portions_page(batch: Batch) -> dict[str, Any]:
    """Who gets what of a batch, what is left, and which containers to fill."""
    value = batch_value(batch)
    shares = list(batch.shares.all())
    rows = []
    for share in shares:
        part = value.total.scaled(share.grams / value.weight_g) if value.weight_g else value.total
        rows.append(
            {
                "share": share,
                "grams": f"{share.grams:,.0f}",
                "whole": f"{share.grams * share.times:,.0f}",
                "energy": part["energy_kcal"].text(),
                "protein": part["protein_g"].text(),
                "sodium": part["sodium_mg"].text(),
            }
        )
    given = sum(share.grams * share.times for share in shares)
    left = value.weight_g - given
    vessel = (
        value.total.scaled(batch.vessel_g / value.weight_g)
        if batch.vessel_g and value.weight_g
        else None
    )
    keeping = keeping_of(batch)
    return {
        "batch": batch,
        "keeps_by_itself": keeping.days,
        "keeps_words": keeping.words(),
        "keeps_longer": keeping.longer_words(days_kept(batch)),
        "rows": rows,
        "weight": f"{value.weight_g:,.0f}",
        "given": f"{given:,.0f}",
        "left": f"{abs(left):,.0f}",
        "short": left < -0.5,
        "containers": sum(share.times for share in shares),
        "serving_g": "" if value.servings is None else f"{value.serving_g:,.0f}",
        "vessel": [(nutrient(k).name, vessel[k].shown()) for k in HEADLINE_KEYS] if vessel else [],
        "vessel_g": "" if batch.vessel_g is None else f"{batch.vessel_g:g} g",
        "fills": "" if not batch.vessel_g else f"{value.weight_g / batch.vessel_g:.1f}",
    }


def label_page(batch: Batch, made_on: date, most: int, times: float = 1.0) -> dict[str, Any]:
    """Labels for containers, one for each portion that somebody gets, or for each serving, of a
    batch that was cooked `times` times.
    """
    value = batch_value(batch)
    portions = [
        (share.who, share.grams)
        for share in batch.shares.all()
        for _ in range(max(1, round(share.times * times)))
    ]
    if not portions and value.servings is not None:
        portions = [("", value.serving_g)] * max(1, round(value.servings * times))
    portions = portions or [("", value.weight_g * times)]
    labels = labels_of(value, portions[:most], made_on, days_kept(batch))
    return {**labels, "batch": batch}


def labels_of(
    value: BatchValue,
    portions: Sequence[tuple[str, float]],
    made_on: date,
    keeps_days: int,
    frozen: int = 0,
) -> dict[str, Any]:
    """Labels of a cooked dish: name, made on, use by, grams, figures, allergens, how to reheat. The
    last `frozen` portions go to the freezer.
    """
    fresh = len(portions) - frozen
    allergens = batch_allergens(value)
    return {
        "title": value.name,
        "made_on": made_on,
        "use_by": made_on + timedelta(days=keeps_days),
        "frozen_until": made_on + timedelta(days=FROZEN_DAYS),
        "labels": [
            (who, f"{grams:,.0f}", _label_figures(value, grams), at >= fresh)
            for at, (who, grams) in enumerate(portions)
        ],
        "allergens": _allergen_words(allergens),
        "open": allergens.why_open(),
        "caution": storing_words(food for item in value.items for food, _ in foods_of(item)),
    }


def allergen_name(key: str) -> str:
    """An allergen as it is said."""
    return key.replace("-", " ")


def _allergen_words(found: Allergens) -> str:
    held = ", ".join(allergen_name(a) for a in found.contains)
    traces = ", ".join(allergen_name(a) for a in found.traces)
    words = [held, f"may contain {traces}" if traces else ""]
    said = "; ".join(word for word in words if word)
    return said or (
        "none of the common allergens" if found.complete else "none in the lines understood"
    )


def _label_figures(value: BatchValue, grams: float) -> list[tuple[str, str]]:
    if not value.weight_g:
        return []
    part = value.total.scaled(grams / value.weight_g)
    return [(nutrient(key).name, part[key].shown()) for key in LABEL_KEYS]


def log_rows(batch: Batch) -> dict[str, Any]:
    """Every cooking with its yield against what went in."""
    learnt = learnt_yield(batch)
    rows = [
        {
            "one": c,
            "grams": f"{c.yield_g:,.0f} g",
            "share": f"{c.yield_g / c.went_in_g:.0%}" if c.went_in_g else "",
        }
        for c in batch.cookings.all()
    ]
    words = (
        f"Expected from your records: {learnt[0]:.0%}–{learnt[2]:.0%} of the ingredients."
        if learnt
        else ""
    )
    return {"cookings": rows, "learnt_words": words}
