"""Every rule at its threshold and just beside it, with its measure, severity and values: limits as
they are printed.
"""

from __future__ import annotations

import unittest
from dataclasses import replace
from typing import Any

from dietetics.amounts.line_reader import LineReader
from dietetics.balance.question import fat_share_rule
from dietetics.balance.question_parts import part_of_portion
from dietetics.balance.suggestions import suggestions
from dietetics.cautions.exclusions import Terms, exclusions
from dietetics.cautions.facts import ClientFacts, DayFacts, Eaten, MealFacts, WeekFacts
from dietetics.cautions.registry import day_cautions, meal_cautions, week_cautions
from dietetics.cautions.verdict import Verdict
from dietetics.cautions.week_rules import jump_verdict, swing_verdict
from dietetics.composition.aminoacids import ADULT_PATTERN_MG_PER_G
from dietetics.composition.foods import load_shelf
from dietetics.composition.sums import Composition, Figure, FoodContent, Item, compose
from dietetics.dishes.adapting import costs
from dietetics.dishes.batches import Batch, BatchContent
from dietetics.dishes.bowls import Portion
from dietetics.dishes.dish_as_food import dish_food
from dietetics.errors import DieteticsError
from dietetics.labels.checks import check_label
from dietetics.labels.facts import LabelFacts
from dietetics.labels.label_reader import read_label
from dietetics.targets.person import Person
from dietetics.targets.proposal import propose
from dietetics.targets.schools import PlateRule, school
from dietetics.tests.balance_support import pantry, parts
from dietetics.week.day_totals import Asked, counted_days
from dietetics.week.plan import Entry, empty_plan, put, scale, spend

SHELF = load_shelf()
EMPTY = compose([Item.exact("Kale", FoodContent(SHELF.food("kale-raw")), 10.0)])


def total(**amounts: float | None) -> Composition:
    """Sums in which some nutrients are as given, fully known."""
    changed = {k: Figure(k, v, v, v, 1.0 if v is not None else 0.0) for k, v in amounts.items()}
    return Composition(10.0, {**EMPTY.figures, **changed})


def helping(key: str, grams: float) -> Eaten:
    """So much of a food."""
    return Eaten(SHELF.food(key), grams)


def one_of(found: list[Verdict], code: str) -> Verdict | None:
    """The verdict of a kind, where there is one."""
    return next((verdict for verdict in found if verdict.code == code), None)


class MealRules(unittest.TestCase):
    """Rules of what is eaten at once."""

    def meal(
        self, *eaten: Eaten, client: ClientFacts | None = None, **amounts: float | None
    ) -> list[Verdict]:
        return meal_cautions(MealFacts(client or ClientFacts(), eaten, total(**amounts)))

    def test_iron_and_vitamin_c(self) -> None:
        for iron, vitamin_c, raised in (
            (3.0, 24.9, True),
            (3.0, 25.0, False),
            (3.0, None, True),
            (2.9, 0.0, False),
            (None, 0.0, False),
        ):
            found = one_of(self.meal(iron_mg=iron, vitamin_c_mg=vitamin_c), "iron-without-c")
            self.assertEqual(found is not None, raised, (iron, vitamin_c))
            if found is not None:
                self.assertEqual(
                    (found.severity, dict(found.params)),
                    ("note", {"iron_mg": iron, "vitamin_c_mg": vitamin_c}),
                )

    def test_nutmeg_by_the_gram(self) -> None:
        for grams, raised in ((4.9, False), (5.0, True), (6.0, True)):
            found = one_of(
                self.meal(helping("nutmeg", grams / 2), helping("nutmeg", grams / 2)), "nutmeg"
            )
            self.assertEqual(found is not None, raised, grams)
            if found is not None:
                self.assertEqual((found.severity, found.measure), ("serious", grams))

    def test_four_brazil_nuts_and_a_fifth(self) -> None:
        for grams, raised in ((20.0, False), (20.5, True), (25.0, True)):  # a nut is 5 g
            found = one_of(self.meal(helping("brazil-nuts", grams)), "brazil-nuts")
            self.assertEqual(found is not None, raised, grams)
            if found is not None:
                self.assertEqual(
                    (found.severity, found.measure, found.params["upper"]),
                    ("warn", grams / 5, 400.0),
                )

    def test_seaweed_of_which_the_iodine_is_not_known(self) -> None:
        self.assertIsNone(one_of(self.meal(helping("kombu-dried", 0.0)), "iodine-seaweed"))
        found = one_of(
            self.meal(helping("kombu-dried", 1.5), helping("kombu-dried", 1.0)), "iodine-seaweed"
        )
        self.assertEqual((found.severity, found.measure, found.params["grams"]), ("warn", 2.5, 2.5))
        self.assertEqual(found.params["upper"], 1100.0)  # µg a day, IOM 2001

    def test_the_school_leaves_out_a_group_and_added_oil(self) -> None:
        whole = ClientFacts(school=school("starch-centred"))
        oily = replace(SHELF.food("chickpeas-cooked"), oil_added=True)
        (verdict,) = exclusions(oily, Terms(whole))
        self.assertEqual(
            (verdict.code, verdict.severity, verdict.measure), ("forbidden-oil", "forbidden", 1.0)
        )
        (verdict,) = exclusions(SHELF.food("olive-oil"), Terms(whole))
        self.assertEqual((verdict.severity, verdict.measure), ("forbidden", 1.0))
        self.assertEqual(list(exclusions(replace(oily, oil_added=False), Terms(whole))), [])


