"""What a day and a week give: sums, levels, what the school asks of a day, protein spread, means
and the span between days.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from dietetics.cautions.food_rules import VITAMIN_C_LEAST_MG
from dietetics.composition.foods import Food
from dietetics.composition.sums import Composition, Figure, density_figure, together
from dietetics.dishes.unweighed import as_eaten_g
from dietetics.nutrients import DENSITY, nutrient
from dietetics.targets.schools import FIBRE, WEIGHT, PlateRule
from dietetics.targets.usual_food import NEAR
from dietetics.targets.windows import AT_THE_LIMIT, Level, Window, levels_of
from dietetics.week.batch_supply import BatchSupply, Use, WeekBatch, supplies
from dietetics.week.day_prices import SHOWN_G
from dietetics.week.daynames import DAY_NAMES
from dietetics.week.plan import DRINK, Cell, Entry, Plan

WATCH_LIST = (
    "vitamin_b12_ug",
    "iodine_ug",
    "vitamin_d_ug",
    "calcium_mg",
    "iron_mg",
    "vitamin_c_mg",
    "zinc_mg",
    "ala_g",
    "selenium_ug",
    "vitamin_a_ug",
    "riboflavin_mg",
    "choline_mg",
)

WATCH_WORDS = (
    f"Iron with {VITAMIN_C_LEAST_MG:.0f} mg vitamin C in the meal is absorbed better (Hallberg "
    "et al. 1989, from memory); "
    "phytate in grains, beans and seeds binds zinc: soaking, sprouting and yeast help (common "
    "practice)."
)


@dataclass(frozen=True)
class Dish:
    """Something that can stand in a meal: what one serving of the client holds, and what it takes
    from pots.

    `foods` are what went in, batches taken apart. `own_g` is what the client's serving takes of
    each batch, `table_g` what the others at the table take of it beside. `assumed` marks a free
    choice, whose figures stand for a window.
    """

    key: str
    name: str
    serving: Composition
    foods: tuple[tuple[Food, float], ...] = ()
    own_g: Mapping[str, float] = field(default_factory=dict)
    table_g: Mapping[str, float] = field(default_factory=dict)
    travels: bool = True
    assumed: bool = False
    gone: bool = False

    @property
    def drink(self) -> bool:
        """True for a drink, which stands outside a day's density."""
        return self.key.startswith(DRINK)


@dataclass(frozen=True)
class Asked:
    """What a school asks of a day, and what the day holds of it, in grams."""

    rule: PlateRule
    grams: float

    @property
    def met(self) -> bool:
        """True when enough and not too much of it is there."""
        low, high = self.rule.low, self.rule.high
        near = NEAR if self.rule.of in (WEIGHT, FIBRE) else AT_THE_LIMIT
        return (low is None or self.grams >= low - max(SHOWN_G, AT_THE_LIMIT * low)) and (
            high is None or self.grams <= high + max(SHOWN_G, near * high)
        )

    def words(self) -> str:
        """ "Beans 80 g, wants at least 130 g"."""
        low, high = self.rule.low, self.rule.high
        wants = f"at least {low:,g} g" if low is not None else f"at most {high:,g} g"
        return f"{self.rule.name} {self.grams:,.0f} g, target {wants}"

    def brief(self) -> str:
        """How far off it is: "Beans 50 g short"."""
        low, high = self.rule.low, self.rule.high
        if high is not None and self.grams > high:
            return f"{self.rule.name} {self.grams - high:,.0f} g over"
        return f"{self.rule.name} {max(0.0, (low or 0.0) - self.grams):,.0f} g short"


@dataclass(frozen=True)
class DaySum:
    """A day added up. `meals` holds each cell's composition, `meals_g` what its food weighs without
    drinks; `empty` how many meals have nothing in them.
    """

    total: Composition
    meals: tuple[Composition, ...]
    asked: tuple[Asked, ...]
    foods: tuple[tuple[Food, float], ...]
    empty: int
    assumed: bool
    meals_g: tuple[float, ...] = ()

    @property
    def weight_g(self) -> float:
        """What the food of the day weighs, without drinks, in g."""
        return sum(self.meals_g)

    @property
    def protein_g(self) -> tuple[float | None, ...]:
        """Protein of each meal, in g."""
        return tuple(meal["protein_g"].amount for meal in self.meals)


def cell_sum(cell: Cell, dishes: Mapping[str, Dish]) -> Composition:
    """What a cell gives; a dish that is not known adds nothing."""
    return together(
        [dishes[e.dish].serving.scaled(e.scale) for e in cell.entries if e.dish in dishes]
    )


def day_sum(
    cells: Sequence[Cell], dishes: Mapping[str, Dish], asks: Sequence[PlateRule] = ()
) -> DaySum:
    """Add up a day. Drinks count for every figure but the density, which is that of the food
    alone.
    """
    entries = [(e, dishes[e.dish]) for cell in cells for e in cell.entries if e.dish in dishes]
    meals = tuple(cell_sum(cell, dishes) for cell in cells)
    total = together(meals)
    if any(dish.drink for _, dish in entries):
        total = _without_drinks(total, entries)
    foods = tuple((food, grams * e.scale) for e, dish in entries for food, grams in dish.foods)
    empty = sum(not cell.entries and not cell.skipped for cell in cells)
    meals_g = tuple(_food_g(cell, dishes) for cell in cells)
    return DaySum(
        total,
        meals,
        asked_of(foods, asks, sum(meals_g), total["fibre_g"].amount),
        foods,
        empty,
        any(dish.assumed for _, dish in entries),
        meals_g,
    )


