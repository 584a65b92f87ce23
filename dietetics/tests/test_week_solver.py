"""Weeks by solver: small ones equal to trying everything, every one checked again outside the
solver, repeatable.
"""

from __future__ import annotations

import random
import unittest
from dataclasses import replace

from hypothesis import given, settings
from hypothesis import strategies as st

from dietetics.errors import DieteticsError
from dietetics.targets.windows import Window
from dietetics.tests.week_oracle import best_of_all
from dietetics.week.day_prices import Ask
from dietetics.week.question.answer import Answer, answer_of
from dietetics.week.question.cooking_evenings import cheapest, cookings_of
from dietetics.week.question.question import BatchFacts, Offer, Question, Rules, SlotMeal
from dietetics.week.question.recheck import broken_rules, points_of
from dietetics.week.search.improving import first_week, improve
from dietetics.week.search.settling import settle

MEALS = (SlotMeal("Lunch", 0.45, 0.45), SlotMeal("Dinner", 0.55, 0.55))


def small(
    seed: int, days: int = 3, dishes: int = 6, scales: tuple[float, ...] = (1.0,)
) -> Question:
    """A week of two meals with made-up dishes: some fresh, some from pots, one that doesn't
    travel.
    """
    rng = random.Random(seed)
    pots = tuple(
        BatchFacts(f"p{n}", f"Pot {n}", rng.randint(0, 4), ((0.5, 1),) if n == 0 else ())
        for n in range(3)
    )
    offers = []
    for n in range(dishes):
        energy = rng.uniform(600, 1300)
        amounts = {"energy_kcal": energy, "protein_g": energy * rng.uniform(0.02, 0.06),
            "sodium_mg": energy * rng.uniform(0.2, 1.2),
                   "ask:beans": rng.choice([0.0, 80.0, 150.0])}  # fmt: skip
        own = {f"p{n % 3}": rng.choice([0.2, 0.25, 0.5])} if n % 2 else {}
        meals = frozenset(rng.choice([("Lunch",), ("Dinner",), ("Lunch", "Dinner")]))
        offers.append(
            Offer(
                f"d{n}",
                f"Dish {n}",
                meals,
                amounts,
                energy / rng.uniform(0.8, 1.8),
                own,
                {"p1": 0.1} if n == 3 else {},
                n != 4,
                rng.randint(0, 3),
                rng.randint(1, 3),
                rng.randint(0, 2),
                n % 3 == 0,
            )
        )
    windows = (Window("energy_kcal", 1800, 2100, "must"), Window("protein_g", 70, 110, "must"),
        Window("kcal_per_g", None, 1.3),
               Window("sodium_mg", None, 1500))  # fmt: skip
    kinds = tuple("travel" if day == 1 and seed % 2 else "home" for day in range(days))
    rules = Rules((-1, 1), 1, 3, scales, 1 if seed % 2 else None)
    return Question(
        kinds, MEALS, windows, tuple(offers), pots, (Ask("beans", "Beans", 130, "should"),), rules
    )


