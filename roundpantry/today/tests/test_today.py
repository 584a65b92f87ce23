"""Today: finding, sorting and paging clients, and what each needs."""

from __future__ import annotations

from datetime import timedelta

from django.contrib.auth import get_user_model
from django.db import connection
from django.test.utils import CaptureQueriesContext
from django.urls import reverse

from roundpantry.clients.models import Client, Measurement
from roundpantry.clients.services import add_client
from roundpantry.counter import clock
from roundpantry.demo.tests.support import HTMX, ReadsWords, WithDemo
from roundpantry.weeks.models import Week

FACTS = {"sex": "female", "age_years": 40, "height_cm": 165, "weight_kg": 65}


class Clients(WithDemo):
    """The made-up practice."""

    def names(self, **given: str) -> list[str]:
        """The names shown, in their order."""
        page = self.client.get(reverse("today:today"), given)
        return [row.name for row in page.context["rows"]]

    def test_a_name_is_found_by_any_of_its_words_without_accents_and_case(self) -> None:
        add_client(self.petra, name="Zoë Åkesson", **FACTS)
        for words in ("zoe", "AKES", "ake zo", "Zoë"):
            self.assertEqual(self.names(q=words), ["Zoë Åkesson"], words)
        self.assertEqual(self.names(q="nobody"), [])

    def test_only_the_rows_come_while_one_types(self) -> None:
        part = self.client.get(reverse("today:today"), {"q": "maren"}, **HTMX)
        self.assertContains(part, "Maren Okafor")
        self.assertNotContains(part, "<html")

    def test_another_practitioners_clients_are_never_shown(self) -> None:
        theirs = Client.objects.exclude(practitioner=self.petra).first()
        self.assertNotIn(theirs.name, self.names())
        self.assertEqual(self.names(q=theirs.name), [])

    def test_sorted_by_name_by_last_opened_and_by_need(self) -> None:
        names = sorted(
            Client.objects.filter(practitioner=self.petra).values_list("name", flat=True)
        )
        self.assertEqual(self.names(sort="name"), names)
        last = Client.objects.get(name=names[-1])
        self.client.get(reverse("clients:detail", args=[last.pk]))
        self.assertEqual(self.names(sort="opened")[0], names[-1])
        add_client(self.petra, name="Zz without targets", **FACTS)
        pressing = self.names()
        self.assertEqual(pressing[0], "Tobias Lindqvist")  # his potassium is 5.6 mmol/L
        self.assertEqual(pressing[-1], "Kofi Adeyemi-Strand")  # only a week to hand over
        self.assertLess(pressing.index("Zz without targets"), pressing.index("Sunniva Castellanos"))
        self.assertEqual(self.names(sort="needs"), pressing)
        self.assertEqual(self.names(sort="nonsense"), pressing)

    def test_a_red_flag_stands_first_until_a_newer_value_lowers_it(self) -> None:
        pregnant = Client.objects.get(name="Sunniva Castellanos")

        def first_need() -> str:
            page = self.client.get(reverse("today:today"), {"q": "sunniva"})
            return str(page.context["rows"][0].needs[0][0])

        before = first_need()
        self.assertNotIn("Midwife", before)
        for value, days in ((150, 2), (124, 1)):
            Measurement.objects.create(
                client=pregnant,
                kind="systolic",
                value=value,
                day=clock.today() - timedelta(days=days),
            )
            if value == 150:
                flag = first_need()
                self.assertTrue(flag.startswith("Midwife or doctor today: Pregnant and"), flag)
                self.assertIn("150", flag)
        self.assertEqual(first_need(), before)

    def test_archived_clients_have_their_own_page(self) -> None:
        Client.objects.filter(name="Maren Okafor").update(archived=True)
        self.assertNotIn("Maren Okafor", self.names())
        self.assertEqual(self.names(archived="1"), ["Maren Okafor"])

    def test_what_each_needs_leads_to_where_it_is_done(self) -> None:
        client = Client.objects.get(name="Maren Okafor")
        today = clock.today()
        Measurement.objects.filter(client=client).update(day=today - timedelta(days=20))
        Week.objects.filter(client=client).delete()
        page = self.client.get(reverse("today:today"), {"q": "maren"})
        self.assertContains(page, "weigh-in due (20 days)")
        self.assertContains(page, reverse("follow:course", args=[client.pk]))
        self.assertContains(page, "no week planned")
        self.assertContains(page, reverse("weeks:list", args=[client.pk]))
        client.target_sets.all().delete()
        self.assertContains(self.client.get(reverse("today:today"), {"q": "maren"}), "set targets")

    def test_a_week_is_to_be_handed_over_until_the_client_has_it(self) -> None:
        weeks = Client.objects.get(name="Maren Okafor").weeks
        today = clock.today()

        def due() -> bool:
            page = self.client.get(reverse("today:today"), {"q": "maren"})
            return any("not handed over" in words for words, *_ in page.context["rows"][0].needs)

        weeks.all().update(frozen_at=clock.now())
        self.assertFalse(due())
        newest = weeks.first()
        assert newest is not None
        for begins, wanted in ((-7, False), (-6, True), (0, True), (2, True), (3, False)):
            with self.subTest(begins=begins):
                weeks.filter(pk=newest.pk).update(
                    frozen_at=None, start=today + timedelta(days=begins), version=9
                )
                self.assertEqual(due(), wanted)

    def test_a_weigh_in_is_due_until_it_is_typed(self) -> None:
        client = Client.objects.get(name="Maren Okafor")
        Measurement.objects.filter(client=client).update(day=clock.today() - timedelta(days=20))
        where = reverse("follow:enter", args=[client.pk])
        self.client.post(where, {"line": f"{client.weight_kg} kg"})
        self.assertNotContains(
            self.client.get(reverse("today:today"), {"q": "maren"}), "weigh-in due"
        )

    def test_a_caution_is_counted_until_it_is_acknowledged(self) -> None:
        tobias = Client.objects.get(name="Tobias Lindqvist")
        before = self.client.get(reverse("today:today"), {"q": "tobias"})
        self.assertContains(before, "cautions to review")
        where = reverse("targets:acknowledge", args=[tobias.pk])
        for caution, known in self.client.get(reverse("clients:detail", args=[tobias.pk])).context[
            "cautions"
        ]:
            if known is None:
                self.client.post(where, {"key": caution.key, "reason": "agreed with the clinic"})
        self.assertNotContains(
            self.client.get(reverse("today:today"), {"q": "tobias"}), "to review"
        )

    def test_a_record_that_cannot_be_worked_with_is_something_to_review_and_breaks_no_page(
        self,
    ) -> None:
        for changes in ({"school": "own-999999"}, {"conditions": ["ckd-3", "ckd-4"]}):
            with self.subTest(changes):
                Client.objects.filter(name="Maren Okafor").update(
                    school="balanced-bowl", conditions=[]
                )
                Client.objects.filter(name="Maren Okafor").update(**changes)
                self.assertContains(
                    self.client.get(reverse("today:today"), {"q": "maren"}), "1 caution to review"
                )
                detail = reverse("clients:detail", args=[self.bowl.client_id])
                self.assertContains(self.client.get(detail), "No targets are calculated from it.")
                compared = self.client.get(reverse("targets:schools", args=[self.bowl.client_id]))
                self.assertRedirects(compared, detail)

    def test_drafts_of_labels_are_told(self) -> None:
        self.assertContains(
            self.client.get(reverse("today:today")), "of your labels has figures that contradict"
        )


