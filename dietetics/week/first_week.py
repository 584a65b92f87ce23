"""A first week while somebody waits: a short annealing, bettered by a step of the search by whole
days; where there are many dishes, with those alone that a good week is likely made of.

Nothing here looks at a clock: the same question and seed give the same week. What it gains is
measured by the bench (docs/week.md).
"""

from __future__ import annotations

import math
from importlib import import_module

from dietetics.week.annealing import better_week, good_week, rough_week
from dietetics.week.answer import Answer, same_week
from dietetics.week.improving import FEW_WAYS, ROUGH_MOVES, ways_of_a_day
from dietetics.week.meal_order import by_turns
from dietetics.week.question import Question

SHORT_MOVES, LAST_MOVES = 1_000, 300
# Nodes with all dishes and with some, and steps of the simplex method, for a new week; for one that
# is bettered. The steps of the method tell where there are so many batches that a node takes long.
STEPS, STEPS_OF_SOME, PIVOTS = 60, 40, 10_000
FEW_STEPS, FEW_PIVOTS = 8, 2_500
LONGER_MOVES = 4_000  # where a week is bettered by moves alone
# to the bound: with all dishes, and with those alone that are looked at
NEAR_ENOUGH, NEAR_ENOUGH_OF_SOME = 0.01, 0.05


def first_week(question: Question, seed: int = 1) -> Answer:
    """A good week at once, its dishes by turns at lunch and dinner where that costs nothing. It
    carries a bound where all dishes were looked at.
    """
    return by_turns(_first_week(question, seed))


def _first_week(question: Question, seed: int) -> Answer:
    if ways_of_a_day(question, FEW_WAYS) <= FEW_WAYS:
        start = good_week(question, seed, SHORT_MOVES, 1)
        return _by_whole_days(question, start, STEPS, NEAR_ENOUGH)
    search = import_module("dietetics.week.likely_dishes")
    rough = rough_week(question, seed, ROUGH_MOVES)
    likely = search.likely_dishes(question, rough, FEW_WAYS)
    some = question.with_dishes(likely.dishes)
    start = better_week(some, same_week(some, likely.week), seed, LAST_MOVES)
    fewer = _by_whole_days(some, start, STEPS_OF_SOME, NEAR_ENOUGH_OF_SOME)
    return better_week(question, same_week(question, fewer), seed, LAST_MOVES)


def bettered_week(question: Question, there: Answer, seed: int = 1) -> Answer:
    """A week that is there (of this question, or of one that asked for more) bettered at once;
    never a worse one.
    """
    start = better_week(question, there, seed, LAST_MOVES)
    if ways_of_a_day(question, FEW_WAYS) > FEW_WAYS:
        return better_week(question, start, seed, LONGER_MOVES)
    search = import_module("dietetics.week.menu_search")
    effort = search.Effort(math.inf, FEW_STEPS, straight_down=1, pivots=FEW_PIVOTS)
    found: Answer = search.improve_by_menus(question, start, effort)
    return found


def _by_whole_days(question: Question, start: Answer, steps: int, near_enough: float) -> Answer:
    search = import_module("dietetics.week.menu_search")
    effort = search.Effort(math.inf, steps, near_enough, 1, PIVOTS)
    found: Answer = search.improve_by_menus(question, start, effort)
    return found
