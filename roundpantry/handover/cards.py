"""The cards of a booklet: each different bowl of a week once, with a letter, a column for each
portion, where its parts come from and how it is put together.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import partial

from dietetics.amounts.units import Household
from dietetics.amounts.weighing import amount_text
from dietetics.cautions.facts import ClientFacts
from dietetics.composition.foods import Food, load_shelf
from dietetics.composition.sums import FoodContent
from dietetics.dishes.bowls import Bowl, Portion, measure_words
from dietetics.handover.assembly import Part, is_cold, raw_g, source_of, state_of, steps_of
from dietetics.handover.booklet import BowlCard, CardPart, Wishes
from dietetics.handover.carrying import is_sweet, keeps_words, travel_words
from dietetics.handover.swaps import MOST_LINES, may_stand_in, near_foods
from dietetics.nutrients import nutrient
from dietetics.prep.dish_tasks import tasks_of_dish
from dietetics.prep.plain_pots import PlainPot
from dietetics.targets.needs_table import hides_numbers
from dietetics.week.daynames import days_said
from dietetics.week.plan import Entry
from roundpantry.batches.records import batches_of, dish_to_cook
from roundpantry.bowls.drawing import group_shown, picture_of
from roundpantry.clients.records import client_facts_of
from roundpantry.prep.plain_evenings import evenings_of, plain_on
from roundpantry.shelf.records import scales_of
from roundpantry.weeks.week_snapshot import WeekSnapshot

CARD_KEYS = ("energy_kcal", "protein_g")
COLD = "raw"  # a batch that nothing heats is eaten cold


@dataclass(frozen=True)
class Eaten:
    """A dish at one meal of one person, who is known by their place in the household."""

    found: WeekSnapshot
    person: int
    day: int
    meal: int
    entry: Entry


@dataclass(frozen=True)
class CardMaker:
    """What all cards of a booklet share: how the client wants it written, what they may eat, which
    batches are eaten cold, what a batch leaves for the day of eating, and what is cooked plain, by
    person and evening.
    """

    wishes: Wishes
    household: Household
    clients: tuple[ClientFacts, ...]
    shelf: Sequence[Food]
    cold: frozenset[str]
    on_day: Mapping[str, tuple[str, ...]]
    plain: Mapping[int, Sequence[PlainPot]]
    with_grams: bool
    alone: bool


def cards_of(weeks: Sequence[WeekSnapshot], wishes: Wishes) -> dict[str, BowlCard]:
    """The cards of the first week's client and of the others in the household, by dish."""
    eaten: dict[str, list[Eaten]] = {}
    for person, found in enumerate(weeks):
        for one in _eaten_in(found, person):
            eaten.setdefault(one.entry.dish, []).append(one)
    maker = _maker_of(weeks, wishes)
    return {
        dish: replace(_card(maker, meals), letter=letter_of(number))
        for number, (dish, meals) in enumerate(eaten.items())
    }


def letter_of(number: int) -> str:
    """A, B … Z, AA.

    >>> letter_of(0), letter_of(25), letter_of(26)
    ('A', 'Z', 'AA')
    """
    first, last = divmod(number, 26)
    return (chr(64 + first) if first else "") + chr(65 + last)


def _eaten_in(found: WeekSnapshot, person: int) -> Iterator[Eaten]:
    """Everything that is put together of parts, in the order of days and meals."""
    for d, m, cell in found.plan.places():
        for entry in cell.entries:
            dish, drawn = found.available.dishes.get(entry.dish), found.available.drawn
            if dish is not None and not dish.assumed and entry.dish in drawn:
                yield Eaten(found, person, d, m, entry)


def _maker_of(weeks: Sequence[WeekSnapshot], wishes: Wishes) -> CardMaker:
    first = weeks[0].week
    keys = {key for found in weeks for key in found.available.pots}
    numbers = [int(key.removeprefix("batch-")) for key in keys]
    rows = batches_of(first.client.practitioner).filter(pk__in=numbers).prefetch_related("lines")
    return CardMaker(
        wishes,
        scales_of(first.client.practitioner).household,
        tuple(client_facts_of(found.week.client) for found in weeks),
        [*load_shelf()],
        frozenset(row.title for row in rows if row.method == COLD),
        {row.title: tasks_of_dish(dish_to_cook(row)).on_day for row in rows},
        {
            n: [pot for day in evenings_of(found.plan) for pot in plain_on(found.week, day)]
            for n, found in enumerate(weeks)
        },
        not hides_numbers(first.client.conditions),
        len(weeks) == 1,
    )


