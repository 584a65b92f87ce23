"""A week that cannot be read says so, and can be taken back, saved and mended; and none is stored
that would be one.
"""

from __future__ import annotations

from datetime import timedelta
from typing import Any
from unittest import mock

from django.core.files.uploadedfile import SimpleUploadedFile
from django.urls import reverse

from dietetics.errors import DieteticsError
from dietetics.week.plan import Cell, Day, Entry, Plan, plan_of
from roundpantry.clients.models import Client
from roundpantry.demo.tests.support import HTMX, WithDemo
from roundpantry.weeks import services
from roundpantry.weeks.cell_changes import SentChange
from roundpantry.weeks.models import Week
from roundpantry.weeks.records import plan_value


class Unreadable(WithDemo):
    """Weeks spoiled on purpose, as an older version of the program might have left them."""

    def setUp(self) -> None:
        super().setUp()
        self.week = Week.objects.filter(client__practitioner=self.petra, frozen_at=None).first()
        self.address = reverse("weeks:week", args=[self.week.pk])

    def spoil(self, **changes: Any) -> None:
        """Put something into the stored plan that no plan may hold."""
        days = [dict(day) for day in self.week.plan["days"]]
        days[2] = {**days[2], **changes}
        Week.objects.filter(pk=self.week.pk).update(plan={**self.week.plan, "days": days})

    def test_its_page_offers_three_ways_on(self) -> None:
        services.act(self.week, "skip", SentChange(self.week.revision, day=0, meal=0))
        self.week.refresh_from_db()
        self.spoil(kind="Home")
        for where in (
            self.address,
            reverse("weeks:print", args=[self.week.pk]),
            reverse("weeks:day", args=[self.week.pk, 0]),
        ):
            page = self.client.get(where)
            self.assertContains(page, "cannot be read", status_code=422)
            for name in ("undo", "repair", "stored"):
                self.assertContains(
                    page, reverse(f"weeks:{name}", args=[self.week.pk]), status_code=422
                )
        stored = self.client.get(reverse("weeks:stored", args=[self.week.pk])).json()
        self.assertEqual(stored["plan"]["days"][2]["kind"], "Home")
        self.client.post(reverse("weeks:undo", args=[self.week.pk]), **HTMX)
        self.assertEqual(self.client.get(self.address).status_code, 200)

    def test_what_can_be_read_is_kept_and_what_cannot_is_named(self) -> None:
        before = plan_value(self.week)
        cells = [dict(cell) for cell in self.week.plan["days"][2]["cells"]]
        cells[1] = {"entries": [{"dish": "bowl-1", "name": "x", "scale": 1e300}]}
        self.spoil(cells=cells)
        page = self.client.post(reverse("weeks:repair", args=[self.week.pk]), follow=True)
        self.assertContains(page, f"Left out: Wednesday, {before.meals[1].lower()}.")
        self.week.refresh_from_db()
        after = plan_value(self.week)
        self.assertEqual(after.cell(2, 1), Cell())
        same = [(d, m) for d, m, _ in before.places() if (d, m) != (2, 1)]
        self.assertEqual([after.cell(*at) for at in same], [before.cell(*at) for at in same])
        self.assertEqual(after.cookings, before.cookings)

    def test_other_weeks_of_the_client_are_shown(self) -> None:
        self.spoil(kind="Home")
        other = services.add_week(self.week.client, self.week.start + timedelta(weeks=5))
        self.assertEqual(self.client.get(reverse("weeks:week", args=[other.pk])).status_code, 200)
        self.assertEqual(
            self.client.get(reverse("weeks:list", args=[self.week.client_id])).status_code, 200
        )
        self.assertEqual(
            self.client.get(reverse("weeks:cell", args=[other.pk, 0, 0])).status_code, 200
        )

    def test_undo_passes_over_a_step_that_cannot_be_read(self) -> None:
        good = self.week.plan
        self.week.changes.create(what="an older change", plan=good)
        self.week.changes.create(what="a spoiled change", plan={**good, "days": "home"})
        answer = self.client.post(reverse("weeks:undo", args=[self.week.pk]), **HTMX)
        self.assertContains(answer, "a spoiled change: can&#x27;t be undone", status_code=422)
        self.week.refresh_from_db()
        self.assertEqual(self.week.plan, good)
        self.assertEqual(self.week.changes.count(), 0)

    def test_nothing_is_stored_that_cannot_be_read_back(self) -> None:
        meals = plan_value(self.week).meals
        good = tuple(Day(tuple(Cell() for _ in meals)) for _ in range(7))

        def with_cell(cell: Cell, kind: str = "home") -> Plan:
            return Plan(meals, (Day((cell, *good[0].cells[1:]), kind), *good[1:]))

        entry = Entry("food:kale-raw", "Kale", 1.0)
        for spoiled in (
            with_cell(Cell(), "Home"), with_cell(Cell((entry,) * 9)),
            with_cell(Cell((Entry("food:kale-raw", "\ud800", 1.0),))),
            with_cell(Cell((Entry("food:kale-raw", "  ", 1.0),))),
            with_cell(Cell((Entry("food:kale-raw", "Kale", 1e300),))),
        ):  # fmt: skip
            with self.assertRaises(DieteticsError) as caught:
                services.store(self.week, self.week.revision, spoiled, "spoiled")
            self.assertEqual(caught.exception.code, "week-unreadable")
        self.assertEqual(Week.objects.get(pk=self.week.pk).plan, self.week.plan)
        self.assertEqual(
            services.store(
                self.week, self.week.revision, with_cell(Cell((entry,))), "kale"
            ).revision,
            self.week.revision + 1,
        )

    def test_a_file_that_would_spoil_it_is_refused_with_its_line(self) -> None:
        csv = self.client.get(reverse("weeks:export", args=[self.week.pk, "csv"])).content.decode()
        for spoiled in (
            csv.replace(",home,", ",Home,"),
            csv + csv.splitlines()[-5] + "\r\n" + (csv.splitlines()[1] + "\r\n") * 9,
        ):
            file = SimpleUploadedFile("week.csv", spoiled.encode())
            given = {"file": file, "revision": str(self.week.revision)}
            answer = self.client.post(reverse("weeks:take-in", args=[self.week.pk]), given)
            self.assertContains(answer, "cannot be read", status_code=422)
        self.assertEqual(self.client.get(self.address).status_code, 200)

    def test_a_file_that_reads_but_cannot_be_shown_is_not_kept(self) -> None:
        csv = self.client.get(reverse("weeks:export", args=[self.week.pk, "csv"])).content.decode()
        changed = csv.replace(",home,", ",travel,")
        given = {
            "file": SimpleUploadedFile("week.csv", changed.encode()),
            "revision": str(self.week.revision),
        }
        with (
            mock.patch("roundpantry.weeks.handover_views.week_page", side_effect=ValueError("no")),
            self.assertLogs("roundpantry.weeks", "ERROR"),
        ):
            answer = self.client.post(reverse("weeks:take-in", args=[self.week.pk]), given)
        self.assertContains(answer, "was not saved", status_code=422)
        self.assertEqual(Week.objects.get(pk=self.week.pk).plan, self.week.plan)
        given["file"] = SimpleUploadedFile("week.csv", changed.encode())
        self.assertEqual(
            self.client.post(reverse("weeks:take-in", args=[self.week.pk]), given).status_code, 302
        )

    def test_a_week_lies_in_years_that_calendars_know(self) -> None:
        client = Client.objects.filter(practitioner=self.petra, weeks__isnull=False).first()
        for start in ("0001-01-01", "9999-12-31", "1999-12-31", "2100-01-01"):
            answer = self.client.post(reverse("weeks:list", args=[client.pk]), {"start": start})
            self.assertContains(answer, "start on", status_code=422)
        self.assertEqual(
            self.client.post(
                reverse("weeks:list", args=[client.pk]), {"start": "2099-12-31"}
            ).status_code,
            302,
        )

    def test_a_handed_over_week_leads_to_the_version_that_was_begun_from_it(self) -> None:
        services.hand_over(self.week, self.week.revision, {"days": []}, "")
        seen = {"day": "0", "meal": "0", "revision": str(self.week.revision)}
        first = self.client.post(reverse("weeks:act", args=[self.week.pk, "clear"]), seen, **HTMX)
        second = self.client.post(reverse("weeks:act", args=[self.week.pk, "skip"]), seen, **HTMX)
        self.assertEqual(first.status_code, 204)
        self.assertContains(second, "version 2 started from it", status_code=422)
        self.assertContains(second, f'href="{first["HX-Redirect"]}"', status_code=422)

    def test_a_label_of_another_practitioner_names_nothing(self) -> None:
        foreign = self.joon.labels.first()
        given = {
            "day": "0",
            "meal": "0",
            "dish": f"food:own-{foreign.pk}-1",
            "name": "x",
            "revision": str(self.week.revision),
        }
        answer = self.client.post(reverse("weeks:act", args=[self.week.pk, "put"]), given, **HTMX)
        self.assertContains(answer, "have no dish called", status_code=422)
        own = self.petra.labels.first()
        given |= {"dish": f"food:own-{own.pk}-1", "because": "for a test"}
        self.assertEqual(
            self.client.post(
                reverse("weeks:act", args=[self.week.pk, "put"]), given, **HTMX
            ).status_code,
            200,
        )
        self.assertEqual(
            plan_of(Week.objects.get(pk=self.week.pk).plan).cell(0, 0).entries[0].dish,
            f"food:own-{own.pk}-1",
        )
