"""Red flags: what in following is a midwife's, a doctor's or a team's to look at before anything of
the plan is changed. The rows of `tables/red_flags.toml` say when, how soon and whom.
"""

from __future__ import annotations

import tomllib
from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import lru_cache

from msgspec import Struct, convert

from dietetics.composition.foods import TABLES
from dietetics.follow.kinds import kind
from dietetics.targets.needs_table import When
from dietetics.targets.person import Person

TODAY, THIS_WEEK = "today", "this week"


class FlagRow(Struct, frozen=True, forbid_unknown_fields=True):
    """One sign: for whom, from which figure on, how soon and whom to ask, and on whose word.
    `at_least` and `at_most` are of the newest value of a `kind` of measurement, in its base unit.
    """

    key: str
    when: When
    soon: str
    whom: str
    text: str
    action: str
    source: str
    mark: str
    gain_kg_week: float | None = None
    loss_kg_week: float | None = None
    loss_share_week: float | None = None
    lost_share: float | None = None
    bmi_under: float | None = None
    kind: str = ""
    at_least: float | None = None
    at_most: float | None = None


@dataclass(frozen=True)
class Scales:
    """What was measured: the smoothed pace in kg a week (negative for less; None where it is not
    known), the smoothed weight in kg, the share of the weight that was lost in half a year, and
    the newest values of the last weeks by their kind, in base units.
    """

    pace: float | None
    weight_kg: float
    lost_share: float = 0.0
    values: Mapping[str, float] = field(default_factory=dict)


@dataclass(frozen=True)
class RedFlag:
    """A sign that is there: how soon ("today", "this week"), whom to ask, and the words."""

    key: str
    soon: str
    whom: str
    text: str
    action: str


@lru_cache(maxsize=1)
def rows() -> Mapping[str, FlagRow]:
    """Every sign by its key, in the table's order."""
    data = tomllib.loads((TABLES / "red_flags.toml").read_text(encoding="utf-8"))["row"]
    return {one["key"]: convert(one, FlagRow) for one in data}


def red_flags(person: Person, scales: Scales) -> tuple[RedFlag, ...]:
    """The signs that are there, those of today first; of several that ask for the same, one."""
    found: dict[str, RedFlag] = {}
    for row in rows().values():
        if _is_there(row, person, scales):
            found.setdefault(row.action, _flag(row, person, scales))
    return tuple(sorted(found.values(), key=lambda flag: flag.soon != TODAY))


def _is_there(row: FlagRow, person: Person, scales: Scales) -> bool:
    pace = scales.pace or 0.0
    signs = (
        (row.gain_kg_week, pace),
        (row.loss_kg_week, -pace),
        (row.loss_share_week, -pace / scales.weight_kg),
        (row.lost_share, scales.lost_share),
    )
    shown = all(value >= least - 1e-9 for least, value in signs if least is not None)
    thin = row.bmi_under is None or person.bmi_at(scales.weight_kg) < row.bmi_under
    return row.when.holds(person) and shown and thin and _is_measured(row, scales)


def _is_measured(row: FlagRow, scales: Scales) -> bool:
    """True for a row of no measurement, and where its newest value lies outside; as it is shown."""
    if not row.kind:
        return True
    value = scales.values.get(row.kind)
    if value is None:
        return False
    shown = round(value, kind(row.kind).decimals)
    above = row.at_least is not None and shown >= row.at_least
    return above or (row.at_most is not None and shown <= row.at_most)


def _flag(row: FlagRow, person: Person, scales: Scales) -> RedFlag:
    pace = scales.pace or 0.0
    figures = {
        "pace": pace,
        "loss": -pace,
        "share": -pace / scales.weight_kg,
        "lost": scales.lost_share,
        "bmi": person.bmi_at(scales.weight_kg),
    }
    value = kind(row.kind).text(scales.values[row.kind]) if row.kind else ""
    text = row.text.format(**figures, value=value)
    return RedFlag(row.key, row.soon, row.whom, text, row.action)
