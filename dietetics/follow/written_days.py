"""Days and times as people write them in a line: "today", "on Monday", "20 Nov", "7:30 am"."""

from __future__ import annotations

import re
from datetime import date, time, timedelta

from dietetics.errors import DieteticsError
from dietetics.week.daynames import WEEKDAYS

MONTHS = ("jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec")
_MONTH = r"(?P<month>jan|feb|mar|apr|may|jun|jul|aug|sep|oct|nov|dec)[a-z]*\.?"
_NOON, MONTHS_A_YEAR = 12, len(MONTHS)
# The longest way of writing first, so that nothing of a date stays behind.
_DAYS = tuple(
    re.compile(rf"\b(?:on\s+(?:the\s+)?)?{pattern}(?!\w)", re.IGNORECASE)
    for pattern in (
        r"(?P<iso>\d{4}-\d{2}-\d{2})",
        rf"(?P<day>\d{{1,2}})(?:st|nd|rd|th)?\.?\s+(?:of\s+)?{_MONTH}(?:,?\s+(?P<year>\d{{4}}))?",
        rf"{_MONTH}\s+(?P<day>\d{{1,2}})(?:st|nd|rd|th)?(?:,?\s+(?P<year>\d{{4}}))?",
        r"(?P<day>\d{1,2})\.(?P<numeric>\d{1,2})\.(?P<year>\d{4})",
        r"(?:(?<=^)|(?<=on\s))(?P<first>[0-3]?\d)/(?P<second>[0-3]?\d)(?:/(?P<year>\d{4}))?(?!/)",
        r"(?P<said>today|yesterday|tomorrow|the day before yesterday)",
        rf"(?:last\s+)?(?P<weekday>{'|'.join(WEEKDAYS)})",
    )
)
_TIMES = tuple(
    re.compile(rf"\b(?:at\s+)?{pattern}(?![\w%])", re.IGNORECASE)
    for pattern in (
        r"(?P<hour>\d{1,2})[:.](?P<minute>\d{2})\s*(?P<half>am|pm)",
        r"(?P<hour>\d{1,2}):(?P<minute>\d{2})",
        r"(?P<hour>\d{1,2})\s*(?P<half>am|pm)",
    )
)


def take_day(text: str, today: date) -> tuple[str, date | None]:
    """The text without its day, and the day; None where none is written.

    A day without a year is the last one that has been; a weekday likewise. Raises DieteticsError
    `day-impossible` for one that no calendar has, `day-unclear` for "3/11".
    """
    for pattern in _DAYS:
        found = pattern.search(text)
        if found is not None:
            rest = f"{text[: found.start()]} {text[found.end() :]}"
            return rest, _day(found, today)
    return text, None


def _day(found: re.Match[str], today: date) -> date:
    given = found.groupdict()
    if said := given.get("said"):
        back = {"today": 0, "yesterday": 1, "tomorrow": -1}.get(said.lower(), 2)
        return today - timedelta(days=back)
    if weekday := given.get("weekday"):
        back = (today.weekday() - WEEKDAYS.index(weekday.capitalize())) % len(WEEKDAYS)
        return today - timedelta(days=back)
    try:
        if given.get("iso"):
            return date.fromisoformat(given["iso"])
        return _day_of_month(given, today)
    except ValueError:
        raise DieteticsError("day-impossible", text=found[0].strip()) from None


def _day_of_month(given: dict[str, str], today: date) -> date:
    if given.get("first"):
        given = _day_first(given)
    numeric = given.get("numeric")
    month = int(numeric) if numeric else MONTHS.index(given["month"].lower()[:3]) + 1
    day, year = int(given["day"]), given.get("year")
    if year:
        return date(int(year), month, day)
    this_year = date(today.year, month, day)
    if this_year - today > timedelta(days=180):  # "20 Dec" in January is last month's
        return date(today.year - 1, month, day)
    return this_year


def _day_first(given: dict[str, str]) -> dict[str, str]:
    """A day and a month with a slash between them, where only one of the two can be the month."""
    one, other = int(given["first"]), int(given["second"])
    if one <= MONTHS_A_YEAR and other <= MONTHS_A_YEAR and one != other:
        raise DieteticsError("day-unclear", text=f"{one}/{other}")
    day, month = (one, other) if one > MONTHS_A_YEAR else (other, one)
    return {**given, "day": str(day), "numeric": str(month)}


def take_time(text: str) -> tuple[str, time | None]:
    """The text without its time of day, and the time; None where none is written."""
    for pattern in _TIMES:
        found = pattern.search(text)
        if found is None:
            continue
        given = found.groupdict()
        hour, half = int(given["hour"]), (given.get("half") or "").lower()
        minute = int(given.get("minute") or 0)
        hour = hour % _NOON + (_NOON if half == "pm" else 0) if half else hour
        if hour < 24 and minute < 60:
            return f"{text[: found.start()]} {text[found.end() :]}", time(hour, minute)
    return text, None
