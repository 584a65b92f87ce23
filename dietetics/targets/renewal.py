"""What targets would be by the record as it is now, beside those that are set: what was typed
stays, the rest is computed anew. A record never changes targets by itself.
"""

from __future__ import annotations

from collections.abc import Collection, Sequence
from dataclasses import dataclass, replace

from dietetics.targets.deficit_holds import hold_reasons
from dietetics.targets.proposal import Proposal
from dietetics.targets.windows import Window

# Windows that are typed; the others are stored as computed.
TYPED_KEYS = (
    "energy_kcal",
    "protein_g",
    "kcal_per_g",
    "fibre_g",
    "sodium_mg",
    "potassium_mg",
    "phosphorus_mg",
)
OF_BLOOD_RESULTS = ("potassium_mg", "phosphorus_mg")  # set by whoever reads them, never computed
SAME_SHARE = 0.005  # so little apart is the same target
Change = tuple[Window | None, Window | None]


@dataclass(frozen=True)
class SetWindow:
    """A window as it is set, and whether somebody typed it."""

    window: Window
    typed: bool


@dataclass(frozen=True)
class SetTargets:
    """A version of the targets: its windows, the nutrients asked of a clinician, and whether one is
    named with a day.
    """

    windows: Sequence[SetWindow]
    asked: Collection[str] = ()
    is_signed: bool = False


def same(a: Window, b: Window) -> bool:
    """True when two windows ask for the same, to half a per cent."""

    def near(x: float | None, y: float | None) -> bool:
        if x is None or y is None:
            return x == y
        return abs(x - y) <= SAME_SHARE * max(abs(x), abs(y), 1e-9)

    return near(a.low, b.low) and near(a.high, b.high)


def no_must(window: Window) -> Window:
    """What only a clinician may set is no must while nobody who set it is named and dated."""
    return replace(window, importance="should") if window.importance == "must" else window


def counts(window: Window) -> bool:
    """True for a window that is chosen and shown, not only watched over the day."""
    return window.importance != "watch" or window.key == "fat_g"


def renewed_windows(present: SetTargets, plan: Proposal) -> list[Window]:
    """What the windows of a version would be by a proposal of today."""
    kept = {one.window.key: one.window for one in present.windows if one.typed}
    if hold_reasons(plan.person) and not present.is_signed:
        # an energy typed before does not survive what forbids a deficit
        kept.pop("energy_kcal", None)
    computed = [target.window for target in plan.targets if counts(target.window)]
    windows = [kept.get(window.key, window) for window in computed]
    windows += [one for key, one in kept.items() if key not in {w.key for w in computed}]
    there = {window.key for window in windows}
    windows += [
        one.window
        for one in present.windows
        if one.window.key in OF_BLOOD_RESULTS
        and one.window.key not in there
        and one.window.importance != "watch"
    ]
    return windows


def proposed_changes(present: SetTargets, plan: Proposal) -> list[Change]:
    """The windows that a proposal of today would change: before and after, None where there was, or
    would be, none.
    """
    before = {one.window.key: one.window for one in present.windows if counts(one.window)}
    after = {window.key: window for window in renewed_windows(present, plan)}
    unsigned = set() if present.is_signed else set(present.asked)
    changed: list[Change] = []
    for key in dict.fromkeys((*before, *after)):
        old, new = before.get(key), after.get(key)
        if old is None and new is not None and key in TYPED_KEYS and new.importance != "must":
            continue  # left out by whoever set the targets
        if new is not None and key in unsigned:
            new = no_must(new)
        if old is None or new is None or not same(old, new) or old.importance != new.importance:
            changed.append((old, new))
    return changed
