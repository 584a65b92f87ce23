"""Balance against a published example, against exhaustive search, and against its own promises."""

from __future__ import annotations

import itertools
import unittest
from dataclasses import replace
from unittest import mock

from hypothesis import given, settings
from hypothesis import strategies as st

from dietetics.balance import conflict
from dietetics.balance.answer import BALANCED, CLOSEST, IMPOSSIBLE, balance, stand
from dietetics.balance.conflict import all_limits, conflict_of, feasible
from dietetics.balance.fixes import ways_out
from dietetics.balance.portion_limits import most_grams, sensible_range
from dietetics.balance.question import (
    Question,
    fat_share_rule,
    nutrient_rule,
    plate_rule,
    school_rules,
)
from dietetics.balance.question_parts import part_of_food
from dietetics.balance.roles import ready
from dietetics.balance.solver import (
    GAVE_UP,
    INFEASIBLE,
    OPTIMAL,
    UNBOUNDED,
    Program,
    Solution,
    solve,
)
from dietetics.composition.sums import FoodContent, compose
from dietetics.errors import DieteticsError
from dietetics.targets.person import Person
from dietetics.targets.schools import schools
from dietetics.targets.usual_food import meal_rules
from dietetics.targets.windows import Window, judge
from dietetics.tests.balance_support import (
    NOTHING,
    SCALES,
    SHELF,
    SHOULD_GRACE,
    by_exhaustion,
    own_effort,
    own_miss,
    pantry,
    parts,
    portions,
    question,
)
from dietetics.tests.samples import LONG

TIDELINE = (
    "quinoa-cooked 1 1/2 cups; tofu-firm 140 g; edamame-frozen 1/2 cup; kale-raw 1/2 cup; "
    "avocado 1/2; tahini 1 tbsp"
)
BEANS = (
    "brown-rice-cooked 1 1/2 cups; black-beans-cooked 1/2 cup; broccoli-cooked 1 cup; "
    "avocado 1/2; lime-juice 1 tbsp"
)


class AgainstThePublishedDiet(unittest.TestCase):
    """Fourer, Gay & Kernighan, AMPL, 2nd ed., chapter 2 (from memory): 88.20, and 88.44 in whole
    packages.
    """

    COST = (3.19, 2.59, 2.29, 2.89, 1.89, 1.99, 1.99, 2.49)
    ROWS = (
        (60, 8, 8, 40, 15, 70, 25, 60),
        (20, 0, 10, 40, 35, 30, 50, 20),
        (10, 20, 15, 35, 15, 15, 25, 15),
        (15, 20, 10, 10, 15, 15, 15, 10),
    )

    def program(self, whole: bool) -> Program:
        """The example's least-cost diet."""
        made = Program()
        for cost in self.COST:
            made.variable(0, 100, cost, whole)
        for row in self.ROWS:
            made.row(dict(enumerate(map(float, row))), lower=700)
        return made

    def test_linear(self) -> None:
        found = solve(self.program(whole=False))
        self.assertEqual(found.status, OPTIMAL)
        self.assertAlmostEqual(found.objective, 88.20, places=6)
        self.assertAlmostEqual(found.values[4], 46.667, places=3)
        self.assertAlmostEqual(sum(found.values), 46.667, places=3)

    def test_whole_packages(self) -> None:
        found = solve(self.program(whole=True))
        self.assertAlmostEqual(found.objective, 88.44, places=6)
        self.assertTrue(all(value == int(value) for value in found.values))

    def test_status_is_told_apart_and_nothing_is_changed(self) -> None:
        made = self.program(whole=True)
        made.upper = [1.0] * 8
        before = (list(made.costs), list(made.upper), list(made.values))
        self.assertEqual(solve(made).status, INFEASIBLE)
        self.assertEqual((made.costs, made.upper, made.values), before)
        free = Program()
        free.variable(cost=-1.0)
        self.assertEqual(solve(free).status, UNBOUNDED)


SMALL = {
    "grain": ["quinoa-cooked", "brown-rice-cooked", "bulgur-cooked", "sweet-potato-baked"],
    "star": ["tofu-firm", "black-beans-cooked", "lentils-cooked", "tempeh", "seitan"],
    "plant": ["kale-raw", "broccoli-cooked", "carrot-raw", "zucchini-cooked", "miso-white"],
    "top": ["walnuts", "tahini", "avocado", "pumpkin-seeds", "olive-oil"],
}


