"""How state is changed, for every app: each service reads anew and holds the pen; a form is
answered once.
"""

from __future__ import annotations

import inspect
from importlib import import_module

from django.test import RequestFactory, SimpleTestCase
from django.urls import reverse

from roundpantry.bowls import services as bowl_services
from roundpantry.bowls.models import Bowl, BowlPart
from roundpantry.clients.models import Client
from roundpantry.counter.models import SentForm
from roundpantry.counter.state_changes import MARK, GoneError
from roundpantry.demo.tests.support import HTMX, WithDemo

MODULES = [
    f"roundpantry.{app}.services"
    for app in ("clients", "targets", "shelf", "batches", "bowls", "weeks")
]
CHANGE_NOTHING = {  # what reads, or turns values into values
    "roundpantry.targets.services": {"same", "overridden", "plan_or_none"},
    "roundpantry.batches.services": {"read_pasted", "food_named"},
    "roundpantry.bowls.services": {
        "read_amount",
        "remember",
    },  # remember: only ever a part of another change
    "roundpantry.weeks.services": {
        "week_start",
        "left_of",
        "waiting_searches",
        "searching",
        "next_search",
        "version_begun",
    },
}
AGAINST_A_REVISION = {
    "act",
    "take_in",
    "store",
}  # of a week: refused where the week is no longer the one that was seen


class EveryService(SimpleTestCase):
    """A service that is written tomorrow is looked at too."""

    def test_each_runs_as_one_change_or_against_a_revision(self) -> None:
        unguarded = []
        for name in MODULES:
            module = import_module(name)
            for what, one in inspect.getmembers(module, inspect.isfunction):
                own = inspect.unwrap(one).__module__ == name and not what.startswith("_")
                known = CHANGE_NOTHING.get(name, set()) | (
                    AGAINST_A_REVISION if name.endswith("weeks.services") else set()
                )
                if own and what not in known and not hasattr(one, MARK):
                    unguarded.append(f"{name}.{what}")
        self.assertEqual(unguarded, [])


class OldRows(WithDemo):
    """A page that was opened a while ago."""

    def test_a_step_from_an_old_page_counts_on_top_of_a_newer_one(self) -> None:
        part = self.bowl.parts.filter(unit="cup").first()
        before, old = part.amount, BowlPart.objects.get(pk=part.pk)
        bowl_services.step_portion(self.bowl, part, 1)
        bowl_services.step_portion(Bowl.objects.get(pk=self.bowl.pk), old, 1)
        self.assertAlmostEqual(
            BowlPart.objects.get(pk=part.pk).amount, before + 2 * 0.25
        )  # a cup is turned by quarters

    def test_what_was_removed_meanwhile_is_said_to_be_gone(self) -> None:
        old = Bowl.objects.get(pk=self.bowl.pk)
        bowl_services.remove_bowl(self.bowl)
        with self.assertRaises(GoneError):
            bowl_services.lock_part(old, BowlPart(bowl=old, pk=1))

    def test_an_answer_is_kept_for_its_practitioner_alone(self) -> None:
        given = {
            "name": "Wren Once",
            "sex": "female",
            "age_years": "40",
            "height_cm": "165",
            "weight_kg": "70",
            "once": "t",
        }
        first = self.client.post(reverse("clients:new"), given)
        self.client.force_login(self.joon)
        second = self.client.post(reverse("clients:new"), given)
        self.assertNotEqual(first.url, second.url)
        self.assertEqual(Client.objects.filter(name="Wren Once").count(), 2)
        self.assertEqual(SentForm.objects.filter(token="t").count(), 2)

    def test_every_form_that_makes_something_carries_a_token(self) -> None:
        client = Client.objects.filter(practitioner=self.petra).first()
        batch = self.petra.batches.first()
        for where in (
            reverse("clients:new"), reverse("clients:schools"), reverse("batches:new"),
            reverse("bowls:list", args=[client.pk]),
            reverse("weeks:list", args=[client.pk]), reverse("shelf:label-new"),
            reverse("batches:detail", args=[batch.pk]),
            reverse("batches:portions", args=[batch.pk]), reverse("batches:fit", args=[batch.pk]),
            self.url,
            reverse("targets:edit", args=[client.pk]),
        ):  # fmt: skip
            self.assertContains(self.client.get(where), 'name="once"', msg_prefix=where)

    def test_a_line_sent_twice_is_put_in_once(self) -> None:
        batch = self.petra.batches.first()
        lines = batch.lines.count()
        for _ in range(2):
            self.client.post(
                reverse("batches:add-line", args=[batch.pk]),
                {"text": "30 g kale", "once": "line"},
                **HTMX,
            )
        self.assertEqual(batch.lines.count(), lines + 1)


