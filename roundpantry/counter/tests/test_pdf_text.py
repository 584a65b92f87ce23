"""Text on PDF pages: names come out as they are written."""

from __future__ import annotations

import io

from django.test import SimpleTestCase
from pypdf import PdfReader
from reportlab.pdfgen.canvas import Canvas

from roundpantry.counter.pdf_text import FONT, letters_there, pdf_text

NAMES = ("Łukasz Świątek", "Dvořáková", "Gültekin Ağca", "Halldóra", "Őri Sándor", "−0.3")


class OnThePage(SimpleTestCase):
    def read_back(self, text: str) -> str:
        """What a general library reads of a page with this text."""
        out = io.BytesIO()
        letters_there()
        canvas = Canvas(out)
        canvas.setFont(FONT, 12)
        canvas.drawString(50, 700, pdf_text(text))
        canvas.save()
        return PdfReader(out).pages[0].extract_text().strip()

    def test_names_of_many_languages_are_whole(self) -> None:
        for name in NAMES:
            self.assertEqual(self.read_back(name), name)

    def test_a_letter_that_is_not_there_is_never_lost_in_silence(self) -> None:
        self.assertEqual(self.read_back("Ωmega 漢"), "?mega ?")

    def test_markup_is_text(self) -> None:
        self.assertEqual(pdf_text("<b>&"), "&lt;b&gt;&amp;")
