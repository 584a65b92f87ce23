"""Whether a week brings the vitamins and minerals that this client needs, supplements counted,
and the smallest changes that close a gap.

What the body keeps for days or months is judged by the mean of the week; what it cannot keep, day
by day (common practice; IOM 1997-2011 sets intakes as means over time). A figure of which too
little is known is unknown, and never met.
"""

from __future__ import annotations

import tomllib
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from math import ceil

from msgspec import Struct, convert

from dietetics.balance.portion_limits import most_grams
from dietetics.composition.foods import TABLES, Food
from dietetics.composition.sums import Composition
from dietetics.nutrients import nutrient
from dietetics.targets.intakes import Intake
from dietetics.targets.supplements import with_supplements

MEAN, DAY = "mean", "day"
# Kept for months (liver, bone, fat, blood): a poor day is made good by a rich one.
KEPT: Mapping[str, str] = {
    "vitamin_b12_ug": "the liver keeps it for years", "vitamin_d_ug": "fat keeps it for weeks",
    "vitamin_a_ug": "the liver keeps it for months", "vitamin_e_mg": "fat keeps it for weeks",
    "vitamin_k_ug": "kept for days", "iron_mg": "kept in stores for months",
    "calcium_mg": "bone keeps it", "iodine_ug": "the thyroid keeps it for weeks",
    "zinc_mg": "kept in bone and muscle", "selenium_ug": "kept for weeks",
    "magnesium_mg": "bone keeps it", "copper_mg": "the liver keeps it", "ala_g": "fat keeps it",
    "phosphorus_mg": "bone keeps it", "choline_mg": "kept for days", "folate_ug": "kept for months",
    "manganese_mg": "kept for weeks",
}  # fmt: skip
NOT_KEPT = "the body keeps little of it"
KNOWN = 0.8  # share of a day's weight of which the figure must be known (our judgement)
ENOUGH_DAYS = 5 / 7  # of the days, for what is judged by the day (our judgement)
NEAR = 0.995  # of the intake: the figure shown is the one judged
MOST_KCAL = 250.0  # that a change may add to a day (our judgement)
STEP_G = 5  # that anybody measures


class GapFoods(Struct, frozen=True, forbid_unknown_fields=True):
    """What closes the gap of one nutrient: food keys, the daily supplement and the most of it in
    the nutrient's unit, and the conditions in which somebody else is asked.
    """

    foods: tuple[str, ...]
    supplement: float | None = None
    most: float | None = None
    ask: frozenset[str] = frozenset()


@lru_cache(maxsize=1)
def gap_foods() -> Mapping[str, GapFoods]:
    """The rows of `tables/gap_foods.toml` by nutrient."""
    text = (TABLES / "gap_foods.toml").read_text(encoding="utf-8")
    return convert(tomllib.loads(text), dict[str, GapFoods])


@dataclass(frozen=True)
class Change:
    """One way to close a gap: what is added a day, and what it brings."""

    words: str
    kcal: float


@dataclass(frozen=True)
class NutrientVerdict:
    """One nutrient over the week: what is needed a day, the mean of the known days (None unknown),
    how many of the days meet it, how it is judged and why; `met` is None where too little is known.
    """

    key: str
    need: float
    mean: float | None
    days_met: int
    days: int
    judged_by: str
    why: str
    met: bool | None
    changes: tuple[Change, ...] = ()

    @property
    def name(self) -> str:
        """The nutrient's name."""
        return nutrient(self.key).name

    @property
    def is_gap(self) -> bool:
        """True where it is known to fall short."""
        return self.met is False

    def brief(self) -> str:
        """The nutrient with its mean and its need, as in “Iron 12.0 of 18.0 mg”, and where each day
        counts, on how many days it is met.
        """
        mean = "unknown" if self.mean is None else nutrient(self.key).number(self.mean)
        words = f"{self.name} {mean} of {nutrient(self.key).text(self.need)}"
        if self.judged_by == MEAN:
            return words
        return f"{words} (met on {self.days_met} of {self.days} days)"

    def words(self) -> str:
        """The verdict in words, with its figures."""
        one = nutrient(self.key)
        need = f"{one.text(self.need)} a day"
        if self.mean is None or self.met is None:
            return f"too many foods without a figure; {need} needed"
        if self.judged_by == MEAN:
            return f"{one.text(self.mean)} on average of {need}"
        return f"{self.days_met} of {self.days} days reach {need}, {one.text(self.mean)} on average"


