"""A week laid by keyboard alone, a pot that runs out and is mended, a plan by solver, and the week
on a phone.
"""

from __future__ import annotations

from datetime import timedelta
from typing import ClassVar

from playwright.sync_api import expect

from browser_tests.support import BrowserTestCase
from dietetics.week.plan import plan_of
from roundpantry.clients.models import Client
from roundpantry.counter import clock
from roundpantry.weeks.models import Week
from roundpantry.weeks.services import add_week


class ByKeys(BrowserTestCase):
    """Nothing but the keyboard: no click in here."""

    def setUp(self) -> None:
        super().setUp()
        self.rower = Client.objects.get(name="Maren Okafor")
        self.week = add_week(self.rower, clock.today() + timedelta(weeks=10))
        self.go(f"/weeks/{self.week.pk}/")

    def plan(self):
        """The plan as it is stored."""
        return plan_of(Week.objects.get(pk=self.week.pk).plan)

    def press(self, *keys: str) -> None:
        """Press keys one after another, each change awaited."""
        for key in keys:
            self.page.keyboard.press(key)
            self.settle()
            self.page.wait_for_timeout(60)

    def put(self, day: int, meal: int, name: str) -> None:
        """Go to a cell with the arrows, open it, and take a dish by its number."""
        page = self.page
        self.press("Home", *["ArrowUp"] * 4, *["ArrowDown"] * meal, *["ArrowRight"] * day)
        expect(page.locator(f"#cell-{day}-{meal}")).to_be_focused()
        page.keyboard.press("Enter")
        expect(page.locator("#drawer-title")).to_be_focused()
        number = page.locator(f'[data-way][data-name="{name}"]').get_attribute("data-way")
        page.keyboard.press(number)
        expect(page.locator(f"#cell-{day}-{meal}")).to_contain_text(name)
        expect(page.locator(f"#cell-{day}-{meal}")).to_be_focused()

    def reach(self, selector: str) -> None:
        """Tab until something is focused."""
        for _ in range(80):
            if self.page.evaluate("s => document.activeElement.matches(s)", selector):
                return
            self.page.keyboard.press("Tab")
        self.fail(f"{selector} cannot be reached by Tab")

    def test_a_week_laid_by_hand_and_a_thread_mended(self) -> None:
        page = self.page
        self.reach("#cell-0-0")
        self.put(0, 0, "Bow-wave breakfast")
        self.press("r", "c", "End", "v")
        self.put(0, 2, "Slipway snack")
        self.press("f")
        self.put(0, 1, "Tideline bowl")
        self.put(0, 3, "Stroke-seat supper")
        self.press("f")
        plan = self.plan()
        self.assertEqual(
            [bool(plan.cell(d, 0).entries) for d in range(7)], [True] * 5 + [False, True]
        )
        self.assertTrue(all(plan.cell(d, 2).entries and plan.cell(d, 3).entries for d in range(7)))
        self._mend(next(key for key in self._short()))
        self.press("Escape")
        page.locator("#cell-0-1").focus()
        self.press("l", "+", "ArrowRight", "k", "ArrowRight", "s", "ArrowRight", "s")
        plan = self.plan()
        self.assertTrue(plan.cell(0, 1).locked)
        self.assertEqual(plan.cell(0, 1).entries[0].scale, 1.25)
        self.assertTrue(plan.cell(1, 1).skipped)
        self.press("ArrowDown", "ArrowDown", "x")
        self.assertFalse(self.plan().cell(3, 3).entries)
        self.press("u")
        self.assertEqual(self.plan(), plan)

    def _short(self) -> list[str]:
        """The batches that are eaten and not cooked."""
        return [
            row.get_attribute("id").removeprefix("pot-")
            for row in self.page.locator("tr.bad .lane-name").all()
        ]

    def _mend(self, key: str) -> None:
        """Open the thread by keyboard and cook until nothing is missing, looking at what the page
        says.
        """
        page = self.page
        self.assertTrue(self._short())
        expect(page.locator("#week")).to_contain_text("more servings eaten than cooked")
        for evening in ("1", "1", "4", "4", "4", "7"):
            if key not in self._short():
                break
            page.locator("#cell-0-0").focus()
            self.reach(f"#pot-{key}")
            page.keyboard.press("Enter")
            expect(page.locator("#drawer-title")).to_be_focused()
            self.press(evening)
        self.assertNotIn(key, self._short())

    def test_planned_by_one_key_and_explained(self) -> None:
        page = self.page
        self.reach("#cell-0-0")
        self.press("b")
        expect(page.locator("#drawer-title")).to_have_text("Week planned", timeout=20000)
        expect(page.locator("#drawer")).to_contain_text("Not met")
        self.assertTrue(all(self.plan().cell(d, m).entries for d in range(7) for m in range(4)))
        self.assertNotIn("more are eaten", page.locator("#week").inner_text())
        self.press("Escape")
        expect(page.locator("[data-day]:focus")).to_have_count(1)
        self.press("u")
        self.assertFalse(self.plan().cell(3, 1).entries)

    def test_two_windows_on_one_week(self) -> None:
        other = self.context.new_page()
        other.goto(f"{self.live_server_url}/weeks/{self.week.pk}/")
        self.reach("#cell-0-0")
        self.put(0, 0, "Bow-wave breakfast")
        other.locator("#cell-3-3").focus()
        other.keyboard.press("k")
        expect(
            other.get_by_role("alert").filter(has_text="changed in another window")
        ).to_be_visible()
        expect(other.locator("#cell-0-0")).to_contain_text("Bow-wave breakfast")
        other.locator("#cell-3-3").focus()
        other.keyboard.press("k")
        expect(other.locator("#cell-3-3")).to_contain_text("no meal")


