"""A visit: what changed since the last one, and the figures that its note begins with."""

from __future__ import annotations

from collections.abc import Container, Iterable
from dataclasses import replace
from datetime import date, timedelta
from typing import Any

from dietetics.follow.trajectory import WeighIn
from roundpantry.clients.models import Client, Measurement
from roundpantry.counter import clock
from roundpantry.counter.dates import day_text, moment_text
from roundpantry.follow.course_page import (
    ValueRow,
    doubted_of,
    flags_of,
    signed,
    value_row,
    weight_of,
)
from roundpantry.follow.eaten_days import adherence, eaten_between
from roundpantry.follow.models import Visit
from roundpantry.follow.records import measurements_of, remarks_of, taken_of

FIRST_VISIT_DAYS = 56  # what is looked back at where there was no visit


def before_visit(client: Client, visit: Visit | None = None) -> dict[str, Any]:
    """What changed since the visit before this one."""
    today = visit.day if visit else clock.today()
    earlier = Visit.objects.filter(client=client, day__lt=today)
    last = (earlier.exclude(pk=visit.pk) if visit else earlier).first()
    since = last.day if last else today - timedelta(days=FIRST_VISIT_DAYS)
    days = eaten_between(client, since, today)
    weight = weight_of(client)
    values = measurements_of(client).filter(day__gt=since, day__lte=today)
    return {
        "flags": flags_of(client, weight),
        "last": last,
        "since": day_text(since),
        "course": weight.judgement.words if weight else "No weigh-in yet.",
        "overnight": weight.judgement.overnight if weight else "",
        "change": _change(weight, since) if weight else "",
        "adherence": adherence(days).words(),
        "values": _newest(values, doubted_of(client)),
        "changes": _changes(client, since),
        "remarks": [row for row in remarks_of(client, since) if row[0] <= today],
    }


def _newest(values: Iterable[Measurement], doubted: Container[WeighIn]) -> list[ValueRow]:
    """The newest of each kind; of several the remark says how many."""
    kept: dict[str, list[Measurement]] = {}
    for row in values:
        kept.setdefault(row.kind, []).append(row)
    found = []
    for rows in kept.values():
        shown = value_row(rows[0], doubted)
        more = f" ({len(rows)} since)" if len(rows) > 1 else ""
        found.append(replace(shown, day=f"{shown.day}{more}"))
    return found


def _change(weight: Any, since: date) -> str:
    now, then = weight.line.now, weight.line.on(since)
    if then is None or then.day == now.day:
        return ""
    return f"{signed(now.kg - then.kg)} kg since {day_text(then.day)} (smoothed)"


def _changes(client: Client, since: date) -> list[str]:
    """Targets, weeks and proposals since a day, the newest first."""
    rows = [
        (one.created_at, f"targets version {one.number}{f': {one.reason}' if one.reason else ''}")
        for one in client.target_sets.filter(created_at__date__gt=since)
    ]
    rows += [
        (one.frozen_at, f"{one} handed over")
        for one in client.weeks.filter(frozen_at__date__gt=since)
        if one.frozen_at
    ]
    rows += [
        (
            one.taken_back_at or one.at,
            f"{'taken back' if one.taken_back_at else 'taken'}: {one.title}",
        )
        for one in taken_of(client)
        if one.at.date() > since
    ]
    return [
        f"{moment_text(at)}: {words}"
        for at, words in sorted(rows, key=lambda r: r[0], reverse=True)
    ]


def note_figures(client: Client, found: dict[str, Any]) -> str:
    """The figures a note begins with."""
    lines = [f"Weight: {found['course']}"]
    lines += [found["change"]] if found["change"] else []
    lines.append(f"Eaten: {found['adherence']}")
    lines += [
        f"{row.name} {row.value} ({row.day}{f', {row.side} {row.range}' if row.side else ''})"
        for row in found["values"]
        if row.name != "Weight"
    ]
    return "\n".join(lines)
