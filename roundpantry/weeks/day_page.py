"""One day formatted: each meal, the levels, what the school asks, protein over the meals, and the
vegan watch list.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from django.urls import reverse

from dietetics.amounts.weighing import amount_text
from dietetics.cautions.facts import DayFacts, Eaten, MealFacts
from dietetics.cautions.registry import day_cautions, meal_cautions
from dietetics.composition.derivation import Derivation, explain_density, explain_sum
from dietetics.composition.phytate import phytate_to_zinc
from dietetics.composition.sums import Composition, FoodContent, Item
from dietetics.nutrients import nutrient
from dietetics.targets.supplements import with_supplements
from dietetics.targets.windows import AT_THE_LIMIT, PLATE_KEYS, Level, Window, levels_of
from dietetics.week.day_totals import WATCH_LIST, WATCH_WORDS, DaySum, day_levels
from dietetics.week.daynames import DAY_NAMES
from dietetics.week.plan import DRINK, KINDS
from roundpantry.clients.models import Client
from roundpantry.clients.records import client_facts_of, phosphorus_words, supplements_of
from roundpantry.counter.levels import figure_rows, levels_html
from roundpantry.weeks.models import Week
from roundpantry.weeks.week_drawer import rest_words
from roundpantry.weeks.week_snapshot import WeekSnapshot, parts_of, snapshot_of


def day_page(week: Week, day: int) -> dict[str, Any]:
    """Everything the page of a day shows."""
    found = snapshot_of(week)
    found.plan.cell(day, 0)
    total = found.days[day]
    windows = found.week_targets.windows if found.week_targets else ()
    docked = tuple(w for w in windows if w.key in PLATE_KEYS)
    return {
        "week": week,
        "day": day,
        "name": DAY_NAMES[day],
        "watch_words": [WATCH_WORDS, *_phytate_words(total)],
        "other_days": [(d, name) for d, name in enumerate(DAY_NAMES) if d != day],
        "kind": found.plan.days[day].kind,
        "kinds": list(KINDS.items()),
        "before": day - 1 if day else None,
        "after": day + 1 if day < len(found.plan.days) - 1 else None,
        "meals": [_meal(found, day, m) for m in range(len(found.plan.meals))],
        "watch": _watch(
            with_supplements(total.total, supplements_of(week.client)),
            windows,
            supplements_of(week.client),
        ),
        "asked": [(one.rule.name, one.words(), one.met, one.rule.why) for one in total.asked],
        "protein": _protein(found, day),
        "figures": figure_rows([total.total]),
        "assumed": total.assumed,
        "cautions": _cautions(found, day),
        "phosphorus": phosphorus_words(week.client, total.foods),
        "supplements": _supplement_rows(week.client, total.total),
        "levels": levels_html(
            day_levels(docked, total), reverse("weeks:day", args=[week.pk, day]) + "why/"
        ),
        "levels_title": f"{DAY_NAMES[day]}, {total.empty} empty" if total.empty else DAY_NAMES[day],
        "school": found.week_targets.school if found.week_targets else "",
    }


def _phytate_words(total: DaySum) -> list[str]:
    """What the day's phytate does to its zinc, where both are known."""
    found = phytate_to_zinc(total.foods, total.total["zinc_mg"].amount)
    return [found.words()] if found else []


def day_items(found: WeekSnapshot, day: int, drinks: bool = True) -> list[Item]:
    """Everything eaten on a day as weighed items, named with their meal: what a figure of the day
    is derived from.
    """
    items = []
    for m, cell in enumerate(found.plan.days[day].cells):
        for entry in cell.entries:
            if entry.dish.startswith(DRINK) and not drinks:
                continue
            items += [
                replace(
                    item,
                    label=f"{found.plan.meals[m]}: {item.label}",
                    grams=item.grams * entry.scale,
                    grams_low=item.grams_low * entry.scale,
                    grams_high=item.grams_high * entry.scale,
                )
                for item in _items_of(found, entry.dish)
            ]
    return items


def _items_of(found: WeekSnapshot, key: str) -> list[Item]:
    """One serving of a dish as items; a free choice has none."""
    if key in found.available.drawn:
        return list(found.available.drawn[key].items)
    dish = found.available.dishes.get(key)
    return (
        [
            Item.exact(food.name, FoodContent(food), grams, "its usual portion")
            for food, grams in dish.foods
        ]
        if dish
        else []
    )


def why_day(week: Week, day: int, key: str) -> Derivation:
    """How a figure of a day was found, meal by meal, down to the rows."""
    found = snapshot_of(week)
    found.plan.cell(day, 0)
    title = f"{nutrient(key).name} on {DAY_NAMES[day]}"
    if nutrient(key).kind == "ratio":
        items = day_items(found, day, drinks=False)
        grams = sum(item.grams for item in items)
        return explain_density(
            title, items, grams, "The weights of everything eaten, without drinks."
        )
    return explain_sum(title, day_items(found, day), key)


