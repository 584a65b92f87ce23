"""Changes of state of this app."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import replace
from datetime import date

from django.dispatch import receiver

from dietetics.errors import DieteticsError
from dietetics.targets.deficit_holds import hold_reasons
from dietetics.targets.proposal import Proposal
from dietetics.targets.windows import Window
from roundpantry.clients.models import Client
from roundpantry.clients.services import person_changed
from roundpantry.counter.state_changes import one_change
from roundpantry.targets.models import Meal, TargetSet, TargetWindow
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
MealRow = tuple[str, str, int, int]  # name, kind, per cent of energy, per cent of protein


def same(a: Window, b: Window) -> bool:
    """True when two windows ask for the same, to half a per cent."""

    def near(x: float | None, y: float | None) -> bool:
        return x == y if x is None or y is None else abs(x - y) <= 0.005 * max(abs(x), abs(y), 1e-9)

    return near(a.low, b.low) and near(a.high, b.high)


def overridden(windows: Sequence[Window], plan: Proposal | None) -> list[str]:
    """The keys of windows that differ from what was computed."""
    if plan is None:
        return []
    computed = {t.window.key: t.window for t in plan.targets}
    return [w.key for w in windows if w.key in computed and not same(w, computed[w.key])]


def plan_or_none(client: Client) -> Proposal | None:
    """What is computed for a client, or None where their facts contradict themselves."""
    try:
        return proposal_of(client)
    except DieteticsError:
        return None


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
        windows = [_no_must(window) if window.key in asked else window for window in windows]
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


def _no_must(window: Window) -> Window:
    """What only a clinician may set is no must while nobody who set it is named and dated."""
    return replace(window, importance="should") if window.importance == "must" else window


@receiver(person_changed)
def renew_targets(sender: type[Client], client: Client, **_: Mapping[str, object]) -> None:
    """A change of weight or of another fact makes a new version; what was overridden stays
    overridden.
    """
    present = newest_set(client)
    plan = plan_or_none(client)
    if present is None or plan is None:
        return
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
    meals = [
        (
            m.name,
            m.kind,
            m.share_percent,
            m.share_percent if m.protein_percent is None else m.protein_percent,
        )
        for m in present.meals.all()
    ]
    set_targets(client, windows, meals, present.reason, present.clinician, present.clinician_on)
