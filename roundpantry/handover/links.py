"""Links that show a booklet: signed, unguessable, with an end."""

from __future__ import annotations

import secrets
from datetime import date, timedelta
from zoneinfo import ZoneInfo

from django.core.signing import BadSignature, Signer

from roundpantry.counter import clock
from roundpantry.handover.models import ShareLink, WrongLink
from roundpantry.shelf.records import preferences_of

SALT = "round-pantry-share"
NONCE_BYTES = 24
MOST_DAYS = timedelta(days=365)
MOST_WRONG, WRONG_WITHIN = 20, timedelta(minutes=10)


def new_nonce() -> str:
    """A part of an address that nobody guesses: 192 random bits."""
    return secrets.token_urlsafe(NONCE_BYTES)


def link_days(today: date) -> tuple[date, date]:
    """The first and the last day on which a link that is given today may end."""
    return today + timedelta(days=1), today + MOST_DAYS


def token_of(link: ShareLink) -> str:
    """The address of a link, signed; it holds no name and no number of anything."""
    return Signer(salt=SALT).sign(link.nonce)


def today_of(link: ShareLink) -> date:
    """What day it is for the practice that gave a link; nobody is logged in who has a time zone."""
    return clock.today(preferences_of(link.week.client.practitioner).time_zone)


def zone_of(link: ShareLink) -> ZoneInfo | None:
    """The time zone of the practice that gave a link; None where it has the program's."""
    zone = preferences_of(link.week.client.practitioner).time_zone
    return ZoneInfo(zone) if zone else None


def is_open(link: ShareLink, today: date) -> bool:
    """Whether a link opens its booklet on a day."""
    is_closed = link.withdrawn_at is not None or link.closed_by_restore_at is not None
    return not is_closed and today <= link.ends_on


def link_of(token: str) -> ShareLink | None:
    """The link that a token opens today; None for one that is altered, over or closed."""
    try:
        nonce = Signer(salt=SALT).unsign(token)
    except BadSignature:
        return None
    links = ShareLink.objects.select_related("week__client__practitioner__preferences")
    link = links.filter(nonce=nonce).first()
    return link if link is not None and is_open(link, today_of(link)) else None


def guesses_too_often(asked_by: str) -> bool:
    """True for whoever asked for too many links that open nothing."""
    since = clock.now() - WRONG_WITHIN
    return WrongLink.objects.filter(asked_by=asked_by, at__gte=since).count() >= MOST_WRONG


def note_wrong(asked_by: str) -> None:
    """Count a link that opened nothing; old ones are forgotten."""
    WrongLink.objects.filter(at__lt=clock.now() - WRONG_WITHIN).delete()
    WrongLink.objects.create(asked_by=asked_by[:64])
