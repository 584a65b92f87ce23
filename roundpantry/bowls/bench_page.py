"""The bench, the list of bowls and the printed bowl, formatted before any template sees them."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Any

from django.template.loader import get_template
from django.urls import reverse

from dietetics.amounts.weighing import amount_text, known_measures
from dietetics.balance.question import VOLUME
from dietetics.balance.roles import cooked_form
from dietetics.cautions.facts import DayFacts
from dietetics.cautions.registry import day_cautions
from dietetics.cautions.week_rules import swing_verdict
from dietetics.composition.foods import Food, load_shelf
from dietetics.composition.sums import Item, compose
from dietetics.dishes.bowls import COUNTS_FROM_G, Portion
from dietetics.dishes.bowls import Bowl as BowlValue
from dietetics.dishes.patterns import roles_of
from dietetics.errors import DieteticsError
from dietetics.nutrients import BY_KEY, nutrient
from dietetics.targets.windows import Level, Window, levels_of
from roundpantry.bowls.drawing import draw, glaze_of, group_shown
from roundpantry.bowls.ladder import draw_ladder
from roundpantry.bowls.models import Bowl, BowlPart, Pattern
from roundpantry.bowls.patterns import FromPattern
from roundpantry.bowls.records import bowl_cautions, bowl_value, bowls_of, eaten_of, meal_windows_of
from roundpantry.clients.models import Client
from roundpantry.clients.records import acknowledged, client_facts_of, phosphorus_words
from roundpantry.counter.levels import figure_rows, levels_html
from roundpantry.counter.typed_numbers import decimal
from roundpantry.shelf.food_page import density_place, of_grams
from roundpantry.shelf.food_rows import GROUP_NAMES
from roundpantry.shelf.records import food_of, newer_key
from roundpantry.targets.records import newest_version
from roundpantry.targets.renewal import changed_names

SHOWN_PER_PART = ("energy_kcal", "protein_g")
PRINTED = (
    "energy_kcal",
    "protein_g",
    "kcal_per_g",
    "fibre_g",
    "fat_g",
    "carbohydrate_g",
    "sodium_mg",
    "potassium_mg",
    "calcium_mg",
    "iron_mg",
)


@dataclass(frozen=True)
class PartRow:
    """A part as a line of the bench."""

    pk: str
    number: int
    name: str
    state: str
    glaze: str
    amount: str
    grams: str
    span: str
    cells: tuple[tuple[str, str], ...]
    measures: str
    step: str
    now: str
    url: str
    newer: bool
    locked: bool
    cooked: tuple[tuple[str, str, str], ...] = ()


def part_row(number: int, part: BowlPart, portion: Portion, bench_url: str) -> PartRow:
    """Format one part."""
    cells = []
    for key in SHOWN_PER_PART:
        value, _ = portion.item.content.known_per_100g(key)
        one = nutrient(key)
        cells.append((key, "unknown" if value is None else one.number(value * part.grams / 100)))
    span = (
        f"{part.grams_low:,.0f}–{part.grams_high:,.0f} g"
        if part.grams_high - part.grams_low > 0.5
        else ""
    )
    name, _, state = portion.item.label.partition(",")
    food = food_of(part.bowl.client.practitioner_id, part.food_key) if part.food_key else None
    measures = known_measures(food) if food else "serving, g, cup"
    return PartRow(
        str(part.pk),
        number,
        name.strip(),
        state.strip(),
        glaze_of(group_shown(portion)),
        part.amount_text,
        f"{part.grams:,.0f}",
        span,
        tuple(cells),
        measures,
        f"{amount_text(portion.step)} {part.unit}",
        f"{part.grams:.0f}",
        f"{bench_url}parts/{part.pk}/",
        bool(newer_key(part.bowl.client.practitioner_id, part.food_key)),
        part.locked,
        _cooked_choices(food, part.grams) if food else (),
    )


def _cooked_choices(food: Food, grams: float) -> tuple[tuple[str, str, str], ...]:
    """For a raw food that is eaten cooked: what else may be meant, as (words, food, amount)."""
    found = cooked_form(food, grams, load_shelf())
    if found is None:
        return ()
    choices = [
        (f"weighed cooked: {found.same_g:,.0f} g cooked", found.food.key, f"{found.same_g:.0f} g")
    ]
    if found.from_uncooked_g is not None:
        words = f"weighed {food.state}: {found.from_uncooked_g:,.0f} g cooked"
        choices.append((words, found.food.key, f"{found.from_uncooked_g:.0f} g"))
    return tuple(choices)


@lru_cache(maxsize=4096)
def row_html(row: PartRow, typed: str = "", why: str = "") -> str:
    """A part's line as HTML, made once for each state of it: a change touches one line of many."""
    return get_template("bowls/part_row.html").render({"part": row, "typed": typed, "why": why})


