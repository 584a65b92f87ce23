"""Reading one written ingredient line: which food, how many grams, how sure, and what was not
understood.

Nothing is dropped in silence: a line gives one or more readings, or one reading that says why not.
"""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import lru_cache

from dietetics.amounts.denials import denials_of, without_denials
from dietetics.amounts.food_matching import (
    Choice,
    Match,
    NoMatch,
    match_food,
    match_name_in_brackets,
)
from dietetics.amounts.grammar import Amount, read_amount
from dietetics.amounts.line_cleanup import (
    is_aside,
    is_heading,
    listed,
    parts_of_line,
    plain_line,
    without_what_it_makes,
)
from dietetics.amounts.phrases import NameIndex
from dietetics.amounts.stated_weight import Stated, read_stated, weight_as_stated
from dietetics.amounts.tokens import Token, clean, tokenise
from dietetics.amounts.units import US_HOUSEHOLD, WORDS, Household
from dietetics.amounts.vocabulary import CHANGING_WORDS, COLOUR_WORDS, CUT_WORDS, STATE_WORDS
from dietetics.amounts.weighing import Scales, Weight, checked
from dietetics.composition.foods import Food, Shelf
from dietetics.composition.name_words import words_of
from dietetics.composition.search import index_of
from dietetics.errors import DieteticsError
from dietetics.untrusted_input import readable

MAX_LINE = 300
ASK = "ask"  # the confidence of a line with two possible meanings
_SPOONS = {"tsp", "tbsp", "dessertspoon", "pinch", "dash", "grind"}
_LIQUIDS = {"plant-milk", "oil"}
_LIQUID_FOODS = {
    "vinegar-cider",
    "vinegar-rice",
    "vinegar-balsamic",
    "vinegar-red-wine",
    "vinegar-sushi",
    "water",
    "vegetable-broth",
    "vegetable-broth-low-sodium",
    "lemon-juice",
    "lime-juice",
    "orange-juice",
    "coconut-milk-canned",
    "coconut-milk-light-canned",
    "soy-sauce",
    "tamari",
    "vegetable-juice-low-sodium",
    "maple-syrup",
}
# A seasoning without an amount, or with "some" or "a little" of it: what counts at least, and the
# most that is meant; common practice.
SALT_G, A_LITTLE_SALT_G = (0.1, 1.5), (0.4, 3.0)  # to a quarter teaspoon, and to half of one
SPICE_G, A_LITTLE_SPICE_G = (0.1, 1.2), (0.3, 3.0)
A_LITTLE_FRESH_G = (2.0, 15.0)  # of herbs, garlic, ginger, chilli
GARNISH_G = (1.0, 8.0)  # of fresh herbs without a word
# Lemon or lime that is pressed over a plate: a wedge, up to half a fruit; common practice.
WEDGES_G, SQUEEZED = (7.0, 40.0), frozenset({"lemon-raw", "lime-raw"})
_AT_THE_TABLE = re.compile(
    r"\bwedges?\b|\b(?:to serve|for serving|to garnish|for garnish|to squeeze|for squeezing)\b"
)
AROMATICS = frozenset(
    {"garlic", "ginger", "red-chili", "green-chili", "turmeric-root-raw", "lemongrass-raw"}
)
PACKED = 1.5  # of a loose cup of leaves: common practice
WATER, WATER_G = "water", (0.0, 30.0, 120.0)  # "water, as needed"; common practice
KIND_WORDS = (COLOUR_WORDS | CHANGING_WORDS | STATE_WORDS.keys() | {"green", "fresh"}) - {
    "raw",
    "rinsed",
    "drained",
}
BARE_WORDS = frozenset(
    {"salt", "table", "cooking", "fine"}
)  # with none but these, "salt" is the usual one
TABLE_SALT_TSP_G = 6.0  # USDA, salt, table
SALT_FAMILIES = frozenset({"salt-table", "salt-kosher"})
# "Some", "a few", "a little" of a food by group: least, likely, most in g. Our judgement of common
# practice.
SOME_G: Mapping[str, tuple[float, float, float]] = {
    "herb-spice": (1.0, 5.0, 15.0),
    "leafy-green": (10.0, 30.0, 80.0),
    "vegetable": (15.0, 50.0, 120.0),
    "mushroom": (15.0, 50.0, 120.0),
    "fruit": (15.0, 50.0, 120.0),
    "dried-fruit": (5.0, 15.0, 40.0),
    "nut": (3.0, 10.0, 30.0),
    "seed": (2.0, 8.0, 25.0),
    "nut-butter": (5.0, 15.0, 35.0),
    "oil": (2.0, 5.0, 15.0),
    "condiment": (3.0, 8.0, 25.0),
    "sweetener": (3.0, 8.0, 25.0),
}
SOME_OTHER_G = (15.0, 50.0, 120.0)
_JUICE_ALONE = re.compile(
    r"(?:the )?(?:(?:finely )?(?:grated )?(?:zest|rind)(?:ed)? (?:and|&) )?juiced?(?: only|"
    r" of)?",
    re.IGNORECASE,
)
# "Cooked chickpeas, or a drained can of them".
_OTHER_STATE = re.compile(r"\b(?:cans?|tins?|jars?|canned|tinned|frozen|dried|fresh|cooked)\b")
_SYNONYM_IN_BRACKETS = re.compile(
    r"\b(?:or|about|in|with|for|from|see|plus|optional|not|if|each|soaked|chopped|peeled)\b",
    re.IGNORECASE,
)


