"""What a bowl is called that was drawn from a pattern: a dish that took another food is not called
by the one that it lost. "Tofu and sweet potato plate" without tofu is a "Butter beans and sweet
potato plate".
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterator, Mapping, Sequence
from dataclasses import dataclass

from dietetics.amounts.vocabulary import COLOUR_WORDS, NEUTRAL_WORDS, STATE_WORDS
from dietetics.composition.foods import Food
from dietetics.composition.name_words import fold, words_of
from dietetics.dishes.patterns import Drawn

# Words of dishes, and of how and in which colour a food is: alone they name none.
_TELL_NOTHING = frozenset(
    {"bowl", "plate", "meal", "breakfast", "salad", "soup", "stew", "pot", "pan", "wrap", "toast",
     "dressing", "sauce", "with", "and", "or", "a", "big", "simple", "three", "sweet"}
    | {"green", "dark", "light", *COLOUR_WORDS, *NEUTRAL_WORDS, *STATE_WORDS}
)  # fmt: skip
_JOINING = frozenset({"and", "with", "or", "in", "on"})
# What foods of a group are called together.
COLLECTIVE: Mapping[str, tuple[str, ...]] = {
    "nut": ("nuts",), "seed": ("seeds",), "legume": ("beans",), "nut-butter": ("nut butter",),
    "fruit": ("fruit",), "leafy-green": ("greens", "salad leaves"),
}  # fmt: skip


@dataclass(frozen=True)
class Called:
    """What something is called in the name of a bowl, every name of its own, and what it is called
    together with others of its group.
    """

    short: str
    names: tuple[str, ...]
    together: tuple[str, ...] = ()


def called_food(food: Food) -> Called:
    """A food's names: its own before the comma, its synonyms, and what its group is called."""
    own = re.split(r"[,(]", food.name)[0].strip()
    short = own if own[1:2].isupper() else f"{own[:1].lower()}{own[1:]}"
    plain = (name.partition(",")[0] for name in (food.name, *food.synonyms))
    return Called(short, tuple(dict.fromkeys(plain)), COLLECTIVE.get(food.group, ()))


def fitting_name(name: str, drawn: Drawn, called: Callable[[str], Called]) -> str:
    """The name of a bowl as it was drawn: what it names and does not hold gives way to what came in
    its place, or goes. `called` says what an option is called.
    """
    held = [called(option.what) for _, option in drawn.chosen]
    tokens = name.split()
    for role, option in drawn.chosen:
        lost = [called(other.what) for other in role.options if other.what != option.what]
        run = _named_run(tokens, lost, held)
        if run is not None:
            tokens = _replaced(tokens, *run, called(option.what).short)
    for missing in drawn.empty_roles:
        run = _named_run(tokens, [called(option.what) for option in missing.options], held)
        if run is not None:
            tokens = _left_out(tokens, *run)
    words = " ".join(tokens)
    return f"{words[:1].upper()}{words[1:]}"


def _words(text: str) -> frozenset[str]:
    return frozenset(words_of(fold(text)))


def _named_run(
    tokens: Sequence[str], lost: Sequence[Called], held: Sequence[Called]
) -> tuple[int, int] | None:
    """Where the longest run of words stands that names one of what was lost, and nothing of what
    the bowl holds.
    """
    together = {words for one in held for words in one.together}
    own = frozenset[str]().union(*(_words(name) for one in held for name in one.names))
    found = []
    for one in lost:
        for words in one.together:
            if words not in together:
                found += [run for run in _runs(tokens, _words(words)) if run[2] == _words(words)]
        for name in one.names:
            found += [run for run in _runs(tokens, _words(name)) if run[2] - _TELL_NOTHING - own]
    best = max(found, key=lambda run: run[1] - run[0], default=None)
    return best[:2] if best is not None else None


def _runs(
    tokens: Sequence[str], words: frozenset[str]
) -> Iterator[tuple[int, int, frozenset[str]]]:
    """Every longest run of tokens that hold nothing but some words: start, end, and those."""
    start = 0
    while start < len(tokens):
        end, said = start, frozenset[str]()
        while end < len(tokens) and (token := _words(tokens[end])) and token <= words:
            end, said = end + 1, said | token
            if tokens[end - 1].endswith(","):
                break
        if said:
            yield start, end, said
        start = max(end, start + 1)


def _replaced(tokens: list[str], start: int, end: int, short: str) -> list[str]:
    """The words with a run of them replaced; before a noun it stands in the singular ("butter bean
    bowl"), and a word that would stand twice in a row stands once.
    """
    comma = "," if tokens[end - 1].endswith(",") else ""
    rest = tokens[end:]
    joined = bool(comma) or not rest or rest[0].lower() in _JOINING
    new = (short if joined else _singular(short)).split()
    if rest and new and _words(rest[0]) == _words(new[-1]):
        rest = rest[1:]
    return [*tokens[:start], *new[:-1], f"{new[-1]}{comma}", *rest]


def _left_out(tokens: list[str], start: int, end: int) -> list[str]:
    """The words without a run of them and the word that joined it."""
    before, rest = tokens[:start], tokens[end:]
    if before and before[-1].lower() in _JOINING:
        before = before[:-1]
    elif rest and rest[0].lower() in _JOINING:
        rest = rest[1:]
    return [*before, *rest] or tokens


def _singular(words: str) -> str:
    if words.endswith("ies"):
        return f"{words[:-3]}y"
    return re.sub(r"(?<!s)s$", "", words)
