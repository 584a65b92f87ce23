"""No superusers: there is no admin site here, and Django's command lets a weak password pass."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand, CommandError


class Command(BaseCommand):
    """Refuse, and say what to use."""

    help = __doc__

    def handle(self, *args: Any, **options: Any) -> None:
        """Point at the command that keeps to the password rules."""
        raise CommandError("Make a login with ./pantry user: it keeps to the password rules.")

    def add_arguments(self, parser: Any) -> None:
        """Take whatever is given, to be refused in words."""
        parser.add_argument("anything", nargs="*")
