"""What holds a week's days together, as rows of a program: pots and their evenings, how often and
how close a dish comes, how many different ones there are.

Pots are counted, not followed serving by serving: for every set of supplies, what only they can
meet is at most what they hold (Hall's condition, exact because each meal takes from any supply that
is there). Waste is folded into the costs, so the objective stays positive and its relative gap
means something.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from itertools import combinations
from typing import Any

from dietetics.balance.solver import Program
from dietetics.week.plant_kinds import KIND, TOO_OFTEN
from dietetics.week.question.cooking_evenings import LEAST
from dietetics.week.question.question import (
    EXTRA_POT,
    FIRE,
    HALF,
    MISSING,
    MOST_HALVES,
    NEW,
    POT,
    RUN,
    RUN_DAYS,
    RUN_MOST,
    VARIETY,
    WASTE,
    WISH,
    Choice,
    Question,
    Slot,
)

MOST_MISSING = 100.0  # pots that may be missing at once: more than a week can eat
# The cells where a dish may stand, each with the variables of its portions there.
Places = list[tuple[Slot, list[int]]]


@dataclass
class Model:
    """The program and where its variables stand: cells by (slot, number of the choice), half pots
    and whether there is any by (pot, evening), uses of a dish, whether it is a main dish of the
    week, whether it is a new one, by the dish; what is missing of each pot, batches above what an
    evening takes, and all that has a price for variety; the cells of meals that stay empty though
    nobody locked them so; and marks of what a day misses.
    """

    program: Program
    cells: dict[tuple[Slot, int], int]
    pots: dict[tuple[int, int], int]
    fires: dict[tuple[int, int], int]
    choices: dict[Slot, tuple[Choice, ...]]
    constant: float
    uses: dict[int, int] = field(default_factory=dict)
    mains: dict[int, int] = field(default_factory=dict)
    new: dict[int, int] = field(default_factory=dict)
    missing: list[int] = field(default_factory=list)
    extra: list[int] = field(default_factory=list)
    variety: list[int] = field(default_factory=list)
    marks: list[int] = field(default_factory=list)
    empty: list[int] = field(default_factory=list)

    def of_menus(self) -> set[int]:
        """The variables that a menu holds, and no menu else."""
        return {*self.cells.values(), *self.marks}

    def priced(self, upper: float, cost: float) -> int:
        """A variable for what variety lacks, with its price."""
        self.variety.append(self.program.variable(0, upper, cost))
        return self.variety[-1]


def rows_across_days(question: Question) -> Model:
    """The cells with their own costs, and every row that is not of one day alone."""
    program = Program()
    choices = {slot: question.choices(slot) for slot in question.slots}
    cells = {
        (slot, n): program.variable(
            0, 1, choice.cost - WASTE * sum(share for _, share in choice.uses), whole=True
        )
        for slot, options in choices.items()
        for n, choice in enumerate(options)
    }
    cookings = [(p, day) for p in range(len(question.pots)) for day in question.rules.cooking_days]
    pots = {
        one: program.variable(0, MOST_HALVES, HALF * (POT + WASTE), whole=True) for one in cookings
    }
    fires = {one: program.variable(0, 1, FIRE, whole=True) for one in cookings}
    for one in cookings:
        program.row({pots[one]: 1.0, fires[one]: -float(MOST_HALVES)}, upper=0)
        program.row({pots[one]: 1.0, fires[one]: -1.0}, 0)
    constant = WASTE * sum(share for pot in question.pots for share, _ in pot.stock)
    model = Model(program, cells, pots, fires, choices, constant)
    model.empty = [
        cells[slot, n]
        for slot, options in choices.items()
        for n, choice in enumerate(options)
        if choice.dish < 0 and slot not in question.locks
    ]
    _pots(question, model)
    _dishes(question, model)
    return model


@dataclass(frozen=True)
class _Use:
    """One way to fill a cell that takes from a pot: its place, its dish, and the share it takes."""

    slot: Slot
    dish: int
    cell: int
    share: float


def _uses_of_pots(model: Model) -> dict[int, list[_Use]]:
    """Who takes from each pot."""
    found: dict[int, list[_Use]] = {}
    for (slot, n), cell in model.cells.items():
        choice = model.choices[slot][n]
        for pot, share in choice.uses:
            found.setdefault(pot, []).append(_Use(slot, choice.dish, cell, share))
    return found


def _pots(question: Question, model: Model) -> None:
    """Every use is met in time, and an evening takes so many pots."""
    program, rules = model.program, question.rules
    uses_of_pots = _uses_of_pots(model)
    for p, facts in enumerate(question.pots):
        supplies: list[tuple[str, Any]] = [("stock", i) for i in range(len(facts.stock))]
        supplies += [("day", day) for day in rules.cooking_days]
        here = uses_of_pots.get(p, [])
        meets = {
            slot: frozenset(
                n for n, supply in enumerate(supplies) if _meets(question, p, supply, slot)
            )
            for slot in dict.fromkeys(use.slot for use in here)
        }
        uses: dict[frozenset[int], dict[int, float]] = {}
        users: dict[Slot, list[int]] = {}
        for use in here:
            if use.share:
                uses.setdefault(meets[use.slot], {})[use.cell] = use.share
                users.setdefault(use.slot, []).append(use.cell)
        for slot, cells in users.items():
            from_stock = any(supplies[n][0] == "stock" for n in meets[slot])
            if slot not in question.locks and not from_stock:
                there = {model.fires[p, supplies[n][1]]: 1.0 for n in meets[slot]}
                program.row({**there, **dict.fromkeys(cells, -1.0)}, 0)
        _hall(model, p, facts.stock, supplies, uses)
        _lit(question, model, p, supplies, here, meets)
    for day in rules.cooking_days:
        extra = program.variable(0, len(question.pots), EXTRA_POT)
        model.extra.append(extra)
        cooked = {model.fires[p, day]: 1.0 for p in range(len(question.pots))}
        if cooked:
            program.row({**cooked, extra: -1.0}, upper=rules.most_batches)


def _meets(question: Question, pot: int, supply: tuple[str, Any], slot: Slot) -> bool:
    kind, which = supply
    if kind == "stock":
        return bool(slot[0] <= question.pots[pot].stock[which][1])
    return question.reaches(pot, which, slot)


def _hall(
    model: Model,
    pot: int,
    stock: tuple[tuple[float, int], ...],
    supplies: list[tuple[str, Any]],
    uses: dict[frozenset[int], dict[int, float]],
) -> None:
    """What only a set of supplies can meet is at most what the set holds, for every set."""
    missing = model.program.variable(0, MOST_MISSING, MISSING + WASTE)
    model.missing.append(missing)
    for size in range(1, len(supplies) + 1):
        for chosen in combinations(range(len(supplies)), size):
            only = [terms for meets, terms in uses.items() if meets <= set(chosen)]
            if not only:
                continue
            row = {cell: share for terms in only for cell, share in terms.items()}
            held = sum(stock[supplies[n][1]][0] for n in chosen if supplies[n][0] == "stock")
            row.update(
                {model.pots[pot, supplies[n][1]]: -HALF for n in chosen if supplies[n][0] == "day"}
            )
            model.program.row({**row, missing: -1.0}, upper=held + LEAST)


def _lit(
    question: Question,
    model: Model,
    pot: int,
    supplies: list[tuple[str, Any]],
    uses: list[_Use],
    meets: dict[Slot, frozenset[int]],
) -> None:
    """What a dish takes from a set of cooking evenings alone is at most as often as it may come
    there, and nothing unlit.

    Implied for whole numbers; without it the relaxation lights a little fire for every meal, and
    its bound is weak.
    """
    days = [n for n, (kind, _) in enumerate(supplies) if kind == "day"]
    by_dish: dict[int, list[_Use]] = {}
    for use in uses:
        by_dish.setdefault(use.dish, []).append(use)
    for dish, where in by_dish.items():
        offer = question.offers[dish]
        for size in range(1, len(days) + 1):
            for chosen in combinations(days, size):
                only = [use for use in where if meets[use.slot] <= set(chosen)]
                if only:
                    slots = {use.slot for use in only}
                    room = _room(offer.most_uses, offer.apart, slots) + sum(
                        slot in question.locks for slot in slots
                    )
                    lit = {model.fires[pot, supplies[n][1]]: -float(room) for n in chosen}
                    model.program.row({**{use.cell: 1.0 for use in only}, **lit}, upper=0)


def _room(most_uses: int, apart: int, slots: set[Slot]) -> int:
    """How often a dish can come at these meals: so often as it may, and as far apart as it must."""
    if apart == 0:
        return min(most_uses, len(slots))
    count, last = 0, -99
    for day in sorted({day for day, _ in slots}):
        if day - last >= apart:
            count, last = count + 1, day
    return min(most_uses, count)


def _places_of_dishes(model: Model) -> dict[int, Places]:
    """For each dish the cells where it may stand, each with the variables of its portions."""
    placed: dict[int, Places] = {}
    for slot, options in model.choices.items():
        here: dict[int, list[int]] = {}
        for n, choice in enumerate(options):
            if choice.dish >= 0:
                here.setdefault(choice.dish, []).append(model.cells[slot, n])
        for dish, cells in here.items():
            placed.setdefault(dish, []).append((slot, cells))
    return placed


def _within(where: Places, span: range) -> list[int]:
    """The variables of a dish on the days of a span."""
    return [c for (day, _), cells in where if day in span for c in cells]


def _uses_of_dish(question: Question, model: Model, dish: int, where: Places) -> int:
    """How often and how close one dish may come; what was locked by hand is allowed. The most."""
    program, offer = model.program, question.offers[dish]
    locked = [day for (day, _), (key, _) in question.locks.items() if key == offer.key]
    most = max(offer.most_uses, len(locked))
    uses = model.uses[dish] = program.variable(0, most)
    program.row({**{c: 1.0 for _, cells in where for c in cells}, uses: -1.0}, 0, 0)
    for start in range(len(question.kinds)) if offer.apart else ():
        span = range(start, start + offer.apart)
        near = _within(where, span)
        if near:
            program.row(dict.fromkeys(near, 1.0), upper=max(1, sum(day in span for day in locked)))
    return most


def _runs_of_dish(question: Question, model: Model, dish: int, where: Places) -> None:
    """What it costs when a main dish comes more than RUN_MOST times within RUN_DAYS days."""
    before = question.offers[dish].before
    for start in question.run_starts(before):
        span = range(start, start + RUN_DAYS)
        eaten = sum(day in span for day in before)
        dull = model.priced(len(where) + len(before), RUN)
        near = _within(where, span)
        model.program.row({**dict.fromkeys(near, 1.0), dull: -1.0}, upper=RUN_MOST - eaten)


def _repeats_of_dish(question: Question, model: Model, dish: int, where: Places) -> None:
    """What it costs when a dish comes on two days running at the same meal."""
    if question.is_wished_daily(dish):
        return
    at = dict(where)
    for (day, meal), cells in at.items():
        after = at.get((day + 1, meal))
        if after:
            repeat = model.priced(1, question.repeat_price(meal))
            model.program.row({**dict.fromkeys([*cells, *after], 1.0), repeat: -1.0}, upper=1)


def _dishes(question: Question, model: Model) -> None:
    """How often and how close a dish may come, and how many different main dishes there are."""
    program = model.program
    for dish, where in _places_of_dishes(model).items():
        offer = question.offers[dish]
        most = _uses_of_dish(question, model, dish, where)
        if offer.new and question.rules.most_new is not None:
            model.new[dish] = _used(question, program, dish, where, most)
        if dish in question.main_dishes:
            _runs_of_dish(question, model, dish, where)
        _repeats_of_dish(question, model, dish, where)
        mains = [(slot, cells) for slot, cells in where if question.meals[slot[1]].main]
        if mains and question.rules.different is not None:
            model.mains[dish] = _used(question, program, dish, mains, most)
            _cooked_if_used(question, model, dish, mains)
    _plant_kinds(question, model)
    new, used = list(model.new.values()), list(model.mains.values())
    if new and question.rules.most_new is not None:
        extra = model.priced(len(new), NEW)
        program.row({**dict.fromkeys(new, 1.0), extra: -1.0}, upper=question.rules.most_new)
    if question.rules.different is not None and used:
        off = model.priced(len(used) + question.rules.different, VARIETY)
        program.row({**dict.fromkeys(used, -1.0), off: 1.0}, -question.rules.different)
        program.row({**dict.fromkeys(used, 1.0), off: 1.0}, question.rules.different)


def _plant_kinds(question: Question, model: Model) -> None:
    """How many kinds of a group the week lacks, and what is served too often or too seldom."""
    program, offers = model.program, question.offers
    for group, least in question.rules.plant_kinds.items():
        by_kind: dict[str, list[int]] = {}
        for dish, uses in model.uses.items():
            for kind in sorted(offers[dish].plant_kinds.get(group, ())):
                by_kind.setdefault(kind, []).append(uses)
        there = []
        for uses_of_kind in by_kind.values():
            there.append(program.variable(0, 1))
            program.row({**dict.fromkeys(uses_of_kind, 1.0), there[-1]: -1.0}, 0)
        missing = model.priced(max(0, least), KIND)
        program.row({**dict.fromkeys(there, 1.0), missing: 1.0}, least)
    for group, most in question.rules.most_servings.items():
        served = [uses for dish, uses in model.uses.items() if offers[dish].plant_kinds.get(group)]
        if served:
            above = model.priced(len(question.slots), TOO_OFTEN)
            program.row({**dict.fromkeys(served, 1.0), above: -1.0}, upper=most)
    for dish in question.wished:
        short = model.priced(offers[dish].least_uses, WISH)
        program.row({model.uses[dish]: 1.0, short: 1.0} if dish in model.uses else {short: 1.0},
                    offers[dish].least_uses)  # fmt: skip


def _cooked_if_used(question: Question, model: Model, dish: int, mains: Places) -> None:
    """A main dish of the week lights a fire for each pot it takes from and of which nothing is
    there; and on a day it lights one that reaches the day, at whichever of its meals it stands.

    Implied for whole numbers, and what makes the bound worth having: without them a third of a dish
    lights a third of a fire.
    """
    program, offer = model.program, question.offers[dish]
    if any(slot in question.locks for slot, _ in mains):
        return
    for key in dict.fromkeys([*offer.own, *offer.table]):
        pot = question.pot_index[key]
        if question.pots[pot].stock:
            continue
        evenings = question.rules.cooking_days
        fires = {model.fires[pot, evening]: 1.0 for evening in evenings}
        program.row({**fires, model.mains[dish]: -1.0}, 0)
        for day in {slot[0] for slot, _ in mains} if offer.apart else ():
            here = [(slot, cells) for slot, cells in mains if slot[0] == day]
            reaching = [
                evening
                for evening in evenings
                if any(question.reaches(pot, evening, slot) for slot, _ in here)
            ]
            program.row(
                {
                    **{model.fires[pot, evening]: 1.0 for evening in reaching},
                    **{cell: -1.0 for _, cells in here for cell in cells},
                },
                0,
            )


def _used(question: Question, program: Program, dish: int, mains: Places, most: int) -> int:
    """A variable that is 1 exactly when a dish stands in one of these meals, `most` times at the
    most.
    """
    flag = program.variable(0, 1)
    program.row({flag: float(most), **{c: -1.0 for _, cells in mains for c in cells}}, 0)
    once_a_day = question.offers[dish].apart and not any(
        slot in question.locks for slot, _ in mains
    )
    together: dict[object, list[int]] = {}
    for slot, cells in mains:
        together.setdefault(slot[0] if once_a_day else slot, []).extend(cells)
    for cells in together.values():
        program.row({flag: 1.0, **dict.fromkeys(cells, -1.0)}, 0)
    program.row({flag: -1.0, **{c: 1.0 for _, cells in mains for c in cells}}, 0)
    return flag
