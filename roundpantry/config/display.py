"""Middleware that shows figures, dates, times and numbers as the practitioner chose, for the length
of a request.
"""

from __future__ import annotations

from collections.abc import Callable
from typing import cast
from zoneinfo import ZoneInfo

from django.http import HttpRequest, HttpResponse
from django.utils import timezone

from dietetics.nutrients import Display, shown_in
from dietetics.week.daynames import start_days_on
from roundpantry.counter.dates import DAY_FIRST, write_dates
from roundpantry.counter.numbermarks import COMMA, page_with_comma
from roundpantry.shelf.records import SESSION_DISPLAY, kept_in_session, preferences_of

UTC = "UTC"


class PractitionersUnits:
    """Units, dates, time zone and marks of numbers. Kept in the session, so that a request costs no
    query for them.
    """

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        start_days_on(0)  # a page of a week names its days anew
        if not request.user.is_authenticated:
            write_dates(DAY_FIRST)
            return self.get_response(request)
        chosen = request.session.get(SESSION_DISPLAY)
        if chosen is None or len(chosen) != 5:
            chosen = request.session[SESSION_DISPLAY] = kept_in_session(
                preferences_of(request.user)
            )
        kilojoules, per_pound, dates, zone, numbers = cast(Chosen, chosen)
        write_dates(dates)
        with shown_in(Display(kilojoules, per_pound)), timezone.override(ZoneInfo(zone)):
            return _marked(self.get_response(request), numbers)


Chosen = tuple[bool, bool, str, str, str]  # kilojoules, per pound, dates, time zone, numbers


def _marked(response: HttpResponse, numbers: str) -> HttpResponse:
    """A page with the marks of numbers that were chosen; files keep a point, for other programs to
    read.
    """
    if (
        numbers == COMMA
        and not response.streaming
        and response.get("Content-Type", "").startswith("text/html")
    ):
        response.content = page_with_comma(response.content.decode())
        if "Content-Length" in response:
            response["Content-Length"] = len(response.content)
    return response
