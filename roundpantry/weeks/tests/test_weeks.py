"""Weeks through their pages: changes, two windows at once, threads, the solver, versions, files,
bad input, few queries.
"""

from __future__ import annotations

import io
import json
from dataclasses import replace
from datetime import date, datetime, timedelta
from unittest import mock

import icalendar
import openpyxl
from django.core.files.uploadedfile import SimpleUploadedFile
from django.urls import reverse

from dietetics.week.plan import Entry, clear, cook, plan_json, plan_of, put
from dietetics.week.question.answer import Answer, answer_of
from dietetics.week.question.priorities import misses_of
from dietetics.week.question.question import Question
from dietetics.week.search.improving import settle
from dietetics.week.search.settling import Settled
from roundpantry.clients.models import Acknowledgement, Client
from roundpantry.demo.tests.practice import load_practice
from roundpantry.demo.tests.support import ReadsWords
from roundpantry.targets.models import TargetSet
from roundpantry.weeks import files, planning, search_queue, services
from roundpantry.weeks.day_page import why_day
from roundpantry.weeks.gate import obstacles
from roundpantry.weeks.models import DishChoice, Search, Week
from roundpantry.weeks.planning_facts import gather, rules_of
from roundpantry.weeks.services import add_week
from roundpantry.weeks.week_snapshot import kept_of, problems_of, snapshot_of

HTMX = {"headers": {"HX-Request": "true"}}


class Weeks(ReadsWords):
    @classmethod
    def setUpTestData(cls) -> None:
        load_practice()
        cls.rower = Client.objects.get(name="Maren Okafor")
        cls.week = cls.rower.weeks.first()

    def setUp(self) -> None:
        self.client.force_login(self.rower.practitioner)
        self.week = Week.objects.get(pk=self.week.pk)

    def act(self, what: str, **given: object) -> object:
        """One change, against the revision that is stored."""
        now = Week.objects.get(pk=self.week.pk)
        return self.client.post(
            reverse("weeks:act", args=[self.week.pk, what]),
            {"revision": now.revision, **given},
            **HTMX,
        )

    def plan(self):
        return plan_of(Week.objects.get(pk=self.week.pk).plan)


