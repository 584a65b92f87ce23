"""Rules about what is eaten: at a meal, over a day. Each yields verdicts with values, no
sentences.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from dietetics.cautions.asked import DAY, MEAL, asked_of
from dietetics.cautions.exclusions import IODINE_SEAWEED, allergies_of, exclusions_of
from dietetics.cautions.facts import ClientFacts, DayFacts, Eaten, MealFacts
from dietetics.cautions.verdict import Verdict
from dietetics.targets.conditions import POTASSIUM_WATCHED

OXALATE_FAMILIES = frozenset(
    {"spinach", "chard", "beet-greens", "almonds", "almond-flour", "almond-butter"}
)
SOY, OIL_GROUP = "soy", "oil"
NUTMEG_FAMILIES = frozenset({"nutmeg"})
NUTMEG_G = 5.0  # about two teaspoons at once make ill; case reports, from memory
HIGH_POTASSIUM_MG = (
    200.0  # of one food in a meal: worth a mark for a client with a ceiling; common practice
)
IRON_WORTH_MG, VITAMIN_C_LEAST_MG = 3.0, 25.0  # Hallberg et al. 1989, from memory
BRAZIL_NUT_G, BRAZIL_NUTS_MOST = 5.0, 4
NAMED_FOODS = 4  # foods of much potassium that are named, the richest first


def names_of(eaten: Sequence[Eaten]) -> tuple[str, ...]:
    """The names of foods, each once, in order."""
    return tuple(sorted({one.food.name for one in eaten}))


@asked_of(MEAL)
def foods_excluded(meal: MealFacts) -> Iterator[Verdict]:
    """Allergens, traces, what is never eaten, what the school, a condition or a medicine leaves
    out.
    """
    yield from exclusions_of(meal.eaten, meal.client)


@asked_of(MEAL)
def allergens_open(meal: MealFacts) -> Iterator[Verdict]:
    """What keeps the allergens from being complete, for a client who has any: lines not read,
    unknown lists.
    """
    unlisted = names_of([one for one in meal.eaten if not one.food.allergens_known])
    unread = meal.total.unread
    if allergies_of(meal.client) and (unread or unlisted):
        params = {"unread": unread, "unlisted": unlisted}
        measure = float(unread + len(unlisted))
        yield Verdict(
            "allergens-open",
            "serious",
            params=params,
            source="the dish as written",
            measure=measure,
        )


@asked_of(MEAL)
def potassium_foods(meal: MealFacts) -> Iterator[Verdict]:
    """Foods that bring much potassium, and those of which it is not known, for clients who watch
    it.
    """
    if not meal.client.conditions & POTASSIUM_WATCHED:
        return
    by_food: dict[str, float] = {}
    for one in meal.eaten:
        by_food[one.food.name] = by_food.get(one.food.name, 0.0) + (
            one.amount("potassium_mg") or 0.0
        )
    much = sorted(
        ((n, mg) for n, mg in by_food.items() if mg >= HIGH_POTASSIUM_MG), key=lambda pair: -pair[1]
    )
    unknown = names_of(
        [one for one in meal.eaten if one.amount("potassium_mg") is None and one.grams >= 1]
    )
    if much or unknown:
        total = meal.total["potassium_mg"]
        params = {"foods": tuple(much[:NAMED_FOODS]), "unknown": unknown, "total": total}
        ask = "the kidney clinician"
        yield Verdict(
            "potassium-foods", "warn", params=params, ask=ask, measure=total.amount or 0.0
        )


@asked_of(MEAL)
def oxalate_foods(meal: MealFacts) -> Iterator[Verdict]:
    """High in oxalate, for stone formers."""
    foods = names_of([one for one in meal.eaten if one.food.family in OXALATE_FAMILIES])
    if foods and "kidney-stones-oxalate" in meal.client.conditions:
        yield Verdict("oxalate-foods", "warn", params={"foods": foods})


@asked_of(MEAL)
def soy_at_thyroid_hour(meal: MealFacts) -> Iterator[Verdict]:
    """Soy in a meal of somebody who takes thyroid medicine."""
    if "thyroid-medicine" in meal.client.conditions and holds_soy(meal.eaten):
        yield Verdict("soy-thyroid", "note", params={"meals": ()}, ask="the client's doctor")


def holds_soy(eaten: Sequence[Eaten]) -> bool:
    """True for a meal with soy in any food: milk, mince and sauce as well as tofu. Its oil holds
    none of what binds the medicine.
    """
    return any(SOY in one.food.allergens and one.food.group != OIL_GROUP for one in eaten)


@asked_of(MEAL)
def iron_without_vitamin_c(meal: MealFacts) -> Iterator[Verdict]:
    """Much plant iron with little vitamin C beside it."""
    iron, vitamin_c = meal.total["iron_mg"].amount, meal.total["vitamin_c_mg"].amount
    if (
        iron is not None
        and iron >= IRON_WORTH_MG
        and (vitamin_c is None or vitamin_c < VITAMIN_C_LEAST_MG)
    ):
        params = {"iron_mg": iron, "vitamin_c_mg": vitamin_c}
        yield Verdict(
            "iron-without-c", "note", params=params, source="Hallberg et al. 1989, from memory"
        )


@asked_of(MEAL)
def nutmeg(meal: MealFacts) -> Iterator[Verdict]:
    """More nutmeg than a meal can hold."""
    grams = sum(one.grams for one in meal.eaten if one.food.family in NUTMEG_FAMILIES)
    if grams >= NUTMEG_G:
        params = {"grams": grams}
        yield Verdict(
            "nutmeg", "serious", params=params, source="case reports, from memory", measure=grams
        )


@asked_of(MEAL, DAY)
def brazil_nuts(facts: MealFacts | DayFacts) -> Iterator[Verdict]:
    """More than about four Brazil nuts exceed the upper level of selenium, in a bowl as in a
    day.
    """
    nuts = sum(one.grams for one in facts.eaten if one.food.family == "brazil-nuts") / BRAZIL_NUT_G
    if nuts > BRAZIL_NUTS_MOST:
        params = {"nuts": nuts, "upper": facts.client.selenium_upper_ug}
        yield Verdict("brazil-nuts", "warn", params=params, source="IOM 2000", measure=nuts)


@asked_of(MEAL, DAY)
def iodine_seaweed(facts: MealFacts | DayFacts) -> Iterator[Verdict]:
    """Kelp and kombu: their iodine is not in the table, and a gram or two may pass the upper level.
    Unknown is not none.
    """
    found = [one for one in facts.eaten if one.food.family in IODINE_SEAWEED and one.grams > 0]
    if found:
        grams = sum(one.grams for one in found)
        params = {"foods": names_of(found), "grams": grams, "upper": facts.client.iodine_upper_ug}
        source = "IOM 2001; range from memory"
        yield Verdict("iodine-seaweed", "warn", params=params, source=source, measure=grams)


def fortified_b12_ug(eaten: Sequence[Eaten], client: ClientFacts) -> float:
    """B12 of a day in µg that counts: of fortified foods, labels that state it, and supplements;
    unfortified yeast is none.
    """
    food = sum(
        one.amount("vitamin_b12_ug") or 0.0
        for one in eaten
        if one.food.fortified or one.food.state == "label"
    )
    return food + client.supplements.get("vitamin_b12_ug", 0.0)


@asked_of(DAY)
def b12(day: DayFacts) -> Iterator[Verdict]:
    """Less B12 from fortified foods and supplements than the person's age and stage want."""
    counted, need = fortified_b12_ug(day.eaten, day.client), day.client.b12_need_ug
    if counted < need:
        params = {"ug": counted, "need": need, "days": ()}
        yield Verdict("b12", "warn", params=params, source="IOM 1998", measure=need - counted)


