"""Two big soups and one big pot: one after the other, and the pot washed between."""

from __future__ import annotations

import unittest
from dataclasses import replace

from hypothesis import given, settings
from hypothesis import strategies as st

from dietetics.composition.foods import load_shelf
from dietetics.errors import DieteticsError
from dietetics.prep.evening import evening_of
from dietetics.prep.kitchen import Kitchen, kitchen_of_words
from dietetics.prep.timetable import Timetable
from dietetics.prep.timetable_recheck import checked
from dietetics.prep.to_cook import CookedLine, DishToCook


def soup(name: str, water_g: float, minutes: int) -> DishToCook:
    """Carrots simmered in so much water."""
    shelf = load_shelf()
    lines = (
        CookedLine("400 g carrots", shelf.food("carrot-raw"), 400.0),
        CookedLine("water", shelf.food("water"), water_g),
    )
    steps = (f"Simmer the carrots in the boiling water for {minutes} minutes.",)
    return DishToCook(name.lower(), name, lines, steps)


def from_to(found: Timetable, dish: str) -> tuple[int, int]:
    """From the first minute on the hob to the last container of a dish."""
    mine = [task for task in found.asked.tasks if dish in task.dishes]
    hob = [found.starts[task.key] for task in mine if task.device == "burner"]
    shared = [found.starts[t.key] + t.minutes for t in mine if t.verb == "portion"]
    return min(hob), max(shared)


class BigPots(unittest.TestCase):
    def test_two_big_soups_are_cooked_in_turns_and_the_pot_is_washed(self) -> None:
        evening = evening_of([soup("Red", 4000, 30), soup("Green", 4000, 20)], Kitchen())
        red, green = (from_to(evening.timetable, name) for name in ("Red", "Green"))
        first, second = sorted((red, green))
        self.assertGreaterEqual(second[0], first[1] + 3)
        self.assertTrue(any("big pot" in t.text for t in evening.timetable.asked.tasks))
        self.assertTrue(any("washed between" in words for words in evening.words))

    def test_small_soups_stand_side_by_side(self) -> None:
        evening = evening_of([soup("Red", 2000, 30), soup("Green", 2000, 30)], Kitchen())
        red, green = (from_to(evening.timetable, name) for name in ("Red", "Green"))
        self.assertLess(max(red[0], green[0]), min(red[1], green[1]))
        self.assertEqual(evening.words, ())

    def test_with_two_big_pots_nobody_waits(self) -> None:
        dishes = [soup("Red", 4000, 30), soup("Green", 4000, 30)]
        two = evening_of(dishes, Kitchen(big_pots=2)).timetable.length
        one = evening_of(dishes, Kitchen()).timetable.length
        self.assertGreater(one, two + 25)

    def test_the_shorter_order_is_taken(self) -> None:
        # one has to chill for long behind its pot: it goes first
        slow = soup("Slow", 4000, 20)
        slow = replace(slow, steps=(*slow.steps, "Leave to cool for 60 minutes."))
        evening = evening_of([soup("Quick", 4000, 20), slow], Kitchen())
        starts = {name: from_to(evening.timetable, name)[0] for name in ("Quick", "Slow")}
        whole = evening.timetable.length
        self.assertLess(whole, 20 + 60 + 20 + 40)
        self.assertNotEqual(starts["Quick"], starts["Slow"])

    def test_the_second_check_sees_two_big_pots_at_once(self) -> None:
        found = evening_of([soup("Red", 4000, 30), soup("Green", 4000, 30)], Kitchen(big_pots=2))
        asked = replace(found.timetable.asked, kitchen=Kitchen(big_pots=1))
        with self.assertRaises(DieteticsError):
            checked(replace(found.timetable, asked=asked))

    def test_a_kitchen_is_told_in_words(self) -> None:
        self.assertEqual(kitchen_of_words("two big pots, oven")[0].big_pots, 2)
        self.assertEqual(kitchen_of_words("oven")[0].big_pots, 1)
        self.assertEqual(kitchen_of_words("no large pot")[0].big_pots, 1)

    @settings(max_examples=25, deadline=None)
    @given(st.lists(st.sampled_from((1500, 2700, 3500, 5000)), min_size=1, max_size=4))
    def test_no_evening_holds_more_big_pots_than_there_are(self, waters: list[int]) -> None:
        dishes = [soup(f"Soup {n}", water, 15) for n, water in enumerate(waters)]
        found = evening_of(dishes, Kitchen(), proven=False).timetable
        spans = [
            from_to(found, f"Soup {n}") for n, water in enumerate(waters) if water + 400 > 3000
        ]
        for minute in range(found.length):
            self.assertLessEqual(sum(a <= minute < b for a, b in spans), 1)


if __name__ == "__main__":
    unittest.main()