@st.composite
def small_questions(draw: st.DrawFn) -> Question:
    """Three or four parts of up to six portions each, and windows that may or may not be met."""
    chosen = []
    for number, role in enumerate(draw(st.permutations(list(SMALL)))[: draw(st.integers(3, 4))]):
        part = part_of_food(str(number), SHELF.food(draw(st.sampled_from(SMALL[role]))), SCALES)
        first = draw(st.integers(0, max(0, len(part.amounts) - 6)))
        few = part.amounts[first : first + 6]
        chosen.append(replace(part, least=few[0], most=few[-1], prefer=draw(st.sampled_from(few))))
    energy, protein = draw(st.integers(150, 900)), draw(st.integers(5, 45))
    importance = st.sampled_from(("must", "should"))
    windows = [
        Window("energy_kcal", energy, energy + draw(st.integers(0, 120)), draw(importance)),
        Window("protein_g", protein, protein + draw(st.integers(1, 10)), draw(importance)),
        Window("kcal_per_g", None, draw(st.integers(6, 22)) / 10, draw(importance)),
        Window("sodium_mg", None, draw(st.integers(5, 600)), "should"),
        Window("fat_g", None, draw(st.integers(5, 40)), "watch"),
    ]
    return Question(
        tuple(chosen), tuple(nutrient_rule(w) for w in windows[: draw(st.integers(2, 5))])
    )


class AgainstExhaustion(unittest.TestCase):
    """Every set of portions of a small bowl is looked at; the solver's is as good as the best."""

    @settings(max_examples=60, deadline=None, derandomize=True)
    @given(small_questions())
    def test_same_optimum(self, asked: Question) -> None:
        answer = balance(asked, 120)  # a busy machine is no fault of the program
        must, should, least = by_exhaustion(asked)
        self.assertEqual(answer.proof, "optimal")
        self.assertAlmostEqual(own_miss(asked, "must", answer.amounts), must, places=5)
        got = own_miss(asked, "should", answer.amounts)
        self.assertLessEqual(got, should + (SHOULD_GRACE if should > NOTHING else 0.0) + 2e-6)
        self.assertAlmostEqual(own_effort(asked, answer.amounts), least, places=5)
        for part, amount in zip(asked.parts, answer.amounts, strict=True):
            self.assertIn(amount, part.amounts)
        self.assertEqual(answer.status == IMPOSSIBLE, must > NOTHING)

    @settings(max_examples=25, deadline=None, derandomize=True)
    @given(small_questions())
    def test_a_conflict_is_minimal(self, asked: Question) -> None:
        answer = balance(asked)
        found = conflict_of(answer)
        if found is None:
            return
        members = [*found.sides, *found.limits]
        self.assertFalse(feasible(asked, found.sides, found.limits))
        for left_out in members:
            sides = [side for side in found.sides if side is not left_out]
            limits = [limit for limit in found.limits if limit is not left_out]
            self.assertTrue(
                feasible(asked, sides, limits), f"{left_out} is not needed for {found.because()}"
            )


