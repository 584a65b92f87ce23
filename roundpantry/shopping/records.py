"""Rows to values of the shopping list, and the queries of this app."""

from __future__ import annotations

from collections.abc import Iterable, Iterator

from django.contrib.auth.models import User

from dietetics.amounts.line_reader import ASK
from dietetics.composition.foods import Food, load_shelf
from dietetics.composition.sums import Item
from dietetics.dishes.batches import BatchContent
from dietetics.dishes.bowls import foods_of
from dietetics.shopping.as_bought import Span
from dietetics.shopping.shopping_list import (
    SECTIONS,
    Need,
    ShopKnowledge,
    ShoppingList,
    shopping_list,
)
from dietetics.week.daynames import DAY_NAMES
from dietetics.week.plan import FREE, Entry, Plan
from roundpantry.batches.models import Batch
from roundpantry.batches.records import batch_items, batches_of, unread_lines
from roundpantry.bowls.models import Bowl, BowlPart
from roundpantry.bowls.records import portion_value
from roundpantry.clients.models import Client
from roundpantry.counter.typed_numbers import row_number
from roundpantry.shopping.models import HomeStock, PackageSize, ShopOrder, ShoppingTrip
from roundpantry.weeks.models import Week
from roundpantry.weeks.records import (
    AvailableDishes,
    dishes_of_week,
    is_there,
    plan_value,
    weeks_of,
)


def trip_of(week: Week) -> ShoppingTrip:
    """The shopping trip of a week; a new one, not stored, until something is ticked."""
    return ShoppingTrip.objects.filter(week=week).first() or ShoppingTrip(week=week)


def weeks_bought_for(user: User, week: Week, also: Iterable[int]) -> list[Week]:
    """The week, and the practitioner's own among the others that are bought for too."""
    others = weeks_of(user).filter(pk__in=list(also)).exclude(pk=week.pk)
    return [week, *others.order_by("client__name")]


def weeks_beside(user: User, week: Week) -> list[Week]:
    """The newest version of each other client's week that starts on the same day."""
    found: dict[int, Week] = {}
    others = weeks_of(user).filter(start=week.start).exclude(client=week.client)
    for other in others.order_by("client__name", "version"):
        found[other.client_id] = other
    return list(found.values())


def knowledge_for(user: User, clients: Iterable[Client]) -> ShopKnowledge:
    """What is at home with these clients, the practitioner's packages, prices, and their order."""
    at_home: dict[str, float] = {}
    for stock in HomeStock.objects.filter(client__in=list(clients)):
        at_home[stock.food_key] = at_home.get(stock.food_key, 0.0) + stock.grams
    sizes = list(PackageSize.objects.filter(practitioner_id=user.pk))
    return ShopKnowledge(
        at_home,
        {one.food_key: one.grams for one in sizes if one.grams is not None},
        {one.food_key: one.price for one in sizes if one.price is not None},
        sections_of(user),
    )


def sections_of(user: User) -> tuple[str, ...]:
    """The sections in the practitioner's order; those they never moved stand behind."""
    row = ShopOrder.objects.filter(practitioner_id=user.pk).first()
    kept = [key for key in (row.sections if row else []) if key in SECTIONS]
    return (*kept, *(key for key in SECTIONS if key not in kept))


def list_of_weeks(user: User, weeks: list[Week]) -> ShoppingList:
    """The shopping list of one or several weeks."""
    needs: list[Need] = []
    unknown: list[str] = []
    for week in weeks:
        needs_now, unknown_now = needs_of_week(week)
        whose = f" ({week.client.name})" if len(weeks) > 1 else ""
        needs += [Need(n.food, n.grams, f"{n.dish}{whose}") for n in needs_now]
        unknown += [f"{words}{whose}" for words in unknown_now]
    known = knowledge_for(user, [week.client for week in weeks])
    return shopping_list(needs, known, dict.fromkeys(unknown))


def list_of_batch(user: User, batch: Batch, times: float = 1.0) -> ShoppingList:
    """The shopping list of one batch, cooked `times` times; nothing is known to be at home."""
    needs, unknown = needs_of_batch(batch, times)
    return shopping_list(needs, knowledge_for(user, []), unknown)


def needs_of_week(week: Week) -> tuple[list[Need], list[str]]:
    """Every food a week needs, batches taken apart, and what could not be taken apart in words."""
    plan = plan_value(week)
    found = dishes_of_week(week)
    needs, unknown = _of_cookings(week, plan)
    eaten: dict[str, str] = {}
    for _, _, entry in eaten_entries(plan):
        eaten[entry.dish] = entry.name
    for key, name in eaten.items():
        if key == FREE or key.startswith(f"{FREE}-"):
            unknown.append("A free choice: whatever is chosen for it.")
        elif key not in found.dishes:
            unknown.append(f"{name}: this dish no longer exists.")
    needs += [need for _, _, need in fresh_portions(plan, found)]
    return needs, [*unknown, *_never_cooked(found, plan, eaten)]


def eaten_entries(plan: Plan) -> Iterator[tuple[int, int, Entry]]:
    """What is eaten of a plan: day, meal and entry, days off and skipped meals left out."""
    for d, day in enumerate(plan.days):
        for m, cell in enumerate(day.cells if day.kind != "off" else ()):
            for entry in cell.entries if not cell.skipped else ():
                yield d, m, entry


def filled_meals(week: Week) -> set[tuple[int, int]]:
    """The meals of a week at which something is eaten, by day and meal."""
    return {(d, m) for d, m, _ in eaten_entries(plan_value(week))}


