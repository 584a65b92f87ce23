"""Two plates side by side."""

from __future__ import annotations

from django.urls import reverse

from roundpantry.batches.models import Batch
from roundpantry.bowls.models import Bowl
from roundpantry.clients.models import Client
from roundpantry.demo.tests.support import WithDemo


class TwoPlatesPage(WithDemo):
    """Compare."""

    def test_page(self) -> None:
        a, b = (
            Bowl.objects.get(name="Tideline bowl").pk,
            Batch.objects.get(practitioner=self.petra, title="Lamplighter beans").pk,
        )
        url = reverse("compare:plates")
        for by in ("served", "energy", "protein", "nonsense"):
            page = self.client.get(
                url, {"a": f"bowl-{a}", "b": f"batch-{b}", "by": by, "whence": "fat_g"}
            )
            self.assertContains(page, "Tideline bowl against Lamplighter beans")
            self.assertContains(page, "Where the fat comes from")
        self.assertContains(
            self.client.get(
                url, {"a": f"bowl-{a}", "b": "bowl-999999", "c": "x", "d": "batch-9" * 9}
            ),
            "Not found",
        )
        self.assertEqual(self.client.get(url).status_code, 200)

    def test_another_clients_bowl_says_whose_it_is_and_stays_chosen(self) -> None:
        mine, other = (
            Client.objects.get(name="Tobias Lindqvist"),
            Bowl.objects.get(name="Tideline bowl"),
        )
        self.client.get(reverse("clients:detail", args=[mine.pk]))
        page = self.client.get(
            reverse("compare:plates"),
            {"a": f"bowl-{other.pk}", "b": f"bowl-{mine.bowls.first().pk}"},
        )
        self.assertContains(page, "Tideline bowl, of Maren Okafor")
        self.assertContains(page, f'<option value="bowl-{other.pk}" selected>')

    def test_another_practitioners_dishes_are_not_found(self) -> None:
        other = Bowl.objects.filter(client__practitioner=self.joon).first()
        page = self.client.get(reverse("compare:plates"), {"a": f"bowl-{other.pk}"})
        self.assertNotContains(page, other.name)
        self.assertContains(page, "Not found")
