"""The whole program through its pages: permissions, bad input, the six steps without a browser."""

from __future__ import annotations

from django.contrib.auth import get_user_model
from django.test import Client as Browser
from django.test import TestCase
from django.urls import reverse

from roundpantry.batches.models import Batch, BatchLine
from roundpantry.bowls.models import Bowl, BowlPart
from roundpantry.clients.models import Client
from roundpantry.demo.tests.addresses import OF_NOBODY, OPEN_TO_ALL, address, all_urls
from roundpantry.demo.tests.practice import load_practice
from roundpantry.targets.models import TargetSet

HTMX = {"headers": {"HX-Request": "true"}}


class WithDemo(TestCase):
    """A database with the invented practice; logged in as Petra."""

    @classmethod
    def setUpTestData(cls) -> None:
        load_practice()
        users = get_user_model().objects
        cls.petra, cls.joon = users.get(username="petra"), users.get(username="joon")

    def setUp(self) -> None:
        self.client.force_login(self.petra)
        self.bowl = Bowl.objects.get(name="Tideline bowl")
        self.url = reverse("bowls:bench", args=[self.bowl.pk])

    def part(self, key: str) -> BowlPart:
        """A part of the Tideline bowl."""
        return self.bowl.parts.get(food_key=key)


class Permissions(WithDemo):
    """Login everywhere; a practitioner sees only their own."""

    def test_every_address_asks_for_a_login(self) -> None:
        stranger = Browser()
        checked = 0
        for name, pattern in all_urls():
            if name in OPEN_TO_ALL:
                continue
            for method in ("get", "post"):
                answer = getattr(stranger, method)(address(name, pattern, self.petra))
                self.assertEqual(answer.status_code, 302, f"{method} {name}")
                self.assertIn("/login/", answer["Location"], name)
            checked += 1
        self.assertGreater(checked, 25)

    def test_another_practitioners_things_are_not_found(self) -> None:
        before = (Bowl.objects.count(), BowlPart.objects.count(), BatchLine.objects.count(), TargetSet.objects.count())
        checked = 0
        for name, pattern in all_urls():
            if name in OPEN_TO_ALL | OF_NOBODY:
                continue
            where = address(name, pattern, self.joon)
            answers = [
                self.client.get(where).status_code,
                self.client.post(where, {"steps": 1}, **HTMX).status_code,
            ]
            self.assertIn(404, answers, name)
            self.assertLessEqual(set(answers), {404, 405}, name)
            checked += 1
        self.assertGreater(checked, 20)
        after = (Bowl.objects.count(), BowlPart.objects.count(), BatchLine.objects.count(), TargetSet.objects.count())
        self.assertEqual(before, after)

    def test_another_practitioners_batch_cannot_be_put_into_my_bowl(self) -> None:
        other = Batch.objects.filter(practitioner=self.joon).first()
        answer = self.client.post(reverse("bowls:add", args=[self.bowl.pk]), {"batch": other.pk}, **HTMX)
        self.assertEqual(answer.status_code, 404)

    def test_another_clients_meal_is_refused_for_a_new_bowl(self) -> None:
        mine = Client.objects.filter(practitioner=self.petra).first()
        theirs = TargetSet.objects.get(client__practitioner=self.joon).meals.first()
        answer = self.client.post(reverse("bowls:list", args=[mine.pk]), {"name": "x", "meal": theirs.pk})
        self.assertEqual(answer.status_code, 422)

    def test_forms_need_their_token(self) -> None:
        strict = Browser(enforce_csrf_checks=True)
        strict.force_login(self.petra)
        self.assertEqual(strict.post(reverse("bowls:undo", args=[self.bowl.pk])).status_code, 403)

    def test_headers(self) -> None:
        answer = self.client.get(self.url)
        policy = answer["Content-Security-Policy"]
        self.assertNotIn("unsafe", policy)
        self.assertIn("frame-ancestors 'none'", policy)
        self.assertIn("HX-Request", answer["Vary"])
        self.assertNotIn(b"style=", answer.content)
        self.assertNotIn(b"<script>", answer.content)


