"""The client form: possible measurements only, said at the field."""

from __future__ import annotations

from collections.abc import Callable
from decimal import Decimal
from typing import Any

from django import forms
from django.contrib.auth.models import User
from django.core.exceptions import ValidationError
from django.urls import reverse_lazy

from dietetics.cautions.exclusions import ALLERGIES
from dietetics.errors import DieteticsError
from dietetics.targets.conditions import conditions
from dietetics.targets.measurements import read_height_cm, read_weight_kg
from dietetics.targets.person import ACTIVITIES, GOALS, age_years_on
from dietetics.targets.schools import DEFAULT_SCHOOL, schools
from dietetics.targets.slips import slips
from roundpantry.clients.models import Client, OwnSchool
from roundpantry.clients.records import newest_weight, person_of, school_choices
from roundpantry.counter import clock
from roundpantry.counter.dates import day_text

KINDS = (("Kidneys", "kidney"), ("Conditions", "condition"), ("Medicines", "medicine"))
CONDITION_CHOICES = [
    (title, [(one.key, one.name) for one in conditions().values() if one.kind == kind])
    for title, kind in KINDS
]
NO_FACTS = ("mark", "sure")  # fields of the form that are nothing of the client
POSSIBLE = {
    "age_years": (1, 120, "years"),
    "height_cm": (50, 250, "cm"),
    "weight_kg": (2, 400, "kg"),
}


class MeasurementField(forms.CharField):
    """A height or weight in metric or US words, stored to the first decimal in cm or kg."""

    def __init__(self, read: Callable[[str], float], **kwargs: Any) -> None:
        super().__init__(max_length=20, **kwargs)
        self.read = read

    def clean(self, value: Any) -> Decimal:
        """Read what was typed; what cannot be read is said."""
        text = super().clean(value)
        try:
            return Decimal(str(round(self.read(text), 1)))
        except DieteticsError as error:
            raise ValidationError(str(error)) from None


