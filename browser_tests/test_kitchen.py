"""A dish from pasted words to labelled containers, by keyboard; fitted on a phone; compared and
printed.
"""

from __future__ import annotations

import re
from typing import ClassVar

from playwright.sync_api import expect

from browser_tests.support import BrowserTestCase
from roundpantry.batches.models import Batch
from roundpantry.clients.models import Client

RECIPE = """Net-loft beans
2 x 400 g tins butter beans, drained
1 tbsp soy sauce
1 tin (400 g) chopped tomatoes, juice and all
2 tbsp ziggurat
Simmer for 20 minutes.
Makes 4 servings"""


class ByKeys(BrowserTestCase):
    """Nothing but the keyboard, once the client is taken up."""

    def _press(self, name: str) -> None:
        """Put the focus on something pressable and press Enter."""
        self.page.get_by_role("link", name=name).or_(
            self.page.get_by_role("button", name=name)
        ).first.focus()
        self.page.keyboard.press("Enter")

    def test_paste_correct_fit_portion_and_label(self) -> None:
        tobias = Client.objects.get(name__startswith="Tobias")
        page = self.page
        self.go(f"/clients/{tobias.pk}/")
        self.go("/batches/new/")
        page.locator("textarea").first.focus()
        page.keyboard.insert_text(RECIPE)
        page.keyboard.press("Tab")
        while page.evaluate("document.activeElement.tagName") != "BUTTON":
            page.keyboard.press("Tab")
        page.keyboard.press("Enter")
        expect(page.get_by_role("heading", level=1)).to_have_text("Net-loft beans")
        expect(page.locator("#batch")).to_contain_text("1 line not understood")
        batch = Batch.objects.get(title="Net-loft beans")
        self._correct(batch)
        self._fit_and_hand_over(batch)

    def _correct(self, batch: Batch) -> None:
        page = self.page
        wrong = batch.lines.get(food_key="", heading=False)
        page.locator(f"#edit-{wrong.pk}").focus()
        page.keyboard.press("Enter")
        expect(page.locator(f"#text-{wrong.pk}")).to_be_focused()
        page.keyboard.press("Control+a")
        page.keyboard.insert_text("2 tbsp tomato paste")
        page.keyboard.press("Enter")
        expect(page.locator("#batch")).not_to_contain_text("not understood")
        wrong.refresh_from_db()
        self.assertIn("tomato-paste", wrong.food_key)

    def _fit_and_hand_over(self, batch: Batch) -> None:
        page = self.page
        self._press("Adapt for a client")
        expect(page.locator("main")).to_contain_text("What each ingredient adds per serving")
        page.locator("button.swap", has_text="coconut aminos for soy sauce").focus()
        page.keyboard.press("Enter")
        expect(page.locator("main")).to_contain_text("What was changed and why")
        made = Batch.objects.get(parent=batch)
        self.assertTrue(
            batch.lines.filter(food_key__startswith="soy-sauce").exists(), "the original stays"
        )
        self.assertFalse(made.lines.filter(food_key__startswith="soy-sauce").exists())
        self._press("Page for the client")
        expect(page.get_by_role("heading", level=1)).to_contain_text("what I changed and why")
        expect(page.locator("main")).to_contain_text("Potassium limit")
        expect(page.locator("main")).to_contain_text("does not treat disease")
        self._press("Back to adapting")
        self._press("Two plates")
        expect(page.locator("main")).to_contain_text("Where the energy comes from")
        self.go(f"/batches/{made.pk}/portions/")
        page.get_by_label(re.compile("^Who")).focus()
        page.keyboard.insert_text("Tobias")
        page.keyboard.press("Tab")
        page.keyboard.insert_text("250 g")
        page.keyboard.press("Enter")
        expect(page.locator("main")).to_contain_text("250")
        self._press("Labels to print")
        expect(page.locator(".label")).to_have_count(1)
        expect(page.locator(".label")).to_contain_text("use by")


class OnAPhone(BrowserTestCase):
    """The fitting page at 390 wide, and on paper."""

    viewport: ClassVar[dict[str, int]] = {"width": 390, "height": 844}
    context_options: ClassVar[dict] = {"has_touch": True}

    def test_a_swap_is_taken_by_finger_and_nothing_is_hidden_aside(self) -> None:
        tobias = Client.objects.get(name__startswith="Tobias")
        batch = Batch.objects.get(
            title="Lamplighter beans", parent=None, practitioner__username="petra"
        )
        self.go(f"/clients/{tobias.pk}/")
        self.go(f"/batches/{batch.pk}/fit/")
        table = self.page.locator(".table-scroll").first
        self.assertLessEqual(table.evaluate("e => e.scrollWidth - e.clientWidth"), 1)
        self.page.locator("button.swap").first.tap()
        expect(self.page.locator("main")).to_contain_text("What was changed and why")

    def test_paper_shows_whose_it_is_and_no_buttons(self) -> None:
        tobias = Client.objects.get(name__startswith="Tobias")
        batch = Batch.objects.get(
            title="Lamplighter beans", parent=None, practitioner__username="petra"
        )
        self.go(f"/clients/{tobias.pk}/")
        for address in ("", "fit/"):
            self.go(f"/batches/{batch.pk}/{address}")
            self.page.emulate_media(media="print")
            expect(self.page.locator(".whose .danger").first).to_be_visible()
            expect(self.page.locator(".rail")).to_be_hidden()
            self.assertEqual(
                self.page.locator("button.swap:visible, form:visible, .quiet:visible").count(), 0
            )
