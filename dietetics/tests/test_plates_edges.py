"""Two plates side by side, and phytate against zinc, with foods whose figures are made up so that
the sums can be done by hand.
"""

from __future__ import annotations

import unittest
from dataclasses import replace

from dietetics.composition.foods import Food, load_shelf
from dietetics.composition.phytate import PhytateZinc, phytate_per_g_protein, phytate_to_zinc
from dietetics.composition.sums import FoodContent, Item
from dietetics.dishes.colours import colour_of, colours_of
from dietetics.dishes.comparison import (
    Plate,
    at_equal,
    by_food,
    difference_sentence,
    more_food_words,
    waterfall,
)

SHELF = load_shelf()
BLANK = SHELF.food("kale-raw")


def food(name: str, **per_100g: float | None) -> Food:
    """A made-up food of which nothing else is in it."""
    nothing = dict.fromkeys(BLANK.per_100g, 0.0)
    return replace(BLANK, key=name, name=name, per_100g={**nothing, **per_100g})


def plate(name: str, *parts: tuple[Food, float], volume_ml: float = 100.0) -> Plate:
    """A plate of foods in grams."""
    items = tuple(Item.exact(one.name, FoodContent(one), grams) for one, grams in parts)
    return Plate(name, items, sum(grams for _, grams in parts), volume_ml)


LEAN = food("Lean", energy_kcal=100.0, protein_g=10.0, sodium_mg=10.0)
RICH = food("Rich", energy_kcal=400.0, protein_g=10.0, fat_g=30.0, sodium_mg=10.0)


class TwoPlates(unittest.TestCase):
    def test_scaled_to_equal_energy(self) -> None:
        first, second = plate("a", (RICH, 100)), plate("b", (LEAN, 100))
        one, other = at_equal([first, second], "energy_kcal")
        self.assertEqual((one.factor, other.factor, other.grams), (1.0, 4.0, 400.0))
        self.assertAlmostEqual(other.total["energy_kcal"].amount, 400)
        self.assertEqual(other.volume_ml, 400)
        self.assertIsNone(at_equal([first, plate("c", (food("Water"), 100))], "energy_kcal"))

    def test_the_difference_in_words(self) -> None:
        rich, lean = plate("a", (RICH, 100)), plate("b", (LEAN, 100))
        self.assertEqual(
            difference_sentence(rich, lean),
            "same protein and fibre and sodium and potassium, 300 kcal less, 30.0 g less fat",
        )
        self.assertIn("300 kcal more, 30.0 g more fat", difference_sentence(lean, rich))
        self.assertTrue(difference_sentence(lean, lean).startswith("same energy and protein"))

    def test_three_hundredths_are_the_same_and_what_is_unknown_is_about(self) -> None:
        for kcal, same in ((103, True), (104, False), (97, True), (96, False)):
            other = plate("b", (food("Other", energy_kcal=float(kcal)), 100))
            said = difference_sentence(plate("a", (food("One", energy_kcal=100.0), 100)), other)
            self.assertEqual("same energy" in said, same, said)
        unknown = food("Unknown", energy_kcal=None)
        half = plate("b", (LEAN, 300), (unknown, 100))
        self.assertIn("about 200 kcal more", difference_sentence(plate("a", (LEAN, 100)), half))

    def test_how_much_more_food(self) -> None:
        base = plate("a", (LEAN, 100), volume_ml=100)
        for grams, volume, words in (
            (180, 210, "1.8 × the weight and 2.1 × the room"), (104, 104, ""),
            (106, 100, "1.1 × the weight and 1.0 × the room"),
            (100, 94, "1.0 × the weight and 0.9 × the room"),
        ):  # fmt: skip
            self.assertEqual(
                more_food_words(base, plate("b", (LEAN, grams), volume_ml=volume)), words
            )
        self.assertEqual(more_food_words(plate("a", (LEAN, 100), volume_ml=0), base), "")

    def test_where_a_difference_comes_from(self) -> None:
        first = plate("a", (RICH, 100), (LEAN, 100))
        second = plate("b", (RICH, 50), (LEAN, 100), (food("New", energy_kcal=50.0), 100))
        rows = waterfall(first, second, "energy_kcal")
        self.assertEqual([(r.name, r.change) for r in rows], [("Rich", -200.0), ("New", 50.0)])
        self.assertEqual(by_food(first, "energy_kcal"), {"Rich": 400.0, "Lean": 100.0})
        self.assertEqual(by_food(first.scaled(2), "energy_kcal"), {"Rich": 800.0, "Lean": 200.0})
        many = plate("c", *((food(f"F{n}", energy_kcal=10.0 * n), 100) for n in range(1, 10)))
        found = waterfall(plate("d", (food("Water"), 100)), many, "energy_kcal")
        self.assertEqual([r.name for r in found], [f"F{n}" for n in range(9, 2, -1)] + [
            "everything else"])  # fmt: skip
        self.assertAlmostEqual(sum(r.change for r in found), 450)


class Phytate(unittest.TestCase):
    """660.04 g of phytate and 65.38 g of zinc are a mole each; above 15 moles a mole zinc is
    poorly absorbed (WHO/FAO 2004, from memory).
    """

    def test_by_moles(self) -> None:
        family, rate = next(iter(sorted(phytate_per_g_protein().items())))
        grain = replace(food("Grain, made up", protein_g=10.0), family=family)
        found = phytate_to_zinc([(grain, 200.0)], 2.0)
        self.assertAlmostEqual(found.phytate_mg, rate * 20)
        self.assertAlmostEqual(found.ratio, (rate * 20 / 660.04) / (2.0 / 65.38))
        self.assertEqual(found.mostly, ("grain",))
        self.assertIsNone(phytate_to_zinc([(grain, 200.0)], None))
        self.assertIsNone(phytate_to_zinc([(grain, 200.0)], 0.0))
        self.assertIsNone(phytate_to_zinc([], 2.0))

    def test_the_two_that_bring_most_are_named(self) -> None:
        families = sorted(phytate_per_g_protein())[:3]
        rates = phytate_per_g_protein()
        foods = [
            (replace(food(f"F{n}, x", protein_g=10.0), family=key), 1000.0 * (n + 1) / rates[key])
            for n, key in enumerate(families)
        ]
        self.assertEqual(phytate_to_zinc(foods, 5.0).mostly, ("f2", "f1"))

    def test_words(self) -> None:
        for ratio, words in (
            (15.0, "zinc is fairly well absorbed"), (15.1, "zinc is poorly absorbed (above 15"),
        ):  # fmt: skip
            self.assertIn(words, PhytateZinc(ratio, 100.0, ("beans",)).words())


class Colours(unittest.TestCase):
    def test_each_by_enough_of_it(self) -> None:
        kale, carrot = SHELF.food("kale-raw"), SHELF.food("carrot-raw")
        self.assertEqual((colour_of(kale), colour_of(carrot)), ("green", "orange"))
        self.assertEqual(colours_of([(kale, 20), (carrot, 19.9)], 20), ("green",))
        self.assertEqual(colours_of([(carrot, 10), (carrot, 10), (kale, 20)], 20), (
            "green", "orange"))  # fmt: skip
        self.assertEqual(colour_of(replace(kale, family="radicchio")), "purple")
        self.assertEqual(colour_of(SHELF.food("olive-oil")), "")
