"""Batches and their lines. A line keeps what was written and the reading it was given at that time."""

from django.conf import settings
from django.db import models


class Batch(models.Model):
    """A cooked dish of a practitioner, as written and as measured."""

    practitioner = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="batches")
    title = models.CharField(max_length=120)
    yield_g = models.FloatField(null=True, blank=True)
    servings = models.FloatField(default=1)
    remarks = models.JSONField(default=list, blank=True)
    steps = models.TextField(blank=True)
    written = models.TextField(blank=True)
    created_at = models.DateTimeField(auto_now_add=True)
    changed_at = models.DateTimeField(auto_now=True)

    class Meta:
        ordering = ("title", "pk")

    def __str__(self) -> str:
        return self.title


class BatchLine(models.Model):
    """One reading of one written line. `grams` is empty where it was not understood; `reason` then says why."""

    batch = models.ForeignKey(Batch, on_delete=models.CASCADE, related_name="lines")
    position = models.PositiveIntegerField()
    text = models.CharField(max_length=320)
    food_key = models.CharField(max_length=60, blank=True)
    grams = models.FloatField(null=True, blank=True)
    grams_low = models.FloatField(null=True, blank=True)
    grams_high = models.FloatField(null=True, blank=True)
    how = models.TextField(blank=True)
    confidence = models.CharField(max_length=8, blank=True)
    reason = models.TextField(blank=True)
    remarks = models.JSONField(default=list, blank=True)
    alternatives = models.JSONField(default=list, blank=True)
    heading = models.BooleanField(default=False)

    class Meta:
        ordering = ("position", "pk")
