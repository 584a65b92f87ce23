"""Reading one written ingredient line: which food, how many grams, how sure, and what was not understood.

Nothing is dropped in silence: a line gives one or more readings, or one reading that says why not.
"""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import lru_cache

from dietetics.amounts.grammar import Amount, Term, read_amount, read_stated_weight
from dietetics.amounts.matching import CUT_WORDS, Match, NameIndex, match_food
from dietetics.amounts.tokens import Token, clean, tokenise
from dietetics.amounts.units import UNITS, US_HOUSEHOLD, WORDS, Household
from dietetics.amounts.weighing import Scales, Weight, checked
from dietetics.composition.foods import Food, Shelf
from dietetics.composition.names import words_of
from dietetics.composition.search import index_of
from dietetics.errors import DieteticsError

MAX_LINE = 300
_BULLET = re.compile(r"^\s*(?:[•·▪‣∙*]|[-–—](?=\s)|\d+[.)](?=\s+\d)|\[[ x]?\])\s*")
_THINNED = re.compile(
    r"\b(?:thinned|mixed|loosened|whisked|stirred|blended|diluted)\s+(?:out\s+)?(?:with|into|in)\s+"
    r"(?=(?:about\s+)?[\d½⅓⅔¼¾⅛]|a\s+|an\s+|one\s+|two\s+|three\s+|half\s+)",
    re.IGNORECASE,
)
_SPOONS = {"tsp", "tbsp", "dessertspoon"}
_LIQUIDS = {"plant-milk", "oil"}
_LIQUID_FOODS = {
    "water",
    "vegetable-broth",
    "lemon-juice",
    "lime-juice",
    "orange-juice",
    "coconut-milk-canned",
    "soy-sauce",
    "tamari",
    "vegetable-juice-low-sodium",
    "maple-syrup",
}
SEASONING_G = (0.0, 0.3, 1.2)  # a spice with no amount: nothing to half a teaspoon, common practice


@dataclass(frozen=True)
class Alternative:
    """Another thing a line may have meant."""

    food: Food
    grams: float
    note: str


@dataclass(frozen=True)
class LineReading:
    """What one line, or one part of it, was taken to mean.

    `confidence`: high, fair, low, or ask (two meanings are possible). `reason` is set when nothing
    could be read; then grams are None. `heading` lines hold no ingredient.
    """

    text: str
    food: Food | None = None
    grams: float | None = None
    grams_low: float | None = None
    grams_high: float | None = None
    how: str = ""
    confidence: str = ""
    alternatives: tuple[Alternative, ...] = ()
    remarks: tuple[str, ...] = ()
    not_understood: tuple[str, ...] = ()
    reason: str = ""
    heading: bool = False

    @property
    def matched(self) -> bool:
        """True when the line gave a food with a weight."""
        return self.food is not None and self.grams is not None


@dataclass(frozen=True)
class Remembered:
    """A practitioner's own correction of a phrase: the food they mean, and grams of one of their measure."""

    food_key: str
    grams_per_unit: float | None = None
    unit: str = ""


@dataclass
class _Parts:
    """A line taken apart: amount, the words naming the food, the notes after it, and bracketed weights."""

    amount: Amount | None
    phrase: str
    notes: str
    stated: tuple[Term, bool] | None
    stated_unit: str = ""


