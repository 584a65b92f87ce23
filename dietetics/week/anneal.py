"""A good week within a budget of moves: annealing with the cost of a day and of a pot remembered.

The same question, seed and budget give the same week on every machine: nothing here looks at a clock.
"""

from __future__ import annotations

import math
import random
from bisect import insort
from collections.abc import Callable
from itertools import pairwise

from dietetics.week.answer import Answer, answer_of, variety_cost
from dietetics.week.pots import Cooked, cooking_of
from dietetics.week.question import EXTRA_POT, RUN_MOST, Choice, Question, Slot

MOVES, RESTARTS = 24_000, 4
HOT, COLD = 60.0, 0.6  # points: at first a pot more is taken lightly, at the end hardly anything is
BROKEN = 3000.0  # a dish too often or too close: dearer than an empty meal; what is left of it is taken out at the end


class _State:
    """Cells by the number of their choice, with every sum that a move changes kept beside."""

    def __init__(self, question: Question, rng: random.Random) -> None:
        self.question = question
        self.slots = question.slots
        self.choices = [question.choices(slot) for slot in self.slots]
        self.days = sorted({slot[0] for slot in self.slots})
        self.cells_of = {d: [i for i, s in enumerate(self.slots) if s[0] == d] for d in self.days}
        self.free = [i for i, options in enumerate(self.choices) if len(options) > 1]
        self.day_memo: dict[tuple[int, ...], float] = {}
        self.pot_memo: dict[tuple[object, ...], Cooked] = {}
        self.locked: dict[int, list[int]] = {}
        for (day, _), (key, _) in question.locks.items():
            if key:
                self.locked.setdefault(question.by_key[key], []).append(day)
        self.main = [question.meals[slot[1]].main for slot in self.slots]
        self.picked = [rng.randrange(1, len(o)) if len(o) > 1 else 0 for o in self.choices]
        self.reset()

    def reset(self) -> None:
        """Compute every kept sum from the cells."""
        self.day_points = {d: self.day_cost(d) for d in self.days}
        self.cell_points = sum(self.choices[i][c].cost for i, c in enumerate(self.picked))
        self.users: list[dict[int, float]] = [{} for _ in self.question.pots]
        for i in range(len(self.slots)):
            for pot, share in self.choice(i).uses:
                self.users[pot][i] = share
        self.pot_points = [self.pot_cost(p) for p in range(len(self.question.pots))]
        self.where: dict[int, list[int]] = {}
        self.mains: dict[int, int] = {}
        for i, slot in enumerate(self.slots):
            self.place(self.choice(i).dish, slot[0], self.main[i])
        self.broken_points = {dish: self.broken(dish) for dish in self.where}
        self.total = self.sum_up()

    def sum_up(self) -> float:
        """The cost of the cells as they are."""
        return (
            sum(self.day_points.values()) + self.cell_points + sum(one.points for one in self.pot_points)
            + self.evenings() + variety_cost(self.question, len(self.mains)) + sum(self.broken_points.values())
        )  # fmt: skip

    def place(self, dish: int, day: int, main: bool, away: bool = False) -> None:
        """Note that a dish stands on a day, or no longer does."""
        if dish < 0:
            return
        on = self.where.setdefault(dish, [])
        if away:
            on.remove(day)
        else:
            insort(on, day)
        if main:
            count = self.mains.get(dish, 0) + (-1 if away else 1)
            if count:
                self.mains[dish] = count
            else:
                del self.mains[dish]

    def choice(self, cell: int) -> Choice:
        """What stands in a cell."""
        return self.choices[cell][self.picked[cell]]

    def day_cost(self, day: int) -> float:
        """The cost of a day, remembered by what stands in its cells."""
        cells = self.cells_of[day]
        key = (day, *(self.picked[i] for i in cells))
        found = self.day_memo.get(key)
        if found is None:
            rows = [self.choices[i][self.picked[i]].vector for i in cells]
            sums = dict(zip(self.question.keys, map(sum, zip(*rows, strict=True)), strict=True))
            found = self.day_memo[key] = self.question.day_cost(sums)
        return found

    def pot_cost(self, pot: int) -> Cooked:
        """The cheapest cooking of a pot, remembered by its uses."""
        users = tuple(sorted(self.users[pot].items()))
        key = (pot, users)
        found = self.pot_memo.get(key)
        if found is None:
            uses = tuple((self.slots[i], share) for i, share in users)
            found = self.pot_memo[key] = cooking_of(self.question, pot, uses)
        return found

    def evenings(self) -> float:
        """Points for batches above what an evening takes."""
        most, extra = self.question.rules.most_pots, 0
        for day in range(len(self.question.rules.cooking_days)):
            extra += max(0, sum(one.counts[day] > 0 for one in self.pot_points) - most)
        return EXTRA_POT * extra

    def broken(self, dish: int) -> float:
        """Points for a dish that comes too often or too close, locked cells forgiven, or too many days running."""
        on, offer, locked = self.where[dish], self.question.offers[dish], self.locked.get(dish, [])
        found = max(0, len(on) - max(offer.most_uses, len(locked)))
        if offer.apart and len(on) > 1 and any(b - a < offer.apart for a, b in pairwise(on)):
            found += max(too_close(on, locked, offer.apart, day) for day in on)
        dull = self.question.run_points(on) if dish in self.question.main_dishes and len(on) > RUN_MOST else 0.0
        return BROKEN * found + dull

    def apply(self, changes: list[tuple[int, int]]) -> None:
        """Put other choices into cells and bring every kept sum up to date."""
        pots: set[int] = set()
        dishes: set[int] = set()
        for cell, new in changes:
            before, after = self.choice(cell), self.choices[cell][new]
            day, main = self.slots[cell][0], self.main[cell]
            self.place(before.dish, day, main, away=True)
            self.place(after.dish, day, main)
            dishes.update((before.dish, after.dish))
            for pot, _ in before.uses:
                self.users[pot].pop(cell, None)
            for pot, share in after.uses:
                self.users[pot][cell] = share
            self.cell_points += after.cost - before.cost
            pots.update(p for p, _ in (*before.uses, *after.uses))
            self.picked[cell] = new
        for dish in dishes - {-1}:
            self.broken_points[dish] = self.broken(dish)
        for day in {self.slots[cell][0] for cell, _ in changes}:
            self.day_points[day] = self.day_cost(day)
        for pot in pots:
            self.pot_points[pot] = self.pot_cost(pot)
        self.total = self.sum_up()


