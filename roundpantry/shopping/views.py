"""The shopping list: parse, call, render."""

from __future__ import annotations

from django.contrib import messages
from django.http import Http404, HttpResponse
from django.shortcuts import redirect, render
from django.urls import reverse
from django.views.decorators.http import require_POST, require_safe

from dietetics.composition.foods import load_shelf
from dietetics.errors import DieteticsError
from dietetics.shopping.list_words import as_csv, plain_text
from dietetics.shopping.shopping_list import SECTIONS
from roundpantry.batches.records import batches_of
from roundpantry.bowls.records import bowls_of
from roundpantry.clients.context import take_up
from roundpantry.counter.dates import day_text
from roundpantry.counter.forms import problem_of
from roundpantry.counter.requests import Request
from roundpantry.shelf.records import food_of
from roundpantry.shopping import services
from roundpantry.shopping.forms import AlsoForm, AtHomeForm, PackageForm, TickForm, UseUpForm
from roundpantry.shopping.list_page import food_page, is_household, list_page, week_list_page
from roundpantry.shopping.records import (
    list_of_batch,
    list_of_bowl,
    list_of_weeks,
    trip_of,
    weeks_beside,
    weeks_bought_for,
)
from roundpantry.weeks.models import Week
from roundpantry.weeks.services import MovedOnError
from roundpantry.weeks.views import client_or_404, moved_on, week_or_404

TYPES = {"csv": "text/csv; charset=utf-8", "txt": "text/plain; charset=utf-8"}


@require_safe
def of_client(request: Request, client_pk: int) -> HttpResponse:
    """The shopping list of the client's newest week."""
    week = client_or_404(request, client_pk).weeks.first()
    if week is None:
        return render(request, "shopping/no_week.html")
    return redirect("shopping:list", week.pk)


@require_safe
def week_list(request: Request, pk: int) -> HttpResponse:
    """The shopping list of a week."""
    return _list(request, week_or_404(request, pk))


def _list(
    request: Request, week: Week, problem: str = "", typed: dict[str, str] | None = None
) -> HttpResponse:
    """The whole page, or the list alone for a change made on it. What was typed and refused stays
    in its field.
    """
    sent = typed or {}
    page = week_list_page(request.user, week, sent.get("key", ""))
    context = page | {"problem": problem, "typed": sent}
    inner = request.htmx and not request.htmx.boosted
    template = "shopping/list_inner.html" if inner else "shopping/list.html"
    return render(request, template, context, status=422 if problem else 200)


def _done(request: Request, week: Week) -> HttpResponse:
    """The list after a change: as a fragment, or by way of its own address."""
    if request.htmx:
        return _list(request, week)
    return redirect("shopping:list", week.pk)


def _food_or_404(request: Request, key: str) -> str:
    if food_of(request.user.pk, key) is None:
        raise Http404("no such food")
    return key


@require_safe
def food(request: Request, pk: int, key: str) -> HttpResponse:
    """One food of the list: what it is for, how the amount was reached, its package."""
    week = week_or_404(request, pk)
    page = food_page(request.user, week, key)
    if page is None:
        raise Http404("not on the list")
    inner = request.htmx and not request.htmx.boosted
    return render(request, "shopping/more.html" if inner else "shopping/food.html", page)


@require_POST
def tick(request: Request, pk: int, key: str) -> HttpResponse:
    """Into the basket, or back on the list."""
    week, form = week_or_404(request, pk), TickForm(request.POST)
    if not form.is_valid():
        return _list(request, week, f"Not saved. {problem_of(form)}")
    services.put_into_basket(week, _food_or_404(request, key), form.cleaned_data["on"] == "yes")
    return _done(request, week)


@require_POST
def at_home(request: Request, pk: int, key: str) -> HttpResponse:
    """What the client has at home of a food."""
    week, form = week_or_404(request, pk), AtHomeForm(request.POST)
    _food_or_404(request, key)
    if not form.is_valid():
        return _list(request, week, f"Not saved. {problem_of(form)}")
    text = form.cleaned_data["amount"]
    try:
        grams = services.read_at_home(request.user, key, text)
    except DieteticsError as error:
        return _list(request, week, str(error), {"key": key, "amount": text})
    services.set_at_home(week.client, key, grams)
    return _done(request, week)


