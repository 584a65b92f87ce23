"""The week as a value: changes, threads, day sums, files. Expected figures are worked by hand
beside them.
"""

from __future__ import annotations

import unittest
from dataclasses import replace

from hypothesis import given
from hypothesis import strategies as st

from dietetics.cautions.facts import ClientFacts, DayFacts, Eaten, WeekFacts
from dietetics.cautions.registry import week_cautions
from dietetics.composition.foods import load_shelf
from dietetics.composition.sums import Composition, Figure, FoodContent, Item, compose, together
from dietetics.errors import DieteticsError
from dietetics.targets.schools import schools
from dietetics.targets.windows import Window
from dietetics.week.batch_supply import Use, WeekBatch, carried, supply_of, with_frozen
from dietetics.week.day_totals import Dish, day_sum, mean_of, plan_problems, spread, uses_of
from dietetics.week.plan import (
    Cooking,
    Entry,
    Plan,
    add,
    clear,
    cook,
    copy,
    empty_plan,
    fill,
    lock,
    move,
    plan_json,
    plan_of,
    put,
    repeat,
    scale,
    skip,
    spend,
    swap_days,
)
from dietetics.week.question.question import SlotMeal
from dietetics.week.question.question_building import (
    assumed_serving,
    main_meals,
    meals_suited,
    spare_dish,
    stock_of,
    travels_cold,
)
from dietetics.week.words.week_files import plan_csv, plan_of_csv

SHELF = load_shelf()
MEALS = ("Breakfast", "Lunch", "Dinner")
SOUP, OATS = Entry("batch-1", "Soup"), Entry("bowl-1", "Oats")


def dish(key: str, food: str, grams: float, **more: object) -> Dish:
    """One food as a dish."""
    found = SHELF.food(food)
    serving = compose([Item.exact(found.name, FoodContent(found), grams)])
    return Dish(key, key, serving, ((found, grams),), **more)  # type: ignore[arg-type]


@st.composite
def plans(draw: st.DrawFn) -> Plan:
    """Any week that can be made by hand."""
    plan = empty_plan(MEALS)
    for _ in range(draw(st.integers(0, 12))):
        day, meal = draw(st.integers(0, 6)), draw(st.integers(0, 2))
        entry = Entry(
            draw(st.sampled_from(["bowl-1", "batch-2", "food:oats-dry", "free-1"])),
            draw(st.sampled_from(["Oats, hot", 'A "pot"', "=1+1"])),
            draw(st.sampled_from([0.5, 1.0, 1.25])),
        )
        plan = draw(st.sampled_from([put, add]))(plan, day, meal, entry)
        if draw(st.booleans()):
            plan = draw(st.sampled_from([lock, skip]))(plan, day, meal)
    plan = spend(plan, draw(st.integers(0, 6)), draw(st.sampled_from(["travel", "off", "home"])))
    return cook(
        plan,
        "batch-2",
        draw(st.integers(-1, 6)),
        draw(st.sampled_from([0.5, 1, 2])),
        draw(st.sampled_from([0, 0.5])),
    )


