"""How a bowl is put together on the day it is eaten, in at most five steps, and where each of its
parts comes from: a container, the stove, the shop or the board.

The sentences name no amounts: those stand in the table of the bowl's card, a column for each
portion.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cache

from dietetics.composition.foods import Food, read_table
from dietetics.shopping.as_bought import Span, as_bought

STATE_WORDS = {
    "cooked": "cooked", "roasted": "roasted", "dry": "uncooked", "frozen": "frozen",
    "dried": "dried", "canned-drained": "from a can, drained",
    "canned-rinsed": "from a can, drained and rinsed",
    "canned-undrained": "from a can, with its liquid",
}  # fmt: skip
ROASTED_AS_SOLD = frozenset({"nut", "seed", "legume", "soy-food"})  # bought roasted
DRESSING = frozenset({"nut-butter", "condiment", "oil", "sweetener"})
POURED = frozenset({"lemon-juice", "lime-juice", "miso-white"})
IN_THE_BOWL = frozenset({"avocado", "olives-green", "olives-black", "jackfruit", "plantain"})
SCATTERED = frozenset({"nut", "seed", "dried-fruit", "herb-spice"})
CUT = frozenset({"vegetable", "starchy-vegetable", "mushroom"})
DRUNK = frozenset({"plant-milk"})
SPOONED = frozenset({"plant-milk", "plant-yoghurt"})
DRESSING_WORDS = ("dressing", "sauce", "cream", "vinaigrette", "pesto")
BREAD_WORDS = frozenset(
    {"bread", "pita", "tortilla", "tortillas", "roll", "bagel", "toast", "crackers", "crispbread"}
)
COLD_WORDS = (
    *DRESSING_WORDS,
    "slaw",
    "salad",
    "hummus",
    "dip",
    "spread",
    "raita",
    "pickle",
    "relish",
)
BERRIES = ("berries", "grapes", "cherries", "cherry tomatoes", "currants")
PEELED = ("banana", "orange", "mandarin", "clementine", "kiwi", "mango", "grapefruit")
FLAKES = frozenset({"oats", "gluten-free-oats", "muesli", "granola", "puffed-millet"})
MOST_STEPS = 5
WAYS = ("simmer", "roast", "boil", "steam", "fry", "soak")
THROUGH = "until all of it is steaming hot"
FIRST = {
    "yes": "soaked overnight",
    "kidney": "soaked overnight, boiled hard for the first ten minutes",
}


@dataclass(frozen=True)
class Part:
    """One part of a bowl. `container` is the dish that was cooked before and holds it ("" where it
    is made on the day), `cold` says that such a dish is eaten cold, `on_day` what its recipe leaves
    for the day of eating; `food` is None for a dish.
    """

    name: str
    group: str
    grams: float
    food: Food | None = None
    container: str = ""
    cold: bool = False
    on_day: tuple[str, ...] = ()


@dataclass(frozen=True)
class Heated:
    """How a part is made on the day: the way, its minutes, and what has to be done first."""

    way: str
    low: int
    high: int
    first: str = ""

    def minutes(self) -> str:
        """The minutes with what has to be done first: "75 to 90 minutes, soaked overnight"."""
        span = f"{self.low} to {self.high}" if self.low < self.high else f"{self.low}"
        return f"{span} minutes" + (f", {self.first}" if self.first else "")


@cache
def _rows() -> dict[tuple[str, str], Heated]:
    return {
        (row["food"], row["state"]): Heated(row["way"], int(row["low"]), int(row["high"]))
        for row in read_table("cooked_fresh.csv")
    }


@cache
def _usual() -> dict[str, dict[str, str]]:
    return {row["family"]: row for row in read_table("cooking_minutes.csv")}


def is_cold(name: str) -> bool:
    """True for a dish that is eaten cold by its name: a dressing, a salad, a dip."""
    words = name.lower()
    return "warm" not in words and any(word in words for word in COLD_WORDS)


def made_fresh(part: Part) -> Heated | None:
    """How a part that comes out of no container is heated on the day; None for what needs no heat.
    Minutes are common practice.
    """
    food = part.food
    if food is None or part.container:
        return None
    rows = _rows()
    found = rows.get((food.family, food.state)) or rows.get((f"group:{food.group}", food.state))
    if found is not None or food.state != "cooked" or food.group not in ("grain", "legume"):
        return found
    row = _usual().get(as_bought(food, Span(1.0, 1.0, 1.0)).food.family)
    if row is None:
        return None
    first = FIRST.get(row["caution"]) or FIRST.get(row["soak"], "")
    return Heated("simmer", int(row["likely"]), int(row["high"]), first)


def raw_g(part: Part) -> float | None:
    """Grams to begin with of a part that is cooked on the day; None where they are the same."""
    if part.food is None or made_fresh(part) is None:
        return None
    bought = as_bought(part.food, Span(part.grams, part.grams, part.grams))
    return None if bought.food is part.food else bought.usable_g.likely


def state_of(food: Food) -> str:
    """The state in which a part is measured, in words; "" where it goes without saying.

    A roasted nut is bought so.
    """
    if food.state == "roasted" and food.group in ROASTED_AS_SOLD:
        return ""
    if food.state == "raw" and food.group == "leafy-green":
        return "raw"
    return STATE_WORDS.get(food.state, "")


def source_of(part: Part) -> str:
    """Where a part comes from: its container, the stove ("on the day: steam 5 to 7 minutes"), the
    shop, the board.
    """
    if part.container:
        return "from its container"
    heated = made_fresh(part)
    if heated is not None:
        way = "in boiling water" if heated.way == "soak" else heated.way
        return f"on the day: {way} {heated.minutes()}"
    food = part.food
    if food is None:
        return "as it is"
    if food.group in CUT | {"fruit", "leafy-green"} and food.state == "raw":
        return "fresh"
    return "thaw it before" if food.state == "frozen" else "as bought"


def steps_of(parts: Sequence[Part], is_sweet: bool = False) -> tuple[str, ...]:
    """How a bowl is put together, in the order of the kitchen: what takes longest first, what is
    poured over and scattered last. `is_sweet` is a breakfast or a snack, whose milk goes into the
    bowl and whose fruit is cut into it.
    """
    heated = [part for part in parts if made_fresh(part) is not None]
    warmed = [part for part in parts if part.container and not part.cold]
    bread = [part for part in parts if _is_bread(part)]
    poured = [part for part in parts if _is_poured(part)]
    scattered = [part for part in parts if not part.container and part.group in SCATTERED]
    spooned = [part for part in parts if part.group in SPOONED and not part.container]
    fruit = [part for part in parts if _is_fruit(part) and part not in poured]
    drunk = [p for p in spooned if p.group in DRUNK and not is_sweet]
    other = (*bread, *poured, *scattered, *spooned, *fruit)
    base = [part for part in parts if part not in other]
    inside = [p for p in spooned if p not in drunk], fruit if is_sweet else []
    found = [*_heating(heated), *_warming(warmed), *_cutting([*base, *inside[1]])]
    found += _into_the_bowl(base, bread, *inside)
    found += _last(poured, scattered, bool(base or spooned))
    found += [f"{part.name}: {words.rstrip('.')}." for part in parts for words in part.on_day]
    found += _beside([] if is_sweet else fruit, drunk)
    while len(found) > MOST_STEPS:  # the last are the shortest
        found[-2:] = [" ".join(found[-2:])]
    return tuple(found)


def _is_bread(part: Part) -> bool:
    return part.group == "grain" and not BREAD_WORDS.isdisjoint(part.name.lower().split())


def _is_fruit(part: Part) -> bool:
    food = part.food
    return food is not None and food.group == "fruit" and food.family not in IN_THE_BOWL


def _is_poured(part: Part) -> bool:
    if part.container:
        words = part.name.lower()
        return part.cold and any(word in words for word in DRESSING_WORDS)
    return part.group in DRESSING or (part.food is not None and part.food.family in POURED)


def _heating(parts: Sequence[Part]) -> list[str]:
    """One sentence for each way of heating, the longest first: "Steam the broccoli (5 to 9 minutes)
    and the kale (4 to 7 minutes)."
    """
    found = []
    for way in WAYS:
        same = [(p, h) for p in parts if (h := made_fresh(p)) is not None and h.way == way]
        same.sort(key=lambda pair: -pair[1].high)
        if not same:
            continue
        named = [f"the {part.name} ({heated.minutes()})" for part, heated in same]
        words = listed(named)
        if way == "soak":
            found.append(f"Pour boiling water over {words}, cover and let it stand, then drain.")
        elif way == "fry":
            found.append(f"Fry {words} in a pan with a spoon of water, turned often.")
        elif way == "roast":
            found.append(f"Roast {words} at 200 °C, turned once.")
        else:
            found.append(f"{way.capitalize()} {words}.")
    return found


def _warming(parts: Sequence[Part]) -> list[str]:
    if not parts:
        return []
    return [
        f"Warm {listed([f'the {part.name}' for part in parts])} with a spoon of water {THROUGH}."
    ]


def _cutting(parts: Sequence[Part]) -> list[str]:
    """Washing, peeling and cutting of what is raw, cubing of tofu, draining of what is canned."""
    clauses = []
    for how, holds in (
        ("wash and cut {}", _is_cut),
        ("wash {}", _is_washed),
        ("peel and cut {}", _is_peeled),
        ("cut {} into cubes", _is_cubed),
        ("drain {}", lambda food: food.state == "canned-drained"),
        ("drain and rinse {}", lambda food: food.state == "canned-rinsed"),
    ):
        names = [f"the {p.name}" for p in parts if p.food and not made_fresh(p) and holds(p.food)]
        if names:
            clauses.append(how.format(listed(names)))
    return [f"{_capital('; '.join(clauses))}."] if clauses else []


def _named(food: Food, words: Sequence[str]) -> bool:
    return any(word in food.name.lower() for word in words)


def _is_peeled(food: Food) -> bool:
    return food.state == "raw" and food.group == "fruit" and _named(food, PEELED)


def _is_washed(food: Food) -> bool:
    fresh = food.state == "raw" and food.group in CUT | {"fruit", "leafy-green"}
    return fresh and (food.group == "leafy-green" or _named(food, BERRIES))


def _is_cut(food: Food) -> bool:
    fresh = food.state == "raw" and food.group in CUT | {"fruit"}
    return fresh and not _is_washed(food) and not _is_peeled(food)


def _is_cubed(food: Food) -> bool:
    return food.group == "soy-food" and food.state == "as-sold" and "tofu" in food.family


def _into_the_bowl(
    base: Sequence[Part], bread: Sequence[Part], spooned: Sequence[Part], fruit: Sequence[Part]
) -> list[str]:
    flakes = [p for p in base if p.food is not None and p.food.family in FLAKES]
    found = []
    if flakes and spooned and len(flakes) == len(base):
        names = listed([f"the {p.name}" for p in (*flakes, *spooned)])
        found.append(f"Stir {names} together and let it stand for ten minutes, or overnight.")
        if fruit:
            found.append(f"Put {listed([f'the {p.name}' for p in fruit])} on top.")
    elif base or spooned or fruit:
        first = [p for p in base if p.group in ("grain", "starchy-vegetable")] or list(base[:1])
        others = [p for p in base if p not in first] + [*fruit, *spooned]
        if first and others:
            found.append(
                f"Put {listed([f'the {p.name}' for p in first])} into the bowl and "
                f"{listed([f'the {p.name}' for p in others])} on top."
            )
        else:
            both = [*first, *others]
            found.append(f"Put {listed([f'the {p.name}' for p in both])} into the bowl.")
    if bread:
        found.append(f"Serve with {listed([f'the {p.name}' for p in bread])}.")
    return found


def _last(poured: Sequence[Part], scattered: Sequence[Part], over_something: bool) -> list[str]:
    """What is poured over and scattered on."""
    clauses = []
    if len(poured) > 1:
        clauses.append(
            f"stir {listed([f'the {p.name}' for p in poured])} together with a spoon of water and "
            "pour it over"
        )
    elif poured:
        clauses.append(f"pour the {poured[0].name} over" if over_something else
                       f"add the {poured[0].name}")  # fmt: skip
    if scattered:
        names = listed([f"the {p.name}" for p in scattered])
        clauses.append(f"scatter {names} on top" if over_something else f"take {names}")
    return [f"{_capital('; '.join(clauses))}."] if clauses else []


def _beside(after: Sequence[Part], drunk: Sequence[Part]) -> list[str]:
    clauses = []
    if after:
        clauses.append(f"have {listed([f'the {p.name}' for p in after])} with it or after it")
    if drunk:
        clauses.append(f"drink {listed([f'the {p.name}' for p in drunk])} with it")
    return [f"{_capital('; '.join(clauses))}."] if clauses else []


def listed(names: Sequence[str]) -> str:
    """Names as they are said: "the rice, the kale and the beans".

    >>> listed(["the rice", "the kale", "the beans"])
    'the rice, the kale and the beans'
    """
    if len(names) < 2:
        return "".join(names)
    return f"{', '.join(names[:-1])} and {names[-1]}"


def _capital(words: str) -> str:
    return words[:1].upper() + words[1:]
