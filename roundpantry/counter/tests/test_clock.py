"""One clock for the whole program: whose day it is, and days that do not come every year."""

from __future__ import annotations

from datetime import UTC, date, datetime, timedelta

from django.test import SimpleTestCase
from django.urls import reverse
from django.utils import timezone

from dietetics.labels.label_reader import read_label
from roundpantry.batches.records import dishes_of
from roundpantry.batches.services import add_batch, read_pasted
from roundpantry.clients.models import Client
from roundpantry.counter import clock
from roundpantry.demo.tests.support import WithDemo
from roundpantry.shelf.models import Label, Preferences
from roundpantry.shelf.records import shelf_of
from roundpantry.shelf.services import keep_label, retire_label
from roundpantry.weeks.services import week_start


class Days(SimpleTestCase):
    """Which day it is depends on where."""

    def test_it_is_tomorrow_in_the_east_and_yesterday_in_the_west(self) -> None:
        with clock.set_to(datetime(2026, 12, 31, 10, 30, tzinfo=UTC)):
            for zone, day in (
                ("UTC", date(2026, 12, 31)),
                ("Pacific/Kiritimati", date(2027, 1, 1)),  # 14 hours ahead, the furthest there is
                ("Pacific/Pago_Pago", date(2026, 12, 30)),  # 11 hours behind
            ):
                self.assertEqual(clock.today(zone), day)
                with timezone.override(zone):
                    self.assertEqual(clock.today(), day)

    def test_a_clock_that_was_set_goes_back_whatever_happens(self) -> None:
        moment = clock.at(date(2028, 2, 29))
        with self.assertRaises(ZeroDivisionError), clock.set_to(moment):
            self.assertEqual(clock.seconds(), moment.timestamp())
            raise ZeroDivisionError
        self.assertNotEqual(clock.now(), moment)

    def test_a_week_starts_on_its_monday_over_every_border(self) -> None:
        for day, monday in (
            (date(2027, 1, 1), date(2026, 12, 28)),  # a Friday
            (date(2028, 2, 29), date(2028, 2, 28)),  # a Tuesday
            (date(2028, 3, 5), date(2028, 2, 28)),  # the Sunday after
            (date(2027, 3, 28), date(2027, 3, 22)),  # clocks change in Europe
        ):
            self.assertEqual(week_start(day), monday)


class OfAPractice(WithDemo):
    """Pages on days of their own."""

    def test_the_day_of_a_page_is_the_practitioners(self) -> None:
        with clock.set_to(datetime(2027, 3, 1, 11, 0, tzinfo=UTC)):
            Preferences.objects.filter(practitioner=self.petra).update(
                time_zone="Pacific/Kiritimati"
            )
            self.client.force_login(self.petra)
            self.assertContains(
                self.client.get(reverse("bowls:print", args=[self.bowl.pk])), "2 Mar 2027"
            )

    def test_a_client_grows_older_on_the_birthday_and_not_when_the_form_is_saved(self) -> None:
        client = Client.objects.filter(practitioner=self.petra).first()
        client.birth_date, client.age_years = date(2000, 2, 29), 26
        client.save()
        for day, years in (
            (date(2027, 2, 28), 26),
            (date(2027, 3, 1), 27),
            (date(2028, 2, 28), 27),
            (date(2028, 2, 29), 28),
        ):
            with clock.set_to(clock.at(day)):
                self.assertEqual(Client.objects.get(pk=client.pk).age_years, years)
                page = self.client.get(reverse("clients:detail", args=[client.pk]))
                self.assertContains(page, f"{years}")
        self.assertEqual(Client.objects.only("name").get(pk=client.pk).name, client.name)

    def test_what_was_changed_while_the_clock_was_put_back_is_seen(self) -> None:
        """A computer's clock is corrected: the newest label is older than one before it."""
        self.client.post(reverse("batches:new"), {"title": "", "text": "# Early\n100 g kale"})
        before = set(dishes_of(self.petra)), {food.key for food in shelf_of(self.petra)}
        with clock.set_to(clock.now() - timedelta(days=400)):
            text = "Slip spread\nPer 100 g\n160 kcal\nFat 3 g\nCarbohydrate 28 g\nProtein 5 g"
            keep_label(self.petra, read_label(text).facts)
            add_batch(self.petra, read_pasted(self.petra, "# Late\n100 g kale"), "# Late")
        after = set(dishes_of(self.petra)), {food.key for food in shelf_of(self.petra)}
        self.assertEqual([len(new - old) for old, new in zip(before, after, strict=True)], [1, 1])
        label = Label.objects.latest("pk")
        with clock.set_to(clock.now() - timedelta(days=300)):
            retire_label(label, True)
        self.assertEqual({food.key for food in shelf_of(self.petra)}, before[1])

    def test_an_age_that_was_typed_without_a_birthday_stays(self) -> None:
        client = Client.objects.filter(practitioner=self.petra, birth_date=None).first()
        before = client.age_years
        with clock.set_to(clock.at(date(2036, 1, 1))):
            self.assertEqual(Client.objects.get(pk=client.pk).age_years, before)
