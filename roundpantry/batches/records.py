"""Rows of batches to values of the core and back, and the queries of this app."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

from django.contrib.auth.models import User
from django.db.models import QuerySet

from dietetics.amounts.line_reader import ASK, Alternative, LineReader, LineReading
from dietetics.composition.foods import Shelf, load_shelf
from dietetics.composition.sums import Composed, FoodContent, Item, asked
from dietetics.dishes import batches as core
from dietetics.dishes.cooking import (
    AddedWater,
    ExpectedYield,
    expected_yield,
    learnt_shares,
    retained,
)
from dietetics.dishes.dish_as_food import DISH, with_dishes
from dietetics.dishes.recipe_files import WrittenLine
from dietetics.dishes.unweighed import cooked_places, expected_weight
from dietetics.prep.keeping_time import KeepingTime, keeping_time
from dietetics.prep.to_cook import CookedLine, DishToCook
from roundpantry.batches.models import Batch, BatchLine
from roundpantry.counter.kept import Newest, read_once
from roundpantry.counter.typed_numbers import whole
from roundpantry.shelf.records import changes_of, food_of, reader_of, shelf_of

_DISHES: Newest[Any, dict[str, core.Batch]] = Newest(50)
_KEEPING: Newest[Any, KeepingTime] = Newest(500)
_DISH_SHELVES: Newest[tuple[Shelf, dict[str, core.Batch]], Shelf] = Newest(50)


def batches_of(user: User) -> QuerySet[Batch]:
    """The batches of a practitioner, their lines fetched along."""
    if not user.is_authenticated:
        return Batch.objects.none()
    mine = Batch.objects.filter(practitioner_id=user.pk).select_related("practitioner", "parent")
    return mine.prefetch_related("lines__dish__lines", "cookings", "shares")


def batch_value(row: Batch) -> core.Batch:
    """The batch as a value of the core. Lines without a weight are named as not read."""
    items = counted_items(row)
    if row.retention:
        items = [
            retained(item, method) for item, method in zip(items, line_methods(row), strict=True)
        ]
    yield_g = row.yield_g
    if row.water_g:
        items.append(Item.exact("Water", AddedWater(), row.water_g, "put in afterwards"))
        yield_g = None if yield_g is None else yield_g + row.water_g
    servings = row.servings if row.servings is not None and core.is_possible(row.servings) else None
    return core.Batch(
        row.title,
        tuple(items),
        yield_g,
        servings,
        unread_lines(row),
        None if yield_g is not None else _unweighed_g(row),
        cooked_places(line_methods(row), row.title, row.steps.splitlines()),
    )


def _unweighed_g(row: Batch) -> tuple[float, float, float] | None:
    """What a dish that nobody weighed is expected to weigh, with the water put in afterwards; None
    where the sum of what goes in stands.
    """
    cooked = _cooked(row)
    if cooked is None and learnt_yield(row) is None:
        return None
    low, likely, high = _expected(row, cooked).weights_g
    return low + row.water_g, likely + row.water_g, high + row.water_g


def unread_lines(row: Batch) -> tuple[str, ...]:
    """The written lines that gave no food with a weight."""
    counted = {line.pk for line, _ in counted_lines(row)}
    return tuple(
        line.text for line in row.lines.all() if not line.heading and line.pk not in counted
    )


def counted_lines(row: Batch) -> list[tuple[BatchLine, Composed]]:
    """The lines that have a food or a dish and a weight, each with what it holds."""
    found = []
    for line in row.lines.all():
        content = line_content(line) if line.grams is not None and not line.heading else None
        if content is not None:
            found.append((line, content))
    return found


def line_content(line: BatchLine) -> Composed | None:
    """What a line holds: a dish of the practitioner, or a food; None where it has neither."""
    if line.dish_id is not None:
        return core.BatchContent(batch_value(line.dish)) if line.dish is not None else None
    food = food_of(line.batch.practitioner_id, line.food_key) if line.food_key else None
    return FoodContent(food) if food is not None else None


def line_key(line: BatchLine) -> str:
    """The key of what a line holds: a food's, or a dish's."""
    return f"{DISH}{line.dish_id}" if line.dish_id is not None else line.food_key


def line_methods(row: Batch) -> list[str]:
    """How each counted line is cooked: its own way, or the pot's."""
    return [line.method or row.method for line, _ in counted_lines(row)]


def dish_to_cook(row: Batch, pots: float = 1.0) -> DishToCook:
    """A batch as something to cook, its lines times the pots."""
    lines = []
    for line in row.lines.all():
        if line.heading:
            continue
        food = food_of(row.practitioner_id, line.food_key) if line.food_key else None
        lines.append(CookedLine(line.text, food, (line.grams or 0.0) * pots))
    steps = tuple(step for step in row.steps.splitlines() if step.strip())
    return DishToCook(f"batch-{row.pk}", row.title, tuple(lines), steps, row.method)


