"""Sums in which unknown stays unknown: items of known weight, figures that carry their known share.

An `Item` is a weighed amount of something composed (a food, or a serving of a batch). A `Figure` is
one nutrient summed over items: the known part, and the share of the weight it is known for.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Protocol

from dietetics.composition.foods import Food
from dietetics.nutrients import ADDITIVE_KEYS, DENSITY, nutrient


class Composed(Protocol):
    """Anything with a composition per 100 g: a food, or a cooked batch."""

    @property
    def name(self) -> str:
        """Its plain name."""

    def known_per_100g(self, key: str) -> tuple[float | None, float]:
        """Return (known amount per 100 g or None, share of the weight it is known for, 0 to 1)."""


@dataclass(frozen=True)
class FoodContent:
    """A food seen as something composed."""

    food: Food

    @property
    def name(self) -> str:
        """The food's plain name."""
        return self.food.name

    def known_per_100g(self, key: str) -> tuple[float | None, float]:
        """The row's cell: wholly known or wholly unknown."""
        value = self.food.per_100g.get(key)
        return value, 0.0 if value is None else 1.0


@dataclass(frozen=True)
class Item:
    """A weighed amount of something composed, with the honest span of its weight and how it was
    found.
    """

    label: str
    content: Composed
    grams: float
    grams_low: float
    grams_high: float
    how: str = ""

    @classmethod
    def exact(cls, label: str, content: Composed, grams: float, how: str = "weighed") -> Item:
        """An item whose grams were given."""
        return cls(label, content, grams, grams, grams, how)


@dataclass(frozen=True)
class Asked:
    """What a line may mean that can mean two things: it is there for allergens and for shopping,
    and counts in no figure until somebody says which it is.
    """

    content: Composed

    @property
    def name(self) -> str:
        """The name of what it was understood as."""
        return self.content.name

    def known_per_100g(self, key: str) -> tuple[float | None, float]:
        """Unknown, whatever the row says."""
        return None, 0.0


def asked(item: Item) -> Item:
    """An item whose line is still asked about."""
    return replace(item, content=Asked(item.content))


@dataclass(frozen=True)
class Figure:
    """One nutrient of a sum. `amount` is the known part; `coverage` the known share of the weight
    (0 to 1).

    `unread` counts written lines that gave no food: their weight is unknown, so they lower no share
    and still leave the figure open.
    """

    key: str
    amount: float | None
    low: float | None
    high: float | None
    coverage: float
    unread: int = 0

    @property
    def complete(self) -> bool:
        """True when nothing that counts is unknown."""
        return self.amount is not None and self.coverage > 1 - 1e-9 and not self.unread

    @property
    def unknown_share(self) -> float:
        """Share of the weight for which this nutrient is unknown, 0 to 1."""
        return max(0.0, 1.0 - self.coverage)

    def text(self) -> str:
        """The figure in words: "12 mg", "at least 12 mg, 18 % of the weight unknown", or
        "unknown".
        """
        if self.amount is None:
            return "unknown"
        value = nutrient(self.key).text(self.amount)
        if self.complete:
            return value
        if self.amount == 0 and nutrient(self.key).kind == "table":
            return f"unknown, {self.open_words()}"
        hedge = "about" if nutrient(self.key).kind != "table" else "at least"
        return f"{hedge} {value}, {self.open_words()}"

    def open_words(self) -> str:
        """What of it is unknown: "18 % of the weight unknown, 1 line not read"; "" where nothing
        is.
        """
        found = []
        if self.coverage <= 1 - 1e-9:
            found.append(f"{max(1, round(self.unknown_share * 100))} % of the weight unknown")
        if self.unread:
            found.append(f"{self.unread} line{'' if self.unread == 1 else 's'} not understood")
        return ", ".join(found)

    def shown(self) -> str:
        """The figure in a cell: "12 mg", "≥ 12 mg" or "≈ 1.2 kcal/g" where a part is unknown, or
        "unknown".
        """
        if self.amount is None:
            return "unknown"
        one = nutrient(self.key)
        hedge = "" if self.complete else ("≥ " if one.kind == "table" else "≈ ")
        return hedge + one.text(self.amount)

    def scaled(self, factor: float) -> Figure:
        """The same figure of `factor` times as much food; the known share stays."""

        def times(value: float | None) -> float | None:
            return None if value is None else value * factor

        return Figure(
            self.key,
            times(self.amount),
            times(self.low),
            times(self.high),
            self.coverage,
            self.unread,
        )

    def within(self, least: float, most: float) -> Figure:
        """The same figure with its range widened by factors, for a weight that is not known well:
        `least` at most 1, `most` at least 1.
        """
        low = None if self.low is None else self.low * least
        high = None if self.high is None else self.high * most
        return Figure(self.key, self.amount, low, high, self.coverage, self.unread)


