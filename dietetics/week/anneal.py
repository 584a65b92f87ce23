"""A good week within a budget of moves: annealing with the cost of a day and of a pot remembered.

The same question, seed and budget give the same week on every machine: nothing here looks at a clock.
"""

from __future__ import annotations

import math
import random
from bisect import insort
from collections.abc import Callable
from itertools import pairwise
from typing import Any

from dietetics.week.answer import Answer, answer_of, variety_cost
from dietetics.week.pots import Cooked, cooked_for, supplies_at
from dietetics.week.question import EXTRA_POT, RUN_MOST, Choice, Question, Slot

MOVES, A_CHOICE, MOST_RESTARTS = (
    30_000,
    20,
    6,
)  # each run gets twenty moves for each way to fill a cell, as far as they reach
HOT, COLD = 100.0, 1.5  # points: at first a fire more is taken lightly, at the end hardly anything is
WARM = 15.0  # points: where a week that is there is only to be bettered
FINE = 10**12  # shares of a pot are added up as whole trillionths, so that nothing drifts
EVERYWHERE = 0.04  # the share of moves that exchange two dishes in the whole week
POTS = 0.8  # where among the kinds of moves that of giving up or beginning a whole pot ends
BROKEN = 3000.0  # a dish too often or too close: dearer than an empty meal; what is left of it is taken out at the end


