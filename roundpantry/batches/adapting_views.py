"""Pages that adapt a batch to a client: substitutes, added water, cooking method, and what was
changed.
"""

from __future__ import annotations

from django.http import Http404, HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_POST, require_safe

from dietetics.errors import DieteticsError
from roundpantry.batches import adapting_page, services
from roundpantry.batches.forms import MethodForm, SubstituteForm, WaterForm
from roundpantry.batches.views import batch_or_404, line_or_404, render_batch
from roundpantry.clients.context import current_client
from roundpantry.counter.forms import problem_of
from roundpantry.counter.requests import Request


@require_safe
def fit(request: Request, pk: int) -> HttpResponse:
    """What each line costs the client, and what may stand in for it."""
    context = adapting_page.fitting_page(batch_or_404(request, pk), current_client(request))
    return render(request, "batches/fit.html", context)


@require_safe
def changed(request: Request, pk: int) -> HttpResponse:
    """What was changed and why, on a page for the client."""
    batch = batch_or_404(request, pk)
    if batch.parent is None:
        raise Http404("nothing was changed: this is an original")
    return render(
        request, "batches/changed.html", adapting_page.changed_page(batch, current_client(request))
    )


@require_POST
def vary(request: Request, pk: int) -> HttpResponse:
    """Copy a batch as a variant to be fitted."""
    batch, client = batch_or_404(request, pk), current_client(request)
    title = f"{batch.title}, for {client.name}" if client else f"{batch.title}, variant"
    return redirect("batches:fit", services.vary(batch, title, client=client).pk)


@require_POST
def substitute(request: Request, pk: int, line_pk: int) -> HttpResponse:
    """Take a substitution for a line: in the variant, or in a fresh variant of an original."""
    batch, client = batch_or_404(request, pk), current_client(request)
    line = line_or_404(request, pk, line_pk)
    form = SubstituteForm(request.POST)
    taken = (
        adapting_page.substitution_of(line, form.cleaned_data["key"]) if form.is_valid() else None
    )
    if taken is None:
        raise Http404("no such substitution")
    against = adapting_page.against_substitution(taken, client)
    if any(verdict.forbids for verdict in against):
        words = f"Not applied: {taken.words}. {' '.join(verdict.text for verdict in against)}"
        context = {**adapting_page.fitting_page(batch, client), "problem": words}
        return render(request, "batches/fit.html", context, status=422)
    if batch.parent_id is None and form.cleaned_data["here"] != "yes":
        place = [one.pk for one in batch.lines.all()].index(line.pk)
        made = services.vary(
            batch,
            f"{batch.title}, for {client.name}" if client else f"{batch.title}, variant",
            client=client,
        )
        line = list(made.lines.all())[place]
        pk = made.pk
    services.take_substitution(line, taken)
    return redirect("batches:fit", pk)


@require_POST
def water(request: Request, pk: int) -> HttpResponse:
    """Thin with water, or boil some away."""
    batch, form = batch_or_404(request, pk), WaterForm(request.POST)
    if not form.is_valid():
        return render_batch(request, pk, problem=str(form.errors["grams"][0]))
    try:
        services.set_water(batch, form.cleaned_data["grams"] or 0.0)
    except DieteticsError:
        return render_batch(
            request,
            pk,
            problem="That would boil away nearly everything. The maximum is four fifths.",
        )
    return render_batch(request, pk)


@require_POST
def method(request: Request, pk: int, line_pk: int) -> HttpResponse:
    """Say how one line is cooked."""
    line, form = line_or_404(request, pk, line_pk), MethodForm(request.POST)
    if not form.is_valid():
        return render_batch(request, pk, problem=problem_of(form))
    try:
        services.set_method(line, form.cleaned_data["method"])
    except DieteticsError as error:
        return render_batch(request, pk, problem=str(error))
    return render_batch(request, pk)
