"""What a client needs next, at each threshold; the intervals are the module's own, common
practice.
"""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import date, timedelta

from dietetics.targets.client_needs import ClientState, needs

TODAY = date(2026, 11, 25)
WELL = ClientState("hold", True, TODAY, TODAY + timedelta(days=5))


def codes(**changes: object) -> list[str]:
    """The codes for a client who needs nothing, with some facts changed."""
    return [one.code for one in needs(replace(WELL, **changes), TODAY)]


def ago(days: int) -> date:
    """A day before today."""
    return TODAY - timedelta(days=days)


class Needs(unittest.TestCase):
    """One fact changed at a time."""

    def test_nothing_is_due(self) -> None:
        self.assertEqual(codes(), [])

    def test_without_targets_no_week_is_asked_for(self) -> None:
        self.assertEqual(codes(has_targets=False, week_ends_on=None), ["targets-missing"])

    def test_the_week(self) -> None:
        for ends, wanted in ((None, ["week-missing"]), (ago(1), ["week-over"]), (TODAY,
            ["week-ends"]),
                             (ago(-2), ["week-ends"]), (ago(-3), [])):  # fmt: skip
            with self.subTest(ends=ends):
                self.assertEqual(codes(week_ends_on=ends), wanted)

    def test_weight_is_taken_every_two_weeks_while_it_changes_and_every_four_while_it_stays(
        self,
    ) -> None:
        for goal, days, due in (("lose", 13, False), ("lose", 14, True), ("gain", 14, True),
            ("build", 14, True),
                                ("hold", 14, False), ("hold", 27, False), ("hold", 28, True),
                                ("kidneys", 28, True)):  # fmt: skip
            with self.subTest(goal=goal, days=days):
                self.assertEqual(
                    codes(goal=goal, weighed_on=ago(days)), ["weigh-in-due"] if due else []
                )

    def test_never_weighed(self) -> None:
        self.assertIsNone(needs(replace(WELL, weighed_on=None), TODAY)[0].params["days"])

    def test_the_most_pressing_stands_first(self) -> None:
        found = codes(
            has_targets=True,
            open_cautions=2,
            target_conflicts=1,
            week_ends_on=None,
            weighed_on=ago(90),
        )
        self.assertEqual(
            found, ["cautions-open", "targets-conflict", "week-missing", "weigh-in-due"]
        )
