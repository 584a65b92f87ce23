"""How many days a dish keeps in the refrigerator, and whether it may be frozen, by what it is when
it is stored: what is in it, what of that was heated, and what its own recipe says.

The table `tables/keeping_times.csv` holds the days with their source. Where a dish is several
things at once, the one that keeps shortest counts.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass
from functools import cached_property, lru_cache

from dietetics.amounts.number_words import ONE_OF_WHOLE, whole_number
from dietetics.composition.foods import Food, read_table
from dietetics.dishes.unweighed import as_eaten_g
from dietetics.prep.dish_tasks import done_to
from dietetics.prep.to_cook import DishToCook
from dietetics.week.daynames import days_words

# Shares of a dish's weight from which it is taken for what they make of it: our judgement.
AVOCADO_FROM, SALAD_FROM, FIRM_FROM, RAW_FROM = 0.05, 0.2, 0.25, 0.5
FRUIT_FROM, SMOOTHIE_FRUIT_FROM, DRINK_FROM, MILK_FROM = 0.4, 0.2, 0.25, 0.7
GARLIC_OIL_FROM, HERBS_FROM, SOAKED_FROM, DRY_FROM = 0.5, 0.1, 0.3, 0.08
POTATO_FROM, PASTA_FROM, TOFU_FROM, ROASTED_FROM, RICE_FROM = 0.3, 0.2, 0.4, 0.6, 0.5
FLOUR_FROM, COLD_FROM, SMOOTH_FROM = 0.3, 0.4, 0.7

TENDER = frozenset(
    [
        "cucumber",
        "tomato",
        "cherry-tomatoes",
        "tomatillo",
        "radish",
        "red-pepper",
        "green-pepper",
        "yellow-pepper",
        "zucchini",
        "yellow-squash",
        "bean-sprouts",
        "alfalfa-sprouts",
    ]
)
FIRM_LEAVES = frozenset({"kale", "collards"})
ALLIUMS = frozenset({"onion", "green-onion", "shallot", "leek", "garlic", "ginger"})
LIQUIDS = frozenset({"water", "vegetable-broth"})
SOUR = re.compile(r"vinegar|lemon|lime|citrus|verjuice|dressing|mustard|tamari|soy-sauce")
DRY_HEAT = frozenset({"bake", "roast", "toast"})
WET_HEAT = frozenset(
    [
        "boil",
        "simmer",
        "cook",
        "steam",
        "poach",
        "blanch",
        "soften",
        "sauté",
        "steam-fry",
        "pressure-cook",
        "slow-cook",
    ]
)
POTATOES = frozenset({"potato", "red-potato", "potato-mashed"})
FLOUR = re.compile(r"flour|cornmeal|semolina|masa")
PASTA = re.compile(r"pasta|noodle|soba|udon|spaghetti|macaroni|vermicelli")
FRESH_STATES = frozenset({"raw", "frozen"})
DRY_GROUPS = frozenset({"nut", "seed", "nut-butter", "dried-fruit", "sweetener", "oil"})
PICKLED = frozenset({"vegetable", "leafy-green", "fruit", "starchy-vegetable", "condiment"})
DRY_CONDIMENT = re.compile(r"salt|bouillon|cocoa")

SMOOTHIE_NAME = re.compile(r"\b(?:smoothie|shake|juice|lassi)\b")
MILK_NAME = re.compile(r"\b(?:milk|horchata)$")
PICKLE_NAME = re.compile(r"\bpickle")
SALAD_NAME = re.compile(r"\b(?:salad|slaw|tabbouleh|tabouli)\b")
SMOOTH_NAME = re.compile(
    r"^(?!.*\b(?:with|and|in|on)\b).*\b(?:dressing|vinaigrette|sauce|dip|hummus|pesto|spread|mayo|mayonnaise|cream|pâté|pate)$"
)
POURED = re.compile(r"\b(?:water|stock|broth|milk|juice|tea|soak)\b")
TO_SERVE = re.compile(r"\b(?:(?:to|for) (?:serve|serving|garnish|top|topping)|as a garnish)\b")

_SPAN = rf"(?:(?P<least>\d+|{ONE_OF_WHOLE})\s*(?:-|–|to|or)\s*)?(?P<many>\d+|{ONE_OF_WHOLE}|an?)"
SAID = re.compile(
    r"\b(?:keeps?|stores?|lasts?|stays fresh|be (?:kept|stored)|refrigerate|chill|"
    r"(?:in|to) (?:the|a) (?:fridge|refrigerator))\b"
    r"(?P<between>[^.;]{0,60}?)"
    r"\b(?:(?:for |up to |within |about )+|(?<=keeps )|(?<=keep )|(?<=lasts ))"
    rf"{_SPAN}[ -]*"
    r"(?P<unit>days?|weeks?)\b(?P<behind>[^.;]{0,40})",
    re.IGNORECASE,
)
FROZEN = re.compile(r"\bfre(?:eze|ezer|ezes)\b|\bfrozen\b", re.IGNORECASE)


@dataclass(frozen=True)
class KeepingTime:
    """How long a dish keeps: `days` in the refrigerator, whether it `freezes`, as what kind of dish
    that was judged, and where it is from. `said_days` is what its own recipe says; `unread` how
    many lines of it were not read, so that it may keep shorter.
    """

    kind: str
    name: str
    days: int
    freezes: bool
    source: str
    said_days: int | None = None
    unread: int = 0

    def words(self) -> str:
        """In a sentence: "Keeps 4 days as a cooked dish (USDA FSIS …)."."""
        many = days_words(self.days)
        text = f"Keeps {many} as {self.name} ({self.source})."
        if self.days == 0:
            text = f"Eaten on the day it is made, as {self.name} ({self.source})."
        if self.said_days is not None and self.said_days != self.days:
            text += f" Its recipe says {days_words(self.said_days)}."
        if self.unread:
            lines = "1 line was" if self.unread == 1 else f"{self.unread} lines were"
            text += f" {lines} not read: it may keep shorter."
        return text

    def longer_words(self, typed: int) -> str:
        """What there is to say of more days than it keeps by itself; "" for as many and fewer."""
        if typed <= self.days:
            return ""
        return f"You keep it {days_words(typed)}. {self.words()}"


def keeping_time(
    dish: DishToCook, said: Sequence[str] = (), within: Iterable[KeepingTime] = ()
) -> KeepingTime:
    """How long a dish keeps. `said` is what its recipe says around the steps; `within` how long the
    dishes keep that it is made of: it keeps no longer than they do, and what is frozen is all of
    it.
    """
    stored = _Stored(dish)
    kind = next((kind for kind, is_it in _KINDS if is_it(stored)), "cooked")
    found = _of_kind(kind)
    recipe = days_said([*dish.steps, *said])
    days = min([found.days, *(one.days for one in within)])
    freezes = found.freezes and all(one.freezes for one in within)
    if recipe is not None:
        days = min(days, recipe)
    unread = sum(line.food is None and not line.grams for line in dish.lines)
    return KeepingTime(kind, found.name, days, freezes, found.source, recipe, unread)


def days_said(texts: Iterable[str]) -> int | None:
    """The days in the refrigerator that a recipe says for itself; None where it says nothing.

    >>> days_said(["Cool. Keeps for up to 3 days in the fridge, or freeze for 2 months."])
    3
    """
    found: list[int] = []
    for text in texts:
        for match in SAID.finditer(text):
            if FROZEN.search(match["between"]) or FROZEN.search(match["behind"].partition(",")[0]):
                continue
            many = whole_number(match["many"]) or 1
            found.append(many * (7 if match["unit"].lower().startswith("week") else 1))
    return min(found, default=None)


@lru_cache(maxsize=1)
def _kinds() -> Mapping[str, KeepingTime]:
    return {
        row["kind"]: KeepingTime(
            row["kind"], row["name"], int(row["days"]), row["freezes"] == "yes", row["source"]
        )
        for row in read_table("keeping_times.csv")
    }


def _of_kind(kind: str) -> KeepingTime:
    """The row of a kind of dish."""
    return _kinds()[kind]


@dataclass(frozen=True)
class _Part:
    """A food as it is stored: grams as eaten, whether it was heated, and whether it was blended or
    whisked with others.
    """

    food: Food
    grams: float
    is_hot: bool
    is_smooth: bool

    @property
    def is_raw(self) -> bool:
        """True for fresh food that nothing has heated."""
        return not self.is_hot and self.food.state in FRESH_STATES


class _Stored:
    """A dish as it is stored, asked what it is made of."""

    def __init__(self, dish: DishToCook) -> None:
        self.name = dish.name.lower().strip()
        done = done_to(dish)
        self.verbs, self.steps = done.verbs, " ".join(dish.steps).lower()
        every = frozenset(range(len(dish.lines)))
        late = {at for at, line in enumerate(dish.lines) if TO_SERVE.search(line.text)}
        stored = every - done.on_day - late or every  # "toss everything just before serving"
        self.parts = [
            _Part(
                line.food,
                as_eaten_g(line.food, line.grams),
                at in done.heated,
                at in done.smooth,
            )
            for at, line in enumerate(dish.lines)
            if line.food is not None and at in stored
        ]
        # What is made of another dish, or was not read, is part of the whole.
        others = [dish.lines[at] for at in stored if dish.lines[at].food is None]
        self.other_g, self.is_known = sum(line.grams for line in others), not others

    @cached_property
    def grams(self) -> float:
        """The weight of all, in g."""
        return self.other_g + sum(part.grams for part in self.parts) or 1.0

    def share(self, is_it: Callable[[_Part], bool]) -> float:
        """The share of the weight that is something."""
        return sum(part.grams for part in self.parts if is_it(part)) / self.grams

    def solid_share(self, is_it: Callable[[_Part], bool]) -> float:
        """The same, of what is neither water nor broth nor milk."""
        solid = sum(part.grams for part in self.parts if not _is_liquid(part))
        return sum(part.grams for part in self.parts if is_it(part)) / (solid + self.other_g or 1.0)

    @property
    def is_cold(self) -> bool:
        """True where nothing was heated."""
        return not any(part.is_hot for part in self.parts)

    @property
    def is_smooth(self) -> bool:
        """True where most of it was blended or whisked together, or its name says so."""
        if SMOOTH_NAME.search(self.name):
            return True
        return self.share(lambda part: part.is_smooth) >= SMOOTH_FROM

    @property
    def is_dressed(self) -> bool:
        """True where something sour or oily is on it."""
        return any(SOUR.search(p.food.key) or p.food.group == "oil" for p in self.parts)


def _is_liquid(part: _Part) -> bool:
    return part.food.key in LIQUIDS or part.food.group == "plant-milk" or "broth" in part.food.key


def _is_tender(part: _Part) -> bool:
    """Leaves, herbs and watery vegetables, raw."""
    food = part.food
    leaf = food.group in ("leafy-green", "herb-spice") and food.family not in FIRM_LEAVES
    return part.is_raw and (leaf or food.family in TENDER) and food.family not in ALLIUMS


def _is_raw_vegetable(part: _Part) -> bool:
    groups = ("leafy-green", "vegetable", "starchy-vegetable", "mushroom")
    return part.is_raw and part.food.group in groups


def _is_fresh_fruit(part: _Part) -> bool:
    food = part.food
    return part.is_raw and food.group == "fruit" and not SOUR.search(food.key)


def _is_drink(part: _Part) -> bool:
    return _is_liquid(part) or part.food.group == "plant-yoghurt" or "juice" in part.food.key


def _is_dry(part: _Part) -> bool:
    food = part.food
    if SOUR.search(food.key) or _is_liquid(part):
        return False
    if food.state in ("dry", "dried") or food.group in DRY_GROUPS:
        return True
    return food.group == "herb-spice" or bool(DRY_CONDIMENT.search(food.key))


def _is_avocado(stored: _Stored) -> bool:
    return stored.share(lambda p: p.is_raw and p.food.key == "avocado") >= AVOCADO_FROM


def _is_smoothie(stored: _Stored) -> bool:
    if SMOOTHIE_NAME.search(stored.name):
        return True
    if SMOOTH_NAME.search(stored.name) or stored.share(lambda p: p.food.family in ALLIUMS):
        return False  # with garlic or onion in it, it is a sauce
    fruit, drink = stored.share(_is_fresh_fruit), stored.share(_is_drink)
    is_blended = stored.is_cold and "blend" in stored.verbs
    return is_blended and fruit >= SMOOTHIE_FRUIT_FROM and drink >= DRINK_FROM


def _is_milk(stored: _Stored) -> bool:
    water = stored.share(lambda p: p.food.key == "water")
    made = water >= MILK_FROM and "blend" in stored.verbs and stored.is_cold
    return made or (bool(MILK_NAME.search(stored.name)) and "blend" in stored.verbs)


def _is_dressed_salad(stored: _Stored) -> bool:
    if stored.is_smooth and not SALAD_NAME.search(stored.name):
        return False
    tender = stored.solid_share(_is_tender)
    return tender >= SALAD_FROM and stored.is_dressed


def _is_firm_salad(stored: _Stored) -> bool:
    if stored.is_smooth and not SALAD_NAME.search(stored.name):
        return False
    firm = stored.solid_share(lambda p: _is_raw_vegetable(p) and p.food.family not in ALLIUMS)
    return firm >= FIRM_FROM and stored.is_dressed


def _is_pickle(stored: _Stored) -> bool:
    """True for vegetables or fruit in vinegar; with beans or grains in it, it is a salad."""
    sour = any("vinegar" in part.food.key for part in stored.parts)
    plain = all(part.food.group in PICKLED or _is_dry(part) for part in stored.parts)
    return bool(PICKLE_NAME.search(stored.name)) and sour and plain and stored.is_known


def _is_raw_blended(stored: _Stored) -> bool:
    return stored.is_smooth and stored.solid_share(_is_raw_vegetable) >= RAW_FROM


def _is_raw_cut(stored: _Stored) -> bool:
    return stored.solid_share(_is_raw_vegetable) >= RAW_FROM


def _is_cut_fruit(stored: _Stored) -> bool:
    whole = stored.is_cold and not stored.is_smooth
    return whole and stored.solid_share(_is_fresh_fruit) >= FRUIT_FROM


def _is_dry_mix(stored: _Stored) -> bool:
    """True where everything is dry and stays so: no step pours anything over it."""
    if not stored.parts or not stored.is_known or not all(map(_is_dry, stored.parts)):
        return False
    return not stored.verbs & (WET_HEAT | {"soak"}) and not POURED.search(stored.steps)


def _is_toasted_dry(stored: _Stored) -> bool:
    return _is_dry_mix(stored) and not stored.is_cold


def _is_sticky_dry(stored: _Stored) -> bool:
    sticky = ("nut-butter", "sweetener")
    binds = stored.share(lambda p: p.food.group in sticky) > 0 or "shape" in stored.verbs
    return _is_dry_mix(stored) and stored.is_cold and binds


def _is_garlic_oil(stored: _Stored) -> bool:
    garlic = any(p.food.family == "garlic" and p.food.state == "raw" for p in stored.parts)
    return garlic and stored.share(lambda p: p.food.group == "oil") >= GARLIC_OIL_FROM


def _is_soaked(stored: _Stored) -> bool:
    if not stored.is_cold or "blend" in stored.verbs:
        return False
    dry = stored.share(lambda p: p.food.group in ("grain", "seed"))
    return dry >= DRY_FROM and stored.share(_is_drink) >= SOAKED_FROM


def _is_herb_sauce(stored: _Stored) -> bool:
    herbs = stored.share(lambda p: p.is_raw and p.food.group in ("herb-spice", "leafy-green"))
    oil = any(p.food.group in ("oil", "nut", "seed") for p in stored.parts)
    return stored.is_cold and stored.is_smooth and herbs >= HERBS_FROM and oil


def _is_dip(stored: _Stored) -> bool:
    return stored.is_cold and (stored.is_smooth or stored.share(_is_pourable) >= RAW_FROM)


def _is_pourable(part: _Part) -> bool:
    sour = SOUR.search(part.food.key) is not None
    return part.food.group in ("oil", "condiment", "nut-butter", "plant-yoghurt") or sour


def _is_cold_salad(stored: _Stored) -> bool:
    cooked = stored.solid_share(
        lambda p: not p.is_raw and p.food.group in ("legume", "grain", "starchy-vegetable")
    )
    tossed = stored.is_cold and stored.is_dressed and not stored.is_smooth
    return bool(SALAD_NAME.search(stored.name) or tossed) and cooked >= COLD_FROM


def _is_baked_goods(stored: _Stored) -> bool:
    flour = stored.solid_share(lambda p: bool(FLOUR.search(p.food.key)))
    return flour >= FLOUR_FROM and bool(stored.verbs & DRY_HEAT)


def _is_rice(stored: _Stored) -> bool:
    return stored.solid_share(lambda p: "rice" in p.food.family) >= RICE_FROM


def _turns_soft(stored: _Stored) -> bool:
    """What most cooks do not freeze: it turns grainy or watery."""
    potato = stored.share(lambda p: p.food.family in POTATOES)
    pasta = stored.share(lambda p: bool(PASTA.search(p.food.key)))
    tofu = stored.share(lambda p: "tofu" in p.food.key)
    roasted = 0.0
    if not stored.verbs & WET_HEAT:
        groups = ("vegetable", "starchy-vegetable", "leafy-green", "mushroom")
        roasted = stored.share(lambda p: p.food.group in groups)
    return (
        potato >= POTATO_FROM or pasta >= PASTA_FROM or tofu >= TOFU_FROM or roasted >= ROASTED_FROM
    )


# The first that is true, what keeps shortest before what keeps longer.
_KINDS: Sequence[tuple[str, Callable[[_Stored], bool]]] = (
    ("avocado", _is_avocado),
    ("smoothie", _is_smoothie),
    ("pickle", _is_pickle),
    ("toasted-dry", _is_toasted_dry),
    ("sticky-dry", _is_sticky_dry),
    ("dry-mix", _is_dry_mix),
    ("garlic-oil", _is_garlic_oil),
    ("plant-milk", _is_milk),
    ("herb-sauce", _is_herb_sauce),
    ("dressed-salad", _is_dressed_salad),
    ("firm-salad", _is_firm_salad),
    ("raw-blended", _is_raw_blended),
    ("raw-vegetables", _is_raw_cut),
    ("cut-fruit", _is_cut_fruit),
    ("soaked", _is_soaked),
    ("cold-salad", _is_cold_salad),
    ("dip", _is_dip),
    ("mixed-cold", lambda stored: stored.is_cold),
    ("baked-goods", _is_baked_goods),
    ("soft", _turns_soft),
    ("rice", _is_rice),
)