class SmallWeeks(unittest.TestCase):
    def test_equal_to_exhaustion(self) -> None:
        for seed in range(3):
            with self.subTest(seed):
                question = small(seed)
                # a miss of density is measured by the least energy of a day
                best = best_of_all(question, usual_kcal=1800)
                settled = settle(question)
                found = improve(settled, 20)
                self.assertEqual((settled.misses, settled.variety), (best.misses, best.variety))
                self.assertAlmostEqual(found.points, best.cost, delta=0.02)
                self.assertLessEqual(found.bound or 0.0, best.cost + 0.02)
                self.assertLessEqual(found.gap or 0.0, 1e-3)

    def test_every_week_keeps_every_rule_and_costs_what_it_says(self) -> None:
        for seed in range(6):
            question = small(seed, days=7, dishes=9, scales=(0.75, 1.0, 1.25))
            settled = settle(question)
            for answer in (settled.week, improve(settled, 2)):
                with self.subTest(seed):
                    self.assertEqual(broken_rules(answer), [])
                    self.assertAlmostEqual(points_of(answer), answer.points, places=6)
                    self.assertTrue(settled.allows(answer))

    @settings(max_examples=8, deadline=None)
    @given(st.integers(0, 10_000), st.integers(0, 6), st.integers(0, 5))
    def test_locked_cells_are_kept(self, seed: int, day: int, dish: int) -> None:
        question = replace(
            small(seed, days=7), locks={(day, 0): (f"d{dish}", 1.25), (6 - day, 1): ("", 1.0)}
        )
        answer = first_week(question)
        self.assertEqual(answer.dish((day, 0)), f"d{dish}")
        self.assertEqual(answer.dish((6 - day, 1)), "")
        self.assertEqual(broken_rules(answer), [])

    def test_a_locked_cell_may_lack_what_no_cooking_brings(self) -> None:
        # Half a pot is left over from before and goes off at once; the locked lunch takes five
        # eighths of it.
        pot = BatchFacts("p", "Pot", 0, ((0.5, 0),))
        stew = Offer("stew", "Stew", frozenset({"Lunch"}), {"energy_kcal": 900}, 500, {"p": 0.5})
        question = Question(
            ("home",) * 2, MEALS, (), (stew,), (pot,), (), Rules((1,)), {(0, 0): ("stew", 1.25)}
        )
        answer = first_week(question)
        self.assertEqual(answer.dish((0, 0)), "stew")
        self.assertEqual(broken_rules(answer), [])
        free = replace(question, locks={})
        taken = {**answer.chosen, (0, 0): next(c for c in free.choices((0, 0)) if c.scale == 1.25)}
        self.assertEqual(
            broken_rules(answer_of(free, taken)), ["Pot: 0.12 of a batch is eaten but not cooked"]
        )

    def test_a_broken_week_is_seen(self) -> None:
        question = small(0)
        answer = first_week(question)
        slots = [slot for slot in question.slots if answer.dish(slot)]
        worse = answer_of(
            question, {**answer.chosen, slots[0]: replace(answer.chosen[slots[0]], scale=9.0)}
        )
        self.assertTrue(any("not a possible portion" in words for words in broken_rules(worse)))
        nothing_cooked = replace(answer, cooked={})
        uses = any(choice.uses and choice.uses[0][0] != 0 for choice in answer.chosen.values())
        self.assertEqual(any("not cooked" in words for words in broken_rules(nothing_cooked)), uses)


class Repeatable(unittest.TestCase):
    def test_the_same_question_gives_the_same_week(self) -> None:
        question = small(3, days=7)
        one, two = first_week(question), first_week(question)
        self.assertEqual(
            [one.dish(s) for s in question.slots], [two.dish(s) for s in question.slots]
        )
        self.assertEqual(one.points, two.points)

    def test_stopped_at_once_it_keeps_what_there_was(self) -> None:
        question = small(2, days=7, dishes=12, scales=(0.75, 1.0, 1.25))
        settled = settle(question)
        stopped: Answer = improve(settled, 20, lambda *_: False)
        self.assertLessEqual(stopped.points, settled.week.points)
        self.assertEqual(broken_rules(stopped), [])


