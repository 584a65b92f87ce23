"""Pages of targets: the client's page with what they should get, and the form to change it."""

from __future__ import annotations

from django.contrib import messages
from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from dietetics.errors import DieteticsError
from roundpantry.clients.context import take_up
from roundpantry.clients.records import clients_of, school_choices
from roundpantry.clients.services import acknowledge as record_acknowledgement
from roundpantry.counter.forms import ReasonForm
from roundpantry.counter.requests import Request, name_of, page_it_stood_on
from roundpantry.targets import services
from roundpantry.targets.forms import TargetsForm
from roundpantry.targets.page import (
    change_rows,
    clinician_context,
    two_schools_page,
    watched_rows,
)
from roundpantry.targets.records import client_cautions_of, newest_set
from roundpantry.targets.renewal import plan_or_none


@require_http_methods(["GET", "POST"])
def edit(request: Request, client_pk: int) -> HttpResponse:
    """Type the windows and meals; saving makes a new version."""
    client = get_object_or_404(clients_of(request.user), pk=client_pk)
    take_up(request, client)
    present, plan = newest_set(client), plan_or_none(client)
    form = TargetsForm(request.POST if request.method == "POST" else None, present, plan)
    if request.method == "POST" and form.is_valid():
        given = form.cleaned_data
        services.set_targets(
            client,
            form.windows(),
            form.meals(),
            given["reason"],
            given["clinician"],
            given["clinician_on"],
        )
        if present is None and not client.bowls.exists():
            messages.success(request, "Targets saved. Create a first bowl from a pattern.")
            return redirect("bowls:patterns")
        return redirect("clients:detail", client.pk)
    context = {
        "client": client,
        "form": form,
        "present": present,
        "plan": plan,
        "watched": watched_rows(plan),
        "changes": change_rows(client) if present else [],
        **clinician_context(plan),
    }
    return render(request, "targets/edit.html", context, status=422 if form.errors else 200)


@require_POST
def renew(request: Request, client_pk: int) -> HttpResponse:
    """Take the targets that the record as it is now proposes."""
    client = get_object_or_404(clients_of(request.user), pk=client_pk)
    made = services.renew_targets(client)
    if made is None:
        messages.error(request, "There is nothing to renew: the record contradicts itself.")
    else:
        messages.success(request, f"Targets renewed: version {made.number}.")
    return redirect(page_it_stood_on(request) or reverse("clients:detail", args=[client.pk]))


@require_safe
def two_schools(request: Request, client_pk: int) -> HttpResponse:
    """The same client under their school and another, side by side."""
    client = get_object_or_404(clients_of(request.user), pk=client_pk)
    take_up(request, client)
    others = [pair for pair in school_choices(request.user) if pair[0] != client.school]
    chosen = request.GET.get("with", others[0][0])
    if chosen not in dict(others):
        raise Http404("no such school")
    try:
        compared = two_schools_page(client, chosen)
    except DieteticsError as error:
        messages.error(request, f"Nothing can be compared: {error}")
        return redirect("clients:detail", client.pk)
    return render(request, "targets/schools.html", {"client": client, "others": others, **compared})


@require_POST
def acknowledge(request: Request, client_pk: int) -> HttpResponse:
    """Take note of a caution of the client, with a reason and a name."""
    client = get_object_or_404(clients_of(request.user), pk=client_pk)
    form = ReasonForm(request.POST)
    sound = form.is_valid()
    raised = [caution for caution, _ in client_cautions_of(client)]
    caution = next((c for c in raised if c.key == form.cleaned_data.get("key")), None)
    if caution is None:
        raise Http404("no such caution")
    if not sound:
        messages.error(request, f"{form.problem()} It was for “{caution.text}”")
    else:
        reason, by = form.cleaned_data["reason"], name_of(request.user)
        record_acknowledgement(client, "client", caution, reason, by)
    return redirect("clients:detail", client.pk)
