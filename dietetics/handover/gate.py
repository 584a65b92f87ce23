"""What stands in the way of a week before it is handed over.

Some things stop it: nobody is given what could hurt them, or an empty plate. Others need a word of
the practitioner, which is recorded. Each names what is wrong with its figures, and where it is
mended.
"""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass

from dietetics.cautions.verdict import Verdict
from dietetics.nutrients import nutrient
from dietetics.targets.usual_food import NEAR, UsualFood
from dietetics.targets.windows import Window
from dietetics.week.day_totals import DaySum, Dish, day_levels
from dietetics.week.daynames import DAY_NAMES
from dietetics.week.nutrient_verdict import NutrientVerdict
from dietetics.week.plan import Plan

MAIN_SHARE = 0.20  # of the day's energy from which a meal is a main one
MOST_NAMED = 4  # meals; more are counted
OUTSIDE = 0.25  # of its energy, by which a meal may lie outside without a word
OPEN, ENERGY = "allergens-open", "energy_kcal"
# where an obstacle is mended
WEEK, TARGETS, CLIENT, DISHES = "week", "targets", "client", "dishes"
NUTRIENTS = "nutrients"


@dataclass(frozen=True)
class Obstacle:
    """One thing in the way. A stop must be mended; the others may be answered with a reason. `key`
    is the same for the same thing, `place` where it is mended.
    """

    key: str
    words: str
    place: str
    is_stop: bool = False


@dataclass(frozen=True)
class Share:
    """A meal of the client's day: its name and its share of the energy (0 to 1)."""

    name: str
    energy: float


@dataclass(frozen=True)
class WeekToHandOver:
    """A week as the gate sees it.

    `windows` are the client's daily ones, None where no targets are set; `set_by_clinician` the
    nutrients whose figure a clinician gave; `needed` what must have been given, with why. Verdicts
    come with whether they were reviewed. `usual` is the most food that is usual for the client,
    `changed` the nutrients of which the record asks for another target than is set.
    """

    plan: Plan
    dishes: Mapping[str, Dish]
    days: Sequence[DaySum]
    counted: Sequence[int]
    windows: Sequence[Window] | None
    meals: Sequence[Share] = ()
    set_by_clinician: frozenset[str] = frozenset()
    needed: Sequence[tuple[str, str]] = ()
    verdicts: Sequence[tuple[Verdict, bool]] = ()
    usual: UsualFood | None = None
    changed: Sequence[str] = ()
    nutrients: Sequence[NutrientVerdict] = ()


def obstacles(week: WeekToHandOver) -> list[Obstacle]:
    """Everything in the way of a week, what stops it first."""
    found = [
        *_targets(week),
        *_dishes(week),
        *_empty_meals(week),
        *_verdicts(week),
        *_missed(week),
        *_meals_outside(week),
        *_too_much(week),
        *_gaps(week),
    ]
    return sorted(found, key=lambda one: not one.is_stop)


def _targets(week: WeekToHandOver) -> Iterator[Obstacle]:
    """No targets, and limits that nobody recorded."""
    if week.windows is None:
        yield Obstacle("no-targets", "No targets are set for this client.", TARGETS, True)
    for key, why in week.needed:
        if key not in week.set_by_clinician:
            words = f"{why} Nobody has recorded it."
            yield Obstacle(f"needed-{key}", words, TARGETS, True)
    if week.changed:
        names = ", ".join(nutrient(key).name for key in week.changed)
        words = f"The record asks for other targets than are set: {names}."
        yield Obstacle("old-targets", words, TARGETS, ENERGY in week.changed)


def _dishes(week: WeekToHandOver) -> Iterator[Obstacle]:
    """Dishes that are gone, and dishes with lines that nobody has read."""
    gone: dict[str, list[str]] = {}
    unread: dict[str, None] = {}
    for d, _, cell in week.plan.places():
        for entry in cell.entries:
            dish = week.dishes.get(entry.dish)
            if dish is None or dish.gone:
                gone.setdefault(entry.name, []).append(DAY_NAMES[d])
            elif dish.serving.unread:
                unread.setdefault(entry.dish)
    for name, days in gone.items():
        when = ", ".join(dict.fromkeys(days))
        yield Obstacle(f"gone-{name}", f"{name} was removed and is planned on {when}.", WEEK, True)
    for key in unread:
        count, name = week.dishes[key].serving.unread, week.dishes[key].name
        words = f"{name} has {count} line{'' if count == 1 else 's'} that nobody has read."
        yield Obstacle(f"unread-{key}", words, DISHES, True)


