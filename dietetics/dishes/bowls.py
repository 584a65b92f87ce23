"""A bowl: portions of foods and batches in one dish, with their volume, sum and way back.

A portion steps up and down by its own measure: ¼ cup, 1 tbsp, 1 piece, 10 g.
"""

from __future__ import annotations

import re
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from functools import cached_property

from dietetics.amounts.units import UNITS, Household
from dietetics.amounts.weighing import amount_text
from dietetics.composition.derivation import Derivation, explain_density, explain_item, explain_sum
from dietetics.composition.foods import Food
from dietetics.composition.sums import Asked, Composition, FoodContent, Item, compose
from dietetics.dishes.batches import BatchContent
from dietetics.dishes.colours import colours_of
from dietetics.dishes.cooking import Retained
from dietetics.nutrients import DENSITY, nutrient

# What one key press adds or takes, in the unit of the measure.
STEPS: Mapping[str, float] = {
    "cup": 0.25,
    "tbsp": 1.0,
    "tsp": 0.5,
    "dessertspoon": 1.0,
    "g": 10.0,
    "ml": 25.0,
    "oz": 0.5,
    "fl-oz": 1.0,
    "piece": 0.5,
    "serving": 0.25,
    "block": 0.125,
    "can": 0.25,
    "handful": 0.5,
    "slice": 1.0,
}
BOWL_ML = 1000.0  # a client's bowl holds a litre
BATCH_DENSITY_G_PER_ML = 1.0  # a cooked dish in the bowl, ± 15 %, common practice
VEGETABLE_GROUPS = frozenset({"vegetable", "leafy-green", "mushroom"})
PROTEIN_GROUPS = frozenset({"legume", "soy-food", "wheat-protein"})
SAUCE_GROUPS = frozenset({"condiment", "oil", "nut-butter"})
SAUCE_WORDS = frozenset(
    {"sauce", "dressing", "vinaigrette", "gravy", "pesto", "mayo", "mayonnaise", "aioli", "drizzle",
    "marinade", "chutney",
     "salsa", "raita", "tzatziki", "chimichurri", "ketchup"}
)  # fmt: skip
SAUCE_JUICES = frozenset({"lemon-juice", "lime-juice"})
WATER, DRAWN_FROM = "water", 0.01
COUNTS_FROM_G = 15.0  # less of a food is seasoning, not a source (our judgement)


def step_of(unit: str) -> float:
    """What one key press changes in a measure such as "cup", "cup, chopped" or "small piece".

    >>> step_of("cup, chopped"), step_of("g")
    (0.25, 10.0)
    """
    words = unit.replace(",", "").replace("fl oz", "fl-oz").split()
    return next((STEPS[word] for word in words if word in STEPS), STEPS["piece"])


@dataclass(frozen=True)
class Portion:
    """One part of a bowl: what it is, how much as written, and how many millilitres it fills."""

    key: str
    item: Item
    group: str
    volume_ml: float
    amount: float
    unit: str
    amount_text: str
    locked: bool = False

    @property
    def step(self) -> float:
        """How much one key press changes the amount, in its unit."""
        return step_of(self.unit)


HALVED_FROM = 0.5  # of a measure
TOLD_WITHIN = 0.05  # of the amount: where rounding to a measure is further off, grams stand beside


def portion_words(portion: Portion, scale: float = 1.0) -> str:
    """A part of a scaled dish in its own measure, with grams where that is not near enough.

    A quarter more of 1 cup of soup is "1¼ cups lentil soup"; of 1 tbsp, "1¼ tbsp".
    """
    told, is_near = _told(portion, scale)
    name = portion.item.label.partition(",")[0].strip()
    words = f"{amount_text(told)} {_in_number(portion.unit, told)} {name}"
    grams = portion.item.grams * scale
    return words if portion.unit in ("g", "ml") or is_near else f"{words} ({grams:,.0f} g)"


def _told(portion: Portion, scale: float) -> tuple[float, bool]:
    """How much of its own measure a scaled part is told as, and whether that is near enough."""
    wanted, step = portion.amount * scale, portion.step
    if step >= HALVED_FROM:  # half a slice, but a quarter of a cup and no eighths
        step /= 2
    told = max(step, round(wanted / step) * step)
    return told, abs(told - wanted) <= TOLD_WITHIN * wanted


