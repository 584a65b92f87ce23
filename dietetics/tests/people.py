"""People with their targets worked by hand from the published sources, and the cautions that must
and must not arise.

Written before the program could do them. Every figure is an arithmetic expression of the printed
equation, so that a reader can check it with the source beside; nothing here is taken from the
program. `python -m dietetics.tests.people` prints how many of them the program gets right.

Sources, all from memory. Energy: NASEM, Dietary Reference Intakes for Energy, 2023 (adults 19+,
children 3-18 with the cost of growth, second and third trimester by week with 300, 200, 150 or -50
kcal for weight gained by BMI before, breastfeeding 540 - 140 in the first six months and 380
after). Kidneys: KDOQI 2020, 25-35 kcal/kg, protein by stage. Protein: IOM 2005 (RDA 1.05, 0.95,
0.95, 0.85 g/kg at 1-3, 4-8, 9-13, 14-18; 1.1 pregnant, 1.3 breastfeeding; 0.8 adult), ten per cent
more on plants (common practice), PROT-AGE 2013 from 65. Sodium: NASEM 2019 (reduce-risk ceiling
1,200, 1,500, 1,800 and 2,300 mg at 1-3, 4-8, 9-13 and 14+).
"""

from __future__ import annotations

import json
import os
import subprocess
import sys
import tempfile
from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

SPAN = 0.05  # a window is the requirement, or the goal made of it, and a twentieth to both sides


@dataclass(frozen=True)
class Case:
    """One person as the verb `targets` takes them, and what must come out.

    `requirement` is kcal a day, None where none may be computed. `energy` is the window, None where
    there may be none; `protein` is (low, high) in g, a None side not being asked about. `must_not`
    names nutrients no window of which may be a "must".
    """

    name: str
    facts: Mapping[str, Any]
    requirement: float | None
    energy: tuple[float, float] | None
    protein: tuple[float | None, float | None]
    arise: frozenset[str] = frozenset()
    stay_away: frozenset[str] = frozenset()
    sodium_high: float | None = -1.0  # -1: not asked about
    must_not: tuple[str, ...] = ()
    absent: tuple[str, ...] = ()
    intakes: Mapping[str, tuple[float | None, float | None]] = field(default_factory=dict)


def around(kcal: float) -> tuple[float, float]:
    """A window around a figure."""
    return kcal * (1 - SPAN), kcal * (1 + SPAN)


def person(
    sex: str, age: float, cm: float, kg: float, activity: str = "low-active", **more: Any
) -> dict[str, Any]:
    """Facts of a person."""
    return {
        "sex": sex,
        "age_years": age,
        "height_cm": cm,
        "weight_kg": kg,
        "activity": activity,
        **more,
    }


LOSE = {"goal": "lose", "pace_kg_per_week": 0.5}  # 0.5 × 7,700 / 7 = 550 kcal a day
NOTE = {"deficit_note": {"by": "Dr M. Example", "on": "2026-11-02"}}

# What a woman of 30, 165 cm, 70 kg needs in the second and third trimester, low active, without the
# weight gained.
WEEK_24 = 693.35 - 2.04 * 30 + 5.73 * 165 + 10.20 * 70 + 9.16 * 24
WOMAN_30 = 575.77 - 7.01 * 30 + 6.60 * 165 + 12.14 * 70
WOMAN_34 = 575.77 - 7.01 * 34 + 6.60 * 165 + 12.14 * 70
# KDOQI 2020: 25-35 kcal/kg of 80 kg, and not under what he needs (a twentieth to its side)
MAN_60 = 581.47 - 10.83 * 60 + 8.30 * 175 + 14.94 * 80
KIDNEY_80 = (MAN_60 * (1 - SPAN), 35 * 80)
GIRL_17 = -297.54 - 22.25 * 17 + 12.77 * 165 + 14.73 * 60 + 20
MAN_75_LIGHT = 753.07 - 10.83 * 75 + 6.50 * 172 + 14.10 * 61

