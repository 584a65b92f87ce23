"""Hostile files by kind, sent to every place that takes a file: refused with a reason, or stored
and readable.
"""

from __future__ import annotations

import io
import json
import zipfile
from collections.abc import Iterator

from django.core.files.uploadedfile import SimpleUploadedFile
from django.urls import reverse

from hostile import LONG, again, sample
from hostile.practice import Attacked
from roundpantry.batches.models import Batch
from roundpantry.shelf.models import ImportDraft
from roundpantry.weeks.models import Week

HEAD = "day,day_name,kind,meal,position,dish,name,scale,locked,skipped,grams,energy_kcal,protein_g"
SHEET = (
    '<?xml version="1.0"?><worksheet '
    'xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData>{}</sheetData></worksheet>'
)
BOMB = (
    '<?xml version="1.0"?><!DOCTYPE lolz [<!ENTITY a "aaaaaaaaaa">'
    + "".join(f'<!ENTITY {chr(97 + n + 1)} "{("&" + chr(97 + n) + ";") * 10}">' for n in range(8))
    + "]>"
    + SHEET.format("<row r='1'><c t='inlineStr'><is><t>&i;</t></is></c></row>")[21:]
)


def workbook(sheet: str = SHEET.format(""), leave: tuple[str, ...] = ()) -> bytes:
    """A workbook of one sheet, written part by part, so that any part may be wrong."""
    space = "http://schemas.openxmlformats.org"
    parts = {
        "[Content_Types].xml": (f'<Types xmlns="{space}/package/2006/content-types"><Default '
                               'Extension="rels" '
                               'ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Default '
                               'Extension="xml" ContentType="application/xml"/><Override '
                               'PartName="/xl/workbook.xml" '
                               'ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml"/><Override '
                               'PartName="/xl/worksheets/sheet1.xml" '
                               'ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.worksheet+xml"/></Types>'),
        "_rels/.rels": (f'<Relationships xmlns="{space}/package/2006/relationships"><Relationship '
                       f'Id="r1" Type="{space}/officeDocument/2006/relationships/officeDocument" '
                       'Target="xl/workbook.xml"/></Relationships>'),
        "xl/workbook.xml": (f'<workbook xmlns="{space}/spreadsheetml/2006/main" '
                           f'xmlns:r="{space}/officeDocument/2006/relationships"><sheets><sheet '
                           'name="s" sheetId="1" r:id="r1"/></sheets></workbook>'),
        "xl/_rels/workbook.xml.rels": ('<Relationships '
                                      f'xmlns="{space}/package/2006/relationships"><Relationship '
                                      'Id="r1" '
                                      f'Type="{space}/officeDocument/2006/relationships/worksheet" '
                                      'Target="worksheets/sheet1.xml"/></Relationships>'),
        "xl/worksheets/sheet1.xml": sheet,
    }  # fmt: skip
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as book:
        for name, text in parts.items():
            if name not in leave:
                book.writestr(name, text)
    return out.getvalue()


def cell(text: str, place: str = "A1") -> str:
    """One cell of inline text."""
    return f'<c r="{place}" t="inlineStr"><is><t>{text}</t></is></c>'


def bad_workbooks() -> Iterator[tuple[str, bytes]]:
    """Workbooks that are none, too large, or lie about their size."""
    head = "".join(
        cell(name, f"{chr(65 + n)}1")
        for n, name in enumerate(("day", "meal", "dish", "scale", "name"))
    )
    yield "empty.xlsx", workbook()
    yield "malformed.xlsx", workbook("<worksheet><sheetData><row>")
    yield "no-sheet.xlsx", workbook(leave=("xl/worksheets/sheet1.xml",))
    yield "no-relations.xlsx", workbook(leave=("xl/_rels/workbook.xml.rels",))
    yield "no-types.xlsx", workbook(leave=("[Content_Types].xml",))
    yield "entities.xlsx", workbook(BOMB)
    yield (
        "outside.xlsx",
        workbook(
            '<?xml version="1.0"?><!DOCTYPE a [<!ENTITY x SYSTEM "file:///etc/passwd">]>'
            + SHEET.format(cell("&x;"))[21:]
        ),
    )
    yield "unzips-large.xlsx", workbook(SHEET.format(f"<row r='1'>{cell('x' * 60_000_000)}</row>"))
    yield (
        "far-cell.xlsx",
        workbook(
            SHEET.format(f"<row r='1'>{head}</row><row r='1048576'>{cell('1', 'XFD1048576')}</row>")
        ),
    )
    yield (
        "wide-row.xlsx",
        workbook(SHEET.format(f"<row r='1'>{head}</row><row r='2'>{cell('1', 'XFD2')}</row>")),
    )
    yield (
        "many-rows.xlsx",
        workbook(SHEET.format(f"<row r='1'>{head}</row>" + "<row><c><v>1</v></c></row>" * 200_000)),
    )
    yield (
        "bad-cell.xlsx",
        workbook(SHEET.format("<row r='1'><c r='A1' t='s'><v>99999</v></c></row>")),
    )
    yield (
        "bad-number.xlsx",
        workbook(SHEET.format("<row r='1'><c r='A1'><v>" + "9" * 5000 + "</v></c></row>")),
    )
    yield (
        "bad-date.xlsx",
        workbook(SHEET.format("<row r='1'><c r='A1' t='d'><v>99999-99-99</v></c></row>")),
    )
    yield "bad-place.xlsx", workbook(SHEET.format("<row r='x'><c r='!!'><v>1</v></c></row>"))
    yield "encrypted.xlsx", b"\xd0\xcf\x11\xe0\xa1\xb1\x1a\xe1" + b"\0" * 4000
    yield "cut.xlsx", workbook()[:300]
    chart = workbook().replace(b"worksheets/sheet1", b"chartsheets/sheet1")
    yield "chart-only.xlsx", chart
    types = workbook(
        sheet='<chartsheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"/>'
    )
    yield "chart-sheet.xlsx", types


