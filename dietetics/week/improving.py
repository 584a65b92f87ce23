"""A week improved and bounded within some seconds: by whole days where all ways to spend a day can
be looked at, cell by cell where they are too many.
"""

from __future__ import annotations

import math
import time
from collections.abc import Callable, Sequence
from importlib import import_module

from dietetics.week.annealing import rough_week
from dietetics.week.answer import Answer, same_week
from dietetics.week.meal_order import by_turns
from dietetics.week.question import Question

Told = Callable[[float, float, float], bool]  # (seconds, points, bound) → go on?
MOST_WAYS = 60_000_000  # of one day: about ten seconds of looking
FEW_WAYS = 120_000  # so many are looked at at once
# A share of the time goes to weeks of likely dishes, time and again others: those that rough weeks
# lead to, with which there are at most so many ways. Half of it where whole days are too many; a
# fifth where they are not few, as the first week may have been unlucky in its dishes.
LIKELY_SHARE, LIKELY_WAYS = 0.5, (150_000, 150_000, 300_000, 1_000_000)
EARLY_SHARE, EARLY_WAYS = 0.2, (150_000, 300_000)
ROUGH_MOVES = 1_000


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
    """The start improved and bounded within `seconds`, or until `told` says no, its dishes by turns
    at lunch and dinner where that costs nothing. Never worse than the start, and the bound is
    proven whatever stops the search.
    """
    return by_turns(_improved(question, start, seconds, told))


def _improved(question: Question, start: Answer, seconds: float, told: Told | None) -> Answer:
    """The search is loaded here, so that nothing else pays for it."""
    began = time.perf_counter()
    answer, ways = start, ways_of_a_day(question)
    if ways > MOST_WAYS:
        answer = _with_likely_dishes(question, start, LIKELY_SHARE * seconds, LIKELY_WAYS, told)
    elif ways > FEW_WAYS:
        answer = _with_likely_dishes(question, start, EARLY_SHARE * seconds, EARLY_WAYS, told)
    left = began + seconds - time.perf_counter()
    if told is not None and not told(seconds - left, answer.points, -math.inf):
        return answer
    later = _later(told, seconds - left)
    if ways > MOST_WAYS:
        cells = import_module("dietetics.week.integer_program")
        found: Answer = cells.improve_by_cells(question, answer, left, later)
    else:
        search = import_module("dietetics.week.menu_search")
        found = search.improve_by_menus(question, answer, search.Effort(left), later)
    return found


def _with_likely_dishes(
    question: Question,
    start: Answer,
    seconds: float,
    most_ways: Sequence[int],
    told: Told | None,
) -> Answer:
    """The start improved with the dishes alone that a better week is likely made of, and its own:
    one rough week after another tells which, each time with at most so many ways to spend a day.
    Nothing is proven.
    """
    search = import_module("dietetics.week.menu_search")
    likely_dishes = import_module("dietetics.week.likely_dishes").likely_dishes
    best, began = start, time.perf_counter()
    for number, ways in enumerate(most_ways):
        passed = time.perf_counter() - began
        stopped = told is not None and not told(passed, best.points, -math.inf)
        if stopped or passed >= seconds:
            break
        rough = rough_week(question, start.seed + 1 + number, ROUGH_MOVES)
        likely = likely_dishes(question, rough, ways).dishes
        fewer = question.with_dishes(likely | {best.dish(slot) for slot in best.chosen})
        passed = time.perf_counter() - began
        effort = search.Effort(max(0.0, seconds - passed) / (len(most_ways) - number))
        heard = _later(told, passed, proven=False)
        found = search.improve_by_menus(fewer, same_week(fewer, best), effort, heard)
        best = min(same_week(question, found), best, key=lambda one: one.points)
    return best


def _later(told: Told | None, passed: float, proven: bool = True) -> Told | None:
    """What is told of a part of a search, as told of the whole: so much time has passed before."""
    if told is None:
        return None
    return lambda at, points, bound: told(passed + at, points, bound if proven else -math.inf)
