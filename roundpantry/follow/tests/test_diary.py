"""The diary by exception: nothing is known of a silent week; what was not understood is open."""

from __future__ import annotations

from datetime import timedelta

from roundpantry.follow.eaten_days import DiaryDay, diary_week, eaten_between, read_text
from roundpantry.follow.models import DiaryEntry
from roundpantry.follow.records import weeks_between
from roundpantry.follow.services import write_diary
from roundpantry.follow.tests.support import Followed
from roundpantry.handover import services as handover
from roundpantry.handover.booklet_made import booklet_of
from roundpantry.weeks.reported import reported_of
from roundpantry.weeks.week_snapshot import snapshot_of

APPLE_KCAL = 61.0  # in 100 g, USDA FNDDS, apple, raw


class Diary(Followed):
    def setUp(self) -> None:
        super().setUp()
        DiaryEntry.objects.all().delete()
        a_week_ago = self.today - timedelta(days=7)
        self.week = weeks_between(self.amina, a_week_ago, a_week_ago)[-1]
        self.monday = self.week.start.isoformat()
        self.names = [meal.name for meal in self.days()[0].meals]

    def days(self) -> list[DiaryDay]:
        """The days of the week as they are now."""
        return diary_week(self.week, reported_of(self.amina, [self.week]))

    def write(self, meal: str, how: str, text: str = "", **more: str):
        """Write down how a meal of Monday went."""
        sent = {"day": self.monday, "meal": meal, "how": how, "text": text}
        sent |= {"week": str(self.week.pk)} | more
        return self.client.post(self.at("write"), sent)

    def test_nothing_is_known_of_a_week_without_a_word(self) -> None:
        self.assertTrue(all(one.eaten is None for one in self.days()))
        page = self.client.get(self.at("diary"), {"week": self.week.pk})
        self.assertContains(page, "Nothing was reported yet.")

    def test_what_differs_is_counted_and_the_rest_was_as_planned(self) -> None:
        planned = self.days()[0].planned["energy_kcal"].amount
        lunch = snapshot_of(self.week).days[0].meals[1]["energy_kcal"].amount
        self.write(self.names[1], "skipped")
        monday, tuesday = self.days()[:2]
        self.assertAlmostEqual(monday.eaten["energy_kcal"].amount, planned - lunch)
        self.assertAlmostEqual(
            tuesday.eaten["energy_kcal"].amount, tuesday.planned["energy_kcal"].amount
        )
        page = self.client.get(self.at("diary"), {"week": self.week.pk})
        self.assertContains(page, "20 of 21 meals as planned, 1 skipped")

    def test_a_year_typed_wrong_is_told(self) -> None:
        for day in ("0001-01-01", "9999-12-31", "0202-11-20"):
            self.monday = day
            answer = self.write(self.names[0], "skipped")
            self.assertIn("cannot be right", answer.content.decode(), day)
            sent = {"day": day, "meal": self.names[0]}
            self.assertLess(self.client.post(self.at("remove-entry"), sent).status_code, 500)
        self.assertFalse(DiaryEntry.objects.exists())

    def test_days_that_have_not_been_are_not_eaten(self) -> None:
        week = weeks_between(self.amina, self.today, self.today)[-1]
        write_diary(self.amina, week.start, self.names[0], "as planned", "")
        days = diary_week(week, reported_of(self.amina, [week]))
        known = [one.day for one in days if one.eaten is not None]
        self.assertEqual(known[0], week.start)
        self.assertTrue(all(one < self.today or one == week.start for one in known))
        self.assertEqual(len(known), max(1, (self.today - week.start).days))

    def test_what_was_eaten_instead_is_read(self) -> None:
        kept = sum(meal["energy_kcal"].amount for meal in snapshot_of(self.week).days[0].meals[:2])
        self.write(self.names[2], "swapped", "200 g apple")
        eaten = self.days()[0].eaten["energy_kcal"]
        self.assertTrue(eaten.complete)
        self.assertAlmostEqual(eaten.amount, kept + 2 * APPLE_KCAL, delta=1)

    def test_what_was_not_understood_leaves_the_day_open(self) -> None:
        for text in ("a plate of gorblefish", ""):
            self.write(self.names[2], "swapped", text)
            self.assertFalse(self.days()[0].eaten["energy_kcal"].complete, text)

    def test_a_dish_that_was_removed_is_open_and_not_nothing(self) -> None:
        self.write(self.names[0], "as planned")
        self.assertTrue(self.days()[0].eaten["energy_kcal"].complete)
        self.amina.bowls.all().delete()
        self.assertFalse(self.days()[0].eaten["energy_kcal"].complete)

    def test_an_extra_is_added_and_taken_out(self) -> None:
        self.write(self.names[0], "as planned")
        before = self.days()[0].eaten["energy_kcal"].amount
        self.client.post(self.at("extra"), {"day": self.monday, "text": "100 g apple"})
        after = self.days()[0].eaten["energy_kcal"].amount
        self.assertAlmostEqual(after, before + APPLE_KCAL, delta=1)
        key = self.days()[0].extras[0][0]
        self.client.post(self.at("remove-entry"), {"day": self.monday, "meal": key})
        self.assertAlmostEqual(self.days()[0].eaten["energy_kcal"].amount, before)

    def test_the_clients_own_answers_count_and_the_practitioners_stand_before_them(self) -> None:
        handover.keep_booklet(self.week, booklet_of(self.week))
        link = handover.give_link(self.week, self.today, list(handover.ALLOWED))
        handover.answer_meal(link, "0-0", "partly", "half of it")
        first = self.days()[0].meals[0].reported
        self.assertEqual((first.how, first.text, first.by), ("partly", "half of it", "client"))
        self.write(self.names[0], "skipped")
        self.assertEqual(self.days()[0].meals[0].reported.how, "skipped")

    def test_what_is_refused_stays_in_its_field(self) -> None:
        page = self.write(self.names[0], "swapped", "x" * 401)
        self.assertContains(page, "x" * 401, status_code=422)
        page = self.write(self.names[0], "devoured")
        self.assertContains(page, "Not saved", status_code=422)
        page = self.write(self.names[0], "skipped", day="1999-01-01")
        self.assertContains(page, "is not one of the last", status_code=422)

    def test_a_line_in_pieces(self) -> None:
        read = read_text(self.petra, "200 g apple; 30 g almonds, gorble")
        self.assertEqual(read.unread, 1)
        self.assertIn("200 g Apple", read.words)


class SixWeeks(Followed):
    def test_the_weeks_with_a_word_are_known(self) -> None:
        days = eaten_between(self.amina, self.today - timedelta(days=42), self.today)
        known = [one.day for one in days if one.eaten is not None]
        self.assertGreater(len(known), 28)
        self.assertTrue(all(one.day <= self.today for one in days))
