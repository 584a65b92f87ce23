"""Forms of the hand-over: what the booklet shows, a link, and what a client answers."""

from __future__ import annotations

from datetime import date

from django import forms

from dietetics.handover.booklet import DATES, ENERGY_UNITS, FIGURES, PORTIONS, Wishes
from roundpantry.counter import clock
from roundpantry.counter.dates import day_text
from roundpantry.counter.forms import NumberField
from roundpantry.handover.links import link_days
from roundpantry.handover.services import ALLOWED

ALLOWED_WORDS = {
    "meals": "tick meals",
    "shopping": "tick the shopping list",
    "prep": "tick the cooking",
    "remark": "write a remark",
    "rating": "rate a dish",
    "weight": "enter a weight",
}
DAY = "day"  # every meal of a day that is not answered yet, as planned
KINDS = ("meal", DAY, "bought", "cooked", "remark", "rating", "weight")


class BookletForm(forms.Form):
    """How many figures the client sees, in which units, and how dates are written."""

    figures = forms.ChoiceField(label="Figures", choices=list(FIGURES.items()))
    portions = forms.ChoiceField(label="Portions", choices=list(PORTIONS.items()))
    energy = forms.ChoiceField(label="Energy in", choices=list(ENERGY_UNITS.items()))
    dates = forms.ChoiceField(label="Dates", choices=list(DATES.items()))

    def wishes(self) -> Wishes:
        """What was chosen."""
        return Wishes(**self.cleaned_data)


class MessageForm(forms.Form):
    """A message for the outbox."""

    text = forms.CharField(
        max_length=2000,
        error_messages={
            "required": "Write the message first.",
            "max_length": "The message is too long; keep it under 2,000 characters.",
        },
    )


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

    def clean_ends_on(self) -> date:
        """A day from tomorrow to a year from now."""
        ends_on: date = self.cleaned_data["ends_on"]
        first, last = link_days(clock.today())
        if not first <= ends_on <= last:
            raise forms.ValidationError(
                f"{day_text(ends_on)} was understood. A link ends between tomorrow, "
                f"{day_text(first)}, and a year from now, {day_text(last)}."
            )
        return ends_on


class AnswerForm(forms.Form):
    """What a client sends: the kind, and what belongs to it."""

    kind = forms.ChoiceField(choices=[(kind, kind) for kind in KINDS])
    place = forms.CharField(max_length=60, required=False)
    how = forms.CharField(max_length=20, required=False)
    text = forms.CharField(max_length=20_000, required=False, strip=False)
    kg = forms.CharField(max_length=20, required=False)
    stars = NumberField(required=False)
