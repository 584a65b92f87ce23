"""The page of one food, formatted before its template: figures side by side, twins, amino acids,
the other table.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Any

from dietetics.cautions.exclusions import Terms, exclusions
from dietetics.cautions.verdict import Verdict
from dietetics.composition.aminoacids import (
    ADULT_PATTERN_MG_PER_G,
    PATTERN_SOURCE,
    pattern_of,
    richest_in,
    score_of,
    second_opinions,
)
from dietetics.composition.foods import Food, Shelf
from dietetics.composition.sums import Composition, FoodContent, Item, compose
from dietetics.nutrients import nutrient
from roundpantry.clients.models import Client
from roundpantry.clients.records import client_facts_of
from roundpantry.counter.levels import figure_rows
from roundpantry.shelf.food_rows import GROUP_NAMES, state_name

# US CDC, Low-energy-dense foods and weight management, ~2008, from memory: kcal per g.
DENSITY_BANDS = ((0.6, "very low"), (1.5, "low"), (4.0, "medium"), (math.inf, "high"))
DENSITY_SOURCE = "bands of the US CDC, about 2008, from memory"
DIFFERENCE_WORTH_SAYING = 0.10
# The group whose foods usually carry what another group lacks (common practice: grains with beans).
LIFTERS = {"methionine + cysteine": ("grain", "seed", "nut"), "lysine": ("legume", "soy-food")}


def of_grams(food: Food, grams: float) -> Composition:
    """The composition of so many grams of a food."""
    return compose([Item.exact(food.name, FoodContent(food), grams)])


def columns_of(food: Food) -> list[tuple[str, Composition]]:
    """Per 100 g, per 100 kcal, and per its first two measures."""
    energy = food.per_100g["energy_kcal"]
    columns = [("100 g", of_grams(food, 100.0))]
    if energy:
        name = nutrient("energy_kcal").text(100)
        columns.append((f"{name} ({10_000 / energy:,.0f} g)", of_grams(food, 10_000 / energy)))
    for measure in food.measures[:2]:
        name = (
            f"1 {measure.unit}{', ' + measure.cut if measure.cut else ''} ({measure.grams:.4g} g)"
        )
        columns.append((name, of_grams(food, measure.grams)))
    return columns


def density_place(food: Food) -> str:
    """Where the food stands on the ladder of energy density, in words."""
    energy = food.per_100g["energy_kcal"]
    if energy is None:
        return "Energy density unknown."
    density = energy / 100
    band = next(name for limit, name in DENSITY_BANDS if density < limit)
    return f"Energy density {nutrient('kcal_per_g').text(density)}: {band} ({DENSITY_SOURCE})."


def twin_lines(food: Food, shelf: Shelf) -> list[tuple[Food, str]]:
    """The food in its other states, with the gram arithmetic where a yield is known."""
    lines = []
    yields = shelf.yields_of(food.family)
    for twin in shelf.families[food.family]:
        if twin.key == food.key:
            continue
        text = ""
        cooked = next((f for f in (food, twin) if f.state in ("cooked", "roasted")), None)
        plain = next((f for f in (food, twin) if f.state in ("dry", "raw")), None)
        if cooked is not None and plain is not None and yields:
            y = yields[0]
            text = (
                f"100 g {plain.state} gives about {100 * y.likely:,.0f} g {y.method} "
                f"({100 * y.low:,.0f}–{100 * y.high:,.0f} g; {y.source})"
            )
        lines.append((twin, text))
    return lines


@dataclass(frozen=True)
class AminoRow:
    """One amino acid against the adult pattern."""

    name: str
    has: str
    wants: str
    ratio: str
    width: str
    limiting: bool


def amino_block(food: Food, shelf: Shelf) -> dict[str, Any] | None:
    """Amino acids of a food, the limiting one, and foods that would lift it."""
    pattern, scored = pattern_of(food), score_of(food)
    if pattern is None or scored is None:
        return None
    rows = [
        AminoRow(
            name,
            f"{pattern.mg_per_g_protein[name]:.0f}",
            f"{wanted:.0f}",
            f"{scored.ratios[name]:.0%}",
            f"{min(scored.ratios[name], 2.0) * 50:.1f}",
            name == scored.limiting,
        )
        for name, wanted in ADULT_PATTERN_MG_PER_G.items()
    ]
    lifters = richest_in(
        scored.limiting, LIFTERS.get(scored.limiting, ("legume", "grain", "seed")), list(shelf)
    )
    verdict = (
        f"Every acid reaches the adult pattern; {scored.limiting} is the closest "
        f"({scored.score:.0%})."
        if scored.score >= 1
        else f"Limited by {scored.limiting}: {scored.score:.0%} of the adult pattern."
    )
    return {
        "rows": rows,
        "verdict": verdict,
        "lifted_by": lifters if scored.score < 1 else [],
        "source": pattern.source,
        "proxy": pattern.proxy,
        "pattern_source": PATTERN_SOURCE,
        "phytate": pattern.phytate_mg_per_100g_raw,
        "oxalate": pattern.oxalate_mg_per_100g_raw,
    }


def second_lines(food: Food) -> dict[str, Any] | None:
    """What the other table says of the same raw food, difference in words."""
    other = second_opinions().get(food.key)
    if other is None:
        return None
    rows = []
    for key, theirs in other.values.items():
        ours = food.per_100g.get(key)
        if ours is None:
            words = "unknown here"
        elif not ours:
            words = "zero here"
        elif abs(theirs / ours - 1) <= DIFFERENCE_WORTH_SAYING:
            words = "about the same"
        else:
            words = f"{abs(theirs / ours - 1):.0%} {'more' if theirs > ours else 'less'} than here"
        rows.append(
            (
                nutrient(key).name,
                "unknown" if ours is None else nutrient(key).text(ours),
                nutrient(key).text(theirs),
                words,
            )
        )
    return {"source": other.source, "rows": rows}


def against_client(food: Food, client: Client | None) -> list[Verdict]:
    """What speaks against a food for the client at the top left, the gravest first."""
    return exclusions(food, Terms(client_facts_of(client))) if client is not None else []


def food_page(food: Food, shelf: Shelf) -> dict[str, Any]:
    """Everything a food's page shows."""
    columns = columns_of(food)
    return {
        "food": food,
        "group": GROUP_NAMES[food.group],
        "state": state_name(food.state),
        "heads": [name for name, _ in columns],
        "rows": figure_rows([composition for _, composition in columns]),
        "twins": twin_lines(food, shelf) if food.family in shelf.families else [],
        "yields": shelf.yields_of(food.family),
        "place": density_place(food),
        "amino": amino_block(food, shelf),
        "second": second_lines(food),
        "edible": ""
        if food.edible_share is None
        else f"{food.edible_share:.0%} of the weight bought is edible (from memory).",
    }


