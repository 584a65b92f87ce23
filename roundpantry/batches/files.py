"""Batches out: text, CSV, JSON-LD, and a card as PDF."""

from __future__ import annotations

import io
import re

from reportlab.lib.pagesizes import A5
from reportlab.lib.styles import getSampleStyleSheet
from reportlab.lib.units import mm
from reportlab.platypus import Paragraph, SimpleDocTemplate, Spacer, Table, TableStyle

from dietetics.dishes.allergens import batch_allergens
from dietetics.dishes.recipe_files import to_csv, to_jsonld, to_text
from dietetics.nutrients import nutrient
from roundpantry.batches.models import Batch
from roundpantry.batches.records import batch_value, written_lines
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
# What the built-in fonts lack, spelled out; ¼, ½ and ¾ they have.
_SPELLED = {"⅓": "1/3", "⅔": "2/3", "⅛": "1/8", "≥": ">=", "≈": "~", "→": "to"}
_LACKING = re.compile(f"([0-9]?)([{''.join(_SPELLED)}])")


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
    styles = getSampleStyleSheet()
    what, _, shown = value.shown
    head = (
        "" if value.servings is None else f"{value.servings:g} servings of {value.serving_g:,.0f} g"
    )
    head = head or f"{value.weight_g:,.0f} g; number of servings not given"
    head += f", cooked weight {batch.yield_g:,.0f} g" if batch.yield_g is not None else ""
    figures = [(nutrient(k).name, shown[k].shown()) for k in CARD_KEYS]
    body = [
        Paragraph(safe_text(batch.title), styles["Title"]),
        Paragraph(safe_text(head), styles["Normal"]),
        Spacer(1, 4 * mm),
        *(
            Paragraph(safe_text(line.text), styles["Normal"], bulletText="-")
            for line in batch.lines.all()
        ),
        Spacer(1, 4 * mm),
        *(
            Paragraph(safe_text(step), styles["Normal"])
            for step in batch.steps.splitlines()
            if step.strip()
        ),
        Spacer(1, 4 * mm),
        Table(
            [[safe_text(a), safe_text(b)] for a, b in figures],
            hAlign="LEFT",
            style=TableStyle(
                [("LINEBELOW", (0, 0), (-1, -1), 0.4, "grey"), ("FONTSIZE", (0, 0), (-1, -1), 9)]
            ),
        ),
        Spacer(1, 3 * mm),
        Paragraph(safe_text(f"Allergens: {batch_allergens(value).words()}"), styles["Normal"]),
        Spacer(1, 2 * mm),
        Paragraph(safe_text(f"{what}. Plans food; does not treat disease."), styles["Italic"]),
    ]
    out = io.BytesIO()
    margins = dict.fromkeys(("leftMargin", "rightMargin", "topMargin", "bottomMargin"), 14 * mm)
    SimpleDocTemplate(out, pagesize=A5, title=batch.title, author="Round Pantry", **margins).build(
        body
    )
    return out.getvalue()


def safe_text(text: str) -> str:
    """Text for a page: markup taken apart, glyphs that the built-in fonts lack spelled out.

    A fraction behind a number stands apart from it: 1⅓ is "1 1/3", and never "11/3".

    >>> safe_text("1⅓ cups"), safe_text("1½ cups")
    ('1 1/3 cups', '1½ cups')
    """
    spelled = _LACKING.sub(lambda m: f"{m[1]}{' ' if m[1] else ''}{_SPELLED[m[2]]}", text)
    plain = spelled.replace("&", "&amp;").replace("<", "&lt;").replace(">", "&gt;")
    return plain.encode("cp1252", "replace").decode("cp1252")
