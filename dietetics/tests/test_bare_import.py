"""The core stands alone: no web framework, no solver, no numeric library comes in with it."""

from __future__ import annotations

import subprocess
import sys
import unittest
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]
HEAVY = ("django", "numpy", "scipy", "pandas", "highspy")


class BareImport(unittest.TestCase):
    """In a process of its own, without settings."""

    def test_core_and_headless_import_without_settings(self) -> None:
        code = (
            "import sys, headless.__main__, dietetics.dishes.bowls, dietetics.targets.windows, "
            "dietetics.balance.fixes;"
            f"print([m for m in {HEAVY!r} if m in sys.modules])"
        )
        done = subprocess.run(
            [sys.executable, "-c", code],
            cwd=ROOT,
            capture_output=True,
            text=True,
            check=True,
            env={"PATH": "/usr/bin:/bin", "PYTHONPATH": str(ROOT)},
        )
        self.assertEqual(done.stdout.strip(), "[]")
