"""A week given on: files, print, versions, the same week under another school."""

from __future__ import annotations

import logging
from typing import Any

from django.db import transaction
from django.http import Http404, HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST, require_safe

from dietetics.amounts.weighing import amount_text
from dietetics.dishes.cooking import storing_words
from dietetics.errors import DieteticsError
from dietetics.handover.gate import Obstacle
from dietetics.nutrients import nutrient
from dietetics.targets.windows import PLATE_KEYS, levels_of
from dietetics.week.day_totals import day_levels, mean_of
from dietetics.week.daynames import DAY_NAMES
from dietetics.week.plan import Plan
from roundpantry.clients.records import school_choices
from roundpantry.counter.forms import problem_of
from roundpantry.counter.levels import levels_html
from roundpantry.counter.long_work import few_uploads_at_once
from roundpantry.counter.requests import Request, name_of
from roundpantry.targets.records import proposal_of
from roundpantry.weeks import files, services
from roundpantry.weeks.forms import HandOverForm, TakeInForm
from roundpantry.weeks.gate import address_of, obstacles
from roundpantry.weeks.models import Week
from roundpantry.weeks.nutrients import verdicts_of
from roundpantry.weeks.records import plan_value, weeks_of
from roundpantry.weeks.version_differences import differences
from roundpantry.weeks.views import moved_on, render_moved_on, week_or_404
from roundpantry.weeks.week_page import heads_of, lanes_of, out_words, week_page
from roundpantry.weeks.week_snapshot import (
    WeekSnapshot,
    cautions_of,
    kept_of,
    left_overs,
    phosphorus_of_week,
    problems_of,
    snapshot_of,
)

LOG = logging.getLogger(__name__)


@require_safe
def export(request: Request, pk: int, kind: str) -> HttpResponse:
    """The week as a file."""
    week = week_or_404(request, pk)
    if kind not in files.WRITERS:
        raise Http404("no such kind of file")
    write, content_type = files.WRITERS[kind]
    response = HttpResponse(write(week), content_type=content_type)
    response["Content-Disposition"] = f'attachment; filename="week-{week.start.isoformat()}.{kind}"'
    return response


@require_POST
@few_uploads_at_once
def take_in(request: Request, pk: int) -> HttpResponse:
    """Put a plan from a file in the place of this week's."""
    week = week_or_404(request, pk)
    given = request.FILES.get("file")
    try:
        if given is None:
            raise DieteticsError("week-unreadable", problem="no file was chosen")
        plan, _ = files.read_plan(given.name or "", given.read(files.MOST_BYTES + 1))
        _same_shape(plan_value(week), plan)
        made = _stored_and_shown(request, week, plan)
    except services.MovedOnError:
        return _files(request, week, moved_on(week, "read from a file"))
    except DieteticsError as error:
        return _files(request, week, str(error))
    return redirect("weeks:week", made.pk)


def _stored_and_shown(request: Request, week: Week, plan: Plan) -> Week:
    """Store a plan out of a file; one that cannot be shown is not kept. Raises
    `week-unreadable`.
    """
    by, form = name_of(request.user), TakeInForm(request.POST)
    if not form.is_valid():
        raise DieteticsError("week-unreadable", problem=problem_of(form))
    seen, because = form.cleaned_data["revision"] or 0, form.cleaned_data["because"]
    with transaction.atomic():
        made = services.take_in(week, seen, plan, because, by)
        try:
            week_page(weeks_of(request.user).get(pk=made.pk))
        except (ValueError, ArithmeticError, LookupError, TypeError) as error:
            LOG.exception("a week from a file could not be shown and was not saved")
            problem = f"it could not be displayed ({type(error).__name__}), so it was not saved"
            raise DieteticsError("week-unreadable", problem=problem) from None
    return made


def _same_shape(now: Plan, new: Plan) -> None:
    if now.meals != new.meals or len(now.days) != len(new.days):
        problem = f"its meals are {', '.join(new.meals)} on {len(new.days)} days; "
        problem += f"this week has {', '.join(now.meals)} on {len(now.days)}"
        raise DieteticsError("week-unreadable", problem=problem)


