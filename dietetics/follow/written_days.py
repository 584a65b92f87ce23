"""Days and times as people write them in a line: "today", "on Monday", "20 Nov", "7:30 am"."""

from __future__ import annotations

import re
from datetime import date, time, timedelta

from dietetics.amounts.number_words import ONE_OF_WHOLE, whole_number
from dietetics.errors import DieteticsError
from dietetics.week.daynames import WEEKDAYS

SHORT_WEEKDAYS = {
    "mon": 0, "tue": 1, "tues": 1, "wed": 2, "weds": 2, "thu": 3, "thur": 3, "thurs": 3, "fri": 4,
    "sat": 5, "sun": 6,
}  # fmt: skip
MONTHS = ("jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec")
_SAID = {"today": 0, "yesterday": 1, "tomorrow": -1}
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
        r"(?:(?<=^)|(?<=\bon\s)|(?<=\bfrom\s)|(?<=\bof\s)|(?<=\blab\s)|(?<=\blabs\s)|(?<=\bbloods\s)|(?<=\btaken\s)"
        r"|(?<=\bresults\s)|(?<=\bdated\s)|(?<=\btests\s))(?P<first>[0-3]?\d)/(?P<second>[0-3]?\d)(?:/(?P<year>\d{4}))?(?!/)",
        r"(?P<day>\d{1,2})\.(?P<numeric>\d{1,2})\.(?=\s|$)",
        r"(?P<said>(?:the )?day before yesterday|today|yesterday|tomorrow)",
        rf"(?P<ago>\d{{1,3}}|a|{ONE_OF_WHOLE})\s+(?P<span>days?|weeks?)\s+ago",
        r"(?P<past>last\s+(?:week|night))",
        rf"(?:last\s+|this\s+)?(?P<weekday>{'|'.join((*WEEKDAYS, *SHORT_WEEKDAYS))})(?:['’]s)?",
        r"(?<=the\s)(?P<only>\d{1,2})(?:st|nd|rd|th)",
    )
)
_RESULTS = re.compile(
    r"\b(?:labs?|bloods?|blood ?work|(?:blood|lab) (?:tests?|results?)|results?)\b", re.IGNORECASE
)
TO_COME = "appointments?|next|due|book(?:ed)?|review|follow[- ]?up|call|remind(?:er)?"
_SEASON = "spring|summer|autumn|fall|winter"
_SOME_TIME = re.compile(
    r"\b(?:(?:jan|feb|mar|apr|jun|jul|aug|sept?|oct|nov|dec)\b|january|february|march|april|june|"
    r"july|august|september|october|november|december|(?:from|in|of) may\b|"
    rf"last (?:month|year|{_SEASON})|the (?:{_SEASON})|"
    rf"(?:\d{{1,2}}|a|{ONE_OF_WHOLE}) (?:months?|years?) ago)",
    re.IGNORECASE,
)
_YET_TO_COME = re.compile(
    rf"\b(?:{TO_COME}|plan(?:ned)?|order(?:ed)?|repeat|again|until|by|will)\b", re.IGNORECASE
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

    A day without a year is the last one that has been; a weekday likewise. Words that do not say
    exactly which day ("last week") stay in the text. Raises DieteticsError `day-impossible` for one
    that no calendar has, `day-unclear` for "3/11".
    """
    for pattern in _DAYS:
        found = pattern.search(text)
        if found is not None:
            given = found.groupdict()
            is_vague = given.get("past") or (given.get("span") or "").lower().startswith("week")
            rest = text if is_vague else f"{text[: found.start()]} {text[found.end() :]}"
            return rest, _day(found, today)
    return text, None


def is_day_word(word: str) -> bool:
    """True for a word that names a day by itself."""
    plain = word.lower()
    return plain in SHORT_WEEKDAYS or plain.capitalize() in WEEKDAYS or plain in _SAID


def _day(found: re.Match[str], today: date) -> date:
    given = found.groupdict()
    if said := given.get("said"):
        back = _SAID.get(said.lower(), 2)
        return today - timedelta(days=back)
    if weekday := (given.get("weekday") or "").lower():
        short = SHORT_WEEKDAYS.get(weekday)
        wanted = WEEKDAYS.index(weekday.capitalize()) if short is None else short
        return today - timedelta(days=(today.weekday() - wanted) % len(WEEKDAYS))
    if ago := (given.get("ago") or "").lower():
        count = whole_number(ago) or 0
        return today - timedelta(days=count * (7 if given["span"].lower().startswith("w") else 1))
    if past := given.get("past"):
        return today - timedelta(days=1 if past.lower().endswith("night") else 7)
    try:
        if given.get("iso"):
            return date.fromisoformat(given["iso"])
        if given.get("only"):
            return _last_with_number(int(given["only"]), today)
        return _day_of_month(given, today)
    except ValueError:
        raise DieteticsError("day-impossible", text=found[0].strip()) from None


def _last_with_number(number: int, today: date) -> date:
    """The last day that has been with a number in its month: "the 20th"."""
    for back in range(62):
        day = today - timedelta(days=back)
        if day.day == number:
            return day
    raise ValueError(number)


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


def names_no_day(text: str) -> str:
    """The heading of results that were found at some time, and not on a day: "labs from March"; ""
    for anything else.

    >>> names_no_day("bloods March: K 5.1"), names_no_day("next labs in May")
    ('bloods March', '')
    """
    heading = text.split(":", maxsplit=1)[0].strip()
    if not _RESULTS.search(heading) or _YET_TO_COME.search(heading):
        return ""
    return heading if _SOME_TIME.search(heading) else ""


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
