"""Daily intakes of vitamins and minerals by sex, age and life stage, from one table."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

from dietetics.composition.foods import read_table
from dietetics.targets.person import Person

SOURCE = "IOM/NASEM Dietary Reference Intakes, from memory"
# What whole plant foods ask for more of (IOM 2001): iron × 1.8, zinc up to × 1.5.
VEGETARIAN_FACTORS = {"iron_mg": 1.8, "zinc_mg": 1.5}


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
