"""The walk of six steps, by mouse, by keyboard alone and by touch."""

from __future__ import annotations

import re
from pathlib import Path
from typing import ClassVar

from playwright.sync_api import expect

from browser_tests.support import BrowserTestCase
from dietetics.tests.samples import sample
from roundpantry.batches.models import Batch
from roundpantry.bowls.models import Bowl
from roundpantry.shelf.models import Label

RECIPE = Path(__file__).parents[1] / "dietetics" / "tests" / "inputs" / "lamplighter-beans.txt"


PHONE_WIDTH = 390
# What can be pressed and is lower than 40 px: links within a text are as high as their line, a
# tick is pressed by its label, and a skip link is there only for the keyboard.
LOW_TARGETS = """() => [...document.querySelectorAll('button, a, input, select, textarea, summary')]
  .filter((one) => {
    const box = one.getBoundingClientRect();
    if (!box.width || !box.height || one.type === 'hidden' || one.matches('.skip')) return false;
    if (getComputedStyle(one).display === 'inline') return false;
    const label = one.closest('label');
    return Math.max(box.height, label ? label.getBoundingClientRect().height : 0) < 39.5;
  })
  .map((one) => `${one.tagName} ${(one.textContent || one.name || '').trim().slice(0, 30)}`)"""


class SixSteps(BrowserTestCase):
    """From a new client to a printed bowl."""

    def test_walk(self) -> None:
        self.go("/today/")
        page = self.page
        # 1. a client with targets
        page.get_by_role("link", name="New client").click()
        page.get_by_label("Name", exact=False).first.fill("Edda Rosenkilde")
        page.get_by_label("Sex").select_option("female")
        page.get_by_label("Age (years)").fill("58")
        page.get_by_label("Height (cm)").fill("169")
        page.get_by_label("Weight (kg)", exact=False).first.fill("71")
        page.get_by_label("Other cautions").fill("Walnut allergy")
        page.get_by_label("warfarin or another vitamin K antagonist", exact=True).check()
        page.get_by_role("button", name="Save and set targets").first.click()
        for label, value in (
            ("Energy, low", "1700"),
            ("Energy, high", "1900"),
            ("Protein, low", "65"),
            ("Protein, high", "85"),
            ("Energy density, high", "1.3"),
            ("Fibre, low", "30"),
            ("Sodium, high", "1800"),
        ):
            page.get_by_label(re.compile(f"^{label}")).fill(value)
        page.get_by_label("Reason for targets that differ").fill("Agreed at the first talk")
        page.get_by_role("button", name="Save as a new version").click()
        page.wait_for_url("**/patterns/")
        page.get_by_role("link", name="Edda Rosenkilde").click()
        expect(page.get_by_role("heading", name="Edda Rosenkilde")).to_be_visible()
        expect(page.locator(".danger-list")).to_contain_text("Walnut allergy")
        # 2. and 3. a recipe, line by line, and its figures
        page.get_by_role("navigation", name="Main menu").get_by_role("link", name="Batches").click()
        page.get_by_role("link", name="Paste a recipe").click()
        page.get_by_label("Recipe").fill(
            RECIPE.read_text(encoding="utf-8") + "\n2 cups unobtainium\n"
        )
        page.get_by_role("button", name="Read recipe").click()
        expect(page.get_by_role("heading", name="Lamplighter beans")).to_be_visible()
        expect(page.locator("#batch")).to_contain_text("1 line not understood")
        expect(page.locator("#batch")).to_contain_text("1,740 g · 7 servings of 249 g")
        page.get_by_role("link", name="Correct 2 cups unobtainium").click()
        self.settle()
        page.get_by_role("textbox", name="Written").fill("2 cups chopped kale")
        page.get_by_role("button", name="Save line").click()
        expect(page.locator("#batch")).not_to_contain_text("not understood")
        expect(page.locator("#batch")).to_contain_text("Kale, raw")
        page.get_by_label("Servings").fill("6")
        page.get_by_role("button", name="Save", exact=True).click()
        expect(page.locator("#batch")).to_contain_text("6 servings of 290 g")
        # 4. the bench
        page.get_by_role("navigation", name="Main menu").get_by_role("link", name="Bowls").click()
        page.get_by_label("New bowl").fill("Evening bowl")
        page.get_by_label("Meal").select_option(label="Dinner (35 %)")
        page.get_by_role("button", name="Create empty bowl").click()
        page.get_by_role("button", name="Lamplighter beans").first.click()
        expect(page.locator("[data-row]")).to_have_count(1)
        page.get_by_label("Food or batch to add").fill("quinoa cooked")
        page.get_by_role("button", name=re.compile("^Quinoa, cooked")).click()
        expect(page.locator("[data-row]")).to_have_count(2)
        amount = page.get_by_label("Portion of Quinoa")
        amount.fill("1 1/4 cups")
        amount.press("Enter")
        expect(amount).to_have_value("1¼ cups")
        before = page.locator("#level-energy_kcal").inner_text()
        page.get_by_role("button", name="More Quinoa", exact=True).click()
        expect(amount).to_have_value("1½ cups")
        self.assertNotEqual(page.locator("#level-energy_kcal").inner_text(), before)
        amount.fill("plenty")
        amount.press("Enter")
        expect(page.get_by_role("alert").filter(has_text="plenty")).to_be_visible()
        expect(amount).to_have_value("plenty")
        amount.fill("1 cup")
        amount.press("Enter")
        expect(amount).to_have_value("1 cup")
        # 5. why?
        page.locator("#why-protein_g").click()
        drawer = page.locator("#drawer")
        expect(drawer).to_contain_text("Protein in Evening bowl")
        expect(drawer).to_contain_text("USDA SR Legacy: “Quinoa, cooked”")
        shown = [
            float(t.split()[0])
            for t in drawer.locator(
                ":scope > .why-step > .why-head .figure, :scope > .why-step > summary .figure"
            ).all_inner_texts()
        ]
        total = float(re.search(r"parts: ([\d.]+) g", drawer.inner_text()).group(1))
        self.assertAlmostEqual(sum(shown), total, places=2)
        drawer.get_by_role("button", name="Back").click()
        expect(page.get_by_label("Food or batch to add")).to_be_visible()
        # 6. print
        page.locator("main .menu summary").click()
        page.get_by_role("link", name="Print").click()
        expect(page.locator(".paper")).to_contain_text("for Edda Rosenkilde, dinner")
        expect(page.locator(".paper")).to_contain_text("Walnut allergy")


