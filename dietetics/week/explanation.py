"""A week explained: why this dish stands here, what binds, what could not be met, and the cheapest
ways out.
"""

from __future__ import annotations

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace

from dietetics.nutrients import nutrient
from dietetics.targets.windows import Window
from dietetics.week.annealing import better_week
from dietetics.week.answer import Answer, answer_of
from dietetics.week.daynames import DAY_NAMES
from dietetics.week.question import EMPTY, MOST_EVENINGS, BatchFacts, Offer, Question, Slot

WAY_MOVES, MOST_SPARE = 4_000, 4
WORTH = 1.0  # points: less is no reason worth naming
PART_WORDS = {"days": "daily targets", "cells": "meal, portion and preference",
    "pots": "cooking and leftovers",
              "variety": "variety", "evenings": "an evening with too much cooking"}  # fmt: skip

Spare = tuple[
    Offer, tuple[BatchFacts, ...]
]  # a dish that is not offered, and the pots it takes from


@dataclass(frozen=True)
class Other:
    """Another dish for a cell: how many points dearer the week would be with it, and where from."""

    dish: str
    scale: float
    points: float
    because: str


@dataclass(frozen=True)
class Missed:
    """A window that a day misses, with the amount and by how much, or something the school asks."""

    day: int
    text: str
    points: float
    importance: str


@dataclass(frozen=True)
class WayOut:
    """A change of what is asked, and by how many points the week then gets better. `kind` and
    `value` say which change.
    """

    text: str
    saves: float
    kind: str
    value: str


def others(answer: Answer, slot: Slot, most: int = 3) -> list[Other]:
    """What else could stand in a cell, the least dear first: each dish at its best portion, the
    rest of the week unchanged.
    """
    question, now = answer.question, answer.chosen[slot]
    best: dict[int, Other] = {}
    for choice in question.choices(slot):
        if choice.dish < 0 or choice.dish == now.dish or _too_often(answer, slot, choice.dish):
            continue
        other = answer_of(question, {**answer.chosen, slot: choice})
        extra = other.points - answer.points
        if choice.dish not in best or extra < best[choice.dish].points:
            parts = {key: other.parts[key] - answer.parts[key] for key in other.parts}
            worst = max(parts, key=lambda key: parts[key])
            because = PART_WORDS[worst] if parts[worst] >= WORTH else "no large difference"
            best[choice.dish] = Other(
                question.offers[choice.dish].key, choice.scale, extra, because
            )
    return sorted(best.values(), key=lambda one: one.points)[:most]


def _too_often(answer: Answer, slot: Slot, dish: int) -> bool:
    """True when a dish may not come once more, at that meal."""
    offer = answer.question.offers[dish]
    days = [s[0] for s, c in answer.chosen.items() if c.dish == dish and s != slot]
    return len(days) >= offer.most_uses or any(abs(day - slot[0]) < offer.apart for day in days)


def day_sums(answer: Answer) -> dict[int, dict[str, float]]:
    """What every day adds up to, by the question's keys."""
    found: dict[int, list[tuple[float, ...]]] = {}
    for slot, choice in answer.chosen.items():
        found.setdefault(slot[0], []).append(choice.vector)
    return {
        day: dict(zip(answer.question.keys, map(sum, zip(*rows, strict=True)), strict=True))
        for day, rows in sorted(found.items())
    }


def _amount(window: Window, sums: dict[str, float]) -> float:
    if window.key == "kcal_per_g":
        return sums["energy_kcal"] / sums["grams"] if sums["grams"] else 0.0
    return sums[window.key]


def missed(answer: Answer, least_points: float = 0.5) -> list[Missed]:
    """What could not be met, the dearest first."""
    question, found = answer.question, []
    for day, sums in day_sums(answer).items():
        for window in question.windows:
            percent = question.missed_percent(window, sums)
            single = replace(question, windows=(window,), asks=())
            points = single.day_cost({**sums, "grams": sums["grams"]}) if percent else 0.0
            if points >= least_points:
                one, amount = nutrient(window.key), _amount(window, sums)
                words = f"{one.name} {one.text(amount)}, target {window.text()}"
                found.append(Missed(day, words, points, window.importance))
        for ask in question.asks:
            held = sums[f"ask:{ask.key}"]
            if held < ask.low - 0.5:
                points = replace(question, windows=(), asks=(ask,)).day_cost(sums)
                found.append(
                    Missed(
                        day,
                        f"{ask.name} {held:.0f} g, target at least {ask.low:g} g",
                        points,
                        ask.importance,
                    )
                )
    for slot in question.slots:
        if not answer.dish(slot) and slot not in question.locks:
            found.append(
                Missed(slot[0], f"no dish fits {question.meals[slot[1]].name}", EMPTY, "must")
            )
    return sorted(found, key=lambda one: -one.points)


def evening_name(day: int) -> str:
    """The name of a cooking evening."""
    return DAY_NAMES[day] if 0 <= day < len(DAY_NAMES) else "the day before the week"