class Changes(unittest.TestCase):
    def test_repeat_and_fill_leave_locked_cells_and_days_off(self) -> None:
        plan = put(empty_plan(MEALS), 0, 0, OATS)
        plan = spend(lock(put(plan, 2, 0, SOUP), 2, 0), 3, "off")
        weekdays = repeat(plan, 0, 0, range(5))
        self.assertEqual(
            [weekdays.cell(d, 0).entries for d in range(7)],
            [(OATS,), (OATS,), (SOUP,), (), (OATS,), (), ()],
        )
        self.assertEqual(fill(plan, 0, 0).cell(6, 0).entries, (OATS,))

    def test_move_exchanges_and_locked_cells_stay(self) -> None:
        plan = put(put(empty_plan(MEALS), 0, 0, OATS), 4, 2, SOUP)
        moved = move(plan, (0, 0), (4, 2))
        self.assertEqual((moved.cell(0, 0).entries, moved.cell(4, 2).entries), ((SOUP,), (OATS,)))
        with self.assertRaises(DieteticsError):
            move(lock(plan, 0, 0), (0, 0), (4, 2))

    def test_portions_go_by_household_steps_and_stop(self) -> None:
        plan = put(empty_plan(MEALS), 0, 0, OATS)
        self.assertEqual(scale(plan, 0, 0, 1).cell(0, 0).entries[0].scale, 1.25)
        self.assertEqual(scale(plan, 0, 0, -99).cell(0, 0).entries[0].scale, 0.25)

    def test_a_cell_out_of_the_week_is_refused(self) -> None:
        for day, meal in ((7, 0), (-1, 0), (0, 3)):
            with self.assertRaises(DieteticsError):
                put(empty_plan(MEALS), day, meal, OATS)
        with self.assertRaises(DieteticsError):
            empty_plan(())

    @given(plans(), st.integers(0, 6), st.integers(0, 6))
    def test_swapping_twice_and_locking_twice_change_nothing(
        self, plan: Plan, one: int, other: int
    ) -> None:
        self.assertEqual(swap_days(swap_days(plan, one, other), one, other), plan)
        self.assertEqual(lock(lock(plan, one, 0), one, 0), plan)
        self.assertEqual(clear(plan, one, 1).cell(one, 1).entries, ())
        self.assertEqual(copy(plan, one, 0, []), plan)


class Files(unittest.TestCase):
    @given(plans())
    def test_json_and_csv_come_back_the_same(self, plan: Plan) -> None:
        self.assertEqual(plan_of(plan_json(plan)), plan)
        self.assertEqual(plan_of_csv(plan_csv(plan, {})), plan)

    def test_what_is_wrong_is_said(self) -> None:
        good = plan_json(empty_plan(MEALS))
        for wrong in (
            {},
            {**good, "meals": []},
            {**good, "days": []},
            {**good, "cookings": [{"batch": "b", "day": 9}]},
            [],
            {**good, "days": 3},
        ):
            with self.subTest(str(wrong)[:40]), self.assertRaises(DieteticsError):
                plan_of(wrong)
        for text in (
            "",
            "day,meal\n1,x",
            "day,meal,dish,scale\nx,Lunch,d,1",
            "day,meal,dish,scale\n9,Lunch,d,1",
            "day,meal,dish,scale\n1,Lunch,d,much",
        ):
            with self.subTest(text), self.assertRaises(DieteticsError):
                plan_of_csv(text)