class ByHand(Weeks):
    def test_the_page_holds_every_cell_and_its_figures(self) -> None:
        page = self.client.get(reverse("weeks:week", args=[self.week.pk])).content.decode()
        self.assertEqual(page.count('role="gridcell"'), 28)
        bowl = self.rower.bowls.get(name="Slipway snack")
        energy = (
            snapshot_of(self.week).available.dishes[f"bowl-{bowl.pk}"].serving["energy_kcal"].text()
        )
        self.assertGreaterEqual(page.count(energy), 7)

    def test_every_change_and_its_undo(self) -> None:
        start = self.plan()
        bowl = self.rower.bowls.get(name="Tideline bowl")
        changes = [
            ("put", {"day": 0, "meal": 0, "dish": f"bowl-{bowl.pk}", "name": "Tideline bowl"}),
            ("repeat", {"day": 0, "meal": 0}),
            ("fill", {"day": 2, "meal": 1}), ("copy", {"day": 0, "meal": 0, "to_day": 6,
            "to_meal": 3}), ("lock", {"day": 0, "meal": 0}),
            ("scale", {"day": 3, "meal": 1, "steps": 1}), ("skip", {"day": 6, "meal": 2}), ("swap",
            {"day": 4, "to_day": 5}),
            ("move", {"day": 1, "meal": 1, "to_day": 2, "to_meal": 3}), ("spend", {"day": 5,
            "kind": "travel"}),
            ("add", {"day": 5, "meal": 0, "dish": "drink:orange-raw", "name": "Orange juice"}),
            ("remove", {"day": 5, "meal": 0, "position": 1}),
            ("clear", {"day": 4, "meal": 0}), ("cook", {"batch": self.plan().cookings[0].batch,
            "day": 4, "steps": 2}),
        ]  # fmt: skip
        for what, given in changes:
            with self.subTest(what):
                before = self.plan()
                self.assertEqual(self.act(what, **given).status_code, 200)
                self.assertNotEqual(self.plan(), before)
        for _ in changes:
            self.client.post(reverse("weeks:undo", args=[self.week.pk]), **HTMX)
        self.assertEqual(self.plan(), start)

    def test_two_windows_on_one_week(self) -> None:
        seen = self.week.revision
        self.act("clear", day=0, meal=0)
        late = self.client.post(
            reverse("weeks:act", args=[self.week.pk, "clear"]),
            {"revision": seen, "day": 1, "meal": 1},
            **HTMX,
        )
        self.assertContains(late, "changed in another window", status_code=422)
        self.assertEqual(self.plan().cell(0, 0).entries, ())
        self.assertTrue(self.plan().cell(1, 1).entries)

    def test_what_cannot_be_read_is_refused_with_words(self) -> None:
        for what, given in (("put", {"day": 0, "meal": 0}), ("put", {"day": 9, "meal": 0,
            "dish": "x"}), ("clear", {"day": "x", "meal": 0}),
                            ("scale", {"day": 0, "meal": 0, "steps": "lots"}), ("spend", {"day": 0,
                            "kind": "at sea"}),
                            ("cook", {"batch": "b", "day": 99}), ("cook", {"batch": "b", "day": 1,
                            "pots": "many"}), ("dance", {})):  # fmt: skip
            with self.subTest(what, **given):
                self.assertEqual(self.act(what, **given).status_code, 422)

    def test_a_dish_deleted_while_planned_is_told_and_kept_by_name(self) -> None:
        self.rower.bowls.get(name="Slipway snack").delete()
        page = self.client.get(reverse("weeks:week", args=[self.week.pk]))
        self.assertContains(page, "Slipway snack on Monday is no longer available")
        self.assertEqual(
            self.client.post(
                reverse("weeks:plan", args=[self.week.pk]), {"revision": self.week.revision}, **HTMX
            ).status_code,
            200,
        )
        for kind in ("csv", "json", "xlsx", "ics"):
            self.assertEqual(
                self.client.get(reverse("weeks:export", args=[self.week.pk, kind])).status_code, 200
            )

    def test_a_thread_that_runs_out_is_seen_and_mended(self) -> None:
        first = next(c for c in self.plan().cookings if c.day == -1)
        services.store(
            self.week, self.week.revision, cook(self.plan(), first.batch, -1, 0), "taken off"
        )
        self.assertTrue(
            any(
                "more servings eaten" in words
                for words in problems_of(snapshot_of(Week.objects.get(pk=self.week.pk)))
            )
        )
        panel = self.client.get(reverse("weeks:pot", args=[self.week.pk, first.batch]), **HTMX)
        self.assertContains(panel, "missing")
        self.act("cook", batch=first.batch, day=-1, steps=4)
        self.assertEqual(problems_of(snapshot_of(Week.objects.get(pk=self.week.pk))), [])

    def test_every_page_of_a_week_opens(self) -> None:
        pk = self.week.pk
        for name, args in (("list", [self.rower.pk]), ("favourites", [self.rower.pk]), ("day", [pk,
            3]), ("cell", [pk, 2, 1]), ("pots", [pk]),
                           ("explain", [pk]), ("why", [pk, 2, 1]), ("under", [pk]), ("versions",
                           [pk]), ("files", [pk]), ("print", [pk]),
                           ("foods", [pk, 0, 0])):  # fmt: skip
            with self.subTest(name):
                self.assertEqual(
                    self.client.get(
                        reverse(f"weeks:{name}", args=args), {"q": "juice"}
                    ).status_code,
                    200,
                )
        for name, args in (
            ("cell", [pk, 9, 0]),
            ("day", [pk, 7]),
            ("pot", [pk, "batch-99999"]),
            ("export", [pk, "exe"]),
        ):
            self.assertEqual(self.client.get(reverse(f"weeks:{name}", args=args)).status_code, 404)

    def test_plain_forms_lead_back_to_the_week(self) -> None:
        plan = self.plan()
        given = {"revision": self.week.revision, "day": 0, "to_day": 3}
        answer = self.client.post(reverse("weeks:act", args=[self.week.pk, "swap"]), given)
        self.assertRedirects(answer, reverse("weeks:week", args=[self.week.pk]))
        self.assertEqual(self.plan().days[3], plan.days[0])

    def test_the_day_shows_what_its_meals_leave_and_the_watch_list(self) -> None:
        self.act("clear", day=2, meal=3)
        page = self.client.get(reverse("weeks:day", args=[self.week.pk, 2]))
        for words in (
            "empty; left for this meal:",
            "Vitamin B12",
            "Protein by meal",
            "Beans, soy and wheat protein",
        ):
            self.assertContains(page, words)

    def test_a_figure_of_a_day_can_be_asked_why(self) -> None:
        self.act("scale", day=2, meal=1, steps=2)
        for key in ("protein_g", "kcal_per_g", "iron_mg"):
            found = why_day(Week.objects.get(pk=self.week.pk), 2, key)
            total = snapshot_of(Week.objects.get(pk=self.week.pk)).days[2].total[key].amount
            self.assertAlmostEqual(found.value if found.value is not None else 0.0, total, places=6)
        page = self.client.get(
            reverse("weeks:why-day", args=[self.week.pk, 2, "protein_g"]), **HTMX
        )
        self.assertContains(page, "Lunch:")
        self.assertEqual(
            self.client.get(reverse("weeks:why-day", args=[self.week.pk, 2, "joy"])).status_code,
            404,
        )

    def test_queries_do_not_grow_with_the_weeks_that_are_stored(self) -> None:
        address = reverse("weeks:week", args=[self.week.pk])
        self.client.get(address)
        with self.assertNumQueries(self._queries(address)):
            self.client.get(address)
        for n in range(1, 51):
            Week.objects.create(
                client=self.rower,
                start=date(2024, 1, 1) + timedelta(days=7 * n),
                plan=self.week.plan,
            )
        self.assertLessEqual(self._queries(address), self.first)

    def _queries(self, address: str) -> int:
        from django.db import connection
        from django.test.utils import CaptureQueriesContext

        with CaptureQueriesContext(
            connection,
        ) as seen:
            self.client.get(address)
        self.first = getattr(self, "first", len(seen))
        return len(seen)