class Promises(unittest.TestCase):
    """What an answer says of itself is so."""

    WINDOWS = (
        Window("energy_kcal", 480, 560, "must"),
        Window("protein_g", 30, 36, "must"),
        Window("kcal_per_g", None, 1.4),
        Window("sodium_mg", None, 600),
    )

    def test_levels_are_judged_from_the_composition(self) -> None:
        answer = balance(question(TIDELINE, list(self.WINDOWS)))
        self.assertEqual(answer.status, BALANCED)
        for window in self.WINDOWS:
            self.assertEqual(judge(window, answer.composition[window.key]).state, "in", window)
        protein = sum(
            a * p.grams_per_unit * p.content.known_per_100g("protein_g")[0] / 100
            for p, a in zip(answer.question.parts, answer.amounts, strict=True)
        )
        self.assertAlmostEqual(answer.composition["protein_g"].amount, protein, places=9)

    def test_a_balanced_bowl_is_left_alone(self) -> None:
        answer = balance(question(TIDELINE, list(self.WINDOWS)))
        settled = tuple(
            replace(p, prefer=a) for p, a in zip(answer.question.parts, answer.amounts, strict=True)
        )
        again = balance(Question(settled, answer.question.rules))
        self.assertEqual(again.amounts, tuple(part.prefer for part in settled))

    def test_the_same_question_has_the_same_answer(self) -> None:
        asked = question(TIDELINE, list(self.WINDOWS), "training")
        self.assertEqual(len({balance(asked).amounts for _ in range(5)}), 1)

    def test_what_is_locked_stays_and_what_is_off_its_steps_may_stay(self) -> None:
        asked = question(TIDELINE.replace("1 1/2 cups", "1/3 cup"), list(self.WINDOWS), locked="1")
        answer = balance(asked)
        self.assertEqual(answer.amounts[1], 140.0)
        self.assertIn(asked.parts[0].prefer, asked.parts[0].amounts)
        steps = answer.amounts[0] / asked.parts[0].step
        self.assertTrue(
            abs(steps - round(steps)) < 1e-6 or answer.amounts[0] == asked.parts[0].prefer
        )

    def test_musts_come_before_shoulds(self) -> None:
        windows = [
            Window("protein_g", 40, None, "must"),
            Window("energy_kcal", None, 300, "should"),
        ]
        answer = balance(question(TIDELINE, windows))
        self.assertEqual(answer.status, CLOSEST)
        self.assertEqual([s.state for s in answer.standings], ["in", "over"])

    def test_an_unknown_is_never_met_by_default(self) -> None:
        unknown = next(
            f
            for f in SHELF
            if f.per_100g["potassium_mg"] is None and f.per_100g["energy_kcal"] and ready(f)
        )
        asked = question(
            f"brown-rice-cooked 1 cup; {unknown.key} 50 g", [Window("potassium_mg", None, 4000)]
        )
        answer = balance(asked)
        self.assertEqual(answer.status, CLOSEST)
        self.assertEqual(answer.standings[0].state, "unknown")
        self.assertIn("unknown", answer.standings[0].words())
        self.assertIn(unknown.name, answer.standings[0].words())

    def test_a_floor_that_the_known_part_reaches_is_met(self) -> None:
        unknown = next(
            f for f in SHELF if f.per_100g["fibre_g"] is None and f.per_100g["energy_kcal"]
        )
        asked = question(
            f"black-beans-cooked 1 cup; {unknown.key} 20 g", [Window("fibre_g", 8, None)]
        )
        self.assertEqual(balance(asked).standings[0].state, "in")


