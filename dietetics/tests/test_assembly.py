"""How a bowl is put together: worked by hand as a cook would tell it."""

from __future__ import annotations

import unittest

from hypothesis import given
from hypothesis import strategies as st

from dietetics.cautions.facts import ClientFacts
from dietetics.composition.foods import load_shelf
from dietetics.handover.assembly import (
    MOST_STEPS,
    Part,
    is_cold,
    made_fresh,
    raw_g,
    source_of,
    state_of,
    steps_of,
)
from dietetics.handover.carrying import is_sweet, keeps_words, travel_words
from dietetics.handover.swaps import may_stand_in, near_foods

SHELF = load_shelf()


def part(key: str, grams: float = 100.0, container: str = "") -> Part:
    """A part that is a food of the shelf."""
    food = SHELF.food(key)
    name = food.name.partition(",")[0]
    return Part(name[:1].lower() + name[1:], food.group, grams, food, container)


def dish(name: str, group: str = "legume") -> Part:
    """A part that is a portion of a dish out of its container."""
    return Part(name, group, 250.0, None, name, is_cold(name))


class OnTheDay(unittest.TestCase):
    def test_what_a_recipe_leaves_for_the_day_is_a_step_of_the_card(self) -> None:
        slaw = Part("slaw", "vegetable", 200.0, None, "Slaw", True, ("Scatter the seeds over.",))
        steps = steps_of([slaw, part("tofu-firm")])
        self.assertIn("slaw: Scatter the seeds over.", steps)
        self.assertLessEqual(len(steps), MOST_STEPS)

    def test_miso_is_of_the_sauce_and_olives_are_no_dessert(self) -> None:
        keys = ("brown-rice-cooked", "kale-raw", "olives-black", "tahini", "miso-white")
        steps = " ".join(steps_of([part(key) for key in keys]))
        self.assertIn("Stir the tahini and the miso together", steps)
        self.assertRegex(steps, r"Put the brown rice into the bowl and .*olives.* on top")
        self.assertNotIn("after it", steps)


class Carried(unittest.TestCase):
    def test_what_turns_brown_is_cut_when_it_is_eaten(self) -> None:
        self.assertIn("Cut the avocado", keeps_words([part("avocado"), part("tofu-firm")]))
        self.assertNotIn("Cut", keeps_words([part("tofu-firm"), part("kale-raw")]))
        self.assertEqual(keeps_words([part("apple-raw")]), "")

    def test_a_breakfast_with_vegetables_is_not_sweet(self) -> None:
        oats, kale = part("rolled-oats-dry"), part("kale-raw")
        self.assertTrue(is_sweet([oats], "Breakfast"))
        self.assertFalse(is_sweet([oats, kale], "Breakfast"))
        self.assertFalse(is_sweet([oats], "Lunch"))

    def test_it_travels_or_stays(self) -> None:
        self.assertIn("box", travel_words(True))
        self.assertIn("home", travel_words(False))


class Fresh(unittest.TestCase):
    """What is heated on the day, and how long: the usual minutes of a kitchen."""

    def test_ways(self) -> None:
        for key, way in (
            ("spinach-cooked", "steam"), ("broccoli-cooked", "steam"), ("edamame-frozen", "boil"),
            ("shiitake-raw", "fry"), ("mushrooms-white-raw", "fry"), ("tempeh", "steam"),
            ("potato-boiled", "boil"), ("potato-baked", "roast"), ("couscous-cooked", "soak"),
            ("quinoa-cooked", "simmer"), ("lentils-cooked", "simmer"), ("seitan", "fry"),
            ("corn-frozen", "steam"),
        ):  # fmt: skip
            heated = made_fresh(part(key))
            self.assertEqual(heated and heated.way, way, key)
        for key in ("tofu-firm", "kale-raw", "walnuts", "apple-raw", "blueberries-frozen",
                    "chickpeas-canned-no-salt", "bread-rye", "almonds-roasted"):  # fmt: skip
            self.assertIsNone(made_fresh(part(key)), key)

    def test_every_food_that_a_bowl_may_hold_cooked_has_a_way(self) -> None:
        eaten_so = {"peanuts-roasted", "soy-nuts"}  # bought roasted
        for food in SHELF:
            if food.state in ("cooked", "roasted") and food.group not in ("nut", "seed"):
                if food.key in eaten_so or food.salted:
                    continue
                self.assertIsNotNone(made_fresh(part(food.key)), food.key)

    def test_beans_are_soaked_and_kidney_beans_boiled_hard(self) -> None:
        self.assertIn("soaked overnight", source_of(part("chickpeas-cooked")))
        self.assertIn(
            "boiled hard for the first ten minutes", source_of(part("kidney-beans-cooked"))
        )
        self.assertNotIn("soaked", source_of(part("quinoa-cooked")))

    def test_a_container_needs_no_stove_of_its_own(self) -> None:
        kept = part("brown-rice-cooked", 200, "brown rice")
        self.assertIsNone(made_fresh(kept))
        self.assertEqual((source_of(kept), raw_g(kept)), ("from its container", None))

    def test_what_to_begin_with(self) -> None:
        """Dry quinoa takes up about twice its weight; spinach loses some."""
        self.assertAlmostEqual(raw_g(part("quinoa-cooked", 300)), 100, delta=15)
        self.assertGreater(raw_g(part("spinach-cooked", 90)), 90)
        self.assertIsNone(raw_g(part("edamame-frozen")))

    def test_states(self) -> None:
        for key, words in (
            ("brown-rice-cooked", "cooked"), ("rolled-oats-dry", "uncooked"), ("kale-raw", "raw"),
            ("carrot-raw", ""), ("almonds-roasted", ""), ("corn-frozen", "frozen"),
            ("chickpeas-canned-no-salt", "from a can, drained"), ("tofu-firm", ""),
        ):  # fmt: skip
            self.assertTrue(state_of(SHELF.food(key)).startswith(words), key)
            self.assertEqual(bool(words), bool(state_of(SHELF.food(key))), key)


