"""An evening while it is cooked: presses in any order keep it possible; worked by hand."""

from __future__ import annotations

from dataclasses import replace
from unittest import TestCase

from hypothesis import given, settings
from hypothesis import strategies as st

from dietetics.errors import DieteticsError
from dietetics.prep.keeping import kept_of
from dietetics.prep.kitchen import Kitchen
from dietetics.prep.pace import at_pace, pace_of, usual_pace
from dietetics.prep.planning import quick_timetable
from dietetics.prep.run import (
    hands_done,
    more_time,
    planned_anew,
    run_of,
    skip,
    wait_over,
)
from dietetics.prep.timetable import asked_of
from dietetics.tests.test_timetable import task


def evening():
    """Chop 5, boil 1 + 20, blend 4: half an hour."""
    tasks = [
        task("chop", 5),
        task("boil", 1, 20, "burner", ("chop",)),
        task("blend", 4, 0, "blender", ("boil",)),
    ]
    return run_of(quick_timetable(asked_of(tasks, Kitchen())))


def chops(*pressed: int, pace: float = 1.0):
    """Five things to cut, 6 minutes each, finished at these minutes."""
    tasks = [task(f"cut{n}", 6) for n in range(5)]
    run = run_of(quick_timetable(asked_of(tasks, Kitchen())), pace)
    for n, minute in enumerate(pressed):
        run = hands_done(run, f"cut{n}", minute)
    return run


class Pace(TestCase):
    def test_hands_that_take_half_as_long_again(self):
        # from the first press on: 4 x 6 planned, 4 x 9 taken
        self.assertEqual(pace_of(chops(9, 18, 27, 36, 45)), 36 / 24)

    def test_it_counts_from_the_pace_that_was_planned_with(self):
        self.assertEqual(pace_of(chops(9, 18, 27, 36, 45, pace=1.2)), 1.2 * 1.5)

    def test_a_break_is_no_work(self):
        self.assertEqual(pace_of(chops(6, 12, 18, 24, 90)), 18 / 18)

    def test_little_work_says_nothing(self):
        self.assertIsNone(pace_of(chops(6, 12, 18)))
        self.assertIsNone(pace_of(evening()))

    def test_what_had_to_wait_says_nothing(self):
        tasks = [
            task("cut", 6),
            task("boil", 1, 30, "burner"),
            *(task(f"cut{n}", 10) for n in range(2)),
            task("mash", 8, after=("boil",)),
        ]
        run = run_of(quick_timetable(asked_of(tasks, Kitchen())))
        for key, minute in (("boil", 1), ("cut", 7), ("cut0", 17), ("cut1", 27)):
            run = hands_done(run, key, minute)
        run = hands_done(wait_over(run, "boil", 31), "mash", 60)
        self.assertEqual(pace_of(run), 1.0)  # without the 33 minutes until it was mashed

    def test_it_is_no_wilder_than_half_or_twice(self):
        self.assertEqual(pace_of(chops(0, 0, 0, 0, 0)), 0.5)
        self.assertEqual(pace_of(chops(20, 40, 60, 80, 100)), 2.0)

    def test_two_evenings_are_needed_and_the_latest_five_count(self):
        self.assertIsNone(usual_pace([1.5]))
        self.assertEqual(usual_pace([1.0, 2.0]), 1.5)
        self.assertEqual(usual_pace([1.0, 1.1, 1.2, 1.3, 1.4, 9.0, 9.0]), 1.2)

    def test_only_guessed_hands_are_stretched(self):
        guessed = replace(task("a", 10), guessed=frozenset({"hands"}))
        self.assertEqual([t.hands_min for t in at_pace([guessed, task("b", 10)], 1.3)], [13, 10])


