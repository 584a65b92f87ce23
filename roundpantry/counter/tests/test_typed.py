"""Plain numbers as they are typed: read whole or not at all."""

from __future__ import annotations

from django.test import SimpleTestCase
from hypothesis import given
from hypothesis import strategies as st

from roundpantry.counter.typed_numbers import decimal, whole

NO_NUMBERS = (
    "",
    " ",
    "--5",
    "-",
    "²",
    "٣",
    "1.5.2",
    "1e3",
    "nan",
    "inf",
    "½",
    "0x10",
    "1_000",
    "9" * 13,
    "9" * 5000,
    "1 2",
    "five",
    None,
)


class Typed(SimpleTestCase):
    @given(st.integers(-(10**11), 10**11))
    def test_every_whole_number_is_read_back(self, value: int) -> None:
        self.assertEqual(whole(str(value), -(10**12)), value)
        self.assertEqual(whole(f"  {value} ", -(10**12)), value)

    @given(st.decimals(-10_000_000, 10_000_000, places=2))
    def test_every_decimal_is_read_with_a_point_or_a_comma(self, value: object) -> None:
        for text in (f"{value:f}", f"{value:f}".replace(".", ",")):
            self.assertAlmostEqual(decimal(text), float(value), places=9)

    @given(st.text(max_size=30))
    def test_anything_at_all_is_a_number_within_bounds_or_none(self, text: str) -> None:
        for found in (whole(text, 0, 100), decimal(text, 0, 100)):
            self.assertTrue(found is None or 0 <= found <= 100)

    def test_what_is_no_number(self) -> None:
        for text in NO_NUMBERS:
            self.assertIsNone(whole(text, -(10**13), 10**13), text)
        for text in (
            "",
            ".",
            ",",
            "--5",
            "1,5,2",
            "1.5.2",
            "nan",
            "inf",
            "1e999",
            "½",
            "²",
            "1,234",
            ",5",
            None,
        ):
            self.assertIsNone(decimal(text), text)

    def test_bounds_and_the_printed_minus(self) -> None:
        self.assertEqual(
            (whole("−7", -10), whole("-7"), whole("12", 1, 12), whole("13", 1, 12)),
            (-7, None, 12, None),
        )
        self.assertEqual(
            (decimal("−2,5"), decimal(".5"), decimal("5."), decimal("3", most=2)),
            (-2.5, 0.5, 5.0, None),
        )
