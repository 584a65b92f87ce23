"""Build the database with the made-up practice beside its place, and move it there when it is
complete.

Whatever stops it half-way leaves nothing behind that a later start would take for the whole.
"""

from __future__ import annotations

import os
import sqlite3
import subprocess
import sys
from contextlib import closing
from pathlib import Path
from typing import Any

from django.conf import settings
from django.core.management.base import BaseCommand, CommandParser

from roundpantry.counter.backups.places import database_file, opened


class Command(BaseCommand):
    """Build it, where there is none that is complete."""

    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        """The day is today, unless said."""
        parser.add_argument("--day", default="", help="the day up to which everything happened")

    def handle(self, *args: Any, day: str = "", **options: Any) -> None:
        """Build, check, move."""
        place = database_file()
        if place is None or _complete(place):
            return
        place.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
        for left in place.parent.glob(f"{place.name}.building*"):
            left.unlink(missing_ok=True)
        building = place.with_name(f"{place.name}.building")
        environment = {**os.environ, "PANTRY_DATABASE": building.name}
        manage = str(settings.BASE_DIR / "manage.py")
        demo = ("demo", "--day", day) if day else ("demo",)
        for words in (("migrate", "--verbosity", "0"), demo):
            subprocess.run([sys.executable, manage, *words], env=environment, check=True)
        with closing(sqlite3.connect(building)) as made:
            made.execute("PRAGMA wal_checkpoint(TRUNCATE)")
            made.execute("PRAGMA journal_mode=DELETE")
        for log in ("-wal", "-shm"):
            Path(f"{place}{log}").unlink(missing_ok=True)
        os.replace(building, place)


def _complete(place: Path) -> bool:
    """True for a database with people in it: the demo stores everybody and everything in one
    transaction.
    """
    if not place.exists():
        return False
    try:
        with closing(opened(place, "ro")) as there:
            return bool(there.execute("SELECT EXISTS (SELECT 1 FROM auth_user)").fetchone()[0])
    except sqlite3.Error:
        return False
