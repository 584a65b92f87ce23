"""Weeks in and out: a question and its answer as JSON, and a plan as rows, one a portion.

The JSON of questions and answers is described in docs/week.md.
"""

from __future__ import annotations

import csv
import io
import math
from collections.abc import Mapping, Sequence
from itertools import islice
from typing import Any

from dietetics.dishes.cooking import KEEPS_DAYS
from dietetics.errors import DieteticsError
from dietetics.nutrients import BY_KEY
from dietetics.targets.windows import IMPORTANCES, Window
from dietetics.untrusted_input import harmless_cell, plain_text, written_cell
from dietetics.week.answer import Answer
from dietetics.week.day_totals import Dish
from dietetics.week.daynames import DAY_NAMES
from dietetics.week.explanation import binding, day_sums, missed
from dietetics.week.plan import KINDS, Cell, Day, Entry, Plan, as_stored, cook, empty_plan
from dietetics.week.question import MOST_EVENINGS, Ask, BatchFacts, Offer, Question, Rules, SlotMeal
from dietetics.week.recheck import broken_rules

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


def _number(value: Any, what: str, least: float = 0.0) -> float:
    if (
        isinstance(value, bool)
        or not isinstance(value, (int, float))
        or not math.isfinite(value)
        or value < least
    ):
        raise _wrong(f"{what} must be a number of at least {least:g}, not {value!r}")
    return float(value)


def _whole(value: Any, what: str, least: int = 0) -> int:
    found = _number(value, what, least)
    if found != int(found):
        raise _wrong(f"{what} must be a whole number, not {value!r}")
    return int(found)


def _objects(data: Mapping[str, Any], key: str) -> list[dict[str, Any]]:
    found = data.get(key, [])
    if not isinstance(found, list) or not all(isinstance(one, dict) for one in found):
        raise _wrong(f"“{key}” must be a list of objects")
    return found


def _known(given: Mapping[str, Any], names: set[str], what: str) -> None:
    if unknown := sorted(set(given) - names):
        raise _wrong(f"{what}: not known: {', '.join(unknown)}")


def _text(given: Mapping[str, Any], key: str, what: str) -> str:
    value = given.get(key)
    if not isinstance(value, str) or not value.strip():
        raise _wrong(f"{what} needs a “{key}”")
    return value.strip()


def question_of(data: Mapping[str, Any]) -> Question:
    """Read a question. Raises `week-unreadable` with what is wrong, `week-no-meals` and
    `week-no-dishes`.
    """
    _known(
        data,
        {
            "format",
            "days",
            "meals",
            "windows",
            "asks",
            "dishes",
            "batches",
            "rules",
            "locks",
            "seed",
            "moves",
            "seconds",
        },
        "the question",
    )
    days = data.get("days", 7)
    kinds = tuple(days) if isinstance(days, list) else ("home",) * _whole(days, "days", 1)
    if not 1 <= len(kinds) <= 7 or any(kind not in KINDS for kind in kinds):
        raise _wrong(f"“days” must be a list of one to seven of {', '.join(KINDS)}")
    meals = _meals(_objects(data, "meals"))
    pots = {pot.key: pot for pot in map(_pot, _objects(data, "batches"))}
    offers = []
    for given in _objects(data, "dishes"):
        offer, own = _offer(given, meals)
        if own is not None:
            pots[own.key] = own
        offers.append(offer)
    locks, skipped = _locks(_objects(data, "locks"), meals, len(kinds))
    return Question(
        kinds,
        meals,
        tuple(_window(w) for w in _objects(data, "windows")),
        tuple(offers),
        tuple(pots.values()),
        tuple(_ask(a) for a in _objects(data, "asks")),
        _rules(data.get("rules", {})),
        locks,
        skipped,
    )


def _meals(given: Sequence[dict[str, Any]]) -> tuple[SlotMeal, ...]:
    found = []
    for one in given:
        _known(one, {"name", "share", "protein_share", "main"}, "a meal")
        share = _number(one.get("share", 1 / len(given)), "a meal's share")
        protein = _number(one.get("protein_share", share), "a meal's share of protein")
        found.append(
            SlotMeal(_text(one, "name", "a meal"), share, protein, bool(one.get("main", True)))
        )
    return tuple(found)


def _window(given: Mapping[str, Any]) -> Window:
    key = _text(given, "key", "a window")
    if key not in BY_KEY:
        raise DieteticsError("unknown-nutrient", key=key)
    importance = given.get("importance", "should")
    if importance not in IMPORTANCES:
        raise _wrong(f"{key}: the importance must be one of {', '.join(IMPORTANCES)}")
    ends = [
        None if given.get(end) is None else _number(given[end], f"{key} {end}", -1e9)
        for end in ("low", "high")
    ]
    return Window(key, ends[0], ends[1], importance)


def _ask(given: Mapping[str, Any]) -> Ask:
    key = _text(given, "key", "a food target")
    return Ask(
        key,
        str(given.get("name", key)),
        _number(given.get("low", 0), f"{key} low"),
        str(given.get("importance", "should")),
    )


