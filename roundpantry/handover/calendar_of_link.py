"""A booklet as a calendar that a program subscribes to: meals, cooking evenings, soaks. Made of the
kept booklet alone, with figures only where the client sees them.
"""

from __future__ import annotations

from datetime import datetime, time, timedelta
from importlib import import_module

from dietetics.handover.booklet import Booklet
from roundpantry.handover.models import ShareLink
from roundpantry.prep.plain_evenings import evenings_of
from roundpantry.prep.records import day_of, evening_row
from roundpantry.weeks.files import calendar_event, meal_hours
from roundpantry.weeks.records import plan_value

SOAK_AT = time(20, 0)
COOKING_MIN = 90


def booklet_calendar(booklet: Booklet, link: ShareLink) -> bytes:
    """The calendar of a link. Times are the clock's, wherever the client is."""
    icalendar = import_module("icalendar")
    week = link.week
    book = icalendar.Calendar()
    book.add("prodid", "-//Round Pantry//Booklet//EN")
    book.add("version", "2.0")
    plan = plan_value(week)
    hours = meal_hours(plan, week.client.meal_hours)
    for d, day in enumerate(booklet.days):
        for m, meal in enumerate(day.meals):
            if not meal.servings or day.kind == "off the plan":
                continue
            title = f"{meal.name}: {' and '.join(one.name for one in meal.servings)}"
            at = datetime.combine(day_of(week, d), hours[m])
            uid = f"{link.nonce[:12]}-{d}-{m}"
            words = "; ".join(part for one in meal.servings for part in one.parts)
            book.add_component(calendar_event(icalendar, uid, title, at, 30, words))
    for number, evening in zip(evenings_of(plan), booklet.evenings, strict=False):
        at = datetime.combine(day_of(week, number), evening_row(week, number).start_at)
        uid = f"{link.nonce[:12]}-cook-{number}"
        words = "\n".join(evening.lines)
        book.add_component(calendar_event(icalendar, uid, "Cooking", at, COOKING_MIN, words))
        if evening.before:
            soak = datetime.combine(day_of(week, number) - timedelta(days=1), SOAK_AT)
            title = "; ".join(evening.before)
            book.add_component(calendar_event(icalendar, f"{uid}-before", title, soak, 10, ""))
    for reminder in booklet.reminders:
        evening_at = datetime.combine(day_of(week, reminder.day), SOAK_AT)
        uid, title = f"{link.nonce[:12]}-ready-{reminder.day}", "; ".join(reminder.words)
        book.add_component(calendar_event(icalendar, uid, title, evening_at, 10, ""))
    return bytes(book.to_ical())
