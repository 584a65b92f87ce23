"""The record of a client: kept, measured, exported, deleted."""

from __future__ import annotations

import json

from django.urls import reverse

from roundpantry.clients.models import Client
from roundpantry.demo.tests.support import WithDemo

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
        self.assertNotContains(self.client.get(reverse("today:today")), ">Maren Okafor</a>")
        self.assertContains(
            self.client.get(reverse("today:today"), {"archived": ""}), ">Maren Okafor</a>"
        )
        self.client.post(reverse("clients:delete", args=[client.pk]), {"name": "somebody"})
        self.assertTrue(Client.objects.filter(pk=client.pk).exists())
        self.client.post(reverse("clients:delete", args=[client.pk]), {"name": "Maren Okafor"})
        self.assertFalse(Client.objects.filter(pk=client.pk).exists())
