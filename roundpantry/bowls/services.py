"""Changes of state of a bowl. Each keeps the parts as they were, so that several steps can be taken
back.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from django.db import transaction
from django.db.models import F

from dietetics.cautions.verdict import Verdict
from dietetics.composition.foods import Food
from dietetics.dishes.bowls import step_of
from dietetics.dishes.portions import (
    PortionReading,
    first_portion,
    read_batch_portion,
    read_portion,
    stepped,
)
from dietetics.errors import DieteticsError
from roundpantry.batches.models import Batch
from roundpantry.bowls.models import Bowl, BowlChange, BowlPart
from roundpantry.bowls.records import (
    batch_kept,
    blocking_allergens,
    bowl_scope,
    foods_of_batch,
    part_fields,
    snapshot,
)
from roundpantry.clients.models import Client
from roundpantry.clients.records import acknowledged
from roundpantry.clients.services import acknowledge
from roundpantry.counter.requests import name_of
from roundpantry.counter.state_changes import one_change
from roundpantry.shelf.records import food_of, newer_key, preferences_of, scales_of
from roundpantry.shelf.services import note_use
from roundpantry.targets.models import Meal
from roundpantry.targets.records import newest_version
from roundpantry.targets.renewal import changed_names
from roundpantry.targets.services import renew_targets

UNDO_STEPS = 40
MOST_PARTS = 40
MOST_SERVED_G = 3000.0
# foods of a bowl that hold an allergen somebody gave a reason for: no second food asks again
ALLOWED_MEASURE = 99.0


@one_change
def add_bowl(client: Client, name: str, meal: Meal | None) -> Bowl:
    """Store an empty bowl."""
    return Bowl.objects.create(client=client, name=name, meal=meal)


@one_change
def remove_bowl(bowl: Bowl) -> None:
    """Remove a bowl for good."""
    bowl.delete()


def remember(bowl: Bowl, before: list[dict[str, object]], what: str) -> None:
    """Keep the parts and moved windows as they were, so that the change can be taken back."""
    made = BowlChange.objects.create(bowl=bowl, what=what[:160], parts=before, moved=bowl.moved)
    if made.pk % UNDO_STEPS == 0:
        kept = bowl.changes.values_list("pk", flat=True)[:UNDO_STEPS]
        bowl.changes.exclude(pk__in=list(kept)).delete()


def read_amount(bowl: Bowl, part: BowlPart, text: str) -> PortionReading:
    """Read a portion of a part as typed. Raises DieteticsError when it cannot be read or
    weighed.
    """
    if part.batch is not None:
        household = scales_of(bowl.client.practitioner).household
        return read_batch_portion(text, batch_kept(part.batch), household)
    return read_portion(text, _food(bowl, part.food_key), scales_of(bowl.client.practitioner))


def _food(bowl: Bowl, key: str) -> Food:
    food = food_of(bowl.client.practitioner_id, key)
    if food is None:
        raise DieteticsError("unknown-food", key=key)
    return food


@one_change
def add_food(bowl: Bowl, food_key: str, amount: str = "", because: str = "") -> BowlPart:
    """Put a food into the bowl, with its group's usual first portion.

    Raises DieteticsError `unknown-food`, or `allergen-blocked` where the client is allergic and no
    reason is given.
    """
    food = _food(bowl, food_key)
    _let_in(bowl, [food], food.name, because)
    return _add(bowl, food.name, **_food_fields(bowl, food, amount))


def _food_fields(bowl: Bowl, food: Food, amount: str) -> dict[str, object]:
    """The fields of a food as a part; that it is used is noted."""
    practitioner = bowl.client.practitioner
    scales = scales_of(practitioner)
    metric = preferences_of(practitioner).portions == "metric"
    reading = (
        read_portion(amount, food, scales) if amount else first_portion(food, scales, metric=metric)
    )
    note_use(practitioner.pk, food.key)
    return {"food_key": food.key, **part_fields(reading)}


@one_change
def renew_part(bowl: Bowl, part: BowlPart, because: str = "") -> None:
    """Take the newer version of a part's label, keeping the portion as written. Does nothing
    without one.

    Raises `allergen-blocked` like `add_food`: a new recipe may hold what the old one did not.
    """
    newer = newer_key(bowl.client.practitioner_id, part.food_key)
    if not newer:
        return
    before, food = snapshot(bowl), _food(bowl, newer)
    _let_in(bowl, [food], food.name, because)
    reading = read_portion(part.amount_text, food, scales_of(bowl.client.practitioner))
    remember(bowl, before, "newer label used")
    for name, value in {"food_key": newer, **part_fields(reading)}.items():
        setattr(part, name, value)
    part.save()


def _let_in(bowl: Bowl, foods: list[Food], name: str, because: str) -> None:
    """Refuse what the client is allergic to, unless somebody says why; the reason is recorded."""
    held = blocking_allergens(bowl.client, foods)
    known = acknowledged(bowl.client, bowl_scope(bowl)) if held else {}
    fresh = [verdict for verdict in held if verdict.key not in known]
    if fresh and not because.strip():
        named = ", ".join(verdict.subject for verdict in fresh)
        raise DieteticsError(
            "allergen-blocked", food=name, allergens=named, client=bowl.client.name
        )
    person = bowl.client.practitioner
    for verdict in fresh:
        # the reason is given for what is put in now and after it in this bowl: it does not come
        # back with a second food
        allowed = replace(verdict, measure=ALLOWED_MEASURE)
        by = name_of(person)
        acknowledge(bowl.client, bowl_scope(bowl), allowed, because.strip()[:400], by)


@one_change
def note_caution(bowl: Bowl, caution: Verdict, reason: str, by: str) -> None:
    """Record that somebody took note of a caution that arose in this bowl."""
    acknowledge(bowl.client, bowl_scope(bowl), caution, reason, by)


@one_change
def add_batch(bowl: Bowl, batch: Batch, amount: str = "", because: str = "") -> BowlPart:
    """Put a portion of a batch into the bowl: a serving, or 100 g where nobody said how many
    servings it makes.

    Raises `allergen-blocked` like `add_food`.
    """
    _let_in(bowl, foods_of_batch(batch), batch.title, because)
    return _add(bowl, batch.title, **_batch_fields(batch, amount))


def _batch_fields(batch: Batch, amount: str) -> dict[str, object]:
    """The fields of a batch as a part."""
    amount = amount or ("1 serving" if batch.servings is not None else "100 g")
    return {"batch": batch, **part_fields(read_batch_portion(amount, batch_kept(batch)))}


def _add(bowl: Bowl, name: str, **what: object) -> BowlPart:
    before = snapshot(bowl)
    with transaction.atomic():
        remember(bowl, before, f"{name} added")
        return BowlPart.objects.create(bowl=bowl, position=_end_of(before), **what)


def _end_of(parts: list[dict[str, object]]) -> int:
    """The position behind the last part."""
    return max((int(str(part["position"])) for part in parts), default=-1) + 1


@one_change
def add_parts(bowl: Bowl, parts: Sequence[tuple[Food | Batch, str]], what: str) -> None:
    """Put several foods and batches into the bowl, each with its portion as written, as one step
    that is taken back at once.

    Raises `allergen-blocked` like `add_food`.
    """
    before = snapshot(bowl)
    rows = []
    for position, (one, amount) in enumerate(parts, _end_of(before)):
        if isinstance(one, Batch):
            _let_in(bowl, foods_of_batch(one), one.title, "")
            fields = _batch_fields(one, amount)
        else:
            _let_in(bowl, [one], one.name, "")
            fields = _food_fields(bowl, one, amount)
        rows.append(BowlPart(bowl=bowl, position=position, **fields))
    remember(bowl, before, what)
    BowlPart.objects.bulk_create(rows)


@one_change
def set_portion(bowl: Bowl, part: BowlPart, text: str) -> None:
    """Set a part to a typed portion. Raises DieteticsError when it cannot be read or weighed."""
    _store_portion(bowl, part, read_amount(bowl, part, text))


@one_change
def step_portion(bowl: Bowl, part: BowlPart, steps: int) -> None:
    """Turn a part up or down by whole steps of its own measure; it never goes below one step."""
    _store_portion(bowl, part, read_amount(bowl, part, stepped(part.amount, part.unit, steps)))


def _store_portion(bowl: Bowl, part: BowlPart, reading: PortionReading) -> None:
    before = snapshot(bowl)
    fields = {**part_fields(reading), "chosen": None}
    for name, value in fields.items():
        setattr(part, name, value)
    remember(bowl, before, f"portion set to {reading.text}")
    part.save(update_fields=list(fields))


@one_change
def remove_part(bowl: Bowl, part: BowlPart) -> None:
    """Take a part out of the bowl."""
    before = snapshot(bowl)
    remember(bowl, before, "an ingredient removed")
    part.delete()


@one_change
def undo(bowl: Bowl) -> str:
    """Put the parts back as they were before the last change that can be taken back; return what
    was passed over, in words.

    A step that held a batch which is gone cannot come back whole: it is passed over, and the one
    before it is taken.
    """
    passed = list[str]()
    for last in bowl.changes.all():
        needed = {fields["batch_id"] for fields in last.parts if fields["batch_id"] is not None}
        gone = needed - set(Batch.objects.filter(pk__in=needed).values_list("pk", flat=True))
        last.delete()
        if gone:
            passed.append(last.what)
            continue
        bowl.parts.all().delete()
        BowlPart.objects.bulk_create(BowlPart(bowl=bowl, **fields) for fields in last.parts)
        bowl.moved = last.moved
        bowl.save(update_fields=["moved"])
        break
    return (
        f"{'; '.join(passed)}: can't be undone, because a batch in it has been removed."
        if passed
        else ""
    )


@one_change
def lock_part(bowl: Bowl, part: BowlPart) -> None:
    """Lock a part, so that a balance leaves it, or unlock it."""
    before = snapshot(bowl)
    part.locked = not part.locked
    remember(bowl, before, "locked" if part.locked else "unlocked")
    part.save(update_fields=["locked"])


@one_change
def limit_part(bowl: Bowl, part: BowlPart, least: str, most: str) -> None:
    """Set the least and the most of a part for balancing, as typed; an empty one is portion sense
    again.

    Raises DieteticsError when one cannot be read, or the least is above the most.
    """
    per_unit = part.grams / part.amount
    ends = [
        read_amount(bowl, part, text).weight.grams / per_unit if text.strip() else None
        for text in (least, most)
    ]
    if ends[0] is not None and ends[1] is not None and ends[0] > ends[1]:
        raise DieteticsError(
            "balance-reversed", food=part.amount_text, least=ends[0], most=ends[1], unit=part.unit
        )
    before = snapshot(bowl)
    part.least, part.most = ends
    remember(bowl, before, "limits set")
    part.save(update_fields=["least", "most"])


@one_change
def duplicate_part(bowl: Bowl, part: BowlPart) -> None:
    """Put the same portion of the same thing in once more, right behind it."""
    before = snapshot(bowl)
    copied = {
        name: value
        for name, value in next(p for p in before if p["id"] == part.pk).items()
        if name != "id"
    }
    remember(bowl, before, "an ingredient duplicated")
    bowl.parts.filter(position__gt=part.position).update(position=F("position") + 1)
    BowlPart.objects.create(
        bowl=bowl, **{**copied, "position": part.position + 1, "served_g": None}
    )


@one_change
def move_part(bowl: Bowl, part: BowlPart, places: int) -> None:
    """Move a part up (negative) or down the bowl; at either end it stays."""
    before = snapshot(bowl)
    order = list(bowl.parts.all())
    at = order.index(part)
    order.insert(max(0, min(len(order) - 1, at + places)), order.pop(at))
    for position, row in enumerate(order):
        row.position = position
    remember(bowl, before, "an ingredient moved")
    BowlPart.objects.bulk_update(order, ["position"])


@one_change
def replace_part(
    bowl: Bowl, part: BowlPart, food_key: str, amount: str = "", because: str = ""
) -> None:
    """Put another food in a part's place, with its usual first portion or the amount given.

    Raises DieteticsError `unknown-food`, or `allergen-blocked` where the client is allergic and no
    reason is given.
    """
    food = _food(bowl, food_key)
    _let_in(bowl, [food], food.name, because)
    practitioner = bowl.client.practitioner
    scales, metric = scales_of(practitioner), preferences_of(practitioner).portions == "metric"
    reading = (
        read_portion(amount, food, scales) if amount else first_portion(food, scales, metric=metric)
    )
    before = snapshot(bowl)
    fields = {
        **part_fields(reading),
        "food_key": food_key,
        "batch": None,
        "locked": False,
        "chosen": None,
        "least": None,
        "most": None,
        "served_g": None,
    }
    for name, value in fields.items():
        setattr(part, name, value)
    remember(bowl, before, f"{food.name} put in its place")
    part.save()


@one_change
def copy_bowl(bowl: Bowl, name: str, eater: str, meal: Meal | None, share: float = 1.0) -> Bowl:
    """A variant that knows its parent, for the same client or somebody else at the table; every
    portion × `share`, in whole steps of its measure.
    """
    rows = [(row, _shared(bowl, row, share)) for row in bowl.parts.all()]
    made = Bowl.objects.create(client=bowl.client, name=name, meal=meal, parent=bowl, eater=eater)
    for row, fields in rows:
        kept = {n: getattr(row, n) for n in ("position", "food_key", "batch", "locked")}
        BowlPart.objects.create(bowl=made, **kept, **fields)
    return made


def _shared(bowl: Bowl, row: BowlPart, share: float) -> dict[str, object]:
    if share == 1.0:
        return {
            n: getattr(row, n)
            for n in ("amount", "unit", "amount_text", "grams", "grams_low", "grams_high", "how")
        }
    step = step_of(row.unit)
    amount = max(step, round(row.amount * share / step) * step)
    return part_fields(read_amount(bowl, row, f"{amount:.6g} {row.unit.replace(',', '')}"))


@one_change
def plan_beside(bowl: Bowl, others: Sequence[Bowl]) -> None:
    """Judge the bowl by what these bowls leave of the day; by its meal's own share when there are
    none.
    """
    bowl.beside = [
        other.pk for other in others if other.pk != bowl.pk and other.client_id == bowl.client_id
    ]
    bowl.save(update_fields=["beside"])


@one_change
def settle_windows(bowl: Bowl) -> None:
    """Put moved windows back where the meal has them."""
    before = snapshot(bowl)
    remember(bowl, before, "targets restored")
    bowl.moved = []
    bowl.save(update_fields=["moved"])


@one_change
def take_present_targets(bowl: Bowl) -> bool:
    """Hold the bowl against the client's newest targets, at the meal of the same name, and make
    them anew first where the record asks for others. False where that meal is gone: nothing is
    changed then.
    """
    if changed_names(bowl.client):
        renew_targets(bowl.client)
    present = newest_version(bowl.client)
    name = bowl.meal.name if bowl.meal else ""
    meal = present.meals.filter(name=name).first() if present else None
    if meal is None:
        return False
    bowl.meal, bowl.beside = meal, []
    bowl.save(update_fields=["meal", "beside"])
    return True


@one_change
def note_served(bowl: Bowl, part: BowlPart, grams: float | None) -> None:
    """Record what the scale showed when a part was served; None forgets it. Raises DieteticsError
    for an absurd weight.
    """
    if grams is not None and not 0 < grams <= MOST_SERVED_G:
        raise DieteticsError("amount-unreadable", text=f"{grams:g} g")
    part.served_g = grams
    part.save(update_fields=["served_g"])
