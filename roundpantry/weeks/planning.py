"""The question of a stored week, and its answer put into the plan. Nothing is solved inside a
database transaction.
"""

from __future__ import annotations

import logging
from dataclasses import dataclass, replace
from typing import Any

from dietetics.errors import DieteticsError
from dietetics.targets.conditions import nutrients_minded
from dietetics.week.batch_supply import with_frozen
from dietetics.week.day_totals import Dish, uses_of
from dietetics.week.daynames import DAY_NAMES
from dietetics.week.plan import FREE, Cell, Cooking, Day, Entry, Plan
from dietetics.week.question.answer import Answer, answer_of, same_week
from dietetics.week.question.priorities import gives_up
from dietetics.week.question.question import (
    LIKING_WORDS,
    MOST_BATCHES_AN_EVENING,
    MOST_EVENINGS,
    Choice,
    Offer,
    Question,
    Slot,
    Spare,
)
from dietetics.week.question.question_building import (
    dish_and_sides,
    kept_from,
    liked_under,
    offer_of,
    spare_dish,
    stays,
    usual_different,
    week_question,
)
from dietetics.week.question.recheck import broken_rules
from dietetics.week.question.usual_limits import with_usual_limits
from dietetics.week.search.improving import first_week
from dietetics.week.words.week_words import what_changed
from roundpantry.counter.typed_numbers import whole
from roundpantry.weeks import services
from roundpantry.weeks.models import DishChoice, Week
from roundpantry.weeks.planning_facts import PlanningFacts, free_meals_of, gather, rules_of
from roundpantry.weeks.records import AvailableDishes, suits
from roundpantry.weeks.reported import heard_about

LOG = logging.getLogger(__name__)


def question_from(facts: PlanningFacts) -> Question:
    """The question of a week as it stands. Raises `week-no-dishes`."""
    offers, unsaid = _offers(facts)
    free, rules = _free_offers(facts), facts.rules
    if "different" not in facts.week.rules:
        rules = replace(rules, different=usual_different(offers, facts.slots))
    if rules.different is not None:  # what is chosen freely is none of the main dishes wanted
        mains = {meal.name for meal in facts.slots if meal.main}
        rules = replace(rules, different=rules.different + sum(bool(o.meals & mains) for o in free))
    asked = week_question(
        facts.plan,
        facts.slots,
        facts.targets.windows,
        facts.targets.asks,
        [*offers, *free],
        facts.available.dishes,
        facts.available.pots,
        rules,
    )
    fixed = facts.targets.fixed | nutrients_minded(facts.client.conditions)
    return replace(with_usual_limits(asked, unsaid), fixed=fixed)


def spare_dishes(facts: PlanningFacts, question: Question) -> list[Spare]:
    """The dishes that are not offered for this week, and that nothing keeps from the client."""
    found = []
    for key, dish in facts.available.dishes.items():
        liking = liked_under(dish, facts.client, heard_about(dish, facts.heard))
        if dish.assumed or dish.drink or key in question.by_key or key in facts.said or not liking:
            continue
        if kept_from(dish, facts.client) is None:
            asks, windows = facts.targets.asks, facts.targets.windows
            spare = spare_dish(dish, facts.slots, facts.available.pots, asks, windows, liking)
            found += [spare] if spare is not None else []
    return found


def way_taken(week: Week, kind: str, value: str) -> tuple[dict[str, Any], dict[str, Any] | None]:
    """The rules of a week when a way out is taken, and how the dish that it is about is taken, if
    it is about one.

    Raises `week-way` for a way that is none, or is taken elsewhere.
    """
    usual, evening, pots = (
        rules_of(week),
        whole(value, -1, 6),
        whole(value, 1, MOST_BATCHES_AN_EVENING),
    )
    evenings = sorted({*usual.cooking_days, *([] if evening is None else [evening])})
    if kind == "again":
        return dict(week.rules), None
    if kind == "evening" and evening is not None and len(evenings) <= MOST_EVENINGS:
        return {**week.rules, "cooking_days": evenings}, None
    if kind == "pots" and pots is not None:
        return {**week.rules, "most_pots": pots}, None
    choice = _choice_of_way(week, kind, value)
    if choice is None:
        raise DieteticsError("week-way", evenings=MOST_EVENINGS)
    return dict(week.rules), choice


