"""Balance through its pages: the answer, ways out, limits, locks, patterns, the table, the scale.
No browser.
"""

from __future__ import annotations

import json
import re
import unittest

from django.urls import reverse

from dietetics.composition.aminoacids import score
from roundpantry.bowls.balance_question import bowl_question_of
from roundpantry.bowls.balance_services import again
from roundpantry.bowls.models import Bowl, BowlPart, Pattern, ScalePan
from roundpantry.bowls.records import bowl_value, eaten_of, meal_windows_of
from roundpantry.bowls.scale import TICK_S, SimulatedScale
from roundpantry.clients.models import Client
from roundpantry.demo.tests.support import HTMX, WithDemo


class OnTheBench(WithDemo):
    """`b`, locks, limits, moved windows, and the way back."""

    def post(self, name: str, *args: object, **data: object) -> object:
        """Post a fragment of this bowl."""
        return self.client.post(reverse(f"bowls:{name}", args=[self.bowl.pk, *args]), data, **HTMX)

    def amounts(self, bowl: Bowl | None = None) -> list[tuple[str, str]]:
        """The portions as stored."""
        return list((bowl or self.bowl).parts.values_list("food_key", "amount_text"))

    def test_balanced_stored_and_taken_back(self) -> None:
        before = self.amounts()
        answer = self.post("balance")
        self.assertContains(
            answer,
            "the food does not fit in the bowl: Volume 1,022 mL, 22 mL over. No other "
            "household-measure portions",
        )
        self.assertNotContains(answer, "Every target is met")
        self.assertContains(answer, 'hx-swap-oob="true"')
        self.assertNotEqual(self.amounts(), before)
        levels = re.findall(r'data-state="(\w+)"', answer.content.decode())
        self.assertEqual(set(levels), {"in"})
        self.post("undo")
        self.assertEqual(self.amounts(), before)

    def test_balancing_twice_changes_nothing_more(self) -> None:
        self.post("balance")
        once = self.amounts()
        self.assertContains(self.post("balance"), "does not fit in the bowl")
        self.assertEqual(self.amounts(), once)

    def test_a_portion_turned_by_hand_is_the_new_preference(self) -> None:
        self.post("balance")
        part = self.part("tofu-firm")
        self.assertEqual(part.chosen, 140.0)
        self.post("portion", part.pk, amount="150 g")
        self.assertIsNone(self.part("tofu-firm").chosen)

    def test_locked_stays(self) -> None:
        tofu = self.part("tofu-firm")
        answer = self.post("lock", tofu.pk)
        self.assertContains(answer, 'aria-pressed="true"')
        self.post("balance")
        self.assertEqual(self.part("tofu-firm").grams, 140.0)

    def test_limits_are_kept_and_bad_ones_keep_what_was_typed(self) -> None:
        tofu = self.part("tofu-firm")
        self.assertContains(
            self.post("limits", tofu.pk, least="200 g", most="220 g"), "200 g to 220 g"
        )
        self.post("balance")
        self.assertGreaterEqual(self.part("tofu-firm").grams, 200.0)
        answer = self.post("limits", tofu.pk, least="plenty", most="")
        self.assertContains(answer, "plenty", status_code=422)
        self.assertEqual(self.part("tofu-firm").least, 200.0)
        self.assertEqual(self.post("limits", tofu.pk, least="300 g", most="100 g").status_code, 422)

    def test_double_move_replace(self) -> None:
        tofu = self.part("tofu-firm")
        self.post("double", tofu.pk)
        self.assertEqual(
            [k for k, _ in self.amounts()][:3], ["quinoa-cooked", "tofu-firm", "tofu-firm"]
        )
        self.post("undo")
        self.post("move", tofu.pk, places="-1")
        self.assertEqual([k for k, _ in self.amounts()][:2], ["tofu-firm", "quinoa-cooked"])
        self.post("replace", tofu.pk, q="walnuts")
        self.assertEqual(self.amounts()[0][0], "walnuts")
        self.assertContains(self.post("replace", tofu.pk, q="xyzzy"), "xyzzy", status_code=422)
        self.assertContains(
            self.post("replace", tofu.pk, q="peanut butter"), "peanut", status_code=422
        )
        self.assertEqual(self.amounts()[0][0], "walnuts")

    def test_nothing_to_balance_is_said(self) -> None:
        empty = Bowl.objects.create(client=self.bowl.client, name="Empty", meal=self.bowl.meal)
        answer = self.client.post(reverse("bowls:balance", args=[empty.pk]), **HTMX)
        self.assertContains(answer, "othing to balance", status_code=422)

    def test_without_script_the_bench_comes_back(self) -> None:
        answer = self.client.post(reverse("bowls:balance", args=[self.bowl.pk]))
        self.assertRedirects(answer, self.url)

    def test_the_rest_of_the_day(self) -> None:
        other = Bowl.objects.get(name="Bow-wave breakfast")
        own = {w.key: w for w in meal_windows_of(self.bowl)}
        self.client.post(reverse("bowls:beside", args=[self.bowl.pk]), {"beside": [other.pk, ""]})
        rest = {w.key: w for w in meal_windows_of(again(self.bowl))}
        day = self.bowl.meal.target_set.windows.get(key="energy_kcal")
        eaten = bowl_value(again(other)).total["energy_kcal"].amount
        self.assertAlmostEqual(rest["energy_kcal"].high, day.high - eaten, places=6)
        self.assertEqual(rest["kcal_per_g"], own["kcal_per_g"])
        self.assertContains(self.client.get(self.url), "what the rest of the day leaves")

    def test_protein_in_detail_adds_up(self) -> None:
        answer = self.client.get(
            reverse("bowls:protein", args=[self.bowl.pk]), **HTMX
        ).content.decode()
        table = answer.split("The bowl")[0]
        shown = [float(x) for x in re.findall(r'<td class="num">([\d.]+)</td>', table)]
        total = bowl_value(self.bowl).total["protein_g"]
        self.assertAlmostEqual(sum(shown), round(total.amount, 1), places=6)
        found = score([(e.food, e.grams) for e in eaten_of(bowl_value(self.bowl))])
        self.assertIn(f"{min(1.0, found.score):.2f}", answer)