@dataclass(frozen=True)
class Composition:
    """All figures of a weighed whole."""

    grams: float
    figures: Mapping[str, Figure]

    @property
    def unread(self) -> int:
        """Written lines in it that gave no food."""
        return self.figures[DENSITY].unread

    def __getitem__(self, key: str) -> Figure:
        return self.figures[nutrient(key).key]

    def scaled(self, factor: float) -> Composition:
        """The composition of `factor` times as much; densities stay."""
        return Composition(
            self.grams * factor,
            {
                k: f if nutrient(k).kind == "ratio" else f.scaled(factor)
                for k, f in self.figures.items()
            },
        )

    def within(self, least: float, most: float) -> Composition:
        """The same amounts with their ranges widened by factors; densities stay."""
        if least == most == 1.0:
            return self
        return Composition(
            self.grams,
            {
                k: f if nutrient(k).kind == "ratio" else f.within(least, most)
                for k, f in self.figures.items()
            },
        )


def spread_of(content: Composed) -> tuple[float, float]:
    """How far an amount of 100 g may lie from what is said, as factors: (1, 1) but for a dish whose
    weight nobody measured.
    """
    spread: tuple[float, float] = getattr(content, "spread", (1.0, 1.0))
    return spread


def unread_lines(items: Sequence[Item]) -> int:
    """Lines not read in the dishes among the items: a dish that lacks a line is open wherever it
    goes.
    """
    return sum(getattr(item.content, "unread_lines", 0) for item in items)


def total_figure(items: Sequence[Item], key: str, unread: int = 0) -> Figure:
    """Sum one additive nutrient over items. Unknown rows add nothing and lower the coverage.

    Zero weight is fully covered: nothing is unknown about nothing. `unread` counts lines beside the
    items.
    """
    amount = low = high = known_g = total_g = 0.0
    anything = False
    for item in items:
        value, share = item.content.known_per_100g(key)
        total_g += item.grams
        if value is None:
            continue
        anything = True
        known_g += item.grams * share
        amount += value * item.grams / 100
        ends = sorted((value * item.grams_low / 100, value * item.grams_high / 100))
        least, most = spread_of(item.content)
        low += ends[0] * (least if value >= 0 else most)
        high += ends[1] * (most if value >= 0 else least)
    missing = unread + unread_lines(items)
    if not anything:
        return Figure(
            key,
            None if items or missing else 0.0,
            None,
            None,
            0.0 if items or missing else 1.0,
            missing,
        )
    return Figure(key, amount, low, high, known_g / total_g if total_g else 1.0, missing)


def density_figure(energy: Figure, grams: float) -> Figure:
    """Energy density in kcal per gram as eaten, water included. Unknown without energy or
    weight.
    """
    if energy.amount is None or grams <= 0:
        return Figure(DENSITY, None, None, None, energy.coverage, energy.unread)
    value = energy.amount / grams
    return Figure(DENSITY, value, value, value, energy.coverage, energy.unread)


def compose(items: Sequence[Item], grams: float | None = None, unread: int = 0) -> Composition:
    """Sum all nutrients over items. `grams` replaces the summed weight where a yield was
    measured.
    """
    figures = {key: total_figure(items, key, unread) for key in ADDITIVE_KEYS}
    weight = sum(item.grams for item in items) if grams is None else grams
    density = density_figure(figures["energy_kcal"], weight)
    figures[DENSITY] = density.within(*_spread_of_energy(items, figures["energy_kcal"]))
    return Composition(weight, figures)


def _spread_of_energy(items: Sequence[Item], energy: Figure) -> tuple[float, float]:
    """How far the energy may lie from what is said for dishes that nobody weighed, as factors."""
    least = most = energy.amount or 0.0
    for item in items:
        low, high = spread_of(item.content)
        value = item.content.known_per_100g("energy_kcal")[0] or 0.0
        least += value * item.grams / 100 * (low - 1)
        most += value * item.grams / 100 * (high - 1)
    return (least / energy.amount, most / energy.amount) if energy.amount else (1.0, 1.0)


def together(parts: Sequence[Composition]) -> Composition:
    """Compositions eaten together. What is unknown of one lowers the known share of the whole by
    its weight.
    """
    grams = sum(part.grams for part in parts)
    unread = sum(part.unread for part in parts)
    figures = {key: _joined(key, parts, grams, unread) for key in ADDITIVE_KEYS}
    figures[DENSITY] = density_figure(figures["energy_kcal"], grams)
    return Composition(grams, figures)


def _joined(key: str, parts: Sequence[Composition], grams: float, unread: int) -> Figure:
    amount = low = high = known = 0.0
    anything = False
    for part in parts:
        figure = part.figures[key]
        if figure.amount is not None:
            anything = True
            amount += figure.amount
            low += figure.low or 0.0
            high += figure.high or 0.0
            known += figure.coverage * part.grams
    if not anything:
        return Figure(key, None if parts else 0.0, None, None, 0.0 if parts else 1.0, unread)
    return Figure(key, amount, low, high, known / grams if grams else 1.0, unread)
