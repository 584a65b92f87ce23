"""Copy the database while the program runs, and check the copy."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from roundpantry.counter.backups.places import BackupError
from roundpantry.counter.backups.taking import back_up, daily_backup


class Command(BaseCommand):
    """Take one copy."""

    help = __doc__
    requires_system_checks = ()  # made when the program is brought up to date

    def add_arguments(self, parser: CommandParser) -> None:
        """Where to, or whether it is the copy of the day."""
        parser.add_argument("file", nargs="?", type=Path)
        parser.add_argument(
            "--daily", action="store_true", help="only if none was made today; deletes old ones"
        )
        parser.add_argument(
            "--without-key",
            action="store_true",
            help="leave out the key that signs links: with another key they open nothing",
        )

    def handle(self, *args: Any, **options: Any) -> None:
        """Take it."""
        try:
            if options["daily"]:
                daily_backup()
                return
            file, rows = back_up(options["file"], with_key=not options["without_key"])
        except BackupError as error:
            raise CommandError(str(error)) from None
        holds = (
            "" if options["without_key"] else " It holds the key that signs links: keep it safe."
        )
        self.stdout.write(f"{file}: whole, {rows:,} rows.{holds}")