class Conflicts(WithDemo):
    """What cannot be done is explained, and its ways out are taken from the page."""

    def setUp(self) -> None:
        super().setUp()
        self.bowl = Bowl.objects.get(name="Dark-bread tartine, with too much spread")

    def ways(self, bowl: Bowl) -> list[dict[str, str]]:
        """The ways offered, as they would be posted."""
        page = self.client.get(reverse("bowls:ways", args=[bowl.pk]), **HTMX).content.decode()
        return [json.loads(x) for x in re.findall(r"hx-vals='({[^']*})'", page)]

    def test_nothing_is_changed_and_every_way_works(self) -> None:
        before = list(self.bowl.parts.values_list("food_key", "grams"))
        answer = self.client.post(reverse("bowls:balance", args=[self.bowl.pk]), **HTMX)
        self.assertContains(answer, "Closest: ")
        self.assertEqual(list(self.bowl.parts.values_list("food_key", "grams")), before)
        offered = self.ways(self.bowl)
        self.assertGreaterEqual(len(offered), 2)
        for way in offered:
            taken = self.client.post(reverse("bowls:take-way", args=[self.bowl.pk]), way, **HTMX)
            self.assertNotContains(taken, "Closest: ")
            self.client.post(reverse("bowls:undo", args=[self.bowl.pk]), **HTMX)
            self.assertEqual(list(self.bowl.parts.values_list("food_key", "grams")), before, way)
            self.assertEqual(Bowl.objects.get(pk=self.bowl.pk).moved, [])

    def test_a_clinicians_ceiling_is_never_offered_for_widening(self) -> None:
        bowl = Bowl.objects.get(name="Tideline, too much potassium")
        self.assertTrue(any(rule.fixed for rule in bowl_question_of(again(bowl)).rules))
        self.assertFalse(
            [
                way
                for way in self.ways(bowl)
                if way["key"] in ("potassium_mg", "phosphorus_mg", "protein_g")
            ]
        )

    def test_a_target_that_a_condition_asks_for_is_never_offered_for_widening(self) -> None:
        widened = [way["key"] for way in self.ways(self.bowl) if way["kind"] == "widen"]
        self.assertTrue(widened)
        Client.objects.filter(pk=self.bowl.client_id).update(
            conditions=["hypertension", "bariatric-surgery", "high-ldl", "eating-disorder"]
        )
        minded = {"sodium_mg", "protein_g", "saturated_fat_g", "energy_kcal"}
        self.assertTrue(minded & set(widened), widened)
        now = [way["key"] for way in self.ways(self.bowl) if way["kind"] == "widen"]
        self.assertFalse(minded & set(now), now)

    def test_what_is_posted_is_not_trusted(self) -> None:
        url = reverse("bowls:take-way", args=[self.bowl.pk])
        for bad in ({}, {"kind": "magic"}, {"kind": "add", "food": "no-such-food"}, {"kind": "swap",
            "key": "999999", "food": "tempeh"},
                    {"kind": "widen", "key": "energy_kcal", "end": "high",
                    "value": "lots"}):  # fmt: skip
            self.assertEqual(self.client.post(url, bad, **HTMX).status_code, 422, bad)

    def test_moved_windows_are_shown_and_put_back(self) -> None:
        url = reverse("bowls:take-way", args=[self.bowl.pk])
        self.client.post(
            url, {"kind": "widen", "key": "protein_g", "end": "low", "value": "15"}, **HTMX
        )
        page = reverse("bowls:bench", args=[self.bowl.pk])
        self.assertContains(
            self.client.get(page), "Targets changed for this bowl only: Protein at least 15.0 g"
        )
        self.client.post(reverse("bowls:settle", args=[self.bowl.pk]), **HTMX)
        self.assertNotContains(self.client.get(page), "Moved for this bowl")

    def test_hints_speak_of_the_portions_as_they_are_after_a_balance(self) -> None:
        """A balance remembers the portions chosen by hand, and stays near them; a hint must not
        judge those.
        """
        bowl = Bowl.objects.get(name="Tideline bowl")
        hints = reverse("bowls:hints", args=[bowl.pk])
        self.client.post(
            reverse("bowls:portion", args=[bowl.pk, bowl.parts.first().pk]),
            {"amount": "1/4 cup"},
            **HTMX,
        )
        self.assertContains(self.client.get(hints, **HTMX), "More quinoa")
        self.client.post(reverse("bowls:balance", args=[bowl.pk]), **HTMX)
        after = self.client.get(hints, **HTMX)
        self.assertNotContains(after, "on target")
        self.assertNotContains(after, "comes closest")

    def test_hints_fit_the_client(self) -> None:
        for bowl in Bowl.objects.filter(client__practitioner=self.petra):
            answer = self.client.get(reverse("bowls:hints", args=[bowl.pk]), **HTMX)
            self.assertEqual(answer.status_code, 200)
            if bowl.client.allergies == ["sesame"]:
                self.assertNotIn("ahini", answer.content.decode().split("Suggestions")[-1])


