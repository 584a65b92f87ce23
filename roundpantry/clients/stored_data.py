"""Everything that is stored about a client, wherever it is: to be handed to them, and to be erased.

Nothing here names a table. Whatever leads to a client by its columns is theirs, so that a table
that is added tomorrow is exported and erased without a line being written for it.
"""

from __future__ import annotations

import re
from collections.abc import Iterator
from typing import Any

from django.apps import apps
from django.conf import settings
from django.db import models

from roundpantry.clients.models import Client

FORMER = "a former client"
# Words of food, not of people: a client called Olive must not change what a recipe says.
FOOD_WORDS = {
    "text",
    "instead_of",
    "written",
    "steps",
    "phrase",
    "food_key",
    "amount_text",
    "how",
    "unit",
}


def path_to(
    model: type[models.Model], target: str, seen: tuple[type[models.Model], ...] = ()
) -> str:
    """How a table leads to another by columns that are never empty ("week__client"); "" where it
    does not.
    """
    for field in model._meta.concrete_fields:
        if not isinstance(field, models.ForeignKey) or field.null:
            continue
        if field.related_model._meta.label == target:
            return field.name
        if field.related_model not in (*seen, model):
            further = path_to(field.related_model, target, (*seen, model))
            if further:
                return f"{field.name}__{further}"
    return ""


def client_tables(client: Client) -> dict[str, list[dict[str, Any]]]:
    """Every row of every table that belongs to a client, with all its columns; empty tables are
    left out.
    """
    found = {}
    for model in _tables():
        path = path_to(model, Client._meta.label)
        rows = (
            list(model._default_manager.filter(**{path: client.pk}).order_by("pk").values())
            if path
            else []
        )
        if rows:
            found[model._meta.label_lower] = rows
    return found


def mentions_of(client: Client) -> Iterator[tuple[models.Model, str, str]]:
    """Where a client's name stands in what is the practitioner's and not the client's: the row, the
    column, the text.
    """
    for model in _tables():
        path = path_to(model, settings.AUTH_USER_MODEL)
        if not path or path_to(model, Client._meta.label) or model is Client:
            continue
        for column in _words_of(model):
            for row in model._default_manager.filter(
                **{path: client.practitioner_id, f"{column}__contains": client.name}
            ):
                text = getattr(row, column)
                if _whole_name(client.name).search(text):
                    yield row, column, text


def erase_mentions(client: Client) -> int:
    """Put "a former client" in the place of a client's name there; return how many texts were
    changed.
    """
    count = 0
    for row, column, text in list(mentions_of(client)):
        most = getattr(row._meta.get_field(column), "max_length", None)
        setattr(row, column, _whole_name(client.name).sub(FORMER, text)[:most])
        row.save(update_fields=[column])
        count += 1
    return count


def _tables() -> Iterator[type[models.Model]]:
    return (one for one in apps.get_models() if one.__module__.startswith("roundpantry."))


def _words_of(model: type[models.Model]) -> list[str]:
    fields = (
        f
        for f in model._meta.concrete_fields
        if isinstance(f, (models.CharField, models.TextField)) and not f.choices
    )
    return [field.name for field in fields if field.name not in FOOD_WORDS]


def _whole_name(name: str) -> re.Pattern[str]:
    return re.compile(rf"(?<!\w){re.escape(name)}(?!\w)")
