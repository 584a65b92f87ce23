"""A weight or volume that stands in brackets behind an amount: "2 tins (480 g drained)", "1 block
(about 14 oz)", "3 carrots (1 cup)". Is it of one of them or of all, and with its liquid or without?
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from dietetics.amounts.grammar import Amount, Quantity, Term, read_stated_weight
from dietetics.amounts.tokens import Token
from dietetics.amounts.units import UNITS, WORDS
from dietetics.amounts.weighing import Scales, Weight, checked
from dietetics.composition.foods import Food
from dietetics.errors import DieteticsError

BRACKET = "the bracket"
# How far what one container holds may lie from what such a container usually holds, as a logarithm:
# within a third (our judgement; packages of one food differ by less).
NEAR, CLEARLY_NEARER = 0.3, 0.25


@dataclass(frozen=True)
class Stated:
    """What a bracket states: how much, whether it says "each", "total" or "drained", and the
    container that it names ("15-oz can").
    """

    term: Term
    is_each: bool = False
    is_total: bool = False
    is_drained: bool = False
    container: str = ""


def read_stated(inside: Sequence[Token]) -> Stated | None:
    """What a bracket states; of two weights the drained one. None for a bracket that says something
    else.
    """
    pieces = list(_pieces(inside))
    drained = [piece for piece in pieces if len(pieces) > 1 and _says(piece, "drained")]
    for piece in (*drained, inside):
        found = read_stated_weight(piece)
        if found is not None:
            term, is_each = found
            total = _says(inside, "total", "altogether", "all")
            return Stated(
                term, is_each and not total, total, _says(inside, "drained"), _container(inside)
            )
    return None


def _pieces(inside: Sequence[Token]) -> Iterator[list[Token]]:
    piece: list[Token] = []
    for token in inside:
        if token.text in ",;/":
            yield piece
            piece = []
        else:
            piece.append(token)
    yield piece


def _says(tokens: Sequence[Token], *words: str) -> bool:
    return any(token.lower in words for token in tokens)


def _container(tokens: Sequence[Token]) -> str:
    units = (WORDS[token.lower] for token in tokens if token.lower in WORDS)
    return next((unit.key for unit in units if unit.kind == "container"), "")


def weight_as_stated(
    stated: Stated, amount: Amount, food: Food, scales: Scales, cut: str = ""
) -> Weight:
    """The grams of an amount whose weight or volume stands in brackets.

    Raises DieteticsError where it cannot be weighed.
    """
    term = amount.terms[0]
    held = term.unit is not None and term.unit.kind == "container" and term.container is None
    if not held and not stated.is_each and not stated.container:
        weight = scales.weigh_term(stated.term, food, cut)
        said = replace(weight, how=f"{weight.how} as written in brackets", mark="stated")
        plain = len(amount.terms) == 1 and term.unit is None
        return checked(said.spread(0.1) if stated.term.quantity.rough or plain else said, BRACKET)
    every = _content(stated, term, food, scales)
    if stated.is_each or stated.container or term.quantity.likely == 1:
        return checked(every, BRACKET)
    one = replace(term, quantity=Quantity.of(1))
    of_all = _content(stated, one, food, scales)
    of_all = replace(of_all, how=f"{of_all.how} for all, as written in brackets")
    return checked(
        of_all if stated.is_total else _nearer(every, of_all, term, one, food, scales), BRACKET
    )


def _content(stated: Stated, term: Term, food: Food, scales: Scales) -> Weight:
    """What so many of the bracket's weight come to, as it is eaten: as they are where it is said to
    be drained or was measured by cup; else by the share of solids in a can.
    """
    unit = stated.term.unit
    in_cups = unit is not None and unit.kind == "volume" and unit.key in ("cup", "tbsp", "tsp")
    if not stated.is_drained and not in_cups:
        inner = replace(term, unit=term.unit or UNITS["piece"], container=stated.term)
        return scales.weigh_term(inner, food)
    one, count = scales.weigh_term(stated.term, food), term.quantity
    low, likely, high = (float(q) for q in (count.low, count.likely, count.high))
    how = f"{one.how}{' drained' * stated.is_drained}"
    how = how if likely == 1 else f"{likely:g} × {how}"
    return Weight(one.low * low, one.grams * likely, one.high * high, how, one.mark)


def _nearer(
    every: Weight, of_all: Weight, term: Term, one: Term, food: Food, scales: Scales
) -> Weight:
    """ "2 cans (15 oz)" are 15 oz each, "½ block (7 oz)" are 7 oz: what such a container usually
    holds decides; where that cannot, the span reaches over both.
    """
    try:
        usual = scales.weigh_term(one, food).grams
    except DieteticsError:
        return every
    count = float(term.quantity.likely)
    if_each, if_all = (abs(math.log(w.grams / count / usual)) for w in (every, of_all))
    nearer, other = (every, of_all) if if_each <= if_all else (of_all, every)
    if min(if_each, if_all) <= NEAR and abs(if_each - if_all) >= CLEARLY_NEARER:
        return nearer
    return replace(
        nearer,
        low=min(nearer.low, other.low),
        high=max(nearer.high, other.high),
        how=f"{nearer.how}; of one or of all is not said",
    )
