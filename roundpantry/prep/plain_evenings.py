"""The evenings of a week on which something is cooked, and what is cooked plain on each."""

from __future__ import annotations

from dietetics.prep.plain_pots import Eaten, PlainPot, plain_pots
from dietetics.week.plan import Plan
from roundpantry.counter.kept import read_once
from roundpantry.shopping.records import fresh_portions
from roundpantry.weeks.models import Week
from roundpantry.weeks.planning_facts import rules_of
from roundpantry.weeks.records import dishes_of_week, plan_value

FIRST_EVENING = -1


def evenings_of(plan: Plan) -> list[int]:
    """The evenings on which something is cooked, -1 the one before the week."""
    return sorted({one.day for one in plan.cookings if one.day >= FIRST_EVENING})


def plain_on(week: Week, day: int) -> list[PlainPot]:
    """The grains, beans and potatoes that bowls hold cooked and that are cooked on an evening."""
    return plain_of(week).get(day, [])


def plain_of(week: Week) -> dict[int, list[PlainPot]]:
    """What is cooked plain on each evening of a week."""
    return read_once(("plain", week.pk, week.revision), lambda: _plain_of(week))


def _plain_of(week: Week) -> dict[int, list[PlainPot]]:
    plan = plan_value(week)
    found = dishes_of_week(week)
    eaten = [
        Eaten(d, m, need.food, need.grams.likely) for d, m, need in fresh_portions(plan, found)
    ]
    may_freeze = rules_of(week).may_freeze
    return plain_pots(eaten, evenings_of(plan), len(plan.meals) - 1, may_freeze)
