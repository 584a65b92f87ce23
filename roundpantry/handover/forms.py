"""Forms of the hand-over: what the booklet shows, a link, and what a client answers."""

from __future__ import annotations

from django import forms

from dietetics.handover.booklet import FIGURES
from roundpantry.counter.forms import NumberField
from roundpantry.handover.services import ALLOWED

ALLOWED_WORDS = {
    "meals": "tick meals",
    "shopping": "tick the shopping list",
    "remark": "write a remark",
    "rating": "rate a dish",
    "weight": "enter a weight",
}
KINDS = ("meal", "bought", "remark", "rating", "weight")


class BookletForm(forms.Form):
    """How many figures the client sees."""

    figures = forms.ChoiceField(choices=list(FIGURES.items()))


class LinkForm(forms.Form):
    """Until when a link opens, and what may be answered on it."""

    ends_on = forms.DateField(
        label="Ends on",
        error_messages={
            "required": "Enter the last day, like 2026-12-06.",
            "invalid": "Not understood as a date. Write it like 2026-12-06.",
        },
    )
    allows = forms.MultipleChoiceField(
        choices=[(key, ALLOWED_WORDS[key]) for key in ALLOWED], required=False
    )


class AnswerForm(forms.Form):
    """What a client sends: the kind, and what belongs to it."""

    kind = forms.ChoiceField(choices=[(kind, kind) for kind in KINDS])
    place = forms.CharField(max_length=60, required=False)
    how = forms.CharField(max_length=20, required=False)
    text = forms.CharField(max_length=20_000, required=False, strip=False)
    kg = NumberField(required=False)
    stars = NumberField(required=False)
