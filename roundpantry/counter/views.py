"""Pages that belong to no step."""

from __future__ import annotations

from django.http import HttpRequest, HttpResponse
from django.shortcuts import render


def not_found(request: HttpRequest, exception: Exception) -> HttpResponse:
    """The page for an address that leads nowhere, or to somebody else's client."""
    return render(request, "counter/404.html", status=404)
