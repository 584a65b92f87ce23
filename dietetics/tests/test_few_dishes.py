"""Weeks of a newcomer: one, two or three dishes a meal. An empty meal is the last resort.

The most meals that can be filled are counted here by hand from the rules of each case (a dish once
a day at `apart` 1, every other day at 2, `most_uses` a week; a cold dish on a travel day), never
by the program.
"""

from __future__ import annotations

import unittest
from collections.abc import Mapping
from dataclasses import replace

from dietetics.targets.windows import Window
from dietetics.week.question.answer import Answer
from dietetics.week.question.empty_meals import too_few_mains
from dietetics.week.question.question import BatchFacts, Offer, Question, Rules, SlotMeal
from dietetics.week.question.recheck import broken_rules
from dietetics.week.question.usual_limits import with_usual_limits
from dietetics.week.search.improving import first_week

FOUR_MEALS = (
    SlotMeal("Breakfast", 0.25, 0.25, main=False),
    SlotMeal("Lunch", 0.35, 0.35),
    SlotMeal("Dinner", 0.3, 0.3),
    SlotMeal("Snack", 0.1, 0.1, main=False),
)
WINDOWS = (
    Window("energy_kcal", 1700, 1900, "should"),
    Window("protein_g", 70, None, "should"),
    Window("sodium_mg", None, 1500, "must"),
)
HOME = ("home",) * 7
SERVINGS = 6.0  # of a pot


def dish(key: str, meals: str, energy: float, **more: object) -> Offer:
    """A dish of so much energy; 'L D' are the first letters of its meals."""
    names = frozenset(meal.name for meal in FOUR_MEALS if meal.name[0] in meals.split())
    amounts = {"energy_kcal": energy, "protein_g": energy * 0.04, "sodium_mg": energy * 0.6}
    given: dict[str, object] = {"most_uses": 14, "apart": 1, **more}
    return Offer(key, key.title(), names, amounts, energy / 1.1, **given)  # type: ignore[arg-type]


def pot_of(key: str, keeps_days: int = 4) -> dict[str, object]:
    """What a dish takes of its own pot."""
    return {"own": {key: 1 / SERVINGS}}


class FewDishes(unittest.TestCase):
    """The meals that stay empty are those that no rule lets be filled."""

    def planned(
        self,
        offers: tuple[Offer, ...],
        filled: Mapping[str, int],
        kinds: tuple[str, ...] = HOME,
        pots: tuple[BatchFacts, ...] = (),
        rules: Rules | None = None,
    ) -> Answer:
        """A good week, in which each meal is filled so often."""
        question = Question(
            kinds, FOUR_MEALS, WINDOWS, offers, pots, (), rules or Rules(different=4)
        )
        found = first_week(question)
        self.assertEqual(broken_rules(found), [])
        counts = dict.fromkeys(filled, 0)
        for (_, meal), choice in found.chosen.items():
            name = FOUR_MEALS[meal].name
            group = next((one for one in filled if name[0] in one.split()), "")
            if group and choice.dish >= 0:
                counts[group] += 1
        self.assertEqual(counts, dict(filled))
        return found

    def test_one_fresh_dish_for_both_main_meals_comes_once_a_day(self) -> None:
        for energy in (284.0, 420.0, 900.0):
            with self.subTest(energy=energy):
                self.planned((dish("stew", "L D", energy),), {"L D": 7, "B": 0, "S": 0})

    def test_one_dish_that_may_come_twice_a_day_fills_both(self) -> None:
        for energy in (284.0, 600.0, 900.0):
            with self.subTest(energy=energy):
                self.planned((dish("stew", "L D", energy, apart=0),), {"L D": 14})

    def test_a_dish_every_other_day_comes_four_times(self) -> None:
        self.planned((dish("stew", "L D", 600, apart=2),), {"L D": 4})
        self.planned((dish("stew", "L D", 600, apart=3),), {"L D": 3})

    def test_never_oftener_than_said(self) -> None:
        self.planned((dish("stew", "L D", 600, most_uses=5),), {"L D": 5})

    def test_one_dish_a_meal(self) -> None:
        offers = (dish("oats", "B", 420), dish("salad", "L", 600), dish("stew", "D", 560),
                  dish("pear", "S", 150))  # fmt: skip
        self.planned(offers, {"B": 7, "L": 7, "D": 7, "S": 7})

    def test_two_dishes_a_meal(self) -> None:
        offers = (
            dish("oats", "B", 420),
            dish("toast", "B", 380),
            dish("salad", "L D", 600),
            dish("stew", "L D", 560),
            dish("pear", "S", 150),
            dish("nuts", "S", 180),
        )
        self.planned(offers, {"B": 7, "L D": 14, "S": 7})
        often = tuple(
            dish(one, "L D", 600, most_uses=4, apart=2) for one in ("salad", "stew", "curry")
        )
        # every other day four times is Mon, Wed, Fri, Sun: two fill those, the third comes thrice
        self.planned(often, {"L D": 11})

    def test_a_dish_that_bursts_a_limit_still_fills_the_meal(self) -> None:
        """540 mg of sodium in each of four meals, 2,160 on a day of 1,500: told, not left out."""
        offers = tuple(dish(name, name[0].upper(), 900) for name in ("b", "l", "d", "s"))
        self.planned(offers, {"B": 7, "L": 7, "D": 7, "S": 7})

    def test_one_pot_feeds_the_week(self) -> None:
        """Cooked Sunday and Wednesday, kept four days: something of it is there at every meal."""
        soup = dish("soup", "L D", 500, apart=0, **pot_of("soup"))
        pots = (BatchFacts("soup", "Soup", 4),)
        self.planned((soup,), {"L D": 14}, pots=pots)
        # cooked on Sunday alone and kept two days it is there on Monday and Tuesday
        short = (BatchFacts("soup", "Soup", 2),)
        once = Rules(cooking_days=(-1,), different=4)
        self.planned((soup,), {"L D": 4}, pots=short, rules=once)

    def test_travel_days_stay_empty_where_nothing_travels(self) -> None:
        kinds = ("home", "travel", "home", "travel", "home", "off", "home")
        warm = dish("stew", "L D", 600, apart=0, travels=False)
        self.planned((warm,), {"L D": 8}, kinds)
        cold = dish("salad", "L", 500)
        self.planned((warm, cold), {"L D": 10}, kinds)


