"""The week's pages: parse, call, render."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import timedelta
from typing import Any

from django.http import Http404, HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from dietetics.composition.search import index_of
from dietetics.errors import DieteticsError
from dietetics.week.daynames import WEEKDAYS, start_days_on
from dietetics.week.question.question import LIKING_WORDS
from roundpantry.clients.context import take_up
from roundpantry.clients.models import Client
from roundpantry.clients.records import clients_of
from roundpantry.clients.services import acknowledge
from roundpantry.counter import clock
from roundpantry.counter.forms import ReasonForm, problem_of
from roundpantry.counter.requests import Request, name_of, posted
from roundpantry.counter.typed_numbers import row_number
from roundpantry.counter.why_drawer import render_why
from roundpantry.shelf.records import preferences_of, shelf_of
from roundpantry.targets.renewal import changed_names
from roundpantry.weeks import day_page, services, week_drawer
from roundpantry.weeks.cell_changes import ACTIONS
from roundpantry.weeks.forms import CellChangeForm, DishChoiceForm, NewWeekForm
from roundpantry.weeks.models import Week
from roundpantry.weeks.records import (
    WeekTargets,
    available_dishes,
    earlier_uses,
    week_targets_of,
    weeks_of,
)
from roundpantry.weeks.week_page import week_page
from roundpantry.weeks.week_snapshot import cautions_of, snapshot_of, week_scope

KEPT_FIELDS = ("day", "meal", "dish", "name", "scale")
MOVED_ON = (
    "Not done: this week was changed in another window. You now see the latest version. "
    "Try again: {what}."
)


def client_or_404(request: Request, pk: int) -> Client:
    """A client of this practitioner, taken up."""
    client = clients_of(request.user).filter(pk=pk).first()
    if client is None:
        raise Http404("no such client")
    take_up(request, client)
    return client


def week_or_404(request: Request, pk: int) -> Week:
    """A week of this practitioner's clients, its client taken up."""
    week = weeks_of(request.user).filter(pk=pk).first()
    if week is None:
        raise Http404("no such week")
    take_up(request, week.client)
    start_days_on(week.start.weekday())
    return week


def render_week(
    request: Request,
    week: Week,
    refused: str = "",
    said: str = "",
    blocked: Mapping[str, object] | None = None,
    typed: Mapping[str, object] | None = None,
) -> HttpResponse:
    """The whole page, or the week alone for a change made on it. `typed` are rules that were
    refused: they stay.
    """
    can_undo = week.frozen_at is None and week.was_changed
    context = week_page(week, refused, said) | {
        "can_undo": can_undo,
        "blocked": blocked,
        "typed": typed,
    }
    context["newer"] = services.version_begun(week)
    context["changed_targets"] = [] if week.frozen_at else changed_names(week.client)
    template = (
        "weeks/week_inner.html" if request.htmx and not request.htmx.boosted else "weeks/week.html"
    )
    return render(request, template, context, status=422 if refused else 200)


def moved_on(week: Week, what: str) -> str:
    """Why a change was not made: the week is another by now, or another version is the one to
    change.
    """
    newer = services.version_begun(week)
    if newer is None:
        return MOVED_ON.format(what=what)
    return (
        f"Not done: this week was handed over and version {newer.version} started from it. "
        "Change that version."
    )


def render_moved_on(request: Request, pk: int, what: str) -> HttpResponse:
    """The newest week, and what was not done."""
    week = week_or_404(request, pk)
    return render_week(request, week, moved_on(week, what))


@require_http_methods(["GET", "HEAD", "POST"])
def week_list(request: Request, client_pk: int) -> HttpResponse:
    """The client's weeks, and a new one."""
    client = client_or_404(request, client_pk)
    problem, form = "", NewWeekForm(posted(request))
    if form.is_valid():
        like = client.weeks.filter(pk=row_number(form.cleaned_data["like"])).first()
        try:
            made = services.add_week(client, form.cleaned_data["start"], like)
            return redirect("weeks:week", made.pk)
        except DieteticsError as error:
            problem = str(error)
    elif request.method == "POST":
        problem = problem_of(form)
    weeks = list(client.weeks.all())
    following = services.week_start(
        clock.today(), preferences_of(request.user).week_starts
    ) + timedelta(days=7)
    context = {
        "client": client,
        "weeks": weeks,
        "problem": problem,
        "start": str(form["start"].value() or following.isoformat()),
        "has_targets": week_targets_of(client) is not None,
        "first_weekday": WEEKDAYS[preferences_of(request.user).week_starts],
    }
    return render(request, "weeks/list.html", context, status=422 if problem else 200)


@require_safe
def week(request: Request, pk: int) -> HttpResponse:
    """Seven days by meals."""
    return render_week(request, week_or_404(request, pk))


@require_POST
def act(request: Request, pk: int, what: str) -> HttpResponse:
    """One change of the week."""
    now = week_or_404(request, pk)
    try:
        made = services.act(now, what, CellChangeForm(request.POST).change(), name_of(request.user))
    except services.MovedOnError:
        words = ACTIONS[what][0]
        return render_moved_on(request, pk, words)
    except DieteticsError as error:
        again = {
            "what": what,
            "fields": [(k, v) for k, v in request.POST.items() if k in KEPT_FIELDS],
        }
        return render_week(
            request, now, str(error), blocked=again if error.code == "allergen-blocked" else None
        )
    if made.pk != pk:
        response = HttpResponse(status=204)
        response["HX-Redirect"] = reverse("weeks:week", args=[made.pk])
        return response if request.htmx else redirect("weeks:week", made.pk)
    if not request.htmx:
        return redirect("weeks:week", pk)
    return render_week(request, week_or_404(request, pk), said=ACTIONS[what][0])


