"""Middleware that shows figures, dates and times as the practitioner chose, for the length of a request."""

from __future__ import annotations

from collections.abc import Callable
from zoneinfo import ZoneInfo

from django.http import HttpRequest, HttpResponse
from django.utils import timezone

from dietetics.nutrients import Display, shown_in
from dietetics.week.daynames import start_days_on
from roundpantry.counter.dates import DAY_FIRST, write_dates
from roundpantry.shelf.records import SESSION_DISPLAY, kept_in_session, preferences_of

UTC = "UTC"


class PractitionersUnits:
    """kcal or kJ, per gram or per pound, dates, time zone. Kept in the session, so that a request costs no query for it."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        start_days_on(0)  # a page of a week names its days anew
        if not request.user.is_authenticated:
            write_dates(DAY_FIRST)
            return self.get_response(request)
        chosen = request.session.get(SESSION_DISPLAY)
        if chosen is None or len(chosen) != 4:
            chosen = request.session[SESSION_DISPLAY] = kept_in_session(preferences_of(request.user))
        kilojoules, per_pound, dates, zone = chosen
        write_dates(dates)
        with shown_in(Display(kilojoules, per_pound)), timezone.override(ZoneInfo(zone)):
            return self.get_response(request)
