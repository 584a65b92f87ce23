"""The weight that an energy intake leads to: the dynamic model of Hall et al., Lancet 2011;378:826.

The equations are those of the paper's appendix, from memory, written out here; energies in kcal.
A body is fat F, lean tissue L, glycogen G with its water, and extracellular water W. With intake EI
and expenditure EE:

    X = EI - EE - rho_G dG/dt              what is stored, or is taken from stores
    rho_F dF/dt = (1 - p) X
    rho_L dL/dt = p X,  p = C / (C + F),  C = 10.4 kg rho_L / rho_F            (Forbes)
    EE = K + gamma_F F + gamma_L L + delta BW + 0.1 (EI - EI0) + AT + eta_F dF/dt + eta_L dL/dt
    14 d AT/dt = 0.14 (EI - EI0) - AT      adaptive thermogenesis
    rho_G dG/dt = CI - CI0 (G / G0)^2      carbohydrate CI; 2.7 g of water with a gram
    3.22 dW/dt = -3 (W - W0) - 4 (1 - CI / CI0)      grams of sodium, salt unchanged

It holds for adults who are neither pregnant nor breastfeeding, of usual weight or above, and says
nothing of how far one person lies from another: the band of the weigh-ins does.
"""

from __future__ import annotations

import math
from dataclasses import dataclass

from dietetics.errors import DieteticsError
from dietetics.targets.energy import ACTIVITY_FACTORS, required_kcal, resting_kcal
from dietetics.targets.person import BMI_LEAST, MALE, Person

SOURCE = "Hall et al., Lancet 2011;378:826 (equations from memory)"
RHO_F, RHO_L, RHO_G = 9441.0, 1816.0, 4206.0  # kcal per kg: 39.5, 7.6 and 17.6 MJ
GAMMA_F, GAMMA_L = 3.2, 22.0  # kcal per kg and day
ETA_F, ETA_L = 180.0, 230.0  # kcal per kg laid down
TEF, ADAPTATION, ADAPTATION_DAYS = 0.1, 0.14, 14.0
FORBES_KG = 10.4
GLYCOGEN_KG, WATER_PER_GLYCOGEN = 0.5, 2.7
SODIUM_G_PER_KG, SODIUM_LOSS, CARBOHYDRATE_LOSS = 3.22, 3.0, 4.0
CARBOHYDRATE_SHARE = 0.55  # of energy, before and after (our judgement for whole plant food)
STEP_DAYS = 0.5
ADULT_FROM = 18


@dataclass
class _Body:
    fat: float
    lean: float
    glycogen: float
    water: float
    adaptation: float = 0.0


def why_not(person: Person) -> str:
    """Why the model says nothing of a person; "" where it holds."""
    if person.age_years < ADULT_FROM:
        return "it is made for adults"
    if person.pregnant or person.breastfeeding:
        return "it is not made for pregnancy or breastfeeding"
    if person.bmi < BMI_LEAST:
        return "it is not made for people who are underweight"
    return ""


def fat_kg(person: Person) -> float:
    """Fat in kg by sex, age and BMI (Jackson et al., Int J Obes 2002;26:789, from memory)."""
    slope, constant = (37.31, 103.94) if person.sex == MALE else (39.96, 102.01)
    percent = 0.14 * person.age_years + slope * math.log(person.bmi) - constant
    return person.weight_kg * min(max(percent, 4.0), 60.0) / 100


@dataclass(frozen=True)
class ExpectedDay:
    """The weight at the end of a day in kg, and what was spent on it in kcal."""

    kg: float
    spent_kcal: float


def expected_days(
    person: Person, intake_kcal: float, days: int, before_kcal: float | None = None
) -> list[ExpectedDay]:
    """Each day from 0 to `days` with an intake from day 0 on.

    `before_kcal` is what kept the weight before; the requirement where it is not given. Raises
    DieteticsError `expected-not-made` where the model does not hold.
    """
    reason = why_not(person)
    before = before_kcal if before_kcal is not None else required_kcal(person)
    if reason or before is None or before <= 0:
        raise DieteticsError("expected-not-made", why=reason or "no requirement is known")
    return _run(person, intake_kcal, days, before)


def _run(person: Person, intake: float, days: int, before: float) -> list[ExpectedDay]:
    fat = fat_kg(person)
    body = _Body(fat, person.weight_kg - fat, GLYCOGEN_KG, 0.0)
    resting = resting_kcal(person)
    activity = max(before / resting, ACTIVITY_FACTORS["inactive"])
    delta = ((1 - TEF) * activity - 1) * resting / person.weight_kg
    constant = before - GAMMA_F * body.fat - GAMMA_L * body.lean - delta * person.weight_kg
    change = intake - before
    carbohydrate_before = CARBOHYDRATE_SHARE * before
    share = intake / before  # the same share of energy as carbohydrate
    start = _weight(body)
    found = [ExpectedDay(person.weight_kg, before)]
    for _ in range(days):
        stored = _energy(body)
        for _ in range(round(1 / STEP_DAYS)):
            weight = person.weight_kg + _weight(body) - start
            base = (
                constant
                + GAMMA_F * body.fat
                + GAMMA_L * body.lean
                + delta * weight
                + TEF * change
                + body.adaptation
            )
            _step(body, intake - base, share, carbohydrate_before, change)
        spent = intake - (_energy(body) - stored)
        found.append(ExpectedDay(person.weight_kg + _weight(body) - start, spent))
    return found


def _weight(body: _Body) -> float:
    """What the parts of a body weigh that change, kg."""
    return body.fat + body.lean + body.glycogen * (1 + WATER_PER_GLYCOGEN) + body.water


def _energy(body: _Body) -> float:
    """What they hold, kcal."""
    return RHO_F * body.fat + RHO_L * body.lean + RHO_G * body.glycogen


def _step(body: _Body, left: float, share: float, carbohydrate: float, change: float) -> None:
    """Half a day on; `left` is intake less what is spent at rest and in movement."""
    glycogen_rate = carbohydrate * (share - (body.glycogen / GLYCOGEN_KG) ** 2) / RHO_G
    partition_at = FORBES_KG * RHO_L / RHO_F
    lean_share = partition_at / (partition_at + body.fat)
    cost = ETA_L * lean_share / RHO_L + ETA_F * (1 - lean_share) / RHO_F
    stored = (left - RHO_G * glycogen_rate) / (1 + cost)
    body.lean += STEP_DAYS * lean_share * stored / RHO_L
    body.fat += STEP_DAYS * (1 - lean_share) * stored / RHO_F
    body.glycogen += STEP_DAYS * glycogen_rate
    salt = -SODIUM_LOSS * body.water - CARBOHYDRATE_LOSS * (1 - share)
    body.water += STEP_DAYS * salt / SODIUM_G_PER_KG
    body.adaptation += STEP_DAYS * (ADAPTATION * change - body.adaptation) / ADAPTATION_DAYS
