"""Sixty people who could be hurt by a target, with what a dietitian would expect of a proposal.

Written before the program could answer; each names its source. All are *from memory*: NICE CG32
(refeeding), GLIM 2019 (malnutrition), PROT-AGE 2013 and ESPEN 2018/2022 (65 and over), IOM AMDR
2002/2005 (children), IOM 2009 (pregnancy), KDIGO 2024 and KDOQI 2020 (kidneys), ESPEN 2021
(cancer), ESPEN 2020 (bowel), ASMBS 2016 (surgery), IOM 2011 (bone), NASEM 2019 (sodium); "cp" is
common practice. `python -m dietetics.tests.people_at_risk` prints how many are answered well.

Energy that a person needs is reckoned here by the printed equations (NASEM 2023, from memory), not
asked of the program.
"""

from __future__ import annotations

import re
from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from dietetics.tests.people import person, verb_answer

NEAR = 0.06  # a window is the requirement and a twentieth to both sides, shown in tens
ADULT = {  # NASEM 2023, adults: constant, per year, per cm, per kg
    ("male", "inactive"): (753.07, -10.83, 6.50, 14.10),
    ("male", "low-active"): (581.47, -10.83, 8.30, 14.94),
    ("male", "active"): (1004.82, -10.83, 6.52, 15.91),
    ("female", "inactive"): (584.90, -7.01, 5.72, 11.71),
    ("female", "low-active"): (575.77, -7.01, 6.60, 12.14),
    ("female", "active"): (710.25, -7.01, 6.54, 12.34),
}
LOSE = {"goal": "lose", "pace_kg_per_week": 0.5}
NOTE = {"deficit_note": {"by": "Dr M. Example", "on": "2026-11-02"}}
Span = tuple[float | None, float | None]


@dataclass(frozen=True)
class Expected:
    """What a proposal must say.

    `no_energy`: no window of energy at all. `no_deficit`: the window does not lie under what the
    person needs (`needs` kcal). `energy`, and `lows` and `highs` by nutrient, say in which span a
    side of a window lies (None: that side does not exist). `not_required` names nutrients of which
    no window is a "must", `no_ceiling` those of which no "must" has a high side. `asked` must come
    from a clinician; `said` and `not_said` are patterns of the words of all cautions; `stops` says
    that a plan may not be handed over before something is recorded.
    """

    source: str
    no_energy: bool = False
    no_deficit: bool = False
    needs: float | None = None
    deficit: bool = False
    lows: Mapping[str, Span] = field(default_factory=dict)
    highs: Mapping[str, Span] = field(default_factory=dict)
    not_required: tuple[str, ...] = ()
    no_ceiling: tuple[str, ...] = ()
    absent: tuple[str, ...] = ()
    asked: tuple[str, ...] = ()
    said: tuple[str, ...] = ()
    not_said: tuple[str, ...] = ()
    stops: bool = False


def needs(facts: Mapping[str, Any]) -> float:
    """What an adult needs a day in kcal."""
    constant, year, cm, kg = ADULT[facts["sex"], facts["activity"]]
    return float(
        constant + year * facts["age_years"] + cm * facts["height_cm"] + kg * facts["weight_kg"]
    )


def adult(sex: str, age: float, cm: float, kg: float, *having: str, **more: Any) -> dict[str, Any]:
    """An adult who sits, walks and has these conditions."""
    return person(
        sex, age, cm, kg, more.pop("activity", "low-active"), conditions=list(having), **more
    )


REFER = r"refer|hospital|doctor (?:today|now|the same day|at once)"
PEOPLE: dict[str, tuple[dict[str, Any], Expected]] = {}


def who(name: str, facts: dict[str, Any], source: str, **expected: Any) -> None:
    """Write one person down."""
    if expected.get("no_deficit") and "needs" not in expected:
        expected["needs"] = needs(facts)
    PEOPLE[name] = (facts, Expected(source, **expected))