class ByHand(BrowserTestCase):
    """The dish by edge, by keys, and what is announced."""

    def open_bench(self) -> Bowl:
        """The Slipway snack of Maren Okafor."""
        bowl = Bowl.objects.get(name="Slipway snack")
        self.go(f"/bowls/{bowl.pk}/")
        return bowl

    def parts(self, bowl: Bowl) -> list[tuple]:
        """The parts as stored."""
        return list(bowl.parts.values_list("pk", "amount_text"))

    def test_edge_keys_and_undo_return_to_the_first_state(self) -> None:
        bowl, page = self.open_bench(), self.page
        start = self.parts(bowl)
        first = bowl.parts.first()
        handle = page.locator(f"#handle-{first.pk}")
        box = handle.locator(".grip").bounding_box()
        x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
        dx, dy = float(handle.get_attribute("data-dx")), float(handle.get_attribute("data-dy"))
        page.mouse.move(x, y)
        page.mouse.down()
        page.mouse.move(x + dx * 30, y + dy * 30, steps=5)
        expect(page.locator("#pull-text")).to_contain_text("× ¼ cup")
        page.mouse.up()
        expect(page.locator(f"#amount-{first.pk}")).not_to_have_value(first.amount_text)
        handle.focus()
        page.keyboard.press("ArrowRight")
        page.keyboard.press("ArrowRight")
        self.settle()
        expect(page.locator(f"#handle-{first.pk}")).to_be_focused()
        page.keyboard.press("Delete")
        expect(page.locator("[data-row]")).to_have_count(3)
        self.assertTrue(
            page.locator("#said").inner_text().startswith(("At", "≥"))
            or "kcal" in page.locator("#said").inner_text()
        )
        page.locator("h1").click()
        while bowl.changes.exists():
            self.press_for("u", "/undo/")
        self.assertEqual(self.parts(bowl), start)

    def test_keyboard_alone(self) -> None:
        self.go("/today/")
        page = self.page
        page.keyboard.press("g")
        page.keyboard.press("w")
        page.get_by_role("button", name="Maren Okafor").first.focus()
        page.keyboard.press("Enter")
        page.wait_for_url(re.compile(r"/clients/\d+/$"))
        page.keyboard.press("g")
        page.keyboard.press("o")
        page.wait_for_url("**/bowls/of/**")
        page.keyboard.press("n")
        expect(page.get_by_label("New bowl")).to_be_focused()
        page.keyboard.type("Keyed bowl")
        page.keyboard.press("Enter")
        page.wait_for_url(re.compile(r"/bowls/\d+/$"))
        for words in ("garbanzo", "rocket"):
            page.keyboard.press("Escape")
            page.keyboard.press("/")
            expect(page.get_by_label("Food or batch to add")).to_be_focused()
            page.keyboard.type(words)
            self.press_for("Enter", "/parts/")
        expect(page.locator("[data-row]")).to_have_count(2)
        amount = page.get_by_label("Portion of Chickpeas")
        amount.focus()
        page.keyboard.press("ArrowUp")
        expect(amount).to_have_value("¾ cup")
        expect(amount).to_be_focused()
        page.keyboard.press("Escape")
        page.keyboard.press("?")
        expect(page.get_by_role("dialog")).to_be_visible()
        page.keyboard.press("Escape")
        page.keyboard.press("u")
        expect(amount).to_have_value("½ cup")

    def test_a_lost_server_is_said_and_the_typed_value_kept(self) -> None:
        bowl, page = self.open_bench(), self.page
        self.page.context.set_offline(True)
        amount = page.locator(f"#amount-{bowl.parts.first().pk}")
        amount.fill("2 cups")
        amount.press("Enter")
        expect(page.locator("#failed")).to_contain_text("Not saved")
        expect(amount).to_have_value("2 cups")
        self.page.context.set_offline(False)
        with page.expect_response(lambda response: "/search/" in response.url):
            page.locator("[data-search]").press_sequentially("tofu")
        self.settle()
        # leaving the field may have sent it once more: what is said is what is stored
        is_stored = bowl.parts.first().amount == 2.0
        self.assertEqual(page.locator("#failed").is_hidden(), is_stored)
        if not is_stored:
            with page.expect_response(lambda response: "/portion/" in response.url):
                amount.press("Enter")
            self.settle()
        expect(page.locator("#failed")).to_be_hidden()
        self.assertEqual(bowl.parts.first().amount, 2.0)
        self.complaints = [
            c
            for c in self.complaints
            if "ERR_INTERNET_DISCONNECTED" not in c and not c.startswith("htmx:")
        ]


