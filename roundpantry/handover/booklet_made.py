"""A week made into a client's booklet: rows and sums into words and measures."""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from contextlib import suppress
from dataclasses import dataclass
from datetime import timedelta

from dietetics.amounts.units import Household
from dietetics.amounts.weighing import amount_text
from dietetics.cautions.client_words import told_to_client
from dietetics.dishes.bowls import Portion, measure_words, portion_words
from dietetics.dishes.cooking import KEEPS_DAYS
from dietetics.errors import DieteticsError
from dietetics.handover.booklet import (
    AIM_WITHOUT_NUMBERS,
    Booklet,
    BowlCard,
    CookingEvening,
    CookingLane,
    DayOfWeek,
    DishToMake,
    LaneBar,
    MealOfAnother,
    MealOfDay,
    Reminder,
    Serving,
    ShopSection,
    Wishes,
)
from dietetics.nutrients import Display, nutrient, shown_in
from dietetics.prep.evening import clock_lines
from dietetics.prep.lanes import lanes_of
from dietetics.prep.timetable import Timetable
from dietetics.shopping.list_words import bought_name, buy_words, by_section
from dietetics.targets.needs_table import hides_numbers
from dietetics.targets.person import GOALS
from dietetics.week.daynames import DAY_NAMES, days_words
from dietetics.week.plan import Entry
from roundpantry.batches.records import days_kept
from roundpantry.clients.models import Client
from roundpantry.counter.dates import dates_written, day_text, short_day_text
from roundpantry.counter.kept import reading
from roundpantry.counter.requests import name_of
from roundpantry.handover.cards import cards_of
from roundpantry.handover.records import reached_by, wishes_of
from roundpantry.prep.drawing import clock
from roundpantry.prep.evening_page import dish_card, evening_name, plain_card
from roundpantry.prep.packing import ready_before
from roundpantry.prep.plain_evenings import evenings_of, plain_on
from roundpantry.prep.records import (
    cooked_on,
    day_of,
    evening_row,
    evening_value,
    kept_on,
)
from roundpantry.shelf.records import scales_of
from roundpantry.shopping.records import list_of_weeks, trip_of, weeks_bought_for
from roundpantry.targets.records import client_cautions_of
from roundpantry.weeks.models import Week
from roundpantry.weeks.version_differences import differences
from roundpantry.weeks.week_snapshot import WeekSnapshot, cautions_of, snapshot_of

MEAL_KEYS = ("energy_kcal", "protein_g")
DAY_KEYS = ("energy_kcal", "protein_g", "fibre_g", "sodium_mg", "potassium_mg", "calcium_mg")
MEASURE_WORDS = 2  # "1½ cups" stands before the comma of a measure
ASK = (
    "Rules differ by place, and this plan does not treat disease. Ask your practitioner or doctor "
    "before you change medicines or if you feel unwell."
)
UNSAID = ("Eating disorder", "Child of")  # known to the client, and no help on paper
KIND_WORDS = {"home": "", "travel": "on the road", "off": "off the plan"}


@dataclass(frozen=True)
class Written:
    """How a booklet is written, the cups it measures with, and its cards by dish."""

    wishes: Wishes
    household: Household
    cards: Mapping[str, BowlCard]


def booklet_of(week: Week, wishes: Wishes | None = None) -> Booklet:
    """The booklet of a week as it is now, written as given, else as the client wishes."""
    wishes = wishes or wishes_of(week.client)
    with shown_in(Display(wishes.energy == "kj")), dates_written(wishes.dates), reading():
        return _booklet(week, wishes)


