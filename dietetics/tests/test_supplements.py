"""Supplements as people write them, and phosphorus that is likely to be absorbed. Units are exact
by definition.
"""

from __future__ import annotations

import unittest
from dataclasses import replace

from dietetics.composition.foods import load_shelf
from dietetics.composition.phosphorus import absorbed_phosphorus
from dietetics.composition.sums import FoodContent, Item, compose
from dietetics.errors import DieteticsError
from dietetics.targets.supplements import (
    amounts_a_day,
    read_supplement,
    read_supplements,
    with_supplements,
)

SHELF = load_shelf()


class Reading(unittest.TestCase):
    """Name, amount, unit, how often."""

    def test_as_people_write_them(self) -> None:
        for text, key, amount in (
            ("B12 50 µg daily", "vitamin_b12_ug", 50),
            ("vitamin B12 50 mcg", "vitamin_b12_ug", 50),
            ("Vitamin B-12 1000 ug weekly", "vitamin_b12_ug", 1000 / 7),
            ("cyanocobalamin 2,500 µg once a week", "vitamin_b12_ug", 2500 / 7),
            ("B12 1 mg twice a week", "vitamin_b12_ug", 2000 / 7),
            ("vitamin D 25 µg", "vitamin_d_ug", 25),
            ("vitamin D 70 µg three times a week", "vitamin_d_ug", 30),
            ("vitamin C 100 mg three times a day", "vitamin_c_mg", 300),
            ("vitamin D 1218 µg monthly", "vitamin_d_ug", 1218 * 12 / 365.25),
            ("vit. D3 1000 IU daily", "vitamin_d_ug", 25),  # 40 IU are 1 µg
            ("D 1 000 IU every other day", "vitamin_d_ug", 12.5),
            ("iodine 150 µg a day", "iodine_ug", 150),
            ("iodine 0.15 mg", "iodine_ug", 150),
            ("iron 14 mg twice daily", "iron_mg", 28),
            ("calcium 0.5 g per day", "calcium_mg", 500),
            ("folic acid 400 µg/day", "folate_ug", 400),
            ("zinc 7,5 mg daily", "zinc_mg", 7.5),
            ("vitamin A 1000 IU", "vitamin_a_ug", 300),
            ("vitamin E 100 IU", "vitamin_e_mg", 67),
            ("choline 250 mg", "choline_mg", 250),
        ):
            with self.subTest(text):
                found = read_supplement(text)
                self.assertEqual(found.key, key)
                self.assertAlmostEqual(found.amount, amount, places=4)

    def test_a_list_adds_up(self) -> None:
        found = amounts_a_day(
            read_supplements("B12 50 µg daily, vitamin D 25 µg; iodine 150 µg\niodine 50 µg")
        )
        self.assertEqual(found, {"vitamin_b12_ug": 50, "vitamin_d_ug": 25, "iodine_ug": 200})
        self.assertEqual(read_supplements(" ,\n"), [])
        self.assertEqual(len(read_supplements("zinc 7,5 mg, iron 14 mg")), 2)

    def test_what_is_not_understood_is_said(self) -> None:
        for text, word in (
            ("B12", "write a name"), ("a pill", "write a name"), ("unobtainium 5 mg",
            "unobtainium"), ("B12 50 IU", "IU"),
            ("B12 50 µg now and then", "now and then"), ("B12 0 µg", "not possible"),
            ("calcium 100 g", "not possible"),
            ("B12 1.2.3 µg", "not a number"),
        ):  # fmt: skip
            with self.subTest(text), self.assertRaises(DieteticsError) as caught:
                read_supplement(text)
            self.assertEqual(caught.exception.code, "supplement-unreadable")
            self.assertIn(word, str(caught.exception))

    def test_they_count_in_the_day_and_the_unknown_stays(self) -> None:
        food = SHELF.food("white-rice-cooked")
        day = compose([Item.exact(food.name, FoodContent(food), 200)])
        self.assertIs(with_supplements(day, {}), day)
        more = with_supplements(day, {"iodine_ug": 150.0, "zinc_mg": 5.0})
        self.assertEqual(more["iodine_ug"].amount, 150)
        self.assertEqual(more["iodine_ug"].complete, day["iodine_ug"].complete)
        self.assertAlmostEqual(more["zinc_mg"].amount, day["zinc_mg"].amount + 5)
        self.assertEqual(more["energy_kcal"], day["energy_kcal"])


class AbsorbedPhosphorus(unittest.TestCase):
    """Half of plants (40-60 %), nine tenths of what may be additive (50-100 %); common practice."""

    def test_plants_and_additives(self) -> None:
        beans = replace(SHELF.food("black-beans-cooked"), per_100g={"phosphorus_mg": 200.0})
        drink = replace(
            beans, name="Drink", tags=frozenset({"phosphate"}), per_100g={"phosphorus_mg": 100.0}
        )
        found = absorbed_phosphorus([(beans, 200.0), (drink, 100.0)])
        self.assertAlmostEqual(found.total_mg, 500)
        self.assertAlmostEqual(found.low_mg, 0.4 * 400 + 50)
        self.assertAlmostEqual(found.likely_mg, 0.5 * 400 + 90)
        self.assertAlmostEqual(found.high_mg, 0.6 * 400 + 100)
        self.assertIn("Of 500 mg phosphorus about 290 mg", found.words())

    def test_unknown_is_named(self) -> None:
        blank = replace(SHELF.food("black-beans-cooked"), per_100g={"phosphorus_mg": None})
        found = absorbed_phosphorus([(blank, 100.0)])
        self.assertEqual(found.words(), f"Phosphorus is unknown in {blank.name}.")
        self.assertEqual(absorbed_phosphorus([]).words(), "")
        self.assertEqual(absorbed_phosphorus([(blank, 0.0)]).unknown, ())