# --- refeeding
who(
    "woman of BMI 12.5 who wants to gain",
    adult("female", 24, 165, 34, goal="gain"),
    "NICE CG32",
    no_energy=True,
    asked=("energy_kcal",),
    said=("refeeding", REFER, "thiamin"),
    stops=True,
)
who(
    "man of BMI 15.5",
    adult("male", 40, 178, 49),
    "NICE CG32",
    no_energy=True,
    said=("refeeding", REFER),
    stops=True,
)
who(
    "BMI 17.5 and 12 % lost",
    adult("female", 31, 168, 49.4, loss_percent=12),
    "NICE CG32, two of",
    no_energy=True,
    said=("refeeding",),
    stops=True,
)
who(
    "BMI 18 and hardly eaten for six days",
    adult("male", 29, 180, 58.3, eats_little_days=6),
    "NICE CG32, two of",
    no_energy=True,
    said=("refeeding",),
    stops=True,
)
who(
    "BMI 24, hardly eaten for eleven days",
    adult("female", 55, 160, 61.4, eats_little_days=11),
    "NICE CG32, one of",
    no_energy=True,
    said=("refeeding",),
    stops=True,
)
who(
    "BMI 22, 16 % lost without wanting it",
    adult("male", 63, 175, 67.4, loss_percent=16, loss_unintended=True),
    "NICE CG32, one of",
    no_energy=True,
    said=("refeeding",),
    stops=True,
)
who(
    "BMI 21 and low phosphate",
    adult("female", 44, 165, 57.2, "low-electrolytes"),
    "NICE CG32, one of",
    no_energy=True,
    said=("refeeding",),
    stops=True,
)
who(
    "BMI 17.8 on insulin",
    adult("male", 35, 176, 55.1, "diabetes-1", "insulin"),
    "NICE CG32, two of",
    no_energy=True,
    said=("refeeding",),
    stops=True,
)
who(
    "BMI 17.8 and nothing else",
    adult("female", 26, 170, 51.4, goal="gain"),
    "GLIM 2019",
    needs=needs(adult("female", 26, 170, 51.4)),
    no_deficit=True,
    said=("underweight|bmi",),
    not_said=("refeeding",),
)
who(
    "refeeding risk with a clinician's figure",
    adult(
        "female",
        24,
        165,
        34,
        clinician_energy_kcal=400,
        clinician_energy_note={"by": "Dr M. Example", "on": "2026-11-02"},
    ),
    "NICE CG32: at most 10 kcal/kg",
    lows={"energy_kcal": (360, 400)},
    highs={"energy_kcal": (400, 440)},
    said=("refeeding",),
)

# --- no deficit
who(
    "osteoporosis at 72, BMI 22.4, wants to lose",
    adult("female", 72, 160, 57.3, "osteoporosis", **LOSE),
    "cp; ESPEN geriatrics",
    no_deficit=True,
    said=("no deficit|not applied",),
    lows={"calcium_mg": (1000, 1200), "vitamin_d_ug": (15, 20), "protein_g": (57, None)},
)
who(
    "man of 75, BMI 24, wants to lose",
    adult("male", 75, 175, 73.5, **LOSE),
    "ESPEN geriatrics",
    no_deficit=True,
    said=("no deficit|not applied",),
)
who(
    "woman of 66, BMI 31, wants to lose",
    adult("female", 66, 162, 81.4, **LOSE),
    "ESPEN geriatrics: only mild, with exercise, with the clinician",
    said=("clinician|doctor",),
    lows={"protein_g": (66, None)},
)
who(
    "heart failure, BMI 27, wants to lose",
    adult("male", 58, 178, 85.6, "heart-failure", **LOSE),
    "cp",
    no_deficit=True,
)
who(
    "breastfeeding in month 1",
    adult("female", 31, 168, 74, breastfeeding=True, breastfeeding_month=1, **LOSE),
    "cp",
    no_deficit=True,
    needs=needs(adult("female", 31, 168, 74)) + 400,
)
who(
    "breastfeeding in month 8",
    adult("female", 31, 168, 74, breastfeeding=True, breastfeeding_month=8, **LOSE),
    "cp: only with the clinician's note",
    no_deficit=True,
    needs=needs(adult("female", 31, 168, 74)) + 380,
)
who(
    "breastfeeding in month 8 with a note",
    adult("female", 31, 168, 74, breastfeeding=True, breastfeeding_month=8, **LOSE, **NOTE),
    "cp: not under 1,800 kcal",
    deficit=True,
    lows={"energy_kcal": (1790, None)},
)
who(
    "BMI 18.6, half a kilo a week",
    adult("female", 27, 170, 53.8, **LOSE),
    "cp: BMI under 20",
    no_deficit=True,
    said=("BMI",),
)
who("BMI 19.8", adult("male", 33, 182, 65.6, **LOSE), "cp: BMI under 20", no_deficit=True)
who(
    "BMI 20.5",
    adult("female", 33, 168, 57.9, **LOSE),
    "cp: 20 to 21 is asked",
    deficit=True,
    said=("BMI",),
)
who(
    "cancer, BMI 26, wants to lose",
    adult("female", 57, 165, 70.8, "cancer", **LOSE),
    "ESPEN 2021",
    no_deficit=True,
    lows={"protein_g": (70, 107)},
    said=("cancer",),
)
who(
    "cachexia",
    adult("male", 68, 176, 62, "cancer", "cachexia"),
    "ESPEN 2021",
    no_deficit=True,
    lows={"protein_g": (61, 93)},
    said=(REFER,),
)
who(
    "eating disorder, BMI 23, wants to lose",
    adult("female", 22, 166, 63.4, "eating-disorder", **LOSE),
    "cp",
    no_deficit=True,
    not_required=("energy_kcal",),
    said=("treating team",),
)
who(
    "haemodialysis, wants to lose",
    adult("male", 50, 176, 84, "dialysis", **LOSE),
    "cp",
    no_deficit=True,
    stops=True,
)
who(
    "girl of 13, wants to lose",
    person("female", 13, 158, 60, conditions=[], **LOSE),
    "IOM; cp",
    said=("no deficit|not applied",),
    not_required=(),
)
who(
    "loss of 8 % in three months without wanting it",
    adult("female", 59, 164, 62, loss_percent=8, loss_unintended=True, **LOSE),
    "GLIM 2019: over 5 % in 6 months",
    no_deficit=True,
    said=(REFER,),
)
who(
    "man of 45, BMI 29, wants to lose: nothing forbids it",
    adult("male", 45, 180, 94, **LOSE),
    "cp",
    deficit=True,
    not_said=("no deficit", "refeeding"),
)
who(
    "osteoporosis at 60, BMI 30, wants to lose",
    adult("female", 60, 160, 76.8, "osteoporosis", **LOSE),
    "cp: no deficit under BMI 25",
    deficit=True,
)

