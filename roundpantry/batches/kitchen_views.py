"""Pages around a batch: portions, fitting to a client, label, log, files."""

from __future__ import annotations

from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import redirect, render
from django.utils import timezone
from django.utils.text import slugify
from django.views.decorators.http import require_POST, require_safe

from dietetics.errors import DieteticsError
from roundpantry.batches import files, kitchen, services
from roundpantry.batches.forms import CookingForm, ShareForm
from roundpantry.batches.views import batch_or_404, line_or_404, render_batch
from roundpantry.clients.context import current_client
from roundpantry.counter.typed_numbers import decimal, whole

MOST_LABELS = 24


def _portions(request: HttpRequest, pk: int, problem: str = "", typed: object = None) -> HttpResponse:
    context = kitchen.portions_page(batch_or_404(request, pk)) | {"problem": problem, "typed": typed or {}}
    return render(request, "batches/portions.html", context, status=422 if problem else 200)


@require_safe
def portions(request: HttpRequest, pk: int) -> HttpResponse:
    """Who gets what."""
    return _portions(request, pk)


@require_POST
def vessel(request: HttpRequest, pk: int) -> HttpResponse:
    """Say what is served with and what it holds, and how long the dish keeps."""
    batch = batch_or_404(request, pk)
    keeps = request.POST.get("keeps", "").strip()
    days = whole(keeps, 1, 365)
    if keeps and days is None:
        words = f"Keeps “{keeps}” days was not understood: a whole number from 1 to 365."
        return _portions(request, pk, words, request.POST)
    try:
        services.set_vessel(batch, request.POST.get("vessel", "").strip(), request.POST.get("fill", "")[:60], days)
    except DieteticsError as error:
        return _portions(request, pk, str(error), request.POST)
    return redirect("batches:portions", pk)


@require_POST
def share(request: HttpRequest, pk: int) -> HttpResponse:
    """Give somebody a portion, or take one back."""
    batch = batch_or_404(request, pk)
    taken_back = whole(request.POST.get("remove"))
    if taken_back is not None:
        services.remove_share(batch, taken_back)
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


@require_safe
def fit(request: HttpRequest, pk: int) -> HttpResponse:
    """What each line costs the client, and what may stand in for it."""
    context = kitchen.fitting_page(batch_or_404(request, pk), current_client(request))
    return render(request, "batches/fit.html", context)


@require_safe
def changed(request: HttpRequest, pk: int) -> HttpResponse:
    """What was changed and why, on a page for the client."""
    batch = batch_or_404(request, pk)
    if batch.parent is None:
        raise Http404("nothing was changed: this is an original")
    return render(request, "batches/changed.html", kitchen.changed_page(batch, current_client(request)))


@require_POST
def vary(request: HttpRequest, pk: int) -> HttpResponse:
    """Copy a batch as a variant to be fitted."""
    batch, client = batch_or_404(request, pk), current_client(request)
    title = f"{batch.title}, for {client.name}" if client else f"{batch.title}, variant"
    return redirect("batches:fit", services.vary(batch, title).pk)


@require_POST
def substitute(request: HttpRequest, pk: int, line_pk: int) -> HttpResponse:
    """Take a substitution for a line: in the variant, or in a fresh variant of an original."""
    batch, client = batch_or_404(request, pk), current_client(request)
    line = line_or_404(request, pk, line_pk)
    taken = kitchen.substitution_of(line, request.POST.get("key", ""))
    if taken is None:
        raise Http404("no such substitution")
    against = kitchen.against_substitution(taken, client)
    if any(verdict.forbids for verdict in against):
        words = f"Not applied: {taken.words}. {' '.join(verdict.text for verdict in against)}"
        context = {**kitchen.fitting_page(batch, client), "problem": words}
        return render(request, "batches/fit.html", context, status=422)
    if batch.parent_id is None and request.POST.get("here") != "yes":
        place = [one.pk for one in batch.lines.all()].index(line.pk)
        made = services.vary(batch, f"{batch.title}, for {client.name}" if client else f"{batch.title}, variant")
        line = list(made.lines.all())[place]
        pk = made.pk
    services.take_substitution(line, taken)
    return redirect("batches:fit", pk)


@require_POST
def water(request: HttpRequest, pk: int) -> HttpResponse:
    """Thin with water, or boil some away."""
    batch, grams = batch_or_404(request, pk), decimal(request.POST.get("grams", "0"))
    if grams is None:
        return render_batch(request, pk, problem="Water was not understood. Enter grams, for example 120 or -200.")
    try:
        services.set_water(batch, grams)
    except DieteticsError:
        return render_batch(request, pk, problem="That would boil away nearly everything. The maximum is four fifths.")
    return render_batch(request, pk)


@require_POST
def method(request: HttpRequest, pk: int, line_pk: int) -> HttpResponse:
    """Say how one line is cooked."""
    try:
        services.set_method(line_or_404(request, pk, line_pk), request.POST.get("method", ""))
    except DieteticsError as error:
        return render_batch(request, pk, problem=str(error))
    return render_batch(request, pk)


@require_POST
def log(request: HttpRequest, pk: int) -> HttpResponse:
    """Keep one cooking."""
    form = CookingForm(request.POST)
    if not form.is_valid():
        words = "Enter a day (like 2026-11-23) and the cooked weight. Taste is 1 to 5."
        return render_batch(request, pk, problem=words, typed=request.POST)
    given = form.cleaned_data
    try:
        services.log_cooking(batch_or_404(request, pk), given["day"], given["measured"], given["taste"], given["notes"])
    except DieteticsError as error:
        return render_batch(request, pk, problem=str(error), typed=request.POST)
    return render_batch(request, pk)


@require_safe
def label(request: HttpRequest, pk: int) -> HttpResponse:
    """Labels to print for the containers."""
    batch = batch_or_404(request, pk)
    context = kitchen.label_page(batch, timezone.localdate(), MOST_LABELS)
    return render(request, "batches/label.html", context)


@require_safe
def export(request: HttpRequest, pk: int, kind: str) -> HttpResponse:
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
