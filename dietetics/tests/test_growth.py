"""Four times the text takes about four times the time, whatever is in it, for every public reader.

Readers are found by import: every public function of the core whose first argument is a text. One
that is added tomorrow is asked too, or the test fails and says what argument it cannot make up.
Time is that of the processor in this process, the least of several tries, and only what is far
from linear is called wrong, three times over: a busy machine makes nothing red.
"""

from __future__ import annotations

import contextlib
import importlib
import inspect
import pkgutil
import re
import time
import unittest
from collections.abc import Callable, Iterator
from datetime import date
from functools import cache, partial
from typing import Any

import dietetics
from dietetics.amounts.line_reader import LineReader, name_index
from dietetics.amounts.weighing import Scales
from dietetics.composition.foods import load_shelf
from dietetics.dishes.recipes import read_recipe
from dietetics.dishes.stated_yield import StatedYield
from dietetics.errors import DieteticsError
from dietetics.tests.samples import sample

TEXTS = {
    "text", "line", "phrase", "page", "inside", "body", "item", "step", "notes", "typed", "name",
}  # fmt: skip
# a key or a part of a program's own, not what somebody wrote
NO_READERS = {
    "composition.foods.read_table", "prep.step_reading.verb_named", "amounts.grammar.remembered",
    "targets.meal_components.is_component", "week.question_building.travels_cold",
    "week.question_building.is_porridge", "prep.step_reading.words_for", "nutrients.in_text",
    "labels.columns.number",
}  # fmt: skip
HOSTILE = (
    "7", "٣", "३", "７", "๓", " ", "\t", "\u00a0", "(", "()", "[", "½", "1/", "-", "–", "e\u0301",
    "\u0301", "🙂", "\u200d", "1 ", "1,", "1.", "a ", "a-", "salt, ", "\n", "1\n", "1 cup ", ". ",
    "²", "x", "12-", "and ", "1 to ", ";", "1 g (", "not ", "per 100 g ", "<", "<a ", "%", "1% ",
    "{", '"', "\\", "'", "1 x ", "A", "a:", "energy ", "milk (", "may contain ", "10 min ",
)  # fmt: skip
SIZES = (1_000, 4_000, 16_000)
MOST_GROWTH = 2.6**2  # of time when the text is doubled twice: linear is 4, quadratic 16
TOO_SHORT_S = 0.03  # less than this is noise
TRIES = (2, 4, 8)
Reader = Callable[[str], object]


@cache
def arguments() -> dict[str, Any]:
    """What readers ask for beside their text."""
    shelf = load_shelf()
    reader = LineReader(shelf)
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
        "spoon": False,
        "grams": 100.0,
        "serving_g": None,
        "oven_celsius": None,
        "household": Scales(shelf).household,
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


def seconds(reader: Reader, text: str, tries: int) -> float:
    """The least processor time of some tries; an error of ours is an answer."""
    least = float("inf")
    for _ in range(tries):
        before = time.process_time()
        with contextlib.suppress(DieteticsError):
            reader(text)
        least = min(least, time.process_time() - before)
    return least


def grows_too_fast(reader: Reader, piece: str) -> str:
    """The size and seconds where a text four times as long took too long; "" where none did."""
    for shorter, longer in zip(SIZES, SIZES[1:], strict=False):
        for tries in TRIES:
            now = seconds(reader, (piece * longer)[:longer], tries)
            if now <= TOO_SHORT_S:
                break
            before = seconds(reader, (piece * shorter)[:shorter], tries)
            if now <= MOST_GROWTH * before:
                break
        else:
            return f"{shorter}: {before:.3f} s, {longer}: {now:.3f} s"
    return ""


class Growth(unittest.TestCase):
    def test_there_are_readers(self) -> None:
        names = [name for name, _ in readers()]
        self.assertGreater(len(names), 50)
        for name in ("dishes.recipes.read_recipe", "labels.label_reader.read_label"):
            self.assertIn(name, names)

    def test_a_quadratic_reader_is_noticed_and_a_linear_one_is_not(self) -> None:
        self.assertTrue(grows_too_fast(lambda text: [0 for _ in text for _ in text[::64]], "a"))
        self.assertTrue(grows_too_fast(lambda text: re.search(r"\s+$", text + "a"), " "))
        self.assertEqual(grows_too_fast(lambda text: [0 for _ in text for _ in "x" * 400], "a"), "")

    def test_time_grows_with_the_text(self) -> None:
        pairs = [(name, piece) for name, _ in readers() for piece in HOSTILE]
        every = dict(readers())
        for name, piece in sample("growth of readers", pairs, 0.03):
            with self.subTest(name, piece=piece):
                self.assertEqual(grows_too_fast(every[name], piece), "")
