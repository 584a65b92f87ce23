"""The proof by whole days: equal to trying everything, a bound that is never too high at any
moment, and the same as the other program, which follows cells.
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
from dietetics.tests.samples import sample
from dietetics.tests.test_week_solver import MEALS, small
from dietetics.tests.week_oracle import least_cost
from dietetics.week import first_week as week_at_once
from dietetics.week import improving, integer_program
from dietetics.week.annealing import good_week, rough_week
from dietetics.week.answer import Answer
from dietetics.week.day_menus import menus_of
from dietetics.week.day_prices import Ask
from dietetics.week.explanation import missed
from dietetics.week.first_week import bettered_week, first_week
from dietetics.week.improving import MOST_WAYS, by_whole_days, improve, ways_of_a_day
from dietetics.week.integer_program import improve_by_cells
from dietetics.week.likely_dishes import likely_dishes
from dietetics.week.master_program import Master, Relaxed
from dietetics.week.menu_node import NodeWork
from dietetics.week.menu_search import Effort, MenuSearch, improve_by_menus
from dietetics.week.near_menus import NearMenus
from dietetics.week.question import BatchFacts, Choice, Offer, Question, Rules, SlotMeal
from dietetics.week.recheck import broken_rules
from dietetics.week.search_state import State
from dietetics.week.week_rows import rows_across_days

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
    def test_near_the_best_of_small_weeks_and_never_below_its_bound(self) -> None:
        for seed in range(40, 46):
            question = small(seed, days=2, dishes=6, scales=(0.75, 1.0, 1.25))
            least = least_cost(question, usual_kcal=1800)
            found = first_week(question)
            with self.subTest(seed):
                self.assertEqual(broken_rules(found), [])
                self.assertLessEqual(found.points, 1.05 * least + CLOSE)
                self.assertGreaterEqual(found.points, least - 1e-6)
                self.assertLessEqual(found.bound or 0.0, least + 1e-6)

    def test_the_same_question_and_seed_give_the_same_week(self) -> None:
        question = varied(7, days=5, dishes=7)
        one, two = first_week(question, 3), first_week(question, 3)
        self.assertEqual((one.chosen, one.points), (two.chosen, two.points))

    def test_a_program_is_written_the_same_whatever_order_sets_come_in(self) -> None:
        """Each process shuffles sets of words in its own way; the same week must come of it."""
        code = (
            "from dietetics.tests.test_week_solver import small\n"
            "from dietetics.tests.test_whole_days import with_kinds\n"
            "from dietetics.week.week_rows import rows_across_days\n"
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

    def test_with_many_dishes_a_week_is_made_of_likely_ones(self) -> None:
        for seed in range(8):
            question = varied(seed, days=4, dishes=9)
            with self.subTest(seed), mock.patch.object(week_at_once, "FEW_WAYS", 20):
                found = first_week(question)
                best = improve(question, found, 20)
                self.assertIs(found.question, question)  # not the one with the likely dishes alone
                self.assertIsNone(found.bound)
                self.assertEqual(broken_rules(found), [])
                self.assertLessEqual(best.points, found.points)
                filled = [slot for slot in question.slots if best.dish(slot)]
                self.assertEqual([slot for slot in filled if not found.dish(slot)], [])

    def test_the_largest_days_of_the_mix_are_a_better_week_to_begin_with(self) -> None:
        before = after = 0.0
        for seed in range(8):
            question = varied(seed, days=4, dishes=9)
            rough = rough_week(question, 1, 50)
            week = likely_dishes(question, rough, most_ways=1).week
            for slot in question.locks:
                self.assertEqual(week.dish(slot), question.locks[slot][0])
            before, after = before + rough.points, after + week.points
        self.assertLess(after, 0.9 * before)

    def test_likely_dishes_hold_locked_ones_and_one_for_every_meal(self) -> None:
        for seed in (1, 4, 7):  # with a locked meal
            question = varied(seed, days=4, dishes=9)
            likely = likely_dishes(question, rough_week(question, 1, 50), most_ways=1).dishes
            self.assertLessEqual({key for key, _ in question.locks.values()}, likely)
            away = replace(question, kinds=("off", *question.kinds[1:]))  # locked on that day
            rough = rough_week(away, 1, 50)
            kept = away.with_dishes(likely_dishes(away, rough, most_ways=1).dishes)
            self.assertEqual(kept.locks, question.locks)
            for slot in question.slots:
                offered = {question.offers[c.dish].key for c in question.choices(slot)[1:]}
                self.assertTrue(not offered or offered & likely, (seed, slot))


class BetteredWeeks(unittest.TestCase):
    def test_never_worse_and_near_the_best_with_few_dishes_and_with_many(self) -> None:
        for seed in range(6):
            question = varied(seed, days=4, dishes=7)
            there = good_week(question, moves=20)
            best = improve_by_menus(question, there, Effort(20))
            for few in (1, 100_000):
                with (
                    self.subTest(seed=seed, few=few),
                    mock.patch.object(week_at_once, "FEW_WAYS", few),
                ):
                    found = bettered_week(question, there)
                    self.assertEqual(broken_rules(found), [])
                    self.assertLessEqual(found.points, there.points)
                    self.assertLessEqual(found.points, 1.05 * best.points + CLOSE)

    def test_a_week_of_a_question_that_asked_for_less_is_where_it_begins(self) -> None:
        question = varied(4, days=4, dishes=7)
        there = first_week(question)
        more = replace(question, rules=replace(question.rules, cooking_days=(-1, 0, 1)))
        self.assertLessEqual(bettered_week(more, there).points, there.points + CLOSE)


class NearTheWeek(unittest.TestCase):
    """The search without all menus, for weeks that have too many."""

    def test_its_menus_are_days_that_can_be_and_cost_what_they_cost(self) -> None:
        for seed in range(8):
            question = varied(seed, days=3, dishes=7)
            model = rows_across_days(question)
            where = {variable: place for place, variable in model.cells.items()}
            master = Master(model, sorted({slot[0] for slot in question.slots}))
            near = NearMenus(question, model, master, rough_week(question, 1, 20))
            self.assertIsNotNone(near.grow(30))
            for day in (one.menus(slice(None)) for one in near.days):
                slots = [slot for slot in question.slots if slot[0] == day.day]
                self.assertGreater(len(day.costs), 1)
                for column, cost in zip(day.cells.T, day.costs, strict=True):
                    places = [where[variable] for variable in column.tolist()]
                    self.assertEqual([slot for slot, _ in places], slots)
                    taken = [model.choices[slot][n] for slot, n in places]
                    dishes = [choice.dish for choice in taken if choice.dish >= 0]
                    for dish in {one for one in dishes if dishes.count(one) > 1}:
                        self.assertEqual(question.offers[dish].apart, 0)
                    self.assertAlmostEqual(cost, cost_without_waste(question, taken), places=6)


class VeryLargeWeeks(unittest.TestCase):
    """With more ways to spend a day than can be looked at: likely dishes, then cell by cell."""

    def test_never_worse_than_the_start_nor_the_bound_above_the_best(self) -> None:
        for seed in sample("very large weeks", range(6), 0.3):
            question = varied(seed, days=4, dishes=8)
            start = good_week(question, moves=50)
            best = improve_by_menus(question, start, Effort(20))
            heard: list[tuple[float, float]] = []

            def told(
                at: float, points: float, bound: float,
                heard: list[tuple[float, float]] = heard,
            ) -> bool:  # fmt: skip
                heard.append((points, bound))
                return True

            with (
                self.subTest(seed),
                mock.patch.object(improving, "MOST_WAYS", 10),
                mock.patch.object(improving, "LIKELY_WAYS", (20, 60)),
            ):
                found = improve(question, start, 20, told)
                self.assertIs(found.question, question)
                self.assertEqual(broken_rules(found), [])
                self.assertLessEqual(found.points, start.points)
                self.assertAlmostEqual(found.points, best.points, delta=CLOSE)
                self.assertLessEqual(max(bound for _, bound in heard), best.points + CLOSE)

    def test_where_ways_are_not_few_likely_dishes_come_first_and_the_proof_holds(self) -> None:
        tried: list[int] = []
        likely = improving._with_likely_dishes

        def watched(*given: object) -> Answer:
            found = likely(*given)  # type: ignore[arg-type]
            tried.append(found.bound is None)
            return found

        for seed in range(4):
            question = varied(seed, days=3, dishes=4)
            start = rough_week(question, seed, 20)
            best = improve_by_menus(question, good_week(question, moves=500), Effort(20))
            with (
                mock.patch.object(improving, "FEW_WAYS", 3),
                mock.patch.object(improving, "_with_likely_dishes", watched),
            ):
                found = improve(question, start, 20)
            self.assertAlmostEqual(found.points, best.points, delta=CLOSE)
            self.assertAlmostEqual(found.bound or 0.0, best.bound or 0.0, delta=CLOSE)
        self.assertEqual(tried, [True] * 4)

    def test_stopped_while_likely_dishes_are_tried_nothing_else_begins(self) -> None:
        question = varied(3, days=4, dishes=8)
        start = good_week(question, moves=50)
        with (
            mock.patch.object(improving, "MOST_WAYS", 10),
            mock.patch.object(integer_program, "improve_by_cells") as cells,
        ):
            for looks in (0, 1, 2):
                left = [looks]

                def told(at: float, points: float, bound: float, left: list[int] = left) -> bool:
                    left[0] -= 1
                    return left[0] >= 0

                with mock.patch.object(improving, "rough_week", wraps=rough_week) as rough:
                    found = improve(question, start, 20, told)
                self.assertEqual(rough.call_count, min(looks, 1))  # one for each set of dishes
                cells.assert_not_called()
                self.assertLessEqual(found.points, start.points)


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
                least = least_cost(question, usual_kcal=1800)
                heard: list[tuple[float, float]] = []

                def told(
                    at: float, points: float, bound: float,
                    heard: list[tuple[float, float]] = heard,
                ) -> bool:  # fmt: skip
                    heard.append((points, bound))
                    return True

                found = improve_by_menus(question, good_week(question, moves=50), Effort(20), told)
                self.assertAlmostEqual(found.points, least, delta=CLOSE)
                self.assertLessEqual(found.gap or 0.0, 1e-3)
                self.assertLessEqual(max(bound for _, bound in heard), least + 1e-6)
                self.assertGreaterEqual(min(points for points, _ in heard), least - 1e-6)

    def test_two_programs_agree(self) -> None:
        for seed in range(3):
            with self.subTest(seed):
                question = varied(seed, days=5, dishes=7)
                start = good_week(question, moves=300)
                days = improve_by_menus(question, start, Effort(30))
                cells = improve_by_cells(question, start, 30)
                self.assertEqual(broken_rules(days), [])
                self.assertIsNotNone(days.bound)
                self.assertLessEqual(days.bound or 0.0, cells.points + 1e-6)
                self.assertLessEqual(cells.bound or 0.0, days.points + 1e-6)
                self.assertLessEqual(days.gap or 0.0, 1e-3)
                self.assertLessEqual(days.points, cells.points + CLOSE)

    def test_straight_down_or_by_the_lowest_bound_the_same_is_proven(self) -> None:
        for seed in range(3):
            question = varied(seed, days=4, dishes=7)
            start = good_week(question, moves=50)
            down = improve_by_menus(question, start, Effort(30, straight_down=1))
            lowest = improve_by_menus(question, start, Effort(30, straight_down=10**6))
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

            improve_by_menus(question, good_week(question, seed, 20, 1), Effort(20, 30, 0, 1), told)
            with self.subTest(seed):
                self.assertEqual(heard, sorted(heard, reverse=True))

    def test_a_mix_of_days_that_breaks_a_rule_is_mended_before_it_counts(self) -> None:
        """A dish on every day that may come once: dearer than the best week when it is mended."""
        question = small(1, days=4, dishes=7)
        once = tuple(replace(offer, most_uses=1, liking=3) for offer in question.offers)
        question = replace(question, offers=once)
        best = improve_by_menus(question, good_week(question, moves=500), Effort(20))
        search = MenuSearch(question, best, Effort(0.0), None)
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
            improve_by_menus(question, good_week(question, moves=50), Effort(30, straight_down=1))
        self.assertGreater(len(seen), 10)
        self.assertEqual(len(seen), len(set(seen)))

    def test_it_ends_after_so_many_steps_of_the_simplex_method(self) -> None:
        question = small(5, days=7, dishes=12, scales=(0.75, 1.0, 1.25))
        start = good_week(question, moves=50)
        taken = []
        for most in (1, 200, 400):
            search = MenuSearch(question, start, Effort(math.inf, pivots=most), None)
            search.run()
            self.assertEqual(broken_rules(search.answer()), [])
            taken.append(search.master.pivots)
        self.assertEqual(taken, sorted(taken))
        self.assertTrue(taken[0] < 200 <= taken[1] < 400 <= taken[2], taken)

    def test_stopped_early_the_bound_still_holds(self) -> None:
        question = small(5, days=7, dishes=12, scales=(0.75, 1.0, 1.25))
        start = good_week(question, moves=200)
        best = improve_by_menus(question, start, Effort(30))
        for looks in (1, 3, 10, 40):
            left = [looks]

            def told(at: float, points: float, bound: float, left: list[int] = left) -> bool:
                left[0] -= 1
                return left[0] > 0

            found = improve_by_menus(question, start, Effort(30), told)
            self.assertLessEqual(found.points, start.points)
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
    """Both programs find the least cost of a small week, and no bound lies above it."""
    least = least_cost(question, usual_kcal=1800)
    start = good_week(question, moves=1500)
    case.assertGreaterEqual(start.points, least - 1e-6)
    for found in (
        improve_by_menus(question, start, Effort(20)),
        improve_by_cells(question, start, 20),
    ):
        case.assertAlmostEqual(found.points, least, delta=CLOSE)
        case.assertLessEqual(found.bound or 0.0, least + 1e-3)
        case.assertEqual(broken_rules(found), [])


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
            found = improve_by_menus(question, good_week(question, moves=500), Effort(10))
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
        found = improve_by_menus(question, good_week(question, moves=200), Effort(10))
        self.assertEqual([choice.scale for choice in found.chosen.values()], [1.0, 1.0])

    def test_what_is_missed_is_told_with_its_amount(self) -> None:
        amounts = {"energy_kcal": 1000.0, "ask:weight": 1600.0}
        stew = Offer("stew", "Stew", frozenset({"Lunch", "Dinner"}), amounts, 1600.0, apart=0)
        asks = (Ask("weight", "Weight of food", 0, "should", 2600),)
        question = Question(("home",), MEALS, (), (stew,), asks=asks, rules=Rules(scales=(1.0,)))
        told = [one.text for one in missed(good_week(question, moves=100))]
        self.assertEqual(told, ["Weight of food 3,200 g, target at most 2,600 g"])


class KindsOfPlants(unittest.TestCase):
    def test_as_in_trying_everything(self) -> None:
        for seed in range(6):
            with self.subTest(seed):
                question = with_kinds(seed, small(seed, days=2, dishes=6))
                equal_to_everything_tried(self, question)

    def test_after_any_moves_the_kept_sums_are_those_counted_anew(self) -> None:
        for seed in range(20):
            rng = random.Random(seed)
            question = with_kinds(seed, small(seed % 5, days=4, dishes=7))
            state = State(question, rng)
            for _ in range(20):
                cells = rng.sample(state.free, min(len(state.free), 3))
                for cell in cells:
                    number = rng.randrange(len(state.choices[cell]))
                    least, before = state.least_change(cell, number), state.total
                    undo = state.apply([(cell, number)])
                    self.assertLessEqual(least, state.total - before + 1e-6)
                    if rng.random() < 0.5:
                        state.take_back(undo)
                        self.assertAlmostEqual(state.total, before, places=6)
            kept = state.total
            state.reset()
            self.assertAlmostEqual(kept, state.total, places=6)

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
            ("home", "off", "home", "home"), (SlotMeal("Lunch", 1, 1),), (), (loved, other),
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
        found = good_week(replace(question, offers=(stew,)))
        self.assertEqual([found.dish((day, 0)) for day in range(3)], ["", "d0", ""])

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
            for day in menus_of(question, model):
                kept: dict[tuple[int, ...], list[tuple[tuple[float, ...], float]]] = {}
                for column, cost in zip(day.cells.T, day.costs, strict=True):
                    choices = [model.choices[where[v][0]][where[v][1]] for v in column.tolist()]
                    scales = tuple(choice.scale for choice in choices)
                    dishes = tuple(choice.dish for choice in choices)
                    kept.setdefault(dishes, []).append((scales, float(cost)))
                slots = [slot for slot in question.slots if slot[0] == day.day]
                for taken in product(*(model.choices[slot] for slot in slots)):
                    dishes = tuple(choice.dish for choice in taken)
                    twice = [d for d in dishes if d >= 0 and dishes.count(d) > 1]
                    if any(question.offers[d].apart for d in twice):
                        self.assertNotIn(dishes, kept)
                        continue
                    cost = cost_without_waste(question, taken)
                    self.assertTrue(
                        any(
                            all(
                                a <= b or not c.uses
                                for a, b, c in zip(
                                    scales, (c.scale for c in taken), taken, strict=True
                                )
                            )
                            and had <= cost + 1e-6
                            for scales, had in kept[dishes]
                        ),
                        (seed, day.day, dishes),
                    )


class Large(unittest.TestCase):
    def test_a_week_too_large_for_menus_is_followed_cell_by_cell(self) -> None:
        meals = tuple(SlotMeal(name, 0.2, 0.2) for name in ("A", "B", "C", "D", "E"))
        offers = tuple(
            Offer(
                f"d{n}", f"D {n}", frozenset({meals[n % 5].name}), {"energy_kcal": 400.0 + n}, 300
            )
            for n in range(100)
        )
        question = Question(
            ("home",) * 2, meals, (), offers, (BatchFacts("p", "P", 3),), (), Rules()
        )
        self.assertEqual(ways_of_a_day(question), MOST_WAYS + 1)
        self.assertFalse(by_whole_days(question))
        found = improve(question, good_week(question, moves=2000), 2)
        self.assertEqual(broken_rules(found), [])
        self.assertLessEqual(found.bound or 0.0, found.points)

    def test_how_many_ways_there_are_to_spend_a_day(self) -> None:
        meals = (SlotMeal("A", 0.5, 0.5), SlotMeal("B", 0.5, 0.5))
        offers = tuple(Offer(f"d{n}", "D", frozenset({"A", "B"}), {}, 300) for n in range(3))
        question = Question(("home",), meals, (), offers, rules=Rules(scales=(1.0, 1.5)))
        self.assertEqual(ways_of_a_day(question), (3 * 2 + 1) ** 2)  # or nothing, at either meal
