"""What a client never eats, as written, and which foods that reaches: by what people mean, not by
every name in which a word occurs. Milk is not oat milk, cherries are not cherry tomatoes, and "no
salt added" is not salt.
"""

from __future__ import annotations

import re
import tomllib
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from functools import lru_cache

from msgspec import Struct, convert

from dietetics.composition.foods import TABLES, Food, load_shelf
from dietetics.composition.name_words import words_of

# What an allergen is called: foods that carry it are meant too, whatever their name.
ALLERGEN_WORDS: Mapping[str, frozenset[str]] = {
    "peanut": frozenset({"peanut"}), "soy": frozenset({"soy"}),
    "gluten": frozenset({"gluten", "wheat"}), "wheat": frozenset({"wheat"}),
    "sesame": frozenset({"sesame"}), "celery": frozenset({"celery"}),
    "mustard": frozenset({"mustard"}), "lupin": frozenset({"lupin"}),
}  # fmt: skip
# Marked as a tree nut on the shelf, for makers differ; not what somebody means who writes "no
# nuts".
COCONUT_FAMILIES = frozenset({
    "coconut-aminos", "coconut-cream-canned", "coconut-cream-sweetened", "coconut-desiccated",
    "coconut-flour", "coconut-fresh", "coconut-milk-canned", "coconut-milk-drink", "coconut-oil",
    "coconut-packaged-sweetened", "coconut-sugar", "coconut-water", "coconut-yogurt",
})  # fmt: skip
# What is made of the food that is named before it: tomato paste is tomato.
PRODUCTS = frozenset({
    "bran", "bread", "butter", "cake", "cheese", "chip", "cracker", "cream", "crumb", "drink",
    "flake", "flour", "germ", "jam", "juice", "kernel", "marmalade", "meal", "milk", "noodle",
    "oil", "pasta", "paste", "peel", "pickle", "porridge", "powder", "puree", "salt", "sauce",
    "soup", "spread", "sprout", "starch", "sugar", "syrup", "tortilla", "water", "yogurt", "zest",
})  # fmt: skip
_FILLERS = frozenset({"food", "thing", "dish", "stuff", "product"})
_ABSENT = re.compile(
    r"\b(?:no|without|non|not)\b[\s-]+(?:added\s+)?[\w-]+(?:\s+added)?|\b[\w]+-free\b"
)
_SAYING = re.compile(r"\b(?:no|never|not|hates?|dislikes?|any|eats?)\b")


class Meant(Struct, frozen=True, forbid_unknown_fields=True):
    """What is meant instead of a word: all of the groups, allergens and words of names."""

    groups: frozenset[str] = frozenset()
    allergens: frozenset[str] = frozenset()
    names: tuple[str, ...] = ()


class SaidWord(Struct, frozen=True, forbid_unknown_fields=True):
    """One row of `tables/said_words.toml`."""

    instead: Meant | None = None
    not_names: frozenset[str] = frozenset()
    not_groups: frozenset[str] = frozenset()
    say: str = ""


@dataclass(frozen=True)
class Reach:
    """One thing that a client never eats, the names of the foods it reaches, and what there is to
    say of the word.
    """

    said: str
    foods: tuple[str, ...]
    say: str = ""

    @property
    def is_unknown(self) -> bool:
        """True where it reaches nothing, and nobody can say why."""
        return not self.foods and not self.say


@lru_cache(maxsize=1)
def said_words() -> Mapping[str, SaidWord]:
    """The rows of the table by the word."""
    text = (TABLES / "said_words.toml").read_text(encoding="utf-8")
    return convert(tomllib.loads(text), dict[str, SaidWord])


@lru_cache(maxsize=512)
def things_said(never_eats: str) -> tuple[tuple[str, tuple[str, ...]], ...]:
    """Each thing that a client will not eat ("no okra; raw onion, mushrooms"), as written and as
    its words.
    """
    found = []
    for thing in re.split(r"[,;.\n]|\band\b|\bor\b", never_eats.lower()):
        said = " ".join(_SAYING.sub(" ", thing).split())
        words = words_of(said)
        found.append((said, tuple(word for word in words if word not in _FILLERS) or words))
    return tuple((said, words) for said, words in found if words)


def refusals(never_eats: str) -> tuple[tuple[str, ...], ...]:
    """What a client will not eat, as the words of each thing."""
    return tuple(words for _, words in things_said(never_eats))


def is_meant(food: Food, thing: tuple[str, ...]) -> bool:
    """True where somebody who never eats this thing, given as its words, does not eat the food."""
    row = said_words().get(" ".join(thing), SaidWord())
    if food.group in row.not_groups or any(row.not_names & name for name in _all_words(food)):
        return False
    if row.instead is not None:
        return _is_instead(food, row.instead)
    state = words_of(food.name)[-1:] if "," in food.name else ()
    words = [word for word in thing if word not in state] or thing
    if len(words) > 1:
        return any(set(words) <= name for name in _all_words(food))
    return _is_called(food, words[0])


def _is_called(food: Food, word: str) -> bool:
    """Whether one word names the food, a kind of it, what it is made of, or its allergen."""
    if set(food.allergens) & ALLERGEN_WORDS.get(word, frozenset()):
        return True
    is_kind = word not in _heads()  # a word that names no food by itself, as in basmati rice
    return any(_names_it(name, word, is_kind) for name in _present(food))


def reach(never_eats: str, foods: Iterable[Food]) -> list[Reach]:
    """What each thing of the text reaches among these foods, in the text's order."""
    shelf = list(foods)
    found = []
    for said, thing in dict.fromkeys(things_said(never_eats)):
        row = said_words().get(" ".join(thing), SaidWord())
        names = dict.fromkeys(food.name for food in shelf if is_meant(food, thing))
        found.append(Reach(said, tuple(names), row.say))
    return found


def _is_instead(food: Food, meant: Meant) -> bool:
    if food.group in meant.groups:
        return True
    if food.family not in COCONUT_FAMILIES and set(food.allergens) & meant.allergens:
        return True
    return any(set(name.split()) <= words for name in meant.names for words in _all_words(food))


def _names_it(name: tuple[str, ...], word: str, is_kind: bool) -> bool:
    """Whether a name is the thing (its last word), a kind of it, or something made of it."""
    if not name or word not in name:
        return False
    return name[-1] == word or name[-1] in PRODUCTS or is_kind


@lru_cache(maxsize=4096)
def _words(names: tuple[str, ...]) -> tuple[frozenset[str], ...]:
    return tuple(frozenset(words_of(name)) for name in names)


def _all_words(food: Food) -> tuple[frozenset[str], ...]:
    return _words((food.name, *food.synonyms))


@lru_cache(maxsize=4096)
def _present_words(names: tuple[str, ...]) -> tuple[tuple[str, ...], ...]:
    """The words of each name up to its comma, without what it says is absent."""
    parts = (_ABSENT.sub(" ", name.lower()).split(",")[0].split("(")[0] for name in names)
    return tuple(words_of(part) for part in parts)


def _present(food: Food) -> tuple[tuple[str, ...], ...]:
    return _present_words((food.name, *food.synonyms))


@lru_cache(maxsize=1)
def _heads() -> frozenset[str]:
    """The last words of all names of the shelf: what names a food by itself."""
    return frozenset(name[-1] for food in load_shelf() for name in _present(food) if name)
