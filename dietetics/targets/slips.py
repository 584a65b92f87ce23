"""Slips of the hand in a height and a weight: what can be, and is so unlikely that it is asked for
before anything is reckoned from it.
"""

from __future__ import annotations

from dataclasses import dataclass

from dietetics.targets.measurements import CM_PER_INCH, KG_PER_LB
from dietetics.targets.person import CHILD_UNTIL

LIKELY_BMI = (13.0, 60.0)  # of an adult; common practice
LIKELY_BMI_OF_CHILDREN = (11.0, 45.0)
MOST_CHANGE = 0.10  # of the weight measured last; common practice


@dataclass(frozen=True)
class Slip:
    """One question: the field it is asked beside ("height_cm", "weight_kg"), and its words."""

    field: str
    words: str


def slips(
    height_cm: float, weight_kg: float, age_years: float, last_kg: float | None = None
) -> list[Slip]:
    """What to ask about a height and a weight; nothing where both are likely."""
    found = []
    low, high = LIKELY_BMI if age_years >= CHILD_UNTIL else LIKELY_BMI_OF_CHILDREN
    bmi = _bmi(height_cm, weight_kg)
    if not low <= bmi <= high:
        words = f"{height_cm:g} cm and {weight_kg:g} kg make a BMI of {bmi:.1f}. Is that right?"
        found.append(Slip(*_meant(height_cm, weight_kg, low, high, words)))
    elif last_kg is not None and _change(weight_kg, last_kg) > MOST_CHANGE + 1e-9:
        words = (
            f"{weight_kg:g} kg differs by {_change(weight_kg, last_kg):.0%} from the last, "
            f"{last_kg:g} kg. Is that right?{_pounds(weight_kg, last_kg)}"
        )
        found.append(Slip("weight_kg", words))
    return found


def _change(kg: float, last_kg: float) -> float:
    return abs(kg / last_kg - 1)


def _bmi(height_cm: float, weight_kg: float) -> float:
    return weight_kg / (height_cm / 100) ** 2


def _meant(cm: float, kg: float, low: float, high: float, words: str) -> tuple[str, str]:
    """The field and the words, with what was perhaps meant."""
    for field, meant, (other_cm, other_kg) in (
        ("height_cm", "Perhaps height and weight are exchanged.", (kg, cm)),
        ("weight_kg", f"Perhaps {kg:g} is in pounds: write {kg:g} lb.", (cm, kg * KG_PER_LB)),
        ("height_cm", f"Perhaps {cm:g} is in inches: write {cm:g} in.", (cm * CM_PER_INCH, kg)),
        ("weight_kg", f"Perhaps {kg * 10:g} kg was meant.", (cm, kg * 10)),
    ):
        if 120 <= other_cm <= 220 and low + 3 <= _bmi(other_cm, other_kg) <= high - 15:
            return field, f"{words} {meant}"
    return "weight_kg", words


def _pounds(weight_kg: float, last_kg: float) -> str:
    in_pounds = _change(weight_kg * KG_PER_LB, last_kg) <= MOST_CHANGE
    return f" Perhaps {weight_kg:g} is in pounds: write {weight_kg:g} lb." if in_pounds else ""
