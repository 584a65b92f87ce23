"""Forms of batches: what is pasted, what is corrected, what was weighed."""

from __future__ import annotations

from django import forms


class PasteForm(forms.Form):
    """A recipe as people write it."""

    title = forms.CharField(max_length=120, required=False, help_text="May be left empty when the text begins with it.")
    text = forms.CharField(
        required=False,
        strip=False,
        label="Recipe",
        widget=forms.Textarea(attrs={"rows": 18, "spellcheck": "false", "autofocus": True}),
    )


class YieldForm(forms.Form):
    """What came out of the pot."""

    yield_g = forms.FloatField(required=False, label="Yield, weighed (g)")
    servings = forms.FloatField(label="Servings")


class LineForm(forms.Form):
    """A corrected line: other words, another food, or grams typed."""

    text = forms.CharField(max_length=300)
    food = forms.CharField(max_length=120, required=False)
    grams = forms.FloatField(required=False)


class NewLineForm(forms.Form):
    """A line to add."""

    text = forms.CharField(max_length=300)
