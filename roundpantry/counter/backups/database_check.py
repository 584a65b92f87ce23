"""Whether a file is a whole database of this program: undamaged, no row without what it belongs to,
every table and column that its own history of migrations made, and nothing of a newer program.
"""

from __future__ import annotations

import sqlite3
from contextlib import closing
from pathlib import Path

from django.db.migrations.exceptions import NodeNotFoundError
from django.db.migrations.loader import MigrationLoader

from roundpantry.counter.backups.places import BackupError, opened

Counts = dict[str, int]
Migration = tuple[str, str]
GONE = {"axes"}  # apps that earlier versions had
OUR_FIRST = ("clients", "0001_initial")  # what every database of this program has been through


def check_whole(file: Path) -> Counts:
    """The rows of every table of an undamaged database. Raises BackupError for a file that is
    damaged or none.
    """
    if not file.exists():
        raise BackupError(f"There is no file {file}.")
    try:
        with closing(opened(file)) as there:
            found = there.execute("PRAGMA integrity_check(1)").fetchone()[0]
            lonely = there.execute("PRAGMA foreign_key_check").fetchone()
            counts = {
                name: there.execute(f'SELECT COUNT(*) FROM "{name}"').fetchone()[0]
                for (name,) in there.execute(
                    "SELECT name FROM sqlite_master WHERE type = 'table'"
                ).fetchall()
            }
    except sqlite3.Error as error:
        raise BackupError(f"{file.name} is damaged or not a database: {error}.") from None
    if found != "ok" or lonely:
        what = found if found != "ok" else "rows that belong together are missing"
        raise BackupError(f"{file.name} is damaged: {what}.")
    return counts


def check_ours(file: Path) -> None:
    """Hold an undamaged database against this program. Raises BackupError for a foreign one, one of
    a newer program, and one that lacks a table or a column of its own version.
    """
    with closing(opened(file)) as there:
        applied = _migrations(there)
        if OUR_FIRST not in applied:
            raise BackupError(f"{file.name} is not a database of this program.")
        loader = MigrationLoader(None)
        if newer := sorted(applied - set(loader.disk_migrations or ()) - set(loader.graph.nodes)):
            raise BackupError(
                f"{file.name} was written by a newer version of the program (it knows "
                f"{'.'.join(newer[0])}). Update the program first."
            )
        missing = _missing(there, loader, applied)
        made = there.execute(
            "SELECT type, name FROM sqlite_master WHERE type IN ('trigger', 'view')"
        ).fetchone()
    if missing:
        raise BackupError(f"{file.name} is incomplete: {missing} is missing.")
    if made:
        raise BackupError(f"{file.name} has a {made[0]} “{made[1]}” that this program never made.")


def _migrations(there: sqlite3.Connection) -> set[Migration]:
    """The migrations that a database went through; none for a foreign one."""
    try:
        rows = there.execute("SELECT app, name FROM django_migrations").fetchall()
    except sqlite3.Error:
        return set()
    return {(app, name) for app, name in rows if app not in GONE}


def _missing(there: sqlite3.Connection, loader: MigrationLoader, applied: set[Migration]) -> str:
    """The first table or column that these migrations make and the database lacks; "" for none."""
    nodes = sorted(applied & set(loader.graph.nodes))
    try:
        state = loader.project_state(nodes)
    except (NodeNotFoundError, KeyError):
        return "a part of its history"
    for model in state.apps.get_models(include_auto_created=True):
        table = model._meta.db_table
        known = {row[1] for row in there.execute(f'PRAGMA table_info("{table}")')}
        wanted = {str(field.column) for field in model._meta.local_concrete_fields}
        if not known:
            return f"the table {table}"
        if wanted - known:
            return f"the column {min(wanted - known)} of {table}"
    for node in nodes:
        if not {(one[0], one[1]) for one in loader.graph.forwards_plan(node)} <= applied:
            return f"a migration before {'.'.join(node)}"
    return ""


def last_migrations(file: Path) -> list[list[str]]:
    """The newest migration of each app that a database went through, as a copy says it."""
    with closing(opened(file)) as there:
        newest: dict[str, str] = {}
        for app, name in sorted(_migrations(there)):
            newest[app] = name
    return [[app, name] for app, name in newest.items()]