class Cooking(unittest.TestCase):
    def test_batches_are_spread_over_evenings_where_one_would_be_too_full(self) -> None:
        """Two pots, both eaten on Thursday: cooked together on Monday they are one too many (200);
        one of them on Tuesday costs no more. Where both may be cooked at once, they are.
        """
        offers = tuple(
            Offer(f"d{n}", f"D {n}", frozenset({"Lunch", "Dinner"}), {}, 400, {f"p{n}": 0.5})
            for n in range(2)
        )
        pots = tuple(BatchFacts(f"p{n}", f"P {n}", 4) for n in range(2))
        uses = {n: (((3, n), 0.5),) for n in range(2)}
        for most, wanted in ((1, [1, 1]), (2, [0, 2])):
            rules = Rules((0, 1), most, None, (1.0,))
            question = Question(("home",) * 4, MEALS, (), offers, pots, rules=rules)
            counts = [one.counts for one in cookings_of(question, uses)]
            on = sorted(
                sum(count > 0 for count in evening) for evening in zip(*counts, strict=True)
            )
            self.assertEqual(on, wanted)

    @settings(max_examples=200, deadline=None)
    @given(st.data())
    def test_what_is_missing_equals_eating_serving_by_serving(self, data: st.DataObject) -> None:
        stock = tuple(
            (data.draw(st.sampled_from((0.25, 0.5))), data.draw(st.integers(0, 5)))
            for _ in range(data.draw(st.integers(0, 2)))
        )
        pot, days = BatchFacts("p", "P", data.draw(st.integers(0, 4)), stock), (-1, 2, 4)
        eaten = data.draw(
            st.lists(st.tuples(st.integers(0, 6), st.integers(0, 1)), unique=True, max_size=9)
        )
        uses = tuple((slot, data.draw(st.sampled_from((0.2, 0.25, 0.4)))) for slot in sorted(eaten))
        found = cheapest(pot, uses, days, 1)
        self.assertAlmostEqual(found.missing, by_serving(pot, uses, days, found.counts), places=6)
        for n in range(
            len(days)
        ):  # half a pot less somewhere is dearer, or leaves something missing that was there
            fewer = tuple(count - 0.5 * (i == n) for i, count in enumerate(found.counts))
            if fewer[n] >= 0:
                effort = sum(25 + 15 * count for count in fewer if count)
                held = sum(fewer) + sum(share for share, _ in stock)
                missing = by_serving(pot, uses, days, fewer)
                waste = held - sum(share for _, share in uses) + missing
                self.assertGreaterEqual(effort + 40 * waste + 50_000 * missing, found.points - 1e-6)


def by_serving(
    pot: BatchFacts,
    uses: tuple[tuple[tuple[int, int], float], ...],
    days: tuple[int, ...],
    counts: tuple[float, ...],
) -> float:
    """What is missing when every serving takes first what goes off first."""
    there = [[(0, 0), end, share] for share, end in pot.stock]
    there += [
        [(day, 1) if day >= 0 else (0, 0), day + pot.keeps_days, n]
        for day, n in zip(days, counts, strict=True)
        if n
    ]
    missing = 0.0
    for slot, share in uses:
        need = share
        for one in sorted(
            (t for t in there if t[0] <= slot and slot[0] <= t[1]), key=lambda t: t[1]
        ):
            taken = min(need, one[2])
            one[2] -= taken
            need -= taken
        missing += need
    return missing


class Contradictions(unittest.TestCase):
    def test_what_cannot_be_asked_is_said(self) -> None:
        question = small(1)
        for changes in ({"offers": ()}, {"meals": ()}, {"pots": ()}, {"rules": Rules(scales=())},
            {"rules": Rules((-1, 0, 1, 2, 3))},
                        {"locks": {(0, 0): ("gone", 1.0)}}):  # fmt: skip
            with self.subTest(str(changes)), self.assertRaises(DieteticsError):
                replace(question, **changes)

    def test_locks_against_each_other_are_kept_and_told(self) -> None:
        question = small(4)
        twice = replace(
            question,
            locks={
                (0, 0): ("d1", 1.0),
                (0, 1): ("d1", 1.0),
                (1, 0): ("d1", 1.0),
                (2, 0): ("d1", 1.0),
            },
        )
        self.assertTrue(twice.warnings())
        self.assertEqual(first_week(twice).dish((0, 1)), "d1")
        self.assertEqual(question.warnings(), [])

    def test_nothing_keeps_and_one_dish(self) -> None:
        question = small(5)
        no_life = replace(
            question, pots=tuple(replace(p, keeps_days=0, stock=()) for p in question.pots)
        )
        answer = first_week(no_life)
        self.assertEqual(broken_rules(answer), [])
        one = replace(
            question, offers=(replace(question.offers[0], meals=frozenset({"Lunch"}), most_uses=2),)
        )
        alone = first_week(one)
        self.assertEqual(sum(bool(alone.dish(s)) for s in one.slots), 2)
        self.assertEqual(broken_rules(alone), [])
