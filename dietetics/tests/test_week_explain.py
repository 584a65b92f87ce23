"""A week explained: what another dish would cost, what binds, what is missed, which change helps.
Worked by hand beside it.
"""

from __future__ import annotations

import unittest
from collections.abc import Sequence
from dataclasses import replace
from functools import partial
from unittest import mock

from dietetics.cautions.facts import ClientFacts
from dietetics.composition.foods import load_shelf
from dietetics.composition.sums import FoodContent, Item, compose
from dietetics.targets.schools import school, schools
from dietetics.targets.windows import Window
from dietetics.week.batch_supply import WeekBatch
from dietetics.week.day_totals import Dish
from dietetics.week.plan import Entry, cook, empty_plan, lock, put, skip, spend
from dietetics.week.question.answer import Answer, answer_of
from dietetics.week.question.cooking_evenings import cheapest
from dietetics.week.question.question import BatchFacts, Offer, Question, Rules, SlotMeal
from dietetics.week.question.question_building import (
    against_words,
    fixed_offer,
    kept_from,
    liked_under,
    offer_of,
    planned_windows,
    week_question,
)
from dietetics.week.question.recheck import points_of
from dietetics.week.search.improving import first_week, improve
from dietetics.week.search.settling import settle
from dietetics.week.words.explanation import WayOut, binding, missed, others, ways_out
from dietetics.week.words.week_words import day_sums

SHELF = load_shelf()
LUNCH = (SlotMeal("Lunch", 1.0, 1.0),)


def offer(key: str, energy: float, **more: object) -> Offer:
    """A dish of so much energy at 1 kcal/g."""
    return Offer(
        key,
        key.title(),
        frozenset({"Lunch"}),
        {"energy_kcal": energy, "protein_g": energy / 20},
        energy,
        **more,
    )  # type: ignore[arg-type]


def question(*offers: Offer, days: int = 3, **more: object) -> Question:
    """A week of lunches of 500 to 600 kcal."""
    windows = (Window("energy_kcal", 500, 600, "must"),)
    return Question(
        ("home",) * days, LUNCH, windows, offers, rules=Rules((-1,), 2, None, (1.0,)), **more
    )  # type: ignore[arg-type]


def dish(key: str, *foods: tuple[str, float], **more: object) -> Dish:
    """Foods as a dish."""
    found = tuple((SHELF.food(name), grams) for name, grams in foods)
    serving = compose([Item.exact(f.name, FoodContent(f), g) for f, g in found])
    return Dish(key, key.title(), serving, found, **more)  # type: ignore[arg-type]


