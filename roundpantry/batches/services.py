"""Changes of state of this app. Reading and arithmetic happen before a transaction is opened."""

from __future__ import annotations

import math
from datetime import date

from django.contrib.auth.models import AbstractBaseUser
from django.db import transaction
from django.db.models import F

from dietetics.amounts.reader import LineReading, phrase_and_unit
from dietetics.amounts.units import UNITS
from dietetics.amounts.weighing import ABSURD_GRAMS, Weight, amount_text, checked
from dietetics.composition.foods import Food
from dietetics.composition.search import index_of
from dietetics.dishes import batches as core
from dietetics.dishes.cooking import METHODS, read_yield
from dietetics.dishes.fitting import Substitution, fitted_yield_g
from dietetics.dishes.portions import read_batch_portion
from dietetics.dishes.recipes import Recipe, read_recipe
from dietetics.errors import DieteticsError
from roundpantry.batches.models import Batch, BatchLine, Cooking, Share
from roundpantry.batches.records import batch_items, batch_value, line_fields, line_row
from roundpantry.counter.typed import decimal
from roundpantry.shelf.records import food_or_none, reader_of, scales_of, shelf_of
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


def set_yield(batch: Batch, measured: str, servings: float, method: str = "", retention: bool | None = None) -> None:
    """Store a measured yield as written ("1.74 kg", "2.9 kg less 1.16 kg"), the servings, and how the pot is cooked.

    Raises DieteticsError when they cannot be.
    """
    yield_g, how = None, ""
    if measured.strip():
        plain = measured.strip()
        bare = decimal(plain.replace(",", ""))
        if bare is not None and bare < 0:
            raise DieteticsError("yield-not-positive", grams=bare)
        written = plain if bare is None else f"{plain} g"
        yield_g, how = read_yield(written, scales_of(batch.practitioner).household)
    core.Batch(batch.title, tuple(batch_items(batch)), yield_g, servings)
    if method and method not in METHODS:
        raise DieteticsError("method-unknown", method=method, known=", ".join(METHODS))
    batch.yield_g, batch.servings, batch.yield_how = yield_g, servings, how[:160]
    batch.method = method or batch.method
    batch.retention = batch.retention if retention is None else retention
    batch.save()


def set_method(line: BatchLine, method: str) -> None:
    """Say how one line is cooked; "" is as the pot. Raises DieteticsError for an unknown method."""
    if method and method not in METHODS:
        raise DieteticsError("method-unknown", method=method, known=", ".join(METHODS))
    line.method = method
    line.save(update_fields=["method"])
    _touch(line.batch)


def set_water(batch: Batch, grams: float) -> None:
    """Thin a sauce or soup with water, or boil some away: the weight changes and nothing else.

    Raises DieteticsError where more would boil away than is there.
    """
    value = batch_value(batch)
    left = value.weight_g - batch.water_g + grams
    if not math.isfinite(grams) or grams > ABSURD_GRAMS or left < 0.2 * (value.weight_g - batch.water_g):
        raise DieteticsError("yield-not-positive", grams=left)
    batch.water_g = grams
    batch.save(update_fields=["water_g", "changed_at"])


def log_cooking(batch: Batch, day: date, measured: str, taste: int | None, notes: str) -> Cooking:
    """Keep one cooking with its yield; the expected yield learns from the last five. Raises DieteticsError."""
    grams, _ = read_yield(measured, scales_of(batch.practitioner).household)
    went_in = sum(item.grams for item in batch_items(batch))
    core.Batch(batch.title, tuple(batch_items(batch)), grams, batch.servings)
    return Cooking.objects.create(batch=batch, day=day, yield_g=grams, went_in_g=went_in, taste=taste, notes=notes)


def set_vessel(batch: Batch, name: str, fill: str, keeps_days: int | None = None) -> None:
    """Say what is served with, what it holds when filled with this dish, as measured, and how long the dish keeps.

    Raises DieteticsError.
    """
    grams = read_yield(fill, scales_of(batch.practitioner).household)[0] if fill.strip() else None
    batch.vessel, batch.vessel_g, batch.keeps_days = name[:40], grams, keeps_days or batch.keeps_days
    batch.save(update_fields=["vessel", "vessel_g", "keeps_days", "changed_at"])


def add_share(batch: Batch, who: str, amount: str, times: int) -> Share:
    """Give somebody a portion, so many times: servings, grams, a volume, or fillings of the vessel.

    Raises DieteticsError when it cannot be read.
    """
    words = amount.strip().lower()
    vessel = batch.vessel.lower()
    if batch.vessel_g and vessel and vessel.rstrip("s") in words:
        number = read_batch_portion(words.split()[0], batch_value(batch)).amount
        grams, text = number * batch.vessel_g, f"{amount_text(number)} × {batch.vessel}"
    else:
        reading = read_batch_portion(amount, batch_value(batch), scales_of(batch.practitioner).household)
        grams, text = reading.weight.grams, reading.text
    return Share.objects.create(batch=batch, who=who[:60], grams=grams, amount_text=text[:60], times=times)


def remove_share(batch: Batch, pk: int) -> None:
    """Take a portion back."""
    batch.shares.filter(pk=pk).delete()


def vary(batch: Batch, title: str, why: str = "") -> Batch:
    """A variant of a batch with the same lines, which knows its parent."""
    lines = list(batch.lines.all())
    with transaction.atomic():
        made = Batch.objects.create(
            practitioner_id=batch.practitioner_id, title=title[:120], yield_g=batch.yield_g, servings=batch.servings,
            remarks=batch.remarks, steps=batch.steps, written=batch.written, method=batch.method, retention=batch.retention,
            keeps_days=batch.keeps_days, parent=batch, why_changed=why,
        )  # fmt: skip
        for line in lines:
            line.pk, line.batch = None, made
        BatchLine.objects.bulk_create(lines)
    return made


def take_substitution(line: BatchLine, taken: Substitution) -> None:
    """Put something in a line's place; the new lines remember what they stand for.

    A measured yield is turned by what went in, and says that the pot must be weighed again.
    """
    new = [
        BatchLine(
            batch=line.batch, position=line.position, text=f"{grams:.6g} g {food.name}", food_key=food.key, grams=grams,
            grams_low=grams, grams_high=grams, how=f"instead of “{line.text}”: {taken.words}"[:300], confidence="high",
            method=line.method, instead_of=line.text,
        )
        for food, grams in taken.parts
    ]  # fmt: skip
    went_in = sum(item.grams for item in batch_items(line.batch))
    comes = sum(grams for _, grams in taken.parts)
    with transaction.atomic():
        line.delete()
        BatchLine.objects.bulk_create(new)
        fresh = Batch.objects.get(pk=line.batch_id)
        if fresh.yield_g is not None:
            fresh.yield_g = fitted_yield_g(fresh.yield_g, went_in, line.grams or 0.0, comes)
            fresh.yield_how = "estimated from the pot of the original; weigh the pot again"
        fresh.why_changed = f"{fresh.why_changed}\n{taken.words} ({', '.join(taken.reasons)})".strip()
        fresh.save()


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
