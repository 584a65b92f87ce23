"""Fragments of the bench that balance: the answer, ways out, hints, protein, and one part's
panel.
"""

from __future__ import annotations

from django.contrib import messages
from django.http import HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.views.decorators.http import require_POST, require_safe

from dietetics.balance.answer import SECONDS
from dietetics.errors import DieteticsError
from roundpantry.bowls import balance_services, bench_drawer, bench_page, services
from roundpantry.bowls.balance_services import Balanced
from roundpantry.bowls.forms import (
    SHARES,
    BesideForm,
    EaterForm,
    LimitForm,
    MoveForm,
    ReplaceForm,
    WayForm,
)
from roundpantry.bowls.models import Bowl
from roundpantry.bowls.records import bowls_of
from roundpantry.bowls.views import bowl_or_404, part_or_404, render_bench
from roundpantry.counter.forms import problem_of
from roundpantry.counter.requests import Request
from roundpantry.shelf.food_rows import best_key
from roundpantry.shelf.records import food_of


def _answered(
    request: Request, bowl: Bowl, result: Balanced, proving: bool = False
) -> HttpResponse:
    """The drawer with the answer, and the bench beside it as it now stands."""
    if not request.htmx:
        return redirect("bowls:bench", bowl.pk)
    now = balance_services.again(bowl)
    context = {
        **bench_page.bench(now),
        **bench_drawer.balanced(now, result, proving),
        "oob_bench": True,
    }
    return _told(render(request, "bowls/balanced.html", context))


def _told(response: HttpResponse) -> HttpResponse:
    response["HX-Trigger"] = "bench-changed"
    return response


@require_POST
def balance(request: Request, pk: int) -> HttpResponse:
    """Choose portions: a good answer at once, and its proof where that takes longer."""
    bowl = bowl_or_404(request, pk)
    prove = "prove" in request.POST
    try:
        result = balance_services.balance_bowl(
            bowl, SECONDS if prove else balance_services.FIRST_SECONDS
        )
    except DieteticsError as error:
        return render_bench(request, bowl, {"search": str(error)})
    return _answered(request, bowl, result, proving=not prove)


@require_safe
def ways(request: Request, pk: int) -> HttpResponse:
    """Why it cannot be done, and ways out."""
    return render(request, "bowls/ways.html", bench_drawer.ways(bowl_or_404(request, pk)))


@require_POST
def take_way(request: Request, pk: int) -> HttpResponse:
    """Take one way out and balance again."""
    bowl, form = bowl_or_404(request, pk), WayForm(request.POST)
    if not form.is_valid():
        return render_bench(
            request, bowl, {"search": "That option was not understood. Press b again."}
        )
    given = form.cleaned_data
    if given["food"] and food_of(request.user.pk, given["food"]) is None:
        return render_bench(
            request, bowl, {"search": "That food is no longer available. Press b again."}
        )
    try:
        result = balance_services.take_way(
            bowl, given["kind"], given["key"], given["end"], given["value"] or 0.0, given["food"]
        )
    except DieteticsError as error:
        return render_bench(request, balance_services.again(bowl), {"search": str(error)})
    return _answered(request, bowl, result)


@require_safe
def hints(request: Request, pk: int) -> HttpResponse:
    """Suggestions while working by hand."""
    return render(request, "bowls/hints.html", bench_drawer.hints(bowl_or_404(request, pk)))


@require_safe
def protein(request: Request, pk: int) -> HttpResponse:
    """Protein in detail."""
    return render(request, "bowls/protein.html", bench_drawer.protein(bowl_or_404(request, pk)))


@require_safe
def part_panel(request: Request, pk: int, part_pk: int) -> HttpResponse:
    """One part in the drawer."""
    bowl = bowl_or_404(request, pk)
    return render(
        request, "bowls/part_panel.html", bench_drawer.part_panel(bowl, part_or_404(bowl, part_pk))
    )


@require_POST
def lock(request: Request, pk: int, part_pk: int) -> HttpResponse:
    """Lock or unlock a part."""
    bowl = bowl_or_404(request, pk)
    services.lock_part(bowl, part_or_404(bowl, part_pk))
    return render_bench(request, bowl_or_404(request, pk))


@require_POST
def duplicate(request: Request, pk: int, part_pk: int) -> HttpResponse:
    """Put the same portion in once more."""
    bowl = bowl_or_404(request, pk)
    if len(bowl.parts.all()) >= services.MOST_PARTS:
        return render_bench(
            request, bowl, {"search": f"A bowl can have at most {services.MOST_PARTS} parts."}
        )
    services.duplicate_part(bowl, part_or_404(bowl, part_pk))
    return render_bench(request, bowl_or_404(request, pk))


