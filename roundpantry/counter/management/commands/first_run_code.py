"""Print where the first login is made, and its code; nothing once anybody can log in."""

from __future__ import annotations

from typing import Any

from django.core.management.base import BaseCommand

from roundpantry.counter.first_run import first_run_code, is_first_run


class Command(BaseCommand):
    """Print the code of the first run."""

    help = __doc__
    requires_system_checks = ()  # made when the program is brought up to date

    def handle(self, *args: Any, **options: Any) -> None:
        """Print it, where it is needed."""
        if is_first_run():
            self.stdout.write(
                "No login exists yet. Open the address below and enter this code:  "
                f"{first_run_code()}"
            )
