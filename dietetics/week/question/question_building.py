"""From dishes and windows to a question: which meals are main ones, what travels cold, what a free
choice stands for.
"""

from __future__ import annotations

from collections.abc import Container, Iterable, Mapping, Sequence
from dataclasses import replace

from dietetics.cautions.exclusions import exclusions_of
from dietetics.cautions.facts import ClientFacts, Eaten
from dietetics.cautions.verdict import Verdict
from dietetics.composition.foods import Food
from dietetics.composition.sums import Composition, Figure
from dietetics.nutrients import ADDITIVE_KEYS, DENSITY, nutrient
from dietetics.targets.schools import WEIGHT, PlateRule
from dietetics.targets.windows import Window
from dietetics.week.batch_supply import FROZEN_DAYS, WeekBatch
from dietetics.week.day_prices import Ask
from dietetics.week.day_totals import Dish, asked_of, cell_sum
from dietetics.week.kinds import plant_kinds_of, wanted_on
from dietetics.week.liking import NOTHING_HEARD, Heard
from dietetics.week.plan import DRINK, Cell, Entry, Plan
from dietetics.week.question.question import (
    BatchFacts,
    Offer,
    Question,
    Rules,
    Slot,
    SlotMeal,
    Spare,
)

SMALL_MEALS = ("breakfast", "snack", "juice", "supper snack")
MAIN_PERCENT = 20
WARM_WORDS = ("soup", "porridge", "chili", "stew", "curry", "scramble", "hot", "broth", "oats")
MEAL_FROM = 1 / 3  # of a meal's share of the day's energy (our judgement)
USUAL_DIFFERENT, FEWEST_DIFFERENT = 6, 4
PORRIDGE_FAMILIES = frozenset({"oats", "steel-cut-oats"})
USUAL_DENSITY = (
    1.2  # kcal/g, for the weight of a free choice without a window for density (our judgement)
)
# Verdicts that keep a dish from being offered unless somebody said so, and those that make it a
# last resort.
NOT_OFFERED = frozenset({"allergen", "forbidden-additive", "tyramine", "grapefruit"})
AGAINST_IT = frozenset({"never-eaten", "forbidden-group", "forbidden-oil"})
KNOWN_SHARE = 0.8  # a nutrient is planned for only where most of what is offered is known


def main_meals(meals: Sequence[tuple[str, int]]) -> tuple[str, ...]:
    """The meals that count as main ones, from (name, share in per cent): large, and no breakfast;
    the largest where none is.
    """
    found = tuple(
        name for name, share in meals if share >= MAIN_PERCENT and name.lower() not in SMALL_MEALS
    )
    return found or tuple(name for name, share in meals if share == max(s for _, s in meals))


def usual_different(offers: Iterable[Offer], meals: Iterable[SlotMeal]) -> int:
    """How many different main dishes a week is wanted to have where nobody has said: six, or as
    many as there are, and four in any case, so that it is told when there are fewer. (Our
    judgement: fourteen lunches and dinners of four dishes are a dull week.)
    """
    mains = {meal.name for meal in meals if meal.main}
    there = sum(bool(offer.meals & mains) for offer in offers)
    return max(FEWEST_DIFFERENT, min(USUAL_DIFFERENT, there))


def meals_suited(own: str, said: Sequence[str], meals: Sequence[tuple[str, int]]) -> list[str]:
    """The meals a dish may be planned for: what was said; else the meal it was made for, main meals
    among each other.

    `meals` are (name, share in per cent).
    """
    names, mains = [name for name, _ in meals], main_meals(meals)
    if said:
        return [name for name in said if name in names]
    if own in mains:
        return list(mains)
    return [own] if own in names else []


def travels_cold(name: str, foods: Iterable[Food]) -> bool:
    """True for a dish that is eaten cold out of a box; soups, porridges and the like are not
    (common practice).
    """
    words = name.lower()
    return not is_porridge(name, foods) and not any(word in words for word in WARM_WORDS)