class ClientForm(forms.ModelForm):  # type: ignore[type-arg]  # no generic when run
    """A client in the order of a first talk."""

    conditions = forms.MultipleChoiceField(
        required=False,
        choices=CONDITION_CHOICES,
        widget=forms.CheckboxSelectMultiple,
        label="Conditions and medicines",
    )
    allergies = forms.MultipleChoiceField(
        required=False,
        choices=[(key, key.replace("-", " ")) for key in ALLERGIES],
        widget=forms.CheckboxSelectMultiple,
    )
    school = forms.ChoiceField(required=False, label="Dietary approach")
    mark = forms.CharField(required=False, max_length=80, widget=forms.HiddenInput)
    # shown once a height or a weight was asked about
    sure = forms.BooleanField(required=False, label="It is right", widget=forms.HiddenInput)

    class Meta:
        model = Client
        fields = (
            "name",
            "sex",
            "birth_date",
            "age_years",
            "height_cm",
            "weight_kg",
            "activity",
            "goal",
            "pace_kg_per_week",
            "goal_weight_kg",
            "conditions",
            "pregnant",
            "pregnancy_week",
            "weight_before_kg",
            "breastfeeding",
            "breastfeeding_month",
            "deficit_by",
            "deficit_on",
            "lost_kg",
            "lost_unintended",
            "eats_little_days",
            "appetite",
            "babies",
            "bowels",
            "fluids",
            "usual_day",
            "usual_sodium_mg",
            "usual_vitamin_k_ug",
            "clinician_energy_kcal",
            "clinician_energy_by",
            "clinician_energy_on",
            "supplements",
            "allergies",
            "dislikes",
            "meals_a_day",
            "meal_hours",
            "kitchen",
            "household",
            "fibre_now_g",
            "school",
            "cautions",
            "notes",
        )
        widgets = {
            "birth_date": forms.DateInput(attrs={"type": "date"}),
            "cautions": forms.Textarea(
                attrs={"rows": 2, "placeholder": "One per line, in your own words"}
            ),
            "dislikes": forms.Textarea(
                attrs={
                    "rows": 2,
                    "aria-describedby": "never-eaten",
                    "hx-post": reverse_lazy("shelf:never-eaten"),
                    "hx-trigger": "input changed delay:300ms, load",
                    "hx-target": "#never-eaten",
                    "hx-params": "dislikes",  # alone: the form's once-only mark stays unused
                }
            ),
            "usual_day": forms.Textarea(
                attrs={
                    "rows": 3,
                    "placeholder": "2 slices whole-wheat bread, 1 tbsp peanut butter",
                    "aria-describedby": "usual-day",
                    "hx-post": reverse_lazy("shelf:usual-day"),
                    "hx-trigger": "input changed delay:500ms, load",
                    "hx-target": "#usual-day",
                    "hx-params": "usual_day",
                }
            ),
            "supplements": forms.Textarea(
                attrs={"rows": 2, "placeholder": "B12 50 µg daily, vitamin D 25 µg"}
            ),
            "deficit_on": forms.DateInput(attrs={"type": "date"}),
            "clinician_energy_on": forms.DateInput(attrs={"type": "date"}),
            "notes": forms.Textarea(attrs={"rows": 3}),
        }
        help_texts = {
            "cautions": (
                "Shown beside the name on every screen and print, with conditions and allergies."
            ),
            "supplements": (
                "Name, amount, how often; counted in the day and against the upper levels. What "
                "is not understood is kept as text."
            ),
            "deficit_by": (
                "Only if weight loss needs a clinician's agreement: who agreed, and when."
            ),
            "weight_before_kg": "Used for the planned weight gain.",
            "bowels": "How often, loose or hard.",
            "fluids": "How much, and what of.",
            "usual_sodium_mg": "With lithium: what they ate before. Empty: no target of sodium.",
            "usual_vitamin_k_ug": "With warfarin: what they ate before. Empty: no target of it.",
            "clinician_energy_kcal": "Takes the place of ours, for example after surgery.",
        }

    def __init__(self, user: User, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        usual = schools()[DEFAULT_SCHOOL]
        _offer(self.fields["school"], school_choices(user))
        self.fields["school"].help_text = f"{usual.name}. {usual.why}"
        for name, read, label in (
            ("height_cm", read_height_cm, "Height (cm)"),
            ("weight_kg", read_weight_kg, "Weight (kg)"),
        ):
            self.fields[name] = MeasurementField(
                read, label=label, help_text="or 5 ft 5" if name == "height_cm" else "or 154 lb"
            )
        self.fields["age_years"].required = False
        newest = newest_weight(self.instance)
        if newest is not None:
            told = f"{newest.value:.1f} kg on {day_text(newest.day)}"
            self.fields["weight_kg"].help_text = f"targets use this one; last measured {told}"
        for name in ("activity", "goal", "pace_kg_per_week", "household", "appetite", "babies"):
            self.fields[name].required = False
        for name, key in (("activity", ACTIVITIES), ("goal", GOALS)):
            _offer(self.fields[name], list(key.items()))

    def clean(self) -> dict[str, Any]:
        """Refuse what no person has and what contradicts itself, at the field; nothing is computed
        from it.
        """
        cleaned = super().clean() or self.cleaned_data
        for name, usual in (
            ("activity", "low-active"),
            ("goal", "hold"),
            ("pace_kg_per_week", 0.5),
            ("household", 1),
            ("appetite", "good"),
            ("babies", 1),
            ("school", DEFAULT_SCHOOL),
        ):
            if cleaned.get(name) in (None, ""):
                cleaned[name] = usual
        born = cleaned.get("birth_date")
        if born is not None:
            today = clock.today()
            if born > today:
                self.add_error("birth_date", f"{day_text(born)} is in the future.")
            else:
                cleaned["age_years"] = age_years_on(today, born)
        elif cleaned.get("age_years") is None and "age_years" not in self.errors:
            self.add_error("age_years", "Give the age or the date of birth.")
        for field, (low, high, unit) in POSSIBLE.items():
            value = cleaned.get(field)
            if value is not None and not low <= value <= high:
                message = f"{value} {unit} is outside the possible range of {low} to {high} {unit}."
                self.add_error(field, ValidationError(message))
        self._clean_stage(cleaned)
        if not self.errors and not cleaned.get("sure"):
            self._ask_about_slips(cleaned)
        if not self.errors:
            try:
                person_of(cleaned)
            except DieteticsError as error:
                at = {
                    "goal-too-light": "goal_weight_kg",
                    "person-contradiction": "conditions",
                }.get(error.code)
                self.add_error(at, str(error))
        return cleaned

    def _ask_about_slips(self, cleaned: dict[str, Any]) -> None:
        """Ask about a height or a weight that is unlikely; nothing is taken before an answer."""
        cm, kg = float(cleaned["height_cm"]), float(cleaned["weight_kg"])
        before = self.instance
        if before.pk and (cm, kg) == (float(before.height_cm), float(before.weight_kg)):
            return
        newest = newest_weight(before)
        last_kg = newest.value if newest is not None else None
        for slip in slips(cm, kg, float(cleaned["age_years"]), last_kg):
            self.add_error(slip.field, f"{slip.words} If so, tick “It is right” and save again.")
            self.fields["sure"].widget = forms.CheckboxInput()

    def _clean_stage(self, cleaned: dict[str, Any]) -> None:
        """Weeks and months belong to their stage; a note needs a name and a day."""
        for stage, names in (
            ("pregnant", ("pregnancy_week", "weight_before_kg")),
            ("breastfeeding", ("breastfeeding_month",)),
        ):
            for name in names:
                if not cleaned.get(stage):
                    cleaned[name] = None
        for by, on in (
            ("deficit_by", "deficit_on"),
            ("clinician_energy_by", "clinician_energy_on"),
        ):
            if bool((cleaned.get(by) or "").strip()) != bool(cleaned.get(on)):
                self.add_error(by, "A clinician's note needs both a name and a date.")
            day = cleaned.get(on)
            if day is not None and day > clock.today():
                self.add_error(on, f"{day_text(day)} is in the future.")
        figure = cleaned.get("clinician_energy_kcal")
        if figure is not None and not (cleaned.get("clinician_energy_by") or "").strip():
            self.add_error("clinician_energy_by", "Enter who set the energy, and when.")
        if not cleaned.get("pregnant"):
            cleaned["babies"] = 1

    def facts(self) -> dict[str, Any]:
        """The cleaned facts, ready to be stored."""
        return {name: value for name, value in self.cleaned_data.items() if name not in NO_FACTS}

    def seen_mark(self) -> str:
        """What told the client apart when the form was opened; nothing when it is a new one."""
        return str(self.cleaned_data["mark"])


class DeleteForm(forms.Form):
    """The client's name, typed to delete everything about them."""

    name = forms.CharField(max_length=200)


def _offer(field: forms.Field, choices: list[tuple[str, str]]) -> None:
    """Set what may be chosen in a field."""
    assert isinstance(field, forms.ChoiceField)
    field.choices = choices


class OwnSchoolForm(forms.ModelForm):  # type: ignore[type-arg]  # no generic when run
    """A school derived from another: only what differs is typed."""

    base = forms.ChoiceField()

    class Meta:
        model = OwnSchool
        fields = (
            "name",
            "base",
            "density_high",
            "sodium_high",
            "protein_low_g_per_kg",
            "protein_high_g_per_kg",
            "why",
        )
        widgets = {"why": forms.Textarea(attrs={"rows": 2})}

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        _offer(self.fields["base"], [(s.key, s.name) for s in schools().values()])

    def clean(self) -> dict[str, Any]:
        """Numbers must be possible, and a protein window needs both ends in order."""
        cleaned = super().clean() or self.cleaned_data
        for name, least, most in (
            ("density_high", 0.3, 5),
            ("sodium_high", 300, 6000),
            ("protein_low_g_per_kg", 0.3, 4),
            ("protein_high_g_per_kg", 0.3, 4),
        ):
            value = cleaned.get(name)
            if value is not None and not least <= value <= most:
                self.add_error(
                    name, f"{value:g} is outside the possible range of {least:g} to {most:g}."
                )
        low, high = cleaned.get("protein_low_g_per_kg"), cleaned.get("protein_high_g_per_kg")
        if (low is None) != (high is None) or (low is not None and high is not None and low > high):
            self.add_error(
                "protein_low_g_per_kg",
                "Enter both ends of the protein target, the lower one first.",
            )
        return cleaned
