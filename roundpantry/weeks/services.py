"""Changes of state of this app: one change of a plan at a time, against the revision that was seen;
undo; versions.

A change that was made against an older revision is refused and nothing is lost: the page shows the
newer week beside it.
"""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from datetime import date, timedelta
from typing import Any

from django.db import transaction
from django.db.models import Case, QuerySet, When

from dietetics.cautions.exclusions import blocking_allergies
from dietetics.cautions.verdict import Verdict
from dietetics.errors import DieteticsError
from dietetics.week import plan as core
from dietetics.week.batch_supply import carried
from dietetics.week.day_totals import batch_supplies
from dietetics.week.plan import FREE, Entry, Plan, plan_json
from roundpantry.clients.models import Client
from roundpantry.clients.records import client_facts_of
from roundpantry.clients.services import acknowledge
from roundpantry.counter import clock
from roundpantry.counter.dates import day_text
from roundpantry.counter.state_changes import GoneError, one_change
from roundpantry.shelf.records import preferences_of
from roundpantry.weeks.cell_changes import ACTIONS, SentChange
from roundpantry.weeks.models import DishChoice, Search, Week, WeekChange
from roundpantry.weeks.records import (
    UnreadableWeekError,
    available_dishes,
    plan_value,
    week_targets_of,
    with_free,
)

MOST_STEPS_BACK = 60
SILENT_SECONDS = 15.0  # a search that says nothing for so long is over
FIRST_DAY, LAST_DAY = (
    date(2000, 1, 1),
    date(2099, 12, 31),
)  # calendars and spreadsheets hold these without trouble


class MovedOnError(Exception):
    """The week was changed elsewhere since it was shown."""


def week_start(day: date, first_weekday: int = 0) -> date:
    """The day on which a day's week starts: its Monday, or the weekday the practitioner's weeks
    start on (6 is Sunday).
    """
    return day - timedelta(days=(day.weekday() - first_weekday) % 7)


@one_change
def add_week(client: Client, start: date, like: Week | None = None) -> Week:
    """A new week of a client, empty or like an earlier one; what that one leaves in time is carried
    over.

    Raises `week-no-meals` for a client without targets, `week-there` when that week is there
    already.
    """
    if not FIRST_DAY <= start <= LAST_DAY:
        raise DieteticsError(
            "week-day",
            start=start.isoformat(),
            first=FIRST_DAY.isoformat(),
            last=LAST_DAY.isoformat(),
        )
    start = week_start(start, preferences_of(client.practitioner).week_starts)
    week_targets = week_targets_of(client)
    if week_targets is None:
        raise DieteticsError("week-no-meals")
    plan = core.empty_plan([meal.name for meal in week_targets.meals])
    before = client.weeks.filter(start=start - timedelta(days=7)).order_by("-version").first()
    rules: dict[str, Any] = {}
    if like is not None:
        old = plan_value(like)
        rules = like.rules
        if old.meals == plan.meals:
            kept = tuple(c for c in old.cookings if c.day >= -1)
            plan = core.Plan(old.meals, old.days, kept)
    if before is not None:
        plan = core.Plan(plan.meals, plan.days, (*left_of(before), *plan.cookings))
    near = timedelta(
        days=6
    )  # weeks of a practitioner who has changed the first weekday must not share days
    there = client.weeks.filter(start__range=(start - near, start + near)).first()
    if there is not None:
        raise DieteticsError("week-there", start=day_text(there.start))
    return Week.objects.create(client=client, start=start, plan=plan_json(plan), rules=rules)


def left_of(week: Week) -> tuple[core.Cooking, ...]:
    """What a week leaves for the next one."""
    try:
        plan = plan_value(week)
    except UnreadableWeekError:
        return ()
    available = with_free(available_dishes(week.client, plan), week_targets_of(week.client), plan)
    return carried(batch_supplies(plan, available.dishes, available.pots), len(plan.days))


def act(week: Week, what: str, sent: SentChange, by: str = "") -> Week:
    """Make one change against the revision that was seen. Raises DieteticsError, or MovedOnError
    when the week has moved on.
    """
    if what not in ACTIONS:
        raise DieteticsError("week-unreadable", problem=f"“{what}” is not a change to a week")
    words, turn = ACTIONS[what]
    made = turn(plan_value(week), sent)
    entries = [sent.entry()] if what in ("put", "add") else []
    held = _let_in(week, entries, sent.because)
    return _stored_with(week, sent.revision, made, words, held, sent.because, by)


