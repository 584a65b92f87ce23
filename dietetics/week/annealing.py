"""A good week within a budget of moves: annealing, with dishes and whole pots exchanged at once,
and a last polish.

The same question, seed and budget give the same week on every machine: nothing here looks at a
clock.
"""

from __future__ import annotations

import math
import random
from collections.abc import Callable
from itertools import cycle

from dietetics.week.answer import Answer, answer_of
from dietetics.week.question import Choice, Question, Slot
from dietetics.week.recheck import checked_week
from dietetics.week.search_state import BROKEN, State

MOVES, MOST_RESTARTS = 30_000, 6
A_CHOICE = 20  # each run gets so many moves for each way to fill a cell, as far as the moves reach
HOT, COLD = (
    100.0,
    1.5,
)  # points: at first a fire more is taken lightly, at the end hardly anything is
WARM = 15.0  # points: where a week that is there is only to be bettered
MOST_MENDINGS = 3  # what is taken out at the end may make room for something else
EVERYWHERE = 0.04  # the share of moves that exchange two dishes in the whole week
POTS = 0.8  # where among the kinds of moves that of giving up or beginning a whole pot ends


def _move(state: State, rng: random.Random, by_meal: dict[int, list[int]]) -> list[tuple[int, int]]:
    """A change to try: another choice, another portion, a neighbour's dish, or two cells
    exchanged.
    """
    cell = rng.choice(state.free)
    kind = rng.random()
    options, now = state.choices[cell], state.picked[cell]
    if kind < EVERYWHERE:
        return _throughout(state, options[now].dish, options[rng.randrange(len(options))].dish)
    if kind < 0.4:
        return [(cell, rng.randrange(len(options)))]
    if kind < 0.6:
        same = state.by_dish[cell][options[now].dish]
        return [(cell, rng.choice(same))] if len(same) > 1 else []
    other = rng.choice(by_meal[state.slots[cell][1]] if kind < 0.9 else state.free)
    there = state.choice(other)
    taken = state.number[cell].get((there.dish, there.scale))
    if other == cell or taken is None:
        return []
    if kind < 0.75:
        return [(cell, taken)]
    if kind < POTS:
        return _pot_move(state, rng, cell, by_meal[state.slots[cell][1]])
    given = state.number[other].get((options[now].dish, options[now].scale))
    return [(cell, taken), (other, given)] if given is not None else []


def _throughout(state: State, one: int, other: int) -> list[tuple[int, int]]:
    """Two dishes exchanged wherever either stands, where the cells take them at their portions."""
    found = []
    for cell in state.free if one != other else ():
        here = state.choice(cell)
        if here.dish in (one, other):
            number = state.number[cell].get((other if here.dish == one else one, here.scale))
            if number is not None:
                found.append((cell, number))
    return found


def _pot_move(
    state: State, rng: random.Random, cell: int, alike: list[int]
) -> list[tuple[int, int]]:
    """A pot given up everywhere at once; or, where the cell eats of none, a dish of a pot put on
    several days.
    """
    uses = {pot for pot, _ in state.choice(cell).uses}
    if uses:
        users = [c for c in state.free if any(pot in uses for pot, _ in state.choice(c).uses)]
        return [(c, rng.choice(state.without[c])) for c in users if state.without[c]]
    if not state.using[cell]:
        return []
    chosen = state.choices[cell][rng.choice(state.using[cell])]
    others = [c for c in rng.sample(alike, min(len(alike), rng.randint(2, 4))) if c != cell]
    numbers = [(c, state.number[c].get((chosen.dish, chosen.scale))) for c in (cell, *others)]
    return [(c, number) for c, number in numbers if number is not None]


def _polish(state: State) -> None:
    """Try every choice of every cell, round after round, until none makes the week better."""
    in_vain = 0  # cells in a row
    for cell in cycle(state.free):
        in_vain = 0 if _bettered(state, cell) else in_vain + 1
        if in_vain == len(state.free):
            break


def _bettered(state: State, cell: int) -> bool:
    """Try every choice of a cell and keep each that makes the week better; True where one does."""
    better = False
    for number in range(len(state.choices[cell])):
        if number == state.picked[cell] or state.least_change(cell, number) >= 0:
            continue
        before = state.total
        undo = state.apply([(cell, number)])
        if state.total < before - 1e-9:
            better = True
        else:
            state.take_back(undo)
    return better


