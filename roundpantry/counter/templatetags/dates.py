"""Dates in templates, as the practitioner writes them."""

from __future__ import annotations

from datetime import date, datetime

from django import template

from roundpantry.counter import clock
from roundpantry.counter.dates import day_text, moment_text, short_day_text

register = template.Library()


@register.filter
def day(value: date | None) -> str:
    """A day with its year; "" for none."""
    return day_text(value) if value else ""


@register.filter
def short_day(value: date | None) -> str:
    """A day without its year; "" for none."""
    return short_day_text(value) if value else ""


@register.filter
def moment(value: datetime | None) -> str:
    """A day and a time; "" for none."""
    return moment_text(value) if value else ""


@register.simple_tag
def today() -> str:
    """Today, for the head of a print."""
    return day_text(clock.today())
