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
from dietetics.dishes.bowls import main_group
from dietetics.dishes.pattern_names import Called, called_food, fitting_name
from dietetics.dishes.patterns import Drawn, Option, Role, draw, roles_json, roles_of
from dietetics.errors import DieteticsError
from dietetics.targets.proposal import SNACK_PERCENT
from dietetics.targets.purposes import purposes_of
from roundpantry.batches.models import Batch
from roundpantry.batches.records import batches_of
from roundpantry.bowls import services
from roundpantry.bowls.balance_services import again, balance_bowl
from roundpantry.bowls.models import Bowl, Pattern
from roundpantry.bowls.records import foods_of_batch, portion_value
from roundpantry.clients.models import Client
from roundpantry.clients.records import client_facts_of
from roundpantry.counter.state_changes import one_change
from roundpantry.shelf.records import food_of
from roundpantry.targets.models import Meal
from roundpantry.targets.records import windows_of

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


@dataclass(frozen=True)
class Stock:
    """What patterns of a client are drawn from and for: the client, and the practitioner's batches
    by number.
    """

    client: Client
    facts: ClientFacts
    batches: dict[int, Batch]

    def found(self, what: str) -> Food | Batch | None:
        """The food or batch of an option; None where there is none any more."""
        if what.startswith(BATCH):
            return self.batches.get(int(what[len(BATCH) :]))
        return food_of(self.client.practitioner_id, what)

    def called(self, what: str) -> Called:
        """What an option is called in the name of a bowl."""
        one = self.found(what)
        if one is None:
            return Called(what, ())
        return Called(one.title, (one.title,)) if isinstance(one, Batch) else called_food(one)

    def against(self, what: str) -> str:
        """Why an option is not for the client; "" where nothing stands against it."""
        one = self.found(what)
        if one is None:
            return "the batch no longer exists" if what.startswith(BATCH) else "no longer available"
        foods = foods_of_batch(one) if isinstance(one, Batch) else [one]
        terms = Terms(self.facts)
        verdicts = (keeps_out(food, terms) for food in foods)
        return next((verdict.short for verdict in verdicts if verdict is not None), "")


def stock_of(client: Client) -> Stock:
    """What there is to draw patterns of a client from."""
    batches = {batch.pk: batch for batch in batches_of(client.practitioner)}
    return Stock(client, client_facts_of(client), batches)


def drawn_for(pattern: Pattern, stock: Stock) -> tuple[Drawn, str]:
    """What a pattern holds for a client, and what it is called then: a bowl is not named after a
    food that gave way to another.
    """
    practitioner = stock.client.practitioner_id
    drawn = draw(
        roles_of(pattern.roles),
        stock.against,
        lambda what: name_of(what, stock.batches, practitioner),
    )
    return drawn, fitting_name(pattern.name, drawn, stock.called)[:80]


def draw_pattern(pattern: Pattern, stock: Stock, meal: Meal | None) -> FromPattern:
    """Make a bowl of a client from a pattern and balance it to their windows."""
    drawn, name = drawn_for(pattern, stock)
    bowl = services.add_bowl(stock.client, name, meal)
    parts = [
        (one, option.amount)
        for _, option in drawn.chosen
        if (one := stock.found(option.what)) is not None
    ]
    services.add_parts(bowl, parts, f"{name} drawn")
    answer = balance_bowl(again(bowl), even_impossible=True).answer if parts else None
    return FromPattern(bowl, drawn, answer)


def patterns_for(practitioner: User, meals: Sequence[Meal]) -> list[Pattern]:
    """The patterns for whoever eats these meals: those for everybody, and those whose purpose their
    daily windows have.
    """
    windows = windows_of(meals[0].target_set) if meals else ()
    wanted = {"", *purposes_of(windows)}
    return [one for one in patterns_of(practitioner) if one.purpose in wanted]


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
    """Make a bowl of a client from every pattern that they have no bowl of yet, that is for a meal
    which they eat, and that is made for clients like them.
    """
    there = set(client.bowls.values_list("name", flat=True))
    stock = stock_of(client)
    suiting = [(one, usual_meal(one, meals)) for one in patterns_for(practitioner, meals)]
    names, found = {one.name for one, _ in suiting}, []
    for pattern, meal in suiting:
        name = drawn_for(pattern, stock)[1]
        # what lost its food may be what another pattern is of itself
        is_another = name != pattern.name and name in names
        if is_another or there & {pattern.name, name}:
            continue
        if meal is not None or pattern.meal_kind != SNACK:
            found.append(draw_pattern(pattern, stock, meal))
            there.add(name)
    return found


def name_of(what: str, batches: dict[int, Batch], practitioner_pk: int) -> str:
    """What an option is called."""
    if what.startswith(BATCH):
        batch = batches.get(int(what[len(BATCH) :]))
        return batch.title if batch else "a batch that no longer exists"
    food = food_of(practitioner_pk, what)
    return food.name if food else what
