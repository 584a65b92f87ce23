"""People of every kind, through the verb `targets`, against figures worked by hand from the
sources.
"""

from __future__ import annotations

import unittest

from dietetics.tests.people import CASES, wrong_of
from headless.__main__ import targets_json


class People(unittest.TestCase):
    """Each of the table in dietetics/tests/people.py."""

    def test_everybody_in_the_table(self) -> None:
        self.assertGreaterEqual(len(CASES), 30)
        for case in CASES:
            with self.subTest(case.name):
                self.assertEqual(wrong_of(case, targets_json(dict(case.facts))), [])