class Cautions(Weeks):
    def test_an_allergen_is_kept_out_until_somebody_says_why(self) -> None:
        before = self.plan()
        asked = self.act("add", day=0, meal=0, dish="food:peanuts-raw", name="Peanuts")
        self.assertContains(asked, "Add anyway", status_code=422)
        self.assertEqual(self.plan(), before)
        self.assertEqual(
            self.act(
                "add",
                day=0,
                meal=0,
                dish="food:peanuts-raw",
                name="Peanuts",
                because="For a challenge at the clinic.",
            ).status_code,
            200,
        )
        page = self.client.get(reverse("weeks:week", args=[self.week.pk]))
        self.assertContains(page, "peanut allergy: Peanuts")
        self.assertContains(page, "For a challenge at the clinic.")

    def test_a_caution_of_the_week_is_noted_with_a_reason_and_printed(self) -> None:
        address = reverse("weeks:note", args=[self.week.pk])
        self.assertEqual(
            self.client.post(address, {"key": "b12", "reason": "x"}, **HTMX).status_code, 404
        )
        self.rower.supplements = ""  # without the supplement the caution is there again
        self.rower.save()
        self.assertEqual(
            self.client.post(address, {"key": "b12", "reason": ""}, **HTMX).status_code, 422
        )
        self.assertEqual(
            self.client.post(address, {"key": "moon", "reason": "x"}, **HTMX).status_code, 404
        )
        self.assertContains(
            self.client.post(address, {"key": "b12", "reason": "Takes a supplement."}, **HTMX),
            "Takes a supplement.",
        )
        self.assertContains(
            self.client.get(reverse("weeks:print", args=[self.week.pk])), "Takes a supplement."
        )

    def test_a_file_with_an_allergen_is_asked_about_and_recorded(self) -> None:
        self.rower.allergies = ["soy", "wheat"]
        self.rower.save()
        plan = put(self.plan(), 0, 1, Entry("food:soy-sauce", "Soy sauce"))
        address, name = reverse("weeks:take-in", args=[self.week.pk]), "week.json"

        def sent(**more: str) -> object:
            data = json.dumps(
                {"format": files.FORMAT, "start": "2026-11-23", **plan_json(plan)}
            ).encode()
            given = {"file": SimpleUploadedFile(name, data), "revision": self.week.revision, **more}
            return self.client.post(address, given)

        self.assertContains(sent(), "soy, wheat", status_code=422)
        self.assertEqual(sent(because="Ruled out.").status_code, 302)
        kept = Acknowledgement.objects.filter(reason="Ruled out.").values_list("key", flat=True)
        self.assertEqual(set(kept), {"allergen-soy", "allergen-wheat"})

    def test_fibre_is_held_against_the_week_handed_over_before(self) -> None:
        earlier = self.rower.weeks.get(start=self.week.start - timedelta(days=7))
        address = reverse("weeks:week", args=[self.week.pk])
        self.assertNotContains(self.client.get(address), "Fibre goes from")
        for day in earlier.kept["days"]:
            day["fibre_g"] = 20
        earlier.save()
        self.assertContains(self.client.get(address), "Fibre would rise from 20 to")


