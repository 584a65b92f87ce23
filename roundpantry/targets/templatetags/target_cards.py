"""The cards that targets and cautions add to a client's page."""

from __future__ import annotations

from typing import Any

from django import template

from dietetics.errors import DieteticsError
from roundpantry.clients.models import Client
from roundpantry.targets.page import (
    card_rows,
    change_rows,
    clash_words,
    held_words,
    open_questions,
)
from roundpantry.targets.records import client_cautions_of, newest_set

register = template.Library()


@register.inclusion_tag("targets/card.html", takes_context=True)
def targets_card(context: dict[str, Any], client: Client) -> dict[str, Any]:
    """Daily windows, what they come to in each meal, and what is still asked."""
    present = newest_set(client)
    if present is None:
        return {"client": client, "present": None}
    return {
        "client": client,
        "present": present,
        "meals": list(present.meals.all()),
        "rows": card_rows(present),
        "questions": open_questions(present),
        "clashes": clash_words(client, present),
        "held": held_words(client),
        "versions": client.target_sets.count(),
        "changes": change_rows(client),
        "csrf_token": context["csrf_token"],
    }


@register.inclusion_tag("targets/cautions.html", takes_context=True)
def caution_card(context: dict[str, Any], client: Client) -> dict[str, Any]:
    """The client's cautions, each to be acknowledged with a reason."""
    try:
        cautions, problem = client_cautions_of(client), ""
    except DieteticsError as error:
        cautions, problem = [], str(error)
    return {
        "client": client,
        "cautions": cautions,
        "problem": problem,
        "csrf_token": context["csrf_token"],
    }