def too_close(on: list[int], locked: list[int], apart: int, start: int) -> int:
    """How many servings too many come within `apart` days from `start`; locked ones are forgiven."""
    span = range(start, start + apart)
    return max(0, sum(day in span for day in on) - max(1, sum(day in span for day in locked)))


def _same(options: tuple[Choice, ...], wanted: Choice) -> int | None:
    """The number of the option that is the same dish at the same scale."""
    return next((n for n, o in enumerate(options) if o.dish == wanted.dish and o.scale == wanted.scale), None)


def _move(state: _State, rng: random.Random, by_meal: dict[int, list[int]]) -> list[tuple[int, int]]:
    """A change to try: another choice, another portion, a neighbour's dish, or two cells exchanged."""
    cell = rng.choice(state.free)
    kind = rng.random()
    options = state.choices[cell]
    if kind < 0.4:
        return [(cell, rng.randrange(len(options)))]
    if kind < 0.6:
        now = state.choice(cell)
        same = [n for n, o in enumerate(options) if o.dish == now.dish and n != state.picked[cell]]
        return [(cell, rng.choice(same))] if same else []
    other = rng.choice(by_meal[state.slots[cell][1]] if kind < 0.9 else state.free)
    taken = _same(options, state.choice(other))
    if other == cell or taken is None:
        return []
    if kind < 0.75:
        return [(cell, taken)]
    given = _same(state.choices[other], state.choice(cell))
    return [(cell, taken), (other, given)] if given is not None else []


def _run(state: _State, rng: random.Random, moves: int) -> tuple[float, list[int]]:
    best, kept = state.total, list(state.picked)
    by_meal: dict[int, list[int]] = {}
    for cell in state.free:
        by_meal.setdefault(state.slots[cell][1], []).append(cell)
    cooling = (COLD / HOT) ** (1 / max(moves, 1))
    heat = HOT
    for _ in range(moves):
        heat *= cooling
        changes = _move(state, rng, by_meal)
        if not changes or all(state.picked[cell] == new for cell, new in changes):
            continue
        before = state.total
        back = [(cell, state.picked[cell]) for cell, _ in changes]
        state.apply(changes)
        if state.total > before and rng.random() >= math.exp((before - state.total) / heat):
            state.apply(back)
        elif state.total < best - 1e-9:
            best, kept = state.total, list(state.picked)
    return _mended(state, kept)


def _mended(state: _State, kept: list[int]) -> tuple[float, list[int]]:
    """The cells with whatever still breaks a rule taken out: better no dish than one that may not be there."""
    state.picked = list(kept)
    state.reset()
    for cell in reversed(state.free):
        dish = state.choice(cell).dish
        lacking = any(state.pot_points[p].missing for p, _ in state.choice(cell).uses)
        if dish >= 0 and (state.broken_points[dish] >= BROKEN or lacking):
            state.apply([(cell, 0)])
    return state.total, list(state.picked)


def good_week(
    question: Question,
    seed: int = 1,
    moves: int = MOVES,
    restarts: int = RESTARTS,
    told: Callable[[float], bool] | None = None,
) -> Answer:
    """A good week, the best of `restarts` runs of `moves` ÷ `restarts` each. Repeatable from its seed.

    `told` hears the best cost after each run and may end the search by returning False.
    """
    best: tuple[float, list[int]] | None = None
    state = None
    for number in range(restarts):
        rng = random.Random(f"{seed}-{number}")
        state = _State(question, rng) if state is None else _again(state, rng)
        found = _run(state, rng, moves // restarts) if state.free else (state.total, list(state.picked))
        if best is None or found[0] < best[0] - 1e-9:
            best = found
        if told is not None and not told(best[0]):
            break
    assert state is not None and best is not None
    chosen: dict[Slot, Choice] = {s: state.choices[i][best[1][i]] for i, s in enumerate(state.slots)}
    return answer_of(question, chosen, seed, moves)


def _again(state: _State, rng: random.Random) -> _State:
    """The same state with other cells to start from; what was remembered stays."""
    state.picked = [rng.randrange(1, len(o)) if len(o) > 1 else 0 for o in state.choices]
    state.reset()
    return state
