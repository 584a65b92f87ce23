"""Before a batch or a bowl is removed: which weeks and dishes use it, named."""

from __future__ import annotations

from django.http import Http404, HttpResponse
from django.shortcuts import render
from django.urls import reverse
from django.views.decorators.http import require_safe

from roundpantry.batches.records import batches_of
from roundpantry.bowls.records import bowls_of
from roundpantry.counter.requests import Request
from roundpantry.weeks.records import uses_of


@require_safe
def batch(request: Request, batch_pk: int) -> HttpResponse:
    """What uses a batch. Bowls and batches that hold it keep it from going."""
    row = batches_of(request.user).filter(pk=batch_pk).first()
    if row is None:
        raise Http404("no such batch")
    bowls = {part.bowl for part in row.bowl_parts.select_related("bowl__client")}
    context = {
        "title": row.title,
        "kind": "batch",
        "weeks": uses_of(request.user, f"batch-{row.pk}"),
        "bowls": sorted(bowls, key=lambda bowl: (bowl.client.name, bowl.name)),
        "batches": {line.batch for line in row.used_in.select_related("batch")},
        "remove": reverse("batches:remove", args=[row.pk]),
        "keep": reverse("batches:detail", args=[row.pk]),
    }
    return render(request, "weeks/removal.html", context)


@require_safe
def bowl(request: Request, bowl_pk: int) -> HttpResponse:
    """What uses a bowl."""
    row = bowls_of(request.user).filter(pk=bowl_pk).select_related("client").first()
    if row is None:
        raise Http404("no such bowl")
    context = {
        "title": row.name,
        "kind": "bowl",
        "weeks": uses_of(request.user, f"bowl-{row.pk}"),
        "remove": reverse("bowls:remove", args=[row.pk]),
        "keep": reverse("bowls:bench", args=[row.pk]),
    }
    return render(request, "weeks/removal.html", context)
