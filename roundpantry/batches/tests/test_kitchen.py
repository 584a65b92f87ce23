"""Portions, fitting, labels and the log of a batch."""

from __future__ import annotations

import json
from pathlib import Path

from django.core.files.uploadedfile import SimpleUploadedFile
from django.urls import reverse

from dietetics.nutrients import NUTRIENTS
from headless.tests.test_verbs import verb
from roundpantry.batches.models import Batch
from roundpantry.batches.records import batch_value, expected_of, learnt_yield
from roundpantry.batches.services import vary
from roundpantry.clients.models import Client
from roundpantry.demo.tests.support import HTMX, WithDemo

INPUTS = Path(__file__).resolve().parents[3] / "dietetics" / "tests" / "inputs"


class AvailableDishes(WithDemo):
    """A batch of Petra's."""

    def setUp(self) -> None:
        super().setUp()
        self.batch = Batch.objects.get(practitioner=self.petra, title="Ropewalk lentil soup")

    def at(self, name: str, *args: object) -> str:
        """An address of this batch."""
        return reverse(f"batches:{name}", args=[self.batch.pk, *args])

    def now(self) -> Batch:
        """The batch as stored."""
        return Batch.objects.prefetch_related("lines", "cookings", "shares").get(pk=self.batch.pk)

    def test_a_yield_by_pot_and_lid(self) -> None:
        self.client.post(
            self.at("yield"),
            {"yield_g": "3.1 kg less 900 g", "servings": "6", "method": "pot"},
            **HTMX,
        )
        self.assertEqual(self.now().yield_g, 2200.0)
        self.assertContains(self.client.get(self.at("detail")), "2,200 g measured")
        bad = self.client.post(self.at("yield"), {"yield_g": "a lot", "servings": "6"}, **HTMX)
        self.assertContains(bad, "a lot", status_code=422)
        for impossible in ("0", "-5", "4000 kg"):
            answer = self.client.post(
                self.at("yield"), {"yield_g": impossible, "servings": "6"}, **HTMX
            )
            self.assertEqual(answer.status_code, 422, impossible)
        self.assertEqual(self.now().yield_g, 2200.0)
        self.client.post(self.at("yield"), {"yield_g": "40 kg", "servings": "6"}, **HTMX)
        self.assertContains(self.client.get(self.at("detail")), "Heavier than usual")

    def test_water_changes_weight_and_density_and_nothing_else(self) -> None:
        before = batch_value(self.now())
        self.client.post(self.at("water"), {"grams": "500"}, **HTMX)
        after = batch_value(self.now())
        self.assertAlmostEqual(after.weight_g, before.weight_g + 500)
        for one in NUTRIENTS:
            a, b = before.total[one.key].amount, after.total[one.key].amount
            if one.kind != "ratio" and a is not None:
                self.assertAlmostEqual(a, b, delta=1e-9 * abs(a) + 1e-9, msg=one.key)
        self.assertLess(after.total["kcal_per_g"].amount, before.total["kcal_per_g"].amount)
        for bad in ("-99999", "nan", "x", "inf"):
            self.assertEqual(
                self.client.post(self.at("water"), {"grams": bad}, **HTMX).status_code, 422, bad
            )

    def test_retention_is_off_until_asked_and_named(self) -> None:
        before = batch_value(self.now()).total
        self.client.post(
            self.at("yield"),
            {"yield_g": "2350", "servings": "6", "method": "pot", "retention": "on"},
            **HTMX,
        )
        after = batch_value(self.now()).total
        self.assertLess(after["vitamin_c_mg"].amount, before["vitamin_c_mg"].amount)
        self.assertEqual(after["energy_kcal"].amount, before["energy_kcal"].amount)
        self.assertContains(
            self.client.get(self.at("detail")), "USDA retention factors (2007), from memory"
        )

    def test_the_expected_yield_learns_from_the_last_five(self) -> None:
        low, mean, high = learnt_yield(self.now())
        self.assertLess(low, mean)
        self.assertLess(mean, high)
        expected = expected_of(self.now())
        self.assertAlmostEqual(
            expected.likely_g, mean * sum(i.grams for i in batch_value(self.now()).items), places=3
        )
        self.client.post(
            self.at("log"),
            {"day": "2026-11-20", "measured": "1.5 kg", "taste": "3", "notes": "thick"},
            **HTMX,
        )
        self.assertLess(learnt_yield(self.now())[0], low)
        for bad in (
            {"day": "soon", "measured": "1 kg"},
            {"day": "2026-11-20", "measured": "much"},
            {"day": "2026-11-20", "measured": "1 kg", "taste": "9"},
        ):
            answer = self.client.post(self.at("log"), {**bad, "notes": "as I typed it"}, **HTMX)
            self.assertContains(answer, "as I typed it", status_code=422)

    def test_who_gets_what_and_what_is_left(self) -> None:
        self.client.post(self.at("share"), {"who": "Guest", "amount": "2 ladles", "times": "1"})
        share = self.now().shares.get(who="Guest")
        self.assertEqual((share.grams, share.amount_text), (236.0, "2 × ladle"))
        given = sum(s.grams * s.times for s in self.now().shares.all())
        self.assertContains(
            self.client.get(self.at("portions")),
            f"{batch_value(self.now()).weight_g - given:,.0f} g left over",
        )
        self.client.post(self.at("share"), {"who": "Crew", "amount": "9 servings", "times": "1"})
        self.assertContains(self.client.get(self.at("portions")), "g short")
        self.assertContains(
            self.client.post(self.at("share"), {"who": "X", "amount": "plenty", "times": "1"}),
            "plenty",
            status_code=422,
        )
        self.client.post(self.at("share"), {"remove": str(share.pk)})
        self.assertFalse(self.now().shares.filter(pk=share.pk).exists())

    def test_one_line_is_cooked_in_its_own_way(self) -> None:
        line = self.now().lines.get(text__contains="carrots")
        page = self.client.get(self.at("detail"), {"edit": line.pk})
        self.assertContains(page, "Cooking method for this line")
        self.client.post(self.at("method", line.pk), {"method": "roasted"}, **HTMX)
        self.now().cookings.all().delete()
        roasted = next(one for one in expected_of(self.now()).lines if "Carrot" in one.label)
        self.assertAlmostEqual(
            roasted.likely_g, 0.70 * roasted.before_g, msg="carrots roasted: table of yields"
        )
        self.assertEqual(
            self.client.post(self.at("method", line.pk), {"method": "fried"}, **HTMX).status_code,
            422,
        )

    def test_a_text_and_a_file_together_are_asked_about(self) -> None:
        upload = SimpleUploadedFile("x.txt", b"1 cup cooked quinoa")
        answer = self.client.post(reverse("batches:new"), {"text": "2 cups kale", "file": upload})
        self.assertContains(answer, "2 cups kale", status_code=422)

    def test_labels_say_when_and_what(self) -> None:
        page = self.client.get(self.at("label"))
        self.assertContains(page, "use by")
        self.assertContains(page, "celery")
        self.assertEqual(
            page.content.decode().count('class="label"'),
            sum(s.times for s in self.now().shares.all()),
        )

    def test_files_out_and_in_again(self) -> None:
        for kind in ("txt", "csv", "jsonld"):
            answer = self.client.get(self.at("export", kind))
            self.assertIn("ropewalk-lentil-soup", answer["Content-Disposition"])
            upload = SimpleUploadedFile(f"soup.{kind}", answer.content)
            page = self.client.post(
                reverse("batches:new"), {"title": "", "text": "", "file": upload}
            )
            text = page.context["form"].initial["text"]
            self.client.post(reverse("batches:new"), {"title": "", "text": text})
            made = Batch.objects.latest("pk")
            a, b = batch_value(self.now()), batch_value(made)
            for key in ("energy_kcal", "protein_g", "sodium_mg"):
                self.assertAlmostEqual(
                    a.per_serving[key].amount,
                    b.per_serving[key].amount,
                    delta=0.05,
                    msg=(kind, key),
                )
        card = self.client.get(self.at("export", "pdf"))
        self.assertTrue(card.content.startswith(b"%PDF"))
        self.assertEqual(self.client.get(self.at("export", "exe")).status_code, 404)

    def test_bad_files_are_refused_in_words(self) -> None:
        for content, words in (
            (b"<html>nothing</html>", "No recipe could be read"),
            (b"\xff\xfe\x01", "UTF-8"),
            (b"{", "No recipe could be read"),
        ):
            upload = SimpleUploadedFile("x.html", content)
            answer = self.client.post(reverse("batches:new"), {"text": "", "file": upload})
            self.assertContains(answer, words, status_code=422)
        three = [
            {"@type": "Recipe", "name": n, "recipeIngredient": ["1 cup cooked quinoa"]}
            for n in ("One", "Two", "Three")
        ]
        answer = self.client.post(
            reverse("batches:new"),
            {"text": "", "file": SimpleUploadedFile("x.json", json.dumps(three).encode())},
        )
        self.assertContains(answer, "contains 3 recipes")

    def test_a_variant_outlives_its_parent(self) -> None:
        child = vary(vary(self.now(), "child"), "grandchild")
        child.parent.delete()
        page = self.client.get(reverse("batches:detail", args=[child.pk]))
        self.assertEqual(page.status_code, 200)
        self.assertEqual(self.client.get(reverse("batches:fit", args=[child.pk])).status_code, 200)


