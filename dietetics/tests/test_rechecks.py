"""The checks that every answer passes before it is seen, tried with bad bowls and bad weeks: one
for each rule.
"""

from __future__ import annotations

import unittest
from dataclasses import replace
from unittest import mock

from dietetics.balance import answer as answers
from dietetics.balance.answer import BALANCED, CLOSEST, balance, checked_answer
from dietetics.balance.question import Part, Question, nutrient_rule
from dietetics.balance.recheck import Claim, broken_rules
from dietetics.composition.foods import Food, load_shelf
from dietetics.composition.sums import FoodContent, Item
from dietetics.dishes.adapting import Substitution, changed_items, checked_fitting
from dietetics.errors import BrokenAnswerError
from dietetics.targets.windows import Window
from dietetics.week.question.answer import Answer, answer_of
from dietetics.week.question.question import BatchFacts, Choice, Offer, Rules, SlotMeal
from dietetics.week.question.question import Question as WeekQuestion
from dietetics.week.question.recheck import broken_rules as broken_week
from dietetics.week.question.recheck import checked_week
from dietetics.week.search import menu_search
from dietetics.week.search.improving import first_week

SHELF = load_shelf()
RICE: Food = replace(
    SHELF.food("white-rice-cooked"),
    per_100g={
        **SHELF.food("white-rice-cooked").per_100g,
        "energy_kcal": 130.0,
        "sodium_mg": 1.0,
        "protein_g": 2.7,
    },
)


def part(key: str = "1", food: Food = RICE, **changes: object) -> Part:
    """200 g of rice on steps of 50 g between 50 and 400 g."""
    facts = {"key": key, "name": food.name, "content": FoodContent(food), "foods": ((food, 1.0),),
        "group": food.group,
             "ml_per_g": 1.2, "unit": "g", "grams_per_unit": 1.0, "step": 50.0, "least": 50.0,
             "most": 400.0, "prefer": 200.0,
             **changes}  # fmt: skip
    return Part(**facts)


ENERGY = nutrient_rule(Window("energy_kcal", 240, 300, "must"))  # 200 g of rice are 260 kcal
IN = [Claim("energy_kcal", "in")]


def codes(
    question: Question, amounts: tuple[float, ...], claims: list[Claim] = IN, balanced: bool = True
) -> list[str]:
    """What is found broken."""
    return broken_rules(question, amounts, claims, balanced)


class BadBowls(unittest.TestCase):
    """Each rule with an answer that breaks it, and one that does not."""

    def test_a_sound_answer(self) -> None:
        self.assertEqual(codes(Question((part(),), (ENERGY,)), (200.0,)), [])

    def test_each_rule(self) -> None:
        blank = replace(RICE, per_100g={**RICE.per_100g, "sodium_mg": None})
        salt = nutrient_rule(Window("sodium_mg", None, 500, "must"))
        known_floor = nutrient_rule(Window("sodium_mg", 0.5, None, "must"))
        for name, question, amounts, claims, wanted in (
            ("a portion is missing", Question((part(), part("2")), (ENERGY,)), (200.0,), IN,
            "a portion for every part"),
            ("below zero", Question((part(least=-50.0),), ()), (-50.0,), [], "negative 1"),
            ("kept out and there", Question((part(kept_out="soy"),), ()), (200.0,), [],
            "kept-out 1"),
            ("locked and moved", Question((part(locked=True),), ()), (250.0,), [], "locked 1"),
            ("no whole step", Question((part(),), ()), (210.0,), [], "step 1"),
            ("under its least", Question((part(),), ()), (0.0,), [], "limit 1"),
            ("over its most", Question((part(),), ()), (450.0,), [], "limit 1"),
            ("a rule nobody judged", Question((part(),), (ENERGY,)), (200.0,), [],
            "not-judged energy_kcal"),
            ("in and short", Question((part(),), (ENERGY,)), (150.0,), IN,
            "in-and-short energy_kcal"),
            ("in and over", Question((part(),), (ENERGY,)), (250.0,), IN,
            "in-and-over energy_kcal"),
            ("a ceiling of what is not known", Question((part(food=blank),), (salt,)), (200.0,),
            [Claim("sodium_mg", "in")],
             "in-and-not-known sodium_mg"),
            ("nothing to judge a density by", Question((part(least=0.0),),
            (nutrient_rule(Window("kcal_per_g", None, 1.5)),)),
             (0.0,), [Claim("kcal_per_g", "in")], "in-and-unknown kcal_per_g"),
            ("a floor of what is half known", Question((part(food=blank), part("2")), (known_floor,
            )), (200.0, 200.0),
             [Claim("sodium_mg", "in")], ""),
        ):  # fmt: skip
            with self.subTest(name):
                self.assertEqual(
                    codes(question, amounts, claims, balanced=False), [wanted] if wanted else []
                )

    def test_balanced_is_not_said_of_what_is_missed(self) -> None:
        question = Question((part(),), (ENERGY,))
        for state in ("short", "over", "unknown"):
            self.assertEqual(
                codes(question, (200.0,), [Claim("energy_kcal", state)]),
                ["balanced-and-missed energy_kcal"],
            )
        watched = Question((part(),), (replace(ENERGY, importance="watch"),))
        self.assertEqual(codes(watched, (200.0,), [Claim("energy_kcal", "short")]), [])

    def test_a_portion_off_the_grid_may_stay(self) -> None:
        self.assertEqual(codes(Question((part(prefer=210.0),), ()), (210.0,), []), [])

    def test_every_balance_passes_it_and_a_broken_solver_is_noticed(self) -> None:
        question = Question((part(),), (ENERGY,))
        good = balance(question)
        self.assertEqual(good.status, BALANCED)
        self.assertIs(checked_answer(good), good)
        with (
            self.assertRaises(BrokenAnswerError),
            self.assertLogs("dietetics.balance.answer", "ERROR"),
        ):
            checked_answer(replace(good, amounts=(123.0,)))
        with (
            mock.patch.object(answers, "_by_class", return_value=(451.0,)),
            self.assertRaises(BrokenAnswerError),
            self.assertLogs("dietetics.balance.answer", "ERROR"),
        ):
            balance(
                Question((part(),), (nutrient_rule(Window("energy_kcal", 5000, None, "must")),))
            )

    def test_an_unjudged_ceiling_of_the_clinician_is_not_met(self) -> None:
        blank = replace(RICE, per_100g={**RICE.per_100g, "potassium_mg": None})
        rule = nutrient_rule(Window("potassium_mg", None, 700, "must"), fixed=True)
        found = balance(Question((part(food=blank),), (ENERGY, rule)))
        self.assertEqual(found.status, CLOSEST)
        self.assertEqual([s.key for s in found.unjudged], ["potassium_mg"])
        self.assertIn("unknown", found.unjudged[0].words())


