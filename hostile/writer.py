"""A practitioner who adds one bowl after the other through the whole program, and says each time
that it was answered.

    python -m hostile.writer CLIENT NAME

Run on a database in a file, to be killed at any moment: what was said to be stored must be there.
"""

from __future__ import annotations

import sys

import django


def main(client_pk: str, name: str) -> None:
    """Add bowls until somebody kills the process."""
    django.setup()
    from django.contrib.auth import get_user_model
    from django.test import Client
    from django.urls import reverse

    browser = Client(headers={"host": "localhost"})
    browser.force_login(get_user_model().objects.get(username="petra"))
    where = reverse("bowls:list", args=[client_pk])
    print("ready", flush=True)
    for number in range(10_000):
        if browser.post(where, {"name": f"{name}-{number}", "meal": ""}).status_code == 302:
            print(f"{name}-{number}", flush=True)


if __name__ == "__main__":
    main(*sys.argv[1:])
