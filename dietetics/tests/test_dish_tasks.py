"""The tasks of dishes, held against what a cook would do: worked by hand."""

from __future__ import annotations

from unittest import TestCase

from dietetics.composition.foods import load_shelf
from dietetics.prep.dish_tasks import tasks_of_dish
from dietetics.prep.evening import clock_lines, evening_of, took_words
from dietetics.prep.joining import joined
from dietetics.prep.kitchen import Kitchen
from dietetics.prep.plain_pots import Eaten, plain_pots
from dietetics.prep.timetable_recheck import broken_rules
from dietetics.prep.to_cook import CookedLine, DishToCook


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
        self.assertIn("shallow", tasks_of_dish(ROOTS).cautions[-1])
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
        # 185 g with three times as much water, from 20 to 100 °C at 1.2 kW, before it simmers
        to_boil = 4 * 0.185 * 4.186 * 80 / 1.2 / 60
        self.assertAlmostEqual(cook.wait.likely, 40 + to_boil, delta=0.5)
        self.assertIn("to the boil first, about 3 min", cook.text)
        self.assertIn("wait", cook.guessed)

    def test_potatoes_in_cold_water_take_their_time_to_boil(self):
        lines = (line("800 g potatoes", "potato-raw", 800),)
        boil = by_verb(
            tasks_of_dish(DishToCook("p", "P", lines, ("Boil the potatoes for 15 minutes.",)))
        )
        # as much water as potatoes, from 20 to 100 °C at 1.2 kW
        to_boil = 1.6 * 4.186 * 80 / 1.2 / 60
        self.assertAlmostEqual(boil["boil"].wait.likely, 15 + to_boil, delta=0.5)

    def test_the_oven_is_said_once_by_the_clock(self):
        lines = (line("400 g carrots", "carrot-raw", 400),)
        steps = ("Heat the oven to 200 °C.", "Peel the carrots.", "Roast for 30 minutes.")
        lines_said = clock_lines(evening_of([DishToCook("c", "C", lines, steps)]).timetable)
        said = [one.text for one in lines_said if "oven to 200" in one.text.lower()]
        self.assertEqual(said, ["Oven to 200 °C"])
        self.assertTrue(any(one.text.startswith("Peel the carrots") for one in lines_said))

    def test_what_goes_into_boiling_water_boils_at_once(self):
        rice = (line("1 cup brown rice", "brown-rice-dry", 185),)
        steps = ("Cook the rice in boiling water for 30 minutes.",)
        cook = by_verb(tasks_of_dish(DishToCook("r", "R", rice, steps)))["cook"]
        self.assertEqual(cook.wait.likely, 30)

    def test_a_correction_of_what_is_simmered_holds(self):
        rice = (line("1 cup brown rice", "brown-rice-dry", 185),)
        step = "Simmer the rice for 30 minutes."
        key = by_verb(tasks_of_dish(DishToCook("r", "R", rice, (step,))))["simmer"].key
        said = {key: {"wait": 28.0, "text": step.rstrip(".")}}
        corrected = tasks_of_dish(DishToCook("r", "R", rice, (step,), corrections=said))
        self.assertEqual(by_verb(corrected)["simmer"].wait.likely, 28)

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


