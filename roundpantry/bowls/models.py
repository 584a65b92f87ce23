"""Bowls of a client, their parts, the steps back, patterns, and the scale."""

from django.conf import settings
from django.db import models

from roundpantry.batches.models import Batch
from roundpantry.clients.models import Client
from roundpantry.counter.moments import MomentField
from roundpantry.targets.models import Meal


class Bowl(models.Model):
    """A bowl planned for one meal of a client; the meal belongs to the targets it was planned
    under.

    `parent` is the bowl it is a variant of, `eater` who else at the table it is for. `moved` holds
    window sides moved for this bowl alone as [key, end, value]; `beside` the bowls of the day's
    other meals, whose rest it is judged by.
    """

    read_with = ("client__practitioner__preferences",)  # what every change of a bowl looks at

    client = models.ForeignKey(Client, on_delete=models.CASCADE, related_name="bowls")
    meal = models.ForeignKey(
        Meal, on_delete=models.SET_NULL, null=True, blank=True, related_name="bowls"
    )
    name = models.CharField(max_length=80)
    note = models.TextField(blank=True)
    parent = models.ForeignKey(
        "self", on_delete=models.SET_NULL, null=True, blank=True, related_name="variants"
    )
    eater = models.CharField(max_length=60, blank=True)
    moved = models.JSONField(default=list, blank=True)
    beside = models.JSONField(default=list, blank=True)
    created_at = MomentField(auto_now_add=True)

    class Meta:
        ordering = ("name", "pk")

    def __str__(self) -> str:
        return self.name


class BowlPart(models.Model):
    """One part: a food of the shelf or a portion of a batch, as typed and as weighed.

    `chosen` is the portion chosen by hand where a balance has changed it, `least` and `most` limits
    set by hand, all in `unit`. `served_g` is what the scale showed when it was served.
    """

    read_with = ("batch",)

    bowl = models.ForeignKey(Bowl, on_delete=models.CASCADE, related_name="parts")
    position = models.PositiveIntegerField()
    food_key = models.CharField(max_length=60, blank=True)
    batch = models.ForeignKey(
        Batch, on_delete=models.RESTRICT, null=True, blank=True, related_name="bowl_parts"
    )
    amount = models.FloatField()
    unit = models.CharField(max_length=40)
    amount_text = models.CharField(max_length=60)
    grams = models.FloatField()
    grams_low = models.FloatField()
    grams_high = models.FloatField()
    how = models.CharField(max_length=300)
    locked = models.BooleanField(default=False)
    chosen = models.FloatField(null=True, blank=True)
    least = models.FloatField(null=True, blank=True)
    most = models.FloatField(null=True, blank=True)
    served_g = models.FloatField(null=True, blank=True)

    class Meta:
        ordering = ("position", "pk")


class BowlChange(models.Model):
    """The parts as they were before a change, so that it can be taken back."""

    bowl = models.ForeignKey(Bowl, on_delete=models.CASCADE, related_name="changes")
    what = models.CharField(max_length=160)
    parts = models.JSONField()
    moved = models.JSONField(default=list)

    class Meta:
        ordering = ("-pk",)


class Pattern(models.Model):
    """A bowl kept as roles with options, for other clients. `meal_kind` is "breakfast", "main",
    "snack" or "" for any meal; `purpose` is what it is made for
    (`dietetics.targets.purposes`), "" where it is for everybody.
    """

    practitioner = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="patterns"
    )
    name = models.CharField(max_length=80)
    roles = models.JSONField()
    meal_kind = models.CharField(max_length=12, blank=True)
    purpose = models.CharField(max_length=24, blank=True)
    starter = models.BooleanField(default=False)
    created_at = MomentField(auto_now_add=True)

    class Meta:
        ordering = ("name", "pk")

    def __str__(self) -> str:
        return self.name


class ScalePan(models.Model):
    """The simulated scale of a practitioner: what lies on its pan, since when, and the tare."""

    practitioner = models.OneToOneField(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="scale_pan"
    )
    load_g = models.FloatField(default=0)
    before_g = models.FloatField(default=0)
    changed_s = models.FloatField(default=0)
    tare_g = models.FloatField(default=0)
    started_s = models.FloatField(default=0)
