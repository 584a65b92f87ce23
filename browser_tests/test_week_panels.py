"""Details: a better one looked for and taken, ways out by their digits, favourites, versions, a
day, two schools, files.
"""

from __future__ import annotations

import re
from unittest import mock

from playwright.sync_api import expect

from browser_tests.support import PATIENCE_MS, BrowserTestCase
from dietetics.week.plan import plan_of
from roundpantry.clients.models import Client
from roundpantry.demo.tests.support import SHORT_SEARCHES
from roundpantry.weeks import services
from roundpantry.weeks.cell_changes import SentChange
from roundpantry.weeks.models import DishChoice, Search, Week
from roundpantry.weeks.planning_facts import rules_of


class BesideTheWeek(BrowserTestCase):
    """The rower's week, as the demo has it."""

    def setUp(self) -> None:
        super().setUp()
        self.rower = Client.objects.get(name="Maren Okafor")
        self.week = self.rower.weeks.first()
        self.url = f"/weeks/{self.week.pk}/"

    def now(self) -> Week:
        """The week as stored."""
        return Week.objects.get(pk=self.week.pk)

    def explained(self) -> None:
        """Open the week and the drawer that explains it."""
        self.go(self.url)
        self.page.locator("#explain").click()
        expect(self.page.locator("#drawer-title")).to_have_text("This week explained")

    def test_a_better_week_is_looked_for_taken_and_taken_back(self) -> None:
        before = plan_of(self.week.plan)
        self.explained()
        with mock.patch("roundpantry.weeks.planning_views.USUAL_SECONDS", 4):
            self.page.get_by_role("button", name="Search longer").click()
            expect(self.page.locator("#drawer-title")).to_have_text("Search finished")
        expect(self.page.locator("#drawer")).to_contain_text("Can still improve by")
        search = Search.objects.get(week=self.week)
        self.assertLessEqual(search.points, search.first_points)
        self.page.keyboard.press("1")
        expect(self.page.locator("#undo")).to_be_enabled()
        self.settle()
        self.assertEqual(plan_of(self.now().plan), plan_of(search.plan))
        self.page.locator("#undo").click()
        self.settle()
        self.assertEqual(plan_of(self.now().plan), before)

    def test_a_way_out_is_taken_by_its_digit(self) -> None:
        services.store(
            self.week,
            self.week.revision,
            plan_of(self.week.plan),
            "x",
            {"cooking_days": [-1], "most_pots": 1},
        )
        self.explained()
        # some ten weeks are planned, each for one change of the rules
        with SHORT_SEARCHES, mock.patch("dietetics.week.words.explanation.MOST_SPARE", 0):
            self.page.get_by_role("button", name="Ways to improve it").click()
            title = self.page.locator("#drawer-title")
            expect(title).to_have_text("Ways to a better week", timeout=4 * PATIENCE_MS)
        self.settle()
        way = self.page.locator("[data-way]", has_text="cook on the evening").first
        words = way.inner_text()
        self.assertNotRegex(words, r"score|points")
        self.assertIn(":", words)  # what gets better stands behind it
        self.page.keyboard.press(way.get_attribute("data-way") or "")
        expect(self.page.locator("#drawer-title")).to_have_text("Week planned")
        self.assertEqual(len(rules_of(self.now()).cooking_days), 2, words)

    def test_favourites_are_kept_and_a_wrong_word_stays(self) -> None:
        self.go(f"/weeks/of/{self.rower.pk}/favourites/")
        row = self.page.locator("tr", has_text="Stroke-seat supper")
        row.locator('select[name$="-liking"]').select_option(label="loved")
        row.get_by_label(re.compile("at most")).fill("2")
        other = self.page.locator("tr", has_text="Boathouse seitan")
        other.get_by_label(re.compile("days apart")).fill("3")
        self.page.get_by_role("button", name="Save").click()
        row = self.page.locator("tr", has_text="Stroke-seat supper")
        expect(row.get_by_label(re.compile("at most"))).to_have_value("2")
        expect(other.get_by_label(re.compile("days apart"))).to_have_value("3")
        self.assertEqual(DishChoice.objects.filter(client=self.rower).count(), 2, "none besides")
        choice = DishChoice.objects.get(client=self.rower, most_uses=2)
        self.assertEqual(
            (choice.liking, choice.most_uses, choice.meals), (3, 2, ["Lunch", "Dinner"])
        )
        row.get_by_label(re.compile("at most")).fill("seldom")
        self.page.get_by_role("button", name="Save").click()
        expect(self.page.get_by_role("alert")).to_contain_text("“seldom” was not understood")
        expect(
            self.page.locator("tr", has_text="Stroke-seat supper").get_by_label(
                re.compile("at most")
            )
        ).to_have_value("seldom")

    def test_handed_over_then_changed_makes_a_version_that_can_be_compared(self) -> None:
        self.go(f"{self.url}versions/")
        self.page.get_by_label("Note for the client").fill("Begin on Monday.")
        for reason in self.page.get_by_label("Goes out all the same").all():
            reason.fill("Agreed with her.")
        self.page.get_by_role("button", name="Hand over").click()
        expect(self.page.locator("main")).to_contain_text("handed over")
        self.go(self.url)
        expect(self.page.locator("h1")).to_contain_text("handed over")
        self.page.locator("#cell-1-1").focus()
        self.page.keyboard.press("x")
        self.page.wait_for_url(lambda url: not url.endswith(self.url))
        newest = self.rower.weeks.filter(start=self.week.start).order_by("-version").first()
        self.assertEqual(newest.version, 2)
        self.assertEqual(
            plan_of(self.now().plan), plan_of(self.week.plan), "what was handed over stays"
        )
        self.go(f"/weeks/{newest.pk}/versions/")
        self.page.get_by_role("link", name="compare", exact=True).click()
        expect(self.page.locator("main")).to_contain_text("to this one")
        expect(self.page.locator("main")).to_contain_text("Tuesday")

    def test_a_day_is_exchanged_and_its_figures_asked(self) -> None:
        before = plan_of(self.week.plan)
        self.go(f"{self.url}day/1/")
        self.page.locator("#levels button", has_text="Protein").click()
        expect(self.page.locator("#drawer")).to_contain_text("Protein on Tuesday")
        expect(self.page.locator("#drawer")).to_contain_text("Lunch:")
        self.page.get_by_label("Swap with").select_option(label="Friday")
        self.page.get_by_role("button", name="Swap").click()
        expect(self.page.locator("#week")).to_be_visible()
        after = plan_of(self.now().plan)
        self.assertEqual((after.days[1], after.days[4]), (before.days[4], before.days[1]))

    def test_under_another_school(self) -> None:
        self.go(f"{self.url}under/")
        self.page.get_by_label("Against").select_option(label="Greens and beans")
        self.page.get_by_role("button", name="Show").click()
        expect(self.page.locator("main section h2").nth(1)).to_contain_text("Greens and beans")
        expect(self.page.locator("main")).to_contain_text("of 7 days meet every target")

    def test_a_week_taken_along_comes_back_the_same(self) -> None:
        before = plan_of(self.week.plan)
        self.go(f"{self.url}files/")
        with self.page.expect_download() as taken:
            self.page.get_by_role("link", name="CSV").click()
        services.act(self.now(), "clear", SentChange(self.now().revision, day=0, meal=0))
        self.go(f"{self.url}files/")
        self.page.locator('input[name="file"]').set_input_files(
            taken.value.path().rename(taken.value.path().with_suffix(".csv"))
        )
        self.page.get_by_role("button", name="Import").click()
        expect(self.page.locator("#week")).to_be_visible()
        self.assertEqual(plan_of(self.now().plan), before)


class TwoPlatesByKeys(BrowserTestCase):
    """Compare by keyboard: two chosen, laid side by side, another figure asked."""

    def test_two_dishes_side_by_side(self) -> None:
        rower = Client.objects.get(name="Maren Okafor")
        self.go(f"/clients/{rower.pk}/")
        self.go("/compare/")
        self.page.locator("#side-a").focus()
        self.page.keyboard.type("Tideline")
        self.page.keyboard.press("Tab")
        self.page.keyboard.type("Regatta")
        self.page.locator("#by").focus()
        self.page.keyboard.type("at equal protein")
        self.page.keyboard.press("Tab")
        self.page.keyboard.press("Enter")
        expect(self.page.locator(".plates-said")).to_contain_text(
            "Tideline bowl against Regatta lentils"
        )
        expect(self.page.locator(".plates-said")).to_contain_text("same protein")
        expect(self.page.locator(".plates figure")).to_have_count(2)
        self.page.locator("#whence").select_option(label="Sodium")
        self.page.get_by_role("button", name="Show").click()
        expect(self.page.locator("main")).to_contain_text("Where the sodium comes from")
        self.axe()