def fresh_portions(plan: Plan, found: AvailableDishes) -> Iterator[tuple[int, int, Need]]:
    """Every food that is eaten and comes from no batch, with its day and meal, for the client and
    the others at the table.
    """
    tables = _others_at_table(plan)
    for d, m, entry in eaten_entries(plan):
        for need in _of_dish(found, entry.dish, entry.scale, tables.get(entry.dish, [])):
            yield d, m, need


def _of_cookings(week: Week, plan: Plan) -> tuple[list[Need], list[str]]:
    """What the batches that are cooked in this week need."""
    wanted = {row_number(one.batch.removeprefix("batch-")) for one in plan.cookings}
    mine = batches_of(week.client.practitioner).filter(pk__in=wanted)
    rows = {batch.pk: batch for batch in mine}
    needs: list[Need] = []
    unknown: list[str] = []
    for one in plan.cookings:
        if one.day < -1:
            continue  # cooked, and bought, in a week before
        batch = rows.get(row_number(one.batch.removeprefix("batch-")))
        if batch is None:
            unknown.append(f"A batch of {DAY_NAMES[max(one.day, 0)]} that no longer exists.")
            continue
        more, missing = needs_of_batch(batch, one.pots)
        needs, unknown = needs + more, unknown + missing
    return needs, unknown


def needs_of_batch(batch: Batch, times: float) -> tuple[list[Need], list[str]]:
    """What a batch needs, dishes in it taken apart, and its lines that were not understood."""
    items = batch_items(batch)
    needs = [
        Need(food, grams.times(times), batch.title)
        for item in items
        for food, grams in _foods(item)
    ]
    doubts = [
        f"{batch.title}: “{text}” was not understood, and is not on this list."
        for text in unread_lines(batch)
    ]
    doubts += [
        f"{batch.title}: “{line.text}” was read with doubt; look at the dish."
        for line in batch.lines.all()
        if line.confidence == ASK and not line.heading
    ]
    return needs, doubts


def list_of_bowl(user: User, bowl: Bowl) -> ShoppingList:
    """The shopping list of one bowl: its foods, and of its batches what a portion of each takes."""
    needs = []
    parts = bowl.parts.select_related("bowl__client__practitioner", "batch")
    for item in (portion_value(part).item for part in parts if is_there(part)):
        needs += [Need(food, span, bowl.name) for food, span in _foods(item)]
    return shopping_list(needs, knowledge_for(user, []))


def _foods(item: Item) -> Iterator[tuple[Food, Span]]:
    """The foods of an item, each with the doubt of the item's own weight."""
    if not item.grams:
        return
    low, high = item.grams_low / item.grams, item.grams_high / item.grams
    for food, grams in foods_of(item):
        yield food, Span(grams * low, grams, grams * high)


def _others_at_table(plan: Plan) -> dict[str, list[Item]]:
    """What the others at the table eat of each bowl in the plan, beside the client."""
    pks = {
        row_number(entry.dish.removeprefix("bowl-"))
        for _, _, cell in plan.places()
        for entry in cell.entries
        if entry.dish.startswith("bowl-")
    }
    parts = BowlPart.objects.filter(bowl__parent_id__in=pks).exclude(bowl__eater="")
    found: dict[str, list[Item]] = {}
    for part in parts.select_related("bowl__client__practitioner", "batch"):
        if part.batch_id is None and is_there(part):
            key = f"bowl-{part.bowl.parent_id}"
            found.setdefault(key, []).append(portion_value(part).item)
    return found


def _of_dish(
    found: AvailableDishes, key: str, times: float, table: Iterable[Item]
) -> Iterator[Need]:
    """What a dish needs that no batch gives it, for the client and the others at the table."""
    dish, drawn = found.dishes.get(key), found.drawn.get(key)
    if dish is None or key.startswith("batch-") or dish.assumed:
        return
    if drawn is None:
        for food, grams in dish.foods:
            yield Need(food, Span(grams, grams, grams).times(times), dish.name)
        return
    for item in (*drawn.items, *table):
        if isinstance(item.content, BatchContent):
            continue  # out of a pot, which is bought for where it is cooked
        for food, span in _foods(item):
            yield Need(food, span.times(times), dish.name)


def bowls_with(families: Iterable[str], clients: Iterable[Client]) -> dict[str, list[Bowl]]:
    """The clients' bowls that hold a food of these families, by family."""
    wanted = set(families)
    found: dict[str, list[Bowl]] = {}
    parts = BowlPart.objects.filter(bowl__client__in=list(clients), bowl__eater="", batch=None)
    for part in parts.select_related("bowl").order_by("bowl__name"):
        food = load_shelf().foods.get(part.food_key)
        if food is not None and food.family in wanted:
            bowls = found.setdefault(food.family, [])
            if part.bowl not in bowls:
                bowls.append(part.bowl)
    return found


def _never_cooked(found: AvailableDishes, plan: Plan, eaten: Iterable[str]) -> list[str]:
    """Batches that are eaten and that nobody cooks in this week or brought into it."""
    cooked = {one.batch for one in plan.cookings}
    wanted = {
        pot
        for key in eaten
        if key in found.dishes
        for pot in (*found.dishes[key].own_g, *found.dishes[key].table_g)
    }
    return [
        f"{found.pots[key].name}: eaten this week, but cooked on no evening."
        for key in sorted(wanted - cooked)
        if key in found.pots
    ]