class ByTouch(BrowserTestCase):
    """A tablet in a kitchen."""

    viewport: ClassVar[dict[str, int]] = {"width": 1024, "height": 768}
    context_options: ClassVar[dict] = {"has_touch": True}

    def test_steps_by_finger(self) -> None:
        bowl = Bowl.objects.get(name="Slipway snack")
        self.go(f"/bowls/{bowl.pk}/")
        part = bowl.parts.first()
        self.page.get_by_role("button", name=re.compile("^More Edamame")).tap()
        expect(self.page.locator(f"#amount-{part.pk}")).to_have_value("1 cup")
        for button in self.page.locator(".stepper button").all()[:2]:
            box = button.bounding_box()
            self.assertGreaterEqual(min(box["width"], box["height"]), 24)


class QuickHands(BrowserTestCase):
    """Presses that come faster than the answers."""

    def test_three_quick_presses_count_three_and_two_parts_do_not_mix(self) -> None:
        bowl = Bowl.objects.get(name="Slipway snack")
        self.go(f"/bowls/{bowl.pk}/")
        first, second = bowl.parts.all()[:2]
        shown = [self.page.locator(f"#amount-{part.pk}") for part in (first, second)]
        expect(shown[0]).to_have_value("¾ cup")  # steps of a quarter
        expect(shown[1]).to_have_value("1")  # steps of a half
        self.page.evaluate(
            "presses => presses.forEach((id) => document.getElementById(id).click())",
            [f"more-{part.pk}" for part in (first, first, second, first)],
        )
        expect(shown[0]).to_have_value("1½ cups")
        expect(shown[1]).to_have_value("1½ pieces")
        self.settle()
        expect(shown[0]).to_have_value("1½ cups")

    def test_enter_adds_the_first_result_and_empties_the_search(self) -> None:
        bowl = Bowl.objects.get(name="Slipway snack")
        self.go(f"/bowls/{bowl.pk}/")
        box = self.page.locator("#bench-q")
        box.fill("arugula")
        expect(self.page.locator("#hits")).to_contain_text("Arugula")
        box.press("Enter")
        expect(self.page.locator("#bench")).to_contain_text("Arugula")
        expect(box).to_have_value("")


