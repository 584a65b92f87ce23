"""The bench: parts, portions, levels, print."""

from __future__ import annotations

from django.urls import reverse
from django.utils.html import escape

from roundpantry.bowls.models import BowlPart
from roundpantry.demo.tests.support import HTMX, WithDemo


class Bench(WithDemo):
    """Portions by typing, steps and undo."""

    def state(self) -> list[tuple]:
        """The parts as they are."""
        return list(self.bowl.parts.values_list("pk", "food_key", "amount_text", "grams"))

    def test_typing_stepping_and_undo(self) -> None:
        start = self.state()
        quinoa = self.part("quinoa-cooked")
        self.client.post(f"{self.url}parts/{quinoa.pk}/portion/", {"amount": "1 cup"}, **HTMX)
        self.client.post(f"{self.url}parts/{quinoa.pk}/step/", {"steps": "2"}, **HTMX)
        quinoa.refresh_from_db()
        self.assertEqual((quinoa.amount_text, round(quinoa.grams, 3)), ("1½ cups", 277.5))
        refused = self.client.post(f"{self.url}parts/{quinoa.pk}/step/", {"steps": "many"}, **HTMX)
        self.assertContains(refused, "whole numbers", status_code=422)
        self.client.post(f"{self.url}parts/{quinoa.pk}/step/", {"steps": "-100"}, **HTMX)
        quinoa.refresh_from_db()
        self.assertEqual(quinoa.amount_text, "¼ cup")
        self.client.post(f"{self.url}parts/{self.part('tahini').pk}/remove/", **HTMX)
        self.client.post(reverse("bowls:add", args=[self.bowl.pk]), {"q": "rocket"}, **HTMX)
        self.assertTrue(self.bowl.parts.filter(food_key="arugula-raw").exists())
        for _ in range(5):
            self.client.post(reverse("bowls:undo", args=[self.bowl.pk]), **HTMX)
        self.assertEqual(self.state(), start)
        self.assertEqual(
            self.client.post(reverse("bowls:undo", args=[self.bowl.pk]), **HTMX).status_code, 200
        )

    def test_amounts_that_cannot_be_read_keep_what_was_typed(self) -> None:
        quinoa = self.part("quinoa-cooked")
        for typed in ("plenty", "-2 cups", "0 g", "30 kg", "3 sheets", "", "1 cup of joy"):
            answer = self.client.post(
                f"{self.url}parts/{quinoa.pk}/portion/", {"amount": typed}, **HTMX
            )
            self.assertEqual(answer.status_code, 422, typed)
            self.assertIn(f'value="{typed}"', answer.content.decode())
            self.assertIn('role="alert"', answer.content.decode())
        quinoa.refresh_from_db()
        self.assertEqual(quinoa.amount_text, "1½ cups")

    def test_fragments_only_for_real_htmx_requests(self) -> None:
        self.assertIn("<html", self.client.get(self.url).content.decode())
        self.assertNotIn("<html", self.client.get(self.url, **HTMX).content.decode())
        for extra in ({"HX-Boosted": "true"}, {"HX-History-Restore-Request": "true"}):
            answer = self.client.get(self.url, headers={"HX-Request": "true", **extra})
            self.assertIn("<html", answer.content.decode())

    def test_every_figure_and_part_can_be_asked(self) -> None:
        from dietetics.nutrients import NUTRIENTS

        for one in NUTRIENTS:
            self.assertContains(self.client.get(f"{self.url}why/{one.key}/", **HTMX), "Why?")
            self.assertContains(
                self.client.get(f"{self.url}parts/{self.part('tahini').pk}/why/{one.key}/", **HTMX),
                "Why?",
            )
        self.assertContains(self.client.get(f"{self.url}why/protein_g/"), "<html")

    def test_nothing_called_so(self) -> None:
        answer = self.client.post(
            reverse("bowls:add", args=[self.bowl.pk]), {"q": "unobtainium"}, **HTMX
        )
        self.assertEqual(answer.status_code, 422)
        self.assertIn("unobtainium", answer.content.decode())

    def test_forty_parts_are_the_most(self) -> None:
        for _ in range(45):
            last = self.client.post(
                reverse("bowls:add", args=[self.bowl.pk]), {"food": "kale-raw"}, **HTMX
            )
        self.assertEqual(last.status_code, 422)
        self.assertEqual(self.bowl.parts.count(), 40)

    def test_queries_do_not_grow_with_parts(self) -> None:
        self.client.get(self.url)
        with self.assertNumQueries(4):
            self.client.get(self.url, **HTMX)
        for _ in range(10):
            self.client.post(
                reverse("bowls:add", args=[self.bowl.pk]), {"food": "kale-raw"}, **HTMX
            )
        with self.assertNumQueries(4):
            self.client.get(self.url, **HTMX)

    def test_print(self) -> None:
        page = self.client.get(reverse("bowls:print", args=[self.bowl.pk])).content.decode()
        for words in (
            "for Maren Okafor",
            "Peanut allergy",
            "1½ cups",
            "does not treat disease",
            "USDA",
        ):
            self.assertIn(words, page)

    def test_print_says_how_each_batch_is_made(self) -> None:
        part = BowlPart.objects.filter(bowl__client__practitioner=self.petra, batch__isnull=False)
        bowl, batch = part[0].bowl, part[0].batch
        page = self.client.get(reverse("bowls:print", args=[bowl.pk])).content.decode()
        self.assertIn(f"How to make {escape(batch.title)}", page)
        for step in filter(str.strip, batch.steps.splitlines()):
            self.assertIn(f"<li>{escape(step.strip())}</li>", page)

    def test_area_is_volume(self) -> None:
        import math

        from dietetics.dishes.bowls import BOWL_ML
        from roundpantry.bowls.drawing import CAPACITY_RADIUS, draw
        from roundpantry.bowls.records import bowl_value, bowls_of

        bowl = bowls_of(self.petra).get(name="Slipway snack")
        value = bowl_value(bowl)
        dish = draw(value)
        self.assertFalse(dish.overflows)
        area = math.pi * float(dish.food_radius) ** 2
        self.assertAlmostEqual(
            area / (math.pi * CAPACITY_RADIUS**2), value.volume_ml / BOWL_ML, delta=0.002
        )
        self.assertEqual(len(dish.slices), len(value.portions))

    def test_a_sauce_alone_in_the_well_is_drawn(self) -> None:
        import re

        from roundpantry.bowls.drawing import sector_path

        for inner, outer in ((0.0, 12.0), (12.0, 150.0), (0.0, 201.0)):
            path = sector_path(inner, outer, 0.0, 360.0)
            places = re.findall(r"[MA](?:[\d.]+ [\d.]+ 0 [01] [01] )?([\d.]+ [\d.]+)", path)
            self.assertTrue(
                all(a != b for a, b in zip(places, places[1:], strict=False)),
                "an arc to itself is nothing",
            )
            self.assertEqual(path.count("M"), 2 if inner else 1)
