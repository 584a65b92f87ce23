"""Booklets as they were made, links that show one, and what clients answered on them."""

from __future__ import annotations

from django.db import models

from dietetics.handover.booklet import DATES, ENERGY_UNITS, FIGURES, PORTIONS
from roundpantry.clients.models import Client
from roundpantry.counter.moments import MomentField
from roundpantry.weeks.models import Week


class BookletWishes(models.Model):
    """How a client wants their booklet written; the next one is written the same way.
    `chosen_knowing` says that figures were chosen when the page told that numbers can do harm.
    """

    client = models.OneToOneField(Client, on_delete=models.CASCADE, related_name="booklet_wishes")
    figures = models.CharField(max_length=4, choices=[*FIGURES.items()], default="main")
    portions = models.CharField(max_length=9, choices=[*PORTIONS.items()], default="household")
    energy = models.CharField(max_length=4, choices=[*ENERGY_UNITS.items()], default="kcal")
    dates = models.CharField(max_length=3, choices=[*DATES.items()], default="dmy")
    chosen_knowing = models.BooleanField(default=False)


class StoredBooklet(models.Model):
    """The booklet of a week that was handed over, as it was made: later changes of dishes do not
    reach it.
    """

    went_out = ("a booklet, printed or saved wherever it was opened", "made_at")

    week = models.OneToOneField(Week, on_delete=models.CASCADE, related_name="booklet")
    content = models.JSONField()
    made_at = MomentField(auto_now=True)


class ShareLink(models.Model):
    """A link that shows one booklet without a login until a day. `nonce` is a part of its address;
    without it the link opens nothing. `allows` says what the client may answer. A link that may
    have been withdrawn after the copy that was put back is closed by the restore until somebody
    opens it again.
    """

    went_out = ("a booklet kept on a phone, until that phone opens the link again", "opened_at")

    week = models.ForeignKey(Week, on_delete=models.CASCADE, related_name="links")
    nonce = models.CharField(max_length=44, unique=True)
    ends_on = models.DateField()
    allows = models.JSONField(default=list, blank=True)
    withdrawn_at = models.DateTimeField(null=True, blank=True)
    closed_by_restore_at = models.DateTimeField(null=True, blank=True)
    created_at = MomentField(auto_now_add=True)
    opened = models.PositiveIntegerField(default=0)
    opened_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering = ("-pk",)


class Answered(models.Model):
    """What a client answered on a link. It is reported by the client and changes no plan."""

    MEAL, BOUGHT, REMARK, WEIGHT, RATING = "meal", "bought", "remark", "weight", "rating"
    COOKED = "cooked"

    link = models.ForeignKey(ShareLink, on_delete=models.CASCADE, related_name="answers")
    kind = models.CharField(max_length=8)
    place = models.CharField(max_length=60, blank=True)
    text = models.CharField(max_length=1000, blank=True)
    number = models.FloatField(null=True, blank=True)
    is_read = models.BooleanField(default=False)
    at = MomentField(auto_now=True)

    class Meta:
        ordering = ("-at", "-pk")


class OutboxMessage(models.Model):
    """A message to a client that waits in the outbox. The program sends none of them: whoever
    connects it to mail does.
    """

    client = models.ForeignKey(Client, on_delete=models.CASCADE, related_name="outbox_messages")
    text = models.TextField()
    written_at = MomentField(auto_now_add=True)
    passed_on_at = models.DateTimeField(null=True, blank=True)

    class Meta:
        ordering = ("-written_at", "-pk")


class WrongLink(models.Model):
    """An address of a link that opened nothing, by who asked: guessing is slowed."""

    asked_by = models.CharField(max_length=64)
    at = MomentField(auto_now_add=True)

    class Meta:
        indexes = [models.Index(fields=["asked_by", "at"])]
