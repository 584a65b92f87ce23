"""Forms of the shopping list: a tick, what is at home, a package, who else is bought for."""

from __future__ import annotations

from django import forms

from roundpantry.counter.forms import NumberField, WholeField

MOST_G, MOST_PRICE = 100_000, 10_000


class TickForm(forms.Form):
    """In the basket, or back on the list."""

    on = forms.ChoiceField(choices=[("yes", "yes"), ("no", "no")])


class UseUpForm(forms.Form):
    """Whether the plan shall use up a food, and the state of the week that was seen."""

    on = forms.ChoiceField(choices=[("yes", "yes"), ("no", "no")])
    revision = WholeField(0, 999_999)


class AtHomeForm(forms.Form):
    """What the client has at home of a food, as written: "250 g", "2 cups", "half a pack"."""

    amount = forms.CharField(max_length=60, required=False, label="At home")


class PackageForm(forms.Form):
    """Usable grams in a package and its price; either may be left out."""

    grams = NumberField(required=False, min_value=1, max_value=MOST_G, label="Grams per package")
    price = NumberField(required=False, min_value=0, max_value=MOST_PRICE, label="Price")


class AlsoForm(forms.Form):
    """The weeks of others in the household that are bought for too."""

    also = forms.TypedMultipleChoiceField(coerce=int, required=False)

    def __init__(self, weeks: list[int], data: object = None) -> None:
        super().__init__(data)  # type: ignore[arg-type]  # a QueryDict, as every form is given
        self.fields["also"].choices = [(pk, str(pk)) for pk in weeks]  # type: ignore[attr-defined]
