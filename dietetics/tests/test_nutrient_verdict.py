"""What a week brings of vitamins and minerals, against days put together from foods whose figures
are published: 100 g of almonds hold 25.6 mg of vitamin E and 269 mg of calcium (USDA SR Legacy).
"""

from __future__ import annotations

import unittest
from dataclasses import replace

from dietetics.composition.foods import load_shelf
from dietetics.composition.sums import Composition, FoodContent, Item, compose
from dietetics.nutrients import TABLE_KEYS
from dietetics.targets.conditions import CONDITIONS
from dietetics.targets.intakes import Intake
from dietetics.week.nutrient_verdict import KEPT, NutrientVerdict, gap_foods, nutrient_verdicts

SHELF = load_shelf()
VITAMIN_E = Intake("vitamin_e_mg", 15.0, None, 1.0)
VITAMIN_C = Intake("vitamin_c_mg", 75.0, None, 1.0)


def day(**grams: float) -> Composition:
    """A day of foods, by key and grams."""
    found = [(SHELF.food(key.replace("_", "-")), amount) for key, amount in grams.items()]
    return compose([Item.exact(food.name, FoodContent(food), amount) for food, amount in found])


def unread(made: Composition) -> Composition:
    """The same day, with an ingredient of it that was never read."""
    figures = {
        key: replace(one, amount=None, coverage=0.0, unread=1) for key, one in made.figures.items()
    }
    return replace(made, figures=figures)


def verdict(days: list[Composition], intake: Intake, **more: float) -> NutrientVerdict:
    """The verdict of one nutrient, with supplements."""
    return nutrient_verdicts(days, [intake], more, list(SHELF))[0]


class MeanAndDay(unittest.TestCase):
    """What is kept is judged by the mean of the week, the rest by the day."""

    def test_a_rich_day_makes_good_a_poor_one_of_what_is_kept(self) -> None:
        found = verdict([day(almonds=130), day(rolled_oats_dry=50)], VITAMIN_E)
        self.assertTrue(found.met)
        self.assertEqual(found.days_met, 1)
        self.assertAlmostEqual(found.mean or 0, 33.3 / 2, delta=0.3)

    def test_a_rich_day_does_not_make_good_a_poor_one_of_what_is_not_kept(self) -> None:
        found = verdict([day(orange_raw=900), day(orange_raw=20)], VITAMIN_C)  # 53 mg in 100 g
        self.assertFalse(found.met)
        self.assertGreater(found.mean or 0, 75)
        self.assertIn("1 of 2 days", found.words())

    def test_five_of_seven_days_are_enough_and_four_are_not(self) -> None:
        good, poor = day(orange_raw=200), day(orange_raw=20)
        self.assertTrue(verdict([good] * 5 + [poor] * 2, VITAMIN_C).met)
        self.assertFalse(verdict([good] * 4 + [poor] * 3, VITAMIN_C).met)

    def test_both_kinds_are_among_the_intakes_and_say_why(self) -> None:
        self.assertNotIn("vitamin_c_mg", KEPT)
        self.assertIn("little", verdict([day(almonds=10)], VITAMIN_C).why)
        self.assertIn("fat", verdict([day(almonds=10)], VITAMIN_E).why)


