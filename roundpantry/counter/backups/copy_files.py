"""The file that a copy is: a zip with the database and a page about it, under one checksum.

    about.json          format, program version, when and why, the last migration of each app, the
                        rows of every table, the database's checksum, and the key that signs links
    database.sqlite3    the database, written anew by SQLite's VACUUM INTO: nothing that was deleted

The zip's comment, the last bytes of the file, is the SHA-256 of everything before it: a copy of
which one byte is another is refused. It guards against damage; whoever can write the file can
write the checksum too. Copies of versions up to 0.1 are a bare database and have none.
"""

from __future__ import annotations

import hashlib
import json
import shutil
import sqlite3
import zipfile
from contextlib import closing
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from django.conf import settings

from roundpantry.config.version import program_version
from roundpantry.counter import clock
from roundpantry.counter.backups.database_check import (
    Counts,
    check_ours,
    check_whole,
    last_migrations,
)
from roundpantry.counter.backups.places import (
    BackupError,
    building_at,
    copied_raw,
    into_one_file,
    opened,
    put_in_place,
)

ENDING, BARE_ENDING = ".copy.zip", ".sqlite3"
FORMAT = 1
ABOUT, DATABASE = "about.json", "database.sqlite3"
MARK = b"sha256:"
COMMENT_BYTES = len(MARK) + 64
MOST_ABOUT_BYTES = 1_000_000
AT_ONCE = 1 << 20  # bytes read at a time
BARE_START = b"SQLite format 3\x00"


@dataclass(frozen=True)
class Unpacked:
    """What a copy held: the rows of every table, the program that wrote it ("" for a bare
    database), and the key that signs links, where it was put in.
    """

    counts: Counts
    program: str
    secret_key: str | None


def write_copy(source: Path, target: Path, why: str, with_key: bool = True) -> Counts:
    """Copy a database that may be in use, check the copy, and give it its name when it is whole.
    Return the rows of every table. Raises BackupError; sqlite3.Error and OSError pass through.
    """
    with building_at(target) as packed, building_at(target.with_name("database")) as plain:
        with closing(opened(source)) as read:
            read.execute("VACUUM INTO ?", (str(plain),))
        counts = check_whole(plain)
        about = {
            "format": FORMAT,
            "program": program_version(),
            "made_at": clock.now().isoformat(timespec="seconds"),
            "why": why,
            "migrations": last_migrations(plain),
            "counts": counts,
            "sha256": _digest(plain, plain.stat().st_size),
            "secret_key": settings.SECRET_KEY if with_key else None,
        }
        with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED, compresslevel=6) as parts:
            parts.writestr(ABOUT, json.dumps(about, indent=1))
            parts.write(plain, DATABASE)
        _seal(packed)
        put_in_place(packed, target)
    return counts


def unpack_copy(file: Path, target: Path) -> Unpacked:
    """Write the database of a copy to `target`, an empty file, when everything about the copy is
    right. Raises BackupError for a file that is foreign, newer, incomplete or altered.
    """
    try:
        with file.open("rb") as there:
            start = there.read(len(BARE_START))
        if start == BARE_START:
            return _unpacked_bare(file, target)
        if start[:2] != b"PK":
            raise BackupError(f"{file.name} is damaged or not a copy of this program's database.")
        about = _opened_seal(file)
        _extract(file, target, about)
        counts = check_whole(target)
        check_ours(target)
    except FileNotFoundError:
        raise BackupError(f"There is no file {file}.") from None
    except OSError as error:
        raise BackupError(f"{file.name} could not be read: {error.strerror or error}.") from None
    if counts != about["counts"]:
        raise BackupError(f"{file.name} does not hold the rows that it says.")
    key = about.get("secret_key")
    return Unpacked(counts, str(about["program"]), key if isinstance(key, str) and key else None)


def check_copy(file: Path) -> Counts:
    """The rows of every table of a copy that could be put back. Raises BackupError."""
    with building_at(file.with_name("looked-at")) as database:
        return unpack_copy(file, database).counts


def _unpacked_bare(file: Path, target: Path) -> Unpacked:
    """A copy of an earlier version, or any database of this program with what lies in its log."""
    folder = target.with_name(f"{target.name}-bare")
    shutil.rmtree(folder, ignore_errors=True)
    folder.mkdir(mode=0o700)
    try:
        copied = copied_raw(file, folder)
        counts = check_whole(copied)
        check_ours(copied)
        into_one_file(copied)
        shutil.copyfile(copied, target)
    except sqlite3.Error as error:
        raise BackupError(f"{file.name} is damaged or not a database: {error}.") from None
    finally:
        shutil.rmtree(folder, ignore_errors=True)
    return Unpacked(counts, "", None)


def _seal(packed: Path) -> None:
    """Put the checksum of everything before it at the end of a zip, as its comment."""
    with zipfile.ZipFile(packed, "a") as parts:
        parts.comment = b"0" * COMMENT_BYTES
    size = packed.stat().st_size - COMMENT_BYTES
    with packed.open("r+b") as there:
        digest = _digest(packed, size)
        there.seek(size)
        there.write(MARK + digest.encode())


def _opened_seal(file: Path) -> dict[str, Any]:
    """What a copy says about itself, when its checksum is right. Raises BackupError."""
    size = file.stat().st_size - COMMENT_BYTES
    with file.open("rb") as there:
        there.seek(max(0, size))
        comment = there.read()
    if size <= 0 or not comment.startswith(MARK):
        raise BackupError(f"{file.name} is incomplete, or not a copy of this program's database.")
    if comment[len(MARK) :].decode("ascii", "replace") != _digest(file, size):
        raise BackupError(f"{file.name} is damaged or was altered: its checksum is another.")
    try:
        with zipfile.ZipFile(file) as parts:
            if parts.getinfo(ABOUT).file_size > MOST_ABOUT_BYTES:
                raise ValueError("too long")
            about = json.loads(parts.read(ABOUT))
        wanted = (about["format"], about["program"], about["sha256"], about["counts"])
    except (KeyError, TypeError, ValueError, zipfile.BadZipFile):
        raise BackupError(f"{file.name} is not a copy of this program's database.") from None
    if wanted[0] != FORMAT:
        raise BackupError(
            f"{file.name} was written by a newer version of the program ({wanted[1]}). "
            "Update the program first."
        )
    return dict(about)


def _extract(file: Path, target: Path, about: dict[str, Any]) -> None:
    try:
        with (
            zipfile.ZipFile(file) as parts,
            parts.open(DATABASE) as packed,
            target.open("wb") as written,
        ):
            free = shutil.disk_usage(target.parent).free
            if parts.getinfo(DATABASE).file_size > free:
                raise BackupError(f"There is too little room on the disk for {file.name}.")
            shutil.copyfileobj(packed, written, AT_ONCE)
    except (KeyError, zipfile.BadZipFile, EOFError):
        raise BackupError(f"{file.name} is not a copy of this program's database.") from None
    if _digest(target, target.stat().st_size) != about["sha256"]:
        raise BackupError(f"{file.name} is damaged or was altered: its checksum is another.")


def _digest(file: Path, size: int) -> str:
    """The SHA-256 of the first `size` bytes of a file."""
    found, left = hashlib.sha256(), size
    with file.open("rb") as there:
        while left > 0 and (piece := there.read(min(AT_ONCE, left))):
            found.update(piece)
            left -= len(piece)
    return found.hexdigest()
