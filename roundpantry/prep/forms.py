"""Forms of prep: the kitchen, an evening's start, a task corrected, a press while cooking."""

from __future__ import annotations

from django import forms

from dietetics.prep.heating import BURNER_KW, BURNERS_KW
from dietetics.prep.kitchen import MOST_OF_A_KIND
from roundpantry.counter.forms import NumberField, WholeField

MOST_TASK_MINUTES, HOTTEST = 720, 300
PRESSES = ("hands-done", "ready", "more", "skip")


class KitchenForm(forms.Form):
    """How many cooks, ovens and devices there are."""

    cooks = WholeField(1, MOST_OF_A_KIND, label="Cooks")
    ovens = WholeField(0, MOST_OF_A_KIND, label="Ovens")
    trays = WholeField(1, MOST_OF_A_KIND, label="Trays in an oven")
    burners = WholeField(0, MOST_OF_A_KIND, label="Burners")
    blenders = WholeField(0, MOST_OF_A_KIND, label="Blenders")
    pressure_cookers = WholeField(0, MOST_OF_A_KIND, label="Pressure cookers")
    big_pots = WholeField(1, MOST_OF_A_KIND, label="Big pots (over 3 litres)")
    burner_kw = forms.TypedChoiceField(
        label="Burners are",
        choices=[(str(kw), f"{words} ({kw:g} kW)") for kw, words in BURNERS_KW.items()],
        coerce=float,
        required=False,
    )

    def clean_burner_kw(self) -> float:
        """The power of a burner; a usual one where none is chosen."""
        return self.cleaned_data["burner_kw"] or BURNER_KW


class StartForm(forms.Form):
    """When the evening begins, or when it has to be over."""

    time = forms.TimeField(
        label="Time",
        error_messages={
            "required": "Enter a time like 17:30.",
            "invalid": "Not understood as a time. Write it like 17:30.",
        },
    )
    is_end = forms.ChoiceField(required=False, choices=[("", "start"), ("yes", "end")])


class TaskForm(forms.Form):
    """What a cook says of a task; what is left empty is read from the step again."""

    hands = NumberField(
        required=False, min_value=0, max_value=MOST_TASK_MINUTES, label="Minutes of hands"
    )
    wait = NumberField(
        required=False, min_value=0, max_value=MOST_TASK_MINUTES, label="Minutes alone"
    )
    celsius = NumberField(required=False, min_value=30, max_value=HOTTEST, label="°C")


class PressForm(forms.Form):
    """A press while cooking: what was pressed, for which task, and the state that was seen."""

    what = forms.ChoiceField(choices=[(what, what) for what in PRESSES])
    task = forms.CharField(max_length=120)
