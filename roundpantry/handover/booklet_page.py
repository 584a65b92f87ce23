"""The page of a booklet to read and print, as values: the week at a glance and the cards, each with
its drawing.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

from dietetics.handover.booklet import (
    Booklet,
    BowlCard,
    CardPart,
    CookingEvening,
    Serving,
    at_a_glance,
)
from roundpantry.bowls.drawing import badge_at, sector_path
from roundpantry.handover.lane_drawing import LanePicture, lane_picture


@dataclass(frozen=True)
class DrawnPart:
    """A part of a drawing: its outline, its glaze, its number and where that stands."""

    path: str
    glaze: str
    number: int
    badge: tuple[str, str] | None


@dataclass(frozen=True)
class DrawnServing:
    """A dish in a cell of the week; it is drawn where it is eaten first."""

    serving: Serving
    picture: tuple[DrawnPart, ...] = ()


@dataclass(frozen=True)
class DrawnCell:
    """A meal of a day in the week at a glance."""

    servings: tuple[DrawnServing, ...]
    is_none: bool
    others: tuple[str, ...] = ()


@dataclass(frozen=True)
class CardRow:
    """A part on its card: measure and grams of each portion stand together."""

    number: int
    part: CardPart
    amounts: tuple[tuple[str, str], ...]


@dataclass(frozen=True)
class DrawnCard:
    """A card with its drawing and its rows."""

    card: BowlCard
    picture: tuple[DrawnPart, ...]
    rows: tuple[CardRow, ...]


@dataclass(frozen=True)
class DrawnEvening:
    """A cooking evening with the picture of its lanes, where one was kept."""

    evening: CookingEvening
    picture: LanePicture | None


@dataclass(frozen=True)
class BookletPage:
    """All of it: the rows of the week (meal, cells), the cards and the cooking evenings."""

    booklet: Booklet
    glance: tuple[tuple[str, tuple[DrawnCell, ...]], ...]
    cards: tuple[DrawnCard, ...]
    evenings: tuple[DrawnEvening, ...]


def page_of(booklet: Booklet) -> BookletPage:
    """A booklet as its page shows it."""
    pictures = {card.letter: _drawn(card) for card in booklet.cards}
    glance = tuple(
        (
            meal,
            tuple(
                DrawnCell(
                    tuple(_serving(one, cell.first, pictures) for one in cell.servings),
                    cell.is_none,
                    tuple(filter(None, (one.words() for one in cell.others))),
                )
                for cell in cells
            ),
        )
        for meal, cells in at_a_glance(booklet)
    )
    cards = tuple(
        DrawnCard(card, pictures[card.letter], rows_of_card(card)) for card in booklet.cards
    )
    evenings = tuple(DrawnEvening(one, lane_picture(one)) for one in booklet.evenings)
    return BookletPage(booklet, glance, cards, evenings)


def rows_of_card(card: BowlCard) -> tuple[CardRow, ...]:
    """The parts of a card, numbered, with measure and grams of each portion together."""
    return tuple(
        CardRow(
            number,
            part,
            tuple(
                (measure, part.grams[n] if part.grams else "")
                for n, measure in enumerate(part.measures)
            ),
        )
        for number, part in enumerate(card.parts, 1)
    )


def _serving(
    one: Serving, first: frozenset[str], pictures: Mapping[str, tuple[DrawnPart, ...]]
) -> DrawnServing:
    return DrawnServing(one, pictures.get(one.letter, ()) if one.letter in first else ())


def _drawn(card: BowlCard) -> tuple[DrawnPart, ...]:
    return tuple(
        DrawnPart(
            sector_path(part.inner, part.outer, part.start, part.end),
            part.glaze,
            part.number,
            badge_at(part),
        )
        for part in card.picture
    )
