"""Adjusting: what may be changed, taken by a press and taken back."""

from __future__ import annotations

from datetime import timedelta

from django.contrib import messages
from django.http import Http404, HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST, require_safe

from dietetics.errors import DieteticsError
from dietetics.follow.proposals import Proposal
from roundpantry.clients.models import Client
from roundpantry.counter import clock
from roundpantry.counter.requests import Request, name_of
from roundpantry.follow import services
from roundpantry.follow.adjust_page import adjust_page
from roundpantry.follow.forms import CodeForm
from roundpantry.follow.records import taken_of
from roundpantry.weeks.services import add_week
from roundpantry.weeks.views import client_or_404


@require_safe
def adjust(request: Request, client_pk: int) -> HttpResponse:
    """Everything together, and what may be changed."""
    return _adjust(request, client_or_404(request, client_pk))


def _adjust(request: Request, client: Client, problem: str = "") -> HttpResponse:
    context = adjust_page(client) | {"problem": problem}
    return render(request, "follow/adjust.html", context, status=422 if problem else 200)


def _proposal(client: Client, code: str) -> Proposal:
    """A proposal that stands now. Raises `proposal-gone`."""
    offered: tuple[Proposal, ...] = adjust_page(client)["proposals"]
    found = next((one for one in offered if one.code == code), None)
    if found is None or not found.can_be_taken:
        raise DieteticsError("proposal-gone")
    return found


@require_POST
def take(request: Request, client_pk: int) -> HttpResponse:
    """Take a proposal: new targets, or another agreed pace."""
    client, form = client_or_404(request, client_pk), CodeForm(request.POST)
    try:
        if not form.is_valid():
            raise DieteticsError("proposal-gone")
        taken = services.take_proposal(
            client, _proposal(client, form.cleaned_data["code"]), name_of(request.user)
        )
    except DieteticsError as error:
        return _adjust(request, client, str(error))
    messages.success(request, f"Taken: {taken.title}.")
    return redirect("follow:adjust", client.pk)


@require_POST
def take_back(request: Request, client_pk: int, taken_pk: int) -> HttpResponse:
    """Put things back as they were before a proposal was taken."""
    client = client_or_404(request, client_pk)
    taken = taken_of(client).filter(pk=taken_pk).first()
    if taken is None:
        raise Http404("nothing of the kind was taken")
    try:
        services.take_back(taken)
    except DieteticsError as error:
        return _adjust(request, client, str(error))
    messages.success(request, f"Taken back: {taken.title}.")
    return redirect("follow:adjust", client.pk)


@require_POST
def next_week(request: Request, client_pk: int) -> HttpResponse:
    """Begin the week after the last one, like it, to be planned with the present targets."""
    client = client_or_404(request, client_pk)
    last = client.weeks.first()
    today = clock.today()
    if last is None:
        return _adjust(request, client, "There is no week yet that the next one could be like.")
    start = last.start
    while start <= today:
        start += timedelta(days=7)
    start = max(start, last.start + timedelta(days=7))
    try:
        made = add_week(client, start, last)
    except DieteticsError as error:
        return _adjust(request, client, str(error))
    messages.success(request, "Begun like the week before. Press Plan to fit it to the targets.")
    return redirect("weeks:week", made.pk)
