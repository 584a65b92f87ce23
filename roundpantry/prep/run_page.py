"""An evening while it is cooked, as its page shows it."""

from __future__ import annotations

from datetime import datetime, timedelta
from typing import Any

from django.utils import timezone

from dietetics.prep.evening import took_words
from dietetics.prep.run import Run
from dietetics.prep.tasks import OVEN, Task
from roundpantry.prep.evening_page import evening_name
from roundpantry.prep.models import CookingEvening
from roundpantry.prep.services import minute_of, run_of
from roundpantry.weeks.models import Week

NEXT_SHOWN = 5  # further steps that are listed behind the next one


def run_page(week: Week, row: CookingEvening, now: datetime) -> dict[str, Any]:
    """What the page of a run shows at a moment. Raises DieteticsError."""
    run = run_of(row)
    minute = minute_of(row, now)
    began = row.began_at or now
    ready = [task for task in run.left if run.is_ready(task)]
    blocked = [task for task in run.left if not run.is_ready(task)]
    coming = [*ready[1:], *blocked]
    waiting = sorted(run.waiting.items(), key=lambda pair: pair[1])
    return {
        "week": week,
        "number": row.day + 1,
        "name": evening_name(row.day),
        "said": row.said,
        "next": _step(run, ready[0], began, minute) if ready else None,
        "coming": [_step(run, task, began, minute) for task in coming[:NEXT_SHOWN]],
        "further": max(0, len(coming) - NEXT_SHOWN),
        "waiting": [_timer(run.task(key), began, end, minute) for key, end in waiting],
        "ends_at": _clock(began, run.end),
        "done_count": len(run.done) + len(run.skipped),
        "count": len(run.tasks),
        "is_over": run.is_over,
        "now_ms": int(now.timestamp() * 1000),
    }


def _clock(began: datetime, minute: int) -> str:
    """The time of a minute of the run, in the practitioner's zone."""
    return f"{timezone.localtime(began + timedelta(minutes=minute)):%H:%M}"


def _step(run: Run, task: Task, began: datetime, minute: int) -> dict[str, Any]:
    """A step that is to come: its time, and how it stands with it."""
    starts = run.starts.get(task.key, minute)
    behind = minute - starts
    return {
        "key": task.key,
        "text": task.text,
        "dish": task.dish,
        "at": _clock(began, starts),
        "late": f"{behind} min late" if behind >= 2 else "",
        "early": behind < 0,
        "took": took_words(task.hands_min, task.wait_min),
        "wait": task.wait_min,
        "oven": f"oven, {task.celsius:.0f} °C" if task.device == OVEN and task.celsius else "",
        "ready": run.is_ready(task),
    }


def _timer(task: Task, began: datetime, end: int, minute: int) -> dict[str, Any]:
    """What waits, and the moment it is over in milliseconds since 1970."""
    over = began + timedelta(minutes=end)
    return {
        "key": task.key,
        "text": task.text,
        "dish": task.dish,
        "ends_ms": int(over.timestamp() * 1000),
        "ends_at": _clock(began, end),
        "left": max(end - minute, 0),
        "over": end <= minute,
    }
