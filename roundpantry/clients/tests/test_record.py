"""The record of a client: kept, measured, exported, deleted."""

from __future__ import annotations

import json
import re

from django.urls import reverse

from roundpantry.clients.models import Client
from roundpantry.clients.records import person_of_client
from roundpantry.demo.tests.support import WithDemo
from roundpantry.targets.records import proposal_of

FACTS = {
    "name": "Edda Rosenkilde", "sex": "female", "age_years": "34", "height_cm": "165",
    "weight_kg": "70", "activity": "low-active",
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
        measured = {one.kind: one.value for one in made.measurements.all()}
        self.assertEqual(measured, {"height": 165, "weight": 70})

    def test_what_cannot_be_is_said_at_the_field_and_kept(self) -> None:
        for changes, words in (
            ({"height_cm": "17"}, "possible range"),
            ({"weight_kg": "7000"}, "possible range"),
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
        self.client.post(
            reverse("clients:new"), {**FACTS, "height_cm": "5 ft 5", "weight_kg": "154 lb"}
        )
        made = Client.objects.get(name="Edda Rosenkilde")
        self.assertEqual((float(made.height_cm), float(made.weight_kg)), (165.1, 69.9))
        answer = self.client.post(reverse("clients:new"), {**FACTS, "weight_kg": "heavy"})
        self.assertContains(answer, "was not understood as a weight", status_code=422)
        self.assertContains(answer, 'value="heavy"', status_code=422)

    def test_what_a_word_reaches_is_said_while_it_is_typed(self) -> None:
        answer = self.client.post(
            reverse("shelf:never-eaten"), {"dislikes": "milk, okra; <b>x</b>, avacado"}
        )
        page = answer.content.decode()
        self.assertIn("dairy and not what is made of plants", page)
        self.assertIn("Okra, raw", page)
        self.assertIn("no food of the shelf is called that", page)
        self.assertNotIn("<b>", page)
        self.assertEqual(self.client.get(reverse("shelf:never-eaten")).status_code, 405)

    def test_a_usual_day_is_added_up_while_it_is_typed(self) -> None:
        """A teaspoon of salt is 6 g, of which 38.8 % are sodium: 2,325 mg (USDA SR Legacy)."""
        day = "Breakfast: 1 tsp salt\nLunch: 100 g raw kale; a biscuit <b>x</b>"
        page = self.client.post(reverse("shelf:usual-day"), {"usual_day": day}).content.decode()
        sodium = float(re.search(r"Sodium at least ([\d,]+) mg", page)[1].replace(",", ""))
        self.assertAlmostEqual(sodium, 2325 + 53, delta=30)
        self.assertIn("a biscuit &lt;b&gt;x&lt;/b&gt;", page)
        self.assertEqual(self.client.post(reverse("shelf:usual-day"), {}).content.strip(), b"")
        self.assertEqual(self.client.get(reverse("shelf:usual-day")).status_code, 405)

    def test_bowels_and_drinks_are_asked_and_shown(self) -> None:
        client = Client.objects.filter(practitioner__username="petra").first()
        Client.objects.filter(pk=client.pk).update(bowels="every third day", fluids="3 cups of tea")
        page = self.client.get(reverse("clients:detail", args=[client.pk]))
        self.assertContains(page, "Bowels: every third day.")
        self.assertContains(page, "Drinks: 3 cups of tea.")

    def test_a_long_list_is_cut_where_it_is_looked_up(self) -> None:
        whole = self.client.post(reverse("shelf:never-eaten"), {"dislikes": "okra " * 9000})
        self.assertEqual(whole.status_code, 200)

    def test_a_slip_is_asked_about_and_nothing_is_taken_silently(self) -> None:
        for changes, words in (
            ({"weight_kg": "7.14"}, "71 kg"),
            ({"height_cm": "65", "weight_kg": "154"}, "exchanged"),
            ({"weight_kg": "400"}, "BMI of 146.9"),
        ):
            answer = self.client.post(reverse("clients:new"), {**FACTS, **changes})
            self.assertContains(answer, words, status_code=422)
            self.assertContains(answer, 'type="checkbox" name="sure"', status_code=422)
        self.assertFalse(Client.objects.filter(name="Edda Rosenkilde").exists())
        sure = {**FACTS, "weight_kg": "30", "sure": "on"}
        self.client.post(reverse("clients:new"), sure)
        made = Client.objects.get(name="Edda Rosenkilde")
        self.assertEqual(made.weight_kg, 30)
        change = reverse("clients:change", args=[made.pk])
        same = self.client.post(change, {**FACTS, "weight_kg": "30", "notes": "thin"})
        self.assertEqual(same.status_code, 302)  # what was answered is not asked again
        answer = self.client.post(change, {**FACTS, "weight_kg": "66"})
        self.assertContains(answer, "Perhaps 66 is in pounds", status_code=422)

    def test_at_risk_of_refeeding_there_is_no_energy_target_and_it_is_said(self) -> None:
        thin = {**FACTS, "weight_kg": "41", "goal": "gain", "sure": "on"}
        self.client.post(reverse("clients:new"), thin)
        made = Client.objects.get(name="Edda Rosenkilde")
        page = self.client.get(reverse("clients:detail", args=[made.pk]))
        self.assertContains(page, "Risk of refeeding")
        self.assertIsNone(proposal_of(made).target("energy_kcal"))
        set_by = {"clinician_energy_kcal": "410", "clinician_energy_by": "Dr M. Example"}
        change = reverse("clients:change", args=[made.pk])
        self.assertContains(
            self.client.post(change, {**thin, **set_by}), "both a name and a date", status_code=422
        )
        self.client.post(change, {**thin, **set_by, "clinician_energy_on": "2026-11-02"})
        made.refresh_from_db()
        self.assertEqual(proposal_of(made).target("energy_kcal").window.high, 430)

    def test_weight_that_was_lost_is_kept_in_kg_and_counted_in_per_cent(self) -> None:
        lost = {"lost_kg": "5", "lost_unintended": "on", "appetite": "poor", "weight_kg": "57"}
        self.client.post(reverse("clients:new"), {**FACTS, **lost})
        made = Client.objects.get(name="Edda Rosenkilde")
        self.assertAlmostEqual(person_of_client(made).loss_percent, 100 * 5 / 62)
        page = self.client.get(reverse("clients:detail", args=[made.pk]))
        self.assertContains(page, "without wanting it")
        self.assertContains(page, "Small, energy-rich meals")

    def test_age_from_the_date_of_birth(self) -> None:
        self.client.post(
            reverse("clients:new"), {**FACTS, "age_years": "", "birth_date": "1990-01-01"}
        )
        self.assertGreaterEqual(Client.objects.get(name="Edda Rosenkilde").age_years, 36)

    def test_archive_export_and_delete(self) -> None:
        client = Client.objects.get(name="Maren Okafor")
        exported = json.loads(self.client.get(reverse("clients:export", args=[client.pk])).content)
        self.assertEqual(
            (
                exported["name"],
                len(exported["tables"]["bowls.bowl"]),
                len(exported["tables"]["targets.targetset"]),
            ),
            ("Maren Okafor", 6, 1),
        )
        self.client.post(reverse("clients:archive", args=[client.pk]))
        self.assertNotContains(self.client.get(reverse("today:today")), ">Maren Okafor</button>")
        self.assertContains(
            self.client.get(reverse("today:today"), {"archived": ""}), ">Maren Okafor</button>"
        )
        self.client.post(reverse("clients:delete", args=[client.pk]), {"name": "somebody"})
        self.assertTrue(Client.objects.filter(pk=client.pk).exists())
        self.client.post(reverse("clients:delete", args=[client.pk]), {"name": "Maren Okafor"})
        self.assertFalse(Client.objects.filter(pk=client.pk).exists())