@dataclass
class LineReader:
    """Reads lines against one shelf, with one practitioner's cups, spoons and remembered corrections."""

    shelf: Shelf
    household: Household = US_HOUSEHOLD
    remembered: Mapping[str, Remembered] = field(default_factory=dict)

    def __post_init__(self) -> None:
        self.names = name_index(self.shelf)
        self.scales = Scales(self.shelf, self.household)

    def read(self, text: str) -> list[LineReading]:
        """Return the readings of one line: usually one, two where something is thinned with something else."""
        written = text.strip()
        if len(written) > MAX_LINE:
            reason = f"longer than {MAX_LINE} characters: not one ingredient"
            return [LineReading(written[:MAX_LINE] + "…", reason=reason)]
        if written.endswith(":") and not any(ch.isdigit() for ch in written):
            return [LineReading(written, heading=True)]
        body = _BULLET.sub("", written)
        first, *more = _THINNED.split(body)
        readings = [self._read_one(written, first)]
        readings += [self._read_one(written, part) for part in more]
        return readings

    def read_as(self, text: str, food: Food) -> LineReading:
        """Read the amount of a line as an amount of a given food, whatever food the line names."""
        tokens = tokenise(clean(_BULLET.sub("", text.strip())))
        return self._weigh(text.strip(), _take_apart(tokens), Match(food), None)

    def _read_one(self, written: str, body: str) -> LineReading:
        tokens = tokenise(clean(body))
        if not tokens:
            return LineReading(written, reason="nothing is written here")
        if tokens[0].text == "-" and len(tokens) > 1 and tokens[1].glued and tokens[1].value is not None:
            return LineReading(written, reason="an amount below zero cannot be used")
        parts = _take_apart(tokens)
        own = self._remembered_for(parts)
        match = self._match(parts, own)
        if match is None:
            what = parts.phrase or parts.notes or body
            return LineReading(written, reason=f"no food on the shelf is called “{what.strip()}”")
        return self._weigh(written, parts, match, own)

    def _remembered_for(self, parts: _Parts) -> Remembered | None:
        """The practitioner's correction of this phrase: for its unit first ("handful"), else for any."""
        key = phrase_key(parts.phrase)
        term = parts.amount.terms[0] if parts.amount else None
        unit = (term.unit.key if term.unit else "piece") if term else ""
        return self.remembered.get(f"{key}|{unit}") or self.remembered.get(key)

    def _match(self, parts: _Parts, own: Remembered | None) -> Match | None:
        if own is not None and own.food_key in self.shelf.foods:
            return Match(self.shelf.food(own.food_key), remarks=("as you corrected it before",))
        unit = parts.amount.terms[0].unit if parts.amount else None
        phrase = parts.phrase
        if parts.amount and parts.amount.part:
            phrase = f"{phrase} {parts.amount.part}"
        return match_food(
            phrase,
            parts.notes,
            spoon=unit is not None and unit.key in _SPOONS,
            container=unit is not None and unit.key in ("can", "jar"),
            index=self.names,
        )

    def _weigh(self, written: str, parts: _Parts, match: Match, own: Remembered | None) -> LineReading:
        food = match.food
        base = LineReading(written, food, remarks=match.remarks, not_understood=match.not_understood)
        if parts.amount is None:
            return self._without_amount(base, food)
        amount = _with_trailing_unit(parts.amount, parts.phrase, food)
        cut = next(
            (CUT_WORDS[w] for w in re.findall(r"[a-z]+", f"{parts.phrase} {parts.notes}".lower()) if w in CUT_WORDS), ""
        )
        try:
            weight = self._remembered_weight(amount, own) or self._stated_or_measured(amount, parts, food, cut)
        except DieteticsError as error:
            return replace(base, reason=str(error))
        return self._finished(base, parts, match, amount, weight)

    def _without_amount(self, base: LineReading, food: Food) -> LineReading:
        if food.group != "herb-spice":
            return replace(base, reason=f"no amount is written for {food.name}")
        low, likely, high = SEASONING_G
        return replace(
            base,
            grams=likely,
            grams_low=low,
            grams_high=high,
            confidence="low",
            how="no amount written: a pinch is taken, up to half a teaspoon (common practice)",
        )

    def _remembered_weight(self, amount: Amount, own: Remembered | None) -> Weight | None:
        if own is None or own.grams_per_unit is None or len(amount.terms) != 1:
            return None
        term = amount.terms[0]
        if (term.unit.key if term.unit else "piece") != own.unit:
            return None
        grams = own.grams_per_unit
        low, likely, high = (float(q) * grams for q in (term.quantity.low, term.quantity.likely, term.quantity.high))
        return checked(Weight(low, likely, high, f"your own {own.unit} of {grams:g} g", "practitioner"), own.unit)

    def _stated_or_measured(self, amount: Amount, parts: _Parts, food: Food, cut: str) -> Weight:
        if parts.stated is None:
            return self.scales.weigh(amount, food, cut)
        stated, each = parts.stated
        term = amount.terms[0]
        per_unit = (
            each
            or bool(parts.stated_unit)
            or (term.unit is not None and term.unit.kind == "container" and term.container is None)
        )
        if per_unit:
            inner = replace(term, unit=term.unit or UNITS["piece"], container=stated)
            return checked(self.scales.weigh_term(inner, food), "the bracket")
        weight = self.scales.weigh_term(stated, food)
        said = replace(weight, how=f"{weight.how} as written in brackets", mark="stated")
        rough = said.spread(0.1) if stated.quantity.rough or len(amount.terms) == 1 and term.unit is None else said
        return checked(rough, "the bracket")

    def _finished(self, base: LineReading, parts: _Parts, match: Match, amount: Amount, weight: Weight) -> LineReading:
        food = match.food
        alternatives, weight = self._ounce_meanings(amount, parts, food, weight)
        for other in match.alternatives:
            if parts.stated is not None and other.family == food.family:
                continue
            try:
                grams = self.scales.weigh(amount, other).grams
            except DieteticsError:
                continue
            alternatives.append(Alternative(other, grams, f"if {other.name.lower()} is meant"))
        return replace(
            base,
            grams=weight.grams,
            grams_low=min(weight.low, weight.grams),
            grams_high=max(weight.high, weight.grams),
            how=weight.how,
            alternatives=tuple(alternatives),
            confidence=_confidence(match, weight, alternatives),
        )

    def _ounce_meanings(
        self, amount: Amount, parts: _Parts, food: Food, weight: Weight
    ) -> tuple[list[Alternative], Weight]:
        """An ounce is a weight or a volume: take the likelier, offer the other, and span both."""
        term = amount.terms[0]
        plain = len(amount.terms) == 1 and term.container is None and parts.stated is None
        if not plain or "weight" in parts.phrase.lower() or not any(m.unit == "cup" for m in food.measures):
            return [], weight
        other = self.scales.gram_alternatives(term, food)
        if other is None or food.state in ("raw", "as-sold") and not _liquid(food):
            return [], weight
        if _liquid(food):
            weight, other = other, weight
        note = "if ounces by weight are meant" if _liquid(food) else "if fluid ounces (by volume) are meant"
        both = replace(
            weight,
            low=min(weight.low, other.grams),
            high=max(weight.high, other.grams),
            how=f"{weight.how}, {'by volume' if _liquid(food) else 'by weight'}",
        )
        return [Alternative(food, other.grams, note)], both


