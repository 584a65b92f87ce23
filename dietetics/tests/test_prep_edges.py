"""Shared heat, containers, plain pots, and the price of kinds of plants, worked by hand."""

from __future__ import annotations

import unittest
from dataclasses import replace

from dietetics.composition.foods import load_shelf
from dietetics.prep.joining import joined, sharing_heat
from dietetics.prep.keeping import in_use_by_order, kept_by_meal, kept_of
from dietetics.prep.plain_pots import Eaten, is_cooked_ahead, plain_pots
from dietetics.prep.tasks import OVEN, Minutes, Task
from dietetics.week.batch_supply import Use, uses_until_next
from dietetics.week.plant_kinds import plant_kind_points

SHELF = load_shelf()


def roast(key: str, celsius: float, minutes: float) -> Task:
    """A dish that is roasted."""
    exactly = Minutes(minutes, minutes, minutes)
    return Task(
        key, key, f"Roast {key}", "roast", Minutes(0, 0, 0), exactly, device=OVEN, celsius=celsius
    )


class SharedHeat(unittest.TestCase):
    """15 °C to each side share an oven; ten degrees more shorten a time by a tenth."""

    def heats(self, *celsius: float) -> list[float]:
        """What the heats of some dishes become."""
        tasks = [roast(f"d{n}", heat, 30) for n, heat in enumerate(celsius)]
        return [task.celsius for task in sharing_heat(tasks)[0]]

    def test_which_share(self) -> None:
        for asked, wanted in (
            ((200, 200), [200, 200]), ((190, 200), [200, 200]), ((200, 230), [215, 215]),
            ((200, 231), [200, 231]), ((180, 200, 200), [190, 190, 190]),
            ((170, 200, 230), [185, 185, 230]),
        ):  # fmt: skip
            with self.subTest(asked):
                found = self.heats(*asked)
                self.assertEqual(found, wanted)

    def test_the_time_follows_the_heat_and_is_told(self) -> None:
        tasks, words = sharing_heat([roast("roots", 190, 40), roast("squash", 200, 30)])
        roots, squash = tasks
        self.assertEqual((roots.celsius, roots.asked_celsius), (200, 190))
        self.assertAlmostEqual(roots.wait.likely, 36)  # ten degrees more: a tenth less
        self.assertEqual(roots.asked_wait.likely, 40)
        self.assertIsNone(squash.asked_celsius)
        self.assertEqual(
            words,
            ["roots: 200 °C instead of 190, so that the oven is shared; 36 min instead of 40."],
        )


class SharedWork(unittest.TestCase):
    def chop(self, dish: str, *parts: tuple[str, float]) -> Task:
        """Cutting for a dish."""
        return Task(
            f"{dish}-chop", dish, f"Chop for {dish}", "chop", Minutes.guess(5), Minutes(0, 0, 0),
            dishes=(dish,), parts=parts,
        )  # fmt: skip

    def test_onions_for_two_dishes_are_cut_once(self) -> None:
        soup = self.chop("Soup", ("onion-raw", 100.0))
        stew = self.chop("Stew", ("onion-raw", 150.0), ("carrot-raw", 80.0))
        later = replace(roast("Soup-simmer", 200, 20), after=("Soup-chop",), dishes=("Soup",))
        found = {task.key: task for task in joined([soup, stew, later])}
        self.assertEqual(set(found), {"chop-onion-raw", "Stew-chop", "Soup-simmer"})
        shared = found["chop-onion-raw"]
        self.assertEqual(shared.parts, (("onion-raw", 250.0),))
        self.assertEqual(shared.dishes, ("Soup", "Stew"))
        self.assertIn("for Soup and Stew (250 g)", shared.text)
        self.assertEqual(found["Stew-chop"].parts, (("carrot-raw", 80.0),))
        self.assertEqual(found["Soup-simmer"].after, ("chop-onion-raw",))

    def test_one_dish_alone_shares_nothing(self) -> None:
        alone = [self.chop("Soup", ("onion-raw", 100.0)), self.chop("Stew", ("kale-raw", 50.0))]
        self.assertEqual(joined(alone), alone)


