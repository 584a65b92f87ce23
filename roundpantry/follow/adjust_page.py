"""The page that puts everything together: aim, trajectory, adherence, levels missed, blood values,
what was said, and what may be changed.
"""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date, timedelta
from typing import Any

from django.utils import timezone

from dietetics.composition.sums import together
from dietetics.follow.kinds import kind
from dietetics.follow.observed_energy import ObservedEnergy, observed_energy
from dietetics.follow.proposals import Basis, BloodFlag, FollowFacts, proposals, withheld
from dietetics.nutrients import nutrient
from dietetics.targets.energy import required_kcal
from dietetics.targets.windows import Window, judge
from roundpantry.clients.models import Client
from roundpantry.clients.records import person_or_none
from roundpantry.counter import clock
from roundpantry.follow.course_page import (
    Weight,
    energy_window,
    lost_share,
    range_words,
    signed,
    weight_of,
)
from roundpantry.follow.eaten_days import (
    OBSERVED_DAYS,
    DiaryDay,
    adherence,
    eaten_between,
    energy_eaten,
)
from roundpantry.follow.records import (
    flagged_of,
    measurements_of,
    recent_values,
    remarks_of,
    taken_of,
    weeks_between,
)
from roundpantry.targets.models import TargetSet
from roundpantry.targets.records import client_cautions_of, clinicians_keys, newest_set, windows_of
from roundpantry.weeks.week_snapshot import snapshot_of

RECENT_DAYS, HUNGER_DAYS = 28, 14
TABLE_KEYS = ("energy_kcal", "protein_g", "fibre_g", "kcal_per_g", "sodium_mg", "potassium_mg")
MOST_REMARKS = 6


def facts_of(client: Client, weight: Weight | None, days: Sequence[DiaryDay]) -> FollowFacts | None:
    """All that a proposal looks at; None where the record contradicts itself."""
    person, present = person_or_none(client), newest_set(client)
    if person is None:
        return None
    today = clock.today()
    recent = [one for one in days if one.day > today - timedelta(days=RECENT_DAYS)]
    return FollowFacts(
        person,
        weight.agreed.kg_a_week if weight else 0.0,
        weight.judgement if weight else None,
        weight.line.pace if weight else None,
        weight.line.now.kg if weight else person.weight_kg,
        lost_share(weight),
        energy_window(present),
        required_kcal(person),
        _observed(weight, days),
        adherence(recent),
        _missed(present, recent),
        _hunger(client, today),
        [_flag(row) for row in flagged_of(client, today)],
        _clinicians(present),
        densest_dish(client, today),
        _basis(client, present, days, today),
        recent_values(client, today),
    )


def _basis(
    client: Client, present: TargetSet | None, days: Sequence[DiaryDay], today: date
) -> Basis:
    """What a change of energy would rest on, since the targets were changed last."""
    since = timezone.localtime(present.created_at).date() if present else date.min
    since = max(since, today - timedelta(days=OBSERVED_DAYS))
    weighed = measurements_of(client).filter(kind="weight", day__gte=since, day__lte=today)
    on = sorted(set(weighed.values_list("day", flat=True)))
    counted = [one for one in days if one.day >= since]
    written = sum(one.eaten is not None for one in counted) / len(counted) if counted else 0.0
    return Basis(len(on), (on[-1] - on[0]).days if on else 0, written)


def densest_dish(client: Client, today: date) -> tuple[str, float] | None:
    """The dish of the last week with most kcal in a gram; drinks are left out."""
    weeks = weeks_between(client, today - timedelta(days=RECENT_DAYS), today)
    if not weeks:
        return None
    found = snapshot_of(weeks[-1])
    eaten = {entry.dish for _, _, cell in found.plan.places() for entry in cell.entries}
    known = [
        (dish.name, dish.serving["kcal_per_g"].amount)
        for key, dish in found.available.dishes.items()
        if key in eaten and not dish.drink
    ]
    dense = [(name, amount) for name, amount in known if amount is not None]
    return max(dense, key=lambda row: row[1], default=None)


def _clinicians(present: TargetSet | None) -> frozenset[str]:
    """The figures that are a clinician's to set."""
    return clinicians_keys(present) if present is not None else frozenset()