class DayRules(unittest.TestCase):
    """Rules of a whole day."""

    def day(self, client: ClientFacts, *eaten: Eaten, **amounts: float | None) -> list[Verdict]:
        return day_cautions(DayFacts(client, eaten, total(**amounts), "Monday"))

    def test_b12_to_the_last_tenth(self) -> None:
        for supplement, short in ((2.4, None), (2.3, 0.1), (0.0, 2.4)):
            found = one_of(self.day(ClientFacts(supplements={"vitamin_b12_ug": supplement})), "b12")
            self.assertEqual(found is not None, short is not None, supplement)
            if found is not None and short is not None:
                self.assertAlmostEqual(found.measure, short)
                self.assertEqual(
                    (found.severity, found.params["need"], found.params["days"]), ("warn", 2.4, ())
                )

    def test_iodine_of_a_day_and_of_a_week_are_told_apart(self) -> None:
        found = one_of(self.day(ClientFacts(), iodine_ug=0.0), "iodine")
        self.assertEqual((found.severity, dict(found.params)), ("note", {"week": False}))
        for known in ({"iodine_ug": 0.5}, {}):
            client = ClientFacts(supplements={} if known else {"iodine_ug": 1.0})
            self.assertIsNone(
                one_of(self.day(client, iodine_ug=known.get("iodine_ug", 0.0)), "iodine")
            )
        week = week_cautions(
            WeekFacts(ClientFacts(), (DayFacts(ClientFacts(), (), total(iodine_ug=0.0), "Monday"),))
        )
        self.assertEqual(
            (one_of(week, "iodine").severity, dict(one_of(week, "iodine").params)),
            ("warn", {"week": True}),
        )
        self.assertIsNone(one_of(week_cautions(WeekFacts(ClientFacts(), ())), "iodine"))

    def test_an_upper_level_of_food_and_one_of_supplements_alone(self) -> None:
        """100 mg of each are allowed: reached is not passed; what food brings does not count
        against the second.
        """
        for eaten, taken, food_raised, taken_raised in ((60.0, 40.0, False, False), (60.0, 40.5,
            True, False), (0.0, 100.0, False, False),
                                                        (0.0, 100.5, True, True), (500.0, 0.0, True,
                                                        False)):  # fmt: skip
            for uppers, expected in (
                ("uppers", food_raised),
                ("uppers_of_supplements", taken_raised),
            ):
                client = ClientFacts(supplements={"zinc_mg": taken}, **{uppers: {"zinc_mg": 100.0}})
                found = one_of(self.day(client, zinc_mg=eaten), "upper-level")
                self.assertEqual(found is not None, expected, (eaten, taken, uppers))
                if found is not None:
                    amount = eaten + taken if uppers == "uppers" else taken
                    self.assertEqual(
                        (found.params["amount"], found.params["upper"]), (amount, 100.0)
                    )
                    self.assertEqual(
                        found.params["supplements_only"], uppers == "uppers_of_supplements"
                    )