def rows_html(rows: Sequence[PartRow], refused: Mapping[str, str] | None) -> list[str]:
    """All lines of the bench; the one whose portion was refused keeps what was typed."""
    bad = refused or {}
    return [
        row_html(row, bad["typed"], bad["why"]) if row.pk == bad.get("part") else row_html(row)
        for row in rows
    ]


def _counts(value: BowlValue) -> str:
    """Protein sources, vegetables and colours of 15 g or more in words, and what share is sauce."""
    sources, vegetables, colours = value.protein_sources, value.vegetables, value.colours
    counts = [(sources, "bean or soy food"), (vegetables, "vegetable"), (len(colours), "colour")]
    words = " · ".join(f"{n} {what}{'' if n == 1 else 's'}" for n, what in counts)
    named = f" ({', '.join(colours)})" if colours else ""
    return (
        f"{words}{named}, counted from {COUNTS_FROM_G:.0f} g each · sauce {value.sauce_share:.0%}"
    )


def moved_words(bowl: Bowl) -> list[str]:
    """Window sides moved for this bowl alone, in words."""
    ends = {"low": "at least", "high": "at most"}
    return [
        f"{nutrient(key).name} {ends[end]} {nutrient(key).text(value)}"
        for key, end, value in bowl.moved
        if key in BY_KEY
    ]


def other_meals(bowl: Bowl) -> list[dict[str, Any]]:
    """The day's other meals with the bowls planned for each, to judge this one by what they
    leave.
    """
    if bowl.meal is None:
        return []
    mine = [
        b
        for b in bowls_of(bowl.client.practitioner).filter(client=bowl.client)
        if b.meal_id and b.pk != bowl.pk
    ]
    return [
        {
            "pk": meal.pk,
            "name": meal.name,
            "choices": [
                {"pk": b.pk, "name": b.name, "chosen": b.pk in bowl.beside}
                for b in mine
                if b.meal_id == meal.pk
            ],
        }
        for meal in bowl.meal.target_set.meals.all()
        if meal.pk != bowl.meal_id
    ]


def old_targets_words(bowl: Bowl) -> str:
    """That the bowl is held against other targets than the record asks for; "" where it is not."""
    if bowl.meal is None:
        return ""
    names = changed_names(bowl.client)
    if names:
        return f"The record asks for other targets than are set: {', '.join(names)}."
    mine, present = bowl.meal.target_set, newest_version(bowl.client)
    if present is None or present.pk == mine.pk:
        return ""
    return (
        f"The bowl is held against version {mine.number} of the targets; version "
        f"{present.number} is set now."
    )


def spoken(value: BowlValue, levels: Iterable[Level]) -> str:
    """What a screen reader says after a change: the sums, and the levels that are not in."""
    total = value.total
    off = [level.words() for level in levels if level.state != "in"]
    verdict = "All targets met." if not off else "; ".join(off) + "."
    return f"{total['energy_kcal'].text()}, protein {total['protein_g'].text()}. {verdict}"


def bench(bowl: Bowl, refused: Mapping[str, str] | None = None) -> dict[str, Any]:
    """Everything the bench shows."""
    value = bowl_value(bowl)
    levels = levels_of(meal_windows_of(bowl), value.total)
    bench_url = reverse("bowls:bench", args=[bowl.pk])
    meal = bowl.meal.name if bowl.meal else ""
    if bowl.beside:
        meal += ", what is left of the day"
    totals = [
        (key, "unknown" if amount is None else nutrient(key).number(amount))
        for key in SHOWN_PER_PART
        for amount in [value.total[key].amount]
    ]
    parts = [
        part_row(i, part, portion, bench_url)
        for i, (part, portion) in enumerate(zip(bowl.parts.all(), value.portions, strict=True), 1)
    ]
    return {
        "bowl": bowl,
        "bench_url": bench_url,
        "energy_unit": nutrient("energy_kcal").unit,
        "parts": parts,
        "rows_html": rows_html(parts, refused),
        "refused": refused,
        "cautions": bowl_cautions(bowl, value),
        "phosphorus": phosphorus_words(bowl.client, [(e.food, e.grams) for e in eaten_of(value)]),
        "dish": draw(value),
        "totals": totals,
        "grams": f"{value.total.grams:,.0f}",
        "volume": f"{value.volume_ml:,.0f}",
        "counts": _counts(value),
        "moved": moved_words(bowl),
        "levels": levels_html(levels, f"{bench_url}why/"),
        "levels_title": meal,
        "spoken": spoken(value, levels),
    }


def off_text(level: Level) -> str:
    """A level outside its window in few words: "protein 7.6 g over"."""
    one = nutrient(level.window.key)
    if level.state == "unknown":
        return f"{one.name_in_text} unknown"
    return f"{one.name_in_text} {one.text(level.by)} {level.state}"


