"""Tables that leave the program run nothing, and what came in is bounded; labels of any energy are
shown.
"""

from __future__ import annotations

import csv
import io
from dataclasses import replace
from unittest import mock
from zipfile import ZIP_DEFLATED, ZipFile

from django.urls import reverse
from openpyxl import load_workbook

from dietetics.labels.facts import LabelFacts
from roundpantry.batches import services as batch_services
from roundpantry.counter.spreadsheets import (
    MOST_PARTS,
    MOST_UNZIPPED,
    UnreadableWorkbookError,
    workbook_bytes,
    workbook_rows,
)
from roundpantry.demo.tests.support import WithDemo
from roundpantry.shelf.services import keep_label
from roundpantry.weeks.cell_changes import SentChange
from roundpantry.weeks.models import Week
from roundpantry.weeks.services import act

STARTS = ("=", "+", "-", "@", "＝", "＋", "－", "＠")
FORMULA = "=HYPERLINK(1)"
WIDE = "＠SUM(1)"


class SafeTables(WithDemo):
    """Formulas in every name that an export writes."""

    def cells(self, where: str) -> list[str]:
        """The cells of a CSV export."""
        return [
            cell
            for row in csv.reader(io.StringIO(self.client.get(where).content.decode("utf-8-sig")))
            for cell in row
        ]

    def running(self, cells: list[str]) -> list[str]:
        """Those that a spreadsheet would run; a negative number is none."""
        return [
            cell
            for cell in cells
            if cell.startswith(STARTS) and not cell.removeprefix("-").replace(".", "").isdigit()
        ]

    def test_a_batch(self) -> None:
        recipe = batch_services.read_pasted(
            self.petra,
            f"# {FORMULA}\n100 g kale\nMethod:\n{WIDE} is said while it cooks for long.\n",
        )
        batch = batch_services.add_batch(self.petra, recipe, "")
        cells = self.cells(reverse("batches:export", args=[batch.pk, "csv"]))
        self.assertIn(f"'{FORMULA}", cells)
        self.assertEqual(self.running(cells), [])
        again = self.client.post(
            reverse("batches:new"),
            {
                "file": io.BytesIO(
                    "\n".join(
                        self.client.get(reverse("batches:export", args=[batch.pk, "csv"]))
                        .content.decode()
                        .splitlines()
                    ).encode()
                ),
                "text": "",
                "title": "",
            },
        )
        self.assertContains(again, FORMULA)
        self.assertNotContains(again, f"'{FORMULA}")

    def test_a_week(self) -> None:
        week = Week.objects.filter(client__practitioner=self.petra, frozen_at=None).first()
        put = SentChange(week.revision, day=0, meal=0, dish="food:kale-raw", name=FORMULA)
        act(week, "put", put)
        week.refresh_from_db()
        act(week, "add", replace(put, name=WIDE, revision=week.revision))
        cells = self.cells(reverse("weeks:export", args=[week.pk, "csv"]))
        self.assertEqual({f"'{FORMULA}", f"'{WIDE}"} - set(cells), set())
        self.assertEqual(self.running(cells), [])
        sheet = load_workbook(
            io.BytesIO(self.client.get(reverse("weeks:export", args=[week.pk, "xlsx"])).content)
        ).active
        values = [cell for row in sheet.iter_rows() for cell in row]
        self.assertEqual([cell.value for cell in values if cell.data_type == "f"], [])

    def test_own_foods(self) -> None:
        keep_label(
            self.petra,
            LabelFacts(
                name=FORMULA, basis="100 g", values={"energy_kcal": 100.0}, ingredients=WIDE
            ),
        )
        cells = self.cells(reverse("shelf:export-csv"))
        self.assertEqual({f"'{FORMULA}", f"'{WIDE}"} - set(cells), set())
        self.assertEqual(self.running(cells), [])

    def test_a_workbook_holds_no_control_characters_and_comes_back(self) -> None:
        made = workbook_bytes("s", [["a\x01b", FORMULA, 1.5, None]])
        self.assertEqual(workbook_rows(made, 10, 4), [["ab", f"'{FORMULA}", 1.5, None]])
        with self.assertRaises(UnreadableWorkbookError):
            workbook_rows(made[:200], 10, 10)
        with self.assertRaisesMessage(UnreadableWorkbookError, "password"):
            workbook_rows(b"\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1" + b"0" * 600, 10, 10)

    def test_a_workbook_that_unzips_to_too_much_is_not_unzipped(self) -> None:
        for parts, size, refused in (
            (1, MOST_UNZIPPED, False),
            (1, MOST_UNZIPPED + 1, True),
            (MOST_PARTS + 1, 1, True),
        ):
            out = io.BytesIO()
            with ZipFile(out, "w", ZIP_DEFLATED) as book:
                for n in range(parts):
                    book.writestr(f"xl/part{n}.xml", b"x" * size)
            with (
                self.assertRaises(UnreadableWorkbookError) as caught,
                mock.patch("openpyxl.load_workbook", side_effect=ValueError("opened")) as opened,
            ):
                workbook_rows(out.getvalue(), 10, 10)
            self.assertEqual("unzips to" in str(caught.exception), refused, (parts, size))
            self.assertEqual(opened.called, not refused)

    def test_a_workbook_that_would_take_long_is_refused_within_a_second(self) -> None:
        shared = b"<si><t>a</t></si>" * 1_000_000
        sheets = b"".join(b'<sheet name="%d"/>' % n for n in range(1000))
        styles = b'<xf numFmtId="0"/>' * 200_000
        for name, content, words in (
            ("xl/sharedStrings.xml", b"<sst>" + shared + b"</sst>", "too many cells and texts"),
            ("xl/worksheets/sheet1.xml", b"<row>" + b"<c/>" * 1_000_000, "too many cells"),
            ("xl/workbook.xml", b"<sheets>" + sheets + b"</sheets>", "more than 60 sheets"),
            ("xl/styles.xml", b"<cellXfs>" + styles + b"</cellXfs>", "too many parts"),
            ("xl/styles.xml", b"<a>" * 9000 + b"</a>" * 9000, "nested"),
            ("xl/theme/theme1.xml", b"<a>" * 40 + b"</a>" * 40, "nested"),
        ):
            out = io.BytesIO()
            with ZipFile(out, "w", ZIP_DEFLATED) as book:
                book.writestr(name, content)
            with self.subTest(name), mock.patch("openpyxl.load_workbook") as opened:
                with self.assertRaisesMessage(UnreadableWorkbookError, words):
                    workbook_rows(out.getvalue(), 10, 10)
                self.assertFalse(opened.called)

    def test_the_largest_table_that_may_be_uploaded_is_no_such_workbook(self) -> None:
        made = workbook_bytes("s", [[f"text {n} {m}" for m in range(50)] for n in range(2000)])
        self.assertEqual(len(workbook_rows(made, 2002, 50)), 2000)

    def test_a_workbook_is_read_as_far_as_its_limits(self) -> None:
        made = workbook_bytes("s", [[n] * 30 for n in range(50)])
        found = workbook_rows(made, 12, 7)
        self.assertEqual((len(found), {len(row) for row in found}), (12, {7}))

    def test_an_oil_with_all_its_energy_printed_is_shown(self) -> None:
        for energy in (884, 910, 920, 3700):
            version, _ = keep_label(
                self.petra,
                LabelFacts(
                    name="Oil",
                    basis="100 g",
                    values={"energy_kcal": energy, "fat_g": 100.0},
                    group="oil",
                ),
            )
            page = self.client.get(reverse("shelf:label", args=[version.label_id]))
            self.assertEqual(page.status_code, 200, energy)
        self.assertContains(
            self.client.get(reverse("shelf:food", args=[f"own-{version.label_id}-1"])), "high"
        )
