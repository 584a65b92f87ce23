"""Text on PDF pages: the program's own font, with the letters of European names, and what it lacks
spelled out.
"""

from __future__ import annotations

import re
import unicodedata
from collections.abc import Mapping
from functools import cache
from importlib import import_module
from pathlib import Path

FONT, BOLD = "AtkinsonNext-Regular", "AtkinsonNext-Bold"
FONTS = Path(__file__).parent / "fonts"
# What the font lacks, spelled out; ¼, ½ and ¾ it has.
SPELLED: Mapping[str, str] = {
    "⅓": "1/3", "⅔": "2/3", "⅛": "1/8", "≥": ">=", "≈": "~", "→": "to", "✓": "x",
}  # fmt: skip
_LACKING = re.compile(f"([0-9]?)([{''.join(SPELLED)}])")


@cache
def letters_there() -> frozenset[int]:
    """Make the fonts known to reportlab, once; the code points they have."""
    metrics, fonts = (
        import_module("reportlab.pdfbase.pdfmetrics"),
        import_module("reportlab.pdfbase.ttfonts"),
    )
    for name in (FONT, BOLD):
        metrics.registerFont(fonts.TTFont(name, str(FONTS / f"{name}.ttf")))
    metrics.registerFontFamily(FONT, normal=FONT, bold=BOLD, italic=FONT, boldItalic=BOLD)
    return frozenset(metrics.getFont(FONT).face.charToGlyph)


def pdf_text(text: str) -> str:
    """Text for a page: markup taken apart, letters that the font lacks spelled out.

    A fraction behind a number stands apart from it: 1⅓ is "1 1/3", and never "11/3".

    >>> pdf_text("1⅓ cups"), pdf_text("1½ cups, 50 µg")
    ('1 1/3 cups', '1½ cups, 50 mcg')
    """
    spelled = _LACKING.sub(lambda m: f"{m[1]}{' ' if m[1] else ''}{SPELLED[m[2]]}", text)
    spelled = spelled.replace("µg", "mcg").replace("µ", "u")
    there = letters_there()
    shown = "".join(one if ord(one) in there else _nearest(one, there) for one in spelled)
    return shown.replace("&", "&amp;").replace("<", "&lt;").replace(">", "&gt;")


def _nearest(letter: str, there: frozenset[int]) -> str:
    """A letter without its accents where the font has that one, and a question mark otherwise."""
    if letter.isspace():
        return " "
    plain = [one for one in unicodedata.normalize("NFKD", letter) if ord(one) in there]
    return "".join(plain) or "?"
