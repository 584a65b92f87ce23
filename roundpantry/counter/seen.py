"""Two windows on one thing. A form says of which state it was opened (its mark); where the thing
has moved on since, nothing is saved, and both texts are shown, field by field.
"""

from __future__ import annotations

import hashlib
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any

from django import forms
from django.db import models

MARK = "mark"


@dataclass(frozen=True)
class BothTexts:
    """One field that differs: its label, what is stored now, and what was typed here."""

    label: str
    stored: str
    typed: str


def mark_of(row: models.Model, left_out: Iterable[str] = ()) -> str:
    """A short mark of a row as it is stored; another mark is another state."""
    names = [field.attname for field in row._meta.concrete_fields if field.name not in left_out]
    values = [(name, str(getattr(row, name))) for name in names]
    return hashlib.sha256(repr(values).encode()).hexdigest()[:16]


def both_texts(typed: forms.BaseForm, stored: forms.BaseForm) -> list[BothTexts]:
    """The fields in which a form that was sent differs from one of what is stored now."""
    found = []
    for bound in typed:
        if bound.is_hidden or bound.name not in stored.fields:
            continue
        was, now = _words(stored[bound.name]), _words(bound)
        if was != now:
            found.append(BothTexts(str(bound.label), was, now))
    return found


def _words(bound: forms.BoundField) -> str:
    """The value of a field as it is read by a person."""
    value: Any = bound.value()
    values = value if isinstance(value, (list, tuple)) else [value]
    choices = dict(getattr(bound.field, "choices", ()) or ())
    names = [_plain(choices.get(one, one)) for one in values]
    return ", ".join(sorted(filter(None, names)) if len(names) > 1 else names)


def _plain(value: Any) -> str:
    """A value as text: no difference between 64 and 64.0, or in how lines end."""
    if value is None or value == "":
        return ""
    if isinstance(value, bool):
        return "yes" if value else "no"
    text = str(value).replace("\r\n", "\n").strip()
    try:
        return f"{float(text.replace(',', '.')):g}"
    except ValueError:
        return text
