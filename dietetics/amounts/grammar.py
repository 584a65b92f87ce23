"""The grammar of written amounts, in parser combinators over tokens.

Reads "2 x 400 g tins", "3 tbsp plus 1 tsp", "1 (14 oz) block", "3-4 cloves", "half a small
cabbage", "scant 1/2 tsp", "juice of half a lemon" and "a few" into an `Amount`; what follows is the
food.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction
from functools import lru_cache
from typing import Any

from parsy import ParseError, Parser, Result, alt, generate, seq, success, test_item

from dietetics.amounts.number_words import ARTICLES, FRACTIONS, WHOLE
from dietetics.amounts.tokens import Token, forget_tokens
from dietetics.amounts.units import CASED, LEVELS, SIZES, TWO_WORDS, UNITS, WORDS, Unit

NUMBER_WORDS = {**WHOLE, **ARTICLES, "dozen": 12}
VAGUE_COUNTS = {"few": (2, 3, 4), "couple": (2, 2, 3), "several": (4, 5, 7), "some": (1, 2, 4)}
PARTS_OF_FRUIT = {"juice", "zest", "rind", "peel"}
ABOUT = {"about", "approx", "approximately", "around", "roughly", "circa", "ca", "nearly", "almost"}


@dataclass(frozen=True)
class Quantity:
    """A number as written, with its honest span. `rough` when the writer said "about"."""

    low: Fraction
    likely: Fraction
    high: Fraction
    rough: bool = False

    @classmethod
    def of(cls, value: Fraction | int) -> Quantity:
        """An exact number."""
        number = Fraction(value)
        return cls(number, number, number)

    def times(self, factor: Fraction) -> Quantity:
        """The quantity multiplied."""
        return Quantity(self.low * factor, self.likely * factor, self.high * factor, self.rough)


@dataclass(frozen=True)
class Term:
    """One measured piece of an amount: how many, of what size and level, in which unit, of which
    container.

    `container` is the stated content of one unit: 400 g in "2 x 400 g tins".
    """

    quantity: Quantity
    unit: Unit | None = None
    size: str = ""
    levels: tuple[str, ...] = ()
    container: Term | None = None


@dataclass(frozen=True)
class Amount:
    """A written amount: a sum of terms. `part` is "juice" or "zest" where the writer asked for that
    of a fruit.
    """

    terms: tuple[Term, ...]
    part: str = ""
    taken: int = 0


class Stream(list[Token]):
    """The tokens of one line, with what parsers that are tried again at the same place found there
    before.
    """

    def __init__(self, tokens: Sequence[Token]) -> None:
        super().__init__(tokens)
        self.found: dict[tuple[str, int], Any] = {}
        words = {token.lower for token in tokens}
        self.holds_container = any(
            (found := WORDS.get(word)) is not None and found.kind == "container" for word in words
        )
        self.holds_times = "x" in words or any(token.text == "*" for token in tokens)
        self.holds_part = bool(words & PARTS_OF_FRUIT)
        self.holds_vague = not words.isdisjoint(VAGUE_COUNTS)
        self.holds_dozen = "dozen" in words
        self.holds_part_word = not words.isdisjoint(FRACTIONS)
        self.holds_fraction = self.holds_part_word or any(
            token.kind == "fraction" for token in tokens
        )
        self.holds_span = not words.isdisjoint(("to", "or")) or any(
            token.text == "-" for token in tokens
        )


def remembered(name: str, parser: Parser) -> Parser:
    """The same parser, which looks at each place of a line once."""

    def parse(stream: Stream, index: int) -> Any:
        key = (name, index)
        if key not in stream.found:
            stream.found[key] = parser(stream, index)
        return stream.found[key]

    return Parser(parse)


def only_where(holds: Callable[[Stream], bool], parser: Parser) -> Parser:
    """The same parser, tried only on a line that holds what it cannot do without."""

    def parse(stream: Stream, index: int) -> Any:
        return parser(stream, index) if holds(stream) else Result.failure(index, frozenset())

    return Parser(parse)


def _item(check: Callable[[Token], bool], name: str) -> Parser:
    return test_item(check, name)


def _word(*words: str) -> Parser:
    wanted = set(words)
    return _item(lambda t: t.kind == "word" and t.lower in wanted, "/".join(words))


def _sign(*signs: str) -> Parser:
    return _item(lambda t: t.text in signs, "/".join(signs))


NUMERAL = _item(lambda t: t.kind == "number", "a number").map(lambda t: t.value)
FRACTION = _item(lambda t: t.kind == "fraction", "a fraction").map(lambda t: t.value)
NUMBER_WORD = _item(lambda t: t.kind == "word" and t.lower in NUMBER_WORDS, "a number word").map(
    lambda t: Fraction(NUMBER_WORDS[t.lower])
)
FRACTION_WORD = _item(lambda t: t.kind == "word" and t.lower in FRACTIONS, "a part").map(
    lambda t: FRACTIONS[t.lower]
)
ARTICLE = _word("a", "an", "the", "one")
OF = _word("of")


@generate
def half_of_something() -> Any:
    """ "half a", "half of the", "a quarter of an", "three quarters of a", "half a dozen"."""
    top = yield (NUMERAL | NUMBER_WORD).optional()
    part = yield FRACTION_WORD
    yield OF.optional()
    article = yield ARTICLE.optional()
    dozen = yield _word("dozen").optional() if article is not None else success(None)
    return part * (top if top is not None else 1) * (12 if dozen is not None else 1)


@generate
def mixed_number() -> Any:
    """ "1 1/2", "one and a half", "1 and 1/2"."""
    whole = yield NUMERAL | NUMBER_WORD
    part = yield alt(
        FRACTION,
        seq(_word("and", "&") | _sign("&"), ARTICLE.optional(), FRACTION | FRACTION_WORD).combine(
            lambda *p: p[-1]
        ),
    )
    return whole + part


VAGUE_COUNT = (
    seq(_word("a").optional(), _item(lambda t: t.lower in VAGUE_COUNTS, "few"), OF.optional())
    .combine(lambda _a, t, _o: VAGUE_COUNTS[t.lower])
    .map(lambda c: Quantity(Fraction(c[0]), Fraction(c[1]), Fraction(c[2]), True))
)
DOZEN = seq((NUMERAL | NUMBER_WORD).optional(), _word("dozen"), OF.optional()).combine(
    lambda n, _d, _o: (n if n is not None else Fraction(1)) * 12
)
NUMBER = remembered(
    "number",
    alt(
        only_where(lambda s: s.holds_fraction, mixed_number),
        only_where(lambda s: s.holds_dozen, DOZEN),
        only_where(lambda s: s.holds_part_word, half_of_something),
        FRACTION,
        NUMERAL,
        NUMBER_WORD,
    ),
)


@generate
def span() -> Any:
    """ "3-4", "2 to 3", "1 or 2": low and high as written, their middle as likely. A reversed span
    is turned round.
    """
    first = yield NUMBER
    yield _sign("-") | _word("to", "or")
    second = yield NUMBER
    low, high = sorted((first, second))
    return Quantity(low, (low + high) / 2, high)


@generate
def _quantity() -> Any:
    """A number with its span, "about" noted."""
    rough = yield _item(lambda t: t.lower in ABOUT or t.text == "~", "about").many()
    value = yield alt(
        only_where(lambda s: s.holds_vague, VAGUE_COUNT),
        only_where(lambda s: s.holds_span, span),
        NUMBER.map(Quantity.of),
    )
    return replace(value, rough=value.rough or bool(rough))


quantity = remembered("quantity", _quantity)


def _unit_at(stream: Sequence[Token], index: int) -> tuple[Unit, int] | None:
    if index >= len(stream) or stream[index].kind != "word":
        return None
    token = stream[index]
    if index + 1 < len(stream):
        pair = TWO_WORDS.get((token.lower, stream[index + 1].lower))
        if pair is not None:
            return pair, index + 2
    bare = token.text.rstrip(".")
    found = CASED.get(bare) or WORDS.get(token.lower)
    return (found, index + 1) if found is not None else None


@Parser
def unit(stream: Sequence[Token], index: int) -> Any:
    """A unit word or pair of words; capitals matter for T and t alone."""
    found = _unit_at(stream, index)
    if found is None:
        return Result.failure(index, frozenset({"a unit"}))
    return Result.success(found[1], found[0])


LEVEL = _item(lambda t: t.lower in LEVELS, "a level").map(lambda t: t.lower)
SIZE = _item(lambda t: t.lower in SIZES, "a size").map(lambda t: SIZES[t.lower])
TIMES = _word("x") | _sign("*")
HYPHEN = _sign("-").optional()


@generate
def _content() -> Any:
    """What one container holds, without brackets: "400 g", "14-oz"."""
    size = yield quantity
    yield HYPHEN
    in_unit = yield unit
    if in_unit.kind not in ("mass", "volume"):
        yield Parser(lambda _s, i: Result.failure(i, frozenset({"a weight or volume"})))
    return Term(size, in_unit)


content = remembered("content", _content)
BRACKETED_CONTENT = seq(_sign("("), content, _word("each").optional(), _sign(")")).combine(
    lambda _a, c, _e, _b: c
)


def _container_unit(stream: Sequence[Token], index: int) -> Result:
    found = _unit_at(stream, index)
    if found is None or found[0].kind != "container":
        return Result.failure(index, frozenset({"a container"}))
    return Result.success(found[1], found[0])


CONTAINER = Parser(_container_unit)


@generate
def packaged() -> Any:
    """ "2 x 400 g tins", "1 (14 oz) block", "1 14-oz can", "a 400g tin"; what stands in brackets
    behind the container ("½ block (7 oz)") may be of all of them: `stated_weight` decides.
    """
    count = yield quantity
    yield TIMES.optional()
    size = yield SIZE.optional(default="")
    inner = yield BRACKETED_CONTENT | content
    unit_word = yield CONTAINER
    yield OF.optional()
    return Term(count, unit_word, size, (), inner)


@generate
def weighed_container() -> Any:
    """ "400g tin of tomatoes": one container whose content is written first."""
    inner = yield content
    unit_word = yield CONTAINER
    yield OF.optional()
    return Term(Quantity.of(1), unit_word, "", (), inner)


@generate
def multiplied() -> Any:
    """ "7 x 1 cup", "2 x 30 g": a count of equal measures."""
    count = yield quantity
    yield TIMES
    inner = yield measured
    return replace(
        inner,
        quantity=Quantity(
            inner.quantity.low * count.low,
            inner.quantity.likely * count.likely,
            inner.quantity.high * count.high,
            count.rough or inner.quantity.rough,
        ),
    )


@generate
def measured() -> Any:
    """ "2 heaped Tbsp", "scant 1/2 tsp", "1 large", "3 cloves of", "5"."""
    article, before = yield seq(ARTICLE.optional(), LEVEL.at_least(1)).optional(default=(None, []))
    number = yield quantity if article is None else quantity.optional(default=Quantity.of(1))
    levels = yield LEVEL.many()
    size = yield SIZE.optional(default="")
    more = yield LEVEL.many()
    yield HYPHEN if size == "" else success(None)
    unit_word = yield unit.optional()
    after = yield LEVEL.many()
    yield OF.optional()
    if size and "big" in levels and unit_word is not None:
        size = ""
    return Term(number, unit_word, size, (*before, *levels, *more, *after))


@generate
def bare_unit() -> Any:
    """A unit without a number: "handful flat leaf parsley", "splash rice vinegar"."""
    levels = yield LEVEL.many()
    size = yield SIZE.optional(default="")
    unit_word = yield unit
    countless = unit_word.kind in ("vague", "container") or unit_word.key in (
        "bunch",
        "sprig",
        "bulb",
        "thumb",
    )
    if not countless and not (levels and unit_word.kind == "volume"):
        yield Parser(lambda _s, i: Result.failure(i, frozenset({"a number"})))
    yield OF.optional()
    return Term(Quantity.of(1), unit_word, size, tuple(levels))


TERM = alt(
    only_where(lambda s: s.holds_container, packaged),
    only_where(lambda s: s.holds_container, weighed_container),
    only_where(lambda s: s.holds_times, multiplied),
    measured,
    bare_unit,
)


@generate
def term_with_unit() -> Any:
    """A further term of a sum must name its unit, or "1 cup and 2 carrots" would be one amount."""
    term = yield TERM
    if term.unit is None:
        yield Parser(lambda _s, i: Result.failure(i, frozenset({"a unit"})))
    return term


PLUS = _sign("+", "&") | _word("plus", "and")


@generate
def amount_sum() -> Any:
    """One term, or terms with units added up: "3 tablespoons plus 1 teaspoon"."""
    first = yield TERM
    rest = yield (PLUS >> term_with_unit).many() if first.unit is not None else success([])
    return (first, *rest)


@generate
def part_of_fruit() -> Any:
    """ "juice of 2 limes", "zest of half a lemon", "juice from 1 orange"."""
    yield _word("finely", "freshly", "grated", "squeezed", "pared", "the", "strained").many()
    part = yield _word("juice", "zest", "rind", "peel")
    second = yield (
        seq(_word("and") | _sign("&"), _word("juice", "zest", "rind", "peel"))
    ).optional()
    yield _word("of", "from")
    number = yield quantity.optional(default=Quantity.of(1))
    size = yield SIZE.optional(default="")
    name = "juice" if part.lower == "juice" or (second and second[1].lower == "juice") else "zest"
    return Amount((Term(number, UNITS["piece"], size),), name)


AMOUNT = alt(only_where(lambda s: s.holds_part, part_of_fruit), amount_sum.map(Amount))


def read_amount(tokens: Sequence[Token]) -> Amount | None:
    """Return the amount at the head of `tokens` with the number of tokens it took, or None."""
    return _read_amount(tuple(tokens))


def forget_amounts() -> None:
    """Drop what was kept, so that a measurement reads anew."""
    _read_amount.cache_clear()
    forget_tokens()


# Words an amount can begin with, and words and signs by which a plain one ("2 cups", "3") goes on.
_BEGINS = frozenset(
    {
        *NUMBER_WORDS,
        *FRACTIONS,
        *VAGUE_COUNTS,
        *ABOUT,
        *LEVELS,
        *SIZES,
        *WORDS,
        *(first for first, _ in TWO_WORDS),
    }
    | PARTS_OF_FRUIT
    | {"finely", "freshly", "grated", "squeezed", "pared", "the", "strained", "dozen"}
)
_GOES_ON = _BEGINS | {"x", "to", "or", "and", "plus", "of", "each"}


def plain_amount(tokens: Sequence[Token]) -> Amount | None:
    """The usual amounts read at once: "2 cups …", "1 1/2 tsp …", "a can …", "3 …".

    Gives what the grammar gives for them, without trying its other rules. None for anything more.
    """
    if not tokens:
        return None
    first, at = tokens[0], 1
    if first.kind == "word" and first.lower in NUMBER_WORDS and first.lower != "dozen":
        value = Fraction(NUMBER_WORDS[first.lower])
    elif first.kind in ("number", "fraction") and first.value is not None:
        value = first.value
    else:
        return None
    second = tokens[1] if len(tokens) > 1 else None
    if (
        first.kind != "fraction"
        and second is not None
        and second.kind == "fraction"
        and second.value is not None
    ):
        value, at = value + second.value, 2
    if at >= len(tokens) or tokens[at].kind != "word":
        return None
    if tokens[at].lower in SIZES and at + 1 < len(tokens) and _is_name(tokens[at + 1]):
        return Amount((Term(Quantity.of(value), None, SIZES[tokens[at].lower], ()),), "", at + 1)
    found = _unit_at(tokens, at)
    if found is None:
        return (
            Amount((Term(Quantity.of(value), None, "", ()),), "", at)
            if _is_name(tokens[at])
            else None
        )
    unit_word, end = found
    if (
        end < len(tokens)
        and tokens[end].text != ","
        and (tokens[end].kind != "word" or tokens[end].lower in _GOES_ON)
    ):
        return None
    return Amount((Term(Quantity.of(value), unit_word, "", ()),), "", end)


def _is_name(token: Token) -> bool:
    """True for a word that no amount goes on with: the food is named from here."""
    return (
        token.kind == "word" and token.lower not in _GOES_ON and token.text.rstrip(".") not in CASED
    )


@lru_cache(maxsize=4096)
def _read_amount(tokens: tuple[Token, ...]) -> Amount | None:
    """By the plain reading where it is enough, else by the whole grammar; a line is read at several
    places, so it is kept.
    """
    first = tokens[0] if tokens else None
    if (
        first is None
        or first.kind == "word"
        and first.lower not in _BEGINS
        and first.text.rstrip(".") not in CASED
    ):
        return None
    return plain_amount(tokens) or by_grammar(tokens)


def by_grammar(tokens: Sequence[Token]) -> Amount | None:
    """The amount by the whole grammar."""
    found: Amount
    try:
        found, rest = AMOUNT.parse_partial(Stream(tokens))
    except ParseError:
        return None
    return replace(found, taken=len(tokens) - len(rest))


@generate
def _stated() -> Any:
    yield (
        _word(
            "about",
            "approx",
            "approximately",
            "roughly",
            "total",
            "each",
            "weight",
            "weighing",
            "weighs",
            "drained",
            "net",
            "is",
            "are",
        )
        | unit
        | _sign("=", ":", "~")
    ).many()
    term = yield content
    tail = yield (_word("each", "total", "drained", "net", "weight", "apiece", "per") | unit).many()
    each = any(getattr(t, "lower", "") in ("each", "apiece", "per") for t in tail)
    return term, each


def read_stated_weight(tokens: Sequence[Token]) -> tuple[Term, bool] | None:
    """Read the inside of a bracket that states a weight or volume: "about 5 oz", "block is 280 g",
    "80g each".

    Returns (the stated term, whether it is for each piece), or None when the bracket says something
    else.
    """
    try:
        found, rest = _stated.parse_partial(Stream(tokens))
    except ParseError:
        return None
    if rest and not (rest[0].kind == "sign" or all(t.kind == "word" for t in rest)):
        return None
    term, each = found
    return term, bool(each)
