"""Prep through its pages: an evening planned, corrected, printed and cooked; worked by hand."""

from __future__ import annotations

from dataclasses import replace
from datetime import UTC, date, datetime, timedelta

import icalendar
from django.urls import reverse
from django.utils import timezone

from dietetics.prep.tasks import Task
from dietetics.week.plan import Cooking, Entry, cook, plan_json, put
from roundpantry.batches.models import Batch
from roundpantry.batches.services import remove_batch
from roundpantry.bowls.services import add_food
from roundpantry.clients.models import Client
from roundpantry.counter import clock
from roundpantry.demo.tests.practice import load_practice
from roundpantry.demo.tests.support import HTMX, ReadsWords
from roundpantry.prep.models import CookingEvening, TaskCorrection
from roundpantry.prep.records import evening_value
from roundpantry.prep.run_page import run_page
from roundpantry.prep.services import minute_of, run_of
from roundpantry.shopping.models import HomeStock
from roundpantry.weeks.records import plan_value
from roundpantry.weeks.services import add_week

ROOTS, HUMMUS = "Keel roots, roasted without oil", "Pier hummus without sesame"
SIX = datetime(2027, 3, 3, 18, 0, tzinfo=UTC)


class Prep(ReadsWords):
    DAY = date(2026, 11, 25)

    @classmethod
    def setUpTestData(cls) -> None:
        load_practice()
        cls.rower = Client.objects.get(name="Maren Okafor")
        mine = Batch.objects.filter(practitioner=cls.rower.practitioner)
        cls.roots, cls.hummus = mine.get(title=ROOTS), mine.get(title=HUMMUS)
        cls.week = add_week(cls.rower, date(2027, 3, 1))
        plan = cook(plan_value(cls.week), f"batch-{cls.roots.pk}", 2, 0.5)
        cls.week.plan = plan_json(cook(plan, f"batch-{cls.hummus.pk}", 2))
        cls.week.save()

    def setUp(self) -> None:
        self.client.force_login(self.rower.practitioner)

    def page(self, name: str = "evening", *args: object):
        """A page of the evening of the third day."""
        return self.client.get(reverse(f"prep:{name}", args=[self.week.pk, 3, *args]))

    def post(self, name: str, *args: object, **given: object):
        """A change made on it."""
        return self.client.post(
            reverse(f"prep:{name}", args=[self.week.pk, 3, *args]), given, **HTMX
        )

    def length(self) -> int:
        """Minutes of the evening."""
        return evening_value(self.week, 2, proven=True).timetable.length


