"""Cooking yields, cooked-from-raw against the tables' own cooked rows, survey dishes as mixtures,
steps, retention.
"""

from __future__ import annotations

import csv
import statistics
import unittest
from dataclasses import dataclass
from pathlib import Path

from hypothesis import given
from hypothesis import strategies as st

from dietetics.composition.foods import Food, load_shelf, read_table
from dietetics.composition.sums import FoodContent, Item, compose
from dietetics.dishes.batches import Batch
from dietetics.dishes.bowls import foods_of
from dietetics.dishes.cooking import METHODS, expected_yield, read_yield, retained, yield_words
from dietetics.dishes.dish_as_food import dish_density
from dietetics.dishes.portions import read_batch_portion
from dietetics.dishes.steps import read_step
from dietetics.errors import DieteticsError
from dietetics.nutrients import BY_KEY

SHELF = load_shelf()
SURVEY = Path(__file__).parent / "inputs" / "survey_dishes.csv"

# Cooked rows of the tables that our yield does not reach within 10 %, and why.
EXPLAINED = {
    "brown-rice": "the cooked row holds more water: × 3.0, the top of our span",
    "barley": "protein: the dry row has 9.9 g, the cooked row comes from another sample with 2.3 g",
    "soba": "protein: two samples (14.4 and 5.1 g); energy agrees",
    "black-beans": "energy of the survey row: cooked longer, × 2.6",
    "chickpeas": "protein is 10.4 % above: two samples; energy agrees",
    "kale": "protein is 10.1 % above: two samples; energy agrees",
    "spinach": "the survey row is drained of more water before it is weighed",
    "onion": "energy: the raw row is sweeter; protein agrees",
    "broccoli": "protein: raw and cooked rows are two samples (2.8 and 2.4 g)",
    "cabbage": "two samples: the cooked row is 23 kcal, the raw 25, with more protein in the raw",
    "mushrooms": "protein: the raw row has 3.1 g, the cooked row 2.2 after losing water",
}

# Even with the water matched their protein differs by more than a tenth: raw and cooked rows are
# different samples.
TWO_SAMPLES = {"barley", "soba", "onion", "broccoli", "cabbage", "mushrooms"}


def item(key: str, grams: float) -> Item:
    """So much of a food."""
    food = SHELF.food(key)
    return Item.exact(food.name, FoodContent(food), grams)


class AgainstCookedRows(unittest.TestCase):
    """Raw or dry rows ÷ yield against cooked rows that were measured on their own."""

    def pairs(self) -> list[tuple[str, Food, Food, float]]:
        """(family, uncooked, cooked, yield) where both rows are the tables' own and the method is
        the row's.
        """
        found = []
        for family, foods in SHELF.families.items():
            known = [y for y in SHELF.yields_of(family) if y.method != "roasted"]
            before = [
                f
                for f in foods
                if f.state in ("dry", "raw") and f.derivation[:15] in ("", "alpha-linolenic")
            ]
            after = [
                f
                for f in foods
                if f.state == "cooked" and f.derivation[:12] in ("", "cooking salt")
            ]
            if known and before and after:
                found.append((family, before[0], after[0], known[0].likely))
        return found

    def test_energy_and_protein_within_a_tenth_or_explained(self) -> None:
        pairs, outside = self.pairs(), set()
        for family, before, after, factor in pairs:
            for key in ("energy_kcal", "protein_g"):
                ours, theirs = before.per_100g[key] / factor, after.per_100g[key]
                if abs(ours - theirs) > 0.10 * theirs:
                    outside.add(family)
        self.assertGreaterEqual(len(pairs), 22)
        self.assertEqual(outside, set(EXPLAINED))
        self.assertGreaterEqual(len(pairs) - len(outside), 12)

    def test_cooking_adds_or_takes_water_and_little_else(self) -> None:
        """With the water matched by energy, protein agrees within a tenth for most: the rest are
        two samples.
        """
        apart = set()
        for family, before, after, _ in self.pairs():
            theirs = before.per_100g["energy_kcal"] / after.per_100g["energy_kcal"]
            if abs(before.per_100g["protein_g"] / theirs / after.per_100g["protein_g"] - 1) > 0.105:
                apart.add(family)
        self.assertGreaterEqual(len(self.pairs()) - len(apart), 15)
        self.assertLessEqual(apart, TWO_SAMPLES)

    def test_their_own_yields_lie_near_our_spans(self) -> None:
        """What went in ÷ what a gram of the cooked row holds is a yield: most lie inside our low
        and high.
        """
        inside = []
        for family, before, after, _ in self.pairs():
            span = next(y for y in SHELF.yields_of(family) if y.method != "roasted")
            theirs = before.per_100g["energy_kcal"] / after.per_100g["energy_kcal"]
            inside.append(span.low * 0.9 <= theirs <= span.high * 1.1)
        self.assertGreaterEqual(sum(inside) / len(inside), 0.6)


