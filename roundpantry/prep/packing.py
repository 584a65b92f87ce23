"""What is packed the evening before: meals of days on the road, and what stands overnight."""

from __future__ import annotations

from typing import Any

from dietetics.amounts.weighing import amount_text
from dietetics.week.daynames import DAY_NAMES, evening_before
from roundpantry.weeks.models import Week
from roundpantry.weeks.records import plan_value


def packing_of(week: Week) -> list[dict[str, Any]]:
    """For each travelling day: the evening before it, its number, and what is packed."""
    plan = plan_value(week)
    found = []
    for d, day in enumerate(plan.days):
        if day.kind != "travel":
            continue
        meals = []
        for m, cell in enumerate(day.cells):
            if cell.entries and not cell.skipped:
                names = " and ".join(
                    f"{'' if e.scale == 1 else f'{amount_text(e.scale)} × '}{e.name}"
                    for e in cell.entries
                )
                meals.append(f"{plan.meals[m]}: {names}")
        if meals:
            evening = DAY_NAMES[d - 1] if d else evening_before()
            found.append({"evening": evening, "day": d - 1, "for": DAY_NAMES[d], "meals": meals})
    return found


def packed_on(week: Week, day: int) -> list[str]:
    """What is packed on an evening, in words."""
    return [
        f"Pack for {one['for']}: {'; '.join(one['meals'])}"
        for one in packing_of(week)
        if one["day"] == day
    ]