class PatternsAndTable(WithDemo):
    """A bowl drawn for another client, and one bowl for several people."""

    def test_drawn_for_a_client_under_another_school(self) -> None:
        pattern = Pattern.objects.get(name="Mess-room chili")
        nurse = Client.objects.get(name__startswith="Ines")
        meal = nurse.target_sets.first().meals.first()
        answer = self.client.post(
            reverse("bowls:draw-pattern", args=[pattern.pk, nurse.pk]),
            {"meal": meal.pk},
            follow=True,
        )
        self.assertContains(answer, "Created and balanced")
        made = Bowl.objects.filter(client=nurse).latest("pk")
        grain = sum(
            p.grams for p in made.parts.filter(food_key__in=("brown-rice-cooked", "quinoa-cooked"))
        )
        self.assertLessEqual(grain, 140.5, "the school of greens and beans keeps grain small")

    def test_an_allergy_passes_an_option_over(self) -> None:
        pattern = Pattern.objects.create(
            practitioner=self.petra,
            name="Nutty",
            roles=[
                {
                    "name": "Sauce",
                    "options": [
                        {"what": "peanut-butter", "amount": "1 tbsp"},
                        {"what": "tahini", "amount": "1 tbsp"},
                    ],
                },
                {"name": "Topping", "options": [{"what": "peanuts-roasted", "amount": "1 tbsp"}]},
            ],
        )
        rower = self.bowl.client
        answer = self.client.post(
            reverse("bowls:draw-pattern", args=[pattern.pk, rower.pk]), follow=True
        )
        self.assertContains(answer, "Skipped: Peanut butter, no salt added: the peanut allergy.")
        self.assertContains(answer, "No suitable food for the role Topping.")
        self.assertEqual(
            list(Bowl.objects.latest("pk").parts.values_list("food_key", flat=True)), ["tahini"]
        )

    def test_kept_changed_and_removed(self) -> None:
        self.client.post(reverse("bowls:keep-pattern", args=[self.bowl.pk]))
        pattern = Pattern.objects.get(name="Tideline bowl")
        change = reverse("bowls:change-pattern", args=[pattern.pk])
        self.client.post(change, {"role": "1", "q": "walnuts"})
        self.assertContains(self.client.get(reverse("bowls:patterns")), "Walnuts")
        self.assertContains(
            self.client.post(change, {"role": "1", "q": "xyzzy"}), "xyzzy", status_code=422
        )
        self.client.post(change, {"what": "drop", "role": "1", "option": "0"})
        pattern.refresh_from_db()
        self.assertEqual([o["what"] for o in pattern.roles[1]["options"]], ["walnuts"])
        self.client.post(change, {"what": "remove"})
        self.assertFalse(Pattern.objects.filter(pk=pattern.pk).exists())

    def test_everybody_at_the_table(self) -> None:
        chili = Bowl.objects.get(name="Mess-room chili")
        page = self.client.get(reverse("bowls:table", args=[chili.pk]))
        self.assertContains(page, "Ama, 9")
        child = chili.variants.get(eater="Ama, 9")
        beans, whole = child.parts.first(), chili.parts.first()
        self.assertAlmostEqual(beans.grams / whole.grams, 0.5, delta=0.2)
        before = beans.grams
        self.client.post(
            reverse("bowls:table-step", args=[chili.pk, beans.pk]), {"steps": 1}, **HTMX
        )
        self.assertGreater(BowlPart.objects.get(pk=beans.pk).grams, before)
        elsewhere = self.bowl.parts.first().pk
        answer = self.client.post(
            reverse("bowls:table-step", args=[chili.pk, elsewhere]), {"steps": 1}, **HTMX
        )
        self.assertEqual(answer.status_code, 404)

    def test_a_variant_knows_its_parent(self) -> None:
        answer = self.client.post(reverse("bowls:variant", args=[self.bowl.pk]), follow=True)
        self.assertContains(answer, "A variant of")
        made = Bowl.objects.latest("pk")
        self.assertEqual(made.parent, self.bowl)
        self.assertEqual(
            [p.grams for p in made.parts.all()], [p.grams for p in self.bowl.parts.all()]
        )


