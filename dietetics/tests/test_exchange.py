"""Recipes out and in again: text, CSV, JSON-LD, saved pages; a file from a public specification;
comparison and fitting.
"""

from __future__ import annotations

import json
import unittest
from pathlib import Path

from hypothesis import given, settings
from hypothesis import strategies as st

from dietetics.amounts.line_reader import LineReader
from dietetics.composition.foods import load_shelf, read_table
from dietetics.composition.sums import FoodContent, Item, compose
from dietetics.dishes.adapting import (
    changed_items,
    costs,
    differences,
    effect,
    for_words,
    substitutions,
)
from dietetics.dishes.comparison import (
    Plate,
    at_equal,
    difference_sentence,
    more_food_words,
    waterfall,
)
from dietetics.dishes.recipe_files import WrittenLine, read_file, to_csv, to_jsonld, to_text
from dietetics.dishes.recipes import Recipe, read_recipe
from dietetics.errors import DieteticsError

SHELF = load_shelf()
READER = LineReader(SHELF)
INPUTS = Path(__file__).parent / "inputs"
DEMO = Path(__file__).resolve().parents[2] / "roundpantry" / "demo" / "recipes"


def lines_of(recipe: Recipe) -> list[WrittenLine]:
    """The lines of a recipe, to be written."""
    return [
        WrittenLine(line.text, line.food, line.grams) for line in recipe.lines if not line.heading
    ]


class RoundTrips(unittest.TestCase):
    """What is written reads back to the same dish."""

    def test_every_recipe_in_every_form(self) -> None:
        checked = 0
        for path in [*INPUTS.glob("*.txt"), *DEMO.glob("*.txt")]:
            recipe = read_recipe(path.read_text(encoding="utf-8"), READER)
            try:
                batch = recipe.batch()
            except DieteticsError:
                continue
            for write in (to_text, to_csv, to_jsonld):
                text = write(batch, lines_of(recipe), recipe.steps, READER)
                again = read_recipe(read_file(text.encode(), "x")[0].text, READER)
                self.assertEqual(again.title, recipe.title)
                self.assertEqual(again.steps, recipe.steps)
                self.assertEqual(
                    [i.label for i in again.items],
                    [i.label for i in recipe.items],
                    (path.name, write),
                )
                for a, b in zip(again.items, recipe.items, strict=True):
                    self.assertAlmostEqual(
                        a.grams, b.grams, delta=0.001 * b.grams, msg=(path.name, b.label)
                    )
                self.assertEqual(
                    (again.batch().servings, again.batch().yield_g), (batch.servings, batch.yield_g)
                )
                checked += 1
        self.assertGreaterEqual(checked, 30)

    def test_a_corrected_line_is_written_so_that_it_reads_back(self) -> None:
        batch = read_recipe("# Pot\nServes 2\n1 cup cooked quinoa", READER).batch()
        line = WrittenLine("a bit of this and that", SHELF.food("tofu-firm"), 123.4)
        text = to_text(batch, [line], (), READER)
        again = read_recipe(text, READER)
        self.assertEqual((again.items[0].label, again.items[0].grams), ("Tofu, firm", 123.4))

    def test_unknown_nutrition_is_left_out_of_jsonld(self) -> None:
        batch = read_recipe("# Pot\nServes 2\n1 cup cooked quinoa", READER).batch()
        data = json.loads(to_jsonld(batch, [], (), READER))
        self.assertEqual(
            data["nutrition"]["calories"], f"{batch.per_serving['energy_kcal'].amount:.0f} kcal"
        )


