"""The cheapest way to cook what is eaten of one pot: how many pots on which evening, so that every use is met in time."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import product

from dietetics.week.question import FIRE, HALF, MISSING, MOST_HALVES, POT, WASTE, PotFacts, Question, Slot

Uses = tuple[tuple[Slot, float], ...]


@dataclass(frozen=True)
class Cooked:
    """How a pot is cooked: its points, pots on each cooking evening, and the share of a pot that is eaten and not there."""

    points: float
    counts: tuple[float, ...]
    missing: float


@dataclass
class _Supply:
    start: Slot
    end: int
    left: float


@lru_cache(maxsize=200_000)
def cheapest(pot: PotFacts, uses: Uses, days: tuple[int, ...], last_meal: int) -> Cooked:
    """The cheapest cooking for `uses` in order of time, as shares of a pot.

    What is there and not eaten costs as waste does. What no number of pots can bring in time is missing, and very dear.
    """
    eaten = sum(share for _, share in uses)
    stock = sum(share for share, _ in pot.stock)
    best = Cooked(WASTE * stock, tuple(0.0 for _ in days), 0.0)
    if not uses:
        return best
    best = Cooked(float("inf"), best.counts, eaten)
    for effort, pots, counts in _ways_to_cook(len(days)):
        if effort >= best.points:
            break
        spare = pots + stock - eaten
        least = effort + (WASTE * spare if spare > 0 else -MISSING * spare)
        if least >= best.points - 1e-9:
            continue
        missing = missing_of(pot, uses, days, counts, last_meal)
        points = effort + WASTE * (spare + missing) + MISSING * missing if missing else least
        if points < best.points - 1e-9:
            best = Cooked(points, counts, missing)
    return best


@lru_cache(maxsize=8)
def _ways_to_cook(evenings: int) -> tuple[tuple[float, float, tuple[float, ...]], ...]:
    """(effort, pots, pots on each evening), the least effort first: a fire to be lit, and more for a larger pot."""
    counts = product((n * HALF for n in range(MOST_HALVES + 1)), repeat=evenings)
    return tuple(sorted((FIRE * sum(n > 0 for n in c) + POT * sum(c), sum(c), c) for c in counts))


def missing_of(pot: PotFacts, uses: Uses, days: Sequence[int], counts: Sequence[float], last_meal: int) -> float:
    """The share of a pot that is eaten and not there; what goes off first is eaten first, which misses the least."""
    supplies = [_Supply((0, 0), end, share) for share, end in pot.stock]
    supplies += [
        _Supply((day, last_meal) if day >= 0 else (0, 0), day + pot.keeps_days, float(count))
        for day, count in zip(days, counts, strict=True)
        if count
    ]
    supplies.sort(key=lambda s: (s.end, s.start))
    missing = 0.0
    for slot, share in uses:
        need = share
        for supply in supplies:
            if supply.start <= slot and slot[0] <= supply.end and supply.left > 0:
                taken = min(need, supply.left)
                supply.left -= taken
                need -= taken
                if need <= 1e-9:
                    break
        missing += need if need > 1e-6 else 0.0
    return missing


def cooking_of(question: Question, pot: int, uses: Uses) -> Cooked:
    """`cheapest` for a pot of a question."""
    return cheapest(question.pots[pot], uses, question.rules.cooking_days, len(question.meals) - 1)
