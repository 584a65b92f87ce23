"""From a food as it is used to the food as it is bought: dry from cooked, whole cans from drained
beans, whole pieces from what is left after peeling.

Each step keeps its span. Sizes of packages are usual ones and can be given anew; a share of which
two published figures differ keeps both.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from functools import lru_cache

from dietetics.composition.foods import Food, Shelf, cell_number, load_shelf, read_table

# the states a food is cooked into, and those it is bought in, the likeliest first
MADE_AT_HOME = ("cooked", "roasted")
BOUGHT_STATES = ("dry", "raw", "as-sold", "frozen", "canned-drained")
CAN = "canned-drained"
CAN_SOLIDS = (0.60, 0.64)  # of a can of 400 to 425 g about 250 g are solids: common practice
SHARE_SPAN = 0.05  # to each side of an edible share that only one source gives


@dataclass(frozen=True)
class Span:
    """An amount with its doubt: least, likely, most, in the unit of its name."""

    low: float
    likely: float
    high: float

    def __add__(self, other: Span) -> Span:
        return Span(self.low + other.low, self.likely + other.likely, self.high + other.high)

    def times(self, factor: float) -> Span:
        """All three multiplied."""
        return Span(self.low * factor, self.likely * factor, self.high * factor)

    def divided(self, other: Span) -> Span:
        """Divided by another span: the least by its most, the most by its least."""
        return Span(self.low / other.high, self.likely / other.likely, self.high / other.low)


@dataclass(frozen=True)
class Package:
    """How a food is sold: `unit` ("can", "onion", "" for loose by weight), grams of it that can be
    used (`usable_g`), what is printed on it (`net_g`), how long it keeps once opened or cut, what
    to look for, and whether somebody gave the size.
    """

    section: str
    unit: str
    usable_g: Span | None
    net_g: float | None
    keeps_days: int
    look_for: str = ""
    given: bool = False


@dataclass(frozen=True)
class Bought:
    """A food as used, told as bought: which food, how many usable grams of it, the grams as they
    lie in the shop (with peel and stalk), and the way from one to the other in words.
    """

    food: Food
    usable_g: Span
    shop_g: Span
    how: str


@lru_cache(maxsize=1)
def _rows() -> Mapping[str, Mapping[str, str]]:
    return {row["food"]: row for row in read_table("as_bought.csv")}


def _row(food: Food) -> Mapping[str, str]:
    """The food's own row, or that of its group and state; an empty one for what is sold by weight
    with nothing known.
    """
    rows = _rows()
    found = rows.get(food.key) or rows.get(f"group:{food.group}/{food.state}")
    return found or {"section": "other", "unit": "", "unit_g": "", "net_g": "", "keeps_days": "5"}


def package_of(food: Food, given_g: float | None = None) -> Package:
    """How a food is sold. `given_g` is the size that a practitioner gave, usable grams."""
    row = _row(food)
    unit_g = cell_number(row.get("unit_g", ""))
    net = cell_number(row.get("net_g", ""))
    usable = None if unit_g is None else Span(unit_g, unit_g, unit_g)
    if net is not None and food.state == CAN:
        usable = Span(net * CAN_SOLIDS[0], net * CAN_SOLIDS[0], net * CAN_SOLIDS[1])
    if given_g is not None:
        usable, net = Span(given_g, given_g, given_g), None
    return Package(
        row["section"],
        row["unit"] or ("pack" if given_g is not None else ""),
        usable,
        net,
        int(row["keeps_days"]),
        _look_for(food, row.get("look_for") or ""),
        given_g is not None,
    )


def _look_for(food: Food, words: str) -> str:
    """What to look for; never "unsweetened" where the figures are those of the sweetened one."""
    sweet = "sweetened" in food.name and "unsweetened" not in food.name
    return words.removeprefix("unsweetened; ") if sweet else words


def edible_share(food: Food) -> Span:
    """The share of a food as bought that can be used: of the US tables, of the Food Buying Guide,
    or between the two; 1 where nothing is thrown away.
    """
    again = cell_number(_row(food).get("share_again") or "")
    known = [share for share in (food.edible_share, again) if share is not None]
    if food.state != "raw" or not known:
        return Span(1.0, 1.0, 1.0)
    if len(known) == 1:
        one = known[0]
        return Span(max(one - SHARE_SPAN, 0.05), one, min(one + SHARE_SPAN, 1.0))
    return Span(min(known), sum(known) / 2, max(known))


def bought_form(food: Food, shelf: Shelf | None = None) -> Food:
    """The food that is bought for this one: the dry grain for the cooked, the drained can for the
    rinsed; itself where it is sold as it is used.
    """
    family = (shelf or load_shelf()).families.get(food.family, [])
    if food.state == "canned-rinsed":
        key = food.key.replace("-rinsed", "-canned")  # the can that was rinsed, salt and all
        return next((one for one in family if one.key == key), food)
    if food.key in _COOKED_OTHERWISE:
        return (shelf or load_shelf()).food(_COOKED_OTHERWISE[food.key])
    if food.state not in MADE_AT_HOME or (food.state, food.group) in _SOLD_ROASTED:
        return food
    for state in BOUGHT_STATES:
        found = [one for one in family if one.state == state]
        if found:
            return next((one for one in found if one.default), found[0])
    return food


_SOLD_ROASTED = {("roasted", group) for group in ("nut", "seed", "legume", "soy-food")}
# cooked forms whose family does not name what they are made from
_COOKED_OTHERWISE = {
    "potato-mashed": "potato-raw",
    "tempeh-cooked": "tempeh",
    "white-rice-cooked-enriched": "white-rice-dry-enriched",
    "pasta-cooked-enriched": "pasta-dry-enriched",
}


def as_bought(food: Food, used: Span, shelf: Shelf | None = None) -> Bought:
    """What has to be bought for `used` grams of a food as it is eaten or put in."""
    shelf = shelf or load_shelf()
    bought = bought_form(food, shelf)
    usable, steps = used, []
    if bought is not food and food.state != "canned-rinsed":
        factor, source = _cooked_from(food, bought, shelf)
        usable = used.divided(factor)
        steps.append(f"÷ {_text(factor)} (weight after cooking ÷ before; {source})")
    share = edible_share(bought)
    shop = usable.divided(share)
    if share.likely < 1:
        steps.append(f"÷ {_text(share)} (what is left after trimming)")
    how = f"{used.likely:,.0f} g {food.name[0].lower()}{food.name[1:]}"
    if steps:
        how += f" {' '.join(steps)} = {shop.likely:,.0f} g {bought.name.lower()}"
    return Bought(bought, usable, shop, how)


def _cooked_from(food: Food, bought: Food, shelf: Shelf) -> tuple[Span, str]:
    """Weight after cooking ÷ before, with its source. Where no table knows it, from the energy of
    both rows: cooking adds and takes water, and the energy stays.
    """
    known = shelf.yields_of(food.family)
    for one in known:
        if food.state == "cooked" and one.method != "roasted":
            return Span(one.low, one.likely, one.high), one.source
        if food.state == "roasted" and one.method == "roasted":
            return Span(one.low, one.likely, one.high), one.source
    before, after = bought.per_100g["energy_kcal"], food.per_100g["energy_kcal"]
    if before and after and bought.group not in ("leafy-green", "vegetable", "mushroom"):
        factor = before / after
        return Span(0.9 * factor, factor, 1.1 * factor), "energy of both rows"
    low, likely, high = _VEGETABLES[food.state]
    return Span(low, likely, high), "its group, common practice"


# cooked ÷ raw weight of vegetables whose family has no yield of its own: common practice
_VEGETABLES = {
    "cooked": (0.8, 0.9, 1.0),
    "roasted": (0.65, 0.75, 0.85),
    "as-sold": (0.9, 1.0, 1.0),
    "raw": (0.9, 1.0, 1.1),
}


def _text(span: Span) -> str:
    if span.low == span.high:
        return f"{span.likely:.3g}"
    return f"{span.likely:.3g} ({span.low:.3g}–{span.high:.3g})"