class Many(ReadsWords):
    """More clients than fit a page."""

    def test_pages_of_fifty(self) -> None:
        user = get_user_model().objects.create_user("many", password="x")
        self.client.force_login(user)
        Client.objects.bulk_create(
            Client(practitioner=user, name=f"Client {n:03}", **FACTS) for n in range(120)
        )
        first = self.client.get(reverse("today:today"))
        self.assertEqual(len(first.context["rows"]), 50)
        self.assertContains(first, "Page 1 of 3, 120 clients")
        last = self.client.get(reverse("today:today"), {"page": "3"})
        self.assertEqual([row.name for row in last.context["rows"]][-1], "Client 119")
        for wrong in ("99", "0", "x"):
            self.assertEqual(
                self.client.get(reverse("today:today"), {"page": wrong}).status_code, 200
            )

    def test_a_page_asks_the_database_as_often_for_fifty_as_for_five(self) -> None:
        counts = []
        for size in (5, 50):
            user = get_user_model().objects.create_user(f"size{size}", password="x")
            self.client.force_login(user)
            Client.objects.bulk_create(
                Client(practitioner=user, name=f"Client {n:03}", **FACTS) for n in range(size)
            )
            self.client.get(reverse("today:today"))  # what is kept between pages is kept now
            with CaptureQueriesContext(connection) as asked:
                self.client.get(reverse("today:today"))
            counts.append(len(asked))
        self.assertEqual(counts[0], counts[1])