def _files(request: Request, week: Week, problem: str = "") -> HttpResponse:
    return render(
        request,
        "weeks/files.html",
        {"week": week, "problem": problem},
        status=422 if problem else 200,
    )


@require_safe
def files_page(request: Request, pk: int) -> HttpResponse:
    """Files to take along, and one to read."""
    return _files(request, week_or_404(request, pk))


@require_safe
def print_page(request: Request, pk: int) -> HttpResponse:
    """The week on paper, with whose it is and what is to be minded."""
    week = week_or_404(request, pk)
    found = snapshot_of(week)
    rows = [
        {"name": name, "cells": [_printed(found, d, m) for d in range(len(found.plan.days))]}
        for m, name in enumerate(found.plan.meals)
    ]
    totals = [
        (f"{t.total['energy_kcal'].shown()}", f"{t.total['protein_g'].shown()}")
        if d in found.counted
        else ("", "")
        for d, t in enumerate(found.days)
    ]
    context = {
        "week": week,
        "heads": heads_of(found),
        "rows": rows,
        "totals": totals,
        "lanes": lanes_of(found),
        "cautions": [(f"{c.text} {c.action}", known) for c, known in cautions_of(found)],
        "phosphorus": phosphorus_of_week(found),
        "problems": problems_of(found),
        "left_overs": left_overs(found),
        "cookings": _cookings(found),
        "storing": storing_words(food for one in found.days for food, _ in one.foods),
    }
    return render(request, "weeks/print.html", context)


def _printed(found: WeekSnapshot, d: int, m: int) -> dict[str, Any]:
    cell = found.plan.days[d].cells[m]
    names = []
    for entry in cell.entries:
        dish = found.available.dishes.get(entry.dish)
        names.append(
            {
                "name": dish.name if dish else entry.name,
                "scale": "" if entry.scale == 1 else f"{amount_text(entry.scale)} × ",
            }
        )
    total = found.days[d].meals[m]
    return {
        "names": names,
        "skipped": cell.skipped,
        "energy": total["energy_kcal"].shown() if names else "",
    }


def _cookings(found: WeekSnapshot) -> list[tuple[str, list[str]]]:
    """What is cooked on which evening."""
    rows = []
    for day in sorted({c.day for c in found.plan.cookings if c.day >= -1}):
        pots = [c for c in found.plan.cookings if c.day == day]
        name = f"{DAY_NAMES[day]} evening" if day >= 0 else "The evening before"
        rows.append(
            (
                name,
                [
                    f"{amount_text(c.pots)} × {found.available.pots[c.batch].name}"
                    for c in pots
                    if c.batch in found.available.pots
                ],
            )
        )
    return rows


@require_safe
def under(request: Request, pk: int) -> HttpResponse:
    """The same week held against another school, beside the client's own."""
    week = week_or_404(request, pk)
    choices = school_choices(request.user)
    other = request.GET.get("school", "")
    if other not in dict(choices):
        other = next((key for key, _ in choices if key != week.client.school), choices[0][0])
    sides = [
        _side(week, week.client.school, dict(choices), own=True),
        _side(week, other, dict(choices), own=False),
    ]
    context = {"week": week, "sides": sides, "choices": choices, "other": other}
    return render(request, "weeks/under.html", context)


def _side(week: Week, key: str, names: dict[str, str], own: bool) -> dict[str, Any]:
    """A week under a school: the client's own targets for their own, the proposal of the other
    school for it.
    """
    found = snapshot_of(week, key)
    if found.week_targets is None:
        return {"name": names.get(key, key), "levels": [], "days": [], "asked": []}
    windows = found.week_targets.windows
    if not own:
        windows = tuple(t.window for t in proposal_of(week.client, key).targets)
    judged = tuple(w for w in windows if w.key in PLATE_KEYS and w.importance != "watch")
    mean = mean_of([found.days[d] for d in found.counted])
    days = []
    for d in found.counted:
        outs = [
            out_words(level)
            for level in day_levels(judged, found.days[d])
            if level.state in ("short", "over")
        ]
        days.append(
            (DAY_NAMES[d], outs, [one.words() for one in found.days[d].asked if not one.met])
        )
    met = {
        rule.rule.name: (
            sum(found.days[d].asked[n].met for d in found.counted),
            len(found.counted),
            rule.rule.why,
        )
        for n, rule in enumerate(found.days[0].asked)
    }
    return {
        "name": names.get(key, key),
        "own": own,
        "levels": levels_html(levels_of(judged, mean)) if mean else [],
        "days": days,
        "met": [(name, *counts) for name, counts in met.items()],
        "in_all": sum(not outs and not asked for _, outs, asked in days),
        "count": len(days),
    }


