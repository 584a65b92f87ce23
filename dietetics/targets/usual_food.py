"""How much food a person usually eats: the weight of a meal and of a day beyond which a plan should
not go without a word. People eat a steady weight of food, so a plan that doubles it is not eaten.
All of it is common practice, from memory.
"""

from __future__ import annotations

from dataclasses import dataclass, replace

from dietetics.targets.energy import energy_of
from dietetics.targets.person import Person
from dietetics.targets.schools import FIBRE, WEIGHT, PlateRule, School, schools

SOURCE = "common practice"
# Up to and not including this age: grams of a meal and of a day, without drinks.
BY_AGE = (
    (4.0, 250.0, 900.0),
    (7.0, 330.0, 1200.0),
    (11.0, 400.0, 1400.0),
    (15.0, 650.0, 2000.0),
    (80.0, 900.0, 2600.0),
    (200.0, 450.0, 1500.0),
)
TRAINING_DAY_G, TRAINING_MEAL_G = 3200.0, 1000.0
POOR_APPETITE_MEAL_G, POOR_APPETITE_DAY_G = 450.0, 1500.0  # of a grown person
POOR_APPETITE_SHARE = 0.85  # of what little is eaten anyway: the very old, children
AFTER_SURGERY_MEAL_G = 250.0
EATS_LIKE_GROWN_YEARS = 15.0
VERY_OLD_YEARS = 80.0  # from here on most eat little
# Before that who needs little energy eats little food too; younger people eat it for its bulk.
OLDER_YEARS, OLDER_G_PER_KCAL = 65.0, 1.25
DENSE_GROUPS = frozenset({"nut", "seed", "nut-butter"})
# Who is to gain does so by denser food, not by more of it: so many g a day for each kg of body
# weight, and never less than this.
TO_GAIN_G_PER_KG, TO_GAIN_LEAST_G = 40.0, 1500.0
MOST_FIBRE_G, MOST_FIBRE_FOR_LITTLE_EATEN_G = 70.0, 45.0  # a day, asked above; by age for children
# Who needs much energy eats more of everything: twice what is advised for the energy, and no more.
FIBRE_G_PER_1000_KCAL, MOST_FIBRE_FOR_MUCH_EATEN_G = 28.0, 85.0
CHILD_FIBRE_SHARE = 1.5  # of age + 10 g
NEAR = 0.05  # so little more is no matter: what is usual is not known so exactly
CHILD_FIBRE_G_PER_1000_KCAL = 20.0  # 14 are asked for
GROWN_KCAL = 2000.0  # what approaches ask of a day is meant for about so much energy
FIBRE_IN_A_MEAL = 0.5  # of the most of a day


@dataclass(frozen=True)
class UsualFood:
    """The most that is usual, in g: of a meal, of a day, and of fibre a day."""

    meal_g: float
    day_g: float
    fibre_g: float


def usual_food(person: Person) -> UsualFood:
    """The most that is usual for a person of this age, activity and appetite.

    >>> usual_food(Person("female", 85, 155, 48)).day_g
    1500.0
    """
    meal, day = next((m, d) for until, m, d in BY_AGE if person.age_years < until)
    energy = energy_of(person).target
    if energy and OLDER_YEARS <= person.age_years < VERY_OLD_YEARS:
        share = min(1.0, OLDER_G_PER_KCAL * energy / day)
        meal, day = round(share * meal, -1), round(share * day, -1)
    if gains_by_denser_food(person):
        share = min(1.0, max(TO_GAIN_LEAST_G, TO_GAIN_G_PER_KG * person.weight_kg) / day)
        meal, day = round(share * meal, -1), round(share * day, -1)
    if person.activity == "very-active" and 15 <= person.age_years < 80:
        meal, day = TRAINING_MEAL_G, TRAINING_DAY_G
    if person.appetite == "poor":
        share = POOR_APPETITE_SHARE
        meal = round(min(POOR_APPETITE_MEAL_G, meal * share), -1)
        day = round(min(POOR_APPETITE_DAY_G, day * share), -1)
    if "bariatric-surgery" in person.conditions:
        meal = min(meal, AFTER_SURGERY_MEAL_G)
    return UsualFood(meal, day, _most_fibre_g(person))


