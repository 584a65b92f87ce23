"""A person's targets under a school: every window with how it was found, its source and importance.

What only a licensed clinician may set is asked for, never invented: potassium and phosphorus
ceilings in kidney disease come without numbers until somebody gives them, and what is published of
protein and sodium is no "must".
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from dietetics.nutrients import FAT_KCAL_PER_G, PROTEIN_KCAL_PER_G, nutrient
from dietetics.targets.conditions import CONDITIONS, HELD_STEADY, NO_SODIUM_CEILING
from dietetics.targets.deficit_holds import hold_reasons
from dietetics.targets.energy import Energy, energy_of
from dietetics.targets.intakes import SOURCE, intakes_of
from dietetics.targets.needs_table import energy_rule, rows_of
from dietetics.targets.person import Person
from dietetics.targets.protein import Protein, protein_of
from dietetics.targets.schools import School, SchoolMeal, school
from dietetics.targets.usual_food import (
    eats_little,
    gains_by_denser_food,
    limits_dense_foods,
    usual_food,
)
from dietetics.targets.windows import Window

FIBRE_G_PER_1000_KCAL = 14.0
SODIUM_SOURCE = "NASEM 2019"
LOSE_DENSITY_HIGH = 1.25
LOSE_DENSITY_SOURCE = "WCRF/AICR 2007, from memory"
# Reduce-risk ceiling of sodium, mg: up to and not including this age (NASEM 2019).
SODIUM_BY_AGE = ((4.0, 1200.0), (9.0, 1500.0), (14.0, 1800.0), (200.0, 2300.0))
HYPERTENSION_SODIUM_MG, KIDNEY_SODIUM_MG = 1500.0, 2000.0
HIGH_LDL_SATURATED_SHARE = 0.06  # of energy; AHA/ACC 2013, from memory
SNACK_PERCENT = 20
MOST_PROTEIN = 0.35  # of energy, adults; IOM 2005, from memory
DENSE_ENOUGH = 1.0  # kcal/g where appetite is poor; common practice
LEAST_DENSITY = 0.6  # kcal/g: a day of vegetables and fruit alone; common practice
LEAST_FAT = 0.20  # of energy, adults; IOM 2005, from memory
# Share of energy: up to and not including this age.
FAT_OF_CHILDREN = ((4.0, (0.30, 0.40)), (19.0, (0.25, 0.35)))
USUAL = {"sodium_mg": "usual_sodium_mg", "vitamin_k_ug": "usual_vitamin_k_ug"}
SODIUM_ADEQUATE_MG = 1500.0  # NASEM 2019
STEADY_SHARE = 0.2  # to either side: two days stay within half of each other


@dataclass(frozen=True)
class Target:
    """A window with its derivation. `needs_clinician` stays marked until who set it is recorded."""

    window: Window
    how: str
    source: str
    needs_clinician: bool = False


@dataclass(frozen=True)
class Asked:
    """A target that must come from a clinician before there is a number."""

    key: str
    why: str


@dataclass(frozen=True)
class Proposal:
    """Everything computed for a person."""

    person: Person
    school: School
    energy: Energy
    protein: Protein
    targets: tuple[Target, ...]
    asked: tuple[Asked, ...]
    meals: tuple[SchoolMeal, ...]
    before_hand_over: tuple[Asked, ...] = ()

    def target(self, key: str) -> Target | None:
        """The target of one nutrient."""
        return next((t for t in self.targets if t.window.key == key), None)


def propose(person: Person, rules: School | None = None) -> Proposal:
    """Compute a person's targets under their school, or under the rules given."""
    rules = school(person.school) if rules is None else rules
    energy, protein = energy_of(person), protein_of(person, rules)
    targets = [
        *_energy(energy, person),
        *_protein(protein, energy),
        _density(person, rules, energy),
        *_fibre(energy),
    ]
    targets += [
        *_sodium(person, rules),
        *_fat(energy, rules, person),
        *_saturated_fat(person, energy),
        *_acid_load(rules),
    ]
    targets += [*_micronutrients(person), *_steady(person)]
    return Proposal(
        person,
        rules,
        energy,
        protein,
        tuple(_as_rows_say(targets, person)),
        _asked(person),
        skeleton(person, rules),
        _before_hand_over(person),
    )


def _as_rows_say(targets: Sequence[Target], person: Person) -> list[Target]:
    """The targets with the windows that the table of needs sets in the place of usual ones."""
    found = {target.window.key: target for target in targets}
    for row in rows_of(person):
        for one in row.windows:
            before = found.get(one.key)
            if one.low is None and one.high is None:
                if before is not None:
                    window = replace(before.window, importance=one.importance)
                    found[one.key] = replace(before, window=window)
                continue
            high = one.high if one.high is not None else before.window.high if before else None
            low = one.low if high is None or one.low is None else min(one.low, high)
            window = Window(one.key, low, high, one.importance)
            found[one.key] = Target(window, f"{row.who_words(person)}.".capitalize(), row.cited)
    return list(found.values())


