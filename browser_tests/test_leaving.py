"""What is left in the browser when somebody has logged out, and what a double click makes."""

from __future__ import annotations

from django.urls import reverse
from playwright.sync_api import expect

from browser_tests.support import BrowserTestCase
from roundpantry.batches.models import Batch
from roundpantry.bowls.models import Bowl
from roundpantry.clients.models import Client
from roundpantry.demo.people import PASSWORD


class Leaving(BrowserTestCase):
    """A shared computer."""

    def test_after_logging_out_back_shows_nothing(self) -> None:
        page = self.page
        bowl = Bowl.objects.get(name="Tideline bowl")
        page.goto(self.live_server_url + reverse("clients:detail", args=[bowl.client_id]))
        page.goto(self.live_server_url + reverse("bowls:bench", args=[bowl.pk]))
        expect(page.locator("body")).to_contain_text(bowl.client.name)
        page.get_by_role("button", name="Log out").click()
        page.wait_for_url("**/login/**")
        for _ in range(2):
            page.go_back()
            expect(page.get_by_role("button", name="Log in")).to_be_visible()
            expect(page.locator("body")).not_to_contain_text(bowl.client.name)

    def test_in_again_by_the_form(self) -> None:
        self.go("/today/")
        page = self.page
        page.get_by_role("button", name="Log out").click()
        page.get_by_label("Username").fill("petra")
        page.get_by_label("Password").fill("not her password")
        page.get_by_role("button", name="Log in").click()
        expect(page.get_by_label("Username")).to_have_value("petra")
        page.get_by_label("Password").fill(PASSWORD)
        page.get_by_role("button", name="Log in").click()
        page.wait_for_url("**/today/")
        expect(page.get_by_role("heading", name="Today")).to_be_visible()

    def test_a_double_click_reads_a_recipe_once(self) -> None:
        page = self.page
        page.goto(self.live_server_url + reverse("batches:new"))
        page.get_by_label("Recipe:").fill("Wren stew\n200 g cooked lentils\n100 g kale\n")
        page.get_by_role("button", name="Read recipe").dblclick()
        expect(page.get_by_role("heading", name="Wren stew")).to_be_visible()
        self.until(lambda: Batch.objects.filter(title="Wren stew").count() == 1, "one batch")

    def test_a_page_of_something_removed_meanwhile_says_so(self) -> None:
        page = self.page
        client = Client.objects.filter(name="Maren Okafor").first()
        bowl = Bowl.objects.create(client=client, name="Soon gone")
        page.goto(self.live_server_url + reverse("bowls:list", args=[client.pk]))
        Bowl.objects.filter(pk=bowl.pk).delete()
        page.goto(self.live_server_url + reverse("bowls:bench", args=[bowl.pk]))
        expect(page.get_by_role("heading", name="Page not found")).to_be_visible()
        self.complaints.clear()  # the 404 that was asked for
