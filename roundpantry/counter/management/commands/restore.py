"""Put a copy in the place of the database; the database as it is now is copied first."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandError, CommandParser

from roundpantry.counter.backups import BackupError, put_back


class Command(BaseCommand):
    """Restore one copy."""

    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        """Which copy."""
        parser.add_argument("file", type=Path)

    def handle(self, *args: Any, **options: Any) -> None:
        """Restore it, and bring an older one up to this version of the program."""
        try:
            kept, counts = put_back(options["file"])
        except BackupError as error:
            raise CommandError(str(error)) from None
        call_command("migrate", verbosity=0)
        if kept is not None:
            self.stdout.write(f"The previous database is kept at {kept}.")
        self.stdout.write(
            f"Restored: {counts['clients_client']} clients, {sum(counts.values()):,} rows. "
            "Restart the server."
        )
