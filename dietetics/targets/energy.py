"""Energy a day: resting, required, and what the goal makes of it, each with its equation and its
limits.

The equations are those of NASEM, Dietary Reference Intakes for Energy, 2023, from memory: adults
from 19 years, children from 3, the second and third trimester of pregnancy by week, breastfeeding
by month. Where none is made for a person (under 3 years, pregnant or breastfeeding under 19)
nothing is computed. In kidney disease of adults KDOQI 2020 gives 25-35 kcal/kg instead of a
requirement.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from dietetics.targets.deficit_holds import deficit_is_held
from dietetics.targets.needs_table import NONE, energy_rule, rows_of
from dietetics.targets.person import (
    ACTIVITIES,
    FEMALE,
    FIRST_HALF_YEAR_MONTHS,
    FIRST_TRIMESTER_WEEKS,
    GOALS,
    NOT_PLANNED_UNTIL,
    Person,
)
from dietetics.targets.weight import weight_used

MIFFLIN_SOURCE = "Mifflin et al., Am J Clin Nutr 1990;51:241"
EER_SOURCE = "NASEM, Dietary Reference Intakes for Energy, 2023, from memory"
KIDNEY_SOURCE = "KDOQI 2020, from memory"
ACTIVITY_FACTORS = {
    "inactive": 1.2,
    "low-active": 1.375,
    "active": 1.55,
    "very-active": 1.725,
}  # common practice
# constant, per year, per cm, per kg
Terms = tuple[float, float, float, float]
EER_TERMS: dict[tuple[str, str], Terms] = {
    ("male", "inactive"): (753.07, -10.83, 6.50, 14.10), ("male", "low-active"): (581.47, -10.83,
    8.30, 14.94),
    ("male", "active"): (1004.82, -10.83, 6.52, 15.91), ("male", "very-active"): (-517.88, -10.83,
    15.61, 19.11),
    ("female", "inactive"): (584.90, -7.01, 5.72, 11.71), ("female", "low-active"): (575.77, -7.01,
    6.60, 12.14),
    ("female", "active"): (710.25, -7.01, 6.54, 12.34), ("female", "very-active"): (511.83, -7.01,
    9.07, 12.56),
}  # fmt: skip
CHILD_TERMS: dict[tuple[str, str], Terms] = {
    ("male", "inactive"): (-447.51, 3.68, 13.01, 13.15), ("male", "low-active"): (19.12, 3.68, 8.62,
    20.28),
    ("male", "active"): (-388.19, 3.68, 12.66, 20.46), ("male", "very-active"): (-671.75, 3.68,
    15.38, 23.25),
    ("female", "inactive"): (55.59, -22.25, 8.43, 17.07), ("female", "low-active"): (-297.54,
    -22.25, 12.77, 14.73),
    ("female", "active"): (-189.55, -22.25, 11.74, 18.34), ("female", "very-active"): (-709.59,
    -22.25, 18.22, 14.25),
}  # fmt: skip
# Energy laid down in growth, kcal a day: from this age on, for a boy and for a girl.
GROWTH_KCAL = ((14.0, 20.0, 20.0), (9.0, 25.0, 30.0), (4.0, 15.0, 15.0), (3.0, 20.0, 15.0))
PREGNANCY_TERMS: dict[str, Terms] = {
    "inactive": (1131.20, -2.04, 0.34, 12.15), "low-active": (693.35, -2.04, 5.73, 10.20),
    "active": (-223.84, -2.04, 13.23, 8.15), "very-active": (-779.72, -2.04, 18.45, 8.73),
}  # fmt: skip
PREGNANCY_KCAL_PER_WEEK = 9.16
USUAL_WEEK = 27.0  # taken where the week is not known: the middle of the second and third trimester
# Energy of the tissue gained, by BMI before pregnancy; and the gain that is advised (IOM 2009), kg
# in all.
GAIN = (
    (18.5, "underweight", 300.0, (12.5, 18.0)),
    (25.0, "usual weight", 200.0, (11.5, 16.0)),
    (30.0, "overweight", 150.0, (7.0, 11.5)),
    (1e9, "obesity", -50.0, (5.0, 9.0)),
)
TWIN_GAIN = {  # IOM 2009, from memory
    "usual weight": (17.0, 25.0),
    "overweight": (14.0, 23.0),
    "obesity": (11.0, 19.0),
}
MILK_KCAL, MOBILISED_KCAL, LATER_MILK_KCAL = 540.0, 140.0, 380.0
KIDNEY_KCAL_PER_KG = (25.0, 35.0)
KCAL_PER_KG = 7700.0  # at first; Hall et al., Lancet 2011;378:826 for the long run
SURPLUS_KCAL = {"gain": 350.0, "build": 250.0}  # common practice
FLOOR_KCAL = {"female": 1200.0, "male": 1500.0}
SPAN = 0.05  # half width of the window, our judgement


@dataclass(frozen=True)
class Energy:
    """Energy in kcal a day. `required` is None where no equation is made for the person.

    `wanted_change` is what the goal asks for, `change` what of it is applied: nothing while a
    deficit is held back.
    """

    resting: float
    resting_times_activity: float
    required: float | None
    wanted_change: float
    change: float
    target: float | None
    low: float | None
    high: float | None
    floored: bool
    how: str
    source: str

    @property
    def held(self) -> bool:
        """True where a wanted deficit is not applied."""
        return self.change != self.wanted_change


def resting_kcal(person: Person) -> float:
    """Resting energy in kcal a day: 10 kg + 6.25 cm - 5 years + 5 (men) or - 161 (women). Mifflin
    et al. 1990, adults.
    """
    constant = -161.0 if person.sex == FEMALE else 5.0
    return 10 * person.weight_kg + 6.25 * person.height_cm - 5 * person.age_years + constant


def _equation(terms: Terms, person: Person) -> float:
    constant, per_year, per_cm, per_kg = terms
    return (
        constant
        + per_year * person.age_years
        + per_cm * person.height_cm
        + per_kg * person.weight_kg
    )


def gain_before(person: Person) -> tuple[str, float, tuple[float, float] | None]:
    """(class of the BMI before pregnancy, kcal a day laid down, advised gain in kg). Usual weight
    where it is not known; no gain where none is published (more than two children; twins with a low
    weight before).
    """
    row = (
        GAIN[1]
        if person.weight_before_kg is None
        else next(row for row in GAIN if person.bmi < row[0])
    )
    gain = row[3] if person.babies == 1 else TWIN_GAIN.get(row[1]) if person.babies == 2 else None
    return row[1], row[2], gain


def required_kcal(person: Person) -> float | None:
    """Estimated energy requirement in kcal a day (NASEM 2023, from memory); None where no equation
    is made for the person.
    """
    if person.age_years < NOT_PLANNED_UNTIL or (
        person.growing and (person.pregnant or person.breastfeeding)
    ):
        return None
    if person.growing:
        grown = next(row for row in GROWTH_KCAL if person.age_years >= row[0])
        return (
            _equation(CHILD_TERMS[person.sex, person.activity], person)
            + grown[2 if person.sex == FEMALE else 1]
        )
    week = USUAL_WEEK if person.pregnancy_week is None else person.pregnancy_week
    if person.pregnant and week > FIRST_TRIMESTER_WEEKS:
        carried = (
            _equation(PREGNANCY_TERMS[person.activity], person) + PREGNANCY_KCAL_PER_WEEK * week
        )
        return carried + gain_before(person)[1]
    value = _equation(EER_TERMS[person.sex, person.activity], person)
    if person.breastfeeding:
        month = person.breastfeeding_month
        early = month is None or month <= FIRST_HALF_YEAR_MONTHS
        value += MILK_KCAL - MOBILISED_KCAL if early else LATER_MILK_KCAL
    return value


def wanted_change_kcal(person: Person) -> float:
    """What the goal adds (or takes, negative) in kcal a day: the pace at 7,700 kcal a kg, or a
    usual surplus.
    """
    if person.goal == "lose":
        return -person.pace_kg_per_week * KCAL_PER_KG / 7
    return 0.0 if person.pregnant else SURPLUS_KCAL.get(person.goal, 0.0)


def energy_of(person: Person) -> Energy:
    """Energy with its window: requirement and goal, ± 5 %, never under the floor; in kidney disease
    25-35 kcal/kg.
    """
    resting, required, wanted = (
        resting_kcal(person),
        required_kcal(person),
        wanted_change_kcal(person),
    )
    beside = resting * ACTIVITY_FACTORS[person.activity]
    # growth is not planned away, whatever a note says: a clinician's own figure may be entered
    change = 0.0 if deficit_is_held(person) or (person.growing and wanted < 0) else wanted
    if required is None:
        how = (
            "No energy equation covers this person. For an adult, resting energy would be "
            f"{resting:,.0f} kcal."
        )
        return Energy(resting, beside, None, wanted, 0.0, None, None, None, False, how, EER_SOURCE)
    if person.clinician_energy_kcal is not None:
        return _by_clinician(person, resting, beside, required, wanted)
    if energy_rule(person) == NONE:
        how = "No energy target is proposed: a clinician sets it (see the cautions)."
        return Energy(
            resting, beside, required, wanted, 0.0, None, None, None, False, how, EER_SOURCE
        )
    parts = [_required_words(person, required, beside), *_change_words(person, wanted, change)]
    base = Energy(
        resting, beside, required, wanted, change, None, None, None, False, "", _source(person)
    )
    in_life_stage = person.growing or person.pregnant or person.breastfeeding
    if person.kidney_disease and not in_life_stage:
        return _kidney_energy(person, base, required, parts)
    floor = 0.0 if person.growing else floor_kcal(person)
    target = max(required + change, floor)
    raised = target > required + change
    if raised:
        parts.append(f"raised to the minimum of {floor:,.0f} kcal")
    return replace(
        base,
        target=target,
        low=max(target * (1 - SPAN), floor),
        high=target * (1 + SPAN),
        floored=raised,
        how="; ".join(parts) + "; ± 5 %.",
    )


def floor_kcal(person: Person) -> float:
    """The energy in kcal a day under which an adult is not planned."""
    floors = [row.floor_kcal for row in rows_of(person) if row.floor_kcal is not None]
    return max([FLOOR_KCAL[person.sex], *floors])


def _by_clinician(
    person: Person, resting: float, beside: float, required: float | None, wanted: float
) -> Energy:
    """A clinician's own figure, and a twentieth to both sides."""
    target, note = person.clinician_energy_kcal or 0.0, person.clinician_energy_note
    by = f", {note.by}, {note.on}" if note is not None else ""
    return Energy(
        resting,
        beside,
        required,
        wanted,
        0.0,
        target,
        target * (1 - SPAN),
        target * (1 + SPAN),
        False,
        f"{target:,.0f} kcal by a clinician{by}; ± 5 %.",
        note.by if note is not None else "a clinician",
    )


