"""Forms that make something, answered once: a double click, or a page sent again, leads to what the
first one made.
"""

from __future__ import annotations

from collections.abc import Callable
from datetime import timedelta

from django.db import transaction
from django.http import HttpResponse
from django.shortcuts import redirect

from roundpantry.counter import clock
from roundpantry.counter.models import SentForm
from roundpantry.counter.requests import Request

FIELD, MOST_LENGTH = "once", 40
KEPT = timedelta(days=2)  # nobody presses Back after two days and sends a form again


def answered_before(request: Request) -> HttpResponse | None:
    """The answer that a form with this token was given; None where it is the first. Asked inside
    the transaction.
    """
    found = SentForm.objects.filter(
        practitioner_id=request.user.pk, token=request.POST[FIELD][:MOST_LENGTH]
    ).first()
    if found is None:
        return None
    if request.htmx:
        return HttpResponse(
            status=204, headers={"HX-Redirect": found.led_to} if found.led_to else {}
        )
    return redirect(found.led_to or request.path)


def remember_answer(request: Request, response: HttpResponse) -> None:
    """Keep where the answer leads; "" for a fragment, which was shown already. A refused form may
    be mended and sent again.
    """
    led_to = response.get("Location") or response.get("HX-Redirect") or ""
    if response.status_code in (302, 204) or (request.htmx and response.status_code == 200):
        mine = SentForm.objects.filter(practitioner_id=request.user.pk)
        mine.filter(sent_at__lt=clock.now() - KEPT).delete()
        mine.create(
            practitioner_id=request.user.pk,
            token=request.POST[FIELD][:MOST_LENGTH],
            led_to=led_to[:400],
        )


def is_sent_once(request: Request) -> bool:
    """True for a form that carries a token."""
    return (
        request.method == "POST" and request.user.is_authenticated and bool(request.POST.get(FIELD))
    )


def only_once(request: Request, make: Callable[[], HttpResponse]) -> HttpResponse:
    """Run a view for a form with a token: the first time it makes something, every other time it
    leads there.
    """
    with transaction.atomic():
        before = answered_before(request)
        if before is not None:
            return before
        response = make()
        remember_answer(request, response)
        return response
