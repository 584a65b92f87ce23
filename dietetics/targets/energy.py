"""Energy a day: resting, required, and what the goal makes of it, each with its equation and its limits."""

from __future__ import annotations

from dataclasses import dataclass

from dietetics.targets.person import FEMALE, Person

MIFFLIN_SOURCE = "Mifflin et al., Am J Clin Nutr 1990;51:241"
EER_SOURCE = "NASEM, Dietary Reference Intakes for Energy, 2023, from memory"
ACTIVITY_FACTORS = {"inactive": 1.2, "low-active": 1.375, "active": 1.55, "very-active": 1.725}  # common practice
# constant, per year, per cm, per kg
EER_TERMS: dict[tuple[str, str], tuple[float, float, float, float]] = {
    ("male", "inactive"): (753.07, -10.83, 6.50, 14.10), ("male", "low-active"): (581.47, -10.83, 8.30, 14.94),
    ("male", "active"): (1004.82, -10.83, 6.52, 15.91), ("male", "very-active"): (-517.88, -10.83, 15.61, 19.11),
    ("female", "inactive"): (584.90, -7.01, 5.72, 11.71), ("female", "low-active"): (575.77, -7.01, 6.60, 12.14),
    ("female", "active"): (710.25, -7.01, 6.54, 12.34), ("female", "very-active"): (511.83, -7.01, 9.07, 12.56),
}  # fmt: skip
KCAL_PER_KG = 7700.0  # at first; Hall et al., Lancet 2011;378:826 for the long run
SURPLUS_KCAL = {"gain": 350.0, "build": 250.0}  # common practice
PREGNANCY_KCAL, BREASTFEEDING_KCAL = 340.0, 330.0  # IOM 2005, second trimester and first half year, from memory
FLOOR_KCAL = {"female": 1200.0, "male": 1500.0}
SPAN = 0.05  # half width of the window, our judgement


@dataclass(frozen=True)
class Energy:
    """Energy in kcal a day. `required` is None outside the equation's ages (under 19)."""

    resting: float
    resting_times_activity: float
    required: float | None
    change: float
    target: float | None
    low: float | None
    high: float | None
    floored: bool
    how: str
    source: str


def resting_kcal(person: Person) -> float:
    """Resting energy in kcal a day: 10 kg + 6.25 cm - 5 years + 5 (men) or - 161 (women). Mifflin et al. 1990, adults."""
    constant = -161.0 if person.sex == FEMALE else 5.0
    return 10 * person.weight_kg + 6.25 * person.height_cm - 5 * person.age_years + constant


def required_kcal(person: Person) -> float | None:
    """Estimated energy requirement of adults in kcal a day (NASEM 2023); None under 19, where it does not hold."""
    if person.age_years < 19:
        return None
    constant, per_year, per_cm, per_kg = EER_TERMS[person.sex, person.activity]
    value = constant + per_year * person.age_years + per_cm * person.height_cm + per_kg * person.weight_kg
    return value + (PREGNANCY_KCAL if person.pregnant else BREASTFEEDING_KCAL if person.breastfeeding else 0.0)


def goal_change_kcal(person: Person) -> float:
    """What the goal adds (or takes, negative) in kcal a day: the pace at 7,700 kcal a kg, or a usual surplus."""
    if person.goal == "lose":
        return -person.pace_kg_per_week * KCAL_PER_KG / 7
    return SURPLUS_KCAL.get(person.goal, 0.0)


def energy_of(person: Person) -> Energy:
    """Energy with its window: requirement and goal, ± 5 %, never under the floor."""
    resting, required, change = resting_kcal(person), required_kcal(person), goal_change_kcal(person)
    beside = resting * ACTIVITY_FACTORS[person.activity]
    if required is None:
        how = f"No adult equation holds under 19. Resting energy would be {resting:,.0f} kcal; ask a paediatric dietitian."
        return Energy(resting, beside, None, change, None, None, None, False, how, EER_SOURCE)
    wanted, floor = required + change, FLOOR_KCAL[person.sex]
    target = max(wanted, floor)
    low, high = max(target * (1 - SPAN), floor), target * (1 + SPAN)
    parts = [f"Requirement {required:,.0f} kcal ({person.activity}); resting × activity gives {beside:,.0f} beside it"]
    if person.pregnant or person.breastfeeding:
        extra = PREGNANCY_KCAL if person.pregnant else BREASTFEEDING_KCAL
        parts.append(f"{extra:.0f} kcal of it for {person.stage} (IOM 2005, from memory)")
    if change:
        parts.append(f"{change:+,.0f} kcal for the goal ({person.goal})")
    if target > wanted:
        parts.append(f"raised to the floor of {floor:,.0f} kcal")
    return Energy(
        resting,
        beside,
        required,
        change,
        target,
        low,
        high,
        target > wanted,
        "; ".join(parts) + "; ± 5 %.",
        f"{EER_SOURCE}; beside it {MIFFLIN_SOURCE}",
    )
