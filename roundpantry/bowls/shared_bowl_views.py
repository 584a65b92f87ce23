"""Portions of one bowl for everyone at the table."""

from __future__ import annotations

from django.http import Http404, HttpResponse
from django.shortcuts import render
from django.views.decorators.http import require_POST, require_safe

from roundpantry.bowls import services
from roundpantry.bowls.forms import StepForm
from roundpantry.bowls.shared_bowl import at_the_table, table_page
from roundpantry.bowls.views import bowl_or_404
from roundpantry.clients.context import take_up
from roundpantry.counter.requests import Request


@require_safe
def table(request: Request, pk: int) -> HttpResponse:
    """The same bowl for everybody at the table."""
    bowl = bowl_or_404(request, pk)
    take_up(request, bowl.client)
    template = "bowls/table_rows.html" if request.htmx else "bowls/table.html"
    return render(request, template, table_page(bowl))


@require_POST
def table_step(request: Request, pk: int, part_pk: int) -> HttpResponse:
    """Turn one person's portion; the part belongs to the bowl or to a variant at the same table."""
    bowl, form = bowl_or_404(request, pk), StepForm(request.POST)
    found = [
        (one, row) for one in at_the_table(bowl) for row in one.parts.all() if row.pk == part_pk
    ]
    if not found:
        raise Http404("no such ingredient at this table")
    if form.is_valid():
        services.step_portion(*found[0], form.cleaned_data["steps"])
    context = table_page(bowl_or_404(request, pk))
    return render(request, "bowls/table_rows.html", context, status=200 if form.is_valid() else 422)