class WeekRules(unittest.TestCase):
    """Rules from day to day."""

    def test_a_swing_of_half_and_a_little_more(self) -> None:
        def figure(amount: float | None, coverage: float = 1.0) -> Figure:
            return Figure("vitamin_k_ug", amount, amount, amount, coverage)

        for one, two, swing in (
            (100.0, 150.0, None),
            (100.0, 151.0, 0.51),
            (100.0, 50.0, None),
            (100.0, 49.0, 0.51),
            (0.0, 50.0, None),
            (None, 9.0, None),
            (9.0, None, None),
        ):
            found = swing_verdict(figure(one), figure(two))
            self.assertEqual(found is not None, swing is not None, (one, two))
            if found is not None and swing is not None:
                self.assertAlmostEqual(found.measure, swing)
                self.assertEqual((found.severity, found.params["partly"]), ("serious", False))
        for coverages in ((0.5, 1.0), (1.0, 0.5), (0.5, 0.5)):
            found = swing_verdict(figure(100.0, coverages[0]), figure(200.0, coverages[1]))
            self.assertTrue(found.params["partly"], coverages)

    def test_fibre_that_jumps_by_more_than_ten(self) -> None:
        for now, raised in ((30.0, False), (30.1, True), (12.0, False)):
            found = jump_verdict(20.0, now)
            self.assertEqual(found is not None, raised, now)
        self.assertAlmostEqual(jump_verdict(20.0, 34.0).measure, 14.0)

    def week(
        self, client: ClientFacts, *days: dict[str, Any], ceiling: float | None = None
    ) -> list[Verdict]:
        named = ("Monday", "Tuesday", "Wednesday")
        made = tuple(
            DayFacts(
                client,
                (helping("kale-raw", 10.0),),
                total(**d.get("total", {})),
                named[n],
                d.get("meals", 3),
                d.get("soy", ()),
            )
            for n, d in enumerate(days)
        )
        return week_cautions(WeekFacts(client, made, None, ceiling))

    def test_b12_short_on_some_days_or_on_all(self) -> None:
        found = one_of(self.week(ClientFacts(), {}, {}), "b12")
        self.assertEqual(
            (found.params["days"], found.params["ug"], found.params["need"], found.measure),
            (("every day",), 0.0, 2.4, 2.0),
        )

    def test_few_meals_with_insulin(self) -> None:
        client = ClientFacts(frozenset({"insulin"}))
        found = one_of(
            self.week(client, {"meals": 2}, {"meals": 3}, {"meals": 1}), "few-meals-insulin"
        )
        self.assertEqual(
            (found.params["days"], found.measure, found.severity),
            (("Monday", "Wednesday"), 2.0, "serious"),
        )
        self.assertIsNone(one_of(self.week(client, {"meals": 3}), "few-meals-insulin"))
        self.assertIsNone(one_of(self.week(ClientFacts(), {"meals": 1}), "few-meals-insulin"))

    def test_days_above_the_ceiling_of_potassium(self) -> None:
        client = ClientFacts(frozenset({"ckd-3"}))
        days = [{"total": {"potassium_mg": mg}} for mg in (2000.0, 2000.5, 2400.0)]
        found = one_of(self.week(client, *days, ceiling=2000.0), "potassium-days")
        self.assertEqual(
            (found.params["over"], found.measure),
            ((("Tuesday", 2000.5), ("Wednesday", 2400.0)), 2400.0),
        )
        self.assertIsNone(one_of(self.week(client, *days), "potassium-days"))
        self.assertIsNone(one_of(self.week(ClientFacts(), *days, ceiling=2000.0), "potassium-days"))

    def test_of_two_brazil_nut_days_the_worse_is_named(self) -> None:
        client = ClientFacts()
        days = tuple(
            DayFacts(client, (helping("brazil-nuts", grams),), EMPTY, name)
            for grams, name in ((30.0, "Monday"), (40.0, "Friday"), (35.0, "Sunday"))
        )
        found = one_of(week_cautions(WeekFacts(client, days)), "brazil-nuts")
        self.assertEqual((found.params["days"], found.measure), (("Friday",), 8.0))


