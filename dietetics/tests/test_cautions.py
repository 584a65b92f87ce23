"""Every caution has a case that raises it and one that does not."""

from __future__ import annotations

import unittest
from dataclasses import replace

from dietetics.cautions.caution import Caution
from dietetics.cautions.clients import client_cautions
from dietetics.cautions.food import (
    Eaten,
    allergen_cautions,
    day_cautions,
    dislike_cautions,
    fibre_jump,
    meal_cautions,
    open_allergen_caution,
    trace_cautions,
    vitamin_k_swing,
)
from dietetics.cautions.overtime import DayEaten, week_cautions
from dietetics.composition.foods import load_shelf
from dietetics.composition.sums import Composition, FoodContent, Item, compose
from dietetics.targets.person import Person
from dietetics.targets.proposal import propose

SHELF = load_shelf()


def raised(**changes: object) -> set[str]:
    """The keys of a client's cautions."""
    facts = {"sex": "female", "age_years": 34, "height_cm": 165, "weight_kg": 70, **changes}
    if "conditions" in facts:
        facts["conditions"] = frozenset(facts["conditions"])
    return {c.key for c in client_cautions(propose(Person(**facts)))}


def meal(*foods: tuple[str, float]) -> tuple[list[Eaten], object]:
    """Foods as eaten, and their composition."""
    eaten = [Eaten(SHELF.food(key), grams) for key, grams in foods]
    return eaten, compose([Item.exact(e.food.name, FoodContent(e.food), e.grams) for e in eaten])


def replace_unread(total: Composition, lines: int) -> Composition:
    """The same composition with so many lines not read."""
    return replace(total, figures={key: replace(figure, unread=lines) for key, figure in total.figures.items()})


class Clients(unittest.TestCase):
    """From the person and the targets."""

    def test_each_is_raised_and_each_stays_away(self) -> None:
        plain = raised()
        self.assertEqual(plain, {"vegan-supplements"})
        for key, changes in (
            ("kidney", {"conditions": ["ckd-3"]}),
            ("kidney", {"conditions": ["dialysis"]}),
            ("kidney", {"conditions": ["transplant"]}),
            ("potassium-medicine", {"conditions": ["potassium-raising"]}),
            ("warfarin", {"conditions": ["warfarin"]}),
            ("low-blood-sugar", {"conditions": ["insulin"], "goal": "lose"}),
            ("low-blood-sugar", {"conditions": ["sulphonylurea"], "meals_a_day": 2}),
            ("no-deficit", {"pregnant": True, "goal": "lose"}),
            ("no-deficit", {"breastfeeding": True, "goal": "lose"}),
            ("no-deficit", {"age_years": 17, "goal": "lose"}),
            ("no-deficit", {"age_years": 72, "goal": "lose"}),
            ("no-deficit", {"conditions": ["eating-disorder"], "goal": "lose"}),
            ("no-deficit", {"weight_kg": 48, "goal": "lose"}),
            ("eating-disorder", {"conditions": ["eating-disorder"]}),
            ("underweight", {"weight_kg": 48}),
            ("energy-floor", {"goal": "lose", "pace_kg_per_week": 1.2, "height_cm": 150, "weight_kg": 55}),
            ("pace", {"goal": "lose", "pace_kg_per_week": 1.0}),
            ("oxalate", {"conditions": ["kidney-stones-oxalate"]}),
            ("thyroid", {"conditions": ["thyroid-medicine"]}),
            ("gout", {"conditions": ["gout"]}),
            ("young", {"age_years": 17}),
        ):
            self.assertIn(key, raised(**changes), changes)
            self.assertNotIn(key, plain)

    def test_insulin_with_three_meals_and_no_deficit_is_left_in_peace(self) -> None:
        self.assertNotIn("low-blood-sugar", raised(conditions=["insulin"]))

    def test_half_a_kilo_of_seventy_is_no_fast_pace(self) -> None:
        self.assertNotIn("pace", raised(goal="lose", pace_kg_per_week=0.5))

    def test_each_says_what_and_what_to_do(self) -> None:
        person = Person(
            "male",
            17,
            180,
            55,
            goal="lose",
            pace_kg_per_week=1,
            conditions=frozenset({"ckd-3", "insulin", "warfarin", "gout"}),
        )
        for caution in client_cautions(propose(person)):
            self.assertTrue(caution.text and caution.action and caution.source, caution.key)