def bad_tables() -> Iterator[tuple[str, bytes]]:
    """Tables and plans of a week that read, and must not be stored as they are; and some that do
    not read at all.
    """
    row = "{day},Monday,{kind},{meal},1,food:kale-raw,{name},{scale},,,,,"
    meals = ("Breakfast", "Lunch", "Snack", "Dinner")

    def week(**odd: str) -> str:
        usual = {"kind": "home", "name": "Kale", "scale": "1"}
        rows = [
            row.format(
                **{
                    **usual,
                    "day": day,
                    "meal": meal,
                    **(odd if (day, meal) == (1, "Dinner") else {}),
                }
            )
            for day in range(1, 8)
            for meal in meals
        ]
        return "\n".join([HEAD, *rows]) + "\n"

    yield "kind.csv", week(kind="Home").encode()
    yield "scale.csv", week(scale="1e300").encode()
    yield "zero.csv", week(scale="0").encode()
    yield "infinite.csv", week(scale="Infinity").encode()
    yield "digits.csv", week(scale="9" * 5000).encode()
    yield "controls.csv", week(name="a\x01b\x1bc").encode()
    yield "spaces.csv", week(name="   ").encode()
    yield (
        "nine-times.csv",
        (
            week()
            + (row.format(day=1, kind="home", meal="Lunch", name="Kale", scale="1") + "\n") * 9
        ).encode(),
    )
    yield (
        "cookings.csv",
        (
            week() + "".join(f"1,Monday,,(cooking),,batch-{n},,1,,,,,\n" for n in range(30_000))
        ).encode(),
    )
    yield "bare-return.csv", week().replace("\n", "\r").encode()
    yield "mixed-return.csv", b'day,meal,dish,scale\rx\n"a\rb",c\n'
    yield "zero-byte.csv", b"day,meal\x00,dish,scale\n"
    yield "long-field.csv", f"{HEAD}\n1,{'x' * 200_000}\n".encode()
    yield "utf-16.csv", week().encode("utf-16")
    yield "surrogate.csv", week(name="#").replace("#", "\ud800").encode("utf-8", "surrogatepass")
    yield "columns.csv", (",".join(f"c{n}" for n in range(20_000)) + "\n").encode()


def bad_json() -> Iterator[tuple[str, bytes]]:
    """Plans of a week and recipes as JSON."""
    plan = {
        "format": "round-pantry-plan/1",
        "start": "2026-11-23",
        "meals": ["Breakfast", "Lunch", "Snack", "Dinner"],
    }
    cells = [{"entries": [{"dish": "food:kale-raw", "name": "Kale", "scale": 1}]}] * 4
    days = [{"kind": "home", "cells": cells}] * 7
    for name, odd in (
        ("kind", {"days": [{"kind": "Home", "cells": cells}] * 7}), ("start", {"days": days,
        "start": "9999-12-31"}),
        ("surrogate", {"days": [{"kind": "home", "cells": [{"entries": [{"dish": "food:kale-raw",
        "name": "\ud800", "scale": 1}]}] * 4}] * 7}),
        ("cookings", {"days": days, "cookings": [{"batch": f"batch-{n}", "day": 0,
        "pots": 1} for n in range(30_000)]}),
        ("same", {"days": days, "cookings": [{"batch": "batch-1", "day": 0, "pots": 1}] * 9}),
        ("dish", {"days": [{"kind": "home", "cells": [{"entries": [{"dish": "batch-" + "9" * 50,
        "name": "x"}]}] * 4}] * 7}),
        ("null", {"days": None}), ("words", {"days": "home"}), ("meals", {"days": days, "meals": [1,
        None]}),
    ):  # fmt: skip
        yield f"{name}.json", json.dumps({**plan, **odd}).encode()
    for name, text in (
        ("infinite",
        '{"format":"round-pantry-plan/1","meals":["a"],"days":[{"cells":[{"entries":[{"dish":"x","scale":Infinity}]}]}]}'),
        ("digits",
        '{"format":"round-pantry-plan/1","meals":["a"],"days":[{"cells":[]}],"cookings":[{"batch":"b","day":' + "9" * 5000 + "}]}"),
        ("deep", "[" * 100_000 + "]" * 100_000), ("deep-objects",
        '{"a":' * 50_000 + "1" + "}" * 50_000), ("cut", '{"format":'),
        ("recipe-deep", '{"@type":"Recipe","name":' + '{"name":' * 900 + '"x"' + "}" * 901),
        ("number", "1" * 100_000),
        ("recipe-digits",
        '{"@type":"Recipe","name":"x","recipeYield":"' + "9" * 5000 + '","recipeIngredient":["' + "9" * 5000 + ' g kale"]}'),
        ("recipe-surrogate",
        '{"@type":"Recipe","name":"\\ud800","recipeIngredient":["100 g kale \\udfff"]}'),
    ):  # fmt: skip
        yield f"{name}.json", text.encode()


