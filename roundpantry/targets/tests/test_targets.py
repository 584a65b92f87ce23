"""Targets through their pages: versions, schools, what a clinician sets."""

from __future__ import annotations

from django.urls import reverse

from roundpantry.bowls.models import Bowl
from roundpantry.clients.models import Client, OwnSchool
from roundpantry.counter import clock
from roundpantry.demo.tests.support import WithDemo
from roundpantry.weeks.gate import obstacles
from roundpantry.weeks.week_snapshot import snapshot_of

FACTS = {
    "name": "Edda Rosenkilde", "sex": "female", "age_years": "34", "height_cm": "165",
    "weight_kg": "70", "activity": "low-active",
    "goal": "lose", "pace_kg_per_week": "0.5", "school": "balanced-bowl",
}  # fmt: skip


class Targets(WithDemo):
    """Overrides, versions, schools."""

    def test_an_override_needs_a_reason(self) -> None:
        self.client.post(reverse("clients:new"), FACTS)
        made = Client.objects.get(name="Edda Rosenkilde")
        address = reverse("targets:edit", args=[made.pk])
        typed = {
            "energy_kcal-low": "1400",
            "energy_kcal-high": "1500",
            "meal0-name": "All",
            "meal0-share": "100",
        }
        answer = self.client.post(address, typed)
        self.assertEqual(answer.status_code, 422)
        self.assertContains(answer, "energy differ", status_code=422)
        self.client.post(address, {**typed, "reason": "She asked for it after trying."})
        window = made.target_sets.get().windows.get(key="energy_kcal")
        self.assertTrue(window.overridden)
        self.assertContains(
            self.client.get(reverse("clients:detail", args=[made.pk])),
            "She asked for it after trying.",
        )

    def test_shares_must_add_up(self) -> None:
        client = Client.objects.get(name="Maren Okafor")
        typed = {
            "fibre_g-low": "39",
            "reason": "x",
            "meal0-name": "A",
            "meal0-share": "100",
            "meal0-protein": "90",
        }
        self.assertContains(
            self.client.post(reverse("targets:edit", args=[client.pk]), typed),
            "protein add up to 90 %",
            status_code=422,
        )

    def test_a_changed_weight_proposes_a_version_and_an_old_bowl_keeps_its_windows(self) -> None:
        client, bowl = (
            Client.objects.get(name="Amina Farouk-Hale"),
            Bowl.objects.get(name="Half-root plate"),
        )
        before = self.client.get(reverse("bowls:bench", args=[bowl.pk])).content.decode()
        facts = {
            f: getattr(client, f)
            for f in (
                "name",
                "sex",
                "age_years",
                "height_cm",
                "activity",
                "goal",
                "pace_kg_per_week",
                "school",
            )
        }
        self.client.post(
            reverse("clients:change", args=[client.pk]),
            {**facts, "weight_kg": "80", "conditions": client.conditions, "sure": "on"},
        )
        client.refresh_from_db()
        weighed = client.measurements.filter(kind="weight", day=clock.today())
        self.assertEqual([one.value for one in weighed], [80])
        self.assertEqual(client.target_sets.count(), 1)  # a record never writes targets by itself
        page = self.client.get(reverse("clients:detail", args=[client.pk]))
        self.assertContains(page, "Nothing was changed by itself")
        week = client.weeks.first()
        if week is not None:
            keys = [one.key for one in obstacles(snapshot_of(week))]
            self.assertIn("old-targets", keys)
        self.client.post(reverse("targets:renew", args=[client.pk]))
        self.assertEqual(client.target_sets.count(), 2)
        page = self.client.get(reverse("clients:detail", args=[client.pk]))
        self.assertNotContains(page, "Nothing was changed by itself")
        old, new = (client.target_sets.get(number=n).windows.get(key="energy_kcal") for n in (1, 2))
        self.assertEqual(
            (old.low, old.high), (new.low, new.high)
        )  # overridden at the first talk: stays
        wants = before.split("target </span>")[1][:16]
        self.assertIn(
            wants, self.client.get(reverse("bowls:bench", args=[bowl.pk])).content.decode()
        )

    def test_two_schools(self) -> None:
        client = Client.objects.get(name="Amina Farouk-Hale")
        page = self.client.get(
            reverse("targets:schools", args=[client.pk]), {"with": "training"}
        ).content.decode()
        self.assertIn("Starch-centred, now", page)
        self.assertIn("differs", page)
        self.assertEqual(
            self.client.get(
                reverse("targets:schools", args=[client.pk]), {"with": "moon"}
            ).status_code,
            404,
        )

    def test_intakes_are_watched_over_the_day_and_ceilings_judge_a_plate(self) -> None:
        rower = self.client.get(self.url).content.decode()
        self.assertNotIn('id="level-potassium_mg"', rower)
        keeper = Bowl.objects.get(name="Keeper's barley")
        page = self.client.get(reverse("bowls:bench", args=[keeper.pk])).content.decode()
        self.assertIn('id="level-potassium_mg"', page)
        self.assertIn(
            "at most 0.0 mEq", page
        )  # the school's acid load has no field and is kept as computed

    def test_a_child_is_planned_by_the_equation_of_children(self) -> None:
        self.client.post(
            reverse("clients:new"),
            {**FACTS, "goal": "hold", "age_years": "10", "height_cm": "140", "weight_kg": "33"},
        )
        child = Client.objects.get(name="Edda Rosenkilde")
        self.assertContains(
            self.client.get(reverse("clients:detail", args=[child.pk])),
            "Under 19: growth comes first",
        )
        self.assertEqual(self.client.get(reverse("targets:edit", args=[child.pk])).status_code, 200)
        self.assertEqual(
            self.client.get(reverse("targets:schools", args=[child.pk])).status_code, 200
        )

    def test_a_school_of_ones_own(self) -> None:
        typed = {
            "name": "Harbour school",
            "base": "balanced-bowl",
            "density_high": "1.1",
            "protein_low_g_per_kg": "1.0",
            "protein_high_g_per_kg": "1.4",
        }
        self.assertEqual(
            self.client.post(
                reverse("clients:schools"), {**typed, "density_high": "90"}
            ).status_code,
            422,
        )
        self.assertEqual(
            self.client.post(
                reverse("clients:schools"), {**typed, "protein_high_g_per_kg": ""}
            ).status_code,
            422,
        )
        self.client.post(reverse("clients:schools"), typed)
        key = f"own-{OwnSchool.objects.get().pk}"
        self.client.post(reverse("clients:new"), {**FACTS, "goal": "hold", "school": key})
        made = Client.objects.get(name="Edda Rosenkilde")
        page = self.client.get(reverse("targets:edit", args=[made.pk])).content.decode()
        self.assertIn("at most 1.10", page)
        self.assertIn("More than 98 g is above the usual", page)  # 1.0 to 1.4 g/kg of 70 kg
        OwnSchool.objects.update(practitioner=self.joon)
        self.assertNotContains(self.client.get(reverse("clients:new")), "Harbour school")

    def test_a_window_that_cannot_be_met_is_seen_at_once(self) -> None:
        client = Client.objects.get(name="Maren Okafor")
        typed = {
            "energy_kcal-high": "400", "protein_g-low": "120", "protein_g-high": "150",
            "reason": "x", "meal0-name": "A",
            "meal0-share": "50", "meal0-protein": "95", "meal1-name": "B", "meal1-share": "50",
            "meal1-protein": "5",
        }  # fmt: skip
        self.client.post(reverse("targets:edit", args=[client.pk]), typed)
        page = self.client.get(reverse("clients:detail", args=[client.pk])).content.decode()
        self.assertIn("more than the energy maximum", page)
        self.assertIn(
            "B provides 6–8 g protein; the Training approach asks for 22–29 g a meal", page
        )  # 0.3 to 0.4 g/kg of 72 kg

    def test_what_the_clinician_must_set_is_asked_for_until_it_is_signed(self) -> None:
        client = Client.objects.get(name="Tobias Lindqvist")
        self.assertContains(
            self.client.get(reverse("clients:detail", args=[client.pk])), "Dr Eilidh Varga"
        )
        client.target_sets.update(clinician="")
        self.assertContains(
            self.client.get(reverse("clients:detail", args=[client.pk])), "is not recorded"
        )