class Food(unittest.TestCase):
    """From bowls and days."""

    def test_allergens_and_hidden_carriers(self) -> None:
        eaten, _ = meal(("miso-white", 20), ("tahini", 15), ("rolled-oats-dry", 40))
        keys = {c.key for c in allergen_cautions(eaten, ["soy", "sesame", "gluten"])}
        self.assertEqual(keys, {"allergen-soy", "allergen-sesame", "allergen-gluten"})
        self.assertEqual(allergen_cautions(eaten, ["peanut"]), [])

    def test_kombu_is_much_iodine_and_never_none(self) -> None:
        eaten, total = meal(("kombu-dried", 5), ("white-rice-cooked", 200))
        found = {c.key: c for c in day_cautions(eaten, total)}
        self.assertIn("iodine-seaweed", found)
        self.assertNotIn("iodine", found)
        self.assertIn("not known", found["iodine-seaweed"].text)
        plain, rice = meal(("white-rice-cooked", 200))
        self.assertIn("iodine", {c.key for c in day_cautions(plain, rice)})
        week = week_cautions([DayEaten("Monday", tuple(eaten), total, 3)], frozenset())
        self.assertIn("Monday: Kombu", next(c.text for c in week if c.key == "iodine-seaweed"))

    def test_traces_and_unread_lines_are_cautions_of_their_own(self) -> None:
        oats = SHELF.food("rolled-oats-dry")
        bar = replace(oats, traces=("peanut",), allergens=())
        held = trace_cautions([Eaten(bar, 30)], ["peanut", "soy"])
        self.assertEqual([c.key for c in held], ["traces-peanut"])
        day = DayEaten("Monday", (Eaten(bar, 30),), replace_unread(meal(("rolled-oats-dry", 30))[1], 2), 3)
        week = {c.key: c.severity for c in week_cautions([day], frozenset(), allergies=["peanut"])}
        self.assertEqual((week.get("traces-peanut"), week.get("allergens-open")), ("warn", "serious"))
        both = replace(bar, allergens=("peanut",))
        self.assertEqual(trace_cautions([Eaten(both, 30)], ["peanut"]), [])
        self.assertIsNone(open_allergen_caution([Eaten(oats, 30)], 0, ["peanut"]))
        self.assertIsNone(open_allergen_caution([Eaten(oats, 30)], 2, []))
        unread = open_allergen_caution([Eaten(replace(oats, allergens_known=False), 30)], 2, ["peanut"])
        self.assertEqual(unread.severity, "serious")
        self.assertIn("2 lines", unread.text)
        self.assertIn(oats.name, unread.text)

    def test_dislikes_as_people_write_them(self) -> None:
        eaten, _ = meal(("mushrooms-white-raw", 50), ("onion-cooked", 40), ("kale-raw", 20))
        for written, named in (
            ("Hates mushrooms", ("ushroom",)),
            ("no MUSHROOM; okra and kale", ("ushroom", "ale")),
            ("raw onion", ()),
            ("onions.", ("nion",)),
            ("", ()),
            ("never, any; no", ()),
        ):
            with self.subTest(written):
                text = " ".join(c.text for c in dislike_cautions(eaten, written))
                self.assertEqual(bool(text), bool(named))
                self.assertTrue(all(word in text for word in named), text)

    def test_potassium_foods_are_marked_for_those_with_a_ceiling_alone(self) -> None:
        eaten, total = meal(("potato-baked", 299), ("kale-raw", 21))
        found = {c.key: c for c in meal_cautions(eaten, total, frozenset({"ckd-3"}))}
        self.assertIn("Potato", found["potassium-foods"].text)
        self.assertNotIn("Kale", found["potassium-foods"].text)
        self.assertNotIn("potassium-foods", {c.key for c in meal_cautions(eaten, total, frozenset())})

    def test_oxalate_and_soy(self) -> None:
        eaten, total = meal(("spinach-cooked", 90), ("tofu-firm", 100), ("orange-raw", 131))
        self.assertIn(
            "oxalate-foods", {c.key for c in meal_cautions(eaten, total, frozenset({"kidney-stones-oxalate"}))}
        )
        self.assertIn("soy-thyroid", {c.key for c in meal_cautions(eaten, total, frozenset({"thyroid-medicine"}))})
        self.assertEqual(meal_cautions(eaten, total, frozenset()), [])

    def test_iron_without_vitamin_c(self) -> None:
        lentils = ("lentils-cooked", 200)
        self.assertIn("iron-without-c", {c.key for c in meal_cautions(*meal(lentils), frozenset())})
        self.assertNotIn(
            "iron-without-c", {c.key for c in meal_cautions(*meal(lentils, ("orange-raw", 131)), frozenset())}
        )

    def test_brazil_nuts_b12_and_iodine(self) -> None:
        found = {c.key for c in day_cautions(*meal(("brazil-nuts", 30), ("lentils-cooked", 200)))}
        self.assertEqual(found, {"brazil-nuts", "b12", "iodine"})
        fortified = {c.key for c in day_cautions(*meal(("brazil-nuts", 10), ("nutritional-yeast", 10)))}
        self.assertEqual(fortified, {"iodine"})

    def test_swing_and_jump(self) -> None:
        self.assertIsNone(vitamin_k_swing(200, 290))
        self.assertIsNotNone(vitamin_k_swing(200, 310))
        self.assertIsNotNone(vitamin_k_swing(200, 90))
        self.assertIsNone(fibre_jump(20, 30))
        self.assertIsNotNone(fibre_jump(20, 31))

    def test_an_acknowledged_caution_comes_back_when_it_gets_worse(self) -> None:
        caution = Caution("potassium-foods", "warn", "x", "y", measure=1200)
        self.assertFalse(caution.comes_back(1200))
        self.assertTrue(caution.comes_back(1100))