def _food_g(cell: Cell, dishes: Mapping[str, Dish]) -> float:
    """What the food of a cell weighs, without drinks."""
    entries = [(entry, dishes[entry.dish]) for entry in cell.entries if entry.dish in dishes]
    return sum(dish.serving.grams * entry.scale for entry, dish in entries if not dish.drink)


def _without_drinks(total: Composition, entries: Sequence[tuple[Entry, Dish]]) -> Composition:
    eaten = together([dish.serving.scaled(e.scale) for e, dish in entries if not dish.drink])
    density = density_figure(eaten["energy_kcal"], eaten.grams)
    return Composition(total.grams, {**total.figures, DENSITY: density})


def asked_of(
    foods: Sequence[tuple[Food, float]],
    asks: Sequence[PlateRule],
    weight_g: float,
    fibre_g: float | None,
) -> tuple[Asked, ...]:
    """How much of what is asked for is among these foods, as they are eaten (`as_eaten_g`);
    `weight_g` is what all weighs together without drinks, `fibre_g` what is known of its fibre.
    """

    def held(rule: PlateRule) -> float:
        if rule.of == WEIGHT:
            return weight_g
        if rule.of == FIBRE:
            return fibre_g or 0.0
        return sum(
            as_eaten_g(food, g)
            for food, g in foods
            if rule.holds(food.group, food.family, food.state)
        )

    return tuple(Asked(rule, held(rule)) for rule in asks)


def day_levels(windows: Sequence[Window], day: DaySum) -> tuple[Level, ...]:
    """Where a day stands in the client's daily windows."""
    return levels_of(tuple(windows), day.total, AT_THE_LIMIT)


@dataclass(frozen=True)
class Spread:
    """One figure over the days that count: mean, least, most."""

    key: str
    mean: float
    least: float
    most: float

    def text(self) -> str:
        """The spread in words: "2,010 kcal (1,880–2,140)"."""
        one = nutrient(self.key)
        return f"{one.text(self.mean)} ({one.number(self.least)}–{one.number(self.most)})"


def spread(key: str, days: Sequence[DaySum]) -> Spread | None:
    """Mean and span of a figure over days; None where no day has a known one. Density is a mean of
    days, as each is eaten.
    """
    known = [amount for day in days if (amount := day.total[key].amount) is not None]
    return Spread(key, sum(known) / len(known), min(known), max(known)) if known else None


def mean_of(days: Sequence[DaySum]) -> Composition | None:
    """Average day, unknown shares kept; None without a day."""
    if not days:
        return None
    share = 1 / len(days)
    whole = together([day.total.scaled(share) for day in days])
    densities = [figure.amount for day in days if (figure := day.total[DENSITY]).amount is not None]
    if not densities:
        return whole
    mean = sum(densities) / len(densities)
    return Composition(
        whole.grams,
        {**whole.figures, DENSITY: Figure(DENSITY, mean, mean, mean, whole[DENSITY].coverage)},
    )


def counted_days(plan: Plan) -> list[int]:
    """The days that are judged: not off plan, and with something in them."""
    return [
        d
        for d, day in enumerate(plan.days)
        if day.kind != "off" and any(cell.entries for cell in day.cells)
    ]


def uses_of(plan: Plan, dishes: Mapping[str, Dish]) -> dict[str, list[Use]]:
    """What every meal takes from each batch, the whole table counted."""
    found: dict[str, list[Use]] = {}
    for d, m, cell in plan.places():
        if plan.days[d].kind == "off":
            continue
        for entry in cell.entries:
            dish = dishes.get(entry.dish)
            if dish is None:
                continue
            for batch in dict.fromkeys([*dish.own_g, *dish.table_g]):
                grams = dish.own_g.get(batch, 0.0) * entry.scale + dish.table_g.get(batch, 0.0)
                if grams > 0:
                    found.setdefault(batch, []).append(Use(d, m, grams, dish.name))
    return found


def batch_supplies(
    plan: Plan, dishes: Mapping[str, Dish], pots: Mapping[str, WeekBatch]
) -> tuple[BatchSupply, ...]:
    """Every batch of a plan as a thread through its days."""
    return supplies(pots, plan.cookings, uses_of(plan, dishes), len(plan.meals))


def plan_problems(plan: Plan, dishes: Mapping[str, Dish]) -> list[str]:
    """What cannot be as it is planned: dishes that are gone, warm dishes on a day of travel."""
    found = []
    for d, _, cell in plan.places():
        for entry in cell.entries:
            dish = dishes.get(entry.dish)
            if dish is None or dish.gone:
                found.append(
                    f"{entry.name} on {DAY_NAMES[d]} is no longer available: choose another dish"
                )
            elif plan.days[d].kind == "travel" and not dish.travels:
                found.append(f"{entry.name} on {DAY_NAMES[d]} doesn't travel: it needs a kitchen")
    return list(dict.fromkeys(found))
