"""Everything that is stored about a client, wherever it is: to be handed to them, and to be erased.

Nothing here names a table. Whatever leads to a client by its columns is theirs, so that a table
that is added tomorrow is exported and erased without a line being written for it.
"""

from __future__ import annotations

import json
import re
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from django.apps import apps
from django.conf import settings
from django.db import models
from django.db.models.functions import Cast

from roundpantry.clients.models import Client

FORMER = "a former client"
SHORTEST, LONG_TITLE = 4, 80  # of a part of a name that is taken for one, and a title that was cut
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


def names_of(client: Client) -> list[str]:
    """What a client is called and was called before, the longest first."""
    former = client.former_names.values_list("name", flat=True)
    return sorted({client.name.strip(), *former} - {""}, key=len, reverse=True)


def mentions_of(client: Client) -> Iterator[tuple[models.Model, str, str]]:
    """Where a client's name stands in what is the practitioner's and no client's: the row, the
    column, the text. This is what the client may be handed.
    """
    for mention in _mentions(client):
        if isinstance(mention.value, str) and not mention.is_anothers:
            yield mention.row, mention.column, mention.value


def erase_mentions(client: Client) -> int:
    """Put "a former client" in the place of a client's names in everything else that the
    practitioner keeps, also of other clients: notes, visits, messages, booklets with a column for
    the household. Return how many texts were changed.
    """
    names, count = names_of(client), 0
    for mention in list(_mentions(client)):
        field = mention.row._meta.get_field(mention.column)
        made = _without(
            mention.value, names, mention.is_anothers, getattr(field, "max_length", None)
        )
        if made != mention.value:
            setattr(mention.row, mention.column, made)
            mention.row.save(update_fields=[mention.column])
            count += 1
    return count


def went_out(client: Client) -> list[tuple[str, datetime]]:
    """What left the program and cannot be called back: what it was and when, the newest first. A
    table of which rows go out says so by `went_out`: the words, and the column of the day.
    """
    found = []
    for model in _tables():
        words, column = getattr(model, "went_out", ("", ""))
        path = path_to(model, Client._meta.label)
        if words and path:
            rows = model._default_manager.filter(**{path: client.pk, f"{column}__isnull": False})
            found += [(words, moment) for moment in rows.values_list(column, flat=True)]
    return sorted(found, key=lambda one: one[1], reverse=True)


@dataclass(frozen=True)
class _Mention:
    """A value that holds a client's name: the row, the column, the text or the plain data, and
    whether it is of another client.
    """

    row: models.Model
    column: str
    value: Any
    is_anothers: bool


def _mentions(client: Client) -> Iterator[_Mention]:
    names = names_of(client)
    for model in _tables():
        whose = path_to(model, settings.AUTH_USER_MODEL)
        to_client = "pk" if model is Client else path_to(model, Client._meta.label)
        if not whose:
            continue
        rows = model._default_manager.filter(**{whose: client.practitioner_id})
        if to_client:
            rows = rows.exclude(**{to_client: client.pk})
        for column in _words_of(model, bool(to_client)):
            for row in _holding(rows, column, names):
                value = getattr(row, column)
                if _without(value, names, bool(to_client)) != value:
                    yield _Mention(row, column, value, bool(to_client))


def _holding(
    rows: models.QuerySet[models.Model], column: str, names: Sequence[str]
) -> models.QuerySet[models.Model]:
    """The rows that may hold one of the names in a column; in plain data, as JSON writes it."""
    asked = models.Q()
    for name in names:
        for written in {name, json.dumps(name)[1:-1], name[:SHORTEST]}:
            asked |= models.Q(_written__contains=written)
    with_text: models.QuerySet[models.Model] = rows.annotate(
        _written=Cast(column, models.TextField())
    )
    return with_text.filter(asked)


def _without(value: Any, names: Sequence[str], is_anothers: bool, most: int | None = None) -> Any:
    """The value without the names. In what is of another client, a name of one word is taken out
    only where it stands alone or behind "for": Olive is a client, and an oil.
    """
    if isinstance(value, dict):
        return {key: _without(one, names, is_anothers) for key, one in value.items()}
    if isinstance(value, list):
        return [_without(one, names, is_anothers) for one in value]
    if not isinstance(value, str):
        return value
    for name in names:
        if not is_anothers or " " in name:
            value = _whole_name(name).sub(FORMER, value)
        elif value.strip() == name:
            value = FORMER
        value = re.sub(rf"(?<=, for ){re.escape(name)}$", FORMER, value)
        value = _without_cut(value, name)
    return value[:most]


def _without_cut(text: str, name: str) -> str:
    """A title that was made for a client and cut in the middle of their name, without what is left
    of it.
    """
    before, behind, part = text.rpartition(", for ")
    is_cut = len(text) >= LONG_TITLE and len(part) >= SHORTEST and part != name
    return f"{before}{behind}{FORMER}" if behind and is_cut and name.startswith(part) else text


def _tables() -> Iterator[type[models.Model]]:
    return (one for one in apps.get_models() if one.__module__.startswith("roundpantry."))


def _words_of(model: type[models.Model], is_anothers: bool) -> list[str]:
    """The columns of a table that a name may stand in."""
    fields = (
        f
        for f in model._meta.concrete_fields
        if isinstance(f, (models.CharField, models.TextField, models.JSONField)) and not f.choices
    )
    # what stands with another client is about people; one of the same name is another person
    left_out = FOOD_WORDS if not is_anothers else {"name"} if model is Client else set()
    return [field.name for field in fields if field.name not in left_out]


def _whole_name(name: str) -> re.Pattern[str]:
    return re.compile(rf"(?<!\w){re.escape(name)}(?!\w)")