class Limits(unittest.TestCase):
    """Schools, allergens and portion sense are kept; contradictions are said in words."""

    def test_a_forbidden_food_goes_and_a_locked_one_is_a_contradiction(self) -> None:
        asked = question(BEANS + "; olive-oil 1 tbsp", [Window("energy_kcal", 400, 600, "must")])
        out = replace(asked.parts[-1], kept_out="the school leaves out oil")
        answer = balance(Question((*asked.parts[:-1], out), asked.rules))
        self.assertEqual(answer.amounts[-1], 0.0)
        locked = Question((*asked.parts[:-1], replace(out, locked=True)), asked.rules)
        stuck = balance(locked)
        self.assertEqual(stuck.status, IMPOSSIBLE)
        self.assertIn("locked", conflict_of(stuck).because())

    def test_school_rules_bind(self) -> None:
        asked = question(
            "kale-raw 2 cups; lentils-cooked 3/4 cup; quinoa-cooked 2 cups; walnuts 1 tbsp",
            [Window("energy_kcal", 400, 500, "must")],
            "greens-and-beans",
        )
        grain = dict(zip((p.name for p in asked.parts), balance(asked).amounts, strict=True))[
            "Quinoa, cooked"
        ]
        self.assertLessEqual(grain * 185, 140.5)

    def test_a_meal_weighs_no_more_than_who_eats_it_usually_eats(self) -> None:
        """900 g for most adults, 450 g from 80 years on (common practice)."""
        windows = [Window("energy_kcal", 420, 460, "must")]
        asked = question("potato-boiled 400 g; broccoli-cooked 1 cup; walnuts 1 tbsp", windows)
        for age, most in ((40, 900), (85, 450)):
            rules = [plate_rule(one) for one in meal_rules(Person("female", age, 160, 60))]
            found = balance(Question(asked.parts, (*asked.rules, *rules)))
            told = {one.key: one for one in found.standings}
            grams = sum(
                amount * part.grams_per_unit
                for part, amount in zip(asked.parts, found.amounts, strict=True)
            )
            self.assertEqual(found.status, BALANCED)
            self.assertLessEqual(grams, most * 1.05)
            self.assertAlmostEqual(told["weight"].value or 0.0, grams, places=3)
        free = balance(asked)
        self.assertGreater(stand(Question(asked.parts, tuple(rules)), free.amounts)[0].value, 450)

    def test_every_school_has_rules_that_can_be_read(self) -> None:
        self.assertTrue(all(school_rules(one) for one in schools().values()))

    def test_portion_sense(self) -> None:
        self.assertEqual(most_grams(SHELF.food("nutritional-yeast")), 20.0)
        self.assertEqual(sensible_range(1.0, 0.5, 10.0), (0.5, 3.0))
        self.assertEqual(sensible_range(5.0, 1.0, 4.0), (1.0, 5.0))
        asked = question(
            "brown-rice-cooked 1 cup; nutritional-yeast 1 tbsp",
            [Window("protein_g", 40, None, "must")],
        )
        self.assertLessEqual(balance(asked).amounts[1] * 5, 20.0)

    def test_strange_questions_are_answered_in_words(self) -> None:
        with self.assertRaisesRegex(DieteticsError, "othing to balance"):
            balance(Question((), ()))
        one = question("lentils-cooked 1 cup", [Window("protein_g", 13, 14, "must")])
        self.assertEqual(balance(one).status, BALANCED)
        all_locked = question(BEANS, [Window("protein_g", 26, None, "must")], locked="0 1 2 3 4")
        self.assertEqual(
            (balance(all_locked).status, balance(all_locked).proof), (IMPOSSIBLE, "optimal")
        )
        self.assertIn("locked", conflict_of(balance(all_locked)).because())
        with self.assertRaisesRegex(DieteticsError, "minimum is above the maximum"):
            balance(Question((replace(one.parts[0], least=3.0, most=1.0),), one.rules))
        outside = Question((replace(one.parts[0], locked=True, least=1.5, most=2.0),), one.rules)
        self.assertIn("outside its limits", conflict_of(balance(outside)).because())
        exact = question(TIDELINE, [Window("energy_kcal", 612, 612, "must")])
        self.assertIn(balance(exact).status, (BALANCED, IMPOSSIBLE))

    def test_a_solver_that_ran_out_of_time_claims_nothing(self) -> None:
        """No gap of 0 and no contradiction may come out of a search that was cut short."""
        self.assertEqual(Solution(GAVE_UP, 1e300, -1e300, (), ()).gap, float("inf"))
        asked = question(
            TIDELINE, [Window("protein_g", 30, 36, "must"), Window("energy_kcal", 480, 560, "must")]
        )
        with mock.patch.object(
            conflict, "solve", return_value=Solution(GAVE_UP, 1e300, -1e300, (), ())
        ):
            self.assertFalse(conflict.contradictory(asked, asked.sides("must"), all_limits(asked)))
            self.assertIsNone(conflict_of(balance(asked)))

    def test_fat_that_is_unknown_is_not_judged(self) -> None:
        part = question("brown-rice-cooked 1 cup", []).parts[0]
        row = replace(part.foods[0][0], per_100g={**part.foods[0][0].per_100g, "fat_g": None})
        blank = replace(part, content=FoodContent(row))
        asked = Question((blank,), (fat_share_rule(0.1, 0.3),))
        self.assertEqual([s.state for s in stand(asked, (1.0,))], ["unknown"])

    def test_as_many_parts_as_a_bowl_may_have(self) -> None:
        """Forty of them (20,000 nodes of the search) in the long form."""
        foods = [f for f in SHELF if ready(f) and f.per_100g["energy_kcal"]]
        many = tuple(
            part_of_food(str(i), food, SCALES) for i, food in enumerate(foods[: 40 if LONG else 20])
        )
        asked = Question(many, tuple(nutrient_rule(w) for w in self.windows_of(many)))
        answer = balance(asked)
        self.assertIn(answer.proof, ("optimal", "gap"))
        self.assertEqual(answer.status, BALANCED)

    def windows_of(self, many: tuple) -> list[Window]:
        """Windows that the middle portions of forty parts meet."""
        energy = sum(
            p.content.known_per_100g("energy_kcal")[0] * p.prefer * p.grams_per_unit / 100
            for p in many
        )
        return [
            Window("energy_kcal", energy * 0.9, energy * 0.95, "must"),
            Window("sodium_mg", None, 9000),
        ]


