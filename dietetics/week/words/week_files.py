"""Weeks in and out: an answer as JSON, and a plan as rows, one a portion; see docs/week.md."""

from __future__ import annotations

import csv
import io
import math
from collections.abc import Mapping, Sequence
from itertools import islice
from typing import Any

from dietetics.errors import DieteticsError
from dietetics.targets.windows import Window
from dietetics.untrusted_input import harmless_cell, plain_text, written_cell
from dietetics.week.day_totals import Dish
from dietetics.week.daynames import DAY_NAMES
from dietetics.week.plan import Cell, Day, Entry, Plan, as_stored, cook, empty_plan
from dietetics.week.question.answer import Answer
from dietetics.week.question.recheck import broken_rules
from dietetics.week.words.explanation import binding, missed
from dietetics.week.words.week_words import day_sums

FORMAT = "round-pantry-week/1"
COLUMNS = (
    "day", "day_name", "kind", "meal", "position", "dish", "name", "scale", "locked", "skipped",
    "grams", "energy_kcal",
    "protein_g",
)  # fmt: skip
COOKING_MEAL = "(cooking)"
MOST_ROWS = 1000  # a week filled to the last place has half of it


def _wrong(problem: str) -> DieteticsError:
    return DieteticsError("week-unreadable", problem=problem)


def answer_json(answer: Answer) -> dict[str, Any]:
    """The plan, its gap, levels and what binds, as plain values."""
    question = answer.question
    sums = day_sums(answer)
    return {
        "format": FORMAT,
        "points": round(answer.points, 3),
        "bound": None if answer.bound is None else round(answer.bound, 3),
        "gap": None if answer.gap is None else round(answer.gap, 5),
        "plan": [
            {
                "day": d,
                "meal": question.meals[m].name,
                "dish": answer.dish((d, m)) or None,
                "scale": answer.chosen[d, m].scale,
            }
            for d, m in question.slots
        ],
        "cookings": [
            {"batch": key, "day": day, "pots": n}
            for (key, day), n in sorted(answer.cooked.items(), key=lambda p: p[0][1])
        ],
        "levels": [
            {
                "day": day,
                "key": w.key,
                "amount": round(_level(w, sums[day]), 2),
                "low": w.low,
                "high": w.high,
                "importance": w.importance,
                "missed_percent": round(question.missed_percent(w, sums[day]), 2),
            }
            for day in sums
            for w in question.windows
        ],
        "asks": [
            {
                "day": day,
                "key": ask.key,
                "amount": round(sums[day][ask.amount_key], 1),
                "low": ask.low,
                "high": ask.high,
            }
            for day in sums
            for ask in question.asks
        ],
        "binding": binding(answer),
        "missed": [
            {"day": one.day, "what": one.text, "points": round(one.points, 2)}
            for one in missed(answer)
        ],
        "warnings": question.warnings(),
        "rules_broken": broken_rules(answer),
    }


def _level(window: Window, sums: Mapping[str, float]) -> float:
    if window.key == "kcal_per_g":
        return sums["energy_kcal"] / sums["grams"] if sums["grams"] else 0.0
    return sums[window.key]


def portion_rows(plan: Plan, dishes: Mapping[str, Dish]) -> list[dict[str, Any]]:
    """One row a portion, then one a cooking; an empty meal has a row too, so that nothing is lost.
    Unknown figures stay empty.
    """
    rows = []
    for d, m, cell in plan.places():
        for n, entry in enumerate(cell.entries or (None,)):
            dish = dishes.get(entry.dish) if entry else None
            serving = dish.serving.scaled(entry.scale) if dish and entry else None
            rows.append(
                {
                    "day": d + 1,
                    "day_name": DAY_NAMES[d],
                    "kind": plan.days[d].kind,
                    "meal": plan.meals[m],
                    "position": n + 1,
                    "dish": entry.dish if entry else "",
                    "name": entry.name if entry else "",
                    "scale": entry.scale if entry else "",
                    "locked": "yes" if cell.locked else "",
                    "skipped": "yes" if cell.skipped else "",
                    "grams": round(serving.grams) if serving else "",
                    "energy_kcal": _cell_figure(serving, "energy_kcal"),
                    "protein_g": _cell_figure(serving, "protein_g"),
                }
            )
    for one in plan.cookings:
        name = DAY_NAMES[one.day] if one.day >= 0 else "evening before"
        rows.append(
            {
                "day": one.day + 1,
                "day_name": name,
                "kind": "",
                "meal": COOKING_MEAL,
                "position": "",
                "dish": one.batch,
                "name": "",
                "scale": one.pots,
                "locked": "",
                "skipped": "",
                "grams": one.frozen or "",
                "energy_kcal": "",
                "protein_g": "",
            }
        )
    return rows


