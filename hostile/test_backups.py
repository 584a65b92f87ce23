"""A restore drill: a copy taken while eight write, the house burns down, the copy is put back, and
everything is there.
"""

from __future__ import annotations

import json
import shutil
import sqlite3
import subprocess
import sys
import zipfile
from contextlib import closing
from datetime import datetime, timedelta
from pathlib import Path
from typing import Any

from django.test import SimpleTestCase

from hostile.server import ROOT, environment, home_with_demo, run
from roundpantry.counter.backups.taking import to_drop

WRITERS = 3


def rows(file: Path) -> dict[str, int]:
    """How many rows each table of a database has."""
    with closing(sqlite3.connect(file)) as there:
        tables = [
            row[0] for row in there.execute("SELECT name FROM sqlite_master WHERE type = 'table'")
        ]
        return {
            name: there.execute(f'SELECT COUNT(*) FROM "{name}"').fetchone()[0] for name in tables
        }


def about(copy: Path) -> dict[str, Any]:
    """What a copy says about itself."""
    with zipfile.ZipFile(copy) as parts:
        return dict(json.loads(parts.read("about.json")))


def database_in(copy: Path) -> Path:
    """The database of a copy, taken out beside it."""
    file = copy.with_suffix(".sqlite3")
    with zipfile.ZipFile(copy) as parts:
        file.write_bytes(parts.read("database.sqlite3"))
    return file


class RestoreDrill(SimpleTestCase):
    """Copies, and what they are worth."""

    def setUp(self) -> None:
        self.home = home_with_demo()
        self.addCleanup(shutil.rmtree, self.home)
        self.file = self.home / "demo.sqlite3"

    def test_a_copy_taken_while_others_write_holds_everything_answered_before_it(self) -> None:
        with closing(sqlite3.connect(self.file)) as there:
            client = str(
                there.execute(
                    "SELECT MIN(id) FROM clients_client WHERE practitioner_id = 1"
                ).fetchone()[0]
            )
        writers = [
            subprocess.Popen(
                [sys.executable, "-m", "hostile.writer", client, f"writer-{n}"],
                cwd=ROOT,
                env=environment(self.home),
                stdout=subprocess.PIPE,
                stderr=subprocess.DEVNULL,
            )
            for n in range(WRITERS)
        ]
        before: list[str] = []
        for writer in writers:
            assert writer.stdout is not None
            self.assertEqual(writer.stdout.readline().strip(), b"ready")
            before += [writer.stdout.readline().decode().strip() for _ in range(12)]
        made = run(self.home, "backup", str(self.home / "copy.zip"))
        for writer in writers:
            writer.kill()
            writer.communicate()
        self.assertEqual(made.returncode, 0, made.stderr)
        self.file.write_bytes(b"burnt")
        self.assertNotEqual(run(self.home, "restore", str(self.file)).returncode, 0)
        restored = run(self.home, "restore", str(self.home / "copy.zip"))
        self.assertEqual(restored.returncode, 0, restored.stderr)
        found, told = rows(self.file), about(self.home / "copy.zip")["counts"]
        self.assertEqual({**found, "django_session": told["django_session"]}, told)
        with closing(sqlite3.connect(self.file)) as there:
            stored = {row[0] for row in there.execute("SELECT name FROM bowls_bowl")}
        lost = [name for name in before if name not in stored]
        print(
            f"\nrestore drill: {len(before)} changes of {WRITERS} writers before the copy, "
            f"{len(lost)} lost"
        )
        self.assertEqual(lost, [])

    def test_a_copy_holds_what_still_lies_in_the_log(self) -> None:
        with closing(sqlite3.connect(self.file)) as writing:
            writing.execute("PRAGMA journal_mode=WAL")
            writing.execute("PRAGMA wal_autocheckpoint=0")
            writing.execute("UPDATE clients_client SET notes = 'only in the log'")
            writing.commit()
            made = run(self.home, "backup", str(self.home / "copy.zip"))
            plain = self.home / "plain.sqlite3"
            plain.write_bytes(self.file.read_bytes())
        self.assertEqual(made.returncode, 0, made.stderr)
        noted = "SELECT COUNT(*) FROM clients_client WHERE notes = 'only in the log'"
        with (
            closing(sqlite3.connect(database_in(self.home / "copy.zip"))) as copy,
            closing(sqlite3.connect(plain)) as file,
        ):
            self.assertGreater(copy.execute(noted).fetchone()[0], 0)
            self.assertEqual(
                file.execute(noted).fetchone()[0], 0
            )  # what a copy of the file alone is worth

    def test_restoring_keeps_what_was_there(self) -> None:
        run(self.home, "backup", str(self.home / "copy.zip"))
        with closing(sqlite3.connect(self.file)) as there:
            there.execute("UPDATE clients_client SET notes = 'written after the copy'")
            there.commit()
        self.assertEqual(run(self.home, "restore", str(self.home / "copy.zip")).returncode, 0)
        kept = database_in(next((self.home / "backups").glob("*before-restoring*")))
        with closing(sqlite3.connect(kept)) as there:
            self.assertTrue(
                there.execute(
                    "SELECT COUNT(*) FROM clients_client WHERE notes = 'written after the copy'"
                ).fetchone()[0]
            )
        with closing(sqlite3.connect(self.file)) as there:
            self.assertFalse(
                there.execute(
                    "SELECT COUNT(*) FROM clients_client WHERE notes = 'written after the copy'"
                ).fetchone()[0]
            )

    def test_a_migration_copies_first(self) -> None:
        for words in (("counter", "zero"), ()):  # a table taken away, and put back
            self.assertEqual(run(self.home, "migrate", "--skip-checks", *words).returncode, 0)
        self.assertTrue(list((self.home / "backups").glob("*before-migrating*")))

    def test_one_copy_a_day(self) -> None:
        for _ in range(2):
            self.assertEqual(run(self.home, "backup", "--daily").returncode, 0)
            self.assertEqual(len(list((self.home / "backups").glob("*-daily.copy.zip"))), 1)

    def test_a_fortnight_of_days_and_a_year_of_months_are_kept(self) -> None:
        first = datetime(2025, 6, 1, 3, 0, 0)
        files = [
            Path(f"/x/pantry-{first + timedelta(days=n):%Y-%m-%d-%H%M%S}-daily.sqlite3")
            for n in range(500)
        ]
        kept = [file for file in files if file not in to_drop(files)]
        self.assertEqual(kept[-14:], files[-14:])
        months = [file.name[7:14] for file in kept if file.name[15:17] == "01"]
        self.assertEqual(
            months[-12:], ["2025-11", "2025-12", *(f"2026-{n:02}" for n in range(1, 11))]
        )
        self.assertEqual(
            len(kept),
            14 + 12 - sum(file in files[-14:] for file in kept if file.name[15:17] == "01"),
        )
