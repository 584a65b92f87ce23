"""Rows of targets to values of the core, and the queries of this app."""

from __future__ import annotations

from dietetics.targets.windows import Window, meal_windows
from roundpantry.clients.models import Client
from roundpantry.targets.models import Meal, TargetSet


def newest_set(client: Client) -> TargetSet | None:
    """The client's present targets, windows and meals fetched along, or None."""
    return client.target_sets.prefetch_related("windows", "meals").first()


def windows_of(target_set: TargetSet) -> tuple[Window, ...]:
    """The daily windows of a set."""
    return tuple(Window(w.key, w.low, w.high, w.importance) for w in target_set.windows.all())


_KEPT: dict[tuple[int, str, int], tuple[Window, ...]] = {}


def windows_of_meal(meal: Meal) -> tuple[Window, ...]:
    """The windows of one meal: the day's, divided by its share. A version never changes, so they are kept."""
    made = meal.target_set
    key = (made.pk, made.created_at.isoformat(), meal.share_percent)
    if key not in _KEPT:
        if len(_KEPT) > 500:
            _KEPT.clear()
        _KEPT[key] = meal_windows(windows_of(made), meal.share_percent / 100)
    return _KEPT[key]


def main_meal(target_set: TargetSet) -> Meal | None:
    """The meal with the largest share, the later one on a tie."""
    meals = list(target_set.meals.all())
    return max(meals, key=lambda m: (m.share_percent, m.pk), default=None)