@dataclass(frozen=True)
class Alternative:
    """Another thing a line may have meant."""

    food: Food
    grams: float
    note: str


@dataclass(frozen=True)
class LineReading:
    """What one line, or one part of it, was taken to mean.

    `confidence`: high, fair, low, or ask (two possible meanings are possible). `reason` is set when
    nothing could be read; then grams are None and `choices` holds the nearest rows with what would
    differ. `honoured` are the words that chose the row, `neutral` those that were heard and changed
    nothing. `heading` lines hold no ingredient; `is_unmeasured_seasoning` is salt, a spice
    or what is pressed over at the table, without an amount.
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
    choices: tuple[Alternative, ...] = ()
    honoured: tuple[str, ...] = ()
    neutral: tuple[str, ...] = ()
    is_unmeasured_seasoning: bool = False

    @property
    def matched(self) -> bool:
        """True when the line gave a food with a weight."""
        return self.food is not None and self.grams is not None


@dataclass(frozen=True)
class Remembered:
    """A practitioner's own correction of a phrase: the food they mean, and grams of one of their
    measure.
    """

    food_key: str
    grams_per_unit: float | None = None
    unit: str = ""


@dataclass
class _Parts:
    """A line taken apart: amount, the words naming the food, the notes behind it, bracketed words
    and weights.
    """

    amount: Amount | None
    phrase: str
    notes: str
    stated: Stated | None
    brackets: tuple[str, ...] = ()
    each: bool = False
    some: bool = False
    denied: tuple[str, ...] = ()


@dataclass
class LineReader:
    """Reads lines against one shelf, with one practitioner's cups, spoons and remembered
    corrections.

    `usual` says which row a practitioner means by a bare name: {"salt-table": "salt-iodised"};
    `usual_salt_tsp` how much salt they mean where a recipe says none, None where nobody knows.
    """

    shelf: Shelf
    household: Household = US_HOUSEHOLD
    remembered: Mapping[str, Remembered] = field(default_factory=dict)
    usual: Mapping[str, str] = field(default_factory=dict)
    usual_salt_tsp: float | None = None

    def __post_init__(self) -> None:
        self.names = name_index(self.shelf)
        self.scales = Scales(self.shelf, self.household)

    def read(self, text: str) -> list[LineReading]:
        """Return the readings of one line: usually one, more where it names several foods."""
        written = text.strip()
        if len(written) > MAX_LINE:
            reason = f"longer than {MAX_LINE} characters: not one ingredient"
            return [LineReading(written[:MAX_LINE] + "…", reason=reason)]
        plain = readable(written, MAX_LINE)
        if is_heading(plain) or is_aside(plain):
            return [LineReading(written, heading=True)]
        pieces = parts_of_line(plain_line(plain)) or [plain]
        pieces = [one for piece in pieces for one in self._foods_of_list(piece)]
        return [reading for piece in pieces for reading in self._read_piece(written, piece)]

    def _foods_of_list(self, piece: str) -> list[str]:
        """A piece cut at its commas where each part is a food by itself: "salt, pepper, 2 tbsp
        oil", "cumin, paprika, thyme". Two parts are a name turned round ("flour, rice") unless
        both are seasonings or each has an amount of its own.
        """
        cut = r",\s*(?:and\s+)?|\s+and\s+" if "," in piece else ","
        parts = [one.strip() for one in re.split(cut, piece) if one.strip()]
        tokens = [tokenise(clean(one)) for one in parts]
        if len(parts) < 2 or not all(tokens) or re.search(r"[()\[\]]", piece):
            return [piece]
        taken = [_take_apart(one) for one in tokens]
        foods = []
        for one in taken:
            found = self._match(one, None)
            if not isinstance(found, Match) or found.clashes or found.not_understood:
                return [piece]
            foods.append(found.food)
        amounts = [one.amount is not None for one in taken]
        seasonings = [f.group == "herb-spice" or f.family in SALT_FAMILIES for f in foods]
        if amounts[0]:
            return parts if all(amounts) else [piece]
        is_list = len(parts) > 2 or all(seasonings) or (seasonings[0] and amounts[-1])
        return parts if is_list else [piece]

    def read_as(self, text: str, food: Food) -> LineReading:
        """Read the amount of a line as an amount of a given food, whatever food the line names."""
        written = text.strip()
        plain, _ = without_what_it_makes(plain_line(readable(written[:MAX_LINE])))
        tokens = tokenise(clean(without_denials(plain)[0]))
        if not tokens or len(written) > MAX_LINE:
            reason = f"longer than {MAX_LINE} characters" if tokens else "nothing is written here"
            return LineReading(f"{written[:MAX_LINE]}", reason=reason)
        return self._weigh(written, _take_apart(tokens), Match(food), None)

    def _read_piece(self, written: str, piece: str) -> list[LineReading]:
        stripped, makes = without_what_it_makes(piece)
        body, denied = without_denials(stripped)
        tokens = tokenise(clean(body))
        if not tokens:
            told = f"it only says what is not meant: {', '.join(denied)}"
            return [LineReading(written, reason=told if denied else "nothing is written here")]
        if (
            tokens[0].text == "-"
            and len(tokens) > 1
            and tokens[1].glued
            and tokens[1].value is not None
        ):
            return [LineReading(written, reason="an amount can't be below zero")]
        parts = replace(_take_apart(tokens), denied=denied)
        found = self._several(written, parts) or [self._read_one(written, parts, body)]
        return [replace(one, remarks=(*one.remarks, makes)) for one in found] if makes else found

    def _read_one(self, written: str, parts: _Parts, body: str) -> LineReading:
        own = self._remembered_for(parts)
        match = self._fresh(self._match(parts, own), parts)
        if isinstance(match, Match) and not match.clashes:
            return self._weigh(written, parts, match, own)
        what = (parts.phrase or parts.notes or body).strip()
        if (
            isinstance(match, Match)
            and parts.notes
            and not set(match.clashes) & set(words_of(parts.phrase))
        ):
            what = f"{what}, {parts.notes}".replace(" ,", ",")
        if isinstance(match, NoMatch):
            reason = match.reason or f"no food matches “{what}”"
            return LineReading(
                written, reason=reason, choices=self._weighed_choices(match.choices, parts)
            )
        return LineReading(
            written,
            reason=(
                f"no food matches “{what}”: the nearest, {match.food.name}, differs in "
                f"“{', '.join(match.clashes)}”"
            ),
            choices=self._weighed_choices(match.choices, parts),
            honoured=match.honoured,
            neutral=match.neutral,
            not_understood=match.clashes,
        )

    def _fresh(self, match: Match | NoMatch, parts: _Parts) -> Match | NoMatch:
        """ "3 sprigs thyme": what is counted in sprigs, leaves and bunches is not dried."""
        unit = parts.amount.terms[0].unit if parts.amount else None
        if not isinstance(match, Match) or unit is None or unit.key not in ("sprig", "bunch"):
            return match
        fresh = self.shelf.foods.get(match.food.key.removesuffix("-dried") + "-fresh")
        if match.food.group != "herb-spice" or match.food.state == "raw" or fresh is None:
            return match
        return replace(match, food=fresh, remarks=(*match.remarks, "sprigs are of the fresh herb"))

    def _weighed_choices(self, choices: Sequence[Choice], parts: _Parts) -> tuple[Alternative, ...]:
        found = []
        for choice in choices:
            reading = self._weigh("", parts, Match(choice.food), None)
            found.append(Alternative(choice.food, reading.grams or 0.0, choice.differs))
        return tuple(found)

    def _several(self, written: str, parts: _Parts) -> list[LineReading]:
        """Several foods on one line: each with the amount, each with none, or refused where they
        share one.
        """
        phrase = f"{parts.phrase}, {parts.notes}" if parts.each and parts.notes else parts.phrase
        names = listed(phrase)
        if len(names) < 2 or (parts.amount and parts.amount.part):
            return []
        whole = self._match(parts, None)
        if (
            isinstance(whole, Match)
            and not whole.clashes
            and not whole.not_understood
            and not parts.each
        ):
            joined = _words_between(parts.phrase)
            if joined & set(whole.honoured) or not self._all_foods(names, parts):
                return []
        if not self._all_foods(names, parts):
            return []
        if parts.amount is not None and not parts.each:
            reason = f"{' and '.join(names)} share one amount here: write one line for each"
            return [LineReading(written, reason=reason)]
        alone = [
            replace(parts, phrase=name, notes="" if parts.each else parts.notes, each=False)
            for name in names
        ]
        return [self._read_one(written, one, one.phrase) for one in alone]

    def _all_foods(self, names: Sequence[str], parts: _Parts) -> bool:
        for name in names:
            found = self._match(
                replace(parts, phrase=name, notes="", stated=None, brackets=()), None
            )
            if not isinstance(found, Match) or found.clashes or found.not_understood:
                return False
        return True

    def _remembered_for(self, parts: _Parts) -> Remembered | None:
        """The practitioner's correction of this phrase: for its unit first ("handful"), else for
        any.
        """
        key = phrase_key(parts.phrase)
        term = parts.amount.terms[0] if parts.amount else None
        unit = (term.unit.key if term.unit else "piece") if term else ""
        return self.remembered.get(f"{key}|{unit}") or self.remembered.get(key)

    def _match(self, parts: _Parts, own: Remembered | None) -> Match | NoMatch:
        if own is not None and own.food_key in self.shelf.foods:
            return Match(self.shelf.food(own.food_key), remarks=("as you corrected it before",))
        part = parts.amount.part if parts.amount else ""
        part = "" if part in parts.phrase else part
        phrase = f"{parts.phrase} {part}" if part else parts.phrase
        first, _, second = phrase.partition(" or ")
        found = self._match_words(first if second else phrase, parts)
        if second:
            found = self._either(found, self._match_words(second, parts))
        for inside in parts.brackets:
            found = self._with_bracket(found, inside, parts)
        for told in (parts.notes, *parts.brackets):
            found = self._or_else(found, told, parts)
        if isinstance(found, Match) and any(
            _leaves_open(text) for text in (parts.notes, *parts.brackets)
        ):
            found = replace(found, sure=False)
        usual = self._usual(found)
        if isinstance(usual, Match) and parts.denied:
            return replace(usual, remarks=(*usual.remarks, f"not {', not '.join(parts.denied)}"))
        return usual

    def _match_words(self, phrase: str, parts: _Parts) -> Match | NoMatch:
        unit = parts.amount.terms[0].unit if parts.amount else None
        return match_food(
            phrase,
            " , ".join(told for told in (parts.notes, *parts.brackets) if _is_of_it(told)),
            spoon=parts.amount is None or unit is not None and unit.key in _SPOONS,
            container=unit.key if unit is not None and unit.key in ("can", "jar") else "",
            index=self.names.denying(denials_of(parts.denied)),
        )

    def _either(self, first: Match | NoMatch, second: Match | NoMatch) -> Match | NoMatch:
        """ "Kale or spinach": the first is taken, the other offered, and the line asks."""
        read = isinstance(second, Match) and not second.clashes
        if isinstance(first, NoMatch):
            return (
                replace(second, sure=False)
                if isinstance(second, Match) and read and not first.reason
                else first
            )
        if first.clashes or not isinstance(second, Match):
            return first if first.clashes else replace(first, sure=False)
        if not read:
            return replace(first, sure=False)
        others = (
            (second.food, *first.alternatives)
            if second.food.family != first.food.family
            else first.alternatives
        )
        return replace(
            first, alternatives=others, sure=first.sure and second.food.family == first.food.family
        )

    def _or_else(self, found: Match | NoMatch, told: str, parts: _Parts) -> Match | NoMatch:
        """ "Water (or broth)", "pineapple, diced (or canned)": the other is offered, and the line
        asks.
        """
        if not told.startswith("or ") or not isinstance(found, Match) or found.clashes:
            return found
        for phrase in (told[3:], f"{told[3:]} {parts.phrase}"):
            other = self._match_words(phrase, replace(parts, notes="", brackets=()))
            read = isinstance(other, Match) and not other.clashes and not other.not_understood
            if isinstance(other, Match) and read and other.food.key != found.food.key:
                return replace(found, alternatives=(other.food, *found.alternatives), sure=False)
        return replace(found, sure=False) if _OTHER_STATE.search(told) else found

    def _with_bracket(self, found: Match | NoMatch, inside: str, parts: _Parts) -> Match | NoMatch:
        """Another name in brackets: "hing (asafoetida)" is read by it, "rice (cauliflower)"
        asks.
        """
        if _SYNONYM_IN_BRACKETS.search(inside):
            return found
        names = self.names.denying(denials_of(parts.denied))
        other = match_name_in_brackets(inside, parts.phrase, parts.notes, names)
        if not isinstance(other, Match) or other.clashes or other.not_understood:
            return found
        if isinstance(found, NoMatch) and not found.reason:
            return replace(other, honoured=(*other.honoured, *words_of(parts.phrase)))
        if isinstance(found, NoMatch) or found.clashes:
            return found
        if other.food.family != found.food.family and other.food.key != "water":
            return replace(found, alternatives=(other.food, *found.alternatives), sure=False)
        return found

    def _usual(self, found: Match | NoMatch) -> Match | NoMatch:
        """The practitioner's usual row for a bare name: "salt", not "sea salt"."""
        if (
            isinstance(found, Match)
            and found.food.key in self.usual
            and set(found.honoured) <= BARE_WORDS
        ):
            food = self.shelf.food(self.usual[found.food.key])
            return replace(
                found, food=food, remarks=(*found.remarks, f"{food.name} is your usual choice")
            )
        return found

    def _weigh(
        self, written: str, parts: _Parts, match: Match, own: Remembered | None
    ) -> LineReading:
        food = match.food
        base = LineReading(
            written,
            food,
            remarks=match.remarks,
            not_understood=match.not_understood,
            honoured=match.honoured,
            neutral=match.neutral,
        )
        if parts.amount is None:
            return self._without_amount(base, food, parts)
        amount = _with_trailing_unit(parts.amount, parts.phrase, food)
        amount = _sized_by_name(amount, parts.phrase)
        cut = next(
            (
                CUT_WORDS[w]
                for w in re.findall(r"[a-z]+", f"{parts.phrase} {parts.notes}".lower())
                if w in CUT_WORDS
            ),
            "",
        )
        if not cut and re.search(r"\bhalves\b", parts.phrase, re.IGNORECASE):
            cut = "halves"
        try:
            weight = self._remembered_weight(amount, own) or self._stated_or_measured(
                amount, parts, food, cut
            )
        except DieteticsError as error:
            return replace(base, reason=str(error))
        return self._finished(base, parts, match, amount, weight)

    def _without_amount(self, base: LineReading, food: Food, parts: _Parts) -> LineReading:
        if self.usual_salt_tsp and food.family in SALT_FAMILIES:
            grams = self.usual_salt_tsp * _teaspoon_g(food)
            how = f"no amount written: {self.usual_salt_tsp:g} tsp, as set for this practice"
            return replace(
                base, grams=grams, grams_low=grams, grams_high=grams, confidence="fair", how=how
            )
        seasoning = _seasoning_g(food, parts.some, base.text)
        if seasoning is not None:
            least, most = seasoning
            how = (
                f"no amount written: at least {least:g} g counts, up to {most:g} g may be meant "
                "(common practice)"
            )
            return replace(
                base,
                grams=least,
                grams_low=least,
                grams_high=most,
                confidence="low",
                how=how,
                is_unmeasured_seasoning=True,
            )
        if parts.some:
            low, likely, high = SOME_G.get(food.group, SOME_OTHER_G)
            how = (
                "“some”: a small amount for this kind of food is assumed, with a wide range "
                "(common practice)"
            )
            return replace(
                base, grams=likely, grams_low=low, grams_high=high, confidence="low", how=how
            )
        if food.key == WATER:
            low, likely, high = WATER_G
            how = (
                "no amount written: a splash of water is assumed, up to half a cup (common "
                "practice); it changes the weight only"
            )
            return replace(
                base, grams=likely, grams_low=low, grams_high=high, confidence="low", how=how
            )
        return replace(base, reason=f"no amount is written for {food.name}")

    def _remembered_weight(self, amount: Amount, own: Remembered | None) -> Weight | None:
        if own is None or own.grams_per_unit is None or len(amount.terms) != 1:
            return None
        term = amount.terms[0]
        if (term.unit.key if term.unit else "piece") != own.unit:
            return None
        grams = own.grams_per_unit
        low, likely, high = (
            float(q) * grams for q in (term.quantity.low, term.quantity.likely, term.quantity.high)
        )
        return checked(
            Weight(low, likely, high, f"your own {own.unit} of {grams:g} g", "practitioner"),
            own.unit,
        )

    def _stated_or_measured(self, amount: Amount, parts: _Parts, food: Food, cut: str) -> Weight:
        if parts.stated is None:
            weight = _packed(self.scales.weigh(amount, food, cut), amount, parts, food)
            return _without_stems(weight, amount, parts, food)
        return weight_as_stated(parts.stated, amount, food, self.scales, cut)

    def _finished(
        self, base: LineReading, parts: _Parts, match: Match, amount: Amount, weight: Weight
    ) -> LineReading:
        food = match.food
        alternatives, weight = self._ounce_meanings(amount, parts, food, weight)
        for other in match.alternatives:
            try:
                grams = self._stated_or_measured(amount, parts, other, "").grams
            except DieteticsError:
                continue
            alternatives.append(Alternative(other, grams, f"if {other.name.lower()} is meant"))
        term = amount.terms[0]
        if match.later and term.unit is not None and term.unit.kind in ("mass", "volume"):
            match = replace(match, sure=False)  # 200 g before it or after it: the water differs
        if _net_weight_with_liquid(amount, parts, food):
            match = replace(match, sure=False)
            base = replace(
                base,
                remarks=(
                    *base.remarks,
                    "the net weight includes its oil or liquid: weigh it drained",
                ),
            )
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
        if (
            not plain
            or "weight" in parts.phrase.lower()
            or not any(m.unit == "cup" for m in food.measures)
        ):
            return [], weight
        other = self.scales.gram_alternatives(term, food)
        if other is None or food.state in ("raw", "dry", "as-sold", "label") and not _liquid(food):
            return [], weight
        if _liquid(food):
            weight, other = other, weight
        note = (
            "if ounces by weight are meant"
            if _liquid(food)
            else "if fluid ounces (by volume) are meant"
        )
        both = replace(
            weight,
            low=min(weight.low, other.grams),
            high=max(weight.high, other.grams),
            how=f"{weight.how}, {'by volume' if _liquid(food) else 'by weight'}",
        )
        return [Alternative(food, other.grams, note)], both


