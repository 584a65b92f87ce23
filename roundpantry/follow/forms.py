"""Forms of following: a line of measurements, a file of them, the diary, a visit."""

from __future__ import annotations

from django import forms

from dietetics.follow.eaten import HOWS
from roundpantry.clients.models import Measurement
from roundpantry.counter.forms import DayField, WholeField
from roundpantry.follow.models import Visit

MOST_LINE, MOST_FILE = 300, 1_000_000  # a remark holds as much as a line
DAY_ERRORS = {
    "required": "Enter a day, like 2026-11-20.",
    "invalid": "Not understood as a date. Write it like 2026-11-20.",
}


class LineForm(forms.Form):
    """A line of what was measured, and who said so."""

    line = forms.CharField(max_length=MOST_LINE, required=False, strip=False)
    reported_by = forms.ChoiceField(choices=Measurement.REPORTERS, required=False)


class FileForm(forms.Form):
    """A table of measurements, pasted or as a file; kept only when `keep` is pressed."""

    text = forms.CharField(max_length=MOST_FILE, required=False, strip=False)
    file = forms.FileField(required=False)
    keep = forms.CharField(max_length=3, required=False)


class DiaryForm(forms.Form):
    """How a meal of a day went."""

    day = DayField(error_messages=DAY_ERRORS)
    meal = forms.CharField(max_length=40)
    how = forms.ChoiceField(choices=[(one, one) for one in HOWS])
    text = forms.CharField(max_length=400, required=False)


class ExtraForm(forms.Form):
    """Something eaten beside the plan."""

    day = DayField(error_messages=DAY_ERRORS)
    text = forms.CharField(
        max_length=400, error_messages={"required": "Write what was eaten, like 30 g almonds."}
    )


class EntryForm(forms.Form):
    """Which entry of the diary is taken out."""

    day = DayField(error_messages=DAY_ERRORS)
    meal = forms.CharField(max_length=40)


class CodeForm(forms.Form):
    """Which proposal is taken."""

    code = forms.CharField(max_length=40)


class VisitForm(forms.ModelForm):  # type: ignore[type-arg]  # no generic when run
    """A visit: when, how long, what was said and agreed, and the next one."""

    minutes = WholeField(0, 600, required=False, label="Minutes")

    class Meta:
        model = Visit
        fields = ("day", "minutes", "talked", "agreed", "note", "next_on")
        widgets = {
            "day": forms.DateInput(attrs={"type": "date"}, format="%Y-%m-%d"),
            "next_on": forms.DateInput(attrs={"type": "date"}, format="%Y-%m-%d"),
            "talked": forms.Textarea(attrs={"rows": 4}),
            "agreed": forms.Textarea(attrs={"rows": 3}),
            "note": forms.Textarea(attrs={"rows": 6}),
        }
        labels = {
            "day": "Day",
            "talked": "What was talked about",
            "agreed": "What was agreed",
            "note": "Note, with the figures of the day",
            "next_on": "Next visit on",
        }
        error_messages = {"day": DAY_ERRORS, "next_on": DAY_ERRORS}
