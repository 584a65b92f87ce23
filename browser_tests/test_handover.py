"""The link on a phone of 390 × 844: read, answered, offline, withdrawn."""

from __future__ import annotations

import contextlib
import re
from collections.abc import Callable
from datetime import timedelta

from playwright.sync_api import Error, Locator, Route, expect

from browser_tests.support import BrowserTestCase
from roundpantry.clients.models import Client
from roundpantry.counter import clock
from roundpantry.handover import services
from roundpantry.handover.booklet_made import booklet_of
from roundpantry.handover.links import token_of
from roundpantry.handover.models import Answered
from roundpantry.weeks.services import hand_over
from roundpantry.weeks.week_snapshot import kept_of


def answers_with(status: int, body: str) -> Callable[[Route], None]:
    """Something on the way that answers in the place of the program."""
    return lambda route: route.fulfill(status=status, body=body, content_type="text/html")


class Linked(BrowserTestCase):
    """The rower's booklet, by its link, with nobody logged in."""

    viewport = {"width": 390, "height": 844}
    context_options = {"has_touch": True}

    def setUp(self) -> None:
        super().setUp()
        week = Client.objects.get(name="Maren Okafor").weeks.first()
        hand_over(week, week.revision, kept_of(week), "")
        services.keep_booklet(week, booklet_of(week))
        ends = clock.today() + timedelta(days=3)
        self.link = services.give_link(week, ends, list(services.ALLOWED))
        self.page.context.clear_cookies()
        self.go(f"/s/{token_of(self.link)}/")

    def place(self, name: str) -> None:
        """Go to one of the five places of the page."""
        self.page.locator(".places").get_by_text(name, exact=True).tap()


