"""What a dish weighs that nobody weighed: dry grains, beans and pasta take up water that no line
lists, a pot that simmers loses some, and what is only mixed keeps its weight.

What is done is taken from the words of the steps and the title. The range is wide where they say
little; a weighed pot always stands before it. Factors as for expected yields, most of them common
practice.
"""

from __future__ import annotations

import re
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

from dietetics.amounts.denials import NOT_TO_DO
from dietetics.composition.foods import Food, Shelf, load_shelf
from dietetics.composition.sums import FoodContent, Item
from dietetics.dishes.cooking import CookedLine, ExpectedYield, expected_yield, group_factor

Line = tuple[Item, str]
Factor = tuple[float, float, float]

# "Boiling water" soaks and a frying pan is a thing: neither cooks the dish.
_HEAT = re.compile(
    r"\b(?:boil|simmer|cook|bake|roast|fry|saut[eé]|stew|steam|braise|poach|grill|microwave|"
    r"reduce|pressure[- ]cook|slow[- ]cook)(?:ing)?\b"
    r"(?! (?:(?:the|a|some) )?(?:water|kettle|pan|tin|tray|dish|sheet)\b)",
    re.IGNORECASE,
)
_SOAKS = re.compile(
    r"\b(?:boil(?:ing)?|simmer|cook|steam|soak|poach|stew|hydrate|rehydrate|pressure[- ]cook|"
    r"slow[- ]cook|swell|plump)\b",
    re.IGNORECASE,
)
_DENIED = re.compile(rf"\b(?:{NOT_TO_DO}|no|not|without)\b[^.;,]*$", re.IGNORECASE)
_DRAINED = re.compile(r"\b(?:drain|strain)\b", re.IGNORECASE)
_PORRIDGE = re.compile(r"\b(?:porridge|oatmeal)\b", re.IGNORECASE)
# Dry, and bound by what a recipe lists with it: nobody pours them water from the tap.
_BOUND = re.compile(
    r"flour|starch|bran|germ|semolina|tapioca|popcorn|paper|isolate|masa|arrowroot|cornmeal"
)
_LIQUIDS = {"water", "vegetable-broth", "vegetable-broth-low-sodium"}
_UNCHANGED: Factor = (1.0, 1.0, 1.0)
DENIAL_REACH = 80  # characters before a word in which it may be denied
ENOUGH = 0.85  # of the water that dry food takes up: with as much written, none is added


@dataclass(frozen=True)
class Cooking:
    """What the words of a dish say is done with it; `heated` and `soaked` None where nothing is
    written.
    """

    heated: bool | None
    soaked: bool | None
    drained: bool
    porridge: bool


def cooking_said(title: str, steps: Sequence[str]) -> Cooking:
    """What a title and steps say is done."""
    text = "\n".join(steps)
    porridge = bool(_PORRIDGE.search(f"{title}\n{text}"))
    if not text.strip():
        return Cooking(None, None, False, porridge)
    return Cooking(_says(_HEAT, text), _says(_SOAKS, text), _says(_DRAINED, text), porridge)


def _says(words: re.Pattern[str], text: str) -> bool:
    """True when one of the words stands there and is not denied in its own sentence."""
    return any(
        not _DENIED.search(line[max(0, found.start() - DENIAL_REACH) : found.start()])
        for line in text.splitlines()
        for found in words.finditer(line)
    )


def cooked_places(methods: Sequence[str], title: str, steps: Sequence[str]) -> frozenset[int]:
    """The places of the lines, given by how each is cooked, that are heated: by their own way, or
    with the pot where the steps say that it is.
    """
    heated = cooking_said(title, steps).heated is True
    return frozenset(
        at for at, method in enumerate(methods) if method != "raw" and (method != "pot" or heated)
    )


