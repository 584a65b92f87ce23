"""An evening as its page, its sheet and its labels show it: formatted before any template."""

from __future__ import annotations

from datetime import time
from typing import Any

from dietetics.amounts.weighing import amount_text
from dietetics.prep.dish_tasks import tasks_of_dish
from dietetics.prep.doubt import length_range
from dietetics.prep.evening import Evening, clock_lines
from dietetics.prep.heating import BURNER_KW, BURNERS_KW
from dietetics.prep.lanes import lanes_of
from dietetics.prep.pace import USUAL_PACE
from dietetics.prep.plain_pots import PlainPot
from dietetics.prep.tasks import Task
from dietetics.prep.timetable import Proof, Timetable
from dietetics.week.daynames import DAY_NAMES, evening_before
from roundpantry.counter.kept import reading
from roundpantry.prep.drawing import clock, draw_lanes, glaze_of
from roundpantry.prep.packing import ready_before
from roundpantry.prep.plain_evenings import evenings_of, plain_on
from roundpantry.prep.records import (
    CookedBatch,
    cooked_on,
    day_of,
    evening_row,
    evening_value,
    kept_on,
    kitchen_of,
)
from roundpantry.weeks.models import Week
from roundpantry.weeks.records import plan_value

KITCHEN_WORDS = (
    ("cooks", "cook", "cooks"),
    ("ovens", "oven", "ovens"),
    ("burners", "burner", "burners"),
    ("blenders", "blender", "blenders"),
    ("pressure_cookers", "pressure cooker", "pressure cookers"),
    ("big_pots", "big pot", "big pots"),
)


def evening_name(day: int) -> str:
    """The name of an evening: "Sunday before", "Wednesday"."""
    return evening_before() if day < 0 else DAY_NAMES[day]


def week_evenings(week: Week, here: int | None = None) -> list[dict[str, Any]]:
    """The cooking evenings of a week, to go from one to the other."""
    return [
        {
            "day": day,
            "number": day + 1,
            "name": evening_name(day),
            "date": day_of(week, day),
            "here": day == here,
        }
        for day in evenings_of(plan_value(week))
    ]


@reading()
def evening_page(week: Week, day: int, proven: bool) -> dict[str, Any]:
    """Everything that the page of an evening shows. Raises DieteticsError."""
    row = evening_row(week, day)
    cooked, gone = cooked_on(week, day)
    evening = evening_value(week, day, proven)
    table = evening.timetable
    kitchen, assumed = kitchen_of(week.client)
    names = list(dict.fromkeys(name for t in table.asked.tasks for name in t.dishes))
    glazes = glaze_of(names)
    numbers = {task.key: n for n, task in enumerate(table.in_order, start=1)}
    return {
        "week": week,
        "day": day,
        "number": day + 1,
        "name": evening_name(day),
        "date": day_of(week, day),
        "evenings": week_evenings(week, day),
        "start_at": row.start_at,
        "ends_at": clock(row.start_at, table.length),
        "length": length_words(table.length),
        "clearing": evening.clearing_min,
        "doubt": _doubt_words(table),
        "proof": proof_words(table, proven),
        "asks_proof": not proven and table.proof is not Proof.SHORTEST,
        "lanes": draw_lanes(lanes_of(table), table.length, row.start_at, glazes, numbers)
        if table.length
        else "",
        "legend": [(name, glazes[name]) for name in names],
        "lines": _lines(evening, row.start_at, numbers),
        "before": [task.text for task in evening.before],
        "before_name": evening_name(day - 1) if day >= 0 else "the evening before that",
        "words": [
            *_pace_words(evening.pace),
            *evening.words,
            *_late_words(table),
            *_gone_words(gone),
        ],
        "cautions": evening.said_cautions,
        "remarks": [(dish, words) for dish, words in evening.remarks.items() if words],
        "keeping": _keeping(week, day, evening, row.start_at, cooked),
        "tasks": [_task_row(task) for task in table.asked.tasks],
        "kitchen": kitchen,
        "kitchen_words": _kitchen_words(kitchen),
        "assumed": assumed,
        "running": row.run is not None,
        "packing": [one for one in ready_before(week) if one["day"] != day],
    }


def dish_card(one: CookedBatch) -> dict[str, Any]:
    """A dish as it is cooked on this evening: every amount times the pots. The line as written
    stands beside it, marked where it is of another number of pots.
    """
    pots = one.cooking.pots
    lines = []
    for line in one.batch.lines.all():
        if line.heading:
            continue
        grams = "" if line.grams is None else _grams(line.grams * pots)
        whole = line.text if pots == 1 else f"{amount_text(pots)} × {line.text}"
        lines.append((grams, whole))
    return {
        "title": one.batch.title,
        "pots": "" if pots == 1 else f"{amount_text(pots)} × the recipe",
        "lines": lines,
        "written": [line.text for line in one.batch.lines.all() if not line.heading],
        "steps": [step for step in one.batch.steps.splitlines() if step.strip()],
    }


