"""What a line says is *not* meant: "tofu (not silken)", "oat milk instead of soy milk", "don't use
canned beans".

The words that deny, and what they reach, are taken out of the line before anything in it is read:
what is denied never chooses a food, and every row that is it is out of the question.
"""

from __future__ import annotations

import re
from collections.abc import Collection, Sequence
from functools import lru_cache

from dietetics.amounts.claims import honours
from dietetics.amounts.phrases import Denial, Phrase, named, read_phrase
from dietetics.amounts.vocabulary import CLAIM_OF, CLAIM_PATTERN, STATE_WORDS
from dietetics.composition.foods import Food
from dietetics.composition.name_words import fold, words_of

# Words that deny what follows them, up to the end of their part of the line.
# How a sentence begins that says what need not be done, or must not be.
NOT_TO_DO = r"(?:there(?:'s| is) no need|no need|do not|don't|never|avoid)"
_NOT_TO_USE = r"(?:do not|don't|dont|never|avoid|not to)"
_CUE = re.compile(
    r"(?<![\w-])(?:(?:but|and|,)\s+)?(?:please\s+)?(?P<cue>"
    rf"{_NOT_TO_USE}\s+(?:ever\s+)?(?:us(?:e|ing)|buy(?:ing)?|tak(?:e|ing)|choos(?:e|ing)|"
    r"pick(?:ing)?|go for|get|want)|"
    r"instead of|in place of|in lieu of|rather than|as opposed to|other than|anything but|"
    r"except(?: for)?|avoid(?:ing)?|never|nor|neither|isn't|not|no|without|minus)\s+(?=\S)",
    re.IGNORECASE,
)
_TO_USE = re.compile(rf"{_NOT_TO_USE}\s+(?:use|buy|take|get)", re.IGNORECASE)
_WITHOUT = re.compile(r"(?:no|without)\b", re.IGNORECASE)
_FREE = re.compile(r"(?<![\w-])([a-z]{3,20})[- ]free\b", re.IGNORECASE)
_END = re.compile(r"[,;:()\[\]]|\s[-–—]\s|\b(?:but|use|using|just|only|please)\b|$", re.IGNORECASE)
_PARTED = re.compile(r"\s*(?:/|\bor\b|\bnor\b|\band\b|&)\s*", re.IGNORECASE)
_ARTICLE = re.compile(r"^(?:(?:the|a|an|any|your|of|kind|type|sort|from|be)\s+)+", re.IGNORECASE)
_EMPTY = re.compile(r"\(\s*[,;]?\s*\)|\[\s*\]")
_LOOSE_COMMA = re.compile(r"\s*,(?=\s*(?:,|;|\)|$))|^\s*[,;:]+\s*")
# These deny nothing of the food: "not too ripe", "no need to soak", "no. 10".
_NOTHING_DENIED = re.compile(
    r"^(?:(?:too|very|so|quite|need|needed|required|sure|more|over|bake|cook|boil|knead|"
    r"necessary|necessarily|optional)\b|\d)",
    re.IGNORECASE,
)


def without_denials(line: str) -> tuple[str, tuple[str, ...]]:
    """The line without what it denies, and what that is: one entry for each thing.

    >>> without_denials("1 block tofu (not silken or soft), drained")
    ('1 block tofu, drained', ('silken', 'soft'))
    """
    denied: list[str] = []
    kept: list[str] = []
    at = 0
    line = line.replace("’", "'")
    for cue in _CUE.finditer(line):
        if cue.start() < at or _is_claim(line, cue):
            continue
        end = _END.search(line, cue.end())
        stop = end.start() if end else len(line)
        reach = line[cue.end() : stop].strip()
        if not reach or _NOTHING_DENIED.match(reach):
            continue
        claims, things = _claims_and_things(cue["cue"], reach)
        denied += things
        kept += [line[at : cue.start()], *(f", {claim}" for claim in claims)]
        at = stop
    rest = _FREE.sub(lambda found: _free_of(found, denied), "".join((*kept, line[at:])))
    if rest == line:
        return line, ()
    rest = _LOOSE_COMMA.sub("", _LOOSE_COMMA.sub("", _EMPTY.sub(" ", rest)))
    return re.sub(r"\s+(?=[,;)])", "", re.sub(r"\s{2,}", " ", rest)).strip(), tuple(denied)


