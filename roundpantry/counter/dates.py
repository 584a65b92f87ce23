"""Dates and times as the practitioner writes them: day first, month first, or year first; set for
each request.
"""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from contextvars import ContextVar
from datetime import date, datetime

from django.utils import timezone
from django.utils.formats import date_format

DAY_FIRST, MONTH_FIRST, YEAR_FIRST = "dmy", "mdy", "ymd"
# order -> (a day with its year, without it, a time)
FORMATS = {
    DAY_FIRST: ("j M Y", "j M", "H:i"),
    MONTH_FIRST: ("M j, Y", "M j", "g:i a"),
    YEAR_FIRST: ("Y-m-d", "m-d", "H:i"),
}
_ORDER: ContextVar[str] = ContextVar("date_order", default=DAY_FIRST)


def write_dates(order: str) -> None:
    """Write dates in this order from now on."""
    _ORDER.set(order if order in FORMATS else DAY_FIRST)


@contextmanager
def dates_written(order: str) -> Iterator[None]:
    """Write dates in this order inside the block."""
    token = _ORDER.set(order if order in FORMATS else DAY_FIRST)
    try:
        yield
    finally:
        _ORDER.reset(token)


def day_text(day: date) -> str:
    """A day with its year: "23 Nov 2026". A moment is first brought into the practitioner's time
    zone.
    """
    return date_format(_local(day), FORMATS[_ORDER.get()][0])


def short_day_text(day: date) -> str:
    """A day without its year: "23 Nov"."""
    return date_format(_local(day), FORMATS[_ORDER.get()][1])


def moment_text(moment: datetime) -> str:
    """A day and a time: "23 Nov 2026, 14:05"."""
    day, _, time = FORMATS[_ORDER.get()]
    return date_format(_local(moment), f"{day}, {time}")


def _local(day: date) -> date:
    return timezone.localtime(day) if isinstance(day, datetime) and timezone.is_aware(day) else day
