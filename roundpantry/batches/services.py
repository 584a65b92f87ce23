"""Changes of state of this app. Reading and arithmetic happen before a transaction is opened."""

from __future__ import annotations

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction
from django.db.models import F

from dietetics.amounts.reader import LineReading, phrase_and_unit
from dietetics.amounts.units import UNITS
from dietetics.amounts.weighing import Weight, checked
from dietetics.composition.foods import Food
from dietetics.composition.search import index_of
from dietetics.dishes import batches as core
from dietetics.dishes.recipes import Recipe, read_recipe
from dietetics.errors import DieteticsError
from roundpantry.batches.models import Batch, BatchLine
from roundpantry.batches.records import batch_items, batch_value, line_fields, line_row
from roundpantry.shelf.records import food_or_none, reader_of, shelf_of
from roundpantry.shelf.services import remember


def read_pasted(practitioner: AbstractBaseUser, text: str, title: str = "") -> Recipe:
    """Read a pasted recipe with this practitioner's shelf, cups and corrections.

    Raises DieteticsError when it is empty, too long, or its yield cannot be.
    """
    recipe = read_recipe(text, reader_of(practitioner), title)
    if not recipe.lines:
        raise DieteticsError("nothing-matched")
    return recipe


@transaction.atomic
def add_batch(practitioner: AbstractBaseUser, recipe: Recipe, written: str) -> Batch:
    """Store a recipe as a batch, every line with the reading it was given.

    A yield in the text that cannot be is left out and remarked, so that nothing typed is lost.
    """
    remarks = list(recipe.makes.remarks)
    try:
        value = recipe.batch()
    except DieteticsError as error:
        remarks.append(f"{error} It was left out.")
        value = core.make_batch(recipe.title, recipe.items, None, recipe.makes.servings)
    batch = Batch.objects.create(
        practitioner_id=practitioner.pk,
        title=recipe.title[:120],
        yield_g=value.yield_g,
        servings=value.servings,
        remarks=remarks,
        steps="\n".join(recipe.steps),
        written=written,
    )
    BatchLine.objects.bulk_create(line_row(batch, i, reading) for i, reading in enumerate(recipe.lines))
    return batch


def set_yield(batch: Batch, yield_g: float | None, servings: float) -> None:
    """Store a measured yield and the servings. Raises DieteticsError when they cannot be."""
    core.Batch(batch.title, tuple(batch_items(batch)), yield_g, servings)
    batch.yield_g, batch.servings = yield_g, servings
    batch.save(update_fields=["yield_g", "servings", "changed_at"])


def food_named(practitioner: AbstractBaseUser, name: str) -> Food:
    """The food a practitioner named: its exact name or key, else the best found. Raises `unknown-food`."""
    shelf = shelf_of(practitioner)
    wanted = name.strip()
    exact = next((f for f in shelf if wanted.lower() in (f.name.lower(), f.key)), None)
    if exact is not None:
        return exact
    found = index_of(shelf).search(wanted, 1)
    if not found:
        raise DieteticsError("unknown-food", key=wanted)
    return found[0].food


def rewrite_line(line: BatchLine, text: str) -> None:
    """Read a line anew from changed text. Two readings of one text become two lines."""
    first, *more = reader_of(line.batch.practitioner).read(text)
    with transaction.atomic():
        _store(line, first)
        if more:
            line.batch.lines.filter(position__gt=line.position).update(position=F("position") + len(more))
            BatchLine.objects.bulk_create(
                line_row(line.batch, line.position + 1 + i, reading) for i, reading in enumerate(more)
            )
        _touch(line.batch)


def correct_line(line: BatchLine, food_name: str, grams: float | None) -> None:
    """Store the practitioner's own food or grams for a line. Raises DieteticsError when they cannot be used."""
    practitioner = line.batch.practitioner
    food = food_named(practitioner, food_name)
    if grams is not None:
        checked(Weight(grams, grams, grams, "", "stated"), f"{grams:g} g")
        reading = LineReading(line.text, food, grams, grams, grams, "grams typed by you", "high")
    else:
        reading = _read_as(practitioner, line.text, food)
    with transaction.atomic():
        _store(line, reading)
        _remember(practitioner, line.text, food, grams)
        _touch(line.batch)


def _remember(practitioner: AbstractBaseUser, text: str, food: Food, grams: float | None) -> None:
    """Keep the correction: the food the phrase means, and the weight of one of its unit where grams were typed."""
    phrase, unit, number = phrase_and_unit(text)
    if grams is not None and number > 0 and UNITS.get(unit, UNITS["piece"]).kind != "mass":
        remember(practitioner, phrase, food.key, unit, grams / number)
    else:
        remember(practitioner, phrase, food.key)


def _read_as(practitioner: AbstractBaseUser, text: str, food: Food) -> LineReading:
    """Weigh the written amount as another food."""
    reading = reader_of(practitioner).read_as(text, food)
    if reading.grams is None:
        raise DieteticsError("amount-unreadable", text=text)
    return reading


def take_alternative(line: BatchLine, number: int) -> None:
    """Take another meaning of a line; what it was before becomes an alternative."""
    other = line.alternatives[number]
    before = {
        "food": line.food_key,
        "name": _name(line.food_key),
        "grams": round(line.grams or 0, 1),
        "note": "as it was first read",
    }
    rest = [a for i, a in enumerate(line.alternatives) if i != number]
    line.food_key, line.grams = other["food"], other["grams"]
    line.grams_low = line.grams_high = other["grams"]
    line.how, line.confidence = f"your choice: {other['note']}", "high"
    line.alternatives = [*rest, before]
    with transaction.atomic():
        line.save()
        _touch(line.batch)


def add_line(batch: Batch, text: str) -> None:
    """Read a line and put it at the end."""
    readings = reader_of(batch.practitioner).read(text)
    position = max((line.position for line in batch.lines.all()), default=-1) + 1
    with transaction.atomic():
        BatchLine.objects.bulk_create(line_row(batch, position + i, r) for i, r in enumerate(readings))
        _touch(batch)


@transaction.atomic
def remove_line(line: BatchLine) -> None:
    """Take a line out of its batch."""
    line.delete()
    _touch(line.batch)


def remove_batch(batch: Batch) -> None:
    """Remove a batch for good; bowls that hold a serving of it keep it from going (a database rule)."""
    batch.delete()


def _name(food_key: str) -> str:
    food = food_or_none(food_key)
    return food.name if food is not None else food_key


def _store(line: BatchLine, reading: LineReading) -> None:
    for name, value in line_fields(reading).items():
        setattr(line, name, value)
    line.save()


def _touch(batch: Batch) -> None:
    """Note the change; a yield that the changed lines make impossible is dropped and remarked."""
    fresh = Batch.objects.prefetch_related("lines").get(pk=batch.pk)
    try:
        batch_value(fresh)
    except DieteticsError as error:
        fresh.remarks = [*fresh.remarks, f"{error} It was taken off; weigh the pot again."]
        fresh.yield_g = None
    fresh.save()
