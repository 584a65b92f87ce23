"""Changes of state of a bowl. Each keeps the parts as they were, so that several steps can be taken back."""

from __future__ import annotations

from django.db import transaction

from dietetics.cautions.caution import Caution
from dietetics.composition.foods import Food
from dietetics.composition.sums import FoodContent
from dietetics.dishes.portions import PortionReading, first_portion, read_batch_portion, read_portion, stepped
from dietetics.errors import DieteticsError
from roundpantry.batches.models import Batch
from roundpantry.bowls.models import Bowl, BowlChange, BowlPart
from roundpantry.bowls.records import batch_kept, blocking_allergens, bowl_scope, part_fields, snapshot
from roundpantry.clients.models import Client
from roundpantry.clients.records import acknowledged
from roundpantry.clients.services import acknowledge
from roundpantry.shelf.records import food_or_none, newer_key, preferences_of, scales_of
from roundpantry.shelf.services import note_use
from roundpantry.targets.models import Meal

UNDO_STEPS = 40
MOST_PARTS = 40


def add_bowl(client: Client, name: str, meal: Meal | None) -> Bowl:
    """Store an empty bowl."""
    return Bowl.objects.create(client=client, name=name, meal=meal)


def remove_bowl(bowl: Bowl) -> None:
    """Remove a bowl for good."""
    bowl.delete()


def _remember(bowl: Bowl, before: list[dict[str, object]], what: str) -> None:
    made = BowlChange.objects.create(bowl=bowl, what=what[:160], parts=before)
    if made.pk % UNDO_STEPS == 0:
        kept = bowl.changes.values_list("pk", flat=True)[:UNDO_STEPS]
        bowl.changes.exclude(pk__in=list(kept)).delete()


def _read(bowl: Bowl, part: BowlPart, text: str) -> PortionReading:
    if part.batch is not None:
        household = scales_of(bowl.client.practitioner).household
        return read_batch_portion(text, batch_kept(part.batch), household)
    return read_portion(text, _food(part.food_key), scales_of(bowl.client.practitioner))


def _food(key: str) -> Food:
    food = food_or_none(key)
    if food is None:
        raise DieteticsError("unknown-food", key=key)
    return food


def add_food(bowl: Bowl, food_key: str, amount: str = "", because: str = "") -> BowlPart:
    """Put a food into the bowl, with its group's usual first portion.

    Raises DieteticsError `unknown-food`, or `allergen-blocked` where the client is allergic and no reason is given.
    """
    food = _food(food_key)
    _let_in(bowl, [food], food.name, because)
    practitioner = bowl.client.practitioner
    scales = scales_of(practitioner)
    metric = preferences_of(practitioner).portions == "metric"
    reading = read_portion(amount, food, scales) if amount else first_portion(food, scales, metric=metric)
    note_use(practitioner.pk, food_key)
    return _add(bowl, reading, food.name, food_key=food_key)


def renew_part(bowl: Bowl, part: BowlPart) -> None:
    """Take the newer version of a part's label, keeping the portion as written. Does nothing without one."""
    newer = newer_key(part.food_key)
    if not newer:
        return
    before = snapshot(bowl)
    reading = read_portion(part.amount_text, _food(newer), scales_of(bowl.client.practitioner))
    with transaction.atomic():
        _remember(bowl, before, "newer label taken")
        for name, value in {"food_key": newer, **part_fields(reading)}.items():
            setattr(part, name, value)
        part.save()


def _let_in(bowl: Bowl, foods: list[Food], name: str, because: str) -> None:
    """Refuse what the client is allergic to, unless somebody says why; the reason is recorded."""
    allergies = blocking_allergens(bowl.client, foods)
    known = acknowledged(bowl.client, bowl_scope(bowl)) if allergies else {}
    fresh = [a for a in allergies if f"allergen-{a}" not in known]
    if fresh and not because.strip():
        raise DieteticsError("allergen-blocked", food=name, allergens=", ".join(fresh), client=bowl.client.name)
    for allergy in fresh:
        caution = Caution(f"allergen-{allergy}", "serious", f"{allergy} allergy: {name}.", "", measure=99.0)
        person = bowl.client.practitioner
        acknowledge(
            bowl.client, bowl_scope(bowl), caution, because.strip()[:400], person.get_full_name() or person.username
        )


def note_caution(bowl: Bowl, caution: Caution, reason: str, by: str) -> None:
    """Record that somebody took note of a caution that arose in this bowl."""
    acknowledge(bowl.client, bowl_scope(bowl), caution, reason, by)


def add_batch(bowl: Bowl, batch: Batch, amount: str = "1 serving", because: str = "") -> BowlPart:
    """Put a portion of a batch into the bowl. Raises `allergen-blocked` like `add_food`."""
    foods = [item.content.food for item in batch_kept(batch).items if isinstance(item.content, FoodContent)]
    _let_in(bowl, foods, batch.title, because)
    return _add(bowl, read_batch_portion(amount, batch_kept(batch)), batch.title, batch=batch)


def _add(bowl: Bowl, reading: PortionReading, name: str, **what: object) -> BowlPart:
    before = snapshot(bowl)
    position = max((part["position"] for part in before), default=-1) + 1
    with transaction.atomic():
        _remember(bowl, before, f"{name} put in")
        return BowlPart.objects.create(bowl=bowl, position=position, **what, **part_fields(reading))


def set_portion(bowl: Bowl, part: BowlPart, text: str) -> None:
    """Set a part to a typed portion. Raises DieteticsError when it cannot be read or weighed."""
    _store_portion(bowl, part, _read(bowl, part, text))


def step_portion(bowl: Bowl, part: BowlPart, steps: int) -> None:
    """Turn a part up or down by whole steps of its own measure; it never goes below one step."""
    _store_portion(bowl, part, _read(bowl, part, stepped(part.amount, part.unit, steps)))


def _store_portion(bowl: Bowl, part: BowlPart, reading: PortionReading) -> None:
    before = snapshot(bowl)
    for name, value in part_fields(reading).items():
        setattr(part, name, value)
    with transaction.atomic():
        _remember(bowl, before, f"portion set to {reading.text}")
        part.save(update_fields=["amount", "unit", "amount_text", "grams", "grams_low", "grams_high", "how"])


def remove_part(bowl: Bowl, part: BowlPart) -> None:
    """Take a part out of the bowl."""
    before = snapshot(bowl)
    with transaction.atomic():
        _remember(bowl, before, "a part taken out")
        part.delete()


def undo(bowl: Bowl) -> bool:
    """Put the parts back as they were before the last change; False when there is nothing to take back."""
    last = bowl.changes.first()
    if last is None:
        return False
    with transaction.atomic():
        bowl.parts.all().delete()
        BowlPart.objects.bulk_create(BowlPart(bowl=bowl, **fields) for fields in last.parts)
        last.delete()
    return True
