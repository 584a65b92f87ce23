"""Cautions that food raises for a client: in a bowl, over a day, from one day to the next."""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from dietetics.cautions.caution import Caution
from dietetics.composition.foods import Food
from dietetics.composition.names import words_of
from dietetics.composition.sums import Composition

# Which allergens of the shelf an allergy named by the client stands for; hidden carriers are on each food's row.
ALLERGIES: Mapping[str, tuple[str, ...]] = {
    "peanut": ("peanut",), "tree-nuts": ("tree-nuts",), "soy": ("soy",), "wheat": ("wheat",),
    "gluten": ("gluten", "wheat", "gluten-trace"), "sesame": ("sesame",), "mustard": ("mustard",), "celery": ("celery",),
    "lupin": ("lupin",), "sulphites": ("sulphites",), "milk": ("milk",), "egg": ("egg",), "fish": ("fish",),
    "crustaceans": ("crustaceans",), "molluscs": ("molluscs",),
}  # fmt: skip
OXALATE_FAMILIES = {"spinach", "chard", "beet-greens", "almonds", "almond-flour", "almond-butter"}
SOY_GROUP = "soy-food"
HIGH_POTASSIUM_MG = 200.0  # of one food in a meal: worth a mark for a client with a ceiling; common practice
POTASSIUM_CONDITIONS = frozenset({"ckd-3", "ckd-4", "ckd-5", "dialysis", "transplant", "potassium-raising"})
IRON_WORTH_MG, VITAMIN_C_LEAST_MG = 3.0, 25.0  # Hallberg et al. 1989, from memory
BRAZIL_NUT_G, BRAZIL_NUTS_MOST = 5.0, 4
IODINE_SEAWEED, IODINE_UPPER_UG = frozenset({"kelp", "kelp-dried", "kombu-dried"}), 1100
FIBRE_JUMP_G, SWING = 10.0, 0.5
B12_DAY_UG = 2.4


@dataclass(frozen=True)
class Eaten:
    """A food with its grams, batches taken apart."""

    food: Food
    grams: float

    def amount(self, key: str) -> float | None:
        """How much of a nutrient it brings; None unknown."""
        value = self.food.per_100g.get(key)
        return None if value is None else value * self.grams / 100


def allergen_cautions(eaten: Sequence[Eaten], allergies: Sequence[str]) -> list[Caution]:
    """Foods that hold what a client is allergic to: each blocks until it is acknowledged."""
    found = []
    for allergy in allergies:
        carried = ALLERGIES.get(allergy, (allergy,))
        holders = sorted({e.food.name for e in eaten if set(e.food.allergens) & set(carried)})
        if holders:
            found.append(
                Caution(
                    f"allergen-{allergy}",
                    "serious",
                    f"{allergy} allergy: {', '.join(holders)}.",
                    "Take it out, or acknowledge with a reason.",
                    "the client",
                    "the food's row or label",
                    float(len(holders)),
                )
            )
    return found


def trace_cautions(eaten: Sequence[Eaten], allergies: Sequence[str]) -> list[Caution]:
    """Foods whose label says that they may contain traces of what a client is allergic to."""
    found = []
    for allergy in allergies:
        carried = set(ALLERGIES.get(allergy, (allergy,)))
        names = sorted(
            {e.food.name for e in eaten if set(e.food.traces) & carried and not set(e.food.allergens) & carried}
        )
        if names:
            text = f"{allergy} allergy: {', '.join(names)} may contain traces, says the label."
            action = "Ask how strict they are, or take another make."
            found.append(
                Caution(f"traces-{allergy}", "warn", text, action, "the client", "the label", float(len(names)))
            )
    return found