GLAZE_KEY = (
    ("grains", "grain"), ("starchy", "root"), ("beans", "bean"), ("soy, wheat protein", "curd"),
    ("greens, herbs", "leaf"), ("vegetables", "ripple"), ("mushrooms", "gill"), ("fruit", "berry"),
    ("nuts, seeds", "speckle"), ("sauces, milks, oils", "wave"), ("processed", "weave"),
)  # fmt: skip


def ladder_page(foods: Sequence[Food], window: Window | None, group: str) -> dict[str, Any]:
    """Everything the ladder shows."""
    return {
        "ladder": draw_ladder(foods, window),
        "groups": list(GROUP_NAMES.items()),
        "group": group,
        "key": GLAZE_KEY,
        "unit": nutrient("kcal_per_g").unit,
        "food_base": reverse("shelf:list"),
        "ladder_base": reverse("bowls:ladder"),
    }


def ladder_food(food: Food, bowls: Iterable[Bowl]) -> dict[str, Any]:
    """One food of the ladder, in the drawer."""
    rows = figure_rows(
        [of_grams(food, 100)],
        ("energy_kcal", "protein_g", "fibre_g", "fat_g", "sodium_mg", "potassium_mg"),
    )
    return {"food": food, "place": density_place(food), "rows": rows, "bowls": bowls}


def vitamin_k_words(client: Client, bowls: Sequence[Bowl]) -> str:
    """For a client on warfarin: how far vitamin K swings between their bowls, when by more than
    half.
    """
    if "warfarin" not in client.conditions:
        return ""
    figures = [(bowl_value(bowl).total["vitamin_k_ug"], bowl.name) for bowl in bowls]
    known = sorted(
        (pair for pair in figures if pair[0].amount is not None),
        key=lambda pair: pair[0].amount or 0.0,
    )
    if len(known) < 2:
        return ""
    (least, least_name), (most, most_name) = known[0], known[-1]
    swing = swing_verdict(least, most, least_name, most_name)
    return f"{swing.text} {swing.action} Ask {swing.ask}." if swing else ""


def day_words(bowls: Sequence[Bowl], meals: Sequence[str]) -> list[str]:
    """What a day of the first bowl of each meal asks to be minded; nothing while a meal has no
    bowl.
    """
    first = {
        name: next((b for b in bowls if b.meal is not None and b.meal.name == name), None)
        for name in meals
    }
    day = [bowl for bowl in first.values() if bowl is not None]
    if not day or len(day) < len(first):
        return []
    values = [bowl_value(bowl) for bowl in day]
    eaten = tuple(e for value in values for e in eaten_of(value))
    total = compose([item for value in values for item in value.items])
    found = day_cautions(DayFacts(client_facts_of(day[0].client), eaten, total, meals=len(day)))
    names = ", ".join(bowl.name for bowl in day)
    return [f"A day of {names}: {caution.text} {caution.action}" for caution in found]


def all_figures(bowl: Bowl) -> list[Any]:
    """Every nutrient of the bowl, for the drawer."""
    return figure_rows([bowl_value(bowl).total])


def list_rows(bowls: Iterable[Bowl]) -> list[dict[str, Any]]:
    """Every bowl with its figures and a small drawing."""
    rows = []
    for bowl in bowls:
        value = bowl_value(bowl)
        levels = levels_of(meal_windows_of(bowl), value.total)
        rows.append(
            {
                "bowl": bowl,
                "dish": draw(value),
                "energy": value.total["energy_kcal"].text(),
                "protein": value.total["protein_g"].text(),
                "density": value.total["kcal_per_g"].text(),
                "off": [off_text(level) for level in levels if level.state != "in"],
                "levels": len(levels),
            }
        )
    return rows


def printed(bowl: Bowl) -> dict[str, Any]:
    """Everything the printed bowl shows."""
    value = bowl_value(bowl)
    levels = levels_of(meal_windows_of(bowl), value.total)
    unknown = [nutrient(k).name_in_text for k in PRINTED if not value.total[k].complete]
    return {
        **bench(bowl),
        "figures": figure_rows([value.total], PRINTED),
        "client_cautions": list(acknowledged(bowl.client, "client").values()),
        "verdicts": [level.words() for level in levels],
        "methods": _methods(bowl),
        "unknown": ", ".join(unknown),
        "sources": sorted(
            {
                food.dataset
                for p in bowl.parts.all()
                if (food := food_of(bowl.client.practitioner_id, p.food_key)) is not None
            }
        ),
    }


