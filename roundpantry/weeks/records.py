"""Rows of weeks to values of the core and back, and the queries of this app."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from contextlib import suppress
from dataclasses import dataclass, replace
from datetime import date, timedelta
from typing import Any

from django.contrib.auth.models import User
from django.db.models import Exists, OuterRef, Q, QuerySet

from dietetics.composition.sums import FoodContent, Item, compose
from dietetics.dishes.batches import BatchContent
from dietetics.dishes.bowls import BATCH_DENSITY_G_PER_ML, Portion, foods_as_eaten
from dietetics.dishes.bowls import Bowl as BowlValue
from dietetics.dishes.portions import first_portion
from dietetics.errors import DieteticsError
from dietetics.targets.schools import PlateRule, School
from dietetics.targets.usual_food import day_asks, usual_food
from dietetics.targets.windows import Window
from dietetics.week.batch_supply import WeekBatch
from dietetics.week.day_totals import Dish
from dietetics.week.daynames import DAY_NAMES, WEEKDAYS
from dietetics.week.plan import DRINK, FREE, Cell, Plan, plan_of
from dietetics.week.question.question_building import assumed_serving, meals_suited, travels_cold
from roundpantry.batches.models import Batch
from roundpantry.batches.records import batches_of, days_kept, keeping_of
from roundpantry.bowls.models import BowlPart
from roundpantry.bowls.records import BATCH_GROUP, batch_kept, portion_value
from roundpantry.clients.models import Client
from roundpantry.clients.records import person_or_none, school_of
from roundpantry.counter.kept import Kept, read_once
from roundpantry.counter.typed_numbers import row_number
from roundpantry.shelf.records import food_of, scales_of
from roundpantry.targets.models import Meal, TargetSet
from roundpantry.targets.records import clinicians_keys, newest_version, windows_of
from roundpantry.weeks.models import DishChoice, Week, WeekChange

FOOD = "food:"
VersionFacts = tuple[tuple[Window, ...], tuple[Meal, ...], frozenset[str]]
_BOWL_DISHES: Kept[tuple[Any, ...], tuple[Dish, BowlValue]] = Kept(600)
_TARGETS: Kept[tuple[int, str], VersionFacts] = Kept(200)


@dataclass(frozen=True)
class AvailableDishes:
    """What a week is made of: dishes by key, how each is drawn, pots by key, for which meal each
    bowl was made.
    """

    dishes: Mapping[str, Dish]
    drawn: Mapping[str, BowlValue]
    pots: Mapping[str, WeekBatch]
    meal_of: Mapping[str, str]


@dataclass(frozen=True)
class WeekTargets:
    """What a week is held against: the client's daily windows, meals with their shares, what is
    asked of the food of a day, which windows a clinician set, and the most that a meal should weigh
    (None where the record cannot be used).
    """

    windows: tuple[Window, ...]
    meals: tuple[Meal, ...]
    asks: tuple[PlateRule, ...]
    school: str
    fixed: frozenset[str] = frozenset()
    most_meal_g: float | None = None


def weeks_of(user: User) -> QuerySet[Week]:
    """The weeks of a practitioner's clients."""
    if not user.is_authenticated:
        return Week.objects.none()
    weeks = Week.objects.filter(client__practitioner_id=user.pk).select_related(
        "client__practitioner__preferences"
    )
    return weeks.annotate(has_change=Exists(WeekChange.objects.filter(week=OuterRef("pk"))))


def uses_of(user: User, dish: str) -> list[tuple[Week, list[str]]]:
    """The weeks that are not handed over and name a dish, by its key, with the days; the newest
    first. A week that cannot be read is left out.
    """
    found = []
    for week in weeks_of(user).filter(frozen_at=None).order_by("-start", "client__name"):
        with suppress(DieteticsError):
            plan = plan_of(week.plan)
            places = [day for day, _, cell in plan.places() if dish in _dishes_of_cell(cell)]
            cooked = [one.day for one in plan.cookings if one.batch == dish]
            days = sorted({*places, *cooked})
            if days:
                found.append((week, [WEEKDAYS[(week.start.weekday() + d) % 7] for d in days]))
    return found


