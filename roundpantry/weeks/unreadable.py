"""The page of a week that cannot be read: it says so, and offers a step back, the stored text, and
what can be saved.
"""

from __future__ import annotations

from collections.abc import Callable

from django.contrib import messages
from django.http import HttpResponse, JsonResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST, require_safe

from dietetics.errors import DieteticsError
from roundpantry.counter.requests import Request
from roundpantry.weeks import services
from roundpantry.weeks.records import UnreadableWeekError
from roundpantry.weeks.views import week_or_404


class UnreadableWeeks:
    """Whatever page meets such a week shows this one."""

    def __init__(self, get_response: Callable[[Request], HttpResponse]) -> None:
        self.get_response = get_response

    def __call__(self, request: Request) -> HttpResponse:
        return self.get_response(request)

    def process_exception(self, request: Request, exception: Exception) -> HttpResponse | None:
        """The page, for this one kind of error."""
        if isinstance(exception, UnreadableWeekError):
            return _page(request, exception.week.pk, exception.problem)
        return None


def _page(request: Request, pk: int, problem: str) -> HttpResponse:
    week = week_or_404(request, pk)
    context = {
        "week": week,
        "problem": problem,
        "can_undo": week.frozen_at is None and week.was_changed,
    }
    return render(request, "weeks/unreadable.html", context, status=422)


@require_safe
def stored(request: Request, pk: int) -> HttpResponse:
    """What is stored of a week, as it is."""
    week = week_or_404(request, pk)
    response = JsonResponse(
        {"start": week.start.isoformat(), "plan": week.plan, "rules": week.rules}
    )
    response["Content-Disposition"] = (
        f'attachment; filename="week-{week.start.isoformat()}-stored.json"'
    )
    return response


@require_POST
def repair(request: Request, pk: int) -> HttpResponse:
    """Keep what can be read of a week, and say what was left out."""
    week = week_or_404(request, pk)
    try:
        lost = services.repair(week)
    except DieteticsError as error:
        return _page(request, pk, f"Nothing of it can be downloaded: {error}")
    messages.warning(
        request, f"Kept what could be read. Left out: {', '.join(lost[:40]) or 'nothing'}."
    )
    return redirect("weeks:week", pk)
