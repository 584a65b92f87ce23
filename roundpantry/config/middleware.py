"""Middleware of the project: what every request passes on its way in, and every answer on its way
out.
"""

from __future__ import annotations

import logging
import secrets
import time
from collections.abc import Callable
from threading import BoundedSemaphore
from typing import Any, cast

from django.conf import settings
from django.http import HttpRequest, HttpResponse, QueryDict
from django.http.multipartparser import MultiPartParserError
from django.shortcuts import render
from django.utils.cache import patch_vary_headers

from dietetics.untrusted_input import plain_text
from roundpantry.config.logs import without_tokens
from roundpantry.counter.kept import reading
from roundpantry.counter.login_gate import seconds_shut
from roundpantry.counter.requests import Request
from roundpantry.counter.sent_forms import is_sent_once, only_once
from roundpantry.counter.state_changes import GoneError

Answer = Callable[[HttpRequest], HttpResponse]
SLOW_S = 2.0
LOGIN = "/login/"
SLOWED_S = 0.0 if settings.HURRIED else 0.7
SLOWED = BoundedSemaphore(8)  # of the twelve threads of a process (gunicorn.py)
SHARED = "/s/"  # addresses of links
PROTECTING = {
    "X-Content-Type-Options": "nosniff",
    "X-Frame-Options": "DENY",
    "Cross-Origin-Opener-Policy": "same-origin",
    # with "no-referrer" a browser says of a form that it came from nowhere
    "Referrer-Policy": "same-origin",
}
SHARED_ONLY = {"Cache-Control": "private, no-store", "X-Robots-Tag": "noindex, nofollow"}
REQUESTS = logging.getLogger("roundpantry.requests")


class VaryOnHtmx:
    """Say that a page and its fragment share an address, so that no cache mixes them up."""

    def __init__(self, get_response: Answer) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        response = self.get_response(request)
        patch_vary_headers(response, ("HX-Request",))
        return response


class ReadOnce:
    """What is asked for in several places of a page is read once for it."""

    def __init__(self, get_response: Answer) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        with reading():
            return self.get_response(request)


class NamedRequests:
    """Give every request a short name, shown where something failed and written to the log; note
    slow ones.
    """

    def __init__(self, get_response: Answer) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        name = secrets.token_hex(4)
        request.name = name  # type: ignore[attr-defined]  # typed for views in counter/requests
        began = time.monotonic()
        response = self.get_response(request)
        taken = time.monotonic() - began
        response["X-Request-Id"] = name
        if taken > SLOW_S:
            REQUESTS.warning(
                "slow: %s %s took %.1f s [%s]",
                request.method,
                without_tokens(request.path),
                taken,
                name,
            )
        return response

    def process_exception(self, request: HttpRequest, exception: Exception) -> HttpResponse | None:
        """What was removed in another window is gone, and no fault of the program."""
        if isinstance(exception, GoneError):
            return render(request, "counter/gone.html", status=404)
        return None


class SameHeaders:
    """Give every answer of the program the same protecting headers, also one that was made before
    or after the usual way through it: a refused form, a bad request, an error. What lies under a
    client's link is kept by no cache and found by no search.
    """

    def __init__(self, get_response: Answer) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        response = self.get_response(request)
        for name, value in PROTECTING.items():
            response.setdefault(name, value)
        if request.path.startswith(SHARED):
            for name, value in SHARED_ONLY.items():
                response[name] = value
        elif response.status_code >= 400:
            response.setdefault("Cache-Control", "no-store")
        return response


class LoginFlood:
    """Answer an address that goes on trying passwords while it has to wait with a line of text,
    before anything else is done, and give no refusal quickly: whoever tries without end waits
    longer for each answer, in threads that have nothing else to do.
    """

    def __init__(self, get_response: Answer) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        if request.method != "POST" or request.path != LOGIN:
            return self.get_response(request)
        wait_s = seconds_shut(cast(Request, request))
        response = _refused(wait_s) if wait_s else self.get_response(request)
        if response.status_code in (429, 503) and SLOWED.acquire(blocking=False):
            try:
                time.sleep(SLOWED_S)
            finally:
                SLOWED.release()
        return response


def _refused(wait_s: int) -> HttpResponse:
    words = f"Too many wrong passwords. Wait {wait_s} seconds, then load the page again."
    return HttpResponse(words, "text/plain", 429, headers={"Retry-After": str(wait_s)})


class ReadableRequests:
    """Refuse what is no form in UTF-8, and take out of every field the characters that are none."""

    def __init__(self, get_response: Answer) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        if (request.content_params or {}).get("charset", "utf-8").lower() not in ("utf-8", "utf8"):
            return HttpResponse("Send forms in UTF-8.", status=400, content_type="text/plain")
        try:
            request.GET = cleaned(request.GET)  # type: ignore[assignment]  # mutable before a view
            if request.method == "POST":
                request.POST = cleaned(request.POST)  # type: ignore[assignment]
        except (MultiPartParserError, UnicodeError):
            return HttpResponse(
                "The form could not be read.", status=400, content_type="text/plain"
            )
        return self.get_response(request)


def cleaned(given: QueryDict) -> QueryDict:
    """The fields with plain text in them, and lines ended one way."""
    if all(plain_text(value) == value for values in given.lists() for value in values[1]):
        return given
    made = given.copy()
    for name, values in given.lists():
        made.setlist(name, [plain_text(value) for value in values])
    return made


class NotKept:
    """Tell every cache on the way, and the browser, to keep no page of a person who is logged
    in.
    """

    def __init__(self, get_response: Answer) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        response = self.get_response(request)
        if request.user.is_authenticated:
            response["Cache-Control"] = "no-store, private"
        if request.path == "/logout/":
            response["Clear-Site-Data"] = '"cache", "storage"'
        return response


class FormsSentOnce:
    """A form with a token makes what it makes once, however often it is sent."""

    def __init__(self, get_response: Answer) -> None:
        self.get_response = get_response

    def __call__(self, request: HttpRequest) -> HttpResponse:
        return self.get_response(request)

    def process_view(
        self,
        request: Request,
        view: Callable[..., HttpResponse],
        args: tuple[Any, ...],
        kwargs: dict[str, Any],
    ) -> HttpResponse | None:
        """Run the view for such a form here, inside one transaction."""
        if not is_sent_once(request):
            return None
        try:
            return only_once(request, lambda: view(request, *args, **kwargs))
        except GoneError:
            return render(request, "counter/gone.html", status=404)