class UnreadableWeekError(Exception):
    """A stored week that cannot be read: its page offers a step back, the stored text, and what can
    be saved of it.
    """

    def __init__(self, week: Week, problem: str) -> None:
        self.week, self.problem = week, problem
        super().__init__(f"week {week.pk} cannot be read")


def plan_value(week: Week) -> Plan:
    """The plan of a stored week. Raises UnreadableWeekError."""
    try:
        return plan_of(week.plan)
    except DieteticsError as error:
        raise UnreadableWeekError(week, str(error)) from None


def week_targets_of(client: Client, school_key: str = "") -> WeekTargets | None:
    """What a client's weeks are held against, under their school or another; None without
    targets.
    """
    present = newest_version(client)
    if present is None:
        return None
    windows, meals, fixed = _targets_kept(present)
    school, person = school_or_none(client, school_key), person_or_none(client)
    asks = day_asks(school, person)
    most_meal_g = usual_food(person).meal_g if person else None
    name = school.name if school else ""
    return WeekTargets(windows, meals, asks, name, fixed, most_meal_g)


def school_or_none(client: Client, school_key: str = "") -> School | None:
    """The client's school or another; None where one of the practitioner's own is gone."""
    try:
        return school_of(client, school_key or client.school)
    except DieteticsError:
        return None


def _targets_kept(present: TargetSet) -> VersionFacts:
    """Windows and meals of a set; a version never changes, so they are kept."""
    key = (present.pk, present.created_at.isoformat())

    def facts() -> VersionFacts:
        return windows_of(present), tuple(present.meals.all()), clinicians_keys(present)

    return _TARGETS.of(key, facts)


def available_dishes(
    client: Client, plan: Plan | None = None, everything: bool = False
) -> AvailableDishes:
    """The client's bowls as dishes, and whatever else stands in a plan; `everything` adds every
    batch of the practitioner.
    """
    bowls = read_once(("bowls", client.pk), lambda: _bowl_dishes(client))
    dishes, drawn, meal_of, batches = bowls[0].copy(), bowls[1].copy(), bowls[2], bowls[3].copy()
    batches |= _further_batches(client, plan, everything, batches)
    for pk, batch in batches.items():
        dishes[f"batch-{pk}"], drawn[f"batch-{pk}"] = _batch_dish(batch)
    for key in _dishes_of_plan(plan) - set(dishes):
        extra = food_dish(client, key) if key.startswith((FOOD, DRINK)) else None
        if extra is not None:
            dishes[key] = extra
    return AvailableDishes(
        dishes, drawn, {f"batch-{pk}": _pot(batch) for pk, batch in batches.items()}, meal_of
    )


def dishes_of_week(week: Week) -> AvailableDishes:
    """The client's bowls as dishes, and whatever else stands in a stored week."""
    return read_once(
        ("week's dishes", week.pk, week.revision),
        lambda: available_dishes(week.client, plan_value(week)),
    )


def _bowl_dishes(
    client: Client,
) -> tuple[dict[str, Dish], dict[str, BowlValue], dict[str, str], dict[int, Batch]]:
    """A client's bowls as dishes, as they are drawn, the meal of each, and the batches in them."""
    dishes: dict[str, Dish] = {}
    drawn: dict[str, BowlValue] = {}
    meal_of: dict[str, str] = {}
    batches: dict[int, Batch] = {}
    rows: dict[int, list[BowlPart]] = {}
    for part in BowlPart.objects.filter(bowl__client=client).select_related("bowl__meal", "batch"):
        rows.setdefault(part.bowl_id, []).append(part)
        if part.batch is not None:
            batches[part.batch.pk] = part.batch
    others: dict[int, list[BowlPart]] = {}
    for parts in rows.values():
        bowl = parts[0].bowl
        if bowl.eater and bowl.parent_id:
            others.setdefault(bowl.parent_id, []).extend(parts)
    for pk, parts in rows.items():
        if parts[0].bowl.eater:
            continue
        key = f"bowl-{pk}"
        dishes[key], drawn[key] = _bowl_dish(key, parts, others.get(pk, []))
        meal_of[key] = parts[0].bowl.meal.name if parts[0].bowl.meal else ""
    return dishes, drawn, meal_of, batches