def bad_recipes() -> Iterator[tuple[str, bytes]]:
    """Pages and texts of recipes."""
    yield "tags.html", b"<html>" + b"<" * 400_000
    yield (
        "tags.json",
        json.dumps(
            {"@type": "Recipe", "name": "<" * 190_000, "recipeIngredient": ["100 g kale"]}
        ).encode(),
    )
    deep = (
        '<div itemscope itemtype="https://schema.org/Recipe"><div itemprop="recipeIngredient" '
        "itemscope>"
    )
    yield "microdata.html", ("<html><body>" + deep * 1500 + "</div></div>" * 1500).encode()
    yield "nested.html", ("<html>" + "<div>" * 60_000 + "x" + "</div>" * 60_000).encode()
    yield (
        "script.html",
        b'<html><script type="application/ld+json">{"@type":"Recipe","name":</script>',
    )
    yield "return.txt", b"Stew\r100 g kale\r\rMethod:\rCook it.\r"
    yield "digits.txt", b"Stew\n" + b"9" * 5000 + b" g kale\n"
    yield "fraction.txt", b"Stew\n1/0 cup kale\n1/00000000000000000000000000000000000 cup lentils\n"
    yield "controls.txt", b"St\x01ew \x1b[31m\n100 g kale\n"
    yield "formula.txt", b"=HYPERLINK(1)\n100 g kale\n"
    yield "many.txt", b"Stew\n" + b"100 g kale\n" * 30_000
    yield "long-line.txt", b"Stew\n100 g " + b"kale " * 60_000 + b"\n"
    yield "parentheses.txt", b"Stew\n100 g kale " + b"(" * 40_000 + b"\n"


FILES = [*bad_workbooks(), *bad_tables(), *bad_json(), *bad_recipes()]


class HostileFiles(Attacked):
    """Each file, everywhere."""

    def failed(self, address: str) -> bool:
        """True where a page answers with an error of the program."""
        return self.client.get(address).status_code >= 500

    def send_everywhere(self) -> list[str]:
        """Send each file to every address that takes one; what broke."""
        broken: list[str] = []
        for name, data in sample("files", FILES, 0.15):
            week = Week.objects.filter(client__practitioner=self.petra, frozen_at=None).first()
            for where in (
                reverse("batches:new"),
                reverse("shelf:upload"),
                reverse("weeks:take-in", args=[week.pk]),
            ):
                file = SimpleUploadedFile(name, data)
                given = {
                    "file": file,
                    "revision": str(week.revision),
                    "because": "hostile",
                    "text": "",
                    "title": "",
                }
                answer = self.client.post(where, given)
                if answer.status_code >= 500 or (answer.status_code == 200 and not answer.content):
                    broken.append(f"{name} to {where}: {answer.status_code}")
            text = data.decode("utf-8", "replace")[:19_000].replace("\x00", "")
            answer = self.client.post(reverse("batches:new"), {"text": text, "title": name})
            if answer.status_code >= 500:
                broken.append(f"{name} pasted: {answer.status_code}")
            for page in (
                reverse("weeks:week", args=[week.pk]),
                reverse("weeks:export", args=[week.pk, "xlsx"]),
            ):
                if self.failed(page):
                    broken.append(f"{name}, afterwards {page}")
                    Week.objects.filter(pk=week.pk).update(plan=week.plan)
        return broken

    def use_what_was_stored(self) -> list[str]:
        """Confirm what was uploaded last, and download every batch; what broke."""
        broken: list[str] = []
        for draft in ImportDraft.objects.filter(practitioner=self.petra):
            answer = self.client.post(reverse("shelf:upload-confirm", args=[draft.pk]))
            if answer.status_code >= 500:
                broken.append("confirming what was uploaded last")
        for batch in Batch.objects.filter(practitioner=self.petra):
            for kind in ("txt", "csv", "jsonld", "pdf"):
                if self.failed(reverse("batches:export", args=[batch.pk, kind])):
                    broken.append(f"{kind} of a batch called {batch.title[:30]!r}")
        return broken

    def test_a_bad_file_is_refused_with_a_reason_or_stored_so_that_it_can_be_shown(self) -> None:
        broken = [*self.send_everywhere(), *self.use_what_was_stored()]
        unreadable, leaking = self.unreadable()
        print(
            f"\nhostile files: of {len(FILES)} files {'all' if LONG else 'a quarter'}, {len(broken)} broken, {len(unreadable)} pages "
            "unreadable afterwards"
        )
        self.assertEqual((broken, unreadable, leaking), ([], [], []), again())
