"""A dish as a line of another dish: read by its name, summed, taken apart, changed, refused in
circles.
"""

from __future__ import annotations

from django.urls import reverse

from dietetics.dishes.allergens import batch_allergens
from dietetics.dishes.bowls import foods_of
from roundpantry.batches.models import Batch
from roundpantry.batches.records import batch_value, batches_of
from roundpantry.batches.services import add_batch, add_line, read_pasted
from roundpantry.demo.tests.support import HTMX, WithDemo

SAUCE = "# Kestrel sauce\nServes 8\n100 g tahini\n100 g water\n20 g lemon juice"
PLATE = "# Kestrel plate\nServes 2\n300 g cooked chickpeas\n110 g Kestrel sauce"


class DishesInDishes(WithDemo):
    """Sauce in a plate in a tray."""

    def paste(self, text: str) -> Batch:
        """A pasted recipe, stored."""
        return add_batch(self.petra, read_pasted(self.petra, text), text)

    def setUp(self) -> None:
        super().setUp()
        self.sauce = self.paste(SAUCE)
        self.plate = self.paste(PLATE)

    def fresh(self, batch: Batch) -> Batch:
        """The batch as it is stored now."""
        return batches_of(self.petra).get(pk=batch.pk)

    def test_half_of_the_sauce_is_in_the_plate(self) -> None:
        line = self.plate.lines.get(text__contains="Kestrel")
        self.assertEqual((line.dish_id, line.grams), (self.sauce.pk, 110))
        sauce, plate = batch_value(self.fresh(self.sauce)), batch_value(self.fresh(self.plate))
        chickpeas = plate.items[0].content.known_per_100g("protein_g")[0] * 3
        self.assertAlmostEqual(
            plate.total["protein_g"].amount,
            chickpeas + sauce.total["protein_g"].amount / 2,
            places=6,
        )
        tahini = sum(
            grams for item in plate.items for food, grams in foods_of(item) if food.key == "tahini"
        )
        self.assertAlmostEqual(tahini, 50)
        self.assertIn("sesame", batch_allergens(plate).contains)

    def test_a_cup_of_it_weighs_by_what_went_in(self) -> None:
        bowl = self.paste("# Kestrel tray\n½ cup Kestrel sauce\n1 cup cooked quinoa")
        self.assertAlmostEqual(bowl.lines.first().grams, 118, delta=1)

    def test_what_is_changed_in_the_sauce_counts_in_the_plate(self) -> None:
        before, stamp = (
            batch_value(self.fresh(self.plate)).total["fat_g"].amount,
            self.fresh(self.plate).changed_at,
        )
        add_line(self.fresh(self.sauce), "50 g olive oil")
        self.assertGreater(batch_value(self.fresh(self.plate)).total["fat_g"].amount, before + 15)
        self.assertGreater(self.fresh(self.plate).changed_at, stamp)

    def test_a_line_not_read_in_the_sauce_leaves_the_plate_open(self) -> None:
        add_line(self.fresh(self.sauce), "2 cups unobtainium")
        plate = batch_value(self.fresh(self.plate))
        self.assertFalse(plate.total["protein_g"].complete)
        self.assertFalse(batch_allergens(plate).complete)
        page = self.client.get(reverse("batches:detail", args=[self.plate.pk])).content.decode()
        self.assertIn("1 line of Kestrel sauce not read", page)
        self.assertIn("Allergens, not complete", page)

    def test_circles_are_refused_in_words(self) -> None:
        add_line(self.fresh(self.sauce), "100 g Kestrel plate")
        line = self.sauce.lines.get(text__contains="plate")
        self.assertIsNone(line.grams)
        self.assertIn("already part of Kestrel plate", line.reason)
        answer = self.client.post(
            reverse("batches:line", args=[self.sauce.pk, line.pk]),
            {"text": line.text, "food": "Kestrel plate", "grams": "100"},
            **HTMX,
        )
        self.assertContains(answer, "already part of Kestrel plate", status_code=422)
        add_line(self.fresh(self.sauce), "20 g Kestrel sauce")
        self.assertIn("can't be added to", self.sauce.lines.get(text="20 g Kestrel sauce").reason)

    def test_a_dish_that_is_in_another_is_kept(self) -> None:
        answer = self.client.post(reverse("batches:remove", args=[self.sauce.pk]))
        self.assertContains(answer, "Kestrel plate uses this batch", status_code=422)
        self.assertTrue(Batch.objects.filter(pk=self.sauce.pk).exists())

    def test_pages_of_both(self) -> None:
        page = self.client.get(reverse("batches:detail", args=[self.plate.pk])).content.decode()
        self.assertIn(reverse("batches:detail", args=[self.sauce.pk]), page)
        self.assertContains(
            self.client.get(reverse("batches:detail", args=[self.sauce.pk])), "Used in"
        )
        for name in ("portions", "fit", "label"):
            self.assertEqual(
                self.client.get(reverse(f"batches:{name}", args=[self.plate.pk])).status_code,
                200,
                name,
            )
        for kind in ("pdf", "txt", "csv", "jsonld"):
            self.assertEqual(
                self.client.get(reverse("batches:export", args=[self.plate.pk, kind])).status_code,
                200,
                kind,
            )
        why = self.client.get(
            reverse("batches:why", args=[self.plate.pk, "serving", "protein_g"]), **HTMX
        ).content.decode()
        self.assertIn("Tahini", why)

    def test_a_bowl_takes_the_allergens_of_the_dish_in_the_dish(self) -> None:
        client = self.bowl.client
        client.allergies = ["sesame"]
        client.save()
        put = reverse("bowls:add", args=[self.bowl.pk])
        parts = self.bowl.parts.count()
        self.assertContains(
            self.client.post(put, {"batch": self.plate.pk}, **HTMX), "sesame", status_code=422
        )
        self.assertEqual(self.bowl.parts.count(), parts)
        add_line(self.fresh(self.sauce), "2 cups unobtainium")
        self.client.post(put, {"batch": self.plate.pk, "because": "agreed with the clinic"}, **HTMX)
        self.assertEqual(self.bowl.parts.count(), parts + 1)
        self.assertContains(self.client.get(self.url), "Allergens may be incomplete: 1 line")

    def test_a_dish_without_servings_goes_into_a_bowl_by_weight(self) -> None:
        tray = self.paste("# Kestrel tray\n300 g cooked chickpeas")
        answer = self.client.post(
            reverse("bowls:add", args=[self.bowl.pk]), {"batch": tray.pk}, **HTMX
        )
        self.assertEqual(answer.status_code, 200)
        part = self.bowl.parts.get(batch=tray)
        self.assertEqual((part.grams, part.amount_text), (100, "100 g"))
        asked = self.client.post(
            reverse("bowls:portion", args=[self.bowl.pk, part.pk]), {"amount": "1 serving"}, **HTMX
        )
        self.assertContains(asked, "has no number of servings", status_code=422)

    def test_a_dish_that_is_offered_can_be_taken(self) -> None:
        tray = self.paste("# Kestrel tray\nServes 1\n100 g smoked Kestrel sauce")
        line = tray.lines.get()
        self.assertIsNone(line.grams)
        number = next(i for i, c in enumerate(line.choices) if c["food"] == f"dish-{self.sauce.pk}")
        answer = self.client.post(
            reverse("batches:choice", args=[tray.pk, line.pk, number]), **HTMX
        )
        self.assertEqual(answer.status_code, 200)
        line.refresh_from_db()
        self.assertEqual((line.dish_id, line.grams, line.reason), (self.sauce.pk, 100, ""))

    def test_a_dish_with_the_name_of_a_food_is_asked_about(self) -> None:
        own = self.paste("# Hummus\nServes 4\n200 g cooked chickpeas\n50 g tahini")
        line = self.paste("# Tray\nServes 1\n2 tbsp hummus").lines.get()
        self.assertEqual((line.dish_id, line.confidence), (own.pk, "ask"))
        self.assertIn("hummus-commercial", [meaning["food"] for meaning in line.alternatives])

    def test_another_practitioners_dish_is_not_known(self) -> None:
        other = next(user for user in type(self.petra).objects.exclude(pk=self.petra.pk))
        theirs = add_batch(
            other,
            read_pasted(other, "# Osprey pot\nServes 2\n110 g Kestrel sauce\n100 g firm tofu"),
            "",
        )
        self.assertIsNone(theirs.lines.get(text__contains="Kestrel").dish_id)
