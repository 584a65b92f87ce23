"""The tasks of dishes, held against what a cook would do: worked by hand."""

from __future__ import annotations

from unittest import TestCase

from dietetics.composition.foods import load_shelf
from dietetics.prep.dish_tasks import CookedLine, DishToCook, tasks_of_dish
from dietetics.prep.evening import clock_lines, evening_of
from dietetics.prep.joining import joined
from dietetics.prep.kitchen import Kitchen
from dietetics.prep.plain_pots import Eaten, plain_pots
from dietetics.prep.timetable_recheck import broken_rules


def line(text, key, grams):
    """A line of a recipe."""
    return CookedLine(text, load_shelf().food(key), grams)


ROOTS = DishToCook(
    "roots",
    "Roots",
    (line("2 carrots", "carrot-raw", 120), line("500 g beetroot", "beet-raw", 500)),
    (
        "Heat the oven to 200 °C.",
        "Peel the beetroot and cut everything into pieces.",
        "Toss with thyme.",
        "Roast for 40 minutes, turning once.",
        "Sprinkle with vinegar at the end.",
    ),
    containers=4,
)
CHILI = DishToCook(
    "chili",
    "Chili",
    (
        line("1 onion, chopped", "onion-raw", 110),
        line("200 g dry black beans", "black-beans-dry", 200),
    ),
    ("Soften the onion for 8 minutes.", "Add the beans and simmer for 60 minutes."),
    containers=3,
)
SOUP = DishToCook(
    "soup",
    "Soup",
    (line("1 onion, diced", "onion-raw", 110), line("1 cup red lentils", "red-lentils-dry", 192)),
    ("Add the onion and lentils; simmer for 25 minutes.", "Blend half of it."),
)


def by_verb(found):
    """The tasks by their verbs; the last of each."""
    return {task.verb: task for task in found.tasks}


class OneDish(TestCase):
    def test_peel_then_cut_then_roast_at_the_heat_that_was_set(self):
        tasks = by_verb(tasks_of_dish(ROOTS))
        self.assertEqual(tasks["chop"].after, (tasks["peel"].key,))
        self.assertEqual(tasks["mix"].after, (tasks["chop"].key,))
        self.assertEqual((tasks["roast"].celsius, tasks["roast"].wait_min), (200, 40))
        self.assertNotIn("celsius", tasks["roast"].guessed)
        self.assertIn("hands", tasks["roast"].guessed)

    def test_hot_food_is_shared_out_soon_and_shallow(self):
        portion = by_verb(tasks_of_dish(ROOTS))["portion"]
        self.assertIn("4 containers", portion.text)
        self.assertIn("shallow", portion.text)
        self.assertEqual(portion.within, 45)

    def test_dry_beans_are_soaked_the_evening_before_though_nobody_wrote_it(self):
        found = tasks_of_dish(CHILI)
        tasks = by_verb(found)
        self.assertTrue(tasks["soak"].night)
        self.assertFalse(tasks["simmer"].night)
        self.assertIn("Discard the soaking water", found.cautions[0])

    def test_what_stands_overnight_when_all_is_done_is_no_task_of_the_evening_before(self):
        oats = DishToCook("oats", "Oats", (), ("Mix the oats and milk, then chill overnight.",))
        tasks = tasks_of_dish(oats).tasks
        self.assertFalse(any(task.night for task in tasks))
        self.assertIn("stands overnight", tasks[1].text)
        self.assertEqual(tasks[1].wait_min, 0)

    def test_a_dish_without_a_method_gets_the_usual_one_and_says_so(self):
        bare = DishToCook("rice", "Rice", (line("1 cup brown rice", "brown-rice-dry", 185),))
        found = tasks_of_dish(bare)
        simmer = by_verb(found)["simmer"]
        self.assertEqual((simmer.wait.low, simmer.wait.high), (35, 45))
        self.assertIn("wait", simmer.guessed)
        self.assertIn("No method is written", found.remarks[0])
        self.assertIn("Cool rice at once", found.cautions[0])

    def test_a_grain_that_is_named_takes_its_own_usual_time(self):
        rice = (line("1 cup brown rice", "brown-rice-dry", 185),)
        named = DishToCook("r", "R", rice, ("Cook the rice according to the package.",))
        cook = by_verb(tasks_of_dish(named))["cook"]
        self.assertEqual((cook.wait.low, cook.wait.high), (35, 45))
        self.assertIn("wait", cook.guessed)

    def test_a_correction_holds_while_the_step_reads_the_same(self):
        key = by_verb(tasks_of_dish(ROOTS))["roast"].key
        text = by_verb(tasks_of_dish(ROOTS))["roast"].text
        said = {key: {"wait": 50.0, "text": text}}
        corrected = DishToCook(**{**vars(ROOTS), "corrections": said})
        roast = by_verb(tasks_of_dish(corrected))["roast"]
        self.assertEqual(roast.wait_min, 50)
        elsewhere = {key: {"wait": 50.0, "text": "Another step"}}
        other = DishToCook(**{**vars(ROOTS), "corrections": elsewhere})
        self.assertEqual(by_verb(tasks_of_dish(other))["roast"].wait_min, 40)