class _State:
    """Cells by the number of their choice, with every sum that a move changes kept beside."""

    def __init__(self, question: Question, rng: random.Random) -> None:
        self.question = question
        self.slots = question.slots
        self.choices = [question.choices(slot) for slot in self.slots]
        self.by_dish = [_by_dish(options) for options in self.choices]
        self.number = [{(o.dish, o.scale): n for n, o in enumerate(options)} for options in self.choices]
        self.using = [[n for n, o in enumerate(options) if o.uses] for options in self.choices]
        self.without = [[n for n, o in enumerate(options) if o.dish >= 0 and not o.uses] for options in self.choices]
        self.days = sorted({slot[0] for slot in self.slots})
        self.cells_of = {d: [i for i, s in enumerate(self.slots) if s[0] == d] for d in self.days}
        self.free = [i for i, options in enumerate(self.choices) if len(options) > 1]
        self.main = [question.meals[slot[1]].main for slot in self.slots]
        self.bits = [[_bits(question, pot, slot) for pot in range(len(question.pots))] for slot in self.slots]
        self.stock = [tuple(share for share, _ in pot.stock) for pot in question.pots]
        self.locked: dict[int, list[int]] = {}
        for (day, _), (key, _) in question.locks.items():
            if key:
                self.locked.setdefault(question.by_key[key], []).append(day)
        self.minds_new = question.rules.most_new is not None
        self.day_memo: dict[tuple[int, ...], float] = {}
        self.pot_memo: dict[tuple[object, ...], Cooked] = {}
        self.broken_memo: dict[tuple[int, ...], float] = {}
        self.start(rng)

    def start(self, rng: random.Random) -> None:
        """Fill every free cell with anything; what was remembered stays."""
        self.picked = [rng.randrange(1, len(o)) if len(o) > 1 else 0 for o in self.choices]
        self.reset()

    def start_from(self, there: Answer) -> None:
        """Begin with a week that is there; a cell that may not hold it stays empty."""
        for cell, slot in enumerate(self.slots):
            dish = self.question.by_key.get(there.dish(slot), -1) if slot in there.chosen else -1
            scale = there.chosen[slot].scale if dish >= 0 else 1.0
            self.picked[cell] = self.number[cell].get((dish, scale), 0)
        self.reset()

    def reset(self) -> None:
        """Compute every kept sum from the cells."""
        self.where: dict[int, list[int]] = {}
        self.mains: dict[int, int] = {}
        self.demand: list[dict[int, int]] = [{} for _ in self.question.pots]
        self.cell_points = 0.0
        for cell in range(len(self.slots)):
            self.place(cell, self.choice(cell), 1)
        self.day_points = {d: self.day_cost(d) for d in self.days}
        self.pot_points = [self.pot_cost(p) for p in range(len(self.question.pots))]
        self.broken_points = {dish: self.broken(dish) for dish in self.where}
        self.total = self.sum_up()

    def sum_up(self) -> float:
        """The cost of the cells as they are."""
        return (
            sum(self.day_points.values()) + self.cell_points + sum(one.points for one in self.pot_points)
            + self.evenings() + variety_cost(self.question, len(self.mains)) + sum(self.broken_points.values())
            + (self.question.new_points(dish for dish, on in self.where.items() if on) if self.minds_new else 0.0)
        )  # fmt: skip

    def choice(self, cell: int) -> Choice:
        """What stands in a cell."""
        return self.choices[cell][self.picked[cell]]

    def place(self, cell: int, choice: Choice, sign: int) -> None:
        """Note that a choice stands in a cell (sign 1), or no longer does (-1)."""
        self.cell_points += sign * choice.cost
        for pot, share in choice.uses:
            demand, bits = self.demand[pot], self.bits[cell][pot]
            demand[bits] = demand.get(bits, 0) + sign * round(share * FINE)
        dish = choice.dish
        if dish < 0:
            return
        on = self.where.setdefault(dish, [])
        if sign > 0:
            insort(on, self.slots[cell][0])
        else:
            on.remove(self.slots[cell][0])
        if self.main[cell]:
            count = self.mains.get(dish, 0) + sign
            if count:
                self.mains[dish] = count
            else:
                del self.mains[dish]

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
        """The cheapest cooking of a pot, remembered by what is eaten of it and when."""
        demand = tuple(sorted((bits, share) for bits, share in self.demand[pot].items() if share))
        key = (pot, demand)
        found = self.pot_memo.get(key)
        if found is None:
            shares = tuple((bits, share / FINE) for bits, share in demand)
            found = cooked_for(shares, self.stock[pot], len(self.question.rules.cooking_days))
            self.pot_memo[key] = found
        return found

    def evenings(self) -> float:
        """Points for batches above what an evening takes."""
        most, extra = self.question.rules.most_pots, 0
        for day in range(len(self.question.rules.cooking_days)):
            count = 0
            for one in self.pot_points:
                if one.counts[day]:
                    count += 1
            if count > most:
                extra += count - most
        return EXTRA_POT * extra

    def broken(self, dish: int) -> float:
        """Points for a dish that comes too often or too close, locked cells forgiven, or too many days running."""
        on = self.where[dish]
        key = (dish, *on)
        found = self.broken_memo.get(key)
        if found is None:
            found = self.broken_memo[key] = _broken(self.question, dish, on, self.locked.get(dish, []))
        return found

    def apply(self, changes: list[tuple[int, int]]) -> Any:
        """Put other choices into cells and bring every kept sum up to date; what `take_back` needs is returned."""
        pots: set[int] = set()
        dishes: set[int] = set()
        days = {self.slots[cell][0] for cell, _ in changes}
        back = [(cell, self.picked[cell]) for cell, _ in changes]
        for cell, new in changes:
            for choice in (self.choices[cell][self.picked[cell]], self.choices[cell][new]):
                dishes.add(choice.dish)
                pots.update(pot for pot, _ in choice.uses)
        dishes.discard(-1)
        kept = (
            back, self.total, self.cell_points, {d: self.day_points[d] for d in days}, {p: self.pot_points[p] for p in pots},
            {dish: self.broken_points.get(dish, 0.0) for dish in dishes},
        )  # fmt: skip
        self.shift(changes)
        for dish in dishes:
            self.broken_points[dish] = self.broken(dish)
        for day in days:
            self.day_points[day] = self.day_cost(day)
        for pot in pots:
            self.pot_points[pot] = self.pot_cost(pot)
        self.total = self.sum_up()
        return kept

    def shift(self, changes: list[tuple[int, int]]) -> None:
        """Exchange the choices themselves, with nothing judged anew."""
        for cell, new in changes:
            options = self.choices[cell]
            self.place(cell, options[self.picked[cell]], -1)
            self.place(cell, options[new], 1)
            self.picked[cell] = new

    def take_back(self, kept: Any) -> None:
        """Undo the last `apply`."""
        back, total, cell_points, days, pots, dishes = kept
        self.shift(back)
        self.total, self.cell_points = total, cell_points
        self.day_points.update(days)
        self.broken_points.update(dishes)
        for pot, one in pots.items():
            self.pot_points[pot] = one


def _by_dish(options: tuple[Choice, ...]) -> dict[int, list[int]]:
    """The numbers of the options of each dish."""
    found: dict[int, list[int]] = {}
    for number, option in enumerate(options):
        found.setdefault(option.dish, []).append(number)
    return found


