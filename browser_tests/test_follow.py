"""A visit from beginning to end: by keyboard alone, and by touch on a phone."""

from __future__ import annotations

from playwright.sync_api import Locator, expect

from browser_tests.support import BrowserTestCase
from roundpantry.clients.models import Client
from roundpantry.follow.models import TakenProposal, Visit

MOST_TABS = 160
NAME = "Ines Bergström-Vale"  # loses weight that she should keep, and whose visit is overdue


class Walk(BrowserTestCase):
    """What both ways of walking share."""

    def ines(self) -> Client:
        """The client of the walk."""
        return Client.objects.get(name=NAME)

    def shown(self, heading: str) -> None:
        """Wait until a page with this heading is there."""
        expect(self.page.get_by_role("heading", name=heading, level=1)).to_be_visible()
        self.settle()

    def check_what_was_done(self) -> None:
        """What was pressed has arrived."""
        client = self.ines()
        self.assertEqual(client.measurements.filter(value=62.2).count(), 1)
        self.assertEqual(TakenProposal.objects.filter(client=client, code="energy").count(), 1)
        visit = Visit.objects.filter(client=client).first()
        self.assertIn("kg a week lost", visit.note)
        self.assertEqual(visit.agreed, "eat at midnight too")


class ByKeyboard(Walk):
    """No mouse: Tab, Enter, typed words, and the keys of the program."""

    def tab_to(self, wanted: Locator) -> None:
        """Press Tab until this has the focus."""
        for _ in range(MOST_TABS):
            if wanted.evaluate("one => one === document.activeElement"):
                return
            self.page.keyboard.press("Tab")
        self.fail(f"never reached by Tab: {wanted}")

    def press(self, wanted: Locator) -> None:
        """Go there and press Enter."""
        self.tab_to(wanted)
        self.page.keyboard.press("Enter")
        self.page.wait_for_load_state()

    def test_a_visit(self) -> None:
        page, keys = self.page, self.page.keyboard
        self.go("/today/")
        row = page.get_by_role("row").filter(has_text=NAME)
        self.press(row.get_by_role("link", name="visit overdue"))
        self.shown("New visit")
        expect(page.get_by_text("too fast").first).to_be_visible()
        self.axe()
        keys.press("g")
        keys.press("f")
        self.shown("Follow")
        self.tab_to(page.get_by_label("What was measured"))
        keys.type("62.2 kg today, tired")
        keys.press("Enter")
        expect(page.get_by_role("status")).to_contain_text("Kept: Weight 62.2 kg")
        expect(page.locator(".weight-line")).to_be_visible()
        self.axe()
        self.press(page.get_by_role("link", name="Adjust"))
        self.shown("Adjust")
        self.axe()
        self.press(page.get_by_role("button", name="Change the targets").first)
        expect(page.get_by_role("status")).to_contain_text("Taken:")
        self.press(page.get_by_role("button", name="Begin the next week"))
        expect(page.get_by_role("status")).to_contain_text("Begun like the week before")
        keys.press("g")
        keys.press("f")
        self.shown("Follow")
        self.press(page.get_by_role("link", name="New visit"))
        self.shown("New visit")
        self.tab_to(page.get_by_label("What was agreed"))
        keys.type("eat at midnight too")
        self.press(page.get_by_role("button", name="Save the visit"))
        expect(page.get_by_role("status")).to_contain_text("Visit saved")
        self.press(page.get_by_role("link", name="Print the note"))
        self.shown("Visit of")
        expect(page.locator("main")).to_contain_text("eat at midnight too")
        self.axe()
        self.check_what_was_done()


class ByTouch(Walk):
    """The same on a phone."""

    viewport = {"width": 390, "height": 844}
    context_options = {"has_touch": True}

    def no_wider_than_the_screen(self) -> None:
        """Nothing is cut off at the right."""
        wide = self.page.evaluate("document.documentElement.scrollWidth")
        self.assertLessEqual(wide, self.viewport["width"])

    def test_a_visit(self) -> None:
        page, client = self.page, self.ines()
        self.go(f"/follow/{client.pk}/visits/new/")
        self.no_wider_than_the_screen()
        page.get_by_role("link", name="Course").tap()
        self.shown("Follow")
        page.get_by_label("What was measured").fill("62.2 kg today")
        page.get_by_role("button", name="Keep").tap()
        expect(page.get_by_role("status")).to_contain_text("Kept: Weight 62.2 kg")
        self.no_wider_than_the_screen()
        self.axe()
        page.get_by_role("link", name="Adjust").tap()
        self.shown("Adjust")
        self.no_wider_than_the_screen()
        page.get_by_role("button", name="Change the targets").first.tap()
        expect(page.get_by_role("status")).to_contain_text("Taken:")
        page.get_by_role("link", name="Diary").tap()
        self.shown("Diary")
        self.no_wider_than_the_screen()
        self.axe()
        page.get_by_role("link", name="Visits").tap()
        self.shown("Visits")
        page.get_by_role("link", name="New visit").tap()
        self.shown("New visit")
        page.get_by_label("What was agreed").fill("eat at midnight too")
        page.get_by_role("button", name="Save the visit").tap()
        expect(page.get_by_role("status")).to_contain_text("Visit saved")
        self.check_what_was_done()

    def test_a_question_of_units_is_answered_with_a_finger(self) -> None:
        page, client = self.page, self.ines()
        self.go(f"/follow/{client.pk}/")
        page.get_by_label("What was measured").fill("vitamin D 50")
        page.get_by_role("button", name="Keep").tap()
        page.get_by_role("button", name="50 ng/mL").tap()
        expect(page.get_by_role("status")).to_contain_text("Vitamin D (25-OH) 125 nmol/L")
        self.complaints = [c for c in self.complaints if "422" not in c]
