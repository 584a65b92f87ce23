"""Forms of bowls."""

from __future__ import annotations

from collections.abc import Iterable

from django import forms
from django.http import QueryDict

from roundpantry.bowls.models import Bowl
from roundpantry.counter.forms import NumberField, WholeField
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
    then = forms.ChoiceField(required=False, choices=[("", ""), ("bench", "bench")])


class BecauseForm(forms.Form):
    """A reason that may be given with a change."""

    because = forms.CharField(required=False, max_length=400, label="Reason for using it")


class MoveForm(forms.Form):
    """Where a part goes: a place up or down."""

    places = forms.TypedChoiceField(choices=[("-1", "up"), ("1", "down")], coerce=int)


class BesideForm(forms.Form):
    """The other bowls of the day, by their numbers; none is none."""

    beside = forms.TypedMultipleChoiceField(
        required=False, coerce=lambda text: int(text or 0), label="Other bowls"
    )

    def __init__(self, data: QueryDict, bowls: Iterable[Bowl]) -> None:
        super().__init__(data)
        beside = self.fields["beside"]
        assert isinstance(beside, forms.TypedMultipleChoiceField)
        beside.choices = [("", "none"), *((str(bowl.pk), bowl.name) for bowl in bowls)]

    def clean_beside(self) -> list[int]:
        """The numbers, without the meals that have none."""
        return [number for number in self.cleaned_data["beside"] if number]


class ServedForm(forms.Form):
    """What was served of a part: what the scale settled at, what was typed, or nothing again."""

    what = forms.ChoiceField(
        required=False, choices=[(k, k) for k in ("", "scale", "forget", "typed")]
    )
    grams = forms.CharField(required=False, max_length=40)


class ScaleForm(forms.Form):
    """What is done to the simulated scale; grams where something is put on."""

    what = forms.ChoiceField(
        required=False, choices=[(k, k) for k in ("", "tare", "empty", "pour")]
    )
    grams = forms.CharField(required=False, max_length=40)


class PatternNameForm(forms.Form):
    """What a bowl is called when it is kept as a pattern; empty is the bowl's own name, and what is
    too long is cut where patterns are kept.
    """

    name = forms.CharField(required=False)


MOST_ROLES = 200


class PatternChangeForm(forms.Form):
    """A change of a pattern: a role's new option in words, an option to drop, or its end."""

    what = forms.ChoiceField(
        required=False, choices=[(k, k) for k in ("", "add", "drop", "remove")]
    )
    role = WholeField(0, MOST_ROLES, required=False)
    option = WholeField(0, MOST_ROLES, required=False)
    q = forms.CharField(required=False, max_length=100)


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
