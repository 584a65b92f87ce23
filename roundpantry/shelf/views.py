"""The shelf's pages: search, a food, foods side by side, own labels, units, and exchange with
spreadsheets.
"""

from __future__ import annotations

from typing import Any

from django.contrib import messages
from django.http import Http404, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.views.decorators.http import require_http_methods, require_POST, require_safe

from dietetics.cautions.never_eaten import reach
from dietetics.dishes.usual_day import usual_day
from dietetics.errors import DieteticsError
from dietetics.labels.checks import check_label
from dietetics.labels.label_reader import read_label
from roundpantry.clients.context import current_client
from roundpantry.config.version import program_version
from roundpantry.counter.levels import figure_rows
from roundpantry.counter.long_work import few_uploads_at_once
from roundpantry.counter.requests import Request, posted
from roundpantry.counter.seen import MARK, BothTexts, both_texts
from roundpantry.counter.typed_numbers import whole
from roundpantry.shelf import food_upload, services
from roundpantry.shelf.food_page import against_client, columns_of, differences, food_page, of_grams
from roundpantry.shelf.food_rows import found_rows, group_rows, heads, label_rows
from roundpantry.shelf.forms import (
    LabelForm,
    PasteLabelForm,
    PreferencesForm,
    UploadForm,
    initial_of,
)
from roundpantry.shelf.models import Correction, ImportDraft, Label, LabelVersion
from roundpantry.shelf.records import (
    SESSION_DISPLAY,
    facts_of,
    food_of,
    kept_in_session,
    labels_of,
    preferences_of,
    reader_of,
    shelf_of,
)

MOST_FOUND = 40
MOST_COMPARED = 4
USUAL_DAY_MOST = 3000
MAY_BE_EMPTY = ("practice", "reach")  # of the settings; what else is not sent stays as it is
NEVER_EATEN_MOST = 1000  # characters that are looked up while they are typed


@require_safe
def shelf_list(request: Request) -> HttpResponse:
    """All groups, or what a search finds; the fragment alone while one types."""
    query = request.GET.get("q", "")[:100]
    found = found_rows(request.user, query, MOST_FOUND) if query.strip() else None
    context: dict[str, Any] = {"query": query, "found": found, "heads": heads()}
    if request.htmx and not request.htmx.boosted and not request.htmx.history_restore_request:
        return render(request, "shelf/found.html", context)
    context |= {"groups": group_rows(), "labels": label_rows(labels_of(request.user))}
    return render(request, "shelf/list.html", context)


@require_safe
def food(request: Request, key: str) -> HttpResponse:
    """One food: figures side by side, measures, yields, twins, amino acids, source and the other
    table.
    """
    found = food_of(request.user.pk, key)
    if found is None:
        raise Http404("no such food")
    context = {
        **food_page(found, shelf_of(request.user)),
        "against": against_client(found, current_client(request)),
    }
    return render(request, "shelf/food.html", context)


@require_safe
def compare(request: Request) -> HttpResponse:
    """Up to four foods side by side, per 100 g and per 100 kcal, and what is gained and lost."""
    keys = list(dict.fromkeys(request.GET.getlist("f")))[:MOST_COMPARED]
    words = request.GET.get("q", "").strip()[:100]
    if words and len(keys) < MOST_COMPARED:
        keys += [row.key for row in found_rows(request.user, words, 1) if row.key not in keys]
    foods = [found for key in keys if (found := food_of(request.user.pk, key)) is not None]
    per_100g = figure_rows([of_grams(f, 100) for f in foods]) if foods else []
    energetic = [(f, energy) for f in foods if (energy := f.per_100g["energy_kcal"])]
    per_energy = (
        figure_rows([of_grams(f, 10_000 / energy) for f, energy in energetic]) if energetic else []
    )
    context = {
        "foods": foods,
        "rows": per_100g,
        "energetic": energetic,
        "energy_rows": per_energy,
        "words": words,
        "sentences": differences(foods) if len(foods) > 1 else [],
        "full": len(foods) >= MOST_COMPARED,
        "first_column": [columns_of(f)[0][0] for f in foods],
    }
    return render(request, "shelf/compare.html", context)