def _teaspoon_g(salt: Food) -> float:
    """Grams of a teaspoon of a salt, by its own measure."""
    return next((m.grams for m in salt.measures if m.unit == "tsp"), TABLE_SALT_TSP_G)


def _seasoning_g(food: Food, is_some: bool, line: str) -> tuple[float, float] | None:
    """Least and most grams of a seasoning without an amount; None for what is none, and for fresh
    ones that a line names without "some".
    """
    if food.key in SQUEEZED and _AT_THE_TABLE.search(line.lower()):
        return WEDGES_G
    if food.family in SALT_FAMILIES:
        return A_LITTLE_SALT_G if is_some else SALT_G
    fresh = food.family in AROMATICS or food.group == "herb-spice" and food.state == "raw"
    if fresh and is_some:
        return A_LITTLE_FRESH_G
    if food.group == "herb-spice" and fresh:
        return GARNISH_G
    if food.group == "herb-spice":
        return A_LITTLE_SPICE_G if is_some and not fresh else SPICE_G
    return None


def _packed(weight: Weight, amount: Amount, parts: _Parts, food: Food) -> Weight:
    """Leaves packed into a cup or a spoon weigh up to twice what they weigh loose."""
    unit = amount.terms[0].unit
    said = re.search(
        r"(?<!loosely )(?<!lightly )\bpacked\b(?! in\b)", f"{parts.phrase} {parts.notes}"
    )
    leaves = food.group == "leafy-green" or food.group == "herb-spice" and food.state == "raw"
    if not said or not leaves or unit is None or unit.kind != "volume":
        return weight
    how = f"{weight.how}, packed: up to twice as much (common practice)"
    return Weight(weight.low, weight.grams * PACKED, weight.high * 2, how, weight.mark)


