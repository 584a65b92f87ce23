"""Windows and levels: what is in, short, over or unknown, and where the bubble stands."""

from __future__ import annotations

import unittest

from hypothesis import given
from hypothesis import strategies as st

from dietetics.composition.sums import Figure
from dietetics.errors import DieteticsError
from dietetics.targets.windows import HIGH_LINE, LOW_LINE, Window, judge, place_on_tube


def known(key: str, amount: float, coverage: float = 1.0) -> Figure:
    """A figure without a span."""
    return Figure(key, amount, amount, amount, coverage)


class Levels(unittest.TestCase):
    """The words and states of a level."""

    def test_words(self) -> None:
        level = judge(Window("protein_g", 28, 34), known("protein_g", 27))
        self.assertEqual(level.words(), "Protein 27.0 g, target 28.0–34.0, 1.0 short")
        self.assertEqual(
            judge(Window("sodium_mg", None, 500), known("sodium_mg", 512.4)).words(),
            "Sodium 512 mg, target at most 500, 12 over",
        )

    def test_unknown_is_never_met(self) -> None:
        level = judge(Window("sodium_mg", None, 500), Figure("sodium_mg", None, None, None, 0.0))
        self.assertEqual((level.state, level.certain), ("unknown", False))

    def test_partly_unknown_under_a_ceiling_is_not_certain(self) -> None:
        level = judge(Window("sodium_mg", None, 500), known("sodium_mg", 300, 0.8))
        self.assertEqual((level.state, level.certain), ("in", False))
        self.assertGreater(level.tail, 0)

    def test_partly_unknown_above_a_floor_is_certain(self) -> None:
        self.assertTrue(judge(Window("fibre_g", 10, None), known("fibre_g", 12, 0.8)).certain)

    def test_state_follows_the_value_as_shown(self) -> None:
        self.assertEqual(
            judge(Window("sodium_mg", None, 500), known("sodium_mg", 500.4)).state, "in"
        )

    def test_windows_that_make_no_sense(self) -> None:
        for low, high in ((5, 3), (None, None), (-1, 3)):
            with self.assertRaises(DieteticsError):
                Window("protein_g", low, high)
        with self.assertRaises(DieteticsError):
            Window("magic", 1, 2)

    def test_meals_share_sums_and_keep_densities(self) -> None:
        day = (Window("protein_g", 60, 80), Window("kcal_per_g", None, 1.3))
        lunch = [window.for_share(0.35) for window in day]
        self.assertEqual((lunch[0].low, lunch[0].high, lunch[1].high), (21, 28, 1.3))

    @given(st.floats(0.1, 1e4), st.floats(0.1, 1e4), st.floats(0, 2e4))
    def test_the_bubble_stands_between_the_lines_exactly_when_inside(
        self, a: float, b: float, value: float
    ) -> None:
        low, high = sorted((a, b))
        if high - low < 1e-6:
            return
        place = place_on_tube(Window("protein_g", low, high), value)
        self.assertTrue(0 <= place <= 1)
        if min(abs(value - low), abs(value - high)) < 1e-9 * (high - low):
            return  # on a line to the last digit of a double: it stands on the line
        if low <= value <= high:
            self.assertTrue(LOW_LINE - 1e-9 <= place <= HIGH_LINE + 1e-9)
        else:
            self.assertEqual(place < LOW_LINE, value < low)

    @given(st.floats(1, 1e4), st.floats(0, 2e4))
    def test_one_sided_windows(self, limit: float, value: float) -> None:
        ceiling = place_on_tube(Window("sodium_mg", None, limit), value)
        floor = place_on_tube(Window("fibre_g", limit, None), value)
        if abs(value - limit) < 1e-9 * limit:
            return
        self.assertEqual(ceiling <= HIGH_LINE, value < limit)
        self.assertEqual(floor >= LOW_LINE, value > limit)

    @given(st.floats(-30, 30), st.floats(-30, 30))
    def test_signed_figures_stand_on_the_right_side_of_their_line(
        self, limit: float, value: float
    ) -> None:
        place = place_on_tube(Window("pral_meq", None, limit), value)
        self.assertTrue(0 <= place <= 1)
        if abs(value - limit) > 1e-6:
            self.assertEqual(place < HIGH_LINE, value < limit)
