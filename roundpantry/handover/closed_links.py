"""Links after a copy of the database was put back. The copy does not know what was withdrawn after
it was taken, so only what is known to have been open stays open; the practitioner looks through the
rest.
"""

from __future__ import annotations

import sqlite3
from contextlib import closing
from pathlib import Path

from roundpantry.counter import clock
from roundpantry.counter.backups.places import opened
from roundpantry.handover.models import ShareLink

OPEN = "SELECT nonce FROM handover_sharelink WHERE withdrawn_at IS NULL"
OPENED_AGAIN = f"{OPEN} AND closed_by_restore_at IS NULL"


def close_after_restore(before: Path | None) -> tuple[int, int]:
    """Close the links of the database that Django is connected to, but those that were open in the
    one that stood there `before` (None where it is gone or cannot be read). Return how many were
    closed, and how many are open.
    """
    rows = ShareLink.objects.filter(withdrawn_at__isnull=True)
    known = _open_in(before) if before is not None else set()
    to_close = [link.pk for link in rows if link.nonce not in known]
    rows.filter(pk__in=to_close).update(closed_by_restore_at=clock.now())
    return len(to_close), rows.exclude(pk__in=to_close).filter(
        closed_by_restore_at__isnull=True
    ).count()


def _open_in(database: Path) -> set[str]:
    with closing(opened(database)) as there:
        for question in (OPENED_AGAIN, OPEN):  # an older database knows of no restore
            try:
                return {nonce for (nonce,) in there.execute(question)}
            except sqlite3.OperationalError:
                continue
    return set()
