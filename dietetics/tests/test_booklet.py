"""A client's booklet as a value: the week at a glance, what stands where, kept and read again."""

from __future__ import annotations

import unittest
from dataclasses import replace

from dietetics.errors import DieteticsError
from dietetics.handover.booklet import (
    Booklet,
    CookingEvening,
    DayOfWeek,
    MealOfDay,
    Serving,
    ShopSection,
    Wishes,
    at_a_glance,
    booklet_json,
    booklet_of_json,
)

NOON = MealOfDay("Lunch", (Serving("Tideline bowl"), Serving("Pier bread")))
NOTHING = MealOfDay("Dinner", is_none=True)
EMPTY = MealOfDay("Dinner")
WEEK = Booklet(
    client="Wren", practitioner="Petra", week="Week of 1 Mar", start="2027-03-01", version=1,
    aim="", note="", avoid=("peanut (allergy)",), watch=(), supplements=(),
    days=(
        DayOfWeek("Monday", "1 Mar", "home", (NOON, NOTHING)),
        DayOfWeek("Tuesday", "2 Mar", "home", (EMPTY, NOON)),
    ),
    evenings=(
        CookingEvening("Sunday", "28 Feb", "17:30–18:10", (), ("17:30 chop", "17:40 simmer"), ()),
        CookingEvening("Wednesday", "3 Mar", "17:30–18:00", (), ("17:30 roast",), ()),
    ),
    dishes=(), shopping=(ShopSection("Produce", (("kale-raw", "2 bunches"),)),),
)  # fmt: skip


class Glance(unittest.TestCase):
    def test_a_row_a_day_and_a_column_a_meal(self) -> None:
        self.assertEqual(
            at_a_glance(WEEK),
            [
                ("", "Lunch", "Dinner"),
                ("Monday 1 Mar", "Tideline bowl, Pier bread", "–"),
                ("Tuesday 2 Mar", "–", "Tideline bowl, Pier bread"),
            ],
        )

    def test_the_head_is_that_of_the_first_day_and_a_week_without_days_has_none(self) -> None:
        other = replace(WEEK.days[1], meals=(MealOfDay("Brunch"),))
        named = replace(WEEK, days=(WEEK.days[0], other))
        self.assertEqual(at_a_glance(named)[0], ("", "Lunch", "Dinner"))
        self.assertEqual(at_a_glance(replace(WEEK, days=())), [("",)])


class Places(unittest.TestCase):
    """What a client may answer to."""

    def test_meals_steps_foods_and_dishes(self) -> None:
        meals = [p for p in ("0-0", "0-1", "1-0", "1-1", "2-0", "0-2", "") if WEEK.has_meal(p)]
        self.assertEqual(meals, ["0-0", "1-1"])
        steps = [p for p in ("0-0", "0-1", "0-2", "1-0", "1-1", "2-0") if WEEK.has_step(p)]
        self.assertEqual(steps, ["0-0", "0-1", "1-0"])
        self.assertEqual([WEEK.has_food(k) for k in ("kale-raw", "tofu-firm")], [True, False])
        self.assertEqual([WEEK.has_dish(n) for n in ("Pier bread", "Kale")], [True, False])

    def test_a_meal_is_eaten_unless_it_is_left_out(self) -> None:
        self.assertFalse(EMPTY.is_none)
        self.assertTrue(NOTHING.is_none)


class Kept(unittest.TestCase):
    def test_there_and_back(self) -> None:
        self.assertEqual(booklet_of_json(booklet_json(WEEK)), WEEK)
        self.assertEqual(WEEK.wishes, Wishes("main", "household", "kcal", "dmy"))
        metric = replace(WEEK, figures="all", portions="metric", energy="kj", dates="ymd")
        self.assertEqual(metric.wishes, Wishes("all", "metric", "kj", "ymd"))

    def test_what_is_none_is_refused_in_words(self) -> None:
        with self.assertRaisesRegex(DieteticsError, "days"):
            booklet_of_json({**booklet_json(WEEK), "days": "home"})
