"""An evening's pages: plan, sheet, labels, kitchen, tasks corrected. Parse, call, render."""

from __future__ import annotations

from django.http import Http404, HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST, require_safe

from dietetics.errors import DieteticsError
from roundpantry.counter.forms import problem_of
from roundpantry.counter.requests import Request
from roundpantry.prep import services
from roundpantry.prep.calendar_file import as_calendar
from roundpantry.prep.evening_labels import labels_of_evening
from roundpantry.prep.evening_page import (
    dish_card,
    evening_name,
    evening_page,
    plain_card,
    week_evenings,
)
from roundpantry.prep.forms import KitchenForm, StartForm, TaskForm
from roundpantry.prep.plain_evenings import evenings_of, plain_on
from roundpantry.prep.records import (
    cooked_on,
    day_of,
    evening_value,
    kitchen_of,
)
from roundpantry.weeks.models import Week
from roundpantry.weeks.records import plan_value
from roundpantry.weeks.views import client_or_404, week_or_404


@require_safe
def of_client(request: Request, client_pk: int) -> HttpResponse:
    """Prep for the client's newest week."""
    week = client_or_404(request, client_pk).weeks.first()
    if week is None:
        return render(request, "prep/no_week.html")
    return redirect("prep:week", week.pk)


@require_safe
def week_prep(request: Request, pk: int) -> HttpResponse:
    """The first cooking evening of a week, or that there is none."""
    week = week_or_404(request, pk)
    evenings = evenings_of(plan_value(week))
    if not evenings:
        return render(request, "prep/no_evening.html", {"week": week})
    return redirect("prep:evening", week.pk, evenings[0] + 1)


def day_or_404(week: Week, number: int) -> int:
    """The day of an evening by its number in the address: 0 is the evening before the week."""
    if number - 1 not in evenings_of(plan_value(week)):
        raise Http404("nothing is cooked on that evening")
    return number - 1


@require_safe
def evening(request: Request, pk: int, number: int) -> HttpResponse:
    """An evening: a good timetable at once."""
    week = week_or_404(request, pk)
    return render_evening(request, week, day_or_404(week, number))


def render_evening(
    request: Request,
    week: Week,
    day: int,
    problem: str = "",
    typed: dict[str, str] | None = None,
    proven: bool = False,
) -> HttpResponse:
    """The page of an evening, or the evening alone for a change made on it."""
    try:
        page = evening_page(week, day, proven)
    except DieteticsError as error:
        page = _unplanned(week, day)
        problem = problem or str(error)
    inner = request.htmx and not request.htmx.boosted
    template = "prep/evening_inner.html" if inner else "prep/evening.html"
    now, sent = page["kitchen"], typed or {}
    fields = [
        (name, field.label, sent.get(name, getattr(now, name)), getattr(field, "choices", ()))
        for name, field in KitchenForm().fields.items()
    ]
    context = page | {"problem": problem, "typed": sent, "kitchen_fields": fields}
    return render(request, template, context, status=422 if problem else 200)


def _unplanned(week: Week, day: int) -> dict[str, object]:
    """What can be shown of an evening that cannot be planned."""
    return {
        "week": week,
        "day": day,
        "number": day + 1,
        "name": evening_name(day),
        "date": day_of(week, day),
        "evenings": week_evenings(week, day),
        "kitchen": kitchen_of(week.client)[0],
        "lines": [],
    }


@require_safe
def proof(request: Request, pk: int, number: int) -> HttpResponse:
    """The same evening by the solver: the shortest timetable, proven or with its gap."""
    week = week_or_404(request, pk)
    day = day_or_404(week, number)
    if not request.htmx or request.htmx.boosted:
        return render_evening(request, week, day, proven=True)
    try:
        page = evening_page(week, day, proven=True)
    except DieteticsError as error:
        return render_evening(request, week, day, str(error))
    return render(request, "prep/plan.html", page)


@require_POST
def kitchen(request: Request, pk: int, number: int) -> HttpResponse:
    """What the client cooks with."""
    week = week_or_404(request, pk)
    day, form = day_or_404(week, number), KitchenForm(request.POST)
    if not form.is_valid():
        sent = {name: str(request.POST.get(name, ""))[:8] for name in form.fields}
        return render_evening(request, week, day, f"Not saved. {problem_of(form)}", sent)
    services.set_kitchen(week.client, form.cleaned_data)
    return done(request, week, day)


@require_POST
def start(request: Request, pk: int, number: int) -> HttpResponse:
    """When the evening begins or has to be over."""
    week = week_or_404(request, pk)
    day, form = day_or_404(week, number), StartForm(request.POST)
    if not form.is_valid():
        sent = {"time": str(request.POST.get("time", ""))[:12]}
        return render_evening(request, week, day, f"Not saved. {problem_of(form)}", sent)
    at = form.cleaned_data["time"]
    if form.cleaned_data["is_end"]:
        length = evening_value(week, day, proven=False).timetable.length
        at = services.start_for_end(at, length)
    services.set_start(week, day, at)
    return done(request, week, day)


@require_POST
def task(request: Request, pk: int, number: int, key: str) -> HttpResponse:
    """A task corrected by who cooks it."""
    week = week_or_404(request, pk)
    day, form = day_or_404(week, number), TaskForm(request.POST)
    found = evening_value(week, day, proven=False).timetable.asked.by_key.get(key)
    cooked, _ = cooked_on(week, day)
    batch = next((c.batch for c in cooked if key.startswith(f"batch-{c.batch.pk}-")), None)
    if found is None or batch is None:
        raise Http404("no such task on that evening")
    if not form.is_valid():
        sent = {name: str(request.POST.get(name, ""))[:12] for name in form.fields}
        problem = f"Not saved. {problem_of(form)}"
        return render_evening(request, week, day, problem, {"key": key, **sent})
    services.correct_task(batch, key, found.text, form.cleaned_data)
    return done(request, week, day)


def done(request: Request, week: Week, day: int) -> HttpResponse:
    """The evening after a change."""
    if request.htmx:
        return render_evening(request, week, day)
    return redirect("prep:evening", week.pk, day + 1)


@require_safe
def sheet(request: Request, pk: int, number: int) -> HttpResponse:
    """The evening by the clock, on paper, with a card for each dish."""
    week = week_or_404(request, pk)
    day = day_or_404(week, number)
    try:
        page = evening_page(week, day, proven=True)
    except DieteticsError as error:
        return render_evening(request, week, day, str(error))
    cooked, _ = cooked_on(week, day)
    cards = [dish_card(one) for one in cooked]
    cards += [plain_card(pot) for pot in plain_on(week, day)]
    return render(request, "prep/sheet.html", page | {"cards": cards})


@require_safe
def labels(request: Request, pk: int, number: int) -> HttpResponse:
    """Labels for every container of the evening."""
    week = week_or_404(request, pk)
    day = day_or_404(week, number)
    context = {"week": week, "number": number, "pages": labels_of_evening(week, day)}
    return render(request, "prep/labels.html", context)


@require_safe
def calendar(request: Request, pk: int) -> HttpResponse:
    """Cooking evenings, soaks and packing as a calendar file."""
    week = week_or_404(request, pk)
    response = HttpResponse(as_calendar(week), content_type="text/calendar; charset=utf-8")
    name = f"prep-{week.start.isoformat()}.ics"
    response["Content-Disposition"] = f'attachment; filename="{name}"'
    return response
