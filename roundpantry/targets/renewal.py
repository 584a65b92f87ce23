"""What targets would be by the record as it is now, beside those that are set. Nothing is written
here: a record never changes targets by itself.
"""

from __future__ import annotations

from dataclasses import replace

from dietetics.errors import DieteticsError
from dietetics.targets.deficit_holds import hold_reasons
from dietetics.targets.proposal import Proposal
from dietetics.targets.windows import Window
from roundpantry.clients.models import Client
from roundpantry.targets.models import TargetSet
from roundpantry.targets.records import newest_set, proposal_of

# Windows the practitioner types; the others are stored as computed.
TYPED_KEYS = (
    "energy_kcal",
    "protein_g",
    "kcal_per_g",
    "fibre_g",
    "sodium_mg",
    "potassium_mg",
    "phosphorus_mg",
)


def same(a: Window, b: Window) -> bool:
    """True when two windows ask for the same, to half a per cent."""

    def near(x: float | None, y: float | None) -> bool:
        return x == y if x is None or y is None else abs(x - y) <= 0.005 * max(abs(x), abs(y), 1e-9)

    return near(a.low, b.low) and near(a.high, b.high)


def plan_or_none(client: Client) -> Proposal | None:
    """What is computed for a client, or None where their facts contradict themselves."""
    try:
        return proposal_of(client)
    except DieteticsError:
        return None


def no_must(window: Window) -> Window:
    """What only a clinician may set is no must while nobody who set it is named and dated."""
    return replace(window, importance="should") if window.importance == "must" else window


def renewed_windows(client: Client) -> tuple[TargetSet, list[Window]] | None:
    """The newest version and what its windows would be by the record as it is now: what was typed
    stays, the rest is computed anew. None without targets, or where the record contradicts itself.
    """
    present = newest_set(client)
    plan = plan_or_none(client)
    if present is None or plan is None:
        return None
    kept = {
        w.key: Window(w.key, w.low, w.high, w.importance)
        for w in present.windows.all()
        if w.overridden or not w.source
    }
    if hold_reasons(plan.person) and not (present.clinician and present.clinician_on):
        kept.pop(
            "energy_kcal", None
        )  # a window typed before does not survive what forbids a deficit
    computed = [
        t.window for t in plan.targets if t.window.importance != "watch" or t.window.key == "fat_g"
    ]
    windows = [kept.get(w.key, w) for w in computed]
    windows += [w for key, w in kept.items() if key not in {c.key for c in computed}]
    windows += [
        Window(w.key, w.low, w.high, w.importance)
        for w in present.windows.all()
        if w.key in ("potassium_mg", "phosphorus_mg")
        and w.key not in {x.key for x in windows}
        and w.importance != "watch"
    ]
    return present, windows


def proposed_changes(client: Client) -> list[tuple[Window | None, Window | None]]:
    """The windows that the record as it is now would change: before and after, None where there
    was, or would be, none. The record never changes targets by itself.
    """
    found = renewed_windows(client)
    if found is None:
        return []
    present, windows = found
    before = {
        w.key: Window(w.key, w.low, w.high, w.importance)
        for w in present.windows.all()
        if w.importance != "watch" or w.key == "fat_g"
    }
    after = {w.key: w for w in windows}
    unsigned = set(present.asked) if not (present.clinician and present.clinician_on) else set()
    changed = []
    for key in dict.fromkeys((*before, *after)):
        old, new = before.get(key), after.get(key)
        if old is None and new is not None and key in TYPED_KEYS and new.importance != "must":
            continue  # left out by whoever set the targets
        if new is not None and key in unsigned:
            new = no_must(new)
        if old is None or new is None or not same(old, new) or old.importance != new.importance:
            changed.append((old, new))
    return changed
