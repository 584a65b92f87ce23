"""How a change of state is made, for every app: one at a time, on what is stored now, and never
twice by one press.

A page that was opened a while ago holds rows as they were then. A service that wrote from those
would take back what another window has done since. So every service runs through `one_change`: it
holds the only pen (an IMMEDIATE transaction) and reads anew what it was handed before it looks at
it.
"""

from __future__ import annotations

from collections.abc import Callable
from functools import wraps
from typing import ParamSpec, TypeVar

from django.contrib.auth.models import User
from django.core.exceptions import ObjectDoesNotExist
from django.db import models, transaction

from roundpantry.counter.kept import changing

Given = ParamSpec("Given")
Made = TypeVar("Made")
MARK = "runs_as_one_change"


class GoneError(Exception):
    """What was to be changed has been removed in the meantime."""


def one_change(service: Callable[Given, Made]) -> Callable[Given, Made]:
    """Run a service in one transaction, with every row it is handed read anew first. Raises
    GoneError for a removed row.

    The practitioner is handed over as who asks, not as what is changed, and is not read anew.
    """

    @wraps(service)
    def run(*args: Given.args, **kwargs: Given.kwargs) -> Made:
        with changing(), transaction.atomic():
            for value in (*args, *kwargs.values()):
                if (
                    isinstance(value, models.Model)
                    and value.pk is not None
                    and not isinstance(value, User)
                ):
                    _read_anew(value)
            return service(*args, **kwargs)

    setattr(run, MARK, True)
    return run


def _read_anew(row: models.Model) -> None:
    """The row as it is stored now, with the rows its model names in `read_with`; others are fetched
    where they are asked for.
    """
    with_them = getattr(type(row), "read_with", ())
    try:
        row.refresh_from_db(
            from_queryset=type(row)._base_manager.select_related(*with_them) if with_them else None
        )
    except ObjectDoesNotExist:
        raise GoneError(type(row).__name__) from None