def _kidney_energy(person: Person, base: Energy, required: float, parts: Sequence[str]) -> Energy:
    """Energy in kidney disease: 25-35 kcal/kg of the weight that is reckoned with, and never under
    what the person needs less an agreed deficit.
    """
    weight, which = weight_used(person)
    least, most = (weight * rate for rate in KIDNEY_KCAL_PER_KG)
    least = max(least, floor_kcal(person))
    target = max(required + base.change, least)
    low, high = max(least, target * (1 - SPAN)), max(most, target * (1 + SPAN))
    words = (
        f"in kidney disease 25–35 kcal/kg × {weight:.1f} kg, {which}, and not under the requirement"
    )
    return replace(
        base,
        target=target,
        low=low,
        high=high,
        how="; ".join([*parts, words]) + ".",
        source=f"{KIDNEY_SOURCE}; {EER_SOURCE}",
    )


def _source(person: Person) -> str:
    """The source of a requirement; resting energy stands beside that of adults alone."""
    stage = person.growing or person.pregnant or person.breastfeeding
    return EER_SOURCE if stage else f"{EER_SOURCE}; compared with {MIFFLIN_SOURCE}"


def _required_words(person: Person, required: float, beside: float) -> str:
    """How the requirement was found."""
    text = f"Requirement {required:,.0f} kcal ({ACTIVITIES[person.activity].split(':')[0]})"
    if person.growing:
        return f"{text}, including energy for growth"
    if person.pregnant:
        week = person.pregnancy_week
        if week is not None and week <= FIRST_TRIMESTER_WEEKS:
            return f"{text}; nothing is added in the first trimester"
        name, laid_down, advised = gain_before(person)
        known = (
            f"{name} before"
            if person.weight_before_kg is not None
            else "weight before pregnancy unknown, a usual weight assumed"
        )
        when = f"week {week:g}" if week is not None else f"week not known, {USUAL_WEEK:g} assumed"
        total = f"{advised[0]:g}–{advised[1]:g} kg in total" if advised else "no gain published"
        gain = f"{known}: {total}, IOM 2009"
        return f"{text}, {when}, with {laid_down:+.0f} kcal for the weight gain ({gain})"
    if person.breastfeeding:
        month = person.breastfeeding_month
        if month is not None and month > FIRST_HALF_YEAR_MONTHS:
            return (
                f"{text}, including {LATER_MILK_KCAL:.0f} kcal for milk after the first six months"
            )
        taken = "" if month is not None else " (month not known: the first six months assumed)"
        return (
            f"{text}, including {MILK_KCAL:.0f} kcal for milk, minus {MOBILISED_KCAL:.0f} "
            f"from body stores{taken}"
        )
    return f"{text}; for comparison, resting energy × activity is {beside:,.0f} kcal"


def _change_words(person: Person, wanted: float, change: float) -> list[str]:
    if wanted != change:
        return [
            f"{wanted:+,.0f} kcal was requested but is not applied: a clinician's note is needed"
        ]
    if not change:
        return []
    note = person.deficit_note
    by = f", agreed by {note.by}, {note.on}" if note is not None and change < 0 else ""
    return [f"{change:+,.0f} kcal for the goal ({GOALS[person.goal]}){by}"]
