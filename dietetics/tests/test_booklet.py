"""A client's booklet as a value: the week at a glance, what stands where, kept and read again."""

from __future__ import annotations

import unittest
from dataclasses import replace

from hypothesis import given
from hypothesis import strategies as st

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
    in_columns,
    in_pages,
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


class InPages(unittest.TestCase):
    def test_as_few_as_can_be_and_evenly(self) -> None:
        for heights, room, taken, counts in (
            ((212, 227, 170, 248), 740, 30, (2, 2)),  # three and one by filling up
            ((296, 177, 181, 197), 740, 30, (2, 2)),
            ((100, 100, 100), 740, 30, (3,)),
            ((900, 100), 740, 0, (1, 1)),
            ((), 740, 0, (0,)),
        ):
            self.assertEqual(in_pages(heights, room, taken), counts, heights)

    @given(st.lists(st.floats(20, 400), min_size=1, max_size=12), st.floats(0, 60))
    def test_nothing_is_lost_and_no_page_is_overfull(
        self, heights: list[float], taken: float
    ) -> None:
        counts = in_pages(heights, 740, taken)
        self.assertEqual(sum(counts), len(heights))
        at, pages = 0, 0
        for number, count in enumerate(counts):
            held = sum(heights[at : at + count]) + (0 if number else taken)
            self.assertLessEqual(held, 740)
            at, pages = at + count, pages + 1
        filled, by_hand = taken, 1  # filled up one after the other
        for height in heights:
            by_hand, filled = (
                (by_hand, filled + height) if filled + height <= 740 else (by_hand + 1, height)
            )
        self.assertEqual(pages, by_hand)


class WhomToAsk(unittest.TestCase):
    def test_as_far_as_it_is_known(self) -> None:
        for more, words in (
            ({}, "Petra."),
            ({"practice": "Quay Practice"}, "Petra, Quay Practice."),
            ({"reach": "555-0100"}, "Petra: 555-0100."),
            (
                {"practice": "Quay Practice", "reach": "555-0100", "next_visit": "9 Mar 2027"},
                "Petra, Quay Practice: 555-0100. Next visit: 9 Mar 2027.",
            ),
        ):
            self.assertEqual(replace(WEEK, **more).whom_to_ask(), words)


class Glance(unittest.TestCase):
    def test_a_row_a_meal_and_a_cell_a_day_in_which_a_bowl_is_first_once(self) -> None:
        bowl, half = Serving("Tideline bowl", letter="A"), Serving("Tideline bowl", letter="A")
        half, bread = replace(half, portion="½"), Serving("Pier bread")
        days = (
            DayOfWeek(
                "Mon", "1 Mar", "", (MealOfDay("Lunch", (bread,)), MealOfDay("Dinner", (bowl,)))
            ),
            DayOfWeek("Tue", "2 Mar", "", (MealOfDay("Lunch", (half,)), NOTHING)),
        )  # fmt: skip
        rows = at_a_glance(replace(WEEK, days=days))
        self.assertEqual([name for name, _ in rows], ["Lunch", "Dinner"])
        (lunch_1, lunch_2), (dinner_1, dinner_2) = (cells for _, cells in rows)
        self.assertEqual([one.name for one in lunch_1.servings], ["Pier bread"])
        self.assertEqual((dinner_1.first, lunch_2.first), (frozenset("A"), frozenset()))
        self.assertEqual(lunch_2.servings[0].portion, "½")
        self.assertTrue(dinner_2.is_none)

    def test_a_week_without_days_has_no_rows(self) -> None:
        self.assertEqual(at_a_glance(replace(WEEK, days=())), [])


class Columns(unittest.TestCase):
    """A shopping list set in columns."""

    def columns(self, counts: list[int], most: int) -> list[list[list[tuple[str, bool]]]]:
        """Sections of so many short lines each, in two columns of so many lines."""
        sections = [
            ShopSection(f"S{n}", tuple((f"{n}-{i}", f"{n}-{i}") for i in range(count)))
            for n, count in enumerate(counts)
        ]
        return in_columns(sections, 2, most, 40)

    def test_every_line_once_in_order_and_about_even(self) -> None:
        ((left, right),) = self.columns([3, 3], 20)
        self.assertEqual([words for words, name in left if not name], ["0-0", "0-1", "0-2"])
        self.assertEqual([words for words, name in right if not name], ["1-0", "1-1", "1-2"])

    def test_a_section_that_goes_on_has_its_name_again_and_none_stands_last(self) -> None:
        pages = self.columns([30, 1, 9], 12)
        said = [words for page in pages for column in page for words, name in column if not name]
        self.assertEqual(
            said, [f"{n}-{i}" for n, count in enumerate((30, 1, 9)) for i in range(count)]
        )
        for page in pages:
            for column in page:
                self.assertTrue(column[0][1])
                self.assertFalse(column[-1][1])
        self.assertGreater(len(pages), 1)

    def test_nothing_to_buy(self) -> None:
        self.assertEqual(self.columns([], 20), [[[]]])


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