class Threads(unittest.TestCase):
    POT = WeekBatch("b", "Soup", 1000.0, 250.0, 4)

    def test_eaten_up_in_time(self) -> None:
        found = supply_of(self.POT, [Cooking("b", -1)], [Use(d, 1, 250.0) for d in range(4)], 3)
        self.assertEqual([t.left_g for t in found.taken], [750, 500, 250, 0])
        self.assertEqual((found.problems(), found.left_over(), found.ends), ([], "", (3,)))

    def test_more_eaten_than_cooked(self) -> None:
        found = supply_of(self.POT, [Cooking("b", -1)], [Use(d, 1, 300.0) for d in range(4)], 3)
        self.assertAlmostEqual(found.missing_g, 200)  # 4 × 300 of 1,000 g
        self.assertIn("0.8 more servings eaten than cooked", found.problems()[0])

    def test_eaten_after_its_end(self) -> None:
        found = supply_of(self.POT, [Cooking("b", -1)], [Use(0, 1, 250.0), Use(4, 1, 250.0)], 3)
        self.assertTrue(found.taken[1].late)
        self.assertIn("after its use-by (keeps 4 days)", found.problems()[0])
        self.assertEqual(found.left_over(), "Soup 3 servings")

    def test_cooked_in_the_evening_it_feeds_the_last_meal_of_that_day(self) -> None:
        found = supply_of(self.POT, [Cooking("b", 2)], [Use(2, 1, 250.0), Use(2, 2, 250.0)], 3)
        self.assertEqual([t.missing_g for t in found.taken], [250, 0])

    def test_frozen_portions_are_apart_and_thawed_last(self) -> None:
        uses = [Use(d, 1, 250.0) for d in (0, 1, 6)]
        found = supply_of(self.POT, [Cooking("b", -1, 1.0, 0.5)], uses, 3)
        self.assertEqual(
            [(t.fresh_g, t.thawed_g) for t in found.taken], [(250, 0), (250, 0), (0, 250)]
        )
        self.assertEqual((found.frozen_left_g, found.over_g, found.problems()), (250, 0, []))

    def test_what_is_eaten_too_late_for_the_fridge_is_frozen(self) -> None:
        uses = [Use(d, 1, 250.0) for d in (0, 1, 5, 6)]
        made = with_frozen(self.POT, [Cooking("b", -1)], uses, 3)
        self.assertEqual(made, (Cooking("b", -1, 1.0, 0.5),))  # Saturday's and Sunday's
        self.assertEqual(supply_of(self.POT, made, uses, 3).problems(), [])
        in_time = [Use(d, 1, 250.0) for d in range(4)]
        self.assertEqual(with_frozen(self.POT, [Cooking("b", -1)], in_time, 3), (Cooking("b", -1),))

    def test_what_lies_in_the_freezer_is_eaten_before_more_is_frozen(self) -> None:
        earlier, now = Cooking("b", -9, 0.25, 1.0), Cooking("b", -1)
        made = with_frozen(self.POT, [earlier, now], [Use(6, 1, 250.0)], 3)
        self.assertEqual(made, (earlier, now))

    def test_out_of_the_freezer_only_where_no_evening_reaches(self) -> None:
        freezes = replace(self.POT, freezes=True)
        self.assertEqual(freezes.days_reached((-1, 2), 7), 4)  # to Thursday, and to Sunday
        self.assertEqual(freezes.days_reached((2,), 7), 4)  # before Wednesday nothing helps
        self.assertEqual(self.POT.days_reached((-1,), 7), 4)
        self.assertEqual(freezes.days_reached((), 7), 4)
        self.assertGreaterEqual(freezes.days_reached((-1,), 7), 8)  # Sunday, from a week before
        self.assertGreaterEqual(replace(freezes, keeps_days=3).days_reached((-1, 2), 7), 8)

    @given(
        st.lists(st.tuples(st.integers(0, 6), st.integers(0, 2), st.floats(1, 400)), max_size=12),
        st.lists(st.tuples(st.integers(-1, 6), st.sampled_from([0.5, 1, 2])), max_size=3),
    )
    def test_frozen_in_time_nothing_is_missing_that_a_longer_keeping_would_bring(
        self, eaten: list, cookings: list
    ) -> None:
        uses = [Use(*use) for use in eaten]
        made = [Cooking("b", day, pots) for day, pots in dict(cookings).items()]
        longer = supply_of(replace(self.POT, keeps_days=60), made, uses, 3)
        found = supply_of(self.POT, with_frozen(self.POT, made, uses, 3), uses, 3)
        self.assertAlmostEqual(found.missing_g, longer.missing_g, delta=3.0)  # shares are rounded

    def test_what_is_left_and_still_good_is_carried_into_the_next_week(self) -> None:
        late = supply_of(self.POT, [Cooking("b", 5)], [Use(6, 1, 250.0)], 3)
        kept = carried([late], 7)
        self.assertEqual(kept, (Cooking("b", -2, 0.75, 0.0),))
        plan = Plan(MEALS, empty_plan(MEALS).days, kept)
        self.assertEqual(
            stock_of(plan, self.POT), ((0.75, 2),)
        )  # cooked on Saturday evening, good through Wednesday
        self.assertEqual(carried([supply_of(self.POT, [Cooking("b", -1)], [], 3)], 7), ())

    @given(
        st.lists(st.tuples(st.integers(0, 6), st.integers(0, 2), st.floats(1, 400)), max_size=12),
        st.lists(
            st.tuples(
                st.integers(-1, 6), st.sampled_from([0.5, 1, 2]), st.sampled_from([0, 0.5, 1])
            ),
            max_size=3,
        ),
    )
    def test_nothing_is_eaten_twice_and_nothing_lost(self, uses: list, cookings: list) -> None:
        made = [Cooking("b", d, p, f) for d, p, f in {c[0]: c for c in cookings}.values()]
        found = supply_of(self.POT, made, [Use(*u) for u in uses], 3)
        eaten = sum(t.fresh_g + t.thawed_g for t in found.taken)
        self.assertAlmostEqual(
            eaten + found.over_g + found.frozen_left_g, 1000.0 * sum(c.pots for c in made), places=6
        )
        for t in found.taken:
            self.assertAlmostEqual(t.fresh_g + t.thawed_g + t.missing_g, t.use.grams, delta=1.01)


