"""The program's addresses, and two baselines: an empty view and a fragment with one query."""

from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.urls import path

from roundpantry.clients.models import Client
from roundpantry.config.urls import urlpatterns as program


def empty(request: HttpRequest) -> HttpResponse:
    """Nothing but the way in and out."""
    return HttpResponse("ok")


def fragment(request: HttpRequest) -> HttpResponse:
    """One query of its own and a small template, behind the same login as everything."""
    rows = [
        (c.name, c.caution_list) for c in Client.objects.filter(practitioner_id=request.user.pk)
    ]
    return render(request, "bench/fragment.html", {"rows": rows})


urlpatterns = [*program, path("bench/empty/", empty), path("bench/fragment/", fragment)]
