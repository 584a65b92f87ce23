"""Diary entries, visits, and proposals that were taken. Measurements stand with the client."""

from django.db import models

from dietetics.follow.eaten import EXTRA, HOWS
from roundpantry.clients.models import Client, Measurement
from roundpantry.counter.moments import MomentField
from roundpantry.targets.models import TargetSet


class DiaryEntry(models.Model):
    """How a meal of a day differed from the plan, or what was eaten beside it (`how` is "extra").
    `text` says what was eaten instead, or how much of it.
    """

    client = models.ForeignKey(Client, on_delete=models.CASCADE, related_name="diary")
    day = models.DateField()
    meal = models.CharField(max_length=40)
    how = models.CharField(max_length=10, choices=[(one, one) for one in (*HOWS, EXTRA)])
    text = models.CharField(max_length=400, blank=True)
    reported_by = models.CharField(
        max_length=12, choices=Measurement.REPORTERS, default=Measurement.PRACTITIONER
    )
    at = MomentField(auto_now=True)

    class Meta:
        ordering = ("day", "pk")
        constraints = [
            models.UniqueConstraint(fields=["client", "day", "meal"], name="one_entry_a_meal")
        ]


class Remark(models.Model):
    """Words about a client on a day that belong to no value: how they are, what happened."""

    client = models.ForeignKey(Client, on_delete=models.CASCADE, related_name="remarks")
    day = models.DateField()
    text = models.CharField(max_length=1000)
    made_at = MomentField(auto_now_add=True)

    class Meta:
        ordering = ("-day", "-pk")


class Visit(models.Model):
    """A talk with a client: what was said and agreed, the figures of the day in `note`, and when
    the next one is.
    """

    client = models.ForeignKey(Client, on_delete=models.CASCADE, related_name="visits")
    day = models.DateField()
    minutes = models.PositiveSmallIntegerField("time spent (minutes)", null=True, blank=True)
    talked = models.TextField("what was talked about", blank=True)
    agreed = models.TextField("what was agreed", blank=True)
    note = models.TextField("note", blank=True)
    next_on = models.DateField("next visit", null=True, blank=True)
    changed_at = MomentField(auto_now=True)

    class Meta:
        ordering = ("-day", "-pk")


class TakenProposal(models.Model):
    """A proposal that was taken: why, and the targets before and after, so that it can be taken
    back. `facts` are facts of the client as they were before.
    """

    client = models.ForeignKey(Client, on_delete=models.CASCADE, related_name="taken_proposals")
    code = models.CharField(max_length=40)
    title = models.CharField(max_length=200)
    why = models.TextField()
    before = models.ForeignKey(
        TargetSet, null=True, on_delete=models.SET_NULL, related_name="changed_by"
    )
    after = models.ForeignKey(
        TargetSet, null=True, on_delete=models.SET_NULL, related_name="made_by"
    )
    facts = models.JSONField(default=dict, blank=True)
    by = models.CharField(max_length=80)
    at = MomentField(auto_now_add=True)
    taken_back_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering = ("-pk",)
