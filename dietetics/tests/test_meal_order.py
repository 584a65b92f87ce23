"""Dishes by turns at the meals of a day: fewer meals as the day before, and nothing lost by it."""

from __future__ import annotations

import unittest
from dataclasses import replace

from dietetics.targets.windows import Window
from dietetics.tests.test_whole_days import varied
from dietetics.week.annealing import rough_week
from dietetics.week.answer import Answer, answer_of
from dietetics.week.first_week import first_week
from dietetics.week.improving import improve
from dietetics.week.meal_order import by_turns
from dietetics.week.question import Offer, Question, Rules, SlotMeal
from dietetics.week.recheck import broken_rules, points_of

LUNCH, DINNER = SlotMeal("Lunch", 0.5, 1.0), SlotMeal("Dinner", 0.5, 1.0)
BOTH = frozenset({"Lunch", "Dinner"})


def same_as_before(answer: Answer) -> int:
    """Meals with the dish of the same meal of the day before, counted by their keys."""
    count = 0
    for day, meal in answer.question.slots:
        key = answer.dish((day, meal))
        if key and (day - 1, meal) in answer.chosen:
            count += answer.dish((day - 1, meal)) == key
    return count


def twice(**more: object) -> Question:
    """Three days with lunch and dinner of two dishes alike."""
    amounts = {"energy_kcal": 500.0}
    offers = [Offer(key, key, BOTH, amounts, 500, most_uses=7, apart=1) for key in ("oats", "rice")]
    windows = (Window("energy_kcal", 900, 1100, "must"),)
    rules = Rules((-1,), 2, None, (1.0,))
    asked = Question(("home",) * 3, (LUNCH, DINNER), windows, tuple(offers), rules=rules)
    return replace(asked, **more)  # type: ignore[arg-type]


def filled(question: Question, lunches: str, dinners: str) -> Answer:
    """A week of dishes by their first letters."""
    chosen = {}
    for meal, letters in enumerate((lunches, dinners)):
        for day, letter in enumerate(letters):
            options = question.choices((day, meal))
            keys = [question.offers[one.dish].key[0] if one.dish >= 0 else "-" for one in options]
            chosen[day, meal] = options[keys.index(letter)]
    return answer_of(question, chosen)


def letters(answer: Answer, meal: int) -> str:
    """The dishes of a meal, by their first letters."""
    return "".join(answer.dish((day, meal))[:1] or "-" for day in range(3))


class ByTurns(unittest.TestCase):
    def test_lunch_and_dinner_change_places_on_the_day_between(self) -> None:
        found = by_turns(filled(twice(), "ooo", "rrr"))
        self.assertEqual((letters(found, 0), letters(found, 1)), ("oro", "ror"))

    def test_planned_and_searched_weeks_come_by_turns(self) -> None:
        for seed in range(1, 6):
            self.assertEqual(same_as_before(first_week(twice(), seed)), 0)
        self.assertEqual(same_as_before(improve(twice(), filled(twice(), "ooo", "rrr"), 1)), 0)

    def test_a_locked_meal_stays(self) -> None:
        asked = twice(locks={(1, 0): ("oats", 1.0)})
        there = filled(twice(), "ooo", "rrr")
        locked = answer_of(asked, {slot: asked.choices(slot)[0] for slot in asked.slots}).chosen
        found = by_turns(answer_of(asked, {**there.chosen, (1, 0): locked[1, 0]}))
        self.assertEqual((letters(found, 0), letters(found, 1)), ("ror", "oro"))

    def test_a_dish_that_suits_one_meal_alone_stays_there(self) -> None:
        first, second = twice().offers
        asked = twice(offers=(replace(first, meals=frozenset({"Lunch"})), second))
        found = by_turns(filled(asked, "ooo", "rrr"))
        self.assertEqual((letters(found, 0), letters(found, 1)), ("ooo", "rrr"))

    def test_meals_without_a_dish_are_no_repetition(self) -> None:
        there = filled(twice(), "---", "oro")
        self.assertIs(by_turns(there), there)

    def test_a_larger_dinner_stays_at_dinner(self) -> None:
        """Exchanged, each dish would be further from its meal's share of the day."""
        oats, rice = twice().offers
        oats = replace(oats, amounts={"energy_kcal": 400.0})
        rice = replace(rice, amounts={"energy_kcal": 600.0})
        meals = (replace(LUNCH, share=0.4), replace(DINNER, share=0.6))
        there = filled(twice(offers=(oats, rice), meals=meals), "ooo", "rrr")
        self.assertIs(by_turns(there), there)

    def test_no_point_is_lost_and_no_rule_broken(self) -> None:
        changed = 0
        for seed in range(60):
            question = varied(seed, days=4, dishes=4)
            rough = replace(rough_week(question, seed, 60), bound=1.0)
            for start in (rough, first_week(question, seed)):
                found = by_turns(start)
                self.assertLessEqual(found.points, start.points + 1e-6)
                self.assertAlmostEqual(points_of(found), found.points, places=6)
                self.assertLessEqual(len(broken_rules(found)), len(broken_rules(start)))
                self.assertLessEqual(same_as_before(found), same_as_before(start))
                self.assertEqual(found.bound, start.bound)
                for slot in question.locks:
                    self.assertEqual(found.dish(slot), start.dish(slot))
                for day in range(4):
                    self.assertEqual(
                        sorted(found.dish(slot) for slot in question.slots if slot[0] == day),
                        sorted(start.dish(slot) for slot in question.slots if slot[0] == day),
                    )
                changed += found.chosen != start.chosen
        self.assertGreater(changed, 2)