def _before_hand_over(person: Person) -> tuple[Asked, ...]:
    """What a plan may not be handed over without: figures that a clinician has to set."""
    needed = {key: row.who_words(person) for row in rows_of(person) for key in row.before_hand_over}
    if person.clinician_energy_kcal is not None:
        needed.pop("energy_kcal", None)
    return tuple(
        Asked(
            key, f"{why[0].upper()}{why[1:]}: {nutrient(key).name_in_text} is set by the clinician."
        )
        for key, why in needed.items()
    )


def _steady(person: Person) -> list[Target]:
    """What a medicine's dose is set to: around what the client usually eats, never under the
    adequate intake; nothing where nobody knows what that is.
    """
    found = []
    for condition, key in HELD_STEADY.items():
        usual = getattr(person, USUAL[key])
        if condition not in person.conditions or usual is None:
            continue
        least = next((one.amount for one in intakes_of(person) if one.key == key), 0.0)
        adequate = SODIUM_ADEQUATE_MG if key == "sodium_mg" else least
        low = max(adequate, usual * (1 - STEADY_SHARE))
        high = max(usual * (1 + STEADY_SHARE), low * (1 + STEADY_SHARE))
        how = (
            f"{CONDITIONS[condition].split(' (')[0]}: around the usual "
            f"{nutrient(key).text(usual)} a day, not under {nutrient(key).text(adequate)}."
        )
        found.append(Target(Window(key, round(low), round(high), "should"), how, "common practice"))
    return found


def skeleton(person: Person, rules: School) -> tuple[SchoolMeal, ...]:
    """The meals of the day: the school's, or two equal ones, or three and a snack, as the client
    eats.
    """
    wanted = person.meals_a_day
    if wanted is None or wanted == len(rules.meals):
        return rules.meals
    if wanted == 2:
        return (SchoolMeal("First meal", "bowl", 50, 50), SchoolMeal("Second meal", "bowl", 50, 50))
    if wanted == 4:
        return (
            SchoolMeal("Breakfast", "grain breakfast", 25, 25),
            SchoolMeal("Lunch", "bowl", 30, 30),
            SchoolMeal("Snack", "snack", 15, 15),
            SchoolMeal("Dinner", "bowl", 30, 30),
        )
    return (
        SchoolMeal("Breakfast", "grain breakfast", 30, 30),
        SchoolMeal("Lunch", "bowl", 35, 35),
        SchoolMeal("Dinner", "bowl", 35, 35),
    )


def _tens(value: float) -> float:
    return float(round(value / 10) * 10)


def _energy(energy: Energy, person: Person) -> list[Target]:
    """The window of energy; where the table of needs says so, and in kidney disease, it is
    published advice, and no "must" until a clinician sets it.
    """
    if energy.low is None or energy.high is None:
        return []
    clinician = person.kidney_disease or bool(energy_rule(person))
    window = Window(
        "energy_kcal", _tens(energy.low), _tens(energy.high), "should" if clinician else "must"
    )
    return [Target(window, energy.how, energy.source, clinician)]


def _protein(protein: Protein, energy: Energy) -> list[Target]:
    """The window of protein. A ceiling is set by a condition or a clinician; for the healthy, more
    than the usual range is said and not held against a plan.
    """
    clinician, high = protein.needs_clinician, round(protein.high, 1)
    window = Window(
        "protein_g",
        round(protein.low, 1),
        high if clinician else None,
        "should" if clinician else "must",
    )
    how = protein.how if clinician else f"{protein.how} More than {high:g} g is above the usual."
    if energy.high is not None and protein.low * PROTEIN_KCAL_PER_G > MOST_PROTEIN * energy.high:
        how += f" It is more than {MOST_PROTEIN * 100:.0f} % of the energy (IOM 2005)."
    return [Target(window, how, protein.source, clinician)]


def _density(person: Person, rules: School, energy: Energy) -> Target:
    """The window of energy density: a floor for who has to get much out of little food, else the
    school's ceiling, lower where weight is to fall and nothing holds that back.
    """
    floor = _density_floor(person, energy)
    if floor is not None:
        return floor
    high, how, source = (
        rules.density_high,
        f"The {rules.name} approach recommends at most this.",
        "common practice",
    )
    if person.goal == "lose" and not energy.held and high > LOSE_DENSITY_HIGH:
        high, how, source = (
            LOSE_DENSITY_HIGH,
            "To lose weight without counting: 125 kcal per 100 g.",
            LOSE_DENSITY_SOURCE,
        )
    if person.goal == "gain" and limits_dense_foods(person.school):
        how += " It limits the densest whole foods: to gain, another approach may fit better."
    # who must not lose weight is not kept from dense food: the ceiling is shown, and asks for
    # nothing
    importance = "watch" if hold_reasons(person) else "should"
    return Target(Window("kcal_per_g", None, high, importance), how, source)


