"""Changes of state of this app. Reading and arithmetic happen before a transaction is opened."""

from __future__ import annotations

import math
from dataclasses import replace
from datetime import date

from django.contrib.auth.models import User
from django.db.models import F

from dietetics.amounts.line_reader import LineReading, phrase_and_unit
from dietetics.amounts.units import UNITS
from dietetics.amounts.weighing import ABSURD_GRAMS, Weight, amount_text, checked
from dietetics.composition.foods import Food
from dietetics.composition.search import index_of
from dietetics.dishes import batches as core
from dietetics.dishes.adapting import Substitution, checked_fitting, fitted_yield_g
from dietetics.dishes.cooking import METHODS, read_yield
from dietetics.dishes.dish_as_food import DISH, dish_density
from dietetics.dishes.portions import read_batch_portion
from dietetics.dishes.recipes import Recipe, read_recipe
from dietetics.errors import DieteticsError
from roundpantry.batches.models import Batch, BatchLine, Cooking, Share
from roundpantry.batches.records import (
    batch_items,
    batch_value,
    batches_of,
    counted_lines,
    dish_reader,
    dishes_in,
    dishes_of,
    line_content,
    line_fields,
    line_key,
    line_row,
)
from roundpantry.clients.models import Client
from roundpantry.counter.state_changes import one_change
from roundpantry.counter.typed_numbers import decimal, row_number, whole
from roundpantry.shelf.records import food_of, scales_of
from roundpantry.shelf.services import remember


def read_pasted(practitioner: User, text: str, title: str = "") -> Recipe:
    """Read a pasted recipe with this practitioner's shelf, cups and corrections.

    Raises DieteticsError when it is empty, too long, or its yield cannot be.
    """
    recipe = read_recipe(text, dish_reader(practitioner), title, dishes_of(practitioner))
    if not recipe.lines:
        raise DieteticsError("nothing-matched")
    return recipe


@one_change
def add_batch(practitioner: User, recipe: Recipe, written: str, starter: bool = False) -> Batch:
    """Store a recipe as a batch, every line with the reading it was given.

    A yield in the text that cannot be is left out and remarked, so that nothing typed is lost.
    """
    remarks = list(recipe.makes.remarks)
    try:
        value = recipe.batch()
    except DieteticsError as error:
        remarks.append(f"{error} It was left out.")
        said, weighed = recipe.makes.servings, recipe.makes.yield_g
        servings = said if said is not None and core.is_possible(said) else None
        value = core.Batch(
            recipe.title, recipe.items, weighed if weighed and weighed > 0 else None, servings
        )
    batch = Batch.objects.create(
        practitioner_id=practitioner.pk,
        title=recipe.title[:120],
        yield_g=value.yield_g,
        servings=value.servings,
        remarks=remarks,
        steps="\n".join(recipe.steps),
        asides=list(recipe.asides),
        written=written,
        starter=starter,
    )
    BatchLine.objects.bulk_create(
        line_row(batch, i, reading) for i, reading in enumerate(recipe.lines)
    )
    return batch


@one_change
def set_yield(
    batch: Batch,
    measured: str,
    servings: float | None,
    method: str = "",
    retention: bool | None = None,
) -> None:
    """Store a measured yield as written ("1.74 kg", "2.9 kg less 1.16 kg"), the servings, and how
    the pot is cooked.

    A yield by volume is weighed at the dish's own density. Raises DieteticsError when they cannot
    be.
    """
    yield_g, how = None, ""
    if measured.strip():
        plain = measured.strip()
        bare = decimal(plain.replace(",", ""))
        if bare is not None and bare < 0:
            raise DieteticsError("yield-not-positive", grams=bare)
        written = plain if bare is None else f"{plain} g"
        density = dish_density(core.Batch(batch.title, tuple(batch_items(batch))))
        yield_g, how = read_yield(written, scales_of(batch.practitioner).household, density)
    core.Batch(batch.title, tuple(batch_items(batch)), yield_g, servings)
    if method and method not in METHODS:
        raise DieteticsError("method-unknown", method=method, known=", ".join(METHODS))
    batch.yield_g, batch.servings, batch.yield_how = yield_g, servings, how[:160]
    batch.method = method or batch.method
    batch.retention = batch.retention if retention is None else retention
    batch.save()
    _note_change(batch)


