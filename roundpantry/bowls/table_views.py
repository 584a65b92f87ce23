"""Pages around a bowl: the whole table, patterns, and weighing as one serves."""

from __future__ import annotations

import time

from django.contrib import messages
from django.http import Http404, HttpRequest, HttpResponse, JsonResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from dietetics.errors import DieteticsError
from roundpantry.batches.records import batches_of
from roundpantry.bowls import bench_page, patterns, services, weighing
from roundpantry.bowls.forms import BowlForm, StepForm
from roundpantry.bowls.models import Bowl, BowlPart
from roundpantry.bowls.records import bowl_value
from roundpantry.bowls.shared_bowl import at_the_table, table_page
from roundpantry.bowls.views import bowl_or_404, part_or_404
from roundpantry.clients.context import current_client, take_up
from roundpantry.clients.records import clients_of
from roundpantry.counter.typed_numbers import whole
from roundpantry.shelf.food_rows import best_key
from roundpantry.shelf.records import food_of
from roundpantry.targets.records import newest_set


@require_safe
def table(request: HttpRequest, pk: int) -> HttpResponse:
    """The same bowl for everybody at the table."""
    bowl = bowl_or_404(request, pk)
    take_up(request, bowl.client)
    template = "bowls/table_rows.html" if request.htmx else "bowls/table.html"
    return render(request, template, table_page(bowl))


@require_POST
def table_step(request: HttpRequest, pk: int, part_pk: int) -> HttpResponse:
    """Turn one person's portion; the part belongs to the bowl or to a variant at the same table."""
    bowl, form = bowl_or_404(request, pk), StepForm(request.POST)
    found = [(one, row) for one in at_the_table(bowl) for row in one.parts.all() if row.pk == part_pk]
    if not found:
        raise Http404("no such ingredient at this table")
    if form.is_valid():
        services.step_portion(*found[0], form.cleaned_data["steps"])
    context = table_page(bowl_or_404(request, pk))
    return render(request, "bowls/table_rows.html", context, status=200 if form.is_valid() else 422)


@require_safe
def pattern_list(request: HttpRequest) -> HttpResponse:
    """The practitioner's patterns, each ready for the client that stands top left."""
    return _patterns(request)


def _patterns(request: HttpRequest, problem: str = "", typed: dict[str, object] | None = None) -> HttpResponse:
    client = current_client(request)
    present = newest_set(client) if client else None
    batches = {batch.pk: batch for batch in batches_of(request.user)}
    mine = patterns.patterns_of(request.user)
    rows = [bench_page.pattern_row(one, lambda what: patterns.name_of(what, batches, request.user.pk)) for one in mine]
    meals = list(present.meals.all()) if present else []
    for row, pattern in zip(rows, mine, strict=True):
        meal = patterns.usual_meal(pattern, meals)
        row["meal_pk"] = meal.pk if meal else None
    context = {"rows": rows, "client": client, "meals": meals, "problem": problem, "typed": typed or {}}
    return render(request, "bowls/patterns.html", context, status=422 if problem else 200)


@require_POST
def keep_pattern(request: HttpRequest, pk: int) -> HttpResponse:
    """Keep a bowl as a pattern."""
    bowl = bowl_or_404(request, pk)
    try:
        patterns.keep_pattern(bowl, request.POST.get("name", "").strip() or bowl.name)
    except DieteticsError:
        return redirect("bowls:bench", pk)
    return redirect("bowls:patterns")


@require_POST
def change_pattern(request: HttpRequest, pk: int) -> HttpResponse:
    """Give a role an option, take one out, or remove the whole pattern."""
    pattern = get_object_or_404(patterns.patterns_of(request.user), pk=pk)
    what, number = request.POST.get("what", ""), request.POST.get("role", "")
    role = read if (read := whole(number)) is not None else -1
    if what == "remove":
        pattern.delete()
    elif what == "drop":
        option = request.POST.get("option", "")
        patterns.drop_option(pattern, role, read if (read := whole(option)) is not None else -1)
    else:
        words = request.POST.get("q", "")[:100]
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
def draw_pattern(request: HttpRequest, pk: int, client_pk: int) -> HttpResponse:
    """Make a bowl of a client from a pattern, balanced to their windows."""
    pattern = get_object_or_404(patterns.patterns_of(request.user), pk=pk)
    client = get_object_or_404(clients_of(request.user), pk=client_pk)
    form = BowlForm({"name": pattern.name, "meal": request.POST.get("meal", "")}, newest_set(client))
    meal = form.cleaned_data["meal"] if form.is_valid() else None
    made = patterns.draw_pattern(pattern, client, meal, pattern.name)
    request.session["drawn"] = bench_page.drawn_words(made)
    return redirect("bowls:bench", made.bowl.pk)


@require_POST
def draw_all(request: HttpRequest, client_pk: int) -> HttpResponse:
    """Make a bowl of a client from every pattern, each for its usual meal."""
    client = get_object_or_404(clients_of(request.user), pk=client_pk)
    present = newest_set(client)
    made = patterns.draw_all(request.user, client, list(present.meals.all()) if present else [])
    messages.success(request, bench_page.all_drawn_words(made))
    return redirect("bowls:list", client.pk)


@require_safe
def weigh(request: HttpRequest, pk: int) -> HttpResponse:
    """Weigh as one serves: part after part against its target."""
    bowl = bowl_or_404(request, pk)
    take_up(request, bowl.client)
    return _weigh(request, bowl, None)


def _weigh(request: HttpRequest, bowl: Bowl, part: BowlPart | None, refused: str = "") -> HttpResponse:
    context = bench_page.weigh_page(bowl, bowl_value(bowl), part, refused)
    context |= {"whole_page": not request.htmx, "typed": request.POST.get("grams", "")[:40] if refused else ""}
    template = "bowls/weigh_rows.html" if request.htmx else "bowls/weigh.html"
    return render(request, template, context, status=422 if refused else 200)


@require_POST
def served(request: HttpRequest, pk: int, part_pk: int) -> HttpResponse:
    """Record the weight of a part: what the scale settled at, what was typed, or nothing again."""
    bowl = bowl_or_404(request, pk)
    part = part_or_404(bowl, part_pk)
    typed = request.POST.get("grams", "").strip().replace(",", ".").removesuffix("g").strip()
    try:
        if request.POST.get("what") == "scale":
            weighing.take_settled(request.user, bowl, part)
        elif request.POST.get("what") == "forget":
            services.note_served(bowl, part, None)
        else:
            services.note_served(bowl, part, bench_page.typed_grams(typed))
    except DieteticsError as error:
        return _weigh(request, bowl, part, str(error))
    return _weigh(request, bowl_or_404(request, pk), None)


@require_http_methods(["GET", "POST"])
def scale(request: HttpRequest) -> HttpResponse:
    """The scale: what it shows now, or something put on, taken off, tared."""
    if request.method == "GET":
        now = weighing.scale_of(request.user).reading(time.time())
        return JsonResponse({"grams": now.grams, "settled": now.settled})
    what = request.POST.get("what", "")
    if what == "tare":
        weighing.tare(request.user)
    elif what == "empty":
        weighing.empty(request.user)
    else:
        try:
            weighing.pour(request.user, bench_page.typed_grams(request.POST.get("grams", "")))
        except DieteticsError:
            return HttpResponse("Grams were not understood.", status=422, content_type="text/plain")
    return HttpResponse(status=204)
