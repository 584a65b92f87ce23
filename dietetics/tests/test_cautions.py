"""Every caution of the registry both ways: facts that raise it and facts beside them that do not.

A code that no entry below raises, or that has no entry where it stays away, is an error. Limits are
those of TRADE practice and of the sources named in the rules, tried on both sides of their edge.
"""

from __future__ import annotations

import inspect
import re
import unittest
from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from dietetics.cautions import client_rules, exclusions, food_rules, registry, week_rules
from dietetics.cautions.facts import (
    ClientFacts,
    DayFacts,
    Eaten,
    MealFacts,
    WeekFacts,
    client_facts,
)
from dietetics.cautions.sentences import WORDS
from dietetics.cautions.verdict import SEVERITIES, Verdict
from dietetics.composition.foods import Food, load_shelf
from dietetics.composition.sums import Composition, FoodContent, Item, compose
from dietetics.targets.conditions import conditions
from dietetics.targets.person import ClinicianNote, Person
from dietetics.targets.proposal import propose
from dietetics.targets.schools import school

SHELF = load_shelf()
OATS = SHELF.food("rolled-oats-dry")
TRACED = replace(OATS, key="traced", allergens=(), traces=("peanut",))
UNLISTED = replace(OATS, key="unlisted", allergens_known=False)
PHOSPHATE = replace(
    SHELF.food("oat-milk") if "oat-milk" in SHELF.foods else OATS, tags=frozenset({"phosphate"})
)
NOTE = ClinicianNote("Dr M. Example", "2026-11-02")
ClientCase = Mapping[str, Any]


def of_client(**changes: Any) -> list[Verdict]:
    """The cautions of a woman of 34, 165 cm, 70 kg, with changes."""
    facts = {"sex": "female", "age_years": 34, "height_cm": 165, "weight_kg": 70, **changes}
    if "conditions" in facts:
        facts["conditions"] = frozenset(facts["conditions"])
    return registry.client_cautions(propose(Person(**facts)))


# code -> (changes that raise it, changes that do not)
CLIENTS: Mapping[str, tuple[ClientCase, ClientCase]] = {
    "kidney": ({"conditions": ["ckd-1"]}, {"conditions": ["albuminuria-a1"]}),
    "potassium-medicine": ({"conditions": ["potassium-raising"]}, {"conditions": ["hypertension"]}),
    "warfarin": ({"conditions": ["warfarin"]}, {"conditions": ["statin"]}),
    "low-blood-sugar": ({"conditions": ["sulphonylurea"], "meals_a_day": 2},
    {"conditions": ["insulin"]}),
    "insulin-starch": (
        {"conditions": ["insulin"], "school": "starch-centred"},
        {"conditions": ["metformin"], "school": "starch-centred"},
    ),
    "no-deficit": ({"pregnant": True, "goal": "lose"}, {"pregnant": True, "goal": "lose",
    "deficit_note": NOTE}),
    "deficit-by-clinician": ({"pregnant": True, "goal": "lose", "deficit_note": NOTE},
    {"goal": "lose", "deficit_note": NOTE}),
    "eating-disorder": ({"conditions": ["eating-disorder"]}, {}),
    "underweight": ({"weight_kg": 50.3}, {"weight_kg": 50.4}),  # 18.5 × 1.65² = 50.37
    "energy-floor": (  # 575.77 - 238.34 + 990 + 667.7 = 1,995 - 1,100 = 895
        {"goal": "lose", "pace_kg_per_week": 1.0, "height_cm": 150, "weight_kg": 55},
        {"goal": "lose", "pace_kg_per_week": 0.7, "height_cm": 150, "weight_kg": 55},  # 1,225
    ),
    "pace": ({"goal": "lose", "pace_kg_per_week": 0.71}, {"goal": "lose", "pace_kg_per_week": 0.7}),
    "oxalate": ({"conditions": ["kidney-stones-oxalate"]}, {}),
    "thyroid": ({"conditions": ["thyroid-medicine"]}, {"conditions": ["hypothyroidism"]}),
    "gout": ({"conditions": ["gout"]}, {}),
    "young": ({"age_years": 18}, {"age_years": 19}),
    "infant": ({"age_years": 2, "height_cm": 88, "weight_kg": 12}, {"age_years": 3, "height_cm": 96,
    "weight_kg": 14}),
    "pregnancy": ({"pregnant": True}, {}),
    "breastfeeding": ({"breastfeeding": True}, {}),
    "vegan-supplements": ({}, {}),  # always: what plants do not bring
    **{one.code: ({"conditions": [one.key]}, {}) for one in conditions().values() if one.code},
}  # fmt: skip


