"""A chosen week: what stands in every cell, what is cooked, what it costs, and how far from the
best it may be.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field, replace

from dietetics.week.question.cooking_evenings import cookings_of
from dietetics.week.question.question import (
    EXTRA_POT,
    VARIETY,
    Choice,
    Question,
    Slot,
    place_among,
)

PROVEN = 1e-3  # a gap, as a share of the points, that counts as none


@dataclass(frozen=True)
class Answer:
    """A week found. `points` is its cost, `bound` what no week can cost less than (None while
    nothing is proven); `cooked` gives pots by (pot key, evening); `missing` the batches that are
    eaten and not there.
    """

    question: Question
    chosen: Mapping[Slot, Choice]
    cooked: Mapping[tuple[str, int], float]
    points: float
    bound: float | None = None
    parts: Mapping[str, float] = field(default_factory=dict)
    missing: float = 0.0

    @property
    def gap(self) -> float | None:
        """How far above the best possible it may be, as a share of its own cost; None while nothing
        is proven.
        """
        if self.bound is None:
            return None
        return max(0.0, self.points - self.bound) / self.points if self.points > 1e-9 else 0.0

    def lacking(self) -> tuple[float, int]:
        """What must not be where it can be helped, the worst first: batches that are eaten and not
        cooked, meals without a dish.
        """
        free = (slot for slot in self.question.slots if slot not in self.question.locks)
        return round(self.missing, 6), sum(self.chosen[slot].dish < 0 for slot in free)

    def dish(self, slot: Slot) -> str:
        """The key of what stands in a cell, "" for nothing."""
        choice = self.chosen[slot]
        return self.question.offers[choice.dish].key if choice.dish >= 0 else ""


def same_week(question: Question, there: Answer) -> Answer:
    """A week of another question, with the same dishes and portions, as a week of this one. A cell
    that may not hold its dish is empty.
    """
    chosen = {}
    for slot in question.slots:
        options, wanted = question.choices(slot), there.chosen.get(slot)
        place = 0
        if wanted is not None:
            dish = question.by_key.get(there.dish(slot), -1)
            place = max(0, place_among(options, replace(wanted, dish=dish)))
        chosen[slot] = options[place]
    return answer_of(question, chosen)


def variety_cost(question: Question, mains: int) -> float:
    """Points for having another number of different main dishes than is wanted."""
    wanted = question.rules.different
    return 0.0 if wanted is None else VARIETY * abs(mains - wanted)


def answer_of(question: Question, chosen: Mapping[Slot, Choice]) -> Answer:
    """The answer for chosen cells, with the cheapest cooking for them."""
    uses: dict[int, list[tuple[Slot, float]]] = {}
    days: dict[int, list[tuple[float, ...]]] = {}
    cells = 0.0
    for slot in question.slots:
        choice = chosen[slot]
        cells += choice.cost
        days.setdefault(slot[0], []).append(choice.vector)
        for pot, share in choice.uses:
            uses.setdefault(pot, []).append((slot, share))
    day_points = sum(
        question.day_cost(dict(zip(question.keys, map(sum, zip(*rows, strict=True)), strict=True)))
        for rows in days.values()
    )
    pots, cooked = 0.0, {}
    cookings = cookings_of(question, {pot: tuple(sorted(rows)) for pot, rows in uses.items()})
    for facts, cooking in zip(question.pots, cookings, strict=True):
        pots += cooking.points
        cooked.update(
            {
                (facts.key, d): n
                for d, n in zip(question.rules.cooking_days, cooking.counts, strict=True)
                if n
            }
        )
    on = slots_of_dishes(chosen)
    runs = sum(
        question.run_points([day for day, _ in on.get(dish, [])], question.offers[dish].before)
        for dish in question.main_dishes
    )
    runs += question.repeat_points(on)
    mains = {c.dish for slot, c in chosen.items() if c.dish >= 0 and question.meals[slot[1]].main}
    servings = {dish: len(days) for dish, days in on.items() if dish >= 0}
    wished = sum(question.wish_points(n, servings.get(n, 0)) for n in question.wished)
    variety = variety_cost(question, len(mains)) + runs + question.new_points(on)
    variety += question.plant_kind_points(servings) + wished
    parts = {
        "days": day_points,
        "cells": cells,
        "pots": pots,
        "variety": variety,
        "evenings": extra_pots(question, cooked) * EXTRA_POT,
    }
    missing = sum(cooking.missing for cooking in cookings)
    points = sum(parts.values())
    return Answer(question, dict(chosen), cooked, points, None, parts, missing)


def slots_of_dishes(chosen: Mapping[Slot, Choice]) -> dict[int, list[Slot]]:
    """Where each dish stands, -1 for no dish."""
    found: dict[int, list[Slot]] = {}
    for slot, choice in chosen.items():
        found.setdefault(choice.dish, []).append(slot)
    return found


def extra_pots(question: Question, cooked: Mapping[tuple[str, int], float]) -> int:
    """How many batches are cooked above what an evening takes."""
    by_day = {
        day: sum(1 for (_, d), n in cooked.items() if d == day and n)
        for day in question.rules.cooking_days
    }
    return sum(max(0, n - question.rules.most_batches) for n in by_day.values())
