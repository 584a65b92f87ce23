"""An evening while it is cooked: begin, the next step, presses, the end."""

from __future__ import annotations

from typing import Any

from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST, require_safe

from dietetics.errors import DieteticsError
from roundpantry.counter import clock
from roundpantry.counter.forms import problem_of
from roundpantry.counter.requests import Request
from roundpantry.prep import services
from roundpantry.prep.forms import PressForm
from roundpantry.prep.models import CookingEvening
from roundpantry.prep.records import evening_row, evening_value
from roundpantry.prep.run_page import run_page
from roundpantry.prep.views import day_or_404, render_evening
from roundpantry.weeks.models import Week
from roundpantry.weeks.views import week_or_404


@require_POST
def begin(request: Request, pk: int, number: int) -> HttpResponse:
    """Start to cook now."""
    week = week_or_404(request, pk)
    day = day_or_404(week, number)
    try:
        found = evening_value(week, day, proven=True).timetable
    except DieteticsError as error:
        return render_evening(request, week, day, str(error))
    services.start_run(week, day, found, clock.now())
    return redirect("prep:run", week.pk, number)


@require_safe
def run(request: Request, pk: int, number: int) -> HttpResponse:
    """The next step, what waits, and what comes after."""
    week = week_or_404(request, pk)
    row = evening_row(week, number - 1)
    if row.run is None:
        return redirect("prep:week", week.pk)
    return _shown(request, week, row)


def _shown(request: Request, week: Week, row: CookingEvening, problem: str = "") -> HttpResponse:
    """The run's page, or the run alone for a press made on it."""
    page: dict[str, Any]
    try:
        page = run_page(week, row, clock.now())
    except DieteticsError as error:
        page = {"week": week, "number": row.day + 1, "broken": True}
        problem = problem or str(error)
    inner = request.htmx and not request.htmx.boosted
    template = "prep/run_inner.html" if inner else "prep/run.html"
    return render(request, template, page | {"problem": problem}, status=422 if problem else 200)


@require_POST
def press(request: Request, pk: int, number: int) -> HttpResponse:
    """One press while cooking."""
    week = week_or_404(request, pk)
    row, form = evening_row(week, number - 1), PressForm(request.POST)
    if row.pk is None or row.run is None:
        return _shown(request, week, row)
    if not form.is_valid():
        return _shown(request, week, row, f"Not understood. {problem_of(form)}")
    try:
        services.press(row, form.cleaned_data["what"], form.cleaned_data["task"], clock.now())
    except DieteticsError as error:
        row.refresh_from_db()
        return _shown(request, week, row, str(error))
    row.refresh_from_db()
    if request.htmx:
        return _shown(request, week, row)
    return redirect("prep:run", week.pk, number)


@require_POST
def stop(request: Request, pk: int, number: int) -> HttpResponse:
    """Put the run away."""
    week = week_or_404(request, pk)
    row = evening_row(week, number - 1)
    if row.pk is not None:
        services.stop_run(row)
    return redirect("prep:week", week.pk)
