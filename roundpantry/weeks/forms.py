"""Forms of weeks: the cooking rules of one week, and how a client takes a dish."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any, cast

from django import forms
from django.http import QueryDict

from dietetics.errors import DieteticsError
from dietetics.week.question.question import LIKING_WORDS, MOST_BATCHES_AN_EVENING, MOST_EVENINGS
from roundpantry.counter.forms import NumberField, WholeField, problem_of
from roundpantry.weeks.cell_changes import SentChange

MOST_FREE = 3
MOST_REASONS = 60  # of a week that is handed over
MOST_MAINS, MOST_APART, MOST_USES, MOST_NUMBER = 28, 7, 28, 999_999
EVENINGS = [(str(day), str(day)) for day in range(-1, 7)]


class CookingRulesForm(forms.Form):
    """Cooking evenings (-1 the one before the week), batches an evening, how much variety, and the
    meals that the client chooses freely.
    """

    cooking_days = forms.TypedMultipleChoiceField(
        choices=EVENINGS, coerce=int, required=False, label="Cooking evenings"
    )
    most_pots = WholeField(1, MOST_BATCHES_AN_EVENING, label="Batches per evening")
    different = WholeField(0, MOST_MAINS, required=False, label="Different main dishes")
    most_new = WholeField(0, MOST_MAINS, required=False, label="New dishes")
    vary_kinds = forms.BooleanField(required=False, label="Vary the kinds")
    freeze = forms.BooleanField(required=False, label="Freeze portions")
    free_meals = WholeField(0, MOST_FREE, required=False, label="Free meals")
    free_meal = forms.ChoiceField(required=False, label="Free meals at")

    def __init__(self, data: QueryDict, meals: Sequence[str]) -> None:
        super().__init__(data)
        self.fields["free_meal"] = forms.ChoiceField(
            required=False, choices=[("", ""), *((name, name) for name in meals)]
        )

    def clean_cooking_days(self) -> list[int]:
        """No more evenings than can be planned with."""
        days = sorted(set(self.cleaned_data["cooking_days"]))
        if len(days) > MOST_EVENINGS:
            raise forms.ValidationError(f"at most {MOST_EVENINGS} per week.")
        return days


class CutField(forms.CharField):
    """Text that may be left out; what is too long is cut: it names what is looked up."""

    def __init__(self, most: int) -> None:
        super().__init__(required=False)
        self.most = most

    def to_python(self, value: Any) -> str:
        """Strip and cut what was sent."""
        return str(super().to_python(value))[: self.most]


class NewWeekForm(forms.Form):
    """The day a new week starts, and the week it is to be like."""

    start = forms.DateField(
        error_messages={
            "required": "Enter the day the week starts, like 2026-11-23.",
            "invalid": "The start is not a date. Write it like 2026-11-23.",
        },
        label="Start",
    )
    like = forms.CharField(required=False, max_length=20)


class PlanForm(forms.Form):
    """What is asked of the planner: which revision was seen, whether other dishes, how long."""

    revision = WholeField(0, MOST_NUMBER, required=False)
    other = forms.ChoiceField(required=False, choices=[("", "no"), ("yes", "yes")])
    seconds = WholeField(1, MOST_NUMBER, required=False)
    plan = forms.ChoiceField(required=False, choices=[("", "no"), ("yes", "yes")])


class TakeWayForm(forms.Form):
    """A way to a better week: its kind, and what it changes."""

    kind = forms.CharField(required=False, max_length=40)
    value = forms.CharField(required=False, max_length=60)


class TakeInForm(forms.Form):
    """A file in place of a week's plan: the revision that was seen, and a reason for allergens."""

    revision = WholeField(0, MOST_NUMBER, required=False)
    because = forms.CharField(required=False, max_length=400)


class HandOverForm(forms.Form):
    """What is said to the client when a week is handed over."""

    note = forms.CharField(required=False, max_length=2000)

    def reasons(self) -> dict[str, str]:
        """The reason given for each obstacle, by its key; one without a reason is left out."""
        sent = cast(QueryDict, self.data)
        keys, given = sent.getlist("obstacle"), sent.getlist("reason")
        pairs = zip(keys[:MOST_REASONS], given, strict=False)
        return {key: reason.strip()[:400] for key, reason in pairs if reason.strip()}


class CellChangeForm(forms.Form):
    """One change of a plan, as it is sent: which cell, what goes in, how far it is turned.

    Every field may be left out; which ones a change needs is judged where it is made.
    """

    revision = WholeField(0, MOST_NUMBER)
    day = WholeField(-MOST_NUMBER, MOST_NUMBER, required=False)
    meal = WholeField(-MOST_NUMBER, MOST_NUMBER, required=False)
    position = WholeField(-MOST_NUMBER, MOST_NUMBER, required=False)
    steps = WholeField(-MOST_NUMBER, MOST_NUMBER, required=False)
    to_day = WholeField(-MOST_NUMBER, MOST_NUMBER, required=False)
    to_meal = WholeField(-MOST_NUMBER, MOST_NUMBER, required=False)
    scale = NumberField(required=False)
    pots = NumberField(required=False)
    frozen = NumberField(required=False)
    dish = CutField(60)
    name = CutField(120)
    batch = CutField(60)
    kind = CutField(20)
    because = CutField(400)

    def change(self) -> SentChange:
        """The change as a value. Raises `week-unreadable` for what could not be read."""
        if not self.is_valid():
            raise DieteticsError("week-unreadable", problem=problem_of(self))
        return SentChange(**self.cleaned_data)


class DishChoiceForm(forms.Form):
    """How much a client likes a dish, how often a week, how many days apart, for which meals. Its
    fields begin with the key of the dish.
    """

    liking = WholeField(0, max(LIKING_WORDS), label="Liked")
    most_uses = WholeField(0, MOST_USES, required=False, label="Times a week")
    apart = WholeField(0, MOST_APART, label="Days apart")
    travels = forms.BooleanField(required=False)

    def __init__(self, data: QueryDict, dish: str, meals: Sequence[str]) -> None:
        super().__init__(data, prefix=dish)
        self.given, self.dish, self.meals = data, dish, meals

    def typed(self) -> dict[str, Any]:
        """What was typed, as a row of the page shows it."""
        found = {
            "most": self.given.get(self.add_prefix("most_uses"), ""),
            "apart": self.given.get(self.add_prefix("apart"), ""),
            "meals": self.typed_meals(),
            "travels": self.add_prefix("travels") in self.given,
        }
        liking = self.cleaned_data.get("liking")
        return found if liking is None else {**found, "liking": liking}

    def typed_meals(self) -> list[str]:
        """The meals that were ticked, of those there are."""
        return [m for m in self.given.getlist(self.add_prefix("meals")) if m in self.meals]

    def is_other_than(self, shown: Mapping[str, Any]) -> bool:
        """True where something was changed in a row of the page."""
        typed = self.typed()
        same_words = all(str(typed[name]) == str(shown[name]) for name in ("most", "apart"))
        same_rest = all(typed[name] == shown[name] for name in ("travels", "liking"))
        return not (same_words and same_rest and set(typed["meals"]) == set(shown["meals"]))

    def choice(self) -> dict[str, Any]:
        """What is stored; a dish with no meal is left out of plans."""
        kept = {
            name: self.cleaned_data[name] for name in ("liking", "most_uses", "apart", "travels")
        }
        meals = self.typed_meals()
        return {**kept, "meals": meals, "left_out": not meals}
