"""The search by whole days: equal to trying everything in the order of what matters, and a bound
that is never too high at any moment.
"""

from __future__ import annotations

import math
import os
import random
import subprocess
import sys
import unittest
from collections.abc import Sequence
from dataclasses import replace
from itertools import product
from unittest import mock

import numpy as np

from dietetics.targets.windows import Window
from dietetics.tests.test_week_solver import MEALS, small
from dietetics.tests.week_oracle import best_of_all
from dietetics.week.day_prices import Ask
from dietetics.week.question.priorities import miss_lines, misses_of, misses_of_day
from dietetics.week.question.question import Choice, Offer, Question, Rules, SlotMeal
from dietetics.week.question.recheck import broken_rules, points_of
from dietetics.week.search.day_menus import menus_of
from dietetics.week.search.improving import first_week, improve
from dietetics.week.search.master_program import Relaxed
from dietetics.week.search.menu_node import NodeWork
from dietetics.week.search.menu_search import Effort, MenuSearch, improve_by_menus
from dietetics.week.search.settling import settle
from dietetics.week.search.week_rows import rows_across_days
from dietetics.week.words.explanation import missed

CLOSE = 0.05  # points: the search calls a week the best within a ten-thousandth of its cost


def varied(seed: int, days: int, dishes: int) -> Question:
    """A small week with portions, sometimes a dish twice a day, a locked and a skipped meal."""
    rng = random.Random(seed)
    question = small(seed, days, dishes, (0.75, 1.0))
    offers = tuple(
        replace(offer, apart=0 if n == 2 else offer.apart)
        for n, offer in enumerate(question.offers)
    )
    question = replace(question, offers=offers)
    if seed % 3 == 1:
        question = replace(question, locks={(0, 0): (rng.choice(offers).key, 1.0)})
    if seed % 3 == 2:
        question = replace(question, skipped=frozenset({(1, 1)}))
    return question


class FirstWeeks(unittest.TestCase):
    def test_nothing_that_matters_more_is_worse_and_the_rest_is_near_the_best(self) -> None:
        for seed in range(40, 46):
            question = small(seed, days=2, dishes=6, scales=(0.75, 1.0, 1.25))
            best = best_of_all(question, usual_kcal=1800)
            found = first_week(question)
            with self.subTest(seed):
                self.assertEqual(broken_rules(found), [])
                self.assertEqual(misses_of(found), best.misses)
                self.assertLessEqual(found.points, 1.05 * best.cost + CLOSE)
                self.assertGreaterEqual(found.points, best.cost - 1e-6)
                self.assertLessEqual(found.bound or 0.0, best.cost + 1e-6)

    def test_the_same_question_gives_the_same_week(self) -> None:
        question = varied(7, days=5, dishes=7)
        one, two = first_week(question), first_week(question)
        self.assertEqual((one.chosen, one.points), (two.chosen, two.points))

    def test_a_program_is_written_the_same_whatever_order_sets_come_in(self) -> None:
        """Each process shuffles sets of words in its own way; the same week must come of it."""
        code = (
            "from dietetics.tests.test_week_solver import small\n"
            "from dietetics.tests.test_whole_days import with_kinds\n"
            "from dietetics.week.search.week_rows import rows_across_days\n"
            "program = rows_across_days(with_kinds(3, small(3, days=4, dishes=8))).program\n"
            "print(program.indices, program.values, program.row_lower)"
        )
        written = {
            subprocess.run(
                [sys.executable, "-c", code],
                env={**os.environ, "PYTHONHASHSEED": str(number)},
                capture_output=True, text=True, check=True,
            ).stdout
            for number in range(4)
        }  # fmt: skip
        self.assertEqual(len(written), 1)


def cost_without_waste(question: Question, taken: Sequence[Choice]) -> float:
    """A day as a menu costs it: its cells and what it misses, less the waste that is folded in."""
    sums = {key: sum(choice.vector[n] for choice in taken) for n, key in enumerate(question.keys)}
    eaten = sum(share for choice in taken for _, share in choice.uses)
    return sum(choice.cost for choice in taken) - 40 * eaten + question.day_cost(sums)