class Explained(unittest.TestCase):
    def test_what_another_dish_would_cost_is_what_it_then_costs(self) -> None:
        asked = question(
            offer("right", 550, most_uses=3, apart=0), offer("heavy", 660), offer("light", 400)
        )
        answer = first_week(asked)
        self.assertEqual({answer.dish(slot) for slot in asked.slots}, {"right"})
        found = {one.dish: one for one in others(answer, (1, 0))}
        for key, one in found.items():
            choice = next(c for c in asked.choices((1, 0)) if c.dish == asked.by_key[key])
            self.assertAlmostEqual(
                one.points,
                points_of(answer_of(asked, {**answer.chosen, (1, 0): choice})) - answer.points,
            )
            self.assertIn("energy met on 1 fewer day", one.changes)
        self.assertLess(
            found["heavy"].points, found["light"].points
        )  # 10 % over 600 against 20 % under 500

    def test_misses_are_told_by_day_with_their_price(self) -> None:
        asked = question(offer("heavy", 660, most_uses=9))
        rows = missed(first_week(asked))
        self.assertEqual({row.day for row in rows}, {0, 1, 2})
        self.assertAlmostEqual(rows[0].points, 60)  # 10 % above 600, six points a per cent
        self.assertIn("Energy 660 kcal, target 500–600", rows[0].text)

    def test_an_empty_meal_is_told(self) -> None:
        rows = missed(first_week(question(offer("right", 550, most_uses=2))))
        self.assertEqual(
            sum(
                row.text
                == "no dish for lunch is left: Right is used as often as allowed (2 times a week)"
                for row in rows
            ),
            1,
        )

    def test_what_binds(self) -> None:
        words = binding(first_week(question(offer("edge", 600, most_uses=3), days=4)))
        self.assertIn("Energy is at its high limit on 3 days", words)
        self.assertIn("Edge is used as often as allowed: 3 times", words)

    def test_a_way_out_that_is_told_does_help(self) -> None:
        pot = BatchFacts("pot", "Pot", 1)
        stew = offer("stew", 550, own={"pot": 0.2}, most_uses=7)
        asked = question(stew, offer("snack", 250, most_uses=7), days=5, pots=(pot,))
        answer = first_week(asked)
        ways = ways_out(answer)
        self.assertTrue(any(way.kind == "evening" for way in ways))
        best = next(way for way in ways if way.kind == "evening")
        more = replace(
            asked, rules=replace(asked.rules, cooking_days=tuple(sorted((-1, int(best.value)))))
        )
        self.assertAlmostEqual(answer.points - first_week(more).points, best.saves, delta=1.0)

    def test_a_dish_oftener_than_it_may_come_is_a_change(self) -> None:
        asked = question(offer("good", 550, most_uses=1), offer("heavy", 660, most_uses=9), days=3)
        ways = ways_out(first_week(asked))
        self.assertIn(("uses", "good"), {(way.kind, way.value) for way in ways})
        self.assertNotIn("again", {way.kind for way in ways})

    def test_what_needs_no_change_is_no_merit_of_one(self) -> None:
        """A week that a first look does not better, and a look with any change does: what helps is
        planning again, and a way is told for what it saves on top of that alone.
        """
        asked = question(offer("heavy", 660, most_uses=9))
        empty = answer_of(asked, {slot: asked.choices(slot)[0] for slot in asked.slots})
        full = first_week(asked)
        spare = [(offer("middling", 550, most_uses=7), ()), (offer("crumb", 20), ())]

        def found(changed: Question) -> Answer:
            return empty if changed is asked else first_week(changed)

        with mock.patch("dietetics.week.words.explanation.first_week", found):
            ways = {way.value: way for way in ways_out(empty, spare)}
        self.assertEqual(list(ways), ["", "middling", "energy_kcal"])
        self.assertEqual(ways[""].kind, "again")
        self.assertAlmostEqual(ways[""].saves, empty.points - full.points)
        # three lunches 10 % over 600 kcal, and 0.15 × 10 % of the meal's share
        self.assertAlmostEqual(ways["middling"].saves, 3 * (60 + 1.8), delta=0.5)

    def test_ways_out_are_told_of_as_they_are_tried_and_end_where_nobody_wants_more(self) -> None:
        answer = first_week(question(offer("heavy", 660, most_uses=9)))
        # 20 kcal above 600 costs less than 60 above, and more than not to mind; that comes last
        spare = [(offer("middling", 620, most_uses=7), ()), (offer("crumb", 20), ())]
        heard: list[tuple[int, int, int]] = []

        def told(number: int, of: int, found: Sequence[WayOut], most: int) -> bool:
            heard.append((number, of, len(found)))
            return number < most

        for most, values in ((9, ["middling", "energy_kcal"]), (1, ["middling"]), (0, [])):
            heard.clear()
            ways = ways_out(answer, spare, told=partial(told, most=most))
            self.assertEqual([way.value for way in ways], values)
            # two dishes, and energy watched only: of these "crumb" helps nothing
            self.assertEqual(heard, [(0, 3, 0), (1, 3, 1), (2, 3, 1)][: most + 1])

    def test_a_clinicians_window_is_never_offered_for_leaving(self) -> None:
        asked = question(offer("heavy", 660, most_uses=9))
        answer = first_week(asked)
        self.assertIn(("watch", "energy_kcal"), {(way.kind, way.value) for way in ways_out(answer)})
        kept = first_week(replace(asked, fixed=frozenset({"energy_kcal"})))
        self.assertNotIn("watch", {way.kind for way in ways_out(kept)})

    def test_another_dish_is_offered_with_its_pot_and_helps(self) -> None:
        asked = question(offer("heavy", 660, most_uses=9))
        answer = first_week(asked)
        pot = BatchFacts("pot", "Pot", 6)
        stew = offer("stew", 550, own={"pot": 0.25}, most_uses=7)
        ways = {
            way.value: way
            for way in ways_out(answer, [(stew, (pot,)), (offer("crumb", 20), ())])
            if way.kind == "dish"
        }
        self.assertEqual(set(ways), {"stew"})
        self.assertEqual(ways["stew"].text, "also cook Stew, for lunch")
        # Before: three lunches of 660 kcal, 10 % over 600 (60 a day, and 0.15 × 10 % of the meal's
        # share), made fresh (8 each). After: one fire (25), a pot (15) and a quarter of it left
        # over (10). The liking is the same.
        self.assertAlmostEqual(ways["stew"].saves, 3 * (60 + 1.8 + 8) - (25 + 15 + 10), delta=0.5)

    def test_new_dishes_stay_away_where_none_is_wanted(self) -> None:
        # The new dish is loved, which is worth 5 points; one above what may be new costs 150.
        loved = offer("fresh", 550, most_uses=3, new=True, liking=3)
        asked = question(offer("old", 550, most_uses=3), loved, days=1)
        for most, served in ((None, "fresh"), (1, "fresh"), (0, "old")):
            answer = first_week(replace(asked, rules=replace(asked.rules, most_new=most)))
            self.assertEqual({answer.dish(slot) for slot in asked.slots}, {served})
            self.assertAlmostEqual(points_of(answer), answer.points)
        forced = replace(asked, offers=asked.offers[1:], rules=replace(asked.rules, most_new=0))
        self.assertIn("new dishes: 1; at most 0 allowed", binding(first_week(forced)))

    def test_sums_of_a_day(self) -> None:
        answer = first_week(question(offer("right", 550, most_uses=9)))
        self.assertEqual(
            [sums["energy_kcal"] for sums in day_sums(answer).values()], [550, 550, 550]
        )