# --- kidneys
who(
    "stage G3, stable",
    adult("male", 55, 178, 80, "ckd-3"),
    "KDIGO 2024; KDOQI 2020",
    lows={"protein_g": (43, 64)},
    not_required=("protein_g", "energy_kcal"),
    no_deficit=True,
    asked=("potassium_mg", "phosphorus_mg"),
)
who(
    "stage G3, BMI 16.9, wasted",
    adult("female", 61, 165, 46, "ckd-3"),
    "KDIGO 2024; NICE CG32",
    lows={"protein_g": (36, None)},
    said=("restrict",),
)
who(
    "woman of 85, 48 kg, stage G3",
    adult("female", 85, 155, 48, "ckd-3", activity="inactive"),
    "KDIGO 2024: no restriction in the very old",
    lows={"protein_g": (38, None)},
    no_deficit=True,
)
who(
    "stage G4, frail",
    adult("male", 78, 172, 64, "ckd-4", "frail"),
    "KDIGO 2024",
    lows={"protein_g": (51, None)},
    no_deficit=True,
)
who(
    "stage G4 with diabetes on insulin",
    adult("female", 59, 163, 72, "ckd-4", "diabetes-2", "insulin"),
    "KDOQI 2020: no restriction on insulin without the team",
    lows={"protein_g": (43, 72)},
    no_deficit=True,
)
who(
    "stage G3, unstable",
    adult("male", 60, 175, 77, "ckd-3", "unstable"),
    "KDIGO 2024",
    lows={"protein_g": (61, None)},
)
who(
    "active man with stage G3: not under what he needs",
    adult("male", 35, 185, 78, "ckd-3", activity="active"),
    "KDOQI 2020: 25-35 kcal/kg and not under the requirement",
    no_deficit=True,
)
who(
    "haemodialysis, nothing recorded",
    adult("female", 58, 163, 61, "dialysis"),
    "KDOQI 2020",
    lows={"protein_g": (61, 74)},
    highs={"calcium_mg": (800, 1000)},
    asked=("potassium_mg", "phosphorus_mg", "sodium_mg"),
    stops=True,
    not_required=("potassium_mg", "phosphorus_mg"),
)
who(
    "peritoneal dialysis",
    adult("male", 52, 174, 70, "peritoneal-dialysis"),
    "KDOQI 2020",
    lows={"protein_g": (70, 85)},
    asked=("potassium_mg",),
    said=("glucose|sugar",),
    stops=True,
)
who(
    "haemodialysis: calcium is not the adult's 1,200",
    adult("female", 63, 160, 60, "dialysis"),
    "KDOQI 2020: 800-1,000 mg in all",
    highs={"calcium_mg": (None, 1000)},
    stops=True,
)

