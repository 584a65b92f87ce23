"""Copy the database while the program runs, and check the copy."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from roundpantry.counter.backups import BackupError, back_up, check, daily_backup


class Command(BaseCommand):
    """Take one copy."""

    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        """Where to, or whether it is the copy of the day."""
        parser.add_argument("file", nargs="?", type=Path)
        parser.add_argument(
            "--daily", action="store_true", help="only if none was made today; deletes old ones"
        )

    def handle(self, *args: Any, **options: Any) -> None:
        """Take it."""
        try:
            made = daily_backup() if options["daily"] else back_up(options["file"])
        except BackupError as error:
            raise CommandError(str(error)) from None
        if made is not None:
            self.stdout.write(f"{made}: whole, {sum(check(made).values()):,} rows.")