def _without_stems(weight: Weight, amount: Amount, parts: _Parts, food: Food) -> Weight:
    """A bunch is weighed as bought: "stems removed" leaves its edible share."""
    unit = amount.terms[0].unit
    said = re.search(
        r"\b(?:stems?|stalks?|ribs?)\b[\w ]*\b(?:removed|discarded|off)\b",
        f"{parts.phrase} {parts.notes}",
        re.IGNORECASE,
    )
    if not said or unit is None or unit.key not in ("bunch", "head") or not food.edible_share:
        return weight
    share = food.edible_share
    how = f"{weight.how} × {share:.0%} without stems"
    return Weight(weight.low * share, weight.grams * share, weight.high * share, how, weight.mark)


def _net_weight_with_liquid(amount: Amount, parts: _Parts, food: Food) -> bool:
    """True for "1 jar (6 oz) artichokes in oil, drained": what is left of the jar's weight is not
    known.
    """
    term = amount.terms[0]
    contained = (
        term.unit is not None and term.unit.kind == "container" and (term.container or parts.stated)
    )
    drained = re.search(r"\bdrained\b", f"{parts.phrase} {parts.notes}", re.IGNORECASE)
    in_jar = term.unit is not None and term.unit.key == "jar" and food.state == "canned-drained"
    return bool(contained and drained and ("in-oil" in food.tags or in_jar))


