"""Changes of state of prep: the kitchen, an evening's start, tasks corrected, a run."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import datetime, time, timedelta

from dietetics.errors import DieteticsError
from dietetics.prep import run as core
from dietetics.prep.pace import USUAL_PACE, pace_of
from dietetics.prep.run_json import run_json, run_of_json
from dietetics.prep.timetable import Timetable
from roundpantry.batches.models import Batch
from roundpantry.clients.models import Client
from roundpantry.counter.state_changes import one_change
from roundpantry.prep.models import ClientKitchen, CookingEvening, TaskCorrection
from roundpantry.prep.records import pace_of_client, used_on
from roundpantry.shopping.services import take_from_home
from roundpantry.weeks.models import Week


@one_change
def set_kitchen(client: Client, counts: Mapping[str, int]) -> None:
    """Keep what a client cooks with."""
    ClientKitchen.objects.update_or_create(client=client, defaults=dict(counts))


@one_change
def set_start(week: Week, day: int, start_at: time) -> None:
    """Begin an evening at this time."""
    CookingEvening.objects.update_or_create(week=week, day=day, defaults={"start_at": start_at})


def start_for_end(end: time, minutes: int) -> time:
    """When to begin so that an evening of so many minutes is over at `end`."""
    on_a_day = datetime(2000, 1, 2, end.hour, end.minute)
    return (on_a_day - timedelta(minutes=minutes)).time()


@one_change
def correct_task(batch: Batch, key: str, text: str, said: Mapping[str, float | None]) -> None:
    """Keep what a cook said of a task; nothing said forgets it."""
    if all(value is None for value in said.values()):
        TaskCorrection.objects.filter(batch=batch, task_key=key).delete()
        return
    TaskCorrection.objects.update_or_create(
        batch=batch, task_key=key, defaults={**said, "text": text[:700]}
    )


@one_change
def start_run(week: Week, day: int, found: Timetable, now: datetime) -> CookingEvening:
    """Begin to cook; an evening that runs goes on."""
    evening, _ = CookingEvening.objects.get_or_create(week=week, day=day)
    if evening.run is None:
        pace = pace_of_client(week.client) or USUAL_PACE
        evening.run = run_json(core.run_of(found, pace))
        evening.began_at = now
        evening.said = ""
        evening.revision += 1
        evening.save()
    return evening


@one_change
def press(evening: CookingEvening, what: str, key: str, now: datetime) -> None:
    """One press while cooking. The rest is planned anew, and the change kept in words. Raises
    DieteticsError.
    """
    before = run_of(evening)
    minute = minute_of(evening, now)
    if what == "hands-done":
        after = core.hands_done(before, key, minute)
    elif what == "ready":
        after = core.wait_over(before, key, minute)
    elif what == "more":
        after = core.more_time(before, key, minute)
    else:
        after = core.skip(before, key)
    if after == before:
        return
    after, moved = core.planned_anew(after, minute, before)
    evening.run = run_json(after)
    evening.said = f"The evening ends {moved}." if moved else ""
    evening.revision += 1
    evening.pace = pace_of(after) if after.is_over else evening.pace
    evening.save(update_fields=["run", "said", "revision", "pace"])
    if after.is_over and not before.is_over:
        take_from_home(evening.week.client, used_on(evening.week, evening.day))


@one_change
def stop_run(evening: CookingEvening) -> None:
    """Put an evening's run away; the plan stays."""
    evening.run, evening.began_at, evening.said = None, None, ""
    evening.revision += 1
    evening.save(update_fields=["run", "began_at", "said", "revision"])


def run_of(evening: CookingEvening) -> core.Run:
    """The run of an evening. Raises DieteticsError `prep-not-running`."""
    if evening.run is None:
        raise DieteticsError("prep-not-running")
    return run_of_json(evening.run)


def minute_of(evening: CookingEvening, now: datetime) -> int:
    """Whole minutes since the evening began."""
    if evening.began_at is None:
        return 0
    return max(0, int((now - evening.began_at).total_seconds() // 60))
