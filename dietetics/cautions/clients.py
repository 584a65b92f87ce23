"""Cautions that a person and their targets raise, before any food is chosen."""

from __future__ import annotations

from collections.abc import Callable, Iterator

from dietetics.cautions.caution import LOCAL, SEVERITIES, Caution
from dietetics.targets.energy import FLOOR_KCAL
from dietetics.targets.person import BMI_LEAST, Person
from dietetics.targets.proposal import Proposal

MOST_LOSS_SHARE_A_WEEK = 0.01
DOCTOR = "the client's doctor"
KIDNEY_TEAM = "the kidney clinician and renal dietitian"
Rule = Callable[[Person, Proposal], Iterator[Caution]]


def kidney(person: Person, plan: Proposal) -> Iterator[Caution]:
    """Kidney disease, dialysis, transplant, and medicines that raise potassium."""
    if person.kidney_disease:
        yield Caution(
            "kidney",
            "serious",
            "Kidney disease: potassium, phosphorus and protein are set from the client's bloods.",
            f"Record who set them and when; until then they stay marked. {LOCAL}",
            KIDNEY_TEAM,
            "KDOQI 2020, KDIGO 2024",
        )
    if "potassium-raising" in person.conditions:
        yield Caution(
            "potassium-medicine",
            "serious",
            "A medicine that raises potassium (ACE inhibitor, ARB, spironolactone).",
            "Ask for a potassium ceiling; leave out salt substitutes (potassium chloride).",
            DOCTOR,
        )


def warfarin(person: Person, plan: Proposal) -> Iterator[Caution]:
    """Vitamin K steady day to day."""
    if "warfarin" in person.conditions:
        yield Caution(
            "warfarin",
            "serious",
            "Warfarin: vitamin K must stay steady from day to day.",
            "Keep greens at the same amount daily; swings of more than half are marked.",
            "the anticoagulation clinic",
        )


def low_blood_sugar(person: Person, plan: Proposal) -> Iterator[Caution]:
    """Insulin or sulphonylurea with fewer calories or fewer meals."""
    if not person.conditions & {"insulin", "sulphonylurea"}:
        return
    fewer = person.goal == "lose"
    few_meals = len(plan.meals) <= 2
    if fewer or few_meals:
        cause = " and ".join(w for w, yes in (("fewer calories", fewer), ("two meals a day", few_meals)) if yes)
        yield Caution(
            "low-blood-sugar",
            "serious",
            f"Insulin or a sulphonylurea with {cause} can cause low blood sugar.",
            "Do not begin before the doses are reviewed; no skipped meals or fasting.",
            DOCTOR,
        )


def no_deficit(person: Person, plan: Proposal) -> Iterator[Caution]:
    """Who gets no deficit without a clinician's note."""
    reasons = [
        text for text, yes in (
            ("pregnancy", person.pregnant), ("breastfeeding", person.breastfeeding), ("under 18", person.age_years < 18),
            ("over 70", person.age_years > 70), ("an eating disorder", "eating-disorder" in person.conditions),
            (f"a BMI of {person.bmi:.1f}, under {BMI_LEAST}", person.bmi < BMI_LEAST),
        ) if yes
    ]  # fmt: skip
    if reasons and person.goal == "lose":
        yield Caution(
            "no-deficit",
            "serious",
            f"No deficit without a clinician's note: {', '.join(reasons)}.",
            "Plan to hold weight until the note is there.",
            DOCTOR,
            measure=person.pace_kg_per_week,
        )
    if "eating-disorder" in person.conditions:
        yield Caution(
            "eating-disorder",
            "warn",
            "An eating disorder, now or before: numbers can do harm.",
            "Consider hiding calories and weights on hand-overs; work with the treating team.",
            "the treating team",
        )
    if person.bmi < BMI_LEAST and person.goal != "lose":
        yield Caution(
            "underweight",
            "warn",
            f"BMI {person.bmi:.1f} is under {BMI_LEAST}.",
            "Ask how weight has moved and whether it was meant; density may be raised.",
            DOCTOR,
        )


def floors_and_pace(person: Person, plan: Proposal) -> Iterator[Caution]:
    """Energy under 1,200 or 1,500 kcal, and loss above 1 % of weight a week."""
    floor = FLOOR_KCAL[person.sex]
    energy = plan.energy
    if energy.required is not None and energy.required + energy.change < floor:
        wanted = energy.required + energy.change
        yield Caution(
            "energy-floor",
            "serious",
            f"The goal would come to {wanted:,.0f} kcal a day, under {floor:,.0f}.",
            "The target was raised to the floor; a slower pace fits.",
            DOCTOR,
            measure=floor - wanted,
        )
    share = person.pace_kg_per_week / person.weight_kg
    if person.goal == "lose" and share > MOST_LOSS_SHARE_A_WEEK:
        yield Caution(
            "pace",
            "warn",
            f"{person.pace_kg_per_week:g} kg a week is {share:.1%} of body weight, above 1 %.",
            "0.5 to 1 kg a week is the usual advice; a faster pace needs a clinician's acknowledgement.",
            DOCTOR,
            "US CDC",
            share,
        )


def stones_thyroid_gout(person: Person, plan: Proposal) -> Iterator[Caution]:
    """Oxalate stones, thyroid medicine, gout."""
    if "kidney-stones-oxalate" in person.conditions:
        yield Caution(
            "oxalate",
            "warn",
            "Oxalate stones: spinach, chard, beet greens and almonds are marked.",
            "Choose kale, cabbage or lettuce for greens; keep calcium at meals and drink enough.",
            DOCTOR,
        )
    if "thyroid-medicine" in person.conditions:
        yield Caution(
            "thyroid",
            "warn",
            "Thyroid medicine: soy, fibre and calcium at the same hour hinder it.",
            "Keep them some hours apart, the same way every day.",
            DOCTOR,
        )
    if "gout" in person.conditions:
        yield Caution(
            "gout", "note", "Gout is not a reason to avoid beans, but ask.", "Ask how beans went before.", DOCTOR
        )


def young(person: Person, plan: Proposal) -> Iterator[Caution]:
    """No adult equation under 19."""
    if person.age_years < 19:
        yield Caution(
            "young",
            "serious",
            "Under 19 no adult equation holds: energy is not computed.",
            "Work with a paediatric dietitian.",
            "a paediatric dietitian",
            "NASEM 2023",
        )


def always_on_plants(person: Person, plan: Proposal) -> Iterator[Caution]:
    """B12, iodine, vitamin D and long-chain omega-3: what plants do not bring."""
    yield Caution(
        "vegan-supplements",
        "note",
        "B12, iodine, vitamin D and long-chain omega-3 do not come from unfortified plants.",
        "A B12 supplement is usual practice; iodine, vitamin D and algae oil likewise. Check labels for what is added.",
        DOCTOR,
    )


RULES: tuple[Rule, ...] = (
    kidney, warfarin, low_blood_sugar, no_deficit, floors_and_pace, stones_thyroid_gout, young, always_on_plants,
)  # fmt: skip


def client_cautions(plan: Proposal) -> list[Caution]:
    """Every caution a person and their targets raise, the serious ones first."""
    found = [caution for rule in RULES for caution in rule(plan.person, plan)]
    return sorted(found, key=lambda c: SEVERITIES.index(c.severity))
