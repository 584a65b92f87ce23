"""A booklet as PDF, A4 or US Letter: large enough to read at arm's length, and in grey."""

from __future__ import annotations

import io
import math
from collections.abc import Iterable, Mapping, Sequence
from importlib import import_module
from typing import Any

from dietetics.handover.booklet import (
    REMARK_LINES,
    REMARKS,
    Booklet,
    BowlCard,
    CookingEvening,
    DayOfWeek,
    DishToMake,
    GlanceCell,
    PicturePart,
    at_a_glance,
    in_columns,
    in_pages,
)
from roundpantry.counter.pdf_text import BOLD, FONT, letters_there, pdf_text
from roundpantry.handover.booklet_page import rows_of_card
from roundpantry.handover.lane_drawing import lane_picture, lane_shapes
from roundpantry.handover.pdf_drawing import bowl_drawing

LARGE, USUAL = 14.0, 10.5  # points
MARGIN_MM = 16
CODE_MM, GLANCE_MM, CARD_MM = 30, 17, 38
# of the width of a table
MEAL_NAME_PERCENT, ONE_AMOUNT_PERCENT, AMOUNTS_PERCENT = 10, 27, 40
# Rows of small print that an evening's page has room for, and letters of one of them: an evening
# that would not fit with its picture has the list alone.
ROWS_OF_EVENING, ROW_LETTERS, ROW_HEIGHT = 46, 50, 11.0
SHOP_COLUMNS, SHOP_LETTERS = 3, 36  # letters of a line of a column
LINES_USUAL, LINES_LARGE = 52, 34  # of a column of a page
LINES_EACH = 3  # ruled lines under each question of the remarks
KEEPING_HEAD, KEEPING_ROW = 40.0, 36.0  # points of the heading, and of a row of three lines
PADDING, MOST_HEIGHT = 6.0, 10_000.0  # points of a page's frame, and more than any page has
BOX = "[  ]"


def booklet_pdf(
    booklet: Booklet, letter: bool = False, large: bool = False, address: str = ""
) -> bytes:
    """The whole booklet, made of reportlab's own page layout, which is loaded here. `address` is
    the link that the cover shows as a code to be read by a phone.
    """
    return _Paper(letter, large, address).written(booklet)


