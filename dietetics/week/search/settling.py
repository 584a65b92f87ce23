"""What matters most in a week settled first, each in its turn: meals, required targets, what is
usual, recommended targets, variety. A week that is best in all of that is looked for before: where
there is one, it is found sooner than it is proven step by step. What is left for the search are the
ways to spend each day with which nothing of that is worse.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property, partial

import numpy as np
from numpy.typing import NDArray

from dietetics.balance.solver import INFINITY
from dietetics.week.question.answer import Answer, answer_of, extra_pots
from dietetics.week.question.cooking_evenings import LEAST
from dietetics.week.question.priorities import BITS, Misses, misses_of, misses_of_meal, standing_of
from dietetics.week.question.question import Choice, Question, Slot
from dietetics.week.search.day_menus import DayMenus, Floats, Listed, Ranks, menus_of
from dietetics.week.search.priority_program import (
    A_POINT,
    ALL_ROWS,
    EXTRAS,
    FOREMOST,
    NO_ROWS,
    SOME_ROWS,
    Found,
    PriorityProgram,
    lacking_of,
    lacks_of,
)
from dietetics.week.search.week_rows import Model, rows_across_days

Places = NDArray[np.intp]
MOST_WAYS, MOST_WAYS_OF_ANY_MEAL = 3_000_000, 1_500_000  # of one day
# Menus of a day given to the solver: all where they are so few, else the best of them, at most; and
# of different dishes, for variety.
ALL_OF_A_DAY, FEW, MOST_COLUMNS, MOST_DISHES = 400, 100, 1_500, 700
MOST_LEFT = 200_000  # menus of a day that the search goes on with
MOST_RELAXED = 600  # menus of a week of which relaxations tell the points soon
# Deterministic seconds of the solver for a thing that is to be least: at most, where few menus are
# tried first, and for the points.
WORK, LIGHT_WORK, WORK_FOR_POINTS = 2.0, 0.8, 0.7


@dataclass(frozen=True)
class Settled:
    """A week in which what matters most is settled, and the menus among which the search may go
    on. `misses` and `variety` (points) are what no other week there may exceed; `proven` where no
    week misses less, `variety_proven` where none of those is more varied, `whole` where every menu
    that such a week could hold is there.
    """

    week: Answer
    model: Model
    menus: list[DayMenus]
    misses: Misses
    variety: float
    proven: bool
    variety_proven: bool
    whole: bool
    marks: Mapping[tuple[int, int], int]

    def allows(self, week: Answer) -> bool:
        """True for a week that misses no more, is as varied, and cooks what it eats."""
        return (
            standing_of(week)[:-1] <= standing_of(self.week)[:-1]
            and week.parts["variety"] <= self.variety + 1e-6
        )


def settle(question: Question) -> Settled:
    """Settle a question's priorities. Repeatable: nothing here looks at a clock.

    Days in which no meal misses anything by itself are tried first, on evenings that are not too
    full; all others only where these are not enough.
    """
    tried: list[_Settling] = []
    held = bool(question.locks or question.beside)
    for every_meal, may_lack in ((False, held), (False, True), (True, True)):
        most = MOST_WAYS_OF_ANY_MEAL if every_meal else MOST_WAYS
        model = rows_across_days(question)
        listed = menus_of(question, model, most, every_meal)
        one = _Settling(question, model, listed, may_lack)
        tried.append(one)
        if one.finds_a_week() and one.is_enough(listed.meals_left_out):
            return one.finished()
    found = [one for one in tried if one.best is not None]
    if not found:
        return tried[-1].unsettled()
    return min(found, key=_Settling.stands).finished()


@dataclass(frozen=True)
class _Best:
    """The best week of some menus: the value that was to be least, whether it is proven to be, its
    days (one menu each) and all that is no cell.
    """

    value: int
    proven: bool
    days: list[DayMenus]
    others: Mapping[int, int]


class _Settling:
    """One try with the menus of a list."""

    def __init__(self, question: Question, model: Model, listed: Listed, may_lack: bool) -> None:
        self.question, self.model, self.may_lack = question, model, may_lack
        self.days, self.cut = listed.days, listed.cut
        self.most_lacking, self.most_extra, self.least_lacks = 0, 0, True
        self.most_foremost: int | None = None
        # what nobody wants to stand there is cooked in time
        self.may_miss = bool(question.locks or question.beside)
        self.best: _Best | None = None
        self.is_best_of_all = False  # in all that is settled
        self.misses, self.above, self.proven = Misses(), 0, False
        costs = self.model.program.costs
        self.dishes = np.full(len(costs), -1, dtype=np.int64)
        self.kinds = np.zeros(len(costs), dtype=np.int64)  # alike for what matters across days
        self.taken = np.zeros(len(costs))  # of pots, together
        self.main = np.zeros(len(costs), dtype=bool)
        kinds: dict[tuple[int, float], int] = {}
        for (slot, n), variable in self.model.cells.items():
            choice = self.model.choices[slot][n]
            self.dishes[variable] = choice.dish
            kind = (choice.dish, choice.scale if choice.uses else 0.0)
            self.kinds[variable] = kinds.setdefault(kind, len(kinds))
            self.taken[variable] = sum(share for _, share in choice.uses)
            self.main[variable] = question.meals[slot[1]].main

    def finds_a_week(self) -> bool:
        """Find the week that misses least; False where none of these menus can be."""
        if any(not len(day.costs) for day in self.days):
            return False
        self.best = self._best_of_all()
        self.is_best_of_all = self.proven = self.best is not None
        if not self.is_best_of_all:
            found = self._least_missed()
            if found is None:
                return False
            self.above, self.proven, self.best = found
        self.misses = _unpacked(sum(int(day.ranks.min()) for day in self.days) + self.above)
        return True

    def _best_of_all(self) -> _Best | None:
        """A week in which each day misses no more than it has to by itself, nothing is lacking and
        variety lacks nothing, where one is found quickly: none can be better.
        """
        least = _each(self.days, lambda day: np.flatnonzero(day.ranks == day.ranks.min()))
        few = _each(_each(least, self._cheapest_of_each), self._few)
        program = PriorityProgram(self.model, few, may_lack=False, may_miss=False)
        return self._without_repeats(program)

    def _without_repeats(self, program: PriorityProgram) -> _Best | None:
        """A week of a program in which variety lacks nothing, where one is found quickly."""
        program.hold(program.variety(), 0)
        return _best_of(program, program.any_week(LIGHT_WORK))

    def is_enough(self, meals_left_out: bool) -> bool:
        """True where nothing that was not allowed here could be better: other meals, where each
        that stands misses as little as any could there; fuller evenings, where required targets
        miss no more than with each day by itself.
        """
        if meals_left_out and self.misses.meals > _least_of_meals(self.question, self.model):
            return False
        required = sum(one >> FOREMOST for one in self._least.values())
        return self.may_lack or self.misses.packed() >> FOREMOST == required

    def stands(self) -> tuple[int, tuple[int, int], int, Misses]:
        """What the week that was found lacks and misses, the most important first."""
        return self.most_lacking, self.misses[:2], self.most_extra, self.misses

    def finished(self) -> Settled:
        """The week that was found, as varied as can be, with what is left for the search."""
        assert self.best is not None
        left = self._left(self.misses)
        return self._most_varied(left, self.misses, self.above, self.proven, self.best)

    def unsettled(self) -> Settled:
        """Where no week was found in time: one with empty meals, to begin the search with."""
        week = answer_of(
            self.question, {slot: options[0] for slot, options in self.model.choices.items()}
        )
        misses, variety = misses_of(week), week.parts["variety"]
        self.most_lacking = lacking_of(week.lacking())
        self.most_extra = extra_pots(self.question, week.cooked)
        left = self._left(misses)
        return self._settled(week, left, misses, variety, False, False)

    def _program(self, menus: Sequence[DayMenus], best: _Best | None) -> PriorityProgram:
        """The program of some menus and of the best week so far, with which it begins; no more
        lacking than has to be.
        """
        if best is not None:
            menus = [_with(one, more) for one, more in zip(menus, best.days, strict=True)]
        program = PriorityProgram(self.model, menus, self.may_lack, self.may_miss)
        if best is not None:
            program.hint({one.day: len(one.costs) - 1 for one in menus}, best.others)
        if self.may_lack:
            program.hold(program.lacking(), self.most_lacking)
            if self.most_foremost is not None:
                program.hold(program.foremost(self._least), self.most_foremost)
        return program

    def _least_lacking(self) -> _Best | None:
        """The week that lacks least, where something may be lacking; what it lacks is noted."""
        every = _each(self.days, self._smallest)
        columns = _each(every, self._few)
        found = self._lacking_least_of(columns)
        if (found is None or found.value) and not _are_all(columns, every):
            columns = _each(every, self._at_most)
            found = self._lacking_least_of(columns) or found
        if found is not None:
            self.most_lacking = found.value
            whole = not self.cut and _are_all(columns, every)
            self.least_lacks = found.proven and (not found.value or whole)
            found = self._foremost_least(found)
        return found

    def _lacking_least_of(self, menus: list[DayMenus]) -> _Best | None:
        """The week of these menus that lacks least."""
        program = PriorityProgram(self.model, menus, self.may_lack, self.may_miss)
        return _best_of(program, program.least(program.lacking(), LIGHT_WORK))

    def _foremost_least(self, best: _Best) -> _Best:
        """Of the weeks that lack no more, the one that misses least of meals and required targets,
        and then has the fewest batches above what evenings take.
        """
        columns = _each(self.days, self._few)
        program = self._program(columns, best)
        found = _best_of(program, program.least(program.foremost(self._least), LIGHT_WORK))
        if found is None:  # not in time: what is known stands
            found = replace(best, value=self._foremost_of(best), proven=False)
        self.most_foremost = found.value
        self.most_extra = found.value % EXTRAS
        self.least_lacks &= found.proven and (not found.value or self._are_all(columns))
        return found

    def _foremost_of(self, best: _Best) -> int:
        """`PriorityProgram.foremost` of a week."""
        missed = sum(
            (int(day.ranks[0]) >> FOREMOST) - (self._least[day.day] >> FOREMOST)
            for day in best.days
        )
        return EXTRAS * missed + sum(best.others[j] for j in self.model.extra)

    def _missed_of(self, best: _Best) -> int:
        """`PriorityProgram.missed` of a week."""
        return sum(int(day.ranks[0]) - self._least[day.day] for day in best.days)

    @cached_property
    def _least(self) -> dict[int, int]:
        """What each day by itself misses at least, packed."""
        return {day.day: int(day.ranks.min()) for day in self.days}

    def _least_missed(self) -> tuple[int, bool, _Best] | None:
        """What the best week misses above the least of each day by itself, packed; whether no week
        misses less; and that week.
        """
        few = _each(self.days, self._few)
        lacking = self._least_lacking() if self.may_lack else None
        if self.may_lack and lacking is None:
            return None
        best = self._least_of(few, lacking, LIGHT_WORK)
        if best is None and lacking is not None:  # not in time: what is known stands
            best = replace(lacking, value=self._missed_of(lacking), proven=False)
        if best is not None and (best.value == 0 or (best.proven and self._are_all(few))):
            return best.value, best.proven and self.least_lacks, best
        if best is None and self._are_all(few):
            return None
        wide = _each(self.days, partial(self._up_to, above=best.value if best else None))
        columns = _each(wide, self._at_most)
        found = self._least_of(columns, best, WORK if best else LIGHT_WORK)
        if found is None:
            return None if best is None else (best.value, False, best)
        whole = (not self.cut and _are_all(columns, wide)) or found.value == 0
        return found.value, found.proven and whole and self.least_lacks, found

    @cached_property
    def _every(self) -> list[DayMenus]:
        """All menus that differ in what matters across days."""
        return _each(self.days, partial(self._up_to, above=None))

    def _are_all(self, menus: Sequence[DayMenus]) -> bool:
        """True where these are all that differ in what matters across days."""
        return not self.cut and _are_all(menus, self._every)

    def _least_of(self, menus: list[DayMenus], best: _Best | None, work: float) -> _Best | None:
        """The week of these menus, and of the best so far, that misses least."""
        program = self._program(menus, best)
        return _best_of(program, program.least(program.missed(self._least), work))

    def _few(self, day: DayMenus) -> Places:
        """The best of each set of main dishes, the best of all, and the day with the least in it;
        or all that differ in what matters across days, where they are few.
        """
        every = self._up_to(day, None)
        if len(every) <= ALL_OF_A_DAY:
            return every
        order = np.lexsort((day.costs, day.ranks))
        best = order[_first_of_each(self._mains(day)[order])][:MOST_COLUMNS]
        dishes = (self.dishes[day.cells] >= 0).sum(axis=0)
        emptiest = np.flatnonzero(dishes == dishes.min())[:1]
        return np.unique(np.concatenate([best, order[:FEW], emptiest]))

    def _mains(self, day: DayMenus) -> NDArray[np.int64]:
        """A number for each menu, the same for the same main dishes."""
        return _coded(np.where(self.main[day.cells], self.dishes[day.cells] + 2, 0))

    def _up_to(self, day: DayMenus, above: int | None) -> Places:
        """The best of each set of dishes and portions from pots, no further above the least; the
        best first.
        """
        order = np.lexsort((day.costs, day.ranks))
        if above is not None:
            order = order[day.ranks[order] - day.ranks.min() <= above]
        return self._best_of_each(day, order)

    def _best_of_each(self, day: DayMenus, order: Places) -> Places:
        """The first in an order of each set of dishes and portions from pots, in that order."""
        return order[_first_of_each(_coded(self.kinds[day.cells])[order])]

    def _cheapest_of_each(self, day: DayMenus) -> Places:
        return self._best_of_each(day, np.argsort(day.costs, kind="stable"))

    def _various(self, day: DayMenus) -> Places:
        """The cheapest menu of each set of dishes, beside the few."""
        order = np.argsort(day.costs, kind="stable")
        various = order[_first_of_each(_coded(self.dishes[day.cells] + 2)[order])][:MOST_DISHES]
        return np.union1d(various, self._few(day))

    def _smallest(self, day: DayMenus) -> Places:
        """The menu of each set of dishes that takes least of pots."""
        order = np.argsort(self.taken[day.cells].sum(axis=0), kind="stable")
        return order[_first_of_each(_coded(self.dishes[day.cells] + 1)[order])]

    def _at_most(self, day: DayMenus) -> Places:
        """So many as the solver can take, various ones first: the best of each set of mains."""
        every = np.arange(len(day.costs))
        if len(every) <= MOST_COLUMNS:
            return every
        various = _first_of_each(self._mains(day))[: MOST_COLUMNS // 2]
        taken = np.zeros(len(every), dtype=bool)
        taken[various] = True
        taken[np.flatnonzero(~taken)[: MOST_COLUMNS - len(various)]] = True
        return np.flatnonzero(taken)

    def _left(self, misses: Misses) -> list[DayMenus]:
        """The menus that a week which misses no more can hold."""
        days = self.days
        for priority, total in enumerate(misses):
            shift = (3 - priority) * BITS
            room = total - sum(int(_part(day, shift).min()) for day in days)
            days = _each(days, partial(_no_further, shift=shift, room=room))
        return days

    def _most_varied(
        self, left: list[DayMenus], misses: Misses, above: int, proven: bool, best: _Best
    ) -> Settled:
        """The most varied of the weeks that miss no more, with little to cook."""
        every = _each(left, self._cheapest_of_each)
        few = _each(every, self._few)
        whole = not self.cut and _are_all(few, every)
        relaxed = ALL_ROWS if whole else NO_ROWS
        varied = best if self.is_best_of_all else self._varied(few, above, best, relaxed)
        if varied is None or (varied.value and not whole):
            columns = _each(every, self._various)
            varied = self._varied(columns, above, varied or best, SOME_ROWS) or varied
            whole = not self.cut and _are_all(columns, every)
        week, variety_proven = self._week((varied or best).days), False
        if varied is not None:
            variety_proven = varied.proven and (whole or not varied.value)
            week = min(week, self._cheap(few, above, varied), key=lambda one: one.points)
        variety = varied.value / A_POINT if varied else week.parts["variety"]
        return self._settled(week, left, misses, variety, proven, variety_proven)

    def _settled(
        self,
        week: Answer,
        left: list[DayMenus],
        misses: Misses,
        variety: float,
        proven: bool,
        variety_proven: bool,
    ) -> Settled:
        """What is settled, with the rows that hold it and as many menus as the search can take."""
        some = _each(left, _cheapest)
        whole = not self.cut and _are_all(some, left)
        marks = self._held(some, misses, variety)
        return Settled(
            week, self.model, some, misses, variety, proven, variety_proven, whole, marks
        )

    def _varied(self, menus: list[DayMenus], above: int, best: _Best, relaxed: int) -> _Best | None:
        """The most varied week of these menus that misses no more."""
        if relaxed != SOME_ROWS:
            found = self._without_repeats(self._held_program(menus, above, best))
            if found is not None:
                return found
        program = self._held_program(menus, above, best)
        work = WORK if relaxed == SOME_ROWS else LIGHT_WORK
        return _best_of(program, program.least(program.variety(), work, relaxed))

    def _cheap(self, menus: list[DayMenus], above: int, best: _Best) -> Answer:
        """A week of these menus with little to cook that misses no more and is as varied."""
        program = self._held_program(menus, above, best)
        program.hold(program.variety(), best.value)
        relaxed = ALL_ROWS if sum(len(day.costs) for day in menus) <= MOST_RELAXED else NO_ROWS
        found = _best_of(program, program.least(program.points(), WORK_FOR_POINTS, relaxed))
        return self._week((found or best).days)

    def _held_program(self, menus: list[DayMenus], above: int, best: _Best) -> PriorityProgram:
        program = self._program(menus, best)
        program.hold(program.missed(self._least), above)
        return program

    def _week(self, menus: Sequence[DayMenus]) -> Answer:
        """The week of one menu a day."""
        where = {variable: place for place, variable in self.model.cells.items()}
        chosen: dict[Slot, Choice] = {}
        for day in menus:
            for variable in day.cells[:, 0].tolist():
                slot, n = where[variable]
                chosen[slot] = self.model.choices[slot][n]
        return answer_of(self.question, chosen)

    def _held(
        self, left: list[DayMenus], misses: Misses, variety: float
    ) -> dict[tuple[int, int], int]:
        """Rows for what may not get worse. A mark is a variable of a menu that stands for what its
        day misses; there are none where all that is left of a day miss the same.
        """
        model, program = self.model, self.model.program
        limits = (*lacks_of(self.most_lacking), self.most_extra)
        for group, most in zip((model.missing, model.empty, model.extra), limits, strict=True):
            if group:
                program.row(dict.fromkeys(group, 1.0), upper=most + LEAST)
        row = {j: program.costs[j] for j in model.variety}
        if row:
            program.row(row, upper=variety)
        marks: dict[tuple[int, int], int] = {}
        rows: list[dict[int, float]] = [{} for _ in misses]
        totals = list(misses)
        for day in left:
            ranks = np.unique(day.ranks).tolist()
            if len(ranks) == 1:
                totals = [a - b for a, b in zip(totals, _unpacked(ranks[0]), strict=True)]
                continue
            for rank in ranks:
                mark = marks[day.day, rank] = program.variable(0, INFINITY)
                model.marks.append(mark)
                for of_priority, missed in zip(rows, _unpacked(rank), strict=True):
                    if missed:
                        of_priority[mark] = float(missed)
        for terms, total in zip(rows, totals, strict=True):
            if terms:
                program.row(terms, upper=total)
        return marks


def _least_of_meals(question: Question, model: Model) -> int:
    """What the meals of a week would miss, each filled as if there were no other."""
    return sum(
        min(misses_of_meal(question, slot, choice).meals for choice in options)
        for slot, options in model.choices.items()
    )


def _best_of(program: PriorityProgram, found: Found) -> _Best | None:
    """The week that a program found, None where it found none."""
    if not found.menus:
        return None
    days = [day.kept(np.array([found.menus[day.day]])) for day in program.menus]
    return _Best(found.value, found.proven, days, found.others)


def _each(days: Sequence[DayMenus], picked: Callable[[DayMenus], Places]) -> list[DayMenus]:
    """The menus that are picked of each day; days that are alike are looked at once."""
    known: dict[int, tuple[Places, Floats, Ranks]] = {}
    found = []
    for day in days:
        if id(day.costs) not in known:
            places = picked(day)
            known[id(day.costs)] = places, day.costs[places], day.ranks[places]
        places, costs, ranks = known[id(day.costs)]
        found.append(DayMenus(day.day, day.cells[:, places], costs, ranks))
    return found


def _cheapest(day: DayMenus) -> Places:
    """The cheapest menus of a day, as many as the search can take."""
    if len(day.costs) <= MOST_LEFT:
        return np.arange(len(day.costs))
    return np.argpartition(day.costs, MOST_LEFT)[:MOST_LEFT]


def _part(day: DayMenus, shift: int) -> Ranks:
    """What the menus of a day miss of one priority."""
    return day.ranks >> shift & (1 << BITS) - 1 if shift < 3 * BITS else day.ranks >> shift


def _no_further(day: DayMenus, shift: int, room: int) -> Places:
    """The menus that miss no more of one priority than the least of the day and so much."""
    missed = _part(day, shift)
    return np.flatnonzero(missed - missed.min() <= room)


def _first_of_each(codes: NDArray[np.int64]) -> Places:
    """The places where a number stands first, in order."""
    return np.sort(np.unique(codes, return_index=True)[1])


def _are_all(some: Sequence[DayMenus], every: Sequence[DayMenus]) -> bool:
    """True where some menus are all there are."""
    return all(len(a.costs) >= len(b.costs) for a, b in zip(some, every, strict=True))


def _coded(rows: NDArray[np.int64]) -> NDArray[np.int64]:
    """A number for each column, the same for equal ones."""
    code: NDArray[np.int64] = rows[0].copy()
    for row in rows[1:]:
        code = np.unique(code, return_inverse=True)[1] if code.max() > 2**40 else code
        code = code * (int(row.max()) + 1) + row
    return code


def _with(menus: DayMenus, more: DayMenus) -> DayMenus:
    """Some menus of a day and others, at the end."""
    return DayMenus(
        menus.day,
        np.concatenate([menus.cells, more.cells], axis=1),
        np.concatenate([menus.costs, more.costs]),
        np.concatenate([menus.ranks, more.ranks]),
    )


def _unpacked(rank: int) -> Misses:
    """What a number of `Misses.packed` stands for."""
    part = (1 << BITS) - 1
    return Misses(rank >> 3 * BITS, rank >> 2 * BITS & part, rank >> BITS & part, rank & part)