class FilesFromElsewhere(unittest.TestCase):
    """Files that nobody here wrote, and bad ones."""

    def test_the_example_of_the_public_specification(self) -> None:
        found = read_file((INPUTS / "schema-org-recipe.html").read_bytes(), "page.html")
        self.assertEqual([one.name for one in found], ["Mom's World Famous Banana Bread"])
        recipe = read_recipe(found[0].text, READER)
        self.assertEqual(recipe.makes.servings, 1)
        foods = {line.food.key for line in recipe.lines if line.food}
        self.assertEqual(foods, {"banana-raw", "sugar-white"})
        self.assertEqual([line.text for line in recipe.unmatched], ["1 egg"], "said, not dropped")
        self.assertIn("bake for one hour", recipe.steps[0])

    def test_types_in_lists_graphs_html_in_strings_no_yield(self) -> None:
        data = {"@graph": [{"@type": "WebPage"}, {"@type": ["Recipe", "NewsArticle"],
            "name": "Jetty <b>stew</b> &amp; rice",
                "recipeIngredient": ["1 cup <i>brown lentils</i>, dry", "2&nbsp;carrots"],
                "recipeInstructions": [{"@type": "HowToSection",
                "itemListElement": [{"@type": "HowToStep",
                "text": "Boil 20 min."}]}]}]}  # fmt: skip
        found = read_file(json.dumps(data).encode(), "x.json")
        self.assertEqual(found[0].name, "Jetty stew & rice")
        recipe = read_recipe(found[0].text, READER)
        self.assertEqual(len(recipe.items), 2)
        self.assertEqual(recipe.steps, ("Boil 20 min.",))
        self.assertIsNone(recipe.makes.servings)

    def test_none_or_several(self) -> None:
        page = "<html><script type='application/ld+json'>%s</script></html>"
        three = [
            {"@type": "Recipe", "name": n, "recipeIngredient": ["1 cup cooked quinoa"]}
            for n in "ABC"
        ]
        self.assertEqual(
            [f.name for f in read_file((page % json.dumps(three)).encode(), "a.html")],
            ["A", "B", "C"],
        )
        for raw in (
            b"<html><body>hello</body></html>",
            b'{"@type": "Event"}',
            b"{not json",
            b"[1, 2, 3]",
            b"kind,words\na,b\n",
        ):
            with self.assertRaisesRegex(DieteticsError, "No recipe could be read"):
                read_file(raw, "x")
        with self.assertRaises(DieteticsError):
            read_file(b"", "x")
        with self.assertRaisesRegex(DieteticsError, "UTF-8"):
            read_file(b"\xff\xfe\x00x", "x")
        with self.assertRaisesRegex(DieteticsError, "long"):
            read_file(b"x" * 5_000_001, "x")

    def test_three_megabytes(self) -> None:
        data = {
            "@type": "Recipe",
            "name": "Big",
            "description": "x" * 3_000_000,
            "recipeIngredient": ["1 cup cooked quinoa"],
        }
        self.assertEqual(read_file(json.dumps(data).encode(), "x")[0].name, "Big")

    @settings(max_examples=60, deadline=None)
    @given(
        st.recursive(
            st.none() | st.booleans() | st.integers() | st.text(max_size=8),
            lambda inner: (
                st.lists(inner, max_size=3)
                | st.dictionaries(
                    st.sampled_from(
                        [
                            "@type",
                            "@graph",
                            "name",
                            "recipeYield",
                            "recipeIngredient",
                            "recipeInstructions",
                        ]
                    ),
                    inner,
                    max_size=4,
                )
            ),
        )
    )
    def test_any_json_is_read_or_refused(self, data: object) -> None:
        try:
            read_file(
                json.dumps(
                    {"@type": "Recipe", "x": data, "recipeIngredient": data, "recipeYield": data}
                ).encode(),
                "x",
            )
        except DieteticsError:
            return


