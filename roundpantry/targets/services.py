"""Changes of state of this app."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import date

from dietetics.targets.proposal import Proposal
from dietetics.targets.renewal import TYPED_KEYS, no_must, same
from dietetics.targets.windows import Window
from roundpantry.clients.models import Client
from roundpantry.counter.state_changes import one_change
from roundpantry.targets.models import Meal, TargetSet, TargetWindow
from roundpantry.targets.renewal import plan_or_none, renewed_windows

MealRow = tuple[str, str, int, int]  # name, kind, per cent of energy, per cent of protein


def overridden(windows: Sequence[Window], plan: Proposal | None) -> list[str]:
    """The keys of windows that differ from what was computed."""
    if plan is None:
        return []
    computed = {t.window.key: t.window for t in plan.targets}
    return [w.key for w in windows if w.key in computed and not same(w, computed[w.key])]


@one_change
def set_targets(
    client: Client,
    windows: Sequence[Window],
    meals: Sequence[MealRow],
    reason: str = "",
    clinician: str = "",
    clinician_on: date | None = None,
) -> TargetSet:
    """Store a new version: the windows given, and beside them what is computed and was not
    given.
    """
    plan = plan_or_none(client)
    computed = {t.window.key: t for t in plan.targets} if plan else {}
    asked = [a.key for a in plan.asked] if plan else []
    if not (clinician and clinician_on):
        windows = [no_must(window) if window.key in asked else window for window in windows]
    changed = set(overridden(windows, plan))
    given = {w.key: w for w in windows}
    last = client.target_sets.order_by("-number").values_list("number", flat=True).first() or 0
    made = TargetSet.objects.create(
        client=client,
        number=last + 1,
        reason=reason,
        clinician=clinician,
        clinician_on=clinician_on,
        asked=asked,
    )
    untyped = [
        t.window
        for t in computed.values()
        if t.window.importance == "watch" or t.window.key not in TYPED_KEYS
    ]
    watched = [w for w in untyped if w.key not in given]
    TargetWindow.objects.bulk_create(
        TargetWindow(
            target_set=made,
            key=w.key,
            low=w.low,
            high=w.high,
            importance=w.importance,
            how=computed[w.key].how if w.key in computed and w.key not in changed else reason,
            source=computed[w.key].source
            if w.key in computed and w.key not in changed
            else "the practitioner",
            overridden=w.key in changed,
            needs_clinician=w.key in asked,
        )
        for w in [*windows, *watched]
    )
    Meal.objects.bulk_create(
        Meal(target_set=made, name=name, kind=kind, share_percent=energy, protein_percent=protein)
        for name, kind, energy, protein in meals
    )
    return made


@one_change
def renew_targets(client: Client) -> TargetSet | None:
    """Make a new version of the targets by the record as it is now, when the practitioner asks for
    it. None where there is none to renew.
    """
    found = renewed_windows(client)
    if found is None:
        return None
    present, windows = found
    meals = [
        (
            m.name,
            m.kind,
            m.share_percent,
            m.share_percent if m.protein_percent is None else m.protein_percent,
        )
        for m in present.meals.all()
    ]
    return set_targets(
        client, windows, meals, present.reason, present.clinician, present.clinician_on
    )
