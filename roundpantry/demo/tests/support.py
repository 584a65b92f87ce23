"""What tests of pages share: the practice loaded once a class, logged in as Petra, and the headers
of htmx.
"""

from __future__ import annotations

from django.contrib.auth import get_user_model
from django.test import TestCase
from django.urls import reverse

from dietetics.time_limits import mind_the_clock
from dietetics.week.annealing import good_week
from roundpantry.bowls.models import Bowl, BowlPart
from roundpantry.demo.tests.practice import load_practice

mind_the_clock(False)  # no search of a test ends because the processor was taken away
HASTY = {  # searches made short, where what is asked is whether they answer
    "roundpantry.weeks.planning.good_week": lambda question, seed=1, *_, **__: good_week(
        question, seed, 200
    ),
    "roundpantry.weeks.search_queue.good_week": lambda question, seed=1, *_, **__: good_week(
        question, seed, 200
    ),
    "roundpantry.weeks.search_queue.improve": lambda question, start, *_: start,
    "dietetics.week.explanation.WAY_MOVES": 50,
}
HTMX = {"headers": {"HX-Request": "true"}}


class WithDemo(TestCase):
    """A database with the invented practice; logged in as Petra."""

    @classmethod
    def setUpTestData(cls) -> None:
        load_practice()
        users = get_user_model().objects
        cls.petra, cls.joon = users.get(username="petra"), users.get(username="joon")

    def setUp(self) -> None:
        self.client.force_login(self.petra)
        self.bowl = Bowl.objects.get(name="Tideline bowl")
        self.url = reverse("bowls:bench", args=[self.bowl.pk])

    def part(self, key: str) -> BowlPart:
        """A part of the Tideline bowl."""
        return self.bowl.parts.get(food_key=key)