def _choice_of_way(week: Week, kind: str, key: str) -> dict[str, Any] | None:
    """How a dish is taken: offered too ("dish"), once more a week ("uses"), or nearer to itself
    ("apart"). None for any other way.
    """
    facts = gather(week)
    question = question_from(facts)
    offer: Offer | None = None
    if kind == "dish":
        offer = next((one for one, _ in spare_dishes(facts, question) if one.key == key), None)
    elif kind in ("uses", "apart") and key in question.by_key:
        offer = question.offers[question.by_key[key]]
    if offer is None:
        return None
    return {
        "meals": [meal.name for meal in question.meals if meal.name in offer.meals],
        "liking": offer.liking,
        "apart": max(0, offer.apart - (kind == "apart")),
        "travels": offer.travels,
        "left_out": False,
        **({"most_uses": offer.most_uses + 1} if kind == "uses" else {}),
    }


def _liking(facts: PlanningFacts, dish: Dish, row: DishChoice | None) -> int:
    """How a dish is liked; one that uses up what is left is planned as if it were loved, unless it
    is taken with reluctance.
    """
    known = heard_about(dish, facts.heard)
    said = row.liking if row else liked_under(dish, facts.client, known)
    uses_up = any(food.family in facts.use_up for food, _ in dish.foods)
    return max(LIKING_WORDS) if uses_up and said else said


def _offers(facts: PlanningFacts) -> tuple[list[Offer], dict[str, list[str]]]:
    """Every dish that may be planned for a client, with how it is taken and how often it may come;
    and what of that nobody said, by dish.
    """
    fitting = []
    for key, dish in facts.available.dishes.items():
        row = facts.said.get(key)
        names = suits(key, facts.available, facts.targets, row)
        kept = row is None and kept_from(dish, facts.client) is not None
        if names and not dish.assumed and not kept and not (row is not None and row.left_out):
            fitting.append((dish, names, row))
    offers, unsaid = [], dict[str, list[str]]()
    for dish, names, row in fitting:
        often = row.most_uses if row is not None else None
        if often is None:
            unsaid[dish.key] = ["most_uses"] if row is not None else ["most_uses", "apart"]
        more = {
            "meals": frozenset(names),
            "liking": _liking(facts, dish, row),
            "most_uses": len(DAY_NAMES) if often is None else often,
            "apart": row.apart if row else 1,
            "new": bool(facts.seen) and dish.key not in facts.seen,
            "before": facts.before.get(dish.key, ()),
            "travels": row.travels if row and row.travels is not None else dish.travels,
        }
        offers.append(offer_of(dish, facts.available.pots, facts.targets.asks, **more))
    return offers, unsaid


def _free_offers(facts: PlanningFacts) -> list[Offer]:
    """The free choice for the meal that the client wants to choose, as often as was said."""
    name, times = free_meals_of(facts.week)
    if name not in facts.plan.meals:
        return []
    dish = facts.available.dishes[f"{FREE}-{facts.plan.meals.index(name)}"]
    often = {"most_uses": times, "least_uses": times}
    more = {"meals": frozenset({name}), "liking": max(LIKING_WORDS), "travels": True}
    return [offer_of(dish, facts.available.pots, facts.targets.asks, **often, **more)]


def plan_with(plan: Plan, answer: Answer, available: AvailableDishes) -> Plan:
    """The plan with an answer put into it: unlocked cells and cookings of this week; what stands
    beside a dish, and what was left over, stays.
    """
    days = []
    for d, day in enumerate(plan.days):
        cells = []
        for m, cell in enumerate(day.cells):
            key = answer.dish((d, m)) if (d, m) in answer.chosen else ""
            offered = answer.question.by_key
            _, sides = dish_and_sides(cell, offered)
            if stays(cell, offered) or cell.skipped or (d, m) not in answer.chosen:
                cells.append(cell)
            elif key in available.dishes:
                entry = Entry(key, available.dishes[key].name, answer.chosen[d, m].scale)
                cells.append(Cell((entry, *sides)))
            else:
                cells.append(Cell(sides))
        days.append(Day(tuple(cells), day.kind))
    earlier = tuple(c for c in plan.cookings if c.day < -1)
    cooked = tuple(
        Cooking(key, day, float(n))
        for (key, day), n in sorted(answer.cooked.items(), key=lambda p: (p[0][1], p[0][0]))
    )
    planned = replace(plan, days=tuple(days), cookings=(*earlier, *cooked))
    return replace(planned, cookings=_with_frozen(planned, available))


def _with_frozen(plan: Plan, available: AvailableDishes) -> tuple[Cooking, ...]:
    """The cookings of a plan, with what is eaten too late for the refrigerator frozen."""
    uses, frozen = uses_of(plan, available.dishes), dict[tuple[str, int], Cooking]()
    for key, pot in available.pots.items():
        cooked = [one for one in plan.cookings if one.batch == key]
        if pot.freezes and cooked:
            made = with_frozen(pot, cooked, uses.get(key, ()), len(plan.meals))
            frozen |= {(key, one.day): one for one in made}
    return tuple(frozen.get((one.batch, one.day), one) for one in plan.cookings)


