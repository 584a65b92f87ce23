"""What a client never eats reaches what people mean, says what it reaches, and never does nothing
in silence.
"""

from __future__ import annotations

import unittest
from dataclasses import replace

from dietetics.cautions.exclusions import exclusions_of
from dietetics.cautions.facts import ClientFacts, Eaten
from dietetics.cautions.never_eaten import COCONUT_FAMILIES, reach, refusals, said_words
from dietetics.composition.foods import load_shelf
from dietetics.tests.never_eats_cases import CASES

SHELF = load_shelf()


class NeverEaten(unittest.TestCase):
    """The words of the cases, against the foods of the shelf."""

    def reached(self, text: str, key: str) -> bool:
        """Whether a food is kept out for a client who never eats this."""
        found = exclusions_of([Eaten(SHELF.food(key), 80.0)], ClientFacts(never_eats=text))
        return any(verdict.code == "never-eaten" for verdict in found)

    def test_what_people_mean(self) -> None:
        for text, meant, others in CASES:
            with self.subTest(text):
                self.assertEqual([key for key in meant if not self.reached(text, key)], [])
                self.assertEqual([key for key in others if self.reached(text, key)], [])

    def test_a_kind_is_reached_by_its_own_word(self) -> None:
        self.assertTrue(self.reached("jalapeno", "jalapeno-raw"))
        self.assertFalse(self.reached("jalapeno", "red-pepper-raw"))
        self.assertTrue(self.reached("cannellini", "white-beans-cooked"))
        self.assertFalse(self.reached("cannellini", "black-beans-cooked"))

    def test_a_state_goes_with_a_name_of_another_place(self) -> None:
        self.assertTrue(self.reached("raw courgette", "zucchini-raw"))
        self.assertFalse(self.reached("raw courgette", "zucchini-cooked"))
        names = reach("raw onion", SHELF)[0].foods  # one squash is called an onion squash
        self.assertEqual(set(names), {"Onion, raw", "Green onion, raw"})

    def test_what_is_said_to_be_absent_is_not_reached(self) -> None:
        for food in SHELF:
            if "no salt added" in food.name.lower():
                self.assertFalse(self.reached("salt", food.key), food.name)

    def test_a_label_that_carries_milk_is_reached_by_milk(self) -> None:
        bar = replace(SHELF.food("tofu-firm"), name="Bar", synonyms=(), allergens=("milk",))
        for text, foods in (("milk", ("Bar",)), ("dairy", ("Bar",)), ("eggs", ())):
            self.assertEqual(reach(text, [bar])[0].foods, foods)

    def test_several_things_at_once(self) -> None:
        text = "No okra; hates raw onion, mushrooms\nand kale"
        self.assertEqual(refusals(text), (("okra",), ("raw", "onion"), ("mushroom",), ("kale",)))
        for key in ("okra-raw", "onion-raw", "mushrooms-white-raw", "kale-raw"):
            self.assertTrue(self.reached(text, key), key)

    def test_the_shelf_is_named_as_it_was_typed(self) -> None:
        known, unknown, dairy = reach("okra, avacado, milk", SHELF)
        self.assertIn("Okra, raw", known.foods)
        self.assertTrue(all(name.startswith("Okra") for name in known.foods))
        self.assertTrue(unknown.is_unknown)
        self.assertEqual(unknown.said, "avacado")
        self.assertFalse(dairy.is_unknown)
        self.assertEqual(dairy.foods, ())
        self.assertIn("dairy", dairy.say)

    def test_what_it_says_is_what_it_keeps_out(self) -> None:
        for text in ("nuts", "cherries", "greens", "spicy food", "wheat"):
            said = set(reach(text, SHELF)[0].foods)
            out = {food.name for food in SHELF if self.reached(text, food.key)}
            self.assertEqual(said, out, text)

    def test_nothing_typed_reaches_nothing(self) -> None:
        for text in ("", " , ;", "no", "!!!"):
            self.assertEqual(reach(text, SHELF), [])

    def test_the_table_names_what_the_shelf_has(self) -> None:
        groups = {food.group for food in SHELF}
        for word, row in said_words().items():
            self.assertTrue(row.instead is not None or row.not_names, word)
            if row.instead is not None:
                self.assertLessEqual(row.instead.groups, groups, word)
            self.assertLessEqual(row.not_groups, groups, word)
        for family in COCONUT_FAMILIES:
            self.assertIn(family, SHELF.families)
