"""Pages of patterns: the list, a change, and bowls created from them."""

from __future__ import annotations

from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.views.decorators.http import require_POST, require_safe

from dietetics.errors import DieteticsError
from roundpantry.batches.records import batches_of
from roundpantry.bowls import bench_page, patterns
from roundpantry.bowls.forms import BowlForm, PatternChangeForm, PatternNameForm
from roundpantry.bowls.views import bowl_or_404
from roundpantry.clients.context import current_client
from roundpantry.clients.records import clients_of
from roundpantry.counter.forms import problem_of
from roundpantry.counter.long_work import few_at_once
from roundpantry.counter.requests import Request
from roundpantry.shelf.food_rows import best_key
from roundpantry.shelf.records import food_of
from roundpantry.targets.records import newest_set


@require_safe
def pattern_list(request: Request) -> HttpResponse:
    """The practitioner's patterns, each ready for the client that stands top left."""
    return _patterns(request)


def _patterns(
    request: Request, problem: str = "", typed: dict[str, object] | None = None
) -> HttpResponse:
    client = current_client(request)
    present = newest_set(client) if client else None
    batches = {batch.pk: batch for batch in batches_of(request.user)}
    mine = patterns.patterns_of(request.user)
    rows = [
        bench_page.pattern_row(one, lambda what: patterns.name_of(what, batches, request.user.pk))
        for one in mine
    ]
    meals = list(present.meals.all()) if present else []
    suiting = {one.pk for one in patterns.patterns_for(request.user, meals)}
    for row, pattern in zip(rows, mine, strict=True):
        row["for_others"] = bool(meals) and pattern.pk not in suiting
        meal = patterns.usual_meal(pattern, meals)
        row["meal_pk"] = meal.pk if meal else None
        row["order"] = meals.index(meal) if meal else len(meals)
    # as a day goes, by name within a meal; at the end those that are made for other clients
    rows.sort(key=lambda row: (row["for_others"], row["order"]))
    context = {
        "rows": rows,
        "client": client,
        "meals": meals,
        "problem": problem,
        "typed": typed or {},
    }
    return render(request, "bowls/patterns.html", context, status=422 if problem else 200)


@require_POST
def keep_pattern(request: Request, pk: int) -> HttpResponse:
    """Keep a bowl as a pattern."""
    bowl, form = bowl_or_404(request, pk), PatternNameForm(request.POST)
    name = form.cleaned_data["name"] if form.is_valid() else ""
    try:
        patterns.keep_pattern(bowl, name or bowl.name)
    except DieteticsError:
        return redirect("bowls:bench", pk)
    return redirect("bowls:patterns")


@require_POST
def change_pattern(request: Request, pk: int) -> HttpResponse:
    """Give a role an option, take one out, or remove the whole pattern."""
    pattern = get_object_or_404(patterns.patterns_of(request.user), pk=pk)
    form = PatternChangeForm(request.POST)
    if not form.is_valid():
        return _patterns(request, problem_of(form), {"pattern": pk})
    given = form.cleaned_data
    role, option = (-1 if given[n] is None else given[n] for n in ("role", "option"))
    if given["what"] == "remove":
        pattern.delete()
    elif given["what"] == "drop":
        patterns.drop_option(pattern, role, option)
    else:
        words = given["q"]
        typed = {"pattern": pk, "role": role, "words": words}
        food = food_of(request.user.pk, best_key(request.user, words))
        if food is None:
            return _patterns(request, f"No food matches “{words}”.", typed)
        try:
            patterns.add_option(pattern, role, food, "")
        except DieteticsError as error:
            return _patterns(request, str(error), typed)
    return redirect("bowls:patterns")


@require_POST
def draw_pattern(request: Request, pk: int, client_pk: int) -> HttpResponse:
    """Make a bowl of a client from a pattern, balanced to their windows."""
    pattern = get_object_or_404(patterns.patterns_of(request.user), pk=pk)
    client = get_object_or_404(clients_of(request.user), pk=client_pk)
    form = BowlForm(
        {"name": pattern.name, "meal": request.POST.get("meal", "")}, newest_set(client)
    )
    meal = form.cleaned_data["meal"] if form.is_valid() else None
    made = patterns.draw_pattern(pattern, patterns.stock_of(client), meal)
    request.session["drawn"] = bench_page.drawn_words(made)
    return redirect("bowls:bench", made.bowl.pk)


@require_POST
@few_at_once
def draw_all(request: Request, client_pk: int) -> HttpResponse:
    """Make a bowl of a client from every pattern, each for its usual meal."""
    client = get_object_or_404(clients_of(request.user), pk=client_pk)
    present = newest_set(client)
    made = patterns.draw_all(request.user, client, list(present.meals.all()) if present else [])
    messages.success(request, bench_page.all_drawn_words(made))
    return redirect("bowls:list", client.pk)
