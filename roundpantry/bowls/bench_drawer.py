"""What the drawer says beside the bench, formatted: a balance, ways out, hints, protein in detail,
one part.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Any

from django.urls import reverse

from dietetics.amounts.weighing import amount_text
from dietetics.balance.answer import BALANCED, CLOSEST, Answer, Standing, balance
from dietetics.balance.conflict import amount_words, conflict_of
from dietetics.balance.fixes import Way, ways_out
from dietetics.balance.question import VOLUME
from dietetics.balance.suggestions import Suggestion, eaten_foods, suggestions
from dietetics.composition.aminoacids import PATTERN_SOURCE
from dietetics.composition.derivation import rounded_to_sum
from dietetics.composition.foods import Food, load_shelf
from dietetics.composition.proteinquality import (
    DIGESTIBILITY_SOURCE,
    acid_rows,
    quality,
    without_pattern,
)
from dietetics.dishes.cooking import other_weight
from dietetics.errors import DieteticsError
from dietetics.nutrients import in_text, nutrient
from roundpantry.bowls.balance_question import bowl_question_of, pantry_of
from roundpantry.bowls.balance_services import Balanced
from roundpantry.bowls.models import Bowl, BowlPart
from roundpantry.bowls.records import bowl_value
from roundpantry.shelf.records import food_of

TITLES = {BALANCED: "Balanced", CLOSEST: "Closest possible portions"}
PROVEN = "No other household-measure portions are closer to yours."
NEAREST = (
    "No other household-measure portions come closer to the targets; among equals, these "
    "are closest to yours."
)


def _title(answer: Answer) -> str:
    """What a balance came to: where a required target is missed, by how much the closest portions
    miss it.
    """
    missed = next(
        (
            s
            for s in answer.standings
            if s.rule.importance == "must" and s.state in ("short", "over")
        ),
        None,
    )
    if answer.status in TITLES or answer.clashes or missed is None:
        return TITLES.get(answer.status, "Not possible with these ingredients")
    return f"Closest: {missed.rule.text(missed.by)} {missed.state}"


def _sentence(result: Balanced) -> str:
    answer = result.answer
    if answer.clashes:
        return "Nothing was changed."
    if answer.status == BALANCED:
        return _balanced_sentence(result)
    if answer.status == CLOSEST:
        return NEAREST if answer.proof == "optimal" else "Best found so far."
    return "No portions of these ingredients meet every required target. Nothing was changed."


def _balanced_sentence(result: Balanced) -> str:
    """Of a bowl that meets its targets: whether it also fits its dish, whether it changed, whether
    it is proven best.
    """
    answer = result.answer
    too_much = next((s for s in answer.standings if s.key == VOLUME and s.state == "over"), None)
    start = (
        "Every target is met"
        if too_much is None
        else (f"The targets are met, but the food does not fit in the bowl: {too_much.words()}")
    )
    if not result.turned:
        return (
            f"{start} with the portions as they are. Nothing needs to change."
            if too_much is None
            else f"{start}."
        )
    return f"{start}. {PROVEN}" if answer.proof == "optimal" else f"{start}."


def _lines(standings: Sequence[Standing], *importances: str) -> list[str]:
    return [s.words() for s in standings if s.state != "in" and s.rule.importance in importances]


def balanced(bowl: Bowl, result: Balanced, proving: bool) -> dict[str, Any]:
    """Everything the drawer says of a balance."""
    answer = result.answer
    missed = _lines(answer.standings, "must", "should")
    met = [
        in_text(s.rule.name)
        for s in answer.standings
        if s.state == "in" and s.rule.importance != "watch"
    ]
    known = (
        f"a better one could gain at most {answer.gap:.1%} of a target"
        if math.isfinite(answer.gap)
        else "how much it could improve is unknown"
    )
    gap = "" if answer.proof == "optimal" else f"Not proven: {known}."
    return {
        "bowl": bowl,
        "bench_url": reverse("bowls:bench", args=[bowl.pk]),
        "result": result,
        "title": _title(answer),
        "sentence": _sentence(result),
        "gap": gap,
        "proving": proving and answer.proof != "optimal",
        "turned": result.turned if result.stored else (),
        "missed": missed,
        "met": met,
        "watched": _lines(answer.standings, "watch"),
        "why_rules": [
            f"{s.rule.name}: {s.rule.why}"
            for s in answer.standings
            if s.rule.why and s.state != "in"
        ],
        "unresolved": bool(answer.off("must", "should")) or bool(answer.clashes),
        "impossible": answer.status not in TITLES,
        "solve_ms": f"{answer.solve_ms:.0f}",
    }


def ways(bowl: Bowl) -> dict[str, Any]:
    """Why it cannot be done, and the ways out, each numbered for its key; where there is nothing to
    balance, that.
    """
    try:
        answer = balance(bowl_question_of(bowl))
        conflict = conflict_of(answer)
        found = ways_out(answer, conflict, pantry_of(bowl)) if conflict else []
    except DieteticsError as error:
        return {
            "because": str(error),
            "bench_url": reverse("bowls:bench", args=[bowl.pk]),
            "ways": [],
        }
    return {
        "because": conflict.because() if conflict else "",
        "bench_url": reverse("bowls:bench", args=[bowl.pk]),
        "ways": [_way_row(number, way) for number, way in enumerate(found[:8], 1)],
    }


def _way_row(number: int, way: Way) -> dict[str, Any]:
    return {
        "number": number,
        "change": way.change,
        "effect": way.effect,
        "kind": way.kind,
        "key": way.key,
        "end": way.end,
        "value": repr(way.value),
        "food": way.food,
    }


def hints(bowl: Bowl) -> dict[str, Any]:
    """Suggestions for the bowl as it is now."""
    question = bowl_question_of(bowl, as_served=True)
    return {
        "hints": [_hint_row(s) for s in suggestions(question, pantry_of(bowl))],
        "bench_url": reverse("bowls:bench", args=[bowl.pk]),
    }


def _hint_row(one: Suggestion) -> dict[str, Any]:
    amount = f"{one.amount:.6g} {one.unit.replace(',', '')}" if one.amount else ""
    return {"kind": one.kind, "text": one.text, "key": one.key, "amount": amount, "food": one.food}


def protein(bowl: Bowl) -> dict[str, Any]:
    """The protein of a bowl in detail: the parts add up to the total as shown."""
    value = bowl_value(bowl)
    question = bowl_question_of(bowl)
    eaten = eaten_foods(question, [row.amount for row in bowl.parts.all()])
    total = value.total["protein_g"]
    grams = [
        (p.item.content.known_per_100g("protein_g")[0] or 0.0) * p.item.grams / 100
        for p in value.portions
    ]
    shown = rounded_to_sum(grams, nutrient("protein_g").decimals)
    rows = [
        (p.item.label, f"{g}", f"{float(g) / total.amount:.0%}" if total.amount else "")
        for p, g in zip(value.portions, shown, strict=True)
    ]
    return {
        "rows": rows,
        "total": total.text(),
        "sources": value.protein_sources,
        "source": PATTERN_SOURCE,
        **_quality(eaten),
    }


def _quality(eaten: list[tuple[Food, float]]) -> dict[str, Any]:
    found = quality(eaten)
    if found is None:
        return {"score": "", "acids": [], "digested": None, "without": []}
    plain, corrected = found
    acids = [
        (row.name, f"{row.mg_per_g:.0f}", f"{row.wanted:g}", f"{row.ratio:.2f}")
        for row in acid_rows(plain)
    ]
    more = None
    if corrected is not None:
        more = {
            "score": f"{corrected.score:.2f}",
            "share": f"{corrected.digestibility:.0%}",
            "covered": f"{corrected.covered:.0%}",
            "stands_in": ", ".join(corrected.stands_in),
            "source": DIGESTIBILITY_SOURCE,
        }
    return {
        "score": f"{min(1.0, plain.score):.2f}",
        "limiting": plain.limiting,
        "complete": plain.score >= 1,
        "covered": f"{plain.covered:.0%}",
        "acids": acids,
        "digested": more,
        "without": without_pattern(eaten),
    }


def raw_words(part: BowlPart) -> str:
    """A cooked part before cooking, or a raw one after."""
    food = food_of(part.bowl.client.practitioner_id, part.food_key) if part.food_key else None
    return other_weight(food, part.grams, load_shelf()) if food else ""


def part_panel(bowl: Bowl, part: BowlPart, refused: str = "") -> dict[str, Any]:
    """One part in the drawer: its weight before cooking, lock, limits, place, and what may stand in
    its place.
    """
    question = bowl_question_of(bowl)
    asked = next(p for p in question.parts if p.key == str(part.pk))
    unit = part.unit.replace(",", "")

    def limit(value: float | None) -> str:
        return "" if value is None else f"{amount_text(value)} {unit}"

    span = (asked.amounts[0], asked.amounts[-1]) if asked.amounts else (part.amount, part.amount)
    return {
        "bowl": bowl,
        "part": part,
        "name": asked.name,
        "refused": refused,
        "raw": raw_words(part),
        "part_url": f"{reverse('bowls:bench', args=[bowl.pk])}parts/{part.pk}/",
        "least": limit(part.least),
        "most": limit(part.most),
        "kept_out": asked.kept_out,
        "span": f"{amount_words(asked, span[0])} to {amount_words(asked, span[1])}"
        if not part.locked
        else "locked",
        "grams": f"{part.grams:,.0f}",
        "served": "" if part.served_g is None else f"{part.served_g:,.0f}",
        "hand": "" if part.chosen is None else amount_words(asked, part.chosen),
        "href": reverse("shelf:food", args=[part.food_key])
        if part.food_key
        else reverse("batches:detail", args=[part.batch_id]),
    }
