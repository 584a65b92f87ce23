"""Windows opened at different times, each with the rows as they were then, press in every order:
nothing is lost or doubled.

The services are called with rows that have grown old, which is what two windows at once come to.
"""

from __future__ import annotations

from unittest import mock

from django.urls import reverse
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from hypothesis.extra.django import TestCase

from dietetics.balance.answer import balance as worked_out
from dietetics.errors import DieteticsError
from hostile import LONG
from roundpantry.batches import services as batch_services
from roundpantry.batches.models import Batch
from roundpantry.bowls import balance_services
from roundpantry.bowls import services as bowl_services
from roundpantry.bowls.models import Bowl
from roundpantry.bowls.records import snapshot
from roundpantry.clients.models import Client
from roundpantry.counter.state_changes import GoneError
from roundpantry.demo.tests.practice import load_practice
from roundpantry.shelf import services as shelf_services
from roundpantry.shelf.models import ImportDraft, Label
from roundpantry.weeks import services as week_services
from roundpantry.weeks.cell_changes import SentChange
from roundpantry.weeks.models import Week

TRIES = settings(
    max_examples=150 if LONG else 8,
    deadline=None,
    suppress_health_check=[HealthCheck.too_slow, HealthCheck.differing_executors],
)
WINDOWS = 3


