"""A week improved and bounded within some seconds: by whole days where all ways to spend a day can
be looked at, cell by cell where they are too many.
"""

from __future__ import annotations

from collections.abc import Callable
from importlib import import_module

from dietetics.week.answer import Answer
from dietetics.week.question import Question

Told = Callable[[float, float, float], bool]  # (seconds, points, bound) → go on?
MOST_WAYS = 60_000_000  # of one day: about ten seconds of looking


def ways_of_a_day(question: Question, most: int = MOST_WAYS) -> int:
    """How many ways there are to fill the fullest day, `most` + 1 for any number above."""
    found: dict[int, int] = {}
    for slot in question.slots:
        ways = found.get(slot[0], 1) * len(question.choices(slot))
        found[slot[0]] = min(ways, most + 1)
    return max(found.values(), default=0)


def by_whole_days(question: Question) -> bool:
    """True where the ways to spend a day are few enough to look at them all."""
    return ways_of_a_day(question) <= MOST_WAYS


def improve(
    question: Question, start: Answer, seconds: float = 20.0, told: Told | None = None
) -> Answer:
    """The start improved and bounded within `seconds`, or until `told` says no. Never worse than
    the start, and the bound is proven whatever stops the search.

    The search is loaded here, so that nothing else pays for it.
    """
    if by_whole_days(question):
        found = import_module("dietetics.week.menu_search").improve_by_menus
    else:
        found = import_module("dietetics.week.integer_program").improve_by_cells
    answer: Answer = found(question, start, seconds, told)
    return answer
