"""The cheapest way to cook what is eaten of one pot: how many pots on which evening, so that every
use is met in time.

Each use can be met by certain supplies: what is left of earlier weeks, and the cooking evenings in
time. What is missing then follows from the sums alone (Hall's condition, with its deficiency: P.
Hall, J London Math Soc 1935;10:26): for every set of supplies, what only they can meet, less what
they hold; the largest of these is what no serving order can save.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import product

from dietetics.week.question.question import (
    EXTRA_POT,
    FIRE,
    HALF,
    MISSING,
    MOST_HALVES,
    POT,
    WASTE,
    BatchFacts,
    Question,
    Slot,
)

Uses = tuple[tuple[Slot, float], ...]
# What is eaten of a pot, by the supplies that can meet it: (bits, share of a pot); bit 0 the first
# stock, evenings after the stock.
Demand = tuple[tuple[int, float], ...]
LEAST = 1e-6  # of a pot: less is a rounding of shares


@dataclass(frozen=True, order=True)
class Cooked:
    """How a pot is cooked: its points, pots on each cooking evening, and the share of a pot that is
    eaten and not there.
    """

    points: float
    counts: tuple[float, ...]
    missing: float


@lru_cache(maxsize=50_000)
def supplies_at(pot: BatchFacts, slot: Slot, days: tuple[int, ...], last_meal: int) -> int:
    """The supplies of a pot that can be there at a meal, as bits: each stock in order, then each
    cooking evening.
    """
    starts = [(0, 0)] * len(pot.stock) + [(day, last_meal) if day >= 0 else (0, 0) for day in days]
    ends = [end for _, end in pot.stock] + [day + pot.keeps_days for day in days]
    there = (start <= slot and slot[0] <= end for start, end in zip(starts, ends, strict=True))
    return sum(1 << n for n, good in enumerate(there) if good)


def cheapest(
    pot: BatchFacts, uses: Uses, days: tuple[int, ...], last_meal: int, closed: int = 0
) -> Cooked:
    """The cheapest cooking for `uses`, as shares of a pot, on evenings that are not `closed` (bits,
    the first evening's the lowest).

    What is there and not eaten costs as waste does. What no number of pots can bring in time is
    missing, and very dear.
    """
    sums: dict[int, float] = {}
    for slot, share in uses:
        bits = supplies_at(pot, slot, days, last_meal)
        sums[bits] = sums.get(bits, 0.0) + share
    return cooked_for(
        tuple(sorted(sums.items())), tuple(share for share, _ in pot.stock), len(days), closed
    )


@lru_cache(maxsize=200_000)
def cooked_for(demand: Demand, stock: tuple[float, ...], evenings: int, closed: int = 0) -> Cooked:
    """The cheapest cooking for a demand: as `cheapest`, once it is known which supplies can meet
    what.
    """
    eaten, held = sum(share for _, share in demand), sum(stock)
    best = Cooked(WASTE * held, (0.0,) * evenings, 0.0)
    if not demand:
        return best
    needs = _needs(demand, stock)
    best = Cooked(float("inf"), best.counts, eaten)
    for effort, pots, counts in _ways_to_cook(evenings):
        if effort >= best.points:
            break
        if closed and any(count and closed >> n & 1 for n, count in enumerate(counts)):
            continue
        spare = pots + held - eaten
        least = effort + (WASTE * spare if spare > 0 else -MISSING * spare)
        if least >= best.points - 1e-9:
            continue
        missing = _missing(needs, counts)
        points = effort + WASTE * (spare + missing) + MISSING * missing if missing else least
        if points < best.points - 1e-9:
            best = Cooked(points, counts, missing)
    return best


def _needs(demand: Demand, stock: tuple[float, ...]) -> list[tuple[tuple[int, ...], float]]:
    """For every set of supplies that some uses are bound to: its cooking evenings, and what has to
    come from them.
    """
    sets = {0}
    for bits, _ in demand:
        sets |= {one | bits for one in sets}
    most: dict[tuple[int, ...], float] = {}
    for one in sets:
        bound = sum(share for bits, share in demand if not bits & ~one)
        need = bound - sum(share for n, share in enumerate(stock) if one >> n & 1)
        evenings = tuple(
            n - len(stock) for n in range(len(stock), one.bit_length()) if one >> n & 1
        )
        most[evenings] = max(need, most.get(evenings, 0.0))
    return [(evenings, need) for evenings, need in most.items() if need > LEAST]


def _missing(needs: Iterable[tuple[tuple[int, ...], float]], counts: tuple[float, ...]) -> float:
    """The share of a pot that is eaten and not there when so much is cooked on each evening."""
    missing = 0.0
    for evenings, need in needs:
        missing = max(missing, need - sum([counts[n] for n in evenings]))
    return missing if missing > LEAST else 0.0


@lru_cache(maxsize=8)
def _ways_to_cook(evenings: int) -> tuple[tuple[float, float, tuple[float, ...]], ...]:
    """(effort, pots, pots on each evening), the least effort first: a fire to be lit, and more for
    a larger pot.
    """
    counts = product((n * HALF for n in range(MOST_HALVES + 1)), repeat=evenings)
    return tuple(sorted((FIRE * sum(n > 0 for n in c) + POT * sum(c), sum(c), c) for c in counts))


def cookings_of(question: Question, uses: Mapping[int, Uses]) -> list[Cooked]:
    """How every pot of a question is cooked for what is eaten of each: the cheapest way for all,
    batches above what an evening takes counted.
    """
    days, last = question.rules.cooking_days, len(question.meals) - 1
    every = [cheapest(pot, uses.get(n, ()), days, last) for n, pot in enumerate(question.pots)]
    if not _above(question, [one.counts for one in every]):
        return every
    ways = [
        {
            _lit(one): one
            for closed in range(1 << len(days))
            for one in [cheapest(pot, uses.get(n, ()), days, last, closed)]
        }
        for n, pot in enumerate(question.pots)
    ]
    return _cheapest_together(question, ways)


def _lit(one: Cooked) -> tuple[int, ...]:
    """1 for each evening on which something is cooked."""
    return tuple(int(count > 0) for count in one.counts)


def _cheapest_together(
    question: Question, ways: Sequence[Mapping[tuple[int, ...], Cooked]]
) -> list[Cooked]:
    """One way for each pot so that all cost least, pot after pot, with the least for every number
    of batches on each evening.
    """
    reached: dict[tuple[int, ...], tuple[float, tuple[Cooked, ...]]]
    reached = {(0,) * len(question.rules.cooking_days): (0.0, ())}
    for of_pot in ways:
        after: dict[tuple[int, ...], tuple[float, tuple[Cooked, ...]]] = {}
        for on, (points, taken) in reached.items():
            for lit, way in of_pot.items():
                now = tuple(a + b for a, b in zip(on, lit, strict=True))
                known = after.get(now)
                if known is None or points + way.points < known[0] - 1e-9:
                    after[now] = (points + way.points, (*taken, way))
        reached = after
    most = question.rules.most_batches
    return list(
        min(
            (points + EXTRA_POT * sum(max(0, n - most) for n in on), on, taken)
            for on, (points, taken) in reached.items()
        )[2]
    )


def _above(question: Question, counts: Sequence[Sequence[float]]) -> int:
    """Batches above what an evening takes."""
    on = [sum(n > 0 for n in evening) for evening in zip(*counts, strict=True)]
    return sum(max(0, n - question.rules.most_batches) for n in on)
