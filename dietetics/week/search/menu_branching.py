"""Which way to go on from a node that is not whole: the fire, dish or count of pots whose two ways
raise the bound most, by what was seen before or by short trials; then dishes by the day.
"""

from __future__ import annotations

import math

from dietetics.week.search.master_program import Relaxed
from dietetics.week.search.menu_node import Decision, NodeWork

WHOLE = 1e-6  # a variable so near to a whole number is whole
TRIALS, TRIAL_STEPS, TRIED = 4, 60, 1  # variables tried; steps of a trial; trials that are enough
LIKELY = 0.7  # of the way to the next whole number: then that is the likelier one
LEAST_GAIN, MOST_GAIN = 1e-3, 1e3  # points
Gains = dict[tuple[str, int], list[float]]


def ways_on(work: NodeWork, relaxed: Relaxed) -> list[Decision]:
    """The two ways on, the likelier first; none where the node is whole."""
    places = _fractional(work, relaxed)
    return _branched(work, relaxed, places) if places else _by_the_day(work, relaxed)


def _fractional(work: NodeWork, relaxed: Relaxed) -> list[int]:
    """The other variables that are not whole, of the first kind that has any."""
    model, place = work.search.model, work.master.place
    for group in (
        [*model.fires.values(), *model.mains.values(), *model.new.values()],
        [*model.pots.values()],
        [*model.uses.values()],
    ):
        places = [place[variable] for variable in group]
        found = [n for n in places if abs(relaxed.others[n] - round(relaxed.others[n])) > WHOLE]
        if found:
            return found
    return []


def _branched(work: NodeWork, relaxed: Relaxed, places: list[int]) -> list[Decision]:
    gains = work.search.gains
    parts = {n: float(relaxed.others[n] - math.floor(relaxed.others[n])) for n in places}
    likely = sorted(places, key=lambda n: -_promise(gains, n, parts[n]))[:TRIALS]
    for n in likely:
        for way in ("down", "up"):
            if len(gains.get((way, n), [])) < TRIED:
                _try(work, relaxed, n, way)
    best = max(likely, key=lambda n: _score(gains, n, parts[n]))
    low = math.floor(relaxed.others[best])
    down = Decision("other", best, float(work.lower[best]), low)
    up = Decision("other", best, low + 1, float(work.upper[best]))
    return [up, down] if parts[best] >= LIKELY else [down, up]


def _promise(gains: Gains, n: int, part: float) -> float:
    """What was not tried yet comes first, the nearest to a half before others."""
    untried = ("down", n) not in gains
    return 1e3 + min(part, 1 - part) if untried else _score(gains, n, part)


def _score(gains: Gains, n: int, part: float) -> float:
    expected = 1.0
    for way, share in (("down", part), ("up", 1 - part)):
        seen = gains.get((way, n), [0.0])
        expected *= max(share * sum(seen) / len(seen), LEAST_GAIN)
    return expected


def _try(work: NodeWork, relaxed: Relaxed, n: int, way: str) -> None:
    """A short solve with a variable rounded one way; its gain is noted for a whole unit."""
    master, value = work.master, float(relaxed.others[n])
    low = math.floor(value)
    lower, upper = work.lower.copy(), work.upper.copy()
    if way == "down":
        upper[n] = low
    else:
        lower[n] = low + 1
    basis = master.solver.getBasis()
    master.bound_others(lower, upper)
    tried = master.solve(most_steps=TRIAL_STEPS)
    share = value - low if way == "down" else low + 1 - value
    if tried is not None:
        gain = min(max(0.0, tried.points - relaxed.points), MOST_GAIN) / share
        work.search.gains.setdefault((way, n), []).append(gain)
    master.bound_others(work.lower, work.upper)
    master.solver.setBasis(basis)


def _by_the_day(work: NodeWork, relaxed: Relaxed) -> list[Decision]:
    """A dish on a day that is there in part; a choice of a cell where no dish is; none for a whole
    week.
    """
    dishes: dict[tuple[int, int], float] = {}
    cells: dict[tuple[int, int], float] = {}
    for (day, menu), share in zip(work.master.columns, relaxed.shares, strict=False):
        if share > WHOLE:
            for dish in {int(work.search.dish_of[variable]) for variable in menu} - {-1}:
                dishes[day, dish] = dishes.get((day, dish), 0.0) + float(share)
            for variable in menu:
                cells[day, variable] = cells.get((day, variable), 0.0) + float(share)
    for kind, shares in (("dish", dishes), ("cell", cells)):
        parts = {key: part for key, part in shares.items() if WHOLE < part < 1 - WHOLE}
        if parts:
            day, which = min(parts, key=lambda key: abs(parts[key] - 0.5))
            return [Decision(kind, which, 0.0, there, day) for there in (1.0, 0.0)]
    return []