def _booklet(week: Week, wishes: Wishes) -> Booklet:
    client = week.client
    found = snapshot_of(week)
    everybody = weeks_bought_for(client.practitioner, week, trip_of(week).also)
    shopping = list_of_weeks(client.practitioner, everybody)
    others = [snapshot_of(one) for one in everybody[1:]]
    cards = cards_of([found, *others], wishes)
    household = wishes.portions == "household"
    sections = [
        ShopSection(
            name,
            tuple(
                (line.food.key, f"{bought_name(line.food)}: {buy_words(line, household)}")
                for line in lines
            ),
        )
        for name, lines in by_section(shopping)
    ]
    evenings, written = (
        evenings_of(found.plan),
        Written(wishes, scales_of(client.practitioner).household, cards),
    )
    return Booklet(
        client.name,
        name_of(client.practitioner),
        str(week),
        day_text(week.start),
        week.version,
        aim_words(client),
        week.note,
        tuple(_avoided(client)),
        tuple(_watched(found)),
        tuple(line.strip() for line in client.supplements.splitlines() if line.strip()),
        tuple(_day(found, d, written, others) for d in range(len(found.plan.days))),
        tuple(_evening(week, day) for day in evenings),
        _together(dish for day in evenings for dish in _dishes(week, day)),
        tuple(sections),
        shopping.unknown,
        tuple(_changed(week)),
        wishes.figures,
        wishes.portions,
        wishes.energy,
        wishes.dates,
        tuple(one.week.client.name for one in others),
        tuple(cards.values()),
        *reached_by(client),
        reminders=_reminders(week, evenings),
    )


def _reminders(week: Week, evenings: Sequence[int]) -> tuple[Reminder, ...]:
    """What is packed and laid out to thaw on evenings on which nothing is cooked: on the others it
    stands among the steps.
    """
    return tuple(
        Reminder(
            one["day"],
            f"{one['evening'].removesuffix(' before')} {short_day_text(day_of(week, one['day']))}",
            tuple(one["words"]),
        )
        for one in ready_before(week)
        if one["day"] not in evenings
    )


def aim_words(client: Client) -> str:
    """What was agreed, in plain words."""
    if hides_numbers(client.conditions):
        return AIM_WITHOUT_NUMBERS
    if client.pregnant:
        return "Our aim: eat well in your pregnancy, and gain weight as is usual for you."
    if client.breastfeeding and client.goal != "lose":
        return "Our aim: eat well while you breastfeed."
    goal = GOALS.get(client.goal, client.goal)
    if client.goal in ("lose", "gain"):
        to = f", to {client.goal_weight_kg:g} kg" if client.goal_weight_kg else ""
        return f"Our aim: {goal}, about {client.pace_kg_per_week:g} kg a week{to}."
    return f"Our aim: {goal}."


def _avoided(client: Client) -> list[str]:
    """What must not be eaten: allergies first, then what is avoided."""
    found = [f"{one.replace('-', ' ')} (allergy)" for one in client.allergies]
    return [*found, *(line.strip() for line in client.dislikes.splitlines() if line.strip())]


def _watched(found: WeekSnapshot) -> list[str]:
    """What to mind: conditions and medicines, what speaks for this client and this week, and whom
    to ask.
    """
    client = found.week.client
    allergies = {f"{one.replace('-', ' ')} allergy".capitalize() for one in client.allergies}
    known = [
        words
        for words in client.caution_list
        if words not in allergies and not words.startswith(UNSAID)
    ]
    raised = [v for v, _ in cautions_of(found)]
    with suppress(DieteticsError):  # a record that contradicts itself still has its week
        raised = [*(v for v, _ in client_cautions_of(client)), *raised]
    told = filter(None, map(told_to_client, raised))
    return list(dict.fromkeys([*(f"Keep in mind: {words}." for words in known), *told, ASK]))


def _measured(words: str) -> str:
    """A part as it is said aloud: "1 cup chopped carrot", without the comma of the table.

    >>> _measured("1½ cups, chopped Carrot")
    '1½ cups chopped Carrot'
    """
    head, comma, rest = words.partition(", ")
    return f"{head} {rest}" if comma and len(head.split()) == MEASURE_WORDS else words


def _part_words(portion: Portion, scale: float, written: Written) -> str:
    """A part in the measures the client owns, or in grams."""
    name = portion.item.label.partition(",")[0].strip()
    if written.wishes.portions == "metric":
        return f"{portion.item.grams * scale:,.0f} g {name}"
    if portion.unit == "serving":
        return f"{measure_words(portion, scale, written.household)} {name}"
    return _measured(portion_words(portion, scale))