class Undo(WithDemo):
    """Steps back that cannot be taken are said, and passed over."""

    def test_a_step_that_held_a_removed_batch_is_passed_over(self) -> None:
        batch = self.petra.batches.filter(
            servings__isnull=False, bowl_parts__isnull=True, used_in__isnull=True
        ).first()
        kale = self.bowl.parts.filter(batch__isnull=True).first()
        bowl_services.step_portion(self.bowl, kale, 1)
        put_in = bowl_services.add_batch(self.bowl, batch)
        bowl_services.remove_part(self.bowl, put_in)
        batch.delete()
        amount = BowlPart.objects.get(pk=kale.pk).amount
        answer = self.client.post(reverse("bowls:undo", args=[self.bowl.pk]), **HTMX)
        self.assertContains(
            answer, "can&#x27;t be undone, because a batch in it has been removed", status_code=422
        )
        self.assertFalse(self.bowl.parts.filter(batch_id=put_in.batch_id).exists())
        self.client.post(reverse("bowls:undo", args=[self.bowl.pk]), **HTMX)
        self.assertNotEqual(BowlPart.objects.get(pk=kale.pk).amount, amount)


class Requests(WithDemo):
    """What every answer carries."""

    def test_nothing_of_a_person_logged_in_is_kept_by_a_cache(self) -> None:
        for where in (
            self.url,
            reverse("today:today"),
            reverse("shelf:export-csv"),
            reverse("bowls:figures", args=[self.bowl.pk]),
        ):
            self.assertIn("no-store", self.client.get(where)["Cache-Control"], where)

    def test_an_error_shows_its_number_and_the_log_has_it_without_words(self) -> None:
        from unittest import mock

        self.client.raise_request_exception = False
        secret = "Maren Okafor has told"
        with (
            mock.patch("roundpantry.bowls.bench_page.bench", side_effect=RuntimeError(secret)),
            self.assertLogs("django.request", "ERROR") as log,
        ):
            answer = self.client.get(self.url)
        self.assertEqual(answer.status_code, 500)
        number = answer["X-Request-Id"]
        self.assertIn(number.encode(), answer.content)
        from roundpantry.config.logs import WithoutWords

        written = WithoutWords().format(log.records[0])
        self.assertIn(number, written)
        self.assertIn("RuntimeError", written)
        self.assertIn("bowls/views.py", written)
        self.assertNotIn("Maren", written)

    def test_control_characters_are_left_out_where_they_are_typed(self) -> None:
        given = {
            "name": "Wr\x01en\x1b Lin\u202en",
            "sex": "female",
            "age_years": "40",
            "height_cm": "165",
            "weight_kg": "70",
        }
        self.client.post(reverse("clients:new"), given)
        self.assertTrue(Client.objects.filter(name="Wren Linn").exists())

    def test_a_form_in_another_character_set_is_refused(self) -> None:
        for kind in ("utf-7", "utf-16", "nonsense"):
            answer = self.client.generic(
                "POST",
                self.url,
                b"a=b",
                content_type=f"application/x-www-form-urlencoded; charset={kind}",
            )
            self.assertEqual(answer.status_code, 400, kind)
        self.assertEqual(RequestFactory().get("/").content_params, {})
