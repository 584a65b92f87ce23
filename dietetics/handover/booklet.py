"""A client's booklet as a value: everything they need for a week, in words and measures they own.

It is made once, when the week is handed over, and kept: what a client reads does not change behind
their back when a dish is changed later.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

import msgspec

from dietetics.json_shapes import shaped

FIGURES: Mapping[str, str] = {
    "none": "no figures",
    "main": "energy and protein",
    "all": "all figures of a day",
}


REMARKS = "Your remarks, for our next talk"
REMARK_LINES = (
    "What was good, and what was skipped?",
    "When were you hungry?",
    "How were energy, digestion and sleep?",
)
ENERGY_UNITS: Mapping[str, str] = {"kcal": "kcal", "kj": "kJ"}
PORTIONS: Mapping[str, str] = {"household": "cups, spoons and pieces", "metric": "grams"}
DATES: Mapping[str, str] = {
    "dmy": "23 Nov 2026",
    "mdy": "Nov 23, 2026",
    "ymd": "2026-11-23",
}


@dataclass(frozen=True)
class Wishes:
    """How a client wants their booklet written: how many figures, in which units, dates how."""

    figures: str = "main"
    portions: str = "household"
    energy: str = "kcal"
    dates: str = "dmy"


@dataclass(frozen=True)
class Serving:
    """A dish at a meal: its name, what goes in by measure, and where it comes from ("from the pot
    of Sunday").
    """

    name: str
    parts: tuple[str, ...] = ()
    source: str = ""


NO_FIGURES = "none"
AIM_WITHOUT_NUMBERS = "Our aim: eat well and regularly."


@dataclass(frozen=True)
class MealOfAnother:
    """What somebody else in the household eats at the same meal; nothing is an empty meal."""

    name: str
    servings: tuple[Serving, ...] = ()


@dataclass(frozen=True)
class MealOfDay:
    """A meal: what is eaten, and its figures in words where they are shown. `is_none` is a meal
    that is left out on purpose; `others` is the household, in the booklet's order of people.
    """

    name: str
    servings: tuple[Serving, ...] = ()
    figures: str = ""
    is_none: bool = False
    others: tuple[MealOfAnother, ...] = ()


@dataclass(frozen=True)
class DayOfWeek:
    """A day with its meals; `kind` says that it is spent on the road, or off the plan."""

    name: str
    date: str
    kind: str
    meals: tuple[MealOfDay, ...]
    figures: tuple[str, ...] = ()


@dataclass(frozen=True)
class DishToMake:
    """A dish the client cooks: how much of the recipe, what goes in, the steps, how long it
    keeps.
    """

    name: str
    how_much: str
    ingredients: tuple[str, ...]
    steps: tuple[str, ...]
    keeps: str


@dataclass(frozen=True)
class CookingEvening:
    """An evening by the clock, and what is begun before it. `minutes` says of each line how long
    after the start it is.
    """

    name: str
    date: str
    times: str
    before: tuple[str, ...]
    lines: tuple[str, ...]
    keeping: tuple[str, ...]
    minutes: tuple[int, ...] = ()


@dataclass(frozen=True)
class ShopSection:
    """A section of the shop with its lines: key of the food, and what to buy in words."""

    name: str
    lines: tuple[tuple[str, str], ...]


@dataclass(frozen=True)
class Booklet:
    """The whole of it. `avoid` names what must not be eaten, `watch` what to mind and whom to ask,
    `changed` what differs from the version before, `household` the others whose portions it holds.
    """

    client: str
    practitioner: str
    week: str
    start: str
    version: int
    aim: str
    note: str
    avoid: tuple[str, ...]
    watch: tuple[str, ...]
    supplements: tuple[str, ...]
    days: tuple[DayOfWeek, ...]
    evenings: tuple[CookingEvening, ...]
    dishes: tuple[DishToMake, ...]
    shopping: tuple[ShopSection, ...]
    check: tuple[str, ...] = ()
    changed: tuple[str, ...] = ()
    figures: str = "main"
    portions: str = "household"
    energy: str = "kcal"
    dates: str = "dmy"
    household: tuple[str, ...] = ()

    @property
    def wishes(self) -> Wishes:
        """How it was written, so that it can be written so again."""
        return Wishes(self.figures, self.portions, self.energy, self.dates)

    def has_meal(self, place: str) -> bool:
        """A meal at which something is eaten stands at a place such as "2-1": day, meal, from 0."""
        return place in self._places()

    def has_step(self, place: str) -> bool:
        """A line of a cooking evening stands at a place such as "0-4": evening, line, from 0."""
        lines = (
            f"{e}-{n}" for e, evening in enumerate(self.evenings) for n in range(len(evening.lines))
        )
        return place in lines

    def has_food(self, key: str) -> bool:
        """A food stands on the shopping list."""
        return any(key == food for section in self.shopping for food, _ in section.lines)

    def has_dish(self, name: str) -> bool:
        """A dish is served in the week."""
        return any(
            name == one.name for day in self.days for meal in day.meals for one in meal.servings
        )

    def _places(self) -> set[str]:
        return {
            f"{d}-{m}"
            for d, day in enumerate(self.days)
            for m, meal in enumerate(day.meals)
            if meal.servings
        }


def without_figures(booklet: Booklet) -> Booklet:
    """The same booklet with no figure of energy, protein or weight in it."""
    days = tuple(
        replace(day, figures=(), meals=tuple(replace(meal, figures="") for meal in day.meals))
        for day in booklet.days
    )
    return replace(booklet, days=days, aim=AIM_WITHOUT_NUMBERS, figures=NO_FIGURES)


def at_a_glance(booklet: Booklet) -> list[tuple[str, ...]]:
    """The week as a table: a head with the meals, then a row a day with what is eaten."""
    meals = booklet.days[0].meals if booklet.days else ()
    rows = [("", *(meal.name for meal in meals))]
    for day in booklet.days:
        names = [", ".join(one.name for one in meal.servings) or "–" for meal in day.meals]
        rows.append((f"{day.name} {day.date}", *names))
    return rows


def booklet_json(booklet: Booklet) -> dict[str, Any]:
    """The booklet as plain data, to be stored."""
    data: dict[str, Any] = msgspec.to_builtins(booklet)
    return data


def booklet_of_json(data: Mapping[str, Any]) -> Booklet:
    """A booklet out of plain data. Raises DieteticsError `booklet-unreadable`."""
    return shaped(dict(data), Booklet, "booklet-unreadable")
