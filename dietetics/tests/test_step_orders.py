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
from dietetics.prep.dish_tasks import tasks_of_dish
from dietetics.prep.evening import evening_of
from dietetics.prep.kitchen import Kitchen
from dietetics.prep.tasks import Task
from dietetics.prep.to_cook import CookedLine, DishToCook

READER = LineReader(load_shelf())
INPUTS = Path(__file__).parent / "inputs"
CASES = tomllib.loads((INPUTS / "step_orders.toml").read_text())["dish"]
GRAPHS = [
    dish
    for name in ("step_graphs.toml", "step_graphs_more.toml", "step_graphs_third.toml")
    for dish in tomllib.loads((INPUTS / name).read_text())["dish"]
]

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


# Foods of one pantry, what may be done to each before it is brought together with others, and how.
# Every word is one that a cook would write.
PANTRY = {
    "300 g carrots": ("carrots", ("Peel", "Slice"), ("Steam", "Roast", "Fry")),
    "1 onion": ("onion", ("Dice",), ("Fry", "Roast")),
    "400 g firm tofu": ("tofu", ("Press", "Cube"), ("Bake", "Fry")),
    "200 g dry quinoa": ("quinoa", ("Rinse",), ("Simmer", "Cook")),
    "250 g dry green lentils": ("lentils", ("Rinse",), ("Simmer",)),
    "200 g kale": ("kale", ("Wash", "Tear"), ("Steam",)),
    "100 g walnuts": ("walnuts", ("Chop",), ("Toast",)),
    "2 beets": ("beets", ("Peel", "Grate"), ("Roast", "Boil")),
}

TOGETHER = ("Mix the {} with the {}", "Stir the {} into the {}", "Toss the {} and {} together")


@st.composite
def dinners(draw: st.DrawFn) -> tuple[list[str], list[tuple[str, frozenset[str]]]]:
    """Lines, and steps each with the foods that it is about: cut, cooked and brought together in
    any order that a kitchen allows.
    """
    lines = draw(st.lists(st.sampled_from(sorted(PANTRY)), min_size=2, max_size=6, unique=True))
    waiting: dict[str, list[str]] = {}
    for line in lines:
        name, cuts, heats = PANTRY[line]
        cut = [f"{verb} the {name}" for verb in cuts if draw(st.booleans())]
        heat = draw(st.sampled_from((*heats, "")))
        waiting[name] = [*cut, *([f"{heat} the {name} for 20 minutes"] if heat else [])]
    held = {name: frozenset({name}) for name in waiting}
    steps: list[tuple[str, frozenset[str]]] = []
    while any(waiting.values()) or len(set(held.values())) > 1:
        busy = [name for name, left in waiting.items() if left]
        ready = [name for name, left in waiting.items() if not left]
        apart = [name for name in ready if held[name] != held[ready[0]]]
        if busy and (not apart or draw(st.booleans())):
            name = draw(st.sampled_from(busy))
            steps.append((waiting[name].pop(0), held[name]))
            continue
        one, other = ready[0], draw(st.sampled_from(apart))
        both = held[one] | held[other]
        words = draw(st.sampled_from(TOGETHER))
        if words.endswith("together") and both != frozenset(waiting):
            words = "Mix the {} with the {}"  # "together" is all that is there
        steps.append((words.format(one, other), both))
        held |= dict.fromkeys(both, both)
    return lines, steps


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


