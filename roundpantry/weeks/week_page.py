"""The week formatted for its page: cells, threads, what each day gives, and the mean of the
week.
"""

from __future__ import annotations

from datetime import timedelta
from functools import lru_cache
from typing import Any

from django.template.loader import get_template
from django.utils.safestring import SafeString, mark_safe

from dietetics.amounts.weighing import amount_text
from dietetics.composition.sums import Composition
from dietetics.dishes.bowls import Bowl
from dietetics.nutrients import nutrient
from dietetics.targets.windows import AT_THE_LIMIT, PLATE_KEYS, Level, levels_of
from dietetics.week.batch_supply import BatchSupply
from dietetics.week.day_totals import (
    day_levels,
    mean_of,
    spread,
)
from dietetics.week.daynames import DAY_NAMES, evening_before
from dietetics.week.question.question_building import main_meals
from roundpantry.bowls.drawing import draw
from roundpantry.counter.kept import Newest
from roundpantry.counter.levels import drawn_level, levels_html
from roundpantry.weeks.models import Week
from roundpantry.weeks.nutrients import short_of
from roundpantry.weeks.planning_facts import free_meals_of, rules_of
from roundpantry.weeks.week_snapshot import (
    WeekSnapshot,
    cautions_of,
    left_overs,
    phosphorus_of_week,
    problems_of,
    snapshot_of,
)

FOOT_KEYS = ("energy_kcal", "protein_g", "kcal_per_g")
SHORT_KINDS = {"home": "", "travel": "travelling", "off": "off plan"}
LANE = 100.0


@lru_cache(maxsize=600)
def _symbol(key: str, name: str, slices: tuple[tuple[str, str], ...]) -> SafeString:
    """A small dish as an SVG symbol, drawn from its real parts."""
    paths = "".join(
        f'<path d="{path}" fill="url(#glaze-{glaze})" stroke="#1b2430" stroke-width="3"/>'
        for path, glaze in slices
    )
    rim = '<circle cx="240" cy="240" r="222" fill="#fbfcf9" stroke="#1b2430" stroke-width="7"/>'
    return mark_safe(
        f'<symbol id="dish-{key}" viewBox="0 0 480 480">{rim}{paths}</symbol>'
    )  # numbers and keys of our own


_DRAWN: Newest[tuple[Bowl], SafeString] = Newest(600)


def symbol_of(key: str, bowl: Bowl) -> SafeString:
    """The symbol of a dish, drawn once for each value of it."""

    def drawn() -> SafeString:
        return _symbol(key, bowl.name, tuple((s.path, s.glaze) for s in draw(bowl).slices))

    return _DRAWN.of(id(bowl), (bowl,), drawn)


@lru_cache(maxsize=4096)
def _cell_html(shown: tuple[tuple[str, Any], ...]) -> str:
    return get_template("weeks/cell.html").render(dict(shown))


def _cell(found: WeekSnapshot, d: int, m: int, first: bool) -> str:
    """One cell as HTML, made once for each state of it."""
    cell, total = found.plan.days[d].cells[m], found.days[d].meals[m]
    entries = cell.entries
    main = entries[0] if entries else None
    dish = found.available.dishes.get(main.dish) if main else None
    name = main.name if main else ("no meal" if cell.skipped else "")
    if main and dish is not None:
        name = dish.name
    figures = _figures(total) if dish is not None else ""
    scale = f"{amount_text(main.scale)} ×" if main and main.scale != 1 else ""
    more = f"+ {len(entries) - 1}" if len(entries) > 1 else ""
    return _cell_html(
        (
            ("id", f"cell-{d}-{m}"),
            ("day", d),
            ("meal", m),
            ("name", name),
            ("scale", scale),
            ("more", more),
            ("figures", figures),
            ("locked", cell.locked),
            ("skipped", cell.skipped),
            ("gone", main is not None and dish is None),
            ("symbol", f"dish-{main.dish}" if main and main.dish in found.available.drawn else ""),
            ("where", f"{DAY_NAMES[d]} {found.plan.meals[m].lower()}{':' if name else ': empty'}"),
            ("off", found.plan.days[d].kind == "off"),
            ("first", first),
            ("assumed", dish is not None and dish.assumed),
        )
    )