def measure_words(portion: Portion, scale: float, household: Household) -> str:
    """The measure alone of a part of a scaled dish. What is counted in servings of a batch is told
    in cups, or in spoons where it is little, which a client can measure.
    """
    if portion.unit != "serving":
        told, is_near = _told(portion, scale)
        about = "" if is_near or portion.unit in ("g", "ml") else "about "
        return f"{about}{amount_text(told)} {_in_number(portion.unit, told)}"
    volume = portion.volume_ml * scale
    cups = round(volume / household.cup_ml * 4) / 4
    if cups:
        return f"{amount_text(cups)} {_in_number('cup', cups)}"
    spoons = max(0.5, round(volume / household.tbsp_ml * 2) / 2)
    return f"{amount_text(spoons)} tbsp"


def _in_number(unit: str, amount: float) -> str:
    """A measure such as "cup, chopped" in the plural where there is more than one.

    >>> _in_number("cup, chopped", 1.5), _in_number("slice", 1), _in_number("tbsp", 3)
    ('cups, chopped', 'slice', 'tbsp')
    """
    first, comma, rest = unit.partition(",")
    plural = next((one.plural for one in UNITS.values() if one.singular == first), first)
    return f"{plural if amount > 1 else first}{comma}{rest}"


@dataclass(frozen=True)
class Bowl:
    """Portions in one dish."""

    name: str
    portions: tuple[Portion, ...]

    @property
    def items(self) -> tuple[Item, ...]:
        """The portions as items to sum."""
        return tuple(portion.item for portion in self.portions)

    @cached_property
    def total(self) -> Composition:
        """Composition of the whole bowl."""
        return compose(self.items)

    @property
    def volume_ml(self) -> float:
        """How much room the parts take together, in mL."""
        return sum(portion.volume_ml for portion in self.portions)

    @cached_property
    def grams_by_family(self) -> Mapping[tuple[str, str], float]:
        """Grams of every food in the bowl by (group, family), batches taken apart into what went
        in.
        """
        found: dict[tuple[str, str], float] = {}
        for portion in self.portions:
            for food, grams in foods_of(portion.item):
                key = (food.group, food.family)
                found[key] = found.get(key, 0.0) + grams
        return found

    def _count(self, groups: frozenset[str], at_least_g: float) -> int:
        return sum(
            group in groups and grams >= at_least_g
            for (group, _), grams in self.grams_by_family.items()
        )

    @property
    def vegetables(self) -> int:
        """How many different vegetables, greens and mushrooms, of COUNTS_FROM_G or more, batches
        taken apart.
        """
        return self._count(VEGETABLE_GROUPS, COUNTS_FROM_G)

    @property
    def protein_sources(self) -> int:
        """How many different beans, soy foods and wheat proteins, of COUNTS_FROM_G or more, batches
        taken apart.
        """
        return self._count(PROTEIN_GROUPS, COUNTS_FROM_G)

    @property
    def colours(self) -> tuple[str, ...]:
        """The colours of its plants, each of COUNTS_FROM_G or more, batches taken apart."""
        return colours_of((pair for item in self.items for pair in foods_of(item)), COUNTS_FROM_G)

    @property
    def sauce_share(self) -> float:
        """Share of the weight that is sauce: condiments, oils, nut butters, and dishes of which
        most is such.
        """
        sauce = sum(p.item.grams for p in self.portions if _is_sauce(p.item))
        return sauce / self.total.grams if self.total.grams else 0.0

    def share_of(self, portion: Portion, key: str) -> float | None:
        """The part's share of a nutrient of the bowl, 0 to 1, or None where either is unknown or
        nil.
        """
        value, _ = portion.item.content.known_per_100g(key)
        total = self.total[key].amount
        if value is None or not total:
            return None
        return value * portion.item.grams / 100 / total


@dataclass(frozen=True)
class FoodWithin:
    """A food in an item, dishes taken apart, with its grams: whether it is heated with its dish,
    and whether its line is still asked about.
    """

    food: Food
    grams: float
    heated: bool = False
    asked: bool = False


def foods_within(item: Item) -> Iterator[FoodWithin]:
    """The foods of an item; a portion of a batch gives its share of what went in."""
    content = item.content
    if isinstance(content, Asked):
        for one in foods_within(replace(item, content=content.content)):
            yield replace(one, asked=True)
    elif isinstance(content, FoodContent):
        yield FoodWithin(content.food, item.grams)
    elif isinstance(content, Retained) and isinstance(content.content, FoodContent):
        yield FoodWithin(content.content.food, item.grams)
    elif isinstance(content, BatchContent) and content.batch.weight_g:
        share = item.grams / content.batch.weight_g
        for at, inner in enumerate(content.batch.items):
            for one in foods_within(inner):
                heated = one.heated or at in content.batch.cooked
                yield replace(one, grams=one.grams * share, heated=heated)


