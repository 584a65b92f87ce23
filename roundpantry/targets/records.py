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


def windows_of_meal(meal: Meal) -> tuple[Window, ...]:
    """The windows of one meal: the day's, divided by its share."""
    return meal_windows(windows_of(meal.target_set), meal.share_percent / 100)


def main_meal(target_set: TargetSet) -> Meal | None:
    """The meal with the largest share, the later one on a tie."""
    meals = list(target_set.meals.all())
    return max(meals, key=lambda m: (m.share_percent, m.pk), default=None)
