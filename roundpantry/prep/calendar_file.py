"""Cooking evenings, what is begun before them, and packing, as a calendar file."""

from __future__ import annotations

from datetime import datetime, time, timedelta
from importlib import import_module

from dietetics.errors import DieteticsError
from roundpantry.prep.evening_page import evening_name
from roundpantry.prep.packing import ready_before
from roundpantry.prep.plain_evenings import evenings_of
from roundpantry.prep.records import cooked_on, day_of, evening_row, evening_value
from roundpantry.weeks.files import calendar_event
from roundpantry.weeks.models import Week
from roundpantry.weeks.records import plan_value

SOAK_AT, PACK_AT = time(20, 0), time(20, 30)


def as_calendar(week: Week) -> bytes:
    """Every cooking evening with its length, the soaks the evening before, and packing. Times are
    the clock's, wherever the client is.
    """
    icalendar = import_module("icalendar")
    book = icalendar.Calendar()
    book.add("prodid", "-//Round Pantry//Prep//EN")
    book.add("version", "2.0")
    for day in evenings_of(plan_value(week)):
        cooked, _ = cooked_on(week, day)
        names = ", ".join(one.batch.title for one in cooked)
        at = datetime.combine(day_of(week, day), evening_row(week, day).start_at)
        minutes, before = 90, []
        try:
            evening = evening_value(week, day, proven=False)
            minutes = evening.timetable.length
            before = [task.text for task in evening.before]
        except DieteticsError:
            pass  # an evening that cannot be planned is still an evening of cooking
        uid = f"{week.pk}-prep-{day}"
        book.add_component(calendar_event(icalendar, uid, f"Cook: {names}", at, minutes, ""))
        if before:
            soak = datetime.combine(day_of(week, day) - timedelta(days=1), SOAK_AT)
            title = f"For {evening_name(day)}: {'; '.join(before)}"
            book.add_component(calendar_event(icalendar, f"{uid}-before", title, soak, 10, ""))
    for ready in ready_before(week):
        at = datetime.combine(day_of(week, ready["day"]), PACK_AT)
        for n, title in enumerate(ready["words"]):
            uid = f"{week.pk}-ready-{ready['day']}-{n}"
            book.add_component(calendar_event(icalendar, uid, title, at, 15, ""))
    return bytes(book.to_ical())
