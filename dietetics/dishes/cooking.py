"""Cooking: what a pot should weigh when it is done, what a surprising weight means, and what heat
and water take.

An expected yield is low, likely and high, from each line's weight, its method and its family's
yield, or its group's. Retention is off unless asked for, never touches energy or protein, and names
its source.
"""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache

from dietetics.amounts.grammar import Term, read_amount
from dietetics.amounts.tokens import clean, tokenise
from dietetics.amounts.units import LEVELS, US_HOUSEHOLD, Household, millilitres
from dietetics.composition.foods import Food, Shelf, read_table
from dietetics.composition.sums import Composed, FoodContent, Item
from dietetics.errors import DieteticsError
from dietetics.untrusted_input import MOST_LINE, readable

METHODS: Mapping[str, str] = {
    "raw": "mixed, nothing cooked", "pot": "simmered, nothing drained",
    "boiled": "boiled and drained",
    "steamed": "steamed", "roasted": "roasted", "sauteed": "sautéed in water",
}  # fmt: skip
# Days that a cooked dish keeps in the refrigerator, where nothing else is said. Common practice.
KEEPS_DAYS = 4
RETENTION_SOURCE = "USDA nutrient retention factors, release 6 (2007), from memory"
_FAMILY_METHODS = {"boiled": ("boiled", "soaked", "wilted"), "steamed": ("steamed", "wilted"),
    "roasted": ("roasted",),
                   "sauteed": ("sauteed in water", "wilted")}  # fmt: skip
_UNCOOKED = {"raw", "dry", "frozen"}
_WATERY = {"water", "vegetable-broth"}
LADLE_ML = 125.0  # common practice; a practitioner's own ladle is measured
_LEVELS = {word: likely for word, (_, likely, _) in LEVELS.items()}
ROUNDED_FROM_G = 100.0
COATS_G = 30.0  # a bowl's sauce; common practice
# FDA Food Code 3-501.14
STORING = "Cool within 2 hours; keep at 5 °C or below; reheat once, until steaming hot throughout."
RICE_STORING = "Rice: cool at once."  # common practice
MOST_YIELD_G = 1e6  # above a tonne it is a slip of the pen
LEARNT_FROM, LEARNT_LEAST = (
    5,
    2,
)  # cookings that an expected yield learns from, and how many it needs


@dataclass(frozen=True)
class CookedLine:
    """One line after cooking: grams before, and after as low, likely and high, with where the
    factor is from.
    """

    label: str
    before_g: float
    low_g: float
    likely_g: float
    high_g: float
    source: str


USUAL_SLACK = (
    0.03  # beyond what is expected before a yield is called heavy or light (our judgement)
)


@dataclass(frozen=True)
class ExpectedYield:
    """What the whole should weigh, in g."""

    lines: tuple[CookedLine, ...]

    @property
    def low_g(self) -> float:
        """The least that is usual."""
        return sum(line.low_g for line in self.lines)

    @property
    def likely_g(self) -> float:
        """What is likely."""
        return sum(line.likely_g for line in self.lines)

    @property
    def high_g(self) -> float:
        """The most that is usual."""
        return sum(line.high_g for line in self.lines)

    @property
    def weights_g(self) -> tuple[float, float, float]:
        """The least, the likely and the most, in g, to 5 g from 100 g on: it is no measurement."""
        low, likely, high = (
            5.0 * round(grams / 5) if grams >= ROUNDED_FROM_G else grams
            for grams in (self.low_g, self.likely_g, self.high_g)
        )
        return low, likely, high

    def scaled(self, learnt: tuple[float, float, float]) -> ExpectedYield:
        """The expectation turned to what a practitioner's own cookings gave, as shares of what went
        in.
        """
        whole = sum(line.before_g for line in self.lines)
        low, likely, high = (whole * share for share in learnt)
        return ExpectedYield(
            (CookedLine("as in your cooking log", whole, low, likely, high, "your cooking log"),)
        )


@lru_cache(maxsize=1)
def _group_factors() -> Mapping[tuple[str, str], tuple[float, float, float]]:
    return {
        (row["method"], row["group"]): (float(row["low"]), float(row["likely"]), float(row["high"]))
        for row in read_table("cooked_weight.csv")
    }


def group_factor(method: str, group: str) -> tuple[float, float, float] | None:
    """Weight after ÷ before of a group cooked in one way, low, likely and high; None where nobody
    says.
    """
    return _group_factors().get((method, group))


