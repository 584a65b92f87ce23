"""Django's migrate, which copies the database first where it is about to change one that holds
something.
"""

from __future__ import annotations

from typing import Any

from django.core.management.base import CommandError
from django.core.management.commands.migrate import Command as DjangosCommand
from django.db import connection
from django.db.migrations.executor import MigrationExecutor

from roundpantry.counter.backups.places import BackupError, database_file
from roundpantry.counter.backups.taking import back_up


class Command(DjangosCommand):
    """Copy, then migrate."""

    def handle(self, *args: Any, **options: Any) -> Any:
        """Copy where anything is to be done, and do it."""
        file = database_file()
        if (
            file is not None
            and file.exists()
            and "clients_client" in connection.introspection.table_names()
        ):
            executor = MigrationExecutor(connection)
            if executor.migration_plan(executor.loader.graph.leaf_nodes()):
                try:
                    kept, _ = back_up(why="before migrating")
                except BackupError as error:
                    raise CommandError(f"Nothing was changed. {error}") from None
                self.stdout.write(f"The previous database is kept at {kept}.")
        return super().handle(*args, **options)
