"""What stands beside the week, formatted: one cell with what may be put there, one batch with its
evenings, a week explained.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from django.urls import reverse
from django.utils.text import get_text_list

from dietetics.amounts.weighing import amount_text
from dietetics.errors import DieteticsError
from dietetics.nutrients import nutrient
from dietetics.week.batch_supply import servings_text
from dietetics.week.day_totals import Dish
from dietetics.week.daynames import DAY_NAMES, evening_before
from dietetics.week.plan import DRINK, FREE
from dietetics.week.question.answer import PROVEN, Answer
from dietetics.week.question.empty_meals import meals_with_few, too_few_mains
from dietetics.week.question.question import LIKING_WORDS, Offer, Question
from dietetics.week.question.question_building import against_words, liked_under
from dietetics.week.words.explanation import Missed, binding, missed, others
from dietetics.week.words.kinds_eaten import kinds_of_week
from dietetics.week.words.week_words import topics
from roundpantry.bowls.patterns import patterns_for, patterns_of, usual_meal
from roundpantry.clients.models import Client
from roundpantry.clients.records import client_facts_of
from roundpantry.counter.typed_numbers import whole
from roundpantry.targets.records import newest_set
from roundpantry.weeks.models import DishChoice, Search, Week
from roundpantry.weeks.planning import answer_as_it_stands, question_from, spare_dishes
from roundpantry.weeks.planning_facts import gather
from roundpantry.weeks.records import (
    AvailableDishes,
    WeekTargets,
    available_dishes,
    choices_of,
    earlier_uses,
    plan_value,
    suits,
    with_free,
)
from roundpantry.weeks.reported import heard_about, heard_of
from roundpantry.weeks.search_queue import state_of
from roundpantry.weeks.services import waiting_searches
from roundpantry.weeks.week_snapshot import WeekSnapshot, parts_of, snapshot_of

PAGES = {"bowl": "bowls:bench", "batch": "batches:detail"}
MOST_WAYS, MOST_NAMED, MOST_MISSED = 8, 3, 12
EVENINGS = (-1, 0, 1, 2, 3, 4, 5, 6)


def _row(
    number: int, dish: Dish, seen: int, week_uses: int, said: DishChoice | None, against: str
) -> dict[str, Any]:
    serving = dish.serving
    words = [LIKING_WORDS[said.liking]] if said is not None and said.liking != 1 else []
    words += [f"{week_uses} × this week"] if week_uses else []
    words += [f"{seen} × in recent weeks"] if seen else []
    return {
        "number": number if number <= 9 else "",
        "key": dish.key,
        "name": dish.name,
        "energy": serving["energy_kcal"].shown(),
        "protein": serving["protein_g"].shown(),
        "density": serving["kcal_per_g"].shown(),
        "words": ", ".join(words),
        "assumed": dish.assumed,
        "against": against,
    }


def dish_rows(week: Week, found: WeekSnapshot, day: int, meal: int) -> list[dict[str, Any]]:
    """What may be put into a cell: what suits the meal first, the best liked before, then
    everything else.
    """
    plan, week_targets, name = found.plan, found.week_targets, found.plan.meals[meal]
    available = with_free(available_dishes(week.client, plan, everything=True), week_targets, plan)
    said, seen = choices_of(week.client), earlier_uses(week)
    used: dict[str, int] = {}
    for _, _, cell in plan.places():
        for entry in cell.entries:
            used[entry.dish] = used.get(entry.dish, 0) + 1
    facts, known = client_facts_of(week.client), heard_of(week.client)
    fitting: list[tuple[int, str, Dish]] = []
    rest: list[tuple[int, str, Dish]] = []
    for key, dish in available.dishes.items():
        row = said.get(key)
        if key.startswith(FREE) and key != f"{FREE}-{meal}":
            continue
        fits = (
            week_targets is not None
            and name in suits(key, available, week_targets, row)
            and not (row and row.left_out)
        )
        liking = row.liking if row else liked_under(dish, facts, heard_about(dish, known))
        (fitting if fits else rest).append((-liking, dish.name, dish))
    return [
        _row(
            n,
            dish,
            seen.get(dish.key, 0),
            used.get(dish.key, 0),
            said.get(dish.key),
            against_words(dish, facts),
        )
        for n, (_, _, dish) in enumerate(
            [*sorted(fitting, key=lambda p: p[:2]), *sorted(rest, key=lambda p: p[:2])], 1
        )
    ]


def cell_panel(week: Week, day: int, meal: int) -> dict[str, Any]:
    """One cell: what stands there, what may be done with it, what may be put there."""
    found = snapshot_of(week)
    cell = found.plan.cell(day, meal)
    entries = []
    for n, entry in enumerate(cell.entries):
        dish = found.available.dishes.get(entry.dish)
        entries.append(
            {
                "position": n,
                "name": dish.name if dish else entry.name,
                "scale": amount_text(entry.scale),
                "gone": dish is None,
                "figures": _entry_figures(dish, entry.scale),
                "parts": parts_of(found, entry),
                "href": _href(entry.dish),
                "bowl": entry.dish[5:] if entry.dish.startswith("bowl-") else "",
            }
        )
    return {
        "week": week,
        "day": day,
        "meal": meal,
        "title": f"{DAY_NAMES[day]}, {found.plan.meals[meal].lower()}",
        "cell": cell,
        "entries": entries,
        "offers": dish_rows(week, found, day, meal),
        "rest": rest_words(found, day, meal),
        "beside": bool(_beside(found, day, meal)),
        "beside_list": _beside(found, day, meal),
        "base": reverse("weeks:week", args=[week.pk]),
    }


def _entry_figures(dish: Dish | None, scale: float) -> str:
    if dish is None:
        return "no longer available"
    serving = dish.serving.scaled(scale)
    return (
        f"{serving.grams:,.0f} g · {serving['energy_kcal'].shown()} · "
        f"{serving['protein_g'].shown()} protein"
    )


def _href(key: str) -> str:
    kind, _, number = key.partition("-")
    page, pk = PAGES.get(kind), whole(number)
    return reverse(page, args=[pk]) if page and pk is not None else ""


def _beside(found: WeekSnapshot, day: int, meal: int) -> list[str]:
    """The bowls of the day's other meals, by their numbers."""
    cells = found.plan.days[day].cells
    return [
        e.dish[5:]
        for m, c in enumerate(cells)
        if m != meal
        for e in c.entries
        if e.dish.startswith("bowl-")
    ]


