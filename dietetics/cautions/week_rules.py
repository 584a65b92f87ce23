"""Rules that only a week shows: vitamin K from day to day, fibre against before, few meals with
insulin, repeated days.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from dietetics.cautions.asked import WEEK, asked_of
from dietetics.cautions.exclusions import exclusions_of
from dietetics.cautions.facts import DayFacts, MealFacts, WeekFacts
from dietetics.cautions.food_rules import (
    allergens_open,
    b12,
    brazil_nuts,
    has_iodine,
    iodine_seaweed,
    upper_levels,
)
from dietetics.cautions.verdict import Verdict
from dietetics.composition.sums import Figure
from dietetics.nutrients import nutrient
from dietetics.targets.conditions import LOWERS_GLUCOSE, POTASSIUM_WATCHED

FEW_MEALS = 2
COFFEE, MUCH_CALCIUM_MG = "coffee", 300.0  # a cup of fortified milk; common practice
KNOWN_SHARE = (
    0.95  # of a day's weight: with less known, a ceiling cannot be said to be kept (our judgement)
)
FIBRE_JUMP_G, SWING = 10.0, 0.5
SWING_ASK = {"vitamin-k-swing": "the anticoagulation clinic", "sodium-swing": "the client's doctor"}


@asked_of(WEEK)
def foods_excluded(week: WeekFacts) -> Iterator[Verdict]:
    """What speaks against the foods of a week, all its days together."""
    yield from exclusions_of([one for day in week.days for one in day.eaten], week.client)


@asked_of(WEEK)
def week_allergens_open(week: WeekFacts) -> Iterator[Verdict]:
    """The day with most that is open stands for the week."""
    found = [
        v for day in week.days for v in allergens_open(MealFacts(day.client, day.eaten, day.total))
    ]
    if found:
        yield max(found, key=lambda verdict: verdict.measure)


def swing_verdict(
    one: Figure, two: Figure, before: str = "", after: str = "", code: str = "vitamin-k-swing"
) -> Verdict | None:
    """A nutrient from one day to the next: a swing of more than half is marked. Unknown is not
    none: nothing is said then.
    """
    if not one.amount or two.amount is None:
        return None
    swing = abs(two.amount / one.amount - 1)
    if swing <= SWING:
        return None
    partly = not (one.complete and two.complete)
    params = {
        "before": before,
        "after": after,
        "from": one.amount,
        "to": two.amount,
        "swing": swing,
        "partly": partly,
    }
    return Verdict(code, "serious", params=params, ask=SWING_ASK[code], measure=swing)


def _worst_swing(week: WeekFacts, key: str, code: str) -> Iterator[Verdict]:
    pairs = zip(week.days, week.days[1:], strict=False)
    swings = (swing_verdict(a.total[key], b.total[key], a.name, b.name, code) for a, b in pairs)
    found = [verdict for verdict in swings if verdict is not None]
    if found:
        yield max(found, key=lambda verdict: verdict.measure)


@asked_of(WEEK)
def vitamin_k(week: WeekFacts) -> Iterator[Verdict]:
    """On warfarin: the worst swing of the week."""
    if "warfarin" in week.client.conditions:
        yield from _worst_swing(week, "vitamin_k_ug", "vitamin-k-swing")


@asked_of(WEEK)
def sodium(week: WeekFacts) -> Iterator[Verdict]:
    """On lithium, whose level rises when salt falls: the worst swing of the week."""
    if "lithium" in week.client.conditions:
        yield from _worst_swing(week, "sodium_mg", "sodium-swing")


@asked_of(WEEK)
def few_meals(week: WeekFacts) -> Iterator[Verdict]:
    """Insulin or a sulphonylurea with two meals or fewer."""
    few = tuple(day.name for day in week.days if day.meals <= FEW_MEALS)
    if few and week.client.conditions & LOWERS_GLUCOSE:
        yield Verdict(
            "few-meals-insulin",
            "serious",
            params={"days": few},
            ask="the diabetes team",
            measure=float(len(few)),
        )


@asked_of(WEEK)
def potassium_days(week: WeekFacts) -> Iterator[Verdict]:
    """Days above the clinician's ceiling of potassium, and days of which too little is known to say
    so.
    """
    ceiling = week.potassium_ceiling_mg
    if not week.client.conditions & POTASSIUM_WATCHED or ceiling is None:
        return
    figures = [(day, day.total["potassium_mg"]) for day in week.days]
    unknown = tuple(
        day.name for day, figure in figures if figure.coverage < KNOWN_SHARE and day.eaten
    )
    ask = "the kidney clinician"
    if unknown:
        yield Verdict(
            "potassium-unknown",
            "warn",
            params={"days": unknown},
            ask=ask,
            measure=float(len(unknown)),
        )
    over = tuple(
        (day.name, f.amount) for day, f in figures if f.amount is not None and f.amount > ceiling
    )
    if over:
        params = {"over": over, "ceiling": ceiling}
        most = max(amount for _, amount in over)
        yield Verdict("potassium-days", "serious", params=params, ask=ask, measure=most)


@asked_of(WEEK)
def worst_days(week: WeekFacts) -> Iterator[Verdict]:
    """What a single day raises, once a week for its worst day: Brazil nuts, seaweed, upper
    levels.
    """
    worst: dict[str, tuple[DayFacts, Verdict]] = {}
    named: dict[str, list[str]] = {}
    for day in week.days:
        for verdict in (*brazil_nuts(day), *iodine_seaweed(day), *upper_levels(day)):
            named.setdefault(verdict.key, []).append(day.name)
            if verdict.key not in worst or verdict.measure > worst[verdict.key][1].measure:
                worst[verdict.key] = (day, verdict)
    for key, (day, verdict) in worst.items():
        days = (day.name,) if verdict.code == "brazil-nuts" else tuple(named[key])
        yield replace(verdict, params={**verdict.params, "days": days})


@asked_of(WEEK)
def soy(week: WeekFacts) -> Iterator[Verdict]:
    """The meals of a week with soy, for somebody who takes thyroid medicine."""
    meals = tuple(
        f"{day.name} {'/'.join(m.lower() for m in day.soy_meals)}"
        for day in week.days
        if day.soy_meals
    )
    if meals and "thyroid-medicine" in week.client.conditions:
        yield Verdict("soy-thyroid", "note", params={"meals": meals}, ask="the client's doctor")


@asked_of(WEEK)
def thyroid_medicine_at_breakfast(week: WeekFacts) -> Iterator[Verdict]:
    """What binds thyroid medicine at the first meal of the day, when most take it: coffee, much
    calcium; and supplements of calcium or iron.
    """
    if "thyroid-medicine" not in week.client.conditions:
        return
    found: dict[str, list[str]] = {}
    for day in week.days:
        name, meal = day.first_meal or ("", None)
        for what in _binding(meal) if meal else ():
            found.setdefault(what, []).append(f"{day.name} {name.lower()}")
    meals = tuple(f"{what} at {', '.join(where)}" for what, where in found.items())
    pills = tuple(
        nutrient(key).name_in_text
        for key in ("calcium_mg", "iron_mg")
        if week.client.supplements.get(key)
    )
    if meals or pills:
        params = {"meals": meals, "pills": pills}
        yield Verdict("thyroid-breakfast", "note", params=params, ask="the client's doctor")


def _binding(meal: MealFacts) -> Iterator[str]:
    if any(one.food.key.startswith(COFFEE) for one in meal.eaten):
        yield "coffee"
    if (meal.total["calcium_mg"].amount or 0.0) >= MUCH_CALCIUM_MG:
        yield "much calcium"


def jump_verdict(before_g: float, now_g: float) -> Verdict | None:
    """Fibre a day against the week before: more than 10 g at once is raised slowly."""
    if now_g - before_g <= FIBRE_JUMP_G:
        return None
    return Verdict(
        "fibre-jump",
        "warn",
        params={"before_g": before_g, "now_g": now_g},
        measure=now_g - before_g,
    )


@asked_of(WEEK)
def fibre(week: WeekFacts) -> Iterator[Verdict]:
    """Average day's fibre against a usual day before."""
    known = [amount for day in week.days if (amount := day.total["fibre_g"].amount) is not None]
    if known and week.fibre_before_g is not None:
        jump = jump_verdict(week.fibre_before_g, sum(known) / len(known))
        if jump is not None:
            yield jump


@asked_of(WEEK)
def week_b12(week: WeekFacts) -> Iterator[Verdict]:
    """The days that are short of B12."""
    short = tuple(day.name for day in week.days if any(True for _ in b12(day)))
    if short:
        days: tuple[str, ...] = ("every day",) if len(short) == len(week.days) else short
        params = {"ug": 0.0, "need": week.client.b12_need_ug, "days": days}
        yield Verdict("b12", "warn", params=params, source="IOM 1998", measure=float(len(short)))


@asked_of(WEEK)
def week_iodine(week: WeekFacts) -> Iterator[Verdict]:
    """No day with known iodine."""
    if week.days and not any(has_iodine(day) for day in week.days):
        yield Verdict("iodine", "warn", params={"week": True}, source="IOM 2001")
