"""A dish that nobody weighed counts with what it weighs when it is cooked, and says so."""

from __future__ import annotations

import tomllib
import unittest
from pathlib import Path

from hypothesis import given
from hypothesis import strategies as st

from dietetics.amounts.line_reader import LineReader
from dietetics.composition.foods import load_shelf
from dietetics.composition.sums import FoodContent, Item, compose
from dietetics.dishes.batches import Batch, BatchContent, explain_batch
from dietetics.dishes.bowls import foods_as_eaten
from dietetics.dishes.recipes import read_recipe
from dietetics.dishes.unweighed import as_eaten_g, cooked_places, expected_weight

SHELF = load_shelf()
READER = LineReader(SHELF)
THIN = {"oats", "steel-cut-oats", "cornmeal"}
CASES = tomllib.loads((Path(__file__).parent / "inputs" / "unweighed_dishes.toml").read_text())


def item(key: str, grams: float) -> Item:
    """So much of a food."""
    return Item.exact(key, FoodContent(SHELF.food(key)), grams)


def batch_of(dish: dict[str, object], **given: float) -> Batch:
    """A dish of the cases as a pasted recipe."""
    parts = [str(dish["title"]), "Ingredients:", *dish["lines"], "Method:", *dish["steps"]]  # type: ignore[misc]
    return read_recipe("\n".join(parts), READER).batch(**given)


class Unweighed(unittest.TestCase):
    """The weight of a dish that nobody weighed."""

    def test_each_dish_weighs_what_a_cook_would_expect(self) -> None:
        for dish in CASES["dish"]:
            batch = batch_of(dish)
            with self.subTest(dish["title"]):
                if dish.get("cold"):
                    self.assertIsNone(batch.expected_g)
                    self.assertEqual(batch.weight_g, batch.ingredients_g)
                else:
                    self.assertGreaterEqual(batch.weight_g, dish["low"])
                    self.assertLessEqual(batch.weight_g, dish["high"])

    def test_cooked_rice_has_the_density_of_cooked_rice(self) -> None:
        """The cooked row of the table is measured, and knows nothing of yields."""
        batch = batch_of(CASES["dish"][0])
        cooked = SHELF.food("brown-rice-cooked").per_100g["energy_kcal"]
        assert cooked is not None
        density = batch.per_100g["kcal_per_g"]
        assert density.amount and density.low and density.high
        self.assertAlmostEqual(density.amount, cooked / 100, delta=0.12 * cooked / 100)
        self.assertLess(density.low, cooked / 100)
        self.assertGreater(density.high, cooked / 100)

    def test_a_weighed_pot_stands_before_what_is_expected(self) -> None:
        batch = batch_of(CASES["dish"][0], yield_g=510)
        self.assertEqual(batch.weight_g, 510)
        self.assertNotIn("expected", " ".join(batch.remarks()))
        density = batch.per_100g["kcal_per_g"]
        self.assertEqual(density.low, density.amount)

    def test_it_says_that_nobody_weighed_it(self) -> None:
        batch = batch_of(CASES["dish"][0])
        self.assertIn("540 g is expected (", " ".join(batch.remarks()))
        self.assertIn("200 g went in", " ".join(batch.remarks()))
        told = BatchContent(batch).explain_per_100g("protein_g").sentence
        self.assertIn("nobody weighed it", told)
        weight = explain_batch(batch, "kcal_per_g").parts[1].sentence
        self.assertIn("nobody weighed it", weight)

    def test_a_bowl_of_it_holds_its_amounts_within_a_range(self) -> None:
        """200 g of the rice: at most what they are if the pot came out lightest."""
        batch = batch_of(CASES["dish"][0])
        assert batch.expected_g is not None
        low_g, _, high_g = batch.expected_g
        whole = batch.total["protein_g"].amount
        assert whole is not None
        bowl = compose([Item.exact("Rice", BatchContent(batch), 200.0), item("kale-raw", 100)])
        kale = SHELF.food("kale-raw").per_100g
        protein, density = bowl["protein_g"], bowl["kcal_per_g"]
        assert protein.low is not None and protein.high is not None
        self.assertAlmostEqual(protein.low, whole * 200 / high_g + (kale["protein_g"] or 0))
        self.assertAlmostEqual(protein.high, whole * 200 / low_g + (kale["protein_g"] or 0))
        energy = (batch.total["energy_kcal"].amount or 0) * 200 / low_g + (kale["energy_kcal"] or 0)
        assert density.high is not None
        self.assertAlmostEqual(density.high, energy / 300)
        weighed = compose(
            [Item.exact("Rice", BatchContent(batch_of(CASES["dish"][0], yield_g=540)), 200.0)]
        )
        self.assertEqual(weighed["protein_g"].low, weighed["protein_g"].high)

    def test_a_denied_cooking_is_none(self) -> None:
        line = [(item("cabbage-raw", 300), "pot")]
        for step in ("No cooking needed.", "Do not boil it.", "Serve without cooking."):
            self.assertIsNone(expected_weight(line, "Slaw", [step], SHELF), step)
        for step in ("Do not stir; boil it.", "Boil until soft."):
            self.assertIsNotNone(expected_weight(line, "Cabbage", [step], SHELF), step)

    def test_water_that_is_drained_does_not_stay(self) -> None:
        lines = [(item("pasta-dry", 250), "pot"), (item("water", 4000), "pot")]
        found = expected_weight(lines, "Pasta", ["Boil the pasta in the water and drain."], SHELF)
        assert found is not None
        self.assertGreater(found.likely_g, 500)  # 2.0 to 2.4 times, from memory
        self.assertLess(found.likely_g, 610)

    @given(st.floats(10, 2000), st.floats(0, 3000))
    def test_more_water_written_never_makes_it_weigh_less_than_the_dry_food(
        self, dry: float, water: float
    ) -> None:
        lines = [(item("red-lentils-dry", dry), "pot"), (item("water", water), "pot")]
        found = expected_weight(lines, "Dal", ["Simmer."], SHELF)
        assert found is not None
        low, likely, high = found.weights_g
        self.assertLessEqual(low, likely)
        self.assertLessEqual(likely, high)
        self.assertGreater(likely, dry * 2)

    def test_nutrients_of_the_whole_do_not_change(self) -> None:
        batch = batch_of(CASES["dish"][0])
        raw = Batch(batch.name, batch.items, None, None)
        for key in ("energy_kcal", "protein_g", "fibre_g"):
            self.assertEqual(batch.total[key].amount, raw.total[key].amount, key)


