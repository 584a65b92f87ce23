"""Pages that divide a batch: portions, containers, labels to print, the cooking log, downloads."""

from __future__ import annotations

from django.http import Http404, HttpResponse
from django.shortcuts import redirect, render
from django.utils.text import slugify
from django.views.decorators.http import require_POST, require_safe

from dietetics.errors import DieteticsError
from roundpantry.batches import files, portions_page, services
from roundpantry.batches.forms import CookingForm, ShareForm, TakeBackForm, VesselForm
from roundpantry.batches.views import batch_or_404, render_batch
from roundpantry.counter import clock
from roundpantry.counter.forms import problem_of
from roundpantry.counter.requests import Request

MOST_LABELS = 24


def _portions(request: Request, pk: int, problem: str = "", typed: object = None) -> HttpResponse:
    context = portions_page.portions_page(batch_or_404(request, pk)) | {
        "problem": problem,
        "typed": typed or {},
    }
    return render(request, "batches/portions.html", context, status=422 if problem else 200)


@require_safe
def portions(request: Request, pk: int) -> HttpResponse:
    """Who gets what."""
    return _portions(request, pk)


@require_POST
def vessel(request: Request, pk: int) -> HttpResponse:
    """Say what is served with and what it holds, and how long the dish keeps."""
    batch, form = batch_or_404(request, pk), VesselForm(request.POST)
    if not form.is_valid():
        return _portions(request, pk, problem_of(form), request.POST)
    given = form.cleaned_data
    try:
        services.set_vessel(batch, given["vessel"], given["fill"], given["keeps"])
    except DieteticsError as error:
        return _portions(request, pk, str(error), request.POST)
    return redirect("batches:portions", pk)


@require_POST
def share(request: Request, pk: int) -> HttpResponse:
    """Give somebody a portion, or take one back."""
    batch = batch_or_404(request, pk)
    taken_back = TakeBackForm(request.POST)
    if taken_back.is_valid():
        services.remove_share(batch, taken_back.cleaned_data["remove"])
        return redirect("batches:portions", pk)
    form = ShareForm(request.POST)
    if not form.is_valid():
        return _portions(request, pk, "Enter who, how much, and how many.", request.POST)
    given = form.cleaned_data
    try:
        services.add_share(batch, given["who"], given["amount"], given["times"])
    except DieteticsError as error:
        return _portions(request, pk, str(error), request.POST)
    return redirect("batches:portions", pk)


@require_POST
def log(request: Request, pk: int) -> HttpResponse:
    """Keep one cooking."""
    form = CookingForm(request.POST)
    if not form.is_valid():
        words = "Enter a day (like 2026-11-23) and the cooked weight. Taste is 1 to 5."
        return render_batch(request, pk, problem=words, typed=request.POST)
    given = form.cleaned_data
    try:
        services.log_cooking(
            batch_or_404(request, pk),
            given["day"],
            given["measured"],
            given["taste"],
            given["notes"],
        )
    except DieteticsError as error:
        return render_batch(request, pk, problem=str(error), typed=request.POST)
    return render_batch(request, pk)


@require_safe
def label(request: Request, pk: int) -> HttpResponse:
    """Labels to print for the containers."""
    batch = batch_or_404(request, pk)
    context = portions_page.label_page(batch, clock.today(), MOST_LABELS)
    return render(request, "batches/label.html", context)


@require_safe
def export(request: Request, pk: int, kind: str) -> HttpResponse:
    """The batch as a file."""
    batch = batch_or_404(request, pk)
    if kind == "pdf":
        response = HttpResponse(files.card(batch), content_type="application/pdf")
    elif kind in files.WRITERS:
        text, content_type = files.written(batch, kind)
        response = HttpResponse(text, content_type=f"{content_type}; charset=utf-8")
    else:
        raise Http404("no such kind of file")
    name = slugify(batch.title) or "dish"
    response["Content-Disposition"] = f'attachment; filename="{name}.{kind}"'
    return response