class Clients(WithDemo):
    """Adding a client and targets."""

    FACTS = {
        "name": "Nils Achterberg",
        "sex": "male",
        "age_years": "50",
        "height_cm": "180",
        "weight_kg": "80",
        "cautions": "Nut allergy",
    }

    def test_add_then_targets(self) -> None:
        answer = self.client.post(reverse("clients:new"), self.FACTS)
        made = Client.objects.get(name="Nils Achterberg")
        self.assertRedirects(answer, reverse("targets:edit", args=[made.pk]))
        typed = {
            "energy_kcal-low": "2000",
            "energy_kcal-high": "2300",
            "protein_g-low": "80",
            "protein_g-importance": "must",
            "reason": "Agreed",
            "meal0-name": "Breakfast",
            "meal0-share": "40",
            "meal1-name": "Dinner",
            "meal1-share": "60",
        }
        self.client.post(reverse("targets:edit", args=[made.pk]), typed)
        self.assertEqual(made.target_sets.get().windows.exclude(importance="watch").count(), 2)
        page = self.client.get(reverse("clients:detail", args=[made.pk])).content.decode()
        self.assertIn("800–920 kcal", page)  # 40 % of 2000–2300
        self.assertIn("Nut allergy", page)

    def test_impossible_people_are_refused_and_kept(self) -> None:
        for field, value in (
            ("height_cm", "17"),
            ("weight_kg", "7000"),
            ("age_years", "-3"),
            ("age_years", "200"),
            ("sex", "x"),
            ("name", ""),
        ):
            answer = self.client.post(reverse("clients:new"), {**self.FACTS, field: value})
            self.assertEqual(answer.status_code, 422, field)
            self.assertIn("Nut allergy", answer.content.decode())
        self.assertFalse(Client.objects.filter(name="Nils Achterberg").exists())

    def test_windows_that_make_no_sense_are_refused_at_the_field(self) -> None:
        client = Client.objects.get(name="Maren Okafor")
        meals = {"meal0-name": "All", "meal0-share": "100"}
        for typed, word in (
            ({"protein_g-low": "90", "protein_g-high": "60"}, "low is above high"),
            ({"protein_g-low": "-5"}, "greater than or equal"),
            ({"protein_g-low": "much"}, "Enter a number"),
            ({}, "at least one window"),
            ({"protein_g-low": "60", "meal0-share": "90"}, "add up to 90 %"),
            ({"protein_g-low": "1e999"}, ""),
        ):
            answer = self.client.post(reverse("targets:edit", args=[client.pk]), {**meals, **typed})
            self.assertEqual(answer.status_code, 422, typed)
            self.assertIn(word, answer.content.decode())
        self.assertEqual(client.target_sets.count(), 1)

    def test_a_change_makes_a_version_and_old_bowls_keep_theirs(self) -> None:
        client = self.bowl.client
        old = self.bowl.meal.target_set
        self.client.post(
            reverse("targets:edit", args=[client.pk]),
            {"energy_kcal-high": "1000", "meal0-name": "All", "meal0-share": "100", "reason": "Trial"},
        )
        self.assertEqual(client.target_sets.count(), 2)
        self.bowl.refresh_from_db()
        self.assertEqual(self.bowl.meal.target_set, old)
        self.assertIn("810–900 kcal", self.client.get(self.url).content.decode())