class BySolver(Weeks):
    def test_a_planned_week_keeps_locked_cells_and_is_repeatable(self) -> None:
        self.act("lock", day=2, meal=1)
        locked = self.plan().cell(2, 1)
        plans = []
        for _ in range(2):
            now = Week.objects.get(pk=self.week.pk)
            answer = self.client.post(
                reverse("weeks:plan", args=[now.pk]), {"revision": now.revision}, **HTMX
            )
            self.assertContains(answer, "Week planned")
            plans.append(self.plan())
        self.assertEqual(plans[0], plans[1])
        self.assertEqual(plans[0].cell(2, 1), locked)
        self.assertEqual(problems_of(snapshot_of(Week.objects.get(pk=self.week.pk))), [])

    def test_with_one_evening_what_no_longer_keeps_is_frozen(self) -> None:
        address = reverse("weeks:plan", args=[self.week.pk])
        for may_freeze in (True, False):
            Week.objects.filter(pk=self.week.pk).update(
                rules={"cooking_days": [-1], "freeze": may_freeze}
            )
            now = Week.objects.get(pk=self.week.pk)
            self.client.post(address, {"revision": now.revision}, **HTMX)
            found = snapshot_of(Week.objects.get(pk=self.week.pk))
            self.assertEqual(problems_of(found), [])
            thawed = sum(one.thawed_g for supply in found.supplies for one in supply.taken)
            self.assertEqual(thawed > 0, may_freeze)
            page = self.client.get(reverse("weeks:week", args=[self.week.pk])).content.decode()
            self.assertEqual("thawed" in page, may_freeze)

    def test_with_other_dishes_the_week_is_another_and_meets_as_much(self) -> None:
        address, seen = reverse("weeks:plan", args=[self.week.pk]), []
        for other in ("", "yes"):
            revision = Week.objects.get(pk=self.week.pk).revision
            page = self.client.post(address, {"revision": revision, "other": other}, **HTMX)
            self.assertContains(page, "data-other")
            self.assertNotContains(
                page, "dishes they like more"
            )  # what was liked is as liked as it was
            facts = gather(Week.objects.get(pk=self.week.pk))
            answer = planning.plan_answer(planning.question_from(facts), facts.plan)
            assert answer is not None
            seen.append((facts.plan, answer.lacking(), misses_of(answer)))
        self.assertNotEqual(seen[0][0], seen[1][0])
        self.assertEqual(seen[0][1:], seen[1][1:])

    def test_a_plan_that_gives_up_what_matters_more_is_not_taken(self) -> None:
        """The planner is made to return a week of empty dinners: the one that stands is kept."""
        facts = gather(self.week)
        question = planning.question_from(facts)
        empty = {slot: question.choices(slot)[0] for slot in question.slots}
        before = self.plan()
        with mock.patch.object(planning, "first_week", lambda question: answer_of(question, empty)):
            page = self.client.post(
                reverse("weeks:plan", args=[self.week.pk]), {"revision": self.week.revision}, **HTMX
            )
        self.assertContains(page, "was kept: it does better", status_code=422)
        self.assertContains(page, "more meals empty", status_code=422)
        self.assertEqual(self.plan(), before)

    def test_a_search_that_found_what_is_worse_is_not_taken(self) -> None:
        before = self.plan()
        emptied = before
        for day in range(7):
            emptied = clear(emptied, day, 1)
        search = Search.objects.create(
            week=self.week, revision=self.week.revision, plan=plan_json(emptied)
        )
        address = reverse("weeks:take", args=[self.week.pk, search.pk])
        self.assertContains(self.client.post(address, **HTMX), "was kept", status_code=422)
        self.assertEqual(self.plan(), before)

    def test_what_a_plan_gives_for_what_is_told(self) -> None:
        self.act("clear", day=0, meal=1)
        revision = Week.objects.get(pk=self.week.pk).revision
        address = reverse("weeks:plan", args=[self.week.pk])
        page = self.client.post(address, {"revision": revision}, **HTMX)
        self.assertContains(page, "Against the plan that stood:")
        self.assertContains(page, "fills 1 empty meal")

    def test_nobody_plans_what_holds_the_clients_allergen(self) -> None:
        question = planning.question_from(gather(self.week))
        bowl = self.rower.bowls.get(name="Slipway snack")
        self.assertIn(f"bowl-{bowl.pk}", {o.key for o in question.offers})
        self.rower.allergies = ["tree-nuts"]
        self.rower.save()
        question = planning.question_from(gather(Week.objects.get(pk=self.week.pk)))
        self.assertNotIn(f"bowl-{bowl.pk}", {o.key for o in question.offers})

    def test_without_dishes_without_targets_without_favourites(self) -> None:
        self.rower.bowls.all().delete()
        answer = self.client.post(
            reverse("weeks:plan", args=[self.week.pk]), {"revision": self.week.revision}, **HTMX
        )
        self.assertContains(answer, "no dishes to plan with", status_code=422)
        self.rower.target_sets.all().delete()
        answer = self.client.post(
            reverse("weeks:plan", args=[self.week.pk]), {"revision": self.week.revision}, **HTMX
        )
        self.assertContains(answer, "at least one meal", status_code=422)
        self.assertEqual(
            self.client.get(reverse("weeks:week", args=[self.week.pk])).status_code, 200
        )
        self.assertContains(
            self.client.get(reverse("weeks:list", args=[self.rower.pk])),
            "Set targets before planning a week",
        )
        made = self.client.post(
            reverse("weeks:list", args=[self.rower.pk]), {"start": "2027-03-01"}
        )
        self.assertEqual(made.status_code, 422)

    def test_a_search_finds_no_worse_proves_and_is_taken(self) -> None:
        answer = self.client.post(
            reverse("weeks:search", args=[self.week.pk]), {"seconds": "8"}, **HTMX
        )
        search = Search.objects.get(week=self.week)
        self.assertContains(answer, "Search finished")
        self.assertLessEqual(search.points, search.first_points + 1e-6)
        self.assertLessEqual(search.bound, search.points + 1e-6)
        self.assertGreater(search.bound, 0)
        taken = self.client.post(reverse("weeks:take", args=[self.week.pk, search.pk]), **HTMX)
        self.assertEqual(taken.status_code, 200)
        self.assertEqual(self.plan(), plan_of(search.plan))

    def test_a_week_spoiled_between_search_and_store_is_refused_logged_and_said(self) -> None:
        """Each way to spoil it: a locked cell, a dish of another meal, a dish that is gone, a pot
        nobody cooked.
        """
        self.act("lock", day=2, meal=1)
        self.week = Week.objects.get(pk=self.week.pk)
        search = search_queue.start_search(self.week, 1)
        good = plan_of(search.plan)
        snack = next(
            key
            for key in (o.key for o in planning.question_from(gather(self.week)).offers)
            if key != good.cell(2, 1).entries[0].dish
        )
        bowl = self.rower.bowls.get(name="Slipway snack")
        spoils = {
            "locked": put(good, 2, 1, Entry(snack, "x")),
            "suit": put(good, 0, 1, Entry(f"bowl-{bowl.pk}", "Slipway snack")),
            "not available": put(good, 0, 1, Entry("bowl-999999", "gone")),
            "not cooked": replace(good, cookings=()),
        }
        before = self.plan()
        for word, spoiled in spoils.items():
            with self.subTest(word):
                Search.objects.filter(pk=search.pk).update(
                    plan=plan_json(spoiled), revision=self.week.revision
                )
                with self.assertLogs("roundpantry.weeks.planning", "ERROR") as logged:
                    answer = self.client.post(
                        reverse("weeks:take", args=[self.week.pk, search.pk]), **HTMX
                    )
                self.assertContains(answer, "was not saved", status_code=422)
                self.assertIn(word, answer.content.decode())
                self.assertIn(word, logged.output[0])
                self.assertEqual(self.plan(), before)

    def test_a_planned_week_that_breaks_a_rule_is_not_stored(self) -> None:
        before = self.plan()
        made = planning.answer_for(self.week)
        spoiled = put(before, 0, 1, Entry("bowl-999999", "gone"))
        with (
            mock.patch.object(planning, "answer_for", return_value=replace(made, plan=spoiled)),
            self.assertLogs("roundpantry.weeks.planning", "ERROR"),
        ):
            said = self.client.post(
                reverse("weeks:plan", args=[self.week.pk]), {"revision": self.week.revision}, **HTMX
            )
        self.assertContains(said, "was not saved", status_code=422)
        self.assertEqual(self.plan(), before)

    def test_a_search_is_stopped_and_a_stale_one_is_not_taken(self) -> None:
        search = Search.objects.create(week=self.week, revision=self.week.revision, seconds=5)
        address = reverse("weeks:progress", args=[self.week.pk, search.pk])
        self.assertContains(self.client.get(address), "Looking for a better week")
        self.client.post(reverse("weeks:stop", args=[self.week.pk, search.pk]), **HTMX)
        search.refresh_from_db()
        search_queue.run_search(search)
        search.refresh_from_db()
        self.assertEqual(search.state, Search.STOPPED)
        self.assertIsNotNone(search.plan)
        self.act("clear", day=0, meal=0)
        self.assertContains(self.client.get(address), "no longer fits")
        late = self.client.post(reverse("weeks:take", args=[self.week.pk, search.pk]), **HTMX)
        self.assertEqual(late.status_code, 422)
        self.assertEqual(self.plan().cell(0, 0).entries, ())

    def test_that_not_every_day_can_be_looked_at_is_told(self) -> None:
        said: list[str] = []

        def looked(settled: Settled, *_: object) -> Answer:
            search = Search.objects.get(week=self.week)
            address = reverse("weeks:progress", args=[self.week.pk, search.pk])
            said.append(self.client.get(address).content.decode())
            return settled.week

        for few in (True, False):
            Search.objects.all().delete()
            with (
                mock.patch("dietetics.week.search.settling.MOST_WAYS", 6_000_000 if few else 50),
                mock.patch.object(search_queue, "improve", looked),
            ):
                search_queue.start_search(self.week, 1)
        self.assertEqual(["too many ways to fill a day" in page for page in said], [False, True])

    def test_a_search_that_fell_silent_is_over(self) -> None:
        search = Search.objects.create(week=self.week, revision=1)
        Search.objects.filter(pk=search.pk).update(
            beat_at=datetime.fromisoformat("2026-01-01T00:00:00+00:00")
        )
        page = self.client.get(reverse("weeks:progress", args=[self.week.pk, search.pk]))
        self.assertContains(page, "The search failed")

    def test_rules_and_ways_out(self) -> None:
        rules = reverse("weeks:rules", args=[self.week.pk])
        for wrong in (
            {"most_pots": "x"},
            {"most_pots": "3", "different": "lots"},
            {"most_pots": "3", "most_new": "-1"},
            {"most_pots": "3", "cooking_days": [0, 1, 2, 3, 4]},
        ):
            self.assertEqual(
                self.client.post(
                    rules, {"revision": self.week.revision, **wrong}, **HTMX
                ).status_code,
                422,
            )
        kept = self.client.post(
            rules, {"revision": self.week.revision, "most_pots": "lots", "different": "7"}, **HTMX
        )
        self.assertContains(kept, 'value="lots"', status_code=422)
        self.assertContains(kept, 'value="7"', status_code=422)
        good = {
            "revision": self.week.revision,
            "most_pots": "2",
            "different": "3",
            "cooking_days": ["-1", "3"],
        }
        self.assertEqual(self.client.post(rules, good, **HTMX).status_code, 200)
        now = Week.objects.get(pk=self.week.pk)
        self.assertEqual(rules_of(now).cooking_days, (-1, 3))
        way = {"revision": now.revision, "kind": "evening", "value": "5", "plan": "yes"}
        self.assertContains(
            self.client.post(reverse("weeks:take-way", args=[now.pk]), way, **HTMX), "Week planned"
        )
        now = Week.objects.get(pk=now.pk)
        self.assertEqual(rules_of(now).cooking_days, (-1, 3, 5))
        again = {"revision": now.revision, "kind": "again", "value": "", "plan": "yes"}
        said = self.client.post(reverse("weeks:take-way", args=[now.pk]), again, **HTMX)
        self.assertContains(said, "Week planned")
        self.assertEqual(rules_of(Week.objects.get(pk=now.pk)).cooking_days, (-1, 3, 5))
        for evening, code in (("4", 200), ("1", 422)):  # four evenings are the most
            way = {**way, "revision": Week.objects.get(pk=now.pk).revision, "value": evening}
            self.assertEqual(
                self.client.post(reverse("weeks:take-way", args=[now.pk]), way, **HTMX).status_code,
                code,
            )

    def test_a_free_meal_and_varied_kinds_are_planned_as_wished(self) -> None:
        rules = reverse("weeks:rules", args=[self.week.pk])
        good = {"most_pots": "4", "different": "4", "cooking_days": ["-1", "2"]}
        for wrong in (
            {"free_meals": "4", "free_meal": "Dinner"},
            {"free_meals": "one", "free_meal": "Dinner"},
            {"free_meals": "1", "free_meal": "Elevenses"},
        ):
            sent = {**good, **wrong, "revision": self.week.revision}
            self.assertEqual(self.client.post(rules, sent, **HTMX).status_code, 422, wrong)
        page = self.client.get(reverse("weeks:week", args=[self.week.pk]))
        self.assertContains(page, '<option value="Dinner" selected>')  # proposed: the last main one
        before = planning.question_from(gather(self.week))
        self.assertEqual(sum(before.rules.plant_kinds.values()) > 0, True)
        sent = {**good, "free_meals": "2", "free_meal": "Dinner", "vary_kinds": "yes",
                "revision": self.week.revision}  # fmt: skip
        page = self.client.post(rules, sent, **HTMX)
        self.assertContains(page, '<option value="Dinner" selected>')
        now = Week.objects.get(pk=self.week.pk)
        question = planning.question_from(gather(now))
        self.assertEqual(question.rules.different, before.rules.different + 1)
        self.client.post(reverse("weeks:plan", args=[now.pk]), {"revision": now.revision}, **HTMX)
        plan = plan_of(Week.objects.get(pk=now.pk).plan)
        free = [place for *place, cell in plan.places() for e in cell.entries
                if e.dish.startswith("free-")]  # fmt: skip
        dinner = plan.meals.index("Dinner")
        self.assertEqual([meal for _, meal in free], [dinner, dinner])
        self.assertEqual(len({day for day, _ in free}), 2)
        now = Week.objects.get(pk=now.pk)
        self.client.post(rules, {**good, "revision": now.revision}, **HTMX)  # no tick: no variety
        question = planning.question_from(gather(Week.objects.get(pk=now.pk)))
        self.assertEqual(sum(question.rules.plant_kinds.values()), 0)
        self.assertEqual(dict(question.rules.most_servings), {})
        self.assertFalse(any(key.startswith("free-") for key in question.by_key))

    def test_it_is_said_how_near_to_the_best_a_planned_week_is(self) -> None:
        address = reverse("weeks:plan", args=[self.week.pk])
        for share, words, longer in (
            (None, "not proven to be the best", True),
            (0.96, "the best possible is at most 4.0% better", True),
            (
                1.0,
                "No better plan is possible with these dishes and rules, as the planner weighs",
                False,
            ),
        ):

            def found(question: Question, share: float | None = share) -> Answer:
                week = settle(question).week
                return replace(week, bound=None if share is None else share * week.points)

            revision = Week.objects.get(pk=self.week.pk).revision
            with mock.patch("roundpantry.weeks.planning.first_week", found):
                page = self.client.post(address, {"revision": revision}, **HTMX)
            self.assertContains(page, words)
            self.assertEqual("Search longer" in page.content.decode(), longer)

    def test_another_dish_is_taken_as_a_way_out(self) -> None:
        bowl = self.rower.bowls.get(name="Regatta lentils")
        meal, bowl.meal = bowl.meal, None
        bowl.save()
        facts = gather(self.week)
        question = planning.question_from(facts)
        spare = {offer.key for offer, _ in planning.spare_dishes(facts, question)}
        self.assertIn(f"bowl-{bowl.pk}", spare)
        self.assertTrue(any(key.startswith("batch-") for key in spare))
        way = {
            "revision": self.week.revision,
            "kind": "dish",
            "value": f"bowl-{bowl.pk}",
            "plan": "yes",
        }
        address = reverse("weeks:take-way", args=[self.week.pk])
        self.assertContains(self.client.post(address, way, **HTMX), "Week planned")
        question = planning.question_from(gather(Week.objects.get(pk=self.week.pk)))
        self.assertIn(meal.name, question.offers[question.by_key[f"bowl-{bowl.pk}"]].meals)
        for wrong in (
            {"value": "bowl-0"},
            {"kind": "watch", "value": "sodium_mg"},
            {"kind": "uses", "value": "x"},
        ):
            self.assertEqual(self.client.post(address, {**way, **wrong}, **HTMX).status_code, 422)

    def test_new_dishes_are_those_not_eaten_lately(self) -> None:
        question = planning.question_from(gather(self.week))
        earlier = [plan_of(row.plan) for row in self.rower.weeks.filter(start__lt=self.week.start)]
        eaten = {
            entry.dish for plan in earlier for _, _, cell in plan.places() for entry in cell.entries
        }
        self.assertTrue(eaten)
        self.assertEqual(
            {o.key for o in question.offers if not o.new}, {o.key for o in question.offers} & eaten
        )
        rules = {
            "revision": self.week.revision,
            "most_pots": "4",
            "cooking_days": ["-1", "2"],
            "most_new": "0",
        }
        self.assertEqual(
            self.client.post(
                reverse("weeks:rules", args=[self.week.pk]), rules, **HTMX
            ).status_code,
            200,
        )
        self.assertEqual(rules_of(Week.objects.get(pk=self.week.pk)).most_new, 0)

    def test_the_clinicians_windows_of_the_kidney_client_are_fixed(self) -> None:
        week = Client.objects.get(name="Tobias Lindqvist").weeks.first()
        question = planning.question_from(gather(week))
        self.assertLessEqual({"potassium_mg", "phosphorus_mg"}, question.fixed)

    def test_favourites_are_obeyed(self) -> None:
        bowl = self.rower.bowls.get(name="Boathouse seitan")
        address, key = reverse("weeks:favourites", args=[self.rower.pk]), f"bowl-{bowl.pk}"
        typed = {"liking": "3", "most_uses": "1", "apart": "2", "meals": ["Dinner"]}
        good = {"dish": key, **{f"{key}-{name}": value for name, value in typed.items()}}
        for name, value in (("liking", "9"), ("apart", "x"), ("most_uses", "many")):
            answer = self.client.post(address, {**good, f"{key}-{name}": value})
            self.assertContains(answer, "Boathouse seitan: ", status_code=422)
        self.assertEqual(self.client.post(address, {**good, "dish": "bowl-0"}).status_code, 422)
        kept = self.client.post(address, {**good, f"{key}-most_uses": "seldom"})
        self.assertContains(kept, 'value="seldom"', status_code=422)
        self.assertEqual(self.client.post(address, good).status_code, 302)
        answer = planning.answer_for(Week.objects.get(pk=self.week.pk)).answer
        uses = [slot for slot in answer.question.slots if answer.dish(slot) == key]
        self.assertLessEqual(len(uses), 1)
        self.assertTrue(all(answer.question.meals[m].name == "Dinner" for _, m in uses))
        self.client.post(address, {k: v for k, v in good.items() if k != f"{key}-meals"})
        self.assertTrue(DishChoice.objects.get(client=self.rower, dish=key).left_out)


