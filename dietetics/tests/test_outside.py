"""What comes from outside is bounded: its size in steps, its characters, its numbers, and what a
spreadsheet would run.
"""

from __future__ import annotations

import unittest
from collections.abc import Callable, Sequence

from hypothesis import given
from hypothesis import strategies as st

from dietetics.amounts.line_reader import LineReader
from dietetics.composition.foods import load_shelf
from dietetics.dishes.recipe_files import read_file
from dietetics.dishes.recipes import MAX_TEXT, read_recipe
from dietetics.dishes.steps import read_step
from dietetics.errors import DieteticsError
from dietetics.labels.ingredients import read_ingredients
from dietetics.labels.label_reader import read_label
from dietetics.targets.supplements import read_supplements
from dietetics.tests.samples import again, sample
from dietetics.tests.work_counted import times_the_work
from dietetics.untrusted_input import (
    MOST_DEPTH,
    MOST_DIGITS,
    MOST_VALUES,
    bounded_json,
    harmless_cell,
    plain_text,
    written_cell,
)

# Pieces that patterns stumble over: openings without an end, numbers and blanks in long rows, words
# that begin a phrase.
PIECES = (
    "<", "(", "[", "1 ", "1", "1,", "1.", "1/", "½", " ", "\t", "-", "a ", "a-", "x", "1 x ", "1-",
    "to ", "or ", "about ", "%", "°", ",", ":",
    ";", "\"", "'", "serves ", "1 g ", "contains ", "may contain ", "and ", "minutes ", "1 hour ",
    "no ", "mg ", "made ", "kann ", "not suitable for ", "free ", "free from ", "E ", "vitamin ",
    "calcium ", "of which ", "per 100 g ", "&lt;", "\\", "{",
)  # fmt: skip
SMALL, TIMES = 200, 8
# eight times the size: eight times the lines walked where they are linear, 64 where they are squared
MOST_RATIO = 20.0


class SizeInSteps(unittest.TestCase):
    """No text makes a reader walk over it again and again. Sizes are compared with each other by the
    lines of Python that are walked through, not by a clock.
    """

    def squared(self, read: Callable[[str], object], pieces: Sequence[str] = PIECES) -> list[str]:
        """The pieces of which eight times as many take far more than eight times the work."""
        return [
            f"{piece!r}: {ratio:.0f}"
            for piece in pieces
            if (ratio := times_the_work(read, piece, SMALL, TIMES)) > MOST_RATIO
        ]

    def test_a_file_of_a_recipe(self) -> None:
        for name in ("a.html", "a.json", "a.txt", "a.csv"):
            self.assertEqual(
                self.squared(lambda text, name=name: read_file(b"<html>" + text.encode(), name)),
                [],
                name,
            )

    def test_the_texts_inside_a_recipe_of_a_page(self) -> None:
        def read(text: str) -> object:
            quoted = text.replace("\\", " ").replace('"', " ").replace("\t", " ")
            return read_file(
                f'{{"@type": "Recipe", "name": "{quoted}", "recipeIngredient": ["{quoted}"]}}'.encode(),
                "a.json",
            )

        self.assertEqual(self.squared(read), [])

    def test_a_recipe(self) -> None:
        reader = LineReader(load_shelf())
        self.assertGreaterEqual(MAX_TEXT, SMALL * TIMES)
        pieces = [
            *sample("pieces", PIECES, 0.2),
            "1",
        ]  # reading foods takes long, and a line has 320 characters at most
        self.assertEqual(
            self.squared(lambda text: read_recipe(f"Stew\n{text}\n", reader), pieces), []
        )

    def test_a_label_and_its_list(self) -> None:
        pieces = sample("pieces of labels", PIECES, 0.3)
        self.assertEqual(self.squared(read_label, pieces), [], again())
        self.assertEqual(self.squared(read_ingredients, pieces), [], again())

    def test_steps_and_supplements(self) -> None:
        self.assertEqual(self.squared(read_step), [])
        self.assertEqual(self.squared(read_supplements), [])

    def test_json(self) -> None:
        self.assertEqual(self.squared(bounded_json), [])


