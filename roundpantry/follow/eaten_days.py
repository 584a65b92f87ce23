"""What was really eaten, day by day: the planned week, and what was reported of it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta

from django.contrib.auth.models import User

from dietetics.composition.sums import Composition, compose
from dietetics.dishes.recipes import item_of
from dietetics.errors import DieteticsError
from dietetics.follow.eaten import (
    PLANNED,
    SWAPPED,
    Adherence,
    MealEaten,
    adherence_of,
    day_eaten,
    share_of,
)
from dietetics.follow.observed_energy import EatenDay
from dietetics.week.daynames import DAY_NAMES
from roundpantry.batches.records import dish_reader, dishes_of
from roundpantry.clients.models import Client
from roundpantry.counter import clock
from roundpantry.follow.records import extras, weeks_between
from roundpantry.weeks.models import Week
from roundpantry.weeks.reported import Reported, reported_of
from roundpantry.weeks.week_snapshot import WeekSnapshot, snapshot_of

OBSERVED_DAYS = 42  # the last six weeks


@dataclass(frozen=True)
class ReadText:
    """A typed line of the diary: what it gives, in words, and how many pieces were not read."""

    composition: Composition | None
    words: str
    unread: int


@dataclass(frozen=True)
class DiaryMeal:
    """A meal as planned and as reported."""

    name: str
    planned: str
    reported: Reported | None
    read: ReadText | None


@dataclass(frozen=True)
class DiaryDay:
    """A day as planned and as eaten. `eaten` is None where nothing is known of the day."""

    day: date
    name: str
    is_off: bool
    meals: tuple[DiaryMeal, ...]
    extras: tuple[tuple[str, str, ReadText], ...]
    planned: Composition
    eaten: Composition | None
    hows: tuple[str, ...]


def read_text(user: User, text: str) -> ReadText:
    """What a line of the diary says: each piece of it as a food, or as not understood."""
    pieces = [piece.strip() for piece in text.replace(";", ",").split(",") if piece.strip()]
    items, words, unread = [], [], 0
    reader, dishes = dish_reader(user), dishes_of(user)
    for piece in pieces:
        for reading in reader.read(piece):
            try:
                item = item_of(reading, dishes)
            except DieteticsError:
                unread += 1
                words.append(f"“{reading.text or piece}” not understood")
                continue
            items.append(item)
            words.append(f"{item.grams:,.0f} g {item.label}")
    return ReadText(compose(items) if items else None, "; ".join(words), unread)


def diary_week(week: Week, reported: Mapping[tuple[date, str], Reported]) -> list[DiaryDay]:
    """The days of a week. Where anything was reported of it, the rest was as planned; of today and
    later nothing is known but what was reported.
    """
    found, user = snapshot_of(week), week.client.practitioner
    last = week.start + timedelta(days=len(found.plan.days) - 1)
    is_kept = any(week.start <= day <= last for day, _ in reported)
    return [_day(found, user, d, reported, is_kept) for d in range(len(found.plan.days))]


def _day(
    found: WeekSnapshot,
    user: User,
    d: int,
    reported: Mapping[tuple[date, str], Reported],
    is_kept: bool,
) -> DiaryDay:
    day = found.week.start + timedelta(days=d)
    plan_day = found.plan.days[d]
    is_off = plan_day.kind == "off"
    meals: list[DiaryMeal] = []
    eaten: list[MealEaten] = []
    for m, cell in enumerate(plan_day.cells):
        name = found.plan.meals[m]
        said = reported.get((day, name))
        how = said.how if said else PLANNED
        instead = read_text(user, said.text) if said and how == SWAPPED and said.text else None
        names = " and ".join(one.name for one in cell.entries)
        meals.append(DiaryMeal(name, "no meal" if cell.skipped else names, said, instead))
        if not cell.entries and said is None:
            continue
        unread = instead.unread if instead else int(how == SWAPPED)
        share = share_of(how, said.text if said else "")
        if share:  # a dish that was removed since is not known, and not nothing
            unread += sum(one.dish not in found.available.dishes for one in cell.entries)
        eaten.append(
            MealEaten(
                name,
                found.days[d].meals[m],
                how,
                share,
                instead.composition if instead else None,
                unread,
            )
        )
    more = [(key, text, read_text(user, text)) for key, text in extras(reported, day)]
    is_over = day < clock.today() or any(when == day for when, _ in reported)
    known = is_kept and not is_off and is_over
    return DiaryDay(
        day,
        DAY_NAMES[d],
        is_off,
        tuple(meals),
        tuple(more),
        found.days[d].total,
        _eaten(eaten, more) if known else None,
        tuple(one.how for one in eaten) if known else (),
    )


def _eaten(meals: Sequence[MealEaten], more: Sequence[tuple[str, str, ReadText]]) -> Composition:
    given = [read.composition for _, _, read in more if read.composition is not None]
    unread = sum(read.unread for _, _, read in more)
    total = day_eaten(meals, None, unread)
    return day_eaten([MealEaten("planned", total), *(MealEaten("extra", one) for one in given)])


def eaten_between(client: Client, first: date, last: date) -> list[DiaryDay]:
    """The days of a client's weeks from a first to a last day."""
    weeks = weeks_between(client, first, last)
    reported = reported_of(client, weeks)
    days = [one for week in weeks for one in diary_week(week, reported)]
    return [one for one in days if first <= one.day <= last]


def adherence(days: Sequence[DiaryDay]) -> Adherence:
    """How the reported days went."""
    return adherence_of([one.hows for one in days if one.hows])


def energy_eaten(days: Sequence[DiaryDay]) -> list[EatenDay]:
    """The energy of each day, None where a part of it is not known."""
    return [EatenDay(one.day, _known_kcal(one.eaten)) for one in days]


def _known_kcal(eaten: Composition | None) -> float | None:
    if eaten is None:
        return None
    figure = eaten["energy_kcal"]
    return figure.amount if figure.complete else None
