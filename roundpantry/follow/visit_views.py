"""Visits: before, after, on paper; reports of a client and of the practice."""

from __future__ import annotations

from typing import Any

from django.contrib import messages
from django.http import Http404, HttpResponse
from django.shortcuts import redirect, render
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from dietetics.errors import DieteticsError
from roundpantry.clients.models import Client
from roundpantry.counter import clock
from roundpantry.counter.long_work import few_at_once
from roundpantry.counter.requests import Request, name_of, posted
from roundpantry.counter.seen import MARK, BothTexts, both_texts, mark_of
from roundpantry.follow import services
from roundpantry.follow.forms import VisitForm
from roundpantry.follow.letter import letter_pdf, report_facts
from roundpantry.follow.models import Visit
from roundpantry.follow.practice import practice_csv, practice_page
from roundpantry.follow.records import visits_of
from roundpantry.follow.visit_page import before_visit, note_figures
from roundpantry.weeks.views import client_or_404


@require_safe
def visits(request: Request, client_pk: int) -> HttpResponse:
    """The visits of a client."""
    client = client_or_404(request, client_pk)
    rows = Visit.objects.filter(client=client)
    return render(request, "follow/visits.html", {"client": client, "visits": rows})


@require_http_methods(["GET", "POST"])
def new_visit(request: Request, client_pk: int) -> HttpResponse:
    """A visit: what changed since the last one, and a note."""
    client = client_or_404(request, client_pk)
    return _visit(request, client, None)


@require_http_methods(["GET", "POST"])
def visit(request: Request, client_pk: int, visit_pk: int) -> HttpResponse:
    """A visit that was noted, to read or to change."""
    client = client_or_404(request, client_pk)
    return _visit(request, client, _visit_or_404(request, client, visit_pk))


def _visit_or_404(request: Request, client: Client, visit_pk: int) -> Visit:
    found = visits_of(request.user).filter(client=client, pk=visit_pk).first()
    if found is None:
        raise Http404("no such visit")
    return found


def _visit(request: Request, client: Client, row: Visit | None) -> HttpResponse:
    found = before_visit(client, row)
    initial: dict[str, Any] = {"day": clock.today(), "note": note_figures(client, found)}
    seen, both = request.POST.get(MARK, "")[:40], list[BothTexts]()
    mark = mark_of(row) if row else ""  # before the form puts into the row what was typed
    form = VisitForm(posted(request), instance=row, initial=None if row else initial)
    if request.method == "POST" and form.is_valid():
        try:
            kept = services.keep_visit(client, row, seen, **form.cleaned_data)
        except DieteticsError as error:
            form.add_error(None, str(error))
            if error.code == "moved-on" and row is not None:
                stored = _visit_or_404(request, client, row.pk)
                mark, both = mark_of(stored), both_texts(form, VisitForm(instance=stored))
        else:
            messages.success(request, "Visit saved.")
            return redirect("follow:visit", client.pk, kept.pk)
    context: dict[str, Any] = {"client": client, "visit": row, "form": form, "before": found}
    context |= {"mark": mark, "both": both, "there": request.path}
    return render(request, "follow/visit.html", context, status=422 if form.errors else 200)


@require_POST
def remove_visit(request: Request, client_pk: int, visit_pk: int) -> HttpResponse:
    """Remove a visit."""
    client = client_or_404(request, client_pk)
    services.remove_visit(_visit_or_404(request, client, visit_pk))
    messages.success(request, "Visit removed.")
    return redirect("follow:visits", client.pk)


@require_safe
def print_visit(request: Request, client_pk: int, visit_pk: int) -> HttpResponse:
    """A visit on paper."""
    client = client_or_404(request, client_pk)
    row = _visit_or_404(request, client, visit_pk)
    context = {"client": client, "visit": row, "by": name_of(request.user)}
    return render(request, "follow/visit_print.html", context)


@require_safe
def report(request: Request, client_pk: int) -> HttpResponse:
    """How it is going, for the client, on one page."""
    client = client_or_404(request, client_pk)
    context = report_facts(client) | {"client": client, "by": name_of(request.user)}
    return render(request, "follow/report.html", context)


@require_safe
def letter(request: Request, client_pk: int) -> HttpResponse:
    """Figures and what was agreed, for the referring clinician: one page as PDF."""
    client = client_or_404(request, client_pk)
    content = letter_pdf(client, name_of(request.user))
    answer = HttpResponse(content, content_type="application/pdf")
    answer["Content-Disposition"] = f'inline; filename="client-{client.pk}-letter.pdf"'
    return answer


@require_safe
@few_at_once
def practice(request: Request) -> HttpResponse:
    """How many clients, due and on course."""
    return render(request, "follow/practice.html", practice_page(request.user))


@require_safe
@few_at_once
def practice_table(request: Request) -> HttpResponse:
    """The same as CSV, without names."""
    answer = HttpResponse(practice_csv(request.user), content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = 'attachment; filename="practice.csv"'
    return answer