class Containers(unittest.TestCase):
    def test_the_least_usual_size_that_holds_a_serving_not_filled_to_the_rim(self) -> None:
        for portion_g, size in (
            (135, 150), (136, 250), (225, 250), (226, 350), (450, 500), (451, 750), (900, 1000),
            (5000, 1500),
        ):  # fmt: skip
            kept = kept_of("Soup", 1.0, 4, portion_g * 4, 1.0, 2, 4, 0.5)
            self.assertEqual((kept.size_ml, kept.count), (size, 4), portion_g)
            self.assertAlmostEqual(kept.portion_g, portion_g)
            self.assertEqual((kept.frozen, kept.last_day), (2, 6))
        light = kept_of("Salad", 1.0, 1, 135, 0.5, 0, 1, 0.0)
        self.assertEqual(light.size_ml, 350)  # 270 mL, not filled to the rim

    def test_words(self) -> None:
        many = kept_of("Soup", 1.5, 4, 1200, 1.0, 0, 4, 0.34)
        self.assertEqual(
            many.words(), "6 containers of 350 mL (300 g each), 2 of them to the freezer"
        )
        one = kept_of("Soup", 0.25, None, 1200, 1.0, 0, 4, 0.0)
        self.assertEqual(one.words(), "1 container of 350 mL (300 g each)")

    def test_a_container_for_each_meal_that_takes_of_it(self) -> None:
        pot = kept_of("Soup", 1.0, 4, 1200, 1.0, -1, 4, 0.0)  # four servings of 300 g
        found = kept_by_meal(pot, [330.0, 330.0, 320.0], 1.0)
        self.assertEqual((found.count, found.size_ml), (3, 500))
        self.assertEqual(found.words(), "3 containers of 500 mL (330 g each) and about 220 g over")
        unlike = kept_by_meal(pot, [300.0, 450.0, 450.0], 1.0)
        self.assertEqual(unlike.words(), "3 containers of 500 mL (300 to 450 g each)")
        self.assertEqual((unlike.last_day, unlike.frozen), (pot.last_day, 0))

    def test_it_stays_in_servings_where_meals_do_not_say_how_it_is_shared_out(self) -> None:
        pot = kept_of("Soup", 1.0, 4, 1200, 1.0, -1, 4, 0.0)
        frozen = kept_of("Soup", 1.0, 4, 1200, 1.0, -1, 4, 0.5)
        self.assertEqual(kept_by_meal(pot, [], 1.0), pot)
        self.assertEqual(kept_by_meal(pot, [700.0, 700.0], 1.0), pot)  # more than there is
        self.assertEqual(kept_by_meal(frozen, [300.0, 300.0], 1.0), frozen)

    def test_a_meal_takes_of_what_was_cooked_last_before_it(self) -> None:
        """Cooked before the week and on Wednesday (2): dinner of Wednesday is of the new pot."""
        uses = [Use(day, meal, 100.0) for day in range(5) for meal in (0, 1)]
        first = uses_until_next(uses, [-1, 2], -1, 1)
        second = uses_until_next(uses, [-1, 2], 2, 1)
        self.assertEqual([(u.day, u.meal) for u in first], [(0, 0), (0, 1), (1, 0), (1, 1), (2, 0)])
        self.assertEqual(
            [(u.day, u.meal) for u in second], [(2, 1), (3, 0), (3, 1), (4, 0), (4, 1)]
        )

    def test_what_is_eaten_first_stands_first(self) -> None:
        kept = [
            kept_of(name, 1, 1, 100, 1.0, day, keeps, 0)
            for name, day, keeps in (("b", 0, 4), ("a", 0, 4), ("z", 1, 1))
        ]
        self.assertEqual([one.dish for one in in_use_by_order(kept)], ["z", "a", "b"])


