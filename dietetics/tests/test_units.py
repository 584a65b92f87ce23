"""Units against their definitions, and grams to a measure and back."""

from __future__ import annotations

import unittest
from pathlib import Path

from hypothesis import given
from hypothesis import strategies as st

from dietetics.amounts.grammar import by_grammar, plain_amount
from dietetics.amounts.tokens import clean, tokenise
from dietetics.amounts.units import UNITS, US_HOUSEHOLD, WORDS, Household, millilitres
from dietetics.amounts.weighing import Scales
from dietetics.composition.foods import load_shelf
from dietetics.dishes.portions import first_portion, read_portion, stepped
from dietetics.errors import DieteticsError

SHELF = load_shelf()
SCALES = Scales(SHELF)


class Definitions(unittest.TestCase):
    """NIST Handbook 44, appendix C: the US customary measures."""

    def test_us_volumes(self) -> None:
        spoon, table, cup = (millilitres(UNITS[k], US_HOUSEHOLD) for k in ("tsp", "tbsp", "cup"))
        self.assertAlmostEqual(table, 3 * spoon)
        self.assertAlmostEqual(cup, 16 * table)
        self.assertAlmostEqual(cup, 236.588, places=3)
        self.assertAlmostEqual(UNITS["fl-oz"].worth, cup / 8, places=3)
        self.assertAlmostEqual(UNITS["pint"].worth, 2 * cup, places=2)
        self.assertAlmostEqual(UNITS["quart"].worth, 4 * cup, places=2)
        self.assertAlmostEqual(UNITS["gallon"].worth, 16 * cup, places=1)

    def test_weights(self) -> None:
        self.assertAlmostEqual(UNITS["lb"].worth, 16 * UNITS["oz"].worth, places=2)
        self.assertAlmostEqual(UNITS["oz"].worth, 28.349523125, places=4)
        self.assertEqual(UNITS["kg"].worth, 1000)

    def test_metric_household(self) -> None:
        metric = Household.metric()
        self.assertEqual(
            [millilitres(UNITS[k], metric) for k in ("tsp", "tbsp", "cup")], [5, 15, 250]
        )

    def test_no_spelling_belongs_to_two_units(self) -> None:
        for word, unit in WORDS.items():
            self.assertEqual(unit, UNITS[unit.key], word)


class ThereAndBack(unittest.TestCase):
    """Grams to a measure and back give the same grams."""

    @given(
        st.sampled_from(sorted(SHELF.foods)),
        st.sampled_from(["cup", "tbsp", "tsp", "g", "oz", "ml"]),
        st.integers(1, 40),
    )
    def test_portions_are_proportional(self, key: str, unit: str, quarters: int) -> None:
        food = SHELF.food(key)
        one = read_portion(f"1 {unit}", food, SCALES).weight.grams
        many = read_portion(f"{quarters / 4:g} {unit}", food, SCALES)
        self.assertAlmostEqual(many.weight.grams, one * quarters / 4, delta=1e-6 * one * quarters)
        self.assertLessEqual(many.weight.low, many.weight.grams + 1e-9)
        self.assertGreaterEqual(many.weight.high, many.weight.grams - 1e-9)

    @given(st.sampled_from(sorted(SHELF.foods)), st.integers(-3, 6))
    def test_a_step_up_and_a_step_down_return(self, key: str, steps: int) -> None:
        food = SHELF.food(key)
        start = first_portion(food, SCALES)
        up = read_portion(stepped(start.amount, start.unit, 7), food, SCALES)
        moved = read_portion(stepped(up.amount, up.unit, steps), food, SCALES)
        back = read_portion(stepped(moved.amount, moved.unit, -steps), food, SCALES)
        self.assertAlmostEqual(back.weight.grams, up.weight.grams, delta=0.02 * up.weight.grams)

    def test_check_values_of_the_trade(self) -> None:
        """Common practice: 1 tsp salt 6 g and about 2,325 mg sodium; 1 tbsp oil 13.5 g and about
        120 kcal.
        """
        salt = read_portion("1 tsp", SHELF.food("salt-table"), SCALES).weight.grams
        self.assertAlmostEqual(
            salt * SHELF.food("salt-table").per_100g["sodium_mg"] / 100, 2325, delta=5
        )
        oil = read_portion("1 tbsp", SHELF.food("olive-oil"), SCALES).weight.grams
        self.assertAlmostEqual(
            oil * SHELF.food("olive-oil").per_100g["energy_kcal"] / 100, 120, delta=2
        )
        quinoa = read_portion("6 fl oz", SHELF.food("quinoa-cooked"), SCALES).weight.grams
        self.assertAlmostEqual(quinoa, 139, delta=1)
        self.assertAlmostEqual(quinoa * 4.4 / 100, 6, delta=0.2)

    def test_refused_portions(self) -> None:
        food = SHELF.food("quinoa-cooked")
        for text in (
            "",
            "plenty",
            "-2 cups",
            "0 cups",
            "1 cup or so of it",
            "1/0 cup",
            "21 kg",
            "2 sheets",
        ):
            with self.assertRaises(DieteticsError, msg=text):
                read_portion(text, food, SCALES)


class PlainAmounts(unittest.TestCase):
    """The short way round the grammar gives what the grammar gives, on every line of the corpora
    and from every place in it.
    """

    def test_same_as_the_whole_grammar(self) -> None:
        taken = 0
        for path in sorted((Path(__file__).parent / "corpus").rglob("*.txt")):
            for line in path.read_text(encoding="utf-8").splitlines():
                tokens = tokenise(clean(line.split("|")[0]))
                for place in range(len(tokens)):
                    plain = plain_amount(tokens[place:])
                    if plain is not None:
                        taken += 1
                        self.assertEqual(plain, by_grammar(tokens[place:]), f"{line} from {place}")
        self.assertGreater(taken, 500)
