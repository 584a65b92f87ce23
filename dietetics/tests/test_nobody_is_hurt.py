"""Nobody is required what a caution forbids: made-up people by the ten thousand, every condition
with every other, under every goal, age and weight; and sixty people with what a dietitian would
expect.

What must hold is written here from the published rules again (NICE CG32; IOM 2005; floors of 1,200
and 1,500 kcal, common practice), not asked of the table that the program reads.
"""

from __future__ import annotations

import itertools
import random
import unittest
from collections.abc import Iterator

from dietetics.cautions.registry import client_cautions
from dietetics.errors import DieteticsError
from dietetics.nutrients import nutrient
from dietetics.targets.conditions import CONDITIONS
from dietetics.targets.needs_table import MARKS, rows
from dietetics.targets.person import ACTIVITIES, GOALS, ClinicianNote, Person
from dietetics.targets.proposal import Proposal, propose
from dietetics.targets.windows import Window
from dietetics.tests.people_at_risk import PEOPLE, wrong_of
from dietetics.tests.samples import SEED, sample

NOTE = ClinicianNote("Dr M. Example", "2026-11-02")
AGES = (2, 5, 10, 15, 18, 19, 30, 50, 64, 65, 72, 80, 88)
BMIS = (12.5, 15.9, 17.5, 18.6, 19.9, 20.5, 22.0, 24.9, 27.0, 31.0, 42.0)
KIDNEYS = {
    "ckd-1", "ckd-2", "ckd-3", "ckd-4", "ckd-5", "dialysis", "peritoneal-dialysis", "transplant",
}  # fmt: skip
NO_DEFICIT = {  # whoever of the list is named by a condition
    "heart-failure", "cancer", "eating-disorder", "dialysis", "peritoneal-dialysis",
}  # fmt: skip
MADE_UP = 20_000


def height_cm(age: float) -> float:
    """A usual height."""
    return 165.0 if age >= 16 else 80.0 + 5.6 * age


def person(
    chance: random.Random, having: tuple[str, ...], goal: str, age: int, bmi: float
) -> Person:
    """Somebody with these, and the rest by chance. Raises DieteticsError for nobody."""
    cm = height_cm(age) + chance.uniform(-6, 6)
    bmi = bmi if age >= 19 else max(13.0, min(bmi, 30.0))
    sex = chance.choice(("female", "male"))
    stage = chance.choice(("", "", "", "pregnant", "breastfeeding"))
    stage = stage if sex == "female" and 16 <= age <= 50 else ""
    return Person(
        sex,
        age,
        round(cm, 1),
        round(bmi * (cm / 100) ** 2, 1),
        chance.choice(list(ACTIVITIES)),
        goal,
        chance.choice((0.25, 0.5, 1.0)),
        chance.choice(("balanced-bowl", "starch-centred", "greens-and-beans", "training")),
        frozenset(having),
        pregnant=stage == "pregnant",
        breastfeeding=stage == "breastfeeding",
        pregnancy_week=chance.choice((None, 8, 20, 34)) if stage == "pregnant" else None,
        breastfeeding_month=chance.choice((None, 1, 5, 9)) if stage == "breastfeeding" else None,
        loss_percent=chance.choice((None, None, 3, 6, 11, 16)),
        loss_unintended=chance.random() < 0.5,
        eats_little_days=chance.choice((None, None, None, 3, 6, 11)),
        appetite=chance.choice(("good", "good", "poor")),
        deficit_note=chance.choice((None, None, NOTE)),
        usual_sodium_mg=chance.choice((None, 900.0, 2400.0)),
        usual_vitamin_k_ug=chance.choice((None, 60.0, 200.0)),
    )


def made_up() -> Iterator[Person]:
    """Every pair of conditions and medicines once with each goal, then people by chance."""
    chance = random.Random(SEED)
    pairs = list(itertools.combinations(sorted(CONDITIONS), 2))
    asked = [(pair, goal) for pair in pairs for goal in GOALS]
    while len(asked) < MADE_UP:
        many = tuple(chance.sample(sorted(CONDITIONS), chance.choice((0, 1, 2, 3, 4))))
        asked.append((many, chance.choice(list(GOALS))))
    for having, goal in asked:
        try:
            yield person(chance, having, goal, chance.choice(AGES), chance.choice(BMIS))
        except DieteticsError:
            continue  # nobody has both


def is_at_risk_of_refeeding(who: Person) -> bool:
    """NICE CG32, adults: one of the graver signs or two of the lesser; blood values at any age."""
    lost, little = who.loss_percent or 0, who.eats_little_days or 0
    if "low-electrolytes" in who.conditions or little >= 10:
        return True
    if lost >= 15 and who.loss_unintended:
        return True
    medicines = {"insulin", "diabetes-1", "diuretic", "cancer", "alcohol"}
    lesser = (who.bmi < 18.5, lost >= 10, little >= 5, bool(medicines & who.conditions))
    return who.age_years >= 18 and (who.bmi < 16 or sum(lesser) >= 2)


