"""The names of the days of a week, from the weekday it starts on.

A plan counts its days from 0. Which weekday day 0 is belongs to the week that is shown (most start
on Monday, some practitioners' on Sunday), so it is set for the length of a request, as units are.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from contextvars import ContextVar
from typing import overload

WEEKDAYS = ("Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday")
WORKING_DAYS = 5  # Monday to Friday stand first in WEEKDAYS
_FIRST: ContextVar[int] = ContextVar("first_weekday", default=0)


def start_days_on(weekday: int) -> None:
    """Name the days of a week from this weekday on: 0 is Monday, 6 is Sunday."""
    _FIRST.set(weekday % len(WEEKDAYS))


def _weekday(day: int) -> int:
    return (_FIRST.get() + day) % len(WEEKDAYS)


class _DayNames(Sequence[str]):
    """The seven names in the order of the week that is shown."""

    @overload
    def __getitem__(self, day: int) -> str: ...

    @overload
    def __getitem__(self, day: slice) -> tuple[str, ...]: ...

    def __getitem__(self, day: int | slice) -> str | tuple[str, ...]:
        if isinstance(day, slice):
            return tuple(self)[day]
        if not 0 <= day < len(WEEKDAYS):
            raise IndexError(day)
        return WEEKDAYS[_weekday(day)]

    def __len__(self) -> int:
        return len(WEEKDAYS)


DAY_NAMES: Sequence[str] = _DayNames()


def evening_before() -> str:
    """The evening before the week starts: "Sunday before"."""
    return f"{WEEKDAYS[_weekday(-1)]} before"


def working_days() -> list[int]:
    """The days of the week, counted from 0, that are Monday to Friday."""
    return [day for day in range(len(WEEKDAYS)) if _weekday(day) < WORKING_DAYS]


def days_said(days: Iterable[int]) -> str:
    """Days as they are said: "every day", "Mon to Thu", "Mon, Wed".

    >>> days_said([0, 1, 2]), days_said([0, 2]), days_said(range(7))
    ('Mon to Wed', 'Mon, Wed', 'every day')
    """
    first = sorted(set(days))
    if len(first) == len(DAY_NAMES):
        return "every day"
    names = [DAY_NAMES[day][:3] for day in first]
    if len(first) > 2 and first[-1] - first[0] == len(first) - 1:
        return f"{names[0]} to {names[-1]}"
    return ", ".join(names)


def days_words(days: int) -> str:
    """A number of days with its noun.

    >>> days_words(1), days_words(4)
    ('1 day', '4 days')
    """
    return f"{days} day" if days == 1 else f"{days} days"
