"""What tests of pages share: the practice loaded once a class, logged in as Petra, and the headers
of htmx.
"""

from __future__ import annotations

from collections.abc import Sequence
from contextlib import AbstractContextManager
from copy import copy
from datetime import date
from typing import Any, ClassVar
from unittest import mock

from django.contrib.auth import get_user_model
from django.http import HttpResponse
from django.test import TestCase
from django.urls import reverse

from dietetics.time_limits import mind_the_clock
from dietetics.week.question.answer import Answer
from dietetics.week.question.question import Spare
from dietetics.week.words.explanation import ToldOfWays, WayOut, ways_out
from roundpantry.bowls.models import Bowl, BowlPart
from roundpantry.counter import clock
from roundpantry.demo.tests.practice import load_practice

mind_the_clock(False)  # no search of a test ends because the processor was taken away


def first_way(answer: Answer, spare: Sequence[Spare], told: ToldOfWays) -> list[WayOut]:
    """Ways to a better week, of which only the first is tried."""
    return ways_out(answer, spare, lambda number, *rest: told(number, *rest) and number < 1)


HASTY = {  # searches made short, where what is asked is whether they answer
    "dietetics.week.search.settling.WORK": 0.02,
    "dietetics.week.search.settling.LIGHT_WORK": 0.01,
    "dietetics.week.search.settling.WORK_FOR_POINTS": 0.01,
    "dietetics.week.search.improving.STEPS": 1,
    "roundpantry.weeks.search_queue.improve": lambda settled, *_: settled.week,
    "roundpantry.weeks.search_queue.ways_out": first_way,
}
SHORT_SEARCHES = mock.patch.multiple(  # for tests of what a good week holds, not of the best
    "dietetics.week.search.settling", WORK=0.4, LIGHT_WORK=0.4, WORK_FOR_POINTS=0.02
)
HTMX = {"headers": {"HX-Request": "true"}}


def words_of(response: HttpResponse) -> str:
    """What a page says, whatever lines its template is laid out in."""
    return " ".join(response.content.decode(response.charset).split())


def clock_of_a_class(day: date | None = None) -> AbstractContextManager[None]:
    """The clock of a class of tests: it runs from noon of the day that they name, else from now,
    but not over midnight while they run.
    """
    now = clock.local_now()
    moment = clock.at(day) if day else min(now, now.replace(hour=23, minute=45))
    return clock.set_to(moment, runs=True)


class ReadsWords(TestCase):
    """Tests that look for words on a page, and not for how the lines of its template break. Tests
    that name days set DAY, and the clock stands there.
    """

    DAY: ClassVar[date | None] = None

    @classmethod
    def setUpClass(cls) -> None:
        cls.enterClassContext(clock_of_a_class(cls.DAY))
        super().setUpClass()

    def assertContains(self, response: Any, text: object, *args: Any, **kwargs: Any) -> None:  # noqa: N802
        """As Django's, on the words of the page."""
        super().assertContains(self._in_words(response), text, *args, **kwargs)

    def assertNotContains(self, response: Any, text: object, *args: Any, **kwargs: Any) -> None:  # noqa: N802
        """As Django's, on the words of the page."""
        super().assertNotContains(self._in_words(response), text, *args, **kwargs)

    def _in_words(self, response: Any) -> Any:
        if response.streaming or not response["Content-Type"].startswith("text/html"):
            return response
        read = copy(response)
        read.content = words_of(response)
        return read


class WithDemo(ReadsWords):
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
