"""Ways to a better week, looked for behind the page: shown as they are found, kept when stopped,
not to be taken for a week that has changed.
"""

from __future__ import annotations

from dataclasses import replace
from unittest import mock

from django.urls import reverse

from dietetics.targets.windows import Window
from dietetics.week.day_totals import day_sum
from dietetics.week.daynames import DAY_NAMES
from dietetics.week.plan import Entry, add, put
from dietetics.week.question.answer import Answer
from dietetics.week.question.question import Question
from dietetics.week.search import settling
from dietetics.week.search.improving import settle
from dietetics.week.words.explanation import ways_out
from dietetics.week.words.week_words import day_sums
from roundpantry.demo.tests.support import WithDemo
from roundpantry.weeks import services
from roundpantry.weeks.cell_changes import SentChange
from roundpantry.weeks.models import Search, Week
from roundpantry.weeks.planning import answer_for, question_from, store_found
from roundpantry.weeks.planning_facts import gather
from roundpantry.weeks.records import plan_value
from roundpantry.weeks.search_queue import run_search

FIRST = "dietetics.week.words.explanation.first_week"


def settled_week(question: Question) -> Answer:
    """A week in which what matters most is settled: enough to find something, and quick."""
    with mock.patch.multiple(settling, WORK=0.2, LIGHT_WORK=0.2, WORK_FOR_POINTS=0.0):
        return settle(question).week


class Ways(WithDemo):
    """A week with one cooking evening and one batch on it: more would help."""

    def setUp(self) -> None:
        super().setUp()
        week = Week.objects.filter(client__name="Maren Okafor", frozen_at=None).first()
        rules = {"cooking_days": [-1], "most_pots": 1}
        self.week = services.store(week, week.revision, plan_value(week), "x", rules)
        self.search = Search.objects.create(
            week=self.week, revision=self.week.revision, looks_for=Search.WAYS
        )
        self.address = reverse("weeks:progress", args=[self.week.pk, self.search.pk])

    def searched(self) -> None:
        run_search(self.search)
        self.search.refresh_from_db()

    def test_they_are_shown_as_they_are_found_and_kept_when_stopped(self) -> None:
        seen: list[str] = []

        def watched(question: Question) -> Answer:
            """The page as it is by then; stopped where there is something to keep."""
            page = self.client.get(self.address).content.decode()
            seen.append(page)
            if 'class="way"' in page:
                self.client.post(reverse("weeks:stop", args=[self.week.pk, self.search.pk]))
            return settled_week(question)

        with mock.patch(FIRST, watched):
            self.searched()
        self.assertNotIn('class="way"', seen[0])
        self.assertIn('class="way"', seen[-1])
        self.assertNotIn("data-way", seen[-1])  # nothing to press that goes away under the finger
        # the first solve betters the week as it stands, and the last was under way at the stop
        self.assertRegex(seen[-1], rf": {len(seen) - 2} of \d+ changes tried")
        self.assertEqual(self.search.state, Search.STOPPED)
        page = self.client.get(self.address)
        self.assertContains(page, "not every change was tried")
        self.assertContains(page, "data-way=", len(self.search.ways))

    def test_those_of_an_earlier_week_are_not_to_be_taken(self) -> None:

        def until_one_is_found(question: Question) -> Answer:
            if 'class="way"' in self.client.get(self.address).content.decode():
                self.client.post(reverse("weeks:stop", args=[self.week.pk, self.search.pk]))
            return settled_week(question)

        with mock.patch(FIRST, until_one_is_found):
            self.searched()
        self.assertContains(self.client.get(self.address), "data-way=")
        services.act(self.week, "skip", SentChange(self.week.revision, day=0, meal=0))
        page = self.client.get(self.address)
        self.assertContains(page, "no longer fit")
        self.assertContains(page, "Look again")
        self.assertNotContains(page, "data-way")

    def test_a_target_that_a_condition_or_medicine_asks_for_is_not_to_be_left(self) -> None:
        """With warfarin vitamin K stays steady; it is missed in this week, and no way leaves it."""
        week = Week.objects.filter(client__name="Ines Bergström-Vale", frozen_at=None).first()
        question = question_from(gather(week))
        self.assertIn("vitamin_k_ug", {window.key for window in question.windows})
        self.assertIn("vitamin_k_ug", question.fixed)
        self.assertNotIn("energy_kcal", question.fixed)
        far = Window("vitamin_k_ug", 400.0, 500.0, "should")
        rest = tuple(w for w in question.windows if w.key != "vitamin_k_ug")
        answer = settled_week(replace(question, windows=(*rest, far)))
        for fixed, offered in ((question.fixed, False), (frozenset(), True)):
            asked = replace(answer, question=replace(answer.question, fixed=fixed))
            with mock.patch(FIRST, settled_week):
                texts = {way.text for way in ways_out(asked)}
            self.assertEqual("track vitamin K without requiring it" in texts, offered)

    def test_dishes_that_are_gone_by_then_are_said_to_be_missing(self) -> None:
        Search.objects.filter(pk=self.search.pk).update(state=Search.DONE)
        self.week.client.bowls.all().delete()
        self.week.client.dish_choices.all().delete()
        self.assertContains(self.client.get(self.address), "can't be planned yet")

    def test_a_dish_that_is_not_offered_is_said_to_be_in_the_way(self) -> None:
        plan = plan_value(self.week)
        day, meal, _ = next(place for place in plan.places() if place[2].entries)
        other = put(plan, day, meal, Entry("food:parsley-fresh", "Parsley"))
        services.store(self.week, self.week.revision, other, "x")
        page = self.client.post(reverse("weeks:ways", args=[self.week.pk]))
        where = f"{plan.meals[meal]} on {DAY_NAMES[day]}"
        self.assertContains(page, f"{where}: what it holds the planner can")
        self.assertContains(page, "lock that meal first")
        page = self.client.get(reverse("weeks:explain", args=[self.week.pk]))
        self.assertContains(page, f"{where}: the planner can")
        self.assertNotContains(page, "Each of these")

    def test_a_side_and_a_drink_stay_beside_the_dish_that_is_planned(self) -> None:
        """Their energy counts: the question holds them, as does the day of the planned week."""
        plan = plan_value(self.week)
        day, meal, cell = next(place for place in plan.places() if place[2].entries)
        milk = Entry("drink:soy-milk-unsweetened", "Milk")
        sides = (Entry("food:orange-raw", "Orange", 2.0), milk)
        for side in sides:
            plan = add(plan, day, meal, side)
        week = services.store(self.week, self.week.revision, plan, "x")
        made = answer_for(week)
        self.assertEqual(made.plan.cell(day, meal).entries[1:], sides)
        self.assertEqual(len(made.plan.cell(day, meal).entries), 3)
        beside = made.answer.question.beside[day, meal]
        known = gather(week).available.dishes
        energy = sum(known[s.dish].serving["energy_kcal"].amount * s.scale for s in sides)
        self.assertAlmostEqual(beside.amounts["energy_kcal"], energy)
        self.assertAlmostEqual(beside.grams, known[sides[0].dish].serving.grams * 2)
        told = day_sum(made.plan.days[day].cells, known).total["energy_kcal"].amount
        self.assertAlmostEqual(day_sums(made.answer)[day]["energy_kcal"], told)
        stored = store_found(week, week.revision, made.plan, "planned")
        self.assertEqual(plan_value(stored).cell(day, meal).entries[1:], sides)
