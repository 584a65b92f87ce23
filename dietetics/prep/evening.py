"""An evening's cooking in one value: tasks, the timetable, and what is begun the evening before;
and the evening by the clock.
"""

from __future__ import annotations

import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from dietetics.prep.big_pots import cooked_in_turns
from dietetics.prep.dish_tasks import CAUTIONS, SHALLOW, tasks_of_dish
from dietetics.prep.joining import joined, sharing_heat
from dietetics.prep.kitchen import Kitchen
from dietetics.prep.pace import at_pace
from dietetics.prep.planning import quick_timetable, timetable
from dietetics.prep.pot_heat import on_a_burner
from dietetics.prep.stand_ins import with_what_is_there
from dietetics.prep.tasks import BLENDER, BURNER, OVEN, Minutes, Task
from dietetics.prep.timetable import PREHEAT_MIN, Timetable, asked_of
from dietetics.prep.to_cook import DishToCook

# From hot to 21 °C within 2 hours and to 5 °C within 4 more: FDA Food Code 3-501.14 (from memory).
COLD_WITHIN_MIN = 120
RICE_WITHIN_MIN = 60  # as the caution of rice says
# What is left to wash and put away when all is shared out, beyond what was washed while pots stood:
# common practice, from memory.
CLEARING_MIN, CLEARING_PER_DISH = 3, 2
RINSE_BLENDER_MIN = 2.0  # between two dishes: common practice
OVEN_HEAT = re.compile(
    r"^(?:pre-?)?heat (?:the |your )?oven to [^;,]{2,30}; ([a-z])", re.IGNORECASE
)
PACK_MIN = 5.0  # to pack a day's meals for the road: common practice


@dataclass(frozen=True)
class Evening:
    """What is cooked on one evening.

    `before` are the tasks of the evening before it, `words` what was decided for the cook (shared
    heats, things done another way), `cautions` by dish, `remarks` about what no recipe said, `pace`
    how many times the usual minutes of hands it is planned with.
    """

    dishes: tuple[DishToCook, ...]
    before: tuple[Task, ...]
    timetable: Timetable
    words: tuple[str, ...]
    cautions: Mapping[str, tuple[str, ...]]
    remarks: Mapping[str, tuple[str, ...]]
    pace: float = 1.0

    def done_at(self, dish: str) -> int:
        """The minute at which a dish is shared out."""
        starts = self.timetable.starts
        mine = [t for t in self.timetable.asked.tasks if dish in t.dishes]
        return max((starts[t.key] + t.minutes for t in mine), default=0)

    def cold_by(self, dish: str) -> int:
        """The minute by which a dish that was hot has to be in the refrigerator: rice sooner."""
        is_rice = CAUTIONS["rice"] in self.cautions.get(dish, ())
        return self.done_at(dish) + (RICE_WITHIN_MIN if is_rice else COLD_WITHIN_MIN)

    @property
    def clearing_min(self) -> int:
        """Minutes of washing up and clearing after the last container, not in the timetable."""
        return CLEARING_MIN + CLEARING_PER_DISH * len(self.dishes) if self.dishes else 0

    @property
    def said_cautions(self) -> list[str]:
        """The cautions for the cook, each once, with the dishes that they are for where it is not
        all that are hot.
        """
        dishes: dict[str, list[str]] = {}
        for dish, cautions in self.cautions.items():
            for words in cautions:
                dishes.setdefault(words, []).append(dish)
        return [
            words if words == SHALLOW else f"{', '.join(names)}: {words}"
            for words, names in dishes.items()
        ]

    def is_hot(self, dish: str) -> bool:
        """True for a dish that comes off the stove or out of the oven."""
        tasks = self.timetable.asked.tasks
        return any(t.device in (BURNER, OVEN) and dish in t.dishes for t in tasks)


def evening_of(
    dishes: Sequence[DishToCook],
    kitchen: Kitchen | None = None,
    proven: bool = True,
    packing: Sequence[str] = (),
    pace: float = 1.0,
) -> Evening:
    """The evening on which these dishes are cooked, and on which `packing` is done when they are.
    `proven` asks the solver; without it a good timetable comes at once. `pace` is how many times
    the usual minutes this cook's hands take.

    Raises DieteticsError as `asked_of` does.
    """
    kitchen = kitchen or Kitchen()
    tasks: list[Task] = []
    cautions, remarks = {}, {}
    for dish in dishes:
        found = tasks_of_dish(dish)
        tasks += found.tasks
        cautions[dish.name] = found.cautions
        remarks[dish.name] = found.remarks
    tasks += _packed(packing, tasks)
    tasks = [on_a_burner(task, kitchen.burner_kw) for task in joined(tasks)]
    tasks = at_pace(_blender_rinsed(tasks), pace)
    tasks, words = with_what_is_there(tasks, kitchen)
    tasks, heats = sharing_heat(tasks)
    tasks, turns = cooked_in_turns(tasks, kitchen)
    asked = asked_of(tasks, kitchen)
    solve = timetable if proven else quick_timetable
    return Evening(
        tuple(dishes),
        tuple(task for task in tasks if task.night),
        solve(asked),
        (*words, *heats, *turns),
        cautions,
        remarks,
        pace,
    )