@require_POST
def hand_over(request: Request, pk: int) -> HttpResponse:
    """Freeze the week as it is given to the client, when nothing stops it and everything else in
    its way has a reason; the reasons are kept with it.
    """
    now, form = week_or_404(request, pk), HandOverForm(request.POST)
    if not form.is_valid():
        return _versions(request, now, problem_of(form))
    in_the_way = obstacles(snapshot_of(now))
    reasons = form.reasons()
    if any(one.is_stop for one in in_the_way):
        return _versions(request, now, "Not handed over: something has to be mended first.")
    if any(one.key not in reasons for one in in_the_way):
        return _versions(request, now, "Not handed over: give a reason for each of these.")
    by = name_of(request.user)
    known = [
        {"key": one.key, "words": one.words, "reason": reasons[one.key], "by": by}
        for one in in_the_way
    ]
    try:
        kept = {**kept_of(now), "known": known}
        services.hand_over(now, now.revision, kept, form.cleaned_data["note"])
    except services.MovedOnError:
        return render_moved_on(request, pk, "hand over")
    return redirect("weeks:versions", pk)


@require_safe
def nutrients(request: Request, pk: int) -> HttpResponse:
    """The vitamins and minerals of a week, and what would close a gap."""
    week = week_or_404(request, pk)
    context = {"week": week, "verdicts": verdicts_of(snapshot_of(week))}
    return render(request, "weeks/nutrients.html", context)


@require_safe
def versions(request: Request, pk: int) -> HttpResponse:
    """Every version of a week, what differs between two, and what stands in the way of this one."""
    return _versions(request, week_or_404(request, pk))


def _versions(request: Request, week: Week, problem: str = "") -> HttpResponse:
    rows = list(Week.objects.filter(client=week.client, start=week.start).order_by("version"))
    chosen = request.GET.get("with", "")
    other = next((row for row in rows if str(row.pk) == chosen and row.pk != week.pk), None)
    other = other or next((row for row in reversed(rows) if row.pk != week.pk), None)
    context = {
        "week": week,
        "versions": rows,
        "other": other,
        "differences": differences(other, week) if other else [],
        "figures": _figure_changes(other, week) if other else [],
        **_in_the_way(request, week),
        "known": week.kept.get("known", []),
        "problem": problem,
        "note": str(request.POST.get("note", ""))[:2000],
    }
    return render(request, "weeks/versions.html", context, status=422 if problem else 200)


def _in_the_way(request: Request, week: Week) -> dict[str, list[tuple[Obstacle, str, str]]]:
    """What stops a week and what wants a word, with where it is mended and the reason typed."""
    if week.frozen_at is not None:
        return {"stops": [], "words": []}
    found = snapshot_of(week)
    form = HandOverForm(request.POST)
    typed = form.reasons() if form.is_valid() else {}
    rows = [(one, address_of(one, found), typed.get(one.key, "")) for one in obstacles(found)]
    return {
        "stops": [row for row in rows if row[0].is_stop],
        "words": [row for row in rows if not row[0].is_stop],
    }


def _figure_changes(before: Week, after: Week) -> list[tuple[str, str, str]]:
    """Average day of two versions; a frozen one with the figures it was handed over with."""
    rows = []
    for key in ("energy_kcal", "protein_g", "fibre_g", "sodium_mg", "potassium_mg"):
        rows.append((nutrient(key).name, _mean_text(before, key), _mean_text(after, key)))
    return rows


def _mean_text(week: Week, key: str) -> str:
    if week.frozen_at is not None and week.kept.get("days"):
        known = [day[key] for day in week.kept["days"] if day.get(key)]
        return nutrient(key).text(sum(known) / len(known)) if known else "unknown"
    found = snapshot_of(week)
    mean = mean_of([found.days[d] for d in found.counted])
    return mean[key].shown() if mean else "unknown"