def _day(
    found: WeekSnapshot, d: int, written: Written, others: Sequence[WeekSnapshot]
) -> DayOfWeek:
    figures = written.wishes.figures
    day = found.plan.days[d]
    date = short_day_text(found.week.start + timedelta(days=d))
    total = found.days[d].total
    shown = DAY_KEYS if figures == "all" else MEAL_KEYS if figures == "main" else ()
    counted = d in found.counted
    return DayOfWeek(
        DAY_NAMES[d],
        date,
        KIND_WORDS[day.kind],
        tuple(_meal(found, d, m, written, others) for m in range(len(day.cells))),
        tuple(f"{nutrient(key).name} {total[key].shown()}" for key in shown if counted),
    )


def _meal(
    found: WeekSnapshot, d: int, m: int, written: Written, others: Sequence[WeekSnapshot]
) -> MealOfDay:
    sums, cell, name = found.days[d].meals[m], found.plan.cell(d, m), found.plan.meals[m]
    shown = MEAL_KEYS if written.wishes.figures != "none" and cell.entries else ()
    return MealOfDay(
        name,
        tuple(_serving(found, entry, written) for entry in cell.entries),
        ", ".join(f"{nutrient(key).name_in_text} {sums[key].shown()}" for key in shown),
        cell.skipped,
        tuple(_meal_of_another(one, d, name, written) for one in others),
    )


def _meal_of_another(found: WeekSnapshot, d: int, name: str, written: Written) -> MealOfAnother:
    """The meal of that name in the week of somebody else in the household."""
    meals = [m for m, own in enumerate(found.plan.meals) if own.lower() == name.lower()]
    entries = [entry for m in meals for entry in found.plan.cell(d, m).entries]
    return MealOfAnother(
        found.week.client.name, tuple(_serving(found, entry, written) for entry in entries)
    )


def _serving(found: WeekSnapshot, entry: Entry, written: Written) -> Serving:
    """A dish as it is served: its parts by measure, which pot it comes out of, and the letter of
    its card.
    """
    dish = found.available.dishes.get(entry.dish)
    if dish is None:
        return Serving(entry.name, source="this dish no longer exists: ask your practitioner")
    drawn, card = found.available.drawn.get(entry.dish), written.cards.get(entry.dish)
    letter = card.letter if card else ""
    portion = "" if entry.scale == 1 else amount_text(entry.scale)
    times = f"{portion} × " if portion else ""
    if entry.dish.startswith("batch-"):
        grams = dish.own_g.get(entry.dish, 0.0) * entry.scale
        words = (f"{grams:,.0f} g",)
        name, source = f"{times}{dish.name}", "out of the pot you cooked"
        return Serving(name, words, source, letter, portion)
    portions = drawn.portions if drawn else ()
    parts = [_part_words(one, entry.scale, written) for one in portions]
    pots = [found.available.pots[key].name for key in dish.own_g if key in found.available.pots]
    source = f"with {' and '.join(pots)} out of the pot" if pots else ""
    name = dish.name if drawn else f"{times}{dish.name}"
    return Serving(name, tuple(parts), source, letter, portion)


def _evening(week: Week, day: int) -> CookingEvening:
    """A cooking evening by the clock."""
    start = evening_row(week, day).start_at
    cooked, _ = cooked_on(week, day)
    plain, date = plain_on(week, day), day_text(day_of(week, day))
    names = (*(one.batch.title for one in cooked), *(pot.name for pot in plain))
    keeping = tuple(
        f"{kept.dish}: {kept.words()}; eat by {short_day_text(day_of(week, kept.last_day))}"
        for kept in kept_on(cooked, plain)
    )
    try:
        evening = evening_value(week, day, proven=True)
    except DieteticsError as error:
        return CookingEvening(evening_name(day), date, "", (), (str(error),), keeping, dishes=names)
    length = evening.timetable.length
    by_clock = clock_lines(evening.timetable)
    lines = tuple(
        f"{clock(start, line.minute)}  {line.text}"
        + (f" · {line.dish}" if line.dish and line.dish not in line.text else "")
        for line in by_clock
    )
    return CookingEvening(
        evening_name(day),
        date,
        f"{clock(start, 0)} to {clock(start, length)}",
        tuple(task.text for task in evening.before),
        lines,
        keeping,
        tuple(line.minute for line in by_clock),
        names,
        tuple(evening.said_cautions),
        f"Washing up afterwards: about {evening.clearing_min} min.",
        _lanes(evening.timetable, names),
        length,
    )