class _Paper:
    """Styles of one size, and the pieces of a booklet in them."""

    def __init__(self, letter: bool, large: bool, address: str) -> None:
        self.address = address
        self.flow: Any = import_module("reportlab.platypus")
        sheets = import_module("reportlab.lib.styles")
        self.units = import_module("reportlab.lib.units")
        letters_there()
        sizes = import_module("reportlab.lib.pagesizes")
        self.page = sizes.letter if letter else sizes.A4
        wide, high = (side - 2 * MARGIN_MM * self.units.mm for side in self.page)
        self.width, self.room = wide - 2 * PADDING, high - 2 * PADDING
        size = LARGE if large else USUAL
        plain = sheets.ParagraphStyle
        self.text = plain("t", fontName=FONT, fontSize=size, leading=size * 1.32)
        self.small = plain("s", parent=self.text, fontSize=size - 1.5, leading=size * 1.1)
        self.caption = plain("c", parent=self.text, fontSize=size - 2.5, leading=size - 0.5)
        self.letter = plain("l", parent=self.text, fontName=BOLD)
        self.item = plain("i", parent=self.text, leftIndent=12, bulletIndent=2)
        heads = {"fontName": BOLD, "parent": self.text, "spaceAfter": 3}
        self.head = plain("h", fontSize=size + 4, leading=size * 1.6, spaceBefore=8, **heads)
        self.section = plain("n", parent=self.small, fontName=BOLD, spaceBefore=5)
        self.shop_lines = LINES_LARGE if large else LINES_USUAL
        self.title = plain("T", fontSize=size + 12, leading=size * 2.4, **heads)

    def written(self, booklet: Booklet) -> bytes:
        """The pages."""
        out = io.BytesIO()
        margins = dict.fromkeys(
            ("leftMargin", "rightMargin", "topMargin", "bottomMargin"), MARGIN_MM * self.units.mm
        )
        self.flow.SimpleDocTemplate(
            out,
            pagesize=self.page,
            title=f"{booklet.week}, version {booklet.version}",
            author="Round Pantry",
            **margins,
        ).build(list(self._story(booklet)), onLaterPages=_numbered, onFirstPage=_numbered)
        return out.getvalue()

    def _story(self, booklet: Booklet) -> Iterable[Any]:
        yield from self._first_page(booklet)
        yield self.flow.PageBreak()
        yield self._p("Bowls and meals", self.title)
        yield from self._cards(booklet.cards)
        for day in () if booklet.cards else booklet.days:
            yield self.flow.KeepTogether(list(self._day(day)))
        for evening in booklet.evenings:
            yield self.flow.PageBreak()
            yield from self._evening(evening)
        for number, dish in enumerate(booklet.dishes):
            head = [] if number else [self._p("Recipes", self.title)]
            yield self.flow.KeepTogether([*head, *self._dish(dish)])
        last = [*self._watch(booklet), *self._remarks()]
        yield self._where_it_fits(last)
        if booklet.shopping:
            yield self.flow.PageBreak()
            yield self._p("Shopping", self.title)
            yield from self._shopping(booklet)
        yield self._where_it_fits(last, at_last=True)

    def _where_it_fits(self, story: list[Any], at_last: bool = False) -> Any:
        """A place for a story that is taken once: by the first that has room for it on what is left
        of its page, else by the last.
        """
        needs = _height(story, self.width)

        def looked(place: Any, _: float, room: float) -> None:
            if story and (at_last or needs <= room):
                frame = place._doctemplateAttr("frame")
                frame.add_generated_content(self.flow.KeepTogether(story[:]))
                story.clear()

        return import_module("reportlab.platypus.flowables").CallerMacro(wrapCallable=looked)

    def _first_page(self, booklet: Booklet) -> Iterable[Any]:
        """Whose week it is, what must not be eaten, the week at a glance, what is cooked when."""
        yield self._p(booklet.week, self.title)
        yield self._p(
            f"For {booklet.client}. With {booklet.practitioner}. Version {booklet.version}. "
            f"{booklet.aim}"
        )
        if booklet.note:
            yield self._p(booklet.note)
        yield from self._list("Do not eat", booklet.avoid)
        yield self.flow.Spacer(1, 8)
        yield self._glance(booklet)
        yield self.flow.Spacer(1, 6)
        for evening in booklet.evenings:
            times = f", {evening.times}" if evening.times else ""
            before = f" The evening before: {'; '.join(evening.before)}." if evening.before else ""
            when = f"Cook, {evening.weekday} {evening.date}{times}"
            yield self._p(f"{when}: {', '.join(evening.dishes)}.{before}", self.small)
        for reminder in booklet.reminders:
            yield self._p(reminder.text(), self.small)
        if booklet.supplements:
            said = "; ".join(booklet.supplements)
            yield self._p(f"Supplements we agreed: {said}.", self.small)
        yield from self._list("Changed since the last version", booklet.changed)

    def _glance(self, booklet: Booklet) -> Any:
        """The week on one page: a row a meal, a column a day; a bowl is drawn where it is eaten
        first.
        """
        pictures = {card.letter: card.picture for card in booklet.cards}
        head = ["", *(f"{day.name[:3]} {day.date} {day.kind}".strip() for day in booklet.days)]
        rows = [[self._p(words, self.caption) for words in head]]
        for meal, cells in at_a_glance(booklet):
            row: list[Any] = [self._p(meal, self.caption)]
            row += [self._cell(cell, pictures) for cell in cells]
            rows.append(row)
        if any(day.figures for day in booklet.days):
            figures = ["Day in all", *("; ".join(day.figures) for day in booklet.days)]
            rows.append([self._p(words, self.caption) for words in figures])
        first = MEAL_NAME_PERCENT
        each = (100 - first) / max(len(booklet.days), 1)
        widths = [f"{first}%", *[f"{each}%"] * len(booklet.days)]
        return self.flow.Table(rows, style=self._ruled(2), colWidths=widths, repeatRows=1)

    def _cell(self, cell: GlanceCell, pictures: Mapping[str, tuple[PicturePart, ...]]) -> list[Any]:
        found: list[Any] = []
        if not cell.servings:
            why = "no meal, as agreed" if cell.is_none else "nothing planned"
            found.append(self._p(why, self.caption))
        for one in cell.servings:
            is_first = one.letter in cell.first
            if is_first and pictures.get(one.letter):
                found.append(bowl_drawing(pictures[one.letter], GLANCE_MM * self.units.mm))
            mark = " ".join(filter(None, (one.letter, one.portion)))
            if mark:
                found.append(self._p(mark, self.letter))
            if is_first or not one.letter:
                words = f"{one.name} ({one.source})" if one.source and not one.letter else one.name
                found.append(self._p(words, self.caption))
        others = filter(None, (one.words() for one in cell.others))
        return [*found, *(self._p(words, self.caption) for words in others)]

    def _cards(self, cards: Sequence[BowlCard]) -> Iterable[Any]:
        """The bowls, on as few pages as they need and evenly spread over those."""
        stories = [list(self._card(card)) for card in cards]
        heights = [_height(story, self.width) + self.head.spaceBefore for story in stories]
        for number, count in enumerate(in_pages(heights, self.room, self.title.leading)):
            if number:
                yield self.flow.PageBreak()
            for story in stories[:count]:
                yield self.flow.KeepTogether(story)
            stories = stories[count:]

    def _card(self, card: BowlCard) -> Iterable[Any]:
        """A bowl: its drawing beside its parts, then how it is put together. What a table of one
        portion would say in a row of its own stands in the name and in the last line.
        """
        is_one = len(card.columns) == 1
        when = f", {card.columns[0]}" if is_one and card.columns[0] else ""
        yield self._p(f"{card.letter}  {card.name}{when}", self.head)
        rows = [] if is_one else [["", "", *card.columns, ""]]
        for row in rows_of_card(card):
            amounts = [f"{measure} ({g})" if g else measure for measure, g in row.amounts]
            rows.append([f"{row.number}", row.part.name, *amounts, row.part.source])
        if any(card.figures) and not is_one:
            rows.append(["", "gives", *card.figures, ""])
        cells = [[self._p(words, self.small) for words in row] for row in rows]
        amounts_share = ONE_AMOUNT_PERCENT if is_one else AMOUNTS_PERCENT
        each = f"{amounts_share / max(len(card.columns), 1)}%"
        widths = ["5%", "29%", *[each] * len(card.columns), f"{66 - amounts_share}%"]
        table = self.flow.Table(cells, style=self._ruled(1), colWidths=widths)
        side = CARD_MM * self.units.mm
        picture = bowl_drawing(card.picture, side, numbered=True)
        beside = [("VALIGN", (0, 0), (-1, -1), "TOP"), ("LEFTPADDING", (0, 0), (-1, -1), 0)]
        steps = [
            self._p(f"{number}. {step}", self.small) for number, step in enumerate(card.steps, 1)
        ]
        gives = f"Gives {card.figures[0]}." if is_one and any(card.figures) else ""
        rest = " ".join(filter(None, (gives, *card.swaps, card.keeps, card.travels)))
        told, aside = [table, self.flow.Spacer(1, 4), *steps], self._p(rest, self.caption)
        under = [picture, self.flow.Spacer(1, 4), aside]
        beside_it = self.width - side - 6
        has_room = _height(under, side) <= _height(told, beside_it)  # under the drawing
        left, right = (under, told) if has_room else ([picture], [*told, aside])
        yield self.flow.Table([[left, right]], style=beside, colWidths=[side + 6, "*"])

    def _day(self, day: DayOfWeek) -> Iterable[Any]:
        """A day in words, for a booklet that was made before there were cards."""
        yield self._p(f"{day.name} {day.date}", self.head)
        for meal in day.meals:
            for one in meal.servings:
                words = ": ".join(filter(None, (one.name, ", ".join(one.parts))))
                yield self._p(f"{meal.name}: {words}{f' ({one.source})' if one.source else ''}.")

    def _ruled(self, padding: float) -> list[Any]:
        """A table with a line under each row."""
        whole = ((0, 0), (-1, -1))
        sides = ("LEFTPADDING", "RIGHTPADDING", "TOPPADDING", "BOTTOMPADDING")
        return [
            ("LINEBELOW", *whole, 0.4, "grey"),
            ("VALIGN", *whole, "TOP"),
            *((side, *whole, padding) for side in sides),
        ]

    def _columns(self, story: Iterable[Any], count: int) -> Any:
        """A story set in columns of about equal height."""
        return self.flow.BalancedColumns(list(story), nCols=count, innerPadding=8)

    def _shopping(self, booklet: Booklet) -> Iterable[Any]:
        """The list in three columns, sections in the order of the shop; a section goes on in the
        next column where it has no room, under its name again.
        """
        for page in in_columns(booklet.shopping, SHOP_COLUMNS, self.shop_lines, SHOP_LETTERS):
            columns = [[self._shop_line(*line) for line in column] for column in page]
            style = [("VALIGN", (0, 0), (-1, -1), "TOP"), ("LEFTPADDING", (0, 0), (-1, -1), 0)]
            yield self.flow.Table([columns], style=style, colWidths=["33%"] * SHOP_COLUMNS)
        yield from self._list("Check", booklet.check)

    def _shop_line(self, words: str, is_name: bool) -> Any:
        return self._p(words, self.section) if is_name else self._p(f"{BOX} {words}", self.small)

    def _watch(self, booklet: Booklet) -> Iterable[Any]:
        """What to mind and whom to ask; the link as a code for a phone stands beside it."""
        head = self._p("What to watch, and whom to ask", self.head)
        watch = (self._p(words, self.item, "-") for words in booklet.watch)
        told = [head, *watch, self._p(booklet.whom_to_ask())]
        if not self.address:
            yield from told
            return
        picture = io.BytesIO()
        import_module("segno").make(self.address).save(picture, kind="png", scale=6, border=2)
        picture.seek(0)
        side = CODE_MM * self.units.mm
        code = self.flow.Image(picture, width=side, height=side, hAlign="LEFT")
        style = [("VALIGN", (0, 0), (-1, -1), "TOP"), ("LEFTPADDING", (0, 0), (-1, -1), 0)]
        beside = [self._p("On your phone", self.head), code]
        yield self.flow.Table([[told, beside]], style=style, colWidths=["*", side + 12])

    def _remarks(self) -> Iterable[Any]:
        """Room to write, for the next talk: a column a question."""
        yield self._p(REMARKS, self.head)
        rule = {"width": "96%", "thickness": 0.4, "color": "grey", "spaceBefore": 15}
        cells = [
            [self._p(words), *(self.flow.HRFlowable(**rule) for _ in range(LINES_EACH))]
            for words in REMARK_LINES
        ]
        style = [("VALIGN", (0, 0), (-1, -1), "TOP"), ("LEFTPADDING", (0, 0), (-1, -1), 0)]
        each = f"{100 / len(cells)}%"
        yield self.flow.Table([cells], style=style, colWidths=[each] * len(cells))

    def _p(self, words: str, style: Any = None, bullet: str | None = None) -> Any:
        return self.flow.Paragraph(pdf_text(words), style or self.text, bulletText=bullet)

    def _list(self, head: str, words: Iterable[str]) -> Iterable[Any]:
        rows = [self._p(one, self.item, None if one.startswith(BOX) else "-") for one in words]
        if rows:
            yield self.flow.KeepTogether([self._p(head, self.head), rows[0]])
            yield from rows[1:]

    def _evening(self, evening: CookingEvening) -> Iterable[Any]:
        yield self._p(f"Cooking: {evening.name} {evening.date}", self.title)
        if evening.times:
            yield self._p(f"From {evening.times}. {evening.clearing}".strip())
        yield from self._list("Take care", evening.cautions)
        yield from self._list("The evening before", evening.before)
        picture = lane_picture(evening)
        if picture is not None and _has_room(evening, picture.height):
            yield lane_shapes(picture, self.small.fontName)
        if evening.lines:
            yield self._columns((self._p(f"{BOX} {line}", self.small) for line in evening.lines), 2)
        if evening.keeping:
            rows = math.ceil(len(evening.keeping) / 2)
            yield self.flow.CondPageBreak(KEEPING_HEAD + rows * KEEPING_ROW)  # no heading alone
            yield self._p("Keeping", self.head)
            yield self._columns((self._p(one, self.small) for one in evening.keeping), 2)

    def _dish(self, dish: DishToMake) -> Iterable[Any]:
        """A recipe: what goes in on the left, the steps on the right. What is only boiled is one
        paragraph.
        """
        if len(dish.ingredients) == 1:
            words = ". ".join((dish.ingredients[0], *dish.steps))
            yield self._p(f"{dish.name} ({dish.how_much}): {words}. {dish.keeps}", self.small)
            return
        yield self._p(f"{dish.name} ({dish.how_much})", self.head)
        steps = [self._p(f"{number}. {step}") for number, step in enumerate(dish.steps, 1)]
        cells = [
            [self._p(words, self.small) for words in dish.ingredients],
            [*steps, self._p(dish.keeps, self.small)],
        ]
        style = [("VALIGN", (0, 0), (-1, -1), "TOP"), ("LEFTPADDING", (0, 0), (-1, -1), 0)]
        yield self.flow.Table([cells], style=style, colWidths=["42%", "58%"])


def _height(story: Iterable[Any], width: float) -> float:
    """How high flowables stand one above the other in a column of a width, in points."""
    return sum(float(one.wrap(width, MOST_HEIGHT)[1]) for one in story)


def _numbered(canvas: Any, document: Any) -> None:
    """The number of the page at its foot."""
    canvas.setFont(FONT, 9)
    canvas.drawCentredString(document.pagesize[0] / 2, 22, f"{canvas.getPageNumber()}")


def _has_room(evening: CookingEvening, height: float) -> bool:
    """True where an evening's list, set in two columns, leaves room for a picture of a height."""
    rows = sum(1 + len(words) // ROW_LETTERS for words in (*evening.lines, *evening.keeping))
    above = 2 * len(evening.cautions) + len(evening.before)
    return rows / 2 + above + height / ROW_HEIGHT <= ROWS_OF_EVENING
