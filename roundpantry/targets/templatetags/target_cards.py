"""The card that targets add to a client's page."""

from __future__ import annotations

from typing import Any

from django import template

from dietetics.nutrients import nutrient
from dietetics.targets.windows import Window, meal_windows
from roundpantry.clients.models import Client
from roundpantry.targets.records import newest_set, windows_of

register = template.Library()


def window_text(window: Window) -> str:
    """A window with its unit: "28–34 g"."""
    return f"{window.text()} {nutrient(window.key).unit}"


@register.inclusion_tag("targets/card.html")
def targets_card(client: Client) -> dict[str, Any]:
    """Daily windows and what they come to in each meal."""
    present = newest_set(client)
    if present is None:
        return {"client": client, "present": None}
    day = windows_of(present)
    meals = list(present.meals.all())
    rows = []
    for index, window in enumerate(day):
        per_meal = [window_text(meal_windows(day, meal.share_percent / 100)[index]) for meal in meals]
        rows.append((nutrient(window.key).name, window.importance, window_text(window), per_meal))
    return {"client": client, "present": present, "meals": meals, "rows": rows}