class Pots(unittest.TestCase):
    POT = BatchFacts("p", "Pot", 3)

    def test_half_a_pot_where_half_is_eaten(self) -> None:
        found = cheapest(self.POT, (((0, 0), 0.25), ((1, 0), 0.25)), (-1, 2), 1)
        self.assertEqual((found.counts, found.missing), ((0.5, 0.0), 0.0))
        self.assertAlmostEqual(found.points, 25 + 7.5)  # one fire, half a pot, nothing wasted

    def test_a_second_fire_where_the_first_has_gone_off(self) -> None:
        found = cheapest(self.POT, (((0, 0), 0.5), ((5, 0), 0.5)), (-1, 2), 1)
        self.assertEqual(found.counts, (0.5, 0.5))

    def test_the_rest_of_last_week_is_eaten_before_a_fire_is_lit(self) -> None:
        found = cheapest(
            replace(self.POT, stock=((0.5, 1),)), (((0, 0), 0.25), ((1, 0), 0.25)), (-1, 2), 1
        )
        self.assertEqual((found.counts, found.points), ((0.0, 0.0), 0.0))

    def test_what_cannot_be_there_is_missing(self) -> None:
        found = cheapest(replace(self.POT, keeps_days=0), (((1, 0), 0.5),), (-1,), 1)
        self.assertAlmostEqual(found.missing, 0.5)


