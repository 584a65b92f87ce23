"""A first user on an empty database: how many actions it takes to a balanced bowl, a planned week
and a printed page.

An action is one thing a hand does: a press, or one field filled or chosen. Seconds are printed and
never tested: a busy machine is no failure.
"""

from __future__ import annotations

import re
import time

from playwright.sync_api import expect

from browser_tests.support import BrowserTestCase
from roundpantry.batches.models import Batch
from roundpantry.bowls.models import Bowl, Pattern
from roundpantry.clients.models import Client
from roundpantry.counter.first_run import first_run_code
from roundpantry.demo.tests.support import SHORT_SEARCHES
from roundpantry.weeks.models import Week

MOST_ACTIONS_TO_A_BOWL = 12


def labelled(name: str) -> re.Pattern[str]:
    """A field by its label alone: "Name", not "Username"."""
    return re.compile(f"^{re.escape(name)}:?$")


class FirstHour(BrowserTestCase):
    """From the first login on."""

    def fill_database(self) -> None:
        """Nothing at all."""

    def log_in(self) -> None:
        """Make the first login, as the server's terminal says."""
        self.actions, self.began = 0, time.monotonic()
        self.go("/")
        self.page.wait_for_url("**/first/**")
        self.axe()
        for name, text in (
            ("Code", first_run_code().lower()), ("Your name", "Ines Abara"), ("Username", "ines"),
            ("Password", "tideline-and-kale"), ("Repeat the password", "tideline-and-kale"),
        ):  # fmt: skip
            self.page.get_by_label(labelled(name)).fill(text)
        self.page.get_by_role("button", name="Make login").click()
        self.page.wait_for_url("**/today/")

    def press(self, name: str, role: str = "button") -> None:
        """Press something by its name: one action."""
        self.actions += 1
        self.page.get_by_role(role, name=name, exact=True).first.click()

    def fill(self, name: str, text: str) -> None:
        """Fill one field: one action."""
        self.actions += 1
        self.page.get_by_label(labelled(name)).fill(text)

    def told(self, what: str) -> None:
        """Print what a closing note wants to know."""
        print(
            f"\nfirst hour: {what} after {self.actions} actions, "
            f"{time.monotonic() - self.began:.1f} s"
        )

    def test_from_login_to_a_balanced_bowl_a_week_and_a_print(self) -> None:
        page = self.page
        self.actions, self.began = 0, time.monotonic()
        self.press("Add the starter pantry")
        expect(page.get_by_text("The starter pantry is ready.")).to_be_visible()
        self.press("Add a client", "link")
        self.fill("Name", "Rosa Lindqvist")
        self.actions += 1
        page.get_by_label(labelled("Sex")).select_option("female")
        for name, text in (("Age (years)", "42"), ("Height (cm)", "168"), ("Weight (kg)", "74")):
            self.fill(name, text)
        self.press("Save and set targets")
        self.press("Save these targets")
        page.wait_for_url("**/patterns/")
        self.axe()
        self.press("Create bowl")
        page.wait_for_url(re.compile(r"/bowls/\d+/$"))
        expect(page.get_by_text("every target is met")).to_be_visible()
        page.locator("#levels button.level").first.click()
        expect(page.locator("#drawer")).to_contain_text("÷")
        self.actions += 1
        self.told("a balanced, explained bowl")
        self.assertLessEqual(self.actions, MOST_ACTIONS_TO_A_BOWL)
        bowl = Bowl.objects.get()
        self.assertEqual(bowl.client.name, "Rosa Lindqvist")

        self.actions += 1
        page.locator("main .menu summary").click()
        self.press("Print", "link")
        expect(page.get_by_role("heading", name="Portions")).to_be_visible()
        self.axe()
        self.told("a page to print")

        self.go(f"/bowls/of/{bowl.client_id}/")
        self.press("Create from patterns", "link")
        self.press("Create a bowl from every pattern")
        expect(page.get_by_text("21 bowls created and balanced")).to_be_visible()
        self.actions += 1
        page.locator('[data-go="k"]').click()
        self.press("Create week")
        page.wait_for_url(re.compile(r"/weeks/\d+/$"))
        self.actions += 1
        with SHORT_SEARCHES:
            page.locator("#balance").click()
            expect(page.get_by_role("heading", name="Week planned")).to_be_visible()
        self.told("a planned week")
        week = Week.objects.get()
        dishes = {
            e["dish"] for day in week.plan["days"] for cell in day["cells"] for e in cell["entries"]
        }
        self.assertGreaterEqual(len(dishes), 6, "there are so many main dishes, and a breakfast")
        self.axe()

    def test_nobody_else_can_make_the_first_login(self) -> None:
        self.context.clear_cookies()
        self.go("/first/")
        self.page.wait_for_url("**/login/**")
        expect(self.page.get_by_role("button", name="Log in")).to_be_visible()

    def test_starters_are_taken_once_and_removed_again(self) -> None:
        self.press("Add the starter pantry")
        expect(self.page.get_by_text("The starter pantry is ready.")).to_be_visible()
        self.assertEqual((Batch.objects.count(), Pattern.objects.count()), (24, 46))
        self.go("/batches/")
        self.page.on("dialog", lambda dialog: dialog.accept())
        self.press("Remove starters")
        expect(
            self.page.get_by_text("Removed 24 starter batches and 46 starter patterns.")
        ).to_be_visible()
        self.assertEqual(
            (Batch.objects.count(), Pattern.objects.count(), Client.objects.count()), (0, 0, 0)
        )