def _figures(total: Composition) -> str:
    energy, protein, density = (total[key] for key in FOOT_KEYS)
    parts = [one.shown() for one in (energy, protein)]
    return " · ".join(
        [*parts, density.shown().split(" ")[0] if density.amount is not None else ""]
    ).rstrip(" ·")


def rows_of(found: WeekSnapshot) -> list[dict[str, Any]]:
    """The meals with their cells."""
    return [
        {
            "name": name,
            "cells": [_cell(found, d, m, d == m == 0) for d in range(len(found.plan.days))],
        }
        for m, name in enumerate(found.plan.meals)
    ]


def heads_of(found: WeekSnapshot) -> list[dict[str, Any]]:
    """The days with their dates and how they are spent."""
    return [
        {
            "number": d,
            "name": DAY_NAMES[d],
            "short": DAY_NAMES[d][:3],
            "date": found.week.start + timedelta(days=d),
            "kind": SHORT_KINDS[day.kind],
        }
        for d, day in enumerate(found.plan.days)
    ]


@lru_cache(maxsize=4096)
def _mini(value: str, place: str, left: str, width: str, state: str, words: str) -> str:
    return get_template("weeks/mini.html").render(
        {
            "value": value,
            "place": place,
            "left": left,
            "width": width,
            "state": state,
            "words": words,
        }
    )


def _mini_level(level: Level) -> str:
    drawn = drawn_level(level)
    return _mini(
        drawn.value.rsplit(" ", 1)[0] if level.figure.amount is not None else "?",
        drawn.bubble,
        drawn.fill_left,
        drawn.fill_width,
        drawn.state,
        drawn.words,
    )


def foot_of(found: WeekSnapshot) -> list[dict[str, Any]]:
    """Below each day: energy, protein and density as small levels, then what else is out, in
    words.
    """
    if found.week_targets is None:
        return []
    windows = {w.key: w for w in found.week_targets.windows}
    rows = []
    for key in FOOT_KEYS:
        if key not in windows:
            continue
        cells = [
            _mini_level(day_levels((windows[key],), day)[0]) if d in found.counted else ""
            for d, day in enumerate(found.days)
        ]
        one = spread(key, [found.days[d] for d in found.counted])
        rows.append(
            {
                "name": "Density" if key == "kcal_per_g" else nutrient(key).name,
                "cells": cells,
                "spread": one.text() if one else "",
            }
        )
    return rows


def outs_of(found: WeekSnapshot) -> list[list[str]]:
    """For each day what else is out of its window, and what the school asks and does not find."""
    if found.week_targets is None:
        return [[] for _ in found.days]
    rest = tuple(
        w
        for w in found.week_targets.windows
        if w.key in PLATE_KEYS and w.key not in FOOT_KEYS and w.importance != "watch"
    )
    told = []
    for d, day in enumerate(found.days):
        words = [
            out_words(level) for level in day_levels(rest, day) if level.state in ("short", "over")
        ]
        words += [
            one.brief() for one in day.asked if not one.met and one.rule.importance != "watch"
        ]
        told.append(words if d in found.counted else [])
    return told


def out_words(level: Level) -> str:
    """A level that is out, in few words: "Sodium 240 over"."""
    one = nutrient(level.window.key)
    return f"{one.name} {one.number(level.by)} {level.state}"


def lanes_of(found: WeekSnapshot) -> list[dict[str, Any]]:
    """Every batch as a line through the week: where it runs, what is eaten, what is left, where its
    time ends.
    """
    return [_lane(found, one) for one in found.supplies]


def _lane(found: WeekSnapshot, one: BatchSupply) -> dict[str, Any]:
    cells = [_lane_cell(found, one, d) for d in range(len(found.plan.days))]
    serving = one.pot.serving_g or 1.0
    return {
        "key": one.pot.key,
        "name": one.pot.name,
        "cells": cells,
        "bad": any(cell["bad"] for cell in cells),
        "frozen": f"{one.frozen_left_g / serving:.0f} frozen"
        if one.frozen_left_g > 0.5 * serving
        else "",
    }