CASES: tuple[Case, ...] = (
    Case(
        "woman of 34, holds", person("female", 34, 165, 70), WOMAN_34, around(WOMAN_34), (0.88 * 70,
        1.6 * 70),
        frozenset({"vegan-supplements"}), frozenset({"no-deficit", "kidney", "young", "pregnancy"}),
        2300,
        intakes={"vitamin_b12_ug": (2.4, None), "iron_mg": (18 * 1.8, 45), "iodine_ug": (150, 1100),
        "zinc_mg": (12, 40)},
    ),
    Case(
        "man of 40, active, loses half a kilo a week", person("male", 40, 180, 80, "active",
        **LOSE),
        1004.82 - 10.83 * 40 + 6.52 * 180 + 15.91 * 80,
        around(1004.82 - 10.83 * 40 + 6.52 * 180 + 15.91 * 80 - 550),
        (0.88 * 80, 1.6 * 80), stay_away=frozenset({"no-deficit", "energy-floor", "pace"}),
    ),
    Case(
        "pregnant, week 10: nothing is added in the first trimester",
        person("female", 30, 165, 70, pregnant=True, pregnancy_week=10, weight_before_kg=69),
        WOMAN_30, around(WOMAN_30),
        (1.1 * 1.1 * 70, None), frozenset({"pregnancy"}), frozenset({"no-deficit"}),
        intakes={"vitamin_b12_ug": (2.6, None), "iron_mg": (27 * 1.8, None), "iodine_ug": (220,
        1100), "folate_ug": (600, None)},
    ),
    Case(
        "pregnant, week 24, usual weight before, wants to lose: the window is the requirement",
        person("female", 30, 165, 70, pregnant=True, pregnancy_week=24, weight_before_kg=64,
        **LOSE), WEEK_24 + 200,
        around(WEEK_24 + 200), (1.1 * 1.1 * 70, None), frozenset({"pregnancy", "no-deficit"}),
        frozenset({"deficit-by-clinician"}),
    ),
    Case(
        "the same with a clinician's note: the deficit is applied",
        person("female", 30, 165, 70, pregnant=True, pregnancy_week=24, weight_before_kg=64, **LOSE,
        **NOTE), WEEK_24 + 200,
        around(WEEK_24 + 200 - 550), (1.1 * 1.1 * 70, None), frozenset({"deficit-by-clinician"}),
        frozenset({"no-deficit"}),
    ),
    Case(
        "pregnant, week 32, obese before", person("female", 28, 160, 92, "inactive", pregnant=True,
        pregnancy_week=32,
        weight_before_kg=85), 1131.20 - 2.04 * 28 + 0.34 * 160 + 12.15 * 92 + 9.16 * 32 - 50,
        around(1131.20 - 2.04 * 28 + 0.34 * 160 + 12.15 * 92 + 9.16 * 32 - 50), (None, None),
        frozenset({"pregnancy"}),
    ),
    Case(
        "pregnant, week 30, underweight before, active", person("female", 24, 170, 58, "active",
        pregnant=True,
        pregnancy_week=30, weight_before_kg=50),
        -223.84 - 2.04 * 24 + 13.23 * 170 + 8.15 * 58 + 9.16 * 30 + 300,
        around(-223.84 - 2.04 * 24 + 13.23 * 170 + 8.15 * 58 + 9.16 * 30 + 300), (1.1 * 1.1 * 58,
        None), frozenset({"pregnancy"}),
    ),
    Case(
        "pregnant at 16: no equation is made for her", person("female", 16, 163, 62, pregnant=True,
        pregnancy_week=20), None,
        None, (1.1 * 1.1 * 62, None), frozenset({"pregnancy", "young"}),
        intakes={"calcium_mg": (1300, 3000), "zinc_mg": (12 * 1.5, 34)},
    ),
    Case(
        "breastfeeding, third month, wants to lose", person("female", 30, 165, 70,
        breastfeeding=True, breastfeeding_month=3,
        **LOSE), WOMAN_30 + 540 - 140, around(WOMAN_30 + 540 - 140), (1.3 * 1.1 * 70, None),
        frozenset({"breastfeeding", "no-deficit"}), intakes={"vitamin_b12_ug": (2.8, None),
        "iodine_ug": (290, 1100)},
    ),
    Case(
        "breastfeeding, ninth month, wants to lose", person("female", 30, 165, 70,
        breastfeeding=True, breastfeeding_month=9,
        **LOSE), WOMAN_30 + 380, around(WOMAN_30 + 380), (1.3 * 1.1 * 70, None),
        frozenset({"breastfeeding", "no-deficit"}),
    ),
    Case(
        "girl of 2: not planned here", person("female", 2, 88, 12.5), None, None,
        (1.05 * 1.1 * 12.5, None),
        frozenset({"infant"}), sodium_high=1200, intakes={"iodine_ug": (90, 200),
        "iron_mg": (7 * 1.8, 40)},
    ),
    Case(
        "girl of 4, active", person("female", 4, 103, 17, "active"),
        -189.55 - 22.25 * 4 + 11.74 * 103 + 18.34 * 17 + 15,
        around(-189.55 - 22.25 * 4 + 11.74 * 103 + 18.34 * 17 + 15), (0.95 * 1.1 * 17, None),
        frozenset({"young"}),
        frozenset({"infant"}), 1500, intakes={"vitamin_b12_ug": (1.2, None), "calcium_mg": (1000,
        2500), "zinc_mg": (7.5, 12)},
    ),
    Case(
        "boy of 3, inactive", person("male", 3, 96, 14.5, "inactive"),
        -447.51 + 3.68 * 3 + 13.01 * 96 + 13.15 * 14.5 + 20,
        around(-447.51 + 3.68 * 3 + 13.01 * 96 + 13.15 * 14.5 + 20), (1.05 * 1.1 * 14.5, None),
        frozenset({"young"}), sodium_high=1200,
    ),
    Case(
        "boy of 8", person("male", 8, 128, 26), 19.12 + 3.68 * 8 + 8.62 * 128 + 20.28 * 26 + 15,
        around(19.12 + 3.68 * 8 + 8.62 * 128 + 20.28 * 26 + 15), (0.95 * 1.1 * 26, None),
        frozenset({"young"}), sodium_high=1500,
        intakes={"iodine_ug": (90, 300), "vitamin_c_mg": (25, 650), "selenium_ug": (30, 150)},
    ),
    Case(
        "girl of 12, inactive", person("female", 12, 151, 43, "inactive"),
        55.59 - 22.25 * 12 + 8.43 * 151 + 17.07 * 43 + 30,
        around(55.59 - 22.25 * 12 + 8.43 * 151 + 17.07 * 43 + 30), (0.95 * 1.1 * 43, None),
        frozenset({"young"}), sodium_high=1800,
        intakes={"vitamin_b12_ug": (1.8, None), "calcium_mg": (1300, 3000), "iodine_ug": (120,
        600)},
    ),
    Case(
        "boy of 15, very active", person("male", 15, 172, 60, "very-active"),
        -671.75 + 3.68 * 15 + 15.38 * 172 + 23.25 * 60 + 20,
        around(-671.75 + 3.68 * 15 + 15.38 * 172 + 23.25 * 60 + 20), (0.85 * 1.1 * 60, None),
        frozenset({"young"}), sodium_high=2300,
    ),
    Case(
        "girl of 17 who wants to lose: the window is the requirement", person("female", 17, 165, 60,
        **LOSE), GIRL_17,
        around(GIRL_17), (0.85 * 1.1 * 60, None), frozenset({"young", "no-deficit"}),
    ),
    Case(
        "man of 19 with a BMI of 17.0, under the fifth percentile of his age, wants to lose",
        person("male", 19, 178, 54, **LOSE), 581.47 - 10.83 * 19 + 8.30 * 178 + 14.94 * 54,
        around(581.47 - 10.83 * 19 + 8.30 * 178 + 14.94 * 54), (0.88 * 54, 1.6 * 54),
        frozenset({"no-deficit"}), frozenset({"young"}),
    ),
    Case(
        "woman of 30 with a BMI of 17 who wants to lose", person("female", 30, 165, 46.3, **LOSE),
        575.77 - 7.01 * 30 + 6.60 * 165 + 12.14 * 46.3,
        around(575.77 - 7.01 * 30 + 6.60 * 165 + 12.14 * 46.3),
        (0.88 * 46.3, 1.6 * 46.3), frozenset({"no-deficit", "underweight"}),
    ),
    Case(
        "eating disorder, wants to lose", person("female", 34, 165, 70,
        conditions=["eating-disorder"], **LOSE), WOMAN_34,
        around(WOMAN_34), (0.88 * 70, 1.6 * 70), frozenset({"no-deficit", "eating-disorder"}),
    ),
    Case(
        "man of 75, BMI 20.6, wants to lose: low weight for his age", person("male", 75, 172, 61,
        "inactive", **LOSE),
        MAN_75_LIGHT, around(MAN_75_LIGHT), (1.0 * 61, None), frozenset({"no-deficit"}),
    ),
    Case(
        "man of 75, BMI 29.7, wants to lose: warned, and applied", person("male", 75, 172, 88,
        "inactive", **LOSE),
        753.07 - 10.83 * 75 + 6.50 * 172 + 14.10 * 88,
        around(753.07 - 10.83 * 75 + 6.50 * 172 + 14.10 * 88 - 550), (1.0 * 88, None),
        frozenset({"no-deficit"}), intakes={"vitamin_d_ug": (20, 100), "calcium_mg": (1200, 2000)},
    ),
    Case(
        "woman of 65: more protein from, no less protein to", person("female", 65, 160, 62),
        575.77 - 7.01 * 65 + 6.60 * 160
        + 12.14 * 62, around(575.77 - 7.01 * 65 + 6.60 * 160 + 12.14 * 62), (1.0 * 62, 1.6 * 62),
        stay_away=frozenset({"no-deficit"}),
    ),
    Case(
        "woman of 64", person("female", 64, 160, 62), 575.77 - 7.01 * 64 + 6.60 * 160 + 12.14 * 62,
        around(575.77 - 7.01 * 64 + 6.60 * 160 + 12.14 * 62), (0.88 * 62, 1.6 * 62),
    ),
    Case(
        "kidney disease G2 A2", person("male", 60, 175, 80, conditions=["ckd-2", "albuminuria-a2"]),
        MAN_60, KIDNEY_80,
        (0.8 * 80, 1.3 * 80), frozenset({"kidney"}), must_not=("protein_g", "potassium_mg",
        "phosphorus_mg", "sodium_mg"),
    ),
    Case(
        "kidney disease G3", person("male", 60, 175, 80, conditions=["ckd-3"]), MAN_60, KIDNEY_80,
        (0.55 * 80, 0.60 * 80),
        frozenset({"kidney"}), must_not=("protein_g", "potassium_mg", "phosphorus_mg", "sodium_mg"),
        absent=("potassium_mg", "phosphorus_mg"),
    ),
    Case(
        "kidney disease G4 with diabetes", person("male", 60, 175, 80, conditions=["ckd-4",
        "diabetes-2"]), MAN_60,
        KIDNEY_80, (0.6 * 80, 0.8 * 80), frozenset({"kidney", "diabetes-2"}),
        must_not=("protein_g", "sodium_mg"),
        absent=("potassium_mg", "phosphorus_mg"),
    ),
    Case(
        "dialysis through the blood, wants to lose", person("male", 60, 175, 80,
        conditions=["dialysis"], **LOSE), MAN_60,
        KIDNEY_80, (1.0 * 80, 1.2 * 80), frozenset({"kidney", "no-deficit"}),
        must_not=("protein_g", "sodium_mg"),
        absent=("potassium_mg", "phosphorus_mg"),
    ),
    Case(
        "peritoneal dialysis", person("male", 60, 175, 80, conditions=["peritoneal-dialysis"]),
        MAN_60, KIDNEY_80,
        (1.0 * 80, 1.2 * 80), frozenset({"kidney", "peritoneal-glucose"}), must_not=("protein_g",
        "sodium_mg"),
        absent=("potassium_mg", "phosphorus_mg"),
    ),
    Case(
        "kidney transplant", person("male", 60, 175, 80, conditions=["transplant"]), MAN_60,
        KIDNEY_80, (0.8 * 80, None),
        frozenset({"kidney"}), must_not=("protein_g", "sodium_mg"), absent=("potassium_mg",
        "phosphorus_mg"),
    ),
    Case(
        "pregnant with kidney disease G3: never below what pregnancy needs",
        person("female", 30, 165, 70, pregnant=True, pregnancy_week=24, weight_before_kg=64,
        conditions=["ckd-3"]), WEEK_24 + 200,
        around(WEEK_24 + 200), (1.1 * 70, None), frozenset({"kidney", "pregnancy"}),
        must_not=("protein_g", "sodium_mg"),
    ),
    Case(
        "boy of 10 with kidney disease G3: never below what growth needs",
        person("male", 10, 139, 32, conditions=["ckd-3"]),
        19.12 + 3.68 * 10 + 8.62 * 139 + 20.28 * 32 + 25,
        around(19.12 + 3.68 * 10 + 8.62 * 139 + 20.28 * 32 + 25), (0.95 * 32, None),
        frozenset({"kidney", "young"}),
        must_not=("protein_g", "sodium_mg"),
    ),
    Case(
        "sodium prescribed by a doctor: no ordinary ceiling", person("female", 34, 165, 70,
        conditions=["prescribed-sodium"]),
        WOMAN_34, around(WOMAN_34), (0.88 * 70, 1.6 * 70), frozenset({"prescribed-sodium"}),
        sodium_high=None,
    ),
    Case(
        "warfarin: steady is the target, no floor of vitamin K", person("female", 34, 165, 70,
        conditions=["warfarin"]),
        WOMAN_34, around(WOMAN_34), (0.88 * 70, 1.6 * 70), frozenset({"warfarin"}),
        absent=("vitamin_k_ug",),
    ),
    Case(
        "high blood pressure", person("female", 34, 165, 70, conditions=["hypertension"]), WOMAN_34,
        around(WOMAN_34),
        (0.88 * 70, 1.6 * 70), frozenset({"hypertension"}), sodium_high=1500,
    ),
    Case(
        "type 1 diabetes, insulin, starch-led, two meals, wants to lose",
        person("female", 34, 165, 70, conditions=["diabetes-1", "insulin"], school="starch-centred",
        meals_a_day=2, **LOSE),
        WOMAN_34, around(WOMAN_34 - 550), (0.88 * 70, 1.6 * 70), frozenset({"diabetes-1",
        "low-blood-sugar", "insulin-starch"}),
    ),
    Case(
        "pre-diabetes on metformin and an SGLT2 inhibitor, wants to lose",
        person("male", 60, 175, 80, conditions=["pre-diabetes", "metformin", "sglt2-inhibitor"],
        **LOSE), MAN_60,
        around(MAN_60 - 550), (0.88 * 80, 1.6 * 80), frozenset({"pre-diabetes", "metformin",
        "sglt2-inhibitor"}),
        frozenset({"low-blood-sugar"}),
    ),
    Case(
        "gestational diabetes", person("female", 30, 165, 70, pregnant=True, pregnancy_week=24,
        weight_before_kg=64,
        conditions=["gestational-diabetes"]), WEEK_24 + 200, around(WEEK_24 + 200), (1.1 * 1.1 * 70,
        None),
        frozenset({"pregnancy", "gestational-diabetes"}),
    ),
    Case(
        "after bariatric surgery, gallstones, loses fast", person("female", 34, 165, 95,
        conditions=["bariatric-surgery",
        "gallstones"], goal="lose", pace_kg_per_week=1.0),
        575.77 - 7.01 * 34 + 6.60 * 165 + 12.14 * 95, around(575.77 - 7.01 * 34
        + 6.60 * 165 + 12.14 * 95 - 1100), (None, None), frozenset({"bariatric-surgery",
        "gallstones", "pace"}),
    ),
    Case(
        "coeliac, reflux, irritable bowel, iron deficiency, low B12", person("female", 34, 165, 70,
        conditions=["coeliac",
        "reflux", "irritable-bowel", "iron-deficiency", "low-b12"]), WOMAN_34, around(WOMAN_34),
        (0.88 * 70, 1.6 * 70),
        frozenset({"coeliac", "reflux", "irritable-bowel", "iron-deficiency", "low-b12"}),
        frozenset({"thyroid"}),
    ),
    Case(
        "high LDL on a statin, MAO inhibitor, lithium", person("male", 60, 175, 80,
        conditions=["high-ldl", "statin",
        "mao-inhibitor", "lithium"]), MAN_60, around(MAN_60), (0.88 * 80, 1.6 * 80),
        frozenset({"high-ldl", "statin", "mao-inhibitor", "lithium"}),
    ),
    Case(
        "heart failure, hypothyroidism with its medicine", person("male", 60, 175, 80,
        conditions=["heart-failure",
        "hypothyroidism", "thyroid-medicine"]), MAN_60, around(MAN_60), (0.88 * 80, 1.6 * 80),
        frozenset({"heart-failure", "hypothyroidism", "thyroid"}), must_not=("sodium_mg",),
    ),
)  # fmt: skip