@one_change
def set_servings(batch: Batch, servings: float) -> None:
    """Say how many a batch serves; everything else stays. Raises DieteticsError for a number that
    cannot be.
    """
    core.Batch(batch.title, (), None, servings)
    batch.servings = servings
    batch.save(update_fields=["servings", "changed_at"])
    _note_change(batch)


@one_change
def set_method(line: BatchLine, method: str) -> None:
    """Say how one line is cooked; "" is as the pot. Raises DieteticsError for an unknown method."""
    if method and method not in METHODS:
        raise DieteticsError("method-unknown", method=method, known=", ".join(METHODS))
    line.method = method
    line.save(update_fields=["method"])
    _touch(line.batch)


@one_change
def set_water(batch: Batch, grams: float) -> None:
    """Thin a sauce or soup with water, or boil some away: the weight changes and nothing else.

    Raises DieteticsError where more would boil away than is there.
    """
    value = batch_value(batch)
    left = value.weight_g - batch.water_g + grams
    if (
        not math.isfinite(grams)
        or grams > ABSURD_GRAMS
        or left < 0.2 * (value.weight_g - batch.water_g)
    ):
        raise DieteticsError("yield-not-positive", grams=left)
    batch.water_g = grams
    batch.save(update_fields=["water_g", "changed_at"])
    _note_change(batch)


@one_change
def log_cooking(batch: Batch, day: date, measured: str, taste: int | None, notes: str) -> Cooking:
    """Keep one cooking with its yield; the expected yield learns from the last five. Raises
    DieteticsError.
    """
    value = batch_value(batch)
    grams, _ = read_yield(measured, scales_of(batch.practitioner).household, dish_density(value))
    went_in = sum(item.grams for item in batch_items(batch))
    core.Batch(batch.title, tuple(batch_items(batch)), grams, batch.servings)
    return Cooking.objects.create(
        batch=batch, day=day, yield_g=grams, went_in_g=went_in, taste=taste, notes=notes
    )


@one_change
def set_vessel(batch: Batch, name: str, fill: str, keeps_days: int | None = None) -> None:
    """Say what is served with, what it holds when filled with this dish, as measured, and how many
    days the dish keeps (None as long as what it is).

    Raises DieteticsError.
    """
    density = dish_density(batch_value(batch))
    grams = (
        read_yield(fill, scales_of(batch.practitioner).household, density)[0]
        if fill.strip()
        else None
    )
    batch.vessel, batch.vessel_g, batch.keeps_days = name[:40], grams, keeps_days
    batch.save(update_fields=["vessel", "vessel_g", "keeps_days", "changed_at"])


@one_change
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
        reading = read_batch_portion(
            amount, batch_value(batch), scales_of(batch.practitioner).household
        )
        grams, text = reading.weight.grams, reading.text
    return Share.objects.create(
        batch=batch, who=who[:60], grams=grams, amount_text=text[:60], times=times
    )


@one_change
def remove_share(batch: Batch, pk: int) -> None:
    """Take a portion back."""
    batch.shares.filter(pk=pk).delete()


@one_change
def vary(batch: Batch, title: str, why: str = "", client: Client | None = None) -> Batch:
    """A variant of a batch with the same lines, which knows its parent and whom it is for."""
    lines = list(batch.lines.all())
    made = Batch.objects.create(
        practitioner_id=batch.practitioner_id,
        title=title[:120],
        yield_g=batch.yield_g,
        servings=batch.servings,
        remarks=batch.remarks,
        steps=batch.steps,
        written=batch.written,
        method=batch.method,
        retention=batch.retention,
        keeps_days=batch.keeps_days,
        parent=batch,
        why_changed=why,
        fitted_for=client,
    )
    for line in lines:
        line.pk, line.batch = None, made
    BatchLine.objects.bulk_create(lines)
    return made


