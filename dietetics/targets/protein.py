"""Protein a day by weight, age, life stage, goal and condition.

What a licensed clinician must set is marked; until then its figures are what is published, never a
demand.
"""

from __future__ import annotations

from dataclasses import dataclass

from dietetics.targets.needs_table import rows_of
from dietetics.targets.person import Person
from dietetics.targets.schools import School
from dietetics.targets.weight import weight_used

PLANT_FACTOR = 1.1  # many plant-based practitioners add 10 %, common practice
RDA_SOURCE = "IOM 2005; common practice"
# Recommended intake of growing people, g/kg: up to and not including this age (IOM 2005, from
# memory).
GROWING_RDA = ((4.0, 1.05), (14.0, 0.95), (19.0, 0.85))
PREGNANCY_RDA, BREASTFEEDING_RDA, ADULT_RDA = 1.1, 1.3, 0.8
ADULT_HIGH, PREGNANCY_HIGH, BREASTFEEDING_HIGH = 1.6, 1.8, 2.0  # common practice
GROWING_HIGH = 2.0  # times the recommended intake, our judgement
OLD_FROM, OLD_LOW = 65, 1.0
KIDNEY_RDA_ROOM = 1.2
BARIATRIC_LEAST_G = 60.0  # ASMBS 2016, from memory


@dataclass(frozen=True)
class Protein:
    """Grams of protein a day. `needs_clinician` when only licensed practice may set it."""

    low: float
    high: float
    g_per_kg: tuple[float, float]
    weight_kg: float
    how: str
    source: str
    needs_clinician: bool = False


@dataclass(frozen=True)
class Rate:
    """Grams of protein per kg a day, the reason, the source, and whether a clinician must set
    it.
    """

    low: float
    high: float
    why: str
    source: str
    needs_clinician: bool = False


def recommended_g_per_kg(person: Person) -> float | None:
    """The published intake below which a growing, pregnant or breastfeeding person is never
    planned; None for others.
    """
    if person.pregnant:
        return PREGNANCY_RDA
    if person.breastfeeding:
        return BREASTFEEDING_RDA
    if person.growing:
        return next(rate for until, rate in GROWING_RDA if person.age_years < until)
    return None


def _rate_of_needs(person: Person) -> Rate | None:
    """The rate that the table of needs gives this kind of person, the first row that says one; in
    growth, pregnancy and breastfeeding never under the need. None for others.
    """
    row = next((one for one in rows_of(person) if one.protein is not None), None)
    if row is None or row.protein is None:
        return None
    low, high = row.protein
    why, source = row.who_words(person), row.cited
    least = recommended_g_per_kg(person)
    if least is not None and low < least:
        low, high = least, max(high, least * KIDNEY_RDA_ROOM)
        why += f"; never below {least:g}, the need in growth, pregnancy or breastfeeding"
        source += "; IOM 2005"
    return Rate(low, high, why, source, row.protein_clinician)


def rate_of(person: Person, school: School) -> Rate:
    """Protein per kg a day of a person under a school."""
    needed = _rate_of_needs(person)
    if needed is not None:
        return needed
    if person.growing and not person.pregnant and not person.breastfeeding:
        least = recommended_g_per_kg(person) or ADULT_RDA
        return Rate(
            least * PLANT_FACTOR,
            least * GROWING_HIGH,
            f"growing, {least:g} g/kg plus 10 % on a plant-based diet",
            RDA_SOURCE,
        )
    if school.protein_g_per_kg is not None:
        low, high = school.protein_g_per_kg
        return Rate(
            low, high, f"the {school.name} approach", "ACSM/AND/DC 2016; ISSN 2017; common practice"
        )
    if person.goal == "build":
        return Rate(1.2, 2.0, "building muscle", "ACSM/AND/DC 2016")
    if person.pregnant:
        return Rate(
            PREGNANCY_RDA * PLANT_FACTOR,
            PREGNANCY_HIGH,
            "pregnant, 1.1 g/kg plus 10 % on a plant-based diet",
            RDA_SOURCE,
        )
    if person.breastfeeding:
        return Rate(
            BREASTFEEDING_RDA * PLANT_FACTOR,
            BREASTFEEDING_HIGH,
            "breastfeeding, 1.3 g/kg plus 10 % on a plant-based diet",
            RDA_SOURCE,
        )
    if person.age_years >= OLD_FROM:
        return Rate(
            OLD_LOW,
            ADULT_HIGH,
            "65 and over: at least 1.0 to 1.2 g/kg",
            "PROT-AGE, J Am Med Dir Assoc 2013",
        )
    return Rate(
        ADULT_RDA * PLANT_FACTOR,
        ADULT_HIGH,
        "adult, 0.8 g/kg plus 10 % on a plant-based diet",
        RDA_SOURCE,
    )


def protein_of(person: Person, school: School) -> Protein:
    """Protein with its window and the weight used."""
    rate = rate_of(person, school)
    weight, which = weight_used(person)
    how = f"{rate.low:.2f}–{rate.high:.2f} g/kg ({rate.why}) × {weight:.1f} kg, {which}."
    low, high = rate.low * weight, rate.high * weight
    clinician = rate.needs_clinician
    if "bariatric-surgery" in person.conditions and low < BARIATRIC_LEAST_G:
        low, high, clinician = BARIATRIC_LEAST_G, max(high, BARIATRIC_LEAST_G), True
        how += (
            f" At least {BARIATRIC_LEAST_G:.0f} g after bariatric surgery (ASMBS 2016, from "
            "memory)."
        )
    return Protein(low, high, (rate.low, rate.high), weight, how, rate.source, clinician)
