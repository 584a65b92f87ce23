"""A week to be chosen, as plain numbers: meals, windows, dishes, pots, rules, locked cells; and the
choices of every cell.

The cost is in points and never below zero. Prices of the effort and of missing a window are our
judgement, written once here.
"""

from __future__ import annotations

from collections.abc import Container, Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import cached_property
from itertools import product

from dietetics.errors import DieteticsError
from dietetics.nutrients import DENSITY, nutrient
from dietetics.targets.windows import Window
from dietetics.week.day_prices import Ask, DayPrice, cost_of_day, day_prices, line_of
from dietetics.week.daynames import DAY_NAMES
from dietetics.week.plant_kinds import PlantKinds, plant_kind_points

Slot = tuple[int, int]
MEAL_PER_CENT = 0.15  # a meal outside its share of the day's energy, or short of protein
HEAVY_MEAL = 0.2  # for each per cent of a meal's weight above what is usually eaten at one
# Prices in points. All are our judgement; docs/mathematics.md puts them into the formula.
FIRE = 25.0  # a batch put on the stove on an evening
POT = 15.0  # each time its recipe is cooked
WASTE = 40.0  # a whole batch that nobody eats in time
EXTRA_POT = 200.0  # each batch above what an evening takes
EMPTY = 1500.0  # a meal with nothing in it: the last resort, dearer than a day that misses much
MISSING = 50_000.0  # a whole batch that is eaten and was never cooked; a thirtieth, above EMPTY
FRESH = 8.0  # a dish made for one meal alone
VARIETY = 15.0  # each main dish more or fewer than wanted
PORTION = 12.0  # a portion twice as large as usual, or half
RUN = 60.0  # each serving of a main dish above RUN_MOST within RUN_DAYS
REPEAT = 20.0  # the same main dish at the same meal on two days running
REPEAT_SMALL = 8.0  # the same breakfast or snack on two days running
NEW = 150.0  # each new dish above what is wanted
WISH = 100.0  # each serving fewer than is wished for
# Leftovers for two or three nights are fine; a main dish more often in four days is dull.
RUN_DAYS, RUN_MOST = 4, 3
LIKING: Mapping[int, float] = {0: 15.0, 1: 5.0, 2: 2.0, 3: 0.0}
LIKING_WORDS: Mapping[int, str] = {0: "rather not", 1: "fine", 2: "liked", 3: "loved"}
MOST_DISHES, MOST_EVENINGS, MOST_BATCHES_AN_EVENING = 400, 4, 12  # pots: batches an evening
HALF, MOST_HALVES = 0.5, 6  # a recipe is cooked by halves, up to three times on an evening


@dataclass(frozen=True)
class SlotMeal:
    """A meal of the skeleton: its share of the day's energy and protein, and whether it counts as a
    main one.
    """

    name: str
    share: float
    protein_share: float
    main: bool = True


@dataclass(frozen=True)
class Offer:
    """A dish that may be planned. `amounts` are of one serving (unknown ones left out), `grams` its
    weight as eaten.

    `own` is what a serving takes of each pot, as a share of the pot; `table` what the others take
    of it beside. `apart` is how many days lie between two of it at least: 1 once a day, 2 not on
    two days running, 0 any. `new` is a dish that was not eaten in the last weeks. `before` are the
    days of the week before on which it was eaten, -1 the last. `plant_kinds` are what it holds of
    the kinds that a week is to have, by their group; `least_uses` how often it is wished for.
    """

    key: str
    name: str
    meals: frozenset[str]
    amounts: Mapping[str, float]
    grams: float
    own: Mapping[str, float] = field(default_factory=dict)
    table: Mapping[str, float] = field(default_factory=dict)
    travels: bool = True
    liking: int = 1
    most_uses: int = 4
    apart: int = 1
    new: bool = False
    before: tuple[int, ...] = ()
    plant_kinds: PlantKinds = field(default_factory=dict)
    least_uses: int = 0

    def rests(self, day: int) -> bool:
        """True on a day too near to one of the week before on which the dish was eaten."""
        return any(day - one < self.apart for one in self.before)


@dataclass(frozen=True)
class BatchFacts:
    """A batch: how many days it keeps after the evening it was cooked on. `stock` is what is there
    already, as (share of a pot, last day it may be eaten).
    """

    key: str
    name: str
    keeps_days: int
    stock: tuple[tuple[float, int], ...] = ()