class Weighing(WithDemo):
    """Weigh as I serve: settled weights stand beside the planned ones."""

    def pan(self, **values: float) -> None:
        """Lay something on the pan long ago, so that it has settled."""
        ScalePan.objects.update_or_create(
            practitioner=self.petra,
            defaults={
                "load_g": 0.0,
                "before_g": 0.0,
                "changed_s": 0.0,
                "tare_g": 0.0,
                "started_s": 4e9,
                **values,
            },
        )

    def test_a_settled_weight_is_recorded_and_tared(self) -> None:
        part = self.bowl.parts.first()
        self.pan(load_g=270.0)
        url = reverse("bowls:served", args=[self.bowl.pk, part.pk])
        answer = self.client.post(url, {"what": "scale"}, **HTMX)
        self.assertEqual(answer.status_code, 200)
        part.refresh_from_db()
        self.assertAlmostEqual(part.served_g, 270.0, delta=1.0)
        self.assertContains(answer, "As served")
        again_ = self.client.post(
            reverse("bowls:served", args=[self.bowl.pk, self.part("tofu-firm").pk]),
            {"what": "scale"},
            **HTMX,
        )
        self.assertContains(again_, "ut the ingredient on it", status_code=422)

    def test_typed_and_forgotten(self) -> None:
        part = self.bowl.parts.first()
        url = reverse("bowls:served", args=[self.bowl.pk, part.pk])
        for bad in ("", "much", "-3", "0", "99999", "nan"):
            self.assertEqual(self.client.post(url, {"grams": bad}, **HTMX).status_code, 422, bad)
        self.client.post(url, {"grams": "250,5 g"}, **HTMX)
        part.refresh_from_db()
        self.assertEqual(part.served_g, 250.5)
        self.client.post(url, {"what": "forget"}, **HTMX)
        part.refresh_from_db()
        self.assertIsNone(part.served_g)

    def test_the_scale_and_its_pan(self) -> None:
        shown = self.client.get(reverse("bowls:scale"))
        self.assertEqual(set(shown.json()), {"grams", "settled"})
        self.assertFalse(shown.streaming)
        self.client.post(reverse("bowls:scale"), {"grams": "50"})
        self.client.post(reverse("bowls:scale"), {"grams": "-80"})
        self.assertEqual(ScalePan.objects.get(practitioner=self.petra).load_g, 0.0)
        self.assertEqual(
            self.client.post(reverse("bowls:scale"), {"grams": "nan"}).status_code, 422
        )
        self.assertEqual(self.client.post(reverse("bowls:scale"), {"grams": "x"}).status_code, 422)


