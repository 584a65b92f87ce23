"""Pages that belong to no step."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.template.loader import render_to_string


def not_found(request: HttpRequest, exception: Exception) -> HttpResponse:
    """The page for an address that leads nowhere, or to somebody else's client."""
    return render(request, "counter/404.html", status=404)


def failed(request: HttpRequest) -> HttpResponse:
    """The page for an error of the program, with the number under which the log speaks of it."""
    page = render_to_string("counter/500.html", {"name": getattr(request, "name", "unknown")})
    return HttpResponse(page, status=500)