class Unknown(unittest.TestCase):
    """What is not known is never met, and never called short either."""

    def test_a_sum_of_the_few_foods_that_are_known_is_unknown(self) -> None:
        made = day(orange_raw=100)
        half = replace(made["vitamin_c_mg"], coverage=0.6)
        partly = replace(made, figures={**made.figures, "vitamin_c_mg": half})
        self.assertIsNone(verdict([partly] * 7, VITAMIN_C).met)
        little = replace(VITAMIN_C, amount=40.0)  # what is known reaches it already
        self.assertTrue(verdict([partly] * 7, little).met)

    def test_rich_days_do_not_hide_poor_ones_of_which_less_is_known(self) -> None:
        def partly(made: Composition) -> Composition:
            half = replace(made["vitamin_e_mg"], coverage=0.6)
            return replace(made, figures={**made.figures, "vitamin_e_mg": half})

        # 65 g of almonds hold 16.6 mg: four days reach 15 mg, three hold at least none of it
        rich, poor = partly(day(almonds=65)), partly(day(rolled_oats_dry=10))
        self.assertIsNone(verdict([rich] * 4 + [poor] * 3, VITAMIN_E).met)
        self.assertTrue(verdict([rich] * 7, VITAMIN_E).met)

    def test_a_line_that_was_not_read_leaves_a_day_open(self) -> None:
        made = day(rolled_oats_dry=50)
        open_day = replace(
            made, figures={key: replace(one, unread=1) for key, one in made.figures.items()}
        )
        self.assertIsNone(verdict([open_day] * 7, VITAMIN_E).met)
        self.assertFalse(verdict([made] * 7, VITAMIN_E).met)

    def test_days_that_were_not_read_are_unknown(self) -> None:
        found = verdict([unread(day(almonds=130))] * 2, VITAMIN_E)
        self.assertIsNone(found.met)
        self.assertFalse(found.is_gap)
        self.assertIn("without a figure", found.words())

    def test_a_few_days_say_nothing_of_a_week(self) -> None:
        found = verdict([day(almonds=130)] + [unread(day(almonds=1))] * 6, VITAMIN_E)
        self.assertIsNone(found.met)
        poor = verdict([day(rolled_oats_dry=50)] + [unread(day(almonds=1))] * 6, VITAMIN_E)
        self.assertIsNone(poor.met)

    def test_no_days_are_unknown(self) -> None:
        self.assertIsNone(verdict([], VITAMIN_E).met)

    def test_an_unknown_iodine_is_made_sure_by_a_supplement(self) -> None:
        iodine = Intake("iodine_ug", 150.0, 1100.0, 1.0)
        found = verdict([unread(day(almonds=50))] * 3, iodine)
        self.assertEqual([one.words for one in found.changes], ["a supplement of 150 µg a day"])
        pregnant = verdict([unread(day(almonds=50))] * 3, Intake("iodine_ug", 220.0, 1100.0, 1.0))
        self.assertEqual(pregnant.changes, found.changes)
        sure = nutrient_verdicts([day(almonds=50)] * 3, [iodine], {"iodine_ug": 150.0})[0]
        self.assertTrue(sure.met)


