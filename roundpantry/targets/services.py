"""Changes of state of this app."""

from __future__ import annotations

from collections.abc import Sequence

from django.db import transaction

from dietetics.targets.windows import Window
from roundpantry.clients.models import Client
from roundpantry.targets.models import Meal, TargetSet, TargetWindow


@transaction.atomic
def set_targets(client: Client, windows: Sequence[Window], meals: Sequence[tuple[str, int]]) -> TargetSet:
    """Store a new version of a client's targets; earlier versions stay as they were."""
    last = client.target_sets.order_by("-number").values_list("number", flat=True).first() or 0
    made = TargetSet.objects.create(client=client, number=last + 1)
    TargetWindow.objects.bulk_create(
        TargetWindow(target_set=made, key=w.key, low=w.low, high=w.high, importance=w.importance) for w in windows
    )
    Meal.objects.bulk_create(Meal(target_set=made, name=name, share_percent=share) for name, share in meals)
    return made