def meal_of(client: ClientFacts, *foods: tuple[str | Food, float], unread: int = 0) -> MealFacts:
    """A meal of foods in grams."""
    eaten = tuple(Eaten(SHELF.food(f) if isinstance(f, str) else f, grams) for f, grams in foods)
    items = [Item.exact(e.food.name, FoodContent(e.food), e.grams) for e in eaten]
    return MealFacts(client, eaten, compose(items, unread=unread))


def day_of(client: ClientFacts, *foods: tuple[str | Food, float], **more: Any) -> DayFacts:
    """A day of foods in grams."""
    meal = meal_of(client, *foods)
    return DayFacts(client, meal.eaten, meal.total, **{"name": "Monday", **more})


def week_of(*days: DayFacts, **more: Any) -> WeekFacts:
    """A week of days."""
    return WeekFacts(days[0].client, days, **more)


NOBODY = ClientFacts()
PEANUT, SOY = ClientFacts(allergies=("peanut",)), ClientFacts(allergies=("soy",))
STARCH = ClientFacts(school=school("starch-centred"))


def having(*keys: str) -> ClientFacts:
    """A client with these conditions."""
    return ClientFacts(frozenset(keys))


# code -> (a meal that raises it, a meal that does not)
MEALS: Mapping[str, tuple[MealFacts, MealFacts]] = {
    "allergen": (meal_of(SOY, ("tofu-firm", 100)), meal_of(PEANUT, ("tofu-firm", 100))),
    "traces": (meal_of(PEANUT, (TRACED, 30)), meal_of(SOY, (TRACED, 30))),
    "allergens-open": (meal_of(PEANUT, (UNLISTED, 30)), meal_of(NOBODY, (UNLISTED, 30))),
    "never-eaten": (
        meal_of(ClientFacts(never_eats="no aubergine"), ("eggplant-raw", 80)),
        meal_of(ClientFacts(never_eats="no aubergine"), ("zucchini-raw", 80)),
    ),
    "forbidden-group": (meal_of(STARCH, ("olive-oil", 5)), meal_of(STARCH, ("olive-oil", 0.5))),
    "forbidden-oil": (meal_of(STARCH, ("hummus-commercial", 30)), meal_of(NOBODY,
    ("hummus-commercial", 30))),
    "forbidden-additive": (meal_of(having("dialysis"), (PHOSPHATE, 100)),
    meal_of(having("potassium-raising"), (PHOSPHATE, 100))),
    "tyramine": (meal_of(having("mao-inhibitor"), ("miso-white", 10)),
    meal_of(having("mao-inhibitor"), ("tofu-firm", 100))),
    "grapefruit": (meal_of(having("statin"), ("grapefruit-raw", 120)), meal_of(having("statin"),
    ("orange-raw", 120))),
    "nutmeg": (meal_of(NOBODY, ("nutmeg", 5)), meal_of(NOBODY, ("nutmeg", 4.9))),
    "potassium-foods": (
        meal_of(having("ckd-3"), ("potato-baked", 200)), meal_of(having("ckd-3"),
        ("white-rice-cooked", 100)),
    ),
    "oxalate-foods": (
        meal_of(having("kidney-stones-oxalate"), ("spinach-cooked", 90)), meal_of(NOBODY,
        ("spinach-cooked", 90)),
    ),
    "soy-thyroid": (
        meal_of(having("thyroid-medicine"), ("tofu-firm", 100)), meal_of(having("thyroid-medicine"),
        ("black-beans-cooked", 100)),
    ),
    "iron-without-c": (
        meal_of(NOBODY, ("lentils-cooked", 200)), meal_of(NOBODY, ("lentils-cooked", 200),
        ("orange-raw", 131)),
    ),
    "brazil-nuts": (meal_of(NOBODY, ("brazil-nuts", 20.5)), meal_of(NOBODY, ("brazil-nuts", 20))),
    "iodine-seaweed": (meal_of(NOBODY, ("kombu-dried", 1)), meal_of(NOBODY, ("nori-dried", 3))),
}  # fmt: skip
PREGNANT = client_facts(Person("female", 30, 165, 70, pregnant=True))
NURSING = client_facts(Person("female", 30, 165, 70, breastfeeding=True))
ADULT = client_facts(Person("female", 30, 165, 70))
# code -> (a day that raises it, a day that does not)
DAYS: Mapping[str, tuple[DayFacts, DayFacts]] = {
    "brazil-nuts": (day_of(NOBODY, ("brazil-nuts", 25)), day_of(NOBODY, ("brazil-nuts", 15))),
    "b12": (
        day_of(replace(PREGNANT, supplements={"vitamin_b12_ug": 2.5}), ("lentils-cooked", 200)),
        day_of(replace(PREGNANT, supplements={"vitamin_b12_ug": 2.6}), ("lentils-cooked", 200)),
    ),
    "iodine-seaweed": (day_of(NOBODY, ("kelp-raw", 5)), day_of(NOBODY, ("nori-dried", 5))),
    "iodine": (
        day_of(ADULT, ("white-rice-cooked", 200)),
        day_of(replace(ADULT, supplements={"iodine_ug": 150.0}), ("white-rice-cooked", 200)),
    ),
    "upper-level": (
        day_of(replace(ADULT, supplements={"iodine_ug": 1101.0}), ("white-rice-cooked", 200)),
        day_of(replace(ADULT, supplements={"iodine_ug": 1099.0}), ("white-rice-cooked", 200)),
    ),
}  # fmt: skip
GREENS, PALE = ("kale-raw", 100), ("white-rice-cooked", 300)
WARFARIN, INSULIN, RENAL = having("warfarin"), having("insulin"), having("ckd-4")


