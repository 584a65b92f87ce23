"""Forms of bowls."""

from __future__ import annotations

from django import forms

from roundpantry.counter.forms import NumberField
from roundpantry.targets.models import Meal, TargetSet


class BowlForm(forms.Form):
    """A new bowl: its name and the meal it is for."""

    name = forms.CharField(max_length=80)
    meal = forms.ModelChoiceField(
        queryset=Meal.objects.none(), required=False, empty_label="no meal yet"
    )

    def __init__(self, data: dict[str, str] | None, present: TargetSet | None) -> None:
        super().__init__(data)
        meals = self.fields["meal"]
        assert isinstance(meals, forms.ModelChoiceField)
        meals.queryset = present.meals.all() if present else Meal.objects.none()
        if present and not data:
            meals.initial = present.meals.last()


class PortionForm(forms.Form):
    """A typed portion."""

    amount = forms.CharField(max_length=60)


class StepForm(forms.Form):
    """Whole steps up or down."""

    steps = forms.IntegerField(min_value=-200, max_value=200)


class AddForm(forms.Form):
    """A food by its key, a batch by its number, or words whose best hit is taken."""

    food = forms.SlugField(required=False)
    batch = forms.IntegerField(required=False)
    q = forms.CharField(required=False, max_length=100)
    because = forms.CharField(required=False, max_length=400)


class ReplaceForm(forms.Form):
    """A food that takes a part's place: by its key, or words whose best hit is taken."""

    food = forms.SlugField(required=False)
    q = forms.CharField(required=False, max_length=100, label="Replace with")
    amount = forms.CharField(required=False, max_length=60, label="Portion")
    because = forms.CharField(required=False, max_length=400, label="Reason for using it")


SHARES = {"half": 0.5, "three-quarters": 0.75, "one": 1.0, "one-and-half": 1.5}


class EaterForm(forms.Form):
    """For whom a bowl is copied, and how large; without a name it is a variant."""

    eater = forms.CharField(required=False, max_length=60, label="Another person at the table")
    share = forms.ChoiceField(required=False, choices=[(key, key) for key in SHARES])


class LimitForm(forms.Form):
    """The least and the most of a part for balancing; empty is portion sense."""

    least = forms.CharField(required=False, max_length=60)
    most = forms.CharField(required=False, max_length=60)


class WayForm(forms.Form):
    """One way out of a conflict."""

    kind = forms.ChoiceField(
        choices=[(k, k) for k in ("widen", "portion", "add", "swap", "closest")]
    )
    key = forms.SlugField(required=False)
    end = forms.ChoiceField(
        required=False, choices=[(k, k) for k in ("low", "high", "least", "most")]
    )
    value = NumberField(required=False, min_value=-1e6, max_value=1e6)
    food = forms.SlugField(required=False)
