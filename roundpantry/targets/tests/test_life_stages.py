"""Pregnancy, childhood, kidneys and supplements through the pages: what is typed, what is held
back, what is asked.
"""

from __future__ import annotations

from datetime import date

from django.urls import reverse

from roundpantry.clients.models import Client
from roundpantry.clients.records import supplements_of
from roundpantry.clients.services import change_client
from roundpantry.counter import clock
from roundpantry.demo.tests.support import WithDemo
from roundpantry.targets.records import newest_set
from roundpantry.targets.renewal import proposed_changes
from roundpantry.targets.services import renew_targets, set_targets

FACTS = {
    "name": "Runa Castellane", "sex": "female", "age_years": "30", "height_cm": "165",
    "weight_kg": "70", "activity": "low-active",
    "goal": "lose", "pace_kg_per_week": "0.5", "school": "balanced-bowl",
}  # fmt: skip
PREGNANT = {**FACTS, "pregnant": "on", "pregnancy_week": "24", "weight_before_kg": "64"}
# NASEM 2023, low active: 693.35 - 2.04*30 + 5.73*165 + 10.20*70 + 9.16*24 + 200 = 2,711 kcal; 5 %
# less, in tens: 2,580
LEAST_KCAL = "2580"


class Stages(WithDemo):
    """A client as somebody types one."""

    def made(self, facts: dict[str, object]) -> Client:
        """A new client of these facts."""
        answer = self.client.post(reverse("clients:new"), facts)
        self.assertEqual(answer.status_code, 302, answer.content.decode()[:200])
        return Client.objects.get(name="Runa Castellane")

    def test_a_pregnant_client_who_wants_to_lose_gets_what_she_needs(self) -> None:
        runa = self.made(PREGNANT)
        page = self.client.get(reverse("targets:edit", args=[runa.pk]))
        self.assertContains(page, f'value="{LEAST_KCAL}"')
        self.assertContains(page, "A deficit of 550 kcal a day was requested but not applied")
        self.assertContains(
            self.client.get(reverse("clients:detail", args=[runa.pk])),
            "The requested deficit is not applied (pregnancy)",
        )

    def test_a_note_named_and_dated_applies_it(self) -> None:
        for half in ({"deficit_by": "Dr M. Example"}, {"deficit_on": "2026-11-02"}):
            answer = self.client.post(reverse("clients:new"), {**PREGNANT, **half})
            self.assertContains(answer, "needs both a name and a date", status_code=422)
        runa = self.made({**PREGNANT, "deficit_by": "Dr M. Example", "deficit_on": "2026-11-02"})
        page = self.client.get(reverse("targets:edit", args=[runa.pk]))
        self.assertContains(page, 'value="2050"')  # 2,711 - 550 = 2,161, less 5 %, in tens
        self.assertContains(
            self.client.get(reverse("clients:detail", args=[runa.pk])), "Dr M. Example, 2026-11-02"
        )

    def test_weeks_belong_to_their_stage(self) -> None:
        runa = self.made(
            {**PREGNANT, "pregnant": "", "breastfeeding": "on", "breastfeeding_month": "3"}
        )
        self.assertEqual(
            (runa.pregnancy_week, runa.weight_before_kg, runa.breastfeeding_month), (None, None, 3)
        )
        answer = self.client.post(
            reverse("clients:new"), {**PREGNANT, "name": "Other", "pregnancy_week": "60"}
        )
        self.assertContains(answer, "pregnancy", status_code=422)

    def test_a_window_below_what_is_needed_asks_for_a_clinician(self) -> None:
        runa = self.made(PREGNANT)
        typed = {
            "energy_kcal-low": "1700", "energy_kcal-high": "1900", "energy_kcal-importance": "must",
            "meal0-name": "Lunch",
            "meal0-share": "100", "reason": "She asked for it.",
        }  # fmt: skip
        address = reverse("targets:edit", args=[runa.pk])
        self.assertContains(
            self.client.post(address, typed), "is a deficit, which is held back", status_code=422
        )
        signed = {**typed, "clinician": "Dr M. Example", "clinician_on": "2026-11-02"}
        self.assertEqual(self.client.post(address, signed).status_code, 302)

    def test_the_week_and_the_month_go_on_with_the_calendar(self) -> None:
        with clock.set_to(clock.at(date(2026, 12, 1))):
            runa = self.made({**PREGNANT, "pregnancy_week": "22"})
        for day, week in (
            (date(2026, 12, 7), 22),
            (date(2026, 12, 15), 24),
            (date(2028, 1, 1), 42),
        ):
            with clock.set_to(clock.at(day)):
                self.assertEqual(Client.objects.get(pk=runa.pk).pregnancy_week, week)
        with clock.set_to(clock.at(date(2026, 12, 15))):
            change_client(Client.objects.get(pk=runa.pk), notes="seen")  # counted once, not twice
            self.assertEqual(Client.objects.get(pk=runa.pk).pregnancy_week, 24)
            change_client(runa, pregnant=False, pregnancy_week=None, breastfeeding=True,
                          breastfeeding_month=1)  # fmt: skip
        for day, month in ((date(2027, 1, 14), 1), (date(2027, 1, 15), 2), (date(2027, 3, 31), 4)):
            with clock.set_to(clock.at(day)):
                self.assertEqual(Client.objects.get(pk=runa.pk).breastfeeding_month, month)

    def test_a_window_typed_before_does_not_survive_a_pregnancy(self) -> None:
        runa = self.made(FACTS)
        plan = newest_set(runa)
        self.assertIsNone(plan)
        from dietetics.targets.windows import Window

        set_targets(
            runa,
            [Window("energy_kcal", 1400, 1500, "must")],
            [("Lunch", "", 100, 100)],
            "as she asked",
        )
        change_client(runa, pregnant=True, pregnancy_week=24, weight_before_kg=64.0)
        self.assertIn("energy_kcal", [after.key for _, after in proposed_changes(runa) if after])
        renew_targets(runa)
        self.assertEqual(newest_set(runa).windows.get(key="energy_kcal").low, float(LEAST_KCAL))

    def test_nothing_of_a_kidney_client_is_a_must_before_a_clinician_is_named(self) -> None:
        runa = self.made(
            {**FACTS, "goal": "hold", "conditions": ["dialysis"], "school": "kidney-aware"}
        )
        typed = {
            "protein_g-low": "70", "protein_g-high": "84", "protein_g-importance": "must",
            "meal0-name": "Lunch", "meal0-share": "100",
        }  # fmt: skip
        address = reverse("targets:edit", args=[runa.pk])
        self.assertContains(self.client.post(address, typed), "Enter who and when", status_code=422)
        self.client.post(address, {**typed, "protein_g-importance": "should"})
        stored = newest_set(runa).windows.get(key="protein_g")
        self.assertEqual((stored.importance, stored.needs_clinician), ("should", True))
        self.client.post(
            address, {**typed, "clinician": "Dr M. Example", "clinician_on": "2026-11-02"}
        )
        self.assertEqual(newest_set(runa).windows.get(key="protein_g").importance, "must")

    def test_what_a_school_leaves_out_is_said_in_words(self) -> None:
        maren = self.bowl.client
        page = self.client.get(
            reverse("targets:schools", args=[maren.pk]) + "?with=greens-and-beans"
        )
        self.assertContains(page, "Excludes oil, foods made with oil, sweetener.")
        self.assertContains(page, "Limits grain, added salt, heavily processed food.")
        kidney = self.client.get(reverse("targets:schools", args=[maren.pk]) + "?with=kidney-aware")
        self.assertContains(kidney, "Excludes phosphate additives, potassium chloride.")
        self.assertContains(
            self.client.get(reverse("clients:schools")), "Excludes oil, foods made with oil."
        )

    def test_supplements_of_any_name_are_kept_and_what_is_not_counted_is_said(self) -> None:
        listed = "B12 50 µg daily, DHA 300 mg, multivitamin, electrolyte drink after sport"
        runa = self.made({**FACTS, "supplements": listed})
        page = self.client.get(reverse("clients:detail", args=[runa.pk]))
        self.assertContains(page, f"Supplements: {listed}")
        self.assertContains(page, "kept and not counted")
        for words in ("DHA 300 mg", "multivitamin", "electrolyte drink"):
            self.assertContains(page, f"“{words}")
        self.assertEqual(supplements_of(runa), {"vitamin_b12_ug": 50.0})

    def test_a_supplement_counts_in_the_day_and_against_the_upper_level(self) -> None:
        maren = self.bowl.client
        week = maren.weeks.first()
        day = reverse("weeks:day", args=[week.pk, 0])
        self.assertContains(self.client.get(day), "150 µg supplement")
        self.assertNotContains(self.client.get(day), "above the upper level")
        maren.supplements = "iodine 1200 µg daily"
        maren.save()
        self.assertContains(self.client.get(day), "above the upper level of 1,100 µg")
        self.assertContains(
            self.client.get(reverse("weeks:week", args=[week.pk])),
            "above the upper level of 1,100 µg",
        )