if __name__ == "__main__":
    unittest.main()


class AsEaten(unittest.TestCase):
    """Grams as an approach asks for them: cooked."""

    def test_dry_food_counts_with_the_water_that_the_table_s_own_cooked_row_holds(self) -> None:
        """Outside: the energy of the published dry row ÷ that of the cooked one is how much heavier
        it grew. Oats and polenta are as thin as somebody likes them.
        """
        rows: dict[tuple[str, str], dict[str, object]] = {}
        for food in SHELF.foods.values():
            if food.group in ("grain", "legume", "soy-food"):
                rows.setdefault((food.group, food.family), {})[food.state] = food
        seen = 0
        for (_, family), by_state in rows.items():
            if {"dry", "cooked"} <= by_state.keys() and family not in THIN:
                dry, cooked = by_state["dry"], by_state["cooked"]
                grew = dry.per_100g["energy_kcal"] / cooked.per_100g["energy_kcal"]  # type: ignore[attr-defined]
                with self.subTest(family):
                    self.assertAlmostEqual(as_eaten_g(dry, 1.0) / grew, 1.0, delta=0.33)  # type: ignore[arg-type]
                    self.assertEqual(as_eaten_g(cooked, 1.0), 1.0)  # type: ignore[arg-type]
                    seen += 1
        self.assertGreater(seen, 40)

    def test_what_takes_up_no_water_weighs_what_it_weighs(self) -> None:
        for key in ("whole-wheat-flour", "chickpea-flour", "kale-raw", "tofu-firm", "walnuts"):
            self.assertEqual(as_eaten_g(SHELF.food(key), 80.0), 80.0, key)

    def test_oats_count_like_other_grains(self) -> None:
        grain = as_eaten_g(SHELF.food("sorghum-dry"), 50.0)
        self.assertEqual(as_eaten_g(SHELF.food("rolled-oats-dry"), 50.0), grain)
        self.assertEqual(as_eaten_g(SHELF.food("steel-cut-oats-dry"), 50.0), grain)

    def test_what_is_heated_is_no_longer_raw(self) -> None:
        for methods, steps, places in (
            (("pot", "raw", "roasted"), ["Simmer everything for 20 minutes."], {0, 2}),
            (("pot", "raw", "roasted"), ["Toss everything together.", "Chill for an hour."], {2}),
            (("pot", "pot"), ["Do not cook it; toss."], set()),
            (("pot", "pot"), [], set()),
        ):
            with self.subTest(methods=methods, steps=steps):
                self.assertEqual(cooked_places(methods, "Dish", steps), places)

    def test_carrots_of_a_soup_are_no_raw_salad_and_those_beside_it_are(self) -> None:
        carrots = (item("carrot-raw", 200.0), item("lentils-cooked", 300.0))
        for cooked, state in ((frozenset({0, 1}), "cooked"), (frozenset(), "raw")):
            batch = Batch("Pot", carrots, yield_g=500.0, servings=2, cooked=cooked)
            inner = Item.exact("Pot", BatchContent(batch), 250.0)
            outer = Batch("Bowl base", (inner, item("kale-raw", 50.0)), yield_g=300.0, servings=1)
            half = Item.exact("Base", BatchContent(outer), 150.0)
            states = {food.key: (food.state, grams) for food, grams in foods_as_eaten(half)}
            self.assertEqual(states["carrot-raw"], (state, 50.0))
            self.assertEqual(states["kale-raw"], ("raw", 25.0))
            self.assertEqual(states["lentils-cooked"], ("cooked", 75.0))
