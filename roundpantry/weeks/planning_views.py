"""A week by solver: a good one at once, a better one behind the page, why, and the ways out."""

from __future__ import annotations

from typing import Any

from django.http import Http404, HttpResponse
from django.shortcuts import render
from django.urls import reverse
from django.views.decorators.http import require_POST, require_safe

from dietetics.errors import DieteticsError
from roundpantry.counter.forms import problem_of
from roundpantry.counter.long_work import few_at_once
from roundpantry.counter.requests import Request
from roundpantry.counter.typed_numbers import whole
from roundpantry.weeks import planning, search_queue, services, week_drawer
from roundpantry.weeks.forms import CookingRulesForm, PlanForm, TakeWayForm
from roundpantry.weeks.models import Search, Week
from roundpantry.weeks.planning_facts import gather
from roundpantry.weeks.records import plan_value
from roundpantry.weeks.views import render_moved_on, render_week, week_or_404
from roundpantry.weeks.week_page import week_page

USUAL_SECONDS, MOST_SECONDS = 20, 120.0


def _asked(request: Request) -> dict[str, Any]:
    """What is asked of the planner; what could not be read counts as left out."""
    form = PlanForm(request.POST)
    form.is_valid()
    return {name: form.cleaned_data.get(name) for name in form.fields}


def _seen(request: Request) -> int:
    return _asked(request)["revision"] or 0


def _with_panel(
    request: Request, pk: int, template: str, panel: dict[str, Any], said: str
) -> HttpResponse:
    """The week and, out of band, what stands beside it."""
    now = week_or_404(request, pk)
    context = (
        week_page(now, said=said)
        | {"can_undo": now.was_changed, "panel": template}
        | panel
        | {"week": now}
    )
    return render(request, "weeks/week_and_panel.html", context)


@require_POST
@few_at_once
def plan(request: Request, pk: int) -> HttpResponse:
    """A good week at once; locked cells stay."""
    return _planned(request, week_or_404(request, pk), _seen(request))


def _planned(request: Request, now: Week, revision: int) -> HttpResponse:
    """Plan a week that was seen at this revision, store it and show it explained."""
    pk, other = now.pk, bool(_asked(request)["other"])
    try:
        made = planning.answer_for(now, other)
        stored = planning.store_found(now, revision, made.plan, "planned")
    except services.MovedOnError:
        return render_moved_on(request, pk, "a week planned")
    except DieteticsError as error:
        return render_week(request, now, str(error))
    if not request.htmx or stored.pk != pk:
        response = HttpResponse(
            status=302, headers={"Location": reverse("weeks:week", args=[stored.pk])}
        )
        if request.htmx:
            response = HttpResponse(
                status=204, headers={"HX-Redirect": reverse("weeks:week", args=[stored.pk])}
            )
        return response
    return _with_panel(
        request,
        pk,
        "weeks/explained.html",
        week_drawer.explained(stored, made.answer, planned=True) | {"changes": made.changes},
        "a week planned",
    )


@require_safe
def explain(request: Request, pk: int) -> HttpResponse:
    """The week as it stands: what binds, what is missed."""
    now = week_or_404(request, pk)
    try:
        answer = planning.answer_as_it_stands(gather(now))
    except DieteticsError as error:
        return render(request, "weeks/explained.html", {"week": now, "problem": str(error)})
    if answer is None:
        words = (
            f"{planning.in_the_way(gather(now))}: the planner can't use what is there. Lock that "
            "meal, then try again."
        )
        return render(request, "weeks/explained.html", {"week": now, "problem": words})
    return render(request, "weeks/explained.html", week_drawer.explained(now, answer))


@require_safe
def why(request: Request, pk: int, day: int, meal: int) -> HttpResponse:
    """Why a dish stands where it stands."""
    now = week_or_404(request, pk)
    try:
        return render(request, "weeks/why_here.html", week_drawer.why_here(now, day, meal))
    except DieteticsError as error:
        return render(request, "weeks/explained.html", {"week": now, "problem": str(error)})


@require_POST
def ways(request: Request, pk: int) -> HttpResponse:
    """Begin to look for the cheapest ways to a better week."""
    return _begun(request, week_or_404(request, pk), Search.WAYS)


