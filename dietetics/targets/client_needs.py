"""What a client needs from their practitioner next: targets, a new week, a weigh-in, a look at a
caution.

Intervals are common practice: weight is taken every two weeks while it should change, and a week is
planned two days before the last one ends.
"""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from datetime import date, timedelta

WEIGH_EVERY_DAYS = 14  # common practice while weight should change
WEIGH_STEADY_DAYS = 28  # common practice while it should stay
WEEK_ENDS_WITHIN_DAYS = 2
VISIT_WITHIN_DAYS = 3
HAND_OVER_WITHIN_DAYS = 2  # before a week begins: there has to be time to shop
# Codes of needs, the most pressing first (common practice); "visit-soon" is a visit that is due on
# a later day.
RANKS = (
    "red-flag", "answers-unread", "blood-outside", "visit-overdue", "visit-due", "targets-missing",
    "cautions-open", "targets-conflict", "week-missing", "week-over", "week-ends", "hand-over-due",
    "visit-soon", "weigh-in-due",
)  # fmt: skip
CHANGING = ("lose", "gain", "build")  # goals under which weight should change


@dataclass(frozen=True)
class ClientState:
    """What is known of a client when the day begins: dates, and counts of what is open.
    `flagged_on` is the day of a blood value outside its range that no visit has followed;
    `red_flags` says whom to ask, how soon and why, each in a sentence; `not_given` is the first day
    of a week that is not over and was not handed over.
    """

    goal: str
    has_targets: bool
    weighed_on: date | None
    week_ends_on: date | None
    open_cautions: int = 0
    target_conflicts: int = 0
    unread_answers: int = 0
    next_visit: date | None = None
    flagged_on: date | None = None
    red_flags: tuple[str, ...] = ()
    not_given: date | None = None


@dataclass(frozen=True)
class Need:
    """One thing to do for a client: its code, and the values a sentence about it needs."""

    code: str
    params: Mapping[str, object] = field(default_factory=dict)


def needs(state: ClientState, today: date) -> tuple[Need, ...]:
    """Return what a client needs, the most pressing first.

    >>> needs(ClientState("hold", False, None, None), date(2026, 11, 25))[0].code
    'targets-missing'
    """
    found = [Need("red-flag", {"text": text}) for text in state.red_flags]
    if not state.has_targets:
        found.append(Need("targets-missing"))
    if state.open_cautions:
        found.append(Need("cautions-open", {"count": state.open_cautions}))
    if state.target_conflicts:
        found.append(Need("targets-conflict", {"count": state.target_conflicts}))
    if state.unread_answers:
        found.append(Need("answers-unread", {"count": state.unread_answers}))
    if state.flagged_on is not None:
        found.append(Need("blood-outside", {"on": state.flagged_on}))
    found += _visit(state.next_visit, today)
    if state.has_targets:
        found += _week(state.week_ends_on, today)
    if state.not_given and state.not_given - today <= timedelta(days=HAND_OVER_WITHIN_DAYS):
        found.append(Need("hand-over-due", {"on": state.not_given}))
    found += _weight(state, today)
    return tuple(sorted(found, key=lambda need: _rank(need, today)))


def urgency(found: Iterable[Need], today: date) -> tuple[int, ...]:
    """What clients are sorted by, the smallest first: their most pressing need, then the next.

    >>> urgency((), date(2026, 11, 25)) > urgency([Need("weigh-in-due")], date(2026, 11, 25))
    True
    """
    return (*sorted(_rank(need, today) for need in found), len(RANKS))


def _rank(need: Need, today: date) -> int:
    """The place of a need; a visit that is not today yet comes late."""
    on = need.params.get("on")
    if need.code == "visit-due" and isinstance(on, date) and on > today:
        return RANKS.index("visit-soon")
    return RANKS.index(need.code)


def _visit(on: date | None, today: date) -> list[Need]:
    if on is None or on - today > timedelta(days=VISIT_WITHIN_DAYS):
        return []
    return [Need("visit-overdue" if on < today else "visit-due", {"on": on})]


def _week(ends: date | None, today: date) -> list[Need]:
    if ends is None:
        return [Need("week-missing")]
    if ends < today:
        return [Need("week-over", {"on": ends})]
    return (
        [Need("week-ends", {"on": ends})]
        if ends - today <= timedelta(days=WEEK_ENDS_WITHIN_DAYS)
        else []
    )


def _weight(state: ClientState, today: date) -> list[Need]:
    interval = WEIGH_EVERY_DAYS if state.goal in CHANGING else WEIGH_STEADY_DAYS
    if state.weighed_on is None:
        return [Need("weigh-in-due", {"days": None})]
    days = (today - state.weighed_on).days
    return [Need("weigh-in-due", {"days": days})] if days >= interval else []