def is_porridge(name: str, foods: Iterable[Food]) -> bool:
    """True for oats that were cooked, and for what is called porridge."""
    oats = any(food.family in PORRIDGE_FAMILIES and food.state == "cooked" for food in foods)
    return oats or "porridge" in name.lower()


def assumed_serving(windows: Sequence[Window], share: float) -> Composition:
    """What a free choice is taken to hold: the middle of each window's share, everything else
    unknown.
    """
    middle: dict[str, float] = {}
    for window in windows:
        ends = [end for end in (window.low, window.high) if end is not None]
        if window.low is None and window.key != DENSITY:
            ends = [0.6 * ends[0]]  # under a ceiling alone: well inside it, not at it
        middle[window.key] = (
            sum(ends) / len(ends) * (1.0 if nutrient(window.key).kind == "ratio" else share)
        )
    energy = middle.get("energy_kcal")
    grams = energy / (middle.get(DENSITY) or USUAL_DENSITY) if energy else 0.0

    def figure(key: str) -> Figure:
        value = middle.get(key)
        return Figure(key, value, value, value, 0.0 if value is None else 1.0)

    return Composition(grams, {key: figure(key) for key in (*ADDITIVE_KEYS, DENSITY)})


def offer_of(
    dish: Dish, pots: Mapping[str, WeekBatch], asks: Sequence[PlateRule], **more: object
) -> Offer:
    """A dish as an offer: known figures of a serving, grams of what the school asks, shares of
    pots.
    """
    amounts = {
        key: f.amount
        for key, f in dish.serving.figures.items()
        if f.amount is not None and key != DENSITY
    }
    plants = {} if dish.drink else plant_kinds_of(dish.foods)
    grams = 0.0 if dish.drink else dish.serving.grams
    asked = asked_of(dish.foods, asks, grams, amounts.get("fibre_g"))
    amounts |= {f"ask:{one.rule.key}": one.grams for one in asked}

    def shares(grams: Mapping[str, float]) -> dict[str, float]:
        return {
            key: g / pots[key].yield_g
            for key, g in grams.items()
            if key in pots and pots[key].yield_g
        }

    return Offer(
        dish.key,
        dish.name,
        amounts=amounts,
        grams=grams,
        own=shares(dish.own_g),
        table=shares(dish.table_g),
        plant_kinds=plants,
        **{"meals": frozenset(), "travels": dish.travels, **more},  # type: ignore[arg-type]
    )


def against_dish(dish: Dish, client: ClientFacts) -> list[Verdict]:
    """What speaks against a dish for a client, the gravest first: an allergen in whatever amount,
    the rest from a gram on.
    """
    return exclusions_of([Eaten(food, grams) for food, grams in dish.foods], client)


def kept_from(dish: Dish, client: ClientFacts) -> Verdict | None:
    """What keeps a dish from being offered to a client unless that was said: an allergen, an
    additive or a medicine.
    """
    return next(
        (verdict for verdict in against_dish(dish, client) if verdict.code in NOT_OFFERED), None
    )


def against_words(dish: Dish, client: ClientFacts) -> str:
    """The gravest of what speaks against a dish with the food it is about, in a few words; "" when
    nothing does.
    """
    found = [
        verdict for verdict in against_dish(dish, client) if verdict.keeps_out or verdict.grave
    ]
    return (
        f"{found[0].params['foods'][0].partition(',')[0].lower()}: {found[0].short}"
        if found
        else ""
    )


def liked_under(dish: Dish, client: ClientFacts, heard: Heard = NOTHING_HEARD) -> int:
    """How a dish is taken when the practitioner said nothing: rather not where it holds something
    disliked or left out by the client's school; else as the client rated it with stars or left it
    on the plate, or fine. (Whether a food is raw when it is eaten is known only where the steps of
    its batch say so: a dislike is no reason to leave a dish out.)
    """
    if any(verdict.code in AGAINST_IT for verdict in against_dish(dish, client)):
        return 0
    return heard.liking


