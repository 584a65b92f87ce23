"""A booklet as PDF, A4 or US Letter: large enough to read at arm's length, and in grey."""

from __future__ import annotations

import io
from collections.abc import Iterable
from importlib import import_module
from typing import Any

from dietetics.handover.booklet import (
    REMARK_LINES,
    REMARKS,
    Booklet,
    CookingEvening,
    DayOfWeek,
    DishToMake,
    Serving,
    at_a_glance,
)
from roundpantry.counter.pdf_text import BOLD, FONT, letters_there, pdf_text

LARGE, USUAL = 14.0, 10.5  # points
MARGIN_MM = 16
CODE_MM = 34
MEAL_NAME_PERCENT = 13  # of the width of a table with a column a person
LINES_EACH = 2  # ruled lines under each question of the remarks
BOX = "[  ]"


def booklet_pdf(
    booklet: Booklet, letter: bool = False, large: bool = False, address: str = ""
) -> bytes:
    """The whole booklet, made of reportlab's own page layout, which is loaded here. `address` is
    the link that the cover shows as a code to be read by a phone.
    """
    return _Paper(large, address).written(booklet, letter)


class _Paper:
    """Styles of one size, and the pieces of a booklet in them."""

    def __init__(self, large: bool, address: str) -> None:
        self.address = address
        self.flow: Any = import_module("reportlab.platypus")
        sheets = import_module("reportlab.lib.styles")
        self.units = import_module("reportlab.lib.units")
        letters_there()
        size = LARGE if large else USUAL
        plain = sheets.ParagraphStyle
        self.text = plain("t", fontName=FONT, fontSize=size, leading=size * 1.32)
        self.small = plain("s", parent=self.text, fontSize=size - 1.5, leading=size * 1.2)
        self.item = plain("i", parent=self.text, leftIndent=12, bulletIndent=2)
        heads = {"fontName": BOLD, "parent": self.text, "spaceAfter": 3}
        self.head = plain("h", fontSize=size + 4, leading=size * 1.6, spaceBefore=8, **heads)
        self.title = plain("T", fontSize=size + 12, leading=size * 2.4, **heads)

    def written(self, booklet: Booklet, letter: bool) -> bytes:
        """The pages."""
        sizes = import_module("reportlab.lib.pagesizes")
        out = io.BytesIO()
        margins = dict.fromkeys(
            ("leftMargin", "rightMargin", "topMargin", "bottomMargin"), MARGIN_MM * self.units.mm
        )
        self.flow.SimpleDocTemplate(
            out,
            pagesize=sizes.letter if letter else sizes.A4,
            title=f"{booklet.week}, version {booklet.version}",
            author="Round Pantry",
            **margins,
        ).build(list(self._story(booklet)), onLaterPages=_numbered, onFirstPage=_numbered)
        return out.getvalue()

    def _story(self, booklet: Booklet) -> Iterable[Any]:
        yield self._p(booklet.week, self.title)
        yield self._p(
            f"For {booklet.client}. With {booklet.practitioner}. Version {booklet.version}."
        )
        yield self._p(booklet.aim)
        if booklet.note:
            yield self._p(booklet.note)
        yield from self._list("Do not eat", booklet.avoid)
        yield from self._list("What to watch, and whom to ask", booklet.watch)
        yield from self._list("Supplements we agreed", booklet.supplements)
        yield from self._list("Changed since the last version", booklet.changed)
        yield from self._code()
        yield self._glance(booklet)
        yield self.flow.PageBreak()
        yield self._p("Your week, day by day", self.title)
        for day in booklet.days:
            together = self._table_of_day(booklet, day) if booklet.household else self._day(day)
            yield self.flow.KeepTogether(list(together))
        if booklet.shopping:
            yield self.flow.PageBreak()
            yield self._p("Shopping", self.title)
            for section in booklet.shopping:
                yield from self._list(
                    section.name, [f"{BOX} {words}" for _, words in section.lines]
                )
            yield from self._list("Check", booklet.check)
        for evening in booklet.evenings:
            yield self.flow.PageBreak()
            yield from self._evening(evening)
        if booklet.dishes:
            yield self.flow.PageBreak()
            yield self._p("How to cook each dish", self.title)
            for dish in booklet.dishes:
                yield self.flow.KeepTogether(list(self._dish(dish)))
        yield self.flow.KeepTogether(list(self._remarks()))

    def _glance(self, booklet: Booklet) -> Any:
        """The week as a table, on one page."""
        cells = [[self._p(words, self.small) for words in row] for row in at_a_glance(booklet)]
        line = ("LINEBELOW", (0, 0), (-1, -1), 0.4, "grey")
        table = self.flow.Table(cells, style=[line, ("VALIGN", (0, 0), (-1, -1), "TOP")])
        return self.flow.KeepTogether([self._p("The week at a glance", self.head), table])

    def _code(self) -> Iterable[Any]:
        """The link as a code for a phone."""
        if self.address:
            picture = io.BytesIO()
            import_module("segno").make(self.address).save(picture, kind="png", scale=6, border=2)
            picture.seek(0)
            side = CODE_MM * self.units.mm
            yield self.flow.KeepTogether(
                [
                    self._p("On your phone", self.head),
                    self.flow.Image(picture, width=side, height=side, hAlign="LEFT"),
                ]
            )

    def _remarks(self) -> Iterable[Any]:
        """Room to write, for the next talk."""
        yield self._p(REMARKS, self.head)
        for words in REMARK_LINES:
            yield self._p(words)
            rule = self.flow.HRFlowable(width="100%", thickness=0.4, color="grey", spaceBefore=16)
            yield from [rule] * LINES_EACH

    def _p(self, words: str, style: Any = None, bullet: str | None = None) -> Any:
        return self.flow.Paragraph(pdf_text(words), style or self.text, bulletText=bullet)

    def _list(self, head: str, words: Iterable[str]) -> Iterable[Any]:
        rows = [self._p(one, self.item, None if one.startswith(BOX) else "-") for one in words]
        if rows:
            yield self.flow.KeepTogether([self._p(head, self.head), rows[0]])
            yield from rows[1:]

    def _day(self, day: DayOfWeek) -> Iterable[Any]:
        kind = f" ({day.kind})" if day.kind else ""
        yield self._p(f"{day.name} {day.date}{kind}", self.head)
        for meal in day.meals:
            if meal.is_none or not meal.servings:
                why = "no meal, as agreed" if meal.is_none else "nothing planned"
                yield self._p(f"{meal.name}: {why}.")
                continue
            for serving in meal.servings:
                yield self._p(f"{meal.name}: {_served(serving)}")
            if meal.figures:
                yield self._p(f"{meal.name} gives {meal.figures}.", self.small)
        if day.figures:
            yield self._p(f"{day.name} in all: {', '.join(day.figures)}.", self.small)

    def _table_of_day(self, booklet: Booklet, day: DayOfWeek) -> Iterable[Any]:
        """A day with a column a person."""
        kind = f" ({day.kind})" if day.kind else ""
        yield self._p(f"{day.name} {day.date}{kind}", self.head)
        rows = [[self._p(words, self.small) for words in ("", booklet.client, *booklet.household)]]
        for meal in day.meals:
            why = "No meal, as agreed." if meal.is_none else "Nothing planned."
            mine = [_served(one) for one in meal.servings] or [why]
            mine += [f"Gives {meal.figures}."] if meal.figures else []
            others = [[_served(s) for s in one.servings] or ["–"] for one in meal.others]
            cells = [[self._p(words, self.small) for words in one] for one in (mine, *others)]
            rows.append([self._p(meal.name, self.small), *cells])
        style = [
            ("LINEBELOW", (0, 0), (-1, -1), 0.4, "grey"),
            ("VALIGN", (0, 0), (-1, -1), "TOP"),
        ]
        each = (100 - MEAL_NAME_PERCENT) / (1 + len(booklet.household))
        widths = [f"{MEAL_NAME_PERCENT}%", *[f"{each}%"] * (1 + len(booklet.household))]
        yield self.flow.Table(rows, style=style, colWidths=widths)
        if day.figures:
            yield self._p(f"{day.name} in all: {', '.join(day.figures)}.", self.small)

    def _evening(self, evening: CookingEvening) -> Iterable[Any]:
        yield self._p(f"Cooking: {evening.name} {evening.date}", self.title)
        if evening.times:
            yield self._p(f"From {evening.times}.")
        yield from self._list("The evening before", evening.before)
        yield from self._list("By the clock", [f"{BOX} {line}" for line in evening.lines])
        yield from self._list("Keeping", evening.keeping)

    def _dish(self, dish: DishToMake) -> Iterable[Any]:
        yield self._p(f"{dish.name} ({dish.how_much})", self.head)
        for words in dish.ingredients:
            yield self._p(words, self.item, "-")
        for number, step in enumerate(dish.steps, start=1):
            yield self._p(f"{number}. {step}")
        yield self._p(dish.keeps, self.small)


def _served(serving: Serving) -> str:
    """A dish, what goes in, and where it comes from."""
    parts = f": {', '.join(serving.parts)}" if serving.parts else ""
    source = f" ({serving.source})" if serving.source else ""
    return f"{serving.name}{parts}{source}."


def _numbered(canvas: Any, document: Any) -> None:
    """The number of the page at its foot."""
    canvas.setFont(FONT, 9)
    canvas.drawCentredString(document.pagesize[0] / 2, 22, f"{canvas.getPageNumber()}")