class OnThePhone(Linked):
    """With scripts, as phones are."""

    def ready_for_offline(self) -> None:
        """Wait until the page is kept."""
        self.page.evaluate("navigator.serviceWorker.ready")
        self.page.reload()
        self.settle()

    def test_answers_reach_the_practitioner_and_the_page_is_clean(self) -> None:
        self.axe()
        day = self.page.locator("details[data-day][open]")
        expect(day).to_have_count(1)  # today's where the week holds it, else the first
        day.get_by_text("How to make").first.tap()
        expect(day.locator("ol.steps").first).to_be_visible()
        form = day.locator("form.answer:has(select)").first
        place = form.get_attribute("id")
        form.locator("select").select_option("partly")
        form.get_by_placeholder("what was different").fill("half of it")
        form.get_by_role("button", name="Save").tap()
        expect(day.get_by_text("You said: partly: half of it")).to_be_visible()
        expect(self.page.locator(f"#{place}").locator("select")).to_have_value("partly")
        day.get_by_role("button", name="Take back: You said: partly").tap()
        expect(day.get_by_text("You said")).to_have_count(0)
        day.get_by_role("button", name="Eaten as planned").first.tap()  # of the next meal
        expect(day.get_by_text("You said: as planned")).to_have_count(1)
        self.place("Ask")
        self.axe()
        self.page.get_by_label("kg, or lb").fill("7")
        self.page.get_by_role("button", name="Send").first.tap()
        expect(self.page.get_by_role("alert")).to_contain_text("7 kg cannot be right")
        self.page.get_by_label("kg, or lb").fill("71.5")
        self.page.get_by_role("button", name="Send").first.tap()
        expect(self.page.get_by_role("alert")).to_have_count(0)
        self.settle()
        self.assertEqual(Answered.objects.get(kind="weight").number, 71.5)
        self.complaints = [c for c in self.complaints if "422" not in c]

    def test_read_and_ticked_without_a_network_and_sent_when_there_is_one(self) -> None:
        self.ready_for_offline()
        self.page.context.set_offline(True)
        self.page.reload()
        expect(self.page.locator("#today")).to_be_visible()
        self.place("Shop")
        self.page.locator(".tick").first.tap()
        expect(self.page.locator("#link-state")).to_contain_text("kept here, and sent")
        self.assertEqual(Answered.objects.count(), 0)
        self.page.context.set_offline(False)
        self.page.reload()
        self.until(Answered.objects.exists, "the tick was sent")
        self.settle()
        self.assertEqual(Answered.objects.get().kind, "bought")
        self.complaints = [c for c in self.complaints if "DISCONNECTED" not in c]

    def test_an_evening_is_cooked_from_the_phone_without_a_network(self) -> None:
        self.ready_for_offline()
        first = self.page.locator("#cooked-0-0")
        planned = self.page.locator("#cooked-0-1 .at").inner_text()
        self.page.context.set_offline(True)
        self.place("Cook")
        self.page.locator("section.cooking .start-now").first.tap()
        expect(first).to_have_class(re.compile("cook-now"))
        minute = int(self.page.locator("#cooked-0-1").get_attribute("data-minute"))
        starts = [self.page.locator(f"#cooked-0-{n} .at").inner_text() for n in (0, 1)]
        at = [int(h) * 60 + int(m) for h, m in (words.split(":") for words in starts)]
        self.assertEqual((at[1] - at[0]) % (24 * 60), minute)
        first.locator(".tick").tap()
        expect(first.locator(".tick")).to_have_attribute("aria-pressed", "true")
        expect(first).not_to_have_class(re.compile("cook-now"))
        self.page.locator("section.cooking .start-as-planned").first.tap()
        expect(self.page.locator("#cooked-0-1 .at")).to_have_text(planned)
        self.page.context.set_offline(False)
        self.page.reload()
        self.until(Answered.objects.exists, "the tick was sent")
        self.settle()
        self.assertEqual(Answered.objects.get().place, "0-0")
        self.complaints = [c for c in self.complaints if "DISCONNECTED" not in c]

    def written(self, text: str) -> None:
        """A remark typed, and sent."""
        self.place("Ask")
        self.page.locator("#remark-text").fill(text)
        self.page.locator("#ask button", has_text="Send").last.tap()

    def test_what_stands_between_answers_in_its_place_and_no_word_is_lost(self) -> None:
        proxies = {
            502: "<html><body><h1>Bad Gateway</h1></body></html>",
            503: "busy",
            429: "slow down",
            403: "<h1>Forbidden</h1>",
            200: "<html><body>Welcome to the hotel's network</body></html>",
        }
        for status, body in proxies.items():
            with self.subTest(status):
                words = f"The soup was thin, says {status}."
                self.page.route("**/answer/", answers_with(status, body))
                self.written(words)
                expect(self.page.locator("#link-state")).to_contain_text("kept here, and sent")
                expect(self.page.locator("#remark-text")).to_have_value(words)
                expect(self.page.locator("#ask")).to_be_visible()
                self.assertFalse(Answered.objects.filter(text=words).exists())
                self.page.unroute("**/answer/")
                self.page.evaluate("window.dispatchEvent(new Event('online'))")
                self.until(Answered.objects.filter(text=words).exists, "the remark was sent")
                expect(self.page.locator("#link-state")).to_have_text("Sent.")
                expect(self.page.locator("#remark-text")).to_have_value("")
        self.assertEqual(Answered.objects.count(), len(proxies))
        self.complaints = [c for c in self.complaints if "status of" not in c]

    def test_a_network_that_is_cut_while_it_is_sent(self) -> None:
        self.page.route("**/answer/", lambda route: route.abort("connectionreset"))
        self.written("cut in the middle")
        expect(self.page.locator("#link-state")).to_contain_text("No network")
        self.page.reload()  # the phone is put away, and taken out again
        self.page.unroute("**/answer/")
        self.page.reload()
        self.until(Answered.objects.exists, "the remark was sent")
        self.assertEqual(Answered.objects.get().text, "cut in the middle")
        self.complaints = [c for c in self.complaints if "ERR_CONNECTION_RESET" not in c]

    def test_what_is_half_written_stays_when_something_else_is_sent(self) -> None:
        self.place("Ask")
        self.page.locator("#remark-text").fill("not finished yet")
        self.place("Shop")
        self.page.locator(".tick").first.tap()
        self.until(Answered.objects.exists, "the tick was sent")
        expect(self.page.locator(".tick").first).to_have_attribute("aria-pressed", "true")
        expect(self.page.locator("#remark-text")).to_have_value("not finished yet")

    def test_a_link_that_is_over_leaves_the_words_to_be_copied(self) -> None:
        self.place("Ask")
        self.page.locator("#remark-text").fill("my last words")
        services.withdraw_link(self.link)
        self.page.locator("#ask button", has_text="Send").last.tap()
        expect(self.page.locator("#link-state")).to_contain_text("opens nothing any more")
        expect(self.page.locator("#remark-text")).to_have_value("my last words")
        self.complaints = [c for c in self.complaints if "404" not in c]

    def test_another_page_of_the_link_or_of_a_proxy_does_not_take_the_place_of_the_booklet(
        self,
    ) -> None:
        self.ready_for_offline()
        address = self.page.url
        for path, status in (("calendar.ics", 0), ("", 200), ("", 404), ("", 502)):
            if status:
                self.page.context.route(address, answers_with(status, "<h1>other</h1>"))
            with contextlib.suppress(Error):  # a calendar is taken down, not shown
                self.page.goto(address + path)
            if status == 502:  # what is kept serves better
                expect(self.page.locator("#today")).to_be_visible()
            if status:
                self.page.context.unroute(address)
        self.page.context.set_offline(True)
        self.page.goto(address)
        expect(self.page.locator("#today")).to_be_visible()
        self.page.context.set_offline(False)
        self.complaints = [
            c for c in self.complaints if "status of" not in c and "DISCONNECTED" not in c
        ]

    def test_withdrawn_it_is_gone_and_nothing_is_left_on_the_phone(self) -> None:
        self.ready_for_offline()
        services.withdraw_link(self.link)
        self.page.reload()
        expect(self.page.locator("h1")).to_have_text("This link opens nothing")
        kept = self.page.evaluate("caches.keys()")
        self.assertEqual(kept, [])
        self.complaints = [c for c in self.complaints if "404" not in c]


