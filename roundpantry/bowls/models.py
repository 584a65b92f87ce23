"""Bowls of a client, their parts, and the steps back."""

from django.db import models

from roundpantry.batches.models import Batch
from roundpantry.clients.models import Client
from roundpantry.targets.models import Meal


class Bowl(models.Model):
    """A bowl planned for one meal of a client; the meal belongs to the targets it was planned under."""

    client = models.ForeignKey(Client, on_delete=models.CASCADE, related_name="bowls")
    meal = models.ForeignKey(Meal, on_delete=models.SET_NULL, null=True, blank=True, related_name="bowls")
    name = models.CharField(max_length=80)
    note = models.TextField(blank=True)
    created_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        ordering = ("name", "pk")

    def __str__(self) -> str:
        return self.name


class BowlPart(models.Model):
    """One part: a food of the shelf or a portion of a batch, as typed and as weighed."""

    bowl = models.ForeignKey(Bowl, on_delete=models.CASCADE, related_name="parts")
    position = models.PositiveIntegerField()
    food_key = models.CharField(max_length=60, blank=True)
    batch = models.ForeignKey(Batch, on_delete=models.RESTRICT, null=True, blank=True, related_name="bowl_parts")
    amount = models.FloatField()
    unit = models.CharField(max_length=40)
    amount_text = models.CharField(max_length=60)
    grams = models.FloatField()
    grams_low = models.FloatField()
    grams_high = models.FloatField()
    how = models.CharField(max_length=300)

    class Meta:
        ordering = ("position", "pk")


class BowlChange(models.Model):
    """The parts as they were before a change, so that it can be taken back."""

    bowl = models.ForeignKey(Bowl, on_delete=models.CASCADE, related_name="changes")
    what = models.CharField(max_length=160)
    parts = models.JSONField()

    class Meta:
        ordering = ("-pk",)