class Bounds(unittest.TestCase):
    def test_no_bound_lies_above_the_best_week_at_any_moment(self) -> None:
        for seed in range(20, 23):
            with self.subTest(seed):
                question = small(seed, days=2, dishes=6, scales=(0.75, 1.0, 1.25))
                least = best_of_all(question, usual_kcal=1800).cost
                heard: list[tuple[float, float]] = []

                def told(
                    at: float, points: float, bound: float,
                    heard: list[tuple[float, float]] = heard,
                ) -> bool:  # fmt: skip
                    heard.append((points, bound))
                    return True

                found = improve(settle(question), 20, told)
                self.assertAlmostEqual(found.points, least, delta=CLOSE)
                self.assertLessEqual(found.gap or 0.0, 1e-3)
                self.assertLessEqual(max(bound for _, bound in heard), least + 1e-6)
                self.assertGreaterEqual(min(points for points, _ in heard), least - 1e-6)

    def test_straight_down_or_by_the_lowest_bound_the_same_is_proven(self) -> None:
        for seed in range(3):
            question = varied(seed, days=4, dishes=7)
            down = improve_by_menus(settle(question), Effort(30, straight_down=1))
            lowest = improve_by_menus(settle(question), Effort(30, straight_down=10**6))
            with self.subTest(seed):
                self.assertLessEqual(max(down.gap or 0.0, lowest.gap or 0.0), 1e-3)
                self.assertAlmostEqual(down.points, lowest.points, delta=CLOSE)

    def test_a_week_that_was_found_is_not_given_up_for_a_worse_one(self) -> None:
        for seed in range(10):
            question = varied(seed, days=5, dishes=6)
            offers = tuple(replace(offer, most_uses=2) for offer in question.offers)
            question = replace(question, offers=offers)
            heard: list[float] = []

            def told(at: float, points: float, bound: float, to: list[float] = heard) -> bool:
                to.append(points)
                return True

            improve_by_menus(settle(question), Effort(20, 30, 0, 1), told)
            with self.subTest(seed):
                self.assertEqual(heard, sorted(heard, reverse=True))

    def test_a_mix_of_days_that_breaks_a_rule_does_not_count(self) -> None:
        """A dish on every day that may come once."""
        question = small(1, days=4, dishes=7)
        once = tuple(replace(offer, most_uses=1, liking=3) for offer in question.offers)
        question = replace(question, offers=once)
        search = MenuSearch(settle(question), Effort(0.0), None)
        search.run()
        before = search.best.points
        cheapest = set()
        for day in search.menus:
            one = int(day.costs.argmin())
            search.master.add([day.kept(np.array([one]))])
            cheapest.add((day.day, tuple(day.cells[:, one].tolist())))
        shares = np.array([1.0 * (column in cheapest) for column in search.master.columns])
        none = np.zeros(0)
        search.offer_largest(Relaxed(0.0, none, shares, none, none))
        self.assertEqual(search.best.points, before)
        self.assertEqual(broken_rules(search.best), [])

    def test_no_node_is_worked_on_twice(self) -> None:
        question = small(5, days=7, dishes=12, scales=(0.75, 1.0, 1.25))
        seen: list[int] = []
        converge = NodeWork.converge

        def noted(work: NodeWork) -> Relaxed | None:
            seen.append(work.node.number)
            return converge(work)

        with mock.patch.object(NodeWork, "converge", noted):
            improve_by_menus(settle(question), Effort(30, straight_down=1))
        self.assertGreater(len(seen), 4)
        self.assertEqual(len(seen), len(set(seen)))

    def test_it_ends_after_so_many_steps_of_the_simplex_method(self) -> None:
        question = small(5, days=7, dishes=12, scales=(0.75, 1.0, 1.25))
        taken = []
        for most in (1, 200, 400):
            search = MenuSearch(settle(question), Effort(math.inf, pivots=most), None)
            search.run()
            self.assertEqual(broken_rules(search.answer()), [])
            taken.append(search.master.pivots)
        self.assertEqual(taken, sorted(taken))
        self.assertTrue(taken[0] < 200 <= taken[1] < 400 <= taken[2], taken)

    def test_stopped_early_the_bound_still_holds(self) -> None:
        question = small(5, days=7, dishes=12, scales=(0.75, 1.0, 1.25))
        settled = settle(question)
        best = improve_by_menus(settled, Effort(30))
        for looks in (1, 3, 10, 40):
            left = [looks]

            def told(at: float, points: float, bound: float, left: list[int] = left) -> bool:
                left[0] -= 1
                return left[0] > 0

            found = improve_by_menus(settle(question), Effort(30), told)
            self.assertLessEqual(found.points, settled.week.points)
            self.assertLessEqual(found.bound or 0.0, best.points + CLOSE)
            self.assertEqual(broken_rules(found), [])


def with_kinds(seed: int, question: Question) -> Question:
    """The question with kinds of plants that are wanted, limited, and a dish that is wished for."""
    rng = random.Random(seed)
    offers = tuple(
        replace(
            offer,
            plant_kinds={
                "Vegetables": frozenset(rng.sample(("kale", "carrot", "leek", "beet"), 2)),
                **({"Bitter greens": frozenset({"endive"})} if rng.random() < 0.5 else {}),
            },
            least_uses=2 if n == 3 else 0,
        )
        for n, offer in enumerate(question.offers)
    )
    wanted, most = {"Vegetables": 4, "Grains": 1}, {"Bitter greens": 1}
    rules = replace(question.rules, plant_kinds=wanted, most_servings=most)
    return replace(question, offers=offers, rules=rules)


