"""The verb `balance`: a question of portions in JSON, answered with portions, levels, the conflict
and ways out.
"""

from __future__ import annotations

import math
import re
from collections.abc import Mapping
from typing import Annotated, Any, Literal

from msgspec import Meta, Struct

from dietetics.amounts.weighing import Scales
from dietetics.balance.answer import Answer, balance
from dietetics.balance.conflict import Conflict, amount_words, conflict_of
from dietetics.balance.fixes import Pantry, Way, ways_out
from dietetics.balance.portion_limits import fewest_share, most_grams, sensible_range
from dietetics.balance.question import Part, Question, nutrient_rule, school_rules
from dietetics.balance.question_parts import kept_out
from dietetics.cautions.exclusions import Terms, exclusions, keeps_out
from dietetics.cautions.facts import ClientFacts
from dietetics.composition.foods import Food, Shelf
from dietetics.composition.search import index_of
from dietetics.composition.sums import FoodContent
from dietetics.dishes.bowls import step_of
from dietetics.dishes.portions import PortionReading, first_portion, read_portion
from dietetics.errors import DieteticsError
from dietetics.json_shapes import shaped
from dietetics.nutrients import BY_KEY, NUTRIENTS
from dietetics.targets.windows import Window
from headless.clients import ClientJson, client_facts
from headless.verdicts import verdict_json

SNAP = 0.03  # of a step: 2 tbsp and ⅛ cup of the same food are meant to be the same


Importance = Literal["must", "should", "watch"]
Portion = str | float | None


class PartJson(Struct, forbid_unknown_fields=True):
    """A part: its food, and what is said of its portion; what is left out is usual."""

    food: Annotated[str, Meta(pattern=r"\S")]
    step: Portion = None
    min: Portion = None
    max: Portion = None
    prefer: Portion = None
    lock: bool = False


class WindowJson(Struct, forbid_unknown_fields=True):
    """A target, in stored units."""

    low: float | None = None
    high: float | None = None
    importance: Importance = "should"


class BalanceJson(Struct):
    """The whole question, and for whom it is asked; other fields are told as not read."""

    parts: list[PartJson] = []
    targets: dict[str, WindowJson] = {}
    exclude_allergens: list[str] | None = None
    conditions: list[str] | None = None
    never_eats: str | None = None
    school: str | None = None


def _wrong(problem: str) -> DieteticsError:
    return DieteticsError("balance-unreadable", problem=problem)


def food_named(shelf: Shelf, name: str) -> Food:
    """A food by its key, or the best hit for a name. Raises DieteticsError when there is none."""
    if name in shelf.foods:
        return shelf.food(name)
    hits = index_of(shelf).search(name, 1)
    if not hits:
        raise _wrong(f"nothing on the shelf is called “{name}”")
    return hits[0].food


def _is_nothing(text: Portion) -> bool:
    """True for 0, "0" and "0 cup": a part that may be left out."""
    return bool(re.fullmatch(r"0+(?:[.,]0+)?(?:\s*[a-z ]+)?", str(text).strip(), re.IGNORECASE))


def part_of(number: int, given: PartJson, shelf: Shelf, scales: Scales) -> Part:
    """One part as given: its food, step, least, most and preferred portion; what is left out is
    usual.
    """
    food = food_named(shelf, given.food)

    def portion(text: Portion) -> PortionReading | None:
        if text in (None, "") or _is_nothing(text):
            return None
        return read_portion(str(text), food, scales)

    prefer = portion(given.prefer) or first_portion(food, scales)
    step = portion(given.step)
    unit = step.unit if step else prefer.unit
    per_unit = step.weight.grams / step.amount if step else prefer.weight.grams / prefer.amount
    size = step.amount if step else step_of(unit)

    def in_units(reading: PortionReading) -> float:
        amount = reading.weight.grams / per_unit
        whole = round(amount / size) * size
        return whole if abs(amount - whole) <= SNAP * size else amount

    preferred = in_units(prefer)
    least, most = sensible_range(
        preferred, size, most_grams(food) / per_unit, fewest_share(food.group)
    )
    low, high = portion(given.min), portion(given.max)
    least = in_units(low) if low else (0.0 if _is_nothing(given.min) else least)
    most = in_units(high) if high else max(most, least)
    if not given.prefer:
        preferred = min(max(preferred, least), most)
    elif not given.lock:
        preferred = preferred if least <= preferred <= most else min(max(preferred, least), most)
    density, _ = food.density_g_per_ml
    return Part(
        f"{number}:{food.key}",
        food.name,
        FoodContent(food),
        ((food, 1.0),),
        food.group,
        1 / density,
        unit,
        per_unit,
        size,
        least,
        most,
        preferred,
        given.lock,
    )