class PlainPots(unittest.TestCase):
    """Rice and beans that bowls hold cooked: cooked on the last evening before they are eaten."""

    RICE = SHELF.food("brown-rice-cooked")

    def test_on_which_evening_and_how_much(self) -> None:
        eaten = [Eaten(day, 1, self.RICE, 150.0) for day in (0, 1, 3, 5)]
        found = plain_pots(eaten, [-1, 2], 2)
        self.assertEqual(set(found), {-1, 2})
        first, second = found[-1][0], found[2][0]
        self.assertEqual((first.portions, first.cooked_g, first.last_day), (2, 300.0, 1))
        self.assertEqual((second.portions, second.cooked_g, second.last_day), (2, 300.0, 5))
        self.assertEqual(first.uncooked.state, "dry")
        self.assertLess(first.uncooked_g, 150)

    def test_a_pot_is_ready_before_the_last_meal_of_its_day(self) -> None:
        for meal, evening in ((2, 2), (1, -1)):
            found = plain_pots([Eaten(2, meal, self.RICE, 200.0)], [-1, 2], 2)
            self.assertEqual(set(found), {evening}, meal)

    def test_what_no_longer_keeps_is_frozen_or_cooked_on_its_day(self) -> None:
        """Cooked on the evening before the week (-1) it keeps through Thursday (3)."""
        eaten = [Eaten(day, 1, self.RICE, 100.0 + day) for day in (1, 3, 4, 6)]
        pot = plain_pots(eaten, [-1], 2)[-1][0]
        self.assertEqual(pot.frozen, ((4, 104.0), (6, 106.0)))
        self.assertEqual(pot.kept(1.0).frozen, 2)
        without = plain_pots(eaten, [-1], 2, may_freeze=False)[-1][0]
        self.assertEqual((without.eaten, without.frozen), (((1, 101.0), (3, 103.0)), ()))

    def test_what_is_little_quick_or_before_the_first_evening_is_not_here(self) -> None:
        for food, grams, evenings, there in (
            (self.RICE, 100.0, [-1], True), (self.RICE, 99.0, [-1], False),
            (self.RICE, 200.0, [3], False),
            (SHELF.food("kale-raw"), 200.0, [-1], False),
        ):  # fmt: skip
            found = plain_pots([Eaten(1, 0, food, grams)], evenings, 2)
            self.assertEqual(bool(found), there, (food.key, grams, evenings))
        self.assertTrue(is_cooked_ahead(SHELF.food("brown-rice-dry")))
        self.assertFalse(is_cooked_ahead(SHELF.food("rolled-oats-dry")))


class PlantKinds(unittest.TestCase):
    """Six points for a kind too few, ten for a serving too many."""

    DISHES = (
        {"Greens": frozenset({"kale", "rocket"}), "Beans": frozenset({"lentils"})},
        {"Greens": frozenset({"kale"})},
        {},
    )

    def test_points(self) -> None:
        for wanted, most, servings, points in (
            ({"Greens": 2}, {}, {0: 1}, 0), ({"Greens": 3}, {}, {0: 1}, 6),
            ({"Greens": 3, "Beans": 2}, {}, {0: 1, 1: 2}, 12), ({"Greens": 2}, {}, {1: 5}, 6),
            ({"Greens": 2}, {}, {0: 0, 1: 1}, 6), ({}, {"Greens": 2}, {0: 1, 1: 1}, 0),
            ({}, {"Greens": 2}, {0: 2, 1: 2}, 20), ({}, {"Beans": 0}, {0: 1, 2: 9}, 10),
        ):  # fmt: skip
            with self.subTest(wanted=wanted, most=most, servings=servings):
                found = plant_kind_points(wanted, most, self.DISHES, servings)
                self.assertEqual(found, points)