def _lane_cell(found: WeekSnapshot, one: BatchSupply, d: int) -> dict[str, Any]:
    """A batch on one day: where its line begins, a mark for each meal that eats of it, what is
    left, what goes off.
    """
    meals, serving = len(found.plan.meals), one.pot.serving_g or 1.0
    eaten = [t for t in one.taken if t.use.day == d]
    starts = [
        0.0 if c.day < d else (meals - 1) / meals
        for c, end in zip(one.cookings, one.ends, strict=True)
        if c.day <= d <= end and c.frozen < 1
    ]
    bad = any(t.missing_g for t in eaten)
    words = [
        f"cooked {_before_words(c.day)} {amount_text(round(c.pots, 2))}"
        for c in one.cookings
        if c.day < 0 and d == 0
    ]
    words += [f"cook {amount_text(c.pots)}" for c in one.cookings if c.day == d]
    if any(t.thawed_g for t in eaten):
        words.append("thawed")
    if eaten:
        words.append(_left_words(eaten[-1].left_g / serving, bad))
    last = len(found.plan.days) - 1
    over = [
        g for day, g, frozen in one.left if not frozen and min(day + one.pot.keeps_days, last) == d
    ]
    wasted = sum(over) / serving
    return {
        "x": f"{min(starts) * LANE:.0f}" if starts else "",
        "end": d in one.ends,
        "words": " · ".join(words),
        "bad": bad,
        "marks": [f"{(t.use.meal + 0.3) / meals * LANE:.0f}" for t in eaten],
        "over": f"{wasted:.1f} over".replace(".0", "") if wasted > 0.25 else "",
    }


def _before_words(day: int) -> str:
    return evening_before()[:3] if day == -1 else "before"


def _left_words(servings: float, bad: bool) -> str:
    if bad:
        return "too little"
    return "none left" if servings < 0.05 else f"{servings:.1f} left".replace(".0", "")


def mean_levels(found: WeekSnapshot) -> list[str]:
    """Average day as levels."""
    mean = mean_of([found.days[d] for d in found.counted])
    if mean is None or found.week_targets is None:
        return []
    docked = tuple(
        w for w in found.week_targets.windows if w.key in PLATE_KEYS and w.importance != "watch"
    )
    return levels_html(levels_of(docked, mean, AT_THE_LIMIT))


def mean_title(found: WeekSnapshot) -> str:
    """What the docked levels show, with the span between days."""
    days = [found.days[d] for d in found.counted]
    spans = [(key, one) for key in FOOT_KEYS if (one := spread(key, days)) is not None]
    words = [
        f"{nutrient(k).name_in_text} {nutrient(k).number(s.least)}–{nutrient(k).number(s.most)}"
        for k, s in spans
    ]
    return "Average day of this week" + (
        f"; range across days: {', '.join(words)}" if words else ""
    )


def week_page(week: Week, refused: str = "", said: str = "") -> dict[str, Any]:
    """Everything the week's page shows."""
    found, rules = snapshot_of(week), rules_of(week)
    outs = outs_of(found)
    used = {e.dish for _, _, cell in found.plan.places() for e in cell.entries[:1]}
    return {
        "week": week,
        "heads": heads_of(found),
        "rows": rows_of(found),
        "foot": foot_of(found),
        "outs": outs,
        "any_out": any(outs),
        "lanes": lanes_of(found),
        "problems": problems_of(found),
        "left_overs": left_overs(found),
        "cautions": cautions_of(found),
        "phosphorus": phosphorus_of_week(found),
        "short_of": short_of(found),
        "refused": refused,
        "symbols": [
            symbol_of(key, bowl) for key, bowl in found.available.drawn.items() if key in used
        ],
        "said": said,
        "levels": mean_levels(found),
        "levels_title": mean_title(found),
        "no_targets": found.week_targets is None,
        "rules": rules,
        "free": _free_meals(week, found),
        "plan_meals": found.plan.meals,
        "evenings": [(d, _evening(d), d in rules.cooking_days) for d in range(-1, len(DAY_NAMES))],
    }


def _free_meals(week: Week, found: WeekSnapshot) -> tuple[str, int]:
    """The meal that the client chooses freely, the last main one where none was said, and how
    often.
    """
    name, times = free_meals_of(week)
    if name or found.week_targets is None:
        return name, times
    mains = main_meals([(meal.name, meal.share_percent) for meal in found.week_targets.meals])
    return mains[-1] if mains else "", 0


def _evening(day: int) -> str:
    """An evening in short: "Mon", "Sun before"."""
    return DAY_NAMES[day][:3] if day >= 0 else f"{evening_before()[:3]} before"