def windows_of(given: Mapping[str, WindowJson]) -> list[Window]:
    """The windows of a question. Raises DieteticsError for a key that is no nutrient."""
    unknown = next((key for key in given if key not in BY_KEY), None)
    if unknown is not None:
        raise _wrong(f"“{unknown}” is no nutrient; known: {', '.join(BY_KEY)}")
    return [Window(key, one.low, one.high, one.importance) for key, one in given.items()]


def question_of_facts(
    facts: Mapping[str, Any], shelf: Shelf, scales: Scales
) -> tuple[Question, ClientFacts]:
    """The question and for whom it is asked. Raises DieteticsError."""
    given = shaped(dict(facts), BalanceJson, "balance-unreadable")
    client = client_facts(
        ClientJson(given.exclude_allergens, given.conditions, given.never_eats, given.school)
    )
    parts = []
    for number, one in enumerate(given.parts, 1):
        part = part_of(number, one, shelf, scales)
        against = keeps_out(part.foods[0][0], Terms(client))
        parts.append(kept_out(part, against.short if against else ""))
    windows = [nutrient_rule(w) for w in windows_of(given.targets)]
    rules = school_rules(client.school) if client.school else ()
    return Question(tuple(parts), (*windows, *rules)), client


def balance_json(facts: Mapping[str, Any], shelf: Shelf) -> dict[str, Any]:
    """The whole answer of `balance`. Raises DieteticsError for a question that cannot be read."""
    scales = Scales(shelf)
    question, client = question_of_facts(facts, shelf, scales)
    answer = balance(question)
    conflict = conflict_of(answer) if answer.status != "balanced" else None
    pantry = Pantry(
        list(shelf), scales, lambda food: keeps_out(food, Terms(client, suggesting=True)) is None
    )
    ways = ways_out(answer, conflict, pantry) if conflict else []
    return {
        "not_read": sorted(set(facts) - set(BalanceJson.__struct_fields__)),
        "status": answer.status,
        "proof": answer.proof,
        "gap": round(answer.gap, 6) if math.isfinite(answer.gap) else None,
        "parts": [
            _part_json(part, amount)
            for part, amount in zip(question.parts, answer.amounts, strict=True)
        ],
        "verdicts": [
            {"part": part.key, **verdict_json(verdict)}
            for part in question.parts
            for verdict in exclusions(part.foods[0][0], Terms(client))
        ],
        "totals": _totals(answer),
        "levels": _levels(answer),
        "cannot_be_judged": [s.words() for s in answer.standings if s.state == "unknown"],
        "conflict": _conflict_json(conflict, ways) if conflict else None,
        "solve_ms": round(answer.solve_ms, 1),
    }


def _part_json(part: Part, amount: float) -> dict[str, Any]:
    return {
        "food": part.key.partition(":")[2],
        "amount": amount_words(part, amount) if amount else "none",
        "steps": round(amount / part.step, 4),
        "grams": round(amount * part.grams_per_unit, 1),
        "changed": abs(amount - part.prefer) > 1e-9,
        "kept_out": part.kept_out,
    }


def _totals(answer: Answer) -> dict[str, float | None]:
    whole = answer.composition
    found: dict[str, float | None] = {"grams": round(whole.grams, 1)}
    for one in NUTRIENTS:
        value = whole[one.key].amount
        found[one.key] = None if value is None else round(value, one.decimals + 1)
    return found


def _levels(answer: Answer) -> list[dict[str, Any]]:
    return [
        {
            "key": s.key,
            "value": None if s.value is None else round(s.value, s.rule.decimals + 1),
            "low": s.rule.low,
            "high": s.rule.high,
            "state": s.state,
            "by": round(s.by, s.rule.decimals + 1),
            "importance": s.rule.importance,
        }
        for s in answer.standings
    ]


def _conflict_json(conflict: Conflict, ways: list[Way]) -> dict[str, Any]:
    return {
        "targets": conflict.targets,
        "because": conflict.because(),
        "ways": [{"change": way.change, "effect": way.effect} for way in ways],
    }
