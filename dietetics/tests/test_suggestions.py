"""Suggestions, protein quality, patterns, roles and tables beside the solver."""

from __future__ import annotations

import unittest
from dataclasses import replace

from dietetics.balance.answer import rank, stand
from dietetics.balance.question import Part, Question
from dietetics.balance.question_parts import part_of_food
from dietetics.balance.roles import FAMILY_ROLES, mood_of, ready, role_of
from dietetics.balance.suggestions import complement, eaten_foods, suggestions, vitamin_c
from dietetics.cautions.exclusions import ALLERGIES
from dietetics.composition.aminoacids import score
from dietetics.composition.foods import read_table
from dietetics.composition.proteinquality import digested, digestibility_of, quality
from dietetics.dishes.colours import COLOURS, GREEN, colours_of
from dietetics.dishes.patterns import Option, Role, draw, roles_json, roles_of
from dietetics.targets.schools import school
from dietetics.targets.windows import Window
from dietetics.tests.balance_support import SHELF, pantry, question

LENTILS = "brown-rice-cooked 1 1/2 cups; lentils-cooked 1 cup; walnuts 2 tbsp; soy-sauce 2 tbsp"


def amounts(asked: Question) -> tuple[float, ...]:
    """The portions as they are."""
    return tuple(part.prefer for part in asked.parts)


def energy_of_part(part: Part) -> float:
    """Kilocalories of a part as it stands."""
    per_100g = part.foods[0][0].per_100g["energy_kcal"]
    return float(per_100g * part.prefer * part.grams_per_unit / 100)


