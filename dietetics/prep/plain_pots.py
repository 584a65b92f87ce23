"""Grains, beans and potatoes that bowls hold cooked: nobody wrote a recipe for them, and somebody
has to cook them. Each is cooked on the last evening before it is eaten.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from dietetics.composition.foods import Food
from dietetics.composition.sums import FoodContent, Item
from dietetics.dishes.batches import Batch
from dietetics.dishes.cooking import KEEPS_DAYS
from dietetics.prep.keeping import Kept, kept_of
from dietetics.prep.line_tasks import usual_minutes
from dietetics.prep.to_cook import CookedLine, DishToCook
from dietetics.shopping.as_bought import Span, as_bought

# What is soft in less (noodles, couscous, oats) is cooked on the day: common practice.
AHEAD_FROM_MIN = 15.0
LEAST_G = 100.0  # nobody lights a burner for less: cooked with something, or on the day


@dataclass(frozen=True)
class Eaten:
    """A portion of a food at a meal: grams as eaten."""

    day: int
    meal: int
    food: Food
    grams: float


@dataclass(frozen=True)
class PlainPot:
    """A food cooked on an evening for the meals until the next: cooked and uncooked grams, its
    portions in grams with their day, and the last day one is eaten.
    """

    food: Food
    uncooked: Food
    cooked_g: float
    uncooked_g: float
    eaten: tuple[tuple[int, float], ...]
    evening: int
    last_day: int

    @property
    def portions(self) -> int:
        """How many meals take of it."""
        return len(self.eaten)

    @property
    def frozen(self) -> tuple[tuple[int, float], ...]:
        """The portions that are eaten later than it keeps, with their day: to the freezer."""
        return tuple(one for one in self.eaten if one[0] > self.evening + KEEPS_DAYS)

    @property
    def name(self) -> str:
        """What it is called among the dishes of an evening."""
        return f"{self.uncooked.name.partition(',')[0]}, plain"

    def dish(self) -> DishToCook:
        """As something to cook, with the usual steps."""
        cut = ", cut" if self.uncooked.state == "raw" else ""
        line = CookedLine(f"{self.uncooked_g:,.0f} g{cut}", self.uncooked, self.uncooked_g)
        method = "roasted" if self.food.state == "roasted" else "boiled"
        return DishToCook(
            f"plain-{self.food.key}",
            self.name,
            (line,),
            (),
            method,
            self.portions,
            is_plain=True,
        )

    def is_there(self, day: int, meal: int, last_meal: int) -> bool:
        """True at a meal between the evening it was cooked (its day's last meal) and the last day
        it is eaten.
        """
        is_cooked = self.evening < 0 or (self.evening, last_meal) <= (day, meal)
        return is_cooked and day <= self.last_day

    def value(self) -> Batch:
        """As a cooked batch, with its figures."""
        item = Item.exact(self.food.name, FoodContent(self.food), self.cooked_g)
        return Batch(self.name, (item,), None, float(self.portions))

    def kept(self, density_g_per_ml: float) -> Kept:
        """How it is kept; what is eaten later than it keeps goes to the freezer."""
        return kept_of(
            self.name,
            1.0,
            self.portions,
            self.cooked_g,
            density_g_per_ml,
            self.evening,
            KEEPS_DAYS,
            len(self.frozen) / self.portions,
        )


def is_cooked_ahead(uncooked: Food) -> bool:
    """True for dry grains and beans that take their time, and for roots and squash."""
    return (
        uncooked.group == "starchy-vegetable" or (usual_minutes(uncooked) or 0.0) >= AHEAD_FROM_MIN
    )


def plain_pots(
    eaten: Iterable[Eaten], evenings: Sequence[int], last_meal: int, may_freeze: bool = True
) -> dict[int, list[PlainPot]]:
    """What is cooked plain on each evening. A pot is ready before the last meal of its day; what is
    eaten before the first evening is cooked on the day, and is not here; nor is what is eaten later
    than it keeps, where nothing is frozen.
    """
    found: dict[tuple[int, str], list[Eaten]] = {}
    for one in eaten:
        before = [e for e in evenings if (e, last_meal) <= (one.day, one.meal) or e < 0]
        in_time = before and (may_freeze or one.day <= max(before) + KEEPS_DAYS)
        if in_time and one.food.state in ("cooked", "roasted"):
            found.setdefault((max(before), one.food.key), []).append(one)
    pots: dict[int, list[PlainPot]] = {}
    for (evening, _), portions in sorted(found.items(), key=lambda pair: pair[0]):
        food = portions[0].food
        grams = sum(one.grams for one in portions)
        bought = as_bought(food, Span(grams, grams, grams))
        if bought.food is food or grams < LEAST_G or not is_cooked_ahead(bought.food):
            continue
        pots.setdefault(evening, []).append(
            PlainPot(
                food,
                bought.food,
                grams,
                bought.usable_g.likely,
                tuple((one.day, one.grams) for one in portions),
                evening,
                max(one.day for one in portions),
            )
        )
    return pots
