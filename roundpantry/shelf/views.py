"""The shelf's list with its search, and a food's page."""

from __future__ import annotations

from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import render
from django.views.decorators.http import require_safe

from dietetics.composition.foods import load_shelf
from dietetics.errors import DieteticsError
from roundpantry.shelf.listing import food_page, found_rows, group_rows

MOST_FOUND = 40


@require_safe
def shelf_list(request: HttpRequest) -> HttpResponse:
    """All groups, or what a search finds; the fragment alone while one types."""
    query = request.GET.get("q", "")[:100]
    context = {"query": query, "found": found_rows(query, MOST_FOUND) if query.strip() else None}
    if request.htmx and not request.htmx.boosted and not request.htmx.history_restore_request:
        return render(request, "shelf/found.html", context)
    return render(request, "shelf/list.html", {**context, "groups": group_rows()})


@require_safe
def food(request: HttpRequest, key: str) -> HttpResponse:
    """One food: figures per 100 g and per measure, its measures, yields and source."""
    try:
        found = load_shelf().food(key)
    except DieteticsError as error:
        raise Http404(str(error)) from None
    return render(request, "shelf/food.html", food_page(found))
