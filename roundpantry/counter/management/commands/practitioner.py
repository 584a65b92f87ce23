"""Make a login for a practitioner. The password follows the rules, and there is no way around
them.
"""

from __future__ import annotations

import getpass
import os
import sys
from typing import Any

from django.contrib.auth import get_user_model
from django.contrib.auth.password_validation import validate_password
from django.core.exceptions import ValidationError
from django.core.management.base import BaseCommand, CommandError, CommandParser


class Command(BaseCommand):
    """Add one practitioner."""

    help = __doc__
    requires_system_checks = ()  # made when the program is brought up to date

    def add_arguments(self, parser: CommandParser) -> None:
        """Whom."""
        parser.add_argument("name", nargs="?", help="what is typed at the login")
        parser.add_argument("--first-name", default="")
        parser.add_argument("--last-name", default="")

    def handle(self, *args: Any, **options: Any) -> None:
        """Ask for what is missing, check it, and store it."""
        users = get_user_model()
        name = (options["name"] or (input("Username: ") if sys.stdin.isatty() else "")).strip()
        if not name or users.objects.filter(username__iexact=name).exists():
            raise CommandError(
                "Give a username." if not name else f"A login called {name} already exists."
            )
        person = users(
            username=name, first_name=options["first_name"], last_name=options["last_name"]
        )
        password = os.environ.get("PANTRY_PASSWORD") or (
            _asked_password() if sys.stdin.isatty() else ""
        )
        try:
            person.full_clean(exclude=["password"])
            validate_password(password, person)
        except ValidationError as error:
            raise CommandError(" ".join(error.messages)) from None
        person.set_password(password)
        person.save()
        self.stdout.write(f"{name} can log in now.")


def _asked_password() -> str:
    """A password typed twice the same."""
    password = getpass.getpass("Password (at least 10 characters): ")
    if getpass.getpass("Repeat the password: ") != password:
        raise CommandError("The two passwords differ. Nothing was saved.")
    return password
