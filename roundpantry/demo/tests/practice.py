"""The made-up practice for tests: built once by the demo command, then copied row by row, which is
many times faster.
"""

from __future__ import annotations

from django.apps import apps
from django.contrib.auth.models import Permission
from django.contrib.contenttypes.models import ContentType
from django.core.management import call_command
from django.db import connection, transaction

Rows = list[tuple[object, ...]]
_kept: dict[str, tuple[list[str], Rows]] = {}


def load_practice() -> None:
    """Put the practice into the empty database of a test."""
    with transaction.atomic():
        if not _kept:
            call_command("demo")
            _kept.update({table: _read(table) for table in _tables()})
            return
        with connection.cursor() as cursor:
            for table, (columns, rows) in _kept.items():
                names, marks = (
                    ", ".join(f'"{name}"' for name in columns),
                    ", ".join("?" for _ in columns),
                )
                cursor.cursor.executemany(f'INSERT INTO "{table}" ({names}) VALUES ({marks})', rows)


def _tables() -> list[str]:
    """Every table that the demo may fill."""
    models = apps.get_models(include_auto_created=True)
    return [one._meta.db_table for one in models if one not in (ContentType, Permission)]


def _read(table: str) -> tuple[list[str], Rows]:
    with connection.cursor() as cursor:
        cursor.execute(f'SELECT * FROM "{table}"')
        return [column[0] for column in cursor.description], cursor.fetchall()
