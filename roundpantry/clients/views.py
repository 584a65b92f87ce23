"""Pages of clients: list, add, page, change."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.views.decorators.http import require_http_methods, require_safe

from roundpantry.clients import services
from roundpantry.clients.context import take_up
from roundpantry.clients.forms import ClientForm
from roundpantry.clients.records import clients_of


@require_safe
def client_list(request: HttpRequest) -> HttpResponse:
    """All clients of the practitioner."""
    return render(request, "clients/list.html", {"clients": clients_of(request.user)})


@require_http_methods(["GET", "POST"])
def client_new(request: HttpRequest) -> HttpResponse:
    """Add a client, then go on to the targets."""
    form = ClientForm(request.POST or None)
    if request.method == "POST" and form.is_valid():
        client = services.add_client(request.user, **form.cleaned_data)
        return redirect("targets:edit", client.pk)
    return render(request, "clients/form.html", {"form": form}, status=422 if form.errors else 200)


@require_http_methods(["GET", "POST"])
def client_change(request: HttpRequest, pk: int) -> HttpResponse:
    """Change a client's facts."""
    client = get_object_or_404(clients_of(request.user), pk=pk)
    take_up(request, client)
    form = ClientForm(request.POST or None, instance=client)
    if request.method == "POST" and form.is_valid():
        services.change_client(client, **form.cleaned_data)
        return redirect("clients:detail", client.pk)
    if form.errors:
        client.refresh_from_db()
    return render(request, "clients/form.html", {"form": form, "client": client}, status=422 if form.errors else 200)


@require_safe
def client_detail(request: HttpRequest, pk: int) -> HttpResponse:
    """A client's page; the steps of their work each add a card to it."""
    client = get_object_or_404(clients_of(request.user), pk=pk)
    take_up(request, client)
    return render(request, "clients/detail.html", {"client": client})
