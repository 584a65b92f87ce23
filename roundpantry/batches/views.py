"""Pages and fragments of batches: list, paste, the batch with its lines, and *Why?*."""

from __future__ import annotations

from collections.abc import Mapping
from typing import Any

from django.contrib import messages
from django.db.models import RestrictedError
from django.forms import Form
from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from dietetics.amounts.line_reader import ASK
from dietetics.dishes.batches import (
    LEAST_SERVINGS,
    MOST_SERVINGS,
    BatchContent,
    explain_batch,
    explain_serving,
    is_possible,
)
from dietetics.dishes.recipe_files import read_file
from dietetics.errors import DieteticsError
from roundpantry.batches import services
from roundpantry.batches.batch_page import batch_page, list_rows
from roundpantry.batches.forms import LineForm, NewLineForm, PasteForm, ServingsForm, YieldForm
from roundpantry.batches.models import Batch, BatchLine
from roundpantry.batches.records import batch_value, batches_of
from roundpantry.clients.context import current_client
from roundpantry.counter.long_work import few_uploads_at_once
from roundpantry.counter.requests import Request, posted
from roundpantry.counter.typed_numbers import decimal, whole
from roundpantry.counter.why_drawer import render_why

# the field beside which an error of a line is said, by the first word of its code
LINE_FIELDS = {"amount": "grams", "line": "text"}


@require_safe
def batch_list(request: Request) -> HttpResponse:
    """All batches of the practitioner."""
    rows = list_rows(batches_of(request.user))
    return render(
        request,
        "batches/list.html",
        {"rows": rows, "starters": any(row["batch"].starter for row in rows)},
    )


@require_http_methods(["GET", "POST"])
@few_uploads_at_once
def paste(request: Request) -> HttpResponse:
    """Paste a recipe; what was typed stays when it cannot be read."""
    title = {"title": request.GET.get("title", "")[:120]}
    form = PasteForm(posted(request), request.FILES or None, initial=title)
    if request.method == "POST" and form.is_valid():
        text = form.cleaned_data["text"]
        if form.cleaned_data["file"]:
            return _from_file(request, form)
        try:
            recipe = services.read_pasted(request.user, text, form.cleaned_data["title"])
        except DieteticsError as error:
            form.add_error("text", str(error))
        else:
            return redirect("batches:detail", services.add_batch(request.user, recipe, text).pk)
    return render(request, "batches/paste.html", {"form": form}, status=422 if form.errors else 200)


def _from_file(request: Request, form: PasteForm) -> HttpResponse:
    """The recipe of a file in the field, to be looked at before it is read; of several, each to be
    chosen.
    """
    given = form.cleaned_data["file"]
    if form.cleaned_data["text"].strip():
        form.add_error(
            "file",
            "There is a text and a file. Empty the field above to read the file, or leave the "
            "file out.",
        )
        return render(request, "batches/paste.html", {"form": form}, status=422)
    try:
        found = read_file(given.read(), given.name)
    except DieteticsError as error:
        form.add_error("file", str(error))
        return render(request, "batches/paste.html", {"form": form}, status=422)
    filled = PasteForm(
        initial={
            "text": found[0].text if len(found) == 1 else "",
            "title": form.cleaned_data["title"],
        }
    )
    return render(
        request,
        "batches/paste.html",
        {"form": filled, "found": found if len(found) > 1 else [], "file": given.name},
    )


def batch_or_404(request: Request, pk: int) -> Batch:
    """One of the practitioner's batches."""
    return get_object_or_404(batches_of(request.user), pk=pk)


def line_or_404(request: Request, pk: int, line_pk: int) -> BatchLine:
    """A line of one of the practitioner's batches."""
    return get_object_or_404(
        BatchLine.objects.select_related("batch__practitioner"),
        pk=line_pk,
        batch=batch_or_404(request, pk),
    )


def render_batch(
    request: Request,
    pk: int,
    form: Form | None = None,
    editing: int | None = None,
    problem: str = "",
    typed: Mapping[str, str] | None = None,
) -> HttpResponse:
    """The batch, or its changing part alone for a real htmx request; 422 when something typed was
    refused.
    """
    context: dict[str, Any] = batch_page(batch_or_404(request, pk), current_client(request))
    context |= {"form": form, "editing": editing, "problem": problem, "typed": typed or {}}
    fragment = (
        request.htmx and not request.htmx.boosted and not request.htmx.history_restore_request
    )
    template = "batches/body.html" if fragment else "batches/detail.html"
    return render(
        request,
        template,
        context,
        status=422 if problem or (form is not None and form.errors) else 200,
    )


@require_safe
def detail(request: Request, pk: int) -> HttpResponse:
    """A batch: its lines as read, its yield, its figures."""
    editing = request.GET.get("edit", "")
    return render_batch(request, pk, editing=whole(editing))


