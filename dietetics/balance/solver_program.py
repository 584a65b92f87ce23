"""From a question to a program for the solver: whole steps, ratios made linear, slack where a side
may be missed.

A miss is counted as a share of its bound, so that 10 % of the protein and 10 % of the sodium weigh
the same. A ratio a ÷ b ≤ h becomes a − h·b ≤ 0; its miss is divided by h × b at the preferred
portions.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field

from dietetics.balance.portion_limits import shrink_price
from dietetics.balance.question import LEAST_SCALE, Part, Question, Side
from dietetics.balance.solver import INFINITY, Program

NEAR = 0.5  # a portion may move by half of itself at the plain price
FAR_PRICE = 2.0  # what is beyond costs this much more
CHANGE_PRICE = 0.002  # of a changed part, whatever its size: the last thing that is looked at
WATCH_PRICE = (
    1.0  # of a whole miss of what is only watched: it nudges, and does not turn a bowl upside down
)
ORDER_PRICE = 1e-5  # breaks ties: rather change what comes later in the bowl
Limit = tuple[str, str]  # (part's key, "least" or "most")


@dataclass
class Sheet:
    """A program with the places of the question in it."""

    program: Program
    question: Question
    columns: list[dict[int, float]] = field(
        default_factory=list
    )  # of each part: amount = Σ coefficient · variable
    constants: list[float] = field(default_factory=list)  # ... + constant
    rows: dict[tuple[str, str], int] = field(default_factory=dict)

    def amounts(self, values: Sequence[float]) -> tuple[float, ...]:
        """The portions in a solution, each in its unit."""
        found = []
        for part, columns, constant in zip(
            self.question.parts, self.columns, self.constants, strict=True
        ):
            amount = constant + sum(value * values[index] for index, value in columns.items())
            found.append(
                part.prefer if abs(amount - part.prefer) < 1e-6 else round(amount, 9) + 0.0
            )
        return tuple(found)


def side_terms(side: Side, part: Part) -> float:
    """What one unit of a part adds to a side: the figure, or for a ratio the figure less its
    bound's share.
    """
    top = side.rule.numerator(part) or 0.0
    if side.rule.denominator is not None:
        top -= side.bound * (side.rule.denominator(part) or 0.0)
    return top * part.grams_per_unit


def side_scale(question: Question, side: Side) -> float:
    """What counts as a whole miss of a side, in its own units."""
    bound = abs(side.bound)
    if side.rule.denominator is not None:
        usual = question.total(side.rule.denominator, [part.prefer for part in question.parts])
        bound *= max(usual, 1e-6)
    return bound if bound > 1e-9 else LEAST_SCALE.get(side.rule.key, 1.0)


def side_bound(side: Side) -> float:
    """The number a side's sum is compared with: a ratio is compared with zero."""
    return side.bound if side.rule.denominator is None else 0.0


def miss(question: Question, side: Side, amounts: Sequence[float]) -> float:
    """By how much portions miss a side, as a share of its bound; 0 when it is met."""
    total = sum(
        side_terms(side, part) * amount
        for part, amount in zip(question.parts, amounts, strict=True)
    )
    far = side_bound(side) - total if side.end == "low" else total - side_bound(side)
    return max(0.0, far) / side_scale(question, side)


def effort(question: Question, amounts: Sequence[float]) -> float:
    """How far portions lie from the preferred ones: shares of each portion, dearer beyond half and
    for a vegetable that is cut, and the changes.

    What the watched rules miss is added at WATCH_PRICE.
    """
    total = WATCH_PRICE * sum(miss(question, side, amounts) for side in question.sides("watch"))
    for index, (part, amount) in enumerate(zip(question.parts, amounts, strict=True)):
        if len(part.amounts) < 2:
            continue
        away = abs(amount - part.prefer) / base(part)
        price = 1.0 + ORDER_PRICE * (len(question.parts) - index)
        cut = (shrink_price(part.group) - 1.0) * away if amount < part.prefer else 0.0
        total += price * (away + cut + FAR_PRICE * max(0.0, away - NEAR)) + (
            CHANGE_PRICE if away > 1e-9 else 0.0
        )
    return total