def _claims_and_things(cue: str, reach: str) -> tuple[list[str], list[str]]:
    """Of what a cue reaches, the claims that have their own rule ("no sugar or salt"), and the
    things that are denied.
    """
    things = [_ARTICLE.sub("", one.strip()) for one in _PARTED.split(reach)]
    things = [one for one in things if one]
    if not _WITHOUT.match(cue):
        return [], things
    claims = [one for one in things if CLAIM_PATTERN.fullmatch(f"no {one}".lower())]
    return [f"no {one}" for one in claims], [one for one in things if one not in claims]


def _free_of(found: re.Match[str], denied: list[str]) -> str:
    """ "Onion-free": what is not a claim of its own denies its word."""
    if CLAIM_PATTERN.fullmatch(found.group().lower()):
        return found.group()
    denied.append(found[1])
    return ""


def _is_claim(line: str, cue: re.Match[str]) -> bool:
    """True for a claim with a rule of its own, such as "no salt added", "without oil" and "not
    drained".
    """
    claim = CLAIM_PATTERN.match(line.lower(), cue.start("cue"))
    if claim is None or claim.end() < cue.end():
        return False
    kind = CLAIM_OF[str(claim.lastgroup)]
    return kind != "instead" and not re.match(
        rf"{_NOT_TO_USE}\s+(?:use|buy|take|get)", cue["cue"], re.I
    )


def denials_of(things: Sequence[str]) -> tuple[Denial, ...]:
    """What is denied, as it is looked for in the names of rows."""
    return tuple(Denial(tuple(words_of(fold(thing))), read_phrase(thing)) for thing in things)


# Claims that are true of many whole foods: denied, they forbid the rows that say so of themselves.
SAID_OF_MANY = frozenset(
    {"salt-free", "salt-low", "unsweetened", "sugar-free", "oil-free", "gluten-free", "vegan",
    "unfortified", "wheat-free", "soy-free", "nut-free", "peanut-free", "sesame-free", "fat-free"}
)  # fmt: skip


def is_denied(
    food: Food, denied: Sequence[Denial], name: tuple[str, ...], head: Collection[str]
) -> bool:
    """True for a row that is any of what a line denies, by its own name, state or tags. `name` is
    the name it was found by, `head` the words that the line names its food by: where it says
    "sweet potato rather than potato", only what is called so is denied.
    """
    if not denied:
        return False
    own = _own(food.name)
    for one in denied:
        if one.words in _pieces(food.name):
            return True
        if one.telling and set(one.telling) <= set(head):
            if name == one.telling:
                return True
        elif _is(food, own, own.words, one):
            return True
    return False


def may_be_denied(food: Food, said: Collection[str], denied: Sequence[Denial]) -> bool:
    """True for a row that stands for several kinds, what is denied among them; `said` are the words
    of all its names.
    """
    own = _own(food.name)
    itself = {telling for one in _denials_of_name(food.name) for telling in one.telling}
    return any(_is(food, own, said, one) and not set(one.telling) <= itself for one in denied)


@lru_cache(maxsize=4096)
def _own(name: str) -> Phrase:
    """What a row's name says of it, without what the name itself denies ("without peel")."""
    return named(without_denials(name)[0])


@lru_cache(maxsize=4096)
def _denials_of_name(name: str) -> tuple[Denial, ...]:
    return denials_of(without_denials(name)[1])


@lru_cache(maxsize=4096)
def _pieces(name: str) -> tuple[tuple[str, ...], ...]:
    """What stands between the commas of a row's name, each as words."""
    return tuple(tuple(words_of(fold(piece))) for piece in name.split(","))


def _is(food: Food, own: Phrase, said: Collection[str], one: Denial) -> bool:
    claims = one.phrase.claims
    if not one.telling and not claims:
        return False
    return all(_says(food, said, word) for word in one.telling) and all(
        claim in food.tags or claim in own.claims
        if claim in SAID_OF_MANY
        else honours(food, claim) or claim in own.claims
        for claim in claims
    )


def _says(food: Food, said: Collection[str], word: str) -> bool:
    return word in said or food.state in STATE_WORDS.get(word, ())