def rest_words(found: WeekSnapshot, day: int, meal: int) -> list[str]:
    """What the day's other meals leave for this one, of energy, protein and what must be held."""
    if found.week_targets is None:
        return []
    words = []
    for window in found.week_targets.windows:
        if window.key not in ("energy_kcal", "protein_g") and window.importance != "must":
            continue
        if nutrient(window.key).kind == "ratio":
            continue
        figure = found.days[day].total[window.key]
        here = found.days[day].meals[meal][window.key].amount or 0.0
        if figure.amount is None:
            continue
        left = window.less(
            type(figure)(figure.key, figure.amount - here, None, None, figure.coverage)
        )
        words.append(f"{nutrient(window.key).name} {left.text()} {nutrient(window.key).unit}")
    return words


def pot_panel(week: Week, key: str) -> dict[str, Any]:
    """One batch: its evenings with pots, what is eaten when, what is left."""
    found = snapshot_of(week)
    available = (
        found.available
        if key in found.available.pots
        else available_dishes(week.client, found.plan, everything=True)
    )
    if key not in available.pots:
        raise DieteticsError("week-unreadable", problem="that batch no longer exists")
    pot = available.pots[key]
    supply_of = next((one for one in found.supplies if one.pot.key == key), None)
    cooked = {c.day: c for c in (supply_of.cookings if supply_of else ())}
    evenings = [
        {
            "number": n,
            "day": day,
            "name": DAY_NAMES[day] if day >= 0 else evening_before(),
            "pots": amount_text(cooked[day].pots) if day in cooked else "",
            "end": DAY_NAMES[min(day + pot.keeps_days, 6)]
            if day + pot.keeps_days <= 6
            else "after the week",
            "frozen": day in cooked and cooked[day].frozen > 0,
        }
        for n, day in enumerate(EVENINGS, 1)
    ]
    eaten = [
        {
            "when": f"{DAY_NAMES[t.use.day][:3]} {found.plan.meals[t.use.meal].lower()}",
            "who": t.use.who,
            "grams": f"{t.use.grams:,.0f} g",
            "left": f"{t.left_g / (pot.serving_g or 1):.1f}",
            "missing": f"{t.missing_g:,.0f} g missing" if t.missing_g else "",
            "thawed": f"{t.thawed_g:,.0f} g thawed" if t.thawed_g else "",
        }
        for t in (supply_of.taken if supply_of else ())
    ]
    return {
        "week": week,
        "pot": pot,
        "evenings": evenings,
        "eaten": eaten,
        "problems": supply_of.problems() if supply_of else [],
        "serving_g": f"{pot.serving_g:,.0f}",
        "servings": servings_text(pot.yield_g / pot.serving_g) if pot.serving_g else "? servings",
        "href": _href(key),
    }