def _is_of_it(told: str) -> bool:
    """True for words behind a food that tell of it; not for "(or canned)", another than it."""
    return bool(told) and not told.startswith("or ")


def _leaves_open(text: str) -> bool:
    """True for "white or brown" and "fresh or dried": the writer leaves it to the cook which food
    it is.
    """
    pairs = re.findall(r"\b([a-z]+) or ([a-z]+)\b", text.lower())
    return any(one in KIND_WORDS and other in KIND_WORDS for one, other in pairs)


def _words_between(phrase: str) -> set[str]:
    """The words of a phrase that stand behind an "and"."""
    return set(words_of(re.split(r"\band\b|&", phrase)[-1]))


def _liquid(food: Food) -> bool:
    return food.group in _LIQUIDS or food.key in _LIQUID_FOODS


def _confidence(match: Match, weight: Weight, alternatives: Sequence[Alternative]) -> str:
    if alternatives or not match.sure:
        return ASK
    span = (weight.high - weight.low) / weight.grams if weight.grams else 1.0
    if span > 0.5:
        return "low"
    doubtful = match.not_understood or match.corrected or match.assumed
    return "high" if span <= 0.2 and not doubtful else "fair"


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


def _sized_by_name(amount: Amount, phrase: str) -> Amount:
    """ "3 mini cucumbers", "1 Persian cucumber": the name says the size of a piece."""
    term = amount.terms[0]
    counted = term.unit is None or term.unit.key in ("piece", "head")
    if (
        not term.size
        and counted
        and re.search(r"\b(?:mini|baby|persian|lebanese)\b", phrase, re.IGNORECASE)
    ):
        return replace(amount, terms=(replace(term, size="small"), *amount.terms[1:]))
    return amount


