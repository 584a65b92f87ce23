"""The link on a phone of 390 × 844: read, answered, offline, withdrawn."""

from __future__ import annotations

import re
from datetime import timedelta

from playwright.sync_api import expect

from browser_tests.support import BrowserTestCase
from roundpantry.clients.models import Client
from roundpantry.counter import clock
from roundpantry.handover import services
from roundpantry.handover.booklet_made import booklet_of
from roundpantry.handover.links import token_of
from roundpantry.handover.models import Answered
from roundpantry.weeks.services import hand_over
from roundpantry.weeks.week_snapshot import kept_of


class OnThePhone(BrowserTestCase):
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

    def ready_for_offline(self) -> None:
        """Wait until the page is kept."""
        self.page.evaluate("navigator.serviceWorker.ready")
        self.page.reload()
        self.settle()

    def test_answers_reach_the_practitioner_and_the_page_is_clean(self) -> None:
        self.axe()
        form = self.page.locator("form.answer").first
        form.locator("select").select_option("partly")
        form.get_by_placeholder("what was different").fill("half of it")
        form.get_by_role("button", name="Save").tap()
        expect(self.page.locator("#meal-0-0")).to_contain_text("You said: partly: half of it")
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
        expect(self.page.locator("#days")).to_be_visible()
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

    def test_withdrawn_it_is_gone_and_nothing_is_left_on_the_phone(self) -> None:
        self.ready_for_offline()
        services.withdraw_link(self.link)
        self.page.reload()
        expect(self.page.locator("h1")).to_have_text("This link opens nothing")
        kept = self.page.evaluate("caches.keys()")
        self.assertEqual(kept, [])
        self.complaints = [c for c in self.complaints if "404" not in c]
