"""Rows of batches to values of the core and back, and the queries of this app."""

from __future__ import annotations

from django.contrib.auth.models import AbstractBaseUser, AnonymousUser
from django.db.models import QuerySet

from dietetics.amounts.reader import LineReading
from dietetics.composition.foods import load_shelf
from dietetics.composition.sums import FoodContent, Item
from dietetics.dishes import batches as core
from dietetics.dishes.cooking import AddedWater, ExpectedYield, expected_yield, learnt_shares, retained
from dietetics.dishes.exchange import WrittenLine
from roundpantry.batches.models import Batch, BatchLine
from roundpantry.shelf.records import food_or_none


def batches_of(user: AbstractBaseUser | AnonymousUser) -> QuerySet[Batch]:
    """The batches of a practitioner, their lines fetched along."""
    if not user.is_authenticated:
        return Batch.objects.none()
    mine = Batch.objects.filter(practitioner_id=user.pk).select_related("practitioner", "parent")
    return mine.prefetch_related("lines", "cookings", "shares")


def batch_value(row: Batch) -> core.Batch:
    """The batch as a value of the core. Lines without a weight are left out; the page shows them apart."""
    items = batch_items(row)
    if row.retention:
        items = [retained(item, method) for item, method in zip(items, line_methods(row), strict=True)]
    yield_g = row.yield_g
    if row.water_g:
        items.append(Item.exact("Water", AddedWater(), row.water_g, "put in afterwards"))
        yield_g = None if yield_g is None else yield_g + row.water_g
    return core.Batch(row.title, tuple(items), yield_g, row.servings)


def line_methods(row: Batch) -> list[str]:
    """How each counted line is cooked: its own way, or the pot's."""
    return [
        line.method or row.method for line in row.lines.all() if line.grams is not None and food_or_none(line.food_key)
    ]


def learnt_yield(row: Batch) -> tuple[float, float, float] | None:
    """(least, mean, most) of yield ÷ what went in over the practitioner's last five cookings; None before two."""
    return learnt_shares([(c.yield_g, c.went_in_g) for c in row.cookings.all()])


def expected_of(row: Batch) -> ExpectedYield:
    """What the pot should weigh: from the practitioner's own cookings, or from the tables."""
    expected = expected_yield(list(zip(batch_items(row), line_methods(row), strict=True)), load_shelf())
    learnt = learnt_yield(row)
    return expected.scaled(learnt) if learnt else expected


def written_lines(row: Batch) -> list[WrittenLine]:
    """The lines with the food and grams they stand for, to be written to a file."""
    return [WrittenLine(line.text, food_or_none(line.food_key) if line.food_key else None, line.grams)
            for line in row.lines.all() if not line.heading]  # fmt: skip


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
