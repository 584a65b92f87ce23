"""Look at the database before the program starts on it; where it is damaged, empty or gone, say in
words what to do.
"""

from __future__ import annotations

import os
from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from roundpantry.counter.backups.condition import newest_copy
from roundpantry.counter.backups.database_check import check_whole
from roundpantry.counter.backups.places import BackupError, database_file, with_logs


class Command(BaseCommand):
    """Look, and say what to do."""

    help = __doc__
    requires_system_checks = ()

    def add_arguments(self, parser: CommandParser) -> None:
        """The demo may be missing: it is made anew."""
        parser.add_argument("--may-be-missing", action="store_true")

    def handle(self, *args: Any, **options: Any) -> None:
        """Raise CommandError where the program should not start."""
        file = database_file()
        if file is None:
            return
        if with_logs(file):
            _check(file)
        elif not options["may_be_missing"] and not os.environ.get("PANTRY_NEW"):
            copy = newest_copy()
            if copy is not None:
                raise CommandError(
                    f"There is no database {file}, but there are copies of it. {_put_back(copy)} "
                    "To begin an empty practice all the same: PANTRY_NEW=1 ./pantry serve"
                )


def _check(file: Path) -> None:
    try:
        if not file.exists():
            raise BackupError(f"{file.name} is gone, and only its log is left.")
        if not file.stat().st_size:
            raise BackupError(f"{file.name} is empty.")
        check_whole(file)
    except BackupError as error:
        raise CommandError(
            f"The program was not started: the database {file} cannot be used. {error} "
            f"{_put_back(newest_copy())} What stands there now is kept beside the copies by that."
        ) from None


def _put_back(copy: Path | None) -> str:
    if copy is None:
        return "Put a copy back: ./pantry restore FILE (none lies in the folder of copies)."
    return f"Put the newest copy back: ./pantry restore '{copy}'."
