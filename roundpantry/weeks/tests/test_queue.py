"""Searches wait their turn: one for each state of a week, as many at once as may be, first come
first.
"""

from __future__ import annotations

from datetime import timedelta
from unittest import mock

from django.test import override_settings
from django.urls import reverse

from roundpantry.counter import clock
from roundpantry.demo.tests.support import HTMX, WithDemo
from roundpantry.weeks import search_queue, services
from roundpantry.weeks.cell_changes import SentChange
from roundpantry.weeks.models import Search, Week


class Queue(WithDemo):
    """Three weeks of one client, and more presses than cores."""

    def setUp(self) -> None:
        super().setUp()
        first = Week.objects.filter(client__practitioner=self.petra, frozen_at=None).first()
        later = [
            services.add_week(first.client, first.start + timedelta(weeks=6 + n)) for n in range(2)
        ]
        self.weeks = [first, *later]

    def test_the_same_week_is_looked_for_once(self) -> None:
        first = services.queue_search(self.weeks[0], 20.0, 1)
        for _ in range(9):
            self.assertEqual(services.queue_search(self.weeks[0], 20.0, 1), first)
        self.assertEqual(Search.objects.count(), 1)
        self.assertNotEqual(services.queue_search(self.weeks[1], 20.0, 1), first)

    def test_a_changed_week_takes_its_own_place_and_the_old_search_goes(self) -> None:
        waiting = services.queue_search(self.weeks[0], 20.0, 1)
        services.act(
            self.weeks[0],
            "skip",
            SentChange(self.weeks[0].revision, day=0, meal=0),
        )
        fresh = services.queue_search(self.weeks[0], 20.0, 1)
        waiting.refresh_from_db()
        self.assertEqual((waiting.state, fresh.state), (Search.STOPPED, Search.WAITING))
        Search.objects.filter(pk=fresh.pk).update(state=Search.RUNNING, beat_at=clock.now())
        services.act(
            self.weeks[0],
            "skip",
            SentChange(Week.objects.get(pk=self.weeks[0].pk).revision, day=1, meal=0),
        )
        services.queue_search(self.weeks[0], 20.0, 1)
        fresh.refresh_from_db()
        self.assertTrue(fresh.stop)

    def test_first_come_first_and_no_more_than_may(self) -> None:
        queued = [services.queue_search(week, 20.0, 1) for week in self.weeks]
        self.assertEqual(services.claim_search(2), queued[0])
        self.assertEqual(services.claim_search(2), queued[1])
        self.assertIsNone(services.claim_search(2))
        Search.objects.filter(pk=queued[0].pk).update(state=Search.DONE)
        self.assertEqual(services.claim_search(2), queued[2])
        self.assertIsNone(services.claim_search(9))

    def test_ways_go_first_run_beside_a_search_and_leave_it_its_place(self) -> None:
        week = self.weeks[0]
        plan = services.queue_search(week)
        other = services.queue_search(self.weeks[1])
        ways = services.queue_search(week, looks_for=Search.WAYS)
        self.assertEqual(services.queue_search(week, looks_for=Search.WAYS), ways)
        self.assertEqual(services.queue_search(week), plan)
        more = services.queue_search(self.weeks[1], looks_for=Search.WAYS)
        self.assertEqual(list(services.waiting_searches()), [ways, more, plan, other])
        self.assertEqual(services.claim_search(1), ways)
        self.assertEqual(services.claim_search(1), more)
        self.assertIsNone(services.claim_search(1))  # one beside the one that may run, no more
        Search.objects.filter(pk=ways.pk).update(state=Search.DONE)
        Search.objects.filter(pk=more.pk).update(state=Search.DONE)
        self.assertEqual(services.claim_search(1), plan)
        self.assertIsNone(services.claim_search(1))
        services.act(week, "skip", SentChange(week.revision, day=0, meal=0))
        services.queue_search(Week.objects.get(pk=week.pk), looks_for=Search.WAYS)
        plan.refresh_from_db()
        self.assertTrue(plan.stop)  # what it looks for no longer fits

    def test_one_that_fell_silent_holds_no_place(self) -> None:
        queued = [services.queue_search(week, 20.0, 1) for week in self.weeks[:2]]
        services.claim_search(1)
        self.assertIsNone(services.claim_search(1))
        Search.objects.filter(pk=queued[0].pk).update(
            beat_at=clock.now() - timedelta(seconds=services.SILENT_SECONDS + 1)
        )
        self.assertEqual(services.claim_search(1), queued[1])
        self.assertNotEqual(services.queue_search(self.weeks[0], 20.0, 1), queued[0])

    def test_the_page_says_that_it_waits_and_for_how_many(self) -> None:
        queued = [services.queue_search(week, 20.0, 1) for week in self.weeks]
        page = self.client.get(reverse("weeks:progress", args=[self.weeks[2].pk, queued[2].pk]))
        self.assertContains(page, "Waiting for its turn")
        self.assertContains(page, "2 more are ahead of this one")
        self.client.post(reverse("weeks:stop", args=[self.weeks[2].pk, queued[2].pk]), **HTMX)
        queued[2].refresh_from_db()
        self.assertEqual(queued[2].state, Search.STOPPED)

    def test_one_core_stays_free_for_the_pages(self) -> None:
        for cores, most in ((1, 1), (2, 1), (4, 3), (None, 1)):
            with mock.patch("os.cpu_count", return_value=cores):
                self.assertEqual(search_queue.most_searches(), most, cores)

    @override_settings(SEARCH_IN="process")
    def test_a_process_is_started_where_one_more_may_run_and_not_else(self) -> None:
        with (
            mock.patch("subprocess.Popen") as started,
            mock.patch.object(search_queue, "most_searches", return_value=1),
        ):
            search_queue.start_search(self.weeks[0])
            self.assertEqual(started.call_count, 1)
            services.claim_search(1)
            services.queue_search(self.weeks[1], 20.0, 1)
            search_queue.look_after_searches()
            self.assertEqual(started.call_count, 1)

    def test_a_search_that_breaks_off_does_not_stop_the_queue(self) -> None:
        queued = [services.queue_search(week, 20.0, 1) for week in self.weeks[:2]]

        def run(search: Search) -> None:
            if search == queued[0]:
                raise RuntimeError("broken")
            Search.objects.filter(pk=search.pk).update(state=Search.DONE)

        with (
            mock.patch.object(search_queue, "run_search", run),
            override_settings(SEARCH_IN="process"),
            self.assertLogs("roundpantry.weeks.search_queue", "ERROR"),
        ):
            search_queue.run_searches()
        for search in queued:
            search.refresh_from_db()
        self.assertEqual([search.state for search in queued], [Search.FAILED, Search.DONE])
