"""Sums with unknowns, as properties: nothing unknown becomes zero, nothing known gets lost."""

from __future__ import annotations

import unittest
from dataclasses import replace
from decimal import Decimal

from hypothesis import given
from hypothesis import strategies as st

from dietetics.composition.derivation import explain_sum, rounded_to_sum
from dietetics.composition.foods import load_shelf
from dietetics.composition.sums import FoodContent, Item, compose, together, total_figure
from dietetics.dishes.allergens import allergens_of
from dietetics.dishes.batches import Batch, BatchContent, explain_batch, explain_serving
from dietetics.dishes.bowls import Bowl, explain_bowl, food_portion, taken_apart
from dietetics.dishes.portions import read_batch_portion
from dietetics.errors import DieteticsError
from dietetics.nutrients import ADDITIVE_KEYS, NUTRIENTS, TABLE_KEYS

SHELF = load_shelf()
KEYS = sorted(SHELF.foods)
GRAMS = st.floats(0.1, 2000)
ITEMS = st.lists(
    st.builds(
        lambda key, grams: Item.exact(key, FoodContent(SHELF.food(key)), grams),
        st.sampled_from(KEYS),
        GRAMS,
    ),
    min_size=1,
    max_size=12,
)


class SumsAsProperties(unittest.TestCase):
    """What must hold for every list of foods."""

    @given(ITEMS, ITEMS)
    def test_adding_lines_never_lowers_a_known_total(
        self, first: list[Item], more: list[Item]
    ) -> None:
        before, after = compose(first), compose([*first, *more])
        for key in TABLE_KEYS:
            if before[key].amount is not None:
                self.assertGreaterEqual(after[key].amount + 1e-6, before[key].amount)

    @given(ITEMS, st.floats(0.05, 20))
    def test_scaling_scales_totals_and_not_density(self, items: list[Item], factor: float) -> None:
        bigger = [Item.exact(i.label, i.content, i.grams * factor) for i in items]
        one, many = compose(items), compose(bigger)
        for key in ADDITIVE_KEYS:
            if one[key].amount is not None:
                self.assertAlmostEqual(
                    many[key].amount,
                    one[key].amount * factor,
                    delta=1e-6 * (1 + abs(many[key].amount)),
                )
            self.assertAlmostEqual(many[key].coverage, one[key].coverage, places=9)
        self.assertAlmostEqual(many["kcal_per_g"].amount, one["kcal_per_g"].amount, places=9)

    @given(ITEMS)
    def test_coverage_is_the_known_share_of_the_weight(self, items: list[Item]) -> None:
        for key in TABLE_KEYS:
            known = sum(i.grams for i in items if i.content.food.per_100g[key] is not None)
            self.assertAlmostEqual(
                total_figure(items, key).coverage, known / sum(i.grams for i in items), places=9
            )

    @given(ITEMS)
    def test_derivations_add_up_as_shown(self, items: list[Item]) -> None:
        for key in ("protein_g", "sodium_mg", "selenium_ug", "pral_meq"):
            step = explain_sum("all", items, key)
            shown = [
                Decimal(p.figure.split()[0].replace(",", ""))
                for p in step.parts
                if p.value is not None
            ]
            if shown:
                total = Decimal(step.sentence.split("parts: ")[1].split()[0].replace(",", ""))
                self.assertEqual(sum(shown), total)
                self.assertAlmostEqual(
                    float(total), step.value, delta=0.05 + 1e-9 * abs(step.value)
                )

    @given(
        st.lists(st.floats(-1000, 1000, allow_nan=False), min_size=1, max_size=30),
        st.integers(0, 3),
    )
    def test_rounded_parts_add_up_to_the_rounded_total(
        self, values: list[float], decimals: int
    ) -> None:
        rounded = rounded_to_sum(values, decimals)
        exact = sum(Decimal(repr(v)) for v in values)
        self.assertLessEqual(
            abs(sum(rounded) - exact), Decimal("0.5") * Decimal(1).scaleb(-decimals)
        )
        for value, part in zip(values, rounded, strict=True):
            self.assertLess(abs(Decimal(repr(value)) - part), Decimal(1).scaleb(-decimals))

    @given(ITEMS, st.floats(0.2, 0.99), st.integers(1, 12))
    def test_water_boiled_away_changes_density_and_nothing_else(
        self, items: list[Item], left: float, n: int
    ) -> None:
        whole = Batch("pot", tuple(items), None, n)
        boiled = Batch("pot", tuple(items), whole.ingredients_g * left, n)
        for key in ADDITIVE_KEYS:
            self.assertEqual(whole.per_serving[key].amount, boiled.per_serving[key].amount)
        self.assertAlmostEqual(
            boiled.per_serving["kcal_per_g"].amount, whole.per_serving["kcal_per_g"].amount / left
        )

    @given(ITEMS)
    def test_all_servings_together_are_the_batch(self, items: list[Item]) -> None:
        batch = Batch("pot", tuple(items), None, 7)
        content = BatchContent(batch)
        servings = [Item.exact("s", content, batch.serving_g) for _ in range(7)]
        together = compose(servings)
        for key in ADDITIVE_KEYS:
            if batch.total[key].amount is not None:
                self.assertAlmostEqual(
                    together[key].amount,
                    batch.total[key].amount,
                    delta=1e-6 * (1 + abs(together[key].amount)),
                )


