"""Two plates: the same food energy, or the same protein, side by side, and where the difference
comes from.

A dish is anything with items and a volume. Scaled to equal energy, the lighter one is more food:
that is the argument.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

from dietetics.composition.sums import Composition, Item, compose
from dietetics.dishes.bowls import foods_within
from dietetics.nutrients import nutrient

SAID = ("energy_kcal", "protein_g", "fat_g", "fibre_g", "sodium_mg", "potassium_mg")
AS_MUCH = 0.05  # of the weight or the room: less is nothing to argue with
WORTH_SAYING = 0.03  # a difference under 3 % of the larger is the same


@dataclass(frozen=True)
class Plate:
    """One side of a comparison: a name, its items (a bowl's, or one serving of a dish's), and the
    room it takes.
    """

    name: str
    items: tuple[Item, ...]
    grams: float
    volume_ml: float
    factor: float = 1.0

    @cached_property
    def total(self) -> Composition:
        """Its composition, at its factor."""
        return compose(self.items, self.grams / self.factor).scaled(self.factor)

    def scaled(self, factor: float) -> Plate:
        """`factor` times as much of it as served."""
        return Plate(
            self.name,
            self.items,
            self.grams * factor,
            self.volume_ml * factor,
            self.factor * factor,
        )


def at_equal(plates: Sequence[Plate], key: str) -> list[Plate] | None:
    """Every plate scaled to the first one's figure; None where one of them has none."""
    base = plates[0].total[key].amount
    amounts = [plate.total[key].amount for plate in plates]
    if not base or any(not amount for amount in amounts):
        return None
    return [
        plate.scaled(base / (amount or base)) for plate, amount in zip(plates, amounts, strict=True)
    ]


@dataclass(frozen=True)
class Contribution:
    """What one food brings to the difference of a figure between two plates."""

    name: str
    before: float
    after: float

    @property
    def change(self) -> float:
        """After less before."""
        return self.after - self.before


def by_food(plate: Plate, key: str) -> dict[str, float]:
    """A figure of a plate by food, dishes taken apart; what is unknown, or asked, adds nothing."""
    found: dict[str, float] = {}
    for item in plate.items:
        for one in foods_within(item):
            value = 0.0 if one.asked else one.food.per_100g.get(key)
            if value:
                name, amount = one.food.name, value * one.grams / 100 * plate.factor
                found[name] = found.get(name, 0.0) + amount
    return found


def waterfall(first: Plate, second: Plate, key: str, most: int = 7) -> list[Contribution]:
    """Where the difference of a figure comes from, the largest first; small ones are gathered so
    that all add up.
    """
    a, b = by_food(first, key), by_food(second, key)
    rows = [
        Contribution(name, a.get(name, 0.0), b.get(name, 0.0)) for name in dict.fromkeys([*a, *b])
    ]
    rows = sorted((r for r in rows if abs(r.change) > 1e-9), key=lambda r: (-abs(r.change), r.name))
    kept, rest = rows[:most], rows[most:]
    if rest:
        kept.append(
            Contribution("everything else", sum(r.before for r in rest), sum(r.after for r in rest))
        )
    return kept


def difference_sentence(first: Plate, second: Plate) -> str:
    """The difference in plain words, seen from the first plate: "same protein, 410 kcal less, 13 g
    less fat".

    "about" stands where a part of either figure is unknown.
    """
    same, less = [], []
    for key in SAID:
        a, b = first.total[key].amount, second.total[key].amount
        if a is None or b is None:
            continue
        one = nutrient(key)
        name = "" if key == "energy_kcal" else f" {one.name_in_text}"
        if abs(b - a) <= WORTH_SAYING * max(abs(a), abs(b)) or one.rounded(a) == one.rounded(b):
            same.append("energy" if key == "energy_kcal" else one.name_in_text)
        else:
            sure = first.total[key].complete and second.total[key].complete
            less.append(
                f"{'' if sure else 'about '}{one.text(abs(b - a))} "
                f"{'less' if b < a else 'more'}{name}"
            )
    start = f"same {' and '.join(same)}, " if same else ""
    return (start + ", ".join(less)).rstrip(", ") or "no difference"


def more_food_words(first: Plate, second: Plate) -> str:
    """How much more food one of two plates gives: "1.8 × the weight and 2.1 × the room"; nothing
    where it is as much.
    """
    if not first.grams or not first.volume_ml:
        return ""
    weight, room = second.grams / first.grams, second.volume_ml / first.volume_ml
    as_much = max(abs(weight - 1), abs(room - 1)) < AS_MUCH
    return "" if as_much else f"{weight:.1f} × the weight and {room:.1f} × the room"