def _empty_meals(week: WeekToHandOver) -> Iterator[Obstacle]:
    """Main meals without a dish that nobody said are skipped."""
    main = {share.name for share in week.meals if share.energy >= MAIN_SHARE}
    empty: dict[str, list[str]] = {}
    for d, m, cell in week.plan.places():
        name = week.plan.meals[m]
        is_main = name in main or not week.meals
        if d in week.counted and is_main and not cell.entries and not cell.skipped:
            empty.setdefault(name, []).append(DAY_NAMES[d])
    for name, days in empty.items():
        words = f"{name} is empty on {', '.join(days)}. Plan it, or mark it as eaten elsewhere."
        yield Obstacle(f"empty-{name}", words, WEEK, True)


def _verdicts(week: WeekToHandOver) -> Iterator[Obstacle]:
    """Foods that are forbidden, and serious cautions that nobody has reviewed."""
    for verdict, is_reviewed in week.verdicts:
        if verdict.code == OPEN or is_reviewed:
            continue
        if verdict.forbids:
            yield Obstacle(f"forbidden-{verdict.key}", verdict.text, WEEK, True)
        elif verdict.grave or verdict.code == "fibre-jump":
            yield Obstacle(f"caution-{verdict.key}", f"{verdict.text} {verdict.action}", CLIENT)


def _missed(week: WeekToHandOver) -> Iterator[Obstacle]:
    """Required targets that a day misses, each nutrient once with its days."""
    required = [one for one in week.windows or () if one.importance == "must"]
    missed: dict[str, list[str]] = {}
    for d in week.counted:
        for level in day_levels(required, week.days[d]):
            if level.state in ("short", "over"):
                by = f"{DAY_NAMES[d]} {nutrient(level.window.key).text(level.by)} {level.state}"
                missed.setdefault(level.window.key, []).append(by)
    for key, days in missed.items():
        words = f"{nutrient(key).name}, required, is missed: {', '.join(days)}."
        yield Obstacle(f"missed-{key}", words, WEEK)


def _meals_outside(week: WeekToHandOver) -> Iterator[Obstacle]:
    """Meals that bring a quarter more or less energy than their window."""
    energy = next((one for one in week.windows or () if one.key == ENERGY), None)
    shares = {share.name: share.energy for share in week.meals}
    if energy is None or energy.low is None or energy.high is None:
        return
    for m, name in enumerate(week.plan.meals):
        share = shares.get(name)
        if share is None:
            continue
        low, high = energy.low * share, energy.high * share
        out = []
        for d in week.counted:
            kcal = week.days[d].meals[m][ENERGY].amount
            if kcal is None or not week.plan.days[d].cells[m].entries:
                continue
            if not low * (1 - OUTSIDE) <= kcal <= high * (1 + OUTSIDE):
                out.append(f"{DAY_NAMES[d]} {kcal:,.0f}")
        if out:
            words = f"{name} is planned at {low:,.0f}–{high:,.0f} kcal and brings {', '.join(out)}."
            yield Obstacle(f"meal-{name}", words, WEEK)


def _too_much(week: WeekToHandOver) -> Iterator[Obstacle]:
    """More food or fibre than a person like the client usually eats."""
    if week.usual is None:
        return
    usual = week.usual
    heavy = [
        f"{DAY_NAMES[d]} {week.days[d].weight_g / 1000:.1f} kg"
        for d in week.counted
        if week.days[d].weight_g > usual.day_g * (1 + NEAR)
    ]
    if heavy:
        words = f"More food than is usual ({usual.day_g / 1000:.1f} kg a day): {', '.join(heavy)}."
        yield Obstacle("heavy-days", words, WEEK)
    meals = [
        (week.days[d].meals_g[m], f"{DAY_NAMES[d]} {name.lower()}")
        for d in week.counted
        for m, name in enumerate(week.plan.meals)
        if week.days[d].meals_g[m] > usual.meal_g * (1 + NEAR)
    ]
    if meals:
        largest = sorted(meals, reverse=True)[:MOST_NAMED]
        named = ", ".join(f"{name} {grams:,.0f} g" for grams, name in largest)
        more = f", and {len(meals) - MOST_NAMED} more" if len(meals) > MOST_NAMED else ""
        words = f"Larger meals than are usual ({usual.meal_g:,.0f} g): {named}{more}."
        yield Obstacle("heavy-meals", words, WEEK)
    amounts = {d: week.days[d].total["fibre_g"].amount or 0.0 for d in week.counted}
    fibre = [
        f"{DAY_NAMES[d]} {g:.0f} g" for d, g in amounts.items() if g > usual.fibre_g * (1 + NEAR)
    ]
    if fibre:
        words = f"More fibre than is asked about ({usual.fibre_g:.0f} g a day): {', '.join(fibre)}."
        yield Obstacle("much-fibre", words, WEEK)


def _gaps(week: WeekToHandOver) -> Iterator[Obstacle]:
    """Vitamins and minerals that the week is known to be short of, supplements counted."""
    gaps = [one.brief() for one in week.nutrients if one.is_gap]
    if gaps:
        yield Obstacle("gaps", f"Short of what is needed a day: {', '.join(gaps)}.", NUTRIENTS)