def _cell_figure(serving: Any, key: str) -> float | str:
    if serving is None or serving[key].amount is None:
        return ""
    return round(float(serving[key].amount), 1)


def plan_csv(plan: Plan, dishes: Mapping[str, Dish]) -> str:
    """The plan as CSV, one row a portion; of a cooking, `scale` is its pots and `grams` the frozen
    share.
    """
    out = io.StringIO()
    writer = csv.DictWriter(out, COLUMNS, lineterminator="\r\n")
    writer.writeheader()
    for row in portion_rows(plan, dishes):
        writer.writerow({name: harmless_cell(value) for name, value in row.items()})
    return out.getvalue()


def plan_of_csv(text: str) -> Plan:
    """Read a plan back from its CSV. Raises `week-unreadable` with the line that is not
    understood.
    """
    reader = csv.DictReader(io.StringIO(plain_text(text.lstrip("\ufeff"))))
    wanted = {"day", "meal", "dish", "scale"}
    try:
        if not wanted <= set(reader.fieldnames or ()):
            raise _wrong(f"the first line must name the columns {', '.join(sorted(wanted))}")
        return plan_of_rows(list(enumerate(islice(reader, MOST_ROWS + 1), 2)))
    except csv.Error as error:
        raise _wrong(f"it is not a table ({error})") from None


def plan_of_rows(rows: Sequence[tuple[int, Mapping[str, Any]]]) -> Plan:
    """Read a plan from numbered rows with the columns of the CSV.

    Raises `week-unreadable` for anything that a stored plan may not hold.
    """
    if len(rows) > MOST_ROWS:
        raise _wrong(f"it has more than {MOST_ROWS:,} rows")
    rows = [(n, {key: written_cell(value) for key, value in row.items()}) for n, row in rows]
    portions = [(n, r) for n, r in rows if r.get("meal") != COOKING_MEAL]
    meals = tuple(dict.fromkeys(str(r["meal"]).strip() for _, r in portions if r.get("meal")))
    days = max((_row_number(n, r, "day") for n, r in portions), default=0)
    if not 1 <= days <= 7:
        raise _wrong("the day must be 1 to 7")
    plan = empty_plan(meals, int(days))
    cells: dict[tuple[int, int], Cell] = {}
    kinds = ["home"] * int(days)
    for n, row in portions:
        day = int(_row_number(n, row, "day")) - 1
        if day < 0:
            raise _wrong(f"line {n}: the day must be 1 to 7")
        at = (day, meals.index(str(row["meal"]).strip()))
        kinds[day] = str(row.get("kind") or "home")
        before = cells.get(at, Cell())
        entries = before.entries
        if row.get("dish"):
            scale = _row_number(n, row, "scale") if row.get("scale") not in (None, "") else 1.0
            entries = (
                *entries,
                Entry(str(row["dish"])[:60], str(row.get("name") or row["dish"])[:120], scale),
            )
        cells[at] = Cell(entries, bool(row.get("locked")), bool(row.get("skipped")))
    made = [
        Day(tuple(cells.get((d, m), Cell()) for m in range(len(meals))), kinds[d])
        for d in range(int(days))
    ]
    plan = as_stored(Plan(meals, tuple(made)))
    for n, row in rows:
        if row.get("meal") == COOKING_MEAL:
            frozen = _row_number(n, row, "grams") if row.get("grams") not in (None, "") else 0.0
            plan = cook(
                plan,
                str(row["dish"]),
                int(_row_number(n, row, "day")) - 1,
                _row_number(n, row, "scale"),
                frozen,
            )
    return as_stored(plan)


def _row_number(line: int, row: Mapping[str, Any], key: str) -> float:
    try:
        found = float(row[key])
    except (TypeError, ValueError, KeyError):
        raise _wrong(f"line {line}: {key} “{row.get(key)}” is not a number") from None
    if not math.isfinite(found):
        raise _wrong(f"line {line}: {key} “{row.get(key)}” is not a number")
    return found
