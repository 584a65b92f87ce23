"""`./pantry shop` and `./pantry prep` with what is wrong told in words."""

from __future__ import annotations

import json
import unittest

from headless.tests.test_verbs import INPUTS, verb, written


class Shop(unittest.TestCase):
    def test_a_list_is_bought(self) -> None:
        run = verb("shop", str(INPUTS / "harbour-shop.json"))
        self.assertEqual(run.returncode, 0, run.stderr)
        lines = {line["food"]: line for line in json.loads(run.stdout)["lines"]}
        # 500 g cooked ÷ 3.05 = 164 g dry, of which 100 are at home
        self.assertAlmostEqual(lines["quinoa-dry"]["usable_g"]["likely"], 64, delta=1)
        self.assertEqual(lines["onion-raw"]["units"]["likely"], 2)
        beans = lines["black-beans-canned"]
        self.assertEqual((beans["units"]["likely"], beans["price"]), (2, 1.8))

    def test_what_is_not_read_is_named(self) -> None:
        run = verb("shop", written(b'{"needs": [{"line": "some frobnicated glorp"}]}'))
        self.assertEqual(run.returncode, 3)
        self.assertEqual(json.loads(run.stdout)["unread"], ["some frobnicated glorp"])

    def test_what_cannot_be_used_is_told(self) -> None:
        for content, words in (
            (b"[]", "one JSON object"),
            (b'{"needs": [{"food": "moon-cheese", "grams": 3}]}', "moon-cheese"),
            (b'{"needs": [{"food": "kale-raw", "grams": -3}]}', "grams must be"),
            (b'{"needs": [{"grams": "many"}]}', "expected a number"),
            (b'{"need": []}', "need"),
        ):
            with self.subTest(content):
                run = verb("shop", written(content))
                self.assertEqual((run.returncode, run.stdout), (2, ""))
                self.assertIn(words, run.stderr)
                self.assertNotIn("Traceback", run.stderr)


class Prep(unittest.TestCase):
    def test_an_evening_is_proven_shortest(self) -> None:
        run = verb("prep", str(INPUTS / "harbour-prep.json"))
        self.assertEqual(run.returncode, 0, run.stderr)
        answer = json.loads(run.stdout)
        (before,) = answer["evening_before"]
        self.assertTrue(before.startswith("Soak black beans overnight"), before)
        self.assertEqual(answer["proof"], "shortest")
        # beans: drain 1, chop 2, soften 8, add 1, simmer 1 + 60, fill 4: no hands take longer
        self.assertEqual(answer["minutes"], 77)
        self.assertIn("Discard the soaking water", answer["cautions"]["Quay beans"][0])

    def test_tasks_can_be_given_as_they_are(self) -> None:
        tasks = b'{"tasks": [{"key": "a", "hands": 5}, {"key": "b", "hands": 3, "after": ["a"]}]}'
        answer = json.loads(verb("prep", written(tasks)).stdout)
        self.assertEqual([t["start"] for t in answer["tasks"]], [0, 5])
        self.assertEqual(answer["minutes"], 8)

    def test_what_cannot_be_used_is_told(self) -> None:
        circle = b'{"tasks": [{"key": "a", "after": ["b"]}, {"key": "b", "after": ["a"]}]}'
        for content, words in (
            (circle, "a → b → a"),
            (b'{"dishes": [{"name": "X", "method": "magic"}]}', "magic"),
            (b'{"kitchen": {"cooks": 0}, "tasks": [{"key": "a"}]}', "cooks"),
            (b'{"tasks": [{"key": "a", "device": "oven", "wait": 5}], "kitchen": {"ovens": 0}}',
             "has none: oven"),
        ):  # fmt: skip
            with self.subTest(content):
                run = verb("prep", written(content))
                self.assertEqual((run.returncode, run.stdout), (2, ""))
                self.assertIn(words, run.stderr)
                self.assertNotIn("Traceback", run.stderr)
