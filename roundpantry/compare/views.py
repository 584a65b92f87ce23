"""The page of two plates."""

from __future__ import annotations

from django.http import HttpResponse
from django.shortcuts import render
from django.views.decorators.http import require_safe

from roundpantry.clients.context import current_client
from roundpantry.compare.page import BY, WHENCE, plates_page
from roundpantry.compare.records import choices, side_of
from roundpantry.counter.requests import Request


@require_safe
def plates(request: Request) -> HttpResponse:
    """Up to four things side by side; the first two are drawn and told apart."""
    words = [request.GET.get(name, "") for name in "abcd"]
    client = current_client(request)
    sides = [
        side for word in words if word and (side := side_of(request.user, word, client)) is not None
    ]
    missing = [word for word in words if word and word not in {side.word for side in sides}]
    by, whence = request.GET.get("by", "energy"), request.GET.get("whence", "energy_kcal")
    context = plates_page(
        sides, by if by in BY else "energy", whence if whence in WHENCE else "energy_kcal"
    )
    context |= {
        "choices": choices(request.user, client, sides),
        "missing": missing,
        "chosen": [(name, word) for name, word in zip("abcd", words, strict=True)],
    }
    return render(request, "compare/plates.html", context)
