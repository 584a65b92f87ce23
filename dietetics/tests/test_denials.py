"""What a line denies is never taken: "tofu (not silken)" is no silken tofu, wherever the words
stand and however they deny it.
"""

from __future__ import annotations

import unittest
from itertools import product

from dietetics.amounts.denials import without_denials
from dietetics.amounts.line_reader import LineReader
from dietetics.composition.foods import load_shelf
from dietetics.tests.samples import again, sample

SHELF = load_shelf()
READER = LineReader(SHELF)
WAYS = (
    "not {}",
    "never {}",
    "don't use {}",
    "do not use {}",
    "instead of {}",
    "rather than {}",
    "anything but {}",
    "other than {}",
)
PLACES = ("100 g {food} ({denied})", "100 g {food}, {denied}", "{denied}, 100 g {food}")


def kinds() -> list[tuple[str, str]]:
    """Every food that has a kind in its name, with the kind: ("Tofu", "silken")."""
    found = {
        (pieces[0].strip(), kind.strip())
        for food in SHELF
        for pieces in [food.name.split(",")]
        for kind in pieces[1:]
    }
    return sorted(found)


class Denied(unittest.TestCase):
    def test_no_denied_row_is_ever_taken(self) -> None:
        cases = product(kinds(), WAYS, PLACES)
        for (head, kind), way, place in sample("denials", cases, 0.06):
            line = place.format(food=head.lower(), denied=way.format(kind.lower()))
            for reading in READER.read(line):
                if reading.food is None:
                    continue
                taken = reading.food.name.split(",")
                names = [piece.strip().lower() for piece in taken[1:]]
                with self.subTest(line, taken=reading.food.name, again=again()):
                    self.assertFalse(
                        taken[0].strip() == head and kind.lower() in names, reading.food.name
                    )

    def test_by_hand(self) -> None:
        """Lines as people write them, each with the row a cook would take."""
        for line, key in (
            ("1 block tofu (not silken)", "tofu-firm"),
            ("2 tbsp soy sauce (not low sodium)", "soy-sauce"),
            ("1 cup tomatoes, not canned", "tomato-raw"),
            ("200 g peanuts (not roasted)", "peanuts-raw"),
            ("1/2 cup sun-dried tomatoes, not in oil", "sun-dried-tomatoes"),
            ("1 cup almond milk, not sweetened", "almond-milk-unsweetened"),
            ("1 cup oat milk instead of soy milk", "oat-milk"),
            ("instead of butter, 2 tbsp olive oil", "olive-oil"),
            ("1 sweet potato rather than a potato", "sweet-potato-raw"),
            ("1 cup coconut milk, not light", "coconut-milk-canned"),
            ("1 cup broccoli, never frozen", "broccoli-raw"),
        ):
            with self.subTest(line):
                reading = READER.read(line)[0]
                self.assertEqual(reading.food and reading.food.key, key, reading.reason)

    def test_claims_with_a_rule_of_their_own_stay(self) -> None:
        for line in (
            "1 can black beans, no salt added",
            "1 cup rice, no need to soak",
            "1 can beans, not drained",
            "1 avocado, not too ripe",
            "1 cup applesauce without sugar",
            "2 cups no-chicken broth",
            "non-dairy yogurt, 1 cup",
        ):
            self.assertEqual(without_denials(line), (line, ()))
        rest, denied = without_denials("1 tbsp peanut butter, no sugar or salt")
        self.assertEqual((rest, denied), ("1 tbsp peanut butter, no sugar, no salt", ()))

    def test_what_is_denied_is_said(self) -> None:
        reading = READER.read("1 block tofu (not silken or soft)")[0]
        self.assertIn("not silken, not soft", reading.remarks)
        only = READER.read("don't use canned beans")[0]
        self.assertEqual(only.reason, "it only says what is not meant: canned beans")
        none = READER.read("1 cup plant milk (not soy, not almond)")[0]
        self.assertTrue(none.food is None or none.food.key not in ("soy-milk-unsweetened",))

    def test_a_row_that_stands_for_both_kinds_asks(self) -> None:
        self.assertEqual(READER.read("2 tbsp miso, not red")[0].confidence, "ask")


class Misspelt(unittest.TestCase):
    """One letter off and one neighbour alone: fairly sure, and said. Anything else asks."""

    def test_fairly_sure_and_said(self) -> None:
        for line, key, said in (
            ("1 cup brocoli", "broccoli-raw", "“brocoli” read as “broccoli”"),
            ("1 cup spinnach", "spinach-raw", "“spinnach” read as “spinach”"),
            ("1 tbsp tumeric", "turmeric", "“tumeric” read as “turmeric”"),
            ("1 cup mushroms", "mushrooms-white-raw", "“mushrom” read as “mushroom”"),
        ):
            reading = READER.read(line)[0]
            self.assertEqual((reading.food.key, reading.confidence), (key, "fair"), line)
            self.assertIn(said, reading.remarks)

    def test_short_words_and_two_letters_ask_and_animals_are_never_mended(self) -> None:
        for line in ("200 g tufu", "1 cup oatts", "1 cup quiona"):
            self.assertEqual(READER.read(line)[0].confidence, "ask", line)
        for line in ("100 g chiken", "1 cup shrimpp", "1 cup chedar", "100 g samon"):
            reading = READER.read(line)[0]
            self.assertTrue(reading.food is None or reading.confidence == "ask", line)