def _density_floor(person: Person, energy: Energy) -> Target | None:
    """What the food of a day must hold at least, per gram, where it has to fit into what is eaten;
    None for who may eat more instead.
    """
    most_g, poor = usual_food(person).day_g, person.appetite == "poor"
    fits = round(energy.low / most_g, 2) if energy.low is not None else 0.0
    if eats_little(person) and (poor or person.goal != "lose"):
        low = max(fits, DENSE_ENOUGH if poor else LEAST_DENSITY)
        how = f"Eats little: the energy of a day is to fit into {most_g:,.0f} g of food."
    elif gains_by_denser_food(person) and energy.low is not None:
        low = max(LEAST_DENSITY, fits)
        how = f"To gain by denser food, not by more: the energy fits into {most_g:,.0f} g a day."
    else:
        return None
    return Target(Window("kcal_per_g", low, None, "should"), how, "common practice")


def _fibre(energy: Energy) -> list[Target]:
    if energy.target is None:
        return []
    low = round(energy.target / 1000 * FIBRE_G_PER_1000_KCAL)
    return [
        Target(
            Window("fibre_g", float(low), None, "should"),
            "14 g per 1,000 kcal; raise slowly, with water.",
            "IOM 2005",
        )
    ]


def _sodium(person: Person, rules: School) -> list[Target]:
    """The ceiling of sodium: by age, school and condition; none where sodium is prescribed or must
    stay steady.
    """
    if person.conditions & NO_SODIUM_CEILING:
        return []
    by_age = next(ceiling for until, ceiling in SODIUM_BY_AGE if person.age_years < until)
    high, how = rules.sodium_high, f"The limit of the {rules.name} approach."
    source = f"rules of the approach; {SODIUM_SOURCE} limits sodium to {by_age:,.0f} mg"
    if by_age < high:
        high, how, source = (
            by_age,
            "The chronic disease risk reduction intake for this age.",
            SODIUM_SOURCE,
        )
    if "hypertension" in person.conditions and high > HYPERTENSION_SODIUM_MG:
        high, how = (
            HYPERTENSION_SODIUM_MG,
            "High blood pressure: the adequate intake is used as the limit.",
        )
        source = SODIUM_SOURCE
    clinician = person.kidney_disease or "heart-failure" in person.conditions
    if clinician and high > KIDNEY_SODIUM_MG:
        high, how, source = (
            KIDNEY_SODIUM_MG,
            "Usually below 2,000 mg; the clinician sets it.",
            "KDIGO 2024, from memory",
        )
    must = "hypertension" in person.conditions and not clinician
    return [
        Target(
            Window("sodium_mg", None, high, "must" if must else "should"), how, source, clinician
        )
    ]


def _saturated_fat(person: Person, energy: Energy) -> list[Target]:
    """With high LDL: saturated fat at most 6 % of energy, over the day."""
    if "high-ldl" not in person.conditions or energy.target is None:
        return []
    high = round(energy.target * HIGH_LDL_SATURATED_SHARE / FAT_KCAL_PER_G, 1)
    how = f"High LDL: at most {HIGH_LDL_SATURATED_SHARE:.0%} of energy."
    return [
        Target(Window("saturated_fat_g", None, high, "should"), how, "AHA/ACC 2013, from memory")
    ]


def _fat(energy: Energy, rules: School, person: Person) -> list[Target]:
    """Fat as the approach has it; of children as they grow, and of who eats little, whatever the
    approach.
    """
    if energy.target is None:
        return []
    if person.growing:
        shares = next(share for until, share in FAT_OF_CHILDREN if person.age_years < until)
        low, high = (round(share * energy.target / FAT_KCAL_PER_G) for share in shares)
        how = f"{shares[0]:.0%}–{shares[1]:.0%} of energy, at this age."
        window = Window("fat_g", float(low), float(high), "should")
        return [Target(window, how, "IOM 2005, from memory")]
    if eats_little(person) and person.goal != "lose":
        low = round(LEAST_FAT * energy.target / FAT_KCAL_PER_G)
        how = f"At least {LEAST_FAT:.0%} of energy, for who eats little."
        window = Window("fat_g", float(low), None, "should")
        return [Target(window, how, "IOM 2005, from memory")]
    low, high = (round(share * energy.target / FAT_KCAL_PER_G) for share in rules.fat_share)
    how = f"{rules.fat_share[0]:.0%}–{rules.fat_share[1]:.0%} of energy, the {rules.name} approach."
    return [
        Target(
            Window("fat_g", float(low), float(high), "watch"),
            how,
            "range of the approach; IOM 2005 gives 20–35 %",
        )
    ]


