"""Pages of batches: read, weighed, mended, undone."""

from __future__ import annotations

from django.contrib.auth import get_user_model
from django.urls import reverse

from roundpantry.batches.models import Batch, BatchLine
from roundpantry.batches.records import batch_value
from roundpantry.clients.models import Client
from roundpantry.demo.tests.support import HTMX, WithDemo


class Batches(WithDemo):
    """Paste, correct, weigh."""

    def paste(self, text: str, title: str = "") -> Batch | None:
        """Paste a recipe and return what was stored, if anything."""
        before = set(Batch.objects.values_list("pk", flat=True))
        self.answer = self.client.post(reverse("batches:new"), {"text": text, "title": title})
        return Batch.objects.exclude(pk__in=before).first()

    def test_a_dressing_is_judged_by_what_it_adds_and_a_dinner_as_a_dinner(self) -> None:
        take = Client.objects.get(name="Maren Okafor")
        self.client.get(reverse("clients:detail", args=[take.pk]))
        dressing = self.client.get(
            reverse(
                "batches:detail",
                args=[Batch.objects.get(practitioner=self.petra, title="Breakwater dressing").pk],
            )
        )
        self.assertContains(dressing, "One serving adds to Maren Okafor")
        self.assertContains(dressing, "coats about")
        self.assertNotContains(dressing, "short</span>")
        beans = Batch.objects.get(
            practitioner=self.petra, title__startswith="Lamplighter", parent=None
        )
        dish = self.client.get(reverse("batches:detail", args=[beans.pk]))
        self.assertContains(dish, "One serving in Maren Okafor")
        self.assertNotContains(dish, "coats about")

    def test_paste_keeps_every_line(self) -> None:
        batch = self.paste(
            "# Pot\nServes 2\n1 cup cooked quinoa\n2 cups unobtainium\nFor the top:\n"
            "1 tbsp tahini thinned with 2 tbsp water"
        )
        lines = list(batch.lines.all())
        self.assertEqual(len(lines), 5)
        self.assertIn("unobtainium", lines[1].reason)
        page = self.client.get(reverse("batches:detail", args=[batch.pk])).content.decode()
        for line in lines:
            self.assertIn(line.text, page)
        self.assertIn("1 line not understood", page)

    def test_nothing_and_too_much_are_refused_with_what_was_typed(self) -> None:
        for text in ("", "   \n ", "x" * 200_000, "1 cup rice\n" * 500):
            self.assertIsNone(self.paste(text, "My title"))
            self.assertEqual(self.answer.status_code, 422)
            self.assertIn("My title", self.answer.content.decode())
        self.assertEqual(self.answer.content.decode().count("1 cup rice"), 500)
        self.assertIn("500 lines; the maximum is 400", self.answer.content.decode())

    def test_a_surprising_yield_in_the_text_is_taken_and_said(self) -> None:
        batch = self.paste("# Pot\nyield: 4 kg\n1 cup cooked quinoa")
        self.assertEqual(batch.yield_g, 4000)
        page = self.client.get(reverse("batches:detail", args=[batch.pk])).content.decode()
        self.assertIn("more than the ingredients", page)

    def test_servings_that_nobody_wrote_are_asked_for(self) -> None:
        batch = self.paste("# Pot\n1 cup cooked quinoa\n200 g firm tofu")
        self.assertIsNone(batch.servings)
        page = self.client.get(reverse("batches:detail", args=[batch.pk]))
        self.assertContains(page, "How many does it serve?")
        for url in ("portions", "fit", "label"):
            self.assertEqual(
                self.client.get(reverse(f"batches:{url}", args=[batch.pk])).status_code, 200, url
            )
        for kind in ("pdf", "txt", "csv", "jsonld"):
            self.assertEqual(
                self.client.get(reverse("batches:export", args=[batch.pk, kind])).status_code,
                200,
                kind,
            )
        self.assertEqual(
            self.client.get(
                reverse("batches:why", args=[batch.pk, "100g", "protein_g"])
            ).status_code,
            200,
        )
        self.assertEqual(
            self.client.get(
                reverse("batches:why", args=[batch.pk, "serving", "protein_g"])
            ).status_code,
            404,
        )
        self.assertContains(self.client.get(reverse("batches:list")), "per 100 g")
        compared = self.client.get(reverse("compare:plates"), {"a": f"batch-{batch.pk}"})
        self.assertContains(compared, "Pot, 100 g")
        for bad in ("", "0", "many", "1e9"):
            answer = self.client.post(
                reverse("batches:servings", args=[batch.pk]), {"servings": bad}, **HTMX
            )
            self.assertEqual(answer.status_code, 422, bad)
        self.client.post(reverse("batches:servings", args=[batch.pk]), {"servings": "4"}, **HTMX)
        self.assertNotContains(
            self.client.get(reverse("batches:detail", args=[batch.pk])), "How many does it serve?"
        )

    def test_a_line_not_read_leaves_every_figure_open_and_offers_foods(self) -> None:
        batch = self.paste("# Pot\nServes 2\n200 g firm tofu\n2 tbsp sweetened tahini with fudge")
        page = self.client.get(reverse("batches:detail", args=[batch.pk])).content.decode()
        self.assertIn("Allergens, not complete", page)
        self.assertIn("1 line was not understood", page)
        self.assertIn("≥ ", page)
        line = batch.lines.get(text__startswith="2 tbsp")
        self.assertTrue(line.choices)
        label = self.client.get(reverse("batches:label", args=[batch.pk])).content.decode()
        self.assertIn("not complete", label)
        number = next(i for i, c in enumerate(line.choices) if c["food"] == "tahini")
        self.client.post(reverse("batches:choice", args=[batch.pk, line.pk, number]), **HTMX)
        line.refresh_from_db()
        self.assertEqual((line.food_key, line.reason), ("tahini", ""))
        self.assertAlmostEqual(line.grams, 30, delta=3)
        self.assertNotContains(
            self.client.get(reverse("batches:detail", args=[batch.pk])), "not complete"
        )
        self.assertEqual(
            self.client.post(
                reverse("batches:choice", args=[batch.pk, line.pk, 9]), **HTMX
            ).status_code,
            404,
        )

    def test_odd_bytes_do_not_break(self) -> None:
        for text in (
            "🙂🙂",
            "<script>alert(1)</script>",
            "1 cup \u202equinoa",
            "½½½ cup",
            "((((",
            "1/0 cup rice",
            "- - -",
        ):
            batch = self.paste(f"# T\n{text}\n1 cup cooked quinoa")
            page = self.client.get(reverse("batches:detail", args=[batch.pk]))
            self.assertEqual(page.status_code, 200, text)
            self.assertNotIn("<script>alert", page.content.decode())

    def line_of(self, words: str) -> BatchLine:
        """A line of Petra's Lamplighter beans."""
        return BatchLine.objects.get(
            batch__practitioner=self.petra, batch__title="Lamplighter beans", text__contains=words
        )

    def test_correcting_a_line(self) -> None:
        line = self.line_of("salt")
        address = reverse("batches:line", args=[line.batch_id, line.pk])
        self.client.post(address, {"text": "1/4 tsp salt"}, **HTMX)
        line.refresh_from_db()
        self.assertAlmostEqual(line.grams, 1.5)
        self.client.post(
            address, {"text": "1/4 tsp salt", "food": "Soy sauce (shoyu)", "grams": "9"}, **HTMX
        )
        line.refresh_from_db()
        self.assertEqual((line.food_key, line.grams, line.text), ("soy-sauce", 9, "1/4 tsp salt"))

    def test_a_wrong_correction_is_refused_with_what_was_typed(self) -> None:
        line = self.line_of("salt")
        for typed, word in (
            ({"food": "unobtainium"}, "no food"),
            ({"food": "salt", "grams": "-4"}, "must be above zero"),
            ({"food": "salt", "grams": "30000"}, "More than 20 kg"),
            ({"food": "salt", "grams": "lots"}, "Enter a number"),
        ):
            answer = self.client.post(
                reverse("batches:line", args=[line.batch_id, line.pk]),
                {"text": line.text, **typed},
                **HTMX,
            )
            self.assertEqual(answer.status_code, 422, typed)
            self.assertIn(word, answer.content.decode())
            self.assertIn(f'value="{typed.get("grams", typed["food"])}"', answer.content.decode())
        line.refresh_from_db()
        self.assertEqual(line.food_key, "salt-table")

    def test_a_line_with_two_meanings_counts_once_one_of_them_is_taken(self) -> None:
        """Table: lentils 115 kcal per 100 g; paste or purée is asked."""
        text = "Quay stew\n200 g cooked lentils\n2 heaped tbsp tomato purée\n\nMethod:\nSimmer."
        self.client.post(reverse("batches:new"), {"text": text, "once": "two-meanings"})
        batch = Batch.objects.get(title="Quay stew")
        page = self.client.get(reverse("batches:detail", args=[batch.pk]))
        self.assertContains(page, "It counts once you say")
        energy = batch_value(batch).total["energy_kcal"]
        self.assertAlmostEqual(energy.amount, 230.0)
        self.assertFalse(energy.complete)
        line = batch.lines.get(text__contains="pur")
        where = reverse("batches:confirm-line", args=[batch.pk, line.pk])
        answer = self.client.post(where, **HTMX)
        self.assertNotContains(answer, "It counts once you say")
        counted = batch_value(Batch.objects.get(pk=batch.pk)).total["energy_kcal"]
        self.assertTrue(counted.complete)
        self.assertGreater(counted.amount, 250.0)
        self.client.force_login(get_user_model().objects.get(username="joon"))
        self.assertEqual(self.client.post(where).status_code, 404)

    def test_taking_the_other_meaning(self) -> None:
        line = self.line_of("tomato pur")
        self.client.post(reverse("batches:alternative", args=[line.batch_id, line.pk, 0]), **HTMX)
        line.refresh_from_db()
        self.assertEqual(line.food_key, "tomato-puree")
        self.assertEqual(line.alternatives[-1]["food"], "tomato-paste")
        self.assertEqual(
            self.client.post(
                reverse("batches:alternative", args=[line.batch_id, line.pk, 9])
            ).status_code,
            404,
        )

    def test_yields_that_cannot_be(self) -> None:
        batch = self.line_of("salt").batch
        for typed in (
            {"yield_g": "0", "servings": "7"},
            {"yield_g": "-1", "servings": "7"},
            {"yield_g": "1740", "servings": "0"},
            {"yield_g": "1740", "servings": "many"},
            {"yield_g": "nan", "servings": "7"},
        ):
            answer = self.client.post(reverse("batches:yield", args=[batch.pk]), typed, **HTMX)
            self.assertEqual(answer.status_code, 422, typed)
            self.assertIn(f'value="{typed["yield_g"]}"', answer.content.decode())
            self.assertIn(f'value="{typed["servings"]}"', answer.content.decode())
        batch.refresh_from_db()
        self.assertEqual((batch.yield_g, batch.servings), (1740, 7))
        self.client.post(
            reverse("batches:yield", args=[batch.pk]), {"yield_g": "1700", "servings": "6"}, **HTMX
        )
        batch.refresh_from_db()
        self.assertEqual((batch.yield_g, batch.servings), (1700, 6))

    def test_lines_come_and_go(self) -> None:
        batch = self.line_of("salt").batch
        count = batch.lines.count()
        self.client.post(
            reverse("batches:add-line", args=[batch.pk]), {"text": "1 tbsp miso"}, **HTMX
        )
        self.assertEqual(batch.lines.last().food_key, "miso-white")
        self.client.post(
            reverse("batches:remove-line", args=[batch.pk, batch.lines.last().pk]), **HTMX
        )
        self.assertEqual(batch.lines.count(), count)
        self.assertEqual(
            self.client.post(
                reverse("batches:add-line", args=[batch.pk]), {"text": ""}, **HTMX
            ).status_code,
            422,
        )

    def test_a_batch_in_a_bowl_stays(self) -> None:
        batch = self.line_of("salt").batch
        answer = self.client.post(reverse("batches:remove", args=[batch.pk]))
        self.assertEqual(answer.status_code, 422)
        self.assertIn("bowl uses this batch", answer.content.decode())

    def test_the_page_says_what_the_verb_says(self) -> None:
        from headless.__main__ import evaluation
        from roundpantry.batches.records import batch_value
        from roundpantry.batches.services import read_pasted

        batch = Batch.objects.get(practitioner=self.petra, title__startswith="Ropewalk")
        answer = evaluation(read_pasted(self.petra, batch.written), None, None)
        value = batch_value(batch)
        for key, figure in answer["per_serving"].items():
            self.assertEqual(
                figure,
                round(value.per_serving[key].amount, len(str(figure).partition(".")[2])),
                key,
            )

    def test_every_figure_can_be_asked(self) -> None:
        batch = self.line_of("salt").batch
        from dietetics.nutrients import NUTRIENTS

        for one in NUTRIENTS:
            for scope in ("serving", "batch"):
                answer = self.client.get(
                    reverse("batches:why", args=[batch.pk, scope, one.key]), **HTMX
                )
                self.assertContains(answer, "Why?")
        self.assertEqual(
            self.client.get(
                reverse("batches:why", args=[batch.pk, "serving", "magic"])
            ).status_code,
            404,
        )