def _dishes_of_plan(plan: Plan | None) -> set[str]:
    """The keys of everything that stands in a plan's cells."""
    if plan is None:
        return set()
    return {dish for _, _, cell in plan.places() for dish in _dishes_of_cell(cell)}


def _dishes_of_cell(cell: Cell) -> set[str]:
    return {entry.dish for entry in cell.entries}


def _further_batches(
    client: Client, plan: Plan | None, everything: bool, known: Mapping[int, Batch]
) -> dict[int, Batch]:
    """The batches that a plan names or cooks beside the known ones; or every batch that knows its
    servings and was not fitted for somebody else.
    """
    own = batches_of(client.practitioner)
    if everything:
        for_anybody = Q(fitted_for__isnull=True) | Q(fitted_for=client)
        return {b.pk: b for b in own.filter(for_anybody, servings__isnull=False)}
    keys = _dishes_of_plan(plan) | ({c.batch for c in plan.cookings} if plan else set())
    wanted = {row_number(key[6:]) for key in keys if key.startswith("batch-")} - {0, *known}
    return {b.pk: b for b in own.filter(pk__in=wanted)} if wanted else {}


def _bowl_dish(key: str, parts: list[BowlPart], table: list[BowlPart]) -> tuple[Dish, BowlValue]:
    """A bowl as a dish, made once for each state of its parts."""
    state = (key, parts[0].bowl.name, *(_part_state(p) for p in (*parts, *table)))

    def made() -> tuple[Dish, BowlValue]:
        value = BowlValue(
            parts[0].bowl.name, tuple(portion_value(part) for part in parts if is_there(part))
        )
        foods = tuple(pair for item in value.items for pair in foods_as_eaten(item))
        dish = Dish(
            key,
            value.name,
            value.total,
            foods,
            _taken(parts),
            _taken(table),
            travels_cold(value.name, [food for food, _ in foods]),
        )
        return dish, value

    return _BOWL_DISHES.of(state, made)


def _part_state(part: BowlPart) -> tuple[Any, ...]:
    return (
        part.pk,
        part.grams,
        part.food_key,
        part.batch.changed_at.isoformat() if part.batch else "",
    )


def is_there(part: BowlPart) -> bool:
    """True for a part whose batch or food can still be found."""
    return (
        part.batch is not None
        or food_of(part.bowl.client.practitioner_id, part.food_key) is not None
    )


def _taken(parts: Iterable[BowlPart]) -> dict[str, float]:
    found: dict[str, float] = {}
    for part in parts:
        if part.batch_id is not None:
            found[f"batch-{part.batch_id}"] = found.get(f"batch-{part.batch_id}", 0.0) + part.grams
    return found


def _batch_dish(batch: Batch) -> tuple[Dish, BowlValue]:
    """One serving of a batch as a dish; 100 g of one that does not say how many servings it
    makes.
    """
    value = batch_kept(batch)
    what, grams, _ = value.shown
    item = Item.exact(value.name, BatchContent(value), grams, what.lower())
    text = "100 g" if value.servings is None else "1 serving"
    amount, unit = (grams, "g") if value.servings is None else (1, "serving")
    portion = Portion("1", item, BATCH_GROUP, grams / BATCH_DENSITY_G_PER_ML, amount, unit, text)
    foods = tuple(foods_as_eaten(item))
    key = f"batch-{batch.pk}"
    travels = travels_cold(value.name, [food for food, _ in foods])
    dish = Dish(key, value.name, compose([item]), foods, {key: grams}, {}, travels)
    return dish, BowlValue(value.name, (portion,))


