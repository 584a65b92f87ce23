"""Protein a day by weight, age, goal and condition, and which weight is used."""

from __future__ import annotations

from dataclasses import dataclass

from dietetics.targets.person import Person
from dietetics.targets.schools import School

ADJUSTED_FROM_BMI, REFERENCE_BMI, ADJUSTED_SHARE = 30.0, 25.0, 0.25
PLANT_FACTOR = 1.1  # many plant-based practitioners add 10 %, common practice


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


def weight_used(person: Person) -> tuple[float, str]:
    """The weight protein is reckoned by: actual, or adjusted from BMI 30 (reference at BMI 25 + a quarter of the rest)."""
    if person.bmi < ADJUSTED_FROM_BMI:
        return person.weight_kg, "actual weight"
    reference = REFERENCE_BMI * (person.height_cm / 100) ** 2
    adjusted = reference + ADJUSTED_SHARE * (person.weight_kg - reference)
    return adjusted, f"adjusted weight (BMI {person.bmi:.0f}; common practice)"


def rate_of(person: Person, school: School) -> tuple[float, float, str, str, bool]:
    """(low, high) g per kg, the reason, the source, and whether a clinician must set it."""
    if "dialysis" in person.conditions:
        return 1.0, 1.2, "on dialysis", "KDOQI 2020, from memory", True
    if person.conditions & {"ckd-3", "ckd-4", "ckd-5"}:
        beside = "; KDIGO 2024 gives 0.8 and avoids more than 1.3"
        if person.conditions & {"diabetes-2", "insulin"}:
            return 0.6, 0.8, f"kidney disease with diabetes{beside}", "KDOQI 2020, from memory", True
        return 0.55, 0.60, f"kidney disease, not on dialysis{beside}", "KDOQI 2020, from memory", True
    if school.protein_g_per_kg is not None:
        low, high = school.protein_g_per_kg
        return low, high, f"the school {school.name}", "ACSM/AND/DC 2016; ISSN 2017; common practice", False
    if person.goal == "build":
        return 1.2, 2.0, "building muscle", "ACSM/AND/DC 2016", False
    if person.pregnant:
        return 1.1 * PLANT_FACTOR, 1.8, "pregnant, 1.1 g/kg and 10 % for plants", "IOM 2005; common practice", False
    if person.breastfeeding:
        return (
            1.3 * PLANT_FACTOR,
            2.0,
            "breastfeeding, 1.3 g/kg and 10 % for plants",
            "IOM 2005; common practice",
            False,
        )
    if person.age_years >= 65:
        return 1.0, 1.2, "65 and over", "PROT-AGE, J Am Med Dir Assoc 2013", False
    return 0.8 * PLANT_FACTOR, 1.6, "adult, 0.8 g/kg and 10 % for plants", "IOM 2005; common practice", False


def protein_of(person: Person, school: School) -> Protein:
    """Protein with its window and the weight used."""
    low, high, why, source, clinician = rate_of(person, school)
    weight, which = weight_used(person)
    how = f"{low:.2f}–{high:.2f} g/kg ({why}) × {weight:.1f} kg, {which}."
    return Protein(low * weight, high * weight, (low, high), weight, how, source, clinician)