def _card(maker: CardMaker, meals: Sequence[Eaten]) -> BowlCard:
    """One bowl, for everybody who eats it."""
    bowl = meals[0].found.available.drawn[meals[0].entry.dish]
    dish = meals[0].found.available.dishes[meals[0].entry.dish]
    columns = _columns(meals, maker.alone)
    parts = [_part(maker, portion, meals) for portion in bowl.portions]
    rows = tuple(
        _row(maker, portion, part, [*columns.values()], _always_kept(maker, part, meals))
        for portion, part in zip(bowl.portions, parts, strict=True)
    )
    sweet = is_sweet(parts, meals[0].found.plan.meals[meals[0].meal])
    return BowlCard(
        "",
        bowl.name,
        tuple(columns),
        rows,
        steps_of(parts, sweet),
        tuple(_swaps(maker, bowl)),
        keeps_words(parts),
        travel_words(dish.travels),
        tuple(_figures(maker, bowl, scale) for scale in columns.values()),
        picture_of(bowl),
    )


def _columns(meals: Sequence[Eaten], alone: bool) -> dict[str, float]:
    """The different portions of a bowl: when, or for whom, and how much of one serving each is."""
    days: dict[tuple[str, float], list[int]] = {}
    for one in meals:
        who = "" if alone else one.found.week.client.name
        days.setdefault((who, one.entry.scale), []).append(one.day)
    found = {}
    for (who, scale), when in days.items():
        named = days_said(when)
        portion = "" if scale == 1 else f" ({amount_text(scale)})"
        found[f"{who}: {named}{portion}" if who else f"{named}{portion}"] = scale
    return found


def _part(maker: CardMaker, portion: Portion, meals: Sequence[Eaten]) -> Part:
    """A part with where it comes from."""
    content, name = portion.item.content, portion.item.label.partition(",")[0].strip()
    if not isinstance(content, FoodContent):
        label, grams = portion.item.label, portion.item.grams
        cold = label in maker.cold or is_cold(label)
        left = maker.on_day.get(label, ())
        return Part(name, group_shown(portion), grams, None, label, cold, left)
    food = content.food
    kept = any(_is_kept(maker.plain[one.person], food, one) for one in meals)
    name = name[:1].lower() + name[1:]
    return Part(name, portion.group, portion.item.grams, food, name if kept else "")


def _always_kept(maker: CardMaker, part: Part, meals: Sequence[Eaten]) -> bool:
    """True where a part is a dish, or was cooked before each of the meals."""
    food = part.food
    return food is None or all(_is_kept(maker.plain[m.person], food, m) for m in meals)


def _is_kept(pots: Sequence[PlainPot], food: Food, one: Eaten) -> bool:
    """True where the food was cooked on an evening before that meal."""
    last = len(one.found.plan.meals) - 1
    return any(pot.food.key == food.key and pot.is_there(one.day, one.meal, last) for pot in pots)


def _row(
    maker: CardMaker, portion: Portion, part: Part, scales: Sequence[float], always_kept: bool
) -> CardPart:
    state = state_of(part.food) if part.food is not None else ""
    name = portion.item.label.partition(",")[0].strip() if part.food is not None else part.name
    metric = maker.wishes.portions == "metric"
    grams = [f"{portion.item.grams * scale:,.0f} g" for scale in scales]
    measures = grams if metric else [
        measure_words(portion, scale, maker.household) for scale in scales
    ]  # fmt: skip
    source, raw = source_of(part), raw_g(part)
    if part.container and not always_kept:
        fresh = source_of(replace(part, container=""))
        source = f"{source}; where none is cooked yet, {fresh}"
    if raw is not None and maker.with_grams and len(scales) == 1:
        source = f"{source}, from {raw * scales[0]:,.0f} g before cooking"
    with_grams = maker.with_grams and not metric and portion.unit not in ("g", "ml")
    return CardPart(
        f"{name}, {state}" if state else name,
        source,
        tuple(measures),
        tuple(grams) if with_grams else (),
    )


def _swaps(maker: CardMaker, bowl: Bowl) -> Iterator[str]:
    """ "Instead of kale: chard or spinach", for the parts that weigh most."""
    allowed: Callable[[Food], bool] = partial(may_stand_in, maker.clients)
    foods = [
        (portion.item.grams, portion.item.content.food)
        for portion in bowl.portions
        if isinstance(portion.item.content, FoodContent)
    ]
    said = 0
    for _, food in sorted(foods, key=lambda pair: -pair[0]):
        near = near_foods(food, maker.shelf, allowed)
        if near and said < MOST_LINES:
            said += 1
            yield f"Instead of {_short(food)}, as much {' or '.join(map(_short, near))}."


def _short(food: Food) -> str:
    name = food.name.partition(",")[0]
    return name[:1].lower() + name[1:]


def _figures(maker: CardMaker, bowl: Bowl, scale: float) -> str:
    if maker.wishes.figures == "none":
        return ""
    total = bowl.total.scaled(scale)
    return ", ".join(f"{nutrient(key).name_in_text} {total[key].shown()}" for key in CARD_KEYS)
