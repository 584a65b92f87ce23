"""Batches out: text, CSV, JSON-LD, and a card as PDF."""

from __future__ import annotations

import io

from dietetics.dishes import batches as core
from dietetics.dishes.allergens import batch_allergens
from dietetics.dishes.recipe_files import to_csv, to_jsonld, to_text
from dietetics.nutrients import nutrient
from roundpantry.batches.models import Batch
from roundpantry.batches.records import batch_value, written_lines
from roundpantry.counter.pdf_text import BOLD, FONT, letters_there, pdf_text
from roundpantry.shelf.records import reader_of

WRITERS = {
    "txt": (to_text, "text/plain"),
    "csv": (to_csv, "text/csv"),
    "jsonld": (to_jsonld, "application/ld+json"),
}
CARD_KEYS = (
    "energy_kcal",
    "protein_g",
    "fibre_g",
    "fat_g",
    "sodium_mg",
    "potassium_mg",
    "kcal_per_g",
)


def written(batch: Batch, kind: str) -> tuple[str, str]:
    """A batch as text of a kind, with its content type."""
    writer, content_type = WRITERS[kind]
    steps = [step for step in batch.steps.splitlines() if step.strip()]
    return writer(
        batch_value(batch), written_lines(batch), steps, reader_of(batch.practitioner)
    ), content_type


def card(batch: Batch) -> bytes:
    """A card of the dish as PDF, A5."""
    from reportlab.lib.pagesizes import A5
    from reportlab.lib.units import mm
    from reportlab.platypus import SimpleDocTemplate

    out = io.BytesIO()
    margins = dict.fromkeys(("leftMargin", "rightMargin", "topMargin", "bottomMargin"), 14 * mm)
    SimpleDocTemplate(out, pagesize=A5, title=batch.title, author="Round Pantry", **margins).build(
        _card_parts(batch)
    )
    return out.getvalue()


def _card_parts(batch: Batch) -> list[object]:
    from reportlab.lib.styles import ParagraphStyle
    from reportlab.lib.units import mm
    from reportlab.platypus import Paragraph, Spacer, Table, TableStyle

    letters_there()
    text = ParagraphStyle("text", fontName=FONT, fontSize=10, leading=12.5)
    title = ParagraphStyle("title", fontName=BOLD, fontSize=18, leading=22, spaceAfter=6)
    value = batch_value(batch)
    what, _, shown = value.shown
    figures = [(nutrient(key).name, shown[key].shown()) for key in CARD_KEYS]
    steps = [step for step in batch.steps.splitlines() if step.strip()]
    ruled = TableStyle(
        [
            ("LINEBELOW", (0, 0), (-1, -1), 0.4, "grey"),
            ("FONTSIZE", (0, 0), (-1, -1), 9),
            ("FONTNAME", (0, 0), (-1, -1), FONT),
        ]
    )
    return [
        Paragraph(pdf_text(batch.title), title),
        Paragraph(pdf_text(_head(batch, value)), text),
        Spacer(1, 4 * mm),
        *(Paragraph(pdf_text(line.text), text, bulletText="-") for line in batch.lines.all()),
        Spacer(1, 4 * mm),
        *(Paragraph(pdf_text(step), text) for step in steps),
        Spacer(1, 4 * mm),
        Table([[pdf_text(a), pdf_text(b)] for a, b in figures], hAlign="LEFT", style=ruled),
        Spacer(1, 3 * mm),
        Paragraph(pdf_text(f"Allergens: {batch_allergens(value).words()}"), text),
        Spacer(1, 2 * mm),
        Paragraph(pdf_text(f"{what}. Plans food; does not treat disease."), text),
    ]


def _head(batch: Batch, value: core.Batch) -> str:
    """What stands below the title: servings and weight."""
    head = f"{value.weight_g:,.0f} g; number of servings not given"
    if value.servings is not None:
        head = f"{value.servings:g} servings of {value.serving_g:,.0f} g"
    return head + (f", cooked weight {batch.yield_g:,.0f} g" if batch.yield_g is not None else "")
