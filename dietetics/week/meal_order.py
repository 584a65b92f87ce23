"""Dishes of a day exchanged between its meals, so that a meal seldom has the dish of the day
before: three lunches running are noticed where the same dishes, at lunch and dinner by turns, are
not.

Only exchanges that cost nothing are made, so a week stays as good as it was, and its bound holds.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping
from dataclasses import replace
from itertools import combinations

from dietetics.week.answer import Answer, answer_of
from dietetics.week.question import Choice, Question, Slot, place_among

NOTHING = 1e-6  # points

Chosen = Mapping[Slot, Choice]


def by_turns(answer: Answer) -> Answer:
    """The week with dishes of a day exchanged while fewer meals then have the dish of the day
    before, and no point is lost. No rule is about which meal of a day has which of its dishes, save
    where a dish may stand at all.
    """
    best, question = answer, answer.question
    while True:
        worth = [
            chosen
            for chosen in _exchanged(question, best.chosen)
            if as_the_day_before(chosen) < as_the_day_before(best.chosen)
        ]
        for chosen in sorted(worth, key=as_the_day_before):
            found = answer_of(question, chosen, answer.seed, answer.moves)
            if found.points <= answer.points + NOTHING:
                best = found
                break
        else:
            return answer if best is answer else replace(best, bound=answer.bound)


def as_the_day_before(chosen: Chosen) -> int:
    """At how many meals the dish is that of the same meal of the day before."""
    return sum(
        choice.dish >= 0 and (day - 1, meal) in chosen and chosen[day - 1, meal].dish == choice.dish
        for (day, meal), choice in chosen.items()
    )


def _exchanged(question: Question, chosen: Chosen) -> Iterator[dict[Slot, Choice]]:
    """Every week in which two meals of one day have each other's dish and portion; a locked one
    takes nothing but its own.
    """
    for one, other in combinations(question.slots, 2):
        if one[0] != other[0] or chosen[one].dish == chosen[other].dish:
            continue
        first, second = question.choices(one), question.choices(other)
        here, there = place_among(first, chosen[other]), place_among(second, chosen[one])
        if here >= 0 and there >= 0:
            yield {**chosen, one: first[here], other: second[there]}
