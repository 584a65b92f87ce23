"""How much food a person usually eats: the weight of a meal and of a day beyond which a plan should
not go without a word. People eat a steady weight of food, so a plan that doubles it is not eaten.
All of it is common practice, from memory.
"""

from __future__ import annotations

from dataclasses import dataclass

from dietetics.targets.person import Person

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
POOR_APPETITE_SHARE, AFTER_SURGERY_MEAL_G = 0.7, 250.0
MOST_FIBRE_G = 70.0  # a day, asked above; by age for children
CHILD_FIBRE_SHARE = 1.5  # of age + 10 g


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
    if person.activity == "very-active" and 15 <= person.age_years < 80:
        meal, day = TRAINING_MEAL_G, TRAINING_DAY_G
    if person.appetite == "poor":
        meal, day = meal * POOR_APPETITE_SHARE, day * POOR_APPETITE_SHARE
    if "bariatric-surgery" in person.conditions:
        meal = min(meal, AFTER_SURGERY_MEAL_G)
    fibre = CHILD_FIBRE_SHARE * (person.age_years + 10) if person.growing else MOST_FIBRE_G
    return UsualFood(meal, day, min(fibre, MOST_FIBRE_G))