def _meal(found: WeekSnapshot, day: int, meal: int) -> dict[str, Any]:
    cell, total = found.plan.days[day].cells[meal], found.days[day].meals[meal]
    entries = []
    for entry in cell.entries:
        dish = found.available.dishes.get(entry.dish)
        shown = dish.serving.scaled(entry.scale) if dish else None
        entries.append(
            {
                "name": dish.name if dish else f"{entry.name} (gone)",
                "scale": "" if entry.scale == 1 else f"{amount_text(entry.scale)} × ",
                "grams": f"{shown.grams:,.0f} g" if shown else "",
                "parts": parts_of(found, entry),
                "energy": shown["energy_kcal"].shown() if shown else "",
                "protein": shown["protein_g"].shown() if shown else "",
                "drink": entry.dish.startswith(DRINK),
                "bowl": entry.dish[5:] if entry.dish.startswith("bowl-") else "",
                "batch": entry.dish[6:] if entry.dish.startswith("batch-") else "",
            }
        )
    return {
        "name": found.plan.meals[meal],
        "number": meal,
        "entries": entries,
        "skipped": cell.skipped,
        "locked": cell.locked,
        "energy": total["energy_kcal"].shown(),
        "protein": total["protein_g"].shown(),
        "density": total["kcal_per_g"].shown(),
        "rest": rest_words(found, day, meal),
        "beside_list": _others(found, day, meal),
        "week_url": reverse("weeks:week", args=[found.week.pk]),
    }


def _others(found: WeekSnapshot, day: int, meal: int) -> list[str]:
    """The bowls of the other meals, which the bench may be opened beside."""
    cells = found.plan.days[day].cells
    return [
        e.dish[5:]
        for m, c in enumerate(cells)
        if m != meal
        for e in c.entries
        if e.dish.startswith("bowl-")
    ]


def _verdict(level: Level) -> str:
    """Where a watched figure stands, in words; what is partly unknown is not said for sure."""
    if level.state == "unknown":
        return "unknown"
    sure = level.certain if level.state == "in" else level.figure.complete or level.state == "over"
    state = "met" if level.state == "in" else level.state
    return state if sure else f"{state} as far as known"


def _watch(
    total: Composition, windows: tuple[Window, ...], supplements: Mapping[str, float]
) -> list[dict[str, str]]:
    """What plans without animal foods are watched for, supplements counted, with the day's window
    where there is one.
    """
    wanted = {w.key: w for w in windows}
    rows = []
    for key in WATCH_LIST:
        window, figure = wanted.get(key), total[key]
        level = levels_of((window,), total, AT_THE_LIMIT)[0] if window else None
        rows.append(
            {
                "name": nutrient(key).name,
                "value": figure.shown(),
                "wants": window.text() if window else "",
                "verdict": _verdict(level) if level else "",
                "note": "" if figure.complete else figure.text(),
                "pill": f"{nutrient(key).text(supplements[key])} supplement"
                if key in supplements
                else "",
            }
        )
    return rows


def _supplement_rows(client: Client, total: Composition) -> list[dict[str, str]]:
    """What a client takes a day of each nutrient beside the food, with the upper level where there
    is one.
    """
    facts = client_facts_of(client)
    rows = []
    for key, amount in facts.supplements.items():
        one = nutrient(key)
        together = amount + (total[key].amount or 0.0)
        upper, of_pills = facts.uppers.get(key), facts.uppers_of_supplements.get(key)
        words = f"at most {one.text(upper)} in total" if upper else ""
        words = f"at most {one.text(of_pills)} from supplements" if of_pills else words
        rows.append(
            {
                "name": one.name,
                "amount": one.text(amount),
                "with_food": one.text(together),
                "upper": words,
            }
        )
    return rows


def _protein(found: WeekSnapshot, day: int) -> list[dict[str, str]]:
    """How protein is spread over the meals, as bars."""
    amounts = [
        (name, grams)
        for name, grams in zip(found.plan.meals, found.days[day].protein_g, strict=True)
    ]
    most = max((grams or 0.0 for _, grams in amounts), default=0.0) or 1.0
    return [
        {
            "name": name,
            "text": "unknown" if grams is None else nutrient("protein_g").text(grams),
            "width": f"{300 * (grams or 0) / most:.0f}",
        }
        for name, grams in amounts
    ]


def _cautions(found: WeekSnapshot, day: int) -> list[str]:
    """What the meals and the whole of a day ask to be minded."""
    words, client = [], client_facts_of(found.week.client)
    for m, cell in enumerate(found.plan.days[day].cells):
        eaten = tuple(
            Eaten(food, grams * entry.scale)
            for entry in cell.entries
            if entry.dish in found.available.dishes
            for food, grams in found.available.dishes[entry.dish].foods
        )
        meal = MealFacts(client, eaten, found.days[day].meals[m])
        words += [
            f"{found.plan.meals[m]}: {verdict.text} {verdict.action}"
            for verdict in meal_cautions(meal)
        ]
    whole = tuple(Eaten(food, grams) for food, grams in found.days[day].foods)
    facts = DayFacts(client, whole, found.days[day].total, DAY_NAMES[day])
    return words + [f"{verdict.text} {verdict.action}" for verdict in day_cautions(facts)]
