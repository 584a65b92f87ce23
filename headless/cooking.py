"""The verbs `shop` and `prep`: what to buy for a list of needs, and a timetable for an evening's
dishes or tasks, from JSON.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from msgspec import Struct

from dietetics.amounts.line_reader import LineReader, LineReading
from dietetics.composition.foods import load_shelf
from dietetics.dishes.cooking import METHODS
from dietetics.errors import DieteticsError
from dietetics.json_shapes import shaped
from dietetics.prep.evening import Evening, clock_lines, evening_of
from dietetics.prep.kitchen import Kitchen
from dietetics.prep.planning import timetable
from dietetics.prep.tasks import Minutes, Task
from dietetics.prep.timetable import Timetable, asked_of
from dietetics.prep.to_cook import CookedLine, DishToCook
from dietetics.shopping.as_bought import Span
from dietetics.shopping.list_words import buy_words, over_words
from dietetics.shopping.shopping_list import (
    SECTIONS,
    Line,
    Need,
    ShopKnowledge,
    shopping_list,
)

MOST_NEEDS, MOST_DISHES, MOST_LINES = 2000, 40, 120
MOST_TIMES = 100.0


class _NeedJson(Struct, forbid_unknown_fields=True):
    """A need: a written line, or a food with grams."""

    line: str = ""
    food: str = ""
    grams: float = 0.0
    dish: str = ""
    times: float = 1.0


class _PackageJson(Struct, forbid_unknown_fields=True):
    grams: float | None = None
    price: float | None = None


class _ShopJson(Struct, forbid_unknown_fields=True):
    needs: list[_NeedJson]
    at_home: list[_NeedJson] = []
    packages: dict[str, _PackageJson] = {}
    sections: list[str] = []
    household: bool = False


def shop_json(data: Mapping[str, Any]) -> dict[str, Any]:
    """What to buy. Lines that were not read stand under `unread`. Raises DieteticsError."""
    asked = shaped(dict(data), _ShopJson, "shop-unreadable")
    if len(asked.needs) + len(asked.at_home) > MOST_NEEDS:
        raise DieteticsError("shop-unreadable", problem=f"more than {MOST_NEEDS} lines")
    reader = LineReader(load_shelf())
    unread: list[str] = []
    needs = [need for one in asked.needs for need in _needs(one, reader, unread)]
    home: dict[str, float] = {}
    for one in asked.at_home:
        for need in _needs(one, reader, unread):
            home[need.food.key] = home.get(need.food.key, 0.0) + need.grams.likely
    known = ShopKnowledge(
        home,
        {key: p.grams for key, p in asked.packages.items() if p.grams},
        {key: p.price for key, p in asked.packages.items() if p.price is not None},
        (*asked.sections, *(key for key in SECTIONS if key not in asked.sections)),
    )
    found = shopping_list(needs, known)
    total, without = found.price
    return {
        "lines": [_line(line, asked.household) for line in found.lines],
        "unread": unread,
        "price": {"of_priced_lines": round(total, 2), "lines_without_price": without},
    }


def _needs(one: _NeedJson, reader: LineReader, unread: list[str]) -> list[Need]:
    if not 0 < one.times <= MOST_TIMES:
        raise DieteticsError("shop-unreadable", problem=f"times must be above 0, to {MOST_TIMES:g}")
    if one.food:
        if not 0 <= one.grams <= 1_000_000:
            raise DieteticsError("shop-unreadable", problem="grams must be from 0 to a ton")
        grams = one.grams * one.times
        return [Need(reader.shelf.food(one.food), Span(grams, grams, grams), one.dish)]
    readings = [reading for reading in reader.read(one.line) if not reading.heading]
    found = [_need(reading, one) for reading in readings if reading.matched]
    unread += [reading.text for reading in readings if not reading.matched]
    return found


def _need(reading: LineReading, one: _NeedJson) -> Need:
    assert reading.food is not None and reading.grams is not None
    low = reading.grams if reading.grams_low is None else reading.grams_low
    high = reading.grams if reading.grams_high is None else reading.grams_high
    return Need(reading.food, Span(low, reading.grams, high).times(one.times), one.dish)


def _span(span: Span) -> dict[str, float]:
    return {name: round(value, 1) for name, value in vars(span).items()}


def _line(line: Line, household: bool) -> dict[str, Any]:
    least, likely, most = line.units or (None, None, None)
    return {
        "food": line.food.key,
        "name": line.food.name,
        "section": line.section,
        "buy": "" if line.buys_nothing else buy_words(line, household),
        "usable_g": _span(line.usable_g),
        "shop_g": _span(line.shop_g),
        "unit": line.package.unit,
        "units": None if line.units is None else {"least": least, "likely": likely, "most": most},
        "at_home_g": round(line.at_home_g, 1),
        "left_over_g": round(line.over_g, 1),
        "left_over": over_words(line, household),
        "keeps_days": line.package.keeps_days,
        "look_for": line.package.look_for,
        "price": line.price,
        "for": {dish: round(grams, 1) for dish, grams in line.uses},
        "how": list(line.ways),
    }


class _KitchenJson(Struct, forbid_unknown_fields=True, frozen=True):
    cooks: int = 1
    ovens: int = 1
    trays: int = 2
    burners: int = 4
    blenders: int = 1
    pressure_cookers: int = 0
    big_pots: int = 1
    burner_kw: float = 2.0
    others: dict[str, int] = {}


class _DishJson(Struct, forbid_unknown_fields=True):
    name: str
    ingredients: list[str] = []
    steps: list[str] = []
    method: str = "pot"
    containers: int = 1
    times: float = 1.0


class _TaskJson(Struct, forbid_unknown_fields=True):
    key: str
    text: str = ""
    dish: str = ""
    hands: float = 0.0
    wait: float = 0.0
    device: str = ""
    celsius: float | None = None
    trays: int = 1
    after: list[str] = []
    within: int | None = None


class _PrepJson(Struct, forbid_unknown_fields=True):
    dishes: list[_DishJson] = []
    tasks: list[_TaskJson] = []
    kitchen: _KitchenJson = _KitchenJson()


def prep_json(data: Mapping[str, Any]) -> dict[str, Any]:
    """An evening's timetable: of dishes with steps, or of tasks as they are given. Raises
    DieteticsError.
    """
    asked = shaped(dict(data), _PrepJson, "prep-unreadable")
    kitchen = Kitchen(
        **{name: getattr(asked.kitchen, name) for name in _KitchenJson.__annotations__}
    )
    if asked.tasks:
        if asked.dishes:
            raise DieteticsError("prep-unreadable", problem="give dishes or tasks, not both")
        return _table_json(timetable(asked_of([_task(one) for one in asked.tasks], kitchen)))
    if len(asked.dishes) > MOST_DISHES:
        raise DieteticsError("prep-unreadable", problem=f"more than {MOST_DISHES} dishes")
    reader = LineReader(load_shelf())
    unread: list[str] = []
    dishes = [_dish(n, one, reader, unread) for n, one in enumerate(asked.dishes)]
    return {**_evening_json(evening_of(dishes, kitchen)), "unread": unread}


def _task(one: _TaskJson) -> Task:
    hands, wait = Minutes.exactly(one.hands), Minutes.exactly(one.wait)
    return Task(
        one.key,
        one.dish or one.key,
        one.text or one.key,
        "do",
        hands,
        wait,
        one.device,
        one.celsius,
        one.trays,
        tuple(one.after),
        one.within,
    )


def _dish(n: int, one: _DishJson, reader: LineReader, unread: list[str]) -> DishToCook:
    if one.method not in METHODS:
        raise DieteticsError("method-unknown", method=one.method, known=", ".join(METHODS))
    if not 0 < one.times <= MOST_TIMES or not 0 < one.containers <= 1000:
        raise DieteticsError("prep-unreadable", problem=f"{one.name}: times or containers")
    if len(one.ingredients) > MOST_LINES:
        raise DieteticsError("prep-unreadable", problem=f"{one.name}: too many ingredients")
    lines = []
    for text in one.ingredients:
        for reading in reader.read(text):
            if reading.heading:
                continue
            if not reading.matched:
                unread.append(reading.text)
            grams = (reading.grams or 0.0) * one.times
            lines.append(CookedLine(reading.text, reading.food, grams))
    return DishToCook(
        f"dish-{n}", one.name, tuple(lines), tuple(one.steps), one.method, one.containers
    )


def _evening_json(found: Evening) -> dict[str, Any]:
    return {
        **_table_json(found.timetable),
        "evening_before": [task.text for task in found.before],
        "clearing_minutes": found.clearing_min,
        "words": list(found.words),
        "cautions": {dish: list(words) for dish, words in found.cautions.items() if words},
        "remarks": {dish: list(words) for dish, words in found.remarks.items() if words},
    }


def _table_json(found: Timetable) -> dict[str, Any]:
    return {
        "minutes": found.length,
        "least_minutes": found.least,
        "why_least": found.why_least,
        "proof": found.proof.value,
        "gap": round(found.gap, 4),
        "late": list(found.late),
        "tasks": [_task_json(task, found) for task in found.in_order],
        "clock": [[line.minute, line.text, line.dish] for line in clock_lines(found)],
    }


def _task_json(task: Task, found: Timetable) -> dict[str, Any]:
    words: Sequence[str] = sorted(task.guessed)
    return {
        "key": task.key,
        "dish": task.dish,
        "text": task.text,
        "start": found.starts[task.key],
        "hands": task.hands_min,
        "wait": task.wait_min,
        "device": task.device,
        "oven": found.ovens.get(task.key) if task.celsius is not None else None,
        "celsius": task.celsius,
        "after": list(task.after),
        "guessed": list(words),
    }