def potassium_day(client: ClientFacts) -> DayFacts:
    """Half a kilo of baked potato: 535 mg potassium in 100 g, US tables."""
    return day_of(client, ("potato-baked", 500))


WEEKS: Mapping[str, tuple[WeekFacts, WeekFacts]] = {
    "allergen": (week_of(day_of(SOY, ("tofu-firm", 100))), week_of(day_of(PEANUT, ("tofu-firm",
    100)))),
    "allergens-open": (week_of(day_of(PEANUT, (UNLISTED, 30))), week_of(day_of(NOBODY, (UNLISTED,
    30)))),
    "vitamin-k-swing": (
        week_of(day_of(WARFARIN, GREENS), day_of(WARFARIN, ("kale-raw", 49))),
        week_of(day_of(WARFARIN, GREENS), day_of(WARFARIN, ("kale-raw", 51))),
    ),
    "sodium-swing": (
        week_of(day_of(having("lithium"), ("miso-white", 100)), day_of(having("lithium"),
        ("miso-white", 49))),
        week_of(day_of(having("lithium"), ("miso-white", 100)), day_of(having("lithium"),
        ("miso-white", 51))),
    ),
    "few-meals-insulin": (week_of(day_of(INSULIN, PALE, meals=2)), week_of(day_of(INSULIN, PALE,
    meals=3))),
    "potassium-days": (
        week_of(potassium_day(RENAL), potassium_ceiling_mg=2500), week_of(potassium_day(RENAL),
        potassium_ceiling_mg=2800),
    ),
    "potassium-unknown": (
        week_of(day_of(RENAL, (replace(OATS, per_100g={**OATS.per_100g, "potassium_mg": None}),
        50)), potassium_ceiling_mg=2500),
        week_of(day_of(RENAL, (OATS, 50)), potassium_ceiling_mg=2500),
    ),
    "brazil-nuts": (week_of(day_of(NOBODY, ("brazil-nuts", 25))), week_of(day_of(NOBODY,
    ("brazil-nuts", 15)))),
    "iodine-seaweed": (week_of(day_of(NOBODY, ("kombu-dried", 1))), week_of(day_of(NOBODY, PALE))),
    "upper-level": (
        week_of(day_of(replace(ADULT, supplements={"vitamin_d_ug": 101.0}), PALE)),
        week_of(day_of(replace(ADULT, supplements={"vitamin_d_ug": 99.0}), PALE)),
    ),
    "soy-thyroid": (
        week_of(day_of(having("thyroid-medicine"), PALE, soy_meals=("Lunch",))),
        week_of(day_of(having("thyroid-medicine"), PALE)),
    ),
    "thyroid-breakfast": (
        week_of(day_of(having("thyroid-medicine"), PALE, first_meal=("Breakfast",
        meal_of(having("thyroid-medicine"), ("coffee-brewed", 200))))),
        week_of(day_of(having("thyroid-medicine"), PALE, first_meal=("Breakfast",
        meal_of(having("thyroid-medicine"), PALE)))),
    ),
    "fibre-jump": (  # these oats hold 9.4 g of fibre in 100 g: 28.2 g
        week_of(day_of(NOBODY, (OATS, 300)), fibre_before_g=18), week_of(day_of(NOBODY, (OATS,
        300)), fibre_before_g=19),
    ),
    "b12": (
        week_of(day_of(replace(NURSING, supplements={"vitamin_b12_ug": 2.7}), PALE)),
        week_of(day_of(replace(NURSING, supplements={"vitamin_b12_ug": 2.8}), PALE)),
    ),
    "iodine": (week_of(day_of(ADULT, PALE)), week_of(day_of(replace(ADULT,
    supplements={"iodine_ug": 1.0}), PALE))),
}  # fmt: skip