def _most_fibre_g(person: Person) -> float:
    energy = energy_of(person).target or 0.0
    if person.age_years < EATS_LIKE_GROWN_YEARS:
        by_energy = CHILD_FIBRE_G_PER_1000_KCAL * energy / 1000
        by_age = CHILD_FIBRE_SHARE * (person.age_years + 10)
        return min(MOST_FIBRE_G, max(by_age, by_energy))
    if eats_little(person):
        return MOST_FIBRE_FOR_LITTLE_EATEN_G
    for_energy = round(FIBRE_G_PER_1000_KCAL * energy / 1000)
    return min(MOST_FIBRE_FOR_MUCH_EATEN_G, max(MOST_FIBRE_G, for_energy))


def eats_little(person: Person) -> bool:
    """True for a grown person who is soon full, so that little food has to hold much."""
    return not person.growing and (
        person.appetite == "poor"
        or person.age_years >= VERY_OLD_YEARS
        or "bariatric-surgery" in person.conditions
    )


def gains_by_denser_food(person: Person) -> bool:
    """True for a grown person who is to gain weight: more energy, and not more food. Not under an
    approach that limits the densest foods: what is left of them would displace its vegetables.
    """
    gains = person.goal == "gain" and not person.growing and person.age_years < VERY_OLD_YEARS
    return gains and not limits_dense_foods(person.school)


def limits_dense_foods(approach: str) -> bool:
    """True for an approach, by its key, that limits nuts or seeds; False for one not known here."""
    known = schools().get(approach)
    return known is not None and bool(DENSE_GROUPS & set(known.limit))


def meal_rules(person: Person) -> tuple[PlateRule, ...]:
    """The most that a meal should weigh, and the most fibre it should hold, as asked of a bowl."""
    usual = usual_food(person)
    weight, fibre = usual.meal_g, round(usual.fibre_g * FIBRE_IN_A_MEAL)
    why = f"More than {weight:,.0f} g is seldom eaten at one meal, by age and appetite ({SOURCE})."
    full = f"More than {fibre} g of fibre in one meal is seldom comfortable ({SOURCE})."
    return (
        PlateRule(WEIGHT, "Weight of the meal", "should", why, of=WEIGHT, high=weight),
        PlateRule(FIBRE, "Fibre of the meal", "should", full, of=FIBRE, high=fibre),
    )


def day_asks(school: School | None, person: Person | None) -> tuple[PlateRule, ...]:
    """What is asked of the food of a day: what an approach asks of grown people, of a child in
    proportion to the energy they need; and what is usual. Of nobody known, the approach alone.
    """
    asked = school.days if school else ()
    if person is None:
        return asked
    if person.growing:
        share = min(1.0, (energy_of(person).target or GROWN_KCAL) / GROWN_KCAL)
        asked = tuple(_times(rule, share) for rule in asked)
    return (*asked, *day_rules(person))


def _times(rule: PlateRule, share: float) -> PlateRule:
    low, high = (None if end is None else round(end * share, -1) for end in (rule.low, rule.high))
    return replace(rule, low=low, high=high)


def day_rules(person: Person) -> tuple[PlateRule, ...]:
    """The most that the food of a day should weigh, without drinks, and the most fibre it should
    hold, as asked of the day.
    """
    usual = usual_food(person)
    why = f"More than {usual.day_g / 1000:.1f} kg is seldom eaten in a day ({SOURCE})."
    full = f"More than {usual.fibre_g:.0f} g of fibre is seldom comfortable ({SOURCE})."
    return (
        PlateRule(WEIGHT, "Weight of food", "should", why, of=WEIGHT, high=usual.day_g),
        PlateRule(FIBRE, "Fibre of the day", "should", full, of=FIBRE, high=usual.fibre_g),
    )
