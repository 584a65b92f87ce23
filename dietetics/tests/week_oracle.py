"""The best of a small week, by trying everything: written from docs/week.md, with nothing taken
from the program.

Prices stand here as they are printed there. Every way to fill the meals is tried, and for each the
cheapest way to cook.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cache
from itertools import product

from dietetics.week.question.question import BatchFacts, Offer, Question

PER_CENT = {"must": 6.0, "should": 2.0, "watch": 0.2}
ASKED = {"must": 80.0, "should": 30.0, "watch": 6.0}
LIKING = {0: 15.0, 1: 5.0, 2: 2.0, 3: 0.0}
A_QUARTER_MORE, FRESH, EMPTY, MEAL_PER_CENT = 3.0, 8.0, 1500.0, 0.15
STOVE, POT, WASTE, FULL_EVENING = 25.0, 15.0, 40.0, 200.0
FOR_WEIGHT, FOR_FIBRE, FOR_A_HEAVY_MEAL = 1.5, 0.7, 0.2
VARIETY, NEW, FOURTH_IN_FOUR_DAYS, DAY_AFTER_DAY = 15.0, 150.0, 60.0, 20.0
SMALL_MEAL_DAY_AFTER_DAY = 8.0
ROOM_FOR_LESS_VARIETY = 20.0
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


@dataclass(frozen=True)
class Best:
    """What the best week of a small question misses, lacks of variety and costs."""

    misses: tuple[int, int, int, int]
    variety: float
    cost: float


def best_of_all(question: Question, usual_kcal: float) -> Best:
    """The best over every way to fill and to cook a small week without locks, in the order of what
    matters.
    """
    slots = [(d, m) for d in range(len(question.kinds)) for m in range(len(question.meals))]
    evenings, last_meal = question.rules.cooking_days, len(question.meals) - 1
    width = len(question.meals)

    @cache
    def cooked(pot: int, uses: Uses) -> dict[tuple[bool, ...], float]:
        return pot_costs(question.pots[pot], evenings, uses, last_meal)

    found: list[tuple[float, float]] = []
    least: tuple[int, ...] | None = None
    days = [
        [
            (missed_on(question, picks, usual_kcal), picks)
            for picks in product(*(list(options(question, (d, m))) for m in range(width)))
        ]
        for d in range(len(question.kinds))
    ]
    for week in product(*days):
        missed = tuple(map(sum, zip(*(one for one, _ in week), strict=True)))
        picks = [pick for _, day in week for pick in day]
        empty = sum(pick is None for pick in picks)
        if least is not None and (empty, *missed[:2]) > least[:3]:
            continue
        if not keeps_rules(question, picks, slots):
            continue
        to_cook = cooking(question, picks, slots, cooked)
        if to_cook is None:
            continue
        extra, effort = to_cook
        order = (empty, *missed[:2], extra, *missed[2:])
        if least is not None and order > least:
            continue
        variety = across(question, picks, slots)
        cost = variety + effort + FULL_EVENING * extra
        cost += sum(
            cell_cost(question, slot[1], pick) for slot, pick in zip(slots, picks, strict=True)
        )
        cost += sum(day_cost(question, day, usual_kcal) for _, day in week)
        if least is None or order < least:
            least, found, misses = order, [], missed
        found.append((variety, cost))
    assert least is not None
    varied = min(variety for variety, _ in found)
    allowed = [cost for variety, cost in found if variety <= varied + ROOM_FOR_LESS_VARIETY]
    return Best(misses, varied, min(allowed))  # type: ignore[arg-type]


def per_cent_up(percent: float, nothing_up_to: float) -> int:
    """Whole per cents, rounded up, 99 at most; none up to what is nothing."""
    return 0 if percent <= nothing_up_to + 1e-9 else min(99, -int(-percent // 1))


def missed_on(
    question: Question, picks: Sequence[Pick], usual_kcal: float
) -> tuple[int, int, int, int]:
    """What a day misses: meals, required, what is usual, recommended."""
    meals = sum(100 if pick is None else energy_missed(question, m, pick)
                for m, pick in enumerate(picks))  # fmt: skip
    eaten = [pick for pick in picks if pick is not None]

    def total(key: str) -> float:
        return sum(offer.amounts.get(key, 0.0) * scale for offer, scale in eaten)

    required, usual, recommended = 0, 0, 0
    most = question.rules.most_meal_g
    if most is not None:
        usual += sum(per_cent_up(100 * o.grams * scale / most - 100, 5) for o, scale in eaten)
    for window in question.windows:
        if window.importance == "watch":
            continue
        grams = sum(offer.grams * scale for offer, scale in eaten)
        if window.key == "kcal_per_g":
            misses = [100 * (total("energy_kcal") - (window.high or 0.0) * grams) / usual_kcal]
        else:
            misses = [] if not window.low else [100 - 100 * total(window.key) / window.low]
            misses += [100 * total(window.key) / window.high - 100] if window.high else []
        if window.importance == "must":
            required += sum(per_cent_up(one, 0.5) for one in misses)
        else:
            recommended += sum(a_little_each(one) for one in misses)
    for ask in question.asks:
        held = total(f"ask:{ask.key}")
        misses = [] if not ask.low else [100 - 100 * held / ask.low]
        misses += [100 * held / ask.high - 100] if ask.high else []
        if ask.key in ("weight", "fibre"):
            usual += sum(per_cent_up(one, 5) for one in misses)
        else:
            recommended += sum(a_little_each(one) for one in misses)
    return meals, min(499, required), min(499, usual), min(499, recommended)


def a_little_each(percent: float) -> int:
    """Ten for a recommended target that is missed, and 0.15 for each per cent."""
    return 0 if percent <= 0.5 + 1e-9 else min(99, -int(-(10 + 0.15 * percent) // 1))


def energy_missed(question: Question, meal: int, pick: tuple[Offer, float]) -> int:
    """Per cent by which a meal lies further than a fifth outside its share of the energy."""
    offer, scale = pick
    share = question.meals[meal].share
    for window in question.windows:
        if window.key == "energy_kcal" and window.key in offer.amounts:
            amount = offer.amounts[window.key] * scale
            low = 0.8 * (window.low or 0.0) * share
            if amount < low:
                return per_cent_up(100 - 100 * amount / low, 0.5)
            if window.high is not None and amount > 1.2 * window.high * share:
                return per_cent_up(100 * amount / (1.2 * window.high * share) - 100, 0.5)
    return 0


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
    at = dict(zip(slots, picks, strict=True))
    for (day, meal), pick in at.items():
        after = at.get((day + 1, meal))
        again = pick is not None and after is not None and after[0] is pick[0]
        if again and not pick[0].least_uses:  # type: ignore[index]
            cost += DAY_AFTER_DAY if meal in main else SMALL_MEAL_DAY_AFTER_DAY
    return cost


def cooking(
    question: Question, picks: Sequence[Pick], slots: Sequence[tuple[int, int]], cooked: object
) -> tuple[int, float] | None:
    """With the fewest batches above what evenings take, how many those are and the least that
    cooking costs, all batches together; None where it can't be.
    """
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
    best = None
    for ways in product(*each):
        lit = [
            sum(way[0][evening] for way in ways)
            for evening in range(len(question.rules.cooking_days))
        ]
        extra = sum(max(0, count - question.rules.most_batches) for count in lit)
        here = extra, sum(way[1] for way in ways)
        best = here if best is None else min(best, here)
    return best
