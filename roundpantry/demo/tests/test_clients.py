"""Clients and targets through their pages: the record, computed windows, schools, cautions, and history."""

from __future__ import annotations

import json

from django.urls import reverse

from roundpantry.bowls.models import Bowl
from roundpantry.clients.models import Acknowledgement, Client, OwnSchool
from roundpantry.demo.tests.test_pages import HTMX, WithDemo

FACTS = {
    "name": "Edda Rosenkilde", "sex": "female", "age_years": "34", "height_cm": "165", "weight_kg": "70", "activity": "low-active",
    "goal": "lose", "pace_kg_per_week": "0.5", "school": "balanced-bowl",
}  # fmt: skip


class Record(WithDemo):
    """The client record and what is refused."""

    def test_a_new_client_is_proposed_computed_targets(self) -> None:
        self.client.post(reverse("clients:new"), FACTS)
        made = Client.objects.get(name="Edda Rosenkilde")
        page = self.client.get(reverse("targets:edit", args=[made.pk])).content.decode()
        self.assertIn('value="1640"', page)  # 2,276 - 550 = 1,726 kcal, less 5 %, to ten
        self.assertIn("NASEM", page)
        self.assertEqual(made.measurements.count(), 1)

    def test_what_cannot_be_is_said_at_the_field_and_kept(self) -> None:
        for changes, words in (
            ({"height_cm": "17"}, "is possible"),
            ({"weight_kg": "7000"}, "is possible"),
            ({"birth_date": "2090-01-01"}, "in the future"),
            ({"goal_weight_kg": "45"}, "under 18.5"),
            ({"conditions": ["ckd-3", "ckd-5"]}, "contradict"),
            ({"sex": "male", "pregnant": "on"}, "contradict"),
            ({"age_years": ""}, "date of birth"),
            ({"pace_kg_per_week": "9"}, "not possible"),
        ):
            answer = self.client.post(reverse("clients:new"), {**FACTS, **changes})
            self.assertEqual(answer.status_code, 422, changes)
            self.assertIn(words, answer.content.decode(), changes)
            self.assertIn("Edda Rosenkilde", answer.content.decode())
        self.assertFalse(Client.objects.filter(name="Edda Rosenkilde").exists())

    def test_height_and_weight_in_us_words(self) -> None:
        self.client.post(reverse("clients:new"), {**FACTS, "height_cm": "5 ft 5", "weight_kg": "154 lb"})
        made = Client.objects.get(name="Edda Rosenkilde")
        self.assertEqual((float(made.height_cm), float(made.weight_kg)), (165.1, 69.9))
        answer = self.client.post(reverse("clients:new"), {**FACTS, "weight_kg": "heavy"})
        self.assertContains(answer, "was not understood as a weight", status_code=422)
        self.assertContains(answer, 'value="heavy"', status_code=422)

    def test_age_from_the_date_of_birth(self) -> None:
        self.client.post(reverse("clients:new"), {**FACTS, "age_years": "", "birth_date": "1990-01-01"})
        self.assertGreaterEqual(Client.objects.get(name="Edda Rosenkilde").age_years, 36)

    def test_archive_export_and_delete(self) -> None:
        client = Client.objects.get(name="Maren Okafor")
        exported = json.loads(self.client.get(reverse("clients:export", args=[client.pk])).content)
        self.assertEqual((exported["name"], len(exported["bowls"]), len(exported["targets"])), ("Maren Okafor", 6, 1))
        self.client.post(reverse("clients:archive", args=[client.pk]))
        self.assertNotContains(self.client.get(reverse("clients:list")), "bowls of Maren Okafor")
        self.assertContains(self.client.get(reverse("clients:list"), {"archived": ""}), "bowls of Maren Okafor")
        self.client.post(reverse("clients:delete", args=[client.pk]), {"name": "somebody"})
        self.assertTrue(Client.objects.filter(pk=client.pk).exists())
        self.client.post(reverse("clients:delete", args=[client.pk]), {"name": "Maren Okafor"})
        self.assertFalse(Client.objects.filter(pk=client.pk).exists())


