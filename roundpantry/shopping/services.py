"""Changes of state around shopping: the basket, the stock at home, packages, the way through the
shop.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping

from django.contrib.auth.models import User

from dietetics.dishes.portions import read_portion
from dietetics.errors import DieteticsError
from dietetics.shopping.shopping_list import ShoppingList
from roundpantry.clients.models import Client
from roundpantry.counter.state_changes import one_change
from roundpantry.shelf.records import food_of, scales_of
from roundpantry.shopping.models import HomeStock, PackageSize, ShopOrder, ShoppingTrip
from roundpantry.shopping.records import sections_of
from roundpantry.weeks.models import Week
from roundpantry.weeks.records import plan_value
from roundpantry.weeks.services import store

GONE_G = 1.0  # less than a gram is nothing


@one_change
def put_into_basket(week: Week, key: str, is_in: bool) -> None:
    """Tick a food of the list, or take the tick away."""
    trip, _ = ShoppingTrip.objects.get_or_create(week=week)
    others = [one for one in trip.in_basket if one != key]
    trip.in_basket = [*others, key] if is_in else others
    trip.save(update_fields=["in_basket"])


@one_change
def buy_for(week: Week, also: Iterable[int]) -> None:
    """Buy for other weeks of the household too. The caller names only the practitioner's own."""
    trip, _ = ShoppingTrip.objects.get_or_create(week=week)
    trip.also = sorted(set(also))
    trip.save(update_fields=["also"])


@one_change
def set_at_home(client: Client, key: str, grams: float) -> None:
    """Say what a client has at home of a food, in usable grams; 0 is nothing."""
    if grams <= 0:
        HomeStock.objects.filter(client=client, food_key=key).delete()
        return
    HomeStock.objects.update_or_create(client=client, food_key=key, defaults={"grams": grams})


@one_change
def put_away(client: Client, found: ShoppingList, week: Week) -> int:
    """What is in the basket is at home now; the basket is empty. Returns how many foods."""
    trip, _ = ShoppingTrip.objects.get_or_create(week=week)
    count = 0
    for line in found.to_buy:
        if line.food.key not in trip.in_basket:
            continue
        package = line.package.usable_g
        bought = line.usable_g.likely
        if line.units is not None and package is not None:
            bought = line.units[1] * package.likely
        stock, _ = HomeStock.objects.get_or_create(
            client=client, food_key=line.food.key, defaults={"grams": 0.0}
        )
        stock.grams += max(bought, line.usable_g.likely)
        stock.save(update_fields=["grams"])
        count += 1
    trip.in_basket = []
    trip.save(update_fields=["in_basket"])
    return count


def prefer_using(week: Week, revision: int, family: str, is_wanted: bool) -> None:
    """Plan the week with dishes that use up a food, or no longer. Raises MovedOnError."""
    now = [one for one in week.rules.get("use_up", []) if one != family]
    rules = {**week.rules, "use_up": [*now, family] if is_wanted else now}
    store(week, revision, plan_value(week), f"use up {family.replace('-', ' ')}", rules)


@one_change
def take_from_home(client: Client, used_g: Mapping[str, float]) -> None:
    """What was cooked is no longer at home: usable grams by the food as bought."""
    for stock in HomeStock.objects.filter(client=client, food_key__in=list(used_g)):
        left = stock.grams - used_g[stock.food_key]
        if left > GONE_G:
            stock.grams = left
            stock.save(update_fields=["grams"])
        else:
            stock.delete()


@one_change
def set_package(user: User, key: str, grams: float | None, price: float | None) -> None:
    """Keep the size of a package and its price; nothing of either forgets the food's package."""
    mine = PackageSize.objects.filter(practitioner_id=user.pk, food_key=key)
    if grams is None and price is None:
        mine.delete()
        return
    PackageSize.objects.update_or_create(
        practitioner_id=user.pk, food_key=key, defaults={"grams": grams, "price": price}
    )


@one_change
def move_section_up(user: User, section: str) -> None:
    """Walk through a section of the shop one place earlier."""
    order = list(sections_of(user))
    place = order.index(section) if section in order else 0
    if place > 0:
        order[place - 1], order[place] = order[place], order[place - 1]
    ShopOrder.objects.update_or_create(practitioner_id=user.pk, defaults={"sections": order})


def read_at_home(user: User, key: str, text: str) -> float:
    """Usable grams of what was written for a food. Raises DieteticsError for what is no amount."""
    food = food_of(user.pk, key)
    if food is None:
        raise DieteticsError("unknown-food", key=key)
    if text.strip().lower() in ("", "0", "none", "nothing"):
        return 0.0
    return read_portion(text, food, scales_of(user)).weight.grams
