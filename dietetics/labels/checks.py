"""Does a label agree with itself? Misreadings are caught by arithmetic before they reach a plan."""

from __future__ import annotations

from dataclasses import dataclass

from dietetics.labels.allergenwords import ANIMAL
from dietetics.labels.facts import LabelFacts
from dietetics.nutrients import (
    CARBOHYDRATE_KCAL_PER_G,
    FAT_KCAL_PER_G,
    PROTEIN_KCAL_PER_G,
    nutrient,
)

ENERGY_SHARE, ENERGY_KCAL = 0.15, 20.0  # both must be passed before energy is doubted
NET_SHARE, FAR_SHARE = 0.05, 0.20  # "about 5 servings" may be a fifth off, and no more
SODIUM_MOST_G_PER_100G = 39.4  # pure salt
SODIUM_DOUBTFUL_MG_PER_100G = 8000.0


@dataclass(frozen=True)
class Check:
    """One finding. `serious` contradicts the label itself: it is kept as a draft until it is
    cleared up.
    """

    key: str
    serious: bool
    text: str


def check_label(facts: LabelFacts) -> list[Check]:
    """Return what does not agree; an empty list when nothing does not."""
    found = [
        *_missing(facts),
        *_energy(facts),
        *_parts(facts),
        *_sodium(facts),
        *_package(facts),
        *_ingredients(facts),
    ]
    return sorted(found, key=lambda check: not check.serious)


def _missing(facts: LabelFacts) -> list[Check]:
    found = []
    if not facts.name.strip():
        found.append(Check("name", True, "It has no name yet: give it one."))
    if not facts.basis_g:
        found.append(
            Check(
                "serving",
                True,
                "The label gives no serving weight, so its figures can't be converted to grams.",
            )
        )
    if not facts.values:
        found.append(Check("values", True, "No figure was read."))
    for key in ("energy_kcal", "protein_g"):
        if facts.values and key not in facts.values:
            found.append(
                Check(key, False, f"{nutrient(key).name} is not stated: it stays unknown.")
            )
    for key, value in facts.values.items():
        if value < 0:
            found.append(Check(key, True, f"{nutrient(key).name} is below zero ({value:g})."))
    return found


def _energy(facts: LabelFacts) -> list[Check]:
    """Energy against 4-4-9, fibre counted 2 to 4 kcal/g: doubted when more than 15 % and 20 kcal
    outside.
    """
    values = facts.values
    if any(key not in values for key in ("energy_kcal", "protein_g", "fat_g", "carbohydrate_g")):
        return []
    core = PROTEIN_KCAL_PER_G * values["protein_g"] + FAT_KCAL_PER_G * values["fat_g"]
    fibre = values.get("fibre_g", 0.0)
    # US carbohydrate holds the fibre (4, or 2 for its part); EU carbohydrate does not (2 more for
    # it)
    carbohydrate = values["carbohydrate_g"]
    low = core + CARBOHYDRATE_KCAL_PER_G * carbohydrate - 2 * min(fibre, carbohydrate)
    high = core + CARBOHYDRATE_KCAL_PER_G * carbohydrate + 2 * fibre
    energy = values["energy_kcal"]
    gap = max(low - energy, energy - high, 0.0)
    if gap > ENERGY_KCAL and gap > ENERGY_SHARE * max(energy, 1.0):
        hint = ""
        if low * 3.6 < energy < high * 4.8:
            hint = " It looks like kJ typed as kcal."
        return [
            Check(
                "energy",
                True,
                f"{energy:,.0f} kcal is stated; protein, fat and carbohydrate come to "
                f"{low:,.0f}–{high:,.0f} kcal.{hint}",
            )
        ]
    return []


def _parts(facts: LabelFacts) -> list[Check]:
    values, grams = facts.values, facts.basis_g
    found = []
    parts = sum(values.get(key, 0.0) for key in ("protein_g", "fat_g", "carbohydrate_g"))
    if grams and parts > grams * 1.03:
        found.append(
            Check(
                "parts",
                True,
                f"Protein, fat and carbohydrate weigh {parts:.1f} g together, more than the "
                f"{grams:g} g they are stated for.",
            )
        )
    for part, whole in (("saturated_fat_g", "fat_g"), ("sugars_g", "carbohydrate_g")):
        if part in values and whole in values and values[part] > values[whole] + 0.6:
            inner, outer = nutrient(part).name, nutrient(whole).name_in_text
            text = f"{inner} ({values[part]:g} g) is more than {outer} ({values[whole]:g} g)."
            found.append(Check(part, True, text))
    if values.get("fibre_g", 0.0) > values.get("carbohydrate_g", 1e9) + 0.6:
        found.append(
            Check(
                "fibre",
                False,
                f"Fibre ({values['fibre_g']:g} g) is more than carbohydrate "
                f"({values['carbohydrate_g']:g} g): right on EU labels, where carbohydrate leaves "
                "fibre out; a misreading on US labels.",
            )
        )
    return found


def _sodium(facts: LabelFacts) -> list[Check]:
    sodium, grams = facts.values.get("sodium_mg"), facts.basis_g
    if sodium is None or not grams:
        return []
    per_100g = sodium * 100 / grams
    if per_100g > SODIUM_MOST_G_PER_100G * 1000:
        return [
            Check(
                "sodium",
                True,
                f"{sodium:,.0f} mg sodium in {grams:g} g is more than pure salt contains. Were "
                "milligrams entered as grams?",
            )
        ]
    if per_100g > SODIUM_DOUBTFUL_MG_PER_100G:
        return [
            Check(
                "sodium",
                False,
                f"{per_100g:,.0f} mg sodium per 100 g is as salty as a stock cube. Check the unit.",
            )
        ]
    return []


def _ingredients(facts: LabelFacts) -> list[Check]:
    """A list that was not recognised, and animal foods in one that was."""
    flags = facts.flags
    if not flags.recognised:
        said = "was not recognised" if facts.ingredients.strip() else "is missing"
        return [
            Check(
                "ingredients",
                False,
                f"The ingredient list {said}: allergens and additives stay unknown.",
            )
        ]
    animal = [name for name in flags.allergens if name in ANIMAL]
    if not animal:
        return []
    return [
        Check("animal", False, f"The list names {', '.join(animal)}: this is not a plant food.")
    ]


def _package(facts: LabelFacts) -> list[Check]:
    if not (facts.servings_per_package and facts.serving_g and facts.net_g):
        return []
    counted = facts.servings_per_package * facts.serving_g
    if abs(counted - facts.net_g) > NET_SHARE * facts.net_g:
        return [
            Check(
                "package",
                abs(counted - facts.net_g) > FAR_SHARE * facts.net_g,
                f"{facts.servings_per_package:g} servings of {facts.serving_g:g} g are "
                f"{counted:,.0f} g; "
                f"the net weight is {facts.net_g:g} g. The servings are used for a whole package.",
            )
        ]
    return []
