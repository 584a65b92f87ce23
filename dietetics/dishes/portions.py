"""Typed and stepped portions of one part of a bowl: "1 1/2 cups", "2 small", "30 g", "1 serving".

A portion keeps its number and its measure, so that an arrow key can step it in the unit it was
written in.
"""

from __future__ import annotations

import re
from collections.abc import Collection
from dataclasses import dataclass
from fractions import Fraction

from dietetics.amounts.grammar import Amount, read_amount
from dietetics.amounts.tokens import clean, tokenise
from dietetics.amounts.units import US_HOUSEHOLD, Household, millilitres
from dietetics.amounts.vocabulary import CUT_WORDS
from dietetics.amounts.weighing import Scales, Weight, amount_text, checked
from dietetics.composition.foods import Food
from dietetics.composition.name_words import words_of
from dietetics.dishes.batches import Batch
from dietetics.dishes.bowls import step_of
from dietetics.dishes.dish_as_food import POURING_G_PER_ML, dish_density
from dietetics.errors import DieteticsError
from dietetics.untrusted_input import MOST_LINE, readable

# What a part starts with when it is put into a bowl, by group: tried in order until the food has
# the measure.
FIRST_PORTIONS: dict[str, tuple[str, ...]] = {
    "grain": ("0.5 cup", "1 slice", "1 piece"),
    "starchy-vegetable": ("0.5 cup cubed", "0.5 cup"),
    "legume": ("0.5 cup", "2 tbsp"),
    "soy-food": ("100 g",),
    "wheat-protein": ("85 g",),
    "leafy-green": ("1 cup", "1 handful"),
    "vegetable": ("0.5 cup", "1 piece"),
    "mushroom": ("0.5 cup", "3 piece"),
    "fruit": ("0.5 cup", "1 piece"),
    "dried-fruit": ("1 tbsp", "2 piece"),
    "nut": ("1 tbsp", "1 piece"),
    "seed": ("1 tbsp",),
    "nut-butter": ("1 tbsp",),
    "plant-milk": ("1 cup",),
    "plant-yoghurt": ("0.5 cup",),
    "herb-spice": ("1 tsp",),
    "condiment": ("1 tbsp", "1 tsp"),
    "sweetener": ("1 tsp",),
    "oil": ("1 tsp",),
    "processed": ("1 piece", "28 g"),
}


_ENERGY = re.compile(
    r"(?:about\s+)?(\d{1,2},\d{3}|\d{1,5}(?:\.\d)?)\s*(?:kcal|calories|cal)(?:\s+of\s+(?:it|this))?",
    re.IGNORECASE,
)
_SHARE = re.compile(
    r"(?P<part>\d{1,3})\s+(?:portions?|servings?|pieces?|parts?|slices?)\s+(?:out\s+)?of\s+"
    r"(?P<whole>\d{1,3})",
    re.IGNORECASE,
)


@dataclass(frozen=True)
class PortionReading:
    """A portion as read: the number and measure it steps by, its text, and its weight."""

    amount: float
    unit: str
    text: str
    weight: Weight


def read_portion(text: str, food: Food, scales: Scales) -> PortionReading:
    """Read a typed portion of a food, by a measure, its own name ("10 olives") or its energy ("300
    kcal of it"). Raises DieteticsError when it cannot be read or weighed.
    """
    energy = _kilocalories(text)
    if energy is not None:
        return _by_energy(text, energy, food.per_100g.get("energy_kcal"))
    amount, cut = _whole_amount(text, {word for name in food.names for word in words_of(name)})
    weight = checked(scales.weigh(amount, food, cut), text)
    return _reading(text, amount, cut, weight)


def read_batch_portion(
    text: str, batch: Batch, household: Household = US_HOUSEHOLD
) -> PortionReading:
    """Read a typed portion of a batch: servings, by the dish's own name too ("2 pancakes"), grams,
    a volume at the dish's own density, its energy, or a share ("2 portions of 5").

    Raises DieteticsError; `servings-unknown` for servings of a dish that does not say how many it
    makes.
    """
    energy, share = _kilocalories(text), _SHARE.fullmatch(readable(text, MOST_LINE).strip())
    if energy is not None:
        return _by_energy(text, energy, batch.per_100g["energy_kcal"].amount)
    if share is not None and 0 < int(share["part"]) <= int(share["whole"]):
        grams = batch.weight_g * int(share["part"]) / int(share["whole"])
        how = f"{share['part']} of {share['whole']} parts of {batch.weight_g:,.0f} g"
        weight = checked(Weight(grams, grams, grams, how, "stated"), text)
        return PortionReading(round(grams, 1), "g", f"{grams:,.0f} g", weight)
    amount, _ = _whole_amount(text, set(words_of(batch.name)))
    if len(amount.terms) != 1 or amount.terms[0].container is not None:
        raise DieteticsError("amount-unreadable", text=text)
    term = amount.terms[0]
    number = float(term.quantity.likely)
    unit = term.unit
    if unit is None or unit.key == "serving":
        grams = number * batch.serving_g
        how = f"{amount_text(number)} × a serving of {batch.serving_g:,.0f} g"
        weight = checked(Weight(grams, grams, grams, how, "stated"), text)
        return PortionReading(number, "serving", _plural(number, "serving", "servings"), weight)
    if unit.kind == "mass":
        grams = number * unit.worth
        weight = Weight(grams, grams, grams, f"{amount_text(number)} {unit.singular}", "stated")
    elif unit.kind == "volume":
        density, known = dish_density(batch)
        grams = number * millilitres(unit, household) * density
        spread = 0.15 if density == POURING_G_PER_ML else 0.25
        weight = Weight(
            grams * (1 - spread),
            grams,
            grams * (1 + spread),
            f"{amount_text(number)} {unit.singular} at {known}",
            "common practice",
        )
    else:
        raise DieteticsError(
            "measure-unknown", food=batch.name, unit=unit.key, known="serving, g, cup"
        )
    return _reading(text, amount, "", checked(weight, text))


