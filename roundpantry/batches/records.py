"""Rows of batches to values of the core and back, and the queries of this app."""

from __future__ import annotations

from django.contrib.auth.models import AbstractBaseUser, AnonymousUser
from django.db.models import QuerySet

from dietetics.amounts.reader import LineReading
from dietetics.composition.sums import FoodContent, Item
from dietetics.dishes import batches as core
from roundpantry.batches.models import Batch, BatchLine
from roundpantry.shelf.records import food_or_none


def batches_of(user: AbstractBaseUser | AnonymousUser) -> QuerySet[Batch]:
    """The batches of a practitioner, their lines fetched along."""
    if not user.is_authenticated:
        return Batch.objects.none()
    return Batch.objects.filter(practitioner_id=user.pk).prefetch_related("lines")


def batch_value(row: Batch) -> core.Batch:
    """The batch as a value of the core. Lines without a weight are left out; the page shows them apart."""
    return core.Batch(row.title, tuple(batch_items(row)), row.yield_g, row.servings)


def batch_items(row: Batch) -> list[Item]:
    """The lines that have a food and a weight, as items."""
    found = {line.food_key: food_or_none(line.food_key) for line in row.lines.all() if line.food_key}
    return [
        Item(
            food.name,
            FoodContent(food),
            line.grams,
            line.grams if line.grams_low is None else line.grams_low,
            line.grams if line.grams_high is None else line.grams_high,
            f"“{line.text}”: {line.how}",
        )
        for line in row.lines.all()
        if line.grams is not None and (food := found.get(line.food_key)) is not None
    ]


def line_fields(reading: LineReading) -> dict[str, object]:
    """The columns of a line for a reading of the core."""
    remarks = list(reading.remarks)
    if reading.not_understood:
        remarks.append("not understood: " + ", ".join(reading.not_understood))
    return {
        "text": reading.text,
        "food_key": reading.food.key if reading.food else "",
        "grams": reading.grams,
        "grams_low": reading.grams_low,
        "grams_high": reading.grams_high,
        "how": reading.how,
        "confidence": reading.confidence,
        "reason": reading.reason,
        "remarks": remarks,
        "alternatives": [
            {"food": a.food.key, "name": a.food.name, "grams": round(a.grams, 1), "note": a.note}
            for a in reading.alternatives
        ],
        "heading": reading.heading,
    }


def line_row(batch: Batch, position: int, reading: LineReading) -> BatchLine:
    """An unsaved line of a batch."""
    return BatchLine(batch=batch, position=position, **line_fields(reading))
