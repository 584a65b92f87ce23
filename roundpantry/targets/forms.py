"""The targets form: daily windows as low and high, and the meals of the day with their shares."""

from __future__ import annotations

from dataclasses import dataclass

from django import forms

from dietetics.errors import DieteticsError
from dietetics.nutrients import nutrient
from dietetics.targets.deficit_holds import hold_reasons
from dietetics.targets.proposal import Proposal
from dietetics.targets.renewal import TYPED_KEYS
from dietetics.targets.windows import IMPORTANCE_WORDS, Window
from roundpantry.counter.forms import DayField, NumberField
from roundpantry.targets.models import TargetSet
from roundpantry.targets.services import MealRow, overridden

MEAL_ROWS = 5
DEFAULT_MEALS = (("Breakfast", 30), ("Lunch", 35), ("Dinner", 35))


@dataclass(frozen=True)
class WindowRow:
    """One line of the form: the nutrient, its three fields, and what is computed for it."""

    name: str
    unit: str
    low: forms.BoundField
    high: forms.BoundField
    importance: forms.BoundField
    computed: str
    how: str
    source: str
    asked: str


class TargetsForm(forms.Form):
    """Windows and meals together; stored together as one version."""

    reason = forms.CharField(
        required=False,
        max_length=400,
        label="Reason for targets that differ from the calculated ones",
        widget=forms.Textarea(attrs={"rows": 2}),
    )
    clinician = forms.CharField(
        required=False, max_length=80, label="Clinician who set these targets"
    )
    clinician_on = DayField(
        required=False, label="when", widget=forms.DateInput(attrs={"type": "date"})
    )

    def __init__(
        self,
        data: dict[str, str] | None = None,
        present: TargetSet | None = None,
        plan: Proposal | None = None,
    ) -> None:
        super().__init__(data, initial=_initial(present, plan))
        self.plan = plan
        for key in TYPED_KEYS:
            one = nutrient(key)
            for side in ("low", "high"):
                self.fields[f"{key}-{side}"] = NumberField(
                    required=False, min_value=0, label=f"{one.name}, {side} ({one.unit})"
                )
            self.fields[f"{key}-importance"] = forms.ChoiceField(
                required=False,
                choices=list(IMPORTANCE_WORDS.items()),
                label=f"{one.name}, importance",
            )
        for row in range(MEAL_ROWS):
            self.fields[f"meal{row}-name"] = forms.CharField(
                required=False, max_length=40, label=f"Meal {row + 1}, name"
            )
            self.fields[f"meal{row}-kind"] = forms.CharField(
                required=False, max_length=60, label=f"Meal {row + 1}, kind"
            )
            self.fields[f"meal{row}-protein"] = forms.IntegerField(
                required=False,
                min_value=0,
                max_value=100,
                label=f"Meal {row + 1}, share of the protein (%)",
            )
            self.fields[f"meal{row}-share"] = forms.IntegerField(
                required=False,
                min_value=1,
                max_value=100,
                label=f"Meal {row + 1}, share of the day (%)",
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
                raise forms.ValidationError(
                    "Enter at least one target: a minimum, a maximum or both."
                )
            meals = self.meals()
            for name, shares in (
                ("energy", [energy for _, _, energy, _ in meals]),
                ("protein", [protein for _, _, _, protein in meals]),
            ):
                total = sum(shares)
                if total != 100:
                    raise forms.ValidationError(
                        f"The meals' shares of {name} add up to {total} %; they must come to 100 %."
                    )
            self._clean_clinicians(cleaned)
            changed = overridden(self.windows(), self.plan)
            if changed and not cleaned.get("reason"):
                names = ", ".join(nutrient(key).name_in_text for key in changed)
                self.add_error(
                    "reason", f"Give a reason: {names} differ from the calculated target."
                )
        return cleaned

    def _clean_clinicians(self, cleaned: dict[str, object]) -> None:
        """What a clinician must set is no must before one is named and dated; nor is energy lowered
        where loss is held back.
        """
        if self.plan is None or (cleaned.get("clinician") and cleaned.get("clinician_on")):
            return
        typed = {window.key: window for window in self.windows()}
        for asked in self.plan.asked:
            if asked.key in typed and typed[asked.key].importance == "must":
                self.add_error(
                    f"{asked.key}-importance",
                    "A clinician sets this. Enter who and when below, or keep it at "
                    "“recommended” until then.",
                )
        energy, computed = typed.get("energy_kcal"), self.plan.target("energy_kcal")
        if energy is None or computed is None or not hold_reasons(self.plan.person):
            return
        least = computed.window.low or 0.0
        if any(side is not None and side < least - 1 for side in (energy.low, energy.high)):
            self.add_error(
                "energy_kcal-low",
                f"Under {nutrient('energy_kcal').text(least)} is a deficit, which is held back "
                "for this client: "
                "say which clinician set it, and when.",
            )

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

    def meals(self) -> list[MealRow]:
        """The meals that were typed: name, kind, per cent of energy and of protein (the same where
        left empty).
        """
        found = []
        for i in range(MEAL_ROWS):
            name, kind, share, protein = (
                self.cleaned_data.get(f"meal{i}-{x}") for x in ("name", "kind", "share", "protein")
            )
            if name and share:
                found.append((name, kind or "", share, share if protein is None else protein))
        return found

    def window_rows(self) -> list[WindowRow]:
        """The window fields, a row a nutrient, for the template."""
        targets = {t.window.key: t for t in self.plan.targets} if self.plan else {}
        asked = {a.key: a.why for a in self.plan.asked} if self.plan else {}
        rows = []
        for k in TYPED_KEYS:
            target = targets.get(k)
            computed, how, source = (
                (target.window.text(), target.how, target.source) if target else ("", "", "")
            )
            fields = (self[f"{k}-low"], self[f"{k}-high"], self[f"{k}-importance"])
            rows.append(
                WindowRow(
                    nutrient(k).name,
                    nutrient(k).unit,
                    *fields,
                    computed,
                    how,
                    source,
                    asked.get(k, ""),
                )
            )
        return rows

    def meal_rows(self) -> list[list[forms.BoundField]]:
        """The meal fields, a row a meal, for the template."""
        return [
            [self[f"meal{i}-{x}"] for x in ("name", "kind", "share", "protein")]
            for i in range(MEAL_ROWS)
        ]


def _initial(present: TargetSet | None, plan: Proposal | None) -> dict[str, object]:
    """The present version, or what is computed, or the usual three meals."""
    initial: dict[str, object] = {f"{key}-importance": "should" for key in TYPED_KEYS}
    windows: list[Window] = [t.window for t in plan.targets] if plan else []
    meals: list[MealRow] = [(name, "", share, share) for name, share in DEFAULT_MEALS]
    if plan:
        meals = [(m.name, m.kind, m.energy, m.protein) for m in plan.meals]
    if present:
        windows = [Window(w.key, w.low, w.high, w.importance) for w in present.windows.all()]
        meals = [
            (m.name, m.kind, m.share_percent, m.protein_percent or m.share_percent)
            for m in present.meals.all()
        ]
        initial |= {
            "reason": present.reason,
            "clinician": present.clinician,
            "clinician_on": present.clinician_on,
        }
    for row, meal in enumerate(meals[:MEAL_ROWS]):
        initial |= {
            f"meal{row}-{x}": value
            for x, value in zip(("name", "kind", "share", "protein"), meal, strict=True)
        }
    for window in windows:
        if window.key in ("potassium_mg", "phosphorus_mg") and window.importance == "watch":
            continue
        initial |= {
            f"{window.key}-low": _shown(window.key, window.low),
            f"{window.key}-high": _shown(window.key, window.high),
            f"{window.key}-importance": window.importance,
        }
    return initial


def _shown(key: str, value: float | None) -> str:
    return "" if value is None else f"{round(value * nutrient(key).factor, 3):g}"