def nutrient_verdicts(
    days: Sequence[Composition],
    intakes: Iterable[Intake],
    supplements: Mapping[str, float],
    foods: Iterable[Food] = (),
    may_eat: Callable[[Food], bool] = lambda food: True,
    conditions: Iterable[str] = (),
    ceilings: Mapping[str, float] | None = None,
) -> list[NutrientVerdict]:
    """The verdict of each intake over the days that count, gaps first; a gap comes with the
    smallest changes that close it, of the foods that a client with these conditions may eat and
    that stay under the ceilings of a day, by nutrient.
    """
    room = _room(days, ceilings or {})
    by_key = {food.key: food for food in foods}
    eaten = [with_supplements(day, supplements) for day in days]
    found = []
    for intake in intakes:
        verdict = _verdict(intake, days, eaten)
        if verdict.met is not True:
            row = gap_foods().get(intake.key, GapFoods(()))
            named = [by_key[key] for key in row.foods if key in by_key]
            changes = _changes(verdict, row, [f for f in named if may_eat(f)], conditions, room)
            verdict = replace(verdict, changes=tuple(changes))
        found.append(verdict)
    return sorted(found, key=lambda one: (one.met is not False, one.met is not None))


def _room(days: Sequence[Composition], ceilings: Mapping[str, float]) -> dict[str, float]:
    """What is left under each ceiling on the fullest day; nothing where a day is unknown."""
    room: dict[str, float] = {}
    for key, high in ceilings.items():
        amounts = [day[key].amount for day in days]
        known = [amount for amount in amounts if amount is not None]
        room[key] = high - max(known) if known and len(known) == len(amounts) else 0.0
    return room


def _verdict(
    intake: Intake, days: Sequence[Composition], eaten: Sequence[Composition]
) -> NutrientVerdict:
    """Met where what is known reaches the need, for the rest can only add to it; short where the
    days that are known fall short; else unknown.
    """
    key, need = intake.key, intake.low * NEAR
    judged_by, why = (MEAN, KEPT[key]) if key in KEPT else (DAY, NOT_KEPT)
    least = [day[key].amount or 0.0 for day in eaten]  # of what is not known at least nothing
    known = [
        amount
        for plain, amount in zip(days, least, strict=True)
        if plain[key].coverage >= KNOWN and not plain[key].unread
    ]
    met_days = sum(amount >= need for amount in least)
    if judged_by == MEAN:
        reached = bool(least) and sum(least) / len(least) >= need
        short = len(known) >= len(days) / 2 and sum(known) < need * len(known)
    else:
        wanted = ENOUGH_DAYS * len(days) - 1e-9
        reached = bool(least) and met_days >= wanted
        short = len(days) - sum(amount < need for amount in known) < wanted
    met = True if reached else False if short else None
    over = known if known and met is not True else least
    mean = sum(over) / len(over) if over and met is not None else None
    return NutrientVerdict(key, intake.low, mean, met_days, len(days), judged_by, why, met)


def _changes(
    verdict: NutrientVerdict,
    row: GapFoods,
    foods: Sequence[Food],
    conditions: Iterable[str],
    room: Mapping[str, float],
) -> list[Change]:
    """The smallest changes that close a gap: the food that does it with the fewest kilocalories, a
    fortified one, and a supplement; the supplement alone where the food is unknown.
    """
    if row.ask & set(conditions):
        return [
            Change("Ask whoever treats the client: food and supplements of it are theirs.", 0.0)
        ]
    if verdict.met is None or verdict.mean is None:
        return _supplement(verdict.key, min(verdict.need, row.most or 0.0), row)
    gap = verdict.need - verdict.mean
    plain = _best_food(verdict.key, gap, [food for food in foods if not food.fortified], room)
    fortified = _best_food(verdict.key, gap, [food for food in foods if food.fortified], room)
    return [*plain, *fortified, *_supplement(verdict.key, gap, row)]


def _supplement(key: str, gap: float, row: GapFoods) -> list[Change]:
    if row.supplement is None or row.most is None:
        return []
    amount = row.supplement * ceil(gap / row.supplement - 1e-9)
    if amount > row.most:
        return []
    return [Change(f"a supplement of {amount:,.0f} {nutrient(key).unit} a day", 0.0)]


def _brings(food: Food, key: str, grams: float) -> float:
    """How much of a nutrient some grams bring; without end where it is not known."""
    per_100g = food.per_100g.get(key)
    return float("inf") if per_100g is None else per_100g * grams / 100


def _best_food(
    key: str, gap: float, foods: Sequence[Food], room: Mapping[str, float]
) -> list[Change]:
    found = []
    for food in foods:
        per_100g, energy = food.per_100g.get(key), food.per_100g.get("energy_kcal")
        if not per_100g or energy is None:
            continue
        grams = ceil(100 * gap / per_100g / STEP_G - 1e-9) * STEP_G
        kcal = grams * energy / 100
        over = any(_brings(food, other, grams) > left for other, left in room.items())
        if grams <= most_grams(food) and kcal <= MOST_KCAL and not over:
            found.append(Change(f"{grams} g of {food.name} a day ({kcal:.0f} kcal)", kcal))
    return sorted(found, key=lambda change: change.kcal)[:1]