def contradictions(who: Person, plan: Proposal) -> Iterator[str]:
    """What a proposal requires that must not be required of this person."""
    windows = {target.window.key: target.window for target in plan.targets}
    energy = windows.get("energy_kcal")
    if is_at_risk_of_refeeding(who):
        if energy is not None:
            yield "refeeding: an energy window"
        if "refeeding" not in {one.code for one in client_cautions(plan)}:
            yield "refeeding: not said"
    elif energy is not None and plan.energy.required is not None:
        yield from energy_wrong(who, plan, energy.low or 0.0)
    for key, window in windows.items():
        if window.low is not None and window.high is not None and window.low > window.high:
            yield f"{key}: from {window.low} to {window.high}"
    yield from required_wrong(who, windows)
    for target in plan.targets:
        if target.window.key == "protein_g":
            yield from day_wrong(windows, target.how)


def required_wrong(who: Person, windows: dict[str, Window]) -> Iterator[str]:
    """A window that a condition, a medicine or nobody's word forbids."""
    required = {key for key, window in windows.items() if window.importance == "must"}
    if "eating-disorder" in who.conditions and "energy_kcal" in required:
        yield "eating disorder: energy is required"
    if {"lithium", "prescribed-sodium"} & who.conditions and "sodium_mg" in required:
        yield "sodium is required with lithium, or where it is prescribed"
    if who.conditions & (KIDNEYS | {"potassium-raising"}) and "potassium_mg" in windows:
        yield "potassium has a window that nobody set"
    usual_k = who.usual_vitamin_k_ug
    if "warfarin" in who.conditions and usual_k is None and "vitamin_k_ug" in windows:
        yield "vitamin K has a floor with warfarin"
    protein = windows["protein_g"]
    if protein.importance == "must" and protein.high is not None:
        yield "a ceiling of protein is required of the healthy"


def energy_wrong(who: Person, plan: Proposal, low: float) -> Iterator[str]:
    """Energy under the floor, or under the requirement of whoever must not lose weight."""
    required = plan.energy.required or 0.0
    floor = 0.0 if who.age_years < 19 else 1200.0 if who.sex == "female" else 1500.0
    if low < floor - 5:
        yield f"energy {low:.0f} under the floor"
    lost = (who.loss_percent or 0) >= 5 and who.loss_unintended
    must_not_lose = (
        who.pregnant
        or who.breastfeeding
        or who.age_years < 19
        or who.bmi < 20
        or (who.age_years >= 65 and who.bmi < 25)
        or ("osteoporosis" in who.conditions and who.bmi < 25)
        or bool(NO_DEFICIT & who.conditions)
        or lost
    )
    if who.deficit_note is None and must_not_lose and low < required * 0.94 - 5:
        yield f"energy {low:.0f} under the {required:.0f} needed"


def day_wrong(windows: dict[str, Window], how: str) -> Iterator[str]:
    """No day can meet protein, fat and energy at once, or protein is more than 35 % of energy and
    nobody is told: an approach may lie outside, and then says so.
    """
    energy, protein = windows.get("energy_kcal"), windows["protein_g"]
    if energy is None or energy.high is None or energy.importance != "must":
        return
    fat = windows.get("fat_g")
    least = (protein.low or 0) * 4 + (fat.low or 0 if fat else 0) * 9
    if least > energy.high:
        yield f"no day: {least:.0f} kcal of protein and fat in {energy.high:.0f}"
    if (protein.low or 0) * 4 > 0.36 * energy.high and "more than 35 % of the energy" not in how:
        yield f"protein {protein.low:.0f} g is more than 35 % of {energy.high:.0f} kcal"


class NobodyIsHurt(unittest.TestCase):
    def test_no_proposal_contradicts_a_caution(self) -> None:
        found = []
        for who in sample("people", made_up(), 0.06):
            found += [(wrong, who) for wrong in contradictions(who, propose(who))]
        words = "\n".join(f"{wrong}: {who}" for wrong, who in found[:8])
        self.assertEqual(len(found), 0, f"{len(found)} contradictions\n{words}")

    def test_sixty_people_are_answered_as_a_dietitian_would(self) -> None:
        self.assertEqual(len(PEOPLE), 60)
        for name, case in sample("sixty", PEOPLE.items(), 0.2):
            with self.subTest(name):
                self.assertEqual(wrong_of(*case), [])


class TheTable(unittest.TestCase):
    def test_every_row_says_on_whose_word_and_names_what_there_is(self) -> None:
        for row in rows().values():
            with self.subTest(row.key):
                self.assertTrue(row.source)
                self.assertIn(row.mark, MARKS)
                signs = (row.when, *row.when.two_of)
                named = {
                    key for sign in signs for key in (*sign.conditions, *sign.and_, *sign.without)
                }
                self.assertEqual(named - set(CONDITIONS), set())
                for one in row.windows:
                    nutrient(one.key)
                self.assertEqual(bool(row.caution), bool(row.text and row.action and row.severity))