class Interleavings(TestCase):
    """Property tests: what was answered has arrived, in whatever order."""

    @classmethod
    def setUpTestData(cls) -> None:
        load_practice()

    @TRIES
    @given(
        st.lists(
            st.tuples(
                st.integers(0, WINDOWS - 1), st.sampled_from(("more", "less", "lock", "undo"))
            ),
            max_size=8,
        )
    )
    def test_every_step_on_a_bowl_arrives_and_every_undo_takes_one_back(
        self, presses: list[tuple[int, str]]
    ) -> None:
        pk = Bowl.objects.get(name="Tideline bowl").pk
        windows = [
            Bowl.objects.prefetch_related("parts").select_related("client__practitioner").get(pk=pk)
            for _ in range(WINDOWS)
        ]
        parts = [list(bowl.parts.all())[0] for bowl in windows]
        states = [snapshot(Bowl.objects.get(pk=pk))]
        for window, press in presses:
            bowl, part = windows[window], parts[window]
            if press == "undo":
                bowl_services.undo(bowl)
                states = states[:-1] if len(states) > 1 else states
                self.assertEqual(snapshot(Bowl.objects.get(pk=pk)), states[-1])
                continue
            before = Bowl.objects.get(pk=pk).parts.get(pk=part.pk)
            if press == "lock":
                bowl_services.lock_part(bowl, part)
            else:
                bowl_services.step_portion(bowl, part, 1 if press == "more" else -1)
            after = Bowl.objects.get(pk=pk).parts.get(pk=part.pk)
            if press == "lock":
                self.assertEqual((after.locked, after.amount), (not before.locked, before.amount))
            else:
                self.assertEqual(after.locked, before.locked)
                self.assertTrue(
                    after.amount > before.amount
                    if press == "more"
                    else after.amount <= before.amount
                )
            states.append(snapshot(Bowl.objects.get(pk=pk)))

    @TRIES
    @given(st.permutations(("water", "vessel", "servings", "yield")))
    def test_what_each_window_says_of_a_batch_is_kept(self, order: list[str]) -> None:
        pk = Batch.objects.filter(practitioner__username="petra", servings__isnull=False).first().pk
        windows = {name: Batch.objects.get(pk=pk) for name in order}
        for name in order:
            batch = windows[name]
            if name == "water":
                batch_services.set_water(batch, 120.0)
            elif name == "vessel":
                batch_services.set_vessel(batch, "ladle", "180 g", 3)
            elif name == "servings":
                batch_services.set_servings(batch, 7.0)
            else:
                batch_services.set_yield(batch, "1400 g", Batch.objects.get(pk=pk).servings)
        now = Batch.objects.get(pk=pk)
        self.assertEqual(
            (now.water_g, now.vessel, now.vessel_g, now.keeps_days), (120.0, "ladle", 180.0, 3)
        )
        self.assertEqual((now.servings, now.yield_g), (7.0, 1400.0))

    @TRIES
    @given(st.integers(2, 6))
    def test_a_handed_over_week_begins_one_new_version_however_many_windows_change_it(
        self, presses: int
    ) -> None:
        week = Week.objects.filter(client__practitioner__username="petra", frozen_at=None).first()
        week_services.hand_over(week, week.revision, {"days": []}, "")
        windows = [Week.objects.get(pk=week.pk) for _ in range(presses)]
        refused = 0
        for window in windows:
            try:
                week_services.act(window, "clear", SentChange(window.revision, day=0, meal=0))
            except week_services.MovedOnError:
                refused += 1
        versions = Week.objects.filter(client=week.client, start=week.start).count()
        self.assertEqual((versions, refused), (2, presses - 1))

    def test_a_week_is_not_handed_over_with_the_figures_of_an_older_one(self) -> None:
        week = Week.objects.filter(client__practitioner__username="petra", frozen_at=None).first()
        old = Week.objects.get(pk=week.pk)
        week_services.act(week, "clear", SentChange(week.revision, day=0, meal=0))
        with self.assertRaises(week_services.MovedOnError):
            week_services.hand_over(old, week.revision, {"days": []}, "")
        self.assertIsNone(Week.objects.get(pk=week.pk).frozen_at)

    def test_a_balance_is_not_stored_over_a_bowl_that_was_changed_while_it_was_worked_out(
        self,
    ) -> None:
        pk = Bowl.objects.get(name="Tideline bowl").pk
        bowl = (
            Bowl.objects.prefetch_related("parts").select_related("client__practitioner").get(pk=pk)
        )
        first = next(iter(bowl.parts.all()))

        def meanwhile(*asked: object) -> object:
            answer = worked_out(*asked)
            bowl_services.remove_part(
                Bowl.objects.get(pk=pk), Bowl.objects.get(pk=pk).parts.get(pk=first.pk)
            )
            return answer

        with (
            mock.patch.object(balance_services, "balance", meanwhile),
            self.assertRaises(DieteticsError) as caught,
        ):
            balance_services.balance_bowl(bowl, even_impossible=True)
        self.assertEqual(caught.exception.code, "bowl-moved-on")
        parts = Bowl.objects.get(pk=pk).parts
        self.assertFalse(parts.filter(pk=first.pk).exists())
        self.assertEqual(Bowl.objects.get(pk=pk).changes.first().what, "an ingredient removed")

    @TRIES
    @given(st.integers(2, 5))
    def test_an_upload_is_stored_once_and_a_second_window_is_told(self, presses: int) -> None:
        petra = Client.objects.filter(practitioner__username="petra").first().practitioner
        rows = [
            {
                "name": "Made-up oats",
                "basis": "100 g",
                "values": {"energy_kcal": 370.0},
                "label": None,
            }
        ]
        draft = ImportDraft.objects.create(practitioner=petra, file_name="x.csv", rows=rows)
        labels = Label.objects.count()
        windows, gone = [ImportDraft.objects.get(pk=draft.pk) for _ in range(presses)], 0
        for window in windows:
            try:
                count = shelf_services.confirm_import(petra, window)
                self.assertEqual(count, 1)
            except GoneError:
                gone += 1
        self.assertEqual((Label.objects.count() - labels, gone), (1, presses - 1))

    def test_a_form_of_a_client_that_was_changed_meanwhile_is_not_stored_over_it(self) -> None:
        client = Client.objects.filter(practitioner__username="petra").first()
        self.client.force_login(client.practitioner)
        page = self.client.get(reverse("clients:change", args=[client.pk]))
        mark = page.context["mark"]
        Client.objects.filter(pk=client.pk).update(notes="noted in another window")
        form = {k: v for k, v in page.context["form"].initial.items() if v not in (None, "")}
        given = {
            **form,
            "notes": "typed here",
            "mark": mark,
            "height_cm": str(client.height_cm),
            "weight_kg": str(client.weight_kg),
        }
        answer = self.client.post(reverse("clients:change", args=[client.pk]), given)
        self.assertContains(answer, "in another window", status_code=422)
        self.assertContains(answer, "typed here", status_code=422)
        self.assertEqual(Client.objects.get(pk=client.pk).notes, "noted in another window")

    def test_a_double_click_makes_one_client_and_leads_there_twice(self) -> None:
        petra = Client.objects.filter(practitioner__username="petra").first().practitioner
        self.client.force_login(petra)
        given = {
            "name": "Wren Doubled",
            "sex": "female",
            "age_years": "40",
            "height_cm": "165",
            "weight_kg": "70",
            "once": "one-token",
        }
        answers = [self.client.post(reverse("clients:new"), given) for _ in range(3)]
        made = Client.objects.filter(name="Wren Doubled")
        self.assertEqual(made.count(), 1)
        self.assertEqual(
            {answer.url for answer in answers}, {reverse("targets:edit", args=[made.get().pk])}
        )
        bad = self.client.post(
            reverse("clients:new"), {**given, "age_years": "", "once": "another"}
        )
        self.assertEqual(bad.status_code, 422)
        mended = self.client.post(reverse("clients:new"), {**given, "once": "another"})
        self.assertEqual((mended.status_code, made.count()), (302, 2))
