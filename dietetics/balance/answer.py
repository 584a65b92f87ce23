"""The answer: the best portions, proven, or the closest there are; every level judged again outside
the solver.

First all that must and should be is asked for at once, as close as can be to the preferred
portions. Where that cannot be, what must be is settled before what should be, and then the portions
closest to the preferred ones are taken. A class of "should" that cannot be met is not chased to the
last hundredth: turning a bowl upside down for 3 mg of sodium is no answer.
"""

from __future__ import annotations

import logging
from collections.abc import Sequence
from dataclasses import dataclass

from dietetics.balance.question import Question, Rule, Side, checked, items_of, unknown_in
from dietetics.balance.recheck import Claim, broken_rules
from dietetics.balance.solver import OPTIMAL, Solution, solve
from dietetics.balance.solver_program import Sheet, effort, miss, sheet
from dietetics.composition.sums import Composition, compose
from dietetics.errors import BrokenAnswerError
from dietetics.targets.windows import judge
from dietetics.time_limits import now_s

LOG = logging.getLogger(__name__)
SECONDS = 1.8  # nobody waits longer than 2 s, with everything around it
MISSED = 1e-6  # a miss below this share of its bound is none
JUDGED = ("must", "should")
GRACE = {
    "must": 0.0,
    "should": 0.01,
}  # of a bound: how far from the least miss of its class an answer may stay
BALANCED, CLOSEST, IMPOSSIBLE = "balanced", "closest", "impossible"


@dataclass(frozen=True)
class Standing:
    """Where the answer stands in one rule: `state` is in, short, over or unknown (cannot be
    judged).
    """

    rule: Rule
    value: float | None
    state: str
    by: float
    unknown: tuple[str, ...]

    @property
    def key(self) -> str:
        """The rule's key."""
        return self.rule.key

    def words(self) -> str:
        """In words: "Protein 27.0 g, 1.0 g short"."""
        if self.state == "unknown":
            names = ", ".join(self.unknown)
            return (
                f"{self.rule.name} is unknown: no value for {names}"
                if names
                else f"{self.rule.name} unknown"
            )
        assert self.value is not None
        text = f"{self.rule.name} {self.rule.text(self.value)}"
        return text if self.state == "in" else f"{text}, {self.rule.text(self.by)} {self.state}"


@dataclass(frozen=True)
class Answer:
    """The best portions. `proof` is "optimal" or "gap"; `gap` how far the class that was not
    proven may be off, as a share; infinite where nothing is known of that."""

    question: Question
    status: str
    proof: str
    gap: float
    amounts: tuple[float, ...]
    standings: tuple[Standing, ...]
    clashes: tuple[str, ...]
    solve_ms: float
    solves: int

    @property
    def composition(self) -> Composition:
        """The whole bowl with these portions."""
        return compose(items_of(self.question, self.amounts))

    @property
    def effort(self) -> float:
        """How far it is from the preferred portions."""
        return effort(self.question, self.amounts)

    @property
    def unjudged(self) -> tuple[Standing, ...]:
        """The ceilings and floors set by a clinician that cannot be judged: not met, whatever else
        is.
        """
        return tuple(s for s in self.standings if s.state == "unknown" and s.rule.fixed)

    def off(self, *importances: str) -> list[Standing]:
        """The standings that are not in, of these importances."""
        return [s for s in self.standings if s.state != "in" and s.rule.importance in importances]


def stand(question: Question, amounts: Sequence[float]) -> tuple[Standing, ...]:
    """Judge every rule for these portions, from the sums of their compositions and not from the
    solver's matrix.

    A rule of which something present is unknown is judged only where the unknown could not turn it.
    """
    whole = compose(items_of(question, amounts))
    return tuple(_stand(question, rule, whole, amounts) for rule in question.rules)


def _stand(
    question: Question, rule: Rule, whole: Composition, amounts: Sequence[float]
) -> Standing:
    unknown = tuple(unknown_in(question, rule, amounts))
    if rule.window is not None:
        level = judge(rule.window, whole[rule.key])
        sure = level.certain if level.state in ("in", "over") else not unknown
        state = level.state if sure and not (unknown and rule.key == "pral_meq") else "unknown"
        return Standing(
            rule, level.figure.amount, state, level.by if state != "unknown" else 0.0, unknown
        )
    value = question.value(rule, amounts)
    if value is None or unknown:
        return Standing(rule, value, "unknown", 0.0, unknown)
    if rule.low is not None and value < rule.low - rule.half_unit:
        return Standing(rule, value, "short", rule.low - value, unknown)
    if rule.high is not None and value > rule.high + rule.half_unit:
        return Standing(rule, value, "over", value - rule.high, unknown)
    return Standing(rule, value, "in", 0.0, unknown)