class ByHand(unittest.TestCase):
    """What is suggested does what it says."""

    def test_one_turn_brings_the_worst_in(self) -> None:
        asked = question(
            "quinoa-cooked 1 cup; tofu-firm 100 g; kale-raw 1 cup",
            [Window("energy_kcal", 400, 450, "must")],
        )
        one = suggestions(asked, pantry())[0]
        self.assertEqual(one.kind, "turn")
        turned = tuple(one.amount if p.key == one.key else p.prefer for p in asked.parts)
        self.assertEqual(stand(asked, turned)[0].state, "in", one.text)
        self.assertLess(rank(asked, turned), rank(asked, amounts(asked)))

    def test_less_salt_in_the_same_flavour(self) -> None:
        asked = question(LENTILS, [Window("sodium_mg", None, 690)])
        swap = next(s for s in suggestions(asked, pantry(), 9) if s.kind == "swap")
        self.assertLess(
            SHELF.food(swap.food).per_100g["sodium_mg"],
            SHELF.food("soy-sauce").per_100g["sodium_mg"],
        )
        self.assertEqual(
            role_of(SHELF.food(swap.food).group, SHELF.food(swap.food).family), "sauce"
        )

    def test_lighter_at_equal_protein(self) -> None:
        asked = question(LENTILS, [Window("kcal_per_g", None, 0.9)])
        swap = next(s for s in suggestions(asked, pantry(), 9) if s.kind == "swap")
        old, new = asked.part(swap.key), SHELF.food(swap.food)
        protein = old.content.known_per_100g("protein_g")[0] * old.prefer * old.grams_per_unit / 100
        self.assertAlmostEqual(
            new.per_100g["protein_g"] * swap.amount / 100, protein, delta=0.05 * protein + 0.3
        )

    def test_vitamin_c_beside_much_iron_and_the_missing_acid(self) -> None:
        found = suggestions(question(LENTILS, [Window("energy_kcal", 1, 9999)]), pantry(), 9)
        self.assertTrue(any("vitamin C" in s.text for s in found))
        wheat = question(
            "seitan 120 g; bulgur-cooked 1 cup; broccoli-cooked 1 cup",
            [Window("energy_kcal", 1, 9999)],
        )
        lift = next(complement(wheat, amounts(wheat), pantry()))
        self.assertIn("Lysine is the limiting amino acid of", lift.text)
        before = score(eaten_foods(wheat, amounts(wheat)))
        self.assertEqual(before.limiting, "lysine")
        pattern = score([*eaten_foods(wheat, amounts(wheat)), (SHELF.food(lift.food), 100.0)])
        self.assertGreater(pattern.score, before.score)

    def test_the_vitamin_c_that_is_offered_reaches_what_is_wanted(self) -> None:
        """3 mg of iron and more, less than 25 mg of vitamin C (Hallberg et al. 1989): what is added
        brings at least what is missing, at the fewest kilocalories a milligram.
        """
        asked = question("lentils-cooked 1 cup", [Window("energy_kcal", 1, 9999)])
        held = amounts(asked)
        lentils = SHELF.food("lentils-cooked").per_100g
        grams = asked.parts[0].prefer * asked.parts[0].grams_per_unit
        self.assertGreater(lentils["iron_mg"] * grams / 100, 3.0)
        one = next(vitamin_c(asked, held, pantry()))
        food, missing = SHELF.food(one.food), 25 - lentils["vitamin_c_mg"] * grams / 100
        added = part_of_food("c", food, pantry().scales)
        brought = food.per_100g["vitamin_c_mg"] * added.grams_per_unit * one.amount / 100
        self.assertGreaterEqual(brought, missing)
        self.assertGreaterEqual(food.per_100g["vitamin_c_mg"], 40)
        self.assertIn(food.group, ("vegetable", "fruit"))
        price = food.per_100g["energy_kcal"] / food.per_100g["vitamin_c_mg"]
        for other in ("red-bell-pepper-raw", "orange-raw", "kiwi-raw", "strawberries-raw"):
            if other in SHELF.foods:
                row = SHELF.food(other).per_100g
                self.assertLessEqual(price, row["energy_kcal"] / row["vitamin_c_mg"], other)

    def test_no_vitamin_c_is_offered_for_little_iron_or_where_it_is_there(self) -> None:
        for text in ("brown-rice-cooked 1/2 cup", "lentils-cooked 1 cup; broccoli-cooked 1 cup"):
            asked = question(text, [Window("energy_kcal", 1, 9999)])
            self.assertEqual(list(vitamin_c(asked, amounts(asked), pantry())), [], text)

    def test_a_lighter_food_is_much_lighter_and_the_heaviest_goes_first(self) -> None:
        asked = question(
            "brown-rice-cooked 1 cup; walnuts 1/4 cup; tofu-firm 100 g",
            [Window("kcal_per_g", None, 0.8)],
        )
        swap = next(s for s in suggestions(asked, pantry(), 9) if s.kind == "swap")
        old, new = asked.part(swap.key), SHELF.food(swap.food)
        self.assertEqual(swap.key, max(asked.parts, key=energy_of_part).key)
        per_100g = old.foods[0][0].per_100g
        # at equal protein it brings at most three quarters of the energy a gram of its own weight
        self.assertLessEqual(new.per_100g["energy_kcal"], 0.75 * per_100g["energy_kcal"])
        grams = old.prefer * old.grams_per_unit
        saved = per_100g["energy_kcal"] * grams / 100
        saved -= new.per_100g["energy_kcal"] * swap.amount / 100
        said = float(swap.text.rsplit("protein, ", 1)[1].split(" kcal")[0].replace(",", ""))
        self.assertAlmostEqual(saved, said, delta=0.03 * said + 5)
        locked = replace(asked, parts=tuple(replace(p, locked=True) for p in asked.parts))
        self.assertFalse([s for s in suggestions(locked, pantry(), 9) if s.kind == "swap"])

    def test_what_is_less_salty_says_how_much_less(self) -> None:
        asked = question("lentils-cooked 1 cup; soy-sauce 2 tbsp", [Window("sodium_mg", None, 300)])
        swap = next(s for s in suggestions(asked, pantry(), 9) if s.kind == "swap")
        old = asked.part(swap.key)
        grams = old.prefer * old.grams_per_unit
        self.assertAlmostEqual(swap.amount, grams, places=1)
        less = old.foods[0][0].per_100g["sodium_mg"] - SHELF.food(swap.food).per_100g["sodium_mg"]
        self.assertIn(f"{less * grams / 100:,.0f} mg less sodium", swap.text)

    def test_digestibility_is_weighed_by_protein(self) -> None:
        """Wheat gluten 0.99 and beans 0.78 (FAO 1991): 10 g of protein of each make 0.885."""
        seitan, beans = SHELF.food("seitan"), SHELF.food("black-beans-cooked")
        eaten = [
            (seitan, 1000 / seitan.per_100g["protein_g"]),
            (beans, 1000 / beans.per_100g["protein_g"]),
        ]
        plain = score(eaten)
        found = digested(eaten, plain)
        self.assertAlmostEqual(found.digestibility, (0.99 + 0.78) / 2, delta=0.005)
        self.assertAlmostEqual(found.score, min(1, plain.score * found.digestibility), places=6)
        self.assertAlmostEqual(found.covered, 1.0, places=6)
        kale = SHELF.food("kale-raw")  # 2.9 g a hundred, and no figure
        half = digested([eaten[0], (kale, 1000 / kale.per_100g["protein_g"])], plain)
        self.assertAlmostEqual(half.covered, 0.5, places=6)
        self.assertAlmostEqual(half.digestibility, 0.99, places=6)

    def test_nothing_is_suggested_for_nothing_and_no_allergen_ever(self) -> None:
        self.assertEqual(suggestions(Question((), ()), pantry()), [])
        for allergy in ("soy", "tree-nuts", "sesame", "gluten"):
            asked = question(
                LENTILS, [Window("sodium_mg", None, 300), Window("protein_g", 60, None, "must")]
            )
            for one in suggestions(asked, pantry("", (allergy,)), 9):
                if one.food:
                    held = set(SHELF.food(one.food).allergens) & set(ALLERGIES[allergy])
                    self.assertEqual(held, set(), one.text)


