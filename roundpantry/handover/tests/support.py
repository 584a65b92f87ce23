"""What tests of the hand-over share: a week that was handed over, and a link to its booklet."""

from __future__ import annotations

from datetime import timedelta

from django.test import Client as Browser

from roundpantry.clients.models import Client
from roundpantry.counter import clock
from roundpantry.demo.tests.practice import load_practice
from roundpantry.demo.tests.support import ReadsWords
from roundpantry.handover import services
from roundpantry.handover.booklet_made import booklet_of
from roundpantry.handover.links import token_of
from roundpantry.weeks.models import Week
from roundpantry.weeks.services import hand_over
from roundpantry.weeks.week_snapshot import kept_of


def handed_over(week: Week) -> Week:
    """The week, handed over with its booklet."""
    if week.frozen_at is None:
        hand_over(week, week.revision, kept_of(week), "Call me on Thursday.")
        week.refresh_from_db()
    services.keep_booklet(week, booklet_of(week))
    return week


class Linked(ReadsWords):
    """The rower's week, handed over, with a link that allows everything."""

    @classmethod
    def setUpTestData(cls) -> None:
        load_practice()
        cls.rower = Client.objects.get(name="Maren Okafor")
        cls.week = handed_over(cls.rower.weeks.first())
        cls.link = services.give_link(
            cls.week, clock.today() + timedelta(days=7), list(services.ALLOWED)
        )

    def setUp(self) -> None:
        self.phone = Browser()  # nobody is logged in on it
        self.address = f"/s/{token_of(self.link)}/"

    def send(self, kind: str, **given: object):
        """An answer from the phone."""
        return self.phone.post(f"{self.address}answer/", {"kind": kind, **given})