def differences(foods: list[Food]) -> list[str]:
    """What each food gains and loses against the first, per 100 kcal, in words: 25 % and more."""
    first, *others = foods
    sentences = []
    for other in others:
        gained: list[str] = []
        lost: list[str] = []
        for key in (
            "protein_g",
            "fibre_g",
            "iron_mg",
            "calcium_mg",
            "potassium_mg",
            "sodium_mg",
            "saturated_fat_g",
        ):
            a, b = (_per_100_kcal(f, key) for f in (first, other))
            if a and b and abs(b / a - 1) >= 0.25:
                (gained if b > a else lost).append(
                    f"{nutrient(key).name_in_text} {nutrient(key).number(a)} → "
                    f"{nutrient(key).text(b)}"
                )
        text = f"{other.name} instead of {first.name}, per {nutrient('energy_kcal').text(100)}: "
        text += ("more " + ", ".join(gained) if gained else "") + ("; " if gained and lost else "")
        text += "less " + ", ".join(lost) if lost else ""
        sentences.append(text + ("." if gained or lost else "no difference of a quarter or more."))
    return sentences


def _per_100_kcal(food: Food, key: str) -> float | None:
    value, energy = food.per_100g.get(key), food.per_100g["energy_kcal"]
    return None if value is None or not energy else value * 100 / energy