def expected_weight(
    lines: Sequence[Line], title: str, steps: Sequence[str], shelf: Shelf
) -> ExpectedYield | None:
    """What lines with their methods weigh together when they are done; None where nothing is
    cooked, and the sum of what goes in stands. Raises DieteticsError for an unknown method.
    """
    said = cooking_said(title, steps)
    thirsty = {
        at: factor
        for at, (item, method) in enumerate(lines)
        if method == "pot" and (factor := _takes_up(item, said, shelf)) is not None
    }
    if not (said.heated or thirsty) and all(method in ("pot", "raw") for _, method in lines):
        return None
    poured = sum(item.grams for item, method in lines if method == "pot" and _is_liquid(item))
    needed = sum((factor[1] - 1) * lines[at][0].grams for at, factor in thirsty.items())
    missing = 0.0 if not needed or poured >= ENOUGH * needed else 1 - poured / needed
    away = said.drained and bool(needed) and poured > 2 * needed
    found: list[CookedLine] = []
    for at, (item, method) in enumerate(lines):
        if method != "pot":
            found += expected_yield([(item, method)], shelf).lines
        elif at in thirsty and (missing or away):
            found.append(_swollen(item, thirsty[at], 1.0 if away else missing))
        elif away and _is_liquid(item):
            found.append(_line(item, (0.0, 0.0, 0.0), "drained"))
        elif said.heated or thirsty:
            found += expected_yield([(item, method)], shelf).lines
        else:
            found.append(_line(item, _UNCHANGED, "mixed, nothing cooked"))
    return ExpectedYield(tuple(found))


def _food_of(item: Item) -> Food | None:
    return item.content.food if isinstance(item.content, FoodContent) else None


def _is_liquid(item: Item) -> bool:
    food = _food_of(item)
    return food is not None and (food.key in _LIQUIDS or food.group == "plant-milk")


def _takes_up(item: Item, said: Cooking, shelf: Shelf) -> Factor | None:
    """The weight after ÷ before of a dry food that is cooked or soaked in water; None for one that
    is not.
    """
    food = _food_of(item)
    if food is None or food.state != "dry" or _BOUND.search(food.key):
        return None
    if "oat" in food.key and not said.porridge:
        return None  # granola, balls and crumbles are as usual as porridge
    if said.soaked is False:
        return None
    for known in shelf.yields_of(food.family):
        if known.method in ("boiled", "soaked"):
            return known.low, known.likely, known.high
    return group_factor("boiled", food.group) if food.group in ("grain", "legume") else None


def _line(item: Item, factor: Factor, source: str) -> CookedLine:
    low, likely, high = (item.grams * one for one in factor)
    return CookedLine(item.label, item.grams, low, likely, high, source)


def _swollen(item: Item, factor: Factor, missing: float) -> CookedLine:
    """A dry food with the share of its water that no line lists."""
    low, likely, high = (1 + (one - 1) * missing for one in factor)
    return _line(item, (low, likely, high), "takes up water that no line lists")


def as_eaten_g(food: Food, grams: float) -> float:
    """What a food weighs on the plate, in g, where an approach asks for so much cooked: dry grains,
    beans, pasta and soy pieces with the water they take up; everything else as it is.

    Oats count like other grains, however thin the porridge; flours and the like stay as they are.

    >>> from dietetics.composition.foods import load_shelf
    >>> round(as_eaten_g(load_shelf().foods["brown-rice-dry"], 100.0))
    270
    """
    return grams * _times_as_eaten(food.key, food.state, food.group, food.family)


@lru_cache(maxsize=4096)
def _times_as_eaten(key: str, state: str, group: str, family: str) -> float:
    if state != "dry" or _BOUND.search(key) or group not in ("grain", "legume", "soy-food"):
        return 1.0
    known = () if "oat" in key else load_shelf().yields_of(family)
    for one in known:
        if one.method in ("boiled", "soaked"):
            return one.likely
    factor = group_factor("boiled", group)
    return factor[1] if factor else 1.0
