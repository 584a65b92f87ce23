"""The diary by exception: the planned week, and what differed."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date, timedelta
from typing import Any

from django.http import HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_POST, require_safe

from dietetics.errors import DieteticsError
from dietetics.follow.eaten import HOWS
from dietetics.nutrients import nutrient
from dietetics.targets.windows import Window, judge
from roundpantry.clients.models import Client
from roundpantry.counter import clock
from roundpantry.counter.dates import short_day_text
from roundpantry.counter.forms import problem_of
from roundpantry.counter.requests import Request
from roundpantry.follow import services
from roundpantry.follow.eaten_days import DiaryDay, adherence, diary_week
from roundpantry.follow.forms import DiaryForm, EntryForm, ExtraForm
from roundpantry.follow.records import weeks_between
from roundpantry.targets.records import newest_set, windows_of
from roundpantry.weeks.models import Week
from roundpantry.weeks.reported import reported_of
from roundpantry.weeks.views import client_or_404

WEEKS_BACK = 12
LEVEL_KEYS = ("energy_kcal", "protein_g", "fibre_g")


@require_safe
def diary(request: Request, client_pk: int) -> HttpResponse:
    """A week as planned and as eaten."""
    client = client_or_404(request, client_pk)
    return _diary(request, client, str(request.GET.get("week", "")))


def _diary(request: Request, client: Client, chosen: str, problem: str = "") -> HttpResponse:
    today = clock.today()
    weeks = weeks_between(client, today - timedelta(weeks=WEEKS_BACK), today)
    week = next((one for one in weeks if str(one.pk) == chosen), weeks[-1] if weeks else None)
    context: dict[str, Any] = {"client": client, "weeks": weeks[::-1], "week": week, "hows": HOWS}
    if week is not None:
        days = diary_week(week, reported_of(client, [week]))
        present = newest_set(client)
        windows = {one.key: one for one in windows_of(present)} if present else {}
        context |= {
            "days": [_day_row(one, windows) for one in days],
            "words": adherence(days).words(),
            "level_names": [nutrient(key).name for key in LEVEL_KEYS],
            "today": today,
        }
    typed = {name: str(request.POST.get(name, ""))[:1000] for name in ("day", "meal", "text")}
    context |= {"problem": problem, "typed": typed if problem else {}}
    return render(request, "follow/diary.html", context, status=422 if problem else 200)


def _day_row(day: DiaryDay, windows: Mapping[str, Window]) -> dict[str, Any]:
    """A day with its levels: planned, eaten, and where that stands."""
    levels = []
    for key in LEVEL_KEYS:
        eaten = day.eaten[key] if day.eaten is not None else None
        state = ""
        if eaten is not None and key in windows:
            level = judge(windows[key], eaten)
            state = {"short": "below", "over": "above", "in": "met"}.get(level.state, "unknown")
        shown = eaten.shown() if eaten is not None else "not reported"
        levels.append({"planned": day.planned[key].shown(), "eaten": shown, "state": state})
    return {
        "day": day,
        "iso": day.day.isoformat(),
        "date": short_day_text(day.day),
        "levels": levels,
    }


def _back(client: Client, week: Week | None) -> HttpResponse:
    where = reverse("follow:diary", args=[client.pk])
    return redirect(f"{where}?week={week.pk}" if week else where)


def _week_on(client: Client, day: date) -> Week | None:
    found = weeks_between(client, day, day)
    return found[-1] if found else None


@require_POST
def write(request: Request, client_pk: int) -> HttpResponse:
    """How a meal went."""
    client, form = client_or_404(request, client_pk), DiaryForm(request.POST)
    chosen = str(request.POST.get("week", ""))
    if not form.is_valid():
        return _diary(request, client, chosen, f"Not saved. {problem_of(form)}")
    given = form.cleaned_data
    try:
        services.write_diary(client, given["day"], given["meal"], given["how"], given["text"])
    except DieteticsError as error:
        return _diary(request, client, chosen, str(error))
    return _back(client, _week_on(client, given["day"]))


@require_POST
def extra(request: Request, client_pk: int) -> HttpResponse:
    """Something eaten beside the plan."""
    client, form = client_or_404(request, client_pk), ExtraForm(request.POST)
    chosen = str(request.POST.get("week", ""))
    if not form.is_valid():
        return _diary(request, client, chosen, f"Not saved. {problem_of(form)}")
    try:
        services.add_extra(client, form.cleaned_data["day"], form.cleaned_data["text"])
    except DieteticsError as error:
        return _diary(request, client, chosen, str(error))
    return _back(client, _week_on(client, form.cleaned_data["day"]))


@require_POST
def remove_entry(request: Request, client_pk: int) -> HttpResponse:
    """Take an entry of the practitioner's out of the diary."""
    client, form = client_or_404(request, client_pk), EntryForm(request.POST)
    if not form.is_valid():
        return _diary(request, client, "", f"Not removed. {problem_of(form)}")
    services.remove_entry(client, form.cleaned_data["day"], form.cleaned_data["meal"])
    return _back(client, _week_on(client, form.cleaned_data["day"]))
