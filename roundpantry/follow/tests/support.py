"""The invented practice, followed, as one practitioner sees it."""

from __future__ import annotations

from django.contrib.auth import get_user_model
from django.urls import reverse

from roundpantry.clients.models import Client, Measurement
from roundpantry.counter import clock
from roundpantry.demo.tests.practice import load_practice
from roundpantry.demo.tests.support import ReadsWords

POUND = 0.45359237  # kg, international avoirdupois


class Followed(ReadsWords):
    """Petra's clients; Amina, whose weight has stopped, stands for them."""

    @classmethod
    def setUpTestData(cls) -> None:
        load_practice()
        cls.petra = get_user_model().objects.get(username="petra")
        cls.today = clock.today()

    def setUp(self) -> None:
        self.client.force_login(self.petra)
        self.amina = Client.objects.get(name="Amina Farouk-Hale")
        self.tobias = Client.objects.get(name="Tobias Lindqvist")

    def at(self, name: str, whose: Client | None = None, *more: int) -> str:
        """An address of following a client."""
        return reverse(f"follow:{name}", args=[(whose or self.amina).pk, *more])

    def newest(self, kind: str) -> Measurement:
        """The value of a kind that was typed last."""
        return self.amina.measurements.filter(kind=kind).order_by("-pk")[0]
