"""What is heard of a written phrase: its words, the claims it makes, the neutral words; and every
name of a shelf so heard.
"""

from __future__ import annotations

from collections.abc import Collection
from copy import copy
from dataclasses import dataclass, field, replace
from functools import lru_cache

from dietetics.amounts.vocabulary import (
    CHANGING_WORDS,
    CLAIM_OF,
    CLAIM_PATTERN,
    FORM_WORDS,
    NEUTRAL_WORDS,
    SAME_WORD,
    STATE_WORDS,
)
from dietetics.composition.foods import Food, Shelf
from dietetics.composition.name_words import fold, words_of
from dietetics.composition.search import SearchIndex

TELLING_WORDS = frozenset(
    {
        "for",
        "with",
        "to",
        "in",
        "on",
        "or",
        "and",
        "if",
        "from",
        "as",
        "into",
        "plus",
        "like",
        "per",
        "by",
    }
)


@dataclass(frozen=True)
class Phrase:
    """The words of a written phrase: in order, with the claims it makes; `neutral` words are heard
    and change nothing.

    `forms` are, of the words behind a comma, those that stand alone there and name a form:
    "carrots, juice".
    """

    words: tuple[str, ...]
    claims: frozenset[str]
    neutral: tuple[str, ...] = ()
    forms: frozenset[str] = frozenset()

    def and_then(self, other: Phrase) -> Phrase:
        """Two phrases as one, the second behind the first."""
        return Phrase(
            self.words + other.words, self.claims | other.claims, self.neutral + other.neutral
        )


@lru_cache(maxsize=4096)
def read_phrase(text: str) -> Phrase:
    """Return the words and claims of a written phrase: "no-salt-added diced tomatoes" claims
    salt-free.
    """
    folded = fold(text)
    claims: set[str] = set()
    neutral: list[str] = []
    pieces: list[str] = []
    at = 0
    for found in CLAIM_PATTERN.finditer(folded):
        pieces.append(folded[at : found.start()])
        at = found.end()
        claim = CLAIM_OF[str(found.lastgroup)]
        if claim in {"neutral", "instead"}:
            neutral.append(found.group().strip())
        elif claim in ("cooked", "wholegrain"):
            pieces.append(f" {claim} ")
        else:
            claims.add(claim)
            if claim == "vegan":
                pieces.append(" vegan ")
    pieces.append(folded[at:])
    words = tuple(SAME_WORD.get(word, word) for word in words_of(" ".join(pieces)))
    return Phrase(words, frozenset(claims), tuple(neutral))


@dataclass(frozen=True)
class Denial:
    """One thing that a line denies: all its words, and what they say of a food."""

    words: tuple[str, ...]
    phrase: Phrase

    @property
    def telling(self) -> tuple[str, ...]:
        """The words that say something of a food."""
        return tuple(word for word in self.phrase.words if word not in NEUTRAL_WORDS)


@dataclass(frozen=True)
class Name:
    """A name of a row: its words, and the claims that must be made for it to be meant."""

    words: tuple[str, ...]
    claims: frozenset[str]
    food: Food


@dataclass
class NameIndex:
    """Every name of a shelf by its last word, and the words each row's names say. `denied` is what
    the line that is being read says is not meant.
    """

    shelf: Shelf
    search: SearchIndex
    by_word: dict[str, list[Name]] = field(default_factory=dict)
    says: dict[str, frozenset[str]] = field(default_factory=dict)
    heads: set[str] = field(default_factory=set)
    vocabulary: set[str] = field(default_factory=set)
    denied: tuple[Denial, ...] = field(default=(), init=False)

    def __post_init__(self) -> None:
        for food in self.shelf:
            said: set[str] = set()
            seen: set[tuple[tuple[str, ...], frozenset[str]]] = set()
            for text in food.names:
                said.update(named(text).words)
                phrase = named(text.split(",")[0])
                key = (phrase.words, phrase.claims)
                if phrase.words and key not in seen:
                    seen.add(key)
                    self.by_word.setdefault(phrase.words[-1], []).append(Name(*key, food))
            self.says[food.key] = frozenset(said)
            self.vocabulary.update(said)
        self.heads = {
            word for word in self.by_word if word not in NEUTRAL_WORDS and word not in STATE_WORDS
        }

    def denying(self, denied: tuple[Denial, ...]) -> NameIndex:
        """The same names, for a line that denies something."""
        found = copy(self)
        found.denied = denied
        return found

    @property
    def known(self) -> Collection[str]:
        """Every word that needs no correction."""
        return self.vocabulary


@lru_cache(maxsize=16384)
def named(text: str) -> Phrase:
    """A name's words and claims; what it carries in brackets is left out of its words."""
    plain = text.split("(", maxsplit=1)[0] if text.strip().endswith(")") else text
    return read_phrase(plain or text)


def noted(notes: str) -> Phrase:
    """What is heard behind the comma or in brackets; a piece of it that holds nothing but a form
    names a form.
    """
    forms: set[str] = set()
    for piece in notes.split(","):
        heard = [word for word in read_phrase(piece).words if word not in NEUTRAL_WORDS]
        told = piece.split() and piece.split()[0].lower() in TELLING_WORDS
        if (
            not told
            and heard
            and all(
                word in FORM_WORDS or word in STATE_WORDS or word in CHANGING_WORDS
                for word in heard
            )
        ):
            forms.update(word for word in heard if word in FORM_WORDS)
    return replace(read_phrase(notes.replace(",", " ")), forms=frozenset(forms))


def without_words(phrase: Phrase, words: Collection[str]) -> Phrase:
    return replace(phrase, words=tuple(w for w in phrase.words if w not in words))
