"""A week planned: what matters most is settled first, then the rest is bettered and bounded by
whole days.

The first week, what somebody waits for, looks at no clock: the same question gives the same week.
The search is loaded when it is asked for, so that nothing else pays for it.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from importlib import import_module
from typing import TYPE_CHECKING

from dietetics.week.question.answer import Answer
from dietetics.week.question.question import Question

if TYPE_CHECKING:
    from dietetics.week.search.settling import Settled

Told = Callable[[float, float, float], bool]  # (seconds, points, bound) → go on?
# Of the search that ends the first week: nodes, steps of the simplex method, how near is enough.
STEPS, PIVOTS, NEAR_ENOUGH = 4, 5_000, 0.01


def settle(question: Question) -> Settled:
    """What matters most, settled, with the ways to spend each day that are left."""
    found: Settled = import_module("dietetics.week.search.settling").settle(question)
    return found


def first_week(question: Question, settled: Settled | None = None) -> Answer:
    """A good week at once; `settled` where that was done before."""
    search = import_module("dietetics.week.search.menu_search")
    effort = search.Effort(math.inf, STEPS, NEAR_ENOUGH, straight_down=1, pivots=PIVOTS)
    found: Answer = search.improve_by_menus(settled or settle(question), effort)
    return found


def improve(settled: Settled, seconds: float = 20.0, told: Told | None = None) -> Answer:
    """A settled week bettered and bounded within so many seconds, or until `told` says no. Never
    worse than it was, and the bound is proven whatever stops the search.
    """
    search = import_module("dietetics.week.search.menu_search")
    found: Answer = search.improve_by_menus(settled, search.Effort(seconds), told)
    return found
