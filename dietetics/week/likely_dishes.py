"""The dishes that a good week is likely made of, where there are many: those that the mix of days
near to a week that is there holds most of. The largest day of each in that mix is a week to begin
with.
"""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

from dietetics.week.answer import Answer, answer_of
from dietetics.week.master_program import Master
from dietetics.week.near_menus import NearMenus
from dietetics.week.question import Choice, Question, Slot
from dietetics.week.week_rows import Model, rows_across_days

ROUNDS = 10  # of looking around
HARDLY = 1e-6  # of a meal


@dataclass(frozen=True)
class Likely:
    """The keys of the dishes, and a week of the largest days of the mix: neither polished nor rid
    of what breaks a rule.
    """

    dishes: frozenset[str]
    week: Answer


def likely_dishes(question: Question, start: Answer, most_ways: int) -> Likely:
    """The likely dishes: for each meal the one it holds most of, those of locked cells, and others
    while there are at most so many ways to spend a day with them.
    """
    model = rows_across_days(question)
    shares, week = _mix_of_days(question, model, start)
    best: dict[Slot, tuple[float, int]] = {}
    whole: dict[int, float] = {}
    for (slot, dish), share in sorted(shares.items()):
        best[slot] = max(best.get(slot, (0.0, -1)), (share, dish))
        whole[dish] = whole.get(dish, 0.0) + share
    kept = {dish for _, dish in best.values()}
    kept |= {question.by_key[key] for key, _ in question.locks.values() if key}
    counts = {slot: _portions(model, slot, {*whole, *kept}) for slot in model.choices}
    for dish in sorted(whole, key=lambda one: (-whole[one], one)):
        if _ways(counts, kept | {dish}) <= most_ways:
            kept.add(dish)
    return Likely(frozenset(question.offers[dish].key for dish in kept), week)


def _mix_of_days(
    question: Question, model: Model, start: Answer
) -> tuple[dict[tuple[Slot, int], float], Answer]:
    """How much of each dish the best mix of days holds at each meal, and a week of its largest
    days.
    """
    master = Master(model, sorted({slot[0] for slot in question.slots}))
    relaxed = NearMenus(question, model, master, start).grow(ROUNDS)
    found: dict[tuple[Slot, int], float] = {}
    if relaxed is None or math.isinf(relaxed.points):
        for slot, choice in start.chosen.items():
            if choice.dish >= 0:
                found[slot, choice.dish] = 1.0
        return found, start
    place = {variable: where for where, variable in model.cells.items()}
    chosen: dict[Slot, Choice] = {}
    for cells in master.largest(relaxed).values():
        for slot, n in (place[variable] for variable in cells):
            chosen[slot] = model.choices[slot][n]
    for (_, cells), share in zip(master.columns, relaxed.shares, strict=True):
        if share > HARDLY:
            for variable in cells:
                slot, n = place[variable]
                dish = model.choices[slot][n].dish
                if dish >= 0:
                    found[slot, dish] = found.get((slot, dish), 0.0) + float(share)
    return found, answer_of(question, {**start.chosen, **chosen}, start.seed, start.moves)


def _portions(model: Model, slot: Slot, dishes: set[int]) -> dict[int, int]:
    """In how many portions a cell takes each of these dishes."""
    found: dict[int, int] = {}
    for choice in model.choices[slot]:
        if choice.dish in dishes:
            found[choice.dish] = found.get(choice.dish, 0) + 1
    return found


def _ways(counts: Mapping[Slot, Mapping[int, int]], dishes: set[int]) -> int:
    """How many ways there are to spend the fullest day with these dishes."""
    days: dict[int, int] = {}
    for (day, _), portions in counts.items():
        ways = 1 + sum(portions.get(dish, 0) for dish in dishes)
        days[day] = days.get(day, 1) * ways
    return max(days.values())