class Steps(unittest.TestCase):
    def test_a_bowl_of_containers_raw_and_sauce(self) -> None:
        said = steps_of(
            [
                part("brown-rice-cooked", 195, "brown rice"), dish("Lamplighter beans"),
                part("broccoli-cooked"), part("arugula-raw"), part("tofu-firm"), part("tahini", 15),
                part("lemon-juice", 15), part("pumpkin-seeds", 8),
            ]
        )  # fmt: skip
        self.assertEqual(
            said,
            (
                "Steam the broccoli (5 to 9 minutes).",
                "Warm the brown rice and the Lamplighter beans with a spoon of water until all of "
                "it is steaming hot.",
                "Wash the arugula; cut the tofu into cubes.",
                "Put the brown rice into the bowl and the Lamplighter beans, the broccoli, the "
                "arugula and the tofu on top.",
                "Stir the tahini and the lemon juice together with a spoon of water and pour it "
                "over; scatter the pumpkin seeds on top.",
            ),
        )

    def test_a_dressing_and_a_slaw_are_not_warmed(self) -> None:
        said = " ".join(
            steps_of([dish("Lentil soup"), dish("Cabbage slaw"), dish("Herb dressing")])
        )
        self.assertIn("Warm the Lentil soup with", said)
        self.assertIn("Pour the Herb dressing over", said)
        self.assertNotIn("Warm the Lentil soup and", said)
        self.assertFalse(is_cold("Warm lentil salad"))

    def test_muesli_is_stirred_and_stands(self) -> None:
        said = steps_of(
            [part("rolled-oats-dry", 60), part("soy-yogurt", 180), part("blueberries-raw", 100),
             part("walnuts", 15)], is_sweet=True,
        )  # fmt: skip
        self.assertEqual(
            said,
            (
                "Wash the blueberries.",
                "Stir the rolled oats and the soy yoghurt together and let it stand for ten "
                "minutes, or overnight.",
                "Put the blueberries on top.",
                "Scatter the walnuts on top.",
            ),
        )

    def test_fruit_follows_a_main_meal_and_an_avocado_does_not(self) -> None:
        beans, milk = part("black-beans-cooked", 170, "beans"), part("soy-milk-unsweetened", 240)
        said = " ".join(steps_of([beans, part("avocado"), part("orange-raw"), milk]))
        self.assertIn("Have the orange with it or after it; drink the soy milk with it.", said)
        self.assertIn("the avocado on top", said)

    @given(st.lists(st.sampled_from(sorted(SHELF.foods)), min_size=1, max_size=12, unique=True))
    def test_any_bowl_has_few_steps_and_names_every_part(self, keys: list[str]) -> None:
        parts = [part(key) for key in keys]
        for sweet in (False, True):
            said = steps_of(parts, sweet)
            self.assertLessEqual(1, len(said))
            self.assertLessEqual(len(said), MOST_STEPS)
            for one in parts:
                self.assertIn(f"the {one.name}", " ".join(said))


class Swaps(unittest.TestCase):
    def test_near_in_energy_and_protein_of_the_same_kind(self) -> None:
        near = near_foods(SHELF.food("black-beans-cooked"), SHELF, lambda food: True)
        self.assertEqual({food.group for food in near}, {"legume"})
        for food in near:
            self.assertAlmostEqual(food.per_100g["energy_kcal"], 132, delta=33)  # a quarter

    def test_what_a_client_may_not_eat_stands_in_for_nothing(self) -> None:
        first = near_foods(SHELF.food("walnuts"), SHELF, lambda food: True)
        self.assertTrue(first)
        self.assertEqual(near_foods(SHELF.food("walnuts"), SHELF, lambda food: False), [])

    def test_nothing_stands_in_where_one_at_the_table_may_not_eat_it_or_is_ill(self) -> None:
        well, allergic = ClientFacts(), ClientFacts(allergies=("tree-nuts",))
        ill = ClientFacts(conditions=frozenset({"ckd-3"}))
        almonds = SHELF.food("almonds")
        self.assertTrue(may_stand_in((well,), almonds))
        self.assertFalse(may_stand_in((well, allergic), almonds))
        self.assertFalse(may_stand_in((well, ill), SHELF.food("spinach-raw")))

    def test_salad_is_swapped_for_salad_and_sauces_for_nothing(self) -> None:
        for food in near_foods(SHELF.food("romaine-raw"), SHELF, lambda food: True):
            self.assertIn(food.family, {"spinach", "arugula", "lettuce", "watercress", "kale"})
        self.assertEqual(near_foods(SHELF.food("tahini"), SHELF, lambda food: True), [])