def _methods(bowl: Bowl) -> list[tuple[str, list[str]]]:
    """How each batch of the bowl is made: its title and its steps."""
    batches = {part.batch.pk: part.batch for part in bowl.parts.all() if part.batch is not None}
    steps = [
        (one.title, [step.strip() for step in one.steps.splitlines() if step.strip()])
        for one in batches.values()
    ]
    return [(title, lines) for title, lines in steps if lines]


def pattern_row(pattern: Pattern, name_of: Callable[[str], str]) -> dict[str, Any]:
    """A pattern for the list: roles with their options by name."""
    roles: list[dict[str, Any]] = [
        {
            "name": role.name,
            "number": n,
            "options": [
                {"number": i, "name": name_of(o.what), "amount": o.amount}
                for i, o in enumerate(role.options)
            ],
        }
        for n, role in enumerate(roles_of(pattern.roles))
    ]
    summary = " · ".join(role["options"][0]["name"] for role in roles if role["options"])
    return {"pattern": pattern, "roles": roles, "summary": summary}


def all_drawn_words(made: Sequence[FromPattern]) -> str:
    """How many bowls were made from patterns, and which of them miss a target."""
    off = [one.bowl.name for one in made if one.answer is None or one.answer.off("must", "should")]
    words = f"{len(made)} bowls created and balanced."
    return f"{words} Not every target is met in: {', '.join(off)}." if off else words


def drawn_words(made: FromPattern) -> list[str]:
    """What is to be said once of a bowl drawn from a pattern."""
    words = [f"Skipped: {text}." for text in made.drawn.passed]
    words += [f"No suitable food for the role {role}." for role in made.drawn.empty]
    if made.answer is not None and made.bowl.meal_id is None:
        words.append("Created for no meal: it has no targets, so its portions are the pattern's.")
    elif made.answer is not None:
        off = [s.words() for s in made.answer.off("must", "should")]
        full = [s.words() for s in made.answer.standings if s.key == VOLUME and s.state == "over"]
        words.append(
            f"Created and balanced, closest possible: {'; '.join(off)}."
            if off
            else "Created and balanced: every target is met."
        )
        words += [
            f"It does not fit a 1-litre bowl: {text}. Serve part of it beside, or use a larger "
            "bowl."
            for text in full
        ]
    return words


def weigh_page(
    bowl: Bowl, value: BowlValue, chosen: BowlPart | None, refused: str
) -> dict[str, Any]:
    """Weighing as one serves: what is planned and served of each part, whose turn it is, and the
    levels as served.
    """
    rows = list(bowl.parts.all())
    turn = chosen or next((row for row in rows if row.served_g is None), None)
    lines = [
        {
            "part": row,
            "name": portion.item.label,
            "planned": f"{row.grams:,.0f}",
            "turn": turn is not None and row.pk == turn.pk,
            "served": "" if row.served_g is None else f"{row.served_g:,.0f}",
            "off": "" if row.served_g is None else f"{row.served_g - row.grams:+,.0f}",
        }
        for row, portion in zip(rows, value.portions, strict=True)
    ]
    served = as_served(bowl, value)
    levels = levels_of(meal_windows_of(bowl), served.total)
    return {
        "bowl": bowl,
        "lines": lines,
        "turn": turn,
        "refused": refused,
        "turn_name": next((line["name"] for line in lines if line["turn"]), ""),
        "target": f"{turn.grams:.0f}" if turn else "",
        "weigh_url": reverse("bowls:weigh", args=[bowl.pk]),
        "bench_url": reverse("bowls:bench", args=[bowl.pk]),
        "levels": levels_html(levels),
        "levels_title": "As served"
        if any(row.served_g is not None for row in rows)
        else "As planned",
        "spoken": f"{turn_words(lines)} {spoken(served, levels)}",
    }


def turn_words(lines: Sequence[Mapping[str, Any]]) -> str:
    """Whose turn it is, for a screen reader."""
    return next(
        (f"Now {line['name']}, {line['planned']} g." for line in lines if line["turn"]),
        "All ingredients weighed.",
    )


def as_served(bowl: Bowl, value: BowlValue) -> BowlValue:
    """The bowl with what the scale showed in place of what was planned."""
    pairs = zip(bowl.parts.all(), value.portions, strict=True)
    return BowlValue(value.name, tuple(_served(row, portion) for row, portion in pairs))


def _served(row: BowlPart, portion: Portion) -> Portion:
    if row.served_g is None:
        return portion
    item = Item.exact(portion.item.label, portion.item.content, row.served_g, "weighed when served")
    return replace(portion, item=item, volume_ml=portion.volume_ml * row.served_g / row.grams)


def typed_grams(text: str) -> float:
    """A typed weight in g. Raises DieteticsError for what is none."""
    grams = decimal(text.strip().removesuffix("g").strip())
    if grams is None:
        raise DieteticsError("amount-unreadable", text=text)
    return grams