def _lanes(table: Timetable, dishes: Sequence[str]) -> tuple[CookingLane, ...]:
    """The lanes of an evening, bars by the places of its dishes."""
    return tuple(
        CookingLane(
            lane.name,
            tuple(
                LaneBar(bar.start, bar.end, _place(bar.task.dishes, dishes), bar.alone)
                for bar in lane.bars
            ),
        )
        for lane in lanes_of(table)
    )


def _place(of: Sequence[str], dishes: Sequence[str]) -> int:
    """The place of the first dish that is among the evening's, -1 where none is."""
    return next((dishes.index(name) for name in of if name in dishes), -1)


@dataclass(frozen=True)
class _Cooked:
    """A dish of an evening: when and how much of it, what goes in with grams, its lines as they are
    written for one recipe, the steps, how long it keeps.
    """

    name: str
    when: str
    lines: tuple[tuple[str, str], ...]
    written: tuple[str, ...]
    steps: tuple[str, ...]
    keeps: str

    def is_same_recipe(self, other: _Cooked) -> bool:
        """True for the same dish on another evening, in whatever amounts."""
        mine, theirs = (
            (self.name, self.written, self.keeps),
            (other.name, other.written, other.keeps),
        )
        return mine == theirs and (self.steps == other.steps or len(self.written) > 1)


def _dishes(week: Week, day: int) -> list[_Cooked]:
    """The dishes of an evening, each with what goes in as it is cooked now."""
    cooked, _ = cooked_on(week, day)
    cards = [(dish_card(one), days_kept(one.batch)) for one in cooked]
    cards += [(plain_card(pot), KEEPS_DAYS) for pot in plain_on(week, day)]
    name = evening_name(day)
    return [
        _Cooked(
            card["title"],
            _when(name, str(card["pots"])),
            tuple(card["lines"]),
            tuple(card["written"]),
            tuple(card["steps"]),
            _keeps_words(days),
        )
        for card, days in cards
    ]


def _keeps_words(days: int) -> str:
    return f"Keeps {days_words(days)} in the fridge." if days else "Eat it on the day it is made."


def _together(dishes: Iterable[_Cooked]) -> tuple[DishToMake, ...]:
    """The recipes, each once: one that is cooked on two evenings names both, with an amount for
    each.
    """
    found: list[list[_Cooked]] = []
    for dish in dishes:
        same = next((one for one in found if one[0].is_same_recipe(dish)), None)
        if same is None:
            found.append([dish])
        else:
            same.append(dish)
    return tuple(_dish_to_make(one) for one in found)


def _dish_to_make(cooked: Sequence[_Cooked]) -> DishToMake:
    """A recipe for each time it is cooked: "Sunday / Wednesday", "120 g / 160 g  rolled oats"."""
    first = cooked[0]
    if len({one.lines for one in cooked}) == 1:
        lines = [f"{grams}  {text}".strip() for grams, text in first.lines]
    else:
        amounts = zip(*([grams for grams, _ in one.lines] for one in cooked), strict=True)
        lines = [
            f"{' / '.join(grams)}  {text}".strip(" /")
            for grams, text in zip(amounts, first.written, strict=True)
        ]
    return DishToMake(
        first.name, " / ".join(one.when for one in cooked), tuple(lines), first.steps, first.keeps
    )


def _changed(week: Week) -> list[str]:
    """What differs from the version that was handed over before."""
    earlier = Week.objects.filter(
        client=week.client, start=week.start, version__lt=week.version, frozen_at__isnull=False
    ).order_by("-version")
    before = earlier.first()
    return differences(before, week) if before is not None else []


def _when(evening: str, pots: str) -> str:
    return f"{evening}, {pots}" if pots else evening
