"""Put a copy in the place of the database; what stands there now is kept, whole or damaged."""

from __future__ import annotations

from pathlib import Path
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser

from roundpantry.counter.backups.places import BackupError
from roundpantry.counter.backups.restoring import KEY_FIXED, KEY_PUT_BACK, Restored, put_back


class Command(BaseCommand):
    """Restore one copy."""

    help = __doc__
    requires_system_checks = ()  # they may ask a database that is damaged

    def add_arguments(self, parser: CommandParser) -> None:
        """Which copy."""
        parser.add_argument("file", type=Path)

    def handle(self, *args: Any, **options: Any) -> None:
        """Restore it, and say what was done."""
        try:
            restored = put_back(options["file"])
        except BackupError as error:
            raise CommandError(str(error)) from None
        for line in _told(restored):
            self.stdout.write(line)


def _told(restored: Restored) -> list[str]:
    """What was done, in words."""
    lines = []
    if restored.before is not None:
        what = "damaged database is kept as it was" if restored.was_damaged else "database is kept"
        lines.append(f"The previous {what} in {restored.before}.")
    clients, rows = restored.counts["clients_client"], sum(restored.counts.values())
    lines.append(f"Restored: {clients} client{'' if clients == 1 else 's'}, {rows:,} rows.")
    lines.append("Everybody has to log in again.")
    if restored.closed_links:
        lines.append(
            f"{restored.closed_links} of the clients' links are closed, for nobody knows which "
            "were withdrawn after the copy. Today shows them; there they are opened again."
        )
    if restored.key == KEY_PUT_BACK:
        lines.append("The key that signs links was in the copy and was put back too.")
    if restored.key == KEY_FIXED:
        lines.append(
            "The copy's key differs from PANTRY_SECRET_KEY: links that were signed with it open "
            "only when PANTRY_SECRET_KEY is set to that key."
        )
    lines.append("Start the server now.")
    return lines
