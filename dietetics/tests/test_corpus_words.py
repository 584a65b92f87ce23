"""The written lines, pasted recipes and labels whose answers stood before the reader: how many are
right, and how sure.

Scores are kept here as they were on the first run, before anything was changed for them, and
asserted as they must be now. A line that is called sure and is wrong counts apart: that is what
must not happen.
"""

from __future__ import annotations

import unittest

from dietetics.amounts.line_reader import LineReader
from dietetics.composition.foods import load_shelf
from dietetics.dishes.recipes import read_recipe
from dietetics.tests.corpus_labels import label_cases, label_problems, recipe_cases, recipe_problems
from dietetics.tests.corpus_words import cases, score, sure_of, wrong

READER = LineReader(load_shelf())


class WrittenLines(unittest.TestCase):
    """First run: 136 of 293 right; of 87 marked sure 28 wrong."""

    def test_at_least_96_per_cent_right_and_99_of_the_sure(self) -> None:
        right, lines, problems, sure, sure_wrong = score(READER)
        self.assertGreaterEqual(lines, 200)
        self.assertGreaterEqual(right / lines, 0.96, problems)
        self.assertGreaterEqual(sure, lines / 4)
        self.assertLessEqual(len(sure_wrong) / sure, 0.01, sure_wrong)

    def test_lines_written_when_the_reader_was_finished(self) -> None:
        """First run: 54 of 64 right; of 27 marked sure 3 wrong. Mended since: two foods with an
        amount each joined by "and", "with leaves", "Serves 4 …" alone on a line, fruit drained of
        its juice.
        """
        after = cases("lines_words_after.txt")
        problems = [problem for case in after if (problem := wrong(case, READER))]
        self.assertEqual(len(after), 64)
        self.assertGreaterEqual(len(after) - len(problems), 57, problems)

    def test_lines_of_five_kitchens(self) -> None:
        """First run: 153 of 203 right; of 69 marked sure 9 wrong. Of the 23 that are left most are
        other weights than the answer's (a tablespoon of pumpkin seeds, an inch of ginger).
        """
        fifth = cases("lines_fifth.txt")
        problems = [problem for case in fifth if (problem := wrong(case, READER))]
        sure_wrong = [c.text for c in fifth if sure_of(c, READER) and wrong(c, READER)]
        self.assertGreaterEqual(len(fifth) - len(problems), 180, problems)
        self.assertLessEqual(len(sure_wrong), 7, sure_wrong)

    def test_lines_of_recipe_pages(self) -> None:
        """First run: 100 of 112 right; of 53 marked sure 3 wrong. The four that are left are a
        garnish without an amount, which asks, and other weights than the answer's (a jar of peppers
        is weighed without its liquid).
        """
        sixth = cases("lines_sixth.txt")
        problems = [problem for case in sixth if (problem := wrong(case, READER))]
        self.assertEqual(len(sixth), 112)
        self.assertLessEqual(len(problems), 4, problems)
        self.assertEqual([c.text for c in sixth if sure_of(c, READER) and wrong(c, READER)], [])

    def test_lines_of_home_cooks_and_voice_notes(self) -> None:
        """First run: 67 of 79 right; of 31 marked sure 3 wrong. Of the five left three ask what the
        answer takes for granted, two are other weights.
        """
        seventh = cases("lines_seventh.txt")
        problems = [problem for case in seventh if (problem := wrong(case, READER))]
        self.assertEqual(len(seventh), 79)
        self.assertLessEqual(len(problems), 5, problems)
        self.assertEqual([c.text for c in seventh if sure_of(c, READER) and wrong(c, READER)], [])

    def test_so_much_zest_is_no_fruit(self) -> None:
        self.assertEqual(len(READER.read("1 orange, zest and juice")), 2)
        found = READER.read("1 cup orange zest, juice")
        self.assertEqual(
            [(r.food and r.food.key, r.confidence) for r in found], [("orange-zest", "ask")]
        )

    def test_of_one_or_of_all(self) -> None:
        """What stands in brackets behind several containers: by what such a one usually holds."""
        for text, grams in (
            ("2 tins (400 g) chickpeas, drained", 480),
            ("2 tins chickpeas (400 g each), drained", 480),
            ("2 tins chickpeas (480 g drained)", 480),
            ("2 tins chickpeas (240 g drained each)", 480),
            ("1 can (400 g, 240 g drained) chickpeas", 240),
            ("3 cans black beans (4 1/2 cups)", 774),
            ("2 blocks firm tofu (700 g total)", 700),
            ("2 blocks firm tofu (800 g)", 800),
            ("1/2 block (7 oz) firm tofu", 198),
            ("1/2 can (15 oz) chickpeas, drained", 128),
        ):
            reading = READER.read(text)[0]
            self.assertAlmostEqual(reading.grams or 0, grams, delta=0.02 * grams, msg=text)
            self.assertIn(reading.confidence, ("high", "fair"), text)
        doubtful = READER.read("2 cans chickpeas (300 g)")[0]
        self.assertEqual(doubtful.confidence, "low")
        self.assertGreaterEqual(doubtful.grams_high / doubtful.grams_low, 1.9)

    def test_a_bare_tofu_is_fairly_sure_and_says_so(self) -> None:
        bare, firm, pressed = (
            READER.read(text)[0]
            for text in ("150 g tofu", "150 g firm tofu", "150 g tofu, pressed for 20 minutes")
        )
        self.assertEqual([one.food.key for one in (bare, firm, pressed)], ["tofu-firm"] * 3)
        self.assertEqual(
            [one.confidence for one in (bare, firm, pressed)], ["fair", "high", "high"]
        )
        self.assertIn("silken", " ".join(bare.remarks))

    def test_an_amount_behind_the_food_and_what_cannot_be_seen(self) -> None:
        for text, key, grams in (
            ("Carrots - 2 large", "carrot-raw", 144),
            ("1\u200b cup almonds", "almonds", 143),
            ("1/2 cup coconut flour, + 1 teaspoon", "coconut-flour", 58),
            ("3 sprigs thyme", "thyme-fresh", 1.5),
            ("1 jar (350 g drained) white beans", "white-beans-canned", 350),
        ):
            reading = READER.read(text)[0]
            self.assertEqual((reading.food and reading.food.key), key, text)
            self.assertAlmostEqual(reading.grams or 0, grams, delta=0.1 * grams, msg=text)

    def test_the_other_of_two_is_offered_and_the_line_asks(self) -> None:
        for text, key, other in (
            ("1 cup water (or broth)", "water", "vegetable-broth"),
            ("1 cup pineapple, diced (or canned)", "pineapple-raw", "pineapple-canned-juice"),
        ):
            reading = READER.read(text)[0]
            self.assertEqual((reading.food and reading.food.key), key)
            self.assertEqual(reading.confidence, "ask")
            self.assertEqual(reading.alternatives[0].food.key, other)

    def test_the_lines_are_not_those_of_the_older_files(self) -> None:
        texts = [case.text.lower() for case in cases()]
        self.assertEqual(len(texts), len(set(texts)))


