"""No reading at the two highest kinds of sureness contradicts a word that changes the food.

Foods × changing words, foods from animals, and plant foods that the shelf lacks. What honours a
word is written in `corpus/words_that_change.txt`, apart from the code that reads.
"""

from __future__ import annotations

import re
import unittest
from collections.abc import Iterator
from dataclasses import dataclass
from itertools import product
from pathlib import Path

from dietetics.amounts.line_reader import LineReader, LineReading
from dietetics.composition.foods import Food, load_shelf
from dietetics.tests.samples import again, sample

CORPUS = Path(__file__).parent / "corpus"
SHELF = load_shelf()
READER = LineReader(SHELF)
SURE = ("high", "fair")
SHARE = 0.06  # of foods times words, some 1,000 lines of each form
SURE_SHARE = 0.04  # 1,000 sure readings of the 17,000 lines of a form were the least, at first


def rows_of(name: str) -> list[str]:
    """The lines of a corpus file, comments aside."""
    return [
        r
        for r in (CORPUS / name).read_text(encoding="utf-8").splitlines()
        if r and not r.startswith("#")
    ]


@dataclass(frozen=True)
class ChangingWord:
    """A word, where it stands, and the tests of which one must hold for a row to honour it."""

    word: str
    before: bool
    honoured_by: tuple[str, ...]

    @classmethod
    def of(cls, row: str) -> ChangingWord:
        """Read one row of the file."""
        word, place, honoured = (cell.strip() for cell in row.split(" | "))
        pattern = honoured.find("name:")
        plain, name = (honoured, "") if pattern < 0 else (honoured[:pattern], honoured[pattern:])
        return cls(word, place == "before", (*plain.split(), *([name] if name else [])))

    def line(self, name: str, form: str) -> str:
        """A written line with this word and the name of a food: side by side, behind a comma, or in
        brackets.
        """
        if form == "beside":
            return f"1 cup {self.word} {name}" if self.before else f"1 cup {name} {self.word}"
        return f"1 cup {name}, {self.word}" if form == "comma" else f"1 cup {name} ({self.word})"

    def is_honoured(self, food: Food) -> bool:
        """True when one of the tests holds for the row."""
        return any(self._holds(test, food) for test in self.honoured_by)

    def _holds(self, test: str, food: Food) -> bool:
        kind, _, value = (
            test.partition("=")
            if "=" in test and not test.startswith("name:")
            else test.partition(":")
        )
        texts = " ; ".join((*food.names, food.source_row, food.name)).lower()
        answers = {
            "state": lambda: food.state in value.split(","),
            "group": lambda: food.group in value.split(","),
            "name": lambda: re.search(value, texts) is not None,
            "salted": lambda: food.salted,
            "unsalted": lambda: not food.salted,
            "sugars": lambda: food.processing > 2 and (food.per_100g["sugars_g"] or 0) > 5,
            "fortified": lambda: food.fortified,
            "unfortified": lambda: not food.fortified,
            "no-oil": lambda: not food.oil_added and food.group != "oil",
            "no-gluten": lambda: not {"gluten", "wheat", "gluten-trace"} & set(food.allergens),
        }
        if kind in answers:
            return answers[kind]()
        return kind.startswith("no-") and kind.removeprefix("no-") not in food.allergens


def sure_readings(text: str) -> Iterator[LineReading]:
    """The readings of a line that are marked sure or fairly sure."""
    return (r for r in READER.read(text) if r.matched and r.confidence in SURE)


class FoodsTimesWords(unittest.TestCase):
    """Every food's plain name with every changing word. First runs, sure readings that contradicted
    their word: beside the name 690 of 6,478, behind a comma 9,673 of 15,454, in brackets 8,619 of
    13,852.
    """

    def none_contradicted(self, form: str) -> None:
        """Enough readings of a form of line are sure, and none of them contradicts its word."""
        words = [ChangingWord.of(row) for row in rows_of("words_that_change.txt")]
        # a word behind "without" is denied with it (test_denials.py)
        every = {food.name.split(",")[0].lower() for food in SHELF}
        names = sorted(name for name in every if "without" not in name)
        self.assertGreaterEqual(len(words), 40)
        self.assertGreaterEqual(len(names), 400)
        found, sure = [], 0
        lines = sample(form, product(words, names), SHARE)
        for one, name in lines:
            for reading in sure_readings(one.line(name, form)):
                sure += 1
                if not one.is_honoured(reading.food):
                    found.append(
                        f"{one.line(name, form)}: {reading.food.key} ({reading.confidence})"
                    )
        self.assertGreater(
            sure, len(lines) * SURE_SHARE, "a reader that is never sure proves nothing"
        )
        self.assertEqual(found, [], again())

    def test_beside_the_name(self) -> None:
        self.none_contradicted("beside")

    def test_behind_a_comma(self) -> None:
        self.none_contradicted("comma")

    def test_in_brackets(self) -> None:
        self.none_contradicted("brackets")


class FoodsThatAreNotHeld(unittest.TestCase):
    """Animal foods, and plant foods without a row."""

    TEMPLATES = ("1 cup {}", "200 g {}", "2 tbsp chopped {}", "{}, 100 g", "1 cup cooked {}")

    def test_foods_from_animals_are_never_plant_foods(self) -> None:
        foods = rows_of("animal_foods.txt")
        self.assertGreaterEqual(len(foods), 60)
        read = [
            f"{t.format(food)}: {r.food.key} ({r.confidence})"
            for food in foods
            for t in self.TEMPLATES
            for r in READER.read(t.format(food))
            if r.matched
        ]
        self.assertEqual(read, [])

    def test_a_food_from_an_animal_says_so_and_offers_what_may_stand_in(self) -> None:
        reading = READER.read("2 large eggs")[0]
        self.assertIn("not a plant food", reading.reason)
        self.assertIn("tofu-silken", [choice.food.key for choice in reading.choices])

    def test_names_that_are_not_held_are_not_taken_for_others(self) -> None:
        held = {
            word.lower() for food in SHELF for word in (food.name.split(",")[0], *food.synonyms)
        }
        foods = [name for name in rows_of("names_not_held.txt") if name.lower() not in held]
        self.assertGreaterEqual(len(foods), 40)
        read = [
            f"{t.format(food)}: {r.food.key} ({r.confidence})"
            for food in foods
            for t in self.TEMPLATES
            for r in READER.read(t.format(food))
            if r.matched and r.confidence in SURE
        ]
        self.assertEqual(read, [])
