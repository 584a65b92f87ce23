"""The one registry of cautions: which rules are asked of a client, a meal, a day and a week.

Facts go in, verdicts come out, the gravest first. A rule is marked with what it is asked of
(`asked.py`); the tests refuse a code without a case that raises it and one that does not.
"""

from __future__ import annotations

from dietetics.cautions import client_rules, food_rules, week_rules
from dietetics.cautions.asked import CLIENT, DAY, MEAL, RULES, WEEK
from dietetics.cautions.facts import DayFacts, MealFacts, WeekFacts
from dietetics.cautions.verdict import Verdict, gravest_first
from dietetics.targets.proposal import Proposal

# Imported so that their rules are marked.
_RULE_MODULES = (client_rules, food_rules, week_rules)


def client_cautions(plan: Proposal) -> list[Verdict]:
    """Every caution a person and their targets raise."""
    return gravest_first([verdict for rule in RULES[CLIENT] for verdict in rule(plan)])


def meal_cautions(meal: MealFacts) -> list[Verdict]:
    """Every caution of one meal for its client."""
    return gravest_first([verdict for rule in RULES[MEAL] for verdict in rule(meal)])


def day_cautions(day: DayFacts) -> list[Verdict]:
    """The cautions that a whole day raises beside those of its meals."""
    return gravest_first([verdict for rule in RULES[DAY] for verdict in rule(day)])


def week_cautions(week: WeekFacts) -> list[Verdict]:
    """The cautions of a week, each naming its days."""
    return gravest_first([verdict for rule in RULES[WEEK] for verdict in rule(week)])
