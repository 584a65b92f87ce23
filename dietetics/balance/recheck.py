"""A returned bowl checked again against its own question, with nothing taken from the solver that
made it.

Portions are added up row by row here. `balance` runs it on every answer before anybody sees it:
what breaks a rule is an internal error, is logged where it is called from, and nothing is stored.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from dietetics.balance.question import Part, Question, Rule
from dietetics.nutrients import ACID_LOAD, DENSITY

NEAR = 1e-6
JUDGED = ("must", "should")


@dataclass(frozen=True)
class Claim:
    """What an answer says of one rule: its key and the state it names (in, short, over,
    unknown).
    """

    key: str
    state: str


def broken_rules(
    question: Question, amounts: Sequence[float], claims: Sequence[Claim], balanced: bool
) -> list[str]:
    """Every rule that portions break, and every claim that is not so, as codes with their subject;
    nothing for a sound answer.
    """
    if len(amounts) != len(question.parts):
        return ["a portion for every part"]
    found = [
        f"{code} {part.key}"
        for part, amount in zip(question.parts, amounts, strict=True)
        for code in _portion(part, amount)
    ]
    by_key = {claim.key: claim for claim in claims}
    for rule in question.rules:
        claim = by_key.get(rule.key)
        if claim is None:
            found.append(f"not-judged {rule.key}")
        else:
            found += [
                f"{code} {rule.key}" for code in _claim(question, rule, amounts, claim, balanced)
            ]
    return found


def _portion(part: Part, amount: float) -> Iterator[str]:
    """Not below zero, not what is kept out, a locked part as it was, whole steps within the
    limits.
    """
    if amount < -NEAR:
        yield "negative"
    if part.clash:
        return  # the answer says so itself: no portion of it is possible
    if part.kept_out:
        if amount > NEAR:
            yield "kept-out"
        return
    if part.locked:
        if abs(amount - part.prefer) > NEAR:
            yield "locked"
        return
    steps = amount / part.step
    whole = abs(steps - round(steps)) <= NEAR * max(1.0, abs(steps))
    if not whole and abs(amount - part.prefer) > NEAR:
        yield "step"
    if not part.least - NEAR <= amount <= part.most + NEAR:
        yield "limit"


def _claim(
    question: Question, rule: Rule, amounts: Sequence[float], claim: Claim, balanced: bool
) -> Iterator[str]:
    """A rule said to be in is in, and wholly known where the unknown could turn it; a balanced bowl
    misses nothing.
    """
    if balanced and claim.state != "in" and rule.importance in JUDGED:
        yield "balanced-and-missed"
    value, unknown = _value(question, rule, amounts)
    if claim.state != "in":
        return
    if value is None:
        yield "in-and-unknown"
        return
    if rule.low is not None and value < rule.low - rule.half_unit - NEAR:
        yield "in-and-short"
    if rule.high is not None and value > rule.high + rule.half_unit + NEAR:
        yield "in-and-over"
    if unknown and (rule.high is not None or rule.key in (DENSITY, ACID_LOAD)):
        yield "in-and-not-known"


def _value(question: Question, rule: Rule, amounts: Sequence[float]) -> tuple[float | None, bool]:
    """(the figure of a rule from its rows, whether some of it is unknown)."""
    top = bottom = 0.0
    unknown = False
    for part, amount in zip(question.parts, amounts, strict=True):
        if amount <= 0:
            continue
        grams = amount * part.grams_per_unit
        if rule.window is not None:
            key = "energy_kcal" if rule.key == DENSITY else rule.key
            per_100g, share = part.content.known_per_100g(key)
            unknown = unknown or per_100g is None or share < 1 - 1e-9
            top += (per_100g or 0.0) * grams / 100
            bottom += grams
            continue
        value = rule.numerator(part)
        unknown = unknown or value is None
        top += (value or 0.0) * grams
        bottom += (rule.denominator(part) or 0.0) * grams if rule.denominator is not None else 0.0
    ratio = rule.key == DENSITY if rule.window is not None else rule.denominator is not None
    if not ratio:
        return top, unknown
    return (top / bottom if bottom > 0 else None), unknown