def pots_offered(week: Week) -> list[tuple[str, str]]:
    """Every batch that could be cooked."""
    available = available_dishes(week.client, plan_value(week), everything=True)
    return sorted(((key, pot.name) for key, pot in available.pots.items()), key=lambda p: p[1])


def explained(week: Week, answer: Answer, planned: bool = False) -> dict[str, Any]:
    """A week explained: what could not be met, what binds, what contradicts itself."""
    rows, found = missed(answer), snapshot_of(week)
    eaten, wanted = [found.days[d].foods for d in found.counted], answer.question.rules.plant_kinds
    kinds = kinds_of_week(eaten, wanted) if eaten else []
    return {
        "week": week,
        "kinds": kinds,
        "planned": planned,
        "topics": topics(answer),
        "missed": _by_text([one for one in rows if one.importance != "watch"])[:MOST_MISSED],
        "watched": sum(one.importance == "watch" for one in rows),
        "binding": binding(answer),
        "warnings": answer.question.warnings(),
        "planned_for": ", ".join(
            nutrient(w.key).name_in_text for w in answer.question.windows if w.importance != "watch"
        ),
        "dishes": sum(
            bool(offer.meals) and not offer.least_uses for offer in answer.question.offers
        ),
        "best": planned and answer.gap is not None and answer.gap <= PROVEN,
        "how_good": _how_good(answer) if planned else "",
    }


def _how_good(answer: Answer) -> str:
    """How near to the best a planned week is, as far as that was proven."""
    if answer.gap is None:
        return "This is a good plan, not proven to be the best."
    if answer.gap <= PROVEN:
        return "No better plan is possible with these dishes and rules, as the planner weighs them."
    return f"This is a good plan; the best possible is at most {answer.gap:.1%} better."


def _by_text(rows: Sequence[Missed]) -> list[dict[str, str]]:
    """What is missed, each text once with its days."""
    days: dict[str, set[int]] = {}
    for one in rows:
        days.setdefault(one.text, set()).add(one.day)
    return [
        {
            "days": "Every day"
            if len(on) == len(DAY_NAMES)
            else ", ".join(DAY_NAMES[day][:3] for day in sorted(on)),
            "text": text,
        }
        for text, on in days.items()
    ]


def why_here(week: Week, day: int, meal: int) -> dict[str, Any]:
    """Why a dish stands where it stands: what the week would cost with another."""
    answer = answer_as_it_stands(gather(week))
    if answer is None or (day, meal) not in answer.chosen:
        return {"week": week, "title": "Why here?", "others": [], "cannot": True}
    names = {offer.key: offer.name for offer in answer.question.offers}
    here = names.get(answer.dish((day, meal)), "Nothing")
    rows = [
        {
            "name": names[o.dish],
            "scale": amount_text(o.scale),
            "verdict": "worse" if o.points >= 1 else "better" if o.points <= -1 else "as good",
            "changes": o.changes,
        }
        for o in others(answer, (day, meal))
    ]
    return {
        "week": week,
        "title": f"Why {here} on {DAY_NAMES[day]}?",
        "here": here,
        "others": rows,
        "cannot": False,
        "day": day,
        "meal": meal,
        "locked": (day, meal) in answer.question.locks,
    }