def base(part: Part) -> float:
    """What a change of a part is a share of: its preferred portion, a step at least."""
    return max(part.prefer, part.step)


def sheet(
    question: Question,
    hard: Iterable[Side] = (),
    soft: Mapping[str, Sequence[Side]] | None = None,
    goal: str = "",
    kept: Mapping[str, float] | None = None,
    widest: Mapping[str, tuple[float, float]] | None = None,
) -> Sheet:
    """Write a question as a program.

    `hard` sides must hold. `soft` classes of sides may be missed: the class named by `goal` is
    minimised, a class in `kept` may miss no more than its figure there. A goal of "effort" asks for
    the portions closest to the preferred ones, "" for any portions. `widest` gives some parts
    another (least, most) than their own.
    """
    made = Sheet(Program(), question)
    for part in question.parts:
        _part_columns(made, part, (widest or {}).get(part.key))
    for side in hard:
        _side_row(made, side, None)
    for name, sides in (soft or {}).items():
        slack = {_side_row(made, side, 1.0 if name == goal else 0.0): 1.0 for side in sides}
        if kept is not None and name in kept and slack:
            made.program.row(slack, upper=kept[name] + 1e-6)
    if goal == "effort":
        for side in question.sides("watch"):
            _side_row(made, side, WATCH_PRICE)
        for index, part in enumerate(question.parts):
            _effort_rows(made, index, part)
    return made


def _part_columns(made: Sheet, part: Part, wider: tuple[float, float] | None) -> None:
    if wider is None and len(part.amounts) <= 1:
        made.columns.append({})
        made.constants.append(part.amounts[0] if part.amounts else part.prefer)
        return
    if wider is None:
        low, high = part.multiples
    else:
        low, high = round(wider[0] / part.step + 0.4999), int(wider[1] / part.step + 1e-9)
    program = made.program
    staying = part.off_grid and (wider is not None or part.least <= part.prefer <= part.most)
    steps = program.variable(0 if staying else low, high, whole=True)
    columns = {steps: part.step}
    if staying:
        stays = program.variable(0, 1, whole=True)
        program.row({steps: 1, stays: high}, upper=high)
        program.row({steps: 1, stays: low}, lower=low)
        columns[stays] = part.prefer
    made.columns.append(columns)
    made.constants.append(0.0)


def _side_row(made: Sheet, side: Side, slack_cost: float | None) -> int:
    """Add a side, scaled by its bound; with slack its variable's index is returned."""
    scale = side_scale(made.question, side)
    terms: dict[int, float] = {}
    bound = side_bound(side)
    for part, columns, constant in zip(
        made.question.parts, made.columns, made.constants, strict=True
    ):
        per_unit = side_terms(side, part)
        bound -= per_unit * constant
        for index, value in columns.items():
            terms[index] = terms.get(index, 0.0) + per_unit * value / scale
    slack = -1
    if slack_cost is not None:
        slack = made.program.variable(cost=slack_cost)
        terms[slack] = 1.0 if side.end == "low" else -1.0
    low, high = (bound / scale, INFINITY) if side.end == "low" else (-INFINITY, bound / scale)
    made.rows[side.key] = made.program.row(terms, low, high)
    return slack


def _effort_rows(made: Sheet, index: int, part: Part) -> None:
    columns = made.columns[index]
    if not columns:
        return
    program, scale = made.program, base(part)
    price = 1.0 + ORDER_PRICE * (len(made.question.parts) - index)
    up, down = program.variable(cost=price), program.variable(cost=price * shrink_price(part.group))
    far = program.variable(cost=price * FAR_PRICE)
    changed = program.variable(0, 1, CHANGE_PRICE, whole=True)
    moved = {i: value / scale for i, value in columns.items()}
    program.row({**moved, up: -1.0, down: 1.0}, part.prefer / scale, part.prefer / scale)
    program.row({up: 1.0, down: 1.0, far: -1.0}, upper=NEAR)
    widest = max(abs(amount - part.prefer) for amount in part.amounts) / scale
    program.row({up: 1.0, down: 1.0, changed: -widest}, upper=0.0)