def equal_to_everything_tried(case: unittest.TestCase, question: Question) -> None:
    """A small week misses, lacks of variety and costs as little as the best of all, all proven."""
    best = best_of_all(question, usual_kcal=1800)
    settled = settle(question)
    case.assertEqual(settled.misses, best.misses)
    case.assertAlmostEqual(settled.variety, best.variety)
    case.assertTrue(settled.proven and settled.variety_proven and settled.whole)
    found = improve(settled, 20)
    case.assertAlmostEqual(found.points, best.cost, delta=CLOSE)
    case.assertLessEqual(found.bound or 0.0, best.cost + 1e-3)
    case.assertLessEqual(found.gap or 0.0, 1e-3)
    case.assertEqual(broken_rules(found), [])
    case.assertAlmostEqual(points_of(found), found.points, places=6)


def with_ceilings(question: Question) -> Question:
    """The question with the most that a meal and a day should weigh, and most fibre and beans."""
    offers = tuple(
        replace(o, amounts={**o.amounts, "ask:weight": o.grams, "ask:fibre": o.grams / 30})
        for o in question.offers
    )
    asks = (
        Ask("beans", "Beans", 130, "should", 200),
        Ask("weight", "Weight of food", 0, "should", 1300),
        Ask("fibre", "Fibre of the day", 0, "should", 35),
    )
    return replace(
        question, offers=offers, asks=asks, rules=replace(question.rules, most_meal_g=700)
    )


class Ceilings(unittest.TestCase):
    """The food of a meal and of a day has an upper end."""

    def test_as_in_trying_everything(self) -> None:
        for seed in range(4):
            with self.subTest(seed):
                equal_to_everything_tried(self, with_ceilings(small(seed, days=2, dishes=6)))

    def test_the_lighter_of_two_dishes_that_meet_the_targets_alike(self) -> None:
        def dish(name: str, grams: float) -> Offer:
            amounts = {"energy_kcal": 1000.0, "ask:weight": grams}
            return Offer(name, name, frozenset({"Lunch", "Dinner"}), amounts, grams, most_uses=7)

        offers = tuple(
            dish(f"{kind} {n}", grams)
            for kind, grams in (("light", 700.0), ("heavy", 1600.0))
            for n in (1, 2)
        )
        windows = (Window("energy_kcal", 1900, 2100, "must"),)
        loved = tuple(replace(o, liking=3) if o.name.startswith("heavy") else o for o in offers)
        free = Question(("home",) * 3, MEALS, windows, loved, rules=Rules(different=None))
        asks = (Ask("weight", "Weight of food", 0, "should", 2600),)
        held = replace(free, asks=asks, rules=replace(free.rules, most_meal_g=900))
        for question, kind in ((free, "heavy"), (held, "light")):
            found = first_week(question)
            self.assertEqual({found.dish(slot).split()[0] for slot in question.slots}, {kind})

    def test_who_needs_much_is_not_starved_for_the_weight_of_it(self) -> None:
        """Weight, fibre and heavy meals together weigh less than a required energy."""
        amounts = {"energy_kcal": 1000.0, "ask:weight": 1600.0, "ask:fibre": 60.0}
        stew = Offer("stew", "Stew", frozenset({"Lunch", "Dinner"}), amounts, 1600.0, apart=0)
        asks = (
            Ask("weight", "Weight of food", 0, "should", 2000),
            Ask("fibre", "Fibre of the day", 0, "should", 50),
        )
        windows = (Window("energy_kcal", 2000, 2100, "must"),)
        rules = Rules(scales=(0.75, 0.9, 1.0), most_meal_g=900)
        question = Question(("home",), MEALS, windows, (stew,), asks=asks, rules=rules)
        found = first_week(question)
        self.assertEqual([choice.scale for choice in found.chosen.values()], [1.0, 1.0])

    def test_what_is_missed_is_told_with_its_amount(self) -> None:
        amounts = {"energy_kcal": 1000.0, "ask:weight": 1600.0}
        stew = Offer("stew", "Stew", frozenset({"Lunch", "Dinner"}), amounts, 1600.0, apart=0)
        asks = (Ask("weight", "Weight of food", 0, "should", 2600),)
        question = Question(("home",), MEALS, (), (stew,), asks=asks, rules=Rules(scales=(1.0,)))
        told = [one.text for one in missed(first_week(question))]
        self.assertEqual(told, ["Weight of food 3,200 g, target at most 2,600 g"])


