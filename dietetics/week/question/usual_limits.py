"""How often a dish may come when nobody said so: few favourites, repeated, and as often as it must
where there are few, so that no meal stays empty for want of a rule that nobody set.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import replace

from dietetics.week.question.question import Offer, Question, Slot

USUAL_USES = 4  # in a week: few favourites, repeated; common practice
TWICE_A_DAY = 0  # days apart


def with_usual_limits(question: Question, unsaid: Mapping[str, Sequence[str]]) -> Question:
    """The question with limits for the dishes that nothing was said of; `unsaid` names, for each,
    "most_uses" and "apart" or one of them.

    A dish may come four times, or as often as its share of the meals that it can fill where that is
    more: every day for the only breakfast, and in turn where there are two. Twice a day only where
    a day has a meal that no other dish can take.
    """
    loose = replace(question, offers=tuple(_loose(one, unsaid) for one in question.offers))
    there = {
        slot: {choice.dish for choice in loose.choices(slot)} - {-1}
        for slot in question.slots
        if slot not in question.locks
    }
    needed: dict[int, float] = {}
    for dishes in there.values():
        for dish in dishes:
            needed[dish] = needed.get(dish, 0.0) + 1 / len(dishes)
    twice = _needed_twice_a_day(there)
    offers = []
    for index, offer in enumerate(question.offers):
        open_ = unsaid.get(offer.key, ())
        need = math.ceil(needed.get(index, 0.0) - 1e-9)
        often = max(USUAL_USES, need) if "most_uses" in open_ else offer.most_uses
        apart = TWICE_A_DAY if "apart" in open_ and index in twice else offer.apart
        offers.append(replace(offer, most_uses=often, apart=apart))
    return replace(question, offers=tuple(offers))


def _loose(offer: Offer, unsaid: Mapping[str, Sequence[str]]) -> Offer:
    """A dish as if it might come at any time, where nothing was said."""
    return replace(offer, apart=TWICE_A_DAY) if offer.key in unsaid else offer


def _needed_twice_a_day(there: Mapping[Slot, set[int]]) -> set[int]:
    """The dishes of meals that stay empty on some day when every dish comes at most once."""
    found: set[int] = set()
    for day in {slot[0] for slot in there}:
        slots = [slot for slot in there if slot[0] == day]
        for slot in _left_over(slots, there):
            found |= there[slot]
    return found


def _left_over(slots: Sequence[Slot], there: Mapping[Slot, set[int]]) -> list[Slot]:
    """The meals of a day that get no dish of their own, with as many served as can be (augmenting
    paths).
    """
    taken: dict[int, Slot] = {}

    def served(slot: Slot, seen: set[int]) -> bool:
        for dish in sorted(there[slot] - seen):
            seen.add(dish)
            if dish not in taken or served(taken[dish], seen):
                taken[dish] = slot
                return True
        return False

    return [slot for slot in slots if not served(slot, set())]
