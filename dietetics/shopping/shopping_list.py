"""The shopping list: what several dishes need, added up by food as bought, what is at home taken
off, rounded up to what can be bought.

Two recipes' halves of an onion are one onion. What a list cannot know is said: a dish that could
not be taken apart, a doubt that changes how many packages are needed.
"""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field

from dietetics.composition.foods import Food, Shelf
from dietetics.errors import DieteticsError
from dietetics.shopping.as_bought import Bought, Package, Span, as_bought, package_of

SECTIONS: Mapping[str, str] = {
    "produce": "Vegetables and fruit",
    "bread": "Bread",
    "chilled": "Chilled",
    "frozen": "Frozen",
    "cans": "Cans and jars",
    "beans": "Dried beans, lentils and soy",
    "grains": "Grains, pasta and flours",
    "nuts": "Nuts, seeds and dried fruit",
    "spices": "Spices, oils and sauces",
    "other": "Other",
}
FREE_AT_HOME = frozenset({"water"})
# Made of something that is not told by its grams: named, and not left out in silence.
BREWED = frozenset({"tea-green", "coffee-brewed", "coffee-espresso"})
# A pack is not opened for so little more: 96 % of what a recipe asks is that recipe.
NEAR_ENOUGH = 0.05
LOOSE_STEP_G = 50.0  # what is weighed loose is asked for in steps of 50 g
PINCH_G = 15.0  # of a spice: a jar that is there is likely enough, look before you buy
NOTHING = Span(0.0, 0.0, 0.0)


@dataclass(frozen=True)
class Need:
    """Grams of a food, as it is eaten or put in, for one dish."""

    food: Food
    grams: Span
    dish: str


@dataclass(frozen=True)
class Line:
    """One line of the list.

    `usable_g` and `shop_g` are what is still to be bought; `at_home_g` was taken off. `units` says
    how many packages or pieces (least, likely, most), None where the food is sold by weight.
    `over_g` is left of the packages. `uses` names the dishes with grams as bought, `ways` how each
    amount was reached.
    """

    food: Food
    package: Package
    usable_g: Span
    shop_g: Span
    units: tuple[int, int, int] | None
    over_g: float
    at_home_g: float
    uses: tuple[tuple[str, float], ...]
    ways: tuple[str, ...]
    pack_price: float | None = None

    @property
    def section(self) -> str:
        """Where in the shop it stands."""
        return self.package.section

    @property
    def buys_nothing(self) -> bool:
        """True where what is at home is enough."""
        return self.usable_g.likely <= 0

    @property
    def only_a_pinch(self) -> bool:
        """So little of a seasoning that the jar at home will do: look before you buy."""
        return self.section == "spices" and 0 < self.usable_g.likely <= PINCH_G

    @property
    def price(self) -> float | None:
        """What the line costs at the price of a package, in the practitioner's money; None where
        no price is known.
        """
        if self.pack_price is None:
            return None
        if self.units is not None:
            return self.units[1] * self.pack_price
        return self.pack_price * self.shop_g.likely / 1000


@dataclass(frozen=True)
class ShoppingList:
    """Lines in the order of the shop, and what could not be taken apart, in words."""

    lines: tuple[Line, ...]
    unknown: tuple[str, ...] = ()

    @property
    def to_buy(self) -> tuple[Line, ...]:
        """Lines of which something has to be bought."""
        return tuple(line for line in self.lines if not line.buys_nothing)

    @property
    def price(self) -> tuple[float, int]:
        """(what the lines with a price cost together, how many lines have none)."""
        known = [line.price for line in self.to_buy if line.price is not None]
        return sum(known), len(self.to_buy) - len(known)


@dataclass(frozen=True)
class ShopKnowledge:
    """What is known beside the plan: usable grams `at_home` and sizes and prices of packages by the
    key of the food as bought, and the order of the sections.
    """

    at_home_g: Mapping[str, float] = field(default_factory=dict)
    pack_g: Mapping[str, float] = field(default_factory=dict)
    pack_price: Mapping[str, float] = field(default_factory=dict)
    sections: Sequence[str] = tuple(SECTIONS)