class ARun(TestCase):
    def test_pressed_as_planned_it_ends_as_planned(self):
        run = evening()
        self.assertEqual((run.end, [t.key for t in run.left]), (30, ["chop", "boil", "blend"]))
        run = hands_done(run, "chop", 5)
        run = hands_done(run, "boil", 6)
        self.assertEqual(run.waiting, {"boil": 26})
        run, words = planned_anew(wait_over(run, "boil", 26), 26, run)
        self.assertEqual((run.end, words), (30, ""))
        self.assertTrue(hands_done(run, "blend", 30).is_over)

    def test_five_more_minutes_move_the_rest_and_it_is_said(self):
        run = hands_done(hands_done(evening(), "chop", 5), "boil", 6)
        run, words = planned_anew(more_time(run, "boil", 20), 20, run)
        self.assertEqual((run.waiting["boil"], run.starts["blend"], run.end), (31, 31, 35))
        self.assertEqual(words, "5 minutes later than before")

    def test_five_more_when_the_time_is_over_already_count_from_now(self):
        run = hands_done(hands_done(evening(), "chop", 5), "boil", 6)
        self.assertEqual(more_time(run, "boil", 40).waiting["boil"], 45)

    def test_what_is_skipped_holds_nothing_up(self):
        run, words = planned_anew(skip(evening(), "boil"), 0, evening())
        self.assertEqual([t.key for t in run.left], ["chop", "blend"])
        self.assertEqual(words, "21 minutes earlier than before")

    def test_too_early_and_unknown_presses_are_refused_in_words(self):
        with self.assertRaisesRegex(DieteticsError, "cannot be done yet"):
            hands_done(evening(), "blend", 1)
        with self.assertRaisesRegex(DieteticsError, "not part"):
            skip(evening(), "nothing")

    def test_a_press_that_comes_twice_changes_nothing(self):
        run = hands_done(evening(), "chop", 5)
        self.assertEqual(hands_done(run, "chop", 9), run)
        run = hands_done(run, "boil", 6)
        self.assertEqual(hands_done(run, "boil", 9), run)

    def test_more_on_the_stove_than_was_described_is_taken_as_it_is(self):
        tasks = [
            task("a", 1, 20, "burner"),
            task("b", 1, 20, "burner", dish="e"),
            task("c", 1, 20, "oven", celsius=200.0, dish="f"),
            task("d", 1, 20, "oven", celsius=150.0, dish="g"),
            task("last", 2, 10, "burner", dish="h"),
        ]
        run = run_of(quick_timetable(asked_of(tasks, Kitchen(burners=1))))
        for minute, key in enumerate("abcd", start=1):
            run, _ = planned_anew(hands_done(run, key, minute), minute, run)
        self.assertEqual(sorted(run.waiting), ["a", "b", "c", "d"])
        self.assertGreaterEqual(run.starts["last"], 21)  # when the burner that is there is free

    @settings(max_examples=60, deadline=None)
    @given(
        st.lists(st.tuples(st.integers(0, 3), st.integers(0, 2), st.integers(0, 9)), max_size=14)
    )
    def test_any_presses_leave_a_rest_that_can_be_cooked(self, presses):
        run, now = evening(), 0
        for what, which, later in presses:
            now += later
            key = ("chop", "boil", "blend")[which]
            try:
                if what < 3:
                    run = (hands_done, wait_over, more_time)[what](run, key, now)
                else:
                    run = skip(run, key)
            except DieteticsError:
                continue
            run, _ = planned_anew(run, now, run)  # its timetable is re-checked
            for one in run.left:
                self.assertGreaterEqual(run.starts[one.key], now)


class Keeping(TestCase):
    def test_containers_hold_a_serving_and_the_frozen_ones_are_counted(self):
        # 2 pots of 2,350 g in 6 servings: 12 of 392 g; at 1.0 g/mL, filled to nine tenths: 500 mL
        kept = kept_of("Soup", 2, 6, 2350, 1.0, 0, 4, 0.5)
        self.assertEqual((kept.count, kept.size_ml, kept.frozen, kept.last_day), (12, 500, 6, 4))
        self.assertIn(
            "12 containers of 500 mL (392 g each), 6 of them to the freezer", kept.words()
        )
