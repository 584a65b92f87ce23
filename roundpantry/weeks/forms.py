"""Forms of weeks: the cooking rules of one week, and how a client takes a dish."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from django import forms
from django.http import QueryDict

from dietetics.week.question import LIKING_WORDS, MOST_BATCHES_AN_EVENING, MOST_EVENINGS
from roundpantry.counter.forms import WholeField

MOST_MAINS, MOST_APART, MOST_USES = 28, 7, 28
EVENINGS = [(str(day), str(day)) for day in range(-1, 7)]


class CookingRulesForm(forms.Form):
    """Cooking evenings (-1 the one before the week), batches an evening, and how much variety."""

    cooking_days = forms.TypedMultipleChoiceField(
        choices=EVENINGS, coerce=int, required=False, label="Cooking evenings"
    )
    most_pots = WholeField(1, MOST_BATCHES_AN_EVENING, label="Batches per evening")
    different = WholeField(0, MOST_MAINS, required=False, label="Different main dishes")
    most_new = WholeField(0, MOST_MAINS, required=False, label="New dishes")

    def clean_cooking_days(self) -> list[int]:
        """No more evenings than can be planned with."""
        days = sorted(set(self.cleaned_data["cooking_days"]))
        if len(days) > MOST_EVENINGS:
            raise forms.ValidationError(f"at most {MOST_EVENINGS} per week.")
        return days


class DishChoiceForm(forms.Form):
    """How much a client likes a dish, how often a week, how many days apart, for which meals."""

    dish = forms.CharField(max_length=60)
    liking = WholeField(0, max(LIKING_WORDS), label="Liked")
    most_uses = WholeField(0, MOST_USES, required=False, label="Times a week")
    apart = WholeField(0, MOST_APART, label="Days apart")
    travels = forms.BooleanField(required=False)

    def __init__(self, data: QueryDict, keys: Sequence[str], meals: Sequence[str]) -> None:
        super().__init__(data)
        self.given, self.keys, self.meals = data, frozenset(keys), meals

    def clean_dish(self) -> str:
        """A dish of this client."""
        if self.cleaned_data["dish"] not in self.keys:
            raise forms.ValidationError("that dish doesn't exist.")
        return str(self.cleaned_data["dish"])

    def typed_meals(self) -> list[str]:
        """The meals that were ticked, of those there are."""
        return [name for name in self.given.getlist("meals") if name in self.meals]

    def choice(self) -> dict[str, Any]:
        """What is stored; a dish with no meal is left out of plans."""
        kept = {
            name: self.cleaned_data[name] for name in ("liking", "most_uses", "apart", "travels")
        }
        meals = self.typed_meals()
        return {**kept, "meals": meals, "left_out": not meals}
