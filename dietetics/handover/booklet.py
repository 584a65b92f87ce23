"""A client's booklet as a value: everything they need for a week, in words and measures they own.

It is made once, when the week is handed over, and kept: what a client reads does not change behind
their back when a dish is changed later.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cache
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
    of Sunday"). `letter` is that of its card ("" without one), `portion` how much of one serving
    it is where it is another ("¾").
    """

    name: str
    parts: tuple[str, ...] = ()
    source: str = ""
    letter: str = ""
    portion: str = ""


@dataclass(frozen=True)
class PicturePart:
    """A part of a bowl seen from above: a sector of a ring between two radii and two angles
    (degrees, clockwise from the top), its number and its glaze.
    """

    number: int
    glaze: str
    inner: float
    outer: float
    start: float
    end: float


@dataclass(frozen=True)
class CardPart:
    """A part of a bowl on its card: its name with its state, where it comes from, and for each
    portion the measure, and the grams ("" where they are not shown).
    """

    name: str
    source: str
    measures: tuple[str, ...]
    grams: tuple[str, ...] = ()


@dataclass(frozen=True)
class BowlCard:
    """A bowl as the client makes it: its letter in the week, a column for each portion (`columns`
    says when, or for whom), its parts in the order of their numbers, how it is put together, what
    may stand in for what, how it keeps and travels, and its figures by portion where they are
    shown.
    """

    letter: str
    name: str
    columns: tuple[str, ...]
    parts: tuple[CardPart, ...]
    steps: tuple[str, ...]
    swaps: tuple[str, ...] = ()
    keeps: str = ""
    travels: str = ""
    figures: tuple[str, ...] = ()
    picture: tuple[PicturePart, ...] = ()


NO_FIGURES = "none"
AIM_WITHOUT_NUMBERS = "Our aim: eat well and regularly."


@dataclass(frozen=True)
class MealOfAnother:
    """What somebody else in the household eats at the same meal; nothing is an empty meal."""

    name: str
    servings: tuple[Serving, ...] = ()

    def words(self) -> str:
        """In a word: "Tobias: G ¾", by the letters of the cards; "" for an empty meal."""
        told = [" ".join(filter(None, (s.letter or s.name, s.portion))) for s in self.servings]
        return f"{self.name}: {', '.join(told)}" if told else ""


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
class LaneBar:
    """What is done in a lane from a minute to another, for a dish by its place among the evening's
    (-1 for none); `alone` where nobody stands beside it.
    """

    start: int
    end: int
    dish: int = -1
    alone: bool = False


@dataclass(frozen=True)
class CookingLane:
    """A pair of hands or a device over an evening."""

    name: str
    bars: tuple[LaneBar, ...]


@dataclass(frozen=True)
class CookingEvening:
    """An evening by the clock, and what is begun before it. `minutes` says of each line how long
    after the start it is, `dishes` what is cooked, `cautions` what the cook has to know, `clearing`
    how long washing up takes when all is shared out; `lanes` are the picture of its `length` in
    minutes.
    """

    name: str
    date: str
    times: str
    before: tuple[str, ...]
    lines: tuple[str, ...]
    keeping: tuple[str, ...]
    minutes: tuple[int, ...] = ()
    dishes: tuple[str, ...] = ()
    cautions: tuple[str, ...] = ()
    clearing: str = ""
    lanes: tuple[CookingLane, ...] = ()
    length: int = 0

    @property
    def weekday(self) -> str:
        """The day alone, as it stands before a date: "Sunday" of "Sunday before"."""
        return self.name.removesuffix(" before")


@dataclass(frozen=True)
class Reminder:
    """What is done on an evening without cooking: by the day of the week (0 the first, -1 the one
    before it), with its name and date.
    """

    day: int
    evening: str
    words: tuple[str, ...]

    def text(self) -> str:
        """In a sentence: "On the evening of Friday 4 Dec: Thaw 200 g of soup for Saturday."."""
        return f"On the evening of {self.evening}: {'; '.join(self.words)}."


@dataclass(frozen=True)
class ShopSection:
    """A section of the shop with its lines: key of the food, and what to buy in words."""

    name: str
    lines: tuple[tuple[str, str], ...]