def has_iodine(day: DayFacts) -> bool:
    """True where some iodine of a day is known, or may be much (seaweed)."""
    known = (day.total["iodine_ug"].amount or 0.0) + day.client.supplements.get("iodine_ug", 0.0)
    return known > 0 or any(True for _ in iodine_seaweed(day))


@asked_of(DAY)
def iodine(day: DayFacts) -> Iterator[Verdict]:
    """No known iodine in a day."""
    if not has_iodine(day):
        yield Verdict("iodine", "note", params={"week": False}, source="IOM 2001")


@asked_of(DAY)
def upper_levels(day: DayFacts) -> Iterator[Verdict]:
    """Above an upper level, supplements counted; some levels hold for supplements alone. One
    verdict a nutrient.
    """
    client = day.client
    for key, upper in client.uppers.items():
        amount = (day.total[key].amount or 0.0) + client.supplements.get(key, 0.0)
        if amount > upper:
            yield _above(key, amount, upper, False)
    for key, upper in client.uppers_of_supplements.items():
        amount = client.supplements.get(key, 0.0)
        if amount > upper:
            yield _above(key, amount, upper, True)


def _above(key: str, amount: float, upper: float, supplements_only: bool) -> Verdict:
    params = {
        "nutrient": key,
        "amount": amount,
        "upper": upper,
        "supplements_only": supplements_only,
        "days": (),
    }
    return Verdict(
        "upper-level", "warn", key, params, "IOM/NASEM, from memory", "the client's doctor", amount
    )
