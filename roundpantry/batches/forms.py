"""Forms of batches: what is pasted, what is corrected, what was weighed."""

from __future__ import annotations

from django import forms

from dietetics.dishes.cooking import METHODS
from roundpantry.counter.forms import DayField, NumberField, WholeField

MOST_DAYS_KEPT, MOST_SHARES = 365, 1000


class PasteForm(forms.Form):
    """A recipe as people write it."""

    title = forms.CharField(
        max_length=120, required=False, help_text="May be left empty when the text begins with it."
    )
    text = forms.CharField(
        required=False,
        strip=False,
        label="Recipe",
        widget=forms.Textarea(attrs={"rows": 18, "spellcheck": "false", "autofocus": True}),
    )
    file = forms.FileField(
        required=False,
        label="or a file",
        help_text="A saved web page, a JSON-LD recipe, CSV or text, to 5 MB.",
        widget=forms.FileInput(attrs={"accept": ".html,.htm,.json,.jsonld,.csv,.txt"}),
    )


class YieldForm(forms.Form):
    """Cooked yield."""

    yield_g = forms.CharField(required=False, max_length=100, label="Cooked weight or count")
    servings = NumberField(required=False, label="Servings")
    method = forms.ChoiceField(required=False, choices=[("", "")] + list(METHODS.items()))
    retention = forms.BooleanField(required=False)


class ServingsForm(forms.Form):
    """How many a batch serves, as typed: the number is judged where batches are."""

    servings = forms.CharField(required=False, max_length=40)


class SubstituteForm(forms.Form):
    """A substitution by its key; `here` changes the original itself."""

    key = forms.CharField(required=False, max_length=120)
    here = forms.ChoiceField(required=False, choices=[("", "no"), ("yes", "yes")])


class WaterForm(forms.Form):
    """Water added, in g; below zero it is boiled away."""

    grams = NumberField(
        required=False,
        error_messages={
            "invalid": "Water was not understood. Enter grams, for example 120 or -200."
        },
    )


class MethodForm(forms.Form):
    """How a line is cooked; whether that is a method is judged where batches are."""

    method = forms.CharField(required=False, max_length=40)


class LineForm(forms.Form):
    """A corrected line: other words, another food, or grams typed."""

    text = forms.CharField(max_length=300)
    seen = forms.CharField(max_length=300, required=False, strip=False)  # as the form was opened
    food = forms.CharField(max_length=120, required=False)
    grams = NumberField(required=False)


class NewLineForm(forms.Form):
    """A line to add."""

    text = forms.CharField(max_length=300)


class CookingForm(forms.Form):
    """One cooking for the log."""

    day = DayField()
    measured = forms.CharField(max_length=100)
    taste = forms.IntegerField(required=False, min_value=1, max_value=5)
    notes = forms.CharField(required=False, max_length=1000)


class VesselForm(forms.Form):
    """What a dish is served with, what fills it, and how many days the dish keeps."""

    vessel = forms.CharField(required=False, max_length=40, label="Utensil or container")
    fill = forms.CharField(required=False, max_length=60, label="What fills it")
    keeps = WholeField(0, MOST_DAYS_KEPT, required=False, label="Keeps (days)")


class TakeBackForm(forms.Form):
    """A portion that is taken back, by its place in the list."""

    remove = WholeField(0, MOST_SHARES)


class ShareForm(forms.Form):
    """A portion for somebody."""

    who = forms.CharField(max_length=60)
    amount = forms.CharField(max_length=60)
    times = forms.IntegerField(min_value=1, max_value=60)