@dataclass(frozen=True)
class Row:
    """A row of the survey as something composed."""

    name: str
    values: dict[str, float]

    def known_per_100g(self, key: str) -> tuple[float | None, float]:
        """Its cell."""
        return self.values.get(key), 1.0 if key in self.values else 0.0


COLUMNS = {
    "Energy": "energy_kcal", "Protein": "protein_g", "Total fat": "fat_g",
    "Carbohydrate": "carbohydrate_g", "Fiber": "fibre_g",
    "Potassium": "potassium_mg", "Phosphorus": "phosphorus_mg", "Magnesium": "magnesium_mg",
    "Iron": "iron_mg", "Zinc": "zinc_mg",
    "Folate, total": "folate_ug",
}  # fmt: skip
FOUND_BY = ("energy_kcal", "protein_g", "carbohydrate_g", "fibre_g")
PREDICTED = ("potassium_mg", "phosphorus_mg", "magnesium_mg", "iron_mg", "zinc_mg", "folate_ug")
RICE, BROWN = "Rice, white, cooked, no added fat", "Rice, brown, cooked, no added fat"
MIXED = (
    ("Rice, white, with lentils, no added fat", RICE, "Lentils, from dried, no added fat"),
    ("Rice, white, with peas, no added fat", RICE, "Green peas, frozen, cooked, no added fat"),
    ("Rice, brown, with peas, no added fat", BROWN, "Green peas, frozen, cooked, no added fat"),
    ("Rice, white, with corn, no added fat", RICE, "Corn, frozen, cooked, no added fat"),
    ("Rice, brown, with corn, no added fat", BROWN, "Corn, frozen, cooked, no added fat"),
    ("Rice, white, with carrots, no added fat", RICE, "Carrots, fresh, cooked, no added fat"),
    ("Rice, brown, with carrots, no added fat", BROWN, "Carrots, fresh, cooked, no added fat"),
    ("Lima beans and corn, cooked, no added fat", "Lima beans, from frozen, no added fat",
    "Corn, frozen, cooked, no added fat"),
    ("Peas and corn, cooked, no added fat", "Green peas, frozen, cooked, no added fat",
    "Corn, frozen, cooked, no added fat"),
)  # fmt: skip


class SurveyDishes(unittest.TestCase):
    """Mixed dishes of the survey written as two parts: the mixture is found from four nutrients and
    predicts six others.
    """

    def rows(self) -> dict[str, Row]:
        """The committed extract."""
        with SURVEY.open(encoding="utf-8", newline="") as handle:
            read = csv.DictReader(line for line in handle if not line.startswith("#"))
            return {
                r["row"]: Row(r["row"], {key: float(r[name]) for name, key in COLUMNS.items()})
                for r in read
            }

    def mixture(self, first: Row, second: Row, share: float) -> dict[str, float]:
        """What the product's own sums give for so much of each."""
        whole = compose(
            [Item.exact("a", first, 100 * share), Item.exact("b", second, 100 * (1 - share))]
        )
        return {key: whole[key].amount for key in COLUMNS.values()}

    def test_the_rest_is_predicted(self) -> None:
        rows, errors, shares = self.rows(), [], {}
        for name, a, b in MIXED:
            dish = rows[name].values

            def off(share: float, a: str = a, b: str = b, dish: dict[str, float] = dish) -> float:
                made = self.mixture(rows[a], rows[b], share)
                return sum(((made[k] - dish[k]) / max(dish[k], 1e-9)) ** 2 for k in FOUND_BY)

            share = min((n / 200 for n in range(201)), key=off)
            shares[name] = share
            made = self.mixture(rows[a], rows[b], share)
            errors += [abs(made[k] / dish[k] - 1) for k in PREDICTED]
        self.assertTrue(all(0.1 < share < 0.95 for share in shares.values()), shares)
        self.assertLess(statistics.median(errors), 0.06)
        self.assertLess(statistics.quantiles(errors, n=10)[-1], 0.30)


