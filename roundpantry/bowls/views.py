"""Pages and fragments of bowls: list, bench, search of the shelf, *Why?*, print."""

from __future__ import annotations

from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from dietetics.dishes.bowls import explain_bowl, explain_portion
from dietetics.errors import DieteticsError
from roundpantry.batches.records import batches_of
from roundpantry.bowls import bench_page, services
from roundpantry.bowls.forms import AddForm, BecauseForm, BowlForm, PortionForm, StepForm
from roundpantry.bowls.models import Bowl, BowlPart
from roundpantry.bowls.records import bowl_cautions, bowl_value, bowls_of, part_of
from roundpantry.clients.context import current_client, take_up
from roundpantry.clients.records import clients_of
from roundpantry.counter.forms import ReasonForm, problem_of
from roundpantry.counter.requests import Request, name_of
from roundpantry.counter.why_drawer import render_why
from roundpantry.shelf.food_rows import best_key, found_rows
from roundpantry.shelf.records import food_of, shelf_of
from roundpantry.targets.records import newest_set, windows_of


@require_http_methods(["GET", "POST"])
def bowl_list(request: Request, client_pk: int) -> HttpResponse:
    """A client's bowls, and the form for a new one."""
    client = get_object_or_404(clients_of(request.user), pk=client_pk)
    take_up(request, client)
    form = BowlForm(request.POST if request.method == "POST" else None, newest_set(client))
    if request.method == "POST" and form.is_valid():
        bowl = services.add_bowl(client, form.cleaned_data["name"], form.cleaned_data["meal"])
        return redirect("bowls:bench", bowl.pk)
    rows = bench_page.list_rows(bowls_of(request.user).filter(client=client))
    context = {"client": client, "rows": rows, "form": form}
    return render(request, "bowls/list.html", context, status=422 if form.errors else 200)


def bowl_or_404(request: Request, pk: int) -> Bowl:
    """One of the practitioner's bowls."""
    return get_object_or_404(bowls_of(request.user), pk=pk)


def part_or_404(bowl: Bowl, part_pk: int) -> BowlPart:
    """A part of this bowl."""
    part = next((part for part in bowl.parts.all() if part.pk == part_pk), None)
    if part is None:
        raise Http404("no such ingredient in this bowl")
    return part


def render_bench(
    request: Request, bowl: Bowl, refused: dict[str, str] | None = None
) -> HttpResponse:
    """The bench, or its changing parts alone for a real htmx request; 422 with what was typed when
    refused.
    """
    fragment = (
        request.htmx and not request.htmx.boosted and not request.htmx.history_restore_request
    )
    context = bench_page.bench(bowl, refused)
    if not fragment:
        take_up(request, bowl.client)
        context |= {
            "other_meals": bench_page.other_meals(bowl),
            "old_targets": bench_page.old_targets_words(bowl),
            "drawn": request.session.pop("drawn", []),
        }
    template = "bowls/bench_parts.html" if fragment else "bowls/bench.html"
    response = render(request, template, context, status=422 if refused else 200)
    if fragment:
        response["HX-Retarget"], response["HX-Reswap"] = "#bench", "outerHTML"
        response["HX-Trigger"] = "bench-changed"
    return response


@require_safe
def bench(request: Request, pk: int) -> HttpResponse:
    """The bowl bench."""
    return render_bench(request, bowl_or_404(request, pk))


@require_POST
def add_part(request: Request, pk: int) -> HttpResponse:
    """Put a food, a batch, or the best hit for some words into the bowl."""
    bowl = bowl_or_404(request, pk)
    form = AddForm(request.POST)
    if not form.is_valid():
        raise Http404("nothing that can be put in")
    if len(bowl.parts.all()) >= services.MOST_PARTS:
        return render_bench(
            request, bowl, {"search": f"A bowl can have at most {services.MOST_PARTS} parts."}
        )
    given = form.cleaned_data
    key = given["food"] or ("" if given["batch"] else best_key(request.user, given["q"]))
    try:
        if given["batch"]:
            batch = get_object_or_404(batches_of(request.user), pk=given["batch"])
            services.add_batch(bowl, batch, because=given["because"])
        elif not key or food_of(request.user.pk, key) is None:
            return render_bench(
                request, bowl, {"search": f"No food matches “{given['q']}”.", "typed": given["q"]}
            )
        else:
            services.add_food(bowl, key, because=given["because"])
    except DieteticsError as error:
        refused = {"search": str(error), "food": key, "batch": str(given["batch"] or "")}
        return render_bench(
            request, bowl, refused if error.code == "allergen-blocked" else {"search": str(error)}
        )
    if given["then"] == "bench":
        return redirect("bowls:bench", pk)
    return render_bench(request, bowl_or_404(request, pk))


@require_POST
def note_caution(request: Request, pk: int) -> HttpResponse:
    """Take note of a caution of the bowl, with a reason and a name."""
    bowl, form = bowl_or_404(request, pk), ReasonForm(request.POST)
    sound = form.is_valid()
    raised = [caution for caution, _ in bowl_cautions(bowl, bowl_value(bowl))]
    caution = next((c for c in raised if c.key == form.cleaned_data.get("key")), None)
    if caution is None:
        raise Http404("no such caution")
    if not sound:
        return render_bench(request, bowl, {"search": form.problem()})
    services.note_caution(bowl, caution, form.cleaned_data["reason"], name_of(request.user))
    return render_bench(request, bowl_or_404(request, pk))


def _part_to_change(request: Request, pk: int, part_pk: int) -> BowlPart:
    """A part that is about to change, without what only a page shows."""
    part = part_of(request.user, pk, part_pk)
    if part is None:
        raise Http404("no such ingredient in this bowl")
    return part