def _take_apart(tokens: list[Token]) -> _Parts:
    amount = read_amount(tokens)
    some = amount is None and tokens[0].lower in ("some", "few")
    if (
        amount is not None
        and amount.terms[0].unit is None
        and tokens[0].lower in ("some", "a")
        and _is_some(tokens)
    ):
        amount, some = None, True
    rest = (
        tokens[amount.taken :]
        if amount
        else [t for t in tokens if not some or t.lower not in ("some", "of")]
    )
    each = bool(amount) and bool(rest) and rest[0].lower == "each"
    if each:
        rest = rest[1:]
        rest = rest[1:] if rest and rest[0].lower == "of" else rest
    if amount is None and not some:
        amount, rest = _trailing_amount(tokens)
    parts = _worded(amount, rest)
    parts = replace(parts, amount=_juiced(parts))
    if some and (found := _amount_in_notes(parts.notes)) is not None:
        return replace(parts, amount=found)
    return replace(parts, each=each, some=some)


def _juiced(parts: _Parts) -> Amount | None:
    """ "2 limes, juiced" and "a squeeze of lemon" are of the juice."""
    amount = parts.amount
    if amount is None or amount.part:
        return amount
    unit = amount.terms[0].unit
    counted = unit is None or unit.key == "piece"
    behind = (parts.notes, *parts.brackets)
    juiced = re.search(r"\bjuiced\b", f"{parts.phrase} {parts.notes}", re.IGNORECASE)
    if counted and (juiced or any(_JUICE_ALONE.fullmatch(text.strip(" ,")) for text in behind)):
        return replace(amount, part="juice")
    return replace(amount, part="juice") if unit is not None and unit.key == "squeeze" else amount