def _factor(food: Food, method: str, shelf: Shelf) -> tuple[float, float, float, str]:
    table = _group_factors()
    if method in ("raw", "pot"):
        return *table[method, "any"], f"{METHODS[method]}, common practice"
    if food.key in _WATERY:
        gone = (0.0, 0.0, 0.0) if method in ("boiled", "steamed") else (0.0, 0.1, 0.4)
        return *gone, "drained or boiled away"
    if food.state not in _UNCOOKED:
        return 0.95, 1.0, 1.0, "cooked already"
    for known in shelf.yields_of(food.family):
        if known.method in _FAMILY_METHODS[method]:
            return known.low, known.likely, known.high, f"{known.method}, {known.source}"
    if food.group in ("grain", "legume") and method == "boiled" and food.state != "dry":
        return 0.95, 1.0, 1.05, "cooked already"
    found = table.get((method, food.group))
    return (
        (*found, "its group, common practice")
        if found
        else (0.9, 1.0, 1.0, "unknown: assumed unchanged")
    )


def expected_yield(lines: Sequence[tuple[Item, str]], shelf: Shelf) -> ExpectedYield:
    """What lines given with their methods should weigh together. Raises DieteticsError for an
    unknown method.
    """
    found = []
    for item, method in lines:
        if method not in METHODS:
            raise DieteticsError("method-unknown", method=method, known=", ".join(METHODS))
        if isinstance(item.content, FoodContent):
            low, likely, high, source = _factor(item.content.food, method, shelf)
        else:
            low, likely, high, source = 0.95, 1.0, 1.0, "a dish, cooked already"
        g = item.grams
        found.append(CookedLine(item.label, g, g * low, g * likely, g * high, source))
    return ExpectedYield(tuple(found))


def learnt_shares(cooked: Sequence[tuple[float, float]]) -> tuple[float, float, float] | None:
    """(least, mean, most) of yield ÷ what went in over the last cookings, newest first; None before
    there are two.
    """
    shares = [out_g / in_g for out_g, in_g in cooked[:LEARNT_FROM] if in_g]
    return (
        (min(shares), sum(shares) / len(shares), max(shares))
        if len(shares) >= LEARNT_LEAST
        else None
    )


def bowls_coated(weight_g: float) -> int:
    """How many bowls a sauce of this weight coats, at 30 g each (common practice)."""
    return round(weight_g / COATS_G)


def storing_words(foods: Iterable[Food]) -> str:
    """How a cooked dish is kept and reheated."""
    rice = any("rice" in food.family for food in foods)
    return f"{STORING} {RICE_STORING}" if rice else STORING


def other_weight(food: Food, grams: float, shelf: Shelf) -> str:
    """A cooked food's weight before cooking, or an uncooked one's after, in words with span and
    source; "" when unknown.
    """
    known = shelf.yields_of(food.family)
    if not known:
        return ""
    one = known[0]
    if food.state == "cooked":
        before = "dry" if one.likely > 1.5 else "raw"
        low, likely, high = grams / one.high, grams / one.likely, grams / one.low
        return (
            f"about {likely:,.0f} g {before} ({low:,.0f}–{high:,.0f}; {one.method}, yield × "
            f"{one.likely:g}, {one.source})"
        )
    if food.state in ("raw", "dry"):
        low, likely, high = (grams * share for share in (one.low, one.likely, one.high))
        return (
            f"about {likely:,.0f} g {one.method} ({low:,.0f}–{high:,.0f}; yield × "
            f"{one.likely:g}, {one.source})"
        )
    return ""


def is_usual(expected: ExpectedYield, measured_g: float) -> bool:
    """True for a measured yield within what is expected, and a little to both sides."""
    return expected.low_g * (1 - USUAL_SLACK) <= measured_g <= expected.high_g * (1 + USUAL_SLACK)


def yield_words(expected: ExpectedYield, measured_g: float) -> str:
    """How far a measured yield is from the expected one, and what a surprising one usually
    means.
    """
    low, likely, high = expected.low_g, expected.likely_g, expected.high_g
    if not likely:
        return ""
    off = measured_g / likely - 1
    text = (
        f"{measured_g:,.0f} g measured; {low:,.0f}–{high:,.0f} g expected, {likely:,.0f} "
        f"likely: {abs(off):.0%} "
    )
    text += "above" if off > 0 else "below"
    if is_usual(expected, measured_g):
        return f"{text}, as usual."
    if measured_g > high:
        return (
            f"{text}. Heavier than usual: did dry grain or pulses absorb more water, was it "
            "drained, was the pot's weight "
            "taken off, is a line missing?"
        )
    return (
        f"{text}. Lighter than usual: was it cooked down further, was all the water added, is "
        "a line too heavy?"
    )


POURS = (1.0, "1 g per mL (± 15 %, common practice)")


