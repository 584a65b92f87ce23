"""Reports of a client: for themselves, and one page for the clinician who sent them."""

from __future__ import annotations

import io
from collections.abc import Iterable
from datetime import date, timedelta
from importlib import import_module
from typing import Any

from dietetics.nutrients import nutrient
from dietetics.targets.needs_table import hides_numbers
from roundpantry.clients.models import Client
from roundpantry.counter import clock
from roundpantry.counter.dates import day_text
from roundpantry.counter.pdf_text import BOLD, FONT, letters_there, pdf_text
from roundpantry.follow.course_page import ValueRow, course_page, newest_values, weight_of
from roundpantry.follow.eaten_days import adherence, eaten_between
from roundpantry.follow.models import Visit
from roundpantry.handover.booklet_made import ASK, aim_words
from roundpantry.targets.records import newest_set, windows_of

REPORT_DAYS = 28
LETTER_KEYS = (
    "energy_kcal", "protein_g", "fibre_g", "sodium_mg", "potassium_mg", "phosphorus_mg",
)  # fmt: skip
SIZE, MARGIN_MM = 9.5, 18
SOURCES = (
    "Weight: smoothed with its 95 % interval. Targets: computed from the record (NASEM 2023, and "
    "the sources named on the targets page) or set as named. Blood values as reported, with the "
    "laboratory's own range."
)


def report_facts(client: Client) -> dict[str, Any]:
    """What a client's own page says."""
    today = clock.today()
    days = eaten_between(client, today - timedelta(days=REPORT_DAYS), today)
    hidden = hides_numbers(client.conditions)
    found = course_page(client)
    return {
        "aim": aim_words(client),
        "picture": "" if hidden else found["picture"],
        "words": "" if hidden or not found["judgement"] else found["judgement"].words,
        "overnight": "" if hidden or not found["judgement"] else found["judgement"].overnight,
        "adherence": adherence(days).words(),
        "visit": (visit := Visit.objects.filter(client=client).first()),
        "meets_on": _to_come(visit),
        "ask": ASK,
        "today": day_text(today),
    }


def letter_pdf(client: Client, by: str) -> bytes:
    """One page for the referring clinician."""
    flow, sheets = import_module("reportlab.platypus"), import_module("reportlab.lib.styles")
    units, sizes = import_module("reportlab.lib.units"), import_module("reportlab.lib.pagesizes")
    letters_there()
    style = sheets.ParagraphStyle
    text = style("t", fontName=FONT, fontSize=SIZE, leading=SIZE * 1.3, spaceAfter=2)
    head = style(
        "h", fontName=BOLD, fontSize=SIZE + 2, leading=SIZE * 1.5, spaceBefore=7, spaceAfter=2
    )
    story = []
    for title, lines in _sections(client, by):
        story.append(flow.Paragraph(pdf_text(title), head))
        story += [flow.Paragraph(pdf_text(line), text) for line in lines]
    out = io.BytesIO()
    margin = MARGIN_MM * units.mm
    document = flow.SimpleDocTemplate(
        out, pagesize=sizes.A4, title=f"{client.name}", author="Round Pantry",
        leftMargin=margin, rightMargin=margin, topMargin=margin, bottomMargin=margin,
    )  # fmt: skip
    frame = flow.KeepInFrame(document.width, document.height - 12, story, mode="shrink")
    document.build([frame])
    return out.getvalue()


def _sections(client: Client, by: str) -> Iterable[tuple[str, list[str]]]:
    """The letter, part by part."""
    present, weight = newest_set(client), weight_of(client)
    visit = Visit.objects.filter(client=client).first()
    who = f"{client.name}, {client.get_sex_display()}, {client.age_years} years"
    cautions = "; ".join(client.caution_list) or "none recorded"
    yield f"Report on {who}", [f"{day_text(clock.today())}, by {by}."]
    yield "On record", [f"Conditions and allergies: {cautions}."]
    if weight is not None:
        now = weight.line.now
        words = f"{now.kg:.1f} kg ({now.low:.1f}–{now.high:.1f}) on {day_text(now.day)}"
        yield "Weight", [f"Smoothed {words}.", weight.judgement.words]
    for name, rows in newest_values(client):
        lines = [_value_line(row) for row in rows if row.name != "Weight"]
        if lines:
            yield name, lines
    if present is not None:
        windows = {one.key: one for one in windows_of(present)}
        lines = [
            f"{nutrient(key).name}: {windows[key].text()} {nutrient(key).unit} a day"
            for key in LETTER_KEYS
            if key in windows
        ]
        signed = f", set by {present.clinician}" if present.clinician else ""
        yield f"Targets, version {present.number}{signed}", lines
    today = clock.today()
    days = eaten_between(client, today - timedelta(days=REPORT_DAYS), today)
    yield "Eaten in the last four weeks", [adherence(days).words()]
    if visit is not None:
        agreed = visit.agreed or "nothing noted"
        next_on = _to_come(visit)
        following = f"Next visit {day_text(next_on)}." if next_on else ""
        yield f"Agreed on {day_text(visit.day)}", [line for line in (agreed, following) if line]
    yield "Sources", [SOURCES, ASK]


def _to_come(visit: Visit | None) -> date | None:
    """When the next visit is, where that has not been."""
    on = visit.next_on if visit is not None else None
    return on if on is not None and on >= clock.today() else None


def _value_line(row: ValueRow) -> str:
    """A measurement in a line: value, range, day, and who reported it."""
    side = f", {row.side}" if row.side else ""
    bounds = f" (range {row.range}{side})" if row.range else ""
    by = f", reported by {row.by}" if row.by else ""
    return f"{row.name}: {row.value}{bounds}, {row.day}{by}"