@dataclass(frozen=True)
class Booklet:
    """The whole of it. `avoid` names what must not be eaten, `watch` what to mind and whom to ask,
    `changed` what differs from the version before, `household` the others whose portions it holds,
    `cards` each different bowl once; `practice`, how to `reach` it and the `next_visit` stand
    beside whom to ask; `reminders` are of evenings without cooking.
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
    cards: tuple[BowlCard, ...] = ()
    practice: str = ""
    reach: str = ""
    next_visit: str = ""
    reminders: tuple[Reminder, ...] = ()

    def whom_to_ask(self) -> str:
        """Whom to ask, how to reach them, and when the next visit is, as far as it is known."""
        who = ", ".join(filter(None, (self.practitioner, self.practice)))
        reached = f"{who}: {self.reach}" if self.reach else who
        return f"{reached}. Next visit: {self.next_visit}." if self.next_visit else f"{reached}."

    @property
    def wishes(self) -> Wishes:
        """How it was written, so that it can be written so again."""
        return Wishes(self.figures, self.portions, self.energy, self.dates)

    def has_meal(self, place: str) -> bool:
        """A meal at which something is eaten stands at a place such as "2-1": day, meal, from 0."""
        return place in self._places()

    def meal_places(self, day: int) -> list[str]:
        """The places of the meals of a day at which something is eaten."""
        return [place for place in self._places() if place.startswith(f"{day}-")]

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
    cards = tuple(
        replace(card, figures=(), parts=tuple(replace(part, grams=()) for part in card.parts))
        for card in booklet.cards
    )
    return replace(booklet, days=days, cards=cards, aim=AIM_WITHOUT_NUMBERS, figures=NO_FIGURES)


@dataclass(frozen=True)
class GlanceCell:
    """What is eaten at a meal, for the page of the whole week: letter, portion and name of each
    dish, which of them are seen there for the first time, and what others of the household eat.
    """

    servings: tuple[Serving, ...]
    first: frozenset[str] = frozenset()
    is_none: bool = False
    others: tuple[MealOfAnother, ...] = ()


def at_a_glance(booklet: Booklet) -> list[tuple[str, tuple[GlanceCell, ...]]]:
    """The week as a table: a row a meal with its name, in it a cell a day. A bowl is first where it
    is eaten first, day by day.
    """
    seen: set[str] = set()
    cells: dict[tuple[int, int], GlanceCell] = {}
    for d, day in enumerate(booklet.days):
        for m, meal in enumerate(day.meals):
            letters = [one.letter for one in meal.servings if one.letter]
            first = frozenset(letters) - seen
            cells[d, m] = GlanceCell(meal.servings, first, meal.is_none, meal.others)
            seen.update(letters)
    names = [meal.name for meal in booklet.days[0].meals] if booklet.days else []
    days, nothing = range(len(booklet.days)), GlanceCell(())
    return [(name, tuple(cells.get((d, m), nothing) for d in days)) for m, name in enumerate(names)]


def in_columns(
    sections: Sequence[ShopSection], count: int, most_lines: int, letters: int
) -> list[list[list[tuple[str, bool]]]]:
    """A shopping list set in pages of columns of about equal height: each line with whether it is
    the name of a section. No name stands last in a column; a section that goes on in the next one
    has its name again. A line of more than `letters` letters takes more than one.
    """
    rows = [(one.name, words) for one in sections for _, words in one.lines]
    height = sum(_lines(words, letters) for _, words in rows) + len(sections)
    pages = max(1, math.ceil(height / (count * (most_lines - 2))))
    least = math.ceil(height / (count * pages)) + 1
    columns: list[list[tuple[str, bool]]] = [[]]
    filled, named = 0, ""
    for name, words in rows:
        needs = _lines(words, letters) + (name != named)
        if filled and filled + needs > least and len(columns) < count * pages:
            columns.append([])
            filled, named = 0, ""
            needs = _lines(words, letters) + 1
        if name != named:
            columns[-1].append((name, True))
        columns[-1].append((words, False))
        filled, named = filled + needs, name
    return [columns[n : n + count] for n in range(0, len(columns), count)]


def in_pages(heights: Sequence[float], room: float, taken: float = 0.0) -> tuple[int, ...]:
    """How many of a row of things stand on each page, in their order: as few pages as can be, and
    those filled as evenly as can be. `taken` is what of the first page is; what is higher than a
    page has one of its own.
    """
    pages, left = 1, room - taken
    for height in heights:
        if height > left and left < room:
            pages, left = pages + 1, room
        left -= height

    @cache
    def evenly(start: int, over: int) -> tuple[float, tuple[int, ...]]:
        """How full the fullest of `over` pages is from there on, and how many stand on each."""
        rest, above = heights[start:], taken if start == 0 else 0.0
        if over <= 1 or len(rest) <= 1:
            return above + sum(rest), (len(rest),)
        found = []
        for count in range(1, len(rest)):
            fullest, counts = evenly(start + count, over - 1)
            found.append((max(above + sum(rest[:count]), fullest), (count, *counts)))
        return min(found)

    return evenly(0, pages)[1]


def _lines(words: str, letters: int) -> int:
    return math.ceil(len(words) / letters)


def booklet_json(booklet: Booklet) -> dict[str, Any]:
    """The booklet as plain data, to be stored."""
    data: dict[str, Any] = msgspec.to_builtins(booklet)
    return data


def booklet_of_json(data: Mapping[str, Any]) -> Booklet:
    """A booklet out of plain data. Raises DieteticsError `booklet-unreadable`."""
    return shaped(dict(data), Booklet, "booklet-unreadable")