class ByMouse(BrowserTestCase):
    """Dragging, and the progress of a search."""

    def test_a_meal_is_dragged_onto_another(self) -> None:
        week = Client.objects.get(name="Maren Okafor").weeks.first()
        self.go(f"/weeks/{week.pk}/")
        first, second = plan_of(week.plan).cell(0, 1), plan_of(week.plan).cell(2, 3)
        self.page.locator("#cell-0-1").drag_to(self.page.locator("#cell-2-3"))
        expect(self.page.locator("#cell-2-3")).to_contain_text(first.entries[0].name)
        plan = plan_of(Week.objects.get(pk=week.pk).plan)
        self.assertEqual((plan.cell(2, 3), plan.cell(0, 1)), (first, second))


class OnAPhone(BrowserTestCase):
    """A tap opens a meal, buttons do the rest."""

    viewport: ClassVar[dict[str, int]] = {"width": 390, "height": 844}
    context_options: ClassVar[dict] = {"has_touch": True}

    def test_a_meal_is_changed_by_finger(self) -> None:
        week = Client.objects.get(name="Maren Okafor").weeks.first()
        self.go(f"/weeks/{week.pk}/")
        self.page.locator("#cell-0-1").tap()
        expect(self.page.locator("#drawer-title")).to_contain_text("Monday, lunch")
        self.page.get_by_role("button", name="Lock", exact=False).first.tap()
        expect(self.page.locator("#cell-0-1")).to_contain_text("locked")
        self.assertTrue(plan_of(Week.objects.get(pk=week.pk).plan).cell(0, 1).locked)


class OneDayAtATime(BrowserTestCase):
    """The week at 390 wide: one day at a time, and nothing of it hidden aside."""

    viewport: ClassVar[dict[str, int]] = {"width": 390, "height": 844}
    context_options: ClassVar[dict] = {"has_touch": True}

    def shown(self) -> list[int]:
        """The days whose breakfast can be seen."""
        return [day for day in range(7) if self.page.locator(f"#cell-{day}-0").is_visible()]

    def test_days_are_turned_by_buttons_and_by_a_swipe(self) -> None:
        client = Client.objects.get(name="Maren Okafor")
        week, page = client.weeks.order_by("-start").first(), self.page
        self.go(f"/weeks/{week.pk}/")
        self.assertEqual(self.shown(), [0])
        page.get_by_role("button", name="Day after").tap()
        self.assertEqual(self.shown(), [1])
        expect(page.locator("#day-shown")).to_contain_text("Tue")
        swipe = """([from, to]) => {
            const table = document.querySelector("table.week");
            for (const [type, x] of [["touchstart", from], ["touchend", to]]) {
                const touch = new Touch({identifier: 1, target: table, clientX: x, clientY: 300});
                table.dispatchEvent(new TouchEvent(type, {bubbles: true, changedTouches: [touch]}));
            }
        }"""
        page.evaluate(swipe, [300, 100])
        self.assertEqual(self.shown(), [2])
        page.evaluate(swipe, [100, 300])
        page.evaluate(swipe, [100, 300])
        page.evaluate(swipe, [100, 300])
        self.assertEqual(self.shown(), [0], "there is no day before the first")
        page.get_by_role("button", name="Day before").tap()
        self.assertEqual(self.shown(), [0])
        page.get_by_role("button", name="Day after").tap()
        page.locator("#cell-1-1").tap()
        expect(page.locator("#drawer-title")).to_contain_text("Tuesday, lunch")
        page.get_by_role("button", name="Lock", exact=False).first.tap()
        expect(page.locator("#cell-1-1")).to_contain_text("locked")
        self.assertEqual(self.shown(), [1], "a change keeps the day that was shown")
        self.assertLessEqual(page.evaluate("document.documentElement.scrollWidth - innerWidth"), 0)
        self.axe()
