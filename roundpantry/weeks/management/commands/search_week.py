"""Work through the queue of searches for better weeks; the pages read from the database how far
each is.
"""

from __future__ import annotations

import os
from typing import Any

from django.core.management.base import BaseCommand

from roundpantry.weeks.search_queue import run_searches


class Command(BaseCommand):
    """Run what waits, one after the other."""

    help = __doc__
    requires_system_checks: list[str] = []

    def handle(self, *args: Any, **options: Any) -> None:
        """Run them, behind the pages: whoever waits for a page goes first."""
        if hasattr(os, "nice"):
            os.nice(10)
        run_searches()
