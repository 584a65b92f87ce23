"""Four times the text takes about four times the work, whatever is in it, for every public reader.

Readers are found by import: every public function of the core whose first argument is a text. One
that is added tomorrow is asked too, or the test fails and says what argument it cannot make up.
Work is counted in lines of Python that are walked through, so that the count is the same on every
machine. What a pattern does inside the library of regular expressions is no line of Python:
`./pantry bench` asks the same readers in seconds.
"""

from __future__ import annotations

import importlib
import inspect
import pkgutil
import unittest
from collections.abc import Callable, Iterator
from datetime import date
from functools import cache, partial
from typing import Any

import dietetics
from dietetics.amounts.line_reader import LineReader, name_index
from dietetics.amounts.weighing import Scales
from dietetics.composition.foods import load_shelf
from dietetics.dishes.pattern_names import called_food
from dietetics.dishes.patterns import Drawn, Option, Role
from dietetics.dishes.recipes import read_recipe
from dietetics.dishes.stated_yield import StatedYield
from dietetics.prep.tasks import Minutes
from dietetics.tests.samples import again, sample
from dietetics.tests.work_counted import times_the_work

TEXTS = {
    "text", "line", "phrase", "page", "inside", "body", "item", "step", "notes", "typed", "name",
}  # fmt: skip
# a key or a part of a program's own, not what somebody wrote
NO_READERS = {
    "composition.foods.read_table", "prep.clauses.verb_named", "amounts.grammar.remembered",
    "targets.meal_components.is_component", "week.question.question_building.travels_cold",
    "week.question.question_building.is_porridge", "nutrients.in_text",
    "labels.columns.number",
}  # fmt: skip
HOSTILE = (
    "7", "٣", "३", "７", "๓", " ", "\t", "\u00a0", "(", "()", "[", "½", "1/", "-", "–", "e\u0301",
    "\u0301", "🙂", "\u200d", "1 ", "1,", "1.", "a ", "a-", "salt, ", "\n", "1\n", "1 cup ", ". ",
    "²", "x", "12-", "and ", "1 to ", ";", "1 g (", "not ", "per 100 g ", "<", "<a ", "%", "1% ",
    "{", '"', "\\", "'", "1 x ", "A", "a:", "energy ", "milk (", "may contain ", "10 min ",
)  # fmt: skip
SIZE, TIMES = 400, 4
MOST_GROWTH = 1.7 * TIMES  # linear is 4, quadratic 16
Reader = Callable[[str], object]


@cache
def arguments() -> dict[str, Any]:
    """What readers ask for beside their text."""
    shelf = load_shelf()
    reader = LineReader(shelf)
    tofu, beans = (Option(what, "1 cup") for what in ("tofu-firm", "butter-beans-canned"))
    return {
        "reader": reader,
        "shelf": shelf,
        "food": shelf.food("tofu-firm"),
        "scales": Scales(shelf),
        "batch": read_recipe("serves 4\n200 g quinoa\n300 g carrots", reader).batch(),
        "today": date(2026, 12, 1),
        "before": StatedYield(),
        "index": name_index(shelf),
        "ingredients": (),
        "named": frozenset({1}),
        "first": Minutes.exactly(3),
        "spoon": False,
        "grams": 100.0,
        "serving_g": None,
        "oven_celsius": None,
        "household": Scales(shelf).household,
        "drawn": Drawn(((Role("protein", (tofu, beans)), beans),), (), ()),
        "called": lambda what: called_food(shelf.food(what)),
    }


def readers() -> Iterator[tuple[str, Reader]]:
    """Every public reader with its name."""
    for module in pkgutil.walk_packages(dietetics.__path__, "dietetics."):
        if ".tests" in module.name:
            continue
        for name, found in vars(importlib.import_module(module.name)).items():
            full = f"{module.name.removeprefix('dietetics.')}.{name}"
            own = inspect.isfunction(found) and found.__module__ == module.name
            if own and not name.startswith("_") and full not in NO_READERS and is_reader(found):
                yield full, partial(_asked, found, more_of(full, found))
    reader = arguments()["reader"]
    yield "LineReader.read", reader.read
    yield "LineReader.read_as", lambda text: reader.read_as(text, arguments()["food"])


def is_reader(found: Callable[..., object]) -> bool:
    """Whether a function's first argument is what somebody wrote."""
    first = next(iter(inspect.signature(found).parameters.values()), None)
    return first is not None and first.annotation == "str" and first.name in TEXTS


def more_of(full: str, found: Callable[..., object]) -> list[Any]:
    """The arguments behind the text that have no default."""
    made = []
    for one in list(inspect.signature(found).parameters.values())[1:]:
        if one.default is one.empty and one.kind is not one.KEYWORD_ONLY:
            if one.name in arguments():
                made.append(arguments()[one.name])
            elif one.annotation == "str":
                made.append("")
            else:
                raise AssertionError(f"{full}: add an example of {one.name} to arguments()")
    return made


def _asked(found: Callable[..., object], more: list[Any], text: str) -> object:
    return found(text, *more)


class Growth(unittest.TestCase):
    def test_there_are_readers(self) -> None:
        names = [name for name, _ in readers()]
        self.assertGreater(len(names), 50)
        for name in ("dishes.recipes.read_recipe", "labels.label_reader.read_label"):
            self.assertIn(name, names)

    def test_a_quadratic_reader_is_noticed_and_a_linear_one_is_not(self) -> None:
        def quadratic(text: str) -> None:
            for _ in text:
                for _ in text[::64]:
                    pass

        def linear(text: str) -> None:
            for _ in text:
                for _ in "x" * 40:
                    pass

        self.assertGreater(times_the_work(quadratic, "a", SIZE, TIMES), MOST_GROWTH)
        self.assertLess(times_the_work(linear, "a", SIZE, TIMES), MOST_GROWTH)

    def test_work_grows_with_the_text(self) -> None:
        pairs = [(name, piece) for name, _ in readers() for piece in HOSTILE]
        every = dict(readers())
        for name, piece in sample("growth of readers", pairs, 0.1):
            with self.subTest(name, piece=piece):
                times = times_the_work(every[name], piece, SIZE, TIMES)
                self.assertLess(times, MOST_GROWTH, again())
