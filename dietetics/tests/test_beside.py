"""What stands beside a dish (a side, a drink) stays when a week is planned, and counts."""

from __future__ import annotations

import unittest
from dataclasses import replace

from dietetics.tests.test_priorities import asked, eaten, lunch
from dietetics.tests.test_week_solver import small
from dietetics.week.day_prices import Ask
from dietetics.week.plan import Cell, Entry
from dietetics.week.question.question import BatchFacts, Offer, Question
from dietetics.week.question.question_building import dish_and_sides, stays
from dietetics.week.question.recheck import broken_rules, checked_week
from dietetics.week.search.improving import first_week

STEW, SALAD, TEA = Entry("bowl-1", "Stew"), Entry("batch-2", "Salad"), Entry("drink:tea", "Tea")
BREAD = Entry("food:bread", "Bread")
OFFERED = {"bowl-1", "bowl-9"}


class Cells(unittest.TestCase):
    """What of a cell is planned anew."""

    def test_the_first_dish_that_is_offered_is_planned_and_the_rest_stays(self) -> None:
        for entries, dish, sides in (
            ((), None, ()),
            ((STEW,), STEW, ()),
            ((SALAD, STEW, TEA), STEW, (SALAD, TEA)),
            ((TEA,), None, (TEA,)),
            ((SALAD, TEA), None, (TEA,)),
        ):
            with self.subTest(entries):
                self.assertEqual(dish_and_sides(Cell(entries), OFFERED), (dish, sides))
                self.assertFalse(stays(Cell(entries), OFFERED))

    def test_several_dishes_of_which_none_is_offered_stay_as_they_are(self) -> None:
        self.assertTrue(stays(Cell((SALAD, BREAD)), OFFERED))
        self.assertTrue(stays(Cell((STEW,), locked=True), OFFERED))


class Weeks(unittest.TestCase):
    """Weeks planned around sides."""

    SIDE = lunch("side", 150, **{"ask:greens": 60.0, "calcium_mg": 0.0})

    def test_the_dish_is_chosen_that_fits_with_its_side(self) -> None:
        """500 to 600 kcal are wanted: 550 alone, 400 beside a side of 150."""
        question = asked(lunch("right", 550), lunch("small", 400))
        self.assertEqual(eaten(question), ["right"])
        self.assertEqual(eaten(replace(question, beside={(0, 0): self.SIDE})), ["small"])

    def test_what_the_side_holds_counts_for_the_day(self) -> None:
        greens = Ask("greens", "Greens", 60, "should")
        green, plain = lunch("green", 400, **{"ask:greens": 60.0}, liking=0), lunch("plain", 400)
        question = asked(green, plain, asks=(greens,))
        self.assertEqual(eaten(question), ["green"])
        self.assertEqual(eaten(replace(question, beside={(0, 0): self.SIDE})), ["plain"])

    def test_a_heavy_side_makes_the_meal_heavy(self) -> None:
        """Meals of 500 g; at most 700 are usual: with 300 beside, the lighter dish (350) comes."""
        light = replace(lunch("light", 400, liking=0), grams=350.0)
        question = asked(lunch("loved", 400, liking=3), light)
        question = replace(question, rules=replace(question.rules, most_meal_g=700.0))
        side = replace(self.SIDE, grams=300.0)
        self.assertEqual(eaten(replace(question, beside={(0, 0): side})), ["light"])

    def test_a_side_out_of_a_batch_has_it_cooked(self) -> None:
        side = replace(self.SIDE, own={"slaw": 0.5})
        pot = BatchFacts("slaw", "Slaw", 4)
        question = replace(asked(lunch("small", 400), pots=(pot,)), beside={(0, 0): side})
        self.assertEqual(dict(first_week(question).cooked), {("slaw", -1): 0.5})

    def test_weeks_with_sides_keep_every_rule_and_cost_what_they_are_said_to(self) -> None:
        """Points and pots counted anew, dish by dish and side by side."""
        for seed in range(5):
            question = _with_sides(small(seed, days=3, dishes=5, scales=(0.75, 1.0)))
            found = first_week(question)
            self.assertEqual(broken_rules(found), [], seed)
            checked_week(found)


def _with_sides(question: Question) -> Question:
    """A small week with a dish of its own beside every other meal, as half a serving."""
    half = replace(question.offers[0], key="half", meals=frozenset())
    beside: Offer = replace(
        half,
        amounts={key: 0.5 * amount for key, amount in half.amounts.items()},
        grams=0.5 * half.grams,
        own={key: 0.5 * share for key, share in half.own.items()},
        table={},
    )
    return replace(question, beside=dict.fromkeys(question.slots[::2], beside))