class Planning(Prep):
    def test_the_evening_is_shown_in_lanes_and_by_the_clock(self) -> None:
        page = self.page()
        for words in ("Roast on two trays for 40 minutes", "Oven to 200 °C", "prep-lanes", "17:30"):
            self.assertContains(page, words)
        self.assertContains(page, "containers of")

    def test_the_week_leads_to_its_first_evening_and_says_where_there_is_none(self) -> None:
        there = self.client.get(reverse("prep:week", args=[self.week.pk]))
        self.assertRedirects(there, reverse("prep:evening", args=[self.week.pk, 3]))
        bare = add_week(self.rower, date(2027, 3, 8))
        self.assertContains(
            self.client.get(reverse("prep:week", args=[bare.pk])), "Nothing is cooked ahead"
        )
        missing = self.client.get(reverse("prep:evening", args=[self.week.pk, 5]))
        self.assertEqual(missing.status_code, 404)

    def test_the_roots_cannot_be_done_before_forty_minutes_in_the_oven(self) -> None:
        self.assertGreater(self.length(), 40)

    def test_a_kitchen_without_an_oven_uses_the_pan_and_says_so(self) -> None:
        counts = {"cooks": 1, "ovens": 0, "trays": 1, "burners": 2, "blenders": 0, "big_pots": 1}
        page = self.post("kitchen", **counts, pressure_cookers=0)
        self.assertContains(page, "no oven in this kitchen; in a wide pan with a lid, about 28 min")
        self.assertContains(page, "no blender in this kitchen")
        refused = self.post("kitchen", **{**counts, "burners": "many"}, pressure_cookers=0)
        self.assertContains(refused, 'value="many"', status_code=422)
        strong = {**counts, "burners": "many", "burner_kw": "3.2", "pressure_cookers": 0}
        chosen = '<option value="3.2" selected>strong (3.2 kW)</option>'
        self.assertContains(self.post("kitchen", **strong), chosen, status_code=422, html=True)
        kept = self.post("kitchen", **{**strong, "burners": 2})
        self.assertContains(kept, chosen, html=True)
        self.assertContains(kept, "strong burners")

    def test_a_guess_corrected_is_remembered_for_the_dish(self) -> None:
        key = f"batch-{self.roots.pk}-s4-1"
        before = self.length()
        self.post("task", key, hands="3", wait="60", celsius="200")
        self.assertEqual(self.length(), before + 20)
        self.assertEqual(TaskCorrection.objects.get().wait, 60)
        refused = self.post("task", key, hands="a while", wait="", celsius="")
        self.assertContains(refused, 'value="a while"', status_code=422)
        self.post("task", key, hands="", wait="", celsius="")
        self.assertFalse(TaskCorrection.objects.exists())

    def test_the_pace_of_the_last_evenings_is_planned_with_and_said(self) -> None:
        hands = sum(t.hands_min for t in self.tasks())
        CookingEvening.objects.create(week=self.week, day=0, pace=1.5)
        self.assertEqual(sum(t.hands_min for t in self.tasks()), hands)  # one says nothing yet
        CookingEvening.objects.create(week=self.week, day=1, pace=1.5)
        self.assertGreater(sum(t.hands_min for t in self.tasks()), 1.2 * hands)
        self.assertContains(self.page(), "The minutes of hands are 1.5 × the usual")

    def tasks(self) -> tuple[Task, ...]:
        return evening_value(self.week, 2, proven=False).timetable.asked.tasks

    def test_a_step_written_anew_is_not_held_to_what_was_said_of_the_old_one(self) -> None:
        self.post("task", f"batch-{self.roots.pk}-s4-1", hands="3", wait="60", celsius="200")
        self.roots.steps = self.roots.steps.replace("40 minutes", "30 minutes")
        self.roots.save()
        tasks = evening_value(self.week, 2, proven=False).timetable.asked.tasks
        roast = next(task for task in tasks if task.verb == "roast")
        self.assertEqual(roast.wait_min, 30)

    def test_the_evening_is_over_when_it_has_to_be(self) -> None:
        self.post("start", time="19:00", is_end="yes")
        quick = evening_value(self.week, 2, proven=False).timetable.length
        start = CookingEvening.objects.get().start_at
        ends = datetime(2000, 1, 1, start.hour, start.minute) + timedelta(minutes=quick)
        self.assertEqual(f"{ends:%H:%M}", "19:00")
        self.assertContains(self.post("start", time="soon"), 'value="soon"', status_code=422)

    def test_the_sheet_gives_amounts_as_they_are_cooked(self) -> None:
        sheet = self.page("sheet")
        self.assertContains(sheet, "½ × the recipe")
        self.assertContains(sheet, "<strong>250 g</strong>")  # half of 500 g beetroot
        self.assertContains(sheet, "½ × 500 g beetroot, cubed")

    def test_a_batch_removed_meanwhile_is_named_and_nothing_breaks(self) -> None:
        self.hummus.bowl_parts.all().delete()
        self.hummus.delete()
        self.assertContains(self.page(), "A batch of this evening no longer exists.")
        self.roots.bowl_parts.all().delete()
        self.roots.delete()
        self.assertContains(self.page(), "Nothing is left to cook on this evening.")

    def test_a_dish_without_a_method_says_that_its_steps_are_usual_ones(self) -> None:
        self.roots.steps, self.roots.method = "", "roasted"
        self.roots.save()
        page = self.page()
        self.assertContains(page, "No method is written")
        self.assertContains(page, "Roast carrot, parsnip")

    def test_two_hundred_steps_are_too_many_and_said_so(self) -> None:
        self.roots.steps = "\n".join(["Stir it."] * 210)
        self.roots.save()
        page = self.page()
        self.assertContains(page, "more than one evening holds", status_code=422)

    def test_the_road_is_packed_for_when_all_is_shared_out(self) -> None:
        bowl = self.rower.bowls.first()
        plan = put(plan_value(self.week), 3, 1, Entry(f"bowl-{bowl.pk}", bowl.name, 1.0))
        days = list(plan.days)
        days[3] = replace(days[3], kind="travel")
        self.week.plan = plan_json(replace(plan, days=tuple(days)))
        self.week.save()
        found = evening_value(self.week, 2, proven=True).timetable
        pack = next(task for task in found.asked.tasks if task.verb == "pack")
        self.assertIn(f"Pack for Thursday: Lunch: {bowl.name}", pack.text)
        filled = [found.starts[t.key] + t.minutes for t in found.asked.tasks if t.verb == "portion"]
        self.assertGreaterEqual(found.starts[pack.key], max(filled))

    def test_what_is_frozen_is_laid_out_to_thaw_the_evening_before(self) -> None:
        key = f"batch-{self.roots.pk}"
        frozen = replace(plan_value(self.week), cookings=(Cooking(key, -9, 1.0, 1.0),))
        frozen = cook(frozen, f"batch-{self.hummus.pk}", 2)
        self.week.plan = plan_json(put(frozen, 5, 1, Entry(key, ROOTS, 1.0)))
        self.week.save()
        # 1,050 g of roots in six servings
        self.assertContains(self.page(), f"Thaw 175 g of {ROOTS} in the refrigerator for Saturday")

    def test_labels_for_every_container(self) -> None:
        # half of a pot of roots that gives six, and hummus that gives eight
        page = self.page("labels").content.decode()
        self.assertEqual(page.count(f"<h2>{ROOTS}</h2>"), 3)
        self.assertEqual(page.count(f"<h2>{HUMMUS}</h2>"), 8)

    def test_a_label_for_each_meal_and_what_is_frozen_says_so(self) -> None:
        key, plan = f"batch-{self.roots.pk}", plan_value(self.week)
        for day, portions in ((3, 1.0), (4, 2.0)):
            plan = put(plan, day, 1, Entry(key, ROOTS, portions))
        self.week.plan = plan_json(plan)
        self.week.save()
        # a serving is a sixth of 1,050 g, and half of the pot is cooked: nothing is over
        page = self.page("labels").content.decode()
        self.assertEqual(page.count(f"<h2>{ROOTS}</h2>"), 2)
        for words in ("175 g", "350 g"):
            self.assertIn(words, page)
        self.assertNotIn("<strong>freeze</strong>", page)
        self.week.plan = plan_json(cook(plan, key, 2, 0.5, 2 / 3))
        self.week.save()
        page = self.page("labels").content.decode()
        # three servings, two of them frozen: made on Wednesday 3 March, best by 2 May (60 days)
        self.assertEqual(page.count("<strong>freeze</strong>, best by 2 May"), 2)
        self.assertContains(self.page(), "2 of them to the freezer")

    def test_plain_rice_for_sunday_is_laid_out_to_thaw(self) -> None:
        bowl = self.rower.bowls.create(name="Rice", meal=self.rower.bowls.all()[0].meal)
        add_food(bowl, "brown-rice-cooked", "200 g")
        plan = put(plan_value(self.week), 6, 1, Entry(f"bowl-{bowl.pk}", "Rice", 1.0))
        cookings = (Cooking(f"batch-{self.roots.pk}", -1, 0.5),)
        self.week.plan = plan_json(replace(plan, cookings=cookings))
        self.week.save()
        page = self.client.get(reverse("prep:evening", args=[self.week.pk, 0]))
        self.assertContains(page, "Thaw 200 g of Brown rice, plain in the refrigerator for Sunday")
        self.assertContains(page, "to the freezer")

    def test_the_calendar_holds_the_evening_and_what_is_packed_the_evening_before(self) -> None:
        plan = put(plan_value(self.week), 4, 1, Entry("free", "Free choice", 1.0))
        days = list(plan.days)
        days[4] = replace(days[4], kind="travel")
        self.week.plan = plan_json(replace(plan, days=tuple(days)))
        self.week.save()
        data = self.client.get(reverse("prep:calendar", args=[self.week.pk])).content
        events = {str(e["summary"]): e for e in icalendar.Calendar.from_ical(data).walk("VEVENT")}
        evening = next(name for name in events if name.startswith("Cook:"))
        self.assertEqual(events[evening]["dtstart"].dt, datetime(2027, 3, 3, 17, 30))
        pack = next(name for name in events if name.startswith("Pack for Friday"))
        self.assertEqual(events[pack]["dtstart"].dt.date(), date(2027, 3, 4))