def planned_windows(windows: Sequence[Window], dishes: Sequence[Dish]) -> tuple[Window, ...]:
    """The windows a week is planned for: those whose figures are known of most of what is offered.
    The rest is only judged.
    """
    found = []
    for window in windows:
        known = [dish for dish in dishes if dish.serving[window.key].coverage >= KNOWN_SHARE]
        if len(known) >= KNOWN_SHARE * len(dishes):
            found.append(window)
    return tuple(found)


def fixed_offer(
    key: str,
    cell: Cell,
    dishes: Mapping[str, Dish],
    pots: Mapping[str, WeekBatch],
    asks: Sequence[PlateRule],
) -> Offer:
    """A cell with whatever is in it, as an offer that suits no other meal; drinks add to no weight
    of food.
    """
    held = [(entry, dishes[entry.dish]) for entry in cell.entries if entry.dish in dishes]
    own: dict[str, float] = {}
    table: dict[str, float] = {}
    for entry, dish in held:
        for batch, grams in dish.own_g.items():
            own[batch] = own.get(batch, 0.0) + grams * entry.scale
        for batch, grams in dish.table_g.items():
            table[batch] = table.get(batch, 0.0) + grams
    foods = tuple((food, g * entry.scale) for entry, dish in held for food, g in dish.foods)
    made = Dish(
        key,
        " and ".join(e.name for e, _ in held) or "nothing",
        cell_sum(cell, dishes),
        foods,
        own,
        table,
    )
    offer = offer_of(made, pots, asks, most_uses=99, apart=0)
    drunk = sum(dish.serving.grams * entry.scale for entry, dish in held if dish.drink)
    if not drunk:
        return offer
    weight = {k: offer.amounts[k] - drunk for k in (f"ask:{WEIGHT}",) if k in offer.amounts}
    return replace(offer, grams=offer.grams - drunk, amounts={**offer.amounts, **weight})


def dish_and_sides(cell: Cell, offered: Container[str]) -> tuple[Entry | None, tuple[Entry, ...]]:
    """What of a cell is planned anew, and what stays beside it: the first dish that is offered, and
    everything else. Where none is offered, drinks stay, and another dish is planned anew.
    """
    dish = next((one for one in cell.entries if one.dish in offered), None)
    others = tuple(one for one in cell.entries if one is not dish)
    if dish is None:
        return None, tuple(one for one in others if one.dish.startswith(DRINK))
    return dish, others


def stays(cell: Cell, offered: Container[str]) -> bool:
    """True for a cell that is not planned: a locked one, and one of several dishes of which none is
    offered.
    """
    dish, others = dish_and_sides(cell, offered)
    return cell.locked or (dish is None and len(cell.entries) - len(others) > 1)


def beside_of(
    plan: Plan,
    offers: Sequence[Offer],
    dishes: Mapping[str, Dish],
    pots: Mapping[str, WeekBatch],
    asks: Sequence[PlateRule],
) -> dict[Slot, Offer]:
    """What stays beside the dish of each cell that is planned: sides and drinks, each cell's as one
    offer.
    """
    keys, found = {offer.key for offer in offers}, dict[Slot, Offer]()
    for day, meal, cell in plan.places():
        _, sides = dish_and_sides(cell, keys)
        if sides and not cell.skipped and not stays(cell, keys):
            key = f"beside-{day}-{meal}"
            found[day, meal] = fixed_offer(key, Cell(sides), dishes, pots, asks)
    return found


def locks_of(
    plan: Plan,
    offers: list[Offer],
    dishes: Mapping[str, Dish],
    pots: Mapping[str, WeekBatch],
    asks: Sequence[PlateRule],
) -> dict[Slot, tuple[str, float]]:
    """The cells that stay as they are: one dish by its key, anything else as a fixed offer, which
    is put at the end of `offers`.
    """
    keys = {offer.key for offer in offers}
    found: dict[Slot, tuple[str, float]] = {}
    for day, meal, cell in plan.places():
        if not stays(cell, keys):
            continue
        if not cell.entries:
            found[day, meal] = ("", 1.0)
        elif len(cell.entries) == 1 and cell.entries[0].dish in keys:
            found[day, meal] = (cell.entries[0].dish, cell.entries[0].scale)
        else:
            key = f"cell-{day}-{meal}"
            offers.append(fixed_offer(key, cell, dishes, pots, asks))
            found[day, meal] = (key, 1.0)
    return found


