"""A bowl and a week under old targets say so, and one press brings both under the present ones."""

from __future__ import annotations

from django.urls import reverse

from roundpantry.bowls.models import Bowl
from roundpantry.clients.services import change_client
from roundpantry.demo.tests.support import WithDemo
from roundpantry.targets.models import Meal
from roundpantry.targets.records import newest_version
from roundpantry.targets.services import renew_targets

OFFER = "Take the new targets"
ASKS = "The record asks for other targets than are set: "


class OldTargets(WithDemo):
    """A bowl of a client whose record changes."""

    def setUp(self) -> None:
        super().setUp()
        self.bowl = Bowl.objects.filter(
            meal__isnull=False, client__weeks__frozen_at=None, client__weeks__isnull=False
        ).first()
        self.bench = reverse("bowls:bench", args=[self.bowl.pk])
        self.week = self.bowl.client.weeks.filter(frozen_at=None).first()

    def heavier(self) -> None:
        weight = self.bowl.client.weight_kg
        change_client(self.bowl.client, weight_kg=float(weight) * 1.25)

    def meal_now(self) -> Meal:
        return Bowl.objects.get(pk=self.bowl.pk).meal

    def test_nothing_is_said_while_the_targets_are_the_present_ones(self) -> None:
        present = newest_version(self.bowl.client)
        Bowl.objects.filter(pk=self.bowl.pk).update(
            meal=present.meals.get(name=self.bowl.meal.name)
        )
        self.assertNotContains(self.client.get(self.bench), OFFER)

    def test_a_changed_record_is_said_and_one_press_takes_all_of_it(self) -> None:
        self.heavier()
        page = self.client.get(self.bench)
        self.assertContains(page, ASKS)
        self.assertContains(page, OFFER)
        before = newest_version(self.bowl.client).number
        answer = self.client.post(reverse("bowls:take-targets", args=[self.bowl.pk]), follow=True)
        self.assertContains(answer, "held against the present targets")
        self.assertNotContains(answer, OFFER)
        present = newest_version(self.bowl.client)
        self.assertEqual((present.number, self.meal_now().target_set), (before + 1, present))

    def test_an_older_version_is_said_by_its_number(self) -> None:
        self.heavier()
        renew_targets(self.bowl.client)
        present = newest_version(self.bowl.client)
        said = f"version {present.number} is set now"
        self.assertContains(self.client.get(self.bench), said)
        self.client.post(reverse("bowls:take-targets", args=[self.bowl.pk]))
        self.assertEqual(self.meal_now().target_set, present)
        self.assertNotContains(self.client.get(self.bench), said)

    def test_a_meal_that_is_gone_changes_nothing(self) -> None:
        self.heavier()
        renew_targets(self.bowl.client)
        newest_version(self.bowl.client).meals.filter(name=self.bowl.meal.name).delete()
        answer = self.client.post(reverse("bowls:take-targets", args=[self.bowl.pk]), follow=True)
        self.assertContains(answer, "Nothing changed: the present targets have not a meal called")
        self.assertEqual(self.meal_now(), self.bowl.meal)

    def test_the_week_says_so_and_the_press_comes_back_to_it(self) -> None:
        address = reverse("weeks:week", args=[self.week.pk])
        self.assertNotContains(self.client.get(address), ASKS)
        self.heavier()
        self.assertContains(self.client.get(address), ASKS)
        renew = reverse("targets:renew", args=[self.bowl.client_id])
        self.assertRedirects(self.client.post(renew, {"then": address}), address)
        self.assertNotContains(self.client.get(address), ASKS)

    def test_a_press_never_leads_to_another_place(self) -> None:
        self.heavier()
        renew = reverse("targets:renew", args=[self.bowl.client_id])
        home = reverse("clients:detail", args=[self.bowl.client_id])
        for then in ("https://elsewhere.example/", "//elsewhere.example/", "x" * 300, ""):
            self.assertRedirects(self.client.post(renew, {"then": then}), home)