@dataclass(frozen=True)
class PlannedWeek:
    """A week planned anew: its answer, the plan with it, and what is better and worse in it than in
    the week that stood, in words (nothing where that had no dishes, or broke a rule).
    """

    answer: Answer
    plan: Plan
    changes: tuple[str, ...] = ()


def answer_for(week: Week, other: bool = False) -> PlannedWeek:
    """A good week for a stored one; with `other` dishes than those that stand there, as far as
    nothing suffers that matters more. Raises DieteticsError.
    """
    facts = gather(week)
    question = wanted = question_from(facts)
    if other:
        cells = (cell for _, _, cell in facts.plan.places())
        wanted = question.rather_without({e.dish for cell in cells for e in cell.entries})
    answer = same_week(question, first_week(wanted)) if other else first_week(wanted)
    before = _week_before(question, facts.plan)
    changes = () if before is None else tuple(what_changed(before, answer))
    return PlannedWeek(answer, plan_with(facts.plan, answer, facts.available), changes)


def _week_before(question: Question, plan: Plan) -> Answer | None:
    """The week that stands, to hold a new one against; None where it has no dishes, holds something
    that is not offered, or breaks a rule.
    """
    there = plan_answer(question, plan)
    if there is None or broken_rules(there) or not any(map(there.dish, question.slots)):
        return None
    return answer_of(question, there.chosen)


def plan_answer(question: Question, plan: Plan) -> Answer | None:
    """A plan as an answer with its own cookings; None where a cell holds something that is not
    offered.
    """
    chosen: dict[Slot, Choice] = {}
    for slot in question.slots:
        choice = _choice_there(question, slot, plan)
        if choice is None:
            return None
        chosen[slot] = choice
    cooked = {(one.batch, one.day): one.pots for one in plan.cookings if one.day >= -1 and one.pots}
    return replace(answer_of(question, chosen), cooked=cooked)


def store_found(week: Week, revision: int, made: Plan, what: str) -> Week:
    """Store a planned or found week after checking it once more against what is there now.

    Raises `week-no-longer-fits`, logged, for one that breaks a rule; `week-stands-better` for one
    that gives up what matters more than what it gains, with what that is: a plan is never worse in
    silence; MovedOnError when the week has moved on.
    """
    if week.revision != revision:
        raise services.MovedOnError
    facts = gather(week)
    broken = [
        f"the locked cell of day {d + 1} was changed"
        for d, m, cell in facts.plan.places()
        if (cell.locked or cell.skipped) and made.cell(d, m) != cell
    ]
    question = question_from(facts)
    answer = plan_answer(question, made)
    broken += (
        ["a meal has a dish that is not available"] if answer is None else broken_rules(answer)
    )
    if broken:
        LOG.error(
            "a week was refused between search and store: week %s: %s", week.pk, "; ".join(broken)
        )
        raise DieteticsError("week-no-longer-fits", rules="; ".join(broken))
    if answer is not None:
        _refuse_worse(_week_before(question, facts.plan), answer_of(question, answer.chosen))
    return services.store(week, revision, made, what)


def _refuse_worse(before: Answer | None, after: Answer) -> None:
    """Raise `week-stands-better` where what matters more suffers, whatever it is for."""
    if before is not None and gives_up(before, after):
        changes = "; ".join(what_changed(before, after))
        raise DieteticsError("week-stands-better", changes=changes)


def answer_as_it_stands(facts: PlanningFacts) -> Answer | None:
    """The week as it stands, as an answer: to be explained. None where a cell holds something that
    is not offered.
    """
    question = question_from(facts)
    there = plan_answer(question, facts.plan)
    return None if there is None else answer_of(question, there.chosen)


def in_the_way(facts: PlanningFacts) -> str:
    """The meals that hold what the planner can't use, in words: "Lunch on Monday"."""
    question = question_from(facts)
    return ", ".join(
        f"{question.meals[slot[1]].name} on {DAY_NAMES[slot[0]]}"
        for slot in question.slots
        if _choice_there(question, slot, facts.plan) is None
    )


def _choice_there(question: Question, slot: Slot, plan: Plan) -> Choice | None:
    """What stands in a cell as a choice of the question; an empty cell is "nothing"."""
    options, cell = question.choices(slot), plan.cell(*slot)
    first, sides = dish_and_sides(cell, question.by_key)
    if slot in question.locks or (first is None and sides == cell.entries):  # nothing, or drinks
        return options[0]
    if first is None:
        return None
    index = question.by_key[first.dish]
    there = next(
        (o for o in options if o.dish == index and abs(o.scale - first.scale) < 1e-9), None
    )
    if there is not None:
        return there
    locked = replace(question, locks={**question.locks, slot: (first.dish, first.scale)})
    return locked.choices(slot)[0]
