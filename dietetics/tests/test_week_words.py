"""A week told in words: counted by hand on small weeks of one meal a day."""

from __future__ import annotations

import unittest

from dietetics.targets.windows import Window
from dietetics.week.question.answer import Answer, answer_of
from dietetics.week.question.question import BatchFacts, Offer, Question, Rules, SlotMeal
from dietetics.week.words.week_words import topics, what_changed

LUNCH = (SlotMeal("Lunch", 1.0, 1.0),)


def offer(key: str, energy: float, **more: object) -> Offer:
    """A lunch."""
    amounts = {"energy_kcal": energy}
    return Offer(key, key.title(), frozenset({"Lunch"}), amounts, 400, **more)  # type: ignore[arg-type]


class Words(unittest.TestCase):
    QUESTION = Question(
        ("home",) * 5,
        LUNCH,
        (Window("energy_kcal", 500, 600, "must"),),
        (
            offer("right", 550, most_uses=9),
            offer("heavy", 700, most_uses=9, liking=3),
            offer("stew", 560, most_uses=9, own={"pot": 0.25}),
        ),
        (BatchFacts("pot", "Pot", 4),),
        rules=Rules((-1,), 2, 2, (1.0, 1.5)),
    )

    def week(self, *dishes: str) -> Answer:
        """One dish a day; "" is an empty lunch, "!" at the end one and a half portions."""
        chosen = {}
        for day, name in enumerate(dishes):
            key, scale = name.rstrip("!"), 1.5 if name.endswith("!") else 1.0
            chosen[day, 0] = next(
                choice
                for choice in self.QUESTION.choices((day, 0))
                if (choice.dish == -1 and not key)
                or (
                    choice.dish >= 0
                    and self.QUESTION.offers[choice.dish].key == key
                    and choice.scale == scale
                )
            )
        return answer_of(self.QUESTION, chosen)

    def told(self, *dishes: str) -> dict[str, str]:
        """Words by topic."""
        return {one.name: one.words for one in topics(self.week(*dishes))}

    def test_a_week_topic_by_topic(self) -> None:
        found = self.told("stew", "stew", "heavy", "", "right!")
        self.assertEqual(found["Meals"], "1 of 5 meals without a dish")
        # 700 on Wednesday, nothing on Thursday, 825 on Friday
        self.assertEqual(found["Days that meet every target"], "2 of 5")
        self.assertEqual(found["Energy"], "missed on Wed, Thu, Fri")
        said = "3 different main dishes; 2 wanted; Lunch as on the day before once"  # stew on Tue
        self.assertEqual(found["Variety"], said)
        self.assertEqual(
            found["Meal sizes"], "Lunch on Fri: more than a fifth from its share of the day"
        )
        self.assertEqual(found["Cooking"], "½ batch on 1 evening")
        self.assertEqual(found["Made fresh"], "2 meals")
        self.assertEqual(found["Other than one serving"], "1 meal with more or less")

    def test_four_days_of_one_dish_are_told(self) -> None:
        found = self.told("right", "right", "right", "right", "heavy")
        self.assertIn("often within four days: Right", found["Variety"])
        self.assertEqual(found["Cooking"], "nothing in advance")

    def test_what_is_better_in_another_week(self) -> None:
        before = self.week("heavy", "heavy", "", "right", "right")
        after = self.week("right", "heavy", "stew", "right", "right")
        changes = what_changed(before, after)
        self.assertEqual(changes[0], "fills 1 empty meal")
        # Monday and Wednesday are within 500 to 600 now
        self.assertEqual(changes[1], "energy met on 2 more days")
        # two main dishes were wanted and three are there; a batch is cooked for them
        self.assertTrue(changes[2].startswith("but "), changes)
        self.assertEqual(what_changed(after, before)[0], "leaves 1 more meal empty")
        self.assertEqual(what_changed(before, before), [])

    def test_nearer_counts_where_the_days_are_the_same(self) -> None:
        before = self.week("heavy!", "right", "right", "stew", "right")
        after = self.week("heavy", "right", "right", "stew", "right")
        self.assertEqual(
            what_changed(before, after),
            [
                "energy nearer to its target",
                "meals nearer to their share of the day",
                "1 fewer changed portion",
            ],
        )
