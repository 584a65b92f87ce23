"""The shopping list as its page, its print and its files show it: formatted before the template."""

from __future__ import annotations

from typing import Any

from django.contrib.auth.models import User
from django.urls import reverse

from dietetics.composition.foods import load_shelf
from dietetics.dishes.adapting import substitutions
from dietetics.shopping.list_words import (
    allergens_met,
    bought_name,
    buy_words,
    by_section,
    home_words,
    over_words,
    weight_words,
)
from dietetics.shopping.shopping_list import Line, ShoppingList
from dietetics.week.day_totals import mean_of
from roundpantry.shelf.records import preferences_of
from roundpantry.shopping.records import (
    bowls_with,
    filled_meals,
    list_of_weeks,
    trip_of,
    weeks_beside,
    weeks_bought_for,
)
from roundpantry.weeks.models import Week
from roundpantry.weeks.week_snapshot import snapshot_of

SOON_DAYS, MOST_BOWLS = 7, 3  # what spoils within a week is offered to be used


def is_household(user: User) -> bool:
    """True where this practitioner's portions are told in cups, spoons and ounces."""
    return preferences_of(user).portions == "household"


def week_list_page(user: User, week: Week, opened: str = "") -> dict[str, Any]:
    """What the page of a week's shopping list shows; the food `opened` with all that is known."""
    trip = trip_of(week)
    weeks = weeks_bought_for(user, week, trip.also)
    found = list_of_weeks(user, weeks)
    basket = set(trip.in_basket)
    allergies = {one for other in weeks for one in other.client.allergies}
    page = list_page(user, found, basket, sorted(allergies), opened)
    return page | {
        "week": week,
        "at": reverse("shopping:list", args=[week.pk]),
        "also": [(other, other.pk in trip.also) for other in weeks_beside(user, week)],
        "costs": _costs(found, weeks),
        "use_up": _use_up(found, weeks, is_household(user)),
    }


def _use_up(found: ShoppingList, weeks: list[Week], household: bool) -> list[dict[str, Any]]:
    """What is left of packages and soon spoils, with the clients' bowls that hold it."""
    lines = [
        line
        for line in found.to_buy
        if over_words(line, household) and line.package.keeps_days <= SOON_DAYS
    ]
    bowls = bowls_with([line.food.family for line in lines], [week.client for week in weeks])
    return [
        {
            "family": line.food.family,
            "is_wanted": line.food.family in weeks[0].rules.get("use_up", []),
            "name": bought_name(line.food),
            "over": over_words(line, household),
            "bowls": bowls.get(line.food.family, [])[:MOST_BOWLS],
        }
        for line in lines
    ]


def food_page(user: User, week: Week, key: str) -> dict[str, Any] | None:
    """One food of a week's list, None where it is not on it."""
    trip = trip_of(week)
    weeks = weeks_bought_for(user, week, trip.also)
    line = next((one for one in list_of_weeks(user, weeks).lines if one.food.key == key), None)
    if line is None:
        return None
    allergies = sorted({one for other in weeks for one in other.client.allergies})
    row = _row(line, is_household(user), set(trip.in_basket), allergies)
    row |= _detail(line, is_household(user))
    row["instead"] = [
        one.words for one in substitutions(line.food, line.usable_g.likely, load_shelf())
    ]
    return {"week": week, "row": row, "at": reverse("shopping:list", args=[week.pk])}


def list_page(
    user: User,
    found: ShoppingList,
    basket: set[str],
    allergies: list[str],
    opened: str | None = None,
) -> dict[str, Any]:
    """A list by sections, with what is at home already and what is not on it; what each line is for
    stands with the food `opened`, or with all of them.
    """
    household = is_household(user)

    def row(line: Line) -> dict[str, Any]:
        found = _row(line, household, basket, allergies)
        wanted = opened is None or line.food.key == opened
        return found | _detail(line, household) if wanted else found

    sections = []
    for name, lines in by_section(found):
        shown = [row(line) for line in lines]
        # what is in the basket goes to the end of its section
        shown.sort(key=lambda row: (row["in_basket"], row["pinch"]))
        sections.append({"key": lines[0].section, "name": name, "rows": shown})
    enough = [row(line) for line in found.lines if line.buys_nothing]
    return {
        "sections": sections,
        "enough": enough,
        "unknown": found.unknown,
        "count": len(found.to_buy),
        "ticked": sum(line.food.key in basket for line in found.to_buy),
    }


def _row(line: Line, household: bool, basket: set[str], allergies: list[str]) -> dict[str, Any]:
    over = over_words(line, household)
    hints = [
        "A little: look at home first." if line.only_a_pinch else "",
        f"Look for: {line.package.look_for}." if line.package.look_for else "",
        f"{over}." if over else "",
    ]
    return {
        "hints": " ".join(words for words in hints if words),
        "key": line.food.key,
        "name": bought_name(line.food),
        "buy": buy_words(line, household),
        "home": home_words(line, household),
        "look_for": line.package.look_for,
        "allergens": ", ".join(allergens_met(line, allergies)),
        "enough": line.buys_nothing,
        "in_basket": line.food.key in basket,
        "pinch": line.only_a_pinch,
        "pack_g": line.package.usable_g.likely if line.package.usable_g else None,
        "unit": line.package.unit or "kilogram",
        "given": line.package.given,
        "pack_price": line.pack_price,
        "price": None if line.price is None else f"{line.price:,.2f}",
    }


def _detail(line: Line, household: bool) -> dict[str, Any]:
    """What a line is for, and how each of its amounts was reached."""
    return {
        "uses": [(dish, weight_words(grams, household)) for dish, grams in line.uses],
        "ways": line.ways,
    }


def _costs(found: ShoppingList, weeks: list[Week]) -> str:
    """What the list costs, a day and 30 g of protein, in words; "" while no price is known."""
    total, without = found.price
    if not total:
        return ""
    days = protein_g = 0.0
    for week in weeks:
        snapshot = snapshot_of(week)
        mean = mean_of([snapshot.days[d] for d in snapshot.counted])
        days += len(snapshot.counted)
        amount = mean["protein_g"].amount if mean else None
        protein_g += (amount or 0.0) * len(snapshot.counted)
    words = [f"Packages with a price: {total:,.2f}"]
    meals = sum(1 for week in weeks for _ in filled_meals(week))
    if meals and not without:
        words.append(f"{total / meals:,.2f} a meal")
    if days and not without:
        words.append(f"{total / days:,.2f} a day and person")
    if protein_g and not without:
        words.append(f"{total / protein_g * 30:,.2f} for 30 g of protein")
    if without:
        words.append(f"{without} lines have no price yet, so this is not the whole cost")
    return "; ".join(words) + "."