class WaysOut(unittest.TestCase):
    """What is offered does what it says."""

    CASES = (
        (BEANS, (("energy_kcal", 450, 550), ("protein_g", 30, 40)), "balanced-bowl"),
        ("oat-porridge-cooked 1 cup; blueberries-raw 1/2 cup; walnuts 1 tbsp",
         (("energy_kcal", 400, 500), ("protein_g", 20, 26)), "starch-centred"),
        (BEANS + "; olive-oil 2 tbsp", (("energy_kcal", 450, 550), ("protein_g", 18, 40)),
        "training"),
        (TIDELINE, (("energy_kcal", 300, 400), ("protein_g", 46, 55)), "training"),
    )  # fmt: skip

    def test_each_way_when_taken(self) -> None:
        kinds = set()
        for text, wanted, key in self.CASES:
            asked = question(text, [Window(*w, "must") for w in wanted], key)
            answer = balance(asked)
            found = conflict_of(answer)
            ways = ways_out(answer, found, pantry(key))
            self.assertTrue(ways, text)
            for way in ways:
                kinds.add(way.kind)
                again = balance(way.answer.question)
                self.assertEqual(again.amounts, way.answer.amounts, way.change)
                off = [
                    s.key
                    for s in stand(again.question, again.amounts)
                    if s.state in ("short", "over") and s.rule.importance == "must"
                ]
                self.assertEqual(
                    bool(off), "not enough" in way.effect, f"{way.change}: {way.effect}"
                )
        self.assertEqual(kinds, {"widen", "portion", "add", "swap"})

    def test_a_widening_is_the_least_that_helps(self) -> None:
        asked = question(
            BEANS, [Window("energy_kcal", 450, 550, "must"), Window("protein_g", 30, 40, "must")]
        )
        answer = balance(asked)
        way = next(
            w
            for w in ways_out(answer, conflict_of(answer), None)
            if w.kind == "widen" and w.end == "high"
        )
        for bound, possible in ((way.value, True), (way.value - 1, False)):
            windows = [
                Window("energy_kcal", 450, bound, "must"),
                Window("protein_g", 30, 40, "must"),
            ]
            wider = question(BEANS, windows)
            self.assertEqual(
                feasible(wider, wider.sides("must"), all_limits(wider)), possible, bound
            )

    def test_a_target_that_a_condition_asks_for_is_not_to_be_widened(self) -> None:
        asked = question(
            BEANS, [Window("energy_kcal", 450, 550, "must"), Window("protein_g", 30, 40, "must")]
        )
        answer = balance(asked)
        there = pantry()
        both = {"energy_kcal", "protein_g"}
        for minded in (frozenset[str](), frozenset({"protein_g"})):
            larder = replace(there, minded=minded)
            ways = ways_out(answer, conflict_of(answer), larder)
            self.assertEqual({way.key for way in ways if way.kind == "widen"}, both - minded)

    def test_what_is_put_in_fits_client_and_school(self) -> None:
        asked = question(
            BEANS, [Window("energy_kcal", 450, 550, "must"), Window("protein_g", 30, 40, "must")]
        )
        answer = balance(asked)
        ways = ways_out(answer, conflict_of(answer), pantry("greens-and-beans", ("soy", "wheat")))
        for way in ways:
            if way.food:
                self.assertFalse({"soy", "wheat"} & set(SHELF.food(way.food).allergens), way.change)
                self.assertTrue(ready(SHELF.food(way.food)))


class Parts(unittest.TestCase):
    """Parts are what the bowl holds."""

    def test_grams_and_sums_are_those_of_the_bowl(self) -> None:
        made = parts(TIDELINE)
        whole = compose([portion.item for portion in portions(TIDELINE)])
        grams = sum(p.prefer * p.grams_per_unit for p in made)
        self.assertAlmostEqual(grams, whole.grams, places=6)
        for part in made:
            steps = [b - a for a, b in itertools.pairwise(part.amounts)]
            self.assertTrue(all(step > 0 for step in steps))
