"""Fitting a dish to a client: what each line costs them, what may stand in for it, and what that
changes.

Substitutions come from a table of roles with amounts; each one is computed before it is taken.
"""

from __future__ import annotations

import logging
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import lru_cache

from dietetics.amounts.grammar import read_amount
from dietetics.amounts.tokens import clean, tokenise
from dietetics.composition.foods import Food, Shelf, read_table
from dietetics.composition.sums import Composition, Figure, FoodContent, Item, compose, total_figure
from dietetics.errors import BrokenAnswerError
from dietetics.nutrients import nutrient
from dietetics.untrusted_input import readable

LOG = logging.getLogger(__name__)
NEAR_G, NEAR_SHARE = 0.01, 1e-4
WATCHED = ("sodium_mg", "potassium_mg", "phosphorus_mg", "energy_kcal", "fat_g")
TBSP_PER = {"tbsp": 1.0, "tsp": 1 / 3, "cup": 16.0}


@dataclass(frozen=True)
class LineCost:
    """What one line brings to a serving of what is watched; `worst` is what it brings most of, as a
    share of the whole.
    """

    label: str
    grams: float
    amounts: dict[str, float | None]
    worst: str
    share: float


@dataclass(frozen=True)
class Substitution:
    """One row of the table that fits a line."""

    key: str
    words: str
    reasons: tuple[str, ...]
    parts: tuple[tuple[Food, float], ...]  # what comes in, with its grams


@dataclass(frozen=True)
class _Rule:
    key: str
    source: str
    parts: tuple[tuple[str, float], ...]
    unit: str
    reasons: tuple[str, ...]
    words: str


@lru_cache(maxsize=1)
def _rules() -> tuple[_Rule, ...]:
    found = []
    for row in read_table("substitutions.csv"):
        pairs = (part.partition("=") for part in row["with"].split(";"))
        parts = tuple((food, float(grams)) for food, _, grams in pairs)
        found.append(
            _Rule(
                row["key"],
                row["from"],
                parts,
                row["unit"],
                tuple(row["for"].split(";")),
                row["words"],
            )
        )
    return tuple(found)


def costs(items: Sequence[Item], servings: float) -> list[LineCost]:
    """What every line brings to one serving; the share is of the dish's sodium, potassium,
    phosphorus, energy or fat.
    """
    whole = compose(items)
    found = []
    for item in items:
        amounts: dict[str, float | None] = {}
        best = ("", 0.0)
        for key in WATCHED:
            value, _ = item.content.known_per_100g(key)
            amounts[key] = None if value is None else value * item.grams / 100 / servings
            total = whole[key].amount
            share = (value or 0.0) * item.grams / 100 / total if total else 0.0
            if share > best[1]:
                best = (key, share)
        found.append(LineCost(item.label, item.grams, amounts, best[0], best[1]))
    return found


def substitutions(food: Food, grams: float, shelf: Shelf) -> list[Substitution]:
    """What may stand in for a food in a dish, with its grams."""
    found = []
    for rule in _rules():
        kind, _, name = rule.source.rpartition(":")
        fits = {
            "": food.family == name,
            "group": food.group == name,
            "state": food.state == name,
            "word": False,
        }[kind]
        if not fits:
            continue
        parts = _parts(rule, food, grams, shelf)
        if parts and not (len(parts) == 1 and parts[0][0].key == food.key and parts[0][1] == grams):
            found.append(Substitution(rule.key, rule.words, rule.reasons, parts))
    return found


def _parts(rule: _Rule, food: Food, grams: float, shelf: Shelf) -> tuple[tuple[Food, float], ...]:
    """What a rule puts in; nothing where one of its foods is not on the shelf in the state that is
    wanted.
    """
    made = []
    for key, share in rule.parts:
        found = _named(key, food, shelf)
        if found is None:
            return ()
        made.append((found, grams * share))
    return tuple(made)


def _named(key: str, food: Food, shelf: Shelf) -> Food | None:
    """The food a rule names: "same", "@state" of its family, "~family" in its state, or a key."""
    if key == "same":
        return food
    if key.startswith("@"):
        return next(
            (
                f
                for f in shelf.families.get(food.family, [])
                if f.state == key[1:] and (not f.salted or "canned" in f.state)
            ),
            None,
        )
    if key.startswith("~"):
        return next((f for f in shelf.families.get(key[1:], []) if f.state == food.state), None)
    return shelf.foods.get(key)


def for_words(text: str, shelf: Shelf) -> list[Substitution]:
    """What may stand in for something that is not a plant food: an egg, cream, honey, with the
    amount that is written.
    """
    plain = clean(readable(text)).lower()
    words = {word.rstrip("s") for word in plain.replace(",", " ").split()}
    found = []
    for rule in _rules():
        kind, _, name = rule.source.rpartition(":")
        if kind != "word" or name not in words or "eggplant" in plain:
            continue
        count = _count(plain, rule.unit)
        parts = tuple((shelf.food(key), grams * count) for key, grams in rule.parts)
        found.append(Substitution(rule.key, rule.words, rule.reasons, parts))
    return found