class Batches(WithDemo):
    """Paste, correct, weigh."""

    def paste(self, text: str, title: str = "") -> Batch | None:
        """Paste a recipe and return what was stored, if anything."""
        before = set(Batch.objects.values_list("pk", flat=True))
        self.answer = self.client.post(reverse("batches:new"), {"text": text, "title": title})
        return Batch.objects.exclude(pk__in=before).first()

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
        self.assertIn("1 line not read", page)

    def test_nothing_and_too_much_are_refused_with_what_was_typed(self) -> None:
        for text in ("", "   \n ", "x" * 200_000, "1 cup rice\n" * 500):
            self.assertIsNone(self.paste(text, "My title"))
            self.assertEqual(self.answer.status_code, 422)
            self.assertIn("My title", self.answer.content.decode())
        self.assertEqual(self.answer.content.decode().count("1 cup rice"), 500)
        self.assertIn("500 lines; 400 is the most", self.answer.content.decode())

    def test_a_surprising_yield_in_the_text_is_taken_and_said(self) -> None:
        batch = self.paste("# Pot\nyield: 4 kg\n1 cup cooked quinoa")
        self.assertEqual(batch.yield_g, 4000)
        page = self.client.get(reverse("batches:detail", args=[batch.pk])).content.decode()
        self.assertIn("more came out than went in", page)

    def test_servings_that_nobody_wrote_are_asked_for(self) -> None:
        batch = self.paste("# Pot\n1 cup cooked quinoa\n200 g firm tofu")
        self.assertIsNone(batch.servings)
        page = self.client.get(reverse("batches:detail", args=[batch.pk]))
        self.assertContains(page, "How many does it serve?")
        for url in ("portions", "fit", "label"):
            self.assertEqual(self.client.get(reverse(f"batches:{url}", args=[batch.pk])).status_code, 200, url)
        for kind in ("pdf", "txt", "csv", "jsonld"):
            self.assertEqual(self.client.get(reverse("batches:export", args=[batch.pk, kind])).status_code, 200, kind)
        self.assertEqual(self.client.get(reverse("batches:why", args=[batch.pk, "100g", "protein_g"])).status_code, 200)
        self.assertEqual(
            self.client.get(reverse("batches:why", args=[batch.pk, "serving", "protein_g"])).status_code, 404
        )
        self.assertContains(self.client.get(reverse("batches:list")), "per 100 g")
        compared = self.client.get(reverse("compare:plates"), {"a": f"batch-{batch.pk}"})
        self.assertContains(compared, "Pot, 100 g")
        for bad in ("", "0", "many", "1e9"):
            answer = self.client.post(reverse("batches:servings", args=[batch.pk]), {"servings": bad}, **HTMX)
            self.assertEqual(answer.status_code, 422, bad)
        self.client.post(reverse("batches:servings", args=[batch.pk]), {"servings": "4"}, **HTMX)
        self.assertNotContains(self.client.get(reverse("batches:detail", args=[batch.pk])), "How many does it serve?")

    def test_a_line_not_read_leaves_every_figure_open_and_offers_foods(self) -> None:
        batch = self.paste("# Pot\nServes 2\n200 g firm tofu\n2 tbsp sweetened tahini with fudge")
        page = self.client.get(reverse("batches:detail", args=[batch.pk])).content.decode()
        self.assertIn("Allergens, not complete", page)
        self.assertIn("1 line was not read", page)
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
        self.assertNotContains(self.client.get(reverse("batches:detail", args=[batch.pk])), "not complete")
        self.assertEqual(
            self.client.post(reverse("batches:choice", args=[batch.pk, line.pk, 9]), **HTMX).status_code, 404
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
        self.client.post(address, {"text": "1/4 tsp salt", "food": "Soy sauce (shoyu)", "grams": "9"}, **HTMX)
        line.refresh_from_db()
        self.assertEqual((line.food_key, line.grams, line.text), ("soy-sauce", 9, "1/4 tsp salt"))

    def test_a_wrong_correction_is_refused_with_what_was_typed(self) -> None:
        line = self.line_of("salt")
        for typed, word in (
            ({"food": "unobtainium"}, "no food"),
            ({"food": "salt", "grams": "-4"}, "more than nothing"),
            ({"food": "salt", "grams": "30000"}, "Over 20 kg"),
            ({"food": "salt", "grams": "lots"}, "Enter a number"),
        ):
            answer = self.client.post(
                reverse("batches:line", args=[line.batch_id, line.pk]), {"text": line.text, **typed}, **HTMX
            )
            self.assertEqual(answer.status_code, 422, typed)
            self.assertIn(word, answer.content.decode())
            self.assertIn(f'value="{typed.get("grams", typed["food"])}"', answer.content.decode())
        line.refresh_from_db()
        self.assertEqual(line.food_key, "salt-table")

    def test_taking_the_other_meaning(self) -> None:
        line = self.line_of("tomato pur")
        self.client.post(reverse("batches:alternative", args=[line.batch_id, line.pk, 0]), **HTMX)
        line.refresh_from_db()
        self.assertEqual(line.food_key, "tomato-puree")
        self.assertEqual(line.alternatives[-1]["food"], "tomato-paste")
        self.assertEqual(
            self.client.post(reverse("batches:alternative", args=[line.batch_id, line.pk, 9])).status_code, 404
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
        self.client.post(reverse("batches:yield", args=[batch.pk]), {"yield_g": "1700", "servings": "6"}, **HTMX)
        batch.refresh_from_db()
        self.assertEqual((batch.yield_g, batch.servings), (1700, 6))

    def test_lines_come_and_go(self) -> None:
        batch = self.line_of("salt").batch
        count = batch.lines.count()
        self.client.post(reverse("batches:add-line", args=[batch.pk]), {"text": "1 tbsp miso"}, **HTMX)
        self.assertEqual(batch.lines.last().food_key, "miso-white")
        self.client.post(reverse("batches:remove-line", args=[batch.pk, batch.lines.last().pk]), **HTMX)
        self.assertEqual(batch.lines.count(), count)
        self.assertEqual(
            self.client.post(reverse("batches:add-line", args=[batch.pk]), {"text": ""}, **HTMX).status_code, 422
        )

    def test_a_batch_in_a_bowl_stays(self) -> None:
        batch = self.line_of("salt").batch
        answer = self.client.post(reverse("batches:remove", args=[batch.pk]))
        self.assertEqual(answer.status_code, 422)
        self.assertIn("bowl holds a serving", answer.content.decode())

    def test_the_page_says_what_the_verb_says(self) -> None:
        from headless.__main__ import evaluation
        from roundpantry.batches.records import batch_value
        from roundpantry.batches.services import read_pasted

        batch = self.line_of("salt").batch
        answer = evaluation(read_pasted(self.petra, batch.written), None, None)
        value = batch_value(batch)
        for key, figure in answer["per_serving"].items():
            self.assertEqual(figure, round(value.per_serving[key].amount, len(str(figure).partition(".")[2])), key)

    def test_every_figure_can_be_asked(self) -> None:
        batch = self.line_of("salt").batch
        from dietetics.nutrients import NUTRIENTS

        for one in NUTRIENTS:
            for scope in ("serving", "batch"):
                answer = self.client.get(reverse("batches:why", args=[batch.pk, scope, one.key]), **HTMX)
                self.assertContains(answer, "Why?")
        self.assertEqual(self.client.get(reverse("batches:why", args=[batch.pk, "serving", "magic"])).status_code, 404)


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
        self.assertEqual(self.client.post(reverse("bowls:undo", args=[self.bowl.pk]), **HTMX).status_code, 200)

    def test_amounts_that_cannot_be_read_keep_what_was_typed(self) -> None:
        quinoa = self.part("quinoa-cooked")
        for typed in ("plenty", "-2 cups", "0 g", "30 kg", "3 sheets", "", "1 cup of joy"):
            answer = self.client.post(f"{self.url}parts/{quinoa.pk}/portion/", {"amount": typed}, **HTMX)
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
                self.client.get(f"{self.url}parts/{self.part('tahini').pk}/why/{one.key}/", **HTMX), "Why?"
            )
        self.assertContains(self.client.get(f"{self.url}why/protein_g/"), "<html")

    def test_nothing_called_so(self) -> None:
        answer = self.client.post(reverse("bowls:add", args=[self.bowl.pk]), {"q": "unobtainium"}, **HTMX)
        self.assertEqual(answer.status_code, 422)
        self.assertIn("unobtainium", answer.content.decode())

    def test_forty_parts_are_the_most(self) -> None:
        for _ in range(45):
            last = self.client.post(reverse("bowls:add", args=[self.bowl.pk]), {"food": "kale-raw"}, **HTMX)
        self.assertEqual(last.status_code, 422)
        self.assertEqual(self.bowl.parts.count(), 40)

    def test_queries_do_not_grow_with_parts(self) -> None:
        self.client.get(self.url)
        with self.assertNumQueries(4):
            self.client.get(self.url, **HTMX)
        for _ in range(10):
            self.client.post(reverse("bowls:add", args=[self.bowl.pk]), {"food": "kale-raw"}, **HTMX)
        with self.assertNumQueries(4):
            self.client.get(self.url, **HTMX)

    def test_print(self) -> None:
        page = self.client.get(reverse("bowls:print", args=[self.bowl.pk])).content.decode()
        for words in ("for Maren Okafor", "Peanut allergy", "1½ cups", "does not treat disease", "USDA"):
            self.assertIn(words, page)

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
        self.assertAlmostEqual(area / (math.pi * CAPACITY_RADIUS**2), value.volume_ml / BOWL_ML, delta=0.002)
        self.assertEqual(len(dish.slices), len(value.portions))

    def test_a_sauce_alone_in_the_well_is_drawn(self) -> None:
        import re

        from roundpantry.bowls.drawing import sector_path

        for inner, outer in ((0.0, 12.0), (12.0, 150.0), (0.0, 201.0)):
            path = sector_path(inner, outer, 0.0, 360.0)
            places = re.findall(r"[MA](?:[\d.]+ [\d.]+ 0 [01] [01] )?([\d.]+ [\d.]+)", path)
            self.assertTrue(
                all(a != b for a, b in zip(places, places[1:], strict=False)), "an arc to itself is nothing"
            )
            self.assertEqual(path.count("M"), 2 if inner else 1)


class Shelf(WithDemo):
    """Search and food pages."""

    def test_every_food_has_a_page(self) -> None:
        from dietetics.composition.foods import load_shelf

        for food in list(load_shelf())[::7]:
            self.assertContains(
                self.client.get(reverse("shelf:food", args=[food.key])), food.source_row.split('"')[0][:12]
            )
        self.assertEqual(self.client.get(reverse("shelf:food", args=["no-such-food"])).status_code, 404)

    def test_search(self) -> None:
        page = self.client.get(reverse("shelf:list"), {"q": "chikpea"}, **HTMX).content.decode()
        self.assertIn("Chickpeas", page)
        self.assertNotIn("<html", page)
        self.assertContains(self.client.get(reverse("shelf:list"), {"q": "<b>zzz"}), "&lt;b&gt;zzz")


class NoPageBreaks(WithDemo):
    """Every page answers for every client, bowl and batch of the demo."""

    def test_all_pages(self) -> None:
        addresses = ["/", "/clients/", "/clients/new/", "/batches/", "/batches/new/", "/shelf/"]
        for client in Client.objects.filter(practitioner=self.petra):
            addresses += [
                reverse(n, args=[client.pk]) for n in ("clients:detail", "clients:change", "targets:edit", "bowls:list")
            ]
        for bowl in Bowl.objects.filter(client__practitioner=self.petra):
            addresses += [reverse(f"bowls:{n}", args=[bowl.pk]) for n in ("bench", "print", "search", "figures")]
        for batch in Batch.objects.filter(practitioner=self.petra):
            addresses.append(reverse("batches:detail", args=[batch.pk]))
        for one in addresses:
            self.assertIn(self.client.get(one).status_code, (200, 302), one)

    def test_values_in_the_drawing_are_numbers(self) -> None:
        page = self.client.get(self.url).content.decode()
        self.assertNotIn("NaN", page)
        self.assertNotIn("None", page)