class Fitting(unittest.TestCase):
    """What a line costs and what may stand in for it."""

    def items(self, text: str) -> list[Item]:
        """The items of a recipe."""
        return list(read_recipe(f"# x\nServes 4\n{text}", READER).items)

    def test_effects_are_those_of_the_sums(self) -> None:
        items = self.items("2 tbsp soy sauce\n1 tbsp olive oil\n1 cup cooked brown rice")
        found = {
            one.key: one for one in substitutions(SHELF.food("soy-sauce"), items[0].grams, SHELF)
        }
        self.assertLessEqual({"aminos", "half-soy", "low-soy"}, set(found))
        for one in found.values():
            change = effect(items, 0, one, 4)["sodium_mg"]
            after = compose(changed_items(items, 0, one))["sodium_mg"].amount
            self.assertAlmostEqual(change, (after - compose(items)["sodium_mg"].amount) / 4)
            self.assertLess(change, 0)
        oil = substitutions(SHELF.food("olive-oil"), items[1].grams, SHELF)
        self.assertLess(effect(items, 1, oil[0], 4)["fat_g"], -3)

    def test_an_effect_on_something_unknown_is_not_told(self) -> None:
        items = self.items("2 tbsp soy sauce\n1 cup cooked brown rice")
        aminos = SHELF.food("coconut-aminos")
        one = next(
            s
            for s in substitutions(SHELF.food("soy-sauce"), items[0].grams, SHELF)
            if s.key == "aminos"
        )
        for key in ("potassium_mg", "phosphorus_mg", "sodium_mg"):
            self.assertEqual(key in effect(items, 0, one, 4), aminos.per_100g[key] is not None, key)

    def test_a_dry_bean_gives_way_to_dry_rice_and_a_tin_to_its_rinsed_self(self) -> None:
        half = next(
            s
            for s in substitutions(SHELF.food("lentils-dry"), 200, SHELF)
            if s.key == "lentils-half-rice"
        )
        self.assertEqual(
            {f.key: g for f, g in half.parts}, {"lentils-dry": 100.0, "white-rice-dry": 100.0}
        )
        rinsed = next(
            s
            for s in substitutions(SHELF.food("black-beans-canned"), 250, SHELF)
            if "rinsed" in s.key
        )
        self.assertEqual(rinsed.parts[0][0].key, "black-beans-rinsed")

    def test_what_is_no_plant_food(self) -> None:
        egg = for_words("2 large eggs, beaten", SHELF)[0]
        self.assertEqual({f.key: g for f, g in egg.parts}, {"flax-ground": 14.0, "water": 90.0})
        self.assertEqual(for_words("1 large eggplant", SHELF), [])
        honey = for_words("2 tbsp honey", SHELF)[0]
        self.assertEqual(honey.parts[0][1], 30.0)

    def test_costs_add_up_and_differences_are_listed(self) -> None:
        items = self.items("1 tsp salt\n1 cup cooked brown rice\n1 cup cooked black beans")
        whole = compose(items)["sodium_mg"].amount / 4
        self.assertAlmostEqual(
            sum(cost.amounts["sodium_mg"] for cost in costs(items, 4)), whole, places=6
        )
        self.assertEqual(costs(items, 4)[0].worst, "sodium_mg")
        taken = next(
            s
            for s in substitutions(SHELF.food("salt-table"), items[0].grams, SHELF)
            if s.key == "no-salt"
        )
        kinds = {d.label: d.kind for d in differences(items, changed_items(items, 0, taken))}
        self.assertEqual(kinds, {"Salt, table": "out", "Lemon juice": "in"})

    def test_table_names_what_is_on_the_shelf(self) -> None:
        families = {food.family for food in SHELF}
        for row in read_table("substitutions.csv"):
            for part in row["with"].split(";"):
                name = part.partition("=")[0]
                self.assertTrue(
                    name == "same"
                    or name[0] == "@"
                    or name.lstrip("~") in families | set(SHELF.foods),
                    name,
                )


class TwoPlates(unittest.TestCase):
    """The picture that argues for a swap."""

    def plate(self, name: str, **grams: float) -> Plate:
        """A plate of foods in grams."""
        items = tuple(
            Item.exact(k, FoodContent(SHELF.food(k.replace("_", "-"))), g) for k, g in grams.items()
        )
        weight = sum(grams.values())
        return Plate(name, items, weight, weight)

    def test_equal_energy_and_equal_protein(self) -> None:
        heavy = self.plate("heavy", brown_rice_cooked=200, olive_oil=27, tofu_firm=100)
        light = self.plate("light", brown_rice_cooked=200, tofu_firm=100, broccoli_cooked=150)
        for key in ("energy_kcal", "protein_g"):
            scaled = at_equal([heavy, light], key)
            self.assertAlmostEqual(scaled[0].total[key].amount, scaled[1].total[key].amount)
        equal = at_equal([heavy, light], "energy_kcal")
        self.assertGreater(equal[1].grams, 1.5 * heavy.grams)
        self.assertIn("×", more_food_words(*equal))
        self.assertIsNone(at_equal([heavy, self.plate("water", water=100)], "energy_kcal"))

    def test_the_difference_in_words(self) -> None:
        heavy = self.plate("heavy", tofu_firm=150, olive_oil=20)
        light = self.plate("light", tofu_firm=150)
        self.assertTrue(difference_sentence(heavy, light).startswith("same protein"))
        self.assertIn("20.0 g less fat", difference_sentence(heavy, light))
        self.assertIn("177 kcal less", difference_sentence(heavy, light))

    @settings(max_examples=40, deadline=None)
    @given(
        st.lists(
            st.tuples(st.sampled_from(sorted(SHELF.foods)), st.floats(1, 300)),
            min_size=1,
            max_size=12,
        ),
        st.lists(
            st.tuples(st.sampled_from(sorted(SHELF.foods)), st.floats(1, 300)),
            min_size=1,
            max_size=12,
        ),
    )
    def test_the_waterfall_adds_up(self, a: list, b: list) -> None:
        def plate(pairs: list) -> Plate:
            items = tuple(Item.exact(k, FoodContent(SHELF.food(k)), g) for k, g in pairs)
            return Plate("x", items, sum(g for _, g in pairs), 100.0)

        first, second = plate(a), plate(b).scaled(1.7)
        steps = waterfall(first, second, "energy_kcal")
        change = (second.total["energy_kcal"].amount or 0.0) - (
            first.total["energy_kcal"].amount or 0.0
        )
        self.assertAlmostEqual(sum(step.change for step in steps), change, places=6)
        self.assertLessEqual(len(steps), 8)
