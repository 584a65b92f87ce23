"""Where the database and its copies lie, and how a file there is named, opened and made sure of."""

from __future__ import annotations

import os
import re
import shutil
import sqlite3
from collections.abc import Iterator
from contextlib import closing, contextmanager
from datetime import UTC, datetime
from pathlib import Path

from django.conf import settings
from django.utils import timezone

from roundpantry.counter import clock

STAMP = "%Y-%m-%d-%H%M%S"
LOGS = ("-wal", "-shm")  # what SQLite keeps beside a database that is open
BUSY_S = 20.0


class BackupError(Exception):
    """A copy that could not be taken or put back; the message says why, and what to do."""


def database_file() -> Path | None:
    """Where the database lies; None for one in memory."""
    name = str(settings.DATABASES["default"]["NAME"])
    return None if ":memory:" in name or "mode=memory" in name else Path(name)


def backup_folder() -> Path:
    """Where copies are kept."""
    return Path(settings.HOME) / "backups"


def made_backup_folder() -> Path:
    """The folder of copies, made where there is none; nobody else on the machine can look in."""
    folder = backup_folder()
    folder.mkdir(parents=True, exist_ok=True, mode=0o700)
    return folder


def stamped(stem: str, why: str, ending: str) -> Path:
    """A name for a new file among the copies: of which database, when, and why."""
    folder, name = backup_folder(), f"{stem}-{clock.local_now():{STAMP}}-{why.replace(' ', '-')}"
    number, place = 1, folder / f"{name}{ending}"
    while place.exists():
        number += 1
        place = folder / f"{name}-{number}{ending}"
    return place


def taken_at(file: Path) -> datetime:
    """When a copy was taken, by its name: what the file system says changes when a copy is moved to
    another machine. The file's own time where the name says none; of the two readings of an hour
    that a change of clocks repeats, the later.
    """
    found = re.search(r"-(\d{4}-\d\d-\d\d-\d{6})-", file.name)
    try:
        if found is not None:
            written = datetime.strptime(found[1], STAMP)
            return written.replace(tzinfo=timezone.get_default_timezone(), fold=1).astimezone(UTC)
    except ValueError:
        pass  # digits in the shape of a moment that are none
    return datetime.fromtimestamp(file.stat().st_mtime, UTC)


def opened(file: Path, mode: str = "rw") -> sqlite3.Connection:
    """A database that exists, opened by SQLite, whatever signs (# ? %) its name has. Raises
    sqlite3.Error.
    """
    return sqlite3.connect(f"{file.resolve().as_uri()}?mode={mode}", uri=True, timeout=BUSY_S)


def with_logs(file: Path) -> list[Path]:
    """The files of a database that are there: itself and its logs."""
    every = (file, *(Path(f"{file}{ending}") for ending in LOGS))
    return [one for one in every if one.exists()]


def copied_raw(file: Path, folder: Path) -> Path:
    """Copy a database and its logs byte by byte, as they are; return the copy's database."""
    for one in with_logs(file):
        shutil.copyfile(one, folder / one.name)
        (folder / one.name).chmod(0o600)
    return folder / file.name


def on_disk(file: Path) -> None:
    """Wait until a file or a folder is on the disk, not only in memory."""
    handle = os.open(file, os.O_RDONLY)
    try:
        os.fsync(handle)
    finally:
        os.close(handle)


def put_in_place(building: Path, target: Path) -> None:
    """Give a finished file its name in one step that outlives a power cut: there is the old one or
    the new one, never half of either.
    """
    on_disk(building)
    os.replace(building, target)
    on_disk(target.parent)


def into_one_file(file: Path) -> None:
    """Write what lies in a database's log into the database. Raises sqlite3.Error, also where
    somebody else has it open.
    """
    with closing(opened(file)) as there:
        there.execute("PRAGMA journal_mode=DELETE")


@contextmanager
def building_at(target: Path) -> Iterator[Path]:
    """An empty file beside the target that only we can read, to be filled; it is gone afterwards
    unless it was moved into place.
    """
    building = target.with_name(f".{target.name}.building-{os.getpid()}")
    building.touch(mode=0o600)
    try:
        yield building
    finally:
        for one in with_logs(building):
            one.unlink(missing_ok=True)
