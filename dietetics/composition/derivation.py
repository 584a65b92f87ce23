"""The way back of a figure: a tree of plain steps, from the total to the row of the table.

The *Why?* drawer is drawn from this, and a test adds its numbers up again.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import ROUND_FLOOR, Decimal

from dietetics.composition.acidload import PRAL_SOURCE, PRAL_TERMS
from dietetics.composition.sums import Asked, Composed, FoodContent, Item, total_figure
from dietetics.nutrients import ACID_LOAD, nutrient

EXTRA_DECIMALS = 1


@dataclass(frozen=True)
class Derivation:
    """One step: what it is about, the figure in words, the sentence that explains it, and the steps
    below.
    """

    title: str
    figure: str
    sentence: str
    value: float | None
    parts: tuple[Derivation, ...] = ()
    source: str = ""


def rounded_to_sum(values: Sequence[float], decimals: int) -> list[Decimal]:
    """Round `values` so that the rounded parts add up exactly to the rounded total (largest
    remainder).
    """
    unit = Decimal(1).scaleb(-decimals)
    exact = [Decimal(repr(float(v))) for v in values]
    floors = [(v / unit).to_integral_value(ROUND_FLOOR) for v in exact]
    target = int((sum(exact, Decimal(0)) / unit).to_integral_value())
    missing = target - int(sum(floors, Decimal(0)))
    by_remainder = sorted(range(len(exact)), key=lambda i: (-(exact[i] / unit - floors[i]), i))
    for i in by_remainder[:missing]:
        floors[i] += 1
    return [f * unit for f in floors]


def explain_item(item: Item, key: str, shown: Decimal | None) -> Derivation:
    """Derive one item's share of a figure: grams × per 100 g of its row, or of its batch."""
    unit = nutrient(key).unit
    per_100g, share = item.content.known_per_100g(key)
    weight = f"{item.grams:,.1f} g"
    span = ""
    if item.grams_high - item.grams_low > 0.05:
        span = f" (between {item.grams_low:,.0f} and {item.grams_high:,.0f} g)"
    found = f"{weight}{span}: {item.how}." if item.how else f"{weight}{span}."
    if per_100g is None:
        return Derivation(
            item.label,
            "unknown",
            f"{found} {_why_unknown(item, key)}",
            None,
            source=_source(item.content, key),
        )
    partly = "" if share > 1 - 1e-9 else f" Known for {share:.0%} of its weight."
    sentence = f"{found} × {nutrient(key).number(per_100g, 2)} {unit} per 100 g.{partly}"
    value = per_100g * item.grams / 100
    figure = f"{shown if shown is not None else nutrient(key).number(value, EXTRA_DECIMALS)} {unit}"
    deeper = getattr(item.content, "explain_per_100g", None)
    parts: tuple[Derivation, ...] = ()
    if deeper is not None:
        parts = (deeper(key),)
    elif key == ACID_LOAD:
        parts = _acid_load_terms(item)
    return Derivation(item.label, figure, sentence, value, parts, _source(item.content, key))


def _why_unknown(item: Item, key: str) -> str:
    if not isinstance(item.content, Asked):
        return "The row has no value: unknown, not zero."
    words = "Two meanings are possible: it counts once that is answered."
    value, _ = item.content.content.known_per_100g(key)
    if value is None or nutrient(key).kind == "ratio":
        return words
    low, high = (value * grams / 100 for grams in (item.grams_low, item.grams_high))
    one = nutrient(key)
    span = one.text(high)
    if one.text(low) != span:
        span = f"{one.number(low)} to {span}"
    return f"{words} As understood first it would add {span}."


def explain_sum(title: str, items: Sequence[Item], key: str, unread: int = 0) -> Derivation:
    """Derive an additive figure of several items. The parts' shown figures add up to the total
    shown.
    """
    one = nutrient(key)
    figure = total_figure(items, key, unread)
    known = [item for item in items if item.content.known_per_100g(key)[0] is not None]
    amounts = [(item.content.known_per_100g(key)[0] or 0.0) * item.grams / 100 for item in known]
    shown = dict(
        zip(
            map(id, known),
            rounded_to_sum([a * one.factor for a in amounts], one.decimals + EXTRA_DECIMALS),
            strict=True,
        )
    )
    parts = tuple(explain_item(item, key, shown.get(id(item))) for item in items)
    total = sum(shown.values(), Decimal(0))
    sentence = f"The sum of its parts: {total} {one.unit}." if known else "No part has a value."
    if figure.amount is not None and not figure.complete:
        sentence += f" Unknown, and left out of this sum: {figure.open_words()}."
    if key == ACID_LOAD:
        sentence += " Acid load = 0.49 protein + 0.037 P − 0.021 K − 0.026 Mg − 0.013 Ca."
    return Derivation(
        title,
        figure.text(),
        sentence,
        figure.amount,
        parts,
        PRAL_SOURCE if key == ACID_LOAD else "",
    )


def explain_density(
    title: str, items: Sequence[Item], grams: float, weight_note: str, unread: int = 0
) -> Derivation:
    """Derive energy density: the energy sum ÷ the weight as eaten."""
    energy = explain_sum("Energy", items, "energy_kcal", unread)
    weight = Derivation("Weight as eaten", f"{grams:,.1f} g", weight_note, grams)
    if energy.value is None or grams <= 0:
        return Derivation(title, "unknown", "Energy or weight is unknown.", None, (energy, weight))
    value = energy.value / grams
    sentence = f"{nutrient('energy_kcal').text(energy.value)} ÷ {grams:,.1f} g, water included."
    return Derivation(title, nutrient("kcal_per_g").text(value), sentence, value, (energy, weight))


def _acid_load_terms(item: Item) -> tuple[Derivation, ...]:
    terms = []
    for key, weight in PRAL_TERMS.items():
        per_100g, _ = item.content.known_per_100g(key)
        one = nutrient(key)
        if per_100g is None:
            continue
        amount = per_100g * item.grams / 100
        terms.append(
            Derivation(
                one.name,
                f"{weight * amount:+.2f} mEq",
                f"{one.text(amount)} × {weight:+g}.",
                weight * amount,
            )
        )
    return tuple(terms)


def _source(content: Composed, key: str) -> str:
    if isinstance(content, FoodContent):
        return (
            content.food.source
            if nutrient(key).kind == "table"
            else f"{content.food.source}; {PRAL_SOURCE}"
        )
    return ""
