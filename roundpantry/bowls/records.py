"""Rows of bowls to values of the core and back, and the queries of this app."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace
from typing import Any

from django.contrib.auth.models import User
from django.db.models import QuerySet

from dietetics.cautions.exclusions import blocking_allergies
from dietetics.cautions.facts import Eaten, MealFacts
from dietetics.cautions.registry import meal_cautions
from dietetics.cautions.verdict import Verdict
from dietetics.composition.foods import Food
from dietetics.composition.sums import Item, compose
from dietetics.dishes.batches import Batch as BatchValue
from dietetics.dishes.batches import BatchContent
from dietetics.dishes.bowls import BATCH_DENSITY_G_PER_ML, Portion, food_portion, foods_of
from dietetics.dishes.bowls import Bowl as BowlValue
from dietetics.dishes.portions import PortionReading
from dietetics.errors import DieteticsError
from dietetics.targets.windows import Window, on_the_plate
from roundpantry.batches.models import Batch
from roundpantry.batches.records import batch_value
from roundpantry.bowls.models import Bowl, BowlPart
from roundpantry.clients.models import Acknowledgement, Client
from roundpantry.clients.records import client_facts_of, with_acknowledgements
from roundpantry.counter.kept import Kept
from roundpantry.shelf.records import food_of
from roundpantry.targets.records import windows_of, windows_of_meal

PART_FIELDS = (
    "id",
    "position",
    "food_key",
    "batch_id",
    "amount",
    "unit",
    "amount_text",
    "grams",
    "grams_low",
    "grams_high",
    "how",
    "locked",
    "chosen",
    "least",
    "most",
    "served_g",
)
BATCH_GROUP = "batch"
_BATCHES: Kept[tuple[int, str], BatchValue] = Kept(200)


def bowls_of(user: User) -> QuerySet[Bowl]:
    """The bowls of a practitioner's clients, with all that the bench shows."""
    if not user.is_authenticated:
        return Bowl.objects.none()
    return (
        Bowl.objects.filter(client__practitioner_id=user.pk)
        .select_related("client__practitioner__preferences", "meal__target_set")
        .prefetch_related("parts__batch")
    )


def part_of(user: User, bowl_pk: int, part_pk: int) -> BowlPart | None:
    """One part of one of the practitioner's bowls, with its bowl, for a change; None where there is
    none.
    """
    parts = BowlPart.objects.filter(
        bowl__client__practitioner_id=user.pk, bowl_id=bowl_pk, pk=part_pk
    )
    return parts.select_related("bowl").first() if user.is_authenticated else None


def meal_windows_of(bowl: Bowl) -> tuple[Window, ...]:
    """The windows a bowl is judged by: its meal's, or what the bowls beside it leave of the day;
    moved sides taken in.
    """
    if not bowl.meal:
        return ()
    windows = day_rest(bowl) if bowl.beside else windows_of_meal(bowl.meal)
    for key, end, value in bowl.moved:
        windows = tuple(_moved(w, end, value) if w.key == key else w for w in windows)
    return windows


def _moved(window: Window, end: str, value: float) -> Window:
    """A window with one side moved; the other side gives way rather than cross it."""
    if end == "low":
        return replace(
            window, low=value, high=None if window.high is None else max(window.high, value)
        )
    return replace(window, high=value, low=None if window.low is None else min(window.low, value))


def beside_of(bowl: Bowl) -> list[Bowl]:
    """The bowls of the day's other meals that this one is planned beside."""
    return [
        b
        for b in bowls_of(bowl.client.practitioner).filter(client=bowl.client)
        if b.pk in bowl.beside
    ]


def day_rest(bowl: Bowl) -> tuple[Window, ...]:
    """What the bowls beside leave of daily targets for this one."""
    others = compose([item for other in beside_of(bowl) for item in bowl_value(other).items])
    if bowl.meal is None:
        return ()
    return tuple(w.less(others[w.key]) for w in windows_of(bowl.meal.target_set) if on_the_plate(w))


def batch_kept(batch: Any) -> BatchValue:
    """The value of a batch, made once for each state of it: a batch changes seldom, a portion
    often.
    """
    key = (batch.pk, batch.changed_at.isoformat())
    return _BATCHES.of(key, lambda: batch_value(batch))


def foods_of_batch(batch: Batch) -> list[Food]:
    """Every food in a batch, those of dishes in it too."""
    return [food for item in batch_kept(batch).items for food, _ in foods_of(item)]


def portion_value(part: BowlPart) -> Portion:
    """One part as a value of the core."""
    grams = (part.grams_low, part.grams, part.grams_high)
    if part.batch is not None:
        value = batch_kept(part.batch)
        item = Item(value.name, BatchContent(value), grams[1], grams[0], grams[2], part.how)
        volume = part.grams / BATCH_DENSITY_G_PER_ML
        return Portion(
            str(part.pk), item, BATCH_GROUP, volume, part.amount, part.unit, part.amount_text
        )
    food = food_of(part.bowl.client.practitioner_id, part.food_key)
    if food is None:
        raise DieteticsError("unknown-food", key=part.food_key)
    return food_portion(
        str(part.pk), food, grams, part.amount, part.unit, part.amount_text, part.how
    )


def bowl_value(bowl: Bowl) -> BowlValue:
    """The bowl as a value of the core."""
    return BowlValue(bowl.name, tuple(portion_value(part) for part in bowl.parts.all()))


def part_fields(reading: PortionReading) -> dict[str, Any]:
    """The columns of a part for a portion that was read."""
    return {
        "amount": reading.amount,
        "unit": reading.unit[:40],
        "amount_text": reading.text[:60],
        "grams": reading.weight.grams,
        "grams_low": reading.weight.low,
        "grams_high": reading.weight.high,
        "how": reading.weight.how[:300],
    }


def snapshot(bowl: Bowl) -> list[dict[str, Any]]:
    """The parts as plain values, for undo."""
    return [{name: getattr(part, name) for name in PART_FIELDS} for part in bowl.parts.all()]


def eaten_of(value: BowlValue) -> list[Eaten]:
    """The foods of a bowl with their grams, batches taken apart."""
    return [
        Eaten(food, grams) for portion in value.portions for food, grams in foods_of(portion.item)
    ]


def bowl_scope(bowl: Bowl) -> str:
    """Under which scope cautions of a bowl are acknowledged."""
    return f"bowl-{bowl.pk}"


def bowl_cautions(bowl: Bowl, value: BowlValue) -> list[tuple[Verdict, Acknowledgement | None]]:
    """What the food of a bowl asks to be minded for its client, with acknowledgements that still
    hold.
    """
    found = meal_cautions(
        MealFacts(client_facts_of(bowl.client), tuple(eaten_of(value)), value.total)
    )
    return with_acknowledgements(bowl.client, bowl_scope(bowl), found)


def blocking_allergens(client: Client, foods: Iterable[Food]) -> list[Verdict]:
    """The client's allergies that any of these foods carries, hidden carriers counted."""
    return blocking_allergies(list(foods), client_facts_of(client))
