"""What waits for what in a kitchen, against orders drawn by hand."""

from __future__ import annotations

import re
import tomllib
import unittest
from collections.abc import Sequence
from pathlib import Path
from typing import Any

from hypothesis import given, settings
from hypothesis import strategies as st

from dietetics.amounts.line_reader import LineReader
from dietetics.composition.foods import load_shelf
from dietetics.prep.dish_tasks import CookedLine, DishToCook, tasks_of_dish
from dietetics.prep.tasks import Task

READER = LineReader(load_shelf())
CASES = tomllib.loads((Path(__file__).parent / "inputs" / "step_orders.toml").read_text())["dish"]

# What is done with a food before it goes into a dish, one step after another.
CHAINS = {
    "250 g dry kidney beans": (
        "Soak the beans overnight.",
        "Drain the beans.",
        "Boil the beans for 60 minutes.",
        "Rinse the beans.",
    ),
    "400 g firm tofu": (
        "Press the tofu for 20 minutes.",
        "Cut the tofu into cubes.",
        "Bake the tofu at 200 °C for 20 minutes.",
    ),
    "500 g cabbage": ("Wash the cabbage.", "Shred the cabbage.", "Squeeze the cabbage."),
    "200 g dry brown rice": (
        "Rinse the rice.",
        "Simmer the rice for 30 minutes.",
        "Drain the rice.",
    ),
    "4 beets": ("Boil the beets for 40 minutes.", "Peel the beets.", "Grate the beets."),
    "100 g walnuts": ("Toast the walnuts.", "Chop the walnuts."),
}
ENDINGS = ("Mix everything.", "Bake at 180 °C for 30 minutes.", "Cut into slices.")
JOINING = {
    "and",
    "then",
    "to",
    "the",
    "it",
    "them",
    "let",
    "meanwhile",
    "in",
    "at",
    "same",
    "time",
    "a",
}


@st.composite
def recipes(draw: st.DrawFn) -> tuple[list[str], list[str], list[tuple[str, str]]]:
    """Lines, steps in an order that works, and which step comes before which."""
    lines = draw(st.lists(st.sampled_from(sorted(CHAINS)), min_size=1, max_size=5, unique=True))
    waiting = {line: list(CHAINS[line]) for line in lines}
    steps: list[str] = []
    while waiting:
        line = draw(st.sampled_from(sorted(waiting)))
        steps.append(waiting[line].pop(0))
        if not waiting[line]:
            del waiting[line]
    ending = ENDINGS[: draw(st.integers(1, len(ENDINGS)))]
    pairs = [pair for line in lines for pair in zip(CHAINS[line], CHAINS[line][1:], strict=False)]
    pairs += [(CHAINS[line][-1], ending[0]) for line in lines]
    return lines, [*steps, *ending], [*pairs, *zip(ending, ending[1:], strict=False)]


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
    for words, device in dish.get("devices", []):
        task = the(words)
        if task is None or task.device != device:
            wrong.append(f"{words} takes the {task.device if task else 'nothing'}")
    return wrong


class Orders(unittest.TestCase):
    """Every dish of the cases."""

    def test_each_dish_is_cooked_in_an_order_that_works(self) -> None:
        for dish in CASES:
            with self.subTest(dish["name"]):
                self.assertEqual(wrong_in(dish), [])

    @settings(max_examples=150)
    @given(recipes())
    def test_nothing_is_cut_after_it_is_mixed_or_drained_before_it_is_soaked(
        self, drawn: tuple[list[str], list[str], list[tuple[str, str]]]
    ) -> None:
        lines, steps, pairs = drawn
        tasks = tasks_of({"name": "dish", "lines": lines, "steps": steps})
        by_text = {task.text: task for task in tasks}
        for first, second in pairs:
            one, other = by_text[first.rstrip(".")], by_text[second.rstrip(".")]
            self.assertIn(one.key, ancestors(other, tasks), (first, second, steps))

    @given(st.lists(st.sampled_from([s for d in CASES for s in d["steps"]]), min_size=1))
    def test_no_word_of_a_step_is_lost(self, steps: list[str]) -> None:
        tasks = tasks_of({"name": "dish", "lines": ["1 onion"], "steps": steps})
        shown = set(re.findall(r"[a-zé°0-9]+", " ".join(t.text for t in tasks).lower()))
        if any(task.key.startswith("dish-s") for task in tasks):
            written = set(re.findall(r"[a-zé°0-9]+", " ".join(steps).lower()))
            self.assertEqual(written - shown - JOINING, set())


if __name__ == "__main__":
    unittest.main()