class AtTheStove(Prep):
    def at(self, minutes: float):
        """The clock of the server, so many minutes after the beginning."""
        return clock.set_to(SIX + timedelta(minutes=minutes))

    def begin(self) -> CookingEvening:
        """Start to cook at six."""
        with self.at(0):
            self.post("begin")
        return CookingEvening.objects.get()

    def press(self, minutes: float, what: str, key: str):
        """A press so many minutes in."""
        with self.at(minutes):
            return self.post("press", what=what, task=key)

    def test_minutes_stay_minutes_while_the_clocks_are_changed(self) -> None:
        """Berlin puts its clocks from 2:00 to 3:00 on 28 March 2027, and from 3:00 back to 2:00 on
        31 October. The cook begins half an hour before, and reads the kitchen's clock.
        """
        for began, wall_min, moved_min in (
            (datetime(2027, 3, 28, 0, 30, tzinfo=UTC), 90, 60),  # at 1:30
            (datetime(2027, 10, 31, 0, 30, tzinfo=UTC), 150, -60),  # at 2:30, the first one
        ):
            CookingEvening.objects.all().delete()
            with self.subTest(began), clock.set_to(began), timezone.override("Europe/Berlin"):
                self.post("begin")
                evening = CookingEvening.objects.get()
                end = run_of(evening).end
                self.assertGreater(end, 30, "it outlasts the change")
                hours, minutes = divmod(wall_min + end + moved_min, 60)
                page = run_page(self.week, evening, began)
                self.assertEqual(page["ends_at"], f"{hours:02d}:{minutes:02d}")
                self.assertEqual(minute_of(evening, began + timedelta(minutes=45)), 45)

    def keys(self) -> dict[str, str]:
        """The keys of the roots' steps by verb."""
        tasks = evening_value(self.week, 2, proven=True).timetable.asked.tasks
        return {t.verb: t.key for t in tasks if t.dish == ROOTS}

    def test_an_evening_from_the_first_press_to_the_last(self) -> None:
        evening = self.begin()
        for _ in range(60):
            evening.refresh_from_db()
            run = evening.run
            gone = {*run["done"], *run["waiting"], *run["skipped"]}
            done = {*run["done"], *run["skipped"]}
            if run["waiting"]:
                key, end = next(iter(run["waiting"].items()))
                self.press(end, "ready", key)
                continue
            ready = [
                t["key"] for t in run["tasks"]
                if t["key"] not in gone and set(t["after"]) <= done
            ]  # fmt: skip
            if not ready:
                break
            self.press(max(run["starts"][ready[0]], 0) + 1, "hands-done", ready[0])
        self.assertContains(self.page("run"), "All done.")

    def test_what_was_cooked_is_no_longer_at_home(self) -> None:
        HomeStock.objects.create(client=self.rower, food_key="beet-raw", grams=600)
        HomeStock.objects.create(client=self.rower, food_key="kale-raw", grams=90)
        evening = self.begin()
        for task in list(evening.run["tasks"]):
            self.press(5, "skip", task["key"])
        left = {one.food_key: one.grams for one in HomeStock.objects.all()}
        self.assertEqual(left, {"beet-raw": 350, "kale-raw": 90})  # half of 500 g went in

    def test_a_timer_keeps_its_end_over_a_reload_and_a_second_press(self) -> None:
        evening = self.begin()
        keys = self.keys()
        for verb, minute in (("peel", 10), ("chop", 19), ("mix", 21)):
            self.press(minute, "hands-done", keys[verb])
        self.press(24, "hands-done", keys["roast"])
        self.press(25, "hands-done", keys["roast"])  # the same press again
        evening.refresh_from_db()
        self.assertEqual(evening.run["waiting"], {keys["roast"]: 64})
        over = int((SIX + timedelta(minutes=64)).timestamp() * 1000)
        with self.at(40):
            self.assertContains(self.page("run"), f'data-ends="{over}"')
        page = self.press(64, "more", keys["roast"])
        self.assertContains(page, f'data-ends="{over + 5 * 60_000}"')
        self.assertContains(page, "minutes later than before")

    def test_too_early_is_refused_in_words_and_nothing_is_lost(self) -> None:
        self.begin()
        refused = self.press(1, "hands-done", self.keys()["roast"])
        self.assertContains(refused, "cannot be done yet", status_code=422)
        refused = self.press(1, "hands-done", "no-such-task")
        self.assertContains(refused, "is not part of this evening", status_code=422)

    def test_a_run_goes_on_though_the_week_changes(self) -> None:
        self.begin()
        self.week.plan = plan_json(cook(plan_value(self.week), f"batch-{self.hummus.pk}", 2, 0))
        self.week.save()
        self.assertContains(self.page("run"), HUMMUS)

    def test_a_run_that_is_put_away_is_gone_and_a_late_press_says_so(self) -> None:
        self.begin()
        key = self.keys()["peel"]
        self.post("stop")
        self.assertContains(
            self.press(3, "hands-done", key), "has not been started", status_code=422
        )


class Removing(Prep):
    def test_a_batch_that_is_in_a_week_s_evening_can_still_be_removed_by_its_service(self) -> None:
        for part in self.roots.bowl_parts.all():
            part.delete()
        remove_batch(self.roots)
        self.assertEqual(self.page().status_code, 200)
