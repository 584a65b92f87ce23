"""Batches and their lines. A line keeps what was written and the reading it was given at that
time.
"""

from django.conf import settings
from django.db import models

from roundpantry.counter.moments import MomentField


class Batch(models.Model):
    """A cooked dish of a practitioner, as written and as measured.

    `method` is how the pot is cooked, `retention` whether what heat and water take is counted,
    `water_g` water put in or (negative) boiled away afterwards. `servings` is empty where nobody
    said how many. `keeps_days` are the days the practitioner says it keeps; empty, it keeps as
    long as what it is. A fitted version knows its `parent`, why it was changed, and the client it
    is for.
    """

    practitioner = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="batches"
    )
    title = models.CharField(max_length=120)
    yield_g = models.FloatField(null=True, blank=True)
    servings = models.FloatField(null=True, blank=True)
    remarks = models.JSONField(default=list, blank=True)
    steps = models.TextField(blank=True)
    written = models.TextField(blank=True)
    asides = models.JSONField(default=list, blank=True)
    method = models.CharField(max_length=8, default="pot")
    retention = models.BooleanField(default=False)
    water_g = models.FloatField(default=0)
    yield_how = models.CharField(max_length=160, blank=True)
    vessel = models.CharField(max_length=40, blank=True)
    vessel_g = models.FloatField(null=True, blank=True)
    keeps_days = models.PositiveSmallIntegerField(null=True, blank=True)
    parent = models.ForeignKey(
        "self", on_delete=models.SET_NULL, null=True, blank=True, related_name="variants"
    )
    why_changed = models.TextField(blank=True)
    fitted_for = models.ForeignKey(
        "clients.Client", on_delete=models.SET_NULL, null=True, blank=True, related_name="fitted"
    )
    starter = models.BooleanField(default=False)
    created_at = MomentField(auto_now_add=True)
    changed_at = MomentField(auto_now=True)

    class Meta:
        ordering = ("title", "pk")

    def __str__(self) -> str:
        return self.title


class BatchLine(models.Model):
    """One reading of one written line. `grams` is empty where it was not understood; `reason` then
    says why.

    `dish` is set where the line names another batch of the practitioner. `words` holds what was
    heard and changed nothing; `choices` the nearest foods where nothing was read.
    """

    batch = models.ForeignKey(Batch, on_delete=models.CASCADE, related_name="lines")
    position = models.PositiveIntegerField()
    text = models.CharField(max_length=320)
    food_key = models.CharField(max_length=60, blank=True)
    dish = models.ForeignKey(
        Batch, on_delete=models.RESTRICT, null=True, blank=True, related_name="used_in"
    )
    grams = models.FloatField(null=True, blank=True)
    grams_low = models.FloatField(null=True, blank=True)
    grams_high = models.FloatField(null=True, blank=True)
    how = models.TextField(blank=True)
    confidence = models.CharField(max_length=8, blank=True)
    reason = models.TextField(blank=True)
    remarks = models.JSONField(default=list, blank=True)
    alternatives = models.JSONField(default=list, blank=True)
    choices = models.JSONField(default=list, blank=True)
    neutral = models.JSONField(default=list, blank=True)
    heading = models.BooleanField(default=False)
    method = models.CharField(max_length=8, blank=True)
    instead_of = models.CharField(max_length=320, blank=True)

    class Meta:
        ordering = ("position", "pk")


class Cooking(models.Model):
    """One cooking of a batch: when, what came out, and how it was."""

    batch = models.ForeignKey(Batch, on_delete=models.CASCADE, related_name="cookings")
    day = models.DateField()
    yield_g = models.FloatField()
    went_in_g = models.FloatField()
    taste = models.PositiveSmallIntegerField(null=True, blank=True)
    notes = models.TextField(blank=True)

    class Meta:
        ordering = ("-day", "-pk")


class Share(models.Model):
    """Who gets how much of a batch, how many times."""

    batch = models.ForeignKey(Batch, on_delete=models.CASCADE, related_name="shares")
    who = models.CharField(max_length=60)
    grams = models.FloatField()
    amount_text = models.CharField(max_length=60)
    times = models.PositiveSmallIntegerField(default=1)

    class Meta:
        ordering = ("pk",)
