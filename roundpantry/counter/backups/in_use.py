"""A sign beside the database that somebody serves it. SQLite lets a file be exchanged under a
program that has it open, and both are lost; so a restore looks for this sign first.
"""

from __future__ import annotations

import fcntl
import os
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path

from roundpantry.counter.backups.places import BackupError

RUNNING = (
    "The program is running on this database. Stop it (Ctrl+C where it was started), "
    "then restore, then start it again. Nothing was changed."
)


def hold_sign(database: Path) -> None:
    """Say for as long as this process and its children live that the database is served."""
    fcntl.flock(_sign(database), fcntl.LOCK_SH)


@contextmanager
def nobody_else(database: Path) -> Iterator[None]:
    """Do something while no server runs on the database, and keep one from starting. Raises
    BackupError where one runs.
    """
    sign = _sign(database)
    try:
        fcntl.flock(sign, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except OSError:
        raise BackupError(RUNNING) from None
    else:
        yield
    finally:
        os.close(sign)


def _sign(database: Path) -> int:
    database.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
    return os.open(database.with_name(f".{database.name}.in-use"), os.O_RDWR | os.O_CREAT, 0o600)
