"""What belongs to no step of the work: tokens of forms that were sent, so that a second press makes
nothing twice, and wrong logins.
"""

from django.conf import settings
from django.db import models

from roundpantry.counter.moments import MomentField


class SentForm(models.Model):
    """A form that made something: its token, and where the answer led. The same token again is
    answered with that.
    """

    practitioner = models.ForeignKey(
        settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="sent_forms"
    )
    token = models.CharField(max_length=40)
    led_to = models.CharField(max_length=400, blank=True)
    sent_at = MomentField(auto_now_add=True)

    class Meta:
        ordering = ("-pk",)
        constraints = [
            models.UniqueConstraint(fields=["practitioner", "token"], name="one_answer_a_token")
        ]


class WrongLogins(models.Model):
    """How many wrong passwords in a row were tried for a name, from an address, or with a known
    browser; `key` is a digest of which.
    """

    key = models.CharField(max_length=40, unique=True)
    count = models.PositiveIntegerField(default=0)
    last_at = MomentField(auto_now=True)

    class Meta:
        indexes = [models.Index(fields=["last_at"])]