def codes_of(*modules: Any) -> set[str]:
    """Every code that a module's source gives to a verdict; the codes of conditions come from their
    table.
    """
    found: set[str] = set()
    for module in modules:
        source = inspect.getsource(module)
        found |= set(re.findall(r'Verdict\(\s*"([a-z0-9-]+)"', source))
        found |= set(re.findall(r'\("[a-z-]+", "([a-z]+)", "(?:note|warn|serious)"\)', source))
        found |= set(re.findall(r'"([a-z-]+-swing)"', source))
    return found


class Registry(unittest.TestCase):
    """Both ways, for every code of every scope."""

    def test_clients(self) -> None:
        for code, (yes, no) in CLIENTS.items():
            with self.subTest(code):
                self.assertIn(code, {v.code for v in of_client(**yes)})
                if code != "vegan-supplements":
                    self.assertNotIn(code, {v.code for v in of_client(**no)})

    def test_meals_days_and_weeks(self) -> None:
        for scope, cases, raise_all in (
            ("meal", MEALS, registry.meal_cautions), ("day", DAYS, registry.day_cautions), ("week",
            WEEKS, registry.week_cautions),
        ):  # fmt: skip
            for code, (yes, no) in cases.items():
                with self.subTest(scope=scope, code=code):
                    self.assertIn(code, {v.code for v in raise_all(yes)})
                    self.assertNotIn(code, {v.code for v in raise_all(no)})

    def test_every_condition_that_raises_a_caution_says_how_grave_it_is(self) -> None:
        wrong = {
            one.key: one.severity
            for one in conditions().values()
            if one.code and one.severity not in SEVERITIES
        }
        self.assertEqual(wrong, {})

    def test_no_code_is_without_its_cases_and_its_words(self) -> None:
        condition_codes = {one.code for one in conditions().values() if one.code}
        written = codes_of(client_rules)
        self.assertEqual(written | condition_codes, set(CLIENTS))
        of_food = codes_of(food_rules, exclusions) - {
            "not-suggested"
        }  # tried in test_exclusions: only when suggesting
        self.assertEqual(of_food - set(MEALS) - set(DAYS), set())
        self.assertEqual(codes_of(week_rules) - set(WEEKS), set())
        self.assertEqual(
            (written | of_food | codes_of(week_rules) | {"not-suggested"}) - set(WORDS), set()
        )
        self.assertEqual(
            set(WORDS) - written - of_food - codes_of(week_rules) - {"not-suggested"}, set()
        )

    def test_every_rule_of_the_modules_is_registered(self) -> None:
        listed = {rule.__name__ for rules in registry.RULES.values() for rule in rules}
        for module in (client_rules, food_rules, week_rules):
            for name, function in inspect.getmembers(module, inspect.isfunction):
                if (
                    not name.startswith("_")
                    and function.__module__ == module.__name__
                    and "Iterator[Verdict]" in str(function.__annotations__.get("return"))
                ):
                    self.assertIn(name, listed, f"{module.__name__}.{name} is asked by nobody")

    def test_each_says_what_and_what_to_do(self) -> None:
        raised = [v for yes, _ in CLIENTS.values() for v in of_client(**yes)]
        raised += [v for yes, _ in MEALS.values() for v in registry.meal_cautions(yes)]
        raised += [v for yes, _ in DAYS.values() for v in registry.day_cautions(yes)]
        raised += [v for yes, _ in WEEKS.values() for v in registry.week_cautions(yes)]
        for verdict in raised:
            with self.subTest(verdict.key):
                self.assertTrue(
                    verdict.text and verdict.action and verdict.short and verdict.source
                )
                self.assertNotRegex(
                    verdict.text + verdict.action + verdict.short, r"[{}()]\)|\{|\('|None"
                )
                self.assertIn(verdict.severity, SEVERITIES)
                self.assertLessEqual(len(verdict.key), 80)

    def test_the_gravest_come_first(self) -> None:
        found = registry.meal_cautions(
            meal_of(
                replace(SOY, conditions=frozenset({"mao-inhibitor"})),
                ("tempeh", 100),
                ("brazil-nuts", 30),
            )
        )
        self.assertEqual([v.code for v in found][:3], ["allergen", "tyramine", "brazil-nuts"])


