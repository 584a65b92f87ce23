"""A client's kitchen, what cooks said of the tasks of a dish, and a week's cooking evenings."""

from __future__ import annotations

from datetime import time

from django.db import models

from dietetics.prep.heating import BURNER_KW
from roundpantry.batches.models import Batch
from roundpantry.clients.models import Client
from roundpantry.weeks.models import Week

USUAL_START = time(17, 30)


class ClientKitchen(models.Model):
    """What a client cooks with; until it is set, the words of their record are read."""

    client = models.OneToOneField(Client, on_delete=models.CASCADE, related_name="kitchen_set")
    cooks = models.PositiveSmallIntegerField(default=1)
    ovens = models.PositiveSmallIntegerField(default=1)
    trays = models.PositiveSmallIntegerField(default=2)
    burners = models.PositiveSmallIntegerField(default=4)
    blenders = models.PositiveSmallIntegerField(default=1)
    pressure_cookers = models.PositiveSmallIntegerField(default=0)
    big_pots = models.PositiveSmallIntegerField(default=1)
    burner_kw = models.FloatField(default=BURNER_KW)


class TaskCorrection(models.Model):
    """What a cook said of a task of a dish: minutes of hands, minutes alone, °C; each empty where
    the reading stands. It holds while the task reads the same.
    """

    batch = models.ForeignKey(Batch, on_delete=models.CASCADE, related_name="task_corrections")
    task_key = models.CharField(max_length=80)
    text = models.CharField(max_length=700)
    hands = models.FloatField(null=True, blank=True)
    wait = models.FloatField(null=True, blank=True)
    celsius = models.FloatField(null=True, blank=True)

    class Meta:
        ordering = ("task_key",)
        constraints = [
            models.UniqueConstraint(fields=["batch", "task_key"], name="one_correction_a_task")
        ]


class CookingEvening(models.Model):
    """An evening of a week on which batches are cooked. `day` is 0 for the week's first, -1 for the
    evening before it; `run` is the run under way as plain data, with its revision; `pace` is how
    many times as long as usual the hands took, when all was done.
    """

    week = models.ForeignKey(Week, on_delete=models.CASCADE, related_name="evenings")
    day = models.SmallIntegerField()
    start_at = models.TimeField(default=USUAL_START)
    run = models.JSONField(null=True, blank=True)
    began_at = models.DateTimeField(null=True, blank=True)
    revision = models.PositiveIntegerField(default=0)
    said = models.CharField(max_length=200, blank=True)
    pace = models.FloatField(null=True, blank=True)

    class Meta:
        ordering = ("day",)
        constraints = [models.UniqueConstraint(fields=["week", "day"], name="one_evening_a_day")]