def _cooled(state: State, rng: random.Random, moves: int, hot: float) -> None:
    """Anneal, and leave the state with the best week seen."""
    best, kept = state.total, list(state.picked)
    by_meal: dict[int, list[int]] = {}
    for cell in state.free:
        by_meal.setdefault(state.slots[cell][1], []).append(cell)
    cooling = (COLD / hot) ** (1 / max(moves, 1))
    heat = hot
    for _ in range(moves):
        heat *= cooling
        changes = _move(state, rng, by_meal)
        if not changes or all(state.picked[cell] == new for cell, new in changes):
            continue
        before, allowed = state.total, -heat * math.log(1.0 - rng.random())  # points more
        if len(changes) == 1 and state.least_change(*changes[0]) > allowed:
            continue
        undo = state.apply(changes)
        if state.total - before > allowed:
            state.take_back(undo)
        elif state.total < best - 1e-9:
            best, kept = state.total, list(state.picked)
    state.picked = list(kept)
    state.reset()


def _run(state: State, rng: random.Random, moves: int, hot: float = HOT) -> tuple[float, list[int]]:
    _cooled(state, rng, moves, hot)
    for _ in range(MOST_MENDINGS):
        _polish(state)
        if not _mend(state):
            break
    return state.total, list(state.picked)


def _mend(state: State) -> bool:
    """Take out what breaks a rule, a serving at a time and none more than has to go: better no dish
    than one that may not be there. True where anything went.
    """
    taken_out, again = False, True
    while again:
        again = False
        for cell in reversed(state.free):
            dish = state.choice(cell).dish
            if dish < 0:
                continue
            lacking = any(state.pot_points[p].missing for p, _ in state.choice(cell).uses)
            if state.broken_points[dish] < BROKEN and not lacking:
                continue
            before = state.total
            undo = state.apply([(cell, 0)])
            if state.total < before:
                taken_out = again = True
            else:
                state.take_back(undo)
    return taken_out


def better_week(
    question: Question, there: Answer, seed: int, moves: int, state: State | None = None
) -> Answer:
    """A week that is there (of this question, or of one that asked for more) bettered within so
    many moves; never a worse one. `state` is one of this question that was searched before: what
    it remembers saves time.
    """
    rng = random.Random(f"{seed}-better")
    state = state or State(question, rng)
    state.start_from(there)
    points, picked = state.total, list(state.picked)
    if state.free:
        found = _run(state, rng, moves, WARM)
        points, picked = min(found, (points, picked), key=lambda one: one[0])
    chosen = {s: state.choices[i][picked[i]] for i, s in enumerate(state.slots)}
    return checked_week(answer_of(question, chosen, seed, moves))


def rough_week(question: Question, seed: int, moves: int) -> Answer:
    """A week to begin a search from: neither polished nor rid of what breaks a rule."""
    rng = random.Random(f"{seed}-rough")
    state = State(question, rng)
    if state.free:
        _cooled(state, rng, moves, HOT)
    chosen = {s: state.choice(i) for i, s in enumerate(state.slots)}
    return answer_of(question, chosen, seed, moves)


def good_week(
    question: Question,
    seed: int = 1,
    moves: int = MOVES,
    restarts: int | None = None,
    told: Callable[[float], bool] | None = None,
) -> Answer:
    """A good week, the best of `restarts` runs of `moves` ÷ `restarts` each (None: as many as the
    size allows). Repeatable.

    `told` hears the best cost after each run and may end the search by returning False.
    """
    best: tuple[float, list[int]] | None = None
    state = State(question, random.Random(f"{seed}-start"))
    size = sum(len(options) for options in state.choices)
    restarts = restarts or max(1, min(MOST_RESTARTS, moves // (A_CHOICE * max(size, 1))))
    for number in range(restarts):
        rng = random.Random(f"{seed}-{number}")
        state.start(rng)
        found = (
            _run(state, rng, moves // restarts) if state.free else (state.total, list(state.picked))
        )
        if best is None or found[0] < best[0] - 1e-9:
            best = found
        if told is not None and not told(best[0]):
            break
    assert best is not None
    chosen: dict[Slot, Choice] = {
        s: state.choices[i][best[1][i]] for i, s in enumerate(state.slots)
    }
    return checked_week(answer_of(question, chosen, seed, moves))