class UnknownIsNotZero(unittest.TestCase):
    """Unknown values in words and sums."""

    def test_a_food_without_a_value_lowers_coverage_and_adds_nothing(self) -> None:
        okara = SHELF.food("okara")
        self.assertIsNone(okara.per_100g["fibre_g"])
        beans = Item.exact("beans", FoodContent(SHELF.food("black-beans-cooked")), 300)
        figure = total_figure([beans, Item.exact("okara", FoodContent(okara), 100)], "fibre_g")
        self.assertAlmostEqual(
            figure.amount, SHELF.food("black-beans-cooked").per_100g["fibre_g"] * 3
        )
        self.assertEqual(figure.coverage, 0.75)
        self.assertIn("25 % of the weight unknown", figure.text())
        self.assertTrue(figure.text().startswith("at least"))

    def test_nothing_known_is_unknown(self) -> None:
        figure = total_figure(
            [Item.exact("okara", FoodContent(SHELF.food("okara")), 100)], "fibre_g"
        )
        self.assertIsNone(figure.amount)
        self.assertEqual(figure.text(), "unknown")

    def test_a_measured_yield_is_taken_unless_it_is_nothing(self) -> None:
        items = (Item.exact("Black beans", FoodContent(SHELF.food("black-beans-dry")), 454),)
        soaked = Batch("pot", items, 1100, 1)
        self.assertEqual(soaked.weight_g, 1100)
        self.assertIn("Black beans absorbed water", " ".join(soaked.remarks()))
        for weight in (0, -5):
            with self.assertRaises(DieteticsError):
                Batch("pot", items, weight, 1)
        self.assertEqual(Batch("pot", items, 300, 1).weight_g, 300)
        with self.assertRaises(DieteticsError):
            Batch("pot", items, 300, 0)


class LinesNotRead(unittest.TestCase):
    """A line that gave no food leaves every figure open: of its dish, of the bowl and the day that
    hold it.
    """

    def setUp(self) -> None:
        beans = Item.exact("beans", FoodContent(SHELF.food("black-beans-cooked")), 300)
        self.whole = Batch("pot", (beans,), None, 3)
        self.open = Batch("pot", (beans,), None, 3, unread=("2 cups unobtainium",))

    def test_every_figure_of_the_dish_is_open(self) -> None:
        for composition in (self.open.total, self.open.per_serving, self.open.per_100g):
            figure = composition["protein_g"]
            self.assertFalse(figure.complete)
            self.assertEqual(figure.unread, 1)
            self.assertTrue(figure.text().endswith("1 line not understood"), figure.text())
            self.assertTrue(figure.shown().startswith("≥ "))
        self.assertEqual(self.open.total["protein_g"].amount, self.whole.total["protein_g"].amount)
        self.assertTrue(self.whole.total["protein_g"].complete)

    def test_nothing_read_is_unknown_and_not_nothing(self) -> None:
        empty = Batch("pot", (), None, None, unread=("x", "y"))
        self.assertEqual(empty.total["protein_g"].text(), "unknown")
        self.assertEqual(Batch("pot", ()).total["protein_g"].amount, 0.0)

    def test_bowl_and_day_are_open_too(self) -> None:
        serving = Item.exact("a serving", BatchContent(self.open), self.open.serving_g)
        bowl = compose([serving, Item.exact("kale", FoodContent(SHELF.food("kale-raw")), 50)])
        self.assertEqual((bowl.unread, bowl["protein_g"].complete), (1, False))
        day = together([bowl, self.whole.per_serving, bowl])
        self.assertEqual(day.unread, 2)
        self.assertFalse(day["energy_kcal"].complete)
        self.assertTrue(together([self.whole.per_serving])["energy_kcal"].complete)

    def test_the_way_back_says_so(self) -> None:
        self.assertIn("1 line not understood", explain_batch(self.open, "protein_g").sentence)

    def test_allergens_are_complete_only_when_all_is_known(self) -> None:
        tofu = SHELF.food("tofu-firm")
        label = replace(tofu, name="Bar", allergens_known=False, traces=("peanut",))
        held = allergens_of([Item.exact("tofu", FoodContent(tofu), 10)])
        self.assertEqual((held.contains, held.traces, held.complete), (("soy",), (), True))
        unlisted = allergens_of([Item.exact("bar", FoodContent(label), 10)])
        self.assertEqual((unlisted.traces, unlisted.complete), (("peanut",), False))
        self.assertIn("ingredient list for Bar", unlisted.why_open())
        inside = allergens_of([Item.exact("pot", BatchContent(self.open), 10)])
        self.assertEqual(inside.unread, ("2 cups unobtainium",))
        oats = allergens_of([Item.exact("oats", FoodContent(SHELF.food("rolled-oats-dry")), 10)])
        self.assertEqual((oats.contains, oats.traces), ((), ("gluten",)))

    def test_servings_that_nobody_said(self) -> None:
        batch = Batch("pot", self.whole.items)
        self.assertEqual(batch.shown[:2], ("100 g", 100.0))
        for ask in (
            lambda: batch.serving_g,
            lambda: batch.per_serving,
            lambda: read_batch_portion("1 serving", batch),
        ):
            with self.assertRaises(DieteticsError) as caught:
                ask()
            self.assertEqual(caught.exception.code, "servings-unknown")
        self.assertEqual(read_batch_portion("150 g", batch).weight.grams, 150)