ALLERGEN_MARKS = ("allergens", "may contain")  # shown as marks of the food, not among the notes


def _label(request: Request, pk: int) -> Label:
    return get_object_or_404(labels_of(request.user), pk=pk)


@require_http_methods(["GET", "POST"])
def label_edit(request: Request, pk: int | None = None) -> HttpResponse:
    """Type a label, or paste it to have the fields filled; storing makes a version (or a draft)."""
    label = _label(request, pk) if pk is not None else None
    newest = label.versions.all()[0] if label else None
    if request.method == "POST":
        return (_filled if "read" in request.POST else _kept)(request, label, newest)
    facts = facts_of(newest) if newest else None
    return _label_form(
        request,
        label,
        newest,
        LabelForm(initial=initial_of(facts) if facts else None),
        checks=check_label(facts) if facts else [],
    )


def _filled(request: Request, label: Label | None, newest: LabelVersion | None) -> HttpResponse:
    """The fields filled with what was read in a pasted text."""
    paste = PasteLabelForm(request.POST)
    reading = read_label(paste.cleaned_data["text"][:20_000] if paste.is_valid() else "")
    return _label_form(
        request,
        label,
        newest,
        LabelForm(initial=initial_of(reading.facts)),
        mark=request.POST.get(MARK, "")[:20],  # still of the version that was opened
        left=reading.not_understood,
        questions=reading.questions,
        flags=reading.facts.flags,
        checks=check_label(reading.facts),
    )


def _kept(request: Request, label: Label | None, newest: LabelVersion | None) -> HttpResponse:
    """Store what was typed, unless another window has stored something since."""
    form = LabelForm(request.POST)
    both: list[BothTexts] = []
    if form.is_valid():
        seen = whole(request.POST.get(MARK, "")) if label else None
        try:
            version, _ = services.keep_label(request.user, form.facts(), label, seen)
        except DieteticsError as error:
            form.add_error(None, str(error))
            if label is not None:
                newest = label.versions.order_by("-number")[0]
                both = both_texts(form, LabelForm(initial=initial_of(facts_of(newest))))
        else:
            return redirect(
                "shelf:label-edit" if version.draft else "shelf:label", version.label_id
            )
    return _label_form(request, label, newest, form, status=422, both=both)


def _label_form(
    request: Request,
    label: Label | None,
    newest: LabelVersion | None,
    form: LabelForm,
    status: int = 200,
    **more: Any,
) -> HttpResponse:
    """The page with the fields of a label, and what there is to say of them."""
    context: dict[str, Any] = {
        "form": form,
        "paste": PasteLabelForm(posted(request)),
        "label": label,
        "newest": newest,
        "mark": newest.number if newest else "",
        "flags": facts_of(newest).flags if newest else None,
        "there": request.path,
        **more,
    }
    return render(request, "shelf/label_edit.html", context, status=status)


@require_safe
def label_page(request: Request, pk: int) -> HttpResponse:
    """A label: its newest version, its checks and marks, and its earlier versions."""
    label = _label(request, pk)
    newest = label.versions.all()[0]
    facts = facts_of(newest)
    context = {
        "label": label,
        "newest": newest,
        "facts": facts,
        "checks": check_label(facts),
        "marks": [
            f"{name}: {', '.join(by)}"
            for name, by in (facts.flags.words or {}).items()
            if name not in ALLERGEN_MARKS
        ],
    }
    found = None if newest.draft else food_of(request.user.pk, f"own-{label.pk}-{newest.number}")
    if found is not None:
        context |= food_page(found, shelf_of(request.user))
        context["against"] = against_client(found, current_client(request))
    return render(request, "shelf/label.html", context)


@require_POST
def label_retire(request: Request, pk: int) -> HttpResponse:
    """Take a label off the shelf, or put it back."""
    label = _label(request, pk)
    services.retire_label(label, not label.retired)
    return redirect("shelf:label", label.pk)


