"""Rows to the dishes, kitchens and evenings of the core, and the queries of this app."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta
from typing import Any

from dietetics.dishes.bowls import BATCH_DENSITY_G_PER_ML
from dietetics.prep.evening import Evening, evening_of
from dietetics.prep.keeping import LEAST_OVER_G, in_use_by_order, kept_by_meal, kept_of
from dietetics.prep.keeping import Kept as KeptBatch
from dietetics.prep.kitchen import Kitchen, kitchen_of_words
from dietetics.prep.pace import USUAL_PACE, usual_pace
from dietetics.prep.plain_pots import PlainPot
from dietetics.prep.to_cook import DishToCook
from dietetics.shopping.as_bought import as_bought
from dietetics.week.batch_supply import uses_until_next
from dietetics.week.day_totals import uses_of
from dietetics.week.plan import Cooking
from roundpantry.batches.models import Batch
from roundpantry.batches.records import batch_value, batches_of, days_kept, dish_to_cook
from roundpantry.clients.models import Client
from roundpantry.counter.kept import Kept, read_once
from roundpantry.counter.typed_numbers import row_number
from roundpantry.prep.models import ClientKitchen, CookingEvening, TaskCorrection
from roundpantry.prep.packing import ready_on
from roundpantry.prep.plain_evenings import plain_on
from roundpantry.shopping.records import needs_of_batch
from roundpantry.weeks.models import Week
from roundpantry.weeks.records import dishes_of_week, plan_value

_EVENINGS: Kept[tuple[Any, ...], Evening] = Kept(100)


@dataclass(frozen=True)
class CookedBatch:
    """A batch, how it is cooked on an evening, and what each meal takes of it, in grams."""

    batch: Batch
    cooking: Cooking
    meals_g: tuple[float, ...] = ()

    @property
    def kept(self) -> KeptBatch:
        """How it is kept: a container for each meal."""
        value = batch_value(self.batch)
        in_servings = kept_of(
            self.batch.title,
            self.cooking.pots,
            value.servings,
            value.weight_g,
            BATCH_DENSITY_G_PER_ML,
            self.cooking.day,
            days_kept(self.batch),
            self.cooking.frozen,
        )
        return kept_by_meal(in_servings, self.meals_g, BATCH_DENSITY_G_PER_ML)

    @property
    def containers_g(self) -> list[float]:
        """What goes into each container, in g, those for the freezer last."""
        kept = self.kept
        if kept.is_by_meal:
            return [*self.meals_g, *([kept.over_g] if kept.over_g >= LEAST_OVER_G else [])]
        return [kept.portion_g] * kept.count


def evening_row(week: Week, day: int) -> CookingEvening:
    """The evening of a day; a new one, not stored, until something of it is set."""
    found = CookingEvening.objects.filter(week=week, day=day).first()
    return found or CookingEvening(week=week, day=day)


def cooked_on(week: Week, day: int) -> tuple[list[CookedBatch], int]:
    """The batches of an evening, and how many of them no longer exist."""
    return read_once(("cooked", week.pk, week.revision, day), lambda: _cooked_on(week, day))


def _cooked_on(week: Week, day: int) -> tuple[list[CookedBatch], int]:
    plan = plan_value(week)
    cookings = [one for one in plan.cookings if one.day == day]
    uses = uses_of(plan, dishes_of_week(week).dishes) if cookings else {}
    wanted = {row_number(one.batch.removeprefix("batch-")) for one in cookings}
    mine = batches_of(week.client.practitioner).filter(pk__in=wanted)
    rows = {batch.pk: batch for batch in mine}
    found = []
    for one in cookings:
        batch = rows.get(row_number(one.batch.removeprefix("batch-")))
        if batch is not None:
            evenings = [other.day for other in plan.cookings if other.batch == one.batch]
            taken = uses_until_next(uses.get(one.batch, ()), evenings, one.day, len(plan.meals) - 1)
            found.append(CookedBatch(batch, one, tuple(use.grams for use in taken)))
    return found, len(cookings) - len(found)


KITCHEN_FIELDS = (
    "cooks", "ovens", "trays", "burners", "blenders", "pressure_cookers", "big_pots", "burner_kw"
)  # fmt: skip


def kitchen_of(client: Client) -> tuple[Kitchen, tuple[str, ...]]:
    """A client's kitchen, and what of it is only assumed."""
    row = ClientKitchen.objects.filter(client=client).first()
    if row is None:
        return kitchen_of_words(client.kitchen)
    return Kitchen(**{name: getattr(row, name) for name in KITCHEN_FIELDS}), ()


def dishes_to_cook(cooked: Sequence[CookedBatch]) -> list[DishToCook]:
    """The batches of an evening as dishes of the core, lines scaled to the pots."""
    said: dict[int, dict[str, dict[str, float | str]]] = {}
    for row in TaskCorrection.objects.filter(batch__in=[one.batch for one in cooked]):
        given = {name: getattr(row, name) for name in ("hands", "wait", "celsius")}
        numbers = {name: value for name, value in given.items() if value is not None}
        said.setdefault(row.batch_id, {})[row.task_key] = {**numbers, "text": row.text}
    return [
        replace(
            dish_to_cook(one.batch, one.cooking.pots),
            containers=one.kept.count,
            corrections=said.get(one.batch.pk, {}),
        )
        for one in cooked
    ]


def evening_value(week: Week, day: int, proven: bool) -> Evening:
    """An evening planned, made once for each state of its dishes and kitchen. Raises
    DieteticsError.
    """
    cooked, _ = cooked_on(week, day)
    dishes = [*dishes_to_cook(cooked), *(pot.dish() for pot in plain_on(week, day))]
    kitchen, _ = kitchen_of(week.client)
    packing = ready_on(week, day)
    pace = pace_of_client(week.client) or USUAL_PACE
    state = (proven, repr(kitchen), repr(dishes), tuple(packing), pace)
    return _EVENINGS.of(state, lambda: evening_of(dishes, kitchen, proven, packing, pace))


def pace_of_client(client: Client) -> float | None:
    """How many times as long as usual a client's hands take, from the evenings they ticked."""
    rows = CookingEvening.objects.filter(week__client=client, pace__isnull=False)
    return usual_pace([row.pace for row in rows.order_by("-week__start", "-day") if row.pace])


def kept_on(cooked: Sequence[CookedBatch], plain: Sequence[PlainPot]) -> list[KeptBatch]:
    """How what is cooked on an evening is kept, what is eaten first, first."""
    found = [pot.kept(BATCH_DENSITY_G_PER_ML) for pot in plain]
    return in_use_by_order([*found, *(one.kept for one in cooked)])


def used_on(week: Week, day: int) -> dict[str, float]:
    """Usable grams of each food as bought that an evening's cooking uses."""
    cooked, _ = cooked_on(week, day)
    found: dict[str, float] = {}
    for one in cooked:
        for need in needs_of_batch(one.batch, one.cooking.pots)[0]:
            bought = as_bought(need.food, need.grams)
            key = bought.food.key
            found[key] = found.get(key, 0.0) + bought.usable_g.likely
    for pot in plain_on(week, day):
        found[pot.uncooked.key] = found.get(pot.uncooked.key, 0.0) + pot.uncooked_g
    return found


def day_of(week: Week, day: int) -> date:
    """The date of a day of the week."""
    return week.start + timedelta(days=day)
