"""What was reported of the meals of weeks that were handed over: the client's answers on the link
and the practitioner's diary. Both are kept above this app; a week and a client know them.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from contextlib import suppress
from dataclasses import dataclass
from datetime import date, timedelta

from dietetics.follow.eaten import HOWS, share_of
from dietetics.week.day_totals import Dish
from dietetics.week.daynames import DAY_NAMES
from dietetics.week.liking import NOTHING_HEARD, Heard, heard
from dietetics.week.plan import Plan
from roundpantry.clients.models import Client, Measurement
from roundpantry.weeks.models import Week
from roundpantry.weeks.records import UnreadableWeekError, plan_value

RATED_NAME = 60  # characters of a dish's name that an answer keeps
WEEKS_HEARD = 10  # the last so many weeks say what a client leaves


@dataclass(frozen=True)
class Reported:
    """How a meal went, who said so, and in which words."""

    how: str
    text: str
    by: str


def reported_of(client: Client, weeks: Sequence[Week]) -> dict[tuple[date, str], Reported]:
    """What was reported of the meals of some weeks, by day and meal: the client's answers on the
    link, and what the practitioner wrote, which stands before them.
    """
    if not weeks:
        return {}
    found: dict[tuple[date, str], Reported] = {}
    names = {week.start: list(plan_value(week).meals) for week in weeks}
    answers = Week.objects.filter(
        client=client, start__in=list(names), links__answers__kind="meal"
    ).order_by("links__answers__at", "links__answers__pk")
    for start, place, said in answers.values_list(
        "start", "links__answers__place", "links__answers__text"
    ):
        d, _, m = place.partition("-")
        if d.isdecimal() and m.isdecimal() and int(m) < len(names[start]):
            how, _, text = said.partition(": ")
            if how in HOWS:
                key = (start + timedelta(days=int(d)), names[start][int(m)])
                found[key] = Reported(how, text, Measurement.CLIENT)
    last = max(names) + timedelta(days=len(DAY_NAMES) - 1)
    for row in client.diary.filter(day__gte=min(names), day__lte=last):
        found[row.day, row.meal] = Reported(row.how, row.text, row.reported_by)
    return found


def heard_of(client: Client) -> dict[str, Heard]:
    """What a client let be known of the dishes of weeks handed over, by their names: the newest
    stars of each, and how much of it was eaten in the last weeks.
    """
    rows = Week.objects.filter(client=client, links__answers__kind="rating")
    newest_last = rows.order_by("links__answers__at").values_list(
        "links__answers__place", "links__answers__number"
    )
    stars = {name: number for name, number in newest_last if number is not None}
    shares = _shares_eaten(client)
    return {name: heard(stars.get(name), shares.get(name, ())) for name in {*stars, *shares}}


def _shares_eaten(client: Client) -> dict[str, list[float]]:
    """The share that was eaten of each reported meal with a dish, by the dish's name."""
    handed_over = Week.objects.filter(client=client, frozen_at__isnull=False)
    newest = {row.start: row for row in handed_over.order_by("start", "version")}
    plans: dict[date, Plan] = {}
    for start in sorted(newest)[-WEEKS_HEARD:]:
        with suppress(UnreadableWeekError):
            plans[start] = plan_value(newest[start])
    reported = reported_of(client, [newest[start] for start in plans])
    found: dict[str, list[float]] = {}
    for start, plan in plans.items():
        for d, m, cell in plan.places():
            said = reported.get((start + timedelta(days=d), plan.meals[m]))
            if said is None:
                continue
            share = share_of(said.how, said.text)
            for entry in cell.entries:
                found.setdefault(entry.name[:RATED_NAME], []).append(share)
    return found


def heard_about(dish: Dish, everything: Mapping[str, Heard]) -> Heard:
    """What was heard of a dish; an answer keeps the beginning of a long name."""
    return everything.get(dish.name[:RATED_NAME], NOTHING_HEARD)
