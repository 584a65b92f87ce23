"""The keys: one action a key and place, and every action known to the scripts."""

from __future__ import annotations

import re
from pathlib import Path

from django.test import SimpleTestCase

from roundpantry.counter.keys import KEY_ROWS, MEAL, PAGE, PART, key_map

APPS = Path(__file__).resolve().parents[2]
SCRIPTS = {
    PAGE: APPS / "counter/static/counter/keys.js",
    PART: APPS / "counter/static/counter/bench.js",
    MEAL: APPS / "weeks/static/weeks/week.js",
}
SENT_BY_NAME = {"paste", "repeat", "fill", "clear", "lock", "skip"}  # week.js sends these as named


class Keys(SimpleTestCase):
    """The list and the scripts."""

    def test_no_key_has_two_actions_in_one_place(self) -> None:
        for place in (PAGE, PART, MEAL):
            given = [key for row in KEY_ROWS if row.where == place for key in row.actions]
            self.assertEqual(len(given), len(set(given)), place)

    def test_the_scripts_know_every_action(self) -> None:
        for place, actions in key_map().items():
            script = SCRIPTS[place].read_text(encoding="utf-8")
            for action in set(actions.values()) - (SENT_BY_NAME if place == MEAL else set()):
                known = rf'"{action}"|\b{action}\(|\b{action}: '
                self.assertTrue(re.search(known, script), f"{place}: {action}")