class GivenOn(Weeks):
    def test_vitamins_and_minerals_say_what_is_short_and_what_closes_it(self) -> None:
        page = self.client.get(reverse("weeks:nutrients", args=[self.week.pk]))
        self.assertContains(page, "Vitamin E")
        shown = {one.key: one for one in page.context["verdicts"]}
        self.assertTrue(shown["vitamin_d_ug"].met)
        self.rower.supplements = ""
        self.rower.save()
        page = self.client.get(reverse("weeks:nutrients", args=[self.week.pk]))
        self.assertContains(page, "a supplement of 20 µg a day")
        gate = [one.key for one in obstacles(snapshot_of(self.week))]
        self.assertIn("gaps", gate)

    def test_a_week_handed_over_is_frozen_and_an_edit_makes_the_next_version(self) -> None:
        kept = self.plan()
        address = reverse("weeks:hand-over", args=[self.week.pk])
        in_the_way = obstacles(snapshot_of(self.week))
        self.assertFalse(any(one.is_stop for one in in_the_way))
        keys = [one.key for one in in_the_way]
        self.client.post(
            address, {"note": "As agreed.", "obstacle": keys, "reason": ["agreed"] * len(keys)}
        )
        answer = self.act("clear", day=0, meal=0)
        self.assertEqual(answer.status_code, 204)
        newer = Week.objects.get(client=self.rower, start=self.week.start, version=2)
        self.assertEqual(answer["HX-Redirect"], f"/weeks/{newer.pk}/")
        self.assertEqual(self.plan(), kept)
        self.assertEqual(plan_of(newer.plan).cell(0, 0).entries, ())
        page = self.client.get(reverse("weeks:versions", args=[newer.pk]))
        self.assertContains(page, "Monday breakfast: Bow-wave breakfast → nothing")
        self.assertContains(page, "Average day")

    def test_what_is_in_the_way_is_mended_or_answered_and_the_answer_is_kept(self) -> None:
        address = reverse("weeks:hand-over", args=[self.week.pk])
        page = self.client.get(reverse("weeks:versions", args=[self.week.pk]))
        key = page.context["words"][0][0].key
        refused = self.client.post(address, {"note": "As agreed."})
        self.assertContains(refused, "give a reason", status_code=422)
        self.assertContains(refused, "As agreed.", status_code=422)
        self.assertIsNone(Week.objects.get(pk=self.week.pk).frozen_at)
        keys = [one.key for one, _, _ in page.context["words"]]
        given = {"obstacle": keys, "reason": [f"because {n}" for n in range(len(keys))]}
        half = self.client.post(address, {"obstacle": keys, "reason": ["because 0"]})
        self.assertEqual(half.status_code, 422 if len(keys) > 1 else 302)
        Week.objects.filter(pk=self.week.pk).update(frozen_at=None)
        self.assertEqual(self.client.post(address, given).status_code, 302)
        known = Week.objects.get(pk=self.week.pk).kept["known"]
        self.assertEqual((known[0]["key"], known[0]["reason"]), (key, "because 0"))
        page = self.client.get(reverse("weeks:versions", args=[self.week.pk]))
        self.assertContains(page, "Known when it was handed over")
        self.assertContains(page, "because 0")

    def test_a_stop_cannot_be_talked_away(self) -> None:
        self.rower.bowls.first().delete()
        TargetSet.objects.filter(client=self.rower).delete()
        address = reverse("weeks:hand-over", args=[self.week.pk])
        in_the_way = obstacles(snapshot_of(Week.objects.get(pk=self.week.pk)))
        stops = [one for one in in_the_way if one.is_stop]
        self.assertIn("no-targets", {one.key for one in stops})
        keys = [one.key for one in in_the_way]
        answer = self.client.post(address, {"obstacle": keys, "reason": ["all the same"] * 40})
        self.assertContains(answer, "mended first", status_code=422)
        self.assertContains(answer, "disabled", status_code=422)
        self.assertIsNone(Week.objects.get(pk=self.week.pk).frozen_at)

    def test_dialysis_is_not_handed_over_without_its_limits(self) -> None:
        Client.objects.filter(pk=self.rower.pk).update(conditions=["dialysis"])
        week = Week.objects.get(pk=self.week.pk)
        keys = {one.key for one in obstacles(snapshot_of(week)) if one.is_stop}
        needed = {"needed-potassium_mg", "needed-phosphorus_mg", "needed-sodium_mg"}
        self.assertLessEqual(needed, keys)

    def test_frozen_figures_stay_when_a_dish_changes(self) -> None:
        before = kept_of(self.week)["days"][0]["energy_kcal"]
        services.hand_over(self.week, self.week.revision, kept_of(self.week), "")
        self.rower.bowls.get(name="Slipway snack").parts.first().delete()
        self.assertEqual(Week.objects.get(pk=self.week.pk).kept["days"][0]["energy_kcal"], before)
        self.assertLess(snapshot_of(self.week).days[0].total["energy_kcal"].amount, before)

    def test_json_csv_and_xlsx_come_back_the_same(self) -> None:
        for kind in ("json", "csv", "xlsx"):
            with self.subTest(kind):
                data = self.client.get(reverse("weeks:export", args=[self.week.pk, kind])).content
                before = self.plan()
                self.act("clear", day=0, meal=1)
                file = io.BytesIO(data)
                file.name = f"week.{kind}"
                now = Week.objects.get(pk=self.week.pk)
                answer = self.client.post(
                    reverse("weeks:take-in", args=[now.pk]),
                    {"revision": now.revision, "file": file},
                )
                self.assertEqual(answer.status_code, 302)
                self.assertEqual(self.plan(), before)

    def test_files_that_cannot_be_read_say_so_and_change_nothing(self) -> None:
        before = self.plan()
        other = json.dumps(
            {
                "format": "round-pantry-plan/1",
                "meals": ["Tea"],
                "days": [{"cells": [{"entries": []}]}],
            }
        )
        for name, data in (("a.json", b"{}"), ("a.json", b"nonsense"), ("a.csv", b"a,b\n1,2"),
            ("a.xlsx", b"PK nonsense"), ("a.json", other.encode()),
                           ("a.json", b"\xff\xfe\x00"), ("a.json", b"[]")):  # fmt: skip
            with self.subTest(name):
                file = io.BytesIO(data)
                file.name = name
                answer = self.client.post(
                    reverse("weeks:take-in", args=[self.week.pk]),
                    {"revision": self.week.revision, "file": file},
                )
                self.assertContains(answer, "cannot be read", status_code=422)
        self.assertEqual(
            self.client.post(
                reverse("weeks:take-in", args=[self.week.pk]), {"revision": 1}
            ).status_code,
            422,
        )
        self.assertEqual(self.plan(), before)

    def test_one_row_a_portion_on_the_sheet(self) -> None:
        data = self.client.get(reverse("weeks:export", args=[self.week.pk, "xlsx"])).content
        rows = list(openpyxl.load_workbook(io.BytesIO(data)).active.iter_rows(values_only=True))
        self.assertEqual(len(rows), 1 + 28 + len(self.plan().cookings))

    def test_the_calendar_is_read_by_a_calendar_library(self) -> None:
        data = self.client.get(reverse("weeks:export", args=[self.week.pk, "ics"])).content
        events = icalendar.Calendar.from_ical(data).walk("VEVENT")
        meals = [e for e in events if not str(e["SUMMARY"]).startswith("Cook")]
        self.assertEqual(len(meals), 28)
        first = min(meals, key=lambda e: e.decoded("DTSTART"))
        self.assertEqual(
            first.decoded("DTSTART"),
            datetime.combine(self.week.start, datetime.strptime("06:30", "%H:%M").time()),
        )
        self.assertIn("Bow-wave breakfast", str(first["SUMMARY"]))
        self.assertEqual(len({str(e["UID"]) for e in events}), len(events))

    def test_a_new_week_carries_over_what_is_still_good(self) -> None:
        batch = next(c.batch for c in self.plan().cookings)
        plan = cook(self.plan(), batch, 6, 1)  # Sunday evening: only Sunday's dinner can eat of it
        services.store(self.week, self.week.revision, plan, "cooked late")
        made = add_week(self.rower, self.week.start + timedelta(days=7))
        carried = [c for c in plan_of(made.plan).cookings if c.day < 0]
        self.assertIn((batch, -1), [(c.batch, c.day) for c in carried])
        again = self.client.post(
            reverse("weeks:list", args=[self.rower.pk]), {"start": made.start.isoformat()}
        )
        self.assertContains(again, "There is a week from", status_code=422)
        self.assertEqual(
            self.client.post(
                reverse("weeks:list", args=[self.rower.pk]), {"start": "soon"}
            ).status_code,
            422,
        )

    def test_the_same_week_under_another_school(self) -> None:
        page = self.client.get(
            reverse("weeks:under", args=[self.week.pk]), {"school": "greens-and-beans"}
        )
        for words in ("Greens and beans", "Training", "Raw salad", "of 7 days"):
            self.assertContains(page, words)

    def test_print_says_whose_it_is_and_what_to_mind(self) -> None:
        plan = put(self.plan(), 0, 0, Entry("bowl-0", "Old bowl"))
        services.store(self.week, self.week.revision, plan, "x")
        page = self.client.get(reverse("weeks:print", args=[self.week.pk]))
        for words in (
            "Maren Okafor",
            "Peanut allergy",
            "does not treat disease",
            "Old bowl on Monday is no longer available",
            "The evening before",
        ):
            self.assertContains(page, words)
