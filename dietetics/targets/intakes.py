"""Daily intakes of vitamins and minerals by sex, age and life stage, from one table."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace
from functools import lru_cache

from dietetics.composition.foods import read_table
from dietetics.targets.person import Person
from dietetics.targets.windows import Window

SOURCE = "IOM/NASEM Dietary Reference Intakes, from memory"
# What whole plant foods ask for more of (IOM 2001): iron × 1.8, zinc up to × 1.5.
VEGETARIAN_FACTORS = {"iron_mg": 1.8, "zinc_mg": 1.5}
SODIUM = "sodium_mg"
# The adequate intake of sodium, mg: up to and not including this age (NASEM 2019, from memory).
ADEQUATE_SODIUM = ((4.0, 800.0), (9.0, 1000.0), (14.0, 1200.0), (200.0, 1500.0))
LEAST_SODIUM_SHARE = 1 / 3  # of it: 500 mg, the least that adults need (NRC 1989, from memory)
# To whom too little sodium does harm: lithium rises, water pills and age take it, sweat loses it.
LOSES_SODIUM = frozenset({"lithium", "diuretic"})
LITTLE_SODIUM = frozenset(
    {"hypertension", "heart-failure", "ckd-1", "ckd-2", "ckd-3", "ckd-4", "ckd-5", "dialysis",
    "peritoneal-dialysis", "transplant"}
)  # fmt: skip
OLD_YEARS = 80


@dataclass(frozen=True)
class Intake:
    """One daily intake with its tolerable upper level, where there is one.

    `upper_counts_food` is False where the level holds for supplements and added vitamins alone.
    """

    key: str
    amount: float
    upper: float | None
    factor: float
    upper_counts_food: bool = True

    @property
    def low(self) -> float:
        """What a plant eater is planned for."""
        return self.amount * self.factor


@lru_cache(maxsize=1)
def _rows() -> list[dict[str, str]]:
    return read_table("intakes.csv")


def intakes_of(person: Person) -> list[Intake]:
    """The intakes of a person from one year on; a stage without a row takes the plain one."""
    found: dict[str, Intake] = {}
    for stage in ("none", person.stage):
        for row in _rows():
            fits = row["sex"] in ("any", person.sex) and float(
                row["age_from"]
            ) <= person.age_years < float(row["age_to"])
            if fits and row["stage"] == stage:
                upper = float(row["upper"]) if row["upper"] else None
                key = row["nutrient"]
                counts_food = row["upper_of"] != "supplements"
                found[key] = Intake(
                    key, float(row["amount"]), upper, VEGETARIAN_FACTORS.get(key, 1.0), counts_food
                )
    return list(found.values())


def sodium_floor(person: Person) -> Intake:
    """The least sodium of a day: the adequate intake for whom less does harm, a third of it for
    others and where it is to be little.
    """
    adequate = next(most for until, most in ADEQUATE_SODIUM if person.age_years < until)
    harms = (
        person.conditions & LOSES_SODIUM
        or person.age_years >= OLD_YEARS
        or person.activity == "very-active"
    )
    full = bool(harms) and not person.conditions & LITTLE_SODIUM
    return Intake(SODIUM, adequate if full else round(adequate * LEAST_SODIUM_SHARE), None, 1.0)


def needs_of(person: Person, windows: Iterable[Window]) -> list[Intake]:
    """What a day of food and supplements should bring of vitamins and minerals: the intakes of the
    person and the least sodium, or what their own targets say of a nutrient where these ask for it.
    """
    own = {w.key: w.low for w in windows if w.low is not None and w.importance != "watch"}
    return [
        replace(one, amount=own[one.key], factor=1.0) if one.key in own else one
        for one in (*intakes_of(person), sodium_floor(person))
    ]
