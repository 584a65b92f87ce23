"""The clients of a practitioner as Today shows them: found by name, sorted, and read in as few
queries as pages allow.
"""

from __future__ import annotations

import unicodedata
from collections.abc import Sequence
from datetime import date, timedelta
from typing import Any

from django.contrib.auth.models import User
from django.db.models import Count, F, Max, OuterRef, QuerySet, Subquery
from django.db.models.functions import Coalesce

from dietetics.errors import DieteticsError
from dietetics.follow.red_flags import RedFlag
from dietetics.targets.client_needs import ClientState
from roundpantry.clients.models import Acknowledgement, Client, Measurement
from roundpantry.clients.records import client_mark, clients_of
from roundpantry.counter import clock
from roundpantry.counter.kept import Kept
from roundpantry.follow.course_page import flags_of, weight_of
from roundpantry.follow.records import next_visit, open_flags
from roundpantry.handover.records import unread_answers
from roundpantry.shelf.models import LabelVersion
from roundpantry.targets.models import TargetSet
from roundpantry.targets.page import clash_words
from roundpantry.targets.records import client_cautions_of
from roundpantry.weeks.models import Week

NAME, OPENED, NEEDS = "name", "opened", "needs"
WEEK_DAYS = timedelta(days=6)
_COUNTS: Kept[tuple[object, ...], tuple[int, int]] = Kept(5000)
_FLAGS: Kept[tuple[object, ...], tuple[str, ...]] = Kept(5000)


def plain_name(text: str) -> str:
    """A name as it is searched: without accents and case, so that "zoe" finds Zoë."""
    split = unicodedata.normalize("NFKD", text.casefold())
    return "".join(letter for letter in split if not unicodedata.combining(letter))


def clients_found(user: User, words: str, archived: bool, order: str) -> QuerySet[Client]:
    """The practitioner's clients whose name holds every typed word, by name or as last opened."""
    rows = clients_of(user).filter(archived=archived)
    wanted = plain_name(words).split()
    if wanted:
        names = rows.values_list("pk", "name")
        rows = rows.filter(
            pk__in=[pk for pk, name in names if all(word in plain_name(name) for word in wanted)]
        )
    if order == OPENED:
        return rows.order_by(F("opened_at").desc(nulls_last=True), "name", "pk")
    return rows.order_by("name", "pk")


def _with_dates(rows: QuerySet[Client]) -> QuerySet[Any]:
    """Each client with whether there are targets, when the last week starts, and when weight was
    last taken.
    """
    mine = OuterRef("pk")
    newest = TargetSet.objects.filter(client=mine).order_by("-number").values("pk")[:1]
    week = (
        Week.objects.filter(client=mine).values("client").annotate(day=Max("start")).values("day")
    )
    weighed = (
        Measurement.objects.filter(client=mine, kind="weight")
        .values("client")
        .annotate(day=Max("day"))
        .values("day")
    )
    noted = (
        Acknowledgement.objects.filter(client=mine, scope="client").order_by("-pk").values("pk")[:1]
    )
    measured = Measurement.objects.filter(client=mine).order_by().values("client")
    return rows.annotate(
        measured=Subquery(measured.annotate(rows=Count("pk")).values("rows")),
        measured_last=Subquery(measured.annotate(last=Max("pk")).values("last")),
        targets=Subquery(newest),
        noted=Subquery(noted),
        last_week=Subquery(week),
        last_weighed=Subquery(weighed),
        visit_on=Subquery(next_visit(mine)),
        flag_on=Subquery(open_flags(mine)),
        unread=Coalesce(Subquery(unread_answers(mine)), 0),
        not_given=Subquery(_weeks_not_given(mine).values("start")[:1]),
    )


def _weeks_not_given(client: OuterRef) -> QuerySet[Week]:
    """Weeks that are not over and that the client has not got as they stand, the first first."""
    running = Week.objects.filter(client=client, start__gte=clock.today() - WEEK_DAYS)
    return running.filter(frozen_at=None).order_by("start")


def clients_with_states(pks: Sequence[int]) -> list[tuple[Client, ClientState]]:
    """Clients in this order, each with what is open for them: one query, and what is kept."""
    rows = _with_dates(Client.objects.filter(pk__in=pks)).in_bulk()
    return [(rows[pk], _state(rows[pk])) for pk in pks if pk in rows]


def _state(client: Any) -> ClientState:
    week: date | None = client.last_week
    ends = week + WEEK_DAYS if week else None
    return ClientState(
        client.goal,
        client.targets is not None,
        client.last_weighed,
        ends,
        *_kept_counts(client),
        client.unread,
        client.visit_on,
        client.flag_on,
        _red_flags(client),
        client.not_given,
    )


def _red_flags(client: Any) -> tuple[str, ...]:
    """Whom to ask, how soon and why, each in a sentence; worked out once a day for each state of a
    client's record and measurements. A measurement is added or removed, never changed, so the
    newest one and how many there are say which they are.
    """
    if not client.measured:
        return ()
    key = (client.pk, client_mark(client), client.measured, client.measured_last, clock.today())
    return _FLAGS.of(key, lambda: tuple(map(_flag_words, flags_of(client, weight_of(client)))))


def _flag_words(flag: RedFlag) -> str:
    return f"{flag.whom.removeprefix('the ').capitalize()} {flag.soon}: {flag.text}"


def _kept_counts(client: Any) -> tuple[int, int]:
    """The counts of a client, worked out once for each state of their record, targets and
    acknowledgements.
    """
    key = (client.pk, client_mark(client), client.targets, client.noted)
    return _COUNTS.of(key, lambda: open_counts(client))


def open_counts(client: Client) -> tuple[int, int]:
    """How many serious cautions of a client nobody has acknowledged, and how many of their targets
    conflict.

    A record that contradicts itself, or follows an approach that is gone, counts as one thing to
    review.
    """
    present = client.target_sets.first()
    try:
        cautions = sum(
            caution.grave and known is None for caution, known in client_cautions_of(client)
        )
        return cautions, len(clash_words(client, present)) if present else 0
    except DieteticsError:
        return 1, 0


def drafts_of(user: User) -> int:
    """How many of the practitioner's labels are drafts: their figures contradict each other."""
    newest = (
        LabelVersion.objects.filter(label=OuterRef("label")).order_by("-number").values("pk")[:1]
    )
    rows = LabelVersion.objects.filter(label__practitioner_id=user.pk, pk=Subquery(newest))
    return sum(row.draft for row in rows.filter(label__retired=False))
