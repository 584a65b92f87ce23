"""Yields, portions and names at their edges, worked by hand."""

from __future__ import annotations

import unittest

from dietetics.amounts.weighing import Scales
from dietetics.composition.foods import load_shelf
from dietetics.composition.name_words import fold, naming_words, singular, words_of
from dietetics.composition.sums import FoodContent, Item
from dietetics.dishes.batches import Batch
from dietetics.dishes.cooking import (
    CookedLine,
    ExpectedYield,
    bowls_coated,
    expected_yield,
    is_usual,
    learnt_shares,
    other_weight,
    read_yield,
    storing_words,
    yield_words,
)
from dietetics.dishes.portions import first_portion, read_batch_portion, read_portion, stepped
from dietetics.errors import DieteticsError

SHELF = load_shelf()
SCALES = Scales(SHELF)


def item(key: str, grams: float) -> Item:
    """So many grams of a food."""
    food = SHELF.food(key)
    return Item.exact(food.name, FoodContent(food), grams)


class Yields(unittest.TestCase):
    EXPECTED = ExpectedYield((CookedLine("x", 1000, 900, 1000, 1100, "common practice"),))

    def test_three_hundredths_to_both_sides_are_usual(self) -> None:
        for grams, usual in (
            (872, False), (874, True), (1000, True), (1132, True), (1134, False),
        ):  # fmt: skip
            self.assertEqual(is_usual(self.EXPECTED, grams), usual, grams)

    def test_what_a_surprising_weight_means(self) -> None:
        for grams, words in (
            (1100, "10% above, as usual."), (950, "5% below, as usual."),
            (1300, "30% above. Heavier than usual"), (700, "30% below. Lighter than usual"),
        ):  # fmt: skip
            self.assertIn(words, yield_words(self.EXPECTED, grams))
        self.assertEqual(yield_words(ExpectedYield(()), 100), "")
        said = yield_words(self.EXPECTED, 1000)
        self.assertTrue(said.startswith("1,000 g measured; 900–1,100 g expected, 1,000 likely: 0%"))

    def test_the_last_five_cookings_teach_and_one_does_not(self) -> None:
        self.assertIsNone(learnt_shares([(900, 1000)]))
        self.assertIsNone(learnt_shares([(900, 1000), (1, 0)]))
        low, mean, high = learnt_shares([(900, 1000), (1100, 1000)])
        self.assertEqual((low, high), (0.9, 1.1))
        self.assertAlmostEqual(mean, 1.0)
        five = [(1000, 1000)] * 5
        self.assertEqual(learnt_shares([*five, (5000, 1000)]), (1.0, 1.0, 1.0))
        self.assertEqual(learnt_shares([*five[:4], (5000, 1000)])[2], 5.0)
        turned = self.EXPECTED.scaled((0.5, 0.6, 0.7))
        self.assertEqual((turned.low_g, turned.likely_g, turned.high_g), (500, 600, 700))

    def test_by_method(self) -> None:
        """Dry quinoa takes 2.6 to 3.0 times its weight; what is cooked already stays as it is;
        water that is drained is gone.
        """
        found = expected_yield([(item("quinoa-dry", 100), "boiled")], SHELF)
        self.assertTrue(260 <= found.likely_g <= 310, found)
        done = expected_yield([(item("lentils-cooked", 200), "roasted")], SHELF)
        self.assertEqual((done.low_g, done.likely_g, done.high_g), (190, 200, 200))
        water = expected_yield([(item("water", 500), "boiled")], SHELF)
        self.assertEqual((water.low_g, water.high_g), (0, 0))
        away = expected_yield([(item("water", 500), "roasted")], SHELF)
        self.assertEqual((away.low_g, away.likely_g, away.high_g), (0, 50, 200))
        with self.assertRaises(DieteticsError):
            expected_yield([(item("water", 500), "fried")], SHELF)

    def test_before_from_after_and_after_from_before(self) -> None:
        one = SHELF.yields_of("quinoa")[0]
        after = other_weight(SHELF.food("quinoa-dry"), 100, SHELF)
        self.assertTrue(after.startswith(f"about {100 * one.likely:,.0f} g {one.method} "), after)
        self.assertIn(f"({100 * one.low:,.0f}–{100 * one.high:,.0f};", after)
        before = other_weight(SHELF.food("quinoa-cooked"), 300, SHELF)
        self.assertTrue(before.startswith(f"about {300 / one.likely:,.0f} g dry "), before)
        self.assertIn(f"({300 / one.high:,.0f}–{300 / one.low:,.0f};", before)
        kale = other_weight(SHELF.food("kale-cooked"), 100, SHELF)
        self.assertTrue(not kale or " g raw " in kale, kale)

    def test_a_yield_as_it_is_written(self) -> None:
        for text, grams in (
            ("2.9 kg less 1.16 kg", 1740), ("1740 g", 1740), ("12 x 45 g", 540),
            ("7 ladles", 875), ("2 kg - 500 g - 100 g", 1400), ("2 kg minus 500 g", 1500),
        ):  # fmt: skip
            with self.subTest(text):
                self.assertAlmostEqual(read_yield(text)[0], grams, places=3)
        self.assertAlmostEqual(read_yield("2 cups")[0], 473.176, delta=0.01)
        self.assertAlmostEqual(read_yield("2 cups", density=(0.5, "x"))[0], 236.588, delta=0.01)
        for wrong in ("", "1 kg less 1 kg", "1 kg less 2 kg", "2000 kg", "much"):
            with self.subTest(wrong), self.assertRaises(DieteticsError):
                read_yield(wrong)

    def test_small_words(self) -> None:
        self.assertEqual([bowls_coated(g) for g in (44, 46, 300)], [1, 2, 10])
        self.assertIn("Rice: cool at once", storing_words([SHELF.food("brown-rice-cooked")]))
        self.assertNotIn("Rice", storing_words([SHELF.food("lentils-cooked")]))


