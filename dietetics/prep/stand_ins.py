"""What a kitchen lacks, done another way: the pan for the oven, the masher for the blender.

Each change is said; times are common practice and marked as guesses.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from dietetics.prep.kitchen import Kitchen
from dietetics.prep.tasks import BLENDER, BURNER, OVEN, PRESSURE, Minutes, Task

PAN_SHARE = 0.7  # of the oven's time, in a wide pan with a lid and a little water
NO_PRESSURE = 2.5  # times as long at a simmer
BY_HAND = 2.0  # times as long with a masher or a sieve


def with_what_is_there(tasks: Sequence[Task], kitchen: Kitchen) -> tuple[list[Task], list[str]]:
    """The tasks as this kitchen can do them, and each change in words."""
    found, words = [], []
    for task in tasks:
        if not task.device or kitchen.count(task.device):
            found.append(task)
            continue
        moved, how = _stand_in(task, kitchen)
        found.append(moved)
        words.append(f"{task.dish}: no {task.device} in this kitchen; {how}.")
    return found, words


def _stand_in(task: Task, kitchen: Kitchen) -> tuple[Task, str]:
    """One task done another way, and how in words."""
    guessed = task.guessed | {"wait", "hands"}
    if task.device == BLENDER:
        hands = task.hands.times(BY_HAND)
        return replace(task, device="", hands=hands, guessed=guessed), "mashed or sieved by hand"
    if not kitchen.burners:
        return replace(task, device=""), "this step cannot be cooked here: find another dish"
    if task.device == OVEN:
        moved = replace(
            task,
            device=BURNER,
            celsius=None,
            wait=task.wait.times(PAN_SHARE),
            text=f"{task.text} (in a wide pan with a lid and a little water, turned often)",
            guessed=guessed,
        )
        return moved, f"in a wide pan with a lid, about {moved.wait_min} min"
    if task.device == PRESSURE:
        moved = replace(task, device=BURNER, wait=task.wait.times(NO_PRESSURE), guessed=guessed)
        return moved, f"at a simmer, about {moved.wait_min} min"
    return replace(task, device="", hands=Minutes.guess(task.minutes)), "done by hand"
