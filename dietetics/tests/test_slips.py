"""Slips of the hand: asked where a figure is unlikely, silent where it is not."""

from __future__ import annotations

import unittest

from hypothesis import given
from hypothesis import strategies as st

from dietetics.targets.slips import slips


class Slips(unittest.TestCase):
    def test_what_was_perhaps_meant(self) -> None:
        for cm, kg, last, field, words in (
            (165, 7.14, None, "weight_kg", "71.4 kg"),
            (65, 154, None, "height_cm", "exchanged"),
            (165, 400 / 2.2, None, "", ""),
            (165, 172, 78, "weight_kg", "172 lb"),
            (66, 70, None, "height_cm", "66 in"),
            (165, 60, 78, "weight_kg", "23%"),
        ):
            found = slips(cm, kg, 40, last)
            with self.subTest(cm=cm, kg=kg):
                if not field:
                    self.assertTrue(found == [] or "BMI" in found[0].words)
                    continue
                self.assertEqual([one.field for one in found], [field])
                self.assertIn(words, found[0].words)

    @given(st.floats(150, 200), st.floats(17, 40), st.integers(19, 90), st.floats(0.91, 1.09))
    def test_nobody_who_is_likely_is_asked(
        self, cm: float, bmi: float, age: int, change: float
    ) -> None:
        kg = bmi * (cm / 100) ** 2
        self.assertEqual(slips(cm, kg, age, kg / change), [])

    def test_the_edges(self) -> None:
        self.assertEqual(slips(200, 52.0, 40), [])  # BMI 13
        self.assertEqual(len(slips(200, 51.9, 40)), 1)
        self.assertEqual(slips(100, 60.0, 40), [])
        self.assertEqual(len(slips(100, 60.1, 40)), 1)
        self.assertEqual(slips(170, 77.0, 40, 70.0), [])
        self.assertEqual(len(slips(170, 77.1, 40, 70.0)), 1)
        self.assertEqual(slips(110, 15.0, 5), [])  # BMI 12.4, a thin child