def _observed(weight: Weight | None, days: Sequence[DiaryDay]) -> ObservedEnergy | None:
    found = observed_energy(weight.line, energy_eaten(days)) if weight else None
    return found if isinstance(found, ObservedEnergy) else None


def _missed(present: TargetSet | None, days: Sequence[DiaryDay]) -> dict[str, float]:
    """The share of the known days on which each level fell short."""
    known = [one.eaten for one in days if one.eaten is not None]
    if present is None or not known:
        return {}
    found = {}
    for window in windows_of(present):
        short = sum(judge(window, one[window.key]).state == "short" for one in known)
        found[window.key] = short / len(known)
    return found


def _hunger(client: Client, today: date) -> float | None:
    rows = measurements_of(client).filter(
        kind="hunger", day__gt=today - timedelta(days=HUNGER_DAYS)
    )
    scores = list(rows.values_list("value", flat=True))
    return sum(scores) / len(scores) if scores else None


def _flag(row: Any) -> BloodFlag:
    one = kind(row.kind)
    high = row.high is not None and row.value > row.high
    text = f"{one.name} {one.text(row.value)}"
    return BloodFlag(one.key, one.name, text, row.day, high, range_words(row))


def adjust_page(client: Client) -> dict[str, Any]:
    """Everything that the page shows."""
    today = clock.today()
    weight = weight_of(client)
    days = eaten_between(client, today - timedelta(days=OBSERVED_DAYS), today)
    facts = facts_of(client, weight, days)
    present = newest_set(client)
    return {
        "client": client,
        "judgement": weight.judgement if weight else None,
        "withheld": withheld(facts) if facts else (),
        "proposals": proposals(facts) if facts else (),
        "contradicts": facts is None,
        "adherence": facts.adherence.words() if facts and facts.adherence else "",
        "observed": observed_words(weight, days, facts),
        "levels": _levels(present, days, today),
        "remarks": remarks_of(client, today - timedelta(days=RECENT_DAYS))[:MOST_REMARKS],
        "cautions": _open_cautions(client) if facts else [],
        "taken": list(taken_of(client)[:6]),
        "present": present,
    }


def observed_words(
    weight: Weight | None, days: Sequence[DiaryDay], facts: FollowFacts | None
) -> str:
    """The observed expenditure beside the equation's, with what it rests on."""
    if weight is None or facts is None:
        return ""
    found = observed_energy(weight.line, energy_eaten(days))
    if isinstance(found, str):
        return f"Expenditure cannot be observed yet: {found}."
    equation = f"; equation {facts.equation_kcal:,.0f}" if facts.equation_kcal else ""
    return (
        f"Observed {found.words()} a day{equation}. From {found.known_days} of {found.days + 1} "
        f"days with what was eaten ({found.mean_intake:,.0f} kcal on average) and "
        f"{signed(found.change_kg)} kg; as good as what was written down."
    )


def _open_cautions(client: Client) -> list[str]:
    return [v.text for v, known in client_cautions_of(client) if v.grave and known is None]


def _levels(
    present: TargetSet | None, days: Sequence[DiaryDay], today: date
) -> list[dict[str, str]]:
    """The mean of the known days of four weeks, as planned and as eaten, in its window."""
    recent = [one for one in days if one.eaten and one.day > today - timedelta(days=RECENT_DAYS)]
    if not recent or present is None:
        return []
    windows = {one.key: one for one in windows_of(present)}
    planned = together([one.planned for one in recent]).scaled(1 / len(recent))
    eaten = together([one.eaten for one in recent if one.eaten]).scaled(1 / len(recent))
    rows = []
    for key in TABLE_KEYS:
        window = windows.get(key)
        rows.append(
            {
                "name": nutrient(key).name,
                "planned": planned[key].shown(),
                "eaten": eaten[key].shown(),
                "target": f"{window.text()} {nutrient(key).unit}" if window else "",
                "state": _state(window, eaten[key]) if window else "",
            }
        )
    return rows


def _state(window: Window, figure: Any) -> str:
    level = judge(window, figure)
    words = {"in": "met", "short": "below", "over": "above", "unknown": "unknown"}[level.state]
    return words if level.certain or level.state == "unknown" else f"{words} as far as known"
