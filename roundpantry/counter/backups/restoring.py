"""Putting a copy back, whatever has become of the database in its place.

Everything is done beside the database: the copy is unpacked there, checked, brought up to this
version of the program, and its links and logins are closed. Only then is the database put aside
and the finished one given its name, in one step. Whatever fails before that leaves everything as
it was.
"""

from __future__ import annotations

import os
import sqlite3
import tempfile
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path

from django.conf import settings
from django.contrib.sessions.models import Session
from django.core.management import call_command
from django.core.management.commands.migrate import Command as DjangosMigrate
from django.db import connection
from django.utils.module_loading import import_string

from roundpantry.counter.backups.copy_files import ENDING, unpack_copy, write_copy
from roundpantry.counter.backups.database_check import Counts, check_ours, check_whole
from roundpantry.counter.backups.in_use import nobody_else
from roundpantry.counter.backups.places import (
    BackupError,
    building_at,
    copied_raw,
    database_file,
    into_one_file,
    made_backup_folder,
    on_disk,
    put_in_place,
    stamped,
    with_logs,
)
from roundpantry.counter.backups.taking import DAMAGED, drop_old

BEFORE = "before restoring"
KEY_KEPT, KEY_PUT_BACK, KEY_FIXED = "kept", "put back", "fixed"


@dataclass(frozen=True)
class Restored:
    """What a restore did: where the database lies that stood there before (None where there was
    none), whether it was damaged, the rows put back, how many links were closed and stayed open,
    and what became of the key that signs links.
    """

    before: Path | None
    was_damaged: bool
    counts: Counts
    closed_links: int
    open_links: int
    key: str


def put_back(file: Path) -> Restored:
    """Put a copy in the place of the database. Raises BackupError, and then nothing was changed."""
    place = database_file()
    if place is None:
        raise BackupError("The database is in memory.")
    try:
        with (
            nobody_else(place),
            building_at(place) as building,
            tempfile.TemporaryDirectory(prefix=".before-", dir=place.parent) as folder,
        ):
            unpacked = unpack_copy(file, building)
            _brought_up(building)
            there = copied_raw(place, Path(folder)) if with_logs(place) else None
            is_damaged = there is not None and not _is_whole(there)
            closed, still_open = _close(building, None if is_damaged else there)
            before = _keep(place, is_damaged) if there else None
            counts = check_whole(building)
            into_one_file(building)
            _exchange(building, place)
            key = _put_key_back(unpacked.secret_key)
    except (OSError, sqlite3.Error) as error:
        raise BackupError(
            f"The copy could not be put back: {error}. The database is as it was."
        ) from None
    drop_old(place.stem)
    return Restored(before, is_damaged, counts, closed, still_open, key)


@contextmanager
def _connected_to(file: Path) -> Iterator[None]:
    """Let Django's connection of this process work on another file for a while."""
    usual = connection.settings_dict["NAME"]
    connection.close()
    connection.settings_dict["NAME"] = str(file)
    try:
        yield
    finally:
        connection.close()
        connection.settings_dict["NAME"] = usual


def _brought_up(database: Path) -> None:
    """Bring an older database up to this version of the program. Raises BackupError."""
    try:
        with _connected_to(database):
            call_command(DjangosMigrate(), verbosity=0)
        check_ours(database)
    except BackupError:
        raise
    except Exception as error:  # noqa: BLE001 whatever a migration meets in an old database
        raise BackupError(
            "The copy could not be brought up to this version of the program "
            f"({type(error).__name__}: {error}). The database is as it was."
        ) from None


def _is_whole(database: Path) -> bool:
    """Whether the database that stood there can be read, and is one of this program."""
    try:
        check_whole(database)
        check_ours(database)
    except (BackupError, sqlite3.Error):
        return False
    return True


def _close(database: Path, before: Path | None) -> tuple[int, int]:
    """Close what must not come to life again by a restore: sessions, and links that may have been
    withdrawn since the copy was taken. Return how many links were closed, and how many are open.
    """
    close_links: Callable[[Path | None], tuple[int, int]] = import_string(settings.AFTER_RESTORE)
    with _connected_to(database):
        Session.objects.all().delete()
        return close_links(before)


def _keep(place: Path, is_damaged: bool) -> Path:
    """Keep the database that stands there: a whole one as a copy, a damaged one and its logs byte
    by byte in a folder of their own.
    """
    made_backup_folder()
    if is_damaged:
        folder = stamped(place.stem, DAMAGED, "")
        folder.mkdir(mode=0o700)
        copied_raw(place, folder)
        for one in (*folder.iterdir(), folder):
            on_disk(one)
        return folder
    try:
        into_one_file(place)
    except sqlite3.OperationalError as error:
        raise BackupError(
            f"Another program has the database open ({error}). Close it and try again."
        ) from None
    kept = stamped(place.stem, BEFORE, ENDING)
    write_copy(place, kept, BEFORE)
    return kept


def _exchange(building: Path, place: Path) -> None:
    """Give the finished database its name. A log that was left there belongs to the old one, which
    was put aside, and would be read into the new one.
    """
    for log in with_logs(place):
        if log != place:
            log.unlink()
    put_in_place(building, place)


def _put_key_back(key: str | None) -> str:
    """Sign with the key that the copy's links were signed with."""
    if key is None or key == settings.SECRET_KEY:
        return KEY_KEPT
    if os.environ.get("PANTRY_SECRET_KEY"):
        return KEY_FIXED
    file = Path(settings.HOME) / "secret_key"
    with building_at(file) as building:
        building.write_text(f"{key}\n", encoding="utf-8")
        put_in_place(building, file)
    return KEY_PUT_BACK
