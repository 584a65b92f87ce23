"""Taking copies: by hand, every day, and before anything that could go wrong; and dropping those
that are too old.
"""

from __future__ import annotations

import re
import shutil
import sqlite3
from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime, timedelta
from pathlib import Path

from roundpantry.counter import clock
from roundpantry.counter.backups.condition import note_failure, note_success
from roundpantry.counter.backups.copy_files import BARE_ENDING, ENDING, write_copy
from roundpantry.counter.backups.places import (
    BackupError,
    backup_folder,
    database_file,
    made_backup_folder,
    stamped,
    taken_at,
)

YEAR_DAYS = 366
DAYS_KEPT, MONTHS_KEPT = 14, 12  # every day for a fortnight, the first of every month for a year
DAILY, BY_HAND = "daily", "by hand"
DAMAGED = "damaged"
# what the program makes by itself; a copy made by hand is dropped by hand
BY_ITSELF = (DAILY, "before migrating", "before restoring", DAMAGED)


def back_up(
    target: Path | None = None, why: str = BY_HAND, with_key: bool = True
) -> tuple[Path, int]:
    """Copy the database while it runs, check the copy, and move it into place when it is whole.
    Return the file and how many rows it holds. Raises BackupError.
    """
    source = database_file()
    if source is None or not source.exists():
        raise BackupError("There is no database yet.")
    made_backup_folder()
    target = target or stamped(source.stem, why, ENDING)
    try:
        target.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
        counts = write_copy(source, target, why, with_key)
    except (sqlite3.Error, OSError, BackupError) as error:
        note_failure(source, str(error))
        raise BackupError(f"The copy could not be made: {error}") from None
    note_success(source)
    drop_old(source.stem)
    return target, sum(counts.values())


def daily_backup(today: datetime | None = None) -> Path | None:
    """Copy the database where no daily copy was taken today. None where there is one already.
    Raises BackupError.
    """
    today = today or clock.local_now()
    source = database_file()
    if source is None or not source.exists():
        return None
    mine = made_backup_folder().glob(f"{source.stem}-{today:%Y-%m-%d}-*-{DAILY}*")
    return None if any(mine) else back_up(why=DAILY)[0]


@dataclass(frozen=True)
class KeptCopy:
    """A copy in the folder: when it was made, and when it is dropped at the latest (None for one
    that was made by hand).
    """

    file: Path
    made_at: datetime
    until: datetime | None


def kept_copies() -> list[KeptCopy]:
    """The copies of the database in the folder of copies, the newest first. A copy that is the
    first of its month is kept for a year, others until fourteen newer ones of their kind are made;
    for a daily copy that is a fortnight.
    """
    source = database_file()
    if source is None or not backup_folder().exists():
        return []
    found = []
    for why in (*BY_ITSELF, BY_HAND):
        files = sorted(_copies(source.stem, why), key=lambda file: file.name)
        firsts = set(_first_of_months(files).values())
        for file in files:
            made_at = taken_at(file)
            days = YEAR_DAYS if file in firsts or why != DAILY else DAYS_KEPT
            until = None if why == BY_HAND else made_at + timedelta(days=days)
            found.append(KeptCopy(file, made_at, until))
    return sorted(found, key=lambda copy: copy.made_at, reverse=True)


def drop_old(stem: str) -> None:
    """Drop the copies that the program made by itself and that are too old, each kind apart."""
    for why in BY_ITSELF:
        for old in to_drop(_copies(stem, why)):
            if old.is_dir():
                shutil.rmtree(old, ignore_errors=True)
            else:
                old.unlink(missing_ok=True)


def _copies(stem: str, why: str) -> list[Path]:
    name = re.compile(
        rf"{re.escape(stem)}-\d{{4}}-\d\d-\d\d-\d{{6}}-{why.replace(' ', '-')}(-\d+)?"
        rf"({re.escape(ENDING)}|{re.escape(BARE_ENDING)})?"
    )
    return [file for file in made_backup_folder().iterdir() if name.fullmatch(file.name)]


def to_drop(files: Iterable[Path]) -> list[Path]:
    """Copies that are neither of the last fortnight of them nor the first of one of the last twelve
    months.
    """
    ordered = sorted(files, key=lambda file: file.name)
    firsts = list(_first_of_months(ordered).values())
    kept = {*ordered[-DAYS_KEPT:], *firsts[-MONTHS_KEPT:]}
    return [file for file in ordered if file not in kept]


def _first_of_months(ordered: Iterable[Path]) -> dict[str, Path]:
    """The first copy of each month, by the date in its name."""
    found: dict[str, Path] = {}
    for file in ordered:
        month = re.search(r"-(\d{4}-\d\d)-\d\d-\d{6}-", file.name)
        if month is not None:
            found.setdefault(month[1], file)
    return found
