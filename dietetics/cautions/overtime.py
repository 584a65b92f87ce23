"""Cautions that only a week shows: vitamin K from day to day, fibre against before, few meals with insulin, soy and medicine."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from dietetics.cautions.caution import LOCAL, SEVERITIES, Caution
from dietetics.cautions.food import (
    B12_DAY_UG,
    POTASSIUM_CONDITIONS,
    SOY_GROUP,
    Eaten,
    allergen_cautions,
    brazil_nut_caution,
    fibre_jump,
    iodine_caution,
    iodine_grams,
    open_allergen_caution,
    trace_cautions,
    vitamin_k_swing,
)
from dietetics.composition.sums import Composition

FEW_MEALS = 2
KNOWN_SHARE = 0.95  # of a day's weight: with less known, a ceiling cannot be said to be kept (our judgement)


@dataclass(frozen=True)
class DayEaten:
    """One day of a week for its cautions: its name, foods, sums, how many meals it has, and at which ones soy is eaten."""

    name: str
    eaten: tuple[Eaten, ...]
    total: Composition
    meals: int
    soy_meals: tuple[str, ...] = ()


def soy_meals(meals: Sequence[tuple[str, Sequence[Eaten]]]) -> tuple[str, ...]:
    """The meals of a day that hold soy foods."""
    return tuple(name for name, eaten in meals if any(e.food.group == SOY_GROUP for e in eaten))


def week_cautions(
    days: Sequence[DayEaten],
    conditions: frozenset[str],
    fibre_before_g: float | None = None,
    potassium_ceiling_mg: float | None = None,
    allergies: Sequence[str] = (),
) -> list[Caution]:
    """The cautions of a week, the most serious first, each naming its days. `fibre_before_g` is a usual day before it."""
    found = [
        *_allergens(days, allergies),
        *_vitamin_k(days, conditions), *_few_meals(days, conditions), *_potassium(days, conditions, potassium_ceiling_mg),
        *_nuts(days), *_soy(days, conditions), *_fibre(days, fibre_before_g), *_b12_and_iodine(days),
    ]  # fmt: skip
    return sorted(found, key=lambda caution: SEVERITIES.index(caution.severity))


def _allergens(days: Sequence[DayEaten], allergies: Sequence[str]) -> list[Caution]:
    eaten = [one for day in days for one in day.eaten]
    unread = max((day.total.unread for day in days), default=0)
    still_open = open_allergen_caution(eaten, unread, allergies)
    held = [*allergen_cautions(eaten, allergies), *trace_cautions(eaten, allergies)]
    return [*held, still_open] if still_open is not None else held


def _vitamin_k(days: Sequence[DayEaten], conditions: frozenset[str]) -> list[Caution]:
    if "warfarin" not in conditions:
        return []
    worst: tuple[float, Caution, DayEaten, DayEaten] | None = None
    for before, after in zip(days, days[1:], strict=False):
        one, two = before.total["vitamin_k_ug"], after.total["vitamin_k_ug"]
        if one.amount is None or two.amount is None:
            continue  # not known is not none: nothing can be said of a swing
        swing = vitamin_k_swing(one.amount, two.amount)
        if swing is not None and (worst is None or swing.measure > worst[0]):
            worst = (swing.measure, swing, before, after)
    if worst is None:
        return []
    _, caution, before, after = worst
    partly = not (before.total["vitamin_k_ug"].complete and after.total["vitamin_k_ug"].complete)
    hedge = " Vitamin K is not known of everything eaten: these are its known parts." if partly else ""
    text = f"{before.name} to {after.name}: {caution.text}{hedge}"
    return [Caution(caution.key, "serious", text, caution.action, caution.ask, caution.source, caution.measure)]


def _few_meals(days: Sequence[DayEaten], conditions: frozenset[str]) -> list[Caution]:
    few = [day.name for day in days if day.meals <= FEW_MEALS]
    if not few or not conditions & {"insulin", "sulphonylurea"}:
        return []
    text = f"Two meals or fewer on {', '.join(few)}, with insulin or a sulphonylurea: low blood sugar."
    return [Caution("few-meals-insulin", "serious", text, f"Ask before the first such day. {LOCAL}", "the diabetes team",
                    measure=float(len(few)))]  # fmt: skip


def _potassium(days: Sequence[DayEaten], conditions: frozenset[str], ceiling: float | None) -> list[Caution]:
    if not conditions & POTASSIUM_CONDITIONS or ceiling is None:
        return []
    figures = [(day, day.total["potassium_mg"]) for day in days]
    unknown = [day.name for day, figure in figures if figure.coverage < KNOWN_SHARE and day.eaten]
    found = []
    if unknown:
        text = f"Potassium is not known of everything eaten on {', '.join(unknown)}: its figure is at least."
        action = "Put in foods whose potassium is known, or ask for it on the label."
        found.append(
            Caution("potassium-unknown", "warn", text, action, "the kidney clinician", measure=float(len(unknown)))
        )
    over = [(day, figure.amount) for day, figure in figures if figure.amount is not None and figure.amount > ceiling]
    if not over:
        return found
    most = max(amount for _, amount in over)
    words = ", ".join(f"{day.name} {amount:,.0f} mg" for day, amount in over)
    text = f"Potassium above the day's ceiling of {ceiling:,.0f} mg: {words}."
    return [*found, Caution("potassium-days", "serious", text, "Change the days named; halve potato, beans or tomato paste.",
                    "the kidney clinician", measure=most)]  # fmt: skip


def _nuts(days: Sequence[DayEaten]) -> list[Caution]:
    found = [(day, nuts) for day in days if (nuts := brazil_nut_caution(day.eaten)) is not None]
    if not found:
        return []
    day, worst = max(found, key=lambda pair: pair[1].measure)
    return [
        Caution(worst.key, "warn", f"{day.name}: {worst.text}", worst.action, worst.ask, worst.source, worst.measure)
    ]


def _soy(days: Sequence[DayEaten], conditions: frozenset[str]) -> list[Caution]:
    named = [f"{day.name} {'/'.join(m.lower() for m in day.soy_meals)}" for day in days if day.soy_meals]
    if "thyroid-medicine" not in conditions or not named:
        return []
    text = f"Soy at {', '.join(named)}: not at the hour of the thyroid medicine."
    return [Caution("soy-thyroid", "note", text, "Keep some hours apart, every day alike.", "the client's doctor")]


def _fibre(days: Sequence[DayEaten], before_g: float | None) -> list[Caution]:
    known = [(day.name, amount) for day in days if (amount := day.total["fibre_g"].amount) is not None]
    if not known:
        return []
    if before_g is not None:
        jump = fibre_jump(before_g, sum(amount for _, amount in known) / len(known))
        if jump is not None:
            return [jump]
    return []


def _b12_and_iodine(days: Sequence[DayEaten]) -> list[Caution]:
    if not days:
        return []
    found = []
    sums = [
        sum(e.amount("vitamin_b12_ug") or 0.0 for e in day.eaten if e.food.fortified or e.food.state == "label")
        for day in days
    ]
    short = [day.name for day, ug in zip(days, sums, strict=True) if ug < B12_DAY_UG]
    if short:
        on = "every day" if len(short) == len(days) else ", ".join(short)
        text = f"B12 from fortified foods is below {B12_DAY_UG} µg on {on}."
        found.append(
            Caution("b12", "warn", text, "A B12 supplement is usual practice.", "", "IOM 1998", float(len(short)))
        )
    seaweed = [day for day in days if iodine_caution(day.eaten) is not None]
    if seaweed:
        worst = iodine_caution(max(seaweed, key=lambda day: iodine_grams(day.eaten)).eaten)
        assert worst is not None
        found.append(replace(worst, text=f"{', '.join(day.name for day in seaweed)}: {worst.text}"))
    elif not any(day.total["iodine_ug"].amount for day in days):
        found.append(Caution("iodine", "warn", "No known iodine all week.",
                             "Iodised salt, a labelled drink, or a supplement."))  # fmt: skip
    return found
