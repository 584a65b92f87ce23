"""A week improved and bounded: the same costs as a mixed-integer program, started from a week that
is there already.

Pots are counted, not followed serving by serving: for every set of supplies, what only they can
meet is at most what they hold (Hall's condition, exact because each meal takes from any supply that
is there). Waste is folded into the costs, so the objective stays positive and its relative gap
means something.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from importlib import import_module
from itertools import combinations
from typing import Any

from dietetics.balance.solver import INFINITY, Program, fresh_solver, highs_lp
from dietetics.nutrients import DENSITY
from dietetics.targets.windows import Window
from dietetics.week.answer import Answer, answer_of
from dietetics.week.question import (
    ASK,
    EXTRA_POT,
    FIRE,
    HALF,
    MISSING,
    MOST_HALVES,
    NEW,
    PER_CENT,
    POT,
    RUN,
    RUN_DAYS,
    RUN_MOST,
    VARIETY,
    WASTE,
    Choice,
    Question,
    Slot,
)
from dietetics.week.recheck import checked_week

# The cells where a dish may stand, each with the variables of its portions there.
Places = list[tuple[Slot, list[int]]]
Told = Callable[[float, float, float], bool]  # (seconds, points, bound) → go on?
MANY_NODES = 2_000_000_000


@dataclass
class Model:
    """The program and where its variables stand: cells by (slot, number of the choice), half pots
    and whether there is any by (pot, evening).
    """

    program: Program
    cells: dict[tuple[Slot, int], int]
    pots: dict[tuple[int, int], int]
    fires: dict[tuple[int, int], int]
    choices: dict[Slot, tuple[Choice, ...]]
    constant: float


def build(question: Question) -> Model:
    """The program of a question."""
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
    for slot, options in choices.items():
        program.row({cells[slot, n]: 1.0 for n in range(len(options))}, 1, 1)
    _days(question, model)
    _pots(question, model)
    _dishes(question, model)
    return model


def _sum(
    question: Question, model: Model, day: int, key: str, factor: float = 1.0
) -> dict[int, float]:
    """What is added up of `key` over a day, as terms of a row."""
    place = question.keys.index(key)
    return {
        model.cells[slot, n]: choice.vector[place] * factor
        for slot, options in model.choices.items()
        if slot[0] == day
        for n, choice in enumerate(options)
        if choice.vector[place]
    }


def _days(question: Question, model: Model) -> None:
    """How far each day misses its targets and the dietary approach."""
    program = model.program
    for day in sorted({slot[0] for slot in question.slots}):
        for window in question.windows:
            missed = program.variable(0, INFINITY, 100 * PER_CENT[window.importance])
            for terms, bound in _sides(question, model, day, window):
                program.row({**terms, missed: 1.0}, bound)
        for ask in question.asks:
            if ask.low > 0:
                short = program.variable(0, 1, ASK[ask.importance])
                program.row(
                    {**_sum(question, model, day, f"ask:{ask.key}", 1 / ask.low), short: 1.0}, 1
                )


def _sides(
    question: Question, model: Model, day: int, window: Window
) -> list[tuple[dict[int, float], float]]:
    """For each side of a window: terms and bound so that terms + missed ≥ bound, missed as a share
    of the line.
    """
    low, high, found = window.low, window.high, []
    if window.key == DENSITY:
        usual = question.usual_energy
        energy, grams = (
            _sum(question, model, day, "energy_kcal"),
            _sum(question, model, day, "grams"),
        )
        for line, sign in ((high, -1.0), (low, 1.0)):
            if line is not None:
                terms = {i: sign * v / usual for i, v in energy.items()}
                for i, v in grams.items():
                    terms[i] = terms.get(i, 0.0) - sign * line * v / usual
                found.append((terms, 0.0))
        return found
    if low is not None:
        line = question.line(low, high)
        found.append((_sum(question, model, day, window.key, 1 / line), low / line))
    if high is not None:
        line = question.line(high, low)
        found.append((_sum(question, model, day, window.key, -1 / line), -high / line))
    return found


def _pots(question: Question, model: Model) -> None:
    """Every use is met in time, and an evening takes so many pots."""
    program, rules = model.program, question.rules
    for p, facts in enumerate(question.pots):
        supplies: list[tuple[str, Any]] = [("stock", i) for i in range(len(facts.stock))]
        supplies += [("day", day) for day in rules.cooking_days]
        uses: dict[frozenset[int], dict[int, float]] = {}
        for slot, options in model.choices.items():
            meets = frozenset(
                n for n, supply in enumerate(supplies) if _meets(question, p, supply, slot)
            )
            by_dish: dict[int, list[int]] = {}
            for n, choice in enumerate(options):
                for pot, share in choice.uses:
                    if pot == p and share:
                        uses.setdefault(meets, {})[model.cells[slot, n]] = share
                        by_dish.setdefault(choice.dish, []).append(model.cells[slot, n])
            if (
                by_dish
                and slot not in question.locks
                and not any(supplies[n][0] == "stock" for n in meets)
            ):
                there = {model.fires[p, supplies[n][1]]: 1.0 for n in meets}
                users = [cell for cells in by_dish.values() for cell in cells]
                program.row({**there, **dict.fromkeys(users, -1.0)}, 0)
        _hall(model, p, facts.stock, supplies, uses)
        _lit(question, model, p, supplies)
    for day in rules.cooking_days:
        extra = program.variable(0, INFINITY, EXTRA_POT)
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
    missing = model.program.variable(0, INFINITY, MISSING + WASTE)
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
            model.program.row({**row, missing: -1.0}, upper=held)


def _lit(question: Question, model: Model, pot: int, supplies: list[tuple[str, Any]]) -> None:
    """What a dish takes from a set of cooking evenings alone is at most as often as it may come
    there, and nothing unlit.

    Implied for whole numbers; without it the relaxation lights a little fire for every meal, and
    its bound is weak.
    """
    days = [n for n, (kind, _) in enumerate(supplies) if kind == "day"]
    by_dish: dict[int, list[tuple[Slot, frozenset[int], int]]] = {}
    for slot, options in model.choices.items():
        meets = frozenset(
            n for n, supply in enumerate(supplies) if _meets(question, pot, supply, slot)
        )
        for n, choice in enumerate(options):
            if any(p == pot for p, _ in choice.uses):
                by_dish.setdefault(choice.dish, []).append((slot, meets, model.cells[slot, n]))
    for dish, where in by_dish.items():
        offer = question.offers[dish]
        for size in range(1, len(days) + 1):
            for chosen in combinations(days, size):
                only = [(slot, cell) for slot, meets, cell in where if meets <= set(chosen)]
                if only:
                    slots = {slot for slot, _ in only}
                    room = _room(offer.most_uses, offer.apart, slots) + sum(
                        slot in question.locks for slot in slots
                    )
                    lit = {model.fires[pot, supplies[n][1]]: -float(room) for n in chosen}
                    model.program.row({**{cell: 1.0 for _, cell in only}, **lit}, upper=0)


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


def _uses_of_dish(question: Question, program: Program, dish: int, where: Places) -> int:
    """How often and how close one dish may come; what was locked by hand is allowed. The most."""
    offer = question.offers[dish]
    locked = [day for (day, _), (key, _) in question.locks.items() if key == offer.key]
    most = max(offer.most_uses, len(locked))
    program.row({c: 1.0 for _, cells in where for c in cells}, upper=most)
    for start in range(len(question.kinds)) if offer.apart else ():
        span = range(start, start + offer.apart)
        near = _within(where, span)
        if near:
            program.row(dict.fromkeys(near, 1.0), upper=max(1, sum(day in span for day in locked)))
    return most


def _runs_of_dish(question: Question, program: Program, where: Places) -> None:
    """What it costs when a main dish comes more than RUN_MOST times within RUN_DAYS days."""
    for start in range(len(question.kinds) - RUN_DAYS + 1):
        dull = program.variable(0, INFINITY, RUN)
        near = _within(where, range(start, start + RUN_DAYS))
        program.row({**dict.fromkeys(near, 1.0), dull: -1.0}, upper=RUN_MOST)


def _dishes(question: Question, model: Model) -> None:
    """How often and how close a dish may come, and how many different main dishes there are."""
    program = model.program
    used, new = [], []
    for dish, where in _places_of_dishes(model).items():
        offer = question.offers[dish]
        if offer.new and question.rules.most_new is not None:
            new.append(_used(program, where, max(offer.most_uses, len(where))))
        most = _uses_of_dish(question, program, dish, where)
        if dish in question.main_dishes:
            _runs_of_dish(question, program, where)
        mains = [(slot, cells) for slot, cells in where if question.meals[slot[1]].main]
        if mains and question.rules.different is not None:
            used.append(_used(program, mains, most))
    if new and question.rules.most_new is not None:
        extra = program.variable(0, INFINITY, NEW)
        program.row({**dict.fromkeys(new, 1.0), extra: -1.0}, upper=question.rules.most_new)
    if question.rules.different is not None and used:
        off = program.variable(0, INFINITY, VARIETY)
        program.row({**dict.fromkeys(used, -1.0), off: 1.0}, -question.rules.different)
        program.row({**dict.fromkeys(used, 1.0), off: 1.0}, question.rules.different)


def _used(program: Program, mains: Places, most: int) -> int:
    """A variable that is 1 exactly when a dish stands in one of these meals, `most` times at the
    most.
    """
    flag = program.variable(0, 1)
    program.row({flag: float(most), **{c: -1.0 for _, cells in mains for c in cells}}, 0)
    for _, cells in mains:
        program.row({flag: 1.0, **dict.fromkeys(cells, -1.0)}, 0)
    program.row({flag: -1.0, **{c: 1.0 for _, cells in mains for c in cells}}, 0)
    return flag


def improve(
    question: Question, start: Answer, seconds: float = 20.0, told: Told | None = None
) -> Answer:
    """The start improved and bounded within `seconds`, or until `told` says no. Never worse than
    the start.

    The bound is proven whatever stops the search: no week costs less.
    """
    highspy = import_module("highspy")
    model = build(question)
    solver = fresh_solver(seconds, MANY_NODES)
    for name, value in (("mip_rel_gap", 1e-4), ("mip_abs_gap", 1e-4)):
        solver.setOptionValue(name, value)
    if solver.passModel(highs_lp(model.program)) == highspy.HighsStatus.kError:
        raise RuntimeError("the solver refused the program")
    _start_from(highspy, solver, model, start)
    seen = {"bound": -INFINITY}
    _listen(highspy, solver, model, told, seen)
    solver.run()
    status, kinds = solver.getModelStatus(), highspy.HighsModelStatus
    info = solver.getInfo()
    bound = float(info.mip_dual_bound) if status != kinds.kInfeasible else -INFINITY
    bound = max(bound, seen["bound"]) + model.constant
    found = start
    if info.primal_solution_status == highspy.SolutionStatus.kSolutionStatusFeasible:
        read = _read(question, model, solver.getSolution().col_value, start)
        found = read if read.points < start.points - 1e-6 else start
    proven = max(bound, 0.0) if bound > -INFINITY else None
    return checked_week(replace(found, bound=None if proven is None else min(proven, found.points)))


def _start_from(highspy: Any, solver: Any, model: Model, start: Answer) -> None:
    """Give the solver the week that is there: its cells and pots; the rest follows from them."""
    values = [0.0] * len(model.program.costs)
    for slot, options in model.choices.items():
        wanted = start.chosen[slot]
        n = next(
            (i for i, o in enumerate(options) if (o.dish, o.scale) == (wanted.dish, wanted.scale)),
            0,
        )
        values[model.cells[slot, n]] = 1.0
    keys = start.question.pot_index
    for (key, day), count in start.cooked.items():
        values[model.pots[keys[key], day]] = round(count / HALF)
        values[model.fires[keys[key], day]] = 1.0
    indices = [*model.cells.values(), *model.pots.values(), *model.fires.values()]
    numpy = import_module("numpy")
    solver.setSolution(
        len(indices),
        numpy.array(indices, dtype=numpy.int32),
        numpy.array([values[i] for i in indices], dtype=float),
    )


def _listen(
    highspy: Any, solver: Any, model: Model, told: Told | None, seen: dict[str, float]
) -> None:
    """Hear how far the search is, and stop it when nobody wants more."""
    kinds = highspy.cb.HighsCallbackType

    def heard(kind: Any, message: str, out: Any, into: Any, data: Any) -> None:
        bound = float(out.mip_dual_bound)
        if abs(bound) < 1e20:
            seen["bound"] = max(seen["bound"], bound)
        points = float(out.mip_primal_bound) + model.constant
        if told is not None and not told(
            float(out.running_time), points, seen["bound"] + model.constant
        ):
            into.user_interrupt = True

    solver.setCallback(heard, None)
    solver.startCallback(kinds.kCallbackMipInterrupt)


def _read(question: Question, model: Model, values: Any, start: Answer) -> Answer:
    chosen: Mapping[Slot, Choice] = {
        slot: options[max(range(len(options)), key=lambda n: values[model.cells[slot, n]])]
        for slot, options in model.choices.items()
    }
    return answer_of(question, chosen, start.seed, start.moves)