class Others(unittest.TestCase):
    """Lines elsewhere at which nothing was noticed."""

    def test_a_day_off_plan_and_an_empty_day_are_not_judged(self) -> None:
        plan = put(
            put(empty_plan(("Lunch",)), 0, 0, Entry("bowl-1", "x")), 3, 0, Entry("bowl-1", "x")
        )
        self.assertEqual(counted_days(plan), [0, 3])
        self.assertEqual(counted_days(spend(plan, 3, "off")), [0])
        self.assertEqual(counted_days(spend(plan, 3, "travel")), [0, 3])

    def test_the_ceiling_of_sodium_with_high_blood_pressure(self) -> None:
        """The school's 1,500 is no more than the adequate intake of 1,500: it stays the school's,
        and says so.
        """
        person = Person("female", 40, 165, 70, conditions=frozenset({"hypertension"}))
        for ceiling, high, words in (
            (1500.0, 1500.0, "approach"),
            (1501.0, 1500.0, "High blood pressure"),
            (1400.0, 1400.0, "approach"),
            (2300.0, 1500.0, "High blood pressure"),
        ):
            rules = replace(school("balanced-bowl"), sodium_high=ceiling)
            target = next(t for t in propose(person, rules).targets if t.window.key == "sodium_mg")
            self.assertEqual(target.window.high, high, ceiling)
            self.assertIn(words, target.how, ceiling)

    def test_an_intake_that_is_raised_on_plants_says_by_how_much(self) -> None:
        targets = {t.window.key: t.how for t in propose(Person("female", 30, 165, 70)).targets}
        self.assertIn("× 1.8 on a plant-based diet", targets["iron_mg"])  # IOM 2001, non-haem iron
        self.assertNotIn("plant-based", targets["calcium_mg"])

    def test_what_each_line_brings_to_the_dish(self) -> None:
        """100 g of two foods with 300 and 100 mg of sodium per 100 g: three quarters and one
        quarter, over two servings.
        """
        blank = replace(
            SHELF.food("kale-raw"), per_100g=dict.fromkeys(SHELF.food("kale-raw").per_100g, 0.0)
        )
        salty, mild = (
            replace(blank, per_100g={**blank.per_100g, "sodium_mg": mg}) for mg in (300.0, 100.0)
        )
        items = [
            Item.exact("salty", FoodContent(salty), 100.0),
            Item.exact("mild", FoodContent(mild), 50.0),
        ]
        first, second = costs(items, 2.0)
        self.assertEqual((first.amounts["sodium_mg"], second.amounts["sodium_mg"]), (150.0, 25.0))
        self.assertAlmostEqual(first.share, 300 / 350)
        self.assertAlmostEqual(second.share, 50 / 350)

    def test_the_share_of_fat_is_judged_to_a_hundredth(self) -> None:
        rule = fat_share_rule(15.0, 30.0)
        self.assertAlmostEqual(rule.half_unit, 0.00499, places=6)

    def test_a_name_that_contradicts_itself_is_not_read_by_its_bracket(self) -> None:
        (line,) = LineReader(SHELF).read("100 g gluten-free seitan (tofu)")
        self.assertIsNone(line.grams)

    def test_a_row_with_one_figure_does_not_decide_between_two_columns(self) -> None:
        text = (
            "Energy 400 kcal 200 kcal\nProtein 10 g 5 g\nFat 8 g 4 g\nSalt 1 g\nServing size 50 g\n"
        )
        facts = read_label(text).facts
        self.assertEqual((facts.values["energy_kcal"], facts.values["protein_g"]), (400.0, 10.0))

    def test_no_suggestion_of_a_higher_rung_where_every_part_is_locked(self) -> None:
        from dietetics.balance.question import Question

        asked = Question(parts("olive-oil 1 tbsp; kale-raw 1 cup", locked="1 2"), ())
        rules = school("greens-and-beans")
        found = suggestions(asked, replace(pantry(), rules=rules), 9)
        self.assertEqual([one for one in found if one.kind == "rung"], [])

    def test_a_dish_without_servings_may_be_turned_up_to_two_platefuls(self) -> None:
        lentils = Item.exact("Lentils", FoodContent(SHELF.food("lentils-cooked")), 2000.0)

        def most_g(servings: float | None) -> float:
            item = Item.exact("Pot", BatchContent(Batch("Pot", (lentils,), None, servings)), 300.0)
            return part_of_portion(Portion("1", item, "batch", 300.0, 300.0, "g", "300 g")).most

        self.assertEqual(
            (most_g(5.0), most_g(None)), (800.0, 600.0)
        )  # a serving of 400 g; a plateful of 300 g

    def test_a_cup_of_a_dish_weighs_about_what_water_does(self) -> None:
        lentils = Item.exact("Lentils", FoodContent(SHELF.food("lentils-cooked")), 2000.0)
        spoons = {
            m.unit: m.grams for m in dish_food("d", Batch("Pot", (lentils,), None, None)).measures
        }
        self.assertTrue(180 < spoons["cup"] < 300, spoons)
        self.assertAlmostEqual(spoons["cup"] / spoons["tbsp"], 16, delta=0.2)
        self.assertAlmostEqual(spoons["tbsp"] / spoons["tsp"], 3, delta=0.1)

    def test_a_portion_is_turned_to_the_ends_and_no_further(self) -> None:
        for begun, steps, ended in (
            (2.5, 1, 3.0),
            (3.0, 1, 3.0),
            (3.0, 5, 3.0),
            (0.25, -1, 0.25),
            (1.0, 2, 1.5),
            (2.0, 1, 2.5),
        ):
            plan = put(empty_plan(("Lunch",)), 0, 0, Entry("bowl-1", "x", begun))
            self.assertEqual(
                scale(plan, 0, 0, steps).cell(0, 0).entries[0].scale, ended, (begun, steps)
            )

    def test_more_sodium_than_salt_holds_is_no_figure(self) -> None:
        """Table salt is 39.3 % sodium."""
        for sodium, wrong in ((39_000.0, False), (41_000.0, True)):
            facts = LabelFacts(name="Salt", basis="100 g", values={"sodium_mg": sodium})
            self.assertEqual(
                "sodium" in {check.key for check in check_label(facts) if check.serious},
                wrong,
                sodium,
            )

    def test_the_pattern_of_amino_acids_for_adults(self) -> None:
        """WHO/FAO/UNU 2007, Technical Report 935, in mg per g of protein."""
        printed = (15, 30, 59, 45, 22, 38, 23, 6, 39)
        self.assertEqual(tuple(ADULT_PATTERN_MG_PER_G.values()), printed)

    def test_servings_are_such_as_people_serve(self) -> None:
        """Found by ten thousand requests: a serving without end divided a pot into nothing."""
        kale = (Item.exact("Kale", FoodContent(SHELF.food("kale-raw")), 100.0),)
        for servings in (0.0, -1.0, 1e-320, 0.009, 1e300, float("inf"), float("nan"), 100_001.0):
            with self.assertRaises(DieteticsError) as caught:
                Batch("Pot", kale, None, servings)
            self.assertEqual(caught.exception.code, "servings-not-positive", servings)
        for servings in (0.01, 0.5, 4.0, 100_000.0):
            self.assertAlmostEqual(Batch("Pot", kale, None, servings).serving_g, 100.0 / servings)


class WhatADayIsAsked(unittest.TestCase):
    """The usual of a day may be passed by a little, what a school asks may not; both say by how
    much.
    """

    def test_fibre_may_be_a_twentieth_above_the_usual(self) -> None:
        rule = PlateRule("fibre", "Fibre of the day", "desired", "", of="fibre", high=70.0)
        for grams, met in ((73.5, True), (73.6, False)):
            self.assertEqual(Asked(rule, grams).met, met, grams)
        self.assertEqual(Asked(rule, 74.0).brief(), "Fibre of the day 4 g over")

    def test_beans_under_what_is_asked_are_short_by_the_difference(self) -> None:
        rule = PlateRule("beans", "Beans", "required", "", groups=("legumes",), low=130.0)
        for grams, met in ((129.4, True), (129.3, False)):  # half a per cent is 0.65 g
            self.assertEqual(Asked(rule, grams).met, met, grams)
        self.assertEqual(Asked(rule, 80.0).brief(), "Beans 50 g short")