def _blender_rinsed(tasks: Sequence[Task]) -> list[Task]:
    """The tasks, with the blender rinsed after each where several dishes use it."""
    dishes = {task.dish for task in tasks if task.device == BLENDER}
    rinse = Minutes.guess(RINSE_BLENDER_MIN)
    return [
        replace(task, text=f"{task.text}; rinse the blender", hands=task.hands.plus(rinse))
        if task.device == BLENDER and len(dishes) > 1
        else task
        for task in tasks
    ]


def _packed(packing: Sequence[str], tasks: Sequence[Task]) -> list[Task]:
    """What is packed for the road, when all is shared out."""
    shared_out = tuple(task.key for task in tasks if task.verb == "portion")
    return [
        Task(
            f"pack-{n}",
            "Packing",
            words,
            "pack",
            Minutes.guess(PACK_MIN),
            after=shared_out,
            guessed=frozenset({"hands"}),
            dishes=("Packing",),
        )
        for n, words in enumerate(packing, start=1)
    ]


@dataclass(frozen=True)
class ClockLine:
    """A line of the sheet by the clock: the minute, what to do, for which dish; `task` is the task
    that begins or ends there, "" for the oven's own lines. `kind` is "start", "end" or "oven".
    """

    minute: int
    text: str
    dish: str
    task: str
    kind: str


def clock_lines(found: Timetable) -> list[ClockLine]:
    """The evening by the clock: what begins, what is ready on the stove where nothing is done with
    it at once, and what the oven is set to.
    """
    lines = [line for task in found.asked.tasks for line in _lines_of(found, task)]
    lines += _oven_lines(found)
    order = {"oven": 0, "end": 1, "start": 2}
    return sorted(lines, key=lambda line: (line.minute, order[line.kind], line.task))


def _lines_of(found: Timetable, task: Task) -> list[ClockLine]:
    start = found.starts[task.key]
    text = task.text
    if any(one.device == OVEN and one.dish == task.dish for one in found.asked.tasks):
        text = OVEN_HEAT.sub(lambda match: match[1].upper(), text)  # the oven has a line of its own
    took = took_words(task.hands_min, task.wait_min)
    where = f", oven at {task.celsius:.0f} °C" if task.device == OVEN and task.celsius else ""
    lines = [ClockLine(start, f"{text} ({took}{where})", task.dish, task.key, "start")]
    goes_on = task.device == BURNER and any(
        task.key in one.after and found.starts[one.key] == start + task.minutes
        for one in found.asked.tasks
    )
    if task.wait_min and task.device in (OVEN, BURNER) and not goes_on:
        verb = "Out of the oven" if task.device == OVEN else "Ready on the stove"
        end = start + task.minutes
        lines.append(ClockLine(end, f"{verb}: {task.dish} ({task.verb})", "", task.key, "end"))
    return lines


def took_words(hands_min: int, wait_min: int) -> str:
    """Minutes of hands and minutes that pass alone, in words: "2 min of work, 5 min waiting"."""
    hands = f"{hands_min} min" if hands_min else ""
    if not wait_min:
        return hands
    return f"{hands} of work, {wait_min} min waiting" if hands else f"{wait_min} min waiting"


def _oven_lines(found: Timetable) -> list[ClockLine]:
    """When each oven is set to which heat."""
    lines = []
    for oven in range(found.asked.kitchen.ovens):
        users = [
            t for t in found.asked.tasks if t.device == OVEN and found.ovens.get(t.key) == oven
        ]
        loads = [(found.asked.from_to(t, found.starts[t.key])[0], t) for t in users]
        loads.sort(key=lambda pair: (pair[0], pair[1].key))
        heat: float | None = None
        for into, task in loads:
            if task.celsius == heat or task.celsius is None:
                continue
            heat = task.celsius
            name = "Oven" if found.asked.kitchen.ovens == 1 else f"Oven {oven + 1}"
            at = max(0, into - PREHEAT_MIN)
            lines.append(ClockLine(at, f"{name} to {heat:.0f} °C", task.dish, "", "oven"))
    return lines
