"""A returned week checked again against every rule, with nothing taken from the search that made
it.

Dishes are added up one by one, pots are eaten serving by serving, and the cost is counted anew.
"""

from __future__ import annotations

import logging
from dataclasses import dataclass

from dietetics.errors import BrokenAnswerError
from dietetics.week.day_prices import ASK, PER_CENT
from dietetics.week.daynames import DAY_NAMES
from dietetics.week.plant_kinds import KIND, TOO_OFTEN
from dietetics.week.question.answer import Answer
from dietetics.week.question.question import (
    EMPTY,
    EXTRA_POT,
    FIRE,
    FRESH,
    HEAVY_MEAL,
    LIKING,
    MEAL_PER_CENT,
    NEW,
    PORTION,
    POT,
    RUN,
    VARIETY,
    WASTE,
    WISH,
    BatchFacts,
    Offer,
    Question,
    Slot,
)

LOG = logging.getLogger(__name__)
POINTS_APART = 1e-4  # of the cost, or of a point: more is no rounding


@dataclass
class _There:
    start: Slot
    end: int
    left: float


def broken_rules(answer: Answer) -> list[str]:
    """Every rule that a week breaks, in words; nothing for a week that keeps them all. Locked cells
    are forgiven.
    """
    question = answer.question
    placed = _placed(answer)
    return [
        *_cells_broken(answer, placed),
        *_dishes_broken(question, placed),
        *_pots_broken(answer, placed),
    ]


def checked_week(answer: Answer) -> Answer:
    """The week, checked again rule by rule and point by point, before anybody sees it.

    Raises `BrokenAnswerError` for one that breaks its own rules, and logs it.
    """
    broken = broken_rules(answer)
    counted = points_of(answer)
    # what a locked cell, or what stands beside a dish, lacks is forgiven here and priced there:
    # where something is lacking the points cannot be compared
    held = answer.question.locks or (answer.question.beside and answer.missing)
    if not held and abs(counted - answer.points) > POINTS_APART * max(1.0, abs(counted)):
        broken.append(f"it costs {counted:.3f} points, not {answer.points:.3f}")
    if broken:
        LOG.error("a week breaks its own rules: %s", "; ".join(broken))
        raise BrokenAnswerError("answer-broken", rules="; ".join(broken))
    return answer


def _placed(answer: Answer) -> dict[Slot, tuple[Offer, float]]:
    offers = answer.question.offers
    return {slot: (offers[c.dish], c.scale) for slot, c in answer.chosen.items() if c.dish >= 0}


def _cells_broken(answer: Answer, placed: dict[Slot, tuple[Offer, float]]) -> list[str]:
    question, found = answer.question, []
    if set(answer.chosen) != set(question.slots):
        found.append("a meal is missing or one too many")
    for slot, (key, scale) in question.locks.items():
        if slot in answer.chosen and (
            answer.dish(slot),
            answer.chosen[slot].scale if key else scale,
        ) != (key, scale):
            found.append(f"the locked cell {slot} was changed")
    for slot, (offer, scale) in placed.items():
        if slot in question.locks:
            continue
        if question.meals[slot[1]].name not in offer.meals:
            found.append(f"{offer.name} does not suit {question.meals[slot[1]].name}")
        if question.kinds[slot[0]] == "travel" and not offer.travels:
            found.append(f"{offer.name} does not travel")
        if any(slot[0] + abs(day) < offer.apart for day in offer.before):
            found.append(f"{offer.name} comes too soon after the week before")
        if scale not in question.rules.scales:
            found.append(f"{offer.name} at {scale:g} is not a possible portion")
    return found


def _dishes_broken(question: Question, placed: dict[Slot, tuple[Offer, float]]) -> list[str]:
    found = []
    for offer in question.offers:
        days = sorted(slot[0] for slot, (other, _) in placed.items() if other.key == offer.key)
        locked = sorted(slot[0] for slot, (key, _) in question.locks.items() if key == offer.key)
        if len(days) > max(offer.most_uses, len(locked)):
            found.append(f"{offer.name} comes {len(days)} times")
        for day in days:
            near = [d for d in days if day <= d < day + offer.apart]
            forgiven = max(1, len([d for d in locked if day <= d < day + offer.apart]))
            if offer.apart and len(near) > forgiven:
                found.append(f"{offer.name} comes too close on {DAY_NAMES[day]}")
    return found