@require_http_methods(["GET", "POST"])
def preferences(request: Request) -> HttpResponse:
    """Units, and what was remembered from corrections."""
    row = preferences_of(request.user)
    names = (
        "energy",
        "density",
        "cup",
        "portions",
        "salt",
        "little_salt",
        "dates",
        "time_zone",
        "numbers",
        "week_starts",
        "practice",
        "reach",
    )
    form = PreferencesForm(posted(request), initial={name: getattr(row, name) for name in names})
    if request.method == "POST" and form.is_valid():
        emptied = {name for name in MAY_BE_EMPTY if name in request.POST}
        row = services.set_preferences(
            request.user,
            **{k: v for k, v in form.cleaned_data.items() if v != "" or k in emptied},
        )
        request.session[SESSION_DISPLAY] = kept_in_session(row)
        messages.success(request, "Settings saved.")
        return redirect("shelf:preferences")
    context = {
        "form": form,
        "corrections": Correction.objects.filter(practitioner_id=request.user.pk),
        "version": program_version(),
    }
    return render(request, "shelf/preferences.html", context, status=422 if form.errors else 200)


@require_POST
def forget(request: Request, pk: int) -> HttpResponse:
    """Drop a remembered correction."""
    services.forget(request.user, pk)
    return redirect("shelf:preferences")


@require_safe
def export(request: Request, kind: str) -> HttpResponse:
    """Own foods as a file."""
    versions = [
        label.versions.all()[0] for label in labels_of(request.user) if label.versions.all()
    ]
    rows = food_upload.rows_of(versions)
    if kind == "xlsx":
        mime = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
        answer = HttpResponse(food_upload.to_xlsx(rows), content_type=mime)
    else:
        answer = HttpResponse(food_upload.to_csv(rows), content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = f'attachment; filename="own-foods.{kind}"'
    return answer


@require_http_methods(["GET", "POST"])
@few_uploads_at_once
def upload(request: Request) -> HttpResponse:
    """Upload own foods: a dry run says row by row what would happen; nothing is stored before it is
    confirmed.
    """
    form = UploadForm(posted(request), request.FILES or None)
    context: dict[str, Any] = {"form": form, "columns": food_upload.COLUMNS}
    if request.method == "POST" and form.is_valid():
        file = form.cleaned_data["file"]
        own = {
            label.pk: label.versions.all()[0]
            for label in labels_of(request.user)
            if label.versions.all()
        }
        try:
            table = food_upload.read_table(file.name, file.read(food_upload.MOST_BYTES + 1))
            rows = food_upload.dry_run(table, own)
        except food_upload.UnreadableFileError as error:
            form.add_error("file", str(error))
        else:
            usable = [{**row.facts, "label": row.label} for row in rows if row.facts is not None]
            draft = services.keep_import(request.user, file.name, usable)
            counts = {
                action: sum(row.action == action for row in rows)
                for action in ("add", "change", "same", "refuse")
            }
            context |= {
                "rows": rows[:500],
                "more": max(0, len(rows) - 500),
                "draft": draft,
                "counts": counts,
                "usable": len(usable),
            }
    return render(request, "shelf/upload.html", context, status=422 if form.errors else 200)


@require_POST
def upload_confirm(request: Request, pk: int) -> HttpResponse:
    """Store what the dry run showed."""
    draft = get_object_or_404(ImportDraft, pk=pk, practitioner_id=request.user.pk)
    count = services.confirm_import(request.user, draft)
    messages.success(request, f"{count} foods saved.")
    return redirect("shelf:list")


@require_POST
def never_eaten(request: Request) -> HttpResponse:
    """Which foods, own ones too, each thing reaches that a client never eats, while it is typed."""
    text = request.POST.get("dislikes", "")
    reached = reach(text[:NEVER_EATEN_MOST], shelf_of(request.user))
    context = {"reached": reached, "is_cut": len(text) > NEVER_EATEN_MOST}
    return render(request, "shelf/never_eaten.html", context)


@require_POST
def usual_day_page(request: Request) -> HttpResponse:
    """What a usual day brings of sodium, vitamin K and fibre, while it is typed."""
    text = request.POST.get("usual_day", "")[:USUAL_DAY_MOST]
    day = usual_day(text, reader_of(request.user)) if text.strip() else None
    return render(request, "shelf/usual_day.html", {"day": day})
