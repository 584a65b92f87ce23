"""How gunicorn runs the program: two processes of twelve threads, requests bounded, a copy of the
database every day.
"""

from __future__ import annotations

import os
import subprocess
import sys
import threading
from typing import Any

from roundpantry.config.logs import WithoutTokens

bind = f"127.0.0.1:{os.environ.get('PANTRY_PORT', '8471')}"
# of the twelve threads of a process eight at most are asleep before they refuse a login
workers, threads, worker_class = 2, 12, "gthread"
accesslog, loglevel = "/dev/null", "warning"
# A request line and headers longer than these are no browser's. A slow sender of a body holds a
# thread all the same: behind a proxy that reads the whole request first it cannot (docs/deploy.md).
limit_request_line, limit_request_fields, limit_request_field_size = 8190, 60, 8190
timeout, graceful_timeout, keepalive = 60, 20, 5
AN_HOUR_S = 3600.0


def on_starting(server: Any) -> None:
    """Say, for as long as the program runs, that it has the database open: a restore waits. Keep
    the addresses of links out of what the server itself writes.
    """
    from roundpantry.counter.backups.in_use import hold_sign
    from roundpantry.counter.backups.places import database_file

    server.log.error_log.addFilter(WithoutTokens())
    file = database_file()
    if file is not None:
        hold_sign(file)


def when_ready(server: Any) -> None:
    """Look every hour, in the parent, whether today's copy of the database was taken."""
    threading.Thread(target=_copy_daily, args=(threading.Event(),), daemon=True).start()


def _copy_daily(never: threading.Event) -> None:
    while True:
        subprocess.run(
            [sys.executable, "manage.py", "backup", "--daily"],
            check=False,
            stdout=subprocess.DEVNULL,
        )
        never.wait(AN_HOUR_S)
