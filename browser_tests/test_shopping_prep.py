"""Shopping on the phone and an evening cooked by touch at 390 and by keyboard."""

from __future__ import annotations

import re
from datetime import timedelta

from playwright.sync_api import expect

from browser_tests.support import BrowserTestCase
from roundpantry.clients.models import Client
from roundpantry.prep.models import CookingEvening
from roundpantry.shopping.records import trip_of

PHONE = {"width": 390, "height": 800}


class InTheShop(BrowserTestCase):
    """The rower's list, on a phone."""

    viewport = PHONE
    context_options = {"has_touch": True}

    def setUp(self) -> None:
        super().setUp()
        self.week = Client.objects.get(name="Maren Okafor").weeks.first()
        self.go(f"/shopping/{self.week.pk}/")

    def test_ticked_by_touch_and_put_away(self) -> None:
        self.page.locator("#tick-banana-raw").tap()
        expect(self.page.locator("#shopping")).to_contain_text("1 of")
        expect(self.page.locator("#tick-banana-raw")).to_have_attribute("aria-pressed", "true")
        self.page.get_by_role("button", name="Put the basket away at home").tap()
        expect(self.page.locator("#shopping")).to_contain_text("At home already")
        self.settle()
        self.assertEqual(trip_of(self.week).in_basket, [])
        self.axe()

    def test_an_amount_that_is_not_read_stays_in_its_field(self) -> None:
        row = self.page.locator(".shop-row").filter(has=self.page.locator("#tick-banana-raw"))
        row.get_by_label("More about Banana").tap()
        row.locator("#home-banana-raw").fill("plenty")
        row.get_by_role("button", name="Save").first.tap()
        expect(self.page.get_by_role("alert").filter(has_text="plenty")).to_be_visible()
        expect(self.page.locator("#home-banana-raw")).to_have_value("plenty")


class OnPaper(BrowserTestCase):
    """Printed by the browser itself."""

    def test_a_week_s_list_is_one_page(self) -> None:
        week = Client.objects.get(name="Maren Okafor").weeks.first()
        self.go(f"/shopping/{week.pk}/print/")
        for size in ("A4", "Letter"):
            pdf = self.page.pdf(format=size, margin={"top": "1cm", "bottom": "1cm"})
            pages = len(re.findall(rb"/Type\s*/Page[^s]", pdf))
            self.assertEqual(pages, 1, size)


class AnEvening(BrowserTestCase):
    """The rower's first evening."""

    def setUp(self) -> None:
        super().setUp()
        self.week = Client.objects.get(name="Maren Okafor").weeks.first()
        self.url = f"/prep/{self.week.pk}/0/"

    def evening(self) -> CookingEvening:
        """The evening as stored."""
        return CookingEvening.objects.get(week=self.week, day=-1)

    def test_the_plan_is_proven_and_clean(self) -> None:
        self.go(self.url)
        expect(self.page.locator("#plan")).to_contain_text("No timetable is shorter")
        expect(self.page.locator(".prep-lanes")).to_be_visible()
        self.axe()

    def test_a_guess_is_corrected_by_keyboard(self) -> None:
        self.go(self.url)
        self.page.get_by_text("Times of the steps").click()
        field = self.page.get_by_label(re.compile("^Minutes alone for Simmer for 25 minutes"))
        field.first.fill("40")
        field.first.press("Enter")
        expect(self.page.locator("#plan")).to_contain_text("1 min of work, 40 min waiting")

    def test_cooked_by_keyboard_from_the_first_step(self) -> None:
        self.go(self.url)
        self.page.get_by_role("button", name="Start cooking").press("Enter")
        expect(self.page.locator(".next-step")).to_be_visible()
        first = self.page.locator(".next-text").inner_text()
        self.page.locator(".next-step button.act").press("Enter")
        expect(self.page.locator(".next-text")).not_to_have_text(first)
        expect(self.page.locator("#run")).to_contain_text("1 of")
        self.axe()


class AtTheStove(BrowserTestCase):
    """The same evening by touch, with the phone asleep in between."""

    viewport = PHONE
    context_options = {"has_touch": True}

    def test_done_late_skip_reload_and_the_timer_right(self) -> None:
        week = Client.objects.get(name="Maren Okafor").weeks.first()
        self.go(f"/prep/{week.pk}/0/")
        self.page.get_by_role("button", name="Start cooking").tap()
        timers = self.page.locator(".timer")
        for _ in range(12):  # step by step until something waits
            if timers.count():
                break
            seen = self.page.locator(".next-text").inner_text()
            self.page.locator(".next-step button.act").tap()
            expect(self.page.locator("#run")).not_to_have_text(seen)
            self.settle()
        expect(timers.first).to_be_visible()
        expect(timers.first.locator(".timer-left")).to_have_text(re.compile(r"^\d+:\d\d$"))
        # the phone slept for an hour: the evening began an hour earlier than it now says
        evening = CookingEvening.objects.get(week=week, day=-1)
        evening.began_at -= timedelta(hours=1)
        evening.save()
        self.page.reload()
        expect(timers.first.locator(".timer-left")).to_have_text("time is over")
        timers.first.get_by_role("button", name="Needs 5 more").tap()
        expect(timers.first.locator(".timer-left")).to_have_text(re.compile(r"^[45]:\d\d$"))
        expect(self.page.locator("#run .note")).to_contain_text("later than before")
        timers.first.get_by_role("button", name="Ready").tap()
        before = self.page.locator(".next-text").inner_text()
        self.page.locator(".next-step").get_by_role("button", name="Skip").tap()
        expect(self.page.locator(".next-text")).not_to_have_text(before)
        self.axe()