def wrong_of(case: Case, answer: Mapping[str, Any] | None) -> list[str]:
    """What differs between an answer of the verb `targets` and a case; nothing where all is
    right.
    """
    if answer is None:
        return ["no answer"]
    found: list[str] = []
    targets = answer["targets"]

    def near(what: str, value: float | None, wanted: float | None, within: float) -> None:
        if (value is None) != (wanted is None) or (
            value is not None and wanted is not None and abs(value - wanted) > within
        ):
            found.append(f"{what}: {value}, not {wanted if wanted is None else round(wanted, 2)}")

    near("requirement", answer["eer_kcal"], case.requirement, 0.06)
    window = targets.get("energy_kcal") or {"low": None, "high": None}
    for side, wanted in zip(("low", "high"), case.energy or (None, None), strict=True):
        near(f"energy {side}", window[side], wanted, 5.01)  # windows are shown in tens
    protein, (low, high) = targets["protein_g"], case.protein
    if low is not None:
        near("protein low", protein["low"], low, 0.051)
    if high is not None and protein["needs_clinician"]:
        near("protein high", protein["high"], high, 0.051)
    elif high is not None:  # of the healthy: said, and not held against a plan
        near("protein ceiling", protein["high"], None, 0.0)
        found += [] if f"More than {round(high, 1):g} g" in protein["how"] else ["no usual range"]
    if case.sodium_high != -1.0:
        near("sodium", (targets.get("sodium_mg") or {"high": None})["high"], case.sodium_high, 0.1)
    found += [
        f"{key} is a must"
        for key in case.must_not
        if key in targets and targets[key]["importance"] == "must"
    ]
    found += [f"{key} has a window" for key in case.absent if key in targets]
    for key, (low, high) in case.intakes.items():
        near(f"{key} low", targets.get(key, {}).get("low"), low, 0.051)
        if high is not None:
            near(f"{key} high", targets.get(key, {}).get("high"), high, 0.051)
    keys = {caution["key"] for caution in answer["cautions"]}
    found += [f"no caution {key}" for key in sorted(case.arise - keys)]
    return found + [f"caution {key}" for key in sorted(case.stay_away & keys)]


def verb_answer(facts: Mapping[str, Any]) -> Mapping[str, Any] | None:
    """What the verb `targets` answers for a person; None where it refuses."""
    with tempfile.NamedTemporaryFile("w", suffix=".json", delete=False) as handle:
        json.dump(facts, handle)
    try:
        done = subprocess.run(
            [sys.executable, "-m", "headless", "targets", handle.name],
            capture_output=True,
            text=True,
            check=False,
        )
    finally:
        os.unlink(handle.name)
    return json.loads(done.stdout) if done.returncode == 0 else None


def main() -> None:
    """Print every person that is wrong, and the score."""
    wrong = {
        case.name: found for case in CASES if (found := wrong_of(case, verb_answer(case.facts)))
    }
    for name, found in wrong.items():
        print(f"{name}: {'; '.join(found)}")
    print(f"{len(CASES) - len(wrong)} of {len(CASES)} people right")


if __name__ == "__main__":
    main()