class Roles(unittest.TestCase):
    """Who may come in."""

    def test_ready(self) -> None:
        for key, yes in (("lentils-dry", False), ("lentils-cooked", True), ("potato-raw", False),
            ("carrot-raw", True),
                         ("walnuts", True), ("whole-wheat-flour", False), ("tofu-firm", True),
                         ("soy-protein-isolate", False)):  # fmt: skip
            self.assertEqual(ready(SHELF.food(key)), yes, key)

    def test_moods(self) -> None:
        self.assertEqual(
            mood_of([SHELF.food("oat-porridge-cooked"), SHELF.food("blueberries-raw")]), "sweet"
        )
        self.assertEqual(
            mood_of([SHELF.food("brown-rice-cooked"), SHELF.food("kale-raw")]), "savoury"
        )
        self.assertEqual(
            mood_of([SHELF.food("brown-rice-cooked"), SHELF.food("avocado")]), "savoury"
        )

    def test_tables_name_what_is_on_the_shelf(self) -> None:
        families = {food.family for food in SHELF}
        groups = {food.group for food in SHELF}
        for table in ("portion_sense.csv", "digestibility.csv"):
            for row in read_table(table):
                self.assertIn(row["key"], families if row["kind"] == "family" else groups, table)
        for names in (*COLOURS.values(), GREEN, FAMILY_ROLES):
            self.assertEqual(set(names) - families, set())
        self.assertEqual(
            {row["key"] for row in read_table("portion_sense.csv") if row["kind"] == "group"},
            groups,
        )
        for one in (
            school("balanced-bowl"),
            school("training"),
            school("starch-centred"),
            school("greens-and-beans"),
        ):
            for rule in one.rules:
                self.assertEqual(set(rule.groups) - groups, set())
                self.assertEqual(set(rule.families) - families, set())


class ProteinQuality(unittest.TestCase):
    """Scores with digestibility against figures of FAO/WHO 1991 (from memory)."""

    def test_listed_digestibilities(self) -> None:
        for key, share in (
            ("seitan", 0.99),
            ("black-beans-cooked", 0.78),
            ("brown-rice-cooked", 0.88),
            ("peanut-butter", 0.95),
        ):
            self.assertEqual(digestibility_of(SHELF.food(key)).share, share, key)
        self.assertIsNone(digestibility_of(SHELF.food("kale-raw")))

    def test_a_mixture_is_weighted_by_protein(self) -> None:
        beans, rice = SHELF.food("black-beans-cooked"), SHELF.food("brown-rice-cooked")
        foods = [(beans, 100.0), (rice, 200.0)]
        a, b = beans.per_100g["protein_g"], rice.per_100g["protein_g"] * 2
        plain, corrected = quality(foods)
        self.assertAlmostEqual(corrected.digestibility, (a * 0.78 + b * 0.88) / (a + b), places=9)
        self.assertAlmostEqual(
            corrected.score, min(1.0, plain.score * corrected.digestibility), places=9
        )
        self.assertAlmostEqual(corrected.covered, 1.0)

    def test_what_is_not_known_is_left_out_and_said(self) -> None:
        foods = [(SHELF.food("kale-raw"), 100.0), (SHELF.food("lentils-cooked"), 100.0)]
        corrected = digested(foods, score(foods))
        self.assertLess(corrected.covered, 1.0)
        self.assertIsNone(quality([(SHELF.food("olive-oil"), 10.0)]))


class Patterns(unittest.TestCase):
    """Roles take their first option that fits."""

    ROLES = (
        Role("Star", (Option("tofu-firm", "100 g"), Option("lentils-cooked", "1 cup"))),
        Role("Sauce", (Option("tahini", "1 tbsp"),)),
    )

    def test_drawn_and_kept(self) -> None:
        drawn = draw(self.ROLES, lambda what: "soy" if "tofu" in what else "", str)
        self.assertEqual([o.what for _, o in drawn.chosen], ["lentils-cooked", "tahini"])
        self.assertEqual(drawn.passed, ("tofu-firm: soy",))
        nothing = draw(self.ROLES, lambda what: "no", str)
        self.assertEqual(nothing.empty, ("Star", "Sauce"))
        self.assertEqual(tuple(roles_of(roles_json(self.ROLES))), self.ROLES)

    def test_colours_are_counted_by_what_is_there(self) -> None:
        foods = [
            (SHELF.food("kale-raw"), 40.0),
            (SHELF.food("carrot-raw"), 10.0),
            (SHELF.food("tomato-raw"), 60.0),
        ]
        self.assertEqual(colours_of(foods, 15.0), ("green", "red"))
