"""Day names from the weekday a week starts on, against the calendar of the standard library."""

from __future__ import annotations

import unittest
from calendar import day_name
from datetime import date, timedelta

from dietetics.week.daynames import DAY_NAMES, evening_before, start_days_on, working_days


class Names(unittest.TestCase):
    """Whatever day a week starts on, its names are those of the dates."""

    def tearDown(self) -> None:
        start_days_on(0)

    def test_every_start(self) -> None:
        for offset in range(7):
            start = date(2026, 11, 23) + timedelta(days=offset)
            start_days_on(start.weekday())
            days = [start + timedelta(days=n) for n in range(7)]
            with self.subTest(start=start):
                self.assertEqual(list(DAY_NAMES), [day_name[day.weekday()] for day in days])
                self.assertEqual(
                    evening_before(), f"{day_name[(start - timedelta(days=1)).weekday()]} before"
                )
                self.assertEqual(
                    working_days(), [n for n, day in enumerate(days) if day.isoweekday() <= 5]
                )

    def test_there_is_no_eighth_day_and_none_before_the_first(self) -> None:
        for day in (7, -1):
            with self.assertRaises(IndexError):
                DAY_NAMES[day]
        self.assertEqual(DAY_NAMES[1:3], ("Tuesday", "Wednesday"))
