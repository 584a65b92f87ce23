"""How a client is doing, formatted before any template: the weight over time, the newest values,
what was said.
"""

from __future__ import annotations

from collections.abc import Container
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Any

from django.utils import timezone

from dietetics.errors import DieteticsError
from dietetics.follow.course import AgreedPace, Judgement, agreed_pace, judge_course
from dietetics.follow.expected_weight import SOURCE, expected_days, why_not
from dietetics.follow.kinds import BLOOD, FEELING, kind, kinds
from dietetics.follow.red_flags import RedFlag, Scales, red_flags
from dietetics.follow.trajectory import Trajectory, WeighIn, trajectory
from dietetics.targets.person import Person
from roundpantry.clients.models import Client, Measurement
from roundpantry.clients.records import person_or_none
from roundpantry.counter import clock
from roundpantry.counter.dates import day_text
from roundpantry.follow.drawing import PathPoint, draw_weight
from roundpantry.follow.records import newest_by_kind, recent_values, remarks_of, weigh_ins_of
from roundpantry.targets.models import TargetSet
from roundpantry.targets.records import newest_set, windows_of

WEIGHT = "weight"
SHOWN_DAYS, AHEAD_DAYS = 182, 14
REMARK_DAYS, MOST_REMARKS = 60, 8
WEIGHT_APART_KG = 0.5  # between the smoothed weight and the one targets use


@dataclass(frozen=True)
class Weight:
    """A client's weight over time with what was agreed."""

    line: Trajectory
    agreed: AgreedPace
    judgement: Judgement


def weight_of(client: Client) -> Weight | None:
    """The smoothed weight of a client; None where nothing can be smoothed."""
    person, weigh_ins = person_or_none(client), weigh_ins_of(client)
    if person is None or not weigh_ins:
        return None
    try:
        line = trajectory(weigh_ins)
    except DieteticsError:
        return None
    agreed = agreed_pace(person)
    return Weight(line, agreed, judge_course(line, agreed))


def lost_share(weight: Weight | None) -> float:
    """The share of the weight that was lost in half a year; 0 where none is smoothed."""
    return weight.line.lost_share if weight else 0.0


def flags_of(client: Client, weight: Weight | None) -> tuple[RedFlag, ...]:
    """What is somebody else's to look at first."""
    person = person_or_none(client)
    if person is None:
        return ()
    scales = Scales(
        weight.line.pace if weight else None,
        weight.line.now.kg if weight else person.weight_kg,
        lost_share(weight),
        recent_values(client, clock.today()),
    )
    return red_flags(person, scales)


def course_page(client: Client) -> dict[str, Any]:
    """Everything that the page shows."""
    weight = weight_of(client)
    today = clock.today()
    return {
        "client": client,
        "flags": flags_of(client, weight),
        "judgement": weight.judgement if weight else None,
        "picture": _picture(client, weight, today) if weight else "",
        "expected_note": _expected_note(client),
        "far_out": [f"{one.kg:.1f} kg on {day_text(one.day)}" for one in weight.line.far_out]
        if weight
        else [],
        "smoothed": _smoothed_words(weight) if weight else "",
        "weight_apart": weight_apart(client, weight) if weight else "",
        "groups": newest_values(client),
        "remarks": remarks_of(client, today - timedelta(days=REMARK_DAYS))[:MOST_REMARKS],
    }


def _smoothed_words(weight: Weight) -> str:
    now = weight.line.now
    return f"{now.kg:.1f} kg on {day_text(now.day)}, between {now.low:.1f} and {now.high:.1f}"


def signed(kg: float) -> str:
    """A change of weight with its sign, the minus as it is printed."""
    return f"{kg:+.1f}".replace("-", "−")


def weight_apart(client: Client, weight: Weight) -> str:
    """The smoothed weight where it has left the one that targets use."""
    apart = abs(weight.line.now.kg - float(client.weight_kg)) >= WEIGHT_APART_KG
    return f"{weight.line.now.kg:.1f}" if apart else ""


def _picture(client: Client, weight: Weight, today: date) -> str:
    line = weight.line
    first = max(line.days[0].day, line.now.day - timedelta(days=SHOWN_DAYS))
    last = max(line.now.day, today) + timedelta(days=AHEAD_DAYS)
    sets = list(client.target_sets.order_by("number"))
    begun = [(max(timezone.localtime(one.created_at).date(), first), one.number) for one in sets]
    versions = [row for row in begun if row[0] <= last][-4:]
    start = versions[-1][0] if versions else first
    return draw_weight(
        line,
        first,
        last,
        _agreed_path(weight, start, last),
        _expected_path(client, weight, start, last),
        versions,
        f"Weight over time. {weight.judgement.words} Smoothed {_smoothed_words(weight)}.",
    )


