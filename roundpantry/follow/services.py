"""Changes of state of following: measurements, diary, visits, proposals taken and taken back."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, timedelta
from typing import Any

from dietetics.errors import DieteticsError
from dietetics.follow.eaten import EXTRA, PLANNED
from dietetics.follow.measurement_files import MeasuredRow
from dietetics.follow.proposals import Proposal
from dietetics.follow.quick_entry import QuickEntry, Value
from dietetics.targets.windows import Window
from roundpantry.clients.models import Client, Measurement
from roundpantry.clients.services import change_client
from roundpantry.counter import clock
from roundpantry.counter.seen import mark_of
from roundpantry.counter.state_changes import one_change
from roundpantry.follow.models import DiaryEntry, Remark, TakenProposal, Visit
from roundpantry.targets.models import TargetSet
from roundpantry.targets.records import newest_set, windows_of
from roundpantry.targets.services import MealRow, renew_targets, set_targets

DIARY_DAYS, DAYS_A_YEAR = 400, 365.25
MOST_FILE_BYTES = 1_000_000
FIRST_VISIT, LAST_VISIT = date(2000, 1, 1), date(2099, 12, 31)
EXTRA_NAME = "extra {}"
BREAKFAST_MOST = 60  # per cent of a day's protein


@one_change
def keep_line(
    client: Client, entry: QuickEntry, reported_by: str = Measurement.PRACTITIONER
) -> list[Measurement]:
    """Keep what a line held. The remark stands with the first value, or alone where there is
    none. Raises `measured-before-birth`.
    """
    refuse_before_birth(client, [entry.day, *(value.day for value in entry.values)])
    made = []
    if entry.remark and not entry.values:
        Remark.objects.create(client=client, day=entry.day, text=entry.remark[:1000])
    for n, value in enumerate(entry.values):
        made.append(_kept(client, value, entry.remark if n == 0 else "", reported_by))
    return made


def refuse_before_birth(client: Client, days: Sequence[date]) -> None:
    """Raise `measured-before-birth` for a day before a client was born, by their date of birth or
    their age.
    """
    today = clock.today()
    oldest = today - timedelta(days=round((client.age_years + 1) * DAYS_A_YEAR))
    born = client.birth_date or oldest
    for day in days:
        if day < born:
            raise DieteticsError("measured-before-birth", day=f"{day:%Y-%m-%d}")


def _kept(client: Client, value: Value, remark: str, reported_by: str) -> Measurement:
    return Measurement.objects.create(
        client=client,
        kind=value.kind.key,
        value=value.value,
        day=value.day,
        at=value.at,
        typed=value.typed[:120],
        low=value.low,
        high=value.high,
        remark=remark[:300],
        reported_by=reported_by,
    )


@one_change
def keep_rows(client: Client, rows: Sequence[MeasuredRow]) -> int:
    """Keep rows of a file; what is there already, value for value, is not doubled. Raises
    `measured-before-birth`.
    """
    refuse_before_birth(client, [one.day for one in rows])
    there = set(Measurement.objects.filter(client=client).values_list("kind", "day", "at", "value"))
    fresh = [one for one in rows if (one.kind.key, one.day, one.at, one.value) not in there]
    Measurement.objects.bulk_create(
        Measurement(
            client=client,
            kind=one.kind.key,
            value=one.value,
            day=one.day,
            at=one.at,
            typed=one.typed[:120],
            low=one.low,
            high=one.high,
            remark=one.remark,
            reported_by=one.reported_by,
        )
        for one in fresh
    )
    return len(fresh)


@one_change
def remove_measurement(row: Measurement) -> None:
    """Remove a measurement that was wrong."""
    row.delete()


@one_change
def write_diary(client: Client, day: date, meal: str, how: str, text: str) -> None:
    """How a meal of a day went. "As planned" without a word takes an entry away only where it is
    the practitioner's own; it is kept, so that the day counts as reported.
    """
    _diary_day(day)
    DiaryEntry.objects.update_or_create(
        client=client,
        day=day,
        meal=meal[:40],
        defaults={
            "how": how,
            "text": text.strip()[:400] if how != PLANNED else "",
            "reported_by": Measurement.PRACTITIONER,
        },
    )


def _diary_day(day: date) -> None:
    today = clock.today()
    if not today - timedelta(days=DIARY_DAYS) <= day <= today + timedelta(days=7):
        raise DieteticsError("diary-day", day=day.isoformat(), most=DIARY_DAYS)


@one_change
def add_extra(client: Client, day: date, text: str) -> None:
    """Something eaten beside the plan."""
    _diary_day(day)
    used = set(
        DiaryEntry.objects.filter(client=client, day=day, how=EXTRA).values_list("meal", flat=True)
    )
    name = next(EXTRA_NAME.format(n) for n in range(1, 1000) if EXTRA_NAME.format(n) not in used)
    DiaryEntry.objects.create(client=client, day=day, meal=name, how=EXTRA, text=text[:400])


@one_change
def remove_entry(client: Client, day: date, meal: str) -> None:
    """Take a diary entry out."""
    DiaryEntry.objects.filter(client=client, day=day, meal=meal).delete()


@one_change
def keep_visit(client: Client, visit: Visit | None, mark: str = "", **facts: Any) -> Visit:
    """Store a visit, new or changed. Raises DieteticsError: `visit-day`; `moved-on` where `mark` is
    given and is not that of the visit as stored now.
    """
    if visit is not None and mark and mark != mark_of(visit):
        raise DieteticsError("moved-on")
    for day in (facts["day"], facts["next_on"]):
        if day is not None and not FIRST_VISIT <= day <= LAST_VISIT:
            raise DieteticsError("visit-day", first=FIRST_VISIT, last=LAST_VISIT)
    row = visit or Visit(client=client)
    for name, value in facts.items():
        setattr(row, name, value)
    row.save()
    return row


@one_change
def remove_visit(visit: Visit) -> None:
    """Remove a visit."""
    visit.delete()


@one_change
def use_weight(client: Client, weight_kg: float) -> None:
    """Let targets use this weight from now on: a new version of the targets."""
    change_client(client, weight_kg=round(weight_kg, 1))
    renew_targets(client)


@one_change
def take_proposal(client: Client, proposal: Proposal, by: str) -> TakenProposal:
    """Do what a proposal says: new targets, or another agreed pace. Raises `proposal-gone`."""
    before = newest_set(client)
    if before is None or not proposal.can_be_taken:
        raise DieteticsError("proposal-gone")
    facts: dict[str, Any] = {}
    if proposal.pace is not None:
        facts = {"pace_kg_per_week": client.pace_kg_per_week, "goal": client.goal}
        changed = {"pace_kg_per_week": proposal.pace} if proposal.pace else {"goal": "hold"}
        change_client(client, **changed)
        renew_targets(client)
    elif proposal.energy is not None:
        windows = [_with_energy(one, proposal.energy) for one in windows_of(before)]
        _again(client, before, windows, _meals(before), proposal.why)
    else:
        meals = _with_breakfast(_meals(before), proposal.breakfast_percent or 0)
        _again(client, before, windows_of(before), meals, proposal.why)
    return TakenProposal.objects.create(
        client=client,
        code=proposal.code,
        title=proposal.title[:200],
        why=proposal.why,
        before=before,
        after=newest_set(client),
        facts=facts,
        by=by[:80],
    )


@one_change
def take_back(taken: TakenProposal) -> None:
    """Put the targets, and the facts, back as they were before a proposal was taken. Raises
    `undo-moved-on` where they were changed since.
    """
    client, newest = taken.client, newest_set(taken.client)
    if taken.taken_back_at or taken.before is None or newest is None or newest != taken.after:
        raise DieteticsError("undo-moved-on")
    if taken.facts:
        change_client(client, **taken.facts)
    before = TargetSet.objects.prefetch_related("windows", "meals").get(pk=taken.before.pk)
    _again(client, before, windows_of(before), _meals(before), before.reason)
    taken.taken_back_at = clock.now()
    taken.save(update_fields=["taken_back_at"])


def _with_energy(window: Window, energy: tuple[float, float]) -> Window:
    if window.key != "energy_kcal":
        return window
    return Window(window.key, *energy, window.importance)


def _meals(made: TargetSet) -> list[MealRow]:
    return [
        (
            meal.name,
            meal.kind,
            meal.share_percent,
            meal.share_percent if meal.protein_percent is None else meal.protein_percent,
        )
        for meal in made.meals.all()
    ]


def _with_breakfast(meals: list[MealRow], percent: int) -> list[MealRow]:
    """More of the day's protein at the first meal, taken from the one that has most."""
    if len(meals) < 2:
        raise DieteticsError("proposal-gone")
    first, rest = meals[0], meals[1:]
    most = max(rest, key=lambda meal: meal[3])
    if first[3] + percent > BREAKFAST_MOST or most[3] <= percent:
        raise DieteticsError("proposal-gone")
    changed = [(*one[:3], one[3] - percent) if one is most else one for one in rest]
    return [(*first[:3], first[3] + percent), *changed]


def _again(
    client: Client,
    like: TargetSet,
    windows: Sequence[Window],
    meals: Sequence[MealRow],
    reason: str,
) -> None:
    set_targets(client, windows, meals, reason, like.clinician, like.clinician_on)
