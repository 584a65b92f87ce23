"""What comes from outside is told in words where it does not fit; searches end by the clock in the
program, and never in a test.
"""

from __future__ import annotations

import math
import subprocess
import sys
import unittest

from msgspec import Struct, ValidationError

from dietetics.errors import DieteticsError
from dietetics.json_shapes import plain_problem, shaped
from dietetics.time_limits import limit_s, mind_the_clock, now_s


class Dish(Struct, forbid_unknown_fields=True):
    """A made-up shape."""

    name: str
    uses: int = 1
    tags: list[str] = []


# in a process of its own, since what goes wrong ends it
TABLES_FIRST_READ_BY_EIGHT = """
import importlib, sys, threading
sys.setswitchinterval(1e-6)
TABLES = {"targets.needs_table": "rows", "follow.red_flags": "rows",
    "week.nutrient_verdict": "gap_foods", "cautions.never_eaten": "said_words"}
for _ in range(3):
    for name, read in TABLES.items():
        sys.modules.pop("dietetics." + name, None)
        table = importlib.import_module("dietetics." + name)
        gate, read_by = threading.Barrier(8), []
        def read_it():
            gate.wait()
            read_by.append(len(getattr(table, read)()))
        readers = [threading.Thread(target=read_it) for _ in range(8)]
        for reader in readers: reader.start()
        for reader in readers: reader.join()
        assert len(read_by) == 8 and len(set(read_by)) == 1, (name, read_by)
"""


class FirstRead(unittest.TestCase):
    def test_tables_first_read_by_eight_threads_at_once_are_read_by_each(self) -> None:
        done = subprocess.run(
            [sys.executable, "-c", TABLES_FIRST_READ_BY_EIGHT],
            capture_output=True, text=True, check=False,
        )  # fmt: skip
        self.assertEqual((done.returncode, done.stderr[-400:]), (0, ""))


class Shapes(unittest.TestCase):
    def refused(self, value: object) -> str:
        """What is said of a value that does not fit."""
        with self.assertRaises(DieteticsError) as caught:
            shaped(value, Dish, "week-unreadable")
        self.assertEqual(caught.exception.code, "week-unreadable")
        return str(caught.exception)

    def test_numbers_and_texts_are_tidied_first(self) -> None:
        found = shaped({"name": "  Kale ", "uses": 3.0, "tags": [" a "]}, Dish, "x")
        self.assertEqual((found.name, found.uses, found.tags), ("Kale", 3, ["a"]))
        self.assertIs(type(found.uses), int)

    def test_what_does_not_fit_is_told_with_its_place(self) -> None:
        for value, words in (
            ({"name": 3}, "name: expected text, got a whole number"),
            ({"name": "x", "uses": 2.5}, "uses: expected a whole number, got a number"),
            ({"name": "x", "uses": None}, "uses: expected a whole number, got nothing (null)"),
            ({"name": "x", "tags": ["a", True]}, "tags[1]: expected text, got true or false"),
            ({"name": "x", "tags": {}}, "tags: expected a list, got an object"),
            ({"name": "x", "use": 1}, "there is no field “use”"),
            ({}, "name"),
            (float("inf"), "got a number"),
        ):
            with self.subTest(value=value):
                self.assertIn(words, self.refused(value))

    def test_a_problem_without_a_place(self) -> None:
        self.assertEqual(
            plain_problem(ValidationError("Expected `object`, got `array`")),
            "expected an object, got a list",
        )
        self.assertEqual(
            plain_problem(ValidationError("Expected `str | null`, got `int` - at `$.a`")),
            "a: expected text or nothing (null), got a whole number",
        )
        self.assertEqual(
            plain_problem(ValidationError("Expected `str` matching regex '\\\\S' - at `$.name`")),
            "name: must not be empty",
        )


class Limits(unittest.TestCase):
    def tearDown(self) -> None:
        mind_the_clock(False)

    def test_without_the_clock_nothing_ends_a_search(self) -> None:
        mind_the_clock(False)
        self.assertEqual((now_s(), now_s()), (0.0, 0.0))
        self.assertEqual((limit_s(2.0), limit_s(-1.0)), (math.inf, math.inf))

    def test_with_the_clock_a_solver_has_a_hundredth_at_least(self) -> None:
        mind_the_clock(True)
        self.assertGreater(now_s(), 0)
        self.assertLessEqual(now_s(), now_s())
        self.assertEqual((limit_s(2.0), limit_s(0.001), limit_s(-5.0)), (2.0, 0.01, 0.01))

    def test_the_program_minds_it_unless_somebody_says_otherwise(self) -> None:
        asked = "from dietetics.time_limits import limit_s; print(limit_s(7.0))"
        done = subprocess.run(
            [sys.executable, "-c", asked], capture_output=True, text=True, check=True
        )
        self.assertEqual(done.stdout.strip(), "7.0")
