"""One label with oil, phosphate and peanuts: the same three verdicts on shelf, bench, balance, dish
and week.
"""

from __future__ import annotations

from unittest import mock

from django.urls import reverse

from dietetics.balance import answer as answers
from roundpantry.batches.models import Batch
from roundpantry.bowls import services
from roundpantry.bowls.balance_question import bowl_question_of
from roundpantry.bowls.balance_services import again, balance_bowl
from roundpantry.bowls.models import Bowl
from roundpantry.bowls.records import bowl_value
from roundpantry.clients.models import Acknowledgement, Client, OwnSchool
from roundpantry.demo.tests.support import HTMX, WithDemo
from roundpantry.shelf.models import Label
from roundpantry.targets.models import TargetSet
from roundpantry.weeks.models import Week

MIX = {
    "name": "Pier mix", "group": "nut", "basis": "100 g", "energy_kcal": "602", "fat_g": "50",
    "carbohydrate_g": "16",
    "protein_g": "25", "salt_g": "0.03",
    "ingredients": ("no salt added peanuts, sunflower oil, stabiliser (sodium phosphate), spices. "
                   "May contain sesame."),
}  # fmt: skip
THREE = ("peanut allergy: Pier mix", "Made with oil", "Contains a phosphate additive: Pier mix")


class OneLabel(WithDemo):
    """Maren is allergic to peanuts; here her school leaves out oil, and her kidneys phosphate."""

    def setUp(self) -> None:
        super().setUp()
        self.client.post(reverse("shelf:label-new"), MIX)
        label = Label.objects.get(versions__name="Pier mix")
        self.key = f"own-{label.pk}-1"
        self.label_page = reverse("shelf:label", args=[label.pk])
        self.maren = self.bowl.client
        self.maren.school, self.maren.conditions, self.maren.allergies = (
            "starch-centred",
            ["ckd-2"],
            ["peanut", "sesame"],
        )
        self.maren.save()
        self.client.get(reverse("clients:detail", args=[self.maren.pk]))

    def put_in(self, **more: str) -> object:
        """Put the mix into the bowl."""
        return self.client.post(
            reverse("bowls:add", args=[self.bowl.pk]), {"food": self.key, **more}, **HTMX
        )

    def test_on_the_shelf(self) -> None:
        page = self.client.get(self.label_page)
        for words in (*THREE, "may contain traces"):
            self.assertContains(page, words)
        self.assertContains(
            self.client.get(reverse("shelf:food", args=["hummus-commercial"])), "Made with oil"
        )

    def test_on_the_bench_in_a_balance_and_as_a_replacement(self) -> None:
        self.assertContains(self.put_in(), "peanut", status_code=422)
        self.assertFalse(self.bowl.parts.filter(food_key=self.key).exists())
        self.assertContains(self.put_in(because="The allergy was ruled out by a test."), THREE[1])
        page = self.client.get(self.url)
        for words in THREE:
            self.assertContains(page, words)
        self.assertEqual(
            set(
                Acknowledgement.objects.filter(scope=f"bowl-{self.bowl.pk}").values_list(
                    "key", flat=True
                )
            ),
            {"allergen-peanut"},
        )
        part = next(p for p in bowl_question_of(again(self.bowl)).parts if p.name == "Pier mix")
        self.assertIn("made with oil", part.kept_out)
        balance_bowl(again(self.bowl), even_impossible=True)
        self.assertFalse(self.bowl.parts.filter(food_key=self.key).exists())

    def test_in_a_dish_that_is_fitted(self) -> None:
        self.client.post(
            reverse("batches:new"),
            {"text": "# Harbour mix\nServes 2\n100 g pier mix\n200 g cooked brown rice"},
        )
        dish = Batch.objects.latest("pk")
        page = self.client.get(reverse("batches:detail", args=[dish.pk]))
        for words in THREE:
            self.assertContains(page, words)

    def test_in_a_week(self) -> None:
        week = Week.objects.filter(client=self.maren).first()
        put = {
            "day": 0,
            "meal": 1,
            "dish": f"food:{self.key}",
            "name": "Pier mix",
            "revision": week.revision,
        }
        address = reverse("weeks:act", args=[week.pk, "put"])
        self.assertContains(self.client.post(address, put, **HTMX), "peanut", status_code=422)
        page = self.client.post(address, {**put, "because": "Ruled out."}, **HTMX)
        for words in THREE:
            self.assertContains(page, words)

    def test_every_allergen_that_was_allowed_is_recorded_in_a_week(self) -> None:
        self.maren.allergies = ["soy", "wheat"]
        self.maren.save()
        week = Week.objects.filter(client=self.maren).first()
        put = {
            "day": 0,
            "meal": 1,
            "dish": "food:soy-sauce",
            "name": "Soy sauce",
            "revision": week.revision,
            "because": "Ruled out.",
        }
        self.client.post(reverse("weeks:act", args=[week.pk, "put"]), put, **HTMX)
        kept = Acknowledgement.objects.filter(
            scope=f"week-{week.pk}", reason="Ruled out."
        ).values_list("key", flat=True)
        self.assertEqual(set(kept), {"allergen-soy", "allergen-wheat"})

    def test_a_newer_label_with_an_allergen_is_asked_about(self) -> None:
        label = Label.objects.get(versions__name="Pier mix")
        edit = reverse("shelf:label-edit", args=[label.pk])
        self.client.post(edit, {**MIX, "ingredients": "sunflower seeds, salt"})
        self.client.post(
            reverse("bowls:add", args=[self.bowl.pk]), {"food": f"own-{label.pk}-2"}, **HTMX
        )
        part = self.bowl.parts.get(food_key=f"own-{label.pk}-2")
        self.client.post(edit, MIX)
        renew = reverse("bowls:renew", args=[self.bowl.pk, part.pk])
        self.assertContains(self.client.post(renew, **HTMX), "peanut", status_code=422)
        part.refresh_from_db()
        self.assertEqual(part.food_key, f"own-{label.pk}-2")
        self.client.post(renew, {"because": "Ruled out."}, **HTMX)
        part.refresh_from_db()
        self.assertEqual(part.food_key, f"own-{label.pk}-3")
        self.assertTrue(
            Acknowledgement.objects.filter(key="allergen-peanut", reason="Ruled out.").exists()
        )

    def test_a_substitution_that_may_not_come_in_is_not_taken(self) -> None:
        """Silken tofu stands in for cashews, and not for somebody allergic to soy."""
        self.client.post(
            reverse("batches:new"),
            {"text": "# Cream\nServes 2\n100 g raw cashews\n200 g cooked brown rice"},
        )
        dish = Batch.objects.latest("pk")
        line, fit = dish.lines.get(text__contains="cashews"), reverse("batches:fit", args=[dish.pk])
        take = reverse("batches:substitute", args=[dish.pk, line.pk])
        self.assertNotContains(self.client.get(fit), "not for Maren Okafor")
        self.maren.allergies = ["soy"]
        self.maren.save()
        self.assertContains(self.client.get(fit), "not for Maren Okafor: the soy allergy")
        answer = self.client.post(take, {"key": "cashew-silken"})
        self.assertContains(answer, "Not applied: silken tofu for cashews", status_code=422)
        self.assertFalse(Batch.objects.filter(parent=dish).exists())
        self.assertEqual(self.client.post(take, {"key": "nuts-to-seeds"}).status_code, 302)