class Details(unittest.TestCase):
    """What the table above does not try."""

    def test_b12_by_life_stage(self) -> None:
        self.assertEqual(
            [c.b12_need_ug for c in (NOBODY, ADULT, PREGNANT, NURSING)], [2.4, 2.4, 2.6, 2.8]
        )
        child = client_facts(Person("female", 6, 116, 21))
        self.assertEqual((child.b12_need_ug, child.iodine_upper_ug), (1.2, 300))

    def test_unfortified_yeast_counts_nothing(self) -> None:
        yeast = SHELF.food("nutritional-yeast")
        plain = (
            next(f for f in SHELF if f.family == yeast.family and not f.fortified)
            if any(f.family == yeast.family and not f.fortified for f in SHELF)
            else replace(yeast, fortified=False)
        )
        fortified = registry.day_cautions(day_of(ADULT, (yeast, 20)))
        unfortified = registry.day_cautions(day_of(ADULT, (replace(plain, fortified=False), 20)))
        self.assertNotIn("b12", {v.code for v in fortified})
        self.assertIn("b12", {v.code for v in unfortified})

    def test_upper_levels_of_supplements_leave_food_out(self) -> None:
        """Magnesium: 350 mg from supplements alone (IOM 1997); food brings as much as it likes."""
        seeds = day_of(ADULT, ("pumpkin-seeds", 150))
        self.assertGreater(seeds.total["magnesium_mg"].amount, 700)
        self.assertNotIn("upper-level-magnesium_mg", {v.key for v in registry.day_cautions(seeds)})
        pills = day_of(replace(ADULT, supplements={"magnesium_mg": 351.0}), PALE)
        self.assertIn("upper-level-magnesium_mg", {v.key for v in registry.day_cautions(pills)})

    def test_food_and_supplement_are_added_for_the_upper_level(self) -> None:
        """Selenium: 400 µg a day in all."""
        nuts = ("brazil-nuts", 15)  # some 288 µg
        food_only = registry.day_cautions(day_of(ADULT, nuts))
        both = registry.day_cautions(
            day_of(replace(ADULT, supplements={"selenium_ug": 200.0}), nuts)
        )
        self.assertNotIn("upper-level-selenium_ug", {v.key for v in food_only})
        self.assertIn("upper-level-selenium_ug", {v.key for v in both})

    def test_lines_not_read_open_the_allergens(self) -> None:
        found = registry.meal_cautions(meal_of(PEANUT, ("white-rice-cooked", 100), unread=2))
        opened = next(v for v in found if v.code == "allergens-open")
        self.assertEqual((opened.measure, opened.params["unread"]), (2.0, 2))
        coeliac = registry.meal_cautions(
            meal_of(having("coeliac"), ("white-rice-cooked", 100), unread=1)
        )
        self.assertIn("allergens-open", {v.code for v in coeliac})

    def test_unknown_potassium_is_named_and_not_taken_for_none(self) -> None:
        blank = replace(OATS, per_100g={**OATS.per_100g, "potassium_mg": None})
        found = registry.meal_cautions(meal_of(having("dialysis"), (blank, 50)))
        self.assertEqual(
            next(v for v in found if v.code == "potassium-foods").params["unknown"], (OATS.name,)
        )

    def test_a_jump_of_fibre_begins_above_ten_grams(self) -> None:
        self.assertIsNone(week_rules.jump_verdict(20, 30))
        self.assertAlmostEqual(week_rules.jump_verdict(20, 30.5).measure, 10.5)

    def test_nothing_known_is_no_swing(self) -> None:
        def day(amount: float | None) -> DayFacts:
            made = day_of(WARFARIN, PALE)
            figure = replace(made.total["vitamin_k_ug"], amount=amount)
            figures = {**made.total.figures, "vitamin_k_ug": figure}
            return replace(made, total=Composition(made.total.grams, figures))

        for one, two, raised in ((100.0, 40.0, True), (100.0, 50.0, False), (100.0, 151.0, True),
            (100.0, None, False),
                                 (None, 100.0, False), (0.0, 100.0, False)):  # fmt: skip
            found = {v.code for v in registry.week_cautions(week_of(day(one), day(two)))}
            self.assertEqual("vitamin-k-swing" in found, raised, (one, two))

    def test_an_acknowledged_caution_comes_back_when_it_gets_worse(self) -> None:
        verdict = Verdict("potassium-foods", "warn", measure=1200)
        self.assertFalse(verdict.comes_back(1200))
        self.assertFalse(verdict.comes_back(1190))
        self.assertTrue(verdict.comes_back(1100))

    def test_a_note_of_a_clinician_is_named(self) -> None:
        found = next(
            v
            for v in of_client(pregnant=True, goal="lose", deficit_note=NOTE)
            if v.code == "deficit-by-clinician"
        )
        self.assertIn("Dr M. Example, 2026-11-02", found.text)