class Days(unittest.TestCase):
    DISHES = {
        "tofu": dish("tofu", "tofu-firm", 100),
        "kale": dish("kale", "kale-raw", 50, own_g={"b": 100.0}, table_g={"b": 40.0}),
        "drink:oj": dish("drink:oj", "orange-raw", 200),
        "soup": dish("soup", "lentils-cooked", 200, travels=False),
    }

    def test_drinks_count_but_not_for_density(self) -> None:
        plan = add(
            put(empty_plan(MEALS), 0, 0, Entry("tofu", "Tofu")),
            0,
            0,
            Entry("drink:oj", "Orange juice"),
        )
        found = day_sum(plan.days[0].cells, self.DISHES)
        tofu, juice = self.DISHES["tofu"].serving, self.DISHES["drink:oj"].serving
        self.assertAlmostEqual(
            found.total["energy_kcal"].amount,
            tofu["energy_kcal"].amount + juice["energy_kcal"].amount,
        )
        self.assertAlmostEqual(found.total["kcal_per_g"].amount, tofu["kcal_per_g"].amount)

    def test_together_is_the_sum_of_the_items_and_unknown_stays(self) -> None:
        foods = [SHELF.food(k) for k in ("tofu-firm", "kale-raw", "blueberries-raw")]
        items = [Item.exact(f.name, FoodContent(f), 80) for f in foods]
        whole, joined = compose(items), together([compose([item]) for item in items])
        for key, figure in whole.figures.items():
            with self.subTest(key):
                self.assertEqual(figure.amount is None, joined[key].amount is None)
                if figure.amount is not None:
                    self.assertAlmostEqual(figure.amount, joined[key].amount)
                self.assertAlmostEqual(figure.coverage, joined[key].coverage)

    def test_the_whole_table_takes_from_the_pot(self) -> None:
        plan = put(empty_plan(MEALS), 1, 2, Entry("kale", "Kale", 1.5))
        self.assertEqual(
            uses_of(plan, self.DISHES)["b"], [Use(1, 2, 190.0, "kale")]
        )  # 1.5 × 100 g and 40 g of the others
        self.assertEqual(uses_of(spend(plan, 1, "off"), self.DISHES), {})

    def test_schools_ask_of_a_day(self) -> None:
        asks = schools()["greens-and-beans"].days
        plan = put(put(empty_plan(MEALS), 0, 0, Entry("soup", "s")), 0, 1, Entry("kale", "k"))
        found = {a.rule.key: a for a in day_sum(plan.days[0].cells, self.DISHES, asks).asked}
        self.assertTrue(found["beans"].met)  # 200 g of lentils, 130 g wanted
        self.assertFalse(found["greens"].met)  # 50 g of kale, 100 g wanted
        self.assertIn("Greens 50 g, target at least 100 g", found["greens"].words())

    def test_every_rule_of_a_day_finds_foods_on_the_shelf(self) -> None:
        for school in schools().values():
            for rule in school.days:
                families = {f.family for f in SHELF}
                self.assertTrue(
                    any(rule.holds(f.group, f.family, f.state) for f in SHELF), rule.key
                )
                self.assertLessEqual(set(rule.families), families, rule.key)

    def test_means_and_spread(self) -> None:
        days = [
            day_sum(put(empty_plan(MEALS), 0, 0, Entry("tofu", "t", s)).days[0].cells, self.DISHES)
            for s in (1.0, 2.0)
        ]
        one = self.DISHES["tofu"].serving["protein_g"].amount
        self.assertAlmostEqual(mean_of(days)["protein_g"].amount, 1.5 * one)
        found = spread("protein_g", days)
        self.assertAlmostEqual(found.least, one)
        self.assertAlmostEqual(found.most, 2 * one)
        self.assertIsNone(mean_of([]))

    def test_gone_and_warm_dishes_are_told(self) -> None:
        plan = spend(
            put(
                put(empty_plan(MEALS), 0, 0, Entry("soup", "Soup")),
                0,
                1,
                Entry("bowl-9", "Old bowl"),
            ),
            0,
            "travel",
        )
        words = " ".join(plan_problems(plan, self.DISHES))
        self.assertIn("Soup on Monday doesn't travel", words)
        self.assertIn("Old bowl on Monday is no longer available", words)

    def test_a_free_choice_stands_for_the_middle_of_its_windows(self) -> None:
        serving = assumed_serving(
            (
                Window("energy_kcal", 1800, 2200),
                Window("kcal_per_g", None, 1.25),
                Window("sodium_mg", None, 1500),
            ),
            0.3,
        )
        self.assertAlmostEqual(serving["energy_kcal"].amount, 600)
        self.assertAlmostEqual(serving.grams, 480)
        self.assertLess(serving["sodium_mg"].amount, 450)
        self.assertIsNone(serving["iron_mg"].amount)

    def test_which_meals_a_dish_suits(self) -> None:
        meals = [("Breakfast", 25), ("Lunch", 35), ("Dinner", 40)]
        self.assertEqual(meals_suited("Lunch", (), meals), ["Lunch", "Dinner"])
        self.assertEqual(meals_suited("Breakfast", (), meals), ["Breakfast"])
        self.assertEqual(meals_suited("Lunch", ("Dinner", "Tea"), meals), ["Dinner"])
        self.assertEqual(meals_suited("Tea", (), meals), [])

    def test_main_meals_and_what_travels(self) -> None:
        self.assertEqual(
            main_meals([("Breakfast", 30), ("Lunch", 35), ("Snack", 10), ("Dinner", 35)]),
            ("Lunch", "Dinner"),
        )
        self.assertEqual(main_meals([("Breakfast", 100)]), ("Breakfast",))
        self.assertFalse(travels_cold("Ropewalk soup", []))
        self.assertTrue(travels_cold("Tideline bowl", []))

    def test_a_porridge_is_proposed_for_breakfast_another_dish_for_the_main_meals(self) -> None:
        meals = (SlotMeal("Morning", 0.25, 0.3, False), SlotMeal("Noon", 0.25, 0.3),
                 SlotMeal("Night", 0.5, 0.4))  # fmt: skip
        oats = load_shelf().food("oat-porridge-cooked")
        day = (Window("energy_kcal", 2400, 2600),)  # so the meals are 600, 600 and 1,200 kcal
        for name, foods, kcal, suits in (
            ("Harbour porridge", (), 200, {"Morning"}),
            ("Harbour porridge", (), 199, None),
            ("Bowl of the rower", ((oats, 250.0),), 300, {"Morning"}),
            ("Lamplighter beans", (), 400, {"Noon", "Night"}),
            ("Lamplighter beans", (), 399, {"Noon"}),
            ("Breakwater dressing", (), 60, None),
            ("Soup of unknown energy", (), None, None),
        ):
            figure = Figure("energy_kcal", kcal, kcal, kcal, 1.0 if kcal else 0.0)
            dish = Dish(name, name, Composition(300.0, {"energy_kcal": figure}), foods)
            spare = spare_dish(dish, meals, {}, (), day, 1)
            self.assertEqual(spare and spare[0].meals, suits, (name, kcal))