class EveryScreen(BrowserTestCase):
    """axe-core on every screen (some of them each run), no sideways scrolling at three widths."""

    def addresses(self) -> list[str]:
        """One of each screen."""
        bowl = Bowl.objects.get(name="Tideline, too much potassium")
        label = Label.objects.filter(practitioner=bowl.client.practitioner).first().pk
        client, batch = bowl.client_id, bowl.parts.exclude(batch=None).first().batch_id
        week = bowl.client.weeks.first().pk
        fitted = Batch.objects.exclude(parent=None).first().pk
        return [
            "/today/",
            "/clients/new/",
            f"/clients/{client}/",
            f"/clients/{client}/change/",
            f"/targets/{client}/",
            "/batches/",
            "/batches/new/",
            f"/batches/{batch}/",
            f"/batches/{batch}/?edit={self.line(batch)}",
            f"/bowls/of/{client}/",
            f"/bowls/{bowl.pk}/",
            f"/bowls/{bowl.pk}/print/",
            "/shelf/",
            "/shelf/?q=tofu",
            "/shelf/tempeh/",
            "/shelf/labels/new/",
            f"/shelf/labels/{label}/",
            f"/shelf/labels/{label}/edit/",
            "/shelf/side-by-side/?f=tofu-firm&f=tempeh",
            "/shelf/upload/",
            f"/targets/{client}/schools/",
            "/clients/schools/",
            "/glossary/",
            "/today/?q=nobody",
            "/shelf/units/",
            "/bowls/ladder/",
            "/nowhere/",
            f"/bowls/{bowl.pk}/table/",
            f"/bowls/{bowl.pk}/weigh/",
            "/bowls/patterns/",
            f"/batches/{batch}/portions/",
            f"/batches/{batch}/fit/",
            f"/batches/{batch}/labels/",
            f"/weeks/of/{bowl.client_id}/",
            f"/weeks/of/{bowl.client_id}/favourites/",
            f"/weeks/{week}/",
            f"/weeks/{week}/day/2/",
            f"/weeks/{week}/under/",
            f"/weeks/{week}/versions/",
            f"/weeks/{week}/files/",
            f"/weeks/{week}/print/",
            f"/batches/{fitted}/changed/",
            f"/shopping/{week}/",
            f"/shopping/{week}/print/",
            f"/shopping/batch/{batch}/",
            f"/prep/{week}/0/",
            f"/prep/{week}/0/sheet/",
            f"/prep/{week}/0/labels/",
            f"/hand-over/{week}/",
            f"/hand-over/{week}/booklet/",
            f"/hand-over/of/{client}/",
            "/hand-over/outbox/",
            "/hand-over/closed-links/",
            "/hand-over/portion-card/",
            f"/follow/{client}/",
            f"/follow/{client}/values/",
            f"/follow/{client}/diary/",
            f"/follow/{client}/adjust/",
            f"/follow/{client}/visits/",
            f"/follow/{client}/report/",
            "/follow/practice/",
            f"/clients/{client}/delete/",
            "/compare/",
            f"/compare/?a=bowl-{bowl.pk}&b=batch-{batch}&by=energy",
        ]

    def line(self, batch: int) -> int:
        """A line of a batch."""
        from roundpantry.batches.models import BatchLine

        return BatchLine.objects.filter(batch=batch).first().pk

    def test_axe_is_clean_and_nothing_scrolls_sideways(self) -> None:
        for address in sample("screens", self.addresses(), 0.25):
            self.go(address)
            self.settle()
            self.axe()
            for width in (1024, PHONE_WIDTH, 1280):
                self.page.set_viewport_size({"width": width, "height": 800})
                over = self.page.evaluate(
                    "document.documentElement.scrollWidth - document.documentElement.clientWidth"
                )
                self.assertLessEqual(over, 0, f"{address} at {width}")
                if width == PHONE_WIDTH:
                    with self.subTest(address):
                        self.assertEqual(self.page.evaluate(LOW_TARGETS)[:5], [])
        self.complaints = [c for c in self.complaints if "404" not in c]

    def test_a_phone_shows_the_place_one_is_at(self) -> None:
        self.page.set_viewport_size({"width": PHONE_WIDTH, "height": 800})
        client = Bowl.objects.get(name="Slipway snack").client
        for address in (f"/follow/{client.pk}/", f"/weeks/{client.weeks.first().pk}/"):
            self.go(address)
            box = self.page.locator(".rail [aria-current]").bounding_box()
            self.assertGreaterEqual(box["x"], 0, address)
            self.assertLessEqual(box["x"] + box["width"], PHONE_WIDTH, address)

    def test_an_open_menu_closes_with_escape_and_with_a_press_beside_it(self) -> None:
        week = Bowl.objects.get(name="Slipway snack").client.weeks.first()
        self.go(f"/weeks/{week.pk}/")
        menu = self.page.locator("details.menu:has-text('Favourites')")
        more = menu.locator("summary")
        more.click()
        expect(menu).to_have_attribute("open", "")
        self.page.keyboard.press("Escape")
        expect(menu).not_to_have_attribute("open", "")
        expect(more).to_be_focused()
        more.click()
        self.page.locator("h1").click()
        expect(menu).not_to_have_attribute("open", "")

    def test_axe_is_clean_on_what_opens_on_the_bench(self) -> None:
        self.go(self.addresses()[10])
        self.page.locator("#why-protein_g").click()
        expect(self.page.locator("#drawer")).to_contain_text("Protein in")
        self.axe()
        self.page.locator("[data-close-why]").click()
        for opened, said in (
            ("#protein", "Amino acid score"),
            (".part-name >> nth=0", "Limits when balancing"),
            ("#balance", "Ways to fix it"),
        ):
            self.page.locator(opened).click()
            expect(self.page.locator("#drawer")).to_contain_text(said)
            self.axe()

    def test_axe_on_the_login_page(self) -> None:
        self.go("/today/")
        self.page.get_by_role("button", name="Log out").click()
        self.axe()

    def test_the_work_fits_without_scrolling_at_1280(self) -> None:
        bowl = Bowl.objects.get(name="Slipway snack")
        self.go(f"/bowls/{bowl.pk}/")
        over = self.page.evaluate(
            "document.querySelector('main').scrollHeight - "
            "document.querySelector('main').clientHeight"
        )
        self.assertLessEqual(over, 0)