class TakenApart(unittest.TestCase):
    """A batch drawn by what went into it."""

    def test_parts_share_the_room_by_weight_water_aside(self) -> None:
        lines = (
            ("lentils-dry", 200),
            ("carrot-raw", 100),
            ("celery-raw", 50),
            ("water", 600),
            ("salt-table", 2),
        )
        pot = Batch(
            "pot",
            tuple(Item.exact(key, FoodContent(SHELF.food(key)), g) for key, g in lines),
            700,
            4,
        )
        parts = taken_apart(Item.exact("pot", BatchContent(pot), pot.serving_g), 175.0)
        self.assertEqual(
            [(p.group, round(p.item.grams, 6)) for p in parts],
            [("legume", 50.0), ("vegetable", 37.5)],
        )
        self.assertAlmostEqual(sum(p.volume_ml for p in parts), 175.0)
        self.assertAlmostEqual(parts[0].volume_ml / parts[1].volume_ml, 200 / 150)
        self.assertEqual(parts[1].item.label, SHELF.food("carrot-raw").name)

    def test_water_alone_has_no_parts(self) -> None:
        self.assertEqual(
            taken_apart(Item.exact("water", FoodContent(SHELF.food("water")), 100), 100.0), ()
        )


class BowlDerivations(unittest.TestCase):
    """Every figure of a bowl can be asked, down to the row."""

    def test_every_nutrient_of_a_mixed_bowl(self) -> None:
        pot = Batch(
            "pot",
            (
                Item.exact("lentils", FoodContent(SHELF.food("lentils-dry")), 200),
                Item.exact("water", FoodContent(SHELF.food("water")), 600),
            ),
            700,
            4,
        )
        quinoa = food_portion(
            "1", SHELF.food("quinoa-cooked"), (180, 185, 190), 1, "cup", "1 cup", "1 cup × 185 g"
        )
        beans = Item.exact("pot", BatchContent(pot), pot.serving_g)
        bowl = Bowl(
            "test", (quinoa, quinoa.__class__("2", beans, "legume", 175, 1, "serving", "1 serving"))
        )
        for one in NUTRIENTS:
            step = explain_bowl(bowl, one.key)
            if bowl.total[one.key].amount is None:
                self.assertIsNone(step.value)
            else:
                self.assertAlmostEqual(step.value, bowl.total[one.key].amount)
        protein = explain_bowl(bowl, "protein_g")
        self.assertAlmostEqual(sum(p.value for p in protein.parts), protein.value)
        deepest = protein.parts[1].parts[0].parts[0].parts[0]
        self.assertIn("Lentils, raw", deepest.source)
        serving = explain_serving(pot, "protein_g")
        # 200 g dry lentils at 24.63 g per 100 g, four servings: 12.315 g
        self.assertAlmostEqual(serving.value, 12.315, places=3)
