"""The least cost of a small week, by trying everything: written from docs/week.md, with nothing
taken from the program.

Prices stand here as they are printed there. Every way to fill the meals is tried, and for each the
cheapest way to cook.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from functools import cache
from itertools import product

from dietetics.week.question import BatchFacts, Offer, Question

PER_CENT = {"must": 6.0, "should": 2.0, "watch": 0.2}
ASKED = {"must": 80.0, "should": 30.0, "watch": 6.0}
LIKING = {0: 15.0, 1: 5.0, 2: 2.0, 3: 0.0}
A_QUARTER_MORE, FRESH, EMPTY, MEAL_PER_CENT = 3.0, 8.0, 1500.0, 0.15
STOVE, POT, WASTE, FULL_EVENING = 25.0, 15.0, 40.0, 200.0
SIX_BEYOND_A_QUARTER = 6.0
FOR_WEIGHT, FOR_FIBRE, FOR_A_HEAVY_MEAL = 1.5, 0.7, 0.2
VARIETY, NEW, FOURTH_IN_FOUR_DAYS = 15.0, 150.0, 60.0
A_KIND_FEWER, ONE_TOO_OFTEN, WISHED = 6.0, 10.0, 100.0
MOST_HALVES = 6
Pick = tuple[Offer, float] | None
Uses = tuple[tuple[tuple[int, int], float], ...]


def cell_cost(question: Question, meal: int, pick: Pick) -> float:
    """What one filled meal costs by itself."""
    if pick is None:
        return EMPTY
    offer, scale = pick
    cost = (
        LIKING[offer.liking]
        + A_QUARTER_MORE * abs(scale - 1) / 0.25
        + (0.0 if offer.own or offer.table else FRESH)
    )
    most = question.rules.most_meal_g
    if most is not None:
        cost += FOR_A_HEAVY_MEAL * max(0.0, 100 * offer.grams * scale / most - 100)
    shares = {
        "energy_kcal": question.meals[meal].share,
        "protein_g": question.meals[meal].protein_share,
    }
    for window in question.windows:
        if window.key in shares and window.key in offer.amounts:
            amount, low = (
                offer.amounts[window.key] * scale,
                (window.low or 0.0) * shares[window.key],
            )
            high = None if window.high is None else window.high * shares[window.key]
            if window.key == "energy_kcal":
                if amount < low:
                    beyond = 100 * (low - amount) / low - 25
                    cost += min(600.0, SIX_BEYOND_A_QUARTER * max(0.0, beyond))
                elif high is not None and amount > high:
                    beyond = 100 * (amount - high) / high - 25
                    cost += min(600.0, SIX_BEYOND_A_QUARTER * max(0.0, beyond))
            if amount < low:
                cost += MEAL_PER_CENT * 100 * (low - amount) / low
            elif window.key == "energy_kcal" and high is not None and amount > high:
                cost += MEAL_PER_CENT * 100 * (amount - high) / (low or high)
    return cost


def day_cost(question: Question, picks: Sequence[Pick], usual_kcal: float) -> float:
    """What a day costs by the windows and asks it misses."""
    eaten = [pick for pick in picks if pick is not None]

    def total(key: str) -> float:
        return sum(offer.amounts.get(key, 0.0) * scale for offer, scale in eaten)

    grams, cost = sum(offer.grams * scale for offer, scale in eaten), 0.0
    for window in question.windows:
        price = PER_CENT[window.importance] * 100
        if window.key == "kcal_per_g":
            cost += (
                price * max(0.0, total("energy_kcal") - (window.high or 0.0) * grams) / usual_kcal
            )
            continue
        value = total(window.key)
        if window.low is not None and value < window.low:
            cost += price * (window.low - value) / window.low
        elif window.high is not None and value > window.high:
            cost += price * (value - window.high) / window.high
    for ask in question.asks:
        held = total(f"ask:{ask.key}")
        if ask.low:
            cost += ASKED[ask.importance] * max(0.0, ask.low - held) / ask.low
        if ask.high:
            usual = {"weight": FOR_WEIGHT, "fibre": FOR_FIBRE}
            price = usual.get(ask.key, PER_CENT[ask.importance])
            cost += price * max(0.0, 100 * held / ask.high - 100)
    return cost


def lasts(
    facts: BatchFacts, evenings: Sequence[int], halves: Sequence[int], uses: Uses, last_meal: int
) -> bool:
    """True when what is cooked and in stock is there for every meal that eats of it, what goes off
    first eaten first.
    """
    there = [[(0, 0), end, share] for share, end in facts.stock]
    for day, count in zip(evenings, halves, strict=True):
        there.append([(day, last_meal) if day >= 0 else (0, 0), day + facts.keeps_days, count / 2])
    for slot, share in sorted(uses):
        need = share
        for pot in sorted(
            (p for p in there if p[0] <= slot and slot[0] <= p[1]), key=lambda p: p[1]
        ):
            eaten = min(need, pot[2])
            pot[2] -= eaten
            need -= eaten
        if need > 1e-9:
            return False
    return True


def pot_costs(
    facts: BatchFacts, evenings: tuple[int, ...], uses: Uses, last_meal: int
) -> dict[tuple[bool, ...], float]:
    """For each choice of evenings on which the batch is cooked: the least it costs; what cannot be
    is left out.
    """
    found: dict[tuple[bool, ...], float] = {}
    eaten = sum(share for _, share in uses)
    for halves in product(range(MOST_HALVES + 1), repeat=len(evenings)):
        if not lasts(facts, evenings, halves, uses, last_meal):
            continue
        pots = sum(halves) / 2
        waste = max(0.0, pots + sum(share for share, _ in facts.stock) - eaten)
        lit = tuple(count > 0 for count in halves)
        cost = STOVE * sum(lit) + POT * pots + WASTE * waste
        found[lit] = min(cost, found.get(lit, float("inf")))
    return found


def keeps_rules(
    question: Question, picks: Sequence[Pick], slots: Sequence[tuple[int, int]]
) -> bool:
    """No dish oftener than it may come, none closer than it may."""
    for offer in question.offers:
        days = sorted(
            day
            for (day, _), pick in zip(slots, picks, strict=True)
            if pick is not None and pick[0] is offer
        )
        if len(days) > offer.most_uses or any(
            b - a < offer.apart for a, b in zip(days, days[1:], strict=False)
        ):
            return False
    return True


def options(question: Question, slot: tuple[int, int]) -> Iterator[Pick]:
    """What may stand in a meal: nothing, or a dish that suits it and the day, in every portion."""
    yield None
    for offer in question.offers:
        fits = question.meals[slot[1]].name in offer.meals
        rested = all(slot[0] - day >= offer.apart for day in offer.before)
        if fits and rested and (question.kinds[slot[0]] != "travel" or offer.travels):
            for scale in question.rules.scales:
                yield offer, scale


def least_cost(question: Question, usual_kcal: float) -> float:
    """The least cost over every way to fill and to cook a small week without locks."""
    slots = [(d, m) for d in range(len(question.kinds)) for m in range(len(question.meals))]
    evenings, last_meal = question.rules.cooking_days, len(question.meals) - 1

    @cache
    def cooked(pot: int, uses: Uses) -> dict[tuple[bool, ...], float]:
        return pot_costs(question.pots[pot], evenings, uses, last_meal)

    best = float("inf")
    for picks in product(*(list(options(question, slot)) for slot in slots)):
        cost = sum(
            cell_cost(question, slot[1], pick) for slot, pick in zip(slots, picks, strict=True)
        )
        if cost >= best or not keeps_rules(question, picks, slots):
            continue
        width = len(question.meals)
        cost += sum(
            day_cost(question, picks[d * width : (d + 1) * width], usual_kcal)
            for d in range(len(question.kinds))
        )
        cost += across(question, picks, slots)
        if cost < best:
            best = min(best, cost + cooking(question, picks, slots, cooked))
    return best


def across(question: Question, picks: Sequence[Pick], slots: Sequence[tuple[int, int]]) -> float:
    """What crosses days: variety, new dishes, a main dish four times in four days."""
    main = {meal for meal, one in enumerate(question.meals) if one.main}
    mains = {
        pick[0].key
        for (_, m), pick in zip(slots, picks, strict=True)
        if pick is not None and m in main
    }
    cost = (
        0.0
        if question.rules.different is None
        else VARIETY * abs(len(mains) - question.rules.different)
    )
    new = {pick[0].key for pick in picks if pick is not None and pick[0].new}
    if question.rules.most_new is not None:
        cost += NEW * max(0, len(new) - question.rules.most_new)
    eaten = [pick[0] for pick in picks if pick is not None]
    for group, wanted in question.rules.plant_kinds.items():
        kinds = set().union(*(offer.plant_kinds.get(group, frozenset()) for offer in eaten))
        cost += A_KIND_FEWER * max(0, wanted - len(kinds))
    for group, most in question.rules.most_servings.items():
        cost += ONE_TOO_OFTEN * max(0, sum(group in o.plant_kinds for o in eaten) - most)
    for offer in question.offers:
        cost += WISHED * max(0, offer.least_uses - sum(one is offer for one in eaten))
        days = [
            d
            for (d, _), pick in zip(slots, picks, strict=True)
            if pick is not None and pick[0] is offer
        ]
        days += list(offer.before)
        for start in range(-3 if offer.before else 0, len(question.kinds) - 3):
            cost += FOURTH_IN_FOUR_DAYS * max(0, sum(start <= d <= start + 3 for d in days) - 3)
    return cost


def cooking(
    question: Question, picks: Sequence[Pick], slots: Sequence[tuple[int, int]], cooked: object
) -> float:
    """The least that cooking costs, all batches together: an evening takes so many."""
    each = []
    for n, facts in enumerate(question.pots):
        uses = tuple(
            (slot, share)
            for slot, pick in zip(slots, picks, strict=True)
            if pick is not None
            and (
                share := pick[0].own.get(facts.key, 0.0) * pick[1]
                + pick[0].table.get(facts.key, 0.0)
            )
            > 0
        )
        each.append(list(cooked(n, uses).items()))  # type: ignore[operator]
    best = float("inf")
    for ways in product(*each):
        lit = [
            sum(way[0][evening] for way in ways)
            for evening in range(len(question.rules.cooking_days))
        ]
        full = FULL_EVENING * sum(max(0, count - question.rules.most_batches) for count in lit)
        best = min(best, full + sum(way[1] for way in ways))
    return best
