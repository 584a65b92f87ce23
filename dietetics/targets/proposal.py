"""A person's targets under a school: every window with how it was found, its source and importance.

What only a licensed clinician may set is asked for, never invented: potassium and phosphorus
ceilings in kidney disease come without numbers until somebody gives them, and what is published of
protein and sodium is no "must".
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from dietetics.nutrients import FAT_KCAL_PER_G
from dietetics.targets.conditions import NO_SODIUM_CEILING
from dietetics.targets.deficit_holds import hold_reasons
from dietetics.targets.energy import Energy, energy_of
from dietetics.targets.intakes import SOURCE, intakes_of
from dietetics.targets.person import Person
from dietetics.targets.protein import Protein, protein_of
from dietetics.targets.schools import School, SchoolMeal, school
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

    def target(self, key: str) -> Target | None:
        """The target of one nutrient."""
        return next((t for t in self.targets if t.window.key == key), None)


def propose(person: Person, rules: School | None = None) -> Proposal:
    """Compute a person's targets under their school, or under the rules given."""
    rules = school(person.school) if rules is None else rules
    energy, protein = energy_of(person), protein_of(person, rules)
    targets = [
        *_energy(energy, person),
        *_protein(protein),
        _density(person, rules, energy.held),
        *_fibre(energy),
    ]
    targets += [
        *_sodium(person, rules),
        *_fat(energy, rules),
        *_saturated_fat(person, energy),
        *_acid_load(rules),
    ]
    targets += _micronutrients(person)
    return Proposal(
        person, rules, energy, protein, tuple(targets), _asked(person), skeleton(person, rules)
    )


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
    """The window of energy; in kidney disease of adults it is published advice, and no "must" until
    a clinician sets it.
    """
    if energy.low is None or energy.high is None:
        return []
    clinician = person.kidney_disease
    window = Window(
        "energy_kcal", _tens(energy.low), _tens(energy.high), "should" if clinician else "must"
    )
    return [Target(window, energy.how, energy.source, clinician)]


def _protein(protein: Protein) -> list[Target]:
    importance = "should" if protein.needs_clinician else "must"
    window = Window("protein_g", round(protein.low, 1), round(protein.high, 1), importance)
    return [Target(window, protein.how, protein.source, protein.needs_clinician)]


def _density(person: Person, rules: School, held: bool) -> Target:
    """The ceiling of energy density: the school's, lower where weight is to fall and nothing holds
    that back.
    """
    high, how, source = (
        rules.density_high,
        f"The {rules.name} approach recommends at most this.",
        "common practice",
    )
    if person.goal == "lose" and not held and high > LOSE_DENSITY_HIGH:
        high, how, source = (
            LOSE_DENSITY_HIGH,
            "To lose weight without counting: 125 kcal per 100 g.",
            LOSE_DENSITY_SOURCE,
        )
    # who must not lose weight is not kept from dense food: the ceiling is shown, and asks for
    # nothing
    importance = "watch" if hold_reasons(person) else "should"
    return Target(Window("kcal_per_g", None, high, importance), how, source)


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


def _fat(energy: Energy, rules: School) -> list[Target]:
    if energy.target is None:
        return []
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