def open_allergen_caution(eaten: Sequence[Eaten], unread: int, allergies: Sequence[str]) -> Caution | None:
    """What keeps the allergens of a meal from being complete, for a client who has any: lines not read, unknown lists."""
    unlisted = sorted({e.food.name for e in eaten if not e.food.allergens_known})
    if not allergies or not (unread or unlisted):
        return None
    lines = f"{unread} line{'' if unread == 1 else 's'} of its dishes not read" if unread else ""
    lists = f"the ingredient list of {', '.join(unlisted)} is not known" if unlisted else ""
    text = f"Allergens are not all known: {'; '.join(filter(None, (lines, lists)))}."
    action = "Mend the lines, or read the package, before it is eaten."
    return Caution("allergens-open", "serious", text, action, "", "the dish as written", float(unread + len(unlisted)))


def refusals(dislikes: str) -> tuple[tuple[str, ...], ...]:
    """What a client will not eat, as written ("no okra; raw onion, mushrooms"), as the words of each thing."""
    things = re.split(r"[,;.\n]|\band\b|\bor\b", dislikes.lower())
    words = (words_of(re.sub(r"\b(?:no|never|not|hates?|dislikes?|any|eats?)\b", " ", thing)) for thing in things)
    return tuple(found for found in words if found)


def dislike_cautions(eaten: Sequence[Eaten], dislikes: str) -> list[Caution]:
    """Foods whose name holds every word of something the client dislikes or never eats: a note, nothing is kept out."""
    unwanted = refusals(dislikes)
    names = sorted({e.food.name for e in eaten if any(set(thing) <= set(words_of(e.food.name)) for thing in unwanted)})
    if not names:
        return []
    words = f"Disliked or never eaten: {', '.join(names)}."
    return [Caution("dislikes", "note", words, "Swap it, or ask again.", "", "the client's record", float(len(names)))]


def meal_cautions(eaten: Sequence[Eaten], total: Composition, conditions: frozenset[str]) -> list[Caution]:
    """Cautions of one meal for a client with these conditions."""
    found = []
    potassium = _potassium_caution(eaten, total) if conditions & POTASSIUM_CONDITIONS else None
    if potassium is not None:
        found.append(potassium)
    if "kidney-stones-oxalate" in conditions:
        names = sorted({e.food.name for e in eaten if e.food.family in OXALATE_FAMILIES})
        if names:
            found.append(
                Caution(
                    "oxalate-foods", "warn", f"High in oxalate: {', '.join(names)}.", "Choose kale, cabbage or lettuce."
                )
            )
    if "thyroid-medicine" in conditions and any(e.food.group == SOY_GROUP for e in eaten):
        found.append(
            Caution(
                "soy-thyroid",
                "note",
                "Soy in this meal: not at the hour of the thyroid medicine.",
                "Keep some hours apart.",
            )
        )
    iron, vitamin_c = total["iron_mg"].amount, total["vitamin_c_mg"].amount
    if iron is not None and iron >= IRON_WORTH_MG and (vitamin_c is None or vitamin_c < VITAMIN_C_LEAST_MG):
        beside = "no known" if vitamin_c is None else f"{vitamin_c:.0f} mg"
        found.append(
            Caution(
                "iron-without-c",
                "note",
                f"{iron:.1f} mg iron with {beside} vitamin C: less is taken up.",
                "Add a citrus, pepper, kiwi or raw greens.",
                "",
                "Hallberg et al. 1989, from memory",
            )
        )
    return found


def _potassium_caution(eaten: Sequence[Eaten], total: Composition) -> Caution | None:
    """Foods that bring much potassium, and those of which it is not known; None where there is neither."""
    by_food: dict[str, float] = {}
    for one in eaten:
        by_food[one.food.name] = by_food.get(one.food.name, 0.0) + (one.amount("potassium_mg") or 0.0)
    marked = sorted(((n, mg) for n, mg in by_food.items() if mg >= HIGH_POTASSIUM_MG), key=lambda pair: -pair[1])
    unknown = sorted({e.food.name for e in eaten if e.amount("potassium_mg") is None and e.grams >= 1})
    if not marked and not unknown:
        return None
    words = ", ".join(f"{name} {mg:,.0f} mg" for name, mg in marked[:4])
    hidden = f"Not known of {', '.join(unknown)}." if unknown else ""
    text = f"Potassium {total['potassium_mg'].shown()} in this meal{f': {words}' if words else ''}. {hidden}".strip()
    action = (
        "Halve the first, or choose boiled and drained." if marked else "Ask for the maker's figure, or leave it out."
    )
    measure = total["potassium_mg"].amount or 0.0
    return Caution("potassium-foods", "warn", text, action, "the kidney clinician", measure=measure)