class _Run:
    """One question being solved: counts the solves and minds the clock."""

    def __init__(self, question: Question, seconds: float) -> None:
        self.question = question
        self.began = now_s()
        self.ends = self.began + seconds
        self.solves = 0
        self.gap = 0.0
        self.proven = True

    def solve(self, made: Sheet) -> Solution:
        self.solves += 1
        return solve(made.program, self.ends - now_s())

    def note(self, solution: Solution) -> None:
        """Keep the first stage that was not proven: later ones rest on it."""
        if self.proven and solution.status != OPTIMAL:
            self.proven, self.gap = False, solution.gap


def balance(question: Question, seconds: float = SECONDS) -> Answer:
    """The portions that meet the rules by importance, then lie closest to the preferred ones, then
    change fewest parts.

    Solved to proven optimality unless `seconds` run out. Raises DieteticsError for a question that
    is none.
    """
    checked(question)
    run = _Run(question, seconds)
    clashes = tuple(part.clash for part in question.parts if part.clash)
    everything = question.sides(*JUDGED)
    made = sheet(question, hard=everything, goal="effort")
    best = run.solve(made)
    if best.found:
        run.note(best)
        amounts = made.amounts(best.values)
    else:
        amounts = _by_class(run)
    standings = stand(question, amounts)
    taken = (now_s() - run.began) * 1000
    proof = "optimal" if run.proven else "gap"
    status = _status(question, amounts, standings, clashes)
    return checked_answer(
        Answer(question, status, proof, run.gap, amounts, standings, clashes, taken, run.solves)
    )


def checked_answer(answer: Answer) -> Answer:
    """The answer, checked again outside the solver. Raises `BrokenAnswerError` for one that breaks
    its own rules.
    """
    claims = [Claim(s.key, s.state) for s in answer.standings]
    broken = broken_rules(answer.question, answer.amounts, claims, answer.status == BALANCED)
    if broken:
        LOG.error("a balance breaks its own rules: %s", "; ".join(broken))
        raise BrokenAnswerError("answer-broken", rules=", ".join(broken))
    return answer


def _status(
    question: Question,
    amounts: Sequence[float],
    standings: Sequence[Standing],
    clashes: Sequence[str],
) -> str:
    musts = any(miss(question, side, amounts) > MISSED for side in question.sides("must"))
    if clashes or musts:
        return IMPOSSIBLE
    off = any(s.state != "in" and s.rule.importance != "watch" for s in standings)
    return CLOSEST if off else BALANCED


def _by_class(run: _Run) -> tuple[float, ...]:
    """Settle what must be, then what should be, then the portions."""
    question = run.question
    classes: dict[str, list[Side]] = {
        name: question.sides(name) for name in JUDGED if question.sides(name)
    }
    kept: dict[str, float] = {}
    amounts = tuple(part.amounts[0] if part.amounts else part.prefer for part in question.parts)
    for name in [*classes, "effort"]:
        hard = [side for done in kept for side in classes[done] if kept[done] <= MISSED]
        soft = {
            c: sides
            for c, sides in classes.items()
            if (c in kept or c == name) and kept.get(c, 1.0) > MISSED
        }
        made = sheet(question, hard, soft, name, kept)
        solution = run.solve(made)
        run.note(solution)
        if not solution.found:
            break
        amounts = made.amounts(solution.values)
        if name in classes:
            least = missed(question, classes[name], amounts)
            kept[name] = least + GRACE[name] if least > MISSED else 0.0
    return amounts


def missed(question: Question, sides: Sequence[Side], amounts: Sequence[float]) -> float:
    """The sum of what portions miss of some sides, as shares of their bounds."""
    return sum(miss(question, side, amounts) for side in sides)


def rank(question: Question, amounts: Sequence[float]) -> tuple[float, ...]:
    """What is compared between two sets of portions, in order: misses by importance, then the
    effort.
    """
    by_class = [missed(question, question.sides(name), amounts) for name in JUDGED]
    return (*by_class, effort(question, amounts))
