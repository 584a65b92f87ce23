"""Weighing a bowl while serving."""

from __future__ import annotations

from django.http import HttpResponse, JsonResponse
from django.shortcuts import render
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from dietetics.errors import DieteticsError
from roundpantry.bowls import bench_page, services, weighing
from roundpantry.bowls.forms import ScaleForm, ServedForm
from roundpantry.bowls.models import Bowl, BowlPart
from roundpantry.bowls.records import bowl_value
from roundpantry.bowls.views import bowl_or_404, part_or_404
from roundpantry.clients.context import take_up
from roundpantry.counter import clock
from roundpantry.counter.forms import problem_of
from roundpantry.counter.requests import Request


@require_safe
def weigh(request: Request, pk: int) -> HttpResponse:
    """Weigh as one serves: part after part against its target."""
    bowl = bowl_or_404(request, pk)
    take_up(request, bowl.client)
    return _weigh(request, bowl, None)


def _weigh(request: Request, bowl: Bowl, part: BowlPart | None, refused: str = "") -> HttpResponse:
    context = bench_page.weigh_page(bowl, bowl_value(bowl), part, refused)
    context |= {
        "whole_page": not request.htmx,
        "typed": request.POST.get("grams", "")[:40] if refused else "",
    }
    template = "bowls/weigh_rows.html" if request.htmx else "bowls/weigh.html"
    return render(request, template, context, status=422 if refused else 200)


@require_POST
def served(request: Request, pk: int, part_pk: int) -> HttpResponse:
    """Record the weight of a part: what the scale settled at, what was typed, or nothing again."""
    bowl = bowl_or_404(request, pk)
    part = part_or_404(bowl, part_pk)
    form = ServedForm(request.POST)
    if not form.is_valid():
        return _weigh(request, bowl, part, problem_of(form))
    given = form.cleaned_data
    try:
        if given["what"] == "scale":
            weighing.take_settled(request.user, bowl, part)
        elif given["what"] == "forget":
            services.note_served(bowl, part, None)
        else:
            services.note_served(bowl, part, bench_page.typed_grams(given["grams"]))
    except DieteticsError as error:
        return _weigh(request, bowl, part, str(error))
    return _weigh(request, bowl_or_404(request, pk), None)


@require_http_methods(["GET", "POST"])
def scale(request: Request) -> HttpResponse:
    """The scale: what it shows now, or something put on, taken off, tared."""
    if request.method == "GET":
        now = weighing.scale_of(request.user).reading(clock.seconds())
        return JsonResponse({"grams": now.grams, "settled": now.settled})
    form = ScaleForm(request.POST)
    if not form.is_valid():
        return HttpResponse(problem_of(form), status=422, content_type="text/plain")
    given = form.cleaned_data
    if given["what"] == "tare":
        weighing.tare(request.user)
    elif given["what"] == "empty":
        weighing.empty(request.user)
    else:
        try:
            weighing.pour(request.user, bench_page.typed_grams(given["grams"]))
        except DieteticsError:
            return HttpResponse("Grams were not understood.", status=422, content_type="text/plain")
    return HttpResponse(status=204)
