"""Numbers with a decimal comma: on what is read and heard, and on nothing else."""

from __future__ import annotations

import re

from django.test import SimpleTestCase
from django.urls import reverse
from hypothesis import given
from hypothesis import strategies as st

from roundpantry.batches.models import Batch
from roundpantry.counter.forms import NumberField
from roundpantry.counter.numbermarks import NARROW_SPACE, page_with_comma, with_comma
from roundpantry.demo.tests import test_pages
from roundpantry.demo.tests.support import HTMX, WithDemo

SETTINGS = {
    "energy": "kcal",
    "density": "g",
    "cup": "us",
    "portions": "household",
    "salt": "plain",
    "numbers": "comma",
}


class Text(SimpleTestCase):
    """One text."""

    def test_what_is_a_number_and_what_is_not(self) -> None:
        for text, wanted in (
            ("1,740 g", "1_740 g"), ("27.4 g", "27,4 g"), ("1,234,567.8", "1_234_567,8"),
            ("at most 1.50–2.25", "at most 1,50–2,25"),
            ("Energy 764, target 766–1,000", "Energy 764, target 766–1_000"), ("≥ 53.9 µg.",
            "≥ 53,9 µg."), ("(1.5×)", "(1,5×)"),
            ("Nov 3, 2026", "Nov 3, 2026"), ("section 5.2.4", "section 5.2.4"), ("B12,5", "B12,5"),
            ("2026-11-03", "2026-11-03"),
            ("kale, 2 cups, 3 days", "kale, 2 cups, 3 days"), ("1,2 and 3", "1,2 and 3"), ("v1.2",
            "v1.2"), ("0.8 g/kg × 74.0", "0,8 g/kg × 74,0"),
        ):  # fmt: skip
            with self.subTest(text):
                self.assertEqual(with_comma(text).replace(NARROW_SPACE, "_"), wanted)

    @given(st.integers(0, 10**9), st.integers(0, 3))
    def test_no_figure_keeps_a_point_and_none_changes_its_worth(
        self, number: int, places: int
    ) -> None:
        """The marks swapped back, by plain replacement, are what was written."""
        written = f"{number / 10**places:,.{places}f}"
        shown = with_comma(f"Weight {written} g")
        self.assertNotIn(".", shown)
        self.assertEqual(shown.replace(",", ".").replace(NARROW_SPACE, ","), f"Weight {written} g")


class Page(SimpleTestCase):
    """What stands on a page."""

    def test_fields_drawings_scripts_and_written_words_are_left_alone(self) -> None:
        for kept in (
            '<input value="1.5 cups" name="a">', '<path d="M1.5 2.25L1,200 3"/>',
            "<script>let x = 1.5;</script>",
            "<style>p{margin:1.5em}</style>", "<textarea>1.5 cups</textarea>",
            '<td data-verbatim>1.5 l <em>milk</em> 1,200 g</td>',
            '<a href="/x?q=1.5">', '<button hx-vals=\'{"amount":"0.75 cup"}\'>',
            '<div data-x="1.5" id="a1.5">',
        ):  # fmt: skip
            with self.subTest(kept):
                self.assertEqual(page_with_comma(kept), kept)

    def test_what_is_read_or_heard_is_changed(self) -> None:
        page = (
            '<p aria-label="27.4 g" title="1,200">Protein <b>27.4</b> g</p><text '
            'x="1.5">1.5</text><td data-verbatim>2.5</td>3.5'
        )
        wanted = (
            '<p aria-label="27,4 g" title="1_200">Protein <b>27,4</b> g</p><text '
            'x="1.5">1,5</text><td data-verbatim>2.5</td>3,5'
        )
        self.assertEqual(page_with_comma(page).replace(NARROW_SPACE, "_"), wanted)


class Field(SimpleTestCase):
    """What is typed is read as what it is, or refused."""

    def test_either_mark_and_nothing_ambiguous(self) -> None:
        field = NumberField(required=False)
        for typed, wanted in (
            ("65.1", 65.1),
            ("65,1", 65.1),
            ("1740", 1740.0),
            ("", None),
            ("0,25", 0.25),
            ("-3,5", -3.5),
        ):
            self.assertEqual(field.clean(typed), wanted, typed)
        for typed in ("1,740", f"1{NARROW_SPACE}740", "1.740,5", "1,740.5", "twelve", "1,,5"):
            with self.subTest(typed), self.assertRaisesMessage(Exception, "Enter a number"):
                field.clean(typed)


class Chosen(WithDemo):
    """Through the settings page."""

    def setUp(self) -> None:
        super().setUp()
        self.client.post(reverse("shelf:preferences"), SETTINGS)
        self.beans = Batch.objects.get(practitioner=self.petra, title="Lamplighter beans")

    def test_a_page_and_a_fragment_have_a_comma_and_a_file_a_point(self) -> None:
        page = self.client.get(reverse("batches:detail", args=[self.beans.pk])).content.decode()
        self.assertIn(f"1{NARROW_SPACE}740 g", page)
        self.assertIn("1,15 kcal/g", page)
        self.assertIn("1.2 litres water", page, "what was written stays as it was written")
        part = self.client.get(
            reverse("bowls:figures", args=[self.bowl.pk]), **HTMX
        ).content.decode()
        self.assertRegex(part, r"\d+,\d g")
        self.assertNotRegex(re.sub(r"<[^>]*>", "", part), r"\d\.\d")
        text = self.client.get(
            reverse("batches:export", args=[self.beans.pk, "csv"])
        ).content.decode()
        self.assertNotIn(NARROW_SPACE, text)

    def test_no_page_shows_a_point_in_a_figure_of_the_program(self) -> None:
        """Of one client's pages: the text outside fields and written words, cautions' sources aside
        (they cite).
        """
        client, week = self.bowl.client, self.bowl.client.weeks.first()
        for address in (
            reverse("bowls:bench", args=[self.bowl.pk]), reverse("targets:edit", args=[client.pk]),
            reverse("weeks:week", args=[week.pk]),
            reverse("weeks:day", args=[week.pk, 1]), reverse("bowls:print", args=[self.bowl.pk]),
            reverse("compare:plates"),
        ):  # fmt: skip
            page = self.client.get(address).content.decode()
            page = re.sub(
                r"<(script|style|textarea|title)\b.*?</\1>|<(\w+)[^>]*data-verbatim.*?</\2>",
                "",
                page,
                flags=re.DOTALL,
            )
            with self.subTest(address):
                self.assertEqual(
                    re.findall(r"(?<![\w.])\d+\.\d+(?![\w.])", re.sub(r"<[^>]*>", " ", page)), []
                )


class EveryPageStillAnswers(test_pages.NoPageBreaks):
    """All pages, with a comma."""

    SHARE = 0.3

    def setUp(self) -> None:
        super().setUp()
        self.client.post(reverse("shelf:preferences"), SETTINGS)