class Yields(unittest.TestCase):
    """What a pot should weigh, and what was measured."""

    def test_water_that_is_drained_or_absorbed(self) -> None:
        lines = [(item("chickpeas-dry", 500), "boiled"), (item("water", 2000), "boiled")]
        found = expected_yield(lines, SHELF)
        self.assertAlmostEqual(found.likely_g, 500 * 2.3)
        pot = expected_yield([(one, "pot") for one, _ in lines], SHELF)
        self.assertLess(pot.high_g, 2500)

    def test_every_method_gives_an_ordered_span(self) -> None:
        for method in METHODS:
            for food in SHELF:
                line = expected_yield([(item(food.key, 100), method)], SHELF).lines[0]
                self.assertLessEqual(line.low_g, line.likely_g, (method, food.key))
                self.assertLessEqual(line.likely_g, line.high_g, (method, food.key))
        with self.assertRaises(DieteticsError):
            expected_yield([(item("kale-raw", 1), "microwaved")], SHELF)

    def test_measured_yields_as_people_write_them(self) -> None:
        for text, grams in (("1.74 kg", 1740), ("2.9 kg less 1.16 kg", 1740), ("2900 g - 1160 g",
            1740), ("12 x 45 g", 540),
                            ("12 pieces of 45 g", 540), ("7 x 1 cup", 7 * 236.588), ("6 cups",
                            6 * 236.588),
                            ("7 heaped ladles", 7 * 125 * 1.25), ("3 lb",
                            3 * 453.592)):  # fmt: skip
            self.assertAlmostEqual(read_yield(text)[0], grams, delta=0.5, msg=text)
        for bad in ("plenty", "", "7", "1 kg less 2 kg", "x"):
            with self.assertRaises(DieteticsError, msg=bad):
                read_yield(bad)

    def test_a_cup_of_a_dish_weighs_what_its_foods_weigh(self) -> None:
        """A cup of oats is 80 g and of walnuts about 110 g: a dry mix lies between, far from the
        237 g of a soup.
        """
        dry = dish_density(Batch("mix", (item("rolled-oats-dry", 200), item("walnuts", 50))))
        grams, how = read_yield("3 cups", density=dry)
        self.assertTrue(3 * 80 <= grams <= 3 * 120, grams)
        self.assertIn("estimated from its ingredients", how)
        soup = dish_density(Batch("soup", (item("red-lentils-dry", 200), item("water", 800))))
        self.assertAlmostEqual(read_yield("3 cups", density=soup)[0], 3 * 236.588, delta=0.1)
        self.assertAlmostEqual(
            read_batch_portion(
                "1/2 cup", Batch("mix", (item("rolled-oats-dry", 200),))
            ).weight.grams,
            40,
            delta=1,
        )
        boiled_in = dish_density(Batch("rice", (item("white-rice-dry", 200),), 560))
        self.assertLessEqual(boiled_in[0], 1.1)

    @given(st.text(max_size=40))
    def test_any_text_is_read_or_refused(self, text: str) -> None:
        try:
            grams, _ = read_yield(text)
        except DieteticsError:
            return
        self.assertGreater(grams, 0)

    def test_words_for_what_surprises(self) -> None:
        expected = expected_yield([(item("carrot-raw", 1000), "roasted")], SHELF)
        self.assertIn("as usual", yield_words(expected, 700))
        self.assertIn("drained", yield_words(expected, 990))
        self.assertIn("cooked down further", yield_words(expected, 300))


class Retention(unittest.TestCase):
    """What heat and water take, where it is asked for."""

    def test_named_factors_and_nothing_else(self) -> None:
        before = item("kale-raw", 200)
        after = retained(before, "boiled")
        a, b = compose([before]), compose([after])
        self.assertAlmostEqual(b["vitamin_c_mg"].amount, 0.6 * a["vitamin_c_mg"].amount)
        for key in ("energy_kcal", "protein_g", "fibre_g", "sodium_mg"):
            self.assertEqual(a[key].amount, b[key].amount, key)
        self.assertIn("from memory", after.how)
        self.assertEqual(list(foods_of(after)), list(foods_of(before)))

    def test_cooked_food_loses_nothing_twice(self) -> None:
        cooked = item("kale-cooked", 100)
        self.assertIs(retained(cooked, "boiled"), cooked)

    def test_table(self) -> None:
        groups = {food.group for food in SHELF}
        for row in read_table("retention.csv"):
            self.assertIn(row["method"], METHODS)
            self.assertIn(row["group"], groups)
            self.assertIn(row["nutrient"], BY_KEY)
            self.assertNotIn(row["nutrient"], ("energy_kcal", "protein_g"))
            self.assertTrue(0.3 <= float(row["share"]) <= 1)


class Steps(unittest.TestCase):
    """Times and temperatures in the method."""

    def test_recognised(self) -> None:
        for text, words in (("Roast at 200 °C for 25-30 minutes", "25–30 min · 200 °C"),
            ("Soak overnight.", "overnight"),
                            ("Simmer 1 hour 15 minutes", "75 min"), ("Bake at 400 F, half an hour",
                            "30 min · 205 °C"),
                            ("Stir in 2 cups of water.", ""), ("Serves 4.", "")):  # fmt: skip
            self.assertEqual(read_step(text).words(), words, text)
