"""Batches out: text, CSV, JSON-LD, and a card as PDF."""

from __future__ import annotations

import io

from reportlab.lib.pagesizes import A5
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.platypus import Paragraph, SimpleDocTemplate, Spacer, Table, TableStyle

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
    value = batch_value(batch)
    letters_there()
    plain = ParagraphStyle("text", fontName=FONT, fontSize=10, leading=12.5)
    title = ParagraphStyle("title", fontName=BOLD, fontSize=18, leading=22, spaceAfter=6)
    styles = {"text": plain, "title": title}
    what, _, shown = value.shown
    head = (
        "" if value.servings is None else f"{value.servings:g} servings of {value.serving_g:,.0f} g"
    )
    head = head or f"{value.weight_g:,.0f} g; number of servings not given"
    head += f", cooked weight {batch.yield_g:,.0f} g" if batch.yield_g is not None else ""
    figures = [(nutrient(k).name, shown[k].shown()) for k in CARD_KEYS]
    body = [
        Paragraph(pdf_text(batch.title), styles["title"]),
        Paragraph(pdf_text(head), styles["text"]),
        Spacer(1, 4 * mm),
        *(
            Paragraph(pdf_text(line.text), styles["text"], bulletText="-")
            for line in batch.lines.all()
        ),
        Spacer(1, 4 * mm),
        *(
            Paragraph(pdf_text(step), styles["text"])
            for step in batch.steps.splitlines()
            if step.strip()
        ),
        Spacer(1, 4 * mm),
        Table(
            [[pdf_text(a), pdf_text(b)] for a, b in figures],
            hAlign="LEFT",
            style=TableStyle(
                [
                    ("LINEBELOW", (0, 0), (-1, -1), 0.4, "grey"),
                    ("FONTSIZE", (0, 0), (-1, -1), 9),
                    ("FONTNAME", (0, 0), (-1, -1), FONT),
                ]
            ),
        ),
        Spacer(1, 3 * mm),
        Paragraph(pdf_text(f"Allergens: {batch_allergens(value).words()}"), styles["text"]),
        Spacer(1, 2 * mm),
        Paragraph(pdf_text(f"{what}. Plans food; does not treat disease."), styles["text"]),
    ]
    out = io.BytesIO()
    margins = dict.fromkeys(("leftMargin", "rightMargin", "topMargin", "bottomMargin"), 14 * mm)
    SimpleDocTemplate(out, pagesize=A5, title=batch.title, author="Round Pantry", **margins).build(
        body
    )
    return out.getvalue()
