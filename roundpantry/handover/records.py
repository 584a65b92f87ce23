"""Queries of the hand-over."""

from __future__ import annotations

from django.contrib.auth.models import User
from django.db.models import QuerySet

from dietetics.handover.booklet import Booklet, booklet_of_json
from roundpantry.handover.models import Answered, ShareLink, StoredBooklet
from roundpantry.weeks.models import Week


def links_of(user: User) -> QuerySet[ShareLink]:
    """The links of a practitioner's clients."""
    if not user.is_authenticated:
        return ShareLink.objects.none()
    return ShareLink.objects.filter(week__client__practitioner_id=user.pk).select_related("week")


def stored_booklet(week: Week) -> Booklet | None:
    """The booklet that was made of a week. Raises DieteticsError for one that cannot be read."""
    row = StoredBooklet.objects.filter(week=week).first()
    return booklet_of_json(row.content) if row is not None else None


def answers_of(week: Week) -> QuerySet[Answered]:
    """What the client answered on any link of a week, the newest first."""
    return Answered.objects.filter(link__week=week).select_related("link")