@require_POST
def package(request: Request, pk: int, key: str) -> HttpResponse:
    """The size and price of a package where this practitioner's clients shop."""
    week, form = week_or_404(request, pk), PackageForm(request.POST)
    _food_or_404(request, key)
    if not form.is_valid():
        sent = {name: str(request.POST.get(name, ""))[:20] for name in ("grams", "price")}
        return _list(request, week, f"Not saved. {problem_of(form)}", {"key": key, **sent})
    given = form.cleaned_data
    services.set_package(request.user, key, given["grams"], given["price"])
    return _done(request, week)


@require_POST
def also(request: Request, pk: int) -> HttpResponse:
    """Who else in the household is bought for."""
    week = week_or_404(request, pk)
    form = AlsoForm([other.pk for other in weeks_beside(request.user, week)], request.POST)
    if not form.is_valid():
        return _list(request, week, f"Not saved. {problem_of(form)}")
    services.buy_for(week, form.cleaned_data["also"])
    return _done(request, week)


@require_POST
def move_up(request: Request, pk: int, section: str) -> HttpResponse:
    """Walk through a section earlier."""
    week = week_or_404(request, pk)
    if section not in SECTIONS:
        raise Http404("no such section")
    services.move_section_up(request.user, section)
    return _done(request, week)


@require_POST
def use_up(request: Request, pk: int, family: str) -> HttpResponse:
    """Let the planner prefer dishes that use up what is left of a food."""
    week, form = week_or_404(request, pk), UseUpForm(request.POST)
    if family not in load_shelf().families or week.frozen_at is not None:
        raise Http404("nothing of this week that is left over")
    if not form.is_valid():
        return _list(request, week, f"Not saved. {problem_of(form)}")
    given = form.cleaned_data
    try:
        services.prefer_using(week, given["revision"], family, given["on"] == "yes")
    except MovedOnError:
        return _list(request, week, moved_on(week, "use up what is left"))
    return _done(request, week_or_404(request, pk))


@require_POST
def put_away(request: Request, pk: int) -> HttpResponse:
    """What is in the basket is at home now."""
    week = week_or_404(request, pk)
    trip = trip_of(week)
    found = list_of_weeks(request.user, weeks_bought_for(request.user, week, trip.also))
    count = services.put_away(week.client, found, week)
    if not request.htmx:
        messages.success(request, f"Put away: {count} foods are at home now.")
    return _done(request, week)


@require_safe
def print_page(request: Request, pk: int) -> HttpResponse:
    """The list on one page of paper."""
    week = week_or_404(request, pk)
    return render(request, "shopping/print.html", week_list_page(request.user, week))


@require_safe
def export(request: Request, pk: int, kind: str) -> HttpResponse:
    """The list as CSV or as plain text."""
    week = week_or_404(request, pk)
    if kind not in TYPES:
        raise Http404("no such kind of file")
    trip = trip_of(week)
    found = list_of_weeks(request.user, weeks_bought_for(request.user, week, trip.also))
    household = is_household(request.user)
    title = f"Shopping for the week of {day_text(week.start)}"
    content = as_csv(found, household) if kind == "csv" else plain_text(found, title, household)
    response = HttpResponse(content, content_type=TYPES[kind])
    name = f"shopping-{week.start.isoformat()}.{kind}"
    response["Content-Disposition"] = f'attachment; filename="{name}"'
    return response


@require_safe
def of_batch(request: Request, pk: int) -> HttpResponse:
    """What one batch needs as it is bought."""
    batch = batches_of(request.user).filter(pk=pk).first()
    if batch is None:
        raise Http404("no such batch")
    page = list_page(request.user, list_of_batch(request.user, batch), set(), [])
    names = {"of": f"{batch.title}, once", "back": reverse("batches:detail", args=[batch.pk])}
    return render(request, "shopping/of_dish.html", page | names)


@require_safe
def of_bowl(request: Request, pk: int) -> HttpResponse:
    """What one bowl needs as it is bought."""
    bowl = bowls_of(request.user).filter(pk=pk).first()
    if bowl is None:
        raise Http404("no such bowl")
    take_up(request, bowl.client)
    found = list_of_bowl(request.user, bowl)
    page = list_page(request.user, found, set(), list(bowl.client.allergies))
    names = {"of": f"{bowl.name}, one", "back": reverse("bowls:bench", args=[bowl.pk])}
    return render(request, "shopping/of_dish.html", page | names)