class LeftForTheDay(TestCase):
    STEPS = ("Simmer the lentils for 25 minutes.", "Slice the avocado just before serving.")
    LINES = (
        line("200 g red lentils", "red-lentils-dry", 200),
        line("1 avocado, sliced", "avocado", 150),
    )

    def test_what_is_done_before_serving_is_no_work_of_the_evening(self):
        found = tasks_of_dish(DishToCook("d", "Dal", self.LINES, self.STEPS))
        self.assertEqual(found.on_day, ("Slice the avocado just before serving",))
        self.assertEqual([t.verb for t in found.tasks], ["rinse", "simmer", "portion"])
        self.assertIn("On the day: Slice the avocado", found.tasks[-1].text)

    def test_what_needs_heat_or_stands_is_done_on_the_evening(self):
        for step in ("Fry the onion just before serving.", "Chill for an hour before serving."):
            found = tasks_of_dish(DishToCook("d", "D", self.LINES, (self.STEPS[0], step)))
            self.assertEqual(found.on_day, (), step)

    def test_morning_work_that_leads_to_heat_is_done_on_the_evening(self):
        steps = ("In the morning, drain the lentils.", "Simmer the lentils for 20 minutes.")
        found = tasks_of_dish(DishToCook("d", "D", self.LINES[:1], steps))
        self.assertEqual(found.on_day, ())
        self.assertIn("drain", [t.verb for t in found.tasks])


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
        self.assertEqual(verbs, ["rinse", "boil", "simmer", "portion"])

    def test_a_pot_is_there_from_its_evenings_last_meal_to_the_last_day_it_is_eaten(self):
        rice = Eaten(3, 1, load_shelf().food("brown-rice-cooked"), 200)
        pot = plain_pots([rice], [1], 2)[1][0]
        there = [(d, m) for d in range(5) for m in range(3) if pot.is_there(d, m, 2)]
        self.assertEqual(there, [(1, 2), (2, 0), (2, 1), (2, 2), (3, 0), (3, 1), (3, 2)])

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
        self.assertIn("Soak 74 g black beans overnight", found.tasks[0].text)
        self.assertIn("pour the soaking water away", found.tasks[1].text)
        self.assertEqual(found.tasks[2].after, (found.tasks[1].key,))
        self.assertIn("Discard the soaking water", found.cautions[0])

    def test_kidney_beans_are_boiled_hard_before_they_simmer(self):
        beans = Eaten(1, 1, load_shelf().food("kidney-beans-cooked"), 170)
        found = tasks_of_dish(plain_pots([beans], [0], 2)[0][0].dish())
        self.assertEqual(
            [task.verb for task in found.tasks],
            ["soak", "drain", "boil hard", "simmer", "drain", "portion"],
        )
        drain, hard, simmer = found.tasks[1:4]
        self.assertIn("boil hard for at least 10 minutes", found.cautions[0])
        self.assertIn("hard in fresh water for at least 10 minutes (30 by US FDA", hard.text)
        self.assertGreaterEqual(hard.wait.low, 10)
        self.assertEqual(hard.after, (drain.key,))
        self.assertEqual(simmer.after, (hard.key,))

    def test_a_drain_after_cooking_is_not_the_one_after_soaking(self):
        beans = (line("200 g dry black beans", "black-beans-dry", 200),)
        steps = ("Simmer the beans for 60 minutes, then drain.",)
        found = tasks_of_dish(DishToCook("k", "K", beans, steps)).tasks
        self.assertEqual(
            [task.verb for task in found], ["soak", "drain", "simmer", "drain", "portion"]
        )
        self.assertIn("pour the soaking water away", found[1].text)
        own = ("Soak overnight.", "Drain and rinse.", *steps)
        found = tasks_of_dish(DishToCook("k", "K", beans, own)).tasks
        self.assertFalse(any("soaking water" in task.text for task in found))

    def test_the_hard_boil_begins_when_the_pot_boils(self):
        beans = Eaten(1, 1, load_shelf().food("kidney-beans-cooked"), 1000)
        tasks = tasks_of_dish(plain_pots([beans], [0], 2)[0][0].dish()).tasks
        hard, simmer = (next(t for t in tasks if t.verb == v) for v in ("boil hard", "simmer"))
        dry_kg = hard.parts[0][1] / 1000
        to_boil = 4 * dry_kg * 4.186 * 80 / 1.2 / 60  # three times their weight of water, 1.2 kW
        self.assertAlmostEqual(hard.wait.likely, 10 + to_boil, delta=0.5)
        self.assertIn("to the boil first", hard.text)
        self.assertNotIn("to the boil", simmer.text)  # it boils already

    def test_cold_stock_that_goes_into_a_hot_pan_is_heated_first(self):
        lines = (
            line("1 onion", "onion-raw", 110),
            line("200 g red lentils", "red-lentils-dry", 200),
            line("1 l water", "water", 1000),
        )
        said = (
            "Fry the onion for 6 minutes.",
            "Add the lentils and the water.",
            "Simmer for 20 minutes.",
        )
        found = by_verb(tasks_of_dish(DishToCook("d", "D", lines, said)))["simmer"]
        self.assertAlmostEqual(found.wait.likely, 20 + 4.186 * 80 / 1.2 / 60, delta=0.5)
        hot = (said[0], "Add the lentils and the boiling water.", said[2])
        found = by_verb(tasks_of_dish(DishToCook("d", "D", lines, hot)))["simmer"]
        self.assertEqual(found.wait.likely, 20)

    def test_what_is_stirred_all_the_time_takes_hands(self):
        milk = line("500 ml soy milk", "soy-milk-unsweetened", 515)
        oats = (line("1 cup oats", "rolled-oats-dry", 90), milk)
        for step, hands in (
            ("Simmer the oats in the hot milk for 8 minutes, stirring.", 8),
            ("Simmer the oats in the hot milk for 8 minutes, stirring now and then.", 1),
            ("Cook the oats in the hot milk for 12 minutes, stirring constantly.", 12),
        ):
            tasks = tasks_of_dish(DishToCook("d", "D", oats, (step,))).tasks
            self.assertEqual(tasks[0].hands_min, hands, step)

    def test_a_recipe_that_boils_them_hard_is_not_told_twice(self):
        beans = (line("200 g dry kidney beans", "kidney-beans-dry", 200),)
        for steps, times in (
            (("Boil the beans for 10 minutes.", "Simmer for 40 minutes."), 0),
            (("Cook the beans in a pressure cooker for 12 minutes.",), 0),
            (("Simmer the beans for 60 minutes.",), 1),
            (("Boil the beans for 3 minutes.", "Simmer for 40 minutes."), 1),
        ):
            found = tasks_of_dish(DishToCook("k", "K", beans, steps)).tasks
            self.assertEqual(sum("boil" in t.key for t in found), times, steps)

    def test_kidney_beans_that_a_recipe_soaks_itself_are_boiled_hard_too(self):
        beans = (line("200 g dry kidney beans", "kidney-beans-dry", 200),)
        chili = (*beans, line("1 onion", "onion-raw", 110))
        hard = "hard in fresh water for at least 10 minutes"
        for lines, steps, is_added in (
            (beans, ("Soak the beans overnight.", "Drain.", "Simmer for 60 minutes."), True),
            (beans, ("Soak overnight.", "Drain.", "Cook on low for 6 hours."), True),
            (beans, ("Soak overnight.", "Boil hard for 10 minutes.", "Simmer."), False),
            (chili, ("Soak the beans overnight.", "Boil the onion for 15 minutes.",
                     "Simmer the beans for 60 minutes."), True),
            (beans, ("Soak overnight.", "Cook in the pressure cooker for 12 minutes."), False),
            (beans, ("Boil hard for 10 minutes.", "Simmer for 40 minutes."), False),
        ):  # fmt: skip
            tasks = tasks_of_dish(DishToCook("k", "K", lines, steps)).tasks
            said = [t for t in tasks if hard in t.text]
            self.assertEqual(len(said), is_added, steps)
            if is_added:
                self.assertIn("first; ", said[0].text)
                self.assertNotIn("onion", said[0].text)

    def test_one_pot_of_kidney_beans_is_still_boiled_hard(self):
        beans = (line("200 g dry kidney beans", "kidney-beans-dry", 200),)
        chili = DishToCook("chili", "Chili", beans, ("Simmer the beans for 60 minutes.",))
        eaten = Eaten(1, 1, load_shelf().food("kidney-beans-cooked"), 340)
        plain = plain_pots([eaten], [0], 2)[0][0].dish()
        found = evening_of([chili, plain]).timetable
        verbs = [t.verb for t in found.in_order if t.verb != "portion"]
        self.assertEqual(verbs, ["drain", "boil hard", "simmer", "drain"])
        drain, hard, simmer = found.in_order[:3]
        self.assertIn("pour the soaking water away", drain.text)
        self.assertIn("hard in fresh water for at least 10 minutes (30 by US FDA", hard.text)
        self.assertIn("200 g for Chili", hard.text)
        self.assertGreaterEqual(hard.wait.low, 10)
        self.assertEqual((hard.after, simmer.after), ((drain.key,), (hard.key,)))

    def test_two_recipes_that_boil_them_hard_themselves_lose_nothing(self):
        beans = (line("200 g dry kidney beans", "kidney-beans-dry", 200),)
        own = ("Boil the beans for 10 minutes.", "Simmer the beans for 40 minutes.")
        soaked = ("Soak the beans overnight.", "Simmer the beans for 60 minutes.")
        for one, other in ((own, own), (soaked, soaked), (own, soaked)):
            dishes = [DishToCook(k, k, beans, steps) for k, steps in (("A", one), ("B", other))]
            tasks = evening_of(dishes).timetable.asked.tasks
            for dish in ("A", "B"):
                mine = [t.text.lower() for t in tasks if dish in t.dishes]
                self.assertTrue(any("10 minutes" in text for text in mine), (one, other, mine))

    def test_one_pot_of_rice_for_a_bowl_and_a_recipe(self):
        salad = DishToCook(
            "salad",
            "Rice salad",
            (line("200 g brown rice", "brown-rice-dry", 200), line("1 leek", "leek-raw", 150)),
            ("Simmer the rice for 40 minutes.", "Slice the leek.", "Mix everything."),
        )
        eaten = Eaten(1, 1, load_shelf().food("brown-rice-cooked"), 540)
        plain = plain_pots([eaten], [0], 2)[0][0].dish()
        found = evening_of([salad, plain]).timetable
        pots = [t for t in found.asked.tasks if t.verb in ("boil", "simmer")]
        self.assertEqual([t.verb for t in pots], ["boil", "simmer"])
        self.assertEqual(set(pots[-1].dishes), {"Rice salad", "Brown rice, plain"})
        self.assertEqual(pots[-1].parts, (("brown-rice-dry", 400.0),))
        self.assertIn("Bring 400 g brown rice to the boil", pots[0].text)  # all of it is put in
        self.assertEqual(pots[-1].after, (pots[0].key,))
        mix, fill = (
            next(t for t in found.asked.tasks if words in t.text)
            for words in ("Mix everything", "Fill Brown rice")
        )
        self.assertIn(pots[-1].key, mix.after)
        self.assertIn(pots[-1].key, fill.after)
        self.assertEqual(broken_rules(found), [])


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
        found = evening_of([ROOTS, CHILI]).timetable
        said = {one.text: one.minute for one in clock_lines(found)}
        self.assertIn("Out of the oven: Roots (roast)", said)
        simmer = next(t for t in found.asked.tasks if t.verb == "simmer")
        fill = next(t for t in found.asked.tasks if t.text.startswith("Fill Chili"))
        ready = found.starts[simmer.key] + simmer.minutes
        # what goes on at once needs no line of its own
        is_said = said.get("Ready on the stove: Chili (simmer)") == ready
        self.assertEqual(is_said, found.starts[fill.key] > ready)


