"""What a client needs next, at each threshold; the intervals are the module's own, common
practice.
"""

from __future__ import annotations

import unittest
from dataclasses import replace
from datetime import date, timedelta

from dietetics.targets.client_needs import ClientState, needs, urgency

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

    def test_a_week_is_handed_over_before_it_begins(self) -> None:
        for starts, due in ((ago(-3), False), (ago(-2), True), (TODAY, True), (ago(6), True)):
            with self.subTest(starts=starts):
                self.assertEqual(codes(not_given=starts), ["hand-over-due"] if due else [])

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


# Written before there was an order: whom a dietitian looks at first (common practice).
IN_ORDER = (
    ("a red flag and more", {"red_flags": ("Doctor today.",), "unread_answers": 2}),
    ("a red flag", {"red_flags": ("Doctor this week.",)}),
    ("an answer came back", {"unread_answers": 1, "weighed_on": None}),
    ("a value out of range", {"flagged_on": ago(3), "open_cautions": 4}),
    ("a visit that is overdue", {"next_visit": ago(2), "open_cautions": 1}),
    ("a visit today", {"next_visit": TODAY}),
    ("cautions nobody has looked at", {"open_cautions": 1}),
    ("a week that ends tomorrow", {"week_ends_on": ago(-1), "next_visit": ago(-2)}),
    ("a running week that the client has not got", {"not_given": ago(2)}),
    ("a visit in two days", {"next_visit": ago(-2)}),
    ("a weigh-in", {"weighed_on": ago(40)}),
    ("nothing", {}),
)


class Order(unittest.TestCase):
    """Whose need is met first."""

    def test_clients_stand_by_their_most_pressing_need(self) -> None:
        keys = [
            urgency(needs(replace(WELL, **facts), TODAY), TODAY)  # type: ignore[arg-type]
            for _, facts in IN_ORDER
        ]
        for (name, _), (other, _), key, after in zip(
            IN_ORDER, IN_ORDER[1:], keys, keys[1:], strict=False
        ):
            with self.subTest(first=name, then=other):
                self.assertLess(key, after)

    def test_the_needs_of_one_client_stand_in_the_same_order(self) -> None:
        everything = ClientState(
            "lose", True, ago(90), ago(-1), 2, 1, 3, ago(-2), ago(5), ("Doctor today.",)
        )
        self.assertEqual(
            [one.code for one in needs(everything, TODAY)],
            ["red-flag", "answers-unread", "blood-outside", "cautions-open", "targets-conflict",
             "week-ends", "visit-due", "weigh-in-due"],
        )  # fmt: skip
        today = needs(replace(everything, next_visit=TODAY), TODAY)
        self.assertEqual([one.code for one in today][2:4], ["blood-outside", "visit-due"])
