"""The targets form: daily windows as low and high, and the meals of the day with their shares."""

from __future__ import annotations

from dataclasses import dataclass

from django import forms

from dietetics.errors import DieteticsError
from dietetics.nutrients import nutrient
from dietetics.targets.windows import IMPORTANCES, Window
from roundpantry.targets.models import TargetSet

TYPED_KEYS = ("energy_kcal", "protein_g", "kcal_per_g", "fibre_g", "sodium_mg", "potassium_mg", "phosphorus_mg")
MEAL_ROWS = 5
DEFAULT_MEALS = (("Breakfast", 30), ("Lunch", 35), ("Dinner", 35))


@dataclass(frozen=True)
class WindowRow:
    """One line of the form: the nutrient and its three fields."""

    name: str
    unit: str
    low: forms.BoundField
    high: forms.BoundField
    importance: forms.BoundField


class TargetsForm(forms.Form):
    """Windows and meals together; stored together as one version."""

    def __init__(self, data: dict[str, str] | None = None, present: TargetSet | None = None) -> None:
        super().__init__(data, initial=_initial(present))
        for key in TYPED_KEYS:
            one = nutrient(key)
            for side in ("low", "high"):
                self.fields[f"{key}-{side}"] = forms.FloatField(
                    required=False, min_value=0, label=f"{one.name}, {side} ({one.unit})"
                )
            self.fields[f"{key}-importance"] = forms.ChoiceField(
                required=False, choices=[(i, i) for i in IMPORTANCES], label=f"{one.name}, importance"
            )
        for row in range(MEAL_ROWS):
            self.fields[f"meal{row}-name"] = forms.CharField(
                required=False, max_length=40, label=f"Meal {row + 1}, name"
            )
            self.fields[f"meal{row}-share"] = forms.IntegerField(
                required=False, min_value=1, max_value=100, label=f"Meal {row + 1}, share of the day (%)"
            )

    def clean(self) -> dict[str, object]:
        """Windows must make sense; shares must come to 100 %."""
        cleaned = super().clean() or self.cleaned_data
        for key in TYPED_KEYS:
            try:
                self._window(key)
            except DieteticsError as error:
                self.add_error(f"{key}-low", str(error))
        if not self.errors:
            if not self.windows():
                raise forms.ValidationError("Give at least one window: a low, a high, or both.")
            total = sum(share for _, share in self.meals())
            if total != 100:
                raise forms.ValidationError(f"The meals' shares add up to {total} %; they must come to 100 %.")
        return cleaned

    def _window(self, key: str) -> Window | None:
        low, high = self.cleaned_data.get(f"{key}-low"), self.cleaned_data.get(f"{key}-high")
        if low is None and high is None:
            return None
        factor = nutrient(key).factor  # typed in the practitioner's units, stored in ours
        low, high = (None if side is None else side / factor for side in (low, high))
        return Window(key, low, high, self.cleaned_data.get(f"{key}-importance") or "should")

    def windows(self) -> list[Window]:
        """The windows that were typed."""
        return [window for key in TYPED_KEYS if (window := self._window(key)) is not None]

    def meals(self) -> list[tuple[str, int]]:
        """The meals that were typed, with shares in per cent."""
        rows = [
            (self.cleaned_data.get(f"meal{i}-name"), self.cleaned_data.get(f"meal{i}-share")) for i in range(MEAL_ROWS)
        ]
        return [(name, share) for name, share in rows if name and share]

    def window_rows(self) -> list[WindowRow]:
        """The window fields, a row a nutrient, for the template."""
        return [
            WindowRow(nutrient(k).name, nutrient(k).unit, self[f"{k}-low"], self[f"{k}-high"], self[f"{k}-importance"])
            for k in TYPED_KEYS
        ]

    def meal_rows(self) -> list[tuple[forms.BoundField, forms.BoundField]]:
        """The meal fields, a row a meal, for the template."""
        return [(self[f"meal{i}-name"], self[f"meal{i}-share"]) for i in range(MEAL_ROWS)]


def _initial(present: TargetSet | None) -> dict[str, object]:
    initial: dict[str, object] = {f"{key}-importance": "should" for key in TYPED_KEYS}
    meals = [(m.name, m.share_percent) for m in present.meals.all()] if present else list(DEFAULT_MEALS)
    for row, (name, share) in enumerate(meals[:MEAL_ROWS]):
        initial |= {f"meal{row}-name": name, f"meal{row}-share": share}
    for window in present.windows.all() if present else ():
        initial |= {
            f"{window.key}-low": _shown(window.key, window.low),
            f"{window.key}-high": _shown(window.key, window.high),
            f"{window.key}-importance": window.importance,
        }
    return initial


def _shown(key: str, value: float | None) -> str:
    return "" if value is None else f"{round(value * nutrient(key).factor, 3):g}"