class TheEvening(TestCase):
    def test_rice_is_cold_in_an_hour_and_other_hot_food_in_two(self):
        rice = Eaten(1, 1, load_shelf().food("brown-rice-cooked"), 300)
        beans = Eaten(1, 1, load_shelf().food("black-beans-cooked"), 300)
        pots = [one.dish() for one in plain_pots([rice, beans], [0], 2)[0]]
        evening = evening_of(pots)
        minutes = {
            dish.name: evening.cold_by(dish.name) - evening.done_at(dish.name) for dish in pots
        }
        self.assertEqual(
            {name.partition(",")[0]: m for name, m in minutes.items()},
            {"Brown rice": 60, "Black beans": 120},
        )

    def test_minutes_are_told_as_work_and_waiting(self):
        self.assertEqual(took_words(2, 5), "2 min of work, 5 min waiting")
        self.assertEqual(took_words(3, 0), "3 min")
        self.assertEqual(took_words(0, 5), "5 min waiting")

    def test_the_blender_is_rinsed_where_two_dishes_use_it(self):
        dip = DishToCook(
            "dip", "Dip", (line("200 g tofu", "tofu-firm", 200),), ("Blend the tofu.",)
        )
        alone = evening_of([SOUP]).timetable.asked.tasks
        both = evening_of([SOUP, dip]).timetable.asked.tasks
        blended = {t.dish: t for t in both if t.verb == "blend"}
        (once,) = (t for t in alone if t.verb == "blend")
        self.assertNotIn("rinse the blender", once.text)
        self.assertTrue(all("rinse the blender" in t.text for t in blended.values()))
        self.assertEqual(blended["Soup"].hands.likely, once.hands.likely + 2)

    def test_washing_up_is_said_apart(self):
        self.assertEqual(evening_of([SOUP]).clearing_min, 5)
        self.assertEqual(evening_of([SOUP, CHILI]).clearing_min, 7)
        self.assertEqual(evening_of([]).clearing_min, 0)

    def test_a_caution_is_said_once_for_all_its_dishes(self):
        rice = (line("1 cup brown rice", "brown-rice-dry", 185),)
        said = evening_of([DishToCook(k, k, rice) for k in ("A", "B")]).said_cautions
        self.assertEqual(len(said), 2)
        self.assertTrue(said[1].startswith("Hot food goes into shallow containers"), said)
        self.assertTrue(said[0].startswith("A, B: Cool rice at once"), said)

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
        drained = 1  # of the soaked beans, before the onion
        self.assertEqual(found.timetable.length, drained + 2 + 8 + 1 + 61 + 4)
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
