"""A bowl that lost a food is not called by it: names as a colleague would write them."""

from __future__ import annotations

import unittest

from dietetics.composition.foods import load_shelf
from dietetics.dishes.pattern_names import Called, called_food, fitting_name
from dietetics.dishes.patterns import Option, Role, draw

SHELF = load_shelf()
DISHES = {
    "batch:1": "Baked tofu", "batch:2": "Three bean salad", "batch:3": "Red lentil and carrot soup",
    "batch:4": "White bean and kale soup", "batch:5": "Brown lentil and mushroom stew",
}  # fmt: skip


def called(what: str) -> Called:
    """What a food of the shelf or one of the dishes is called."""
    if what in DISHES:
        return Called(DISHES[what], (DISHES[what],))
    return called_food(SHELF.food(what))


def drawn_name(name: str, *roles: str, against: str = "") -> str:
    """What a pattern is called when the foods of `against` may not come in; a role is written as
    its options, the favoured one first.
    """
    made = [
        Role("part", tuple(Option(what, "1 cup") for what in options.split())) for options in roles
    ]
    drawn = draw(made, lambda what: "allergy" if what in against.split() else "", str)
    return fitting_name(name, drawn, called)


class Names(unittest.TestCase):
    def test_what_nothing_replaced_keeps_its_name(self) -> None:
        roles = ("sweet-potato-baked", "tofu-firm butter-beans-canned")
        self.assertEqual(
            drawn_name("Tofu and sweet potato plate", *roles), "Tofu and sweet potato plate"
        )
        self.assertEqual(drawn_name("Monday bowl", *roles, against="tofu-firm"), "Monday bowl")

    def test_what_came_in_its_place_is_named(self) -> None:
        for name, roles, against, expected in (
            ("Tofu and sweet potato plate", ("sweet-potato-baked", "tofu-firm butter-beans-canned"),
             "tofu-firm", "Butter beans and sweet potato plate"),
            ("Soba noodles with tofu", ("soba-cooked rice-noodles-cooked", "tofu-firm"),
             "soba-cooked", "Rice noodles with tofu"),
            ("Soba noodles with tofu", ("soba-cooked rice-noodles-cooked", "tofu-firm tempeh"),
             "soba-cooked tofu-firm", "Rice noodles with tempeh"),
            ("Edamame rice bowl", ("brown-rice-cooked", "edamame-frozen butter-beans-canned"),
             "edamame-frozen", "Butter bean rice bowl"),
            ("Muesli with soy yoghurt", ("rolled-oats-dry", "soy-yogurt pea-milk"),
             "soy-yogurt", "Muesli with pea milk"),
            ("Apple, nuts and soy milk",
             ("apple-raw", "walnuts pumpkin-seeds", "soy-milk-unsweetened"), "walnuts",
             "Apple, pumpkin seeds and soy milk"),
            ("Baked tofu bowl", ("batch:1 batch:2",), "batch:1", "Three bean salad bowl"),
            ("Nuts and dates", ("walnuts peanuts-roasted", "dates-medjool"), "walnuts",
             "Peanuts and dates"),
            ("Peanut rice noodles", ("rice-noodles-cooked", "peanut-butter tahini"),
             "peanut-butter", "Tahini rice noodles"),
            ("Red lentil soup meal", ("batch:3 batch:4",), "batch:3",
             "White bean and kale soup meal"),
            ("Warm lentil salad bowl", ("batch:5 chickpeas-cooked",), "batch:5",
             "Warm chickpea salad bowl"),
        ):  # fmt: skip
            self.assertEqual(drawn_name(name, *roles, against=against), expected, name)

    def test_what_is_still_held_stays(self) -> None:
        """Beans are beans and pasta is pasta, and a colour alone names no food."""
        for name, roles, against in (
            ("Big salad with beans", ("chickpeas-cooked kidney-beans-cooked",), "chickpeas-cooked"),
            ("Pasta with tomato", ("whole-wheat-pasta-cooked corn-pasta-cooked", "tomato-raw"),
             "whole-wheat-pasta-cooked"),
            ("Red lentil soup", ("red-lentils-cooked", "red-pepper-raw carrot-raw"),
             "red-pepper-raw"),
            ("Nuts and dates", ("walnuts pecans", "dates-medjool"), "walnuts"),
        ):  # fmt: skip
            self.assertEqual(drawn_name(name, *roles, against=against), name)

    def test_what_nothing_replaces_is_left_out(self) -> None:
        roles = ("brown-rice-cooked", "eggplant-cooked", "olive-oil")
        name = "Brown rice with aubergine and olive oil"
        self.assertEqual(drawn_name(name, *roles, against="olive-oil"), "Brown rice with aubergine")