def _acid_load(rules: School) -> list[Target]:
    if rules.pral_high is None:
        return []
    return [
        Target(
            Window("pral_meq", None, rules.pral_high, "should"),
            "A negative value means alkaline.",
            "Remer & Manz 1995",
        )
    ]


def _held_back(person: Person) -> set[str]:
    """Nutrients for which the intake of healthy people is no window for this person."""
    found = set()
    if person.kidney_disease:
        found |= {"potassium_mg", "phosphorus_mg"}
    if "potassium-raising" in person.conditions:
        found.add("potassium_mg")
    if "warfarin" in person.conditions:
        found.add("vitamin_k_ug")  # steady is the target: a floor would call for greens
    return found


def _micronutrients(person: Person) -> list[Target]:
    """Daily intakes with the upper levels that count food; one below what plants ask for is named
    and not drawn.
    """
    held_back, found = _held_back(person), []
    for intake in intakes_of(person):
        if intake.key in held_back:
            continue
        how = f"Daily reference intake, {person.sex}, {person.age_years:g} years"
        how += f", {person.stage}" if person.stage != "none" else ""
        how += f", × {intake.factor:g} on a plant-based diet" if intake.factor != 1 else ""
        upper = intake.upper if intake.upper_counts_food else None
        if upper is not None and upper < intake.low:
            how, upper = f"{how}; the upper level is {upper:g}", None
        if intake.upper is not None and not intake.upper_counts_food:
            how += f"; at most {intake.upper:g} from supplements"
        found.append(
            Target(Window(intake.key, _rounded(intake.low), upper, "watch"), how + ".", SOURCE)
        )
    return found


def _rounded(value: float) -> float:
    return round(value, 1 if value >= 2 else 2)


def _asked(person: Person) -> tuple[Asked, ...]:
    found = []
    if person.kidney_disease or "potassium-raising" in person.conditions:
        found.append(
            Asked(
                "potassium_mg",
                "The potassium limit comes from the clinician and the client's blood results.",
            )
        )
    if person.kidney_disease:
        found.append(
            Asked(
                "phosphorus_mg",
                "The phosphorus limit comes from the clinician and the client's blood results.",
            )
        )
        found.append(
            Asked(
                "energy_kcal",
                "Energy in kidney disease is set by stage and treatment, by a licensed clinician.",
            )
        )
    asked = {asked.key for asked in found}
    found += [
        Asked(key, f"{row.who_words(person).capitalize()}: the clinician sets it.")
        for row in rows_of(person)
        for key in row.asked
        if key not in asked and person.clinician_energy_kcal is None
    ]
    if person.kidney_disease or "bariatric-surgery" in person.conditions:
        found.append(
            Asked("protein_g", "Protein is set by stage and treatment, by a licensed clinician.")
        )
    if person.kidney_disease or person.conditions & (NO_SODIUM_CEILING | {"heart-failure"}):
        found.append(Asked("sodium_mg", "The clinician sets the daily sodium limit."))
    return tuple(found)


def clashes(
    windows: Sequence[Window], meals: Sequence[SchoolMeal], person: Person, rules: School
) -> list[str]:
    """Windows that cannot be met together, and meals that carry less protein than the school wants
    a meal, in words.

    A snack (under a fifth of the energy) is not asked for a meal's protein; more than the school
    wants is no clash.
    """
    by_key = {w.key: w for w in windows}
    energy, protein, fat = (by_key.get(k) for k in ("energy_kcal", "protein_g", "fat_g"))
    found = []
    if energy and energy.high is not None and protein and protein.low is not None:
        least = protein.low * 4 + ((fat.low or 0.0) * 9 if fat else 0.0)
        if least > energy.high:
            found.append(
                f"Protein and fat at their minimums come to {least:,.0f} kcal, more than the "
                f"energy maximum of {energy.high:,.0f}."
            )
    wanted = rules.protein_per_meal_g
    if rules.protein_per_meal_g_per_kg is not None:
        low, high = rules.protein_per_meal_g_per_kg
        wanted = (low * person.weight_kg, high * person.weight_kg)
    if (
        wanted
        and not person.growing
        and protein
        and protein.low is not None
        and protein.high is not None
    ):
        for meal in meals:
            low, high = protein.low * meal.protein / 100, protein.high * meal.protein / 100
            if meal.energy >= SNACK_PERCENT and high < wanted[0]:
                found.append(
                    f"{meal.name} provides {low:.0f}–{high:.0f} g protein; the {rules.name} "
                    "approach asks for "
                    f"{wanted[0]:.0f}–{wanted[1]:.0f} g a meal."
                )
    return found
