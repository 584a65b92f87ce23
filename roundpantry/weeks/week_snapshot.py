"""A week with everything that is computed of it once, and what that shows: problems, leftovers,
cautions, kept figures.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from dietetics.cautions.facts import ClientFacts, DayFacts, Eaten, MealFacts, WeekFacts
from dietetics.cautions.food_rules import holds_soy
from dietetics.cautions.registry import week_cautions
from dietetics.cautions.verdict import Verdict
from dietetics.dishes.bowls import portion_words
from dietetics.targets.windows import Window
from dietetics.week.batch_supply import BatchSupply
from dietetics.week.day_totals import (
    DaySum,
    Dish,
    batch_supplies,
    counted_days,
    day_sum,
    plan_problems,
)
from dietetics.week.daynames import DAY_NAMES
from dietetics.week.plan import Cell, Entry, Plan
from roundpantry.clients.models import Acknowledgement
from roundpantry.clients.records import client_facts_of, phosphorus_words, with_acknowledgements
from roundpantry.weeks.models import Week
from roundpantry.weeks.records import (
    AvailableDishes,
    WeekTargets,
    dishes_of_week,
    earlier_week,
    plan_value,
    week_targets_of,
    with_free,
)


@dataclass(frozen=True)
class WeekSnapshot:
    """A week with everything that is computed of it once: plan, kitchen, aims, a sum for each day,
    threads.
    """

    week: Week
    plan: Plan
    available: AvailableDishes
    week_targets: WeekTargets | None
    days: tuple[DaySum, ...]
    supplies: tuple[BatchSupply, ...]

    @property
    def counted(self) -> list[int]:
        """The days that are judged."""
        return counted_days(self.plan)


def parts_of(found: WeekSnapshot, entry: Entry) -> list[str]:
    """What a portion other than the usual one means, part by part in household measures; nothing
    for one serving.
    """
    drawn = found.available.drawn.get(entry.dish)
    if drawn is None or entry.scale == 1:
        return []
    return [portion_words(portion, entry.scale) for portion in drawn.portions]


def snapshot_of(week: Week, school_key: str = "") -> WeekSnapshot:
    """Compute a stored week."""
    plan = plan_value(week)
    week_targets = week_targets_of(week.client, school_key)
    available = with_free(dishes_of_week(week), week_targets, plan)
    days = tuple(
        day_sum(day.cells, available.dishes, week_targets.asks if week_targets else ())
        for day in plan.days
    )
    return WeekSnapshot(
        week,
        plan,
        available,
        week_targets,
        days,
        batch_supplies(plan, available.dishes, available.pots),
    )


def problems_of(found: WeekSnapshot) -> list[str]:
    """What cannot be, or is wasted, in the week."""
    return [
        *plan_problems(found.plan, found.available.dishes),
        *(words for one in found.supplies for words in one.problems()),
    ]


def left_overs(found: WeekSnapshot) -> str:
    """What is cooked and not eaten in time, in one sentence."""
    words = [one.left_over() for one in found.supplies if one.left_over()]
    return f"Left over (freeze or give away): {', '.join(words)}." if words else ""


def cautions_of(found: WeekSnapshot) -> list[tuple[Verdict, Acknowledgement | None]]:
    """The cautions that the week as a whole shows, each with its acknowledgement where that still
    holds.
    """
    client = client_facts_of(found.week.client)
    ceiling = _ceiling(found.week_targets.windows if found.week_targets else (), "potassium_mg")
    days = tuple(_day_facts(found, client, d) for d in found.counted)
    raised = week_cautions(WeekFacts(client, days, fibre_before(found.week), ceiling))
    return with_acknowledgements(found.week.client, week_scope(found.week), raised)


def phosphorus_of_week(found: WeekSnapshot) -> str:
    """For a kidney client: the phosphorus of a mean day, and how much of it is likely to be
    absorbed; "" for others.
    """
    days = len(found.counted)
    foods = [(food, grams / days) for d in found.counted for food, grams in found.days[d].foods]
    words = phosphorus_words(found.week.client, foods)
    return f"Average day: {words[0].lower()}{words[1:]}" if words else ""


def week_scope(week: Week) -> str:
    """Under which scope cautions of a week are acknowledged."""
    return f"week-{week.pk}"


def _day_facts(found: WeekSnapshot, client: ClientFacts, d: int) -> DayFacts:
    plan_day, total = found.plan.days[d], found.days[d]
    per_meal = [
        (found.plan.meals[m], _eaten(cell, found.available.dishes))
        for m, cell in enumerate(plan_day.cells)
    ]
    eaten = tuple(Eaten(food, grams) for food, grams in total.foods)
    meals = sum(bool(cell.entries) for cell in plan_day.cells)
    soy = tuple(name for name, foods in per_meal if holds_soy(foods))
    first = next(
        (
            (name, MealFacts(client, tuple(foods), total.meals[m]))
            for m, (name, foods) in enumerate(per_meal)
            if foods
        ),
        None,
    )
    return DayFacts(client, eaten, total.total, DAY_NAMES[d], meals, soy, first)


def fibre_before(week: Week) -> float | None:
    """The fibre of a usual day before this week, in g: of the week handed over before it, or what
    the client said.
    """
    days = (earlier_week(week) or Week(kept={})).kept.get("days", [])
    known = [day["fibre_g"] for day in days if day.get("fibre_g")]
    return sum(known) / len(known) if known else week.client.fibre_now_g


def _eaten(cell: Cell, dishes: Mapping[str, Dish]) -> list[Eaten]:
    return [
        Eaten(f, g * e.scale)
        for e in cell.entries
        if e.dish in dishes
        for f, g in dishes[e.dish].foods
    ]


def _ceiling(windows: Sequence[Window], key: str) -> float | None:
    return next((w.high for w in windows if w.key == key and w.importance != "watch"), None)


def kept_of(week: Week) -> dict[str, object]:
    """The figures of a week as they are handed over."""
    found = snapshot_of(week)
    return {
        "days": [
            {key: figure.amount for key, figure in one.total.figures.items()} for one in found.days
        ],
        "meals": [[meal["energy_kcal"].amount for meal in one.meals] for one in found.days],
        "problems": problems_of(found),
    }