@require_POST
def note(request: Request, pk: int) -> HttpResponse:
    """Take note of a caution of the week, with a reason and a name."""
    now, form = week_or_404(request, pk), ReasonForm(request.POST)
    sound = form.is_valid()
    raised = [caution for caution, _ in cautions_of(snapshot_of(now))]
    caution = next((c for c in raised if c.key == form.cleaned_data.get("key")), None)
    if caution is None:
        raise Http404("no such caution")
    if not sound:
        return render_week(request, now, form.problem())
    reason, by = form.cleaned_data["reason"], name_of(request.user)
    acknowledge(now.client, week_scope(now), caution, reason, by)
    return render_week(request, now, said="noted")


@require_POST
def undo(request: Request, pk: int) -> HttpResponse:
    """Take the last change back."""
    passed = services.undo(week_or_404(request, pk))
    return render_week(
        request, week_or_404(request, pk), refused=passed, said="" if passed else "undone"
    )


@require_safe
def cell(request: Request, pk: int, day: int, meal: int) -> HttpResponse:
    """One cell beside the week."""
    try:
        return render(
            request,
            "weeks/cell_panel.html",
            week_drawer.cell_panel(week_or_404(request, pk), day, meal),
        )
    except DieteticsError as error:
        raise Http404(str(error)) from None


@require_safe
def foods(request: Request, pk: int, day: int, meal: int) -> HttpResponse:
    """Foods of the shelf by what was typed, to be put beside."""
    week_or_404(request, pk)
    words = request.GET.get("q", "").strip()[:60]
    found = [hit.food for hit in index_of(shelf_of(request.user)).search(words, 6)] if words else []
    return render(request, "weeks/foods.html", {"foods": found, "q": words})


@require_safe
def pot(request: Request, pk: int, key: str) -> HttpResponse:
    """One batch beside the week."""
    try:
        return render(
            request, "weeks/pot_panel.html", week_drawer.pot_panel(week_or_404(request, pk), key)
        )
    except DieteticsError as error:
        raise Http404(str(error)) from None


@require_safe
def pots(request: Request, pk: int) -> HttpResponse:
    """Every batch that could be cooked."""
    now = week_or_404(request, pk)
    return render(
        request, "weeks/pots_panel.html", {"week": now, "pots": week_drawer.pots_offered(now)}
    )


@require_safe
def day(request: Request, pk: int, number: int) -> HttpResponse:
    """One day on a page of its own."""
    try:
        return render(
            request, "weeks/day.html", day_page.day_page(week_or_404(request, pk), number)
        )
    except DieteticsError as error:
        raise Http404(str(error)) from None


@require_safe
def why_day(request: Request, pk: int, number: int, key: str) -> HttpResponse:
    """How a figure of a day was found."""
    try:
        return render_why(request, day_page.why_day(week_or_404(request, pk), number, key))
    except DieteticsError as error:
        raise Http404(str(error)) from None


@require_http_methods(["GET", "HEAD", "POST"])
def favourites(request: Request, client_pk: int) -> HttpResponse:
    """What the client likes, and how often it may come."""
    client = client_or_404(request, client_pk)
    week_targets = week_targets_of(client)
    if week_targets is None:
        return render(
            request, "weeks/favourites.html", {"client": client, "rows": [], "no_targets": True}
        )
    meals = [meal.name for meal in week_targets.meals]
    rows = _favourite_rows(client, week_targets)
    problem = ""
    if request.method == "POST":
        problem = _saved_favourites(request, client, rows, meals)
        if not problem:
            return redirect("weeks:favourites", client.pk)
    context = {
        "client": client,
        "rows": rows,
        "problem": problem,
        "likings": LIKING_WORDS.items(),
        "meals": meals,
    }
    return render(request, "weeks/favourites.html", context, status=422 if problem else 200)


def _favourite_rows(client: Client, week_targets: WeekTargets) -> list[dict[str, Any]]:
    newest = client.weeks.first()
    seen = (
        earlier_uses(Week(client=client, start=newest.start + timedelta(days=1))) if newest else {}
    )
    available = available_dishes(client, everything=True)
    return week_drawer.favourites(client, available, week_targets, seen)


def _saved_favourites(
    request: Request, client: Client, rows: list[dict[str, Any]], meals: list[str]
) -> str:
    """Save every row that was changed, or none: what is wrong with them, in words. What was typed
    goes into the rows.
    """
    posted = set(request.POST.getlist("dish"))
    problems = [] if posted <= {row["key"] for row in rows} else ["That dish doesn't exist."]
    changed = {}
    for row in rows:
        if row["key"] not in posted:
            continue
        form = DishChoiceForm(request.POST, row["key"], meals)
        if not form.is_valid():
            problems.append(f"{row['name']}: {problem_of(form)}")
        elif form.is_other_than(row):
            changed[row["key"]] = form.choice()
        row.update(form.typed())
    if not problems:
        services.set_choices(client, changed)
    return " ".join(problems)


@require_POST
def remove(request: Request, pk: int) -> HttpResponse:
    """Remove a week for good."""
    now = week_or_404(request, pk)
    client_pk = now.client_id
    services.remove_week(now)
    return redirect("weeks:list", client_pk)
