"""The bench balanced by keyboard, by mouse and by finger; ways out; weighing as one serves."""

from __future__ import annotations

import re
from typing import ClassVar

from playwright.sync_api import expect

from browser_tests.support import BrowserTestCase
from roundpantry.bowls.models import Bowl


def stored(bowl: Bowl) -> list[tuple]:
    """The parts as stored, and the moved windows."""
    return [
        *bowl.parts.values_list("pk", "amount_text", "locked"),
        Bowl.objects.get(pk=bowl.pk).moved,
    ]


class ByKeys(BrowserTestCase):
    """Nothing but the keyboard."""

    def test_balance_and_undo(self) -> None:
        bowl, page = Bowl.objects.get(name="Tideline bowl"), self.page
        start = stored(bowl)
        self.go(f"/bowls/{bowl.pk}/")
        page.keyboard.press("b")
        expect(page.locator("#drawer-title")).to_have_text("Balanced")
        expect(page.locator("#drawer-title")).to_be_focused()
        expect(page.locator("#drawer")).to_contain_text(
            "No other household-measure portions are closer"
        )
        for level in page.locator("#levels .level").all():
            expect(level).to_have_attribute("data-state", "in")
        self.assertNotEqual(stored(bowl), start)
        page.keyboard.press("u")
        expect(page.locator("#level-energy_kcal")).to_have_attribute("data-state", "short")
        self.assertEqual(stored(bowl), start)

    def test_lock_double_and_move_a_part(self) -> None:
        bowl, page = Bowl.objects.get(name="Tideline bowl"), self.page
        start = stored(bowl)
        tofu = bowl.parts.get(food_key="tofu-firm").pk
        self.go(f"/bowls/{bowl.pk}/")
        page.locator(f"#handle-{tofu}").focus()
        page.keyboard.press("l")
        expect(page.locator(f"#lock-{tofu}")).to_have_attribute("aria-pressed", "true")
        page.locator(f"#handle-{tofu}").focus()
        page.keyboard.press("d")
        expect(page.locator("[data-row]")).to_have_count(11)
        expect(page.locator(f"#handle-{tofu}")).to_be_focused()
        page.keyboard.press("[")
        expect(page.locator("[data-row]").first).to_contain_text("Tofu")
        page.keyboard.press("b")
        expect(page.locator("#drawer-title")).to_be_focused()
        self.assertEqual(bowl.parts.get(pk=tofu).amount_text, "140 g")
        while bowl.changes.exists():
            self.press_for("u", "/undo/")
        self.assertEqual(stored(bowl), start)

    def test_what_cannot_be_done_and_a_way_out_by_its_number(self) -> None:
        bowl, page = Bowl.objects.get(name="Dark-bread tartine, with too much spread"), self.page
        start = stored(bowl)
        self.go(f"/bowls/{bowl.pk}/")
        page.keyboard.press("b")
        expect(page.locator("#drawer-title")).to_have_text(re.compile("^Closest: "))
        expect(page.locator("#ways")).to_contain_text("can't")
        self.assertEqual(stored(bowl), start)
        expect(page.locator('[data-way="1"]')).to_be_visible()
        page.keyboard.press("1")
        expect(page.locator("#drawer-title")).not_to_have_text(re.compile("^Closest: "))
        self.assertNotEqual(stored(bowl), start)
        self.press_for("u", "/undo/")
        self.assertEqual(stored(bowl), start)


class ByMouse(BrowserTestCase):
    """Hints, the part's panel, and the scale."""

    def test_a_hint_is_taken_by_one_press(self) -> None:
        bowl, page = Bowl.objects.get(name="Tideline bowl"), self.page
        self.go(f"/bowls/{bowl.pk}/")
        hint = page.locator("#hints .hit").first
        expect(hint).to_contain_text("gets energy on target")
        hint.click()
        expect(page.locator("#level-energy_kcal")).to_have_attribute("data-state", "in")

    def test_limits_typed_wrong_keep_what_was_typed(self) -> None:
        bowl, page = Bowl.objects.get(name="Tideline bowl"), self.page
        self.go(f"/bowls/{bowl.pk}/")
        page.get_by_role("button", name="More about Tofu").click()
        page.get_by_label("At least").fill("plenty")
        page.get_by_role("button", name="Set", exact=True).click()
        expect(page.get_by_role("alert").filter(has_text="plenty")).to_be_visible()
        expect(page.get_by_label("At least")).to_have_value("plenty")

    def test_weigh_as_i_serve(self) -> None:
        bowl, page = Bowl.objects.get(name="Slipway snack"), self.page
        first = bowl.parts.first()
        self.go(f"/bowls/{bowl.pk}/weigh/")
        page.get_by_role("button", name="Clear the scale").click()
        for _ in range(2):
            page.get_by_role("button", name="+50 g").click()
        page.get_by_role("button", name="+10 g").click()
        # the stand-in drifts by two grams at most, however long a busy machine takes to look
        expect(page.locator("#scale-grams")).to_have_text(re.compile(r"^1(0[89]|1[0-3])$"))

        def taken() -> bool:
            page.get_by_role("button", name="Record this weight").click()
            self.settle()
            first.refresh_from_db()
            return first.served_g is not None

        self.until(taken, "a settled scale whose figure was taken")
        expect(page.locator("#levels")).to_contain_text("As served")
        self.assertAlmostEqual(first.served_g, 110, delta=4)
        page.get_by_label("or type grams").fill("120")
        page.get_by_role("button", name="Record", exact=True).click()
        expect(page.locator("#weigh tbody tr").nth(1)).to_contain_text("120")


class ByFinger(BrowserTestCase):
    """A tablet in a kitchen."""

    viewport: ClassVar[dict[str, int]] = {"width": 1024, "height": 768}
    context_options: ClassVar[dict] = {"has_touch": True}

    def test_balance_way_out_and_undo(self) -> None:
        bowl, page = Bowl.objects.get(name="Dark-bread tartine, with too much spread"), self.page
        start = stored(bowl)
        self.go(f"/bowls/{bowl.pk}/")
        page.get_by_role("button", name="Balance").tap()
        way = page.locator('[data-way="1"]')
        expect(way).to_be_visible()
        self.assertGreaterEqual(way.bounding_box()["height"], 40)
        way.tap()
        expect(page.locator("#drawer-title")).not_to_have_text(re.compile("^Closest: "))
        page.locator("#undo").tap()
        self.until(lambda: stored(bowl) == start, "the bowl as it was")

    def test_the_table_by_finger(self) -> None:
        bowl, page = Bowl.objects.get(name="Mess-room chili"), self.page
        child = bowl.variants.get(eater="Ama, 9").parts.first()
        self.go(f"/bowls/{bowl.pk}/table/")
        page.locator(f"#tmore-{child.pk}").tap()
        expect(page.locator(f"#table-{child.pk}")).not_to_have_text(child.amount_text)