class SimulatedScaleTests(unittest.TestCase):
    """The stand-in behaves like a kitchen scale."""

    def test_it_moves_settles_and_is_noisy_to_the_gram(self) -> None:
        scale = SimulatedScale(100.0, 0.0, changed_s=1000.0, tare_g=0.0, started_s=1000.0)
        self.assertFalse(scale.reading(1000.3).settled)
        late = [scale.reading(1005.0 + TICK_S * k) for k in range(40)]
        self.assertTrue(all(abs(r.grams - 100) <= 2 for r in late))
        self.assertTrue(any(r.settled for r in late))
        self.assertEqual(scale.reading(1005.0), scale.reading(1005.0))

    def test_tare_and_drift(self) -> None:
        still = SimulatedScale(300.0, 300.0, 0.0, tare_g=300.0, started_s=1000.0)
        self.assertLessEqual(abs(still.reading(1000.0).grams), 1)
        self.assertGreaterEqual(still.reading(1400.0).grams, 1)


class SixClients(WithDemo):
    """Each demo client has a bowl that is balanced under their school."""

    def test_a_balanced_bowl_each(self) -> None:
        for client in Client.objects.filter(practitioner=self.petra):
            states = []
            for bowl in client.bowls.filter(eater="").exclude(meal=None):
                answer = self.client.post(reverse("bowls:balance", args=[bowl.pk]), **HTMX)
                states.append("Every target is met" in answer.content.decode())
            self.assertTrue(any(states), client.name)
