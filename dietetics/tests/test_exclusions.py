"""What keeps a food from a client, against the cases written beforehand, and the rule files of the
schools.
"""

from __future__ import annotations

import tempfile
import unittest
from collections.abc import Mapping
from dataclasses import replace
from pathlib import Path
from typing import Any

from dietetics.cautions import exclusions as module
from dietetics.cautions.exclusions import (
    Terms,
    blocking_allergies,
    exclusions,
    exclusions_of,
    keeps_out,
)
from dietetics.cautions.facts import ClientFacts, Eaten
from dietetics.composition.foods import TABLES, Food, load_shelf
from dietetics.errors import DieteticsError
from dietetics.labels.facts import label_food
from dietetics.labels.label_reader import read_label
from dietetics.targets.schools import read_school, school
from dietetics.tests.exclusion_cases import CASES, LABELS

SHELF = load_shelf()


def food_of(what: str) -> Food:
    """A food of the shelf by its key, or the food of a label."""
    if what.startswith("label: "):
        return label_food(read_label(LABELS[what.removeprefix("label: ")]).facts, "own-1", "a test")
    return SHELF.food(what)


def client(given: Mapping[str, Any]) -> ClientFacts:
    """The client of a case."""
    rules = school(given["school"]) if "school" in given else None
    return ClientFacts(
        frozenset(given.get("conditions", ())),
        tuple(given.get("allergies", ())),
        given.get("never_eats", ""),
        rules,
    )


class Cases(unittest.TestCase):
    """Each case raises what it names and nothing else."""

    def test_every_case(self) -> None:
        for what, given, wanted in CASES:
            with self.subTest(what=what, given=dict(given)):
                terms = Terms(client(given), given.get("suggesting", False))
                found = {
                    f"{v.code}:{v.subject}" if v.subject else v.code
                    for v in exclusions(food_of(what), terms)
                }
                self.assertEqual(found, set(wanted))

    def test_one_label_three_verdicts(self) -> None:
        """Oil, phosphate and peanuts at once: the gravest first, each with its own code."""
        rules = replace(school("kidney-aware"), forbid=("added:oil", "additive:phosphate"))
        terms = Terms(ClientFacts(allergies=("peanut",), school=rules))
        found = exclusions(food_of("label: oil, phosphate, peanuts"), terms)
        self.assertEqual(
            [v.key for v in found],
            ["allergen-peanut", "forbidden-oil", "forbidden-additive-phosphate"],
        )
        self.assertEqual([v.severity for v in found], ["blocked", "forbidden", "forbidden"])
        self.assertEqual(
            keeps_out(food_of("label: oil, phosphate, peanuts"), terms).key, "allergen-peanut"
        )

    def test_traces_keep_out_of_suggestions_and_not_of_the_hand(self) -> None:
        food, facts = food_of("label: oil, phosphate, peanuts"), ClientFacts(allergies=("sesame",))
        self.assertIsNone(keeps_out(food, Terms(facts)))
        self.assertIsNotNone(keeps_out(food, Terms(facts, suggesting=True)))

    def test_foods_of_a_meal_share_a_verdict_and_little_is_not_noticed(self) -> None:
        eaten = [Eaten(SHELF.food("tahini"), 0.2), Eaten(SHELF.food("hummus-commercial"), 30)]
        found = exclusions_of(eaten, ClientFacts(allergies=("sesame",), never_eats="tahini"))
        self.assertEqual([v.key for v in found], ["allergen-sesame"])
        self.assertEqual(found[0].measure, 2)
        self.assertEqual(len(found[0].params["foods"]), 2)
        facts = ClientFacts(allergies=("soy", "wheat", "peanut"))
        self.assertEqual(
            {v.subject for v in blocking_allergies([SHELF.food("soy-sauce")], facts)},
            {"soy", "wheat"},
        )

    def test_families_named_in_rules_are_on_the_shelf(self) -> None:
        for name in ("TYRAMINE_FAMILIES", "IODINE_SEAWEED"):
            for family in getattr(module, name):
                self.assertIn(family, SHELF.families, name)

    def test_what_the_old_reading_let_through(self) -> None:
        """Foods with oil under a school without: every row that is marked, none let through."""
        terms = Terms(ClientFacts(school=school("starch-centred")))
        made_with_oil = [food for food in SHELF if food.oil_added or food.group == "oil"]
        self.assertGreater(len(made_with_oil), 40)
        self.assertEqual([food.key for food in made_with_oil if keeps_out(food, terms) is None], [])


class Schools(unittest.TestCase):
    """A rule file with something unknown in it is an error that names it."""

    def spoiled(self, old: str, new: str) -> str:
        """What is said of the greens-and-beans file with a change."""
        text = (TABLES / "schools" / "greens-and-beans.toml").read_text(encoding="utf-8")
        self.assertIn(old, text)
        with tempfile.TemporaryDirectory() as folder:
            path = Path(folder) / "spoiled.toml"
            path.write_text(text.replace(old, new, 1), encoding="utf-8")
            with self.assertRaises(DieteticsError) as caught:
                read_school(path)
        self.assertEqual(caught.exception.code, "school-unreadable")
        return str(caught.exception)

    def test_everything_unknown_is_named(self) -> None:
        for old, new, named in (
            ('"sweetener"]', '"sweetners"]', "sweetners"),
            ('"added:salt"', '"added:sand"', "sand"),
            ('"processing:4"', '"procesing:4"', "procesing"),
            ('"added:oil"', '"additive:phosphat"', "phosphat"),
            ('groups = ["grain"]', 'groups = ["grains"]', "grains"),
            ('"green-onion"', '"spring-onion"', "spring-onion"),
            ('importance = "must"', 'importance = "shall"', "shall"),
            ('state = "raw"', 'state = "rawish"', "rawish"),
            ("density_high = 1.3", "densty_high = 1.3", "densty_high"),
            ("energy = 25", "energy = 24", "99 %"),
            ("high = 140", "hgh = 140", "hgh"),
            (
                'name = "peas"\nfamilies = ["green-peas"',
                'name = "peas"\nfamilies = ["grean-peas"',
                "grean-peas",
            ),
            ('key = "greens-and-beans"', "key = ", "spoiled.toml"),
            ('since = "2026-11-01"', 'since = "2026-11-01"\nled_by = "meat"', "meat"),
            (
                'name = "Grain"\ngroups = ["grain"]\nhigh = 140',
                'name = "Grain"\ngroups = ["grain"]\nlow = 150\nhigh = 140',
                "above high",
            ),
            ('key = "mushroom"\nname = "Mushroom"', 'key = "mushroom"', "missing"),
        ):
            with self.subTest(named):
                self.assertIn(named, self.spoiled(old, new))

    def test_the_ladder_of_starch(self) -> None:
        """Best first as the trade has it: beans, peas, spaghetti squash, winter squash, intact
        grain, other grain, potato.
        """
        rules = school("greens-and-beans")
        order = ["lentils-cooked", "peas-cooked", "spaghetti-squash-cooked", "sweet-potato-baked",
            "quinoa-cooked",
                 "bread-whole-wheat", "potato-baked"]  # fmt: skip
        rungs = [rules.rung_of(SHELF.food(key).group, SHELF.food(key).family) for key in order]
        self.assertEqual(rungs, [0, 1, 2, 3, 4, 5, 6])
        self.assertIsNone(rules.rung_of("leafy-green", "kale"))
