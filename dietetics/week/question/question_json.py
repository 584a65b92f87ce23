"""A week's question as JSON (docs/week.md): its shape as types, and the question made of it.

The shape is checked by msgspec before anything is read of it; what refers to something else in the
question (a meal by its name, a nutrient by its key) is checked here.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Annotated, Any, Literal

from msgspec import UNSET, Meta, Struct, UnsetType, field

from dietetics.dishes.cooking import KEEPS_DAYS
from dietetics.errors import DieteticsError
from dietetics.json_shapes import shaped
from dietetics.nutrients import BY_KEY
from dietetics.targets.schools import FIBRE, WEIGHT
from dietetics.targets.windows import Window
from dietetics.week.day_prices import Ask
from dietetics.week.question.question import (
    MOST_EVENINGS,
    BatchFacts,
    Offer,
    Question,
    Rules,
    SlotMeal,
)

USUAL = Rules()
MOST_SCALES, MOST_FIGURE = 12, 1e9
Name = Annotated[str, Meta(pattern=r"\S")]
Amount = Annotated[float, Meta(ge=0, le=MOST_FIGURE)]
Figure = Annotated[float, Meta(ge=-MOST_FIGURE, le=MOST_FIGURE)]
Portion = Annotated[float, Meta(ge=0.01, le=MOST_FIGURE)]
Count = Annotated[int, Meta(ge=0, le=10_000)]
Day = Annotated[int, Meta(ge=0, le=6)]
Evening = Annotated[int, Meta(ge=-1, le=6)]
Evenings = Annotated[list[Evening], Meta(max_length=MOST_EVENINGS)]
Scales = Annotated[list[Portion], Meta(max_length=MOST_SCALES)]
Kind = Literal["home", "travel", "off"]
Importance = Literal["must", "should", "watch"]


class MealJson(Struct, forbid_unknown_fields=True):
    """A meal of the skeleton; without shares the day is divided evenly."""

    name: Name
    share: Amount | UnsetType = UNSET
    protein_share: Amount | UnsetType = UNSET
    main: bool = True


class WindowJson(Struct, forbid_unknown_fields=True):
    """A daily window by nutrient key, in stored units."""

    key: Name
    low: Figure | None = None
    high: Figure | None = None
    importance: Importance = "should"


class AskJson(Struct, forbid_unknown_fields=True):
    """A daily food target, in g; "weight" is all food without drinks, "fibre" all its fibre."""

    key: Name
    name: str = ""
    low: Amount = 0
    importance: Importance = "should"
    high: Amount | None = None


class StockJson(Struct, forbid_unknown_fields=True):
    """What is there of a batch, as a share of it, and the last day it may be eaten."""

    share: Amount
    last_day: Count


class BatchJson(Struct, forbid_unknown_fields=True):
    """A batch that dishes take from."""

    key: Name
    name: str = ""
    keeps_days: Count = KEEPS_DAYS
    stock: list[StockJson] = []


class DishJson(Struct, forbid_unknown_fields=True):
    """One serving of a dish; with `servings` it is its own batch."""

    key: Name
    name: str = ""
    meals: list[str] | UnsetType = UNSET
    per_serving: dict[str, Figure | None] = {}
    grams: Amount = 0
    takes: dict[str, Amount] = {}
    others_take: dict[str, Amount] = {}
    servings: Annotated[float, Meta(gt=0, le=MOST_FIGURE)] | None = None
    keeps_days: Count = KEEPS_DAYS
    travels: bool = True
    liking: Annotated[int, Meta(ge=0, le=3)] = 1
    most_uses: Count = 4
    apart: Count = 1
    new: bool = False
    eaten_before: Annotated[list[Annotated[int, Meta(ge=-7, le=-1)]], Meta(max_length=50)] = []
    plant_kinds: dict[str, list[str]] = {}
    least_uses: Count = 0


class RulesJson(Struct, forbid_unknown_fields=True):
    """How the week may be made."""

    cooking_days: Evenings = field(default_factory=lambda: list(USUAL.cooking_days))
    most_pots: Count = USUAL.most_batches
    different: Count | None = USUAL.different
    scales: Scales = field(default_factory=lambda: list(USUAL.scales))
    most_new: Count | None = None
    plant_kinds: dict[str, Count] = {}
    most_servings: dict[str, Count] = {}
    most_meal_g: Amount | None = None


class LockJson(Struct, forbid_unknown_fields=True):
    """A cell that stays as it is; without a dish it stays empty."""

    day: Day
    meal: Name
    dish: str = ""
    scale: Portion = 1
    skip: bool = False


class QuestionJson(Struct, forbid_unknown_fields=True):
    """The whole file. `seconds` is read by whoever runs the search."""

    format: Any = None
    days: (
        Annotated[int, Meta(ge=1, le=7)] | Annotated[list[Kind], Meta(min_length=1, max_length=7)]
    ) = 7
    meals: list[MealJson] = []
    windows: list[WindowJson] = []
    asks: list[AskJson] = []
    dishes: list[DishJson] = []
    batches: list[BatchJson] = []
    rules: RulesJson = field(default_factory=RulesJson)
    locks: list[LockJson] = []
    seconds: Any = None


def _wrong(problem: str) -> DieteticsError:
    return DieteticsError("week-unreadable", problem=problem)


def question_of_json(data: Mapping[str, Any]) -> Question:
    """Read a question.

    Raises `week-unreadable` with what is wrong and where, `unknown-nutrient`, `week-no-meals` and
    `week-no-dishes`.
    """
    given = shaped(dict(data), QuestionJson, "week-unreadable")
    kinds = ("home",) * given.days if isinstance(given.days, int) else tuple(given.days)
    meals = _meals(given.meals)
    pots = {one.key: _batch(one) for one in given.batches}
    offers = []
    for dish in given.dishes:
        offer, own = _offer(dish, meals)
        if own is not None:
            pots[own.key] = own
        offers.append(offer)
    locks, skipped = _locks(given.locks, meals, len(kinds))
    return Question(
        kinds,
        meals,
        tuple(_window(one) for one in given.windows),
        tuple(offers),
        tuple(pots.values()),
        tuple(
            Ask(one.key, one.name or one.key, one.low, one.importance, one.high)
            for one in given.asks
        ),
        _rules(given.rules),
        locks,
        skipped,
    )


def _meals(given: Sequence[MealJson]) -> tuple[SlotMeal, ...]:
    found = []
    for one in given:
        share = 1 / len(given) if isinstance(one.share, UnsetType) else one.share
        protein = share if isinstance(one.protein_share, UnsetType) else one.protein_share
        found.append(SlotMeal(one.name, share, protein, one.main))
    return tuple(found)


def _known_nutrient(key: str) -> str:
    if key not in BY_KEY:
        raise DieteticsError("unknown-nutrient", key=key)
    return key


def _window(given: WindowJson) -> Window:
    return Window(_known_nutrient(given.key), given.low, given.high, given.importance)


def _batch(given: BatchJson) -> BatchFacts:
    stock = tuple((one.share, one.last_day) for one in given.stock)
    return BatchFacts(given.key, given.name or given.key, given.keeps_days, stock)


def _offer(given: DishJson, meals: Sequence[SlotMeal]) -> tuple[Offer, BatchFacts | None]:
    """A dish, and its own batch where it makes several servings."""
    key, name = given.key, given.name or given.key
    amounts = {
        nutrient if nutrient.startswith("ask:") else _known_nutrient(nutrient): value
        for nutrient, value in given.per_serving.items()
        if value is not None
    }
    amounts.setdefault(f"ask:{WEIGHT}", given.grams)
    amounts.setdefault(f"ask:{FIBRE}", amounts.get("fibre_g", 0.0))
    known = {meal.name for meal in meals}
    names = known if isinstance(given.meals, UnsetType) else set(given.meals)
    if unknown := sorted(names - known):
        raise _wrong(f"{key}: there is no meal called {', '.join(unknown)}")
    takes, own = dict(given.takes), None
    if given.servings is not None:
        own = BatchFacts(f"{key} (pot)", name, given.keeps_days)
        takes[own.key] = 1 / given.servings
    offer = Offer(
        key,
        name,
        frozenset(names),
        amounts,
        given.grams,
        takes,
        given.others_take,
        given.travels,
        given.liking,
        given.most_uses,
        given.apart,
        given.new,
        tuple(given.eaten_before),
        {group: frozenset(kinds) for group, kinds in given.plant_kinds.items()},
        given.least_uses,
    )
    return offer, own


def _rules(given: RulesJson) -> Rules:
    return Rules(
        tuple(sorted(set(given.cooking_days))),
        given.most_pots,
        given.different,
        tuple(given.scales),
        given.most_new,
        given.plant_kinds,
        given.most_servings,
        given.most_meal_g,
    )


def _locks(
    given: Sequence[LockJson], meals: Sequence[SlotMeal], days: int
) -> tuple[dict[tuple[int, int], tuple[str, float]], frozenset[tuple[int, int]]]:
    locks, skipped = {}, set()
    places = {meal.name: i for i, meal in enumerate(meals)}
    for one in given:
        if one.meal not in places or one.day >= days:
            raise _wrong(
                f"a lock names day {one.day} and meal “{one.meal}”, which the week does not have"
            )
        slot = (one.day, places[one.meal])
        if one.skip:
            skipped.add(slot)
        else:
            locks[slot] = (one.dish, one.scale)
    return locks, frozenset(skipped)
