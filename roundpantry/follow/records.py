"""Queries of following: measurements, the diary with the client's own answers, visits, flags."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date, timedelta
from typing import Any

from django.contrib.auth.models import User
from django.db.models import Exists, F, Max, OuterRef, Q, QuerySet

from dietetics.follow.eaten import EXTRA
from dietetics.follow.kinds import kinds
from dietetics.follow.trajectory import WeighIn
from roundpantry.clients.models import Client, Measurement
from roundpantry.follow.models import Remark, TakenProposal, Visit
from roundpantry.handover.models import Answered
from roundpantry.weeks.models import Week
from roundpantry.weeks.reported import Reported

RECENT_DAYS = 28  # so long a value says how somebody is
FLAGGED_DAYS = 120  # an older value outside its range is history


def measurements_of(client: Client) -> QuerySet[Measurement]:
    """All that was measured of a client, the newest first."""
    return Measurement.objects.filter(client=client, kind__in=list(kinds()))


def weigh_ins_of(client: Client) -> list[WeighIn]:
    """A client's weights, the oldest first."""
    rows = Measurement.objects.filter(client=client, kind="weight").order_by("day", "at", "pk")
    return [WeighIn(day, value) for day, value in rows.values_list("day", "value")]


def newest_by_kind(client: Client) -> dict[str, Measurement]:
    """The newest measurement of each kind."""
    found: dict[str, Measurement] = {}
    for row in measurements_of(client):
        found.setdefault(row.kind, row)
    return found


def recent_values(client: Client, today: date) -> dict[str, float]:
    """The newest value of each kind of the last four weeks, in base units."""
    since = today - timedelta(days=RECENT_DAYS)
    newest = newest_by_kind(client)
    return {key: row.value for key, row in newest.items() if since < row.day <= today}


def flagged(rows: QuerySet[Measurement]) -> QuerySet[Measurement]:
    """Those outside the range their laboratory gives that no newer value of the kind follows."""
    newer = Measurement.objects.filter(
        client=OuterRef("client"), kind=OuterRef("kind"), day__gt=OuterRef("day")
    )
    outside = Q(value__lt=F("low")) | Q(value__gt=F("high"))
    return rows.filter(outside).filter(~Exists(newer))


def flagged_of(client: Client, today: date) -> QuerySet[Measurement]:
    """A client's newest values outside their ranges."""
    since = today - timedelta(days=FLAGGED_DAYS)
    return flagged(Measurement.objects.filter(client=client, day__gte=since))


def visits_of(user: User) -> QuerySet[Visit]:
    """The visits of a practitioner's clients."""
    return Visit.objects.filter(client__practitioner_id=user.pk).select_related("client")


def next_visit(client: OuterRef) -> QuerySet[Any, Any]:
    """When a client's next visit is, as the last visit says, for the query of a list."""
    return Visit.objects.filter(client=client).order_by("-day", "-pk").values("next_on")[:1]


def open_flags(client: OuterRef) -> QuerySet[Any, Any]:
    """The newest value of a client outside its range that no visit has followed, for the query of
    a list.
    """
    talked = Visit.objects.filter(client=OuterRef("client"), day__gte=OuterRef("day"))
    rows = flagged(Measurement.objects.filter(client=client)).filter(~Exists(talked))
    return rows.order_by().values("client").annotate(newest=Max("day")).values("newest")


def taken_of(client: Client) -> QuerySet[TakenProposal]:
    """The proposals that were taken for a client, the newest first."""
    return TakenProposal.objects.filter(client=client).select_related("before", "after")


def weeks_between(client: Client, first: date, last: date) -> list[Week]:
    """The newest version of each week that has a day from `first` to `last`, the oldest first."""
    rows = Week.objects.filter(client=client, start__gt=first - timedelta(days=7), start__lte=last)
    found: dict[date, Week] = {}
    for week in rows.order_by("start", "version"):
        found[week.start] = week
    return list(found.values())


def extras(entries: Mapping[tuple[date, str], Reported], day: date) -> list[tuple[str, str]]:
    """What was eaten beside the plan on a day: (key of the entry, text)."""
    mine = ((meal, one) for (when, meal), one in entries.items() if when == day)
    return [(meal, one.text) for meal, one in mine if one.how == EXTRA]


def remarks_of(client: Client, since: date) -> list[tuple[date, str, str]]:
    """What was said since a day, the newest first: (day, words, by whom): by the practitioner, and
    by the client on the link.
    """
    found = [
        (one.day, one.text, "") for one in Remark.objects.filter(client=client, day__gte=since)
    ]
    with_values = measurements_of(client).filter(day__gte=since).exclude(remark="")
    found += [(one.day, one.remark, "") for one in with_values]
    said = Answered.objects.filter(link__week__client=client, kind=Answered.REMARK)
    told = said.filter(at__date__gte=since)
    found += [(one.at.date(), one.text, "the client") for one in told]
    return sorted(found, key=lambda row: row[0], reverse=True)
