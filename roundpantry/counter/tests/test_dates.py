"""Dates, times and the first day of the week as the practitioner chose."""

from __future__ import annotations

from datetime import UTC, date, datetime

from django.test import SimpleTestCase
from django.urls import reverse
from django.utils import timezone

from dietetics.errors import DieteticsError
from roundpantry.clients.models import Client
from roundpantry.counter import clock
from roundpantry.counter.dates import day_text, moment_text, short_day_text, write_dates
from roundpantry.demo.tests.support import WithDemo, words_of
from roundpantry.weeks.services import add_week, week_start

SETTINGS = {"energy": "kcal", "density": "g", "cup": "us", "portions": "household", "salt": "plain"}


class Written(SimpleTestCase):
    """Three orders."""

    def setUp(self) -> None:
        write_dates("dmy")
        self.addCleanup(write_dates, "dmy")

    def test_each_order(self) -> None:
        day, moment = date(2026, 11, 3), clock.at(date(2026, 11, 3), 14, 5)
        for order, long, short, time in (
            ("dmy", "3 Nov 2026", "3 Nov", "3 Nov 2026, 14:05"),
            ("mdy", "Nov 3, 2026", "Nov 3", "Nov 3, 2026, 2:05 p.m."),
            ("ymd", "2026-11-03", "11-03", "2026-11-03, 14:05"),
        ):
            write_dates(order)
            with self.subTest(order):
                self.assertEqual(
                    (day_text(day), short_day_text(day), moment_text(moment)), (long, short, time)
                )

    def test_a_moment_is_told_in_the_practitioners_zone(self) -> None:
        late = datetime(2026, 11, 3, 23, 30, tzinfo=UTC)
        with timezone.override("Australia/Sydney"):
            self.assertEqual(moment_text(late), "4 Nov 2026, 10:30")
            self.assertEqual(day_text(late), "4 Nov 2026")

    def test_the_day_a_week_starts(self) -> None:
        wednesday = date(2026, 11, 25)
        for first, wanted in (
            (0, date(2026, 11, 23)),
            (5, date(2026, 11, 21)),
            (6, date(2026, 11, 22)),
        ):
            self.assertEqual(week_start(wednesday, first), wanted)
            self.assertEqual(week_start(wanted, first), wanted)


class Chosen(WithDemo):
    """Through the settings page."""

    DAY = date(2026, 11, 25)

    def choose(self, **more: object) -> None:
        """Save the settings with some changed."""
        self.assertEqual(
            self.client.post(reverse("shelf:preferences"), {**SETTINGS, **more}).status_code, 302
        )

    def test_dates_on_pages_follow(self) -> None:
        client = Client.objects.get(name="Maren Okafor")
        week = add_week(client, date(2026, 12, 14))
        self.assertContains(
            self.client.get(reverse("weeks:week", args=[week.pk])), "Week of 14 Dec 2026"
        )
        self.choose(dates="mdy")
        self.assertContains(
            self.client.get(reverse("weeks:week", args=[week.pk])), "Week of Dec 14, 2026"
        )

    def test_a_week_from_sunday_names_its_days_by_their_dates(self) -> None:
        self.choose(week_starts="6")
        client = Client.objects.get(name="Maren Okafor")
        client.refresh_from_db()
        week = add_week(Client.objects.get(pk=client.pk), date(2026, 12, 16))
        self.assertEqual(week.start, date(2026, 12, 13))
        page = words_of(self.client.get(reverse("weeks:week", args=[week.pk])))
        self.assertLess(page.index(">Sun <span"), page.index(">Mon <span"))
        self.assertIn("13 Dec", page)
        old = client.weeks.filter(start__lt=date(2026, 12, 1)).first()
        older = words_of(self.client.get(reverse("weeks:week", args=[old.pk])))
        self.assertLess(
            older.index(">Mon <span"),
            older.index(">Sun <span"),
            "a week that was there keeps its days",
        )

    def test_weeks_never_share_days_after_the_first_weekday_was_changed(self) -> None:
        client = Client.objects.get(name="Maren Okafor")
        add_week(client, date(2026, 12, 14))
        self.choose(week_starts="6")
        for day in (date(2026, 12, 13), date(2026, 12, 20)):
            with (
                self.subTest(day),
                self.assertRaisesMessage(DieteticsError, "a week from 14 Dec 2026"),
            ):
                add_week(Client.objects.get(pk=client.pk), day)
        self.assertEqual(
            add_week(Client.objects.get(pk=client.pk), date(2026, 12, 27)).start, date(2026, 12, 27)
        )

    def test_a_zone_that_is_none_is_refused(self) -> None:
        answer = self.client.post(
            reverse("shelf:preferences"), {**SETTINGS, "time_zone": "Moon/Sea"}
        )
        self.assertEqual(answer.status_code, 422)