MEALS = (SlotMeal("Lunch", 0.5, 0.5), SlotMeal("Dinner", 0.5, 0.5))


def offer(key: str, **changes: object) -> Offer:
    """A dish for lunch and dinner."""
    facts = {"key": key, "name": key.capitalize(), "meals": frozenset({"Lunch", "Dinner"}),
        "amounts": {"energy_kcal": 900.0},
             "grams": 600.0, **changes}  # fmt: skip
    return Offer(**facts)


def week(**changes: object) -> WeekQuestion:
    """Two days of two meals and three dishes, one of them from a pot that keeps two days after its
    evening.
    """
    facts = {"kinds": ("home", "home"), "meals": MEALS, "windows": (Window("energy_kcal", 1700,
        1900, "must"),),
             "offers": (offer("bowl"), offer("stew", own={"pot": 0.25}), offer("salad")),
             "pots": (BatchFacts("pot", "Pot", 2),),
             "rules": Rules(cooking_days=(-1,), different=None, scales=(1.0,)),
             **changes}  # fmt: skip
    return WeekQuestion(**facts)


def filled(
    question: WeekQuestion, *dishes: str, cooked: dict[tuple[str, int], float] | None = None
) -> Answer:
    """A week with these dishes cell by cell, whatever the rules say, with what was cooked for
    it.
    """
    chosen = {}
    for slot, dish in zip(question.slots, dishes, strict=True):
        place = -1 if dish == "-" else question.by_key[dish]
        uses = (
            tuple(
                (question.pot_index[pot], share)
                for pot, share in question.offers[place].own.items()
            )
            if place >= 0
            else ()
        )
        chosen[slot] = Choice(place, 1.0, tuple(0.0 for _ in question.keys), 0.0, uses)
    made = answer_of(question, chosen)
    return replace(made, cooked=made.cooked if cooked is None else cooked)


