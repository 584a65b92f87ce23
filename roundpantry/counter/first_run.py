"""The first login of a new installation, made in the browser by whoever can read the server's
terminal.

The code is derived from the secret key, so nothing is stored, and it works only while there is no
user at all.
"""

from __future__ import annotations

import base64

from django.contrib.auth import get_user_model
from django.contrib.auth.models import User
from django.utils.crypto import constant_time_compare, salted_hmac

from roundpantry.counter.state_changes import GoneError, one_change

CODE_LETTERS = 10  # of 32 each: 50 bits, far beyond guessing over a network


def is_first_run() -> bool:
    """Whether nobody can log in yet."""
    return not get_user_model().objects.exists()


def first_run_code() -> str:
    """The code that `./pantry serve` prints, in two halves: "ABCDE-FGHIJ"."""
    digest = salted_hmac(
        "roundpantry.counter.first_run", "first login", algorithm="sha256"
    ).digest()
    letters = base64.b32encode(digest).decode()[:CODE_LETTERS]
    return f"{letters[:5]}-{letters[5:]}"


def is_the_code(typed: str) -> bool:
    """Whether a typed code is the one, in whatever case and spacing."""

    def letters(text: str) -> str:
        return "".join(letter for letter in text.upper() if letter.isalnum())

    return constant_time_compare(letters(typed), letters(first_run_code()))


@one_change
def add_first_practitioner(person: User) -> User:
    """Store the first practitioner. Raises GoneError where another browser was first."""
    if not is_first_run():
        raise GoneError("first run")
    person.save()
    return person
