"""The client form: possible measurements only, said at the field."""

from __future__ import annotations

from django import forms
from django.core.exceptions import ValidationError

from roundpantry.clients.models import Client

POSSIBLE = {"age_years": (1, 120, "years"), "height_cm": (50, 250, "cm"), "weight_kg": (2, 400, "kg")}


class ClientForm(forms.ModelForm):
    """Person, measurements and dangers."""

    class Meta:
        model = Client
        fields = ("name", "sex", "age_years", "height_cm", "weight_kg", "cautions", "notes")
        widgets = {
            "cautions": forms.Textarea(attrs={"rows": 4, "placeholder": "One a line: Sesame allergy\nWarfarin"}),
            "notes": forms.Textarea(attrs={"rows": 3}),
        }
        help_texts = {"cautions": "What can hurt this client. Shown beside the name on every screen and print."}

    def clean(self) -> dict[str, object]:
        """Refuse measurements no person has."""
        cleaned = super().clean() or self.cleaned_data
        for field, (low, high, unit) in POSSIBLE.items():
            value = cleaned.get(field)
            if value is not None and not low <= value <= high:
                message = f"{value} {unit} was understood; between {low} and {high} {unit} is possible."
                self.add_error(field, ValidationError(message))
        return cleaned
