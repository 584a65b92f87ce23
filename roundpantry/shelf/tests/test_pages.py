"""Pages of the shelf."""

from __future__ import annotations

from django.urls import reverse

from roundpantry.demo.tests.support import HTMX, WithDemo


class Shelf(WithDemo):
    """Search and food pages."""

    def test_every_food_has_a_page(self) -> None:
        from dietetics.composition.foods import load_shelf

        for food in list(load_shelf())[::7]:
            self.assertContains(
                self.client.get(reverse("shelf:food", args=[food.key])),
                food.source_row.split('"')[0][:12],
            )
        self.assertEqual(
            self.client.get(reverse("shelf:food", args=["no-such-food"])).status_code, 404
        )

    def test_search(self) -> None:
        page = self.client.get(reverse("shelf:list"), {"q": "chikpea"}, **HTMX).content.decode()
        self.assertIn("Chickpeas", page)
        self.assertNotIn("<html", page)
        self.assertContains(self.client.get(reverse("shelf:list"), {"q": "<b>zzz"}), "&lt;b&gt;zzz")