def _pots_broken(answer: Answer, placed: dict[Slot, tuple[Offer, float]]) -> list[str]:
    """What is eaten of each pot and not there, beyond what locked cells alone lack: those are kept
    whatever they cost.
    """
    question, found = answer.question, []
    locked = {slot: pair for slot, pair in placed.items() if slot in question.locks}
    for facts in question.pots:
        lacking = _lacking(answer, facts, placed) - _lacking(answer, facts, locked)
        if lacking > 1e-5:
            found.append(f"{facts.name}: {lacking:.2f} of a batch is eaten but not cooked")
    return found


def _lacking(answer: Answer, facts: BatchFacts, placed: dict[Slot, tuple[Offer, float]]) -> float:
    """Eat one pot meal by meal from what is there, the first to go off first; what is missing, as a
    share of the pot.
    """
    question, lacking = answer.question, 0.0
    there = [_There((0, 0), end, share) for share, end in facts.stock]
    for (key, day), count in answer.cooked.items():
        if key == facts.key:
            start = (day, len(question.meals) - 1) if day >= 0 else (0, 0)
            there.append(_There(start, day + facts.keeps_days, float(count)))
    beside = _beside(question)
    for slot in sorted({*placed, *beside}):
        pairs = [placed[slot]] if slot in placed else []
        pairs += [(beside[slot], 1.0)] if slot in beside else []
        need = sum(o.own.get(facts.key, 0.0) * s + o.table.get(facts.key, 0.0) for o, s in pairs)
        if not _reachable(question, facts.key, slot):
            continue  # only a locked cell can stand there, and the question's warnings tell of it
        good = [pot for pot in there if pot.start <= slot and slot[0] <= pot.end]
        for pot in sorted(good, key=lambda pot: pot.end):
            eaten = min(need, pot.left)
            pot.left -= eaten
            need -= eaten
        lacking += need
    return lacking


def _beside(question: Question) -> dict[Slot, Offer]:
    """What stands beside the dishes of meals that are eaten."""
    return {slot: one for slot, one in question.beside.items() if slot in question.slots}


def _reachable(question: Question, key: str, slot: Slot) -> bool:
    facts = question.pots[question.pot_index[key]]
    last = len(question.meals) - 1
    starts = [
        ((d, last) if d >= 0 else (0, 0), d + facts.keeps_days) for d in question.rules.cooking_days
    ]
    return any(start <= slot and slot[0] <= end for start, end in starts) or any(
        share > 0 and slot[0] <= end for share, end in facts.stock
    )


def points_of(answer: Answer) -> float:
    """The cost of a week counted anew from its dishes and cookings."""
    question, placed = answer.question, _placed(answer)
    points = 0.0
    for slot in question.slots:
        if slot in placed:
            points += _cell_points(question, slot, *placed[slot])
        elif slot not in question.locks:
            points += EMPTY
    for day in {slot[0] for slot in question.slots}:
        held = [pair for slot, pair in placed.items() if slot[0] == day]
        held += [(one, 1.0) for slot, one in _beside(question).items() if slot[0] == day]
        points += _day_points(question, held)
    everything = [*placed.items(), *((slot, (one, 1.0)) for slot, one in _beside(question).items())]
    eaten = sum(
        offer.own.get(key, 0.0) * scale + offer.table.get(key, 0.0)
        for slot, (offer, scale) in everything
        for key in {*offer.own, *offer.table}
        if _reachable(question, key, slot)
    )
    there = sum(answer.cooked.values()) + sum(
        share for pot in question.pots for share, _ in pot.stock
    )
    points += (
        FIRE * len([n for n in answer.cooked.values() if n])
        + POT * sum(answer.cooked.values())
        + WASTE * max(0.0, there - eaten)
    )
    for day in question.rules.cooking_days:
        here = len([key for (key, d), n in answer.cooked.items() if d == day and n])
        points += EXTRA_POT * max(0, here - question.rules.most_batches)
    points += _repeat_points(question, placed)
    main_names = {meal.name for meal in question.meals if meal.main}
    for offer in question.offers:
        days = [day for (day, _), (other, _) in placed.items() if other.key == offer.key]
        if offer.meals & main_names:
            days += offer.before
            for start in range(-3 if offer.before else 0, len(question.kinds) - 3):
                points += RUN * max(0, len([d for d in days if start <= d <= start + 3]) - 3)
    points += _kind_points(question, [offer for offer, _ in placed.values()])
    if question.rules.most_new is not None:
        fresh = {offer.key for offer, _ in placed.values() if offer.new}
        points += NEW * max(0, len(fresh) - question.rules.most_new)
    if question.rules.different is not None:
        mains = {offer.key for (_, meal), (offer, _) in placed.items() if question.meals[meal].main}
        points += VARIETY * abs(len(mains) - question.rules.different)
    return points


