"""Weeks of a client in versions, the steps back, what the client likes, and searches under way."""

from django.db import models

from roundpantry.clients.models import Client
from roundpantry.counter.dates import day_text
from roundpantry.counter.moments import MomentField


class Week(models.Model):
    """Seven days of a client from `start`. `plan` is the value of the core as plain data;
    `revision` grows with every change.

    A week that was handed over is frozen: it keeps its figures in `kept`, and a later edit makes
    the next `version`.
    """

    client = models.ForeignKey(Client, on_delete=models.CASCADE, related_name="weeks")
    start = models.DateField()
    version = models.PositiveSmallIntegerField(default=1)
    plan = models.JSONField()
    rules = models.JSONField(default=dict, blank=True)
    revision = models.PositiveIntegerField(default=1)
    note = models.TextField(blank=True)
    frozen_at = models.DateTimeField(null=True, blank=True)
    kept = models.JSONField(default=dict, blank=True)
    created_at = MomentField(auto_now_add=True)
    changed_at = MomentField(auto_now=True)

    class Meta:
        ordering = ("-start", "-version")
        constraints = [
            models.UniqueConstraint(
                fields=["client", "start", "version"], name="one_version_a_week"
            )
        ]

    @property
    def was_changed(self) -> bool:
        """There is a change to undo; `records.weeks_of` looks for one."""
        return bool(getattr(self, "has_change", False))

    def __str__(self) -> str:
        return f"Week of {day_text(self.start)}" + (
            f", version {self.version}" if self.version > 1 else ""
        )


class WeekChange(models.Model):
    """The plan as it was before a change, so that it can be taken back."""

    week = models.ForeignKey(Week, on_delete=models.CASCADE, related_name="changes")
    what = models.CharField(max_length=160)
    plan = models.JSONField()
    rules = models.JSONField(default=dict, blank=True)

    class Meta:
        ordering = ("-pk",)


class DishChoice(models.Model):
    """How a client takes a dish ("bowl-12", "batch-5"): how it is liked, how often and how close it
    may come, for which meals.
    """

    client = models.ForeignKey(Client, on_delete=models.CASCADE, related_name="dish_choices")
    dish = models.CharField(max_length=60)
    liking = models.PositiveSmallIntegerField(default=1)
    most_uses = models.PositiveSmallIntegerField(null=True, blank=True)
    apart = models.PositiveSmallIntegerField(default=1)
    travels = models.BooleanField(null=True, blank=True)
    meals = models.JSONField(default=list, blank=True)
    left_out = models.BooleanField(default=False)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["client", "dish"], name="one_choice_a_dish")]


class Search(models.Model):
    """A search under way or over, and whether to stop: for a better plan with how good that is
    proven to be, or for the changes of what is asked that would better the week (`ways`).
    """

    PLAN, WAYS = "plan", "ways"

    WAITING, RUNNING, DONE, STOPPED, FAILED = "waiting", "running", "done", "stopped", "failed"

    week = models.ForeignKey(Week, on_delete=models.CASCADE, related_name="searches")
    revision = models.PositiveIntegerField()
    looks_for = models.CharField(max_length=4, default=PLAN)
    seconds = models.FloatField(default=20)
    state = models.CharField(max_length=8, default=RUNNING)
    doing = models.CharField(max_length=120, blank=True)
    points = models.FloatField(null=True, blank=True)
    first_points = models.FloatField(null=True, blank=True)
    bound = models.FloatField(null=True, blank=True)
    plan = models.JSONField(null=True, blank=True)
    ways = models.JSONField(default=list, blank=True)
    stop = models.BooleanField(default=False)
    started_at = MomentField(auto_now_add=True)
    beat_at = MomentField(auto_now=True)

    class Meta:
        ordering = ("-pk",)
