"""The whole program: who may see what, and that no page breaks."""

from __future__ import annotations

from django.test import Client as Browser
from django.urls import reverse

from dietetics.tests.samples import sample
from roundpantry.batches.models import Batch, BatchLine
from roundpantry.bowls.models import Bowl, BowlPart
from roundpantry.clients.models import Client
from roundpantry.demo.tests.addresses import OF_NOBODY, OPEN_TO_ALL, addresses_of
from roundpantry.demo.tests.support import HTMX, WithDemo
from roundpantry.targets.models import TargetSet


class Permissions(WithDemo):
    """Login everywhere; a practitioner sees only their own."""

    def test_every_address_asks_for_a_login(self) -> None:
        stranger = Browser()
        checked = 0
        for name, where in addresses_of(self.petra):
            for method in ("get", "post"):
                answer = getattr(stranger, method)(where)
                self.assertEqual(answer.status_code, 302, f"{method} {name}")
                self.assertIn("/login/", answer["Location"], name)
            checked += 1
        self.assertGreater(checked, 25)

    def test_another_practitioners_things_are_not_found(self) -> None:
        before = (
            Bowl.objects.count(),
            BowlPart.objects.count(),
            BatchLine.objects.count(),
            TargetSet.objects.count(),
        )
        checked = 0
        for name, where in addresses_of(self.joon, OPEN_TO_ALL | OF_NOBODY):
            answers = [
                self.client.get(where).status_code,
                self.client.post(where, {"steps": 1}, **HTMX).status_code,
            ]
            self.assertIn(404, answers, name)
            self.assertLessEqual(set(answers), {404, 405}, name)
            checked += 1
        self.assertGreater(checked, 20)
        after = (
            Bowl.objects.count(),
            BowlPart.objects.count(),
            BatchLine.objects.count(),
            TargetSet.objects.count(),
        )
        self.assertEqual(before, after)

    def test_another_practitioners_batch_cannot_be_put_into_my_bowl(self) -> None:
        other = Batch.objects.filter(practitioner=self.joon).first()
        answer = self.client.post(
            reverse("bowls:add", args=[self.bowl.pk]), {"batch": other.pk}, **HTMX
        )
        self.assertEqual(answer.status_code, 404)

    def test_another_clients_meal_is_refused_for_a_new_bowl(self) -> None:
        mine = Client.objects.filter(practitioner=self.petra).first()
        theirs = TargetSet.objects.get(client__practitioner=self.joon).meals.first()
        answer = self.client.post(
            reverse("bowls:list", args=[mine.pk]), {"name": "x", "meal": theirs.pk}
        )
        self.assertEqual(answer.status_code, 422)

    def test_forms_need_their_token(self) -> None:
        strict = Browser(enforce_csrf_checks=True)
        strict.force_login(self.petra)
        self.assertEqual(strict.post(reverse("bowls:undo", args=[self.bowl.pk])).status_code, 403)

    def test_headers(self) -> None:
        answer = self.client.get(self.url)
        policy = answer["Content-Security-Policy"]
        self.assertNotIn("unsafe", policy)
        self.assertIn("frame-ancestors 'none'", policy)
        self.assertIn("HX-Request", answer["Vary"])
        self.assertNotIn(b"style=", answer.content)
        self.assertNotIn(b"<script>", answer.content)


class NoPageBreaks(WithDemo):
    """Every page answers for every client, bowl and batch of the demo."""

    SHARE = 1.0  # of them that are asked for

    def test_all_pages(self) -> None:
        addresses = ["/", "/today/", "/clients/new/", "/batches/", "/batches/new/", "/shelf/"]
        for client in Client.objects.filter(practitioner=self.petra):
            addresses += [
                reverse(n, args=[client.pk])
                for n in ("clients:detail", "clients:change", "targets:edit", "bowls:list")
            ]
        for bowl in Bowl.objects.filter(client__practitioner=self.petra):
            addresses += [
                reverse(f"bowls:{n}", args=[bowl.pk])
                for n in ("bench", "print", "search", "figures")
            ]
        for batch in Batch.objects.filter(practitioner=self.petra):
            addresses.append(reverse("batches:detail", args=[batch.pk]))
        for one in sample(type(self).__name__, addresses, self.SHARE):
            self.assertIn(self.client.get(one).status_code, (200, 302), one)

    def test_values_in_the_drawing_are_numbers(self) -> None:
        page = self.client.get(self.url).content.decode()
        self.assertNotIn("NaN", page)
        self.assertNotIn("None", page)