def stepped(amount: float, unit: str, steps: int) -> str:
    """The text of a portion `steps` steps larger (or smaller): never below one step, in whole steps
    of its measure.
    """
    step = step_of(unit)
    moved = Fraction(amount).limit_denominator(48) + Fraction(step) * steps
    grid = Fraction(step)
    on_grid = round(moved / grid) * grid if unit == "g" else moved
    return f"{float(max(on_grid, grid)):g} {unit.replace(',', '')}"


def first_portion(food: Food, scales: Scales, metric: bool = False) -> PortionReading:
    """The portion a food starts with in a bowl, by its group; a label's serving; 50 g when it has
    neither.

    `metric` gives the same portion in grams, to the next 5 g.
    """
    household = _first_household(food, scales)
    if not metric:
        return household
    return read_portion(f"{max(5, round(household.weight.grams / 5) * 5)} g", food, scales)


def _first_household(food: Food, scales: Scales) -> PortionReading:
    if food.state == "label" and food.measure("serving") is not None:
        return read_portion("1 serving", food, scales)
    for text in FIRST_PORTIONS[food.group]:
        words = text.split()
        if words[1] == "g" or any(m.unit == words[1] for m in food.measures):
            return read_portion(text, food, scales)
    return read_portion("50 g", food, scales)


def _kilocalories(text: str) -> float | None:
    found = _ENERGY.fullmatch(readable(text, MOST_LINE).strip())
    return float(found[1].replace(",", "")) if found else None


def _by_energy(text: str, kcal: float, kcal_per_100g: float | None) -> PortionReading:
    """So many grams as hold this energy. Raises DieteticsError where the energy is not known."""
    if not kcal_per_100g:
        raise DieteticsError("amount-unreadable", text=text)
    grams = kcal / kcal_per_100g * 100
    how = f"{kcal:g} kcal at {kcal_per_100g:.0f} kcal in 100 g"
    weight = checked(Weight(grams, grams, grams, how, "stated"), text)
    return PortionReading(round(grams, 1), "g", f"{grams:,.0f} g", weight)


def _whole_amount(text: str, names: Collection[str] = ()) -> tuple[Amount, str]:
    """The amount a text is, with the cut behind it; `names` are words of the food itself, which may
    stand behind it.
    """
    tokens = tokenise(clean(readable(text, MOST_LINE)))
    found = read_amount(tokens) if tokens and tokens[0].text != "-" else None
    if found is None or found.part:
        raise DieteticsError("amount-unreadable", text=text)
    left = [t.lower for t in tokens[found.taken :] if t.text != ","]
    left = [one for one in left if one != "of" and not set(words_of(one)) & set(names)]
    if any(word not in CUT_WORDS for word in left):
        raise DieteticsError("amount-unreadable", text=text)
    return found, CUT_WORDS[left[0]] if left else ""


def _reading(text: str, amount: Amount, cut: str, weight: Weight) -> PortionReading:
    term = amount.terms[0]
    simple = len(amount.terms) == 1 and term.container is None and not term.levels
    if not simple or term.quantity.low != term.quantity.high:
        return PortionReading(weight.grams, "g", text.strip(), weight)
    number = float(term.quantity.likely)
    if term.unit is None:
        unit = term.size or "piece"
        return PortionReading(number, unit, f"{amount_text(number)} {term.size}".strip(), weight)
    unit = " ".join(filter(None, (term.size, term.unit.singular)))
    words = _plural(number, unit, " ".join(filter(None, (term.size, term.unit.plural))))
    return PortionReading(
        number, f"{unit}, {cut}" if cut else unit, f"{words}, {cut}" if cut else words, weight
    )


def _plural(number: float, one: str, many: str) -> str:
    return f"{amount_text(number)} {one if number <= 1 else many}"