def foods_of(item: Item) -> Iterator[tuple[Food, float]]:
    """The foods of an item with their grams."""
    return ((one.food, one.grams) for one in foods_within(item))


def foods_as_eaten(item: Item) -> Iterator[tuple[Food, float]]:
    """The foods of an item with their grams, in the state in which they are eaten: what went raw
    into a pot that is heated is cooked.
    """
    for one in foods_within(item):
        cooked = one.heated and one.food.state == "raw"
        yield replace(one.food, state="cooked") if cooked else one.food, one.grams


def taken_apart(item: Item, volume_ml: float) -> tuple[Portion, ...]:
    """A dish as parts that fill `volume_ml` together, one for each food group that went in: for a
    picture of it.

    Shares are those of the weights that went in, water aside; what is under a hundredth of them is
    not drawn.
    """
    grams: dict[str, float] = {}
    largest: dict[str, tuple[float, Food]] = {}
    for food, amount in foods_of(item):
        if food.key == WATER:
            continue
        grams[food.group] = grams.get(food.group, 0.0) + amount
        largest[food.group] = max(
            largest.get(food.group, (0.0, food)), (amount, food), key=lambda one: one[0]
        )
    shown = {
        group: amount
        for group, amount in grams.items()
        if amount >= DRAWN_FROM * sum(grams.values())
    }
    whole = sum(shown.values())
    return tuple(
        Portion(
            group,
            Item.exact(largest[group][1].name, FoodContent(largest[group][1]), amount),
            group,
            volume_ml * amount / whole,
            amount,
            "g",
            f"{amount:,.0f} g",
        )
        for group, amount in sorted(shown.items(), key=lambda one: (-one[1], one[0]))
        if amount > 0
    )


def main_group(item: Item) -> str:
    """The food group that a dish holds most of, by weight; water and seasoning aside."""
    grams: dict[str, float] = {}
    for food, amount in foods_of(item):
        if food.group not in ("condiment", "herb-spice"):
            grams[food.group] = grams.get(food.group, 0.0) + amount
    return max(grams, key=lambda group: (grams[group], group), default="batch")


def is_sauce_name(name: str) -> bool:
    """True for a dish that is called a sauce: "Breakwater dressing, for Ama", not "Lentils in
    tomato sauce".
    """
    head = re.split(r",| (?:in|with|for|without|and|on) ", name.lower())[0]
    return any(word.strip("().") in SAUCE_WORDS for word in head.split()[-2:])


def _is_sauce(item: Item) -> bool:
    """True for a dish that is called so, and where most of the energy is of condiments, oils, nut
    butters and the like.
    """
    if is_sauce_name(item.label):
        return True
    pairs = [
        (food, (food.per_100g["energy_kcal"] or 0.0) * grams) for food, grams in foods_of(item)
    ]
    whole = sum(energy for _, energy in pairs)
    sauce = sum(
        energy
        for food, energy in pairs
        if food.group in SAUCE_GROUPS or food.family in SAUCE_JUICES
    )
    return sauce > whole / 2 if whole else any(food.group in SAUCE_GROUPS for food, _ in pairs)


def food_volume_ml(food: Food, grams: float) -> float:
    """How many mL `grams` of a food fill in a bowl, by its own cup or spoon where it has one."""
    density, _ = food.density_g_per_ml
    return grams / density


def food_portion(
    key: str,
    food: Food,
    grams: tuple[float, float, float],
    amount: float,
    unit: str,
    amount_text: str,
    how: str,
    locked: bool = False,
) -> Portion:
    """Make a portion of a food. `grams` is (low, likely, high)."""
    item = Item(food.name, FoodContent(food), grams[1], grams[0], grams[2], how)
    return Portion(
        key, item, food.group, food_volume_ml(food, grams[1]), amount, unit, amount_text, locked
    )


def explain_bowl(bowl: Bowl, key: str) -> Derivation:
    """Derive a figure of the whole bowl from its parts."""
    title = f"{nutrient(key).name} in {bowl.name}"
    if key == DENSITY:
        return explain_density(
            title, bowl.items, bowl.total.grams, "The weights of the parts added up."
        )
    return explain_sum(title, bowl.items, key)


def explain_portion(bowl: Bowl, portion: Portion, key: str) -> Derivation:
    """Derive a figure of one part, with its share of the bowl's."""
    step = explain_item(portion.item, key, None)
    share = bowl.share_of(portion, key)
    sentence = step.sentence + (f" That is {share:.0%} of the bowl's." if share is not None else "")
    title = f"{nutrient(key).name} from {portion.item.label}"
    return Derivation(title, step.figure, sentence, step.value, step.parts, step.source)
