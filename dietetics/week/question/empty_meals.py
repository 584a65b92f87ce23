"""Why a meal of a week is empty: what keeps each dish from it, in words."""

from __future__ import annotations

from dietetics.week.question.answer import Answer
from dietetics.week.question.question import Offer, Question, Slot

MOST_NAMED = 3
APART_WORDS = {1: "at most once a day", 2: "not on two days running"}


def empty_because(answer: Answer, slot: Slot) -> str:
    """What is missing at an empty meal, as a sentence without its full stop."""
    question = answer.question
    meal = question.meals[slot[1]].name.lower()
    suiting = [o for o in question.offers if question.meals[slot[1]].name in o.meals]
    if not suiting:
        return f"no dish is for {meal}"
    away = question.kinds[slot[0]] == "travel"
    portable = [offer for offer in suiting if offer.travels or not away]
    if not portable:
        return f"no dish for {meal} can be taken along"
    reasons = list(dict.fromkeys(_against(answer, slot, offer) for offer in portable))
    if len(reasons) > MOST_NAMED:
        return f"no dish for {meal} is left: {'; '.join(reasons[:MOST_NAMED])}; and others"
    return f"no dish for {meal} is left: {'; '.join(reasons)}"


def _against(answer: Answer, slot: Slot, offer: Offer) -> str:
    """What keeps one dish from a meal."""
    question = answer.question
    late = [
        question.pots[question.pot_index[key]].name
        for key in dict.fromkeys([*offer.own, *offer.table])
        if not question.covered(question.pot_index[key], slot)
    ]
    if late:
        return f"{offer.name} needs {late[0]}, and no cooking evening supplies it in time"
    if offer.rests(slot[0]):
        return f"{offer.name} was eaten too shortly before, in the week before"
    days = _days(answer, offer)
    if len(days) >= offer.most_uses:
        times = "once" if offer.most_uses == 1 else f"{offer.most_uses} times"
        return f"{offer.name} is used as often as allowed ({times} a week)"
    if any(abs(day - slot[0]) < offer.apart for day in days):
        words = APART_WORDS.get(offer.apart, f"at least {offer.apart} days apart")
        return f"{offer.name} may come {words}"
    return f"{offer.name} would need a larger pot than an evening can cook"


def _days(answer: Answer, offer: Offer) -> list[int]:
    index = answer.question.by_key[offer.key]
    return [slot[0] for slot, choice in answer.chosen.items() if choice.dish == index]


def too_few_mains(question: Question) -> tuple[list[str], int, int] | None:
    """The main meals with how many dishes there are for them and how many different ones are
    wanted; None where there are enough. Free choices are none of them.
    """
    names = [meal.name for meal in question.meals if meal.main]
    free = sum(o.least_uses > 0 for o in question.offers if o.meals & set(names))
    there = len([o for o in question.offers if o.meals & set(names)]) - free
    wanted = (question.rules.different or 0) - free
    return (names, there, wanted) if names and there < wanted else None


def meals_with_few(question: Question, fewer_than: int = 2) -> list[tuple[str, int]]:
    """The meals that fewer dishes are for, with how many there are, free choices apart."""
    counts = [
        (
            meal.name,
            sum(meal.name in offer.meals and not offer.least_uses for offer in question.offers),
        )
        for meal in question.meals
    ]
    return [(name, count) for name, count in counts if count < fewer_than]