def _agreed_path(weight: Weight, start: date, last: date) -> list[PathPoint]:
    """A straight line at the agreed pace from the day the present targets began."""
    at = weight.line.on(start) or weight.line.days[0]
    weeks = (last - at.day).days / 7
    return [PathPoint(at.day, at.kg), PathPoint(last, at.kg + weight.agreed.kg_a_week * weeks)]


def _expected_path(client: Client, weight: Weight, start: date, last: date) -> list[PathPoint]:
    """The weight that the energy of the present targets leads to, by the dynamic model."""
    energy, person = energy_window(newest_set(client)), person_or_none(client)
    at = weight.line.on(start) or weight.line.days[0]
    if energy is None or person is None:
        return []
    facts = {**vars(person), "weight_kg": at.kg, "goal_weight_kg": None}
    try:
        days = expected_days(Person(**facts), sum(energy) / 2, (last - at.day).days)
    except DieteticsError:
        return []
    return [PathPoint(at.day + timedelta(days=n), one.kg) for n, one in enumerate(days)][::3]


def _expected_note(client: Client) -> str:
    person = person_or_none(client)
    reason = why_not(person) if person else "the record contradicts itself"
    if reason:
        return f"The dotted line of the model is left out: {reason}."
    return (
        "The dotted line is the weight that the energy target leads to by the dynamic model of "
        f"{SOURCE}, with the activity on record; one person may lie well off it."
    )


def energy_window(present: TargetSet | None) -> tuple[float, float] | None:
    """The daily energy window of a set, where both ends are there."""
    if present is None:
        return None
    for one in windows_of(present):
        if one.key == "energy_kcal" and one.low is not None and one.high is not None:
            return one.low, one.high
    return None


@dataclass(frozen=True)
class ValueRow:
    """A measurement in words. `side` is above, below or "" beside the laboratory's range;
    `is_doubted` a weight that lies so far from the others that nothing is computed with it.
    """

    pk: int
    name: str
    value: str
    typed: str
    day: str
    range: str
    side: str
    by: str
    remark: str
    is_doubted: bool = False


def doubted_of(client: Client) -> frozenset[WeighIn]:
    """The weigh-ins that are shown and not believed."""
    weight = weight_of(client)
    return frozenset(weight.line.far_out) if weight else frozenset()


def value_row(row: Measurement, doubted: Container[WeighIn] = frozenset()) -> ValueRow:
    """A measurement as it is shown."""
    one = kind(row.kind)
    side = ""
    if row.high is not None and row.value > row.high:
        side = "above"
    elif row.low is not None and row.value < row.low:
        side = "below"
    at = f", {row.at:%H:%M}" if row.at else ""
    value = one.text(row.value)
    typed = row.typed if row.typed and value not in row.typed and one.group == BLOOD else ""
    return ValueRow(
        row.pk,
        one.name,
        value,
        typed,
        f"{day_text(row.day)}{at}",
        range_words(row),
        side,
        "" if row.reported_by == Measurement.PRACTITIONER else row.get_reported_by_display(),
        row.remark,
        is_doubted(row, doubted),
    )


def is_doubted(row: Measurement, doubted: Container[WeighIn]) -> bool:
    """True for a weigh-in that is not believed."""
    return row.kind == WEIGHT and WeighIn(row.day, row.value) in doubted


def remark_of(row: Measurement, doubted: Container[WeighIn]) -> str:
    """The remark of a measurement as it leaves the program: that it is not believed comes first."""
    return "; ".join(
        [*(["not believed"] if is_doubted(row, doubted) else []), *filter(None, [row.remark])]
    )


def range_words(row: Measurement) -> str:
    """The laboratory's range of a value: "3.5–5.1", "up to 5.1", or ""."""
    one = kind(row.kind)
    if row.low is not None and row.high is not None:
        return f"{one.number(row.low)}–{one.number(row.high)}"
    if row.high is not None:
        return f"up to {one.number(row.high)}"
    return f"from {one.number(row.low)}" if row.low is not None else ""


GROUP_NAMES = (("body", "Body"), (BLOOD, "Blood values"), (FEELING, "How they feel (1 to 5)"))


def newest_values(client: Client) -> list[tuple[str, list[ValueRow]]]:
    """The newest value of each kind, by group."""
    newest, doubted = newest_by_kind(client), doubted_of(client)
    found = []
    for group, name in GROUP_NAMES:
        keys = [key for key, one in kinds().items() if one.group == group and key in newest]
        if keys:
            found.append((name, [value_row(newest[key], doubted) for key in keys]))
    return found
