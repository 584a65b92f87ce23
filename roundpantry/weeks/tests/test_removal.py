"""Before a batch or a bowl is removed, the weeks and dishes that use it are named."""

from __future__ import annotations

from django.contrib.auth.models import User
from django.urls import reverse

from dietetics.week.plan import Entry, cook, empty_plan, plan_json, plan_of, put
from roundpantry.batches.models import Batch
from roundpantry.weeks.models import Week
from roundpantry.weeks.tests.test_weeks import Weeks


class Removal(Weeks):
    def setUp(self) -> None:
        super().setUp()
        self.bowl = self.rower.bowls.order_by("pk").last()
        self.lone = Batch.objects.create(practitioner=self.rower.practitioner, title="Lone pot")
        Week.objects.filter(client__practitioner=self.rower.practitioner).update(
            plan=plan_json(empty_plan(plan_of(self.week.plan).meals, 7))
        )

    def page(self, name: str, pk: int) -> str:
        """The page that names what uses a dish."""
        return self.client.get(reverse(f"weeks:{name}", args=[pk])).content.decode()

    def plan(self, plan: object) -> None:
        """Store a plan in the week."""
        Week.objects.filter(pk=self.week.pk).update(plan=plan_json(plan))

    def test_a_bowl_in_a_week_is_named_with_its_days(self) -> None:
        self.assertIn("No week and no other dish uses it", self.page("remove-bowl", self.bowl.pk))
        plan = plan_of(Week.objects.get(pk=self.week.pk).plan)
        for day in (1, 3):
            plan = put(plan, day, 0, Entry(f"bowl-{self.bowl.pk}", self.bowl.name))
        self.plan(plan)
        page = self.page("remove-bowl", self.bowl.pk)
        self.assertIn(reverse("weeks:week", args=[self.week.pk]), page)
        start = self.week.start.weekday()
        names = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"]
        days = ", ".join(names[(start + day) % 7] for day in (1, 3))
        self.assertIn(f"</a>: {days}</li>", page)

    def test_a_week_that_was_handed_over_keeps_its_figures_and_is_not_named(self) -> None:
        plan = plan_of(Week.objects.get(pk=self.week.pk).plan)
        self.plan(put(plan, 1, 0, Entry(f"bowl-{self.bowl.pk}", self.bowl.name)))
        Week.objects.filter(pk=self.week.pk).update(frozen_at="2026-01-01T00:00Z")
        self.assertIn("No week", self.page("remove-bowl", self.bowl.pk))

    def test_a_batch_that_is_only_cooked_is_named(self) -> None:
        plan = plan_of(Week.objects.get(pk=self.week.pk).plan)
        self.plan(cook(plan, f"batch-{self.lone.pk}", 2))
        self.assertIn(
            reverse("weeks:week", args=[self.week.pk]), self.page("remove-batch", self.lone.pk)
        )

    def test_a_batch_in_a_bowl_cannot_go_and_the_bowl_is_named(self) -> None:
        removal = reverse("batches:remove", args=[self.lone.pk])
        self.assertIn(removal, self.page("remove-batch", self.lone.pk))
        part = self.bowl.parts.first()
        part.pk, part.batch, part.food_key = None, self.lone, ""
        part.position += 50
        part.save()
        page = self.page("remove-batch", self.lone.pk)
        self.assertIn(reverse("bowls:bench", args=[self.bowl.pk]), page)
        self.assertNotIn(removal, page)

    def test_it_goes_with_one_press_and_nobody_elses_is_shown(self) -> None:
        self.client.post(reverse("batches:remove", args=[self.lone.pk]))
        self.assertFalse(Batch.objects.filter(pk=self.lone.pk).exists())
        self.client.force_login(User.objects.exclude(pk=self.rower.practitioner_id).first())
        for name, pk in (("remove-bowl", self.bowl.pk), ("remove-batch", Batch.objects.first().pk)):
            answer = self.client.get(reverse(f"weeks:{name}", args=[pk]))
            self.assertEqual(answer.status_code, 404, name)