@require_POST
def set_portion(request: Request, pk: int, part_pk: int) -> HttpResponse:
    """Set a part to what was typed."""
    part = _part_to_change(request, pk, part_pk)
    form = PortionForm(request.POST)
    try:
        services.set_portion(
            part.bowl, part, form.cleaned_data["amount"] if form.is_valid() else ""
        )
    except DieteticsError as error:
        typed = str(form["amount"].value() or "")[:60]
        return render_bench(
            request,
            bowl_or_404(request, pk),
            {"part": str(part_pk), "why": str(error), "typed": typed},
        )
    return render_bench(request, bowl_or_404(request, pk))


@require_POST
def step_portion(request: Request, pk: int, part_pk: int) -> HttpResponse:
    """Turn a part up or down by its measure's step."""
    part = _part_to_change(request, pk, part_pk)
    form = StepForm(request.POST)
    if not form.is_valid():
        return render_bench(
            request,
            bowl_or_404(request, pk),
            {"part": str(part_pk), "why": "Steps are whole numbers.", "typed": part.amount_text},
        )
    try:
        services.step_portion(part.bowl, part, form.cleaned_data["steps"])
    except DieteticsError as error:
        return render_bench(
            request,
            bowl_or_404(request, pk),
            {"part": str(part_pk), "why": str(error), "typed": part.amount_text},
        )
    return render_bench(request, bowl_or_404(request, pk))


@require_POST
def remove_part(request: Request, pk: int, part_pk: int) -> HttpResponse:
    """Take a part out."""
    bowl = bowl_or_404(request, pk)
    services.remove_part(bowl, part_or_404(bowl, part_pk))
    return render_bench(request, bowl_or_404(request, pk))


@require_POST
def renew_part(request: Request, pk: int, part_pk: int) -> HttpResponse:
    """Take the newer version of a part's label."""
    bowl, form = bowl_or_404(request, pk), BecauseForm(request.POST)
    part = part_or_404(bowl, part_pk)
    if not form.is_valid():
        refused = {"part": str(part_pk), "why": problem_of(form), "typed": ""}
        return render_bench(request, bowl, refused)
    try:
        services.renew_part(bowl, part, form.cleaned_data["because"])
    except DieteticsError as error:
        return render_bench(request, bowl, {"part": str(part_pk), "why": str(error), "typed": ""})
    return render_bench(request, bowl_or_404(request, pk))


@require_POST
def undo(request: Request, pk: int) -> HttpResponse:
    """Take back the last change."""
    passed = services.undo(bowl_or_404(request, pk))
    return render_bench(request, bowl_or_404(request, pk), {"search": passed} if passed else None)


@require_POST
def remove(request: Request, pk: int) -> HttpResponse:
    """Remove the bowl."""
    bowl = bowl_or_404(request, pk)
    services.remove_bowl(bowl)
    return redirect("bowls:list", bowl.client_id)


@require_safe
def search(request: Request, pk: int) -> HttpResponse:
    """What the shelf and the practitioner's batches have for some words."""
    bowl = bowl_or_404(request, pk)
    query = request.GET.get("q", "")[:100]
    batches = batches_of(request.user)
    mine = batches.filter(title__icontains=query.strip())[:4] if query.strip() else batches[:8]
    context = {
        "bowl": bowl,
        "query": query,
        "batches": mine,
        "found": found_rows(request.user, query, 10),
    }
    return render(request, "bowls/search.html", context)


@require_safe
def ladder(request: Request) -> HttpResponse:
    """The shelf on one ladder of energy density, with the client's window as a band."""
    group = request.GET.get("group", "")
    foods = [food for food in shelf_of(request.user) if not group or food.group == group]
    client = current_client(request)
    present = newest_set(client) if client else None
    windows = windows_of(present) if present else ()
    window = next((w for w in windows if w.key == "kcal_per_g"), None)
    context = bench_page.ladder_page(foods, window, group)
    return render(request, "bowls/ladder.html", context)


@require_safe
def ladder_food(request: Request, key: str) -> HttpResponse:
    """One food of the ladder, with the client's bowls it may be put into."""
    food = food_of(request.user.pk, key)
    if food is None:
        raise Http404("no such food")
    client = current_client(request)
    bowls = bowls_of(request.user).filter(client=client) if client else []
    return render(request, "bowls/ladder_food.html", bench_page.ladder_food(food, bowls))


@require_safe
def figures(request: Request, pk: int) -> HttpResponse:
    """Every figure of the bowl, in the drawer."""
    bowl = bowl_or_404(request, pk)
    return render(
        request, "bowls/figures.html", {"bowl": bowl, "rows": bench_page.all_figures(bowl)}
    )


@require_safe
def why(request: Request, pk: int, key: str, part_pk: int | None = None) -> HttpResponse:
    """The way back of a figure of the bowl or of one part."""
    bowl = bowl_or_404(request, pk)
    value = bowl_value(bowl)
    try:
        if part_pk is None:
            return render_why(request, explain_bowl(value, key))
        portion = next((p for p in value.portions if p.key == str(part_pk)), None)
        if portion is None:
            raise Http404("no such ingredient in this bowl")
        return render_why(request, explain_portion(value, portion, key))
    except DieteticsError as error:
        raise Http404(str(error)) from None


@require_safe
def print_page(request: Request, pk: int) -> HttpResponse:
    """The bowl on paper, for the client."""
    bowl = bowl_or_404(request, pk)
    take_up(request, bowl.client)
    return render(request, "bowls/print.html", bench_page.printed(bowl))