class FromThePractice(unittest.TestCase):
    MEALS = (SlotMeal("Breakfast", 0.3, 0.3, False), SlotMeal("Dinner", 0.7, 0.7))
    OATS, STEW = (
        dish("oats", ("oat-porridge-cooked", 400)),
        dish("stew", ("lentils-cooked", 400), own_g={"pot": 400.0}, table_g={"pot": 300.0}),
    )
    POTS = {"pot": WeekBatch("pot", "Pot", 2000.0, 400.0, 4)}

    def test_an_offer_takes_its_share_of_the_pot_for_the_whole_table(self) -> None:
        asks = schools()["greens-and-beans"].days
        made = offer_of(self.STEW, self.POTS, asks, meals=frozenset({"Dinner"}))
        self.assertEqual((made.own, made.table), ({"pot": 0.2}, {"pot": 0.15}))
        self.assertEqual(made.amounts["ask:beans"], 400)
        self.assertAlmostEqual(made.amounts["protein_g"], self.STEW.serving["protein_g"].amount)
        self.assertNotIn("kcal_per_g", made.amounts)

    def test_locked_skipped_and_off_cells_come_into_the_question(self) -> None:
        dishes = {"oats": self.OATS, "stew": self.STEW}
        plan = lock(
            put(empty_plan(("Breakfast", "Dinner")), 0, 0, Entry("oats", "Oats", 1.25)), 0, 0
        )
        plan = spend(skip(cook(plan, "pot", -3, 0.4, 0.5), 1, 1), 6, "off")
        offers = [
            offer_of(d, self.POTS, (), meals=frozenset({m}))
            for d, m in ((self.OATS, "Breakfast"), (self.STEW, "Dinner"))
        ]
        asked = week_question(
            plan,
            self.MEALS,
            (Window("energy_kcal", 1500, 2500),),
            (),
            offers,
            dishes,
            self.POTS,
            Rules(),
        )
        self.assertEqual(asked.locks, {(0, 0): ("oats", 1.25)})
        self.assertNotIn((1, 1), asked.slots)
        self.assertEqual(len(asked.slots), 6 * 2 - 1)
        self.assertEqual(
            asked.pots[0].stock, ((0.2, 1), (0.2, 57))
        )  # half of it fresh until day 1, half frozen

    def test_a_cell_of_several_things_is_locked_as_one(self) -> None:
        cell = put(empty_plan(("Dinner",)), 0, 0, Entry("stew", "Stew", 0.5)).cell(0, 0)
        both = replace(cell, entries=(*cell.entries, Entry("oats", "Oats")))
        made = fixed_offer("cell-0-0", both, {"oats": self.OATS, "stew": self.STEW}, self.POTS, ())
        self.assertEqual(made.own, {"pot": 0.1})
        self.assertAlmostEqual(
            made.amounts["energy_kcal"],
            0.5 * self.STEW.serving["energy_kcal"].amount + self.OATS.serving["energy_kcal"].amount,
        )
        self.assertEqual(made.meals, frozenset())

    def test_only_what_is_known_of_the_dishes_is_planned_for(self) -> None:
        windows = (Window("energy_kcal", 1500, None), Window("iodine_ug", 150, None))
        self.assertEqual(
            [w.key for w in planned_windows(windows, [self.OATS, self.STEW])], ["energy_kcal"]
        )

    def test_allergens_keep_a_dish_out_and_dislikes_make_it_unwelcome(self) -> None:
        hummus = dish("dip", ("tahini", 20))
        self.assertEqual(
            kept_from(hummus, ClientFacts(allergies=("sesame",))).key, "allergen-sesame"
        )
        self.assertIsNone(kept_from(hummus, ClientFacts(allergies=("soy",))))
        trace = dish("trace", ("lentils-cooked", 100), ("tahini", 0.4))
        self.assertEqual(
            against_words(trace, ClientFacts(allergies=("sesame",), never_eats="lentils")),
            "tahini: the sesame allergy",
        )
        self.assertEqual(
            against_words(trace, ClientFacts(never_eats="lentils")),
            "brown or green lentils: disliked or never eaten",
        )
        self.assertEqual(
            against_words(trace, ClientFacts(allergies=("peanut",), never_eats="tahini")), ""
        )  # less than a gram is not noticed
        self.assertEqual(
            tuple(
                liked_under(self.STEW, ClientFacts(never_eats=word)) for word in ("lentils", "okra")
            ),
            (0, 1),
        )
        oily = dish("oily", ("olive-oil", 10))
        self.assertEqual(liked_under(oily, ClientFacts(school=school("starch-centred"))), 0)

    def test_the_bound_is_never_above_what_is_found(self) -> None:
        offers = [
            offer_of(d, self.POTS, (), meals=frozenset({m}))
            for d, m in ((self.OATS, "Breakfast"), (self.STEW, "Dinner"))
        ]
        dishes = {"oats": self.OATS, "stew": self.STEW}
        asked = week_question(
            empty_plan(("Breakfast", "Dinner")),
            self.MEALS,
            (Window("energy_kcal", 700, 900, "must"),),
            (),
            offers,
            dishes,
            self.POTS,
            Rules(),
        )
        start, best = first_week(asked), improve(settle(asked), 5)
        self.assertLessEqual(best.bound, best.points + 1e-6)
        self.assertLessEqual(best.points, start.points + 1e-6)