def _liquid(food: Food) -> bool:
    return food.group in _LIQUIDS or food.key in _LIQUID_FOODS or food.key.startswith("vinegar")


def _confidence(match: Match, weight: Weight, alternatives: Sequence[Alternative]) -> str:
    if alternatives or not (match.sure or weight.mark == "stated"):
        return "ask"
    span = (weight.high - weight.low) / weight.grams if weight.grams else 1.0
    if span > 0.5:
        return "low"
    return "high" if span <= 0.2 and not match.not_understood else "fair"


def _with_trailing_unit(amount: Amount, phrase: str, food: Food) -> Amount:
    """ "3 romaine leaves": the unit stands after the food. Taken when the food has that measure."""
    term = amount.terms[0]
    if term.unit is not None or amount.part:
        return amount
    for word in re.findall(r"[a-z]+", phrase.lower()):
        unit = WORDS.get(word)
        counted = unit is not None and unit.kind in ("count", "container") and unit.key != "piece"
        if unit is not None and counted and any(m.unit == unit.key for m in food.measures):
            return replace(amount, terms=(replace(term, unit=unit),))
    return amount


def _take_apart(tokens: list[Token]) -> _Parts:
    amount = read_amount(tokens)
    rest = tokens[amount.taken :] if amount else tokens
    if amount is None:
        amount, rest = _trailing_amount(tokens)
    phrase: list[str] = []
    notes: list[str] = []
    stated: tuple[Term, bool] | None = None
    stated_unit = ""
    target, position = phrase, 0
    while position < len(rest):
        token = rest[position]
        if token.text in "([":
            close = next((i for i in range(position, len(rest)) if rest[i].text in ")]"), len(rest))
            inside = rest[position + 1 : close]
            weight = read_stated_weight(inside) if stated is None else None
            if weight is not None:
                stated = weight
                stated_unit = next(
                    (WORDS[t.lower].key for t in inside if t.lower in WORDS and WORDS[t.lower].kind == "container"), ""
                )
            else:
                notes.extend(t.text for t in inside)
            position = close + 1
            continue
        if token.text in ",;:" or (token.text == "-" and not token.glued):
            target = notes
        elif token.kind in ("word", "number", "fraction") or token.text in "%&":
            target.append(token.text)
        position += 1
    if not phrase:
        phrase, notes = notes, []
    return _Parts(amount, " ".join(phrase), " ".join(notes), stated, stated_unit)


def _trailing_amount(tokens: list[Token]) -> tuple[Amount | None, list[Token]]:
    """ "Quinoa, dry, 200 g": the amount stands last."""
    for start in range(1, len(tokens)):
        found = read_amount(tokens[start:])
        if (
            found is not None
            and found.taken == len(tokens) - start
            and found.terms[0].unit is not None
            and tokens[start].value is not None
        ):
            return found, tokens[:start]
    return None, tokens


def phrase_and_unit(text: str) -> tuple[str, str, float]:
    """The phrase a line names its food by, the unit of its amount and how many: what a correction is kept under."""
    parts = _take_apart(tokenise(clean(_BULLET.sub("", text.strip()))))
    if parts.amount is None or len(parts.amount.terms) != 1:
        return parts.phrase, "", 0.0
    term = parts.amount.terms[0]
    return parts.phrase, term.unit.key if term.unit else "piece", float(term.quantity.likely)


def phrase_key(phrase: str) -> str:
    """The phrase under which a correction is remembered: its words, order kept."""
    return " ".join(words_of(phrase))


@lru_cache(maxsize=8)
def name_index(shelf: Shelf) -> NameIndex:
    """The names of a shelf, indexed once a shelf."""
    return NameIndex(shelf, index_of(shelf))