def ways_of(search: Search) -> dict[str, Any]:
    """How far a search for the cheapest ways to a better week is, and those found so far; when it
    is over, also what would give more dishes where there are few.
    """
    week, here = search.week, progress(search)
    rows = [{"number": n, **way} for n, way in enumerate(search.ways[:MOST_WAYS], 1)]
    page = {**here, "ways": rows, "few": [], "starters": True}
    if here["running"]:
        return page
    facts = gather(week)
    question = question_from(facts)
    named = {way["value"] for way in rows if way["kind"] == "dish"}
    spare = spare_dishes(facts, question)
    unnamed = [offer for offer, _ in spare if offer.key not in named]
    few = _for_few(week.client, question, unnamed)
    starters = any(one.starter for one in patterns_of(week.client.practitioner))
    return {**page, "few": few, "starters": starters}


def _for_few(client: Client, question: Question, spare: Sequence[Offer]) -> list[dict[str, Any]]:
    """For the meals with one dish or none, and for the main meals where fewer dishes are there than
    are wanted: the dishes that could be offered too, and the patterns that would give another, with
    the meal they would be for.
    """
    present = newest_set(client)
    meals = list(present.meals.all()) if present else []
    mine = patterns_for(client.practitioner, meals)
    drawn = set(client.bowls.values_list("name", flat=True))
    fresh = [one for one in mine if one.name not in drawn and one.meal_kind]
    found = []
    mains = too_few_mains(question)
    wanting = [
        ([name], count, 0)
        for name, count in meals_with_few(question)
        if not (mains and count and name in mains[0])
    ]
    for names, count, wanted in (*wanting, *([mains] if mains else [])):
        suiting = [(one, usual_meal(one, meals)) for one in fresh]
        fitting = [(one, meal) for one, meal in suiting if meal and meal.name in names]
        also = [one for one in spare if one.meals & set(names)]
        found.append(
            {
                "name": get_text_list(names, "and"),
                "count": count,
                "wanted": wanted,
                "patterns": fitting[:MOST_NAMED],
                "also": also[:MOST_NAMED],
            }
        )
    return found


def progress(search: Search) -> dict[str, Any]:
    """How far a search is."""
    state, gap = state_of(search), None
    queue = [one.pk for one in waiting_searches()]
    if search.points and search.bound is not None:
        gap = max(0.0, search.points - search.bound) / search.points
    return {
        "search": search,
        "week": search.week,
        "state": state,
        "running": state in (Search.RUNNING, Search.WAITING),
        "before": queue.index(search.pk) if search.pk in queue else None,
        "better": _better_by(search),
        "gap": "not known yet"
        if gap is None
        else ("nothing: this is the best possible" if gap <= PROVEN else f"at most {gap:.1%}"),
        "stale": search.week.revision != search.revision,
        "found": search.plan is not None,
    }


def _better_by(search: Search) -> str:
    """How much better the best week so far is than the first, as a share of the first."""
    if search.points is None or not search.first_points:
        return ""
    share = (search.first_points - search.points) / search.first_points
    return f"{share:.0%} better than the first plan" if share >= 0.005 else "the first plan"


def favourites(
    client: Client, available: AvailableDishes, week_targets: WeekTargets, seen: Mapping[str, int]
) -> list[dict[str, Any]]:
    """Every dish with how the client takes it."""
    said, facts = choices_of(client), client_facts_of(client)
    rows, known = list[dict[str, Any]](), heard_of(client)
    for key, dish in available.dishes.items():
        if dish.assumed or key.startswith(DRINK):
            continue
        row, of_dish = said.get(key), heard_about(dish, known)
        rows.append(
            {
                "key": key,
                "name": dish.name,
                "kind": "bowl" if key.startswith("bowl-") else "batch",
                "liking": row.liking if row else liked_under(dish, facts, of_dish),
                "stars": of_dish.stars,
                "left": of_dish.words(),
                "most": "" if row is None or row.most_uses is None else row.most_uses,
                "apart": row.apart if row else 1,
                "travels": dish.travels if row is None or row.travels is None else row.travels,
                "meals": suits(key, available, week_targets, row),
                "left_out": bool(row and row.left_out),
                "seen": seen.get(key, 0),
                "against": against_words(dish, facts),
            }
        )
    return sorted(rows, key=lambda r: (r["kind"] == "batch", not r["meals"], r["name"]))
