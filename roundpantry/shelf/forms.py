"""Forms of the shelf: a label in the order in which it stands on a package, units, and an
upload.
"""

from __future__ import annotations

from typing import Any
from zoneinfo import available_timezones

from django import forms

from dietetics.labels.columns import SODIUM_MG_PER_SALT_G
from dietetics.labels.facts import PER_100G, PER_SERVING, LabelFacts
from dietetics.nutrients import KJ_PER_KCAL, nutrient
from roundpantry.counter.forms import NumberField
from roundpantry.shelf.food_rows import GROUP_NAMES
from roundpantry.shelf.models import zone_of_the_practice

# In the order of a package: name of our key, label.
PRINTED_ORDER = (
    "energy_kcal", "fat_g", "saturated_fat_g", "sodium_mg", "carbohydrate_g", "fibre_g", "sugars_g",
    "protein_g",
    "calcium_mg", "iron_mg", "potassium_mg", "vitamin_d_ug", "vitamin_b12_ug", "iodine_ug",
    "phosphorus_mg",
    "magnesium_mg", "zinc_mg",
)  # fmt: skip


# The machine's first, for whoever has not chosen; then UTC, and places where people live.
TIME_ZONES = list(
    dict.fromkeys(
        [
            zone_of_the_practice(),
            "UTC",
            *sorted(name for name in available_timezones() if "/" in name and name[:4] != "Etc/"),
        ]
    )
)


class PasteLabelForm(forms.Form):
    """A label as text."""

    text = forms.CharField(
        required=False,
        label="Paste the label",
        widget=forms.Textarea(attrs={"rows": 4, "spellcheck": "false"}),
    )


class LabelForm(forms.Form):
    """A label typed field by field. An empty field is unknown, never zero."""

    name = forms.CharField(max_length=80)
    group = forms.ChoiceField(choices=list(GROUP_NAMES.items()), initial="processed")
    serving_text = forms.CharField(
        required=False, max_length=40, label="Serving, as printed (2 tbsp, 1 slice)"
    )
    serving_g = NumberField(required=False, label="Serving (g)")
    servings_per_package = NumberField(required=False, label="Servings per package")
    net_g = NumberField(required=False, label="Net weight (g)")
    basis = forms.ChoiceField(
        choices=[(PER_SERVING, "a serving"), (PER_100G, "100 g")], label="Figures are for"
    )
    energy_kj = NumberField(required=False, label="or energy (kJ)")
    salt_g = NumberField(required=False, label="or salt (g)")
    ingredients = forms.CharField(
        required=False,
        max_length=5000,
        label="Ingredient list",
        widget=forms.Textarea(attrs={"rows": 3}),
    )

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        for key in PRINTED_ORDER:
            one = nutrient(key)
            self.fields[key] = NumberField(required=False, label=f"{one.name} ({one.base_unit})")

    def facts(self) -> LabelFacts:
        """The typed label as facts; kJ become kcal and salt becomes sodium where those are
        empty.
        """
        given = self.cleaned_data
        values = {key: given[key] for key in PRINTED_ORDER if given.get(key) is not None}
        if "energy_kcal" not in values and given.get("energy_kj") is not None:
            values["energy_kcal"] = given["energy_kj"] / KJ_PER_KCAL
        if "sodium_mg" not in values and given.get("salt_g") is not None:
            values["sodium_mg"] = given["salt_g"] * SODIUM_MG_PER_SALT_G
        plain = (
            "name",
            "basis",
            "serving_g",
            "serving_text",
            "servings_per_package",
            "net_g",
            "ingredients",
            "group",
        )
        return LabelFacts(values=values, **{key: given[key] for key in plain})

    def value_fields(self) -> list[forms.BoundField]:
        """The figures' fields in printed order, with kJ beside kcal and salt beside sodium."""
        fields = []
        for key in PRINTED_ORDER:
            fields.append(self[key])
            beside = {"energy_kcal": "energy_kj", "sodium_mg": "salt_g"}.get(key)
            if beside:
                fields.append(self[beside])
        return fields


def initial_of(facts: LabelFacts) -> dict[str, Any]:
    """The form's fields for facts that were read or stored."""
    plain = (
        "name",
        "basis",
        "serving_g",
        "serving_text",
        "servings_per_package",
        "net_g",
        "ingredients",
        "group",
    )
    shown = {key: _as_typed(getattr(facts, key)) for key in plain}
    return {**shown, **{key: _as_typed(round(value, 3)) for key, value in facts.values.items()}}


def _as_typed(value: Any) -> Any:
    """A number without a needless ".0"; anything else as it is."""
    return f"{value:g}" if isinstance(value, float) and abs(value) < 1e6 else value


class PreferencesForm(forms.Form):
    """Units, and how clients reach the practice."""

    practice = forms.CharField(required=False, max_length=80, label="Name of the practice")
    reach = forms.CharField(
        required=False,
        max_length=160,
        label="How clients reach you",
        help_text="Stands in booklets and on links, beside whom to ask: telephone, mail, hours.",
    )
    energy = forms.ChoiceField(choices=[("kcal", "kcal"), ("kj", "kJ")], label="Energy")
    density = forms.ChoiceField(
        choices=[("g", "per gram"), ("lb", "per pound")], label="Energy density"
    )
    cup = forms.ChoiceField(
        choices=[("us", "US cup, 237 mL"), ("metric", "metric cup, 250 mL")], label="Cup and spoons"
    )
    portions = forms.ChoiceField(
        choices=[("household", "cups, spoons and pieces"), ("metric", "grams")],
        label="First portions in a bowl",
    )
    salt = forms.ChoiceField(
        choices=[("plain", "plain table salt, no iodine"), ("iodised", "iodised salt")],
        label="“Salt” in a recipe means",
    )
    little_salt = forms.ChoiceField(
        required=False,
        choices=[
            ("unknown", "not known: the least that is usual counts, the range is shown"),
            ("eighth", "⅛ teaspoon"),
            ("quarter", "¼ teaspoon"),
            ("half", "½ teaspoon"),
        ],
        label="“A little salt”, or salt without an amount, is",
        help_text="For recipes that are read from now on.",
    )
    dates = forms.ChoiceField(
        required=False,
        choices=[("dmy", "23 Nov 2026"), ("mdy", "Nov 23, 2026"), ("ymd", "2026-11-23")],
        label="Dates",
    )
    time_zone = forms.ChoiceField(
        required=False,
        choices=[(name, name.replace("_", " ")) for name in TIME_ZONES],
        label="Time zone",
        help_text="A day begins at midnight there, and a client's link ends at it.",
    )
    numbers = forms.ChoiceField(
        required=False,
        choices=[("point", "1,234.5"), ("comma", "1 234,5")],
        label="Numbers",
        help_text=(
            "On screens and prints. Fields show a point and read both; downloads keep a point."
        ),
    )
    week_starts = forms.TypedChoiceField(
        required=False,
        choices=[(0, "Monday"), (5, "Saturday"), (6, "Sunday")],
        coerce=int,
        label="Weeks start on",
        help_text="For new weeks. Weeks that exist keep their days.",
    )


class UploadForm(forms.Form):
    """A file of own foods."""

    file = forms.FileField(label="CSV or XLSX file, 2 MB at most")
