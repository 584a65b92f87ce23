"""Everything that a week is planned from, read from the database once.

From here on it goes one way and nothing is read again: facts → question → answer → plan → stored
week → page. What is stored is checked against facts gathered anew, for another window may have
changed them.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from functools import cached_property

from dietetics.cautions.facts import ClientFacts
from dietetics.errors import DieteticsError
from dietetics.prep.kitchen import has_freezer
from dietetics.week.kinds import BITTER_GREENS, MOST_BITTER, USUAL_KINDS
from dietetics.week.liking import Heard
from dietetics.week.plan import Plan
from dietetics.week.question.question import Rules, SlotMeal
from dietetics.week.question.question_building import USUAL_DIFFERENT, main_meals
from roundpantry.clients.records import client_facts_of
from roundpantry.weeks.models import DishChoice, Week
from roundpantry.weeks.records import (
    AvailableDishes,
    WeekTargets,
    available_dishes,
    choices_of,
    earlier_uses,
    eaten_before,
    plan_value,
    week_targets_of,
    with_free,
)
from roundpantry.weeks.reported import heard_of

RULES = Rules(different=USUAL_DIFFERENT)


@dataclass(frozen=True)
class PlanningFacts:
    """A week with its plan and rules, its client with targets and choices, and what can be eaten.

    `said` is how the client takes a dish, `seen` how often each was eaten in the last weeks,
    `before` on which of the seven days before. `use_up` are families of foods of which something is
    left, `heard` what the client let be known of dishes, by their names.
    """

    week: Week
    plan: Plan
    rules: Rules
    targets: WeekTargets
    client: ClientFacts
    said: Mapping[str, DishChoice]
    seen: Mapping[str, int]
    before: Mapping[str, tuple[int, ...]]
    available: AvailableDishes
    use_up: frozenset[str] = frozenset()
    heard: Mapping[str, Heard] = field(default_factory=dict)

    @cached_property
    def slots(self) -> tuple[SlotMeal, ...]:
        """The meals of a day as the solver sees them."""
        return slot_meals(self.targets)


def gather(week: Week) -> PlanningFacts:
    """Read what a week is planned from. Raises `week-no-meals`, and `week-unreadable` where the
    client's meals are no longer those of the week.
    """
    targets = week_targets_of(week.client)
    if targets is None:
        raise DieteticsError("week-no-meals")
    plan = plan_value(week)
    if plan.meals != tuple(meal.name for meal in targets.meals):
        raise DieteticsError(
            "week-unreadable", problem="the client's meals have changed: create a new week"
        )
    return PlanningFacts(
        week,
        plan,
        replace(rules_of(week), most_meal_g=targets.most_meal_g),
        targets,
        client_facts_of(week.client),
        choices_of(week.client),
        earlier_uses(week),
        eaten_before(week),
        with_free(available_dishes(week.client, plan, everything=True), targets, plan),
        frozenset(week.rules.get("use_up", ())),
        heard_of(week.client),
    )


def rules_of(week: Week) -> Rules:
    """The rules a week is planned by: the usual ones, and what was said for this week."""
    given = week.rules
    different = given.get("different", RULES.different)
    return Rules(
        tuple(given.get("cooking_days", RULES.cooking_days)),
        int(given.get("most_pots", RULES.most_batches)),
        None if different is None else int(different),
        tuple(given.get("scales", RULES.scales)),
        given.get("most_new"),
        USUAL_KINDS if given.get("vary_kinds", True) else {},
        {BITTER_GREENS: MOST_BITTER} if given.get("vary_kinds", True) else {},
        may_freeze=given.get("freeze", has_freezer(week.client.kitchen)),
    )


def free_meals_of(week: Week) -> tuple[str, int]:
    """The meal that the client chooses freely, and how often this week; ("", 0) for never."""
    name, times = week.rules.get("free_meal") or "", week.rules.get("free_meals") or 0
    return (name, int(times)) if name and times else ("", 0)


def slot_meals(week_targets: WeekTargets) -> tuple[SlotMeal, ...]:
    """The meals of a client as the solver sees them."""
    mains = main_meals([(meal.name, meal.share_percent) for meal in week_targets.meals])
    return tuple(
        SlotMeal(
            meal.name,
            meal.share_percent / 100,
            (meal.share_percent if meal.protein_percent is None else meal.protein_percent) / 100,
            meal.name in mains,
        )
        for meal in week_targets.meals
    )