def _count(plain: str, unit: str) -> float:
    amount = read_amount(tokenise(plain))
    if amount is None:
        return 1.0
    term = amount.terms[0]
    number = float(term.quantity.likely)
    return (
        number * TBSP_PER.get(term.unit.key, 1.0)
        if unit == "tbsp" and term.unit is not None
        else number
    )


def changed_items(items: Sequence[Item], index: int | None, taken: Substitution) -> list[Item]:
    """The items with one of them replaced (or, without an index, with something put in)."""
    new = [
        Item.exact(food.name, FoodContent(food), grams, taken.words) for food, grams in taken.parts
    ]
    if index is None:
        return [*items, *new]
    return [*items[:index], *new, *items[index + 1 :]]


def fitted_yield_g(yield_g: float, went_in_g: float, goes_g: float, comes_g: float) -> float:
    """What a pot measured at `yield_g` would weigh, in grams, with `goes_g` of what went in
    replaced by `comes_g`.

    The loss in cooking is taken to stay the same share of what goes in: an estimate until the pot
    is weighed again.
    """
    return yield_g * (went_in_g - goes_g + comes_g) / went_in_g if went_in_g > 0 else yield_g


def checked_fitting(
    before: Sequence[Item], goes: Item | None, taken: Substitution, after: Sequence[Item]
) -> None:
    """Check a fitted dish against what was promised: weights and figures are those before, less
    what goes, plus what comes.

    Raises `BrokenAnswerError`, logged, where they are not: then the dish stays as it was.
    """
    comes = changed_items((), None, taken)
    broken = []
    weights = [
        sum(item.grams for item in items)
        for items in (before, [goes] if goes else [], comes, after)
    ]
    if abs(weights[0] - weights[1] + weights[2] - weights[3]) > NEAR_G:
        broken.append(f"weight {weights[3]:.2f} g, not {weights[0] - weights[1] + weights[2]:.2f}")
    for key in WATCHED:
        figures = [
            total_figure(items, key) for items in (before, [goes] if goes else [], comes, after)
        ]
        if all(figure.complete for figure in figures):
            old, out, new, now = (figure.amount or 0.0 for figure in figures)
            if abs(old - out + new - now) > NEAR_SHARE * max(1.0, abs(old)):
                broken.append(f"{key} {now:.2f}, not {old - out + new:.2f}")
    if broken:
        LOG.error("a fitted dish is not what was promised: %s", "; ".join(broken))
        raise BrokenAnswerError("answer-broken", rules="; ".join(broken))


def effect(
    items: Sequence[Item], index: int | None, taken: Substitution, servings: float
) -> dict[str, float]:
    """What taking a substitution changes in a serving, for what is watched.

    A nutrient that is unknown of what goes out, or of anything that comes in, is left out: its
    change is not known.
    """
    goes = [] if index is None else [items[index]]
    comes = changed_items((), None, taken)
    found = {}
    for key in WATCHED:
        before, after = total_figure(goes, key), total_figure(comes, key)
        if not before.complete or not after.complete:
            continue
        change = ((after.amount or 0.0) - (before.amount or 0.0)) / servings
        if abs(change) >= 0.05:
            found[key] = change
    return found


def effect_words(changes: dict[str, float]) -> str:
    """An effect in words: "862 mg less sodium, 12 kcal more"."""
    words = []
    for key, change in changes.items():
        one = nutrient(key)
        if one.rounded(abs(change)) == 0:
            continue
        name = "" if key == "energy_kcal" else f" {one.name_in_text}"
        words.append(f"{one.text(abs(change))} {'less' if change < 0 else 'more'}{name}")
    return ", ".join(words) or "no notable change"


@dataclass(frozen=True)
class Difference:
    """A line that differs between two versions of a dish."""

    kind: str  # out, in, more, less
    label: str
    before_g: float
    after_g: float


def differences(before: Iterable[Item], after: Iterable[Item]) -> list[Difference]:
    """Which foods went out, came in, or changed by more than a hundredth, by name; in the order of
    the dish.
    """
    old, new = _by_name(before), _by_name(after)
    found = []
    for name in dict.fromkeys([*old, *new]):
        a, b = old.get(name, 0.0), new.get(name, 0.0)
        if abs(a - b) <= 0.01 * max(a, b):
            continue
        kind = "in" if not a else "out" if not b else "more" if b > a else "less"
        found.append(Difference(kind, name, a, b))
    return found


def _by_name(items: Iterable[Item]) -> dict[str, float]:
    found: dict[str, float] = {}
    for item in items:
        found[item.label] = found.get(item.label, 0.0) + item.grams
    return found


def difference_words(one: Difference) -> str:
    """A difference as a sentence for the client."""
    if one.kind == "out":
        return f"{one.label} left out ({one.before_g:,.0f} g)"
    if one.kind == "in":
        return f"{one.label} put in ({one.after_g:,.0f} g)"
    return f"{one.label} {one.before_g:,.0f} → {one.after_g:,.0f} g"


def figure_changes(
    before: Composition, after: Composition, keys: Sequence[str]
) -> list[tuple[str, Figure, Figure]]:
    """(nutrient, before, after) where something of both is known."""
    pairs = ((key, before[key], after[key]) for key in keys)
    return [(key, a, b) for key, a, b in pairs if a.amount is not None and b.amount is not None]
