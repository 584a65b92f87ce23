"""How a client's stars and what they left become a liking: every small case beside its reason."""

from __future__ import annotations

import unittest

from dietetics.week.liking import Heard, heard


class Liking(unittest.TestCase):
    def test_stars_stand_before_what_was_left(self) -> None:
        for stars, wanted in ((5, 3), (4, 2), (3, 1), (2, 0), (1, 0)):
            self.assertEqual(heard(stars, [0.0, 0.0, 0.0]).liking, wanted, stars)

    def test_left_twice_and_at_least_every_second_time(self) -> None:
        for shares, wanted in (
            ([], 1),
            ([0.0], 1),  # once is no habit
            ([0.0, 0.5], 0),  # half of it counts as left
            ([0.0, 0.51], 1),
            ([0.0, 0.0, 1.0, 1.0], 0),
            ([0.0, 0.0, 1.0, 1.0, 1.0], 1),
        ):
            self.assertEqual(heard(None, shares).liking, wanted, shares)

    def test_in_words(self) -> None:
        self.assertEqual(heard(None, [0.0, 1.0, 0.25]).words(), "left at 2 of 3 reported meals")
        self.assertEqual(Heard(4.0, 2, 0).words(), "")
