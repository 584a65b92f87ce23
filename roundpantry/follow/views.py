"""Pages of what is measured: the course, all values, files in and out."""

from __future__ import annotations

from typing import Any

from django.contrib import messages
from django.core.paginator import Paginator
from django.http import Http404, HttpResponse, JsonResponse
from django.shortcuts import redirect, render
from django.utils import timezone
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from dietetics.errors import DieteticsError
from dietetics.follow.exchange import Sent, bundle, nutrition_order, observation
from dietetics.follow.kinds import kind
from dietetics.follow.measurement_files import MeasuredRow, as_csv, read_csv
from dietetics.follow.quick_entry import NOTHING_SAVED, QuickEntry, read_line
from roundpantry.clients.models import Client, Measurement
from roundpantry.counter import clock
from roundpantry.counter.dates import day_text
from roundpantry.counter.forms import problem_of
from roundpantry.counter.long_work import few_uploads_at_once
from roundpantry.counter.requests import Request, name_of
from roundpantry.follow import services
from roundpantry.follow.course_page import (
    course_page,
    doubted_of,
    is_doubted,
    remark_of,
    value_row,
    weight_apart,
    weight_of,
)
from roundpantry.follow.forms import FileForm, LineForm
from roundpantry.follow.records import measurements_of, newest_by_kind
from roundpantry.targets.records import newest_set, windows_of
from roundpantry.weeks.views import client_or_404

PREVIEWED_ROWS, VALUES_A_PAGE = 60, 100


@require_safe
def course(request: Request, client_pk: int) -> HttpResponse:
    """How a client is doing."""
    return _course(request, client_or_404(request, client_pk))


def _course(request: Request, client: Client, **more: Any) -> HttpResponse:
    status = 422 if more.get("problem") or more.get("questions") else 200
    context = course_page(client) | {"reporters": Measurement.REPORTERS, **more}
    return render(request, "follow/course.html", context, status=status)


@require_POST
def enter(request: Request, client_pk: int) -> HttpResponse:
    """Keep a line of what was measured; what two units would fit is asked about first."""
    client, form = client_or_404(request, client_pk), LineForm(request.POST)
    typed = {
        "typed": str(request.POST.get("line", ""))[:4000],
        "typed_by": str(request.POST.get("reported_by", ""))[:12],
    }
    if not form.is_valid():
        return _course(request, client, problem=problem_of(form), **typed)
    line = form.cleaned_data["line"]
    try:
        read = _read(client, line)
    except DieteticsError as error:
        return _course(request, client, problem=str(error), **typed)
    if read.questions:
        return _course(request, client, questions=_questions(read, line), **typed)
    already = _already(client, read)
    by = form.cleaned_data["reported_by"] or Measurement.PRACTITIONER
    try:
        services.keep_line(client, read, by)
    except DieteticsError as error:
        return _course(request, client, problem=str(error), **typed)
    messages.success(request, _kept_words(read, already))
    if read.refused:  # what is good is kept, what is not stays in the field
        typed["typed"] = ", ".join(one.text for one in read.refused)
        reasons = " ".join(one.reason for one in read.refused)
        return _course(request, client, problem=f"Not kept: {reasons}", **typed)
    return redirect("follow:course", client.pk)


def _read(client: Client, line: str) -> QuickEntry:
    """A line read against what this client was measured before. Raises DieteticsError."""
    last = {key: row.value for key, row in newest_by_kind(client).items()}
    last.setdefault("weight", float(client.weight_kg))
    return read_line(line, clock.today(), last)


@require_safe
def read_line_page(request: Request, client_pk: int) -> HttpResponse:
    """What would be kept of a line, shown while it is typed."""
    client, form = client_or_404(request, client_pk), LineForm(request.GET)
    read, problem = None, ""
    if form.is_valid():
        try:
            read = _read(client, form.cleaned_data["line"])
        except DieteticsError as error:
            problem = str(error).removesuffix(NOTHING_SAVED)
    context = {"read": read, "problem": problem}
    return render(request, "follow/read.html", context)


def _questions(read: QuickEntry, line: str) -> list[dict[str, Any]]:
    """What is asked, each with the line as it would be for each unit."""
    return [
        {
            "name": one.kind.name,
            "number": one.shown,
            "is_jump": one.is_jump,
            "units": [(unit.name, one.answered(line, unit)) for unit in one.units],
        }
        for one in read.questions[:1]
    ]


def _already(client: Client, read: QuickEntry) -> list[str]:
    """Values of the same kind and day that are there already."""
    found = []
    for one in read.values:
        rows = measurements_of(client).filter(kind=one.kind.key, day=one.day)
        found += [f"{one.kind.text(row.value)} on {day_text(row.day)}" for row in rows[:1]]
    return found


def _kept_words(read: QuickEntry, already: list[str]) -> str:
    kept = [f"{one.kind.name} {one.kind.text(one.value)}" for one in read.values]
    words = f"Kept: {', '.join(kept)}." if kept else "Kept as a remark."
    if read.remark and kept:
        words += f" As a remark: {read.remark}."
    if read.unread:
        words += f" Not read as a value: {', '.join(read.unread)}."
    if already:
        words += f" There was already {', '.join(already)}: both are kept."
    return words


