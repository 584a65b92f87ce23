"""What the rules of food are asked with: a client as far as food concerns them, what is eaten, a
meal, a day, a week.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from dietetics.composition.foods import Food
from dietetics.composition.sums import Composition
from dietetics.targets.intakes import intakes_of
from dietetics.targets.person import Person
from dietetics.targets.schools import School

ADULT_B12_UG, ADULT_IODINE_UPPER_UG, ADULT_SELENIUM_UPPER_UG = (
    2.4,
    1100.0,
    400.0,
)  # where no person is given


@dataclass(frozen=True)
class ClientFacts:
    """A client as the rules of food see them.

    `needs` and `uppers` are daily intakes and upper levels of the person's age and stage;
    `uppers_of_supplements` those that count supplements alone; `supplements` what they take a day,
    by nutrient.
    """

    conditions: frozenset[str] = frozenset()
    allergies: tuple[str, ...] = ()
    never_eats: str = ""
    school: School | None = None
    needs: Mapping[str, float] = field(default_factory=dict)
    uppers: Mapping[str, float] = field(default_factory=dict)
    uppers_of_supplements: Mapping[str, float] = field(default_factory=dict)
    supplements: Mapping[str, float] = field(default_factory=dict)

    @property
    def b12_need_ug(self) -> float:
        """B12 a day in µg: 2.4, 2.6 in pregnancy, 2.8 breastfeeding, less for children."""
        return self.needs.get("vitamin_b12_ug", ADULT_B12_UG)

    @property
    def iodine_upper_ug(self) -> float:
        """The upper level of iodine in µg a day."""
        return self.uppers.get("iodine_ug", ADULT_IODINE_UPPER_UG)

    @property
    def selenium_upper_ug(self) -> float:
        """The upper level of selenium in µg a day."""
        return self.uppers.get("selenium_ug", ADULT_SELENIUM_UPPER_UG)


def client_facts(
    person: Person,
    allergies: Sequence[str] = (),
    never_eats: str = "",
    school: School | None = None,
    supplements: Mapping[str, float] | None = None,
) -> ClientFacts:
    """The facts of a person for the rules of food."""
    intakes = intakes_of(person)
    return ClientFacts(
        person.conditions,
        tuple(allergies),
        never_eats,
        school,
        {one.key: one.amount for one in intakes},
        {one.key: one.upper for one in intakes if one.upper is not None and one.upper_counts_food},
        {
            one.key: one.upper
            for one in intakes
            if one.upper is not None and not one.upper_counts_food
        },
        dict(supplements or {}),
    )


@dataclass(frozen=True)
class Eaten:
    """A food with its grams, batches taken apart."""

    food: Food
    grams: float

    def amount(self, key: str) -> float | None:
        """How much of a nutrient it brings; None unknown."""
        value = self.food.per_100g.get(key)
        return None if value is None else value * self.grams / 100


@dataclass(frozen=True)
class MealFacts:
    """One meal, or anything else that is eaten at once, for a client."""

    client: ClientFacts
    eaten: tuple[Eaten, ...]
    total: Composition


@dataclass(frozen=True)
class DayFacts:
    """A whole day: its name, foods, sums, how many meals it has, at which ones soy is eaten, and
    the first meal with its name.
    """

    client: ClientFacts
    eaten: tuple[Eaten, ...]
    total: Composition
    name: str = ""
    meals: int = 3
    soy_meals: tuple[str, ...] = ()
    first_meal: tuple[str, MealFacts] | None = None


@dataclass(frozen=True)
class WeekFacts:
    """The days of a week that are judged, with the fibre of a usual day before it and the ceiling
    of potassium.
    """

    client: ClientFacts
    days: tuple[DayFacts, ...]
    fibre_before_g: float | None = None
    potassium_ceiling_mg: float | None = None
