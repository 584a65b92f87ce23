"""The weight that rates per kilogram are taken of: the actual one, or an adjusted one in
obesity.
"""

from __future__ import annotations

from dietetics.targets.person import Person

ADJUSTED_FROM_BMI, REFERENCE_BMI, ADJUSTED_SHARE = 30.0, 25.0, 0.25


def weight_used(person: Person) -> tuple[float, str]:
    """(kg, which weight it is): actual, or adjusted from BMI 30 (reference at BMI 25 and a quarter
    of the rest).

    Adjusting is common practice for adults; children are planned for by their actual weight.
    """
    if person.growing or person.bmi < ADJUSTED_FROM_BMI:
        return person.weight_kg, "actual weight"
    reference = REFERENCE_BMI * (person.height_cm / 100) ** 2
    adjusted = reference + ADJUSTED_SHARE * (person.weight_kg - reference)
    return adjusted, f"adjusted weight (BMI {person.bmi:.0f}; common practice)"


def lost_percent(lost_kg: float, now_kg: float) -> float:
    """What was lost, as a share (%) of the weight before.

    >>> lost_percent(5.0, 45.0)
    10.0
    """
    return 100 * lost_kg / (now_kg + lost_kg)