class MainsWanted(unittest.TestCase):
    def test_fewer_dishes_than_wanted_are_counted_free_choices_apart(self) -> None:
        mains = [dish(f"d{n}", "L D", 600) for n in range(3)]
        free = replace(dish("free-3", "D", 600), least_uses=1)
        for offers, wanted, told in (
            (mains, 4, (["Lunch", "Dinner"], 3, 4)),
            ([*mains, dish("oats", "B", 400)], 4, (["Lunch", "Dinner"], 3, 4)),
            (mains, 3, None),
            (mains, None, None),
            ([*mains, free], 4, None),  # the free choice raised what was wanted by one
            ([*mains, free], 5, (["Lunch", "Dinner"], 3, 4)),
        ):
            question = Question(HOME, FOUR_MEALS, WINDOWS, tuple(offers),
                                rules=Rules(different=wanted))  # fmt: skip
            self.assertEqual(too_few_mains(question), told)


class UsualLimits(unittest.TestCase):
    """What may be repeated when nobody said how often."""

    BOTH = ("most_uses", "apart")

    def limits(
        self, *offers: Offer, kinds: tuple[str, ...] = HOME, unsaid: tuple[str, ...] = BOTH
    ) -> dict[str, tuple[int, int]]:
        """How often, and how many days apart, by dish."""
        question = Question(kinds, FOUR_MEALS, WINDOWS, offers)
        found = with_usual_limits(question, {offer.key: unsaid for offer in offers})
        return {offer.key: (offer.most_uses, offer.apart) for offer in found.offers}

    def test_one_main_dish_comes_for_lunch_and_dinner_of_every_day(self) -> None:
        self.assertEqual(self.limits(dish("stew", "L D", 600)), {"stew": (14, 0)})

    def test_two_main_dishes_share_the_week_and_come_once_a_day(self) -> None:
        found = self.limits(dish("stew", "L D", 600), dish("salad", "L D", 500))
        self.assertEqual(found, {"stew": (7, 1), "salad": (7, 1)})

    def test_where_there_are_many_a_main_dish_comes_four_times(self) -> None:
        found = self.limits(*(dish(f"d{n}", "L D", 600) for n in range(6)))
        self.assertEqual(set(found.values()), {(4, 1)})

    def test_an_only_snack_comes_every_day_and_two_breakfasts_take_turns(self) -> None:
        found = self.limits(dish("oats", "B", 400), dish("toast", "B", 400), dish("pear", "S", 90))
        self.assertEqual(found, {"oats": (4, 1), "toast": (4, 1), "pear": (7, 1)})

    def test_the_one_dish_that_travels_comes_twice_on_a_travel_day(self) -> None:
        kinds = ("home", "travel", "travel", "home", "home", "home", "home")
        warm = [dish(f"warm{n}", "L D", 600, travels=False) for n in range(4)]
        found = self.limits(*warm, dish("salad", "L D", 500), kinds=kinds)
        # four meals on the two days alone, and its fifth of the ten others
        self.assertEqual(found["salad"], (6, 0))
        self.assertEqual(found["warm0"], (4, 1))

    def test_what_was_said_is_kept(self) -> None:
        found = self.limits(dish("stew", "L D", 600, most_uses=3), unsaid=())
        self.assertEqual(found, {"stew": (3, 1)})
        found = self.limits(dish("stew", "L D", 600, most_uses=3), unsaid=("most_uses",))
        self.assertEqual(found, {"stew": (14, 1)})
