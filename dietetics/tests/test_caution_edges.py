"""Cautions that need two things at once, and foods beside medicines."""

from __future__ import annotations

import unittest
from dataclasses import replace

from dietetics.cautions.exclusions import Terms, exclusions
from dietetics.cautions.facts import ClientFacts
from dietetics.cautions.verdict import Verdict
from dietetics.cautions.week_rules import jump_verdict
from dietetics.composition.foods import load_shelf
from dietetics.tests.test_cautions import of_client

SHELF = load_shelf()


def codes(found: list[Verdict]) -> set[str]:
    """The codes of verdicts."""
    return {verdict.code for verdict in found}


class TwoThingsAtOnce(unittest.TestCase):
    def test_starch_first_asks_the_diabetes_team_only_with_insulin(self) -> None:
        for conditions, approach, raised in (
            (["insulin"], "starch-centred", True), (["diabetes-1"], "starch-centred", True),
            (["insulin"], "balanced-bowl", False), (["sulphonylurea"], "starch-centred", False),
        ):  # fmt: skip
            found = codes(of_client(conditions=conditions, school=approach))
            self.assertEqual("insulin-starch" in found, raised, (conditions, approach))

    def test_low_blood_sugar_by_fewer_calories_or_by_two_meals(self) -> None:
        for more, raised in (
            ({}, False), ({"meals_a_day": 2}, True), ({"goal": "lose"}, True),
            ({"meals_a_day": 3}, False),
        ):  # fmt: skip
            found = codes(of_client(conditions=["insulin"], **more))
            self.assertEqual("low-blood-sugar" in found, raised, more)
        self.assertNotIn("low-blood-sugar", codes(of_client(goal="lose", meals_a_day=2)))


class Fibre(unittest.TestCase):
    def test_more_than_ten_grams_at_once(self) -> None:
        for before, now, raised in ((20, 30, False), (20, 30.1, True), (40, 20, False)):
            found = jump_verdict(before, now)
            self.assertEqual(found is not None, raised, (before, now))
        self.assertAlmostEqual(jump_verdict(20, 35).measure, 15)


class Medicines(unittest.TestCase):
    """Foods beside medicines, for the client who takes them and for nobody else."""

    def kept_out(self, key: str, *conditions: str, suggesting: bool = False) -> set[str]:
        """What keeps a food from a client with these conditions."""
        client = replace(ClientFacts(), conditions=frozenset(conditions))
        return codes(exclusions(SHELF.food(key), Terms(client, suggesting=suggesting)))

    def test_tyramine_and_grapefruit(self) -> None:
        self.assertIn("tyramine", self.kept_out("tempeh", "mao-inhibitor"))
        self.assertNotIn("tyramine", self.kept_out("tempeh", "statin"))
        self.assertNotIn("tyramine", self.kept_out("tofu-firm", "mao-inhibitor"))
        grapefruit = next(f.key for f in SHELF if f.family == "grapefruit-raw")
        self.assertIn("grapefruit", self.kept_out(grapefruit, "statin"))
        self.assertIn("grapefruit", self.kept_out(grapefruit, "transplant"))
        self.assertNotIn("grapefruit", self.kept_out(grapefruit, "warfarin"))

    def test_seaweed_is_never_suggested_with_a_thyroid_medicine(self) -> None:
        seaweed = next(f.key for f in SHELF if f.family in ("kelp", "kelp-dried", "kombu-dried"))
        thyroid = ("thyroid-medicine",)
        self.assertIn("iodine-seaweed", self.kept_out(seaweed, *thyroid, suggesting=True))
        self.assertNotIn("iodine-seaweed", self.kept_out(seaweed, *thyroid))
        self.assertNotIn("iodine-seaweed", self.kept_out(seaweed, suggesting=True))
        self.assertNotIn("iodine-seaweed", self.kept_out("kale-raw", *thyroid, suggesting=True))

    def test_what_is_far_from_whole_is_not_suggested(self) -> None:
        far = next(f for f in SHELF if f.processing > 3 and not f.allergens)
        near = next(f for f in SHELF if f.processing == 3 and not f.allergens)
        self.assertIn("not-suggested", self.kept_out(far.key, suggesting=True))
        self.assertNotIn("not-suggested", self.kept_out(far.key))
        self.assertNotIn("not-suggested", self.kept_out(near.key, suggesting=True))
