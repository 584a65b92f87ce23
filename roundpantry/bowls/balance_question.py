"""From a stored bowl to a question for the solver: parts with locks and limits, windows, school,
allergies, the dish itself.
"""

from __future__ import annotations

from dataclasses import replace

from dietetics.balance.fixes import Pantry
from dietetics.balance.question import (
    Part,
    Question,
    Rule,
    nutrient_rule,
    plate_rule,
    school_rules,
    steady_rules,
    volume_rule,
)
from dietetics.balance.question_parts import kept_out, part_of_portion
from dietetics.cautions.exclusions import Terms, exclusions, keeps_out
from dietetics.cautions.facts import ClientFacts
from dietetics.cautions.verdict import Verdict
from dietetics.cautions.week_rules import SWING
from dietetics.composition.foods import Food
from dietetics.dishes.bowls import BOWL_ML, Portion
from dietetics.errors import DieteticsError
from dietetics.targets.conditions import nutrients_minded
from dietetics.targets.schools import School
from dietetics.targets.usual_food import meal_rules
from roundpantry.bowls.models import Bowl, BowlPart
from roundpantry.bowls.records import (
    bowl_scope,
    bowl_value,
    bowls_of,
    meal_windows_of,
    portion_value,
)
from roundpantry.clients.records import acknowledged, client_facts_of, person_or_none, school_of
from roundpantry.shelf.records import preferences_of, scales_of, shelf_of
from roundpantry.targets.records import clinicians_keys

VITAMIN_K = "vitamin_k_ug"


def school_or_none(bowl: Bowl) -> School | None:
    """The client's school; None where an own one was removed."""
    try:
        return school_of(bowl.client, bowl.client.school)
    except DieteticsError:
        return None


def against(foods: list[Food], client: ClientFacts, known: frozenset[str]) -> str:
    """Why foods already in the bowl may not stay: what keeps them out and nobody acknowledged. A
    dislike keeps nothing out that a hand put in.
    """
    for food in foods:
        verdict = keeps_out_of_bowl(food, client, known)
        if verdict is not None:
            return f"{verdict.short} (contains {food.name})" if len(foods) > 1 else verdict.short
    return ""


def keeps_out_of_bowl(food: Food, client: ClientFacts, known: frozenset[str]) -> Verdict | None:
    """The gravest verdict that keeps a food out of a bowl, leaving aside what was acknowledged and
    what is only unwanted.
    """
    found = exclusions(food, Terms(client))
    return next((v for v in found if v.forbids and v.key[:80] not in known), None)


def asked_part(
    row: BowlPart,
    portion: Portion,
    client: ClientFacts,
    known: frozenset[str],
    as_served: bool = False,
) -> Part:
    """One part as asked: around the portion chosen by hand (or, `as_served`, the one it has now),
    within its limits.
    """
    chosen = portion.amount if row.chosen is None or row.locked or as_served else row.chosen
    part = part_of_portion(portion, row.locked, chosen)
    if not row.locked:
        least = part.least if row.least is None else row.least
        most = part.most if row.most is None else row.most
        part = replace(part, least=min(least, most), most=max(least, most))
    return kept_out(part, against([food for food, _ in part.foods], client, known))


def steady_vitamin_k(bowl: Bowl) -> list[Rule]:
    """On warfarin: vitamin K near what the client's other bowls usually bring. Watched, since much
    of it is unknown.
    """
    if "warfarin" not in bowl.client.conditions:
        return []
    others = [
        b for b in bowls_of(bowl.client.practitioner).filter(client=bowl.client) if b.pk != bowl.pk
    ]
    amounts = [a for b in others if (a := bowl_value(b).total[VITAMIN_K].amount)]
    return steady_rules(amounts, SWING)


def bowl_question_of(bowl: Bowl, as_served: bool = False) -> Question:
    """The bowl as a question. A bowl without a meal is asked for its school and its volume alone.

    A balance stays near the portions that a hand chose; what judges the bowl as it is now asks
    `as_served`.
    """
    rules, client = school_or_none(bowl), client_facts_of(bowl.client)
    known = frozenset(acknowledged(bowl.client, bowl_scope(bowl)))
    parts = tuple(
        asked_part(row, portion_value(row), client, known, as_served) for row in bowl.parts.all()
    )
    asked = clinicians_keys(bowl.meal.target_set) if bowl.meal else frozenset()
    wanted = [nutrient_rule(window, window.key in asked) for window in meal_windows_of(bowl)]
    wanted += school_rules(rules) if rules else []
    person = person_or_none(bowl.client)
    wanted += map(plate_rule, meal_rules(person)) if person and bowl.meal else []
    return Question(parts, (*wanted, volume_rule(BOWL_ML), *steady_vitamin_k(bowl)))


def pantry_of(bowl: Bowl) -> Pantry:
    """What may come into the bowl: the practitioner's shelf without what client and school keep
    out.
    """
    practitioner, facts = bowl.client.practitioner, client_facts_of(bowl.client)
    terms = Terms(facts, suggesting=True)
    metric = preferences_of(practitioner).portions == "metric"
    return Pantry(
        list(shelf_of(practitioner)),
        scales_of(practitioner),
        lambda food: keeps_out(food, terms) is None,
        metric,
        school_or_none(bowl),
        nutrients_minded(facts.conditions),
    )