def take_in(week: Week, revision: int, made: Plan, because: str = "", by: str = "") -> Week:
    """Store a plan out of a file. What it brings anew of the client's allergens is asked about and
    recorded like anything else.

    Raises `allergen-blocked` without a reason, MovedOnError.
    """
    there = {entry.dish for _, _, cell in plan_value(week).places() for entry in cell.entries}
    fresh = {
        entry.dish: entry
        for _, _, cell in made.places()
        for entry in cell.entries
        if entry.dish not in there
    }
    held = _let_in(week, list(fresh.values()), because, from_file=True)
    return _stored_with(week, revision, made, "read from a file", held, because, by)


def _stored_with(
    week: Week,
    revision: int,
    made: Plan,
    words: str,
    held: Sequence[Verdict],
    because: str,
    by: str,
) -> Week:
    """Store a plan together with the reason for every allergen that was let in."""
    with transaction.atomic():
        stored = store(week, revision, made, words)
        for verdict in held:
            acknowledge(week.client, f"week-{stored.pk}", verdict, because.strip()[:400], by)
    return stored


def _let_in(
    week: Week, entries: Sequence[Entry], because: str, from_file: bool = False
) -> list[Verdict]:
    """The allergens of batches and foods that the client has, all of them. A bowl was asked about
    when it was made.

    What is not on the shelf is refused; a file may name what is gone by now, and shows it as gone.

    Raises `allergen-blocked` without a reason.
    """
    asked = [entry for entry in entries if not entry.dish.startswith("bowl-")]
    if not asked:
        return []
    plan = core.empty_plan([str(n) for n in range(len(asked))], 1)
    for n, entry in enumerate(asked):
        plan = core.put(plan, 0, n, entry)
    dishes = available_dishes(week.client, plan).dishes
    unknown = [
        entry.name
        for entry in asked
        if entry.dish not in dishes and not entry.dish.startswith(FREE)
    ]
    if unknown and not from_file:
        raise DieteticsError("week-no-dish", dish=", ".join(unknown)[:200])
    foods = [
        food for entry in asked if entry.dish in dishes for food, _ in dishes[entry.dish].foods
    ]
    held = blocking_allergies(foods, client_facts_of(week.client))
    if held and not because.strip():
        named = ", ".join(verdict.subject for verdict in held)
        what = ", ".join(entry.name for entry in asked)
        raise DieteticsError(
            "allergen-blocked", food=what[:200], allergens=named, client=week.client.name
        )
    return held


def store(
    week: Week, revision: int, made: Plan, what: str, rules: dict[str, Any] | None = None
) -> Week:
    """Store a changed plan; a frozen week gets its next version, which holds the change. Raises
    MovedOnError.
    """
    data = plan_json(core.as_stored(made))
    with transaction.atomic():
        now = _as_it_is(week)
        if now.revision != revision:
            raise MovedOnError
        if now.frozen_at is not None:
            now = _next_version(now)
        if data == now.plan and (rules is None or rules == now.rules):
            return now
        WeekChange.objects.create(week=now, what=what[:160], plan=now.plan, rules=now.rules)
        stale = now.changes.values_list("pk", flat=True)[MOST_STEPS_BACK:]
        WeekChange.objects.filter(pk__in=list(stale)).delete()
        now.plan, now.revision = data, now.revision + 1
        if rules is not None:
            now.rules = rules
        now.save(update_fields=["plan", "rules", "revision", "changed_at"])
    return now


def _as_it_is(week: Week) -> Week:
    found = Week.objects.filter(pk=week.pk).first()
    if found is None:
        raise GoneError("Week")
    return found


def version_begun(week: Week) -> Week | None:
    """The version that was begun from a handed-over week and is still open; None where there is
    none.
    """
    if week.frozen_at is None:
        return None
    later = Week.objects.filter(
        client_id=week.client_id, start=week.start, version__gt=week.version, frozen_at=None
    )
    return later.order_by("-version").first()


def _next_version(week: Week) -> Week:
    """The version that comes after a frozen one. Raises MovedOnError where one was begun already:
    that one is changed.
    """
    if version_begun(week) is not None:
        raise MovedOnError
    newest = (
        Week.objects.filter(client_id=week.client_id, start=week.start).order_by("-version").first()
    )
    return Week.objects.create(
        client_id=week.client_id,
        start=week.start,
        version=(newest or week).version + 1,
        plan=week.plan,
        rules=week.rules,
        revision=week.revision,
    )