def _pot(batch: Batch) -> WeekBatch:
    value = batch_kept(batch)
    freezes = keeping_of(batch).freezes
    return WeekBatch(
        f"batch-{batch.pk}", value.name, value.weight_g, value.shown[1], days_kept(batch), freezes
    )


def food_dish(client: Client, key: str) -> Dish | None:
    """A food of the shelf at its usual first portion, as a dish or a drink; None when it is not on
    the shelf.
    """
    food = food_of(client.practitioner_id, key.partition(":")[2])
    if food is None:
        return None
    first = first_portion(food, scales_of(client.practitioner))
    item = Item.exact(food.name, FoodContent(food), first.weight.grams, first.text)
    return Dish(key, f"{food.name}, {first.text}", compose([item]), ((food, first.weight.grams),))


def with_free(
    available: AvailableDishes, week_targets: WeekTargets | None, plan: Plan
) -> AvailableDishes:
    """The kitchen with a free choice for every meal, whose figures stand for the middle of the
    meal's windows.
    """
    if week_targets is None:
        return available
    shares = {meal.name: meal.share_percent / 100 for meal in week_targets.meals}
    free = {
        f"{FREE}-{m}": Dish(
            f"{FREE}-{m}",
            "Free choice",
            assumed_serving(week_targets.windows, shares.get(name, 0.3)),
            assumed=True,
        )
        for m, name in enumerate(plan.meals)
    }
    return replace(available, dishes={**available.dishes, **free})


def choices_of(client: Client) -> dict[str, DishChoice]:
    """How the client takes each dish that was said something of."""
    return {row.dish: row for row in client.dish_choices.all()}


def suits(
    key: str, available: AvailableDishes, week_targets: WeekTargets, choice: DishChoice | None
) -> list[str]:
    """The meals a dish may be planned for: what was said, or the bowl's own meal, main meals among
    each other.
    """
    said = choice.meals if choice is not None else ()
    return meals_suited(
        available.meal_of.get(key, ""),
        said,
        [(meal.name, meal.share_percent) for meal in week_targets.meals],
    )


def earlier_week(week: Week) -> Week | None:
    """The newest version of the week before, as it was handed over; None where there is none."""
    rows = Week.objects.filter(
        client_id=week.client_id, start=week.start - timedelta(days=7), frozen_at__isnull=False
    )
    return rows.order_by("-version").first()


def eaten_before(week: Week, most_days: int = 7) -> dict[str, tuple[int, ...]]:
    """On which of the days before this week each dish was eaten, -1 the last: from the newest
    versions of the client's weeks that reach into them.
    """
    near = Week.objects.filter(
        client_id=week.client_id,
        start__lt=week.start,
        start__gt=week.start - timedelta(days=most_days + len(DAY_NAMES)),
    )
    plans: dict[date, Plan] = {}
    for row in near.order_by("start", "version"):
        with suppress(UnreadableWeekError):
            plans[row.start] = plan_value(row)
    found: dict[str, list[int]] = {}
    for start, plan in plans.items():
        for d, _, cell in plan.places():
            day = (start - week.start).days + d
            if -most_days <= day < 0 and not cell.skipped:
                for entry in cell.entries:
                    found.setdefault(entry.dish, []).append(day)
    return {key: tuple(sorted(days)) for key, days in found.items()}


def earlier_uses(week: Week, weeks: int = 4) -> dict[str, int]:
    """How often each dish was eaten in the client's last weeks before this one, their newest
    versions.
    """
    seen: dict[Any, Plan] = {}
    for row in Week.objects.filter(client=week.client, start__lt=week.start).order_by(
        "start", "version"
    ):
        with suppress(
            UnreadableWeekError
        ):  # an earlier week that cannot be read must not keep this one from being shown
            seen[row.start] = plan_value(row)
    found: dict[str, int] = {}
    for start in sorted(seen)[-weeks:]:
        for _, _, cell in seen[start].places():
            for entry in cell.entries:
                found[entry.dish] = found.get(entry.dish, 0) + 1
    return found
