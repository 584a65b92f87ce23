"""Cautions where food meets a client: on every screen, asked about, noted."""

from __future__ import annotations

from django.urls import reverse

from roundpantry.bowls.models import Bowl
from roundpantry.clients.models import Acknowledgement, Client
from roundpantry.demo.tests.support import HTMX, WithDemo


class Cautions(WithDemo):
    """Shown where they arise, noted with a reason, printed, and back when worse."""

    def test_dangers_stand_on_every_screen(self) -> None:
        client = Client.objects.get(name="Tobias Lindqvist")
        self.client.get(reverse("clients:detail", args=[client.pk]))
        for address in (
            reverse("batches:list"),
            reverse("shelf:list"),
            reverse("bowls:ladder"),
            reverse("targets:edit", args=[client.pk]),
        ):
            self.assertContains(self.client.get(address), "Kidney disease, stage G3")

    def test_noting_a_caution_needs_a_reason_and_is_printed(self) -> None:
        client = Client.objects.get(name="Ines Bergström-Vale")
        address = reverse("targets:acknowledge", args=[client.pk])
        self.client.post(address, {"key": "warfarin", "reason": " "})
        self.assertFalse(Acknowledgement.objects.exists())
        self.client.post(address, {"key": "warfarin", "reason": "Clinic informed on Monday."})
        self.assertContains(
            self.client.get(reverse("clients:detail", args=[client.pk])), "Noted by Petra Nwosu"
        )
        bowl = client.bowls.first()
        self.assertContains(
            self.client.get(reverse("bowls:print", args=[bowl.pk])), "Clinic informed on Monday."
        )
        self.assertEqual(self.client.post(address, {"key": "moon", "reason": "x"}).status_code, 404)

    def test_potassium_is_marked_in_the_bowl_and_comes_back_when_it_gets_worse(self) -> None:
        bowl = Bowl.objects.get(name="Tideline, too much potassium")
        url = reverse("bowls:bench", args=[bowl.pk])
        self.assertContains(self.client.get(url), "Potassium 3,")
        self.client.post(
            f"{url}cautions/", {"key": "potassium-foods", "reason": "For teaching only."}, **HTMX
        )
        self.assertContains(self.client.get(url), "For teaching only.")
        potato = bowl.parts.get(food_key="potato-baked")
        self.client.post(f"{url}parts/{potato.pk}/portion/", {"amount": "2 large"}, **HTMX)
        page = self.client.get(url).content.decode()
        self.assertNotIn("For teaching only.", page)
        self.assertIn("Reviewed, because …", page)

    def test_an_allergen_is_kept_out_until_somebody_says_why(self) -> None:
        add = reverse("bowls:add", args=[self.bowl.pk])
        answer = self.client.post(add, {"food": "peanut-butter"}, **HTMX)
        self.assertContains(answer, "is allergic to it", status_code=422)
        self.assertFalse(self.bowl.parts.filter(food_key="peanut-butter").exists())
        self.client.post(
            add, {"food": "peanut-butter", "because": "Desensitised, letter of June."}, **HTMX
        )
        self.assertTrue(self.bowl.parts.filter(food_key="peanut-butter").exists())
        self.assertContains(self.client.get(self.url), "Desensitised, letter of June.")

    def test_warfarin_swings_between_bowls_and_a_fibre_jump_are_seen(self) -> None:
        ines = Client.objects.get(name="Ines Bergström-Vale")
        self.assertContains(
            self.client.get(reverse("clients:detail", args=[ines.pk])), "Vitamin K changes from"
        )
        Client.objects.filter(pk=ines.pk).update(fibre_now_g=12)
        self.assertContains(
            self.client.get(reverse("clients:detail", args=[ines.pk])), "Fibre would rise from 12"
        )
        other = Client.objects.get(name="Sunniva Castellanos")
        self.assertNotContains(
            self.client.get(reverse("clients:detail", args=[other.pk])), "Vitamin K changes from"
        )

    def test_an_allergen_hidden_in_a_batch_is_found(self) -> None:
        family = Bowl.objects.get(name="Pier wrap")
        self.client.post(
            reverse("batches:new"), {"text": "# Sauce\nServes 2\n2 tbsp tahini\n2 tbsp water"}
        )
        from roundpantry.batches.models import Batch

        add = reverse("bowls:add", args=[family.pk])
        answer = self.client.post(add, {"batch": Batch.objects.latest("pk").pk}, **HTMX)
        self.assertContains(answer, "sesame", status_code=422)

    def test_a_batch_says_what_the_open_client_must_not_or_will_not_eat(self) -> None:
        from roundpantry.batches.models import Batch

        kofi = Client.objects.get(name__startswith="Kofi")
        self.client.post(
            reverse("batches:new"),
            {"text": "# Dip\nServes 2\n2 tbsp tahini\n1/4 cup raw onion, chopped"},
        )
        page = reverse("batches:detail", args=[Batch.objects.latest("pk").pk])
        self.client.get(reverse("clients:detail", args=[kofi.pk]))
        self.assertContains(self.client.get(page), "sesame allergy: Tahini")
        self.assertContains(self.client.get(page), "Client avoids raw onion: Onion")
        other = Client.objects.get(name__startswith="Sunniva")
        # a look at somebody else's page changes nothing, a choice does
        self.client.get(reverse("clients:detail", args=[other.pk]))
        self.assertContains(self.client.get(page), "sesame allergy")
        self.client.post(reverse("clients:choose", args=[other.pk]))
        self.assertNotContains(self.client.get(page), "sesame allergy")

    def test_a_day_of_bowls_is_minded_once_every_meal_has_one(self) -> None:
        kofi = Client.objects.get(name__startswith="Kofi")
        page = reverse("clients:detail", args=[kofi.pk])
        self.assertContains(self.client.get(page), "A day of ")
        Bowl.objects.filter(client=kofi, meal__name="Breakfast").delete()
        self.assertNotContains(self.client.get(page), "A day of ")
