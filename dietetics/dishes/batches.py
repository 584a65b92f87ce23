"""A batch: ingredients of known weight, the yield that came out of the pot, and its servings.

Water added or boiled away changes the weight and the density and nothing else.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

from dietetics.composition.derivation import Derivation, explain_density, explain_sum
from dietetics.composition.sums import Composition, FoodContent, Item, compose
from dietetics.errors import DieteticsError
from dietetics.nutrients import DENSITY, nutrient

# A yield below this share of what went in is legal (water boils away) but worth a second look.
SURPRISING_LOSS = 0.40
LEAST_SERVINGS, MOST_SERVINGS = (
    0.01,
    100_000.0,
)  # a pot for a regiment; beyond that divisions lose their meaning
SERVINGS_NOT_WRITTEN = "No number of servings: figures are for the whole batch and per 100 g."


def is_possible(servings: float) -> bool:
    """True for a number of servings that a pot can be divided into."""
    return LEAST_SERVINGS <= servings <= MOST_SERVINGS


@dataclass(frozen=True)
class Batch:
    """Ingredients with what came out. `yield_g` None means that nobody weighed it: what it is
    expected to weigh (`expected_g`: low, likely, high) stands in, or the weight of the ingredients.

    `servings` None means that nobody said how many: figures are of the whole and of 100 g. `unread`
    holds the written lines that gave no food with a weight: they count as unknown in every figure;
    `cooked` the places of the items that are heated.
    Raises DieteticsError for a yield or servings that are not positive; a measured yield is never
    refused for being surprising.
    """

    name: str
    items: tuple[Item, ...]
    yield_g: float | None = None
    servings: float | None = None
    unread: tuple[str, ...] = ()
    expected_g: tuple[float, float, float] | None = None
    cooked: frozenset[int] = frozenset()

    def __post_init__(self) -> None:
        if self.yield_g is not None and self.yield_g <= 0:
            raise DieteticsError("yield-not-positive", grams=self.yield_g)
        if self.servings is not None and not is_possible(self.servings):
            raise DieteticsError("servings-not-positive", servings=self.servings)

    @cached_property
    def ingredients_g(self) -> float:
        """Weight of everything that went in, in g."""
        return sum(item.grams for item in self.items)

    @property
    def weight_g(self) -> float:
        """Weight of the batch as it came out, in g."""
        return self.weights_g[1]

    @cached_property
    def weights_g(self) -> tuple[float, float, float]:
        """The least, the likely and the greatest weight of the batch as it came out, in g: one and
        the same where it was weighed.
        """
        if self.yield_g is not None:
            return self.yield_g, self.yield_g, self.yield_g
        whole = self.ingredients_g
        return self.expected_g or (whole, whole, whole)

    @property
    def is_expected(self) -> bool:
        """True where nobody weighed it and what cooking does to it is expected."""
        return self.yield_g is None and self.expected_g is not None

    @property
    def weight_note(self) -> str:
        """How the weight is known."""
        if self.yield_g is not None:
            return "measured yield"
        if self.expected_g is None:
            return "ingredients weighed together, no yield measured"
        low, _, high = self.expected_g
        return f"expected when cooked, {low:,.0f}–{high:,.0f} g; nobody weighed it"

    @property
    def known_servings(self) -> float:
        """How many servings it makes. Raises DieteticsError `servings-unknown` where nobody
        said.
        """
        if self.servings is None:
            raise DieteticsError("servings-unknown", name=self.name)
        return self.servings

    @property
    def serving_g(self) -> float:
        """Weight of one serving, in g. Raises DieteticsError `servings-unknown` where nobody said
        how many.
        """
        return self.weight_g / self.known_servings

    @cached_property
    def total(self) -> Composition:
        """Composition of the whole batch; the energy density with the range of the weight."""
        whole = compose(self.items, self.weight_g, unread=len(self.unread))
        if not self.is_expected or not self.weight_g:
            return whole
        least, likely, most = self.weights_g
        density = whole[DENSITY].within(likely / most, likely / least)
        return Composition(whole.grams, {**whole.figures, DENSITY: density})

    @cached_property
    def per_serving(self) -> Composition:
        """Composition of one serving. Raises DieteticsError `servings-unknown` where nobody said
        how many.
        """
        return self.total.scaled(1 / self.known_servings)

    @property
    def shown(self) -> tuple[str, float, Composition]:
        """What a figure is shown of: a serving, or 100 g where nobody said how many servings there
        are; with its grams.
        """
        if self.servings is None:
            return "100 g", 100.0, self.per_100g
        return "A serving", self.serving_g, self.per_serving

    @property
    def unread_lines(self) -> int:
        """Lines that were not read, of this batch and of the batches in it."""
        return self.total.unread

    @cached_property
    def per_100g(self) -> Composition:
        """Composition of 100 g as it came out."""
        if not self.weight_g:
            return self.total
        least, likely, most = self.weights_g
        return self.total.scaled(100 / likely).within(likely / most, likely / least)

    def remarks(self) -> list[str]:
        """What a careful colleague would ask about servings and yield; empty when nothing."""
        found = []
        if self.servings is None:
            found.append(SERVINGS_NOT_WRITTEN)
        if self.yield_g is None:
            found.append(self._not_weighed())
        elif self.ingredients_g and 1 - self.yield_g / self.ingredients_g > SURPRISING_LOSS:
            found.append(
                f"{1 - self.yield_g / self.ingredients_g:.0%} of the weight was lost "
                f"({self.ingredients_g:,.0f} g of ingredients, "
                f"{self.yield_g:,.0f} g cooked). That is a lot: was all the water included, was "
                "something drained, "
                "is a line too heavy?"
            )
        elif (
            self.ingredients_g and self.yield_g > sum(item.grams_high for item in self.items) * 1.02
        ):
            found.append(self._gained())
        return found

    def _not_weighed(self) -> str:
        if self.expected_g is None:
            return "No cooked weight entered: the total weight of the ingredients is used instead."
        low, likely, high = self.expected_g
        return (
            f"No cooked weight entered: {likely:,.0f} g is expected ({low:,.0f}–{high:,.0f} g; "
            f"{self.ingredients_g:,.0f} g went in) and used instead. Weigh it to be sure."
        )

    def _gained(self) -> str:
        """What a yield heavier than the ingredients usually means."""
        gained = (self.yield_g or 0.0) - self.ingredients_g
        dry = [
            i.label
            for i in self.items
            if isinstance(i.content, FoodContent) and i.content.food.state == "dry"
        ]
        taken = (
            f"{' and '.join(dry[:3])} absorbed water that no line lists"
            if dry
            else "is a line missing, or water"
        )
        ask = "as it should be" if dry else "or was the pot's own weight included"
        return f"The cooked weight is {gained:,.0f} g more than the ingredients: {taken}; {ask}."


@dataclass(frozen=True)
class BatchContent:
    """A batch seen as something a bowl can hold a portion of."""

    batch: Batch

    @property
    def name(self) -> str:
        """The batch's name."""
        return self.batch.name

    @property
    def unread_lines(self) -> int:
        """Lines of the batch that were not read."""
        return self.batch.unread_lines

    @property
    def spread(self) -> tuple[float, float]:
        """How far an amount of 100 g may lie from what is said, as factors: the weight may be
        another where nobody measured it.
        """
        least, likely, most = self.batch.weights_g
        return (likely / most, likely / least) if least > 0 else (1.0, 1.0)

    def known_per_100g(self, key: str) -> tuple[float | None, float]:
        """Known amount per 100 g of the batch as it came out, and the share of the weight it is
        known for.
        """
        figure = self.batch.per_100g[key]
        return figure.amount, figure.coverage

    def explain_per_100g(self, key: str) -> Derivation:
        """Where the batch's figure comes from: its ingredients, ÷ its weight."""
        batch = self.batch
        whole = explain_batch(batch, key)
        per_100g = batch.per_100g[key]
        sentence = (
            f"The whole batch, {batch.weight_g:,.0f} g ({batch.weight_note}), ÷ "
            f"{batch.weight_g / 100:,.2f}."
        )
        amount = (
            "unknown"
            if per_100g.amount is None
            else f"{nutrient(key).number(per_100g.amount, 2)} {nutrient(key).unit}"
        )
        return Derivation(f"100 g of {batch.name}", amount, sentence, per_100g.amount, (whole,))


def explain_batch(batch: Batch, key: str) -> Derivation:
    """Derive a figure of the whole batch from its ingredients."""
    one = nutrient(key)
    if key == DENSITY:
        note = f"{batch.weight_note[0].upper()}{batch.weight_note[1:]}."
        return explain_density(
            f"{one.name} of {batch.name}", batch.items, batch.weight_g, note, len(batch.unread)
        )
    return explain_sum(f"{one.name} in the whole batch", batch.items, key, len(batch.unread))


def explain_serving(batch: Batch, key: str) -> Derivation:
    """Derive a figure of one serving: the whole batch ÷ its servings."""
    whole = explain_batch(batch, key)
    if key == DENSITY:
        return whole
    figure = batch.per_serving[key]
    value = figure.amount
    divided = "" if value is None else f" = {nutrient(key).number(value, 1)} {nutrient(key).unit}"
    sentence = (
        f"The whole batch ÷ {batch.known_servings:g} servings{divided}; a serving weighs "
        f"{batch.serving_g:,.0f} g."
    )
    return Derivation(
        f"{nutrient(key).name} in one serving of {batch.name}",
        figure.text(),
        sentence,
        value,
        (whole,),
    )
