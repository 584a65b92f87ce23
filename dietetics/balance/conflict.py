"""Why it cannot be done: a smallest set of windows and limits that contradict each other, in words.

A conflict is irreducible: leave any one of its members out and there are portions that meet the
rest. It is found by leaving out what is not needed for the contradiction, one after another, in two
orders; the smaller result stays.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence
from dataclasses import dataclass
from typing import TypeVar

from dietetics.amounts.units import WORDS
from dietetics.amounts.weighing import amount_text
from dietetics.balance.answer import Answer
from dietetics.balance.question import Part, Question, Side
from dietetics.balance.solver import INFEASIBLE, Solution, solve
from dietetics.balance.solver_program import Limit, sheet

WIDEST_TIMES = (
    2.0  # a part whose most is left out may be twice that; more is not an answer anybody serves
)
SECONDS_EACH = 0.4
T = TypeVar("T")


@dataclass(frozen=True)
class Conflict:
    """Sides of rules and limits of parts that cannot all hold; a part's own contradictions stand in
    `clashes`.
    """

    question: Question
    sides: tuple[Side, ...]
    limits: tuple[Limit, ...]
    clashes: tuple[str, ...] = ()

    @property
    def targets(self) -> list[str]:
        """The keys of what contradicts itself: rules, and parts as "part:KEY"."""
        return [
            *dict.fromkeys(side.rule.key for side in self.sides),
            *(f"part:{key}" for key, _ in self.limits),
        ]

    def because(self) -> str:
        """The contradiction in one sentence."""
        if self.clashes:
            return f"{'; '.join(self.clashes)}."
        things = [side.text() for side in self.sides]
        things += [limit_text(self.question.part(key), end) for key, end in self.limits]
        joined = things[0] if len(things) == 1 else f"{', '.join(things[:-1])} and {things[-1]}"
        start = f"{joined[0].upper()}{joined[1:]}"
        whatever = "" if self.limits else " with these ingredients, whatever the portions"
        if len(things) == 1:
            return f"{start} can't be met{whatever}."
        both = "both" if len(things) == 2 else "all"
        return (
            f"{start} can't {both} be met{whatever}. If any one of them is dropped, the "
            "others can be met."
        )


def amount_words(part: Part, amount: float) -> str:
    """An amount of a part as a person writes it: "1½ cups", "140 g", "2 small"."""
    unit, _, cut = part.unit.partition(",")
    *sizes, last = unit.split() or [""]
    known = WORDS.get(last)
    word = known.plural if known is not None and amount > 1 else last
    text = " ".join([amount_text(amount), *sizes, word]).strip()
    return f"{text},{cut}" if cut else text


def limit_text(part: Part, end: str) -> str:
    """A part's limit in words."""
    if part.kept_out:
        return f"no {part.short} ({part.kept_out})"
    if part.locked:
        return f"{part.short} locked at {amount_words(part, part.prefer)}"
    if end == "most":
        return f"no more than {amount_words(part, part.amounts[-1])} of {part.short}"
    return f"at least {amount_words(part, part.amounts[0])} of {part.short}"


def all_limits(question: Question) -> list[Limit]:
    """Every limit of every part."""
    return [(part.key, end) for part in question.parts for end in ("most", "least")]


def widest_of(question: Question, kept: Iterable[Limit]) -> dict[str, tuple[float, float]]:
    """For each part whose limits are not all kept: the (least, most) it may take instead."""
    held, found = set(kept), {}
    for part in question.parts:
        ends = [(part.key, end) in held for end in ("least", "most")]
        if all(ends):
            continue
        own = part.amounts or (part.prefer,)
        widest = max(own[-1], part.prefer) * WIDEST_TIMES
        found[part.key] = (own[0] if ends[0] else 0.0, own[-1] if ends[1] else widest)
    return found


def contradictory(question: Question, sides: Sequence[Side], limits: Iterable[Limit]) -> bool:
    """True when it is proven that no portions keep these sides and limits; a solver that gave up
    has proven nothing.
    """
    return _solved(question, sides, limits).status == INFEASIBLE


def _solved(question: Question, sides: Sequence[Side], limits: Iterable[Limit]) -> Solution:
    return solve(
        sheet(question, hard=sides, widest=widest_of(question, limits)).program, SECONDS_EACH
    )


def feasible(question: Question, sides: Sequence[Side], limits: Iterable[Limit]) -> bool:
    """True when portions exist that keep these sides and these limits; every other limit is left
    out.
    """
    return _solved(question, sides, limits).found


def required(answer: Answer) -> list[Side]:
    """The sides whose contradiction is to be explained: the musts, or with them met the shoulds as
    well.
    """
    question = answer.question
    musts = question.sides("must")
    standing = {s.rule.key: s for s in answer.standings}
    missed = [s for s in musts if standing[s.rule.key].state in ("short", "over")]
    return musts if missed else question.sides("must", "should")


def conflict_of(answer: Answer) -> Conflict | None:
    """The smallest contradiction found behind an answer that misses something; None when nothing
    contradicts.
    """
    question = answer.question
    if answer.clashes:
        return Conflict(question, (), (), answer.clashes)
    sides, limits = required(answer), all_limits(question)
    if not contradictory(question, sides, limits):
        return None
    found = [_reduced(question, sides, limits), _reduced(question, sides[::-1], limits[::-1])]
    best = min(found, key=lambda pair: (len(pair[0]) + len(pair[1]), len(pair[1])))
    order = {side.key: i for i, side in enumerate(sides)}
    return Conflict(
        question, tuple(sorted(best[0], key=lambda s: order[s.key])), tuple(sorted(best[1]))
    )


def _reduced(
    question: Question, sides: list[Side], limits: list[Limit]
) -> tuple[list[Side], list[Limit]]:
    """Leave out whatever the contradiction does not need: limits of parts by halves, then sides one
    by one.
    """
    kept_limits = _needed(limits, lambda some: contradictory(question, sides, some))
    kept_sides = _needed(sides, lambda some: contradictory(question, some, kept_limits))
    return kept_sides, _needed(kept_limits, lambda some: contradictory(question, kept_sides, some))


def _needed(things: list[T], contradicts: Callable[[list[T]], bool]) -> list[T]:
    """The things without which there is no contradiction; whole halves are left out at once where
    they may be.
    """
    if contradicts([]):
        return []
    kept = list(things)
    size = max(1, len(kept) // 2)
    while size:
        place = 0
        while place < len(kept):
            rest = kept[:place] + kept[place + size :]
            if contradicts(rest):
                kept = rest
            else:
                place += size
        size //= 2
    return kept
