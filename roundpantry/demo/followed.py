"""What happened to the invented clients after the first talk: eleven weeks of weigh-ins, blood
values, visits and meals that went otherwise, out of `followed.json`.
"""

from __future__ import annotations

import json
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, timedelta
from pathlib import Path
from random import Random

from dietetics.follow.quick_entry import read_line
from roundpantry.clients.models import Client, Measurement
from roundpantry.counter import clock
from roundpantry.follow.services import add_extra, keep_line, keep_visit, write_diary
from roundpantry.weeks.models import Week
from roundpantry.weeks.records import plan_value
from roundpantry.weeks.services import week_start

FOLLOWED = Path(__file__).parent / "followed.json"
WEEKS, EATEN_WEEKS, SEED = 11, 6, 20
BENDS_AFTER_DAYS, WATER_SHARE = 28, 0.004
WEIGHED_DAYS_AGO = {"Sunniva Castellanos": 30}  # so that Today has a weigh-in that is due


@dataclass(frozen=True)
class Followed:
    """One client after the first talk. `pace` is kg a week and `bend` the pace after four weeks,
    `every` the days between weigh-ins. `lines` are (days ago, line as typed, who said so), `off`
    are (days ago, meal, how, words), `extra` (days ago, words), `visits` (days ago, minutes,
    talked, agreed, days until the next).
    """

    kg: float
    pace: float
    every: int
    bend: float | None = None
    lines: tuple[tuple[int, str, str], ...] = ()
    off: tuple[tuple[int, str, str, str], ...] = ()
    extra: tuple[tuple[int, str], ...] = ()
    visits: tuple[tuple[int, int, str, str, int], ...] = ()


def followed() -> Mapping[str, Followed]:
    """Each client's eleven weeks by name."""
    rows = json.loads(FOLLOWED.read_text(encoding="utf-8"))
    return {name: Followed(**row) for name, row in rows.items()}


def load_followed() -> None:
    """Store what happened to each client since the first talk."""
    today, draw = clock.today(), Random(SEED)
    began = clock.now() - timedelta(weeks=WEEKS)
    for name, one in followed().items():
        client = Client.objects.get(name=name)
        client.target_sets.update(created_at=began)
        client.measurements.filter(kind="weight").delete()
        last = WEIGHED_DAYS_AGO.get(name, 1)
        for ago in range(WEEKS * 7, last - 1, -one.every):
            kg = round(_weight(one, ago) * (1 + draw.gauss(0, WATER_SHARE)), 1)
            day = today - timedelta(days=ago)
            Measurement.objects.create(client=client, kind="weight", value=kg, day=day)
        for ago, line, by in one.lines:
            day = today - timedelta(days=ago)
            read = read_line(f"{day.isoformat()}, {line}", today, {"weight": one.kg})
            keep_line(client, read, by)
        _load_visits(client, one, today)
        _load_diary(client, one, today)


def _weight(one: Followed, days_ago: int) -> float:
    """The body's weight so many days ago."""
    days = WEEKS * 7 - days_ago
    bent = max(days - BENDS_AFTER_DAYS, 0) if one.bend is not None else 0
    return one.kg + (one.pace * (days - bent) + (one.bend or 0.0) * bent) / 7


def _load_visits(client: Client, one: Followed, today: date) -> None:
    for ago, minutes, talked, agreed, until in one.visits:
        day = today - timedelta(days=ago)
        keep_visit(
            client,
            None,
            day=day,
            minutes=minutes,
            talked=talked,
            agreed=agreed,
            note="",
            next_on=day + timedelta(days=until),
        )


def _load_diary(client: Client, one: Followed, today: date) -> None:
    """Weeks as they were handed over before, and what differed from them."""
    first = client.weeks.order_by("start").first()
    if first is None:
        return
    for weeks in range(1, EATEN_WEEKS):
        start = first.start - timedelta(weeks=weeks)
        Week.objects.create(
            client=client,
            start=start,
            plan=first.plan,
            kept=first.kept,
            frozen_at=clock.now() - timedelta(weeks=weeks + 1),
        )
        write_diary(client, start, plan_value(first).meals[0], "as planned", "")
    monday = week_start(today)
    for ago, meal, how, words in one.off:
        write_diary(client, _in_last_week(monday, today, ago), meal, how, words)
    for ago, words in one.extra:
        add_extra(client, _in_last_week(monday, today, ago), words)


def _in_last_week(monday: date, today: date, ago: int) -> date:
    """A day of the week before this one, whatever weekday it is today."""
    day = today - timedelta(days=ago)
    return monday - timedelta(days=7 - day.weekday())
