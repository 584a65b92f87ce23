"""Copies of the database: taken while it runs, checked, kept for a while, and put back.

A plain copy of the file loses what still lies in its log. SQLite's own online backup takes both,
page by page, while others go on writing.
"""

from __future__ import annotations

import os
import sqlite3
from collections.abc import Iterable
from contextlib import closing
from datetime import datetime
from pathlib import Path

from django.conf import settings
from django.db import connections

from roundpantry.counter import clock

DAYS_KEPT, MONTHS_KEPT = 14, 12  # every day for a fortnight, the first of every month for a year
STAMP = "%Y-%m-%d-%H%M%S"
WANTED = {
    "django_migrations",
    "clients_client",
    "auth_user",
}  # what every database of this program has


class BackupError(Exception):
    """A copy that could not be taken or put back; the message says why."""


def database_file() -> Path | None:
    """Where the database lies; None for one in memory."""
    name = str(settings.DATABASES["default"]["NAME"])
    return None if ":memory:" in name or "mode=memory" in name else Path(name)


def backup_folder() -> Path:
    """Where copies are kept."""
    return Path(settings.HOME) / "backups"


def back_up(target: Path | None = None, why: str = "by hand") -> Path:
    """Copy the database while it runs, check the copy, and move it into place when it is whole.
    Raises BackupError.
    """
    source = database_file()
    if source is None or not source.exists():
        raise BackupError("There is no database yet.")
    name = f"{source.stem}-{clock.local_now():{STAMP}}-{why.replace(' ', '-')}.sqlite3"
    target = target or backup_folder() / name
    target.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
    building = target.with_name(f"{target.name}.building-{os.getpid()}")
    try:
        with (
            closing(sqlite3.connect(source, timeout=20)) as read,
            closing(sqlite3.connect(building)) as written,
        ):
            building.chmod(0o600)
            read.backup(written, pages=2000, sleep=0.01)
            written.execute("PRAGMA journal_mode=DELETE")
        check(building)
        os.replace(building, target)
    except (sqlite3.Error, OSError) as error:
        raise BackupError(f"The backup could not be made: {error}.") from None
    finally:
        building.unlink(missing_ok=True)
    return target


def check(file: Path) -> dict[str, int]:
    """The rows of every table of a copy. Raises BackupError for a file that is no whole database of
    this program.
    """
    if not file.exists():
        raise BackupError(f"There is no file {file}.")
    try:
        with closing(sqlite3.connect(f"file:{file}?mode=ro", uri=True)) as copy:
            found = copy.execute("PRAGMA integrity_check").fetchone()[0]
            broken = copy.execute("PRAGMA foreign_key_check").fetchone()
            tables = [
                row[0]
                for row in copy.execute("SELECT name FROM sqlite_master WHERE type = 'table'")
            ]
            counts = {
                name: copy.execute(f'SELECT COUNT(*) FROM "{name}"').fetchone()[0]
                for name in tables
            }
    except sqlite3.Error as error:
        raise BackupError(f"{file.name} is damaged or not a database: {error}.") from None
    if found != "ok" or broken:
        raise BackupError(
            f"{file.name} is damaged: "
            f"{found if found != 'ok' else 'rows that belong together are missing'}."
        )
    if missing := WANTED - set(counts):
        raise BackupError(
            f"{file.name} is not a database of this program: missing {', '.join(sorted(missing))}."
        )
    return counts


def put_back(file: Path) -> tuple[Path | None, dict[str, int]]:
    """Put a copy in the place of the database when it is whole; the database as it is now is copied
    first.

    Return that copy, and the rows of every table that was put back. Raises BackupError.
    """
    check(file)
    place = database_file()
    if place is None:
        raise BackupError("The database is in memory.")
    kept = back_up(why="before restoring") if place.exists() else None
    connections.close_all()
    place.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
    try:
        copy, live = (
            sqlite3.connect(f"file:{file}?mode=ro", uri=True),
            sqlite3.connect(place, timeout=20),
        )
        with closing(copy), closing(live):
            copy.backup(live)
    except sqlite3.Error as error:
        raise BackupError(
            f"The copy could not be put back: {error}. The database is as it was."
        ) from None
    return kept, check(place)


def daily_backup(today: datetime | None = None) -> Path | None:
    """Copy the database where none was taken today, and drop what is too old. None where there is
    one already.
    """
    today = today or clock.local_now()
    source = database_file()
    if source is None or not source.exists():
        return None
    mine = sorted(backup_folder().glob(f"{source.stem}-*-daily.sqlite3"))
    made = None
    if not any(f"{today:%Y-%m-%d}" in file.name for file in mine):
        made = back_up(why="daily")
        mine.append(made)
    for file in to_drop(mine):
        file.unlink(missing_ok=True)
    return made


def to_drop(files: Iterable[Path]) -> list[Path]:
    """Daily copies that are neither of the last fortnight nor the first of one of the last twelve
    months.
    """
    ordered = sorted(files, key=lambda file: file.name)
    first_of_month: dict[str, Path] = {}
    for file in ordered:
        first_of_month.setdefault("-".join(file.name.split("-")[-5:-3]), file)
    kept = {*ordered[-DAYS_KEPT:], *list(first_of_month.values())[-MONTHS_KEPT:]}
    return [file for file in ordered if file not in kept]