class BadWeeks(unittest.TestCase):
    """Each rule of a week with a week that breaks it."""

    def test_a_sound_week(self) -> None:
        self.assertEqual(
            broken_week(filled(week(), "bowl", "stew", "bowl", "stew", cooked={("pot", -1): 0.5})),
            [],
        )

    def test_each_rule(self) -> None:
        only_lunch = week(
            offers=(offer("bowl", meals=frozenset({"Lunch"})), offer("stew"), offer("salad"))
        )
        away = week(
            kinds=("home", "travel"),
            offers=(offer("bowl", travels=False), offer("stew"), offer("salad")),
        )
        once = week(offers=(offer("bowl", most_uses=1), offer("stew"), offer("salad")))
        apart = week(offers=(offer("bowl", apart=2), offer("stew"), offer("salad")))
        for name, question, dishes, cooked, word in (
            (
                "the wrong meal",
                only_lunch,
                ("bowl", "bowl", "stew", "salad"),
                None,
                "does not suit",
            ),
            (
                "a dish that doesn't travel",
                away,
                ("stew", "salad", "bowl", "salad"),
                None,
                "does not travel",
            ),
            ("too often", once, ("bowl", "stew", "bowl", "salad"), None, "comes 2 times"),
            ("too close", apart, ("bowl", "stew", "bowl", "salad"), None, "too close"),
            (
                "more eaten than cooked",
                week(),
                ("bowl", "stew", "bowl", "stew"),
                {("pot", -1): 0.25},
                "not cooked",
            ),
            ("nothing cooked", week(), ("stew", "bowl", "salad", "bowl"), {}, "not cooked"),
        ):
            with self.subTest(name):
                found = broken_week(filled(question, *dishes, cooked=cooked))
                self.assertTrue(any(word in one for one in found), found)

    def test_a_pot_that_went_off(self) -> None:
        """Cooked the evening before and kept two days, it is good until the second day."""
        dishes = ("bowl", "salad") * 3 + ("stew", "salad")
        one = week(kinds=("home",) * 4)
        self.assertEqual(
            broken_week(filled(one, *dishes, cooked={("pot", -1): 1.0})), []
        )  # no evening reaches it: a warning
        two = week(
            kinds=("home",) * 4, rules=Rules(cooking_days=(-1, 1), different=None, scales=(1.0,))
        )
        self.assertTrue(
            any(
                "not cooked" in one
                for one in broken_week(filled(two, *dishes, cooked={("pot", -1): 1.0}))
            )
        )
        self.assertEqual(broken_week(filled(two, *dishes, cooked={("pot", 1): 0.25})), [])

    def test_locked_cells_and_missing_meals_and_odd_portions(self) -> None:
        locked = week(locks={(0, 0): ("bowl", 1.0)})
        self.assertTrue(
            any(
                "locked" in one
                for one in broken_week(filled(locked, "salad", "stew", "salad", "bowl"))
            )
        )
        sound = filled(week(), "bowl", "salad", "bowl", "salad")
        slot = next(iter(sound.chosen))
        odd = replace(sound, chosen={**sound.chosen, slot: replace(sound.chosen[slot], scale=1.1)})
        self.assertTrue(any("not a possible portion" in one for one in broken_week(odd)))
        short = replace(sound, chosen={s: c for s, c in sound.chosen.items() if s != slot})
        self.assertIn("a meal is missing or one too many", broken_week(short))

    def test_a_search_that_returns_a_bad_week_is_noticed_and_logged(self) -> None:
        question = week()
        self.assertEqual(broken_week(first_week(question)), [])
        bad = filled(question, "stew", "stew", "stew", "stew", cooked={})
        with (
            mock.patch.object(menu_search.MenuSearch, "answer", return_value=bad),
            self.assertRaises(BrokenAnswerError),
            self.assertLogs("dietetics.week.question.recheck", "ERROR"),
        ):
            first_week(question)

    def test_points_that_do_not_add_up_are_noticed(self) -> None:
        good = first_week(week())
        with (
            self.assertRaises(BrokenAnswerError),
            self.assertLogs("dietetics.week.question.recheck", "ERROR"),
        ):
            checked_week(replace(good, points=good.points + 1))


class BadFittings(unittest.TestCase):
    """A fitted dish that is not what was promised."""

    def test_what_goes_and_comes_must_add_up(self) -> None:
        rice, salt = (
            Item.exact(n, FoodContent(SHELF.food(k)), g)
            for n, k, g in (("rice", "white-rice-cooked", 300.0), ("salt", "salt-table", 6.0))
        )
        lemon = SHELF.food("lemon-juice")
        taken = Substitution("no-salt", "lemon instead of salt", ("sodium",), ((lemon, 15.0),))
        good = changed_items([rice, salt], 1, taken)
        checked_fitting([rice, salt], salt, taken, good)
        checked_fitting([rice], None, taken, changed_items([rice], None, taken))
        for name, bad in (("the salt stayed", [rice, salt, good[1]]), ("nothing came", [rice]),
            ("too much came", [*good, good[1]]),
                          ("another food came", [rice, Item.exact("x",
                          FoodContent(SHELF.food("olive-oil")), 15.0)])):  # fmt: skip
            with (
                self.subTest(name),
                self.assertRaises(BrokenAnswerError),
                self.assertLogs("dietetics.dishes.adapting", "ERROR"),
            ):
                checked_fitting([rice, salt], salt, taken, bad)
