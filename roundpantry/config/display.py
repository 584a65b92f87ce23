"""Middleware that shows figures in the practitioner's units for the length of a request."""

from __future__ import annotations

from collections.abc import Callable

from django.http import HttpRequest, HttpResponse

from dietetics.nutrients import Display, shown_in
from roundpantry.shelf.records import SESSION_DISPLAY, display_of, preferences_of


class PractitionersUnits:
    """kcal or kJ, per gram or per pound. Kept in the session, so that a request costs no query for it."""

    def __init__(self, get_response: Callable[[HttpRequest], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        if not request.user.is_authenticated:
            return self.get_response(request)
        chosen = request.session.get(SESSION_DISPLAY)
        if chosen is None:
            shown = display_of(preferences_of(request.user))
            chosen = request.session[SESSION_DISPLAY] = [shown.kilojoules, shown.per_pound]
        with shown_in(Display(*chosen)):
            return self.get_response(request)