class EveryRowByItsOwnNames(unittest.TestCase):
    """A row that its own names do not reach, or that another row answers for, is a word dropped."""

    # A name that two foods bear, read as the other one and asked about, or the same food in the
    # state it is sold in.
    SHARED = frozenset({"edamame-unprepared", "tofu-firm-calcium-set", "roasted-peppers-jar",
        "flax-whole", "black-pepper",
                        "potato-chips-unsalted", "potato-mashed"})  # fmt: skip

    def test_no_name_is_unread_and_none_is_sure_of_another_food(self) -> None:
        unread, other = [], []
        for food in READER.shelf:
            for name in (food.name, *food.synonyms):
                reading = READER.read(f"100 g {name}")[0]
                if not reading.matched:
                    unread.append((food.key, name, reading.reason))
                elif reading.food.family != food.family and reading.confidence in ("high", "fair"):
                    other.append((food.key, name, reading.food.key))
        self.assertEqual(unread, [])
        self.assertEqual([one for one in other if one[0] not in self.SHARED], [])


class WhatIsSaid(unittest.TestCase):
    """Rules of reading, each by lines whose answer needs no corpus."""

    def read(self, line: str) -> str:
        """The food's key with how sure; the reason where nothing was read."""
        reading = READER.read(line)[0]
        return (
            f"{reading.food.key} {reading.confidence}"
            if reading.matched
            else f"unread: {reading.reason}"
        )

    def test_words_behind_the_comma_name_the_row(self) -> None:
        for line, key in (
            ("200 g tofu, extra firm", "tofu-extra-firm"),
            ("1 tbsp sugar, brown", "sugar-brown"),
            ("1 tsp ginger, ground", "ginger-ground"),
            ("1 can coconut milk, light", "coconut-milk-light-canned"),
            ("1 cup refried beans, fat-free", "refried-beans-fat-free"),
        ):
            self.assertTrue(self.read(line).startswith(f"{key} "), f"{line}: {self.read(line)}")

    def test_words_behind_the_comma_that_no_row_honours_ask(self) -> None:
        for line in (
            "1 cup popcorn, popped in oil",
            "1 plantain, fried",
            "1 cup soy yogurt, chocolate",
        ):
            self.assertFalse(
                self.read(line).endswith((" high", " fair")), f"{line}: {self.read(line)}"
            )

    def test_cooked_after_measuring_is_asked_about_where_water_counts(self) -> None:
        self.assertTrue(self.read("200 g radishes, roasted").endswith(" ask"))
        self.assertFalse(self.read("2 onions, roasted").endswith(" ask"))

    def test_foods_whose_ordinary_kind_holds_an_animal_food_are_asked_about(self) -> None:
        for name in ("kimchi", "pesto", "Thai red curry paste"):
            self.assertTrue(self.read(f"1 tbsp {name}").endswith(" ask"), name)
            self.assertFalse(self.read(f"1 tbsp vegan {name}").endswith(" ask"), name)

    def test_what_the_writer_leaves_open_is_asked_about(self) -> None:
        for line in (
            "1 cup plant milk",
            "1 cup coconut",
            "2 tbsp protein powder",
            "1 cup cooked rice (white or brown)",
            "1 tsp chilli",
        ):
            self.assertTrue(self.read(line).endswith(" ask"), f"{line}: {self.read(line)}")
        for line in (
            "1 cup milk of choice",
            "¼ cup nuts of your choice",
            "1 cup beans",
            "1 cup vegetables",
        ):
            self.assertTrue(self.read(line).startswith("unread"), f"{line}: {self.read(line)}")

    def test_coriander_is_leaf_or_seed_by_what_is_said(self) -> None:
        for line, key in (
            ("3 tbsp chopped coriander", "cilantro-fresh"),
            ("1 bunch coriander", "cilantro-fresh"),
            ("1 tsp ground coriander", "coriander-seed"),
        ):
            self.assertRegex(self.read(line), rf"^{key} (?:high|fair)", line)

    def test_spoken_openings(self) -> None:
        for line in (
            "we'd add two handfuls of rocket",
            "I usually throw in two handfuls of rocket",
            "like two handfuls of rocket",
        ):
            reading = READER.read(line)[0]
            self.assertEqual((reading.food.key, reading.grams), ("arugula-raw", 40), line)

    def test_a_can_of_what_is_not_canned(self) -> None:
        self.assertIn("canned", self.read("1 can arugula"))
        self.assertTrue(self.read("1 can water chestnuts").endswith(" ask"))

    def test_water_as_needed_changes_weight_alone(self) -> None:
        self.assertEqual(self.read("water, as needed"), "water low")

    def test_animal_foods_are_named_as_such(self) -> None:
        for line in (
            "100 g chicken breast",
            "1 cup cow's milk",
            "2 eggs",
            "1 tbsp honey",
            "1 tbsp fish sauce",
        ):
            self.assertIn("not a plant food", self.read(line), line)
        self.assertIn("anchovy", self.read("1 tbsp Worcestershire sauce"))
        self.assertNotIn("not a plant food", self.read("1 cup oat cream"))
        self.assertTrue(READER.read("2 eggs")[0].choices)

    def test_what_was_heard_is_told(self) -> None:
        reading = READER.read("1 can no-salt-added black beans, drained")[0]
        self.assertIn("no salt added", reading.honoured)
        self.assertIn("organic", READER.read("2 tbsp organic tahini")[0].neutral)
        refused = READER.read("1 cup green banana")[0]
        self.assertEqual((refused.matched, refused.not_understood), (False, ("green",)))
        self.assertEqual(refused.choices[0].food.key, "banana-raw")


