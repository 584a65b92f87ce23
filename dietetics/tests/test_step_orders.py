"""What waits for what in a kitchen, against orders drawn by hand."""

from __future__ import annotations

import tomllib
import unittest
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from dietetics.amounts.line_reader import LineReader
from dietetics.composition.foods import load_shelf
from dietetics.prep.dish_tasks import CookedLine, DishToCook, tasks_of_dish
from dietetics.prep.tasks import Task

READER = LineReader(load_shelf())
CASES = tomllib.loads((Path(__file__).parent / "inputs" / "step_orders.toml").read_text())["dish"]


def tasks_of(dish: dict[str, Any]) -> tuple[Task, ...]:
    """The tasks of a dish of the cases."""
    lines = [
        CookedLine(read.text, read.food, read.grams or 0.0)
        for text in dish["lines"]
        for read in READER.read(text)
    ]
    return tasks_of_dish(DishToCook("dish", dish["name"], tuple(lines), tuple(dish["steps"]))).tasks


def ancestors(task: Task, tasks: Sequence[Task]) -> set[str]:
    """Every task that has to be done before."""
    by_key = {one.key: one for one in tasks}
    found: set[str] = set()
    open_keys = list(task.after)
    while open_keys:
        key = open_keys.pop()
        if key not in found:
            found.add(key)
            open_keys += by_key[key].after
    return found


def wrong_in(dish: dict[str, Any]) -> list[str]:
    """What is not as drawn."""
    tasks, wrong = tasks_of(dish), []

    def the(words: str, last: bool = False) -> Task | None:
        found = [task for task in tasks if words in task.text.lower()]
        starting = [task for task in found if task.text.lower().startswith(words)] or found
        return (starting[-1] if last else starting[0]) if starting else None

    for pairs, wanted in ((dish.get("before", []), True), (dish.get("apart", []), False)):
        for first, second in pairs:
            one, other = the(first), the(second, last=True)
            if one is None or other is None:
                wrong.append(f"no task {first if one is None else second}")
            elif wanted and one.key not in ancestors(other, tasks):
                wrong.append(f"{second} does not wait for {first}")
            elif not wanted and (
                one.key in ancestors(other, tasks) or other.key in ancestors(one, tasks)
            ):
                wrong.append(f"{first} and {second} wait for each other")
    texts = [task.text.lower() for task in tasks]
    wrong += [
        f"{w} is a task" for w in dish.get("never", []) if any(t.startswith(w) for t in texts)
    ]
    wrong += [f"{w} is lost" for w in dish.get("kept", []) if not any(w in t for t in texts)]
    for words, low, high in dish.get("takes", []):
        task = the(words)
        minutes = task.hands.likely + task.wait.likely if task else -1
        if not low <= minutes <= high:
            wrong.append(f"{words} takes {minutes:g} min")
    return wrong


class Orders(unittest.TestCase):
    """Every dish of the cases."""

    def test_each_dish_is_cooked_in_an_order_that_works(self) -> None:
        for dish in CASES:
            with self.subTest(dish["name"]):
                self.assertEqual(wrong_in(dish), [])


if __name__ == "__main__":
    unittest.main()
