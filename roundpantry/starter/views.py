"""Add the starter pantry, or remove it."""

from __future__ import annotations

from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import redirect
from django.views.decorators.http import require_POST

from roundpantry.counter.requests import Request, page_it_stood_on
from roundpantry.starter import services


@require_POST
def add(request: Request) -> HttpResponse:
    """Add every starter that is missing."""
    batches, patterns = services.add_starters(request.user)
    messages.success(request, f"Added {batches} starter batches and {patterns} starter patterns.")
    return _back(request)


@require_POST
def remove(request: Request) -> HttpResponse:
    """Remove the starters that nothing uses."""
    removed = services.remove_starters(request.user)
    words = f"Removed {removed.batches} starter batches and {removed.patterns} starter patterns."
    if removed.in_use:
        words += f" Kept, because your bowls or batches use them: {', '.join(removed.in_use)}."
    messages.success(request, words)
    return _back(request)


def _back(request: Request) -> HttpResponse:
    """To the page the button stood on, where that is one of ours."""
    return redirect(page_it_stood_on(request) or "batches:list")