def read_yield(
    text: str, household: Household = US_HOUSEHOLD, density: tuple[float, str] = POURS
) -> tuple[float, str]:
    """A measured yield as written, in g with how: "2.9 kg less 1.16 kg", "7 heaped ladles", "12 x
    45 g", "6 cups".

    Volumes are taken at the dish's own `density`, in g per mL with how it is known. Raises
    DieteticsError `yield-unreadable`.
    """
    words = clean(readable(text, MOST_LINE)).lower().replace("×", "x").replace("−", "-")
    parts = [
        p
        for p in words.replace(" minus ", " less ").replace(" - ", " less ").split(" less ")
        if p.strip()
    ]
    if not parts:
        raise DieteticsError("yield-unreadable", text=text)
    measures = _Measures(household, density, text)
    weights = [_one_weight(part.strip(), measures) for part in parts]
    grams = weights[0][0] - sum(w for w, _ in weights[1:])
    if grams <= 0:
        raise DieteticsError("yield-not-positive", grams=grams)
    if grams > MOST_YIELD_G:
        raise DieteticsError("amount-absurd", text=text, grams=grams, limit_kg=MOST_YIELD_G / 1000)
    return grams, " less ".join(how for _, how in weights)


@dataclass(frozen=True)
class _Measures:
    """What a written yield is weighed with: cups and spoons, the dish's density, and the whole text
    for errors.
    """

    household: Household
    density: tuple[float, str]
    text: str


def _one_weight(part: str, measures: _Measures) -> tuple[float, str]:
    level = next((factor for word, factor in _LEVELS.items() if word in part.split()), 1.0)
    plain = " ".join(word for word in part.split() if word not in _LEVELS)
    plain = re.sub(r"^(\S+)\s+[a-z]+\s+(?:of|at)\s+(?=[\d½¼¾⅓⅔])", r"\1 x ", plain)
    count, _, each = plain.partition(" x ")
    if each:
        one, how = _one_weight(each, measures)
        number = _weight_figure(count, measures.text)
        return number * one, f"{number:g} × {how}"
    if "ladle" in plain:
        number = _weight_figure(plain.split()[0], measures.text)
        grams = number * LADLE_ML * level * measures.density[0]
        return grams, f"{number:g} ladles of {LADLE_ML * level:.0f} mL at {measures.density[1]}"
    amount = read_amount(tokenise(plain))
    if amount is None or len(amount.terms) != 1:
        raise DieteticsError("yield-unreadable", text=measures.text)
    return _weight_of(amount.terms[0], level, measures)


def _weight_of(term: Term, level: float, measures: _Measures) -> tuple[float, str]:
    number = float(term.quantity.likely)
    if term.container is not None:
        one, how = _weight_of(term.container, level, measures)
        return number * one, f"{number:g} × {how}"
    if term.unit is None:
        raise DieteticsError("yield-unreadable", text=measures.text)
    if term.unit.kind == "mass":
        return number * term.unit.worth, f"{number:g} {term.unit.singular}"
    if term.unit.kind == "volume":
        grams = number * millilitres(term.unit, measures.household) * level * measures.density[0]
        return grams, f"{number:g} {term.unit.singular} at {measures.density[1]}"
    raise DieteticsError("yield-unreadable", text=measures.text)


def _weight_figure(text: str, whole: str) -> float:
    amount = read_amount(tokenise(text.strip()))
    if amount is None:
        raise DieteticsError("yield-unreadable", text=whole)
    return float(amount.terms[0].quantity.likely)


@dataclass(frozen=True)
class Retained:
    """A food after what heat and drained water take; what no factor is known for stays whole."""

    content: Composed
    shares: Mapping[str, float]

    @property
    def name(self) -> str:
        """The food's plain name."""
        return self.content.name

    def known_per_100g(self, key: str) -> tuple[float | None, float]:
        """The row's cell × the share that is left."""
        value, known = self.content.known_per_100g(key)
        return (None if value is None else value * self.shares.get(key, 1.0)), known


@dataclass(frozen=True)
class AddedWater:
    """Water put in afterwards or boiled away: weight and nothing else, whatever minerals a tap
    has.
    """

    name: str = "Water"

    def known_per_100g(self, key: str) -> tuple[float | None, float]:
        """Nothing of anything, wholly known."""
        return 0.0, 1.0


@lru_cache(maxsize=1)
def _retention() -> Mapping[tuple[str, str], Mapping[str, float]]:
    found: dict[tuple[str, str], dict[str, float]] = {}
    for row in read_table("retention.csv"):
        found.setdefault((row["method"], row["group"]), {})[row["nutrient"]] = float(row["share"])
    return found


def retained(item: Item, method: str) -> Item:
    """An item after its method has taken what it takes; the same item where nothing is known or it
    was cooked already.
    """
    if not isinstance(item.content, FoodContent) or item.content.food.state not in _UNCOOKED:
        return item
    shares = _retention().get((method, item.content.food.group))
    if not shares:
        return item
    how = f"{item.how}; after {METHODS[method]}: {RETENTION_SOURCE}"
    return Item(
        item.label, Retained(item.content, shares), item.grams, item.grams_low, item.grams_high, how
    )