class FittedToTheKidneyClient(WithDemo):
    """Shown on screen: sodium at least halved, potassium cut, differences listed, caution shown."""

    def test_page(self) -> None:
        keeper = Client.objects.get(name="Tobias Lindqvist")
        self.client.get(reverse("clients:detail", args=[keeper.pk]))
        fitted = Batch.objects.get(title="Lamplighter beans, for Tobias Lindqvist")
        before, after = batch_value(fitted.parent).per_serving, batch_value(fitted).per_serving
        self.assertLessEqual(after["sodium_mg"].amount, before["sodium_mg"].amount / 2)
        self.assertLess(after["potassium_mg"].amount, 0.8 * before["potassium_mg"].amount)
        page = self.client.get(reverse("batches:fit", args=[fitted.pk]))
        self.assertContains(page, "of the daily limit of 2,500 mg")
        for words in (
            "Salt, table left out",
            "lemon at the end instead of salt (sodium)",
            "White rice",
            "Kidney disease, stage G3",
        ):
            self.assertContains(page, words)

    def test_taking_a_substitution_leaves_the_original(self) -> None:
        original = Batch.objects.get(practitioner=self.petra, title="Lamplighter beans")
        lines = list(original.lines.values_list("text", flat=True))
        salt = original.lines.get(text__contains="tsp salt")
        answer = self.client.post(
            reverse("batches:substitute", args=[original.pk, salt.pk]),
            {"key": "no-salt"},
            follow=True,
        )
        self.assertContains(answer, "What was changed and why")
        self.assertEqual(list(original.lines.values_list("text", flat=True)), lines)
        made = Batch.objects.latest("pk")
        self.assertEqual(made.parent, original)
        self.assertEqual(
            made.lines.get(food_key="lemon-juice", instead_of=salt.text).instead_of, salt.text
        )
        self.assertEqual(
            self.client.post(
                reverse("batches:substitute", args=[original.pk, salt.pk]), {"key": "magic"}
            ).status_code,
            404,
        )


class VerbAndScreen(WithDemo):
    """`evaluate` and the batch page give the same figures to the last digit shown."""

    def test_on_the_shared_inputs(self) -> None:
        checked = 0
        for path in sorted(INPUTS.glob("*.txt")):
            done = verb("evaluate", str(path))
            answer = json.loads(done.stdout)
            self.client.post(
                reverse("batches:new"), {"title": "", "text": path.read_text(encoding="utf-8")}
            )
            batch = batch_value(Batch.objects.latest("pk"))
            self.assertEqual(round(batch.serving_g, 1), answer["serving_g"], path.name)
            for one in NUTRIENTS:
                mine, theirs = batch.per_serving[one.key].amount, answer["per_serving"][one.key]
                self.assertEqual(mine is None, theirs is None, (path.name, one.key))
                if mine is not None:
                    self.assertAlmostEqual(
                        round(mine, one.decimals + 1), theirs, places=6, msg=(path.name, one.key)
                    )
                    checked += 1
        self.assertGreater(checked, 80)