class Json(unittest.TestCase):
    """Limits are kept before anything is parsed."""

    def refused(self, text: str) -> str:
        """What is said of a text that is refused."""
        with self.assertRaises(DieteticsError) as caught:
            bounded_json(text)
        self.assertEqual(caught.exception.code, "json-refused")
        return str(caught.exception)

    def test_nesting_values_and_digits_have_limits(self) -> None:
        self.assertEqual(bounded_json("[" * MOST_DEPTH + "]" * MOST_DEPTH) != [], True)
        self.assertIn("nested", self.refused("[" * (MOST_DEPTH + 1) + "]" * (MOST_DEPTH + 1)))
        self.assertIn("nested", self.refused('{"a":' * 100_000))
        self.assertIn("values", self.refused("[" + "1," * 300_000 + "1]"))
        self.assertEqual(bounded_json("1" * MOST_DIGITS), int("1" * MOST_DIGITS))
        self.assertIn("digits", self.refused("1" * (MOST_DIGITS + 1)))
        self.assertIn("digits", self.refused("-0." + "1" * 5000))

    def test_what_stands_in_a_string_is_not_counted(self) -> None:
        self.assertEqual(bounded_json('"' + "[" * 500 + "9" * 500 + '"'), "[" * 500 + "9" * 500)
        self.assertEqual(bounded_json('["a\\"[[[", "\\\\"]'), ['a"[[[', "\\"])

    def test_numbers_that_are_none_and_halves_of_characters(self) -> None:
        for text in ("NaN", "[Infinity]", "-Infinity"):
            self.assertIn("not a number", self.refused(text))
        self.assertIn("broken character", self.refused('"\\ud800"'))
        self.assertEqual(bounded_json('"\\ud83c\\udf31"'), "🌱")

    @given(
        st.recursive(
            st.none()
            | st.booleans()
            | st.integers(-(10**9), 10**9)
            | st.text(st.characters(codec="utf-8")),
            lambda inner: (
                st.lists(inner, max_size=4)
                | st.dictionaries(st.text(st.characters(codec="utf-8")), inner, max_size=4)
            ),
        )
    )
    def test_what_is_json_comes_through_as_it_is(self, value: object) -> None:
        import json

        self.assertEqual(bounded_json(json.dumps(value)), value)
        self.assertEqual(bounded_json(json.dumps(value, ensure_ascii=False)), value)


class Characters(unittest.TestCase):
    """Text is text."""

    def test_the_last_half_character_and_every_turning_mark_go(self) -> None:
        gone = ["\ud800", "\udfff", "\ufffe", "\uffff", *map(chr, range(0x202A, 0x202F)),
                *map(chr, range(0x2066, 0x206A)), *map(chr, range(0x7F, 0xA0))]  # fmt: skip
        for one in gone:
            self.assertEqual(plain_text(f"a{one}b"), "ab", hex(ord(one)))
        for kept in ("\ue000", "\ufffd", "\u2029", "\u2070", "\xa0", "~", " "):
            self.assertEqual(plain_text(f"a{kept}b"), f"a{kept}b", hex(ord(kept)))

    def test_the_most_values_are_taken_and_one_more_is_not(self) -> None:
        self.assertEqual(len(bounded_json("[" + "1," * (MOST_VALUES - 2) + "1]")), MOST_VALUES - 1)
        with self.assertRaises(DieteticsError):
            bounded_json("[" + "1," * MOST_VALUES + "1]")
        # brackets that are closed again are no depth
        self.assertEqual(len(bounded_json("[" + "[]," * 500 + "[]]")), 501)

    def test_lines_end_one_way_and_controls_go(self) -> None:
        self.assertEqual(plain_text("a\r\nb\rc\x0bd\x0ce"), "a\nb\nc\nd\ne")
        self.assertEqual(plain_text("a\x00\x01b\x1b\x7f\x85c\ud800\ufffe\u202e"), "abc")
        self.assertEqual(plain_text("½ cup jalapeño 🌱\tfine\n"), "½ cup jalapeño 🌱\tfine\n")

    @given(st.text())
    def test_plain_text_stays_plain(self, text: str) -> None:
        once = plain_text(text)
        self.assertEqual(plain_text(once), once)
        once.encode()


class Cells(unittest.TestCase):
    """What a spreadsheet would run is kept as text, and comes back as it was."""

    def test_every_beginning_of_a_formula(self) -> None:
        for text in (
            "=1+1",
            "+1",
            "-1",
            "@SUM(A1)",
            "＝1+1",
            "＋1",
            "－1",
            "＠SUM(1)",
            "=cmd|' /C calc'!A0",
            "\t=1",
            "\r=1",
            "\n=1",
        ):
            cell = harmless_cell(text)
            self.assertTrue(cell.startswith("'") or cell[0] not in "=+-@＝＋－＠\t\r\n", text)
        self.assertEqual(
            (harmless_cell(-1.5), harmless_cell(None), harmless_cell("kale")), (-1.5, None, "kale")
        )

    @given(st.text())
    def test_it_comes_back(self, text: str) -> None:
        plain = plain_text(text)
        if not plain.startswith("'"):
            self.assertEqual(written_cell(harmless_cell(text)), plain)