class OnTheShelf(BrowserTestCase):
    """A label pasted and stored, and the ladder gone along by arrows."""

    def test_a_label_from_paste_to_bowl(self) -> None:
        page = self.page
        self.go("/shelf/")
        page.get_by_role("link", name="Enter a package label").click()
        page.get_by_label("Paste the label").fill(
            "Jetty crumble. Servings per package 4. Serving size 2 tbsp (20 g): 80 kcal, fat 3 "
            "g, carbohydrate 5 g, fibre 2 g, "
            "protein 8 g, sodium 90 mg. Ingredients: soya protein, sunflower oil, salt."
        )
        page.get_by_role("button", name="Fill in the fields below").click()
        expect(page.get_by_label("Protein (g)")).to_have_value("8")
        page.get_by_role("button", name="Save label").click()
        expect(page.get_by_role("heading", name="Jetty crumble")).to_be_visible()
        expect(page.locator("main")).to_contain_text("added oil: sunflower oil")
        bowl = Bowl.objects.get(name="Slipway snack")
        self.go(f"/bowls/{bowl.pk}/")
        page.get_by_label("Food or batch to add").fill("jetty")
        page.get_by_role("button", name=re.compile("^Jetty crumble")).click()
        amount = page.get_by_label("Portion of Jetty crumble")
        expect(amount).to_have_value("1 serving")
        amount.fill("half the package")
        amount.press("Enter")
        expect(amount).to_have_value("½ package")
        expect(page.locator("[data-row]").last).to_contain_text("16.0")

    def test_ladder_by_arrows(self) -> None:
        page = self.page
        client = Bowl.objects.get(name="Slipway snack").client_id
        self.go(f"/clients/{client}/")
        self.go("/bowls/ladder/")
        first = page.locator("[data-rung]").first
        first.focus()
        before = float(first.locator("circle").get_attribute("cx"))
        page.keyboard.press("ArrowRight")
        after = page.evaluate(
            "Number(document.activeElement.querySelector('circle').getAttribute('cx'))"
        )
        self.assertGreater(after, before)
        page.keyboard.press("Enter")
        expect(page.locator("#drawer")).to_contain_text("Add to a bowl")
