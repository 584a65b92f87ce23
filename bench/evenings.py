"""Evenings in the bench: a timetable against the bare solver on the same model, and how good it
is.
"""

from __future__ import annotations

import random
import statistics
import time
from importlib import import_module
from typing import Any

from dietetics.prep.kitchen import Kitchen
from dietetics.prep.planning import quick_timetable, timetable
from dietetics.prep.tasks import Minutes, Task
from dietetics.prep.timetable import Asked, asked_of

DISHES, STEPS = 5, 8
SEEDS = range(8)


def made_up(seed: int) -> Asked:
    """Five dishes of eight steps in a small kitchen: burners, an oven of two trays, a blender."""
    rng = random.Random(f"evening-{seed}")
    tasks = []
    for dish in range(DISHES):
        before: tuple[str, ...] = ()
        heat = rng.choice((180.0, 200.0, 220.0))
        for step in range(STEPS):
            device = rng.choice(("", "", "burner", "burner", "oven", "blender"))
            hands = rng.randint(1, 6)
            wait = rng.randint(5, 35) if device in ("burner", "oven") else 0
            key = f"d{dish}s{step}"
            within = 10 if before and rng.random() < 0.3 else None
            tasks.append(
                Task(
                    key,
                    f"dish {dish}",
                    key,
                    "do",
                    Minutes(hands, hands, hands),
                    Minutes(wait, wait, wait),
                    device,
                    heat if device == "oven" else None,
                    after=before if rng.random() < 0.85 else (),
                    within=within,
                )
            )
            before = (key,)
    return asked_of([_soon(one) for one in tasks], Kitchen(burners=2, trays=1))


def _soon(task: Task) -> Task:
    """A task that hangs on nothing has nothing to follow soon."""
    return task if task.after else Task(**{**vars(task), "within": None})


def measured() -> None:
    """Print for made-up evenings: how good the quick timetable is, what is proven in which time,
    and how much of that time is the solver's own.
    """
    import_module("ortools.sat.python.cp_model")
    program: Any = import_module("dietetics.prep.timetable_program")
    bare = [0.0]
    run = program._run

    def timed_run(*given: Any) -> Any:
        start = time.perf_counter()
        found = run(*given)
        bare[0] += time.perf_counter() - start
        return found

    program._run = timed_run
    ratios, gaps, quick_over, seconds, at_once = [], [], [], [], []
    try:
        for seed in SEEDS:
            asked = made_up(seed)
            start = time.perf_counter()
            quick = quick_timetable(asked)
            at_once.append(time.perf_counter() - start)
            bare[0] = 0.0
            start = time.perf_counter()
            found = timetable(asked)
            took = time.perf_counter() - start
            seconds.append(took)
            gaps.append(found.gap)
            quick_over.append(quick.length / found.length - 1)
            if bare[0]:
                ratios.append(took / bare[0])
    finally:
        program._run = run
    print(
        f"evenings of {DISHES} dishes, {DISHES * STEPS} tasks: at once "
        f"{', '.join(f'{over:.1%}' for over in quick_over)} longer, "
        f"in {max(at_once):.2f} s at most; "
        f"gap {', '.join(f'{gap:.1%}' for gap in gaps)} in "
        f"{', '.join(f'{took:.1f}' for took in seconds)} s"
    )
    print(
        f"timetable ÷ bare solver calls on the same models: "
        f"{', '.join(f'{ratio:.2f}' for ratio in ratios)}, in the median "
        f"{statistics.median(ratios):.2f} (goal ≤ 1.5)"
    )
