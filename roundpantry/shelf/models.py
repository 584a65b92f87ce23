"""What a practitioner keeps on the shelf: labels in versions, habits, corrections, and units."""

from django.conf import settings
from django.db import models

from roundpantry.counter.moments import MomentField


class Label(models.Model):
    """A package label of a practitioner. Drafts contradict themselves and cannot be used yet."""

    practitioner = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="labels"
    )
    retired = models.BooleanField(default=False)
    changed_at = MomentField(auto_now=True)

    class Meta:
        ordering = ("pk",)


class LabelVersion(models.Model):
    """One version of a label: facts as typed. What was made with it keeps it."""

    label = models.ForeignKey(Label, on_delete=models.CASCADE, related_name="versions")
    number = models.PositiveIntegerField()
    name = models.CharField(max_length=80)
    facts = models.JSONField()
    draft = models.BooleanField(default=False)
    created_at = MomentField(auto_now_add=True)

    class Meta:
        ordering = ("-number",)
        constraints = [
            models.UniqueConstraint(fields=["label", "number"], name="one_number_a_label")
        ]


class FoodUse(models.Model):
    """How often a practitioner took a food, so that it stands higher when they search."""

    practitioner = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="food_uses"
    )
    food_key = models.CharField(max_length=60)
    times = models.PositiveIntegerField(default=0)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["practitioner", "food_key"], name="one_count_a_food")
        ]


class Correction(models.Model):
    """What a practitioner means by a phrase: a food, and grams of one of their measure."""

    practitioner = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="corrections"
    )
    phrase = models.CharField(max_length=120)
    food_key = models.CharField(max_length=60)
    unit = models.CharField(max_length=20, blank=True)
    grams_per_unit = models.FloatField(null=True, blank=True)

    class Meta:
        ordering = ("phrase",)
        constraints = [
            models.UniqueConstraint(
                fields=["practitioner", "phrase", "unit"], name="one_meaning_a_phrase"
            )
        ]


def zone_of_the_practice() -> str:
    """The time zone of the machine that the program runs on, unless PANTRY_ZONE says another."""
    return settings.TIME_ZONE


class Preferences(models.Model):
    """A practitioner's units, and how their clients reach them. Figures are kept in kcal, g and US
    cups whatever is shown.
    """

    practitioner = models.OneToOneField(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="preferences"
    )
    energy = models.CharField(
        max_length=4, choices=[("kcal", "kcal"), ("kj", "kJ")], default="kcal"
    )
    density = models.CharField(
        max_length=2, choices=[("g", "per gram"), ("lb", "per pound")], default="g"
    )
    cup = models.CharField(
        max_length=6,
        choices=[("us", "US cup, 237 mL"), ("metric", "metric cup, 250 mL")],
        default="us",
    )
    portions = models.CharField(
        max_length=9,
        choices=[("household", "cups, spoons and pieces"), ("metric", "grams")],
        default="household",
    )
    salt = models.CharField(
        max_length=8,
        choices=[("plain", "plain table salt"), ("iodised", "iodised salt")],
        default="plain",
    )
    little_salt = models.CharField(
        max_length=8,
        choices=[
            ("unknown", "not known"),
            ("eighth", "⅛ tsp"),
            ("quarter", "¼ tsp"),
            ("half", "½ tsp"),
        ],
        default="unknown",
    )
    dates = models.CharField(max_length=3, default="dmy")
    time_zone = models.CharField(max_length=40, default=zone_of_the_practice)
    numbers = models.CharField(max_length=5, default="point")
    week_starts = models.PositiveSmallIntegerField(default=0)
    practice = models.CharField(max_length=80, blank=True)
    reach = models.CharField(max_length=160, blank=True)


class ImportDraft(models.Model):
    """Rows of an uploaded file, waiting to be confirmed; nothing else is stored before."""

    practitioner = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="import_drafts"
    )
    file_name = models.CharField(max_length=120)
    rows = models.JSONField()
    created_at = MomentField(auto_now_add=True)
