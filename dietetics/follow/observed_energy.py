"""Energy as it is observed: what was eaten, less what was stored, over weeks.

expenditure = mean intake - 7,700 kcal/kg × change of the smoothed weight ÷ days. The density of
what is lost or gained is uncertain by about 15 % (our judgement; early weeks hold water). It rests
on what was written down: where a fifth is left out, the figure is a fifth too low, and a target
set on it is still right for somebody who goes on writing down the same way.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date

from dietetics.follow.trajectory import TWO_SIDED, Trajectory
from dietetics.targets.energy import KCAL_PER_KG

LEAST_DAYS = 21
LEAST_SHARE_KNOWN = 2 / 3  # of the days with what was eaten
DENSITY_DOUBT = 0.15


@dataclass(frozen=True)
class EatenDay:
    """What was eaten on a day, kcal; None where it is not known."""

    day: date
    kcal: float | None


@dataclass(frozen=True)
class ObservedEnergy:
    """Expenditure in kcal a day with half the width of its 95 % interval, over so many days."""

    kcal: float
    half: float
    days: int
    known_days: int
    change_kg: float
    mean_intake: float

    def words(self) -> str:
        """The figure with its interval, to ten kcal."""
        return f"{round(self.kcal, -1):,.0f} ± {round(self.half, -1):,.0f} kcal"


def observed_energy(line: Trajectory, eaten: Sequence[EatenDay]) -> ObservedEnergy | str:
    """Expenditure over the days that have both a smoothed weight and a diary, or why it cannot be
    told yet.
    """
    inside = sorted((one for one in eaten if line.on(one.day) is not None), key=lambda one: one.day)
    if not inside:
        return "no day with both a weight and what was eaten"
    first, last = line.on(inside[0].day), line.on(inside[-1].day)
    assert first is not None and last is not None
    days = (last.day - first.day).days
    if days < LEAST_DAYS:
        return f"{days} of at least {LEAST_DAYS} days"
    known = [one.kcal for one in inside if one.kcal is not None]
    if len(known) < LEAST_SHARE_KNOWN * days:
        return f"what was eaten is known of {len(known)} of {days} days only"
    return _observed(first.kg, last.kg, first.sd, last.sd, days, known)


def _observed(
    start_kg: float, end_kg: float, start_sd: float, end_sd: float, days: int, known: list[float]
) -> ObservedEnergy:
    mean = sum(known) / len(known)
    spread = sum((one - mean) ** 2 for one in known) / max(len(known) - 1, 1)
    change = end_kg - start_kg
    stored = KCAL_PER_KG * change / days
    weight_doubt = KCAL_PER_KG * math.hypot(start_sd, end_sd) / days
    doubt = math.sqrt(weight_doubt**2 + spread / len(known) + (DENSITY_DOUBT * stored) ** 2)
    return ObservedEnergy(mean - stored, TWO_SIDED * doubt, days, len(known), change, mean)
