"""What a recipe says it gives: servings, a yield that was weighed, the size of a serving.

"Serves 4", "for 4 people", "enough for four as a main", "Yield: 2 jars", "makes five heaping
half-cup servings". A claim gives way to a count; where nothing is written there are no servings,
and nobody is told "one".
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass, replace

from dietetics.amounts.grammar import Term, read_amount
from dietetics.amounts.number_words import ONE_OF_WHOLE, WHOLE
from dietetics.amounts.tokens import Token, clean, tokenise
from dietetics.amounts.units import Household, millilitres

_YIELD_WORDS = {"weighed", "weighs", "weighing", "yield", "yields", "yielded", "weight"}
_SERVE_WORDS = {"serves", "servings", "serve", "feeds", "portions", "for"}
_MAKE_WORDS = {"makes", "make", "made", "yield", "yields", "gives"}
_FILL_WORDS = {"filled", "fills", "fill"}
_COUNT_WORDS = {"servings", "portions", "mornings", "people", "helpings"}
_TELLING_WORDS = (
    _YIELD_WORDS | _SERVE_WORDS | _MAKE_WORDS | _FILL_WORDS | _COUNT_WORDS | {"serving"}
)
_PEOPLE = {"people", "persons", "person", "adults", "eaters", "hungry"}
# A thing of which one is a serving unless somebody says otherwise: said as a remark.
_THINGS = {
    "jar", "ball", "patty", "pattie", "piece", "muffin", "bar", "burger", "fritter", "cookie",
    "biscuit", "pancake", "wrap", "roll",
    "loaf", "slice", "cake", "tart", "pizza", "bottle", "falafel", "dumpling", "taco", "burrito",
    "cracker", "scone", "truffle",
    "bite", "square", "popsicle", "glass", "jug", "batch", "log", "round", "flatbread", "tortilla",
    "bun", "cup",
}  # fmt: skip
_SERVINGS = {
    "serving",
    "portion",
    "pot",
    "bowl",
    "morning",
    "meal",
    "helping",
    "plate",
    "lunch",
    "dinner",
    "breakfast",
} | _PEOPLE
_FILLER = {
    "about",
    "around",
    "of",
    "up",
    "is",
    "was",
    "the",
    "roughly",
    "approximately",
    "approx",
    "to",
    "enough",
    "for",
    "size",
}
TELLING = re.compile(rf"\b(?:{'|'.join(sorted(_TELLING_WORDS))})\b", re.IGNORECASE)
_SPOKEN_RANGE = re.compile(
    rf"\b(?P<low>{ONE_OF_WHOLE}|\d+),? (?:maybe|perhaps|or maybe|or perhaps|or even|or|to) "
    rf"(?P<high>{ONE_OF_WHOLE}|\d+)\b",
    re.IGNORECASE,
)
_ENOUGH_FOR = re.compile(
    r"\b(?:enough|dinner|lunch|breakfast|supper|a meal|plenty) for (?=[a-z\d])", re.IGNORECASE
)
_SIZED_SERVINGS = re.compile(
    r"^(?P<count>\S+)\s+(?P<level>heaping|heaped|level|generous|small|large"
    r"|scant)?\s*(?P<size>(?:\d|[½¼¾⅓⅔]|half|quarter|"
    r"third|a |one )"
    r"[\w /.½¼¾⅓⅔]*?)\s+(?:servings?|portions?|helpings?)\b",
    re.IGNORECASE,
)


@dataclass(frozen=True)
class StatedYield:
    """What a recipe says it gives. Grams are measured; volume in mL; `remarks` say what was chosen
    and why.

    `servings` is None where no number is written.
    """

    servings: float | None = None
    yield_g: float | None = None
    serving_ml: float | None = None
    serving_g: float | None = None
    volume_ml: float | None = None
    claimed: str = ""
    remarks: tuple[str, ...] = ()


def _spoken(text: str) -> str:
    """ "two, maybe three" as "2-3", "enough for four" as "for four", "half-cup" as "half cup"."""

    def span(found: re.Match[str]) -> str:
        low, high = (WHOLE.get(found[g].lower(), found[g]) for g in ("low", "high"))
        return f"{low}-{high}"

    plain = _SPOKEN_RANGE.sub(span, text)
    plain = re.sub(
        r"(\d|[½¼¾⅓⅔]|\b(?:half|quarter|third|one|two))-(cup|litre|liter|pint|oz|g|ml)\b",
        r"\1 \2",
        plain,
        flags=re.IGNORECASE,
    )
    return _ENOUGH_FOR.sub("for ", plain)


def stated_yield_of_title(
    title: str, before: StatedYield, household: Household
) -> tuple[str, StatedYield]:
    """A title without what it says of servings ("… (for 2 people)", "… serves 4"), and what that
    was.
    """
    for inside in re.findall(r"\(([^()]*)\)", title):
        found = read_stated_yield(inside, before, household, only_counts=True)
        if found is not None:
            return title.replace(f"({inside})", "").strip(), found
    behind = re.search(
        r"(?:[,–—-]\s*((?:serves|for|makes)\b.*)|\s((?:serves|makes)\s+\d.*))$",
        title,
        re.IGNORECASE,
    )
    if behind is not None:
        found = read_stated_yield(behind[1] or behind[2], before, household, only_counts=True)
        if found is not None:
            return title[: behind.start()].strip(), found
    makes, kept = before, []
    for sentence in re.split(r"(?<=[.!])\s+", title):
        found = read_stated_yield(sentence, makes, household, only_counts=True)
        makes = found if found is not None else makes
        if found is None or sentence == title:
            kept.append(sentence)
    return " ".join(kept).rstrip(".") if len(kept) < len(
        re.split(r"(?<=[.!])\s+", title)
    ) else title, makes


def read_stated_yield(
    text: str, before: StatedYield, household: Household, only_counts: bool = False
) -> StatedYield | None:
    """Read a line that says what a recipe gives, or return None when it says no such thing."""
    if TELLING.search(text) is None:
        return None
    makes, changed = before, False
    for clause in re.split(
        r"(?<=[a-z0-9])\.\s+(?=[A-Z])|[,;|·•](?=\s)|\bor so\b", clean(_spoken(text))
    ):
        tokens = [t for t in tokenise(clause) if t.text not in ":.="]
        for index, token in enumerate(tokens):
            read = _clause(tokens, index, token.lower, household)
            if read is not None:
                makes, changed = (
                    _merge(makes, read, clause.strip(), counted=token.lower in _FILL_WORDS),
                    True,
                )
                break
        if only_counts and changed:
            break
    return makes if changed else None


def _clause(
    tokens: Sequence[Token], index: int, word: str, household: Household
) -> StatedYield | None:
    """What one clause gives, read from the word that announces it."""
    if word not in _TELLING_WORDS:
        return None
    rest = list(tokens[index + 1 :])
    amount = read_amount(_without_filler(rest))
    term = amount.terms[0] if amount else None
    if word in _FILL_WORDS and term is not None:
        return _filled(_without_filler(rest), household)
    if (
        word in _YIELD_WORDS
        and term is not None
        and term.unit is not None
        and term.unit.kind == "mass"
    ):
        return StatedYield(yield_g=float(term.quantity.likely) * term.unit.worth)
    if word == "serving" and index == 0 and term is not None:
        return _serving_size(term, household)
    if word in _MAKE_WORDS and term is not None:
        return _made(term, _without_filler(rest), household)
    if (
        word in _SERVE_WORDS
        and term is not None
        and (term.unit is None or term.unit.key == "serving")
    ):
        return _served(tokens, index, term)
    if word in _COUNT_WORDS and index > 0:
        return _counted_before(tokens, index, household)
    return None


def _served(tokens: Sequence[Token], index: int, term: Term) -> StatedYield | None:
    """ "Serves 4", "for 4 people", "for two as a main"; "for 2 hours" is not a number of people."""
    word, rest = tokens[index].lower, _without_filler(tokens[index + 1 :])
    amount = read_amount(rest)
    behind = rest[amount.taken].lower if amount and amount.taken < len(rest) else ""
    if word == "for":
        eaters = _noun(behind) in _PEOPLE or _noun(behind) in _SERVINGS or behind in ("as", "")
        if not eaters or (index > 0 and not behind and index + 2 < len(tokens)):
            return None
    elif index > 1:
        return None
    return _counted(term, "")


def _without_filler(tokens: Sequence[Token]) -> list[Token]:
    skip = 0
    while skip < len(tokens) and tokens[skip].lower in _FILLER:
        skip += 1
    return list(tokens[skip:])


def _claim(term: Term) -> str:
    low, high = float(term.quantity.low), float(term.quantity.high)
    return f"{low:g}–{high:g}" if low != high else ""


def _volume(term: Term, household: Household) -> float:
    return (
        float(term.quantity.likely) * millilitres(term.unit, household)
        if term.unit is not None
        else 0.0
    )


def _serving_size(term: Term, household: Household) -> StatedYield | None:
    if term.container is not None:
        return _serving_size(term.container, household)
    if term.unit is None:
        return None
    if term.unit.kind == "mass":
        return StatedYield(serving_g=float(term.quantity.likely) * term.unit.worth)
    volume = _volume(term, household)
    return StatedYield(serving_ml=volume) if volume else None


def _made(term: Term, rest: Sequence[Token], household: Household) -> StatedYield | None:
    """What is made: so many servings, things, grams or cups; "1 loaf (12 slices)" is twelve
    slices.
    """
    sized = _sized_servings(rest, household)
    if sized is not None:
        return sized
    inner = _in_brackets(rest)
    if inner is not None:
        return inner
    count = float(term.quantity.likely)
    if term.unit is None:
        amount = read_amount(rest)
        behind = [t.lower for t in rest[amount.taken : amount.taken + 4]] if amount else []
        noun = next((found for word in behind if (found := _noun(word))), "")
        return _counted(term, noun) if noun or not behind else None
    if (
        term.unit.key in ("serving", "bowl", "glass")
        or term.unit.singular in _THINGS
        and term.unit.kind in ("container", "count")
    ):
        return _counted(term, term.unit.singular if term.unit.singular in _THINGS else "serving")
    if term.unit.kind == "mass":
        return StatedYield(yield_g=count * term.unit.worth)
    volume = _volume(term, household)
    return StatedYield(volume_ml=volume) if volume else None


def _noun(word: str) -> str:
    """The thing or serving a word names, in the singular; empty for any other word."""
    for ending in ("", "s", "es"):
        one = word.removesuffix(ending) if ending else word
        if one in _THINGS or one in _SERVINGS:
            return one
    return word[:-3] + "y" if word.endswith("ies") and word[:-3] + "y" in _THINGS else ""


def _counted(term: Term, noun: str) -> StatedYield:
    thing = noun if noun in _THINGS else ""
    remarks = (f"one serving is assumed to be one {thing}",) if thing else ()
    return StatedYield(servings=float(term.quantity.likely), claimed=_claim(term), remarks=remarks)


def _sized_servings(rest: Sequence[Token], household: Household) -> StatedYield | None:
    """ "five heaping half cup servings": the count, and the size of one."""
    found = _SIZED_SERVINGS.match(" ".join(t.text for t in rest if t.text not in "()"))
    if found is None:
        return None
    count = read_amount(tokenise(found["count"]))
    size = read_amount(tokenise(f"{found['level'] or ''} {found['size']}".strip()))
    if count is None or size is None:
        return None
    made = StatedYield(
        servings=float(count.terms[0].quantity.likely), claimed=_claim(count.terms[0])
    )
    one = _serving_size(size.terms[0], household)
    return replace(made, serving_ml=one.serving_ml, serving_g=one.serving_g) if one else made


def _in_brackets(rest: Sequence[Token]) -> StatedYield | None:
    opened = next((i for i, t in enumerate(rest) if t.text == "("), None)
    if opened is None:
        return None
    inside = [t for t in rest[opened + 1 :] if t.text != ")"]
    amount = read_amount(inside)
    if (
        amount is None
        or amount.terms[0].unit is not None
        and amount.terms[0].unit.kind not in ("count", "container")
    ):
        return None
    unit = amount.terms[0].unit
    noun = (
        unit.singular
        if unit
        else next((n for t in inside[amount.taken : amount.taken + 2] if (n := _noun(t.lower))), "")
    )
    return _counted(amount.terms[0], noun) if noun in _THINGS or noun in _SERVINGS else None


def _counted_before(
    tokens: Sequence[Token], index: int, household: Household
) -> StatedYield | None:
    """ "about 10 servings of 2 tbsp": the count stands before the word, the size may stand after
    it.
    """
    before = _without_filler(tokens[:index])
    amount = read_amount(before)
    if amount is None or amount.taken != len(before):
        return None
    term = amount.terms[0]
    made = StatedYield(servings=float(term.quantity.likely), claimed=_claim(term))
    size = read_amount(_without_filler(tokens[index + 1 :]))
    inner = _serving_size(size.terms[0], household) if size else None
    return replace(made, serving_ml=inner.serving_ml, serving_g=inner.serving_g) if inner else made


def _filled(rest: Sequence[Token], household: Household) -> StatedYield | None:
    """ "filled 7 x 1 cup pots": seven servings of a cup were counted."""
    count = next((t.value for t in rest if t.value is not None), None)
    after = next((i for i, t in enumerate(rest) if t.lower == "x"), None)
    if count is None:
        return None
    inner = read_amount(rest[after + 1 :]) if after is not None else None
    size = _serving_size(inner.terms[0], household) if inner else None
    made = StatedYield(servings=float(count))
    return replace(made, serving_ml=size.serving_ml, serving_g=size.serving_g) if size else made


def _merge(before: StatedYield, read: StatedYield, clause: str, counted: bool) -> StatedYield:
    """Put what a clause says on top of what was read before; a count stands before a claim."""
    remarks = [*([] if counted else before.remarks), *read.remarks]
    servings, claimed = before.servings, before.claimed or read.claimed
    if read.servings is not None:
        if servings is not None and servings != read.servings:
            remarks.append(
                f"“{clause}” counts {read.servings:g}; it is used instead of the earlier "
                f"{servings:g}"
                if counted
                else f"“{clause}” also says {read.servings:g} servings; {servings:g} was kept"
            )
        if servings is None or counted:
            servings = read.servings
    if counted and before.claimed:
        remarks.append(f"“{clause}” is a count; it is used instead of {before.claimed}")
    if read.claimed and not counted:
        remarks.append(
            f"“{read.claimed}” servings is a range: {read.servings:g} is used until you enter a "
            "number"
        )
    return StatedYield(
        servings=servings,
        yield_g=read.yield_g if read.yield_g is not None else before.yield_g,
        serving_ml=read.serving_ml or before.serving_ml,
        serving_g=read.serving_g or before.serving_g,
        volume_ml=read.volume_ml or before.volume_ml,
        claimed=claimed,
        remarks=tuple(remarks),
    )