class OverTime(unittest.TestCase):
    def day(self, name: str, *foods: tuple[str, float], meals: int = 3) -> DayFacts:
        found = [(SHELF.food(key), grams) for key, grams in foods]
        total = compose([Item.exact(f.name, FoodContent(f), g) for f, g in found])
        eaten = tuple(Eaten(f, g) for f, g in found)
        return DayFacts(
            ClientFacts(), eaten, total, name, meals, ("Lunch",) if "tofu" in foods[0][0] else ()
        )

    def keys(self, days: list[DayFacts], *conditions: str, **more: float) -> dict[str, str]:
        week = WeekFacts(ClientFacts(frozenset(conditions)), tuple(days), **more)
        return {v.key: v.text for v in week_cautions(week)}

    def test_vitamin_k_swings_only_with_warfarin(self) -> None:
        days = [self.day("Monday", ("kale-raw", 20)), self.day("Tuesday", ("kale-raw", 100))]
        self.assertIn("Monday to Tuesday", self.keys(days, "warfarin")["vitamin-k-swing"])
        self.assertNotIn("vitamin-k-swing", self.keys(days))
        self.assertNotIn("vitamin-k-swing", self.keys([days[0], days[0]], "warfarin"))

    def test_unknown_vitamin_k_is_no_swing_to_nothing(self) -> None:
        unknown = next(f for f in SHELF if f.per_100g["vitamin_k_ug"] is None)
        days = [self.day("Monday", ("kale-raw", 60)), self.day("Tuesday", (unknown.key, 100))]
        self.assertIsNone(days[1].total["vitamin_k_ug"].amount)
        self.assertNotIn("vitamin-k-swing", self.keys(days, "warfarin"))

    def test_two_meals_with_insulin(self) -> None:
        days = [self.day("Monday", ("kale-raw", 20), meals=2)]
        self.assertIn("Monday", self.keys(days, "insulin")["few-meals-insulin"])
        self.assertNotIn("few-meals-insulin", self.keys(days))
        self.assertNotIn(
            "few-meals-insulin", self.keys([self.day("Monday", ("kale-raw", 20))], "insulin")
        )

    def test_potassium_above_the_ceiling_of_a_kidney_client(self) -> None:
        days = [self.day("Monday", ("potato-baked", 600))]  # about 535 mg in 100 g
        self.assertIn(
            "Monday", self.keys(days, "ckd-3", potassium_ceiling_mg=2500)["potassium-days"]
        )
        self.assertNotIn("potassium-days", self.keys(days, "ckd-3", potassium_ceiling_mg=4000))
        self.assertNotIn("potassium-days", self.keys(days, potassium_ceiling_mg=2500))

    def test_potassium_that_is_not_known_is_said_to_a_kidney_client(self) -> None:
        unknown = next(f for f in SHELF if f.per_100g["potassium_mg"] is None)
        days = [self.day("Monday", ("kale-raw", 60)), self.day("Tuesday", (unknown.key, 300))]
        self.assertIsNone(days[1].total["potassium_mg"].amount)
        told = self.keys(days, "ckd-3", potassium_ceiling_mg=2500)["potassium-unknown"]
        self.assertIn("Tuesday", told)
        self.assertNotIn("Monday", told)
        self.assertNotIn("potassium-unknown", self.keys(days, potassium_ceiling_mg=2500))
        self.assertNotIn(
            "potassium-unknown", self.keys(days[:1], "ckd-3", potassium_ceiling_mg=2500)
        )

    def test_brazil_nuts_soy_fibre_b12_and_iodine(self) -> None:
        nuts = self.day("Friday", ("brazil-nuts", 40))
        self.assertIn("Friday: 8 Brazil nuts", self.keys([nuts])["brazil-nuts"])
        self.assertNotIn("brazil-nuts", self.keys([self.day("Friday", ("brazil-nuts", 10))]))
        soy = self.day("Monday", ("tofu-firm", 100))
        self.assertIn("Monday lunch", self.keys([soy], "thyroid-medicine")["soy-thyroid"])
        self.assertNotIn("soy-thyroid", self.keys([soy]))
        beans = self.day("Monday", ("lentils-cooked", 500))  # about 7.9 g fibre in 100 g
        self.assertIn("fibre-jump", self.keys([beans], fibre_before_g=20))
        self.assertNotIn("fibre-jump", self.keys([beans], fibre_before_g=35))
        self.assertIn("every day", self.keys([beans])["b12"])
        self.assertIn("iodine", self.keys([beans]))
