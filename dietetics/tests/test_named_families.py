"""Every family that a rule of the core names is on the shelf: a name that nothing answers to makes
a rule silent, and nobody sees it (miso was scattered on top for want of its colour).
"""

from __future__ import annotations

import importlib
import pkgutil
import unittest
from collections.abc import Iterator

import dietetics
from dietetics.composition.foods import load_shelf

MOSTLY = 0.4  # of a constant's words, from which on it is taken as one of families or foods


def constants() -> Iterator[tuple[str, frozenset[str]]]:
    """Every constant of the core that is a set of words, with its name."""
    for module in pkgutil.walk_packages(dietetics.__path__, "dietetics."):
        if ".tests" not in module.name:
            for name, found in vars(importlib.import_module(module.name)).items():
                is_set = isinstance(found, (frozenset, set)) and bool(found)
                if is_set and all(isinstance(one, str) for one in found):
                    yield f"{module.name}.{name}", frozenset(found)


class NamedFamilies(unittest.TestCase):
    def test_each_is_on_the_shelf(self) -> None:
        shelf = load_shelf()
        known = {*shelf.families, *shelf.foods, *(food.group for food in shelf)}
        looked_at = 0
        for name, words in constants():
            held = words & (set(shelf.families) | set(shelf.foods))
            if len(held) >= MOSTLY * len(words):
                looked_at += 1
                self.assertEqual(words - known, set(), name)
        self.assertGreater(looked_at, 10)
