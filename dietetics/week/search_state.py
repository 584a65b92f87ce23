"""A week while it is searched: its cells, with every sum that a move changes kept beside, so that a
move costs little.

The cost of a day, of a pot and of a dish's days is remembered; a move can be taken back.
"""

from __future__ import annotations

import random
from bisect import insort
from itertools import pairwise
from typing import Any

from dietetics.week.answer import Answer, variety_cost
from dietetics.week.cooking_evenings import Cooked, cooked_for, supplies_at
from dietetics.week.day_prices import cost_of_day
from dietetics.week.plant_kinds import PlantKindCount
from dietetics.week.question import EXTRA_POT, NEW, RUN_MOST, WASTE, Choice, Question, Slot

FINE = 10**12  # shares of a pot are added up as whole trillionths, so that nothing drifts
# a dish too often or too close: dearer than an empty meal; what is left of it is taken out at the
# end
BROKEN = 3000.0


class State:
    """Cells by the number of their choice, with every sum that a move changes kept beside."""

    def __init__(self, question: Question, rng: random.Random) -> None:
        self.question = question
        self.slots = question.slots
        self.choices = [question.choices(slot) for slot in self.slots]
        self.by_dish = [by_dish_of(options) for options in self.choices]
        self.number = [
            {(o.dish, o.scale): n for n, o in enumerate(options)} for options in self.choices
        ]
        self.using = [[n for n, o in enumerate(options) if o.uses] for options in self.choices]
        self.without = [
            [n for n, o in enumerate(options) if o.dish >= 0 and not o.uses]
            for options in self.choices
        ]
        self.days = sorted({slot[0] for slot in self.slots})
        self.cells_of = {d: [i for i, s in enumerate(self.slots) if s[0] == d] for d in self.days}
        self.free = [i for i, options in enumerate(self.choices) if len(options) > 1]
        self.main = [question.meals[slot[1]].main for slot in self.slots]
        self.bits = [
            [_bits(question, pot, slot) for pot in range(len(question.pots))] for slot in self.slots
        ]
        self.stock = [tuple(share for share, _ in pot.stock) for pot in question.pots]
        self.locked: dict[int, list[int]] = {}
        for (day, _), (key, _) in question.locks.items():
            if key:
                self.locked.setdefault(question.by_key[key], []).append(day)
        self.variety_memo: list[float] = []
        self.minds_new = question.rules.most_new is not None
        rules = question.rules
        self.minds_plants = bool(rules.plant_kinds or rules.most_servings)
        self.plants = PlantKindCount(
            rules.plant_kinds, rules.most_servings, [offer.plant_kinds for offer in question.offers]
        )
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
        self.where: dict[int, list[int]] = {dish: [] for dish in self.question.wished}
        self.plants.clear()
        self.mains: dict[int, int] = {}
        self.demand: list[dict[int, int]] = [{} for _ in self.question.pots]
        self.cell_points = 0.0
        for cell in range(len(self.slots)):
            self.place(cell, self.choice(cell), 1)
        self.day_points = {d: self.day_cost(d) for d in self.days}
        self.pot_points = [self.pot_cost(p) for p in range(len(self.question.pots))]
        self.broken_points = {dish: self.broken(dish) for dish in self.where}
        self.lit = [0] * len(self.question.rules.cooking_days)
        for one in self.pot_points:
            self._light(one, 1)
        self.parts_points = (
            sum(self.day_points.values())
            + sum(one.points for one in self.pot_points)
            + sum(self.broken_points.values())
        )
        self.total = self.sum_up()

    def sum_up(self) -> float:
        """The cost of the cells as they are, from the kept sums."""
        found = self.parts_points + self.cell_points + self.evenings()
        found += self._variety(len(self.mains))
        if self.minds_plants:
            found += self.plants.points()
        if self.minds_new:
            found += self.question.new_points(dish for dish, on in self.where.items() if on)
        return found

    def _variety(self, count: int) -> float:
        while count >= len(self.variety_memo):
            self.variety_memo.append(variety_cost(self.question, len(self.variety_memo)))
        return self.variety_memo[count]

    def _light(self, one: Cooked, sign: int) -> None:
        """Count the evenings on which a pot is cooked (sign 1), or no longer count them (-1)."""
        for evening, count in enumerate(one.counts):
            if count:
                self.lit[evening] += sign

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
        if self.minds_plants:
            self.plants.served(dish, sign, len(on) == (1 if sign > 0 else 0))
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
            sums = [sum(amounts) for amounts in zip(*rows, strict=True)]
            found = self.day_memo[key] = cost_of_day(self.question.day_prices, sums)
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
        most = self.question.rules.most_batches
        return EXTRA_POT * sum([count - most for count in self.lit if count > most])

    def broken(self, dish: int) -> float:
        """Points for a dish that comes too often or too close, locked cells forgiven, or too many
        days running.
        """
        return self._broken_on(dish, self.where[dish])

    def _broken_on(self, dish: int, on: list[int]) -> float:
        key = (dish, *on)
        found = self.broken_memo.get(key)
        if found is None:
            found = self.broken_memo[key] = _broken(
                self.question, dish, on, self.locked.get(dish, [])
            )
        return found

    def least_change(self, cell: int, new: int) -> float:
        """Points that another choice in a cell adds at least: exactly, save that all kinds of
        plants and new dishes are saved, and that what comes on top of a pot wastes nothing.
        """
        now, then, day = self.choice(cell), self.choices[cell][new], self.slots[cell][0]
        old, self.picked[cell] = self.picked[cell], new
        found = self.day_cost(day) - self.day_points[day] + then.cost - now.cost
        self.picked[cell] = old
        if now.dish != then.dish:
            found += self._change_of_dishes(cell, now.dish, then.dish)
        if now.uses or then.uses:
            found += self._least_of_pots(cell, now, then)
        if self.minds_plants:
            found -= self.plants.points()
        return found

    def _change_of_dishes(self, cell: int, out: int, put_in: int) -> float:
        """Points for how often dishes come, and how close, where one goes out of a cell and another
        comes in.
        """
        found, day = 0.0, self.slots[cell][0]
        if out >= 0:
            on = list(self.where[out])
            on.remove(day)
            found += self._broken_on(out, on) - self.broken_points.get(out, 0.0)
            found -= NEW if self.minds_new else 0.0
        if put_in >= 0:
            on = list(self.where.get(put_in, ()))
            insort(on, day)
            found += self._broken_on(put_in, on) - self.broken_points.get(put_in, 0.0)
        if self.main[cell]:
            count = len(self.mains)
            change = int(put_in >= 0 and put_in not in self.mains) - int(self.mains.get(out) == 1)
            found += self._variety(count + change) - self._variety(count)
        return found

    def _least_of_pots(self, cell: int, now: Choice, then: Choice) -> float:
        """Points for pots: without what goes exactly, and what comes eats at best what would have
        been left over.
        """
        found = -self.evenings()
        for pot, share in now.uses:
            demand, bits, taken = self.demand[pot], self.bits[cell][pot], round(share * FINE)
            demand[bits] -= taken
            found += self.pot_cost(pot).points - self.pot_points[pot].points
            demand[bits] += taken
        for _, share in then.uses:
            found -= WASTE * share
        return found

    def apply(self, changes: list[tuple[int, int]]) -> Any:
        """Put other choices into cells and bring every kept sum up to date; what `take_back` needs
        is returned.
        """
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
            back,
            self.total,
            self.cell_points,
            self.parts_points,
            {d: self.day_points[d] for d in days},
            {p: self.pot_points[p] for p in pots},
            {dish: self.broken_points.get(dish, 0.0) for dish in dishes},
        )
        self.shift(changes)
        change = 0.0
        for dish in dishes:
            points = self.broken(dish)
            change += points - self.broken_points.get(dish, 0.0)
            self.broken_points[dish] = points
        for day in days:
            points = self.day_cost(day)
            change += points - self.day_points[day]
            self.day_points[day] = points
        for pot in pots:
            old, new_one = self.pot_points[pot], self.pot_cost(pot)
            if new_one is not old:
                change += new_one.points - old.points
                self._light(old, -1)
                self._light(new_one, 1)
                self.pot_points[pot] = new_one
        self.parts_points += change
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
        back, total, cell_points, parts_points, days, pots, dishes = kept
        self.shift(back)
        self.total, self.cell_points, self.parts_points = total, cell_points, parts_points
        self.day_points.update(days)
        self.broken_points.update(dishes)
        for pot, one in pots.items():
            self._light(self.pot_points[pot], -1)
            self._light(one, 1)
            self.pot_points[pot] = one


