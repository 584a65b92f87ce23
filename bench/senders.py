"""One sender of passwords, as a process of its own: the bench measures in another."""

from __future__ import annotations

import itertools
import signal
import sys

import django

django.setup()

from hostile.server import Visitor


def _try(port: int, sender: int, from_anywhere: bool) -> None:
    """Try until this process is ended, then print how often."""
    stranger, tries = Visitor(port), 0
    stranger.get("/login/")

    def over(*_: object) -> None:
        print(tries)
        raise SystemExit

    signal.signal(signal.SIGTERM, over)
    for number in itertools.count():
        address = f"10.{sender}.{number // 250}.{number % 250}" if from_anywhere else "192.0.2.1"
        stranger.request(
            "POST",
            "/login/",
            f"username=name-{sender}-{number}&password=guess",
            {
                "X-Forwarded-For": address,
                "Content-Type": "application/x-www-form-urlencoded",
                "X-CSRFToken": stranger.cookies.get("csrftoken", ""),
            },
        )
        tries += 1


if __name__ == "__main__":
    _try(int(sys.argv[1]), int(sys.argv[2]), bool(sys.argv[3]))