@require_POST
@few_at_once
def take_way(request: Request, pk: int) -> HttpResponse:
    """Take a way out that is a rule of the week, or another dish, or one oftener, and plan
    again.
    """
    now = week_or_404(request, pk)
    if _seen(request) != now.revision:
        return render_moved_on(request, pk, "the change")
    form = TakeWayForm(request.POST)
    if not form.is_valid():
        return render_week(request, now, problem_of(form))
    kind, value = (form.cleaned_data[name] for name in ("kind", "value"))
    try:
        rules, choice = planning.way_taken(now, kind, value)
    except DieteticsError as error:
        return render_week(request, now, str(error))
    if choice is not None:
        services.set_choice(now.client, value, choice)
    return _replanned(request, pk, rules)


@require_POST
@few_at_once
def set_rules(request: Request, pk: int) -> HttpResponse:
    """Rules for this week: cooking evenings, batches an evening, variety, free meals."""
    now = week_or_404(request, pk)
    form = CookingRulesForm(request.POST, plan_value(now).meals)
    if not form.is_valid():
        typed = {name: form[name].value() or "" for name in form.fields}
        days = [whole(text, -1) for text in form["cooking_days"].value() or ()]
        return render_week(request, now, problem_of(form), typed={**typed, "days": days})
    return _replanned(request, pk, {**now.rules, **form.cleaned_data})


def _replanned(request: Request, pk: int, rules: dict[str, Any]) -> HttpResponse:
    """Store rules; the plan stays until it is asked for again."""
    now = week_or_404(request, pk)
    try:
        services.store(now, _seen(request), plan_value(now), "rules of the week", rules)
    except services.MovedOnError:
        return render_moved_on(request, pk, "rules of the week")
    if _asked(request)["plan"] == "yes":
        now = week_or_404(request, pk)
        return _planned(request, now, now.revision)
    return render_week(request, week_or_404(request, pk), said="rules of the week changed")


@require_POST
def search(request: Request, pk: int) -> HttpResponse:
    """Begin to look for a better week."""
    return _begun(request, week_or_404(request, pk), Search.PLAN)


def _begun(request: Request, now: Week, looks_for: str) -> HttpResponse:
    seconds = min(float(_asked(request)["seconds"] or USUAL_SECONDS), MOST_SECONDS)
    try:
        return _how_far(request, search_queue.start_search(now, seconds, looks_for))
    except DieteticsError as error:
        return render(request, "weeks/explained.html", {"week": now, "problem": str(error)})


def _how_far(request: Request, found: Search) -> HttpResponse:
    """How far a search is, and what it has found."""
    if found.looks_for == Search.WAYS:
        try:
            return render(request, "weeks/ways.html", week_drawer.ways_of(found))
        except DieteticsError as error:  # its dishes may be gone
            page = {"week": found.week, "problem": str(error)}
            return render(request, "weeks/explained.html", page)
    return render(request, "weeks/progress.html", week_drawer.progress(found))


def _search_or_404(request: Request, pk: int, search_pk: int) -> Search:
    now = week_or_404(request, pk)
    found = Search.objects.filter(week=now, pk=search_pk).first()
    if found is None:
        raise Http404("no such search")
    found.week = now
    return found


@require_safe
def progress(request: Request, pk: int, search_pk: int) -> HttpResponse:
    """How far a search is."""
    return _how_far(request, _search_or_404(request, pk, search_pk))


@require_POST
def stop(request: Request, pk: int, search_pk: int) -> HttpResponse:
    """Stop a search; the best so far is kept."""
    found = _search_or_404(request, pk, search_pk)
    services.stop_search(found)
    return _how_far(request, _search_or_404(request, pk, search_pk))


@require_POST
def take(request: Request, pk: int, search_pk: int) -> HttpResponse:
    """Put the best week a search has found in the place of the one that is there."""
    found = _search_or_404(request, pk, search_pk)
    made = search_queue.found_plan(found)
    if made is None:
        return render_week(request, found.week, "Nothing was found yet.")
    try:
        stored = planning.store_found(found.week, found.revision, made, "better plan used")
    except services.MovedOnError:
        return render_moved_on(request, pk, "better plan used")
    except DieteticsError as error:
        return render_week(request, week_or_404(request, pk), str(error))
    if stored.pk != pk:
        return HttpResponse(
            status=204, headers={"HX-Redirect": reverse("weeks:week", args=[stored.pk])}
        )
    return render_week(request, week_or_404(request, pk), said="better plan used")