def brazil_nut_caution(eaten: Sequence[Eaten]) -> Caution | None:
    """More than about four Brazil nuts pass the upper level of selenium, in a bowl as in a day."""
    nuts = sum(e.grams for e in eaten if e.food.key == "brazil-nuts") / BRAZIL_NUT_G
    if nuts <= BRAZIL_NUTS_MOST:
        return None
    text = f"{nuts:.0f} Brazil nuts pass the upper level of selenium (400 µg)."
    return Caution("brazil-nuts", "warn", text, "One or two a day are enough.", "", "IOM 2000", nuts)


def iodine_grams(eaten: Sequence[Eaten]) -> float:
    """Grams of seaweeds whose iodine can be very high."""
    return sum(e.grams for e in eaten if e.food.family in IODINE_SEAWEED)


def iodine_caution(eaten: Sequence[Eaten]) -> Caution | None:
    """Kelp and kombu: their iodine is not in the table, and a gram or two may pass the upper level. Unknown is not none."""
    names = sorted({e.food.name for e in eaten if e.food.family in IODINE_SEAWEED and e.grams > 0})
    if not names:
        return None
    grams = iodine_grams(eaten)
    text = (
        f"{', '.join(names)}, {grams:.1f} g: how much iodine is not known, and it can be very much "
        f"(1,000–2,500 µg in a gram of dried kombu; the upper level is {IODINE_UPPER_UG:,} µg a day)."
    )
    action = "Take it out before eating, use nori, or ask the clinician with thyroid illness or in pregnancy."
    return Caution("iodine-seaweed", "warn", text, action, "", "IOM 2001; range from memory", grams)


def day_cautions(eaten: Sequence[Eaten], total: Composition) -> list[Caution]:
    """Cautions of a whole day: Brazil nuts, B12, iodine too little and too much."""
    nuts = brazil_nut_caution(eaten)
    found = [nuts] if nuts else []
    fortified = sum(e.amount("vitamin_b12_ug") or 0.0 for e in eaten if e.food.fortified or e.food.state == "label")
    if fortified < B12_DAY_UG:
        found.append(
            Caution(
                "b12",
                "warn",
                f"{fortified:.1f} µg B12 from fortified foods; the day wants {B12_DAY_UG} µg.",
                "A B12 supplement is usual practice.",
                "",
                "IOM 1998",
            )
        )
    seaweed = iodine_caution(eaten)
    if seaweed is not None:
        found.append(seaweed)
    elif not total["iodine_ug"].amount:
        found.append(
            Caution(
                "iodine", "note", "No known iodine in this day.", "Iodised salt, a labelled drink, or a supplement."
            )
        )
    return found


def vitamin_k_swing(before_ug: float, now_ug: float) -> Caution | None:
    """Vitamin K from one day to the next, for a client on warfarin: a swing of more than half is marked."""
    if before_ug <= 0:
        return None
    swing = abs(now_ug / before_ug - 1)
    if swing <= SWING:
        return None
    return Caution(
        "vitamin-k-swing",
        "serious",
        f"Vitamin K goes from {before_ug:,.0f} to {now_ug:,.0f} µg: {swing:.0%}.",
        "Keep greens at the same amount daily.",
        "the anticoagulation clinic",
        measure=swing,
    )


def fibre_jump(before_g: float, now_g: float) -> Caution | None:
    """Fibre a day against the week before: more than 10 g at once is raised slowly."""
    if now_g - before_g <= FIBRE_JUMP_G:
        return None
    return Caution(
        "fibre-jump",
        "warn",
        f"Fibre goes from {before_g:.0f} to {now_g:.0f} g a day within a week.",
        "Raise by about 5 g every few days, with water.",
        measure=now_g - before_g,
    )