class PastedRecipes(unittest.TestCase):
    """First run: servings right in 6 of 12, everything in 1."""

    def test_all_twelve(self) -> None:
        for name, expected in recipe_cases().items():
            with self.subTest(name):
                self.assertEqual(recipe_problems(name, expected, READER), [])

    def test_a_heading_never_swallows_a_line(self) -> None:
        for line in (
            "You need a can of coconut milk",
            "Ingredients: 1 can coconut milk",
            "2) 1 can coconut milk",
            "▢ 1 can coconut milk",
        ):
            recipe = read_recipe(f"Curry\n{line}\n200 g tofu", READER)
            self.assertEqual(
                [item.label for item in recipe.items], ["Coconut milk, canned", "Tofu, firm"], line
            )
        early = read_recipe(
            "Pot\nEquipment\nA big pan\n2 cups cooked quinoa\n200 g tofu\nMethod\nStir.", READER
        )
        self.assertEqual(
            (len(early.items), early.steps, early.asides), (2, ("Stir.",), ("A big pan",))
        )
        recipe = read_recipe(
            "Nuts\nPreparation: 5 minutes. Yield: 10 servings\n2 cups mixed nuts", READER
        )
        self.assertEqual((recipe.makes.servings, len(recipe.items)), (10, 1))

    def test_a_page_as_it_is_pasted(self) -> None:
        text = (
            "Servings: 8\n**Bean Pasta**\nPosted on March 3 by the kitchen\nI first made this on "
            "a rainy day.\n"
            "Prep 10 min · Cook 15 min · Serves 2–3\nIngredients (metric)\n200 g wholewheat "
            "pasta\n1 lemon, zest and juice\n"
            "3 tomatoes, diced\nMethod\n1 Cook the pasta.\nNutrition (per serving)\n480 "
            "kcal\nMore recipes you might like\nSoup"
        )
        recipe = read_recipe(text, READER)
        self.assertEqual(
            (recipe.title, recipe.makes.servings, recipe.steps),
            ("Bean Pasta", 8, ("Cook the pasta.",)),
        )
        self.assertEqual(
            [line.food.key for line in recipe.lines],
            ["whole-wheat-pasta-dry", "lemon-zest", "lemon-juice", "tomato-raw"],
        )
        self.assertIn("Soup", recipe.asides)

    def test_what_it_makes(self) -> None:
        for line, servings in (
            ("Serves 4", 4), ("Serves: 4 | Ready in 20 minutes", 4), ("for 4 people", 4),
            ("Enough for four as a main", 4),
            ("Yield: 2 jars", 2), ("Makes about 12 patties", 12),
            ("makes five heaping half-cup servings", 5),
            ("two, maybe three portions", 2.5), ("Yields: 1 loaf (12 slices)", 12),
            ("Recipe makes 4 generous bowls.", 4),
            ("Serves:\n6", 6), ("Bake for 4 minutes", None), ("Makes 3 cups", None),
            ("Good for lunch", None),
        ):  # fmt: skip
            recipe = read_recipe(f"# Pot\n{line}\n300 g cooked lentils\n200 g water", READER)
            self.assertEqual(recipe.makes.servings, servings, line)
            self.assertEqual(recipe.batch().servings, servings, line)

    def test_what_is_set_aside_is_kept_to_be_seen(self) -> None:
        recipe = read_recipe("Pot\n5 from 12 votes\n200 g tofu\nNotes\nKeeps 3 days", READER)
        self.assertEqual(recipe.asides, ("5 from 12 votes", "Keeps 3 days"))
        self.assertEqual(recipe.unmatched, ())


class Labels(unittest.TestCase):
    """First run: figures right in 3 of 20, allergens in 3."""

    def test_figures_and_allergens(self) -> None:
        wrong_figures, wrong_allergens = [], []
        cases_ = label_cases()
        for name, figures, contains, traces, text in cases_:
            figures_off, allergens_off = label_problems(figures, contains, traces, text)
            wrong_figures += [f"{name}: {one}" for one in figures_off[:1]]
            wrong_allergens += [f"{name}: {one}" for one in allergens_off]
        self.assertEqual(len(cases_), 20)
        self.assertLessEqual(len(wrong_figures), 1, wrong_figures)
        self.assertEqual(wrong_allergens, [])
