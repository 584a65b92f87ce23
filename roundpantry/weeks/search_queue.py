"""Searches for a better week, and for ways to one, that go on behind the page, each in its turn.

A search runs in a process of its own, tells the database how far it is, and looks there whether to
stop.
"""

from __future__ import annotations

import logging
import os
import subprocess
import sys
import time
from collections.abc import Mapping, Sequence
from dataclasses import asdict
from datetime import timedelta
from functools import partial
from typing import Any

from django.conf import settings

from dietetics.week.daynames import start_days_on
from dietetics.week.plan import Plan, plan_json, plan_of
from dietetics.week.question.answer import PROVEN, Answer
from dietetics.week.search.improving import first_week, improve, settle
from dietetics.week.words.explanation import WayOut, ways_out
from roundpantry.counter import clock
from roundpantry.weeks import services
from roundpantry.weeks.models import Search, Week
from roundpantry.weeks.planning import (
    answer_as_it_stands,
    in_the_way,
    plan_with,
    question_from,
    spare_dishes,
)
from roundpantry.weeks.planning_facts import gather

LOG = logging.getLogger(__name__)
CANT_USE = "what it holds the planner can't use; lock that meal first"
LEAST_SECONDS = 3.0  # for a proof, when the first week has taken most of the time
LOOKED_AT_ALL = "trying whole days, and checking how good a week can be"
LOOKED_AT_SOME = (
    "trying whole days of the better dishes, as there are too many ways to fill a day to look at "
    "them all"
)


def start_search(week: Week, seconds: float = 20.0, looks_for: str = Search.PLAN) -> Search:
    """Ask for a better week, or for ways to one, to be looked for behind the page when its turn
    comes.

    The same week is looked for once, however often it is asked for; a search for an earlier state
    of it is told to stop.
    """
    question_from(gather(week))  # refused here, before it waits for its turn
    search = services.queue_search(week, seconds, looks_for=looks_for)
    if settings.SEARCH_IN == "process":
        look_after_searches()
    else:
        run_searches()
        search.refresh_from_db()
    return search


def look_after_searches() -> None:
    """Start a process that works through the queue, where one more may run: one core stays free for
    the pages.
    """
    if services.next_search(most_searches()) is not None:
        command = [sys.executable, str(settings.BASE_DIR / "manage.py"), "search_week"]
        quiet: Any = {
            "stdin": subprocess.DEVNULL,
            "stdout": subprocess.DEVNULL,
            "stderr": subprocess.DEVNULL,
        }
        subprocess.Popen(command, start_new_session=True, **quiet)


def most_searches() -> int:
    """How many searches run at once: as many as there are cores less one, and one at least."""
    return max(1, (os.cpu_count() or 2) - 1)


def run_searches() -> None:
    """Work through the queue until nothing waits, or as many search already as may."""
    while (search := services.claim_search(most_searches())) is not None:
        try:
            run_search(search)
        except Exception:
            Search.objects.filter(pk=search.pk).update(
                state=Search.FAILED, doing="it stopped unexpectedly; what was found is kept"
            )
            if settings.SEARCH_IN != "process":
                raise
            LOG.exception("search %s broke off", search.pk)


def run_search(search: Search) -> None:
    """Look for what was asked, telling the row how far it is."""
    start_days_on(search.week.start.weekday())
    if search.looks_for == Search.WAYS:
        _look_for_ways(search)
    else:
        _look_for_a_plan(search)


def _note(search: Search, **values: Any) -> bool:
    """Tell the row something; False where nobody wants more."""
    Search.objects.filter(pk=search.pk).update(beat_at=clock.now(), **values)
    return not Search.objects.filter(pk=search.pk, stop=True).exists()


def _look_for_ways(search: Search) -> None:
    """Try what might better the week as it stands, one change after the other."""
    facts = gather(search.week)
    answer = answer_as_it_stands(facts)
    if answer is None:
        where = in_the_way(facts).partition(", ")[0]
        _note(search, state=Search.FAILED, doing=f"{where}: {CANT_USE}")
        return

    def told(number: int, of: int, found: Sequence[WayOut]) -> bool:
        doing = f"{number} of {of} changes tried"
        return _note(search, doing=doing, ways=[asdict(way) for way in found])

    ways = ways_out(answer, spare_dishes(facts, answer.question), told=told)
    stopped = not _note(search, ways=[asdict(way) for way in ways])
    _note(search, state=Search.STOPPED if stopped else Search.DONE, doing="")


def _look_for_a_plan(search: Search) -> None:
    """Look for a better week and prove how good it is."""
    note = partial(_note, search)
    facts = gather(search.week)
    question = question_from(facts)

    def found(answer: Answer) -> Mapping[str, Any]:
        return {
            "points": answer.points,
            "bound": answer.bound,
            "plan": plan_json(plan_with(facts.plan, answer, facts.available)),
        }

    began = time.monotonic()
    settled = settle(question)
    answer = first_week(question, settled)
    doing = LOOKED_AT_ALL if settled.whole else LOOKED_AT_SOME
    note(first_points=answer.points)
    going = note(doing=doing, **found(answer))
    if going:
        left = max(LEAST_SECONDS, search.seconds - (time.monotonic() - began))
        better = improve(settled, left, _Pulse(note))
        answer = min(better, answer, key=lambda one: one.points)
    stopped = not note(**found(answer))
    open_ = answer.gap is None or answer.gap > PROVEN
    state = Search.STOPPED if stopped and open_ else Search.DONE
    note(state=state, doing="")


class _Pulse:
    """Tells the database twice a second how far a proof is, and whether to go on."""

    def __init__(self, note: Any) -> None:
        self.note, self.last, self.going = note, -1.0, True

    def __call__(self, seconds: float, points: float, bound: float) -> bool:
        if seconds - self.last >= 0.5:
            self.last = seconds
            values = {"points": points} if points < 1e15 else {}
            if bound > -1e15:
                values["bound"] = max(0.0, bound)
            self.going = self.note(**values)
        return bool(self.going)


def state_of(search: Search) -> str:
    """The state of a search; one that has been silent for long is over. One that waits is looked
    after.
    """
    silent = clock.now() - search.beat_at > timedelta(seconds=services.SILENT_SECONDS)
    if search.state == Search.RUNNING and silent:
        Search.objects.filter(pk=search.pk, state=Search.RUNNING).update(
            state=Search.FAILED, doing="it stopped responding"
        )
        return Search.FAILED
    if search.state == Search.WAITING and settings.SEARCH_IN == "process":
        look_after_searches()
    return search.state


def found_plan(search: Search) -> Plan | None:
    """The best week a search has found so far."""
    return plan_of(search.plan) if search.plan else None
