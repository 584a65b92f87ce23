"""The one registry of cautions: which rules are asked of a client, a meal, a day and a week.

Facts go in, verdicts come out, the gravest first. A rule that is not listed here is asked by
nobody, and the tests refuse a code without a case that raises it and one that does not.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence

from dietetics.cautions import client_rules, food_rules, week_rules
from dietetics.cautions.facts import DayFacts, MealFacts, WeekFacts
from dietetics.cautions.verdict import Verdict, gravest_first
from dietetics.targets.proposal import Proposal

CLIENT_RULES: Sequence[Callable[[Proposal], Iterator[Verdict]]] = (
    client_rules.kidney, client_rules.warfarin, client_rules.low_blood_sugar, client_rules.deficits,
    client_rules.eating_disorder, client_rules.underweight, client_rules.floors_and_pace,
    client_rules.stones_thyroid_gout, client_rules.life_stage, client_rules.condition_rows,
    client_rules.always_on_plants,
)  # fmt: skip
MEAL_RULES: Sequence[Callable[[MealFacts], Iterator[Verdict]]] = (
    food_rules.foods_excluded, food_rules.allergens_open, food_rules.potassium_foods,
    food_rules.oxalate_foods,
    food_rules.soy_at_thyroid_hour, food_rules.iron_without_vitamin_c, food_rules.nutmeg,
    food_rules.brazil_nuts,
    food_rules.iodine_seaweed,
)  # fmt: skip
DAY_RULES: Sequence[Callable[[DayFacts], Iterator[Verdict]]] = (
    food_rules.brazil_nuts, food_rules.b12, food_rules.iodine_seaweed, food_rules.iodine,
    food_rules.upper_levels,
)  # fmt: skip
WEEK_RULES: Sequence[Callable[[WeekFacts], Iterator[Verdict]]] = (
    week_rules.foods_excluded, week_rules.week_allergens_open, week_rules.vitamin_k,
    week_rules.sodium, week_rules.few_meals,
    week_rules.potassium_days, week_rules.worst_days, week_rules.soy, week_rules.fibre,
    week_rules.week_b12,
    week_rules.week_iodine,
)  # fmt: skip


def client_cautions(plan: Proposal) -> list[Verdict]:
    """Every caution a person and their targets raise."""
    return gravest_first([verdict for rule in CLIENT_RULES for verdict in rule(plan)])


def meal_cautions(meal: MealFacts) -> list[Verdict]:
    """Every caution of one meal for its client."""
    return gravest_first([verdict for rule in MEAL_RULES for verdict in rule(meal)])


def day_cautions(day: DayFacts) -> list[Verdict]:
    """The cautions that a whole day raises beside those of its meals."""
    return gravest_first([verdict for rule in DAY_RULES for verdict in rule(day)])


def week_cautions(week: WeekFacts) -> list[Verdict]:
    """The cautions of a week, each naming its days."""
    return gravest_first([verdict for rule in WEEK_RULES for verdict in rule(week)])
