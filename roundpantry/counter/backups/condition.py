"""How it stands with the copies, for the people who rely on them: when the last one worked, what
went wrong since, and whether the disk has room.
"""

from __future__ import annotations

import json
import shutil
from contextlib import suppress
from dataclasses import dataclass
from datetime import datetime, timedelta
from pathlib import Path

from django.conf import settings

from roundpantry.counter import clock
from roundpantry.counter.backups.places import (
    backup_folder,
    database_file,
    made_backup_folder,
    taken_at,
)

LATE = timedelta(days=2)
ROOM_BYTES = 200_000_000  # from memory: less than this and logs and copies of some weeks do not fit
ROOM_COPIES = 4  # or less than so many databases of the size of this one


@dataclass(frozen=True)
class Condition:
    """What a practitioner should know of the copies. `last` is when one was taken last; `since` is
    set where that is too long ago; `problem` why the last try failed; `free_bytes` where the disk
    is nearly full.
    """

    last: datetime | None = None
    since: datetime | None = None
    problem: str = ""
    free_bytes: int | None = None

    @property
    def is_well(self) -> bool:
        """True where nothing needs to be said."""
        return self.since is None and self.free_bytes is None


def note_success(source: Path) -> None:
    """Remember that a copy was taken now."""
    _write(source, {"last": clock.now().isoformat(), "problem": ""})


def note_failure(source: Path, why: str) -> None:
    """Remember that a copy could not be taken, and why; never in the way of saying so."""
    with suppress(OSError):
        _write(source, {**_read(source), "problem": why[:300]})


def condition() -> Condition:
    """How it stands now. A practice that is younger than two days needs no copy yet."""
    source = database_file()
    if source is None or not source.exists():
        return Condition()
    kept = _read(source)
    last = _moment(kept.get("last"))
    began = _moment(kept.get("began"))
    if last is None and began is None:
        with suppress(OSError):
            _write(source, {**kept, "began": clock.now().isoformat()})
        began = clock.now()
    known = last or began
    assert known is not None
    late = clock.now() - known > LATE
    free = shutil.disk_usage(settings.HOME).free
    wanted = max(ROOM_BYTES, ROOM_COPIES * source.stat().st_size)
    return Condition(
        last, known if late else None, kept.get("problem", ""), free if free < wanted else None
    )


def newest_copy() -> Path | None:
    """The newest copy of this database in the folder of copies; None where there is none."""
    source = database_file()
    if source is None or not backup_folder().exists():
        return None
    found = [file for file in backup_folder().glob(f"{source.stem}-*") if file.is_file()]
    return max(found, key=taken_at, default=None)


def _state_file(source: Path) -> Path:
    return backup_folder() / f".{source.stem}.state.json"


def _read(source: Path) -> dict[str, str]:
    try:
        found = json.loads(_state_file(source).read_text(encoding="utf-8"))
    except (OSError, ValueError):
        return {}
    return {str(k): str(v) for k, v in found.items()} if isinstance(found, dict) else {}


def _write(source: Path, state: dict[str, str]) -> None:
    made_backup_folder()
    _state_file(source).write_text(json.dumps(state), encoding="utf-8")


def _moment(text: str | None) -> datetime | None:
    try:
        return datetime.fromisoformat(text) if text else None
    except ValueError:
        return None
