"""Pages that belong to no step: login, the first login, the glossary, and what failed."""

from __future__ import annotations

from contextlib import suppress
from typing import cast

from django.contrib.auth import login as log_in
from django.contrib.auth.decorators import login_not_required
from django.contrib.auth.forms import AuthenticationForm
from django.contrib.auth.views import LoginView
from django.http import HttpRequest, HttpResponse
from django.http.response import HttpResponseBase
from django.shortcuts import redirect, render
from django.template.loader import render_to_string
from django.templatetags.static import static
from django.utils.decorators import method_decorator
from django.views.decorators.http import require_http_methods, require_safe

from roundpantry.counter import login_gate
from roundpantry.counter.first_run import add_first_practitioner, is_first_run
from roundpantry.counter.forms import FirstLoginForm
from roundpantry.counter.glossary import GLOSSARY
from roundpantry.counter.requests import Request, posted
from roundpantry.counter.state_changes import GoneError

MINUTE_S, BUSY_S = 60, 5


@method_decorator(login_not_required, name="dispatch")
class LoginPage(LoginView):
    """The login; on a new installation it leads to the first login."""

    template_name = "counter/login.html"

    def dispatch(self, request: HttpRequest, *args: object, **kwargs: object) -> HttpResponseBase:
        """Lead to the first login while nobody can log in."""
        if request.method == "GET" and is_first_run():
            return redirect("first-run")
        return super().dispatch(request, *args, **kwargs)

    def post(self, request: HttpRequest, *args: object, **kwargs: object) -> HttpResponse:
        """Look at the password, unless this name or address has to wait."""
        asked = cast(Request, request)
        name = request.POST.get("username", "")[:150]
        is_known = login_gate.is_known_device(asked, name)
        wait_s = login_gate.wait_before(asked, name)
        if wait_s:
            if not is_known and login_gate.is_address_waiting(asked):
                login_gate.shut_out(asked, wait_s)
            return _asked_to_wait(request, wait_s)
        try:
            with login_gate.place_to_hash(is_known):
                response = super().post(request, *args, **kwargs)
        except login_gate.BusyError:
            return _asked_to_wait(request, BUSY_S, status=503)
        if request.user.is_authenticated:
            login_gate.note_right(asked, name)
            login_gate.remember_device(response, name)
        else:
            login_gate.note_wrong(asked, name)
        return response


def _wait_words(seconds: int) -> str:
    """How long to wait, in seconds or whole minutes, rounded up."""
    if seconds < 2 * MINUTE_S:
        return f"{seconds} seconds"
    return f"{-(-seconds // MINUTE_S)} minutes"


def _asked_to_wait(request: HttpRequest, wait_s: int, status: int = 429) -> HttpResponse:
    """The login page, with how long to wait and with the name that was typed."""
    if login_gate.is_a_flood():
        words = f"Too many logins were tried. Wait {_wait_words(wait_s)}, then load the page again."
        return HttpResponse(
            words, status=status, content_type="text/plain", headers={"Retry-After": str(wait_s)}
        )
    given = {"username": request.POST.get("username", "")[:150]}
    context = {
        "form": AuthenticationForm(request, initial=given),
        "wait": f"{wait_s} seconds"
        if wait_s < 2 * MINUTE_S
        else f"{-(-wait_s // MINUTE_S)} minutes",
        "is_busy": status == 503,
        "next": request.POST.get("next", "")[:400],
    }
    response = render(request, "counter/login.html", context, status=status)
    response["Retry-After"] = str(wait_s)
    return response


@login_not_required
@require_http_methods(["GET", "POST"])
def first_run(request: Request) -> HttpResponse:
    """Make the first login, with the code from the terminal; only while nobody can log in."""
    if not is_first_run():
        return redirect("login")
    form = FirstLoginForm(posted(request))
    if request.method == "POST" and form.is_valid():
        try:
            person = add_first_practitioner(form.save(commit=False))
        except GoneError:
            return redirect("login")
        log_in(request, person, backend="django.contrib.auth.backends.ModelBackend")
        return redirect("today:today")
    return render(
        request, "counter/first_run.html", {"form": form}, status=422 if form.errors else 200
    )


def not_found(request: Request, exception: Exception) -> HttpResponse:
    """The page for an address that leads nowhere, or to somebody else's client."""
    return render(request, "counter/404.html", status=404)


def failed(request: Request) -> HttpResponse:
    """The page for an error of the program, with the number under which the log speaks of it."""
    stylesheet = ""
    with suppress(ValueError):  # a missing list of static files may be what failed
        stylesheet = static("counter/app.css")
    page = render_to_string(
        "counter/500.html", {"name": getattr(request, "name", "unknown"), "stylesheet": stylesheet}
    )
    return HttpResponse(page, status=500)


@require_safe
def glossary(request: Request) -> HttpResponse:
    """What the words on the screens mean."""
    return render(
        request,
        "counter/glossary.html",
        {"terms": sorted(GLOSSARY.items(), key=lambda pair: pair[0].lower())},
    )
