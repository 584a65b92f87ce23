"""Pages of targets: the client's page with what they should get, and the form to change it."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.views.decorators.http import require_http_methods

from roundpantry.clients.context import take_up
from roundpantry.clients.records import clients_of
from roundpantry.targets import services
from roundpantry.targets.forms import TargetsForm
from roundpantry.targets.records import newest_set


@require_http_methods(["GET", "POST"])
def edit(request: HttpRequest, client_pk: int) -> HttpResponse:
    """Type the windows and meals; saving makes a new version."""
    client = get_object_or_404(clients_of(request.user), pk=client_pk)
    take_up(request, client)
    present = newest_set(client)
    form = TargetsForm(request.POST if request.method == "POST" else None, present)
    if request.method == "POST" and form.is_valid():
        services.set_targets(client, form.windows(), form.meals())
        return redirect("clients:detail", client.pk)
    context = {"client": client, "form": form, "present": present}
    return render(request, "targets/edit.html", context, status=422 if form.errors else 200)
