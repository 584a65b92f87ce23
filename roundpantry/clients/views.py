"""Pages of clients: list, add, page, change."""

from __future__ import annotations

from django.http import HttpResponse, JsonResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from dietetics.errors import DieteticsError
from dietetics.targets.schools import schools
from roundpantry.clients import services
from roundpantry.clients.context import take_up, work_with
from roundpantry.clients.forms import ClientForm, DeleteForm, OwnSchoolForm
from roundpantry.clients.records import (
    client_json,
    client_mark,
    clients_of,
    left_after_erasing,
    own_schools_of,
    uncounted_supplements,
)
from roundpantry.counter.requests import Request, page_it_stood_on, posted
from roundpantry.counter.seen import BothTexts, both_texts

ERASED = "left-after-erasing"  # in the session: days and kinds of files, nothing of a client


@require_http_methods(["GET", "POST"])
def client_new(request: Request) -> HttpResponse:
    """Add a client, then go on to the targets."""
    request.whose = None  # nobody else's name and allergies stand above a new client
    form = ClientForm(request.user, posted(request))
    if request.method == "POST" and form.is_valid():
        client = services.add_client(request.user, **form.facts())
        work_with(request, client)
        return redirect("targets:edit", client.pk)
    return render(request, "clients/form.html", {"form": form}, status=422 if form.errors else 200)


@require_http_methods(["GET", "POST"])
def client_change(request: Request, pk: int) -> HttpResponse:
    """Change a client's facts."""
    client = get_object_or_404(clients_of(request.user), pk=pk)
    take_up(request, client)
    form = ClientForm(request.user, posted(request), instance=client)
    both: list[BothTexts] = []
    if request.method == "POST" and form.is_valid():
        try:
            services.change_client(client, form.seen_mark(), **form.facts())
            return redirect("clients:detail", client.pk)
        except DieteticsError as error:
            form.add_error(None, str(error))
            if error.code == "client-moved-on":
                stored = clients_of(request.user).get(pk=pk)
                both = both_texts(form, ClientForm(request.user, instance=stored))
    if form.errors:
        client.refresh_from_db()
    context = {"form": form, "client": client, "mark": client_mark(client), "both": both}
    context["there"] = reverse("clients:change", args=[pk])
    return render(request, "clients/form.html", context, status=422 if form.errors else 200)


@require_safe
def client_detail(request: Request, pk: int) -> HttpResponse:
    """A client's page; the steps of their work each add a card to it."""
    client = get_object_or_404(clients_of(request.user), pk=pk)
    take_up(request, client)
    context = {"client": client, "uncounted": uncounted_supplements(client)}
    return render(request, "clients/detail.html", context)


@require_POST
def client_choose(request: Request, pk: int) -> HttpResponse:
    """Work with this client from now on."""
    client = get_object_or_404(clients_of(request.user), pk=pk)
    work_with(request, client)
    return redirect(page_it_stood_on(request) or reverse("clients:detail", args=[pk]))


@require_POST
def client_archive(request: Request, pk: int) -> HttpResponse:
    """Put a client away, or take them up again."""
    client = get_object_or_404(clients_of(request.user), pk=pk)
    services.archive_client(client, not client.archived)
    return redirect(
        "today:today" if client.archived else "clients:detail",
        *([] if client.archived else [client.pk]),
    )


@require_http_methods(["GET", "POST"])
def client_delete(request: Request, pk: int) -> HttpResponse:
    """Delete a client for good; the name must be typed. What cannot be reached is listed before and
    after.
    """
    client = get_object_or_404(clients_of(request.user), pk=pk)
    form, status, left = DeleteForm(posted(request)), 200, left_after_erasing(client)
    if request.method == "POST":
        if form.is_valid() and form.cleaned_data["name"] == client.name.strip():
            services.delete_client(client)
            request.session[ERASED] = left
            return redirect("clients:erased")
        form.add_error("name", "Not deleted: this is not the client's name.")
        status = 422
    context = {"client": client, "form": form, "left": left}
    return render(request, "clients/delete.html", context, status=status)


@require_safe
def client_erased(request: Request) -> HttpResponse:
    """What is left of the client who was deleted last, outside of the program."""
    return render(request, "clients/erased.html", {"left": request.session.get(ERASED, [])})


@require_safe
def client_export(request: Request, pk: int) -> HttpResponse:
    """Everything stored about a client, as JSON."""
    client = get_object_or_404(clients_of(request.user), pk=pk)
    answer = JsonResponse(
        client_json(client), json_dumps_params={"indent": 1, "ensure_ascii": False}
    )
    answer["Content-Disposition"] = f'attachment; filename="client-{client.pk}.json"'
    return answer


@require_http_methods(["GET", "POST"])
def own_schools(request: Request) -> HttpResponse:
    """The common schools, and those the practitioner derived."""
    form = OwnSchoolForm(posted(request))
    if request.method == "POST" and form.is_valid():
        services.add_school(request.user, **form.cleaned_data)
        return redirect("clients:schools")
    context = {"form": form, "common": schools().values(), "own": own_schools_of(request.user)}
    return render(request, "clients/schools.html", context, status=422 if form.errors else 200)
