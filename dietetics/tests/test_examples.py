"""The examples in docstrings are run, so that they stay true."""

from __future__ import annotations

import doctest
import unittest
from importlib import import_module
from pathlib import Path

CORE = Path(__file__).resolve().parents[1]
LEAST_EXAMPLES = 12


class Examples(unittest.TestCase):
    """Every module of the core whose docstrings hold an example."""

    def test_every_example_gives_what_it_says(self) -> None:
        tried = 0
        for file in sorted(CORE.rglob("*.py")):
            if "tests" in file.parts or ">>>" not in file.read_text(encoding="utf-8"):
                continue
            name = ".".join(file.relative_to(CORE.parent).with_suffix("").parts)
            result = doctest.testmod(import_module(name))
            self.assertEqual(result.failed, 0, name)
            tried += result.attempted
        self.assertGreaterEqual(tried, LEAST_EXAMPLES)
