"""What is got ready the evening before: meals packed for days on the road, and frozen portions laid
out to thaw.
"""

from __future__ import annotations

from typing import Any

from dietetics.amounts.weighing import amount_text
from dietetics.week.batch_supply import SMALL_G
from dietetics.week.day_totals import batch_supplies
from dietetics.week.daynames import DAY_NAMES, evening_before
from roundpantry.prep.plain_evenings import plain_of
from roundpantry.weeks.models import Week
from roundpantry.weeks.records import dishes_of_week, plan_value


def ready_before(week: Week) -> list[dict[str, Any]]:
    """For each day that needs it: the evening before it, its number, and what is packed or laid out
    to thaw, in words.
    """
    thawed = _thawed(week)
    plan = plan_value(week)
    found = []
    for d, day in enumerate(plan.days):
        packed = []
        for m, cell in enumerate(day.cells if day.kind == "travel" else ()):
            if cell.entries and not cell.skipped:
                names = " and ".join(
                    f"{'' if e.scale == 1 else f'{amount_text(e.scale)} × '}{e.name}"
                    for e in cell.entries
                )
                packed.append(f"{plan.meals[m]}: {names}")
        words = [f"Pack for {DAY_NAMES[d]}: {'; '.join(packed)}"] if packed else []
        words += thawed.get(d, [])
        if words:
            evening = DAY_NAMES[d - 1] if d else evening_before()
            found.append({"evening": evening, "day": d - 1, "words": words})
    return found


def _thawed(week: Week) -> dict[int, list[str]]:
    """What is eaten out of the freezer, by the day it is eaten."""
    plan = plan_value(week)
    grams: dict[tuple[int, str], float] = {}
    if any(one.frozen for one in plan.cookings):
        available = dishes_of_week(week)
        for supply in batch_supplies(plan, available.dishes, available.pots):
            for taken in supply.taken:
                key = (taken.use.day, supply.pot.name)
                grams[key] = grams.get(key, 0.0) + taken.thawed_g
    for pots in plain_of(week).values():
        for pot in pots:
            for day, portion_g in pot.frozen:
                grams[day, pot.name] = grams.get((day, pot.name), 0.0) + portion_g
    found: dict[int, list[str]] = {}
    for (day, name), thawed in sorted(grams.items()):
        if thawed > SMALL_G:
            words = f"Thaw {thawed:,.0f} g of {name} in the refrigerator for {DAY_NAMES[day]}"
            found.setdefault(day, []).append(words)
    return found


def ready_on(week: Week, day: int) -> list[str]:
    """What is packed or laid out to thaw on an evening, in words."""
    return [words for one in ready_before(week) if one["day"] == day for words in one["words"]]