@require_POST
def use_weight(request: Request, client_pk: int) -> HttpResponse:
    """Let targets use the smoothed weight."""
    client = client_or_404(request, client_pk)
    weight = weight_of(client)
    found = weight_apart(client, weight) if weight else ""
    if found:
        services.use_weight(client, float(found))
        messages.success(request, f"Targets use {found} kg from now on, in a new version.")
    return redirect("follow:course", client.pk)


@require_safe
def values(request: Request, client_pk: int) -> HttpResponse:
    """Everything that was measured."""
    client = client_or_404(request, client_pk)
    page = Paginator(measurements_of(client), VALUES_A_PAGE).get_page(request.GET.get("page"))
    doubted = doubted_of(client)
    rows = [value_row(row, doubted) for row in page]
    context = {"client": client, "rows": rows, "page": page}
    return render(request, "follow/values.html", context)


@require_POST
def remove_value(request: Request, client_pk: int, measurement_pk: int) -> HttpResponse:
    """Remove a measurement that was wrong."""
    client = client_or_404(request, client_pk)
    row = measurements_of(client).filter(pk=measurement_pk).first()
    if row is None:
        raise Http404("no such measurement")
    services.remove_measurement(row)
    messages.success(request, f"Removed: {kind(row.kind).name}, {day_text(row.day)}.")
    return redirect("follow:values", client.pk)


def _rows(client: Client) -> list[MeasuredRow]:
    doubted = doubted_of(client)
    return [
        MeasuredRow(
            kind(row.kind),
            row.value,
            row.day,
            row.at,
            row.low,
            row.high,
            row.reported_by,
            remark_of(row, doubted),
        )
        for row in measurements_of(client)
    ]


@require_safe
def values_csv(request: Request, client_pk: int) -> HttpResponse:
    """Everything that was measured, as CSV."""
    client = client_or_404(request, client_pk)
    answer = HttpResponse(as_csv(_rows(client)), content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = f'attachment; filename="measurements-{client.pk}.csv"'
    return answer


@require_safe
def exchange(request: Request, client_pk: int) -> HttpResponse:
    """Measurements and targets for other health programs: FHIR R4 as JSON."""
    client = client_or_404(request, client_pk)
    subject, doubted = f"Patient/client-{client.pk}", doubted_of(client)
    resources = [
        observation(
            Sent(
                f"measurement-{row.pk}",
                kind(row.kind),
                row.value,
                row.day,
                row.at,
                row.low,
                row.high,
                remark_of(row, doubted),
                is_doubted(row, doubted),
            ),
            subject,
        )
        for row in measurements_of(client)
    ]
    present = newest_set(client)
    if present is not None:
        resources.append(
            nutrition_order(
                f"targets-{present.pk}",
                windows_of(present),
                timezone.localtime(present.created_at).date(),
                subject,
                present.clinician or name_of(request.user),
                client.allergies,
            )
        )
    answer = JsonResponse(
        bundle(resources, clock.now()), json_dumps_params={"indent": 1, "ensure_ascii": False}
    )
    answer["Content-Type"] = "application/fhir+json"
    answer["Content-Disposition"] = f'attachment; filename="client-{client.pk}-fhir.json"'
    return answer


@require_http_methods(["GET", "POST"])
@few_uploads_at_once
def upload(request: Request, client_pk: int) -> HttpResponse:
    """Read a table of measurements, show what was read, and keep it when asked."""
    client = client_or_404(request, client_pk)
    if request.method == "GET":
        return render(request, "follow/upload.html", {"client": client})
    form = FileForm(request.POST, request.FILES)
    if not form.is_valid():
        return _upload(request, client, "", problem_of(form))
    text = form.cleaned_data["text"]
    if form.cleaned_data["file"] is not None:
        content = form.cleaned_data["file"].read(services.MOST_FILE_BYTES + 1)
        if len(content) > services.MOST_FILE_BYTES:
            return _upload(request, client, text, "The file is larger than a megabyte.")
        text = content.decode("utf-8", errors="replace")
    try:
        rows = read_csv(text, clock.today())
    except DieteticsError as error:
        return _upload(request, client, text, str(error))
    good = [one.row for one in rows if one.row is not None]
    if form.cleaned_data["keep"] and good:
        try:
            count = services.keep_rows(client, good)
        except DieteticsError as error:
            return _upload(request, client, text, str(error))
        doubled = len(good) - count
        words = f"{count} kept."
        words += f" {doubled} were there already." if doubled else ""
        messages.success(request, words)
        return redirect("follow:values", client.pk)
    bad = [one for one in rows if one.problem]
    context = {
        "client": client,
        "text": text,
        "good": [
            (day_text(row.day), row.kind.name, row.kind.text(row.value), row.remark)
            for row in good[:PREVIEWED_ROWS]
        ],
        "count": len(good),
        "bad": bad[:PREVIEWED_ROWS],
        "bad_count": len(bad),
    }
    return render(request, "follow/upload.html", context, status=200 if good else 422)


def _upload(request: Request, client: Client, text: str, problem: str) -> HttpResponse:
    context = {"client": client, "text": text, "problem": problem}
    return render(request, "follow/upload.html", context, status=422)
