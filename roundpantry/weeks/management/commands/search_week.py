"""Look for a better week in a process of its own; the page reads from the database how far it is."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand, CommandParser

from roundpantry.weeks.planning import run_search


class Command(BaseCommand):
    """Run one search to its end."""

    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        """The search to run."""
        parser.add_argument("search", type=int)

    def handle(self, *args: Any, **options: Any) -> None:
        """Run it."""
        run_search(options["search"])