def keeping_of(row: Batch) -> KeepingTime:
    """How long a batch keeps by what it is, and no longer than the dishes it is made of; made once
    for each state of it.
    """

    def made() -> KeepingTime:
        within = [keeping_of(line.dish) for line in row.lines.all() if line.dish is not None]
        return keeping_time(dish_to_cook(row), row.asides, within)

    return _KEEPING.of(row.pk, row.changed_at.isoformat(), made)


def days_kept(row: Batch) -> int:
    """The days a batch keeps in the refrigerator: as the practitioner says, or by what it is."""
    return keeping_of(row).days if row.keeps_days is None else row.keeps_days


def learnt_yield(row: Batch) -> tuple[float, float, float] | None:
    """(least, mean, most) of yield ÷ what went in over the practitioner's last five cookings; None
    before two.
    """
    return learnt_shares([(c.yield_g, c.went_in_g) for c in row.cookings.all()])


def expected_of(row: Batch) -> ExpectedYield:
    """What the pot should weigh: from the practitioner's own cookings, or from the tables and what
    the steps say.
    """
    return _expected(row, _cooked(row))


def _expected(row: Batch, cooked: ExpectedYield | None) -> ExpectedYield:
    if cooked is None:
        cooked = expected_yield([(item, "raw") for item in batch_items(row)], load_shelf())
    learnt = learnt_yield(row)
    return cooked.scaled(learnt) if learnt else cooked


def _cooked(row: Batch) -> ExpectedYield | None:
    """What the lines weigh when they are cooked as the steps say; None where nothing is cooked."""
    lines = list(zip(batch_items(row), line_methods(row), strict=True))
    return expected_weight(lines, row.title, row.steps.splitlines(), load_shelf())


def written_lines(row: Batch) -> list[WrittenLine]:
    """The lines with the food and grams they stand for, to be written to a file."""
    return [
        WrittenLine(
            line.text,
            food_of(line.batch.practitioner_id, line.food_key) if line.food_key else None,
            line.grams,
        )
        for line in row.lines.all()
        if not line.heading
    ]


def batch_items(row: Batch) -> list[Item]:
    """The lines that have a food or a dish and a weight, as items."""
    return [
        Item(
            content.name,
            content,
            line.grams or 0.0,
            line.grams or 0.0 if line.grams_low is None else line.grams_low,
            line.grams or 0.0 if line.grams_high is None else line.grams_high,
            f"“{line.text}”: {line.how}",
        )
        for line, content in counted_lines(row)
    ]


def counted_items(row: Batch) -> list[Item]:
    """The lines as items, those that are still asked about without figures."""
    lines = [line for line, _ in counted_lines(row)]
    return [
        asked(item) if line.confidence == ASK else item
        for line, item in zip(lines, batch_items(row), strict=True)
    ]


def dishes_in(row: Batch) -> set[int]:
    """The batches that a batch is made of, all the way down, itself among them."""
    found = {row.pk}
    for line in row.lines.all():
        if line.dish is not None and line.dish_id not in found:
            found |= dishes_in(line.dish)
    return found


def dishes_of(user: User) -> dict[str, core.Batch]:
    """The practitioner's dishes by key, for lines that name one. Made anew when a batch changes."""
    rows = batches_of(user)

    def dishes() -> dict[str, core.Batch]:
        found = {f"{DISH}{row.pk}": batch_value(row) for row in rows}
        return {key: value for key, value in found.items() if value.items}

    return read_once(
        ("practitioner's dishes", user.pk), lambda: _DISHES.of(user.pk, changes_of(rows), dishes)
    )


def dish_reader(user: User) -> LineReader:
    """The practitioner's reader, which knows their own dishes by name."""
    shelf, dishes = shelf_of(user), dishes_of(user)
    stamp = (shelf, dishes)
    return reader_of(user, _DISH_SHELVES.of(user.pk, stamp, lambda: with_dishes(shelf, dishes)))


def line_fields(reading: LineReading) -> dict[str, object]:
    """The columns of a line for a reading of the core."""
    remarks = list(reading.remarks)
    if reading.not_understood:
        remarks.append("not understood: " + ", ".join(reading.not_understood))
    key = reading.food.key if reading.food else ""
    is_dish = key.startswith(DISH)
    return {
        "text": reading.text,
        "food_key": "" if is_dish or not reading.food else reading.food.key,
        "dish_id": whole(key.removeprefix(DISH)) if is_dish else None,
        "grams": reading.grams,
        "grams_low": reading.grams_low,
        "grams_high": reading.grams_high,
        "how": reading.how,
        "confidence": reading.confidence,
        "reason": reading.reason,
        "remarks": remarks,
        "alternatives": _meanings(reading.alternatives),
        "choices": _meanings(reading.choices),
        "neutral": list(reading.neutral),
        "heading": reading.heading,
    }


def _meanings(meanings: Iterable[Alternative]) -> list[dict[str, object]]:
    return [
        {"food": a.food.key, "name": a.food.name, "grams": round(a.grams, 1), "note": a.note}
        for a in meanings
    ]


def line_row(batch: Batch, position: int, reading: LineReading) -> BatchLine:
    """An unsaved line of a batch."""
    return BatchLine(batch=batch, position=position, **line_fields(reading))
