"""Finding a food: synonyms, misspellings, any order, the plain food first."""

from __future__ import annotations

import unittest
from pathlib import Path

from hypothesis import given
from hypothesis import strategies as st

from dietetics.composition.foods import load_shelf, read_table
from dietetics.composition.search import edit_distance, index_of

CORPUS = Path(__file__).parent / "corpus"
INDEX = index_of(load_shelf())


def first(query: str) -> str:
    """The key found first, or nothing."""
    found = INDEX.search(query, 1)
    return found[0].food.key if found else ""


class Finding(unittest.TestCase):
    """What a practitioner types, and what they want first."""

    def test_synonyms(self) -> None:
        for query, family in (
            ("garbanzo", "chickpeas"),
            ("rocket", "arugula"),
            ("aubergine", "eggplant"),
            ("courgette", "zucchini"),
            ("beetroot", "beet"),
            ("swede", "rutabaga"),
            ("tvp", "tvp"),
            ("kinwa", "quinoa"),
            ("pepitas", "pumpkin-seeds"),
            ("mangetout", "snow-peas"),
            ("linseed", "flax"),
            ("besan", "chickpea-flour"),
            ("spring onion", "green-onion"),
        ):
            self.assertEqual(load_shelf().food(first(query)).family, family, query)

    def test_misspellings(self) -> None:
        right = 0
        cases = (
            ("chikpea", "chickpeas"),
            ("spinich", "spinach"),
            ("brocoli", "broccoli"),
            ("lentills", "lentils"),
            ("avacado", "avocado"),
            ("tumeric", "turmeric"),
            ("quiona", "quinoa"),
            ("califlower", "cauliflower"),
            ("potatoe", "potato"),
            ("tomatoe", "tomato"),
            ("almods", "almonds"),
            ("bananna", "banana-raw"),
            ("zuchini", "zucchini"),
            ("edamamme", "edamame"),
            ("tempheh", "tempeh"),
            ("tahinni", "tahini"),
            ("rasberries", "raspberries"),
            ("strawbery", "strawberries-raw"),
            ("cabage", "cabbage"),
            ("parsely", "parsley-fresh"),
            ("cinamon", "cinnamon"),
            ("garlick", "garlic"),
            ("mushrom", "mushrooms"),
            ("sunflour seeds", "sunflower-seeds"),
            ("buckweat", "buckwheat"),
        )
        missed = []
        for query, family in cases:
            key = first(query)
            if key and load_shelf().food(key).family == family:
                right += 1
            else:
                missed.append((query, key))
        self.assertGreaterEqual(right, 23, missed)

    def test_any_word_order_and_beginnings(self) -> None:
        self.assertEqual(first("firm tofu"), first("tofu firm"))
        self.assertEqual(first("pot sweet"), first("sweet pot"))
        self.assertEqual(first("quin cook"), "quinoa-cooked")

    def test_the_plain_food_first(self) -> None:
        for query, family in (
            ("tofu", "tofu"),
            ("rice", "white-rice"),
            ("kale", "kale"),
            ("potato", "potato"),
            ("carrot", "carrot"),
            ("spinach", "spinach"),
            ("black beans", "black-beans"),
            ("quinoa", "quinoa"),
        ):
            self.assertEqual(load_shelf().food(first(query)).family, family, query)

    def test_nothing_is_found_for_nothing(self) -> None:
        for query in ("", "   ", "%%%", "zzzzqqq", "🙂"):
            self.assertEqual(INDEX.search(query), [])

    @given(st.text(max_size=40))
    def test_any_text_is_answered(self, text: str) -> None:
        self.assertLessEqual(len(INDEX.search(text, 5)), 5)

    @given(st.text("abcde", max_size=7), st.text("abcde", max_size=7))
    def test_edit_distance_is_a_distance(self, a: str, b: str) -> None:
        self.assertEqual(edit_distance(a, b, 9), edit_distance(b, a, 9))
        self.assertEqual(edit_distance(a, b, 9) == 0, a == b)
        self.assertEqual(edit_distance("form", "from", 2), 1)


class AsPractitionersType(unittest.TestCase):
    """Words with what is expected among the first three; 221 of 238 on the first run."""

    def test_what_is_meant_stands_among_the_first_three(self) -> None:
        rows = (CORPUS / "search_words.txt").read_text(encoding="utf-8").splitlines()
        cases = [row.split("|") for row in rows if row and not row.startswith("#")]
        self.assertGreaterEqual(len(cases), 200)
        missed = []
        for query, wanted in cases:
            found = [hit.food.key for hit in INDEX.search(query.strip(), 3)]
            starts = tuple(one.strip() for one in wanted.split("/"))
            if not any(key.startswith(starts) for key in found):
                missed.append(f"{query.strip()}: {found}")
        self.assertLessEqual(len(missed), 4, missed)

    def test_what_stands_first_for_a_word_is_on_the_shelf(self) -> None:
        shelf = load_shelf()
        for row in read_table("search_kinds.csv"):
            for key in row["keys"].split():
                self.assertIn(key, shelf.foods, row["words"])
