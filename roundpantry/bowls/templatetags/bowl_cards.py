"""The card that bowls add to a client's page."""

from __future__ import annotations

from typing import Any

from django import template
from django.contrib.auth.models import User

from roundpantry.bowls.bench_page import day_words, list_rows, vitamin_k_words
from roundpantry.bowls.records import bowls_of
from roundpantry.clients.models import Client
from roundpantry.targets.records import newest_set

register = template.Library()


@register.inclusion_tag("bowls/cards.html")
def bowl_cards(user: User, client: Client) -> dict[str, Any]:
    """The client's bowls as small dishes."""
    bowls = list(bowls_of(user).filter(client=client))
    present = newest_set(client)
    day = day_words(bowls, [meal.name for meal in present.meals.all()] if present else [])
    return {
        "rows": list_rows(bowls),
        "client": client,
        "swing": vitamin_k_words(client, bowls),
        "day": day,
    }
