"""Whatever is sent to any address is answered: every field a page reads is found by watching it,
then filled with rubbish.
"""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from unittest import mock

from django.contrib.auth import get_user_model
from django.db import transaction
from django.http import QueryDict
from django.test import TestCase
from django.urls import reverse

from dietetics.tests.samples import again, sample
from roundpantry.bowls.models import Bowl
from roundpantry.demo.tests.addresses import addresses_of
from roundpantry.demo.tests.practice import load_practice
from roundpantry.demo.tests.support import HASTY
from roundpantry.weeks.models import Week
from roundpantry.weeks.services import ACTIONS

RUBBISH = (
    "", " ", "--5", "-0", "²", "nan", "inf", "-1e400", "1e308", "9" * 400, "1.5.2", "½", "\x00",
    "x" * 3000, "🙂", "<b>", "-1", "٣",
    "2026-13-45", "1e-320", "bowl-x", "batch-²", "batch-99999999999999999999",
)  # fmt: skip
A_FIELD = 1  # values tried in one field alone; they rotate, and the attacks try more
SENSIBLE = {
    "day": "0", "meal": "0", "to_day": "1", "to_meal": "1", "dish": "food:kale-raw", "name": "Kale",
    "steps": "1", "position": "0",
    "scale": "1", "batch": "batch-1", "pots": "1", "frozen": "0.5", "cooking_days": "-1",
    "most_pots": "4", "different": "4",
}  # fmt: skip


@contextmanager
def watched(names: set[str]) -> Iterator[None]:
    """Note every name that is looked for in what was sent."""
    plain, several, item = QueryDict.get, QueryDict.getlist, QueryDict.__getitem__

    def get(self: QueryDict, key: str, default: object = None) -> object:
        names.add(key)
        return plain(self, key, default)

    def getlist(self: QueryDict, key: str, default: object = None) -> object:
        names.add(key)
        return several(self, key, default)

    def getitem(self: QueryDict, key: str) -> object:
        names.add(key)
        return item(self, key)

    with mock.patch.multiple(QueryDict, get=get, getlist=getlist, __getitem__=getitem):
        yield


class HostileInput(TestCase):
    @classmethod
    def setUpTestData(cls) -> None:
        load_practice()
        cls.petra = get_user_model().objects.get(username="petra")

    def setUp(self) -> None:
        for name, instead in HASTY.items():
            self.enterContext(mock.patch(name, instead))
        self.client.force_login(self.petra)
        self.client.raise_request_exception = False
        self.turn = 0
        self.broken: list[str] = []

    def answered(self, method: str, where: str, given: dict[str, str]) -> None:
        """Send one request and take back what it did."""
        headers = {"HX-Request": "true"}
        point = transaction.savepoint()
        code = getattr(self.client, method)(where, given, headers=headers).status_code
        transaction.savepoint_rollback(point)
        if code >= 500:
            odd = {name: value[:20] for name, value in given.items() if value != SENSIBLE.get(name)}
            self.broken.append(f"{method} {where} {odd}")

    def fields_of(self, where: str, method: str) -> set[str]:
        """The names a page looks for."""
        names: set[str] = set()
        with watched(names):
            self.answered(method, where, SENSIBLE)
        return names - {"csrfmiddlewaretoken"}

    def rotated(self, count: int) -> list[str]:
        """The next values of the rubbish."""
        found = [RUBBISH[(self.turn + n) % len(RUBBISH)] for n in range(count)]
        self.turn += count
        return found

    def tried(self, where: str, base: dict[str, str]) -> int:
        """Fill an address with rubbish, all fields at once and each alone among sensible ones."""
        count = 0
        for method in ("get", "post"):
            names = self.fields_of(where, method)
            every = [dict.fromkeys(names, value) for value in self.rotated(A_FIELD)]
            single = [
                {**base, name: value} for name in sorted(names) for value in self.rotated(A_FIELD)
            ]
            for given in [*every, *single] if names else []:
                self.answered(method, where, given)
                count += 1
        return count

    def test_every_address_answers_whatever_is_sent(self) -> None:
        chosen = sample("every address", addresses_of(self.petra), 0.07)
        count = sum(self.tried(where, SENSIBLE) for _, where in chosen)
        self.assertEqual(self.broken, [], again())
        self.assertGreater(count, 2 * len(chosen))

    def test_every_address_answers_a_body_with_nothing_in_it(self) -> None:
        for _, where in sample("empty bodies", addresses_of(self.petra), 0.2):
            self.answered("post", where, {})
        self.assertEqual(self.broken, [], again())

    def test_a_bowl_emptied_meanwhile_is_answered(self) -> None:
        bowl = Bowl.objects.get(name="Tideline bowl")
        bowl.parts.all().delete()
        for name in ("bench", "ways", "hints", "balance"):
            where = reverse(f"bowls:{name}", args=[bowl.pk])
            self.answered("get", where, {})
            self.answered("post", where, {})
        self.assertEqual(self.broken, [])

    def test_a_week_is_shown_after_whatever_was_done_to_it(self) -> None:
        week = Week.objects.filter(client__practitioner=self.petra, frozen_at=None).first()
        base = {**SENSIBLE, "revision": str(week.revision)}
        chosen = sample("changes to a week", ACTIONS, 0.12)
        count = sum(self.tried(reverse("weeks:act", args=[week.pk, what]), base) for what in chosen)
        self.assertEqual(self.broken, [], again())
        self.assertGreater(count, 2 * len(chosen))
