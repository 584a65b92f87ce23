"""Cautions on paper: each has words for the client, or is kept from them on purpose."""

from __future__ import annotations

import unittest

from dietetics.cautions.client_words import TOLD, told_to_client
from dietetics.cautions.sentences import WORDS
from dietetics.cautions.verdict import Verdict
from dietetics.targets.conditions import conditions
from dietetics.targets.needs_table import rows

FOR_PRACTITIONERS = ("the client", "Record ", "Ask which medicines", "Consider ", "Refer ")


class ToldToTheClient(unittest.TestCase):
    def test_every_caution_is_decided_on(self) -> None:
        codes = {*WORDS, *(one.code for one in conditions().values() if one.code)}
        codes |= {row.caution for row in rows().values() if row.caution}
        self.assertEqual(set(TOLD), codes)

    def test_nothing_speaks_about_the_client_or_to_the_practitioner(self) -> None:
        for code, words in TOLD.items():
            told = words if isinstance(words, str) else ""
            with self.subTest(code):
                for phrase in FOR_PRACTITIONERS:
                    self.assertNotIn(phrase, told)

    def test_numbers_that_can_do_harm_are_not_told(self) -> None:
        for code in ("eating-disorder", "underweight", "pace", "energy-floor", "no-deficit"):
            self.assertEqual(told_to_client(Verdict(code, "warn")), "")

    def test_an_allergen_in_the_week_says_do_not_eat(self) -> None:
        found = Verdict("allergen", "blocked", "tree-nuts", {"foods": ("Walnuts", "Pesto")})
        told = told_to_client(found)
        self.assertIn("tree nuts", told)
        self.assertIn("Walnuts, Pesto", told)
        self.assertIn("Do not eat", told)

    def test_what_is_dangerous_with_a_medicine_stays(self) -> None:
        for code, must in (
            ("potassium-medicine", "salt substitutes"), ("warfarin", "same amount"),
            ("heart-failure", "1 kg more overnight"), ("mao-inhibitor", "tempeh"),
            ("transplant", "grapefruit"), ("low-blood-sugar", "No skipped meals"),
        ):  # fmt: skip
            self.assertIn(must, told_to_client(Verdict(code, "serious")))