def _is_some(tokens: Sequence[Token]) -> bool:
    """ "some parsley" and "a little lettuce" name no number; "a few dates" counts three."""
    words = [t.lower for t in tokens[:2]]
    return words[0] == "some" or words == ["a", "little"]


def _amount_in_notes(notes: str) -> Amount | None:
    """ "a bit of maple syrup, maybe a teaspoon": the amount stands behind the comma."""
    tokens = tokenise(clean(plain_line(notes))) if notes else []
    found = read_amount(tokens) if tokens else None
    return found if found is not None and found.terms[0].unit is not None else None


def _worded(amount: Amount | None, rest: Sequence[Token]) -> _Parts:
    """The words behind an amount: those that name the food, those behind a comma, and what stands
    in brackets.
    """
    phrase: list[str] = []
    notes: list[str] = []
    brackets: list[str] = []
    stated: Stated | None = None
    target, position = phrase, 0
    while position < len(rest):
        token = rest[position]
        if token.text in "([":
            close = next((i for i in range(position, len(rest)) if rest[i].text in ")]"), len(rest))
            inside = rest[position + 1 : close]
            weight = read_stated(inside) if stated is None else None
            if weight is not None:
                stated = weight
            else:
                brackets.append(" ".join(t.text for t in inside))
            position = close + 1
            continue
        if token.text in ",;:" or (token.text == "-" and not token.glued):
            if notes:
                notes.append(",")
            target = notes
        elif token.kind in ("word", "number", "fraction") or token.text in "%&-":
            target.append(token.text)
        position += 1
    if not phrase:
        phrase, notes = notes, []
    return _Parts(amount, _joined(phrase), _joined(notes), stated, tuple(brackets))


