"""The first page after login."""

from __future__ import annotations

from django.http import HttpResponse
from django.shortcuts import render
from django.views.decorators.http import require_safe

from roundpantry.counter.requests import Request
from roundpantry.today.page import today_page


@require_safe
def today(request: Request) -> HttpResponse:
    """The practitioner's clients; while they type in the search box, only the rows."""
    template = "today/rows.html" if request.htmx else "today/today.html"
    return render(request, template, today_page(request.user, request.GET.dict()))
