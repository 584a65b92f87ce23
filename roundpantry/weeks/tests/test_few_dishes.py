"""A practice with few dishes: every meal that can be filled is filled, a batch that was fitted for
somebody is nobody else's dish, and patterns are offered where a meal has one dish.
"""

from __future__ import annotations

from datetime import date

from django.urls import reverse

from dietetics.week.question.recheck import broken_rules
from roundpantry.batches.models import Batch
from roundpantry.bowls.models import Pattern
from roundpantry.bowls.patterns import keep_pattern
from roundpantry.clients.models import Client
from roundpantry.demo.tests.support import SHORT_SEARCHES, WithDemo
from roundpantry.weeks.models import Week
from roundpantry.weeks.planning import answer_for, question_from
from roundpantry.weeks.planning_facts import gather
from roundpantry.weeks.services import add_week, set_choice

MONDAY = date(2027, 3, 1)


class FewDishes(WithDemo):
    def with_bowls(self, client: Client, each: int) -> Week:
        """A new week of a client with so many bowls a meal at most, and nothing said of them."""
        client.weeks.all().delete()
        client.dish_choices.all().delete()
        kept: dict[int, int] = {}
        for bowl in client.bowls.order_by("pk"):
            kept[bowl.meal_id] = kept.get(bowl.meal_id, 0) + 1
            if bowl.meal_id is None or kept[bowl.meal_id] > each:
                bowl.delete()
        return add_week(client, MONDAY)

    @SHORT_SEARCHES
    def test_every_meal_that_has_a_dish_is_filled(self) -> None:
        clients = Client.objects.filter(bowls__isnull=False).distinct()
        self.assertGreaterEqual(len(clients), 5)
        for each, some in ((2, clients[:2]), (1, clients)):
            for client in some:
                week = self.with_bowls(client, each)
                question = question_from(gather(week))
                made = answer_for(week)
                answer, plan = made.answer, made.plan
                with self.subTest(client=client.name, each=each):
                    self.assertEqual(broken_rules(answer), [])
                    for d, m, cell in plan.places():
                        fits = any(plan.meals[m] in offer.meals for offer in question.offers)
                        self.assertEqual(bool(cell.entries), fits, (d, plan.meals[m]))

    def test_an_empty_meal_says_what_is_missing(self) -> None:
        client = self.bowl.client
        week = self.with_bowls(client, 1)
        dinner = client.bowls.filter(meal__name="Dinner").first() or client.bowls.first()
        meal = dinner.meal.name
        client.bowls.filter(meal__name=meal).exclude(pk=dinner.pk).delete()
        set_choice(client, f"bowl-{dinner.pk}", {"meals": [meal], "most_uses": 2})
        for other in client.bowls.exclude(pk=dinner.pk):  # none may stand in for it
            set_choice(client, f"bowl-{other.pk}", {"meals": [other.meal.name]})
        self.client.post(reverse("weeks:plan", args=[week.pk]), {"revision": week.revision})
        said = self.client.get(reverse("weeks:explain", args=[week.pk]))
        self.assertContains(said, "used as often as allowed (2 times a week)")
        self.assertContains(said, "5 of 28 meals without a dish")

    def test_a_batch_fitted_for_somebody_is_not_offered_to_others(self) -> None:
        fitted = Batch.objects.get(fitted_for__isnull=False)
        mine, other = fitted.fitted_for, self.bowl.client
        self.assertNotEqual(mine, other)
        key = f"batch-{fitted.pk}"
        for client, offered in ((mine, True), (other, False)):
            week = client.weeks.first() or add_week(client, MONDAY)
            self.assertEqual(key in gather(week).available.dishes, offered, client.name)

    @SHORT_SEARCHES
    def test_a_meal_with_one_dish_is_offered_batches_that_suit_it(self) -> None:
        client = self.bowl.client
        week = self.with_bowls(client, 1)
        mine = Batch.objects.filter(practitioner=client.practitioner)
        porridge = mine.get(title__startswith="Harbour porridge")
        page = self.client.post(reverse("weeks:ways", args=[week.pk]))
        self.assertContains(page, f"Also offer {porridge.title}")
        taken = {"kind": "dish", "value": f"batch-{porridge.pk}", "revision": week.revision}
        self.client.post(reverse("weeks:take-way", args=[week.pk]), taken)
        question = question_from(gather(Week.objects.get(pk=week.pk)))
        offer = question.offers[question.by_key[f"batch-{porridge.pk}"]]
        self.assertEqual(offer.meals, {"Breakfast"})
        answer = answer_for(Week.objects.get(pk=week.pk)).answer
        mornings = [answer.dish((day, 0)) for day in range(7)]
        self.assertEqual(len(set(mornings)), 2)  # no longer the same seven days

    @SHORT_SEARCHES
    def test_a_meal_with_one_dish_is_offered_patterns(self) -> None:
        week = self.with_bowls(self.bowl.client, 1)
        pattern = keep_pattern(self.bowl, "Harbour breakfast")
        Pattern.objects.filter(pk=pattern.pk).update(meal_kind="breakfast")
        page = self.client.post(reverse("weeks:ways", args=[week.pk]))
        self.assertContains(page, "Breakfast: one dish, the same every day")
        address = reverse("bowls:draw-pattern", args=[pattern.pk, self.bowl.client_id])
        self.assertContains(page, address)
        meal = self.bowl.meal.target_set.meals.first()
        self.client.post(address, {"meal": meal.pk})
        self.assertTrue(self.bowl.client.bowls.filter(name="Harbour breakfast", meal=meal).exists())
