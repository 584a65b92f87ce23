"""The made-up practice for tests: built once for a version of the program and a day, as a file, and
copied from there, which is a hundred times faster.
"""

from __future__ import annotations

import fcntl
import hashlib
import os
import shutil
import sqlite3
import subprocess
import sys
import tempfile
from contextlib import closing
from functools import cache
from pathlib import Path

from django.apps import apps
from django.conf import settings
from django.contrib.auth import get_user_model
from django.contrib.auth.hashers import make_password
from django.contrib.auth.models import Permission
from django.contrib.contenttypes.models import ContentType
from django.db import connection, transaction

from roundpantry.counter import clock
from roundpantry.demo.people import PASSWORD

CACHE = Path(settings.BASE_DIR) / ".cache"
MADE_FROM = ("dietetics", "roundpantry", "requirements.lock")
MOST_KEPT = 8  # files of other days and versions
Rows = list[tuple[object, ...]]


def load_practice() -> None:
    """Put the practice, as it is today, into the empty database of a test."""
    day = clock.today().isoformat()
    with transaction.atomic(), connection.cursor() as cursor:
        for table, (columns, rows) in _rows_of(practice_file(day)).items():
            names = ", ".join(f'"{name}"' for name in columns)
            marks = ", ".join("?" for _ in columns)
            cursor.cursor.executemany(f'INSERT INTO "{table}" ({names}) VALUES ({marks})', rows)
        # hashed as the program does it, a login takes a third of a second
        get_user_model().objects.update(password=make_password(PASSWORD))


@cache
def practice_file(day: str) -> Path:
    """The database of the practice on a day (ISO); built where this version has none yet."""
    CACHE.mkdir(exist_ok=True)
    file = CACHE / f"practice-{_version()}-{day}.sqlite3"
    with (CACHE / "practice.lock").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)  # processes of one test run want the same file
        if not file.exists():
            _drop_old_ones()
            with tempfile.TemporaryDirectory(dir=CACHE) as home:
                os.replace(_built(Path(home), day), file)
    return file


def _built(home: Path, day: str) -> Path:
    environment = {
        **os.environ,
        "PANTRY_HOME": str(home),
        "PANTRY_DATABASE": "demo.sqlite3",
        "PANTRY_SECRET_KEY": "for tests only, never served",
        "DJANGO_SETTINGS_MODULE": "roundpantry.config.settings.local",
    }
    made = home / "demo.sqlite3"
    verb = "demo" if _copy_of_empty_tables(made) else "build_demo"
    command = [sys.executable, "manage.py", verb, "--day", day]
    subprocess.run(command, cwd=settings.BASE_DIR, env=environment, check=True)
    with closing(sqlite3.connect(made)) as there:
        there.execute("PRAGMA wal_checkpoint(TRUNCATE)")
        there.execute("PRAGMA journal_mode=DELETE")
    return made


def _copy_of_empty_tables(place: Path) -> bool:
    """Copy what the tests' own database holds for good: every table, and nobody in it. That spares
    the migrations, half of the time. False, with no copy, where somebody is in it.
    """
    there = Path(connection.settings_dict["NAME"])
    if not there.exists():
        return False
    with closing(sqlite3.connect(f"file:{there}?mode=ro", uri=True)) as tests:
        if tests.execute("SELECT count(*) FROM auth_user").fetchone()[0]:
            return False
        with closing(sqlite3.connect(place)) as copied:
            tests.backup(copied)
            copied.execute(
                "DELETE FROM sqlite_sequence"
            )  # numbers begin at 1, as in a new database
            copied.commit()
    return True


@cache
def _version() -> str:
    """A fingerprint of everything that the practice is made from or with."""
    found = hashlib.sha256()
    for name in MADE_FROM:
        place = Path(settings.BASE_DIR) / name
        for file in sorted(place.rglob("*")) if place.is_dir() else [place]:
            if file.suffix in (".py", ".json", ".csv", ".toml", ".txt", ".lock") and (
                "tests" not in file.parts
            ):
                found.update(file.read_bytes())
    return found.hexdigest()[:12]


def _drop_old_ones() -> None:
    kept = sorted(CACHE.glob("practice-*.sqlite3"), key=lambda file: file.stat().st_mtime)
    for file in kept[: -MOST_KEPT + 1]:
        file.unlink(missing_ok=True)


def copy_practice(home: Path) -> None:
    """Give a home of its own the practice as it is today."""
    shutil.copy(practice_file(clock.today().isoformat()), home / "demo.sqlite3")


@cache
def _rows_of(file: Path) -> dict[str, tuple[list[str], Rows]]:
    """Columns and rows of every table that the demo may fill."""
    models = apps.get_models(include_auto_created=True)
    tables = [one._meta.db_table for one in models if one not in (ContentType, Permission)]
    found: dict[str, tuple[list[str], Rows]] = {}
    with closing(sqlite3.connect(f"file:{file}?mode=ro", uri=True)) as there:
        for table in tables:
            cursor = there.execute(f'SELECT * FROM "{table}"')
            found[table] = ([column[0] for column in cursor.description], cursor.fetchall())
    return found