class Portions(unittest.TestCase):
    def test_steps_stay_on_their_grid_and_above_nothing(self) -> None:
        for amount, unit, steps, wanted in (
            (1, "cup", 1, "1.25 cup"), (1, "cup", -9, "0.25 cup"), (30, "g", 1, "40 g"),
            (33, "g", 1, "40 g"), (10, "g", -3, "10 g"), (2, "tbsp", -1, "1 tbsp"),
        ):  # fmt: skip
            with self.subTest(amount=amount, unit=unit):
                self.assertEqual(stepped(amount, unit, steps), wanted)

    def test_what_was_typed_keeps_its_measure(self) -> None:
        quinoa, kale = SHELF.food("quinoa-cooked"), SHELF.food("kale-raw")
        for text, food, amount, unit, shown in (
            ("1 1/2 cups", quinoa, 1.5, "cup", "1½ cups"), ("1 cup", quinoa, 1, "cup", "1 cup"),
            ("½ cup", quinoa, 0.5, "cup", "½ cup"), ("30 g", quinoa, 30, "g", "30 g"),
            ("2 cups chopped", kale, 2, "cup, chopped", "2 cups, chopped"),
        ):  # fmt: skip
            found = read_portion(text, food, SCALES)
            self.assertEqual((found.amount, found.unit, found.text), (amount, unit, shown), text)
        for wrong in ("", "-1 cup", "1 cup of nothing much", "much"):
            with self.subTest(wrong), self.assertRaises(DieteticsError):
                read_portion(wrong, quinoa, SCALES)

    def test_a_range_or_a_sum_counts_in_grams(self) -> None:
        found = read_portion("1 cup plus 1 tbsp", SHELF.food("quinoa-cooked"), SCALES)
        self.assertEqual((found.unit, found.text), ("g", "1 cup plus 1 tbsp"))
        self.assertAlmostEqual(found.amount, found.weight.grams)

    def test_of_a_batch(self) -> None:
        batch = Batch("Stew", (item("lentils-cooked", 900), item("kale-raw", 100)), 1000, 4)
        for text, grams, shown in (
            ("1", 250, "1 serving"), ("2 servings", 500, "2 servings"), ("½", 125, "½ serving"),
            ("100 g", 100, "100 g"),
        ):  # fmt: skip
            found = read_batch_portion(text, batch)
            self.assertAlmostEqual(found.weight.grams, grams)
            self.assertEqual(found.text, shown)
        cup = read_batch_portion("1 cup", batch)
        self.assertLess(cup.weight.low, cup.weight.grams)
        spread = cup.weight.high / cup.weight.grams - 1
        self.assertIn(round(spread, 2), (0.15, 0.25))
        self.assertAlmostEqual(cup.weight.low, cup.weight.grams * (1 - spread))
        with self.assertRaises(DieteticsError):
            read_batch_portion("2 cups plus 1 tbsp", batch)

    def test_first_portions(self) -> None:
        for key, text in (
            ("quinoa-cooked", "½ cup"), ("tofu-firm", "100 g"), ("walnuts", "1 tbsp"),
            ("olive-oil", "1 tsp"), ("kale-raw", "1 cup"),
        ):  # fmt: skip
            self.assertTrue(first_portion(SHELF.food(key), SCALES).text.startswith(text), key)
        metric = first_portion(SHELF.food("olive-oil"), SCALES, metric=True)
        self.assertEqual((metric.unit, metric.amount), ("g", 5))


class Names(unittest.TestCase):
    def test_one_spelling(self) -> None:
        for word, wanted in (
            ("berries", "berry"), ("beans", "bean"), ("radishes", "radish"), ("boxes", "box"),
            ("bunches", "bunch"), ("ashes", "ash"), ("potatoes", "potato"), ("heroes", "hero"),
            ("cress", "cress"), ("glass", "glass"), ("couscous", "couscous"), ("pea", "pea"),
            ("gas", "gas"), ("oas", "oas"), ("peas", "pea"), ("oats", "oat"), ("leaves", "leaf"),
        ):  # fmt: skip
            self.assertEqual(singular(word), wanted)

    def test_folded_and_without_the_note(self) -> None:
        self.assertEqual(fold("Crème Brûlée"), "creme brulee")
        self.assertEqual(words_of("Soya Beans (dried), Swiss-chard"), (
            "soy", "bean", "dried", "swiss", "chard"))  # fmt: skip
        self.assertEqual(naming_words("Kale (curly), raw"), ("kale", "raw"))
