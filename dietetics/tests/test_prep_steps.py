"""Steps of recipes read as tasks, held against what a cook made of them before the reader was
written.
"""

from __future__ import annotations

import re
from pathlib import Path
from unittest import TestCase

from hypothesis import given
from hypothesis import strategies as st

from dietetics.prep.step_reading import tasks_of_step

CORPUS = Path(__file__).parent / "corpus"
STEPS = ("prep_steps.txt", "prep_steps_more.txt", "prep_steps_third.txt", "prep_steps_fourth.txt")


def cases(name):
    """(step, the tasks that are wanted) of a file of the corpus."""
    for line in (CORPUS / name).read_text(encoding="utf-8").splitlines():
        if line and not line.startswith("#"):
            step, _, wanted = line.partition(" => ")
            yield step, [] if wanted == "nothing" else [one.strip() for one in wanted.split(";")]


def as_written(clause, task):
    """A task in the notation of the cases, as far as it was written in the step."""
    wait = "-"
    if "wait" not in task.guessed and task.wait.likely:
        wait = f"{task.wait.low:.0f}-{task.wait.high:.0f}"
    elif "hands" not in task.guessed and not task.night:
        wait = f"h{task.hands.likely:.0f}"
    celsius = "-" if task.celsius is None or "celsius" in task.guessed else f"{task.celsius:.0f}"
    marks = "n" * task.night + "m" * clause.beside + "e" * clause.at_end
    return f"{task.verb} {task.device or '-'} {wait} {celsius} {marks or '-'}"


class StepCases(TestCase):
    def test_every_step_gives_the_tasks_a_cook_would_make_of_it(self):
        for name in (
            "prep_steps.txt",
            "prep_steps_more.txt",
            "prep_steps_third.txt",
            "prep_steps_fourth.txt",
        ):
            wrong = []
            for step, wanted in cases(name):
                pairs = tasks_of_step(step, "t", "d", (), None)
                found = [as_written(clause, task) for clause, task in pairs]
                if found != wanted:
                    wrong.append((step, found, wanted))
            self.assertEqual(wrong, [], f"{name}: {len(wrong)} of {len(list(cases(name)))}")

    def test_what_something_should_do_for_a_time_is_waited_for(self):
        for step, wanted in (
            ("The dough should rest for 30 minutes.", ["rest - 30-30 - -"]),
            ("It should simmer for 20 minutes.", ["simmer burner 20-20 - -"]),
            ("The sauce will thicken as it cools.", []),
            ("Remove the tofu and set aside for later.", None),
            ("Put a tray in the oven to heat.", ["add - - - -"]),
            ("Half the dough makes six breads.", None),
        ):
            pairs = tasks_of_step(step, "t", "d", (), None)
            found = [as_written(clause, task) for clause, task in pairs]
            if wanted is None:  # no wait that nobody wrote
                self.assertFalse([one for _, one in pairs if one.wait.likely], step)
            else:
                self.assertEqual(found, wanted, step)

    def test_a_word_that_nobody_knows_is_a_task_in_its_place_and_its_time_is_asked(self):
        step = "Boil the beans. Julienne the carrots. Careful, the pan is hot. Mix well."
        tasks = [task for _, task in tasks_of_step(step, "t", "d", (), None)]
        self.assertEqual([task.verb for task in tasks], ["boil", "do", "mix"])
        self.assertIn("hands", tasks[1].guessed)
        self.assertIn("careful, the pan is hot", tasks[1].text)
        hint = "Fry the onion. Using your hands is easier. The onion gets sweet."
        self.assertEqual([t.verb for _, t in tasks_of_step(hint, "t", "d", (), None)], ["sauté"])

    @given(st.text(max_size=300))
    def test_any_text_gives_tasks_with_possible_times_or_none(self, text):
        for _, task in tasks_of_step(text, "t", "dish", (), None):
            self.assertGreaterEqual(task.minutes, 0)
            self.assertTrue(re.search(r"\w", task.text))
            self.assertLessEqual(task.hands.low, task.hands.high)
            self.assertLessEqual(task.wait.low, task.wait.high)