# --- held steady
who(
    "lithium, usual intake not known",
    adult("female", 40, 165, 66, "lithium"),
    "label; cp",
    absent=("sodium_mg",),
    said=("lithium", "clinic|doctor"),
)
who(
    "lithium, usual 2,400 mg",
    adult("female", 40, 165, 66, "lithium", usual_sodium_mg=2400),
    "label; cp",
    lows={"sodium_mg": (1900, 2400)},
    highs={"sodium_mg": (2400, 2900)},
)
who(
    "lithium, usual 900 mg: not under the adequate intake",
    adult("male", 40, 180, 80, "lithium", usual_sodium_mg=900),
    "NASEM 2019: 1,500 mg",
    lows={"sodium_mg": (1500, 1600)},
)
who(
    "lithium and high blood pressure: no low-salt diet",
    adult("male", 50, 178, 84, "lithium", "hypertension"),
    "label; cp",
    highs={"sodium_mg": (None, None)},
    not_required=("sodium_mg",),
    absent=("sodium_mg",),
)
who(
    "warfarin, usual intake not known",
    adult("male", 67, 176, 79, "warfarin"),
    "cp",
    absent=("vitamin_k_ug",),
    said=("clinic",),
)
who(
    "warfarin, usual 150 µg",
    adult("male", 67, 176, 79, "warfarin", usual_vitamin_k_ug=150),
    "cp",
    lows={"vitamin_k_ug": (120, 150)},
    highs={"vitamin_k_ug": (150, 225)},
)
who(
    "warfarin, usual 60 µg: not under the adequate intake",
    adult("female", 70, 160, 62, "warfarin", usual_vitamin_k_ug=60),
    "IOM 2001: 90 µg",
    lows={"vitamin_k_ug": (90, 95)},
)

# --- children, pregnancy, age
who(
    "boy of 15, very active",
    person("male", 15, 172, 60, "very-active", conditions=[]),
    "IOM AMDR 2005: protein 10-30 % of energy, fat 25-35 %",
    no_ceiling=("protein_g",),
    lows={"protein_g": (50, 90), "fat_g": (75, 110)},
)
who("girl of 2", person("female", 2, 88, 12.5, conditions=[]), "IOM AMDR", no_energy=True)
who(
    "boy of 8: fat 25-35 % of energy",
    person("male", 8, 128, 26, conditions=[]),
    "IOM AMDR",
    lows={"fat_g": (42, 55)},
    no_ceiling=("protein_g",),
)
who(
    "pregnant with twins, week 24",
    adult("female", 30, 165, 70, pregnant=True, pregnancy_week=24, weight_before_kg=64, babies=2),
    "IOM 2009: 17-25 kg in all",
    said=("twin", "17", "25"),
    not_said=("11.5",),
)
who(
    "pregnant, week 30, one child",
    adult("female", 30, 165, 74, pregnant=True, pregnancy_week=30, weight_before_kg=64),
    "IOM 2009",
    said=("11.5", "16"),
)
who(
    "woman of 80, well",
    adult("female", 80, 158, 60, activity="inactive"),
    "PROT-AGE 2013",
    lows={"protein_g": (60, 72)},
    no_ceiling=("protein_g",),
)
who(
    "woman of 85 who eats little",
    adult("female", 85, 155, 48, activity="inactive", appetite="poor"),
    "cp: small and dense",
    said=("dens|energy-rich",),
    lows={"kcal_per_g": (0.9, None)},
)
who(
    "sarcopenia at 74",
    adult("male", 74, 172, 70, "sarcopenia"),
    "PROT-AGE 2013: 1.2-1.5 g/kg",
    lows={"protein_g": (83, 85)},
    no_deficit=True,
    said=("leucine|a meal",),
)