def _repeat_points(question: Question, placed: dict[Slot, tuple[Offer, float]]) -> float:
    """What a meal with the dish of the day before costs: a main one 20, a breakfast or snack 8. One
    that is wished for may come so.
    """
    return sum(
        20.0 if question.meals[meal].main else 8.0
        for (day, meal), (offer, _) in placed.items()
        if not offer.least_uses
        and (day + 1, meal) in placed
        and placed[day + 1, meal][0].key == offer.key
    )


def _kind_points(question: Question, eaten: list[Offer]) -> float:
    """Kinds that are missing, what is served too often, and what less often than wished for."""
    points = 0.0
    for group, least in question.rules.plant_kinds.items():
        there = {kind for offer in eaten for kind in offer.plant_kinds.get(group, ())}
        points += KIND * max(0, least - len(there))
    for group, most in question.rules.most_servings.items():
        points += TOO_OFTEN * max(0, len([o for o in eaten if o.plant_kinds.get(group)]) - most)
    for offer in question.offers:
        points += WISH * max(0, offer.least_uses - len([o for o in eaten if o.key == offer.key]))
    return points


def _cell_points(question: Question, slot: Slot, offer: Offer, scale: float) -> float:
    meal = question.meals[slot[1]]
    points = (
        LIKING[offer.liking]
        + PORTION * abs(scale - 1)
        + (0.0 if offer.own or offer.table else FRESH)
    )
    most, beside = question.rules.most_meal_g, question.beside.get(slot)
    grams = offer.grams * scale + (beside.grams if beside else 0.0)
    if most and grams > most:
        points += HEAVY_MEAL * 100 * (grams / most - 1)
    for window in question.windows:
        if window.key in ("energy_kcal", "protein_g") and window.key in offer.amounts:
            amount = offer.amounts[window.key] * scale
            amount += beside.amounts.get(window.key, 0.0) if beside else 0.0
            share = meal.share if window.key == "energy_kcal" else meal.protein_share
            low, high = (
                (window.low or 0.0) * share,
                None if window.high is None else window.high * share,
            )
            if amount < low:
                points += MEAL_PER_CENT * 100 * (low - amount) / low
            elif (
                window.key == "energy_kcal" and high is not None and amount > high and (low or high)
            ):
                points += MEAL_PER_CENT * 100 * (amount - high) / (low or high)
    return points


def _day_points(question: Question, pairs: list[tuple[Offer, float]]) -> float:
    points = 0.0
    for window in question.windows:
        if window.key == "kcal_per_g":
            energy = sum(o.amounts.get("energy_kcal", 0.0) * s for o, s in pairs)
            grams = sum(o.grams * s for o, s in pairs)
            over = 0.0 if window.high is None else max(0.0, energy - window.high * grams)
            short = 0.0 if window.low is None else max(0.0, window.low * grams - energy)
            points += PER_CENT[window.importance] * 100 * (over + short) / question.usual_energy
            continue
        amount = sum(o.amounts.get(window.key, 0.0) * s for o, s in pairs)
        if window.low is not None and amount < window.low:
            points += (
                PER_CENT[window.importance]
                * 100
                * (window.low - amount)
                / (abs(window.low) or abs(window.high or 0) or 10)
            )
        elif window.high is not None and amount > window.high:
            points += (
                PER_CENT[window.importance]
                * 100
                * (amount - window.high)
                / (abs(window.high) or abs(window.low or 0) or 10)
            )
    for ask in question.asks:
        held = sum(o.amounts.get(f"ask:{ask.key}", 0.0) * s for o, s in pairs)
        points += ASK[ask.importance] * max(0.0, ask.low - held) / ask.low if ask.low else 0.0
        if ask.high:
            percent = {"weight": 1.5, "fibre": 0.7}.get(ask.key, PER_CENT[ask.importance])
            points += percent * 100 * max(0.0, held - ask.high) / ask.high
    return points