def _pot(given: Mapping[str, Any]) -> BatchFacts:
    _known(given, {"key", "name", "keeps_days", "stock"}, "a batch")
    key = _text(given, "key", "a batch")
    stock = tuple(
        (_number(s.get("share"), f"{key} stock"), _whole(s.get("last_day"), f"{key} last day"))
        for s in _objects(given, "stock")
    )
    return BatchFacts(
        key,
        str(given.get("name", key)),
        _whole(given.get("keeps_days", KEEPS_DAYS), f"{key} keeps_days"),
        stock,
    )


def _offer(given: Mapping[str, Any], meals: Sequence[SlotMeal]) -> tuple[Offer, BatchFacts | None]:
    """A dish, and its own batch where it makes several servings."""
    key = _text(given, "key", "a dish")
    _known(
        given,
        {
            "key",
            "name",
            "meals",
            "per_serving",
            "grams",
            "takes",
            "others_take",
            "servings",
            "keeps_days",
            "travels",
            "liking",
            "most_uses",
            "apart",
            "new",
        },
        key,
    )
    figures = given.get("per_serving", {})
    if not isinstance(figures, dict):
        raise _wrong(f"{key}: “per_serving” must be an object of figures")
    amounts = {}
    for name, value in figures.items():
        if name not in BY_KEY and not str(name).startswith("ask:"):
            raise DieteticsError("unknown-nutrient", key=name)
        if value is not None:
            amounts[str(name)] = _number(value, f"{key} {name}", -1e9)
    names = given.get("meals", [meal.name for meal in meals])
    if not isinstance(names, list) or set(names) - {meal.name for meal in meals}:
        raise _wrong(f"{key}: “meals” must be a list of the meals named above")
    takes, pot = _shares(given.get("takes", {}), key), None
    if given.get("servings") is not None:
        servings = _number(given["servings"], f"{key} servings", 1e-6)
        pot = BatchFacts(
            f"{key} (pot)",
            str(given.get("name", key)),
            _whole(given.get("keeps_days", KEEPS_DAYS), f"{key} keeps_days"),
        )
        takes = {**takes, pot.key: 1 / servings}
    liking = _whole(given.get("liking", 1), f"{key} liking")
    if liking > 3:
        raise _wrong(f"{key}: liking must be 0 to 3")
    offer = Offer(
        key,
        str(given.get("name", key)),
        frozenset(names),
        amounts,
        _number(given.get("grams", 0), f"{key} grams"),
        takes,
        _shares(given.get("others_take", {}), key),
        bool(given.get("travels", True)),
        liking,
        _whole(given.get("most_uses", 4), f"{key} most_uses"),
        _whole(given.get("apart", 1), f"{key} apart"),
        bool(given.get("new", False)),
    )
    return offer, pot


def _shares(given: Any, key: str) -> dict[str, float]:
    if not isinstance(given, dict):
        raise _wrong(f"{key}: “takes” must be an object of shares of a batch")
    return {str(pot): _number(share, f"{key} takes {pot}") for pot, share in given.items()}


def _rules(given: Any) -> Rules:
    if not isinstance(given, dict):
        raise _wrong("“rules” must be an object")
    _known(given, {"cooking_days", "most_pots", "different", "scales", "most_new"}, "the rules")
    usual = Rules()
    days, scales = (
        given.get("cooking_days", list(usual.cooking_days)),
        given.get("scales", list(usual.scales)),
    )
    if (
        not isinstance(days, list)
        or not isinstance(scales, list)
        or len(scales) > 12
        or len(days) > MOST_EVENINGS
    ):
        raise _wrong("cooking days (four at most) and scales (twelve at most) must be lists")
    different, new = given.get("different", usual.different), given.get("most_new")
    return Rules(
        tuple(sorted({_whole(day, "a cooking day", -1) for day in days})),
        _whole(given.get("most_pots", usual.most_batches), "most_pots"),
        None if different is None else _whole(different, "different"),
        tuple(_number(s, "a scale", 0.01) for s in scales),
        None if new is None else _whole(new, "most_new"),
    )


def _locks(
    given: Sequence[dict[str, Any]], meals: Sequence[SlotMeal], days: int
) -> tuple[dict[tuple[int, int], tuple[str, float]], frozenset[tuple[int, int]]]:
    locks, skipped = {}, set()
    places = {meal.name: i for i, meal in enumerate(meals)}
    for one in given:
        _known(one, {"day", "meal", "dish", "scale", "skip"}, "a lock")
        day, meal = _whole(one.get("day"), "a lock's day"), _text(one, "meal", "a lock")
        if meal not in places or day >= days:
            raise _wrong(f"a lock names day {day} and meal “{meal}”, which the week does not have")
        slot = (day, places[meal])
        if one.get("skip"):
            skipped.add(slot)
        else:
            locks[slot] = (
                str(one.get("dish", "")),
                _number(one.get("scale", 1), "a lock's scale", 0.01),
            )
    return locks, frozenset(skipped)


def answer_json(answer: Answer) -> dict[str, Any]:
    """The plan, its gap, levels and what binds, as plain values."""
    question = answer.question
    sums = day_sums(answer)
    return {
        "format": FORMAT,
        "points": round(answer.points, 3),
        "bound": None if answer.bound is None else round(answer.bound, 3),
        "gap": None if answer.gap is None else round(answer.gap, 5),
        "seed": answer.seed,
        "moves": answer.moves,
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
                "amount": round(sums[day][f"ask:{ask.key}"], 1),
                "low": ask.low,
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