# --- after surgery, bowel, medicines
who(
    "bariatric surgery",
    adult("female", 41, 166, 88, "bariatric-surgery"),
    "ASMBS 2016",
    not_required=("energy_kcal",),
    asked=("energy_kcal",),
    lows={"protein_g": (60, 80)},
    said=("small|protein first",),
)
who(
    "inflammatory bowel disease, flare",
    adult("male", 28, 180, 70, "ibd-flare"),
    "ESPEN 2020",
    lows={"protein_g": (84, 105)},
    no_deficit=True,
    not_required=("fibre_g",),
    said=("fibre",),
)
who(
    "inflammatory bowel disease, remission",
    adult("female", 36, 168, 64, "ibd-remission"),
    "ESPEN 2020: as others",
    lows={"protein_g": (51, 64)},
)
who(
    "GLP-1 medicine, loses weight",
    adult("female", 48, 167, 96, "glp-1", **LOSE),
    "cp",
    deficit=True,
    lows={"protein_g": (80, None)},
    said=("small|protein first", "fluid|drink"),
)
who(
    "loop diuretic",
    adult("male", 66, 176, 84, "diuretic"),
    "cp",
    said=("potassium", "magnesium|sodium"),
)
who(
    "healthy woman of 34: no ceiling of protein is required",
    adult("female", 34, 165, 70),
    "IOM AMDR: 10-35 % of energy",
    no_ceiling=("protein_g",),
)
who(
    "ACE inhibitor and high blood pressure: the prescriber is asked",
    adult("female", 61, 164, 72, "hypertension", "potassium-raising"),
    "cp",
    not_said=("kidney clinic",),
    said=("prescrib|doctor",),
    not_required=("potassium_mg",),
)


def wrong_of(facts: Mapping[str, Any], wanted: Expected) -> list[str]:
    """What a dietitian would not accept; nothing where all is well."""
    answer = verb_answer(facts)
    if answer is None:
        return ["refused"]
    targets = answer["targets"]
    return [
        *_energy_wrong(targets, wanted),
        *_windows_wrong(targets, wanted),
        *_words_wrong(answer, wanted),
    ]


def _energy_wrong(targets: Mapping[str, Any], wanted: Expected) -> list[str]:
    energy = targets.get("energy_kcal")
    if wanted.no_energy:
        return ["has an energy window"] if energy else []
    found = []
    if wanted.no_deficit and (energy is None or wanted.needs is None):
        found.append("no energy window")
    elif wanted.no_deficit and energy["low"] < wanted.needs * (1 - NEAR):
        found.append(f"energy {energy['low']:g} under the {wanted.needs:,.0f} kcal needed")
    if wanted.deficit and energy is None:
        found.append("no energy window")
    return found


def _windows_wrong(targets: Mapping[str, Any], wanted: Expected) -> list[str]:
    found = [f"{key} has a window" for key in wanted.absent if key in targets]
    for side, spans in (("low", wanted.lows), ("high", wanted.highs)):
        for key, (least, most) in spans.items():
            value = targets.get(key, {}).get(side)
            if least is None and most is None:
                found += [f"{key} {side} {value}"] if value is not None else []
            elif value is None or not (least or 0) <= value <= (most or float("inf")):
                found.append(f"{key} {side} {value}, not {least} to {most}")
    required = {key: one for key, one in targets.items() if one["importance"] == "must"}
    found += [f"{key} is required" for key in wanted.not_required if key in required]
    return found + [
        f"{key} has a required ceiling"
        for key in wanted.no_ceiling
        if required.get(key, {}).get("high") is not None
    ]


def _words_wrong(answer: Mapping[str, Any], wanted: Expected) -> list[str]:
    words = " ".join(
        f"{one['text']} {one.get('action', '')} {one.get('ask', '')}" for one in answer["cautions"]
    ).lower()
    asked = {one["key"] for one in answer["asked"]}
    found = [f"{key} is not asked for" for key in wanted.asked if key not in asked]
    found += [f"not said: {one}" for one in wanted.said if not re.search(one.lower(), words)]
    found += [f"said: {one}" for one in wanted.not_said if re.search(one.lower(), words)]
    if wanted.stops and not answer.get("before_hand_over"):
        found.append("may be handed over")
    return found


def main() -> None:
    """Print everybody who is answered wrongly, and the score."""
    wrong = {name: found for name, case in PEOPLE.items() if (found := wrong_of(*case))}
    for name, found in wrong.items():
        print(f"{name}: {'; '.join(found)}")
    print(f"{len(PEOPLE) - len(wrong)} of {len(PEOPLE)} people answered as a dietitian would")


if __name__ == "__main__":
    main()