class Targets(WithDemo):
    """Overrides, versions, schools."""

    def test_an_override_needs_a_reason(self) -> None:
        self.client.post(reverse("clients:new"), FACTS)
        made = Client.objects.get(name="Edda Rosenkilde")
        address = reverse("targets:edit", args=[made.pk])
        typed = {"energy_kcal-low": "1400", "energy_kcal-high": "1500", "meal0-name": "All", "meal0-share": "100"}
        answer = self.client.post(address, typed)
        self.assertEqual(answer.status_code, 422)
        self.assertContains(answer, "energy differ", status_code=422)
        self.client.post(address, {**typed, "reason": "She asked for it after trying."})
        window = made.target_sets.get().windows.get(key="energy_kcal")
        self.assertTrue(window.overridden)
        self.assertContains(
            self.client.get(reverse("clients:detail", args=[made.pk])), "She asked for it after trying."
        )

    def test_shares_must_add_up(self) -> None:
        client = Client.objects.get(name="Maren Okafor")
        typed = {"fibre_g-low": "39", "reason": "x", "meal0-name": "A", "meal0-share": "100", "meal0-protein": "90"}
        self.assertContains(
            self.client.post(reverse("targets:edit", args=[client.pk]), typed),
            "protein add up to 90 %",
            status_code=422,
        )

    def test_a_change_of_weight_makes_a_version_and_an_old_bowl_keeps_its_windows(self) -> None:
        client, bowl = Client.objects.get(name="Amina Farouk-Hale"), Bowl.objects.get(name="Half-root plate")
        before = self.client.get(reverse("bowls:bench", args=[bowl.pk])).content.decode()
        facts = {
            f: getattr(client, f)
            for f in ("name", "sex", "age_years", "height_cm", "activity", "goal", "pace_kg_per_week", "school")
        }
        self.client.post(
            reverse("clients:change", args=[client.pk]), {**facts, "weight_kg": "80", "conditions": client.conditions}
        )
        client.refresh_from_db()
        self.assertEqual((client.target_sets.count(), client.measurements.count()), (2, 2))
        old, new = (client.target_sets.get(number=n).windows.get(key="energy_kcal") for n in (1, 2))
        self.assertEqual((old.low, old.high), (new.low, new.high))  # overridden at the first talk: stays
        wants = before.split("wants </span>")[1][:16]
        self.assertIn(wants, self.client.get(reverse("bowls:bench", args=[bowl.pk])).content.decode())

    def test_two_schools(self) -> None:
        client = Client.objects.get(name="Amina Farouk-Hale")
        page = self.client.get(reverse("targets:schools", args=[client.pk]), {"with": "training"}).content.decode()
        self.assertIn("Starch-centred, now", page)
        self.assertIn("moves", page)
        self.assertEqual(
            self.client.get(reverse("targets:schools", args=[client.pk]), {"with": "moon"}).status_code, 404
        )

    def test_intakes_are_watched_over_the_day_and_ceilings_judge_a_plate(self) -> None:
        rower = self.client.get(self.url).content.decode()
        self.assertNotIn('id="level-potassium_mg"', rower)
        keeper = Bowl.objects.get(name="Keeper's barley")
        page = self.client.get(reverse("bowls:bench", args=[keeper.pk])).content.decode()
        self.assertIn('id="level-potassium_mg"', page)
        self.assertIn("at most 0.0 mEq", page)  # the school's acid load has no field and is kept as computed

    def test_a_child_is_planned_by_the_equation_of_children(self) -> None:
        self.client.post(
            reverse("clients:new"), {**FACTS, "goal": "hold", "age_years": "10", "height_cm": "140", "weight_kg": "33"}
        )
        child = Client.objects.get(name="Edda Rosenkilde")
        self.assertContains(self.client.get(reverse("clients:detail", args=[child.pk])), "Under 19: growth comes first")
        self.assertEqual(self.client.get(reverse("targets:edit", args=[child.pk])).status_code, 200)
        self.assertEqual(self.client.get(reverse("targets:schools", args=[child.pk])).status_code, 200)

    def test_a_school_of_ones_own(self) -> None:
        typed = {
            "name": "Harbour school",
            "base": "balanced-bowl",
            "density_high": "1.1",
            "protein_low_g_per_kg": "1.0",
            "protein_high_g_per_kg": "1.4",
        }
        self.assertEqual(self.client.post(reverse("clients:schools"), {**typed, "density_high": "90"}).status_code, 422)
        self.assertEqual(
            self.client.post(reverse("clients:schools"), {**typed, "protein_high_g_per_kg": ""}).status_code, 422
        )
        self.client.post(reverse("clients:schools"), typed)
        key = f"own-{OwnSchool.objects.get().pk}"
        self.client.post(reverse("clients:new"), {**FACTS, "goal": "hold", "school": key})
        made = Client.objects.get(name="Edda Rosenkilde")
        page = self.client.get(reverse("targets:edit", args=[made.pk])).content.decode()
        self.assertIn("at most 1.10", page)
        self.assertIn("70.0–98.0", page)  # 1.0 to 1.4 g/kg of 70 kg
        OwnSchool.objects.update(practitioner=self.joon)
        self.assertNotContains(self.client.get(reverse("clients:new")), "Harbour school")

    def test_a_window_that_cannot_be_met_is_seen_at_once(self) -> None:
        client = Client.objects.get(name="Maren Okafor")
        typed = {
            "energy_kcal-high": "400", "protein_g-low": "120", "protein_g-high": "150", "reason": "x", "meal0-name": "A",
            "meal0-share": "50", "meal0-protein": "95", "meal1-name": "B", "meal1-share": "50", "meal1-protein": "5",
        }  # fmt: skip
        self.client.post(reverse("targets:edit", args=[client.pk]), typed)
        page = self.client.get(reverse("clients:detail", args=[client.pk])).content.decode()
        self.assertIn("more than the energy window", page)
        self.assertIn(
            "B carries 6–8 g protein; the school Training wants 22–29 g a meal", page
        )  # 0.3 to 0.4 g/kg of 72 kg

    def test_what_the_clinician_must_set_is_asked_for_until_it_is_signed(self) -> None:
        client = Client.objects.get(name="Tobias Lindqvist")
        self.assertContains(self.client.get(reverse("clients:detail", args=[client.pk])), "Dr Eilidh Varga")
        client.target_sets.update(clinician="")
        self.assertContains(self.client.get(reverse("clients:detail", args=[client.pk])), "is not recorded")


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
        self.assertContains(self.client.get(reverse("clients:detail", args=[client.pk])), "Noted by Petra Nwosu")
        bowl = client.bowls.first()
        self.assertContains(self.client.get(reverse("bowls:print", args=[bowl.pk])), "Clinic informed on Monday.")
        self.assertEqual(self.client.post(address, {"key": "moon", "reason": "x"}).status_code, 404)

    def test_potassium_is_marked_in_the_bowl_and_comes_back_when_it_gets_worse(self) -> None:
        bowl = Bowl.objects.get(name="Tideline, too much potassium")
        url = reverse("bowls:bench", args=[bowl.pk])
        self.assertContains(self.client.get(url), "Potassium 3,")
        self.client.post(f"{url}cautions/", {"key": "potassium-foods", "reason": "For teaching only."}, **HTMX)
        self.assertContains(self.client.get(url), "For teaching only.")
        potato = bowl.parts.get(food_key="potato-baked")
        self.client.post(f"{url}parts/{potato.pk}/portion/", {"amount": "2 large"}, **HTMX)
        page = self.client.get(url).content.decode()
        self.assertNotIn("For teaching only.", page)
        self.assertIn("Noted, because", page)

    def test_an_allergen_is_kept_out_until_somebody_says_why(self) -> None:
        add = reverse("bowls:add", args=[self.bowl.pk])
        answer = self.client.post(add, {"food": "peanut-butter"}, **HTMX)
        self.assertContains(answer, "has that allergy", status_code=422)
        self.assertFalse(self.bowl.parts.filter(food_key="peanut-butter").exists())
        self.client.post(add, {"food": "peanut-butter", "because": "Desensitised, letter of June."}, **HTMX)
        self.assertTrue(self.bowl.parts.filter(food_key="peanut-butter").exists())
        self.assertContains(self.client.get(self.url), "Desensitised, letter of June.")

    def test_warfarin_swings_between_bowls_and_a_fibre_jump_are_seen(self) -> None:
        ines = Client.objects.get(name="Ines Bergström-Vale")
        self.assertContains(self.client.get(reverse("clients:detail", args=[ines.pk])), "Vitamin K goes from")
        Client.objects.filter(pk=ines.pk).update(fibre_now_g=12)
        self.assertContains(self.client.get(reverse("clients:detail", args=[ines.pk])), "Fibre goes from 12")
        other = Client.objects.get(name="Sunniva Castellanos")
        self.assertNotContains(self.client.get(reverse("clients:detail", args=[other.pk])), "Vitamin K goes from")

    def test_an_allergen_hidden_in_a_batch_is_found(self) -> None:
        family = Bowl.objects.get(name="Pier wrap")
        self.client.post(reverse("batches:new"), {"text": "# Sauce\nServes 2\n2 tbsp tahini\n2 tbsp water"})
        from roundpantry.batches.models import Batch

        add = reverse("bowls:add", args=[family.pk])
        answer = self.client.post(add, {"batch": Batch.objects.latest("pk").pk}, **HTMX)
        self.assertContains(answer, "sesame", status_code=422)

    def test_a_batch_says_what_the_open_client_must_not_or_will_not_eat(self) -> None:
        from roundpantry.batches.models import Batch

        kofi = Client.objects.get(name__startswith="Kofi")
        self.client.post(reverse("batches:new"), {"text": "# Dip\nServes 2\n2 tbsp tahini\n1/4 cup raw onion, chopped"})
        page = reverse("batches:detail", args=[Batch.objects.latest("pk").pk])
        self.client.get(reverse("clients:detail", args=[kofi.pk]))
        self.assertContains(self.client.get(page), "sesame allergy: Tahini")
        self.assertContains(self.client.get(page), "Never eaten or disliked (raw onion): Onion")
        other = Client.objects.get(name__startswith="Sunniva")
        self.client.get(reverse("clients:detail", args=[other.pk]))
        self.assertNotContains(self.client.get(page), "sesame allergy")

    def test_a_day_of_bowls_is_minded_once_every_meal_has_one(self) -> None:
        kofi = Client.objects.get(name__startswith="Kofi")
        page = reverse("clients:detail", args=[kofi.pk])
        self.assertContains(self.client.get(page), "A day of ")
        Bowl.objects.filter(client=kofi, meal__name="Breakfast").delete()
        self.assertNotContains(self.client.get(page), "A day of ")