def _bits(question: Question, pot: int, slot: Slot) -> int:
    return supplies_at(question.pots[pot], slot, question.rules.cooking_days, len(question.meals) - 1)


def _broken(question: Question, dish: int, on: list[int], locked: list[int]) -> float:
    offer = question.offers[dish]
    found = max(0, len(on) - max(offer.most_uses, len(locked)))
    if offer.apart and len(on) > 1 and any(b - a < offer.apart for a, b in pairwise(on)):
        found += max(too_close(on, locked, offer.apart, day) for day in on)
    dull = question.run_points(on) if dish in question.main_dishes and len(on) > RUN_MOST else 0.0
    return BROKEN * found + dull


def too_close(on: list[int], locked: list[int], apart: int, start: int) -> int:
    """How many servings too many come within `apart` days from `start`; locked ones are forgiven."""
    span = range(start, start + apart)
    return max(0, sum(day in span for day in on) - max(1, sum(day in span for day in locked)))


def _move(state: _State, rng: random.Random, by_meal: dict[int, list[int]]) -> list[tuple[int, int]]:
    """A change to try: another choice, another portion, a neighbour's dish, or two cells exchanged."""
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


def _throughout(state: _State, one: int, other: int) -> list[tuple[int, int]]:
    """Two dishes exchanged wherever either stands, where the cells take them at their portions."""
    found = []
    for cell in state.free if one != other else ():
        here = state.choice(cell)
        if here.dish in (one, other):
            number = state.number[cell].get((other if here.dish == one else one, here.scale))
            if number is not None:
                found.append((cell, number))
    return found


def _pot_move(state: _State, rng: random.Random, cell: int, alike: list[int]) -> list[tuple[int, int]]:
    """A pot given up everywhere at once; or, where the cell eats of none, a dish of a pot put on several days."""
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


def _polish(state: _State) -> None:
    """Try every choice of every cell, again and again, until none makes the week better."""
    better = True
    while better:
        better = False
        for cell in state.free:
            for number in range(len(state.choices[cell])):
                if number == state.picked[cell]:
                    continue
                before = state.total
                undo = state.apply([(cell, number)])
                if state.total < before - 1e-9:
                    better = True
                else:
                    state.take_back(undo)


def _run(state: _State, rng: random.Random, moves: int, hot: float = HOT) -> tuple[float, list[int]]:
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
        before = state.total
        undo = state.apply(changes)
        if state.total > before and rng.random() >= math.exp((before - state.total) / heat):
            state.take_back(undo)
        elif state.total < best - 1e-9:
            best, kept = state.total, list(state.picked)
    state.picked = list(kept)
    state.reset()
    _polish(state)
    return _mended(state, list(state.picked))


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


def better_week(question: Question, there: Answer, seed: int, moves: int) -> Answer:
    """A week that is there (of this question, or of one that asked for more) bettered within so many moves; never a worse one."""
    rng = random.Random(f"{seed}-better")
    state = _State(question, rng)
    state.start_from(there)
    points, picked = state.total, list(state.picked)
    if state.free:
        found = _run(state, rng, moves, WARM)
        points, picked = min(found, (points, picked), key=lambda one: one[0])
    chosen = {s: state.choices[i][picked[i]] for i, s in enumerate(state.slots)}
    return answer_of(question, chosen, seed, moves)


def good_week(
    question: Question,
    seed: int = 1,
    moves: int = MOVES,
    restarts: int | None = None,
    told: Callable[[float], bool] | None = None,
) -> Answer:
    """A good week, the best of `restarts` runs of `moves` ÷ `restarts` each (None: as many as the size allows). Repeatable.

    `told` hears the best cost after each run and may end the search by returning False.
    """
    best: tuple[float, list[int]] | None = None
    state = _State(question, random.Random(f"{seed}-start"))
    size = sum(len(options) for options in state.choices)
    restarts = restarts or max(1, min(MOST_RESTARTS, moves // (A_CHOICE * max(size, 1))))
    for number in range(restarts):
        rng = random.Random(f"{seed}-{number}")
        state.start(rng)
        found = _run(state, rng, moves // restarts) if state.free else (state.total, list(state.picked))
        if best is None or found[0] < best[0] - 1e-9:
            best = found
        if told is not None and not told(best[0]):
            break
    assert best is not None
    chosen: dict[Slot, Choice] = {s: state.choices[i][best[1][i]] for i, s in enumerate(state.slots)}
    return answer_of(question, chosen, seed, moves)
