"""From a stored bowl to a question for the solver: parts with locks and limits, windows, school, allergies, the dish itself."""

from __future__ import annotations

from dataclasses import replace

from dietetics.balance.parts import kept_out, part_of_portion
from dietetics.balance.question import Part, Question, Rule, nutrient_rule, school_rules, steady_rules, volume_rule
from dietetics.balance.roles import fits, reason_against
from dietetics.balance.ways import Pantry
from dietetics.cautions.food import SWING
from dietetics.composition.foods import Food
from dietetics.dishes.bowls import BOWL_ML, Portion
from dietetics.errors import DieteticsError
from dietetics.targets.schools import School
from roundpantry.bowls.models import Bowl, BowlPart
from roundpantry.bowls.records import bowl_scope, bowl_value, bowls_of, meal_windows_of, portion_value
from roundpantry.clients.records import acknowledged, school_of
from roundpantry.shelf.records import preferences_of, scales_of, shelf_of
from roundpantry.targets.records import clinicians_keys

VITAMIN_K = "vitamin_k_ug"


def school_or_none(bowl: Bowl) -> School | None:
    """The client's school; None where an own one was removed."""
    try:
        return school_of(bowl.client, bowl.client.school)
    except DieteticsError:
        return None


def open_allergies(bowl: Bowl) -> list[str]:
    """The client's allergies that nobody has acknowledged for this bowl."""
    known = acknowledged(bowl.client, bowl_scope(bowl)) if bowl.client.allergies else {}
    return [allergy for allergy in bowl.client.allergies if f"allergen-{allergy}" not in known]


def against(bowl: Bowl, foods: list[Food], rules: School | None, allergies: list[str]) -> str:
    """Why foods already in the bowl may not stay: an allergy nobody acknowledged, or the school."""
    for food in foods:
        reason = reason_against(food, allergies, "", rules)
        if reason:
            return f"{reason} (it holds {food.name})" if len(foods) > 1 else reason
    return ""


def asked_part(bowl: Bowl, row: BowlPart, portion: Portion, rules: School | None, allergies: list[str]) -> Part:
    """One part as asked: around the portion chosen by hand, within the limits set by hand."""
    chosen = portion.amount if row.chosen is None or row.locked else row.chosen
    part = part_of_portion(portion, row.locked, chosen)
    if not row.locked:
        least = part.least if row.least is None else row.least
        most = part.most if row.most is None else row.most
        part = replace(part, least=min(least, most), most=max(least, most))
    return kept_out(part, against(bowl, [food for food, _ in part.foods], rules, allergies))


def steady_vitamin_k(bowl: Bowl) -> list[Rule]:
    """On warfarin: vitamin K near what the client's other bowls usually bring. Watched, since much of it is unknown."""
    if "warfarin" not in bowl.client.conditions:
        return []
    others = [b for b in bowls_of(bowl.client.practitioner).filter(client=bowl.client) if b.pk != bowl.pk]
    amounts = [a for b in others if (a := bowl_value(b).total[VITAMIN_K].amount)]
    return steady_rules(amounts, SWING)


def question_of(bowl: Bowl) -> Question:
    """The bowl as a question. A bowl without a meal is asked for its school and its volume alone."""
    rules, allergies = school_or_none(bowl), open_allergies(bowl)
    parts = tuple(asked_part(bowl, row, portion_value(row), rules, allergies) for row in bowl.parts.all())
    asked = clinicians_keys(bowl.meal.target_set) if bowl.meal else frozenset()
    wanted = [nutrient_rule(window, window.key in asked) for window in meal_windows_of(bowl)]
    wanted += school_rules(rules) if rules else []
    return Question(parts, (*wanted, volume_rule(BOWL_ML), *steady_vitamin_k(bowl)))


def pantry_of(bowl: Bowl) -> Pantry:
    """What may come into the bowl: the practitioner's shelf without what client and school keep out."""
    client, rules = bowl.client, school_or_none(bowl)
    practitioner = client.practitioner
    metric = preferences_of(practitioner).portions == "metric"
    return Pantry(
        list(shelf_of(practitioner)), scales_of(practitioner),
        lambda food: fits(food, client.allergies, client.dislikes, rules), metric,
    )  # fmt: skip