@require_POST
def move(request: Request, pk: int, part_pk: int) -> HttpResponse:
    """Move a part up or down."""
    bowl, form = bowl_or_404(request, pk), MoveForm(request.POST)
    part = part_or_404(bowl, part_pk)
    if not form.is_valid():
        return render_bench(request, bowl, {"search": problem_of(form)})
    services.move_part(bowl, part, form.cleaned_data["places"])
    return render_bench(request, bowl_or_404(request, pk))


@require_POST
def replace(request: Request, pk: int, part_pk: int) -> HttpResponse:
    """Put another food in a part's place."""
    bowl = bowl_or_404(request, pk)
    part = part_or_404(bowl, part_pk)
    form = ReplaceForm(request.POST)
    if not form.is_valid():
        return render_bench(request, bowl, {"search": problem_of(form)})
    given = form.cleaned_data
    key = given["food"] or best_key(request.user, given["q"])
    if not key or food_of(request.user.pk, key) is None:
        return render_bench(request, bowl, {"search": f"No food matches “{given['q']}”."})
    try:
        services.replace_part(bowl, part, key, given["amount"], given["because"])
    except DieteticsError as error:
        return render_bench(request, bowl_or_404(request, pk), {"search": str(error)})
    return render_bench(request, bowl_or_404(request, pk))


@require_POST
def limits(request: Request, pk: int, part_pk: int) -> HttpResponse:
    """Set the least and the most of a part for balancing."""
    bowl = bowl_or_404(request, pk)
    part = part_or_404(bowl, part_pk)
    form = LimitForm(request.POST)
    refused = "" if form.is_valid() else problem_of(form)
    try:
        if not refused:
            services.limit_part(bowl, part, form.cleaned_data["least"], form.cleaned_data["most"])
    except DieteticsError as error:
        refused = str(error)
    now = bowl_or_404(request, pk)
    context = bench_drawer.part_panel(now, part_or_404(now, part_pk), refused)
    if refused:
        context |= {name: str(form[name].value() or "")[:60] for name in ("least", "most")}
    return render(request, "bowls/part_panel.html", context, status=422 if refused else 200)


@require_POST
def settle(request: Request, pk: int) -> HttpResponse:
    """Put moved windows back."""
    bowl = bowl_or_404(request, pk)
    services.settle_windows(bowl)
    return render_bench(request, bowl_or_404(request, pk))


@require_POST
def take_targets(request: Request, pk: int) -> HttpResponse:
    """Hold the bowl against the targets as the record asks for them now."""
    bowl = bowl_or_404(request, pk)
    if services.take_present_targets(bowl):
        messages.success(request, "The bowl is held against the present targets.")
    else:
        meal = f"a meal called {bowl.meal}" if bowl.meal else "no meal for this bowl"
        messages.error(request, f"Nothing changed: the present targets have not {meal}.")
    return redirect("bowls:bench", pk)


@require_POST
def beside(request: Request, pk: int) -> HttpResponse:
    """Judge the bowl by what other bowls leave of the day."""
    bowl = bowl_or_404(request, pk)
    others = list(bowls_of(request.user).filter(client=bowl.client))
    form = BesideForm(request.POST, others)
    if not form.is_valid():
        return render_bench(request, bowl, {"search": problem_of(form)})
    chosen = set(form.cleaned_data["beside"])
    services.plan_beside(bowl, [other for other in others if other.pk in chosen])
    return redirect("bowls:bench", pk)


@require_POST
def variant(request: Request, pk: int) -> HttpResponse:
    """Copy the bowl as a variant, for this client or somebody else at the table."""
    bowl, form = get_object_or_404(bowls_of(request.user), pk=pk), EaterForm(request.POST)
    if not form.is_valid():
        return render_bench(request, bowl, {"search": problem_of(form)})
    eater, share = form.cleaned_data["eater"], SHARES.get(form.cleaned_data["share"], 1.0)
    name = f"{bowl.name}, for {eater}" if eater else f"{bowl.name}, variant"
    try:
        made = services.copy_bowl(bowl, name[:80], eater, None if eater else bowl.meal, share)
    except DieteticsError as error:
        return render_bench(request, bowl, {"search": str(error)})
    return redirect("bowls:table" if eater else "bowls:bench", bowl.pk if eater else made.pk)