class PlainPots(TestCase):
    def test_what_bowls_hold_cooked_is_cooked_on_the_last_evening_before(self):
        food = load_shelf().food
        eaten = [
            Eaten(0, 1, food("brown-rice-cooked"), 195),  # Monday lunch: Sunday's pot
            Eaten(2, 1, food("brown-rice-cooked"), 195),  # Wednesday lunch: still Sunday's
            Eaten(2, 2, food("brown-rice-cooked"), 195),  # Wednesday dinner: that evening's
            Eaten(1, 1, food("couscous-cooked"), 150),  # soft in five minutes: on the day
            Eaten(1, 1, food("kale-cooked"), 100),
        ]
        pots = plain_pots(eaten, [-1, 2], 2)
        self.assertEqual(
            {e: [pot.food.key for pot in found] for e, found in pots.items()},
            {-1: ["brown-rice-cooked"], 2: ["brown-rice-cooked"]},
        )
        first = pots[-1][0]
        self.assertEqual((first.portions, first.cooked_g, first.last_day), (2, 390, 2))
        self.assertAlmostEqual(first.uncooked_g, 390 / 2.7, delta=1)
        verbs = [task.verb for task in tasks_of_dish(first.dish()).tasks]
        self.assertEqual(verbs, ["rinse", "simmer", "portion"])

    def test_a_spoon_is_no_pot_and_raw_food_is_not_cooked(self):
        food = load_shelf().food
        spoon = Eaten(1, 1, food("quinoa-cooked"), 60)
        raw = Eaten(1, 1, food("sweet-potato-raw"), 300)
        self.assertEqual(plain_pots([spoon, raw], [0], 2), {})

    def test_what_is_eaten_after_it_keeps_goes_to_the_freezer(self):
        rice = load_shelf().food("brown-rice-cooked")
        early, late = Eaten(1, 1, rice, 200), Eaten(6, 1, rice, 200)
        self.assertEqual(plain_pots([early], [0], 2)[0][0].kept(1.0).frozen, 0)
        self.assertEqual(plain_pots([early, late], [0], 2)[0][0].kept(1.0).frozen, 1)

    def test_beans_that_bowls_hold_are_soaked(self):
        beans = Eaten(1, 1, load_shelf().food("black-beans-cooked"), 170)
        found = tasks_of_dish(plain_pots([beans], [0], 2)[0][0].dish())
        self.assertEqual([task.verb for task in found.tasks if task.night], ["soak"])
        self.assertIn("Discard the soaking water", found.cautions[0])


class Cautions(TestCase):
    def test_sprouts_are_cooked_until_steaming(self):
        salad = DishToCook("s", "Salad", (line("sprouts", "bean-sprouts-raw", 100),), ("Mix.",))
        self.assertIn("steaming hot", " ".join(tasks_of_dish(salad).cautions))
        plain = DishToCook("s", "Salad", (line("kale", "kale-raw", 100),), ("Mix.",))
        self.assertEqual(tasks_of_dish(plain).cautions, ())

    def test_garlic_with_oil_is_not_kept_long(self):
        both = (line("garlic", "garlic-raw", 6), line("oil", "olive-oil", 20))
        self.assertIn("4 days at most", tasks_of_dish(DishToCook("o", "Oil", both)).cautions[0])
        self.assertEqual(tasks_of_dish(DishToCook("o", "Oil", both[:1])).cautions, ())

    def test_two_trays_rather_than_a_crowded_one(self):
        much = DishToCook("r", "R", (line("2 kg roots", "carrot-raw", 2000),), ("Roast all.",))
        roast = next(task for task in tasks_of_dish(much).tasks if task.device)
        self.assertEqual(roast.trays, 2)

    def test_the_clock_says_what_is_ready_and_where(self):
        said = [one.text for one in clock_lines(evening_of([ROOTS, CHILI]).timetable)]
        self.assertIn("Out of the oven: Roots (roast)", said)
        self.assertIn("Ready on the stove: Chili (simmer)", said)


class TheEvening(TestCase):
    def test_the_onions_of_two_dishes_are_chopped_once(self):
        tasks = joined([*tasks_of_dish(CHILI).tasks, *tasks_of_dish(SOUP).tasks])
        chops = [task for task in tasks if task.verb == "chop"]
        self.assertEqual([task.text for task in chops], ["Chop onion for Chili and Soup (220 g)"])
        waiting = [task.verb for task in tasks if chops[0].key in task.after]
        self.assertEqual(sorted(waiting), ["add", "soften"])

    def test_the_evening_is_as_long_as_a_cook_reckons(self):
        # The beans were soaked: chop 3 (1 + 1.54), soften 8, add 1, simmer 1 + 60, fill 3.5 → 4
        found = evening_of([CHILI])
        self.assertEqual([task.verb for task in found.before], ["soak"])
        self.assertEqual(found.timetable.length, 2 + 8 + 1 + 61 + 4)
        self.assertEqual(broken_rules(found.timetable), [])

    def test_roots_share_the_oven_and_it_is_hot_in_time(self):
        nuts = DishToCook("nuts", "Nuts", (), ("Toast in the oven at 190 °C for 10 minutes.",))
        found = evening_of([ROOTS, nuts])
        self.assertTrue(any("the oven is shared" in words for words in found.words))
        ovens = [one for one in clock_lines(found.timetable) if one.kind == "oven"]
        self.assertEqual(len(ovens), 1)

    def test_no_oven_no_blender_another_way_is_said(self):
        found = evening_of([ROOTS, SOUP], Kitchen(ovens=0, blenders=0))
        self.assertEqual(broken_rules(found.timetable), [])
        said = " ".join(found.words)
        self.assertIn("no oven in this kitchen; in a wide pan", said)
        self.assertIn("no blender in this kitchen; mashed", said)

    def test_nothing_to_cook(self):
        self.assertEqual(evening_of([]).timetable.length, 0)
