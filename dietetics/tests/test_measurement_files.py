"""Measurements out of the program and in again, and files with every kind of mistake."""

from __future__ import annotations

import unittest
from datetime import date, time

from hypothesis import given
from hypothesis import strategies as st

from dietetics.errors import DieteticsError
from dietetics.follow.kinds import kind, kinds
from dietetics.follow.measurement_files import MOST_ROWS, MeasuredRow, as_csv, read_csv

TODAY = date(2026, 11, 26)
HEAD = "day,kind,value,unit,low,high\n"


class Files(unittest.TestCase):
    @given(st.sampled_from(sorted(kinds())), st.floats(0, 1), st.dates(date(2000, 1, 1), TODAY))
    def test_out_and_in_again(self, key: str, share: float, day: date) -> None:
        found = kind(key)
        value = found.least + share * (found.most - found.least)
        row = MeasuredRow(found, value, day, time(7, 30), 1.0, 2.5, "client", "after, breakfast")
        back = read_csv(as_csv([row]), TODAY)[0].row
        assert back is not None
        self.assertAlmostEqual(back.value, value, delta=1e-6 * max(1, abs(value)))
        same = (back.day, back.at, back.low, back.high, back.reported_by, back.remark)
        self.assertEqual(same, (day, time(7, 30), 1.0, 2.5, "client", "after, breakfast"))

    def test_units_names_and_decimal_commas(self) -> None:
        text = "Day;Kind;Value;Unit\n20 Nov 2026;Hb;12,1;g/dL\n2026-11-21;weight;158;lb\n"
        rows = [one.row for one in read_csv(text, TODAY)]
        self.assertEqual(
            [(r.kind.key, r.day.day) for r in rows if r], [("haemoglobin", 20), ("weight", 21)]
        )
        assert rows[0] is not None and rows[1] is not None
        self.assertAlmostEqual(rows[0].value, 121)
        self.assertAlmostEqual(rows[1].value, 158 * 0.45359237)

    def test_what_is_wrong_is_said_line_by_line(self) -> None:
        cases = {
            "2026-11-30,weight,72,kg,,": "has not been yet",
            "soon,weight,72,kg,,": "no day",
            "2026-11-20,weight,724,kg,,": "cannot be right",
            "2026-11-20,weight,x,kg,,": "no number",
            "2026-11-20,aura,3,,,": "not something",
            "2026-11-20,weight,72,stones,,": "write one of",
            "2026-11-20,glucose,95,,,": "no unit",
            "2026-02-30,weight,72,kg,,": "no day",
            "2026-11-20,weight,nan,kg,,": "no number",
        }
        for cells, words in cases.items():
            found = read_csv(HEAD + cells, TODAY)[0]
            self.assertIsNone(found.row, cells)
            self.assertIn(words, found.problem)

    def test_what_is_no_table_is_refused(self) -> None:
        many = HEAD + "2026-11-20,weight,72,kg,,\n" * (MOST_ROWS + 1)
        for text in ("", "\n\n", "weight 72", "day,kind\n2026-11-20,weight", many):
            with self.assertRaises(DieteticsError):
                read_csv(text, TODAY)

    def test_nothing_leaves_that_a_spreadsheet_would_run(self) -> None:
        row = MeasuredRow(kind("weight"), 72.0, TODAY, remark="=HYPERLINK(1)")
        self.assertNotIn(",=HYPERLINK", as_csv([row]))

    @given(st.text(max_size=200))
    def test_any_text_is_read_or_refused_in_words(self, text: str) -> None:
        try:
            rows = read_csv(text, TODAY)
        except DieteticsError as error:
            self.assertTrue(str(error))
            return
        for one in rows:
            self.assertTrue(one.row is not None or one.problem)


if __name__ == "__main__":
    unittest.main()