class Drawing:
    """The tasks of a dish of the cases, held against how it was drawn."""

    def __init__(self, dish: dict[str, Any]) -> None:
        self.dish = dish
        self.tasks = tasks_of(dish)

    def the(self, words: str, last: bool = False) -> Task | None:
        """The task that says these words, rather one that begins with them."""
        found = [task for task in self.tasks if words in task.text.lower()]
        starting = [task for task in found if task.text.lower().startswith(words)] or found
        return (starting[-1] if last else starting[0]) if starting else None

    def wrong(self) -> list[str]:
        """What is not as drawn."""
        checks = (
            *(self._before(*pair) for pair in self.dish.get("before", [])),
            *(self._apart(*pair) for pair in self.dish.get("apart", [])),
            *(self._during(*pair) for pair in self.dish.get("during", [])),
            *(self._on_the_day(one) for one in self.dish.get("day", [])),
            *(self._the_evening_before(one) for one in self.dish.get("eve", [])),
            *(self._never(one) for one in self.dish.get("never", [])),
            *(self._kept(one) for one in self.dish.get("kept", [])),
            *(self._takes(*one) for one in self.dish.get("takes", [])),
            *(self._held_by(*pair) for pair in self.dish.get("devices", [])),
        )
        return [words for words in checks if words]

    def _before(self, first: str, second: str) -> str:
        one, other = self.the(first), self.the(second, last=True)
        if one is None or other is None:
            return f"no task {first if one is None else second}"
        if one is other and first != second:  # one task says both
            text = one.text.lower()
            return "" if text.find(first) < text.find(second) else f"{second} before {first}"
        return "" if one.key in ancestors(other, self.tasks) else f"{second} before {first}"

    def _apart(self, first: str, second: str) -> str:
        one, other = self.the(first), self.the(second, last=True)
        if one is None or other is None:
            return f"no task {first if one is None else second}"
        waits = one.key in ancestors(other, self.tasks) or other.key in ancestors(one, self.tasks)
        return f"{first} and {second} wait for each other" if waits else ""

    def _during(self, inside: str, around: str) -> str:
        one, other = self.the(inside), self.the(around)
        if one is None or other is None or one is other:
            return f"no task {inside} of its own"
        is_inside = other.key in ancestors(one, self.tasks) and one.device == other.device
        return "" if is_inside and one.within is not None else f"{inside} is not inside {around}"

    def _on_the_day(self, words: str) -> str:
        task = self.the(words)
        if task is None:
            return f"{words} is lost"
        return "" if task.verb == "portion" else f"{words} is work of the evening"

    def _the_evening_before(self, words: str) -> str:
        task = self.the(words)
        return "" if task is not None and task.night else f"{words} is not done the evening before"

    def _never(self, words: str) -> str:
        begins = any(task.text.lower().startswith(words) for task in self.tasks)
        return f"{words} is a task" if begins else ""

    def _kept(self, words: str) -> str:
        return "" if any(words in task.text.lower() for task in self.tasks) else f"{words} is lost"

    def _takes(self, words: str, low: float, high: float) -> str:
        task = self.the(words)
        minutes = task.hands.likely + task.wait.likely if task else -1
        return "" if low <= minutes <= high else f"{words} takes {minutes:g} min"

    def _held_by(self, words: str, device: str) -> str:
        task = self.the(words)
        return "" if task is not None and task.device == device else f"{words} is not on {device}"


def wrong_in(dish: dict[str, Any]) -> list[str]:
    """What of a dish is not as drawn."""
    return Drawing(dish).wrong()


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
        by_text = {task.text.partition("; to the boil")[0]: task for task in tasks}
        for first, second in pairs:
            one, other = by_text[first.rstrip(".")], by_text[second.rstrip(".")]
            self.assertIn(one.key, ancestors(other, tasks), (first, second, steps))

    def test_graphs_drawn_by_hand(self) -> None:
        for dish in GRAPHS:
            with self.subTest(dish["name"]):
                self.assertEqual(wrong_in(dish), [])

    def test_an_evening_takes_about_as_long_as_a_cook_says(self) -> None:
        near = 0
        for dish in GRAPHS:
            lines = tuple(
                CookedLine(read.text, read.food, read.grams or 0.0)
                for text in dish["lines"]
                for read in READER.read(text)
            )
            cooked = DishToCook("d", dish["name"], lines, tuple(dish["steps"]))
            found = evening_of([cooked], Kitchen(trays=2, pressure_cookers=1)).timetable
            ends = [found.starts[t.key] + t.minutes for t in found.asked.tasks]
            tasks = found.asked.tasks
            last = max(e for e, t in zip(ends, tasks, strict=True) if t.verb != "portion")
            low, high = dish["minutes"]
            near += 0.9 * low <= last <= 1.1 * high
        self.assertGreaterEqual(near, 51)  # of 56

    @settings(max_examples=150)
    @given(dinners())
    def test_what_is_done_with_a_food_waits_for_what_was_done_with_it_before(
        self, drawn: tuple[list[str], list[tuple[str, frozenset[str]]]]
    ) -> None:
        lines, steps = drawn
        written = [f"{text}." for text, _ in steps]
        tasks = tasks_of({"name": "dish", "lines": lines, "steps": written})
        by_step = {task.key.split("-")[1]: task for task in tasks}
        for at, (text, foods) in enumerate(steps, start=1):
            for earlier, (before, others) in enumerate(steps[: at - 1], start=1):
                if foods & others:
                    one, other = by_step[f"s{earlier}"], by_step[f"s{at}"]
                    self.assertIn(one.key, ancestors(other, tasks), (before, text, written))

    @given(st.lists(st.sampled_from([s for d in CASES for s in d["steps"]]), min_size=1))
    def test_no_word_of_a_step_is_lost(self, steps: list[str]) -> None:
        tasks = tasks_of({"name": "dish", "lines": ["1 onion"], "steps": steps})
        shown = set(re.findall(r"[a-zé°0-9]+", " ".join(t.text for t in tasks).lower()))
        if any(task.key.startswith("dish-s") for task in tasks):
            written = set(re.findall(r"[a-zé°0-9]+", " ".join(steps).lower()))
            self.assertEqual(written - shown - JOINING, set())


if __name__ == "__main__":
    unittest.main()