@dataclass(frozen=True)
class Rules:
    """How the week may be made: cooking evenings (-1 the one before the first day), how many
    batches an evening, how many different main dishes are wanted, how many dishes may be new at
    most (None any), and the portions a client is served. `plant_kinds` says how many of each group
    are wanted over the week, `most_servings` how often something of a group may be served,
    `most_meal_g` what a meal should weigh at most (None any); `may_freeze` that portions are
    frozen where no evening is near enough.
    """

    cooking_days: tuple[int, ...] = (-1, 2)
    most_batches: int = 4
    different: int | None = 4
    scales: tuple[float, ...] = (0.75, 1.0, 1.25, 1.5)
    most_new: int | None = None
    plant_kinds: Mapping[str, int] = field(default_factory=dict)
    most_servings: Mapping[str, int] = field(default_factory=dict)
    most_meal_g: float | None = None
    may_freeze: bool = False


@dataclass(frozen=True)
class Choice:
    """One way to fill a cell: a dish (-1 nothing) at a scale, with its vector of amounts and what
    it costs by itself.
    """

    dish: int
    scale: float
    vector: tuple[float, ...]
    cost: float
    uses: tuple[tuple[int, float], ...]


def added(one: Mapping[str, float], other: Mapping[str, float]) -> dict[str, float]:
    """Two lists of amounts together, by their keys."""
    return {key: one.get(key, 0.0) + other.get(key, 0.0) for key in dict.fromkeys([*one, *other])}


def place_among(options: Sequence[Choice], wanted: Choice) -> int:
    """The place of a dish and portion among the options of a cell, -1 where it may not be there."""
    same = ((wanted.dish, wanted.scale) == (one.dish, one.scale) for one in options)
    return next((n for n, found in enumerate(same) if found), -1)


# A dish that is not offered, and the batches it takes from.
Spare = tuple[Offer, tuple[BatchFacts, ...]]


