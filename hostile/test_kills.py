"""Killed at any moment: what was answered is there, the database is whole, and a first start begins
anew.
"""

from __future__ import annotations

import os
import random
import shutil
import signal
import sqlite3
import subprocess
import sys
import time
import unittest
from collections.abc import Callable
from contextlib import closing, suppress
from pathlib import Path

from django.test import SimpleTestCase

from hostile import LONG
from hostile.server import ROOT, environment, home_with_demo, run

KILLS = 100 if LONG else 4
MOMENTS = 12  # of a first start, in the long form
BEGUN_BYTES = 300_000  # of a first start that is half-way: the tables are made, people are stored


class Killed(SimpleTestCase):
    """kill -9, and what is found afterwards."""

    def test_what_was_answered_outlives_a_kill(self) -> None:
        home, draw = home_with_demo(), random.Random(14)
        self.addCleanup(shutil.rmtree, home)
        file = home / "demo.sqlite3"
        with closing(sqlite3.connect(file)) as there:
            client = str(
                there.execute(
                    "SELECT MIN(id) FROM clients_client WHERE practitioner_id = 1"
                ).fetchone()[0]
            )
        answered: list[str] = []
        for number in range(KILLS):
            command = [sys.executable, "-m", "hostile.writer", client, f"kill-{number}"]
            writer = subprocess.Popen(
                command,
                cwd=ROOT,
                env=environment(home),
                stdout=subprocess.PIPE,
                stderr=subprocess.DEVNULL,
            )
            assert writer.stdout is not None
            writer.stdout.readline()
            time.sleep(draw.random() * 0.4)
            writer.send_signal(signal.SIGKILL)
            answered += [
                line.strip()
                for line in writer.stdout.read().decode().splitlines()
                if line.endswith(tuple("0123456789"))
            ]
            writer.wait()
        with closing(sqlite3.connect(file)) as there:
            self.assertEqual(there.execute("PRAGMA integrity_check").fetchone()[0], "ok")
            stored = {row[0] for row in there.execute("SELECT name FROM bowls_bowl")}
        lost = [name for name in answered if name not in stored]
        print(f"\nkills: {KILLS}, {len(answered)} changes answered, {len(lost)} lost")
        self.assertEqual(lost, [])
        self.assertGreater(len(answered), KILLS)

    def test_a_first_start_that_was_killed_half_way_begins_anew(self) -> None:
        home = self._started(lambda home: self._size(home) > BEGUN_BYTES)
        self.assertFalse((home / "demo.sqlite3").exists(), "half of it is nothing")
        self._begun_anew(home)

    @unittest.skipUnless(LONG, "a minute for each moment")
    def test_a_first_start_that_was_killed_at_any_moment_begins_anew(self) -> None:
        whole = time.monotonic()
        shutil.rmtree(self._started(lambda home: (home / "demo.sqlite3").exists()))
        whole = time.monotonic() - whole
        for moment in range(1, MOMENTS + 1):
            until = time.monotonic() + whole * moment / (MOMENTS + 1)
            self._begun_anew(self._started(lambda _, until=until: time.monotonic() > until))
        print(f"\nfirst starts killed at {MOMENTS} moments of {whole:.0f} s: all begun anew")

    def _begun_anew(self, home: Path) -> None:
        """A second start on the home is whole."""
        again = run(home, "build_demo")
        self.assertEqual(again.returncode, 0, again.stderr[-800:])
        with closing(sqlite3.connect(home / "demo.sqlite3")) as there:
            self.assertEqual(there.execute("SELECT COUNT(*) FROM auth_user").fetchone()[0], 2)
            self.assertGreater(there.execute("SELECT COUNT(*) FROM bowls_bowl").fetchone()[0], 5)
        self.assertEqual(run(home, "migrate", "--check", "--skip-checks").returncode, 0)
        shutil.rmtree(home)

    def _size(self, home: Path) -> int:
        """How much of the database under construction there is."""
        return sum(file.stat().st_size for file in home.glob("demo.sqlite3.building*"))

    def _started(self, until: Callable[[Path], bool]) -> Path:
        """A fresh home on which the first start was killed as soon as this holds."""
        home = Path(
            subprocess.run(
                ["mktemp", "-d"], capture_output=True, text=True, check=True
            ).stdout.strip()
        )
        command = [sys.executable, "manage.py", "build_demo"]
        quiet = {"stdout": subprocess.DEVNULL, "stderr": subprocess.DEVNULL}
        first = subprocess.Popen(
            command, cwd=ROOT, env=environment(home), start_new_session=True, **quiet
        )
        while first.poll() is None and not until(home):
            time.sleep(0.02)
        with suppress(ProcessLookupError):
            os.killpg(first.pid, signal.SIGKILL)
        first.wait()
        return home