def binding(answer: Answer) -> list[str]:
    """What the week stands against: windows at their line, evenings that are full, dishes as often
    as they may come.
    """
    question, found = answer.question, []
    days = day_sums(answer)
    for window in question.windows:
        if window.importance == "watch":
            continue
        amounts = [_amount(window, sums) for sums in days.values()]
        for line, word in ((window.low, "low"), (window.high, "high")):
            at = sum(line is not None and abs(a - line) <= 0.03 * abs(line) for a in amounts)
            if at >= 2:
                found.append(f"{nutrient(window.key).name} is at its {word} limit on {at} days")
    for day in question.rules.cooking_days:
        pots = sum(1 for (_, d), n in answer.cooked.items() if d == day and n)
        if pots >= question.rules.most_batches:
            found.append(f"the cooking evening of {evening_name(day)} is full: {pots} batches")
    new = question.new_dishes & {choice.dish for choice in answer.chosen.values()}
    if new and question.rules.most_new is not None and len(new) >= question.rules.most_new:
        found.append(f"new dishes: {len(new)}; at most {question.rules.most_new} allowed")
    for index, offer in enumerate(question.offers):
        uses = sum(c.dish == index for c in answer.chosen.values())
        if uses and uses >= offer.most_uses:
            found.append(f"{offer.name} is used as often as allowed: {uses} times")
    return found


def ways_out(answer: Answer, spare: Sequence[Spare] = (), seed: int = 1) -> list[WayOut]:
    """What would make the week better, the most useful first: another cooking evening, another pot,
    another dish out of `spare`, a dish oftener, a window only watched (never one that a clinician
    set).

    Each starts from the week as it stands, bettered first, so a saving is what was found and no
    proof.
    """
    base = better_week(answer.question, answer, seed, WAY_MOVES)
    found = []
    for text, kind, value, changed in (*_relaxed(answer), *_with_another(answer, spare)):
        better = better_week(changed, base, seed, WAY_MOVES)
        if base.points - better.points >= WORTH:
            found.append(WayOut(text, base.points - better.points, kind, value))
    return sorted(found, key=lambda way: -way.saves)


def _relaxed(answer: Answer) -> Iterator[tuple[str, str, str, Question]]:
    question, rules = answer.question, answer.question.rules
    for day in range(-1, len(question.kinds)):
        if (
            day not in rules.cooking_days
            and question.pots
            and len(rules.cooking_days) < MOST_EVENINGS
        ):
            new = replace(rules, cooking_days=tuple(sorted((*rules.cooking_days, day))))
            yield (
                f"cook on the evening of {evening_name(day)} too",
                "evening",
                str(day),
                replace(question, rules=new),
            )
    if question.pots:
        new = replace(rules, most_batches=rules.most_batches + 1)
        yield (
            "one more batch per cooking evening",
            "pots",
            str(rules.most_batches + 1),
            replace(question, rules=new),
        )
    for window in _worst_windows(answer):
        rest = tuple(w for w in question.windows if w.key != window.key)
        name = nutrient(window.key).name.lower()
        yield (
            f"track {name} without requiring it",
            "watch",
            window.key,
            replace(question, windows=(*rest, replace(window, importance="watch"))),
        )
    for index, offer in enumerate(question.offers):
        if (
            sum(c.dish == index for c in answer.chosen.values())
            >= offer.most_uses
            < len(question.kinds)
        ):
            offers = list(question.offers)
            offers[index] = replace(offer, most_uses=offer.most_uses + 1)
            yield (
                f"use {offer.name} once more a week",
                "uses",
                offer.key,
                replace(question, offers=tuple(offers)),
            )


def _with_another(
    answer: Answer, spare: Sequence[Spare]
) -> Iterator[tuple[str, str, str, Question]]:
    """Each spare dish offered too, the few whose serving is nearest to what a meal wants."""
    question = answer.question
    energy = question.usual_energy

    def far(offer: Offer) -> float:
        amount = offer.amounts.get("energy_kcal")
        wanted = [meal.share * energy for meal in question.meals if meal.name in offer.meals]
        return (
            math.inf
            if amount is None
            else min((abs(amount - one) for one in wanted), default=math.inf)
        )

    for offer, facts in sorted(spare, key=lambda one: (far(one[0]), one[0].key))[:MOST_SPARE]:
        pots = (*question.pots, *(pot for pot in facts if pot.key not in question.pot_index))
        text = (
            f"also allow {offer.name}, for "
            f"{' and '.join(m.name.lower() for m in question.meals if m.name in offer.meals)}"
        )
        yield (
            text,
            "dish",
            offer.key,
            replace(question, offers=(*question.offers, offer), pots=pots),
        )


def _worst_windows(answer: Answer, most: int = 2) -> list[Window]:
    question, points = answer.question, {}
    for window in question.windows:
        single = replace(question, windows=(window,), asks=())
        points[window.key] = sum(single.day_cost(sums) for sums in day_sums(answer).values())
    open_ = (
        w
        for w in question.windows
        if points[w.key] >= WORTH and w.importance != "watch" and w.key not in question.fixed
    )
    worst = sorted(open_, key=lambda w: -points[w.key])
    return worst[:most]