def spare_dish(
    dish: Dish,
    meals: Sequence[SlotMeal],
    pots: Mapping[str, WeekBatch],
    asks: Sequence[PlateRule],
    windows: Sequence[Window],
    liking: int,
) -> Spare | None:
    """A dish that nobody offered, as it could be offered for the main meals (a porridge for the
    first meal of the day, common practice), with the pots it takes from. None for what makes none
    of them by itself.
    """
    porridge = is_porridge(dish.name, (food for food, _ in dish.foods))
    suits = [meals[0]] if porridge else [meal for meal in meals if meal.main]
    names = frozenset(meal.name for meal in suits if makes_a_meal(dish, meal, windows))
    if not names:
        return None
    offer = offer_of(dish, pots, asks, meals=names, liking=liking)
    return offer, tuple(
        BatchFacts(key, pots[key].name, pots[key].keeps_days)
        for key in {**offer.own, **offer.table}
    )


def makes_a_meal(dish: Dish, meal: SlotMeal, windows: Sequence[Window]) -> bool:
    """True where a serving has at least a third of the energy that is the meal's share of a day:
    less is a side or a dressing. False where its energy is unknown.
    """
    energy = dish.serving["energy_kcal"].amount
    window = next((w for w in windows if w.key == "energy_kcal"), None)
    least = ((window.low or window.high) if window else None) or 0.0
    return energy is not None and energy >= MEAL_FROM * meal.share * least


def week_question(
    plan: Plan,
    meals: Sequence[SlotMeal],
    windows: Sequence[Window],
    asks: Sequence[PlateRule],
    offers: Sequence[Offer],
    dishes: Mapping[str, Dish],
    pots: Mapping[str, WeekBatch],
    rules: Rules,
) -> Question:
    """The question of a plan: its kinds of days, locked and skipped cells, and what earlier weeks
    left, kept.
    """
    every = list(offers)
    beside = beside_of(plan, offers, dishes, pots, asks)
    locks = locks_of(plan, every, dishes, pots, asks)
    eating = (*every, *beside.values())
    taken = {key for offer in eating for key in (*offer.own, *offer.table)}
    evenings, length = rules.cooking_days if rules.may_freeze else (), len(plan.days)
    facts = [
        BatchFacts(
            key,
            pots[key].name,
            pots[key].days_reached(evenings, length),
            stock_of(plan, pots[key]),
        )
        for key in pots
        if key in taken
    ]
    offered = [dishes[offer.key] for offer in offers if offer.key in dishes]
    planned = planned_windows(windows, offered)
    wanted = tuple(
        Ask(rule.key, rule.name, rule.low or 0.0, rule.importance, rule.high) for rule in asks
    )
    eaten = sum(day.kind != "off" for day in plan.days)
    kinds = wanted_on(rules.plant_kinds, eaten)
    skipped = frozenset((d, m) for d, m, cell in plan.places() if cell.skipped)
    return Question(
        tuple(day.kind for day in plan.days),
        tuple(meals),
        planned,
        tuple(every),
        tuple(facts),
        wanted,
        replace(rules, plant_kinds=kinds),
        locks,
        skipped,
        beside=beside,
    )


def stock_of(plan: Plan, pot: WeekBatch) -> tuple[tuple[float, int], ...]:
    """What was left of a batch by the weeks before: (share of a pot, last day it may be eaten),
    fresh and frozen apart.
    """
    found = []
    for one in plan.cookings:
        if one.batch == pot.key and one.day < -1:
            found.append((one.pots * (1 - one.frozen), one.day + pot.keeps_days))
            found.append((one.pots * one.frozen, one.day + FROZEN_DAYS))
    return tuple((share, end) for share, end in found if share > 0 and end >= 0)