class Gaps(unittest.TestCase):
    """A gap comes with changes that close it, of what the client may eat."""

    def test_each_food_that_is_offered_closes_the_gap(self) -> None:
        plain = [day(rolled_oats_dry=200, orange_raw=300)] * 7
        for key, row in gap_foods().items():
            before = verdict(plain, Intake(key, 1e-9, None, 1.0)).mean
            if not before:
                continue
            intake = Intake(key, before * 1.1, None, 1.0)
            for change in verdict(plain, intake).changes:
                amount, _, rest = change.words.partition(" g of ")
                name = rest.rpartition(" a day")[0]
                food = next((food for food in SHELF if food.name == name), None)
                if food is None:
                    self.assertIn("a supplement", change.words)
                    continue
                self.assertIn(food.key, row.foods)
                more = day(
                    rolled_oats_dry=200, orange_raw=300, **{food.key.replace("-", "_"): int(amount)}
                )
                self.assertTrue(verdict([more] * 7, intake).met, (key, change.words))

    def test_a_food_that_may_not_be_eaten_is_not_offered(self) -> None:
        days, little = [day(rolled_oats_dry=200)], Intake("vitamin_e_mg", 4.0, None, 1.0)
        first = verdict(days, little).changes[0].words
        rest = nutrient_verdicts(
            days, [little], {}, list(SHELF), lambda food: food.name not in first
        )[0]
        self.assertNotIn(first, [one.words for one in rest.changes])
        self.assertTrue(rest.changes)

    def test_no_more_of_a_food_than_anybody_eats(self) -> None:
        days, avocado = [day(orange_raw=100)], SHELF.food("avocado")
        need = Intake("vitamin_e_mg", 10.0, None, 1.0)
        for per_100g, offered in (
            ({"vitamin_e_mg": 20.0, "energy_kcal": 160.0}, 1),
            ({"vitamin_e_mg": 20.0, "energy_kcal": 900.0}, 0),  # 50 g are 450 kcal
            ({"vitamin_e_mg": 0.5, "energy_kcal": 5.0}, 0),  # 2 kg
        ):
            shelf = [replace(avocado, per_100g=per_100g)]
            found = nutrient_verdicts(days, [need], {}, shelf)[0]
            self.assertEqual(len(found.changes), offered, per_100g)

    def test_no_food_that_breaks_a_limit_of_the_day(self) -> None:
        # 100 g of sunflower seeds hold 645 mg of potassium (USDA SR): 15 g of them near 100 mg
        days, need = [day(orange_raw=100)], Intake("vitamin_e_mg", 5.0, None, 1.0)
        shelf = [SHELF.food("sunflower-seeds")]
        eaten = days[0]["potassium_mg"].amount or 0
        for room, offered in ((150.0, 1), (40.0, 0)):
            ceilings = {"potassium_mg": eaten + room}
            found = nutrient_verdicts(days, [need], {}, shelf, ceilings=ceilings)[0]
            self.assertEqual(len(found.changes), offered)
        seeds = shelf[0]
        silent = replace(seeds, per_100g={**seeds.per_100g, "potassium_mg": None})
        ceilings = {"potassium_mg": 9000.0}  # of which the food says nothing
        found = nutrient_verdicts(days, [need], {}, [silent], ceilings=ceilings)[0]
        self.assertEqual(found.changes, ())
        unknown = nutrient_verdicts(
            [days[0], unread(days[0])], [need], {}, shelf, ceilings={"potassium_mg": 9000.0}
        )[0]
        self.assertEqual(unknown.changes, ())

    def test_supplements_count(self) -> None:
        b12 = Intake("vitamin_b12_ug", 2.4, None, 1.0)
        self.assertTrue(verdict([day(almonds=50)], b12).is_gap)
        self.assertTrue(verdict([day(almonds=50)], b12, vitamin_b12_ug=10.0).met)

    def test_more_than_is_offered_without_a_prescriber_is_not_offered(self) -> None:
        iron = Intake("iron_mg", 27.0, 45.0, 1.8)  # a pregnancy
        words = " ".join(one.words for one in verdict([day(orange_raw=100)], iron).changes)
        self.assertNotIn("supplement", words)

    def test_what_somebody_else_sets_is_asked_and_not_offered(self) -> None:
        calcium = Intake("calcium_mg", 300.0, 2500.0, 1.0)
        days = [day(orange_raw=100)]
        offered = nutrient_verdicts(days, [calcium], {}, list(SHELF))[0].changes
        asked = nutrient_verdicts(days, [calcium], {}, list(SHELF), conditions=["dialysis"])[0]
        self.assertGreater(len(offered), 1)
        self.assertEqual(len(asked.changes), 1)
        self.assertIn("Ask", asked.changes[0].words)

    def test_gaps_come_first_and_what_is_met_last(self) -> None:
        found = nutrient_verdicts([day(almonds=130)], [VITAMIN_E, VITAMIN_C], {})
        self.assertEqual([one.key for one in found], ["vitamin_c_mg", "vitamin_e_mg"])


class TheTable(unittest.TestCase):
    """Each row names foods of the shelf that do hold the nutrient."""

    def test_foods_are_on_the_shelf_and_hold_a_figure(self) -> None:
        for key, row in gap_foods().items():
            self.assertIn(key, TABLE_KEYS)
            for food in row.foods:
                self.assertTrue(SHELF.food(food).per_100g.get(key), (key, food))

    def test_conditions_are_ones_of_the_record(self) -> None:
        for key, row in gap_foods().items():
            self.assertLessEqual(row.ask, set(CONDITIONS), key)

    def test_a_supplement_has_a_most(self) -> None:
        for key, row in gap_foods().items():
            self.assertEqual(row.supplement is None, row.most is None, key)
            self.assertLessEqual(row.supplement or 0, row.most or 0, key)