def _joined(words: Sequence[str]) -> str:
    """Words with single spaces, hyphens close: "no - salt - added" is "no-salt-added"."""
    return re.sub(r"\s*-\s*", "-", " ".join(words)).strip(" -")


def _trailing_amount(tokens: list[Token]) -> tuple[Amount | None, list[Token]]:
    """ "Quinoa, dry, 200 g", "chickpeas: ½ cup cooked", "rice (cooked) 150g": the amount stands
    behind the food.
    """
    for start in range(1, len(tokens)):
        if tokens[start].value is None:
            continue
        found = read_amount(tokens[start:])
        if found is None:
            continue
        to_the_end = found.taken == len(tokens) - start
        parted = tokens[start - 1].text in (":", "-", ",", ")", "–")
        if found.terms[0].unit is None and not (to_the_end and parted):
            continue
        if to_the_end or parted:
            before = tokens[:start]
            while before and before[-1].text in (":", "-", ",", "–"):
                before = before[:-1]
            return found, [*before, *tokens[start + found.taken :]]
    return None, tokens


def phrase_and_unit(text: str) -> tuple[str, str, float]:
    """The phrase a line names its food by, the unit of its amount and how many: what a correction
    is kept under.
    """
    tokens = tokenise(clean(plain_line(readable(text.strip()[:MAX_LINE]))))
    if not tokens:
        return "", "", 0.0
    parts = _take_apart(tokens)
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