def shopping_list(
    needs: Iterable[Need],
    known: ShopKnowledge | None = None,
    unknown: Iterable[str] = (),
    shelf: Shelf | None = None,
) -> ShoppingList:
    """What has to be bought for the needs. Raises DieteticsError `shopping-negative` for less than
    nothing.
    """
    known = known or ShopKnowledge()
    found: dict[str, list[tuple[Need, Bought]]] = {}
    doubts = list(unknown)
    for need in _by_dish(needs):
        if need.grams.low < 0:
            raise DieteticsError("shopping-negative", food=need.food.name, grams=need.grams.low)
        if need.food.key in FREE_AT_HOME or need.grams.high == 0:
            continue
        if need.food.key in BREWED:
            doubts.append(f"{need.food.name} for {need.dish}: leaves or beans are not counted.")
            continue
        bought = as_bought(need.food, need.grams, shelf)
        found.setdefault(bought.food.key, []).append((need, bought))
    lines = [_line(pairs, known) for pairs in found.values()]
    order = {section: n for n, section in enumerate(known.sections)}
    lines.sort(key=lambda one: (order.get(one.section, len(order)), one.food.name))
    return ShoppingList(tuple(lines), tuple(dict.fromkeys(doubts)))


def _by_dish(needs: Iterable[Need]) -> list[Need]:
    """The needs with one for each food of a dish, however often the dish is eaten."""
    found: dict[tuple[str, str], Need] = {}
    for need in needs:
        there = found.get((need.food.key, need.dish))
        grams = need.grams if there is None else there.grams + need.grams
        found[need.food.key, need.dish] = Need(need.food, grams, need.dish)
    return list(found.values())


def _line(pairs: list[tuple[Need, Bought]], known: ShopKnowledge) -> Line:
    """One food as bought, for everything that needs it."""
    food = pairs[0][1].food
    package = package_of(food, known.pack_g.get(food.key))
    usable = sum((bought.usable_g for _, bought in pairs), NOTHING)
    shop = sum((bought.shop_g for _, bought in pairs), NOTHING)
    at_home = known.at_home_g.get(food.key, 0.0)
    left = _less(usable, at_home)
    shop = shop.times(left.likely / usable.likely) if usable.likely else shop
    dishes: dict[str, float] = {}
    for need, bought in pairs:
        dishes[need.dish] = dishes.get(need.dish, 0.0) + bought.usable_g.likely
    units = units_for(left, package)
    over = 0.0
    if units is not None and package.usable_g is not None:
        over = max(units[1] * package.usable_g.likely - left.likely, 0.0)
    return Line(
        food,
        package,
        left,
        shop,
        units,
        over,
        min(at_home, usable.likely),
        tuple(dishes.items()),
        tuple(dict.fromkeys(bought.how for _, bought in pairs)),
        known.pack_price.get(food.key),
    )


def _less(need: Span, at_home: float) -> Span:
    """What is still to be bought; nothing where what is there is nearly enough."""
    if need.likely - at_home <= NEAR_ENOUGH * need.likely:
        return NOTHING
    return Span(max(need.low - at_home, 0.0), need.likely - at_home, need.high - at_home)


def units_for(usable: Span, package: Package) -> tuple[int, int, int] | None:
    """How many packages or pieces: (least, likely, most); None where the food is sold by weight.

    Rounded up, but not for the last twentieth of what is asked.
    """
    if package.usable_g is None or not package.unit:
        return None
    size = package.usable_g
    least = _whole(usable.low, size.high)
    return (
        least,
        max(_whole(usable.likely, (size.likely + size.high) / 2), least),
        _whole(usable.high, size.low),
    )


def _whole(grams: float, size: float) -> int:
    if grams <= 0:
        return 0
    return max(1, math.ceil(grams * (1 - NEAR_ENOUGH) / size - 1e-9))


def loose_g(line: Line) -> float:
    """Grams to ask for of what is sold by weight, rounded up to a step a shop can weigh."""
    return math.ceil(line.shop_g.likely / LOOSE_STEP_G - 1e-9) * LOOSE_STEP_G
