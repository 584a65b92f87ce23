"""Targets in versions: a change makes a new set, and what was planned keeps the set it was planned
under.
"""

from django.db import models

from roundpantry.clients.models import Client
from roundpantry.counter.moments import MomentField


class TargetSet(models.Model):
    """One version of a client's targets."""

    client = models.ForeignKey(Client, on_delete=models.CASCADE, related_name="target_sets")
    number = models.PositiveIntegerField()
    created_at = MomentField(auto_now_add=True)
    reason = models.TextField(blank=True)
    clinician = models.CharField(max_length=80, blank=True)
    clinician_on = models.DateField(null=True, blank=True)
    asked = models.JSONField(default=list, blank=True)

    class Meta:
        ordering = ("-number",)
        constraints = [
            models.UniqueConstraint(fields=["client", "number"], name="one_number_a_client")
        ]


class TargetWindow(models.Model):
    """One daily window of a set. One side may be open."""

    target_set = models.ForeignKey(TargetSet, on_delete=models.CASCADE, related_name="windows")
    key = models.CharField(max_length=24)
    low = models.FloatField(null=True, blank=True)
    high = models.FloatField(null=True, blank=True)
    importance = models.CharField(max_length=6, default="should")
    how = models.TextField(blank=True)
    source = models.CharField(max_length=200, blank=True)
    overridden = models.BooleanField(default=False)
    needs_clinician = models.BooleanField(default=False)

    class Meta:
        ordering = ("pk",)


class Meal(models.Model):
    """A meal of the client's day and the share of the day that falls on it, in per cent."""

    target_set = models.ForeignKey(TargetSet, on_delete=models.CASCADE, related_name="meals")
    name = models.CharField(max_length=40)
    kind = models.CharField(max_length=60, blank=True)
    share_percent = models.PositiveSmallIntegerField()
    protein_percent = models.PositiveSmallIntegerField(null=True, blank=True)

    class Meta:
        ordering = ("pk",)

    def __str__(self) -> str:
        return f"{self.name} ({self.share_percent} %)"