class KindsOfPlants(unittest.TestCase):
    def test_as_in_trying_everything(self) -> None:
        for seed in range(6):
            with self.subTest(seed):
                question = with_kinds(seed, small(seed, days=2, dishes=6))
                equal_to_everything_tried(self, question)

    def test_another_vegetable_is_worth_a_dish_that_is_liked_less(self) -> None:
        """By hand: three lunches of a loved dish (no points) hold one kind; the other, which is
        liked (2 points), brings a second (6 points), so it comes once and no oftener.
        """
        loved = Offer("kale", "Kale", frozenset({"Lunch"}), {}, 400, liking=3, most_uses=7,
                      plant_kinds={"Vegetables": frozenset({"kale"})})  # fmt: skip
        other = replace(loved, key="leek", name="Leek", liking=2,
                        plant_kinds={"Vegetables": frozenset({"leek"})})  # fmt: skip
        rules = Rules(different=None, plant_kinds={"Vegetables": 2})
        question = Question(
            ("home", "off", "home", "off", "home"), (SlotMeal("Lunch", 1, 1),), (), (loved, other),
            rules=rules,
        )  # fmt: skip
        found = first_week(question)
        eaten = sorted(found.dish(slot) for slot in question.slots)
        self.assertEqual(eaten, ["kale", "kale", "leek"])
        self.assertAlmostEqual(found.points, 3 * 8 + 2)  # each made fresh
        alike = replace(question, rules=replace(rules, plant_kinds={}))
        self.assertEqual({first_week(alike).dish(slot) for slot in alike.slots}, {"kale"})


class TheWeekBefore(unittest.TestCase):
    def test_what_was_eaten_before_counts_as_in_trying_everything(self) -> None:
        for seed in range(6):
            with self.subTest(seed):
                question = small(seed, days=2, dishes=6)
                offers = tuple(
                    replace(offer, before=((-1,), (-3, -2, -1), (), (-2,))[(n + seed) % 4])
                    for n, offer in enumerate(question.offers)
                )
                question = replace(question, offers=offers)
                equal_to_everything_tried(self, question)

    def test_a_dish_of_sunday_does_not_come_on_monday(self) -> None:
        question = small(0, days=3)
        stew = replace(question.offers[0], meals=frozenset({"Lunch"}), apart=2, most_uses=7,
                       before=(-1,), travels=True, own={}, table={})  # fmt: skip
        found = first_week(replace(question, offers=(stew,)))
        eaten = [found.dish((day, 0)) for day in range(3)]
        self.assertEqual((eaten[0], sorted(eaten)), ("", ["", "", "d0"]))

    def test_three_nights_before_make_a_fourth_dull(self) -> None:
        question = Question(("home",) * 7, (SlotMeal("Lunch", 1, 1),), (), (
            Offer("stew", "Stew", frozenset({"Lunch"}), {}, 400),))  # fmt: skip
        self.assertEqual(question.run_points([0], (-3, -2, -1)), 60)  # Fri, Sat, Sun and Monday
        self.assertEqual(question.run_points([1], (-3, -2, -1)), 0)
        self.assertEqual(question.run_points([0, 1, 2], (-3, -2, -1)), 180)
        self.assertEqual(question.run_points([0, 1, 2, 3]), 60)


class Menus(unittest.TestCase):
    def test_what_was_left_out_is_beaten_by_a_menu_that_was_kept(self) -> None:
        for seed in range(8):
            question = varied(seed, days=2, dishes=6)
            model = rows_across_days(question)
            where = {variable: place for place, variable in model.cells.items()}
            lines = miss_lines(question)
            for day in menus_of(question, model, 10**6, every_meal=True).days:
                kept: dict[tuple[int, ...], list[tuple[tuple[float, ...], float, int]]] = {}
                for column, cost, rank in zip(day.cells.T, day.costs, day.ranks, strict=True):
                    choices = [model.choices[where[v][0]][where[v][1]] for v in column.tolist()]
                    scales = tuple(choice.scale for choice in choices)
                    dishes = tuple(choice.dish for choice in choices)
                    kept.setdefault(dishes, []).append((scales, float(cost), int(rank)))
                slots = [slot for slot in question.slots if slot[0] == day.day]
                for taken in product(*(model.choices[slot] for slot in slots)):
                    dishes = tuple(choice.dish for choice in taken)
                    twice = [d for d in dishes if d >= 0 and dishes.count(d) > 1]
                    if any(question.offers[d].apart for d in twice):
                        self.assertNotIn(dishes, kept)
                        continue
                    cost = cost_without_waste(question, taken)
                    cells = zip(slots, taken, strict=True)
                    rank = misses_of_day(question, lines, cells).packed()
                    self.assertTrue(
                        any(
                            all(
                                a <= b or not c.uses
                                for a, b, c in zip(
                                    scales, (c.scale for c in taken), taken, strict=True
                                )
                            )
                            and had <= cost + 1e-6
                            and missed_there <= rank
                            for scales, had, missed_there in kept[dishes]
                        ),
                        (seed, day.day, dishes),
                    )