@one_change
def undo(week: Week) -> str:
    """Take back the last change that can be; return what was passed over because it cannot be read,
    in words.
    """
    passed = list[str]()
    for last in week.changes.all() if week.frozen_at is None else ():
        last.delete()
        try:
            core.plan_of(last.plan)
        except DieteticsError:
            passed.append(last.what)
            continue
        week.plan, week.rules, week.revision = last.plan, last.rules, week.revision + 1
        week.save(update_fields=["plan", "rules", "revision", "changed_at"])
        break
    return (
        f"{'; '.join(passed)}: can't be undone, because the earlier week can't be read."
        if passed
        else ""
    )


@one_change
def repair(week: Week) -> list[str]:
    """Store as much of an unreadable week as can be read; return what was left out. The plan as it
    was stays a step back.

    Raises `week-unreadable` where not even the meals can be read.
    """
    made, lost = core.repaired(week.plan)
    week.changes.create(what="repaired", plan=week.plan, rules=week.rules)
    week.plan, week.revision = plan_json(core.as_stored(made)), week.revision + 1
    week.save(update_fields=["plan", "revision", "changed_at"])
    return lost


@one_change
def hand_over(week: Week, revision: int, kept: dict[str, Any], note: str) -> None:
    """Freeze a week as it is handed over, with the figures it had. Raises MovedOnError where it is
    no longer that week.
    """
    if week.revision != revision:
        raise MovedOnError
    if week.frozen_at is not None:
        return
    week.frozen_at, week.kept, week.note = clock.now(), kept, note[:2000]
    week.save(update_fields=["frozen_at", "kept", "note"])


@one_change
def remove_week(week: Week) -> None:
    """Remove a week for good."""
    week.delete()


@one_change
def set_choice(client: Client, dish: str, given: Mapping[str, Any]) -> None:
    """Store how a client takes a dish."""
    DishChoice.objects.update_or_create(client=client, dish=dish[:60], defaults=dict(given))


@one_change
def set_choices(client: Client, given: Mapping[str, Mapping[str, Any]]) -> None:
    """Store how a client takes several dishes, by their keys."""
    for dish, choice in given.items():
        DishChoice.objects.update_or_create(client=client, dish=dish[:60], defaults=dict(choice))


@one_change
def queue_search(week: Week, seconds: float = 20.0, looks_for: str = Search.PLAN) -> Search:
    """Put a search at the end of the queue, or return the one for this state of the week that waits
    or runs already.
    """
    open_ones = Search.objects.filter(week=week, state__in=(Search.WAITING, Search.RUNNING))
    of_now = open_ones.filter(revision=week.revision, stop=False)
    there = next(
        (one for one in of_now.filter(looks_for=looks_for) if not _fell_silent(one)),
        None,
    )
    if there is not None:
        return there
    open_ones = open_ones.exclude(pk__in=[one.pk for one in of_now.exclude(looks_for=looks_for)])
    open_ones.filter(state=Search.WAITING).update(
        state=Search.STOPPED, doing="replaced by a newer search"
    )
    open_ones.filter(state=Search.RUNNING).update(stop=True)
    words = "waiting for its turn"
    return Search.objects.create(
        week=week,
        revision=week.revision,
        looks_for=looks_for,
        seconds=seconds,
        doing=words,
        state=Search.WAITING,
    )


def _fell_silent(search: Search) -> bool:
    silent = clock.now() - search.beat_at > timedelta(seconds=SILENT_SECONDS)
    return search.state == Search.RUNNING and silent


def waiting_searches() -> QuerySet[Search]:
    """The queue: ways to a better week first, as they take seconds; then first come first."""
    short = Case(When(looks_for=Search.WAYS, then=0), default=1)
    return Search.objects.filter(state=Search.WAITING).order_by(short, "pk")


def searching() -> int:
    """How many searches run now."""
    alive = clock.now() - timedelta(seconds=SILENT_SECONDS)
    return Search.objects.filter(state=Search.RUNNING, beat_at__gt=alive).count()


@one_change
def stop_search(search: Search) -> None:
    """Stop a search: one that runs as soon as it looks up, one that waits at once."""
    search.stop = True
    search.state = Search.STOPPED if search.state == Search.WAITING else search.state
    search.save(update_fields=["stop", "state"])


def next_search(most: int) -> Search | None:
    """The search whose turn it is; None where nothing waits, or `most` run already. Ways to a
    better week may run beside them.
    """
    found = waiting_searches().first()
    if found is not None and searching() >= most + (found.looks_for == Search.WAYS):
        return None
    return found


@one_change
def claim_search(most: int) -> Search | None:
    """Take the search whose turn it is to run it, if there is one."""
    found = next_search(most)
    if found is not None:
        found.state, found.doing = Search.RUNNING, "starting"
        found.save(update_fields=["state", "doing", "beat_at"])
    return found
