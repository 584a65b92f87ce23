"""Rules about a person and their targets, before any food is chosen. Each yields verdicts with
values, no sentences.
"""

from __future__ import annotations

from collections.abc import Iterator

from dietetics.cautions.asked import CLIENT, asked_of
from dietetics.cautions.verdict import Verdict
from dietetics.targets.conditions import LOWERS_GLUCOSE, conditions
from dietetics.targets.deficit_holds import (
    advised_against,
    deficit_is_held,
    hold_reasons,
    reason_words,
)
from dietetics.targets.energy import EER_SOURCE, FLOOR_KCAL, gain_before
from dietetics.targets.needs_table import figures_of, said_of
from dietetics.targets.person import NOT_PLANNED_UNTIL
from dietetics.targets.proposal import Proposal

MOST_LOSS_SHARE_A_WEEK = 0.01
DOCTOR = "the client's doctor"
KIDNEY_TEAM = "the kidney clinician and renal dietitian"
PAEDIATRIC = "a paediatric dietitian"
FEW_MEALS = 2


@asked_of(CLIENT)
def kidney(plan: Proposal) -> Iterator[Verdict]:
    """Kidney disease, dialysis, transplant, and medicines that raise potassium."""
    if plan.person.kidney_disease:
        yield Verdict("kidney", "serious", source="KDOQI 2020, KDIGO 2024", ask=KIDNEY_TEAM)
    if "potassium-raising" in plan.person.conditions:
        yield Verdict("potassium-medicine", "serious", ask=DOCTOR)


@asked_of(CLIENT)
def warfarin(plan: Proposal) -> Iterator[Verdict]:
    """Vitamin K steady day to day."""
    if "warfarin" in plan.person.conditions:
        yield Verdict("warfarin", "serious", ask="the anticoagulation clinic")


@asked_of(CLIENT)
def low_blood_sugar(plan: Proposal) -> Iterator[Verdict]:
    """Insulin or sulphonylurea with fewer calories or fewer meals; insulin with a school led by
    starch.
    """
    person = plan.person
    if not person.conditions & LOWERS_GLUCOSE:
        return
    fewer, few_meals = person.goal == "lose", len(plan.meals) <= FEW_MEALS
    if fewer or few_meals:
        params = {"fewer": fewer, "few_meals": few_meals}
        yield Verdict("low-blood-sugar", "serious", params=params, ask=DOCTOR)
    if plan.school.starch_led and person.conditions & {"insulin", "diabetes-1"}:
        yield Verdict("insulin-starch", "serious", ask="the diabetes team")


@asked_of(CLIENT)
def deficits(plan: Proposal) -> Iterator[Verdict]:
    """Who gets no deficit without a clinician's note, and whose deficit a clinician applied."""
    person = plan.person
    reasons = (*hold_reasons(person), *advised_against(person))
    if person.goal != "lose" or not reasons:
        return
    if person.deficit_note is not None:
        note = person.deficit_note
        yield Verdict(
            "deficit-by-clinician", "warn", params={"by": note.by, "on": note.on}, ask=note.by
        )
        return
    params: dict[str, object] = {
        "reasons": tuple(reason_words(key, person) for key in reasons),
        "held": deficit_is_held(person),
    }
    yield Verdict(
        "no-deficit", "serious", params=params, ask=DOCTOR, measure=person.pace_kg_per_week
    )


@asked_of(CLIENT)
def eating_disorder(plan: Proposal) -> Iterator[Verdict]:
    """Numbers can do harm."""
    if "eating-disorder" in plan.person.conditions:
        yield Verdict("eating-disorder", "serious", ask="the treating team")


@asked_of(CLIENT)
def underweight(plan: Proposal) -> Iterator[Verdict]:
    """Too light for an adult, or for the age below 20."""
    person = plan.person
    if person.bmi < person.bmi_least:
        params = {"bmi": person.bmi, "least": person.bmi_least}
        yield Verdict("underweight", "warn", params=params, ask=DOCTOR)


@asked_of(CLIENT)
def floors_and_pace(plan: Proposal) -> Iterator[Verdict]:
    """Energy under 1,200 or 1,500 kcal, and loss above 1 % of weight a week."""
    person, energy = plan.person, plan.energy
    floor = FLOOR_KCAL[person.sex]
    if energy.floored and energy.required is not None:
        wanted = energy.required + energy.change
        params = {"wanted": wanted, "floor": floor}
        yield Verdict("energy-floor", "serious", params=params, ask=DOCTOR, measure=floor - wanted)
    share = person.pace_kg_per_week / person.weight_kg
    if person.goal == "lose" and share > MOST_LOSS_SHARE_A_WEEK:
        params = {"pace": person.pace_kg_per_week, "share": share}
        yield Verdict("pace", "warn", params=params, source="US CDC", ask=DOCTOR, measure=share)


@asked_of(CLIENT)
def stones_thyroid_gout(plan: Proposal) -> Iterator[Verdict]:
    """Oxalate stones, thyroid medicine, gout."""
    for condition, code, severity in (
        ("kidney-stones-oxalate", "oxalate", "warn"),
        ("thyroid-medicine", "thyroid", "warn"),
        ("gout", "gout", "note"),
    ):
        if condition in plan.person.conditions:
            yield Verdict(code, severity, ask=DOCTOR)


@asked_of(CLIENT)
def life_stage(plan: Proposal) -> Iterator[Verdict]:
    """Under 3, under 19, pregnancy, breastfeeding."""
    person = plan.person
    if person.age_years < NOT_PLANNED_UNTIL:
        yield Verdict("infant", "serious", source=EER_SOURCE, ask=PAEDIATRIC)
    elif person.growing:
        yield Verdict("young", "serious", source=EER_SOURCE, ask=PAEDIATRIC)
    if person.pregnant:
        gain_class, _, gain = gain_before(person)
        params = {
            "week": person.pregnancy_week,
            "gain": gain,
            "gain_class": gain_class,
            "babies": person.babies,
        }
        yield Verdict(
            "pregnancy",
            "warn",
            params=params,
            source="IOM 2009, from memory",
            ask="the midwife or doctor",
        )
    if person.breastfeeding:
        yield Verdict(
            "breastfeeding",
            "note",
            params={"month": person.breastfeeding_month},
            ask="the midwife or doctor",
        )


@asked_of(CLIENT)
def condition_rows(plan: Proposal) -> Iterator[Verdict]:
    """What the table of conditions asks to be minded."""
    for condition in conditions().values():
        if condition.code and condition.key in plan.person.conditions:
            yield Verdict(
                condition.code, condition.severity, source=condition.source, ask=condition.ask
            )


@asked_of(CLIENT)
def rows_of_needs(plan: Proposal) -> Iterator[Verdict]:
    """What the table of needs says of this kind of person."""
    for row in said_of(plan.person):
        yield Verdict(
            row.caution,
            row.severity,
            params=figures_of(plan.person),
            source=row.cited,
            ask=row.ask,
        )


@asked_of(CLIENT)
def always_on_plants(plan: Proposal) -> Iterator[Verdict]:
    """B12, iodine, vitamin D and long-chain omega-3: what plants do not bring."""
    yield Verdict("vegan-supplements", "note", ask=DOCTOR)