@dataclass(frozen=True)
class Question:
    """Everything a week is chosen from. `locks` holds cells that stay as they are: (dish key or "",
    scale); `beside` is what a cell holds beside its dish, whichever that is (sides, drinks), as one
    serving; `skipped` cells are no meals; `fixed` windows are set by a clinician or asked for by a
    condition, so nobody is invited to leave them.

    Raises `week-no-meals`, `week-no-dishes`, `week-unreadable`.
    """

    kinds: tuple[str, ...]
    meals: tuple[SlotMeal, ...]
    windows: tuple[Window, ...]
    offers: tuple[Offer, ...]
    pots: tuple[BatchFacts, ...] = ()
    asks: tuple[Ask, ...] = ()
    rules: Rules = Rules()
    locks: Mapping[Slot, tuple[str, float]] = field(default_factory=dict)
    skipped: frozenset[Slot] = frozenset()
    fixed: frozenset[str] = frozenset()
    beside: Mapping[Slot, Offer] = field(default_factory=dict)

    def __post_init__(self) -> None:
        if not self.meals:
            raise DieteticsError("week-no-meals")
        if not self.offers:
            raise DieteticsError("week-no-dishes")
        known = {pot.key for pot in self.pots}
        keys = [offer.key for offer in self.offers]
        problems = [
            (
                len(self.offers) > MOST_DISHES,
                f"{len(self.offers)} dishes; at most {MOST_DISHES} are possible",
            ),
            (len(set(keys)) < len(keys), "two dishes have the same key"),
            (
                len(self.rules.cooking_days) > MOST_EVENINGS,
                f"more than {MOST_EVENINGS} cooking evenings",
            ),
            (not self.rules.scales or min(self.rules.scales) <= 0, "portions must be above zero"),
            (
                any(
                    set(o.own) | set(o.table) > known for o in (*self.offers, *self.beside.values())
                ),
                "a dish takes from a batch that is not listed",
            ),
            (
                any(pot.keeps_days < 0 for pot in self.pots),
                "a batch can't keep for fewer than 0 days",
            ),
            (
                any(key and key not in keys for key, _ in self.locks.values()),
                "a locked cell holds a dish that is not listed",
            ),
        ]
        for wrong, words in problems:
            if wrong:
                raise DieteticsError("week-unreadable", problem=words)

    def with_dishes(self, keys: Container[str]) -> Question:
        """The same question with these dishes alone, by their keys."""
        return replace(self, offers=tuple(offer for offer in self.offers if offer.key in keys))

    def rather_without(self, keys: Container[str]) -> Question:
        """The same question with these dishes as a last resort."""
        offers = (replace(o, liking=min(LIKING)) if o.key in keys else o for o in self.offers)
        return replace(self, offers=tuple(offers))

    @cached_property
    def keys(self) -> tuple[str, ...]:
        """What is added up over a day: the windows' nutrients, energy, grams, and what the school
        asks.
        """
        wanted = [w.key for w in self.windows if nutrient(w.key).kind != "ratio"]
        return tuple(
            dict.fromkeys(
                [
                    *wanted,
                    "energy_kcal",
                    "protein_g",
                    "grams",
                    *(ask.amount_key for ask in self.asks),
                ]
            )
        )

    @cached_property
    def slots(self) -> tuple[Slot, ...]:
        """Every cell that is a meal, by day."""
        return tuple(
            (d, m)
            for d, m in product(range(len(self.kinds)), range(len(self.meals)))
            if self.kinds[d] != "off" and (d, m) not in self.skipped
        )

    @cached_property
    def by_key(self) -> Mapping[str, int]:
        """The place of every dish in the list, by its key."""
        return {offer.key: i for i, offer in enumerate(self.offers)}

    @cached_property
    def main_dishes(self) -> frozenset[int]:
        """The places of the dishes that suit a main meal."""
        mains = {meal.name for meal in self.meals if meal.main}
        return frozenset(i for i, offer in enumerate(self.offers) if offer.meals & mains)

    def is_wished_daily(self, dish: int) -> bool:
        """True for a dish that is wished for, which may come day after day."""
        return self.offers[dish].least_uses > 0

    def repeat_price(self, meal: int) -> float:
        """What it costs when a meal has the dish of the day before."""
        return REPEAT if self.meals[meal].main else REPEAT_SMALL

    def repeats(self, on: Mapping[int, Sequence[Slot]]) -> Mapping[int, int]:
        """How often each meal has the dish of the day before; `on` says where each dish stands."""
        found = dict.fromkeys(range(len(self.meals)), 0)
        for dish, slots in on.items():
            if dish >= 0 and not self.is_wished_daily(dish):
                for day, meal in slots:
                    found[meal] += (day + 1, meal) in slots
        return found

    def repeat_points(self, on: Mapping[int, Sequence[Slot]]) -> float:
        """Points for meals that have the dish of the day before."""
        return sum(self.repeat_price(meal) * n for meal, n in self.repeats(on).items())

    @cached_property
    def new_dishes(self) -> frozenset[int]:
        """The places of the dishes that were not eaten in the last weeks."""
        return frozenset(i for i, offer in enumerate(self.offers) if offer.new)

    def new_points(self, dishes: Iterable[int]) -> float:
        """Points for more new dishes in a week than are wanted."""
        if self.rules.most_new is None:
            return 0.0
        return NEW * max(0, len(self.new_dishes.intersection(dishes)) - self.rules.most_new)

    @cached_property
    def wished(self) -> frozenset[int]:
        """The places of the dishes that are to come so often at least."""
        return frozenset(i for i, offer in enumerate(self.offers) if offer.least_uses)

    def wish_points(self, dish: int, servings: int) -> float:
        """Points for a dish that comes less often than is wished for."""
        return WISH * max(0, self.offers[dish].least_uses - servings)

    def plant_kind_points(self, servings: Mapping[int, int]) -> float:
        """Points for kinds that are missing and servings that are too many, by how often each dish
        comes.
        """
        rules = self.rules
        return plant_kind_points(
            rules.plant_kinds,
            rules.most_servings,
            [offer.plant_kinds for offer in self.offers],
            servings,
        )

    def run_starts(self, before: Sequence[int] = ()) -> range:
        """The first days of the spans in which a main dish is counted: those of the week, and where
        it was eaten before, those that reach into it.
        """
        return range(1 - RUN_DAYS if before else 0, len(self.kinds) - RUN_DAYS + 1)

    def run_points(self, days: Sequence[int], before: Sequence[int] = ()) -> float:
        """Points for one main dish on these days: above three servings within any four days."""
        eaten = [*before, *days]
        return RUN * sum(
            max(0, sum(s <= d < s + RUN_DAYS for d in eaten) - RUN_MOST)
            for s in self.run_starts(before)
        )

    @cached_property
    def pot_index(self) -> Mapping[str, int]:
        """The place of every pot in the list, by its key."""
        return {pot.key: i for i, pot in enumerate(self.pots)}

    def vector_of(self, offer: Offer, scale: float) -> tuple[float, ...]:
        """What a dish at a scale adds to its day, in the order of `keys`."""
        return tuple(
            (offer.grams if key == "grams" else offer.amounts.get(key, 0.0)) * scale
            for key in self.keys
        )

    def covered(self, pot: int, slot: Slot) -> bool:
        """True when something of a pot can be there at this meal: from stock, or from a cooking
        evening in time.
        """
        facts = self.pots[pot]
        if any(share > 0 and slot[0] <= end for share, end in facts.stock):
            return True
        return any(self.reaches(pot, day, slot) for day in self.rules.cooking_days)

    def reaches(self, pot: int, day: int, slot: Slot) -> bool:
        """True when what is cooked on the evening of `day` can be eaten at `slot`: from that day's
        last meal to its end.
        """
        start = (day, len(self.meals) - 1) if day >= 0 else (0, 0)
        return start <= slot and slot[0] <= day + self.pots[pot].keeps_days

    def choices(self, slot: Slot) -> tuple[Choice, ...]:
        """Every way to fill a cell; a locked cell has one. "Nothing" is always a way, and a dear
        one.
        """
        found = self._choices.get(slot)
        if found is None:
            found = self._choices[slot] = self._found_choices(slot)
        return found

    @cached_property
    def _choices(self) -> dict[Slot, tuple[Choice, ...]]:
        return {}

    def _found_choices(self, slot: Slot) -> tuple[Choice, ...]:
        day, meal = slot
        lock = self.locks.get(slot)
        if lock is not None:
            key, scale = lock
            return (
                self._choice(self.by_key[key], scale, meal, slot)
                if key
                else self._nothing(0.0, slot),
            )
        found = [self._nothing(EMPTY, slot)]
        for i, offer in enumerate(self.offers):
            if self.meals[meal].name not in offer.meals or (
                self.kinds[day] == "travel" and not offer.travels
            ):
                continue
            if offer.rests(day):
                continue
            if all(
                self.covered(self.pot_index[p], slot)
                for p in dict.fromkeys([*offer.own, *offer.table])
            ):
                found += [self._choice(i, scale, meal, slot) for scale in self.rules.scales]
        return tuple(found)

    def _nothing(self, cost: float, slot: Slot) -> Choice:
        beside = self.beside.get(slot)
        uses = () if beside is None else self._uses(beside, 1.0, slot)
        return Choice(-1, 1.0, self._vector_beside(slot), cost, uses)

    def _vector_beside(self, slot: Slot) -> tuple[float, ...]:
        beside = self.beside.get(slot)
        return (0.0,) * len(self.keys) if beside is None else self.vector_of(beside, 1.0)

    def _choice(self, index: int, scale: float, meal: int, slot: Slot) -> Choice:
        offer = self.offers[index]
        cost = LIKING[offer.liking] + PORTION * abs(scale - 1)
        whole = self.whole_meal(slot, offer, scale)
        cost += self.meal_cost(whole, 1.0, self.meals[meal]) + self.weight_cost(whole.grams)
        if not offer.own and not offer.table:
            cost += FRESH
        both = zip(self.vector_of(offer, scale), self._vector_beside(slot), strict=True)
        vector = tuple(dish + side for dish, side in both)
        return Choice(index, scale, vector, cost, self._uses(whole, 1.0, slot))

    def _uses(self, offer: Offer, scale: float, slot: Slot) -> tuple[tuple[int, float], ...]:
        """What a serving takes of the pots of which there can be something."""
        found = []
        for key in dict.fromkeys([*offer.own, *offer.table]):
            share = offer.own.get(key, 0.0) * scale + offer.table.get(key, 0.0)
            if self.covered(self.pot_index[key], slot):
                found.append((self.pot_index[key], share))
        return tuple(found)

    def whole_meal(self, slot: Slot, offer: Offer, scale: float) -> Offer:
        """A dish at a scale with what stands beside it, as one serving, to be judged as a meal;
        what is not known of the dish is not known of the meal.
        """
        beside = self.beside.get(slot)
        amounts = {key: amount * scale for key, amount in offer.amounts.items()}
        own = {key: share * scale for key, share in offer.own.items()}
        if beside is None:
            return replace(offer, amounts=amounts, grams=offer.grams * scale, own=own)
        return replace(
            offer,
            amounts={key: n + beside.amounts.get(key, 0.0) for key, n in amounts.items()},
            grams=offer.grams * scale + beside.grams,
            own=added(own, beside.own),
            table=added(offer.table, beside.table),
        )

    def meal_cost(self, offer: Offer, scale: float, meal: SlotMeal) -> float:
        """Points of a dish for being outside the share that its meal has of the day."""
        cost = 0.0
        for window in self.windows:
            amount = offer.amounts.get(window.key)
            if amount is None or window.key not in ("energy_kcal", "protein_g"):
                continue
            share = meal.share if window.key == "energy_kcal" else meal.protein_share
            low, high = (window.low or 0.0) * share, (window.high or float("inf")) * share
            if window.key == "protein_g":
                high = float("inf")
            reference = low or high
            missed = max(low - amount * scale, amount * scale - high, 0.0)
            if not 0 < reference < float("inf"):
                continue
            cost += MEAL_PER_CENT * 100 * missed / reference
        return cost

    def weight_cost(self, grams: float) -> float:
        """Points of a meal that weighs more than is usually eaten at one."""
        most = self.rules.most_meal_g
        return HEAVY_MEAL * 100 * max(0.0, grams - most) / most if most else 0.0

    @cached_property
    def day_prices(self) -> tuple[DayPrice, ...]:
        """What a day costs for its targets and the dietary approach of it, in the order of
        `keys`.
        """
        return day_prices(self.keys, self.windows, self.asks, self.usual_energy)

    def day_cost(self, sums: Mapping[str, float]) -> float:
        """Points of a day with these sums, for its targets and the dietary approach of it."""
        return cost_of_day(self.day_prices, [sums[key] for key in self.keys])

    def missed_percent(self, window: Window, sums: Mapping[str, float]) -> float:
        """By how many per cent of its line a day misses a window; a density by the energy that is
        too much for the weight.
        """
        low, high = window.low, window.high
        if window.key == DENSITY:
            energy = self.usual_energy
            over = max(0.0, sums["energy_kcal"] - high * sums["grams"]) if high is not None else 0.0
            short = max(0.0, low * sums["grams"] - sums["energy_kcal"]) if low is not None else 0.0
            return 100 * (over + short) / energy
        amount = sums[window.key]
        if low is not None and amount < low:
            return 100 * (low - amount) / line_of(low, high)
        if high is not None and amount > high:
            return 100 * (amount - high) / line_of(high, low)
        return 0.0

    @cached_property
    def usual_energy(self) -> float:
        """The energy a day is meant to have, in kcal: what misses of a density are measured by."""
        window = next((w for w in self.windows if w.key == "energy_kcal"), None)
        return ((window.low or window.high) if window else None) or 2000.0

    def warnings(self) -> list[str]:
        """What contradicts itself among the locked cells: they are kept all the same."""
        found = []
        counts: dict[int, list[Slot]] = {}
        for slot, (key, _) in self.locks.items():
            if key:
                counts.setdefault(self.by_key[key], []).append(slot)
        for index, slots in counts.items():
            offer = self.offers[index]
            if len(slots) > offer.most_uses:
                found.append(
                    f"{offer.name} is locked {len(slots)} times; at most {offer.most_uses} are "
                    "allowed"
                )
            days = sorted(day for day, _ in slots)
            if any(b - a < offer.apart for a, b in zip(days, days[1:], strict=False)):
                found.append(f"{offer.name} is locked on days less than {offer.apart} apart")
            for slot in slots:
                if self.kinds[slot[0]] == "travel" and not offer.travels:
                    found.append(f"{offer.name} is locked on {DAY_NAMES[slot[0]]}, a travel day")
                for key in dict.fromkeys([*offer.own, *offer.table]):
                    if not self.covered(self.pot_index[key], slot):
                        name = self.pots[self.pot_index[key]].name
                        found.append(
                            f"{offer.name} is locked on {DAY_NAMES[slot[0]]}; no cooking evening "
                            f"can supply {name} by then"
                        )
        return list(dict.fromkeys(found))