@one_change
def take_substitution(line: BatchLine, taken: Substitution) -> None:
    """Put something in a line's place; the new lines remember what they stand for.

    A measured yield is turned by what went in, and says that the pot must be weighed again. The
    dish is checked against what was promised before it is kept: raises `BrokenAnswerError` where it
    is another.
    """
    before = batch_items(line.batch)
    goes = next(
        (
            item
            for item, (one, _) in zip(before, counted_lines(line.batch), strict=True)
            if one.pk == line.pk
        ),
        None,
    )
    new = [
        BatchLine(
            batch=line.batch,
            position=line.position,
            text=f"{grams:.6g} g {food.name}",
            food_key=food.key,
            grams=grams,
            grams_low=grams,
            grams_high=grams,
            how=f"instead of “{line.text}”: {taken.words}"[:300],
            confidence="high",
            method=line.method,
            instead_of=line.text,
        )
        for food, grams in taken.parts
    ]
    went_in = sum(item.grams for item in batch_items(line.batch))
    comes = sum(grams for _, grams in taken.parts)
    line.delete()
    BatchLine.objects.bulk_create(new)
    fresh = Batch.objects.get(pk=line.batch_id)
    if fresh.yield_g is not None:
        fresh.yield_g = fitted_yield_g(fresh.yield_g, went_in, line.grams or 0.0, comes)
        fresh.yield_how = "estimated from the original's cooked weight; weigh it again"
    fresh.why_changed = f"{fresh.why_changed}\n{taken.words} ({', '.join(taken.reasons)})".strip()
    fresh.save()
    if (
        not line.method
    ):  # nutrients kept in cooking are reckoned by the new food, and were promised raw
        checked_fitting(before, goes, taken, batch_items(Batch.objects.get(pk=line.batch_id)))
    _note_change(fresh)


def _refuse_circle(batch: Batch, food_key: str) -> None:
    """Raise DieteticsError `dish-in-itself` for the batch itself, and for a dish that is made of
    it.
    """
    if not food_key.startswith(DISH):
        return
    dish = batches_of(batch.practitioner).filter(pk=row_number(food_key.removeprefix(DISH))).first()
    if dish is not None and batch.pk in dishes_in(dish):
        raise DieteticsError("dish-in-itself", name=dish.title, into=batch.title)


def _read_for(batch: Batch, text: str) -> list[LineReading]:
    """The readings of a line of a batch; one that names the batch itself, or a dish made of it,
    says so instead.
    """
    found = []
    for reading in dish_reader(batch.practitioner).read(text):
        try:
            _refuse_circle(batch, reading.food.key if reading.food else "")
        except DieteticsError as error:
            found.append(LineReading(reading.text, reason=str(error)))
        else:
            found.append(reading)
    return found


def food_named(practitioner: User, name: str) -> Food:
    """The food or dish a practitioner named: its exact name or key, else the best found. Raises
    `unknown-food`.
    """
    shelf = dish_reader(practitioner).shelf
    wanted = name.strip()
    exact = next((f for f in shelf if wanted.lower() in (f.name.lower(), f.key)), None)
    if exact is not None:
        return exact
    found = index_of(shelf).search(wanted, 1)
    if not found:
        raise DieteticsError("unknown-food", key=wanted)
    return found[0].food


@one_change
def rewrite_line(line: BatchLine, text: str, seen: str | None = None) -> None:
    """Read a line anew from changed text. Two readings of one text become two lines. Raises
    DieteticsError `line-moved-on` where the text is no longer the one that was `seen`.
    """
    if seen is not None and seen not in (line.text, text):
        raise DieteticsError("line-moved-on", stored=line.text, typed=text)
    first, *more = _read_for(line.batch, text)
    _store(line, first)
    if more:
        line.batch.lines.filter(position__gt=line.position).update(
            position=F("position") + len(more)
        )
        BatchLine.objects.bulk_create(
            line_row(line.batch, line.position + 1 + i, reading) for i, reading in enumerate(more)
        )
    _touch(line.batch)


@one_change
def correct_line(line: BatchLine, food_name: str, grams: float | None) -> None:
    """Store the practitioner's own food or grams for a line. Raises DieteticsError when they cannot
    be used.
    """
    practitioner = line.batch.practitioner
    food = food_named(practitioner, food_name)
    _refuse_circle(line.batch, food.key)
    if grams is not None:
        checked(Weight(grams, grams, grams, "", "stated"), f"{grams:g} g")
        reading = LineReading(line.text, food, grams, grams, grams, "grams typed by you", "high")
    else:
        reading = _read_as(practitioner, line.text, food)
    _store(line, reading)
    _remember(practitioner, line.text, food, grams)
    _touch(line.batch)