def plain_card(pot: PlainPot) -> dict[str, Any]:
    """A grain or bean that is cooked plain: how much of it, for how many portions."""
    what = pot.uncooked.name[0].lower() + pot.uncooked.name[1:]
    words = f"{what}: {pot.cooked_g:,.0f} g when cooked, {pot.portions} portions"
    steps = [task.text for task in tasks_of_dish(pot.dish()).tasks if task.verb != "portion"]
    return {
        "title": pot.name,
        "pots": "",
        "lines": [(_grams(pot.uncooked_g), words)],
        "written": [what],
        "steps": steps,
    }


def _grams(grams: float) -> str:
    """A weight for the scale: whole grams, tenths below five."""
    return f"{grams:,.0f} g" if grams >= 5 else f"{grams:.1f} g"


def length_words(minutes: int) -> str:
    """A length in hours and minutes: "1 h 57 min"."""
    hours, rest = divmod(minutes, 60)
    if not hours:
        return f"{rest} min"
    return f"{hours} h {rest} min" if rest else f"{hours} h"


def _doubt_words(table: Timetable) -> str:
    """What it may take when times run short or long: "52 min to 1 h 11 min"."""
    low, high = length_range(table)
    if high - low < 2:
        return ""
    return f"{length_words(low)} to {length_words(high)}"


def proof_words(table: Timetable, proven: bool) -> str:
    """How good the timetable is known to be, and why."""
    if not table.asked.tasks:
        return ""
    if table.proof is Proof.SHORTEST:
        return f"No timetable is shorter: {table.why_least}."
    gap = f"at most {table.gap:.0%} longer than need be"
    more = "" if proven else "; looking for a shorter one"
    return f"{gap[0].upper()}{gap[1:]} ({length_words(table.least)}: {table.why_least}){more}."


def _pace_words(pace: float) -> list[str]:
    """That the minutes are this cook's, where they are."""
    if pace == USUAL_PACE:
        return []
    return [f"The minutes of hands are {pace:.1f} × the usual: so long the last evenings took."]


def _lines(evening: Evening, start_at: time, numbers: dict[str, int]) -> list[dict[str, Any]]:
    """The evening by the clock, what begins in the same minute together."""
    return [
        {
            "time": clock(start_at, line.minute),
            "text": line.text,
            "dish": "" if line.kind == "oven" else line.dish,
            "kind": line.kind,
            "number": numbers.get(line.task, "") if line.kind == "start" else "",
        }
        for line in clock_lines(evening.timetable)
    ]


def _late_words(table: Timetable) -> list[str]:
    return [
        f"“{table.asked.by_key[key].text}” has to wait longer than it should: cool or reheat well."
        for key in table.late
    ]


def _gone_words(gone: int) -> list[str]:
    if not gone:
        return []
    many = f"{gone} batches" if gone > 1 else "A batch"
    return [f"{many} of this evening no longer exist{'' if gone > 1 else 's'}."]


def _keeping(
    week: Week, evening_day: int, evening: Evening, start_at: time, cooked: list[CookedBatch]
) -> list[dict[str, Any]]:
    """Containers, when they have to be cold, and the last day, in the order of use."""
    rows = []
    for kept in kept_on(cooked, plain_on(week, evening_day)):
        hot = evening.is_hot(kept.dish)
        last = kept.last_day
        rows.append(
            {
                "dish": kept.dish,
                "containers": kept.words(),
                "cold": f"by {clock(start_at, evening.cold_by(kept.dish))}" if hot else "at once",
                "last": f"{evening_name(last) if last < len(DAY_NAMES) else ''}".strip(),
                "last_date": day_of(week, last),
                "frozen": kept.frozen > 0,
            }
        )
    return rows


def _task_row(task: Task) -> dict[str, Any]:
    """A task as it can be corrected; a shared one is corrected in its dishes."""
    return {
        "key": task.key,
        "text": task.text,
        "dish": task.dish,
        "hands": f"{task.hands.likely:g}",
        "wait": f"{task.wait.likely:g}",
        "hands_guessed": "hands" in task.guessed,
        "wait_guessed": "wait" in task.guessed,
        "celsius": "" if task.celsius is None else f"{task.celsius:g}",
        "celsius_guessed": "celsius" in task.guessed,
        "device": task.device,
        "own": task.key.startswith("batch-") and not task.key.endswith("-portion"),
    }


def _kitchen_words(kitchen: Any) -> str:
    words = []
    for name, one, many in KITCHEN_WORDS:
        count = getattr(kitchen, name)
        if count:
            words.append(f"{count} {one if count == 1 else many}")
    if kitchen.burner_kw != BURNER_KW:
        words.append(f"{BURNERS_KW[kitchen.burner_kw]} burners")
    return ", ".join(words)
