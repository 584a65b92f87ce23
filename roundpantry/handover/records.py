"""Queries of the hand-over."""

from __future__ import annotations

from datetime import UTC
from typing import Any

from django.contrib.auth.models import User
from django.db.models import Count, OuterRef, QuerySet

from dietetics.handover.booklet import (
    NO_FIGURES,
    Booklet,
    Wishes,
    booklet_of_json,
    without_figures,
)
from dietetics.targets.needs_table import hides_numbers
from roundpantry.clients.models import Client
from roundpantry.counter import clock
from roundpantry.counter.dates import day_text
from roundpantry.handover.models import (
    Answered,
    BookletWishes,
    OutboxMessage,
    ShareLink,
    StoredBooklet,
)
from roundpantry.shelf.records import preferences_of
from roundpantry.weeks.models import Week


def links_of(user: User) -> QuerySet[ShareLink]:
    """The links of a practitioner's clients."""
    if not user.is_authenticated:
        return ShareLink.objects.none()
    return ShareLink.objects.filter(week__client__practitioner_id=user.pk).select_related("week")


def stored_booklet(week: Week) -> Booklet | None:
    """The booklet that was made of a week, without figures where numbers can do harm to the client
    and nobody chose them knowing so. Raises DieteticsError for one that cannot be read.
    """
    row = StoredBooklet.objects.filter(week=week).first()
    if row is None:
        return None
    booklet = booklet_of_json(row.content)
    kept = not hides_numbers(week.client.conditions) or wishes_of(week.client).figures != NO_FIGURES
    return booklet if kept else without_figures(booklet)


def booklet_made_at(week: Week) -> str:
    """When the booklet of a week was made, as text that sorts by time; "" where there is none."""
    made_at = StoredBooklet.objects.filter(week=week).values_list("made_at", flat=True).first()
    return made_at.astimezone(UTC).isoformat(timespec="microseconds") if made_at else ""


def closed_links_of(user: User) -> QuerySet[ShareLink]:
    """The links that a restore closed, of weeks of a practitioner's clients, and that would still
    open; the newest week first.
    """
    rows = links_of(user).filter(
        closed_by_restore_at__isnull=False, withdrawn_at__isnull=True, ends_on__gte=clock.today()
    )
    return rows.select_related("week__client").order_by("-week__start", "week__client__name", "pk")


def reached_by(client: Client) -> tuple[str, str, str]:
    """The practice, how a client reaches it, and the day of their next visit; "" for each that
    nobody wrote.
    """
    own = preferences_of(client.practitioner)
    last = client.visits.order_by("-day", "-pk").first()
    on = last.next_on if last is not None else None
    return own.practice, own.reach, day_text(on) if on and on >= clock.today() else ""


def wishes_of(client: Client) -> Wishes:
    """How a client wants their booklet written; until they say so, as the practitioner writes."""
    row, hidden = (
        BookletWishes.objects.filter(client=client).first(),
        hides_numbers(client.conditions),
    )
    if row is not None:
        figures = NO_FIGURES if hidden and not row.chosen_knowing else row.figures
        return Wishes(figures, row.portions, row.energy, row.dates)
    own = preferences_of(client.practitioner)
    if hidden:
        return Wishes(NO_FIGURES, "household", own.energy, own.dates)
    return Wishes("main", own.portions, own.energy, own.dates)


def outbox_of(user: User) -> QuerySet[OutboxMessage]:
    """The messages in a practitioner's outbox, the newest first."""
    mine = OutboxMessage.objects.filter(client__practitioner_id=user.pk)
    return mine.select_related("client")


def booklets_of(client: Client) -> QuerySet[StoredBooklet]:
    """Every booklet that was made of a client's weeks, the newest week first."""
    rows = StoredBooklet.objects.filter(week__client=client).select_related("week")
    return rows.order_by("-week__start", "-week__version")


def answers_of(week: Week) -> QuerySet[Answered]:
    """What the client answered on any link of a week, the newest first."""
    return Answered.objects.filter(link__week=week).select_related("link")


def unread_answers(client: OuterRef) -> QuerySet[Any, Any]:
    """How many answers of a client nobody has read, for the query of a list; ticks of the shopping
    list are not counted.
    """
    rows = Answered.objects.filter(link__week__client=client, is_read=False)
    told = rows.exclude(kind=Answered.BOUGHT).order_by()
    return told.values("link__week__client").annotate(count=Count("pk")).values("count")