def _remember(practitioner: User, text: str, food: Food, grams: float | None) -> None:
    """Keep the correction: the food the phrase means, and the weight of one of its unit where grams
    were typed.
    """
    phrase, unit, number = phrase_and_unit(text)
    if grams is not None and number > 0 and UNITS.get(unit, UNITS["piece"]).kind != "mass":
        remember(practitioner, phrase, food.key, unit, grams / number)
    else:
        remember(practitioner, phrase, food.key)


def _read_as(practitioner: User, text: str, food: Food) -> LineReading:
    """Weigh the written amount as another food."""
    reading = dish_reader(practitioner).read_as(text, food)
    if reading.grams is None:
        raise DieteticsError("amount-unreadable", text=text)
    return reading


@one_change
def take_alternative(line: BatchLine, number: int) -> None:
    """Take another meaning of a line; what it was before becomes an alternative."""
    other = line.alternatives[number]
    _refuse_circle(line.batch, other["food"])
    key = line_key(line)
    before = {
        "food": key,
        "name": _name(line),
        "grams": round(line.grams or 0, 1),
        "note": "as it was first read",
    }
    rest = [a for i, a in enumerate(line.alternatives) if i != number]
    is_dish = other["food"].startswith(DISH)
    line.food_key = "" if is_dish else other["food"]
    line.dish_id = whole(other["food"].removeprefix(DISH)) if is_dish else None
    line.grams = line.grams_low = line.grams_high = other["grams"]
    line.how, line.confidence = f"your choice: {other['note']}", "high"
    line.alternatives = [*rest, before]
    line.save()
    _touch(line.batch)


@one_change
def confirm_line(line: BatchLine) -> None:
    """Say that a line with two possible meanings was read right: from here on it counts."""
    line.how, line.confidence = f"your choice: as first read; {line.how}", "high"
    line.save()
    _touch(line.batch)


@one_change
def take_choice(line: BatchLine, number: int) -> None:
    """Take one of the foods offered for a line that was not read, with the amount as written.

    Raises DieteticsError where that amount cannot be weighed as this food.
    """
    choice = line.choices[number]
    _refuse_circle(line.batch, choice["food"])
    practitioner = line.batch.practitioner
    food = dish_reader(practitioner).shelf.foods.get(choice["food"]) or food_of(
        practitioner.pk, choice["food"]
    )
    if food is None:
        raise DieteticsError("unknown-food", key=choice["food"])
    reading = _read_as(line.batch.practitioner, line.text, food)
    words = f"your choice, {choice['note']}; {reading.how}"
    _store(line, replace(reading, how=words, confidence="high", alternatives=()))
    _touch(line.batch)


@one_change
def add_line(batch: Batch, text: str) -> None:
    """Read a line and put it at the end."""
    readings = _read_for(batch, text)
    position = max((line.position for line in batch.lines.all()), default=-1) + 1
    BatchLine.objects.bulk_create(line_row(batch, position + i, r) for i, r in enumerate(readings))
    _touch(batch)


@one_change
def remove_line(line: BatchLine) -> None:
    """Take a line out of its batch."""
    line.delete()
    _touch(line.batch)


@one_change
def remove_batch(batch: Batch) -> None:
    """Remove a batch for good; bowls that hold a serving of it keep it from going (a database
    rule).
    """
    batch.delete()


def _name(line: BatchLine) -> str:
    content = line_content(line)
    return content.name if content is not None else line.food_key


def _store(line: BatchLine, reading: LineReading) -> None:
    for name, value in line_fields(reading).items():
        setattr(line, name, value)
    line.save()


def _touch(batch: Batch) -> None:
    """Note the change of a batch's lines, for everything that is made of it too."""
    Batch.objects.get(pk=batch.pk).save(update_fields=["changed_at"])
    _note_change(batch)


def _note_change(batch: Batch) -> None:
    """Note in every dish that is made of a batch that it has changed: what was worked out of them
    is worked out anew.
    """
    for line in batch.used_in.select_related("batch"):
        line.batch.save(update_fields=["changed_at"])
        _note_change(line.batch)