class Ceilings(WithDemo):
    """What a clinician set is moved by nobody else."""

    def test_a_window_of_the_clinician_is_not_widened_for_one_bowl(self) -> None:
        keeper = Client.objects.get(name="Tobias Lindqvist")
        bowl = Bowl.objects.filter(client=keeper, meal__isnull=False).first()
        way = {"kind": "widen", "key": "potassium_mg", "end": "high", "value": "9000", "food": ""}
        answer = self.client.post(reverse("bowls:take-way", args=[bowl.pk]), way, **HTMX)
        bowl.refresh_from_db()
        self.assertEqual(bowl.moved, [])
        self.assertEqual(answer.status_code, 422)
        self.assertContains(answer, "set by the clinician", status_code=422)

    def test_absorbed_phosphorus_stands_beside_the_total_for_kidney_clients_alone(self) -> None:
        keeper = Bowl.objects.filter(client__name="Tobias Lindqvist").first()
        for name in ("bowls:bench", "bowls:print"):
            self.assertContains(
                self.client.get(reverse(name, args=[keeper.pk])), "likely to be absorbed"
            )
            self.assertNotContains(
                self.client.get(reverse(name, args=[self.bowl.pk])), "likely to be absorbed"
            )
        week = Client.objects.get(name="Tobias Lindqvist").weeks.first()
        for address in (reverse("weeks:week", args=[week.pk]), reverse("weeks:day", args=[week.pk,
            0]),
                        reverse("weeks:print", args=[week.pk])):  # fmt: skip
            self.assertContains(self.client.get(address), "likely to be absorbed")


class BrokenAnswers(WithDemo):
    """A balance that broke these rules is an internal error: logged, said, and nothing is
    stored.
    """

    def test_it_is_refused_logged_and_said(self) -> None:
        before = list(self.bowl.parts.values_list("food_key", "grams"))
        for name in ("balance", "ways"):
            with (
                self.subTest(name),
                mock.patch.object(answers, "broken_rules", return_value=["step 1"]),
                self.assertLogs("dietetics.balance.answer", "ERROR"),
            ):
                address = reverse(f"bowls:{name}", args=[self.bowl.pk])
                said = (
                    self.client.post(address, **HTMX)
                    if name == "balance"
                    else self.client.get(address, **HTMX)
                )
                self.assertIn("broke these rules", said.content.decode())
                self.assertEqual(list(self.bowl.parts.values_list("food_key", "grams")), before)


class Ladder(WithDemo):
    """The greens-and-beans school suggests a higher rung for potato."""

    def test_beans_before_potato(self) -> None:
        maren = self.bowl.client
        maren.school = "greens-and-beans"
        maren.save()
        bowl = Bowl.objects.create(client=maren, name="Potato bowl", meal=self.bowl.meal)
        services.add_food(bowl, "potato-baked", "1 medium")
        services.add_food(again(bowl), "kale-raw", "2 cups")
        page = self.client.get(reverse("bowls:hints", args=[bowl.pk]), **HTMX)
        self.assertContains(page, "come before white potato")
        maren.school = "balanced-bowl"
        maren.save()
        self.assertNotContains(
            self.client.get(reverse("bowls:hints", args=[bowl.pk]), **HTMX), "stand before"
        )
        self.assertGreater(bowl_value(again(bowl)).total.grams, 0)
        self.assertFalse(OwnSchool.objects.exists())
        self.assertTrue(TargetSet.objects.exists())
