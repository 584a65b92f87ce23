"""Patterns kept from bowls and drawn for clients: what fits nobody's allergy, dislike or school
takes the next option.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from django.contrib.auth.models import User
from django.db.models import QuerySet

from dietetics.balance.answer import Answer
from dietetics.balance.roles import ROLE_NAMES, role_of
from dietetics.cautions.exclusions import Terms, keeps_out
from dietetics.cautions.facts import ClientFacts
from dietetics.composition.foods import Food
from dietetics.dishes.bowls import foods_of, main_group
from dietetics.dishes.patterns import Drawn, Option, Role, draw, roles_json, roles_of
from dietetics.errors import DieteticsError
from dietetics.targets.proposal import SNACK_PERCENT
from roundpantry.batches.models import Batch
from roundpantry.batches.records import batches_of
from roundpantry.bowls import services
from roundpantry.bowls.balance_services import again, balance_bowl
from roundpantry.bowls.models import Bowl, Pattern
from roundpantry.bowls.records import batch_kept, portion_value
from roundpantry.clients.models import Client
from roundpantry.clients.records import client_facts_of
from roundpantry.counter.state_changes import one_change
from roundpantry.shelf.records import food_of
from roundpantry.targets.models import Meal

BATCH = "batch:"
BREAKFAST, SNACK = "breakfast", "snack"


@dataclass(frozen=True)
class FromPattern:
    """A bowl drawn from a pattern: what was passed over, what stayed empty, and the balance, where
    there was one.
    """

    bowl: Bowl
    drawn: Drawn
    answer: Answer | None


def patterns_of(user: User) -> QuerySet[Pattern]:
    """A practitioner's patterns."""
    return (
        Pattern.objects.filter(practitioner_id=user.pk)
        if user.is_authenticated
        else Pattern.objects.none()
    )


@one_change
def keep_pattern(bowl: Bowl, name: str) -> Pattern:
    """Keep a bowl as a pattern, each part a role with itself as the one option. Raises
    DieteticsError for an empty bowl.
    """
    roles = []
    for row in bowl.parts.all():
        portion = portion_value(row)
        group = portion.group if portion.group != "batch" else main_group(portion.item)
        what = f"{BATCH}{row.batch_id}" if row.batch_id else row.food_key
        food = food_of(bowl.client.practitioner_id, row.food_key) if row.food_key else None
        roles.append(
            Role(
                ROLE_NAMES[role_of(group, food.family if food else "")],
                (Option(what, row.amount_text),),
            )
        )
    if not roles:
        raise DieteticsError("balance-nothing")
    return Pattern.objects.create(
        practitioner=bowl.client.practitioner, name=name[:80], roles=roles_json(roles)
    )


@one_change
def add_option(pattern: Pattern, number: int, food: Food, amount: str) -> None:
    """Give a role one more option, the last to be taken; without an amount its first portion.

    Raises DieteticsError when there is no such role.
    """
    roles = roles_of(pattern.roles)
    if not 0 <= number < len(roles):
        raise DieteticsError("balance-unreadable", problem="the pattern has no such role")
    role = roles[number]
    roles[number] = Role(role.name, (*role.options, Option(food.key, amount)))
    pattern.roles = roles_json(roles)
    pattern.save(update_fields=["roles"])


@one_change
def drop_option(pattern: Pattern, number: int, option: int) -> None:
    """Take an option out of a role; a role without options goes too."""
    roles = roles_of(pattern.roles)
    if 0 <= number < len(roles) and 0 <= option < len(roles[number].options):
        options = tuple(o for i, o in enumerate(roles[number].options) if i != option)
        roles[number : number + 1] = [Role(roles[number].name, options)] if options else []
        pattern.roles = roles_json(roles)
        pattern.save(update_fields=["roles"])


def draw_pattern(pattern: Pattern, client: Client, meal: Meal | None, name: str) -> FromPattern:
    """Make a bowl of a client from a pattern and balance it to their windows."""
    facts = client_facts_of(client)
    batches = {batch.pk: batch for batch in batches_of(client.practitioner)}

    def against(what: str) -> str:
        return _against(what, facts, batches, client.practitioner_id)

    drawn = draw(
        roles_of(pattern.roles),
        against,
        lambda what: name_of(what, batches, client.practitioner_id),
    )
    bowl = services.add_bowl(client, name, meal)
    for _, option in drawn.chosen:
        now = again(bowl)
        if option.what.startswith(BATCH):
            services.add_batch(now, batches[int(option.what[len(BATCH) :])], option.amount)
        else:
            services.add_food(now, option.what, option.amount)
    answer = balance_bowl(again(bowl), even_impossible=True).answer if drawn.chosen else None
    return FromPattern(bowl, drawn, answer)


def usual_meal(pattern: Pattern, meals: Sequence[Meal]) -> Meal | None:
    """The meal a pattern is usually for: the first of the day for a breakfast, the last snack for a
    snack (none where the client eats none), otherwise the last that is no snack.
    """
    snacks = [meal for meal in meals if meal.share_percent < SNACK_PERCENT]
    if pattern.meal_kind == SNACK:
        return snacks[-1] if snacks else None
    mains = [meal for meal in meals if meal not in snacks] or list(meals)
    if not mains:
        return None
    return meals[0] if pattern.meal_kind == BREAKFAST else mains[-1]


def draw_all(practitioner: User, client: Client, meals: Sequence[Meal]) -> list[FromPattern]:
    """Make a bowl of a client from every pattern that they have no bowl of yet, and that is for a
    meal which they eat.
    """
    there = set(client.bowls.values_list("name", flat=True))
    suiting = [(one, usual_meal(one, meals)) for one in patterns_of(practitioner)]
    return [
        draw_pattern(pattern, client, meal, pattern.name)
        for pattern, meal in suiting
        if pattern.name not in there and (meal is not None or pattern.meal_kind != SNACK)
    ]


def name_of(what: str, batches: dict[int, Batch], practitioner_pk: int) -> str:
    """What an option is called."""
    if what.startswith(BATCH):
        batch = batches.get(int(what[len(BATCH) :]))
        return batch.title if batch else "a batch that no longer exists"
    food = food_of(practitioner_pk, what)
    return food.name if food else what


def _against(
    what: str, client: ClientFacts, batches: dict[int, Batch], practitioner_pk: int
) -> str:
    if what.startswith(BATCH):
        batch = batches.get(int(what[len(BATCH) :]))
        if batch is None:
            return "the batch no longer exists"
        foods = [food for item in batch_kept(batch).items for food, _ in foods_of(item)]
    else:
        food = food_of(practitioner_pk, what)
        if food is None:
            return "no longer available"
        foods = [food]
    found = (keeps_out(food, Terms(client)) for food in foods)
    return next((verdict.short for verdict in found if verdict is not None), "")