class TenTasks(Linked):
    """What a client does with the link, and how many presses each takes (typing is none)."""

    def setUp(self) -> None:
        super().setUp()
        self.presses = 0

    def press(self, where: Locator) -> None:
        where.tap()
        self.presses += 1

    def go_to(self, name: str) -> None:
        self.press(self.page.locator(".places").get_by_text(name, exact=True))

    def took(self, task: str, most: int) -> None:
        self.assertLessEqual(self.presses, most, task)
        self.presses = 0

    def test_ten_tasks(self) -> None:
        page = self.page
        day = page.locator("#day-now")
        expect(day.get_by_text("Dinner").first).to_be_visible()
        self.took("find dinner", 0)
        lunch = day.locator("#planned-0-1")
        if not lunch.count():  # the week holds today
            lunch = day.locator("form[id^=planned-]").nth(1)
        self.press(lunch.get_by_role("button"))
        expect(day.get_by_text("You said: as planned")).to_have_count(1)
        self.took("tick lunch", 1)
        form = day.locator("form[id^=meal-]").last
        form.locator("select").select_option("partly")
        form.get_by_placeholder("what was different").fill("no rice")
        self.press(form.get_by_role("button", name="Save"))
        expect(day.get_by_text("You said: partly: no rice")).to_be_visible()
        self.took("say what differed", 2)
        self.press(day.get_by_role("button", name="Take back: You said: partly"))
        expect(day.get_by_text("You said: partly")).to_have_count(0)
        self.took("take an answer back", 1)
        self.go_to("Ask")
        page.get_by_label("kg, or lb").fill("71.5")
        self.press(page.get_by_role("button", name="Send").first)
        expect(page.locator("#ask").get_by_text("71.5 kg")).to_be_visible()
        self.took("weigh", 2)
        page.locator("#remark-text").fill("May I leave out the seeds?")
        self.press(page.locator("#ask button", has_text="Send").last)
        expect(page.locator("#ask")).to_contain_text("You wrote: May I leave out the seeds?")
        self.took("ask", 1)
        self.go_to("Shop")
        for n in range(3):
            self.press(page.locator("#shop .tick").nth(n))
            expect(page.locator("#shop .tick").nth(n)).to_have_attribute("aria-pressed", "true")
        self.took("shop three things", 4)
        self.go_to("Cook")
        self.press(page.locator("section.cooking .start-now").first)
        for n in range(2):
            self.press(page.locator(f"#cooked-0-{n} .tick"))
        self.took("cook two steps by the clock", 4)
        self.go_to("Week")
        self.press(page.locator("#other-days summary").first)
        expect(page.locator("#other-days").get_by_text("Dinner").first).to_be_visible()
        self.took("look at another day", 2)
        self.go_to("Today")
        self.press(page.get_by_role("button", name="The whole day as planned"))
        expect(page.get_by_role("button", name="The whole day as planned")).to_have_count(0)
        self.took("the whole day as planned", 2)
        self.settle()

    def test_no_place_is_longer_than_four_screens(self) -> None:
        for name in ("Today", "Week", "Shop", "Cook", "Ask"):
            self.place(name)
            self.axe()
            height = self.page.evaluate("document.documentElement.scrollHeight")
            self.assertLessEqual(height, 4 * self.viewport["height"], name)
            self.assertEqual(self.page.evaluate("document.documentElement.scrollWidth"), 390, name)


class WithoutScripts(Linked):
    """The same link where scripts do not run: a form is a form."""

    context_options = {"has_touch": True, "java_script_enabled": False}

    def test_the_places_are_parts_of_one_page(self) -> None:
        expect(self.page.locator("#today")).to_be_visible()
        expect(self.page.locator("#shop")).to_be_hidden()
        self.place("Shop")
        expect(self.page.locator("#shop")).to_be_visible()
        expect(self.page.locator("#today")).to_be_hidden()

    def test_answers_are_taken_and_a_wrong_one_stays_in_its_field(self) -> None:
        self.place("Ask")
        self.page.locator("#remark-text").fill("without scripts")
        self.page.locator("#ask button", has_text="Send").last.tap()
        expect(self.page.locator("#ask")).to_contain_text("You wrote: without scripts")
        self.page.get_by_label("kg, or lb").fill("7")
        self.page.get_by_role("button", name="Send").first.tap()
        expect(self.page.get_by_role("alert")).to_contain_text("7 kg cannot be right")
        expect(self.page.get_by_label("kg, or lb")).to_have_value("7")
        self.assertEqual(Answered.objects.get().text, "without scripts")
        self.complaints = [c for c in self.complaints if "422" not in c]
