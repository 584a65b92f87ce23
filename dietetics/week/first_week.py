"""A first week while somebody waits: annealing alone for large weeks; a short annealing, bettered
by a few steps of the search by whole days, where the ways to spend a day are few.

Neither looks at a clock: the same question and seed give the same week. What it gains is measured
by the bench (docs/week.md).
"""

from __future__ import annotations

import math
from importlib import import_module

from dietetics.week.annealing import good_week
from dietetics.week.answer import Answer
from dietetics.week.improving import ways_of_a_day
from dietetics.week.question import Question

SHORT_MOVES = 5_000
# up to so many ways to spend a day → so many steps of the search by whole days
STEPS = ((100_000, 4), (2_000_000, 1))


def first_week(question: Question, seed: int = 1) -> Answer:
    """A good week at once. It carries a bound where the search by whole days was asked."""
    most = STEPS[-1][0]
    ways = ways_of_a_day(question, most)
    steps = next((steps for least, steps in STEPS if ways <= least), 0)
    if not steps:
        return good_week(question, seed)
    start = good_week(question, seed, SHORT_MOVES)
    search = import_module("dietetics.week.menu_search")
    found: Answer = search.improve_by_menus(question, start, math.inf, None, steps)
    return found