def by_dish_of(options: tuple[Choice, ...]) -> dict[int, list[int]]:
    """The numbers of the options of each dish."""
    found: dict[int, list[int]] = {}
    for number, option in enumerate(options):
        found.setdefault(option.dish, []).append(number)
    return found


def _bits(question: Question, pot: int, slot: Slot) -> int:
    return supplies_at(
        question.pots[pot], slot, question.rules.cooking_days, len(question.meals) - 1
    )


def _broken(question: Question, dish: int, on: list[int], locked: list[int]) -> float:
    offer = question.offers[dish]
    found = max(0, len(on) - max(offer.most_uses, len(locked)))
    if offer.apart and len(on) > 1 and any(b - a < offer.apart for a, b in pairwise(on)):
        found = max(found, too_close(on, locked, offer.apart))
    many = len(on) + len(offer.before) > RUN_MOST
    dull = question.run_points(on, offer.before) if many and dish in question.main_dishes else 0.0
    return BROKEN * found + dull + question.wish_points(dish, len(on))


def too_close(on: list[int], locked: list[int], apart: int) -> int:
    """How many servings have to go, at least, so that any two lie `apart` days from one another;
    locked ones stay, however close.

    The days in order, each kept that is far enough from the one kept before it: no choice keeps
    more. So every serving that goes is seen, and a search is led out of a week that has many.

    >>> too_close([0, 0, 1, 1], [], 1), too_close([0, 1, 2], [], 2), too_close([0, 1], [0, 1], 2)
    (2, 1, 0)
    """
    free, last, gone = list(on), -apart, 0
    for day in locked:
        if day in free:
            free.remove(day)
    for day in free:
        if day - last < apart or any(abs(day - one) < apart for one in locked):
            gone += 1
        else:
            last = day
    return gone