@require_POST
def set_yield(request: Request, pk: int) -> HttpResponse:
    """Store yield and servings."""
    form = YieldForm(request.POST)
    if form.is_valid():
        try:
            given = form.cleaned_data
            keep = given["retention"] if "method" in request.POST else None
            services.set_yield(
                batch_or_404(request, pk),
                given["yield_g"],
                given["servings"],
                given["method"],
                keep,
            )
        except DieteticsError as error:
            form.add_error(
                "servings" if error.code == "servings-not-positive" else "yield_g", str(error)
            )
    return render_batch(request, pk, form)


@require_POST
def set_servings(request: Request, pk: int) -> HttpResponse:
    """Say how many a batch serves, where its text did not."""
    form = ServingsForm(request.POST)
    typed = str(form["servings"].value() or "")[:40]
    number = decimal(typed)
    if number is None or not is_possible(number):
        problem = (
            f"Servings “{typed}” were not understood. Enter a number from "
            f"{LEAST_SERVINGS:g} to {MOST_SERVINGS:,.0f}."
        )
        return render_batch(request, pk, problem=problem, typed={"servings": typed})
    try:
        services.set_servings(batch_or_404(request, pk), number)
    except DieteticsError as error:
        return render_batch(request, pk, problem=str(error), typed={"servings": typed})
    return render_batch(request, pk)


@require_POST
def change_line(request: Request, pk: int, line_pk: int) -> HttpResponse:
    """Correct a line: changed words are read anew, a food or grams typed are taken as they are."""
    line = line_or_404(request, pk, line_pk)
    form = LineForm(request.POST)
    if not form.is_valid():
        return render_batch(request, pk, form, editing=line.pk)
    given = form.cleaned_data
    try:
        if given["text"] != (given["seen"] or line.text):
            services.rewrite_line(line, given["text"], given["seen"] or None)
        else:
            services.correct_line(line, given["food"], given["grams"])
    except DieteticsError as error:
        form.add_error(LINE_FIELDS.get(error.code.partition("-")[0], "food"), str(error))
        return render_batch(request, pk, form, editing=line.pk)
    return render_batch(request, pk)


@require_POST
def take_alternative(request: Request, pk: int, line_pk: int, number: int) -> HttpResponse:
    """Take another meaning of a line."""
    line = line_or_404(request, pk, line_pk)
    if number >= len(line.alternatives):
        raise Http404("no such meaning")
    try:
        services.take_alternative(line, number)
    except DieteticsError as error:
        return render_batch(request, pk, problem=str(error))
    return render_batch(request, pk)


@require_POST
def confirm_line(request: Request, pk: int, line_pk: int) -> HttpResponse:
    """Say that a line with two possible meanings was read right."""
    line = line_or_404(request, pk, line_pk)
    if line.confidence == ASK:
        services.confirm_line(line)
    return render_batch(request, pk)


@require_POST
def take_choice(request: Request, pk: int, line_pk: int, number: int) -> HttpResponse:
    """Take one of the foods that are offered for a line that was not read."""
    line = line_or_404(request, pk, line_pk)
    if number >= len(line.choices):
        raise Http404("no such choice")
    try:
        services.take_choice(line, number)
    except DieteticsError as error:
        return render_batch(request, pk, problem=f"{error} Press Correct and type the grams.")
    return render_batch(request, pk)


@require_POST
def add_line(request: Request, pk: int) -> HttpResponse:
    """Add a line at the end."""
    form = NewLineForm(request.POST)
    if not form.is_valid():
        return render_batch(
            request, pk, problem="Write an ingredient with its amount, for example 2 tbsp tahini."
        )
    services.add_line(batch_or_404(request, pk), form.cleaned_data["text"])
    return render_batch(request, pk)


@require_POST
def remove_line(request: Request, pk: int, line_pk: int) -> HttpResponse:
    """Take a line out."""
    services.remove_line(line_or_404(request, pk, line_pk))
    return render_batch(request, pk)


@require_POST
def remove(request: Request, pk: int) -> HttpResponse:
    """Remove a batch that no bowl holds."""
    try:
        services.remove_batch(batch_or_404(request, pk))
    except RestrictedError:
        dishes = batch_or_404(request, pk).used_in.values_list("batch__title", flat=True).distinct()
        problem = "A bowl uses this batch. Remove it from the bowl first."
        if dishes:
            problem = f"{', '.join(dishes)} uses this batch. Remove it there first."
        return render_batch(request, pk, problem=problem)
    messages.success(request, "The batch was removed.")
    return redirect("batches:list")


@require_safe
def why(request: Request, pk: int, scope: str, key: str) -> HttpResponse:
    """The way back of a figure: of a serving, of 100 g, or of the whole batch."""
    value = batch_value(batch_or_404(request, pk))
    try:
        if scope == "100g":
            derivation = BatchContent(value).explain_per_100g(key)
        else:
            derivation = (
                explain_serving(value, key) if scope == "serving" else explain_batch(value, key)
            )
    except DieteticsError as error:
        raise Http404(str(error)) from None
    return render_why(request, derivation)
