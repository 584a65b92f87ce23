"""What day and what time it is, for the whole program: the one place that asks the machine.

Everything else asks here, and by the module (`clock.today()`), so that a test can set all of it to
a day of its own. The core is told the day as an argument. `ruff` refuses every other way of asking.
"""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from datetime import date, datetime
from zoneinfo import ZoneInfo

from django.utils import timezone

_SET: list[tuple[datetime, datetime | None]] = []  # a moment, and when the clock began to run on


def now() -> datetime:
    """This moment, in UTC, aware of its zone."""
    machine = timezone.now()  # noqa: TID251
    if not _SET:
        return machine
    moment, since = _SET[-1]
    return moment if since is None else moment + (machine - since)


@contextmanager
def set_to(moment: datetime, runs: bool = False) -> Iterator[None]:
    """Let the clock stand at a moment inside the block, or run on from there, in every thread: for
    made-up data that is to be of that day, and for tests.
    """
    _SET.append((moment, timezone.now() if runs else None))  # noqa: TID251
    try:
        yield
    finally:
        _SET.pop()


def at(day: date, hour: int = 12, minute: int = 0) -> datetime:
    """A moment of a day as the clock on the practice's wall shows it."""
    return timezone.make_aware(datetime(day.year, day.month, day.day, hour, minute))


def today(zone: str = "") -> date:
    """The calendar day in a time zone: the one named, else the one of the practitioner who asks for
    a page, else the machine's. For up to fourteen hours it is another day than that of UTC.
    """
    return timezone.localtime(now(), ZoneInfo(zone) if zone else None).date()


def local_now() -> datetime:
    """This moment as the clock on the practice's wall shows it."""
    return timezone.localtime(now())


def seconds() -> float:
    """Seconds since 1 January 1970, UTC."""
    return now().timestamp()
