"""A batch: ingredients of known weight, the yield that came out of the pot, and its servings.

Water added or boiled away changes the weight and the density and nothing else.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

from dietetics.composition.derivation import Derivation, explain_density, explain_sum
from dietetics.composition.sums import Composition, Item, compose
from dietetics.errors import DieteticsError
from dietetics.nutrients import DENSITY, nutrient

# A yield below this share of what went in is legal (water boils away) but worth a second look.
SURPRISING_LOSS = 0.40


@dataclass(frozen=True)
class Batch:
    """Ingredients with what came out. `yield_g` None means the weight of the ingredients stands in.

    Raises DieteticsError for a yield that is not positive or heavier than what went in (with 2 % for the
    scale), and for servings that are not positive.
    """

    name: str
    items: tuple[Item, ...]
    yield_g: float | None = None
    servings: float = 1.0
    serving_note: str = ""

    def __post_init__(self) -> None:
        if self.yield_g is not None:
            if self.yield_g <= 0:
                raise DieteticsError("yield-not-positive", grams=self.yield_g)
            highest = sum(item.grams_high for item in self.items)
            if self.items and self.yield_g > highest * 1.02:
                raise DieteticsError("yield-too-heavy", grams=self.yield_g, ingredients=self.ingredients_g)
        if self.servings <= 0:
            raise DieteticsError("servings-not-positive", servings=self.servings)

    @cached_property
    def ingredients_g(self) -> float:
        """Weight of everything that went in, in g."""
        return sum(item.grams for item in self.items)

    @property
    def weight_g(self) -> float:
        """Weight of the batch as it came out, in g."""
        return self.ingredients_g if self.yield_g is None else self.yield_g

    @property
    def serving_g(self) -> float:
        """Weight of one serving, in g."""
        return self.weight_g / self.servings

    @cached_property
    def total(self) -> Composition:
        """Composition of the whole batch."""
        return compose(self.items, self.weight_g)

    @cached_property
    def per_serving(self) -> Composition:
        """Composition of one serving."""
        return self.total.scaled(1 / self.servings)

    @cached_property
    def per_100g(self) -> Composition:
        """Composition of 100 g as it came out."""
        return self.total.scaled(100 / self.weight_g) if self.weight_g else self.total

    def remarks(self) -> list[str]:
        """What a careful colleague would ask about the yield; empty when nothing."""
        if self.yield_g is None:
            return ["No yield was measured: the weight of the ingredients stands in for it."]
        if not self.ingredients_g:
            return []
        lost = 1 - self.yield_g / self.ingredients_g
        if lost > SURPRISING_LOSS:
            return [
                f"{lost:.0%} of what went in is gone ({self.ingredients_g:,.0f} g in, {self.yield_g:,.0f} g out). "
                "That is a long boil: was the water all added, was something drained, is a line too heavy?"
            ]
        return []


@dataclass(frozen=True)
class BatchContent:
    """A batch seen as something a bowl can hold a portion of."""

    batch: Batch

    @property
    def name(self) -> str:
        """The batch's name."""
        return self.batch.name

    def known_per_100g(self, key: str) -> tuple[float | None, float]:
        """Known amount per 100 g of the batch as it came out, and the share of the weight it is known for."""
        figure = self.batch.per_100g[key]
        return figure.amount, figure.coverage

    def explain_per_100g(self, key: str) -> Derivation:
        """Where the batch's figure comes from: its ingredients, ÷ its weight."""
        batch = self.batch
        whole = explain_batch(batch, key)
        per_100g = batch.per_100g[key]
        weighed = "measured yield" if batch.yield_g is not None else "ingredients weighed together, no yield measured"
        sentence = f"The whole batch, {batch.weight_g:,.0f} g ({weighed}), ÷ {batch.weight_g / 100:,.2f}."
        amount = (
            "unknown" if per_100g.amount is None else f"{nutrient(key).number(per_100g.amount, 2)} {nutrient(key).unit}"
        )
        return Derivation(f"100 g of {batch.name}", amount, sentence, per_100g.amount, (whole,))


def explain_batch(batch: Batch, key: str) -> Derivation:
    """Derive a figure of the whole batch from its ingredients."""
    one = nutrient(key)
    if key == DENSITY:
        note = "Measured yield." if batch.yield_g is not None else "Sum of the ingredients; no yield was measured."
        return explain_density(f"{one.name} of {batch.name}", batch.items, batch.weight_g, note)
    return explain_sum(f"{one.name} in the whole batch", batch.items, key)


def explain_serving(batch: Batch, key: str) -> Derivation:
    """Derive a figure of one serving: the whole batch ÷ its servings."""
    whole = explain_batch(batch, key)
    if key == DENSITY:
        return whole
    figure = batch.per_serving[key]
    value = figure.amount
    divided = "" if value is None else f" = {nutrient(key).number(value, 1)} {nutrient(key).unit}"
    sentence = f"The whole batch ÷ {batch.servings:g} servings{divided}; a serving weighs {batch.serving_g:,.0f} g."
    return Derivation(f"{nutrient(key).name} in one serving of {batch.name}", figure.text(), sentence, value, (whole,))


def make_batch(
    name: str, items: Sequence[Item], yield_g: float | None, servings: float | None, serving_note: str = ""
) -> Batch:
    """Make a batch; without servings it is one serving."""
    return Batch(name, tuple(items), yield_g, servings if servings is not None else 1.0, serving_note)
