"""Own labels in versions, corrections, units, exchange and the ladder, through their pages."""

from __future__ import annotations

import csv
import io
from dataclasses import replace

from django.contrib.auth import get_user_model
from django.core.files.uploadedfile import SimpleUploadedFile
from django.urls import reverse
from openpyxl import Workbook, load_workbook

from dietetics.composition.foods import load_shelf
from roundpantry.bowls.models import Bowl
from roundpantry.demo.tests.support import HTMX, WithDemo, words_of
from roundpantry.shelf.food_page import twin_lines
from roundpantry.shelf.food_rows import find
from roundpantry.shelf.food_upload import COLUMNS
from roundpantry.shelf.models import (
    Correction,
    FoodUse,
    ImportDraft,
    Label,
    LabelVersion,
    Preferences,
)
from roundpantry.shelf.records import food_of, version_food

TYPED = {
    "name": "Beacon spread", "group": "nut-butter", "basis": "serving", "serving_text": "2 tbsp",
    "serving_g": "30",
    "servings_per_package": "8", "net_g": "240", "energy_kcal": "180", "fat_g": "15",
    "saturated_fat_g": "2",
    "carbohydrate_g": "6", "fibre_g": "2", "protein_g": "7", "salt_g": "0.3",
    "ingredients": "sunflower seeds, soya, palm oil, sugar, salt",
}  # fmt: skip


class Labels(WithDemo):
    """A label typed, edited, retired; what was made with it stays."""

    def store(self, label: int | None = None, **changes: str) -> LabelVersion:
        """Type a label (again) and return its newest version."""
        address = reverse("shelf:label-edit", args=[label]) if label else reverse("shelf:label-new")
        self.answer = self.client.post(address, {**TYPED, **changes})
        return LabelVersion.objects.filter(label__practitioner=self.petra).order_by("-pk").first()

    def test_typed_label_becomes_a_food_of_ones_own(self) -> None:
        version = self.store()
        food = version_food(version)
        self.assertAlmostEqual(food.per_100g["sodium_mg"], 0.3 * 400 * 100 / 30)
        self.assertIsNone(food.per_100g["iron_mg"])
        self.assertIn("soy", food.allergens)
        self.assertAlmostEqual(food.measure("tbsp").grams, 15)
        page = self.client.get(reverse("shelf:label", args=[version.label_id])).content.decode()
        for words in ("added oil: palm oil", "added sugar: sugar", "Contains: soy"):
            self.assertIn(words, page)

    def test_own_labels_come_first_when_searching(self) -> None:
        self.store()
        hits = find(self.petra, "spread", 5)
        self.assertEqual(hits[0].food.name, "Beacon spread")
        self.assertNotIn("Beacon spread", [h.food.name for h in find(self.joon, "spread", 5)])

    def test_what_is_used_often_comes_higher(self) -> None:
        before = [h.food.key for h in find(self.petra, "rice", 12)]
        FoodUse.objects.update_or_create(
            practitioner=self.petra, food_key=before[5], defaults={"times": 9}
        )
        self.assertEqual(find(self.petra, "rice", 12)[0].food.key, before[5])

    def test_contradicting_label_is_kept_as_a_draft_and_not_found(self) -> None:
        version = self.store(energy_kcal="900")
        self.assertTrue(version.draft)
        page = self.client.get(
            reverse("shelf:label-edit", args=[version.label_id])
        ).content.decode()
        self.assertIn("900 kcal is stated", page)
        self.assertNotIn("Beacon spread", [h.food.name for h in find(self.petra, "spread", 5)])
        self.assertFalse(self.store(version.label_id).draft)

    def test_a_form_that_cannot_be_read_keeps_what_was_typed(self) -> None:
        before = LabelVersion.objects.count()
        self.client.post(reverse("shelf:label-new"), {**TYPED, "protein_g": "lots"})
        answer = self.client.post(reverse("shelf:label-new"), {**TYPED, "protein_g": "lots"})
        self.assertEqual(answer.status_code, 422)
        self.assertContains(answer, 'value="lots"', status_code=422)
        self.assertEqual(LabelVersion.objects.count(), before)

    def test_pasting_fills_the_fields_and_stores_nothing(self) -> None:
        before = LabelVersion.objects.count()
        text = (
            "Quay bar. Per serving (40 g): 160 kcal, fat 5 g, carbohydrate 20 g, protein 6 g, "
            "moon dust 3 g."
        )
        page = self.client.post(
            reverse("shelf:label-new"), {"text": text, "read": "1"}
        ).content.decode()
        self.assertIn('value="160"', page)
        self.assertIn("moon dust 3 g", page)
        self.assertEqual(LabelVersion.objects.count(), before)

    def test_an_edit_never_changes_what_was_made_and_says_that_there_is_a_newer_one(self) -> None:
        version = self.store()
        key = version_food(version).key
        self.client.post(reverse("bowls:add", args=[self.bowl.pk]), {"food": key}, **HTMX)
        part = self.bowl.parts.get(food_key=key)
        self.assertEqual(part.amount_text, "1 serving")
        figure = f"/bowls/{self.bowl.pk}/parts/{part.pk}/why/protein_g/"
        self.assertContains(self.client.get(figure, **HTMX), "7.00 g")
        self.store(version.label_id, protein_g="9", carbohydrate_g="4")
        self.assertContains(self.client.get(figure, **HTMX), "7.00 g")
        self.assertContains(self.client.get(self.url), "newer label: use it")
        self.client.post(f"{self.url}parts/{part.pk}/renew/", **HTMX)
        self.assertContains(self.client.get(figure, **HTMX), "9.00 g")
        self.assertNotContains(self.client.get(self.url), "newer label: use it")
        self.client.post(reverse("bowls:undo", args=[self.bowl.pk]), **HTMX)
        self.assertContains(self.client.get(figure, **HTMX), "7.00 g")

    def test_retired_is_found_no_more_and_kept_where_used(self) -> None:
        version = self.store()
        self.client.post(
            reverse("bowls:add", args=[self.bowl.pk]), {"food": version_food(version).key}, **HTMX
        )
        self.client.post(reverse("shelf:label-retire", args=[version.label_id]))
        self.assertNotIn("Beacon spread", [h.food.name for h in find(self.petra, "spread", 5)])
        self.assertContains(self.client.get(self.url), "Beacon spread")

    def test_a_strangers_label_cannot_be_used(self) -> None:
        theirs = LabelVersion.objects.filter(label__practitioner=self.joon).first()
        key = version_food(theirs).key
        self.assertIsNone(food_of(self.petra.pk, key))
        self.assertEqual(self.client.get(reverse("shelf:food", args=[key])).status_code, 404)
        self.assertEqual(
            self.client.post(
                reverse("bowls:add", args=[self.bowl.pk]), {"food": key}, **HTMX
            ).status_code,
            422,
        )

    def test_a_label_is_read_in_a_recipe_by_its_name(self) -> None:
        self.store()
        self.client.post(
            reverse("batches:new"),
            {"text": "# T\n2 tbsp beacon spread\nhalf the package beacon spread"},
        )
        from roundpantry.batches.models import Batch

        lines = list(Batch.objects.latest("pk").lines.all())
        self.assertEqual([line.grams for line in lines], [30, 120])
        self.assertTrue(all(line.food_key.startswith("own-") for line in lines))


class Corrections(WithDemo):
    """What a practitioner corrects is remembered for them."""

    def test_a_handful_of_their_own(self) -> None:
        from roundpantry.batches.models import Batch

        self.client.post(reverse("batches:new"), {"text": "# A\na handful of spinach"})
        line = Batch.objects.latest("pk").lines.get()
        self.assertEqual(line.grams, 30)
        self.client.post(
            reverse("batches:line", args=[line.batch_id, line.pk]),
            {"text": line.text, "food": "Spinach, raw", "grams": "25"},
            **HTMX,
        )
        self.client.post(reverse("batches:new"), {"text": "# B\n2 handfuls spinach\n1 cup spinach"})
        lines = list(Batch.objects.latest("pk").lines.all())
        self.assertEqual([line.grams for line in lines], [50, 30])
        self.assertIn("your own handful", lines[0].how)
        correction = Correction.objects.get(practitioner=self.petra)
        self.client.post(reverse("shelf:forget", args=[correction.pk]))
        self.client.post(reverse("batches:new"), {"text": "# C\n2 handfuls spinach"})
        self.assertEqual(Batch.objects.latest("pk").lines.get().grams, 60)

    def test_another_practitioner_is_not_taught(self) -> None:
        Correction.objects.create(
            practitioner=self.joon,
            phrase="spinach",
            unit="handful",
            grams_per_unit=25,
            food_key="spinach-raw",
        )
        from roundpantry.shelf.records import reader_of

        self.assertEqual(reader_of(self.petra).read("a handful of spinach")[0].grams, 30)
        self.assertEqual(reader_of(self.joon).read("a handful of spinach")[0].grams, 25)


class Units(WithDemo):
    """kJ, pounds, metric cups and grams."""

    def choose(self, **changes: str) -> None:
        """Store units."""
        usual = {
            "energy": "kcal",
            "density": "g",
            "cup": "us",
            "portions": "household",
            "salt": "plain",
        }
        self.client.post(reverse("shelf:preferences"), {**usual, **changes})

    def test_how_clients_reach_the_practice_is_kept_emptied_and_left_alone(self) -> None:
        kept = Preferences.objects.filter(practitioner__username="petra")
        self.choose(practice="Harbour Practice", reach="555-0100, mornings")
        self.choose(dates="ymd")
        self.assertEqual(
            kept.values_list("practice", "reach").get(), ("Harbour Practice", "555-0100, mornings")
        )
        self.choose(practice="Harbour Practice", reach="")
        self.assertEqual(kept.values_list("practice", "reach").get(), ("Harbour Practice", ""))

    def test_kilojoules_and_pounds_everywhere(self) -> None:
        snack = Bowl.objects.get(name="Slipway snack")
        before = self.client.get(reverse("bowls:bench", args=[snack.pk])).content.decode()
        self.assertIn("kcal/g", before)
        self.choose(energy="kj", density="lb")
        page = self.client.get(reverse("bowls:bench", args=[snack.pk])).content.decode()
        self.assertIn("kJ/lb", page)
        self.assertNotIn(" kcal", page)
        why = self.client.get(
            reverse("bowls:why", args=[snack.pk, "energy_kcal"]), **HTMX
        ).content.decode()
        self.assertIn("kJ per 100 g", why)

    def test_windows_are_typed_and_shown_in_the_chosen_unit_and_kept_in_kcal(self) -> None:
        self.choose(energy="kj")
        client = self.bowl.client
        page = self.client.get(reverse("targets:edit", args=[client.pk])).content.decode()
        self.assertIn('value="11296.8"', page)  # 2,700 kcal × 4.184
        self.client.post(
            reverse("targets:edit", args=[client.pk]),
            {
                "energy_kcal-high": "8368",
                "meal0-name": "All",
                "meal0-share": "100",
                "reason": "Trial",
            },
        )
        self.assertAlmostEqual(client.target_sets.first().windows.get(key="energy_kcal").high, 2000)

    def test_metric_cup(self) -> None:
        from roundpantry.shelf.records import reader_of

        self.choose(cup="metric")
        grams = reader_of(self.petra).read("1 cup cooked quinoa")[0].grams
        self.assertAlmostEqual(grams, 185 * 250 / 236.588, places=2)

    def test_iodised_salt_is_a_choice(self) -> None:
        from roundpantry.shelf.records import reader_of

        self.assertEqual(reader_of(self.petra).read("1 tsp salt")[0].food.key, "salt-table")
        self.choose(salt="iodised")
        reader = reader_of(get_user_model().objects.get(pk=self.petra.pk))
        self.assertEqual(reader.read("1 tsp salt")[0].food.key, "salt-iodised")
        self.assertIn("your usual choice", " ".join(reader.read("salt to taste")[0].remarks))
        self.assertEqual(reader.read("1 tsp sea salt")[0].food.key, "salt-table")

    def test_a_little_salt_is_what_the_house_says(self) -> None:
        """¼ teaspoon of table salt is 1.5 g (a teaspoon is 6 g, USDA), of kosher salt 1 g."""
        from roundpantry.shelf.records import reader_of

        vague = reader_of(self.petra).read("salt to taste")[0]
        self.assertLess(vague.grams_low, vague.grams_high)
        self.choose(little_salt="quarter")
        reader = reader_of(get_user_model().objects.get(pk=self.petra.pk))
        for line in ("salt to taste", "a little salt", "salt"):
            found = reader.read(line)[0]
            self.assertEqual((found.grams_low, found.grams, found.grams_high), (1.5, 1.5, 1.5))
            self.assertIn("as set for this practice", found.how)
        self.assertEqual(reader.read("kosher salt")[0].grams, 1.0)
        self.assertEqual(reader.read("1 tsp salt")[0].grams, 6.0, "what is written stands")
        self.assertLess(*(getattr(reader.read("pepper")[0], f"grams_{e}") for e in ("low", "high")))
        self.choose(little_salt="unknown")
        reader = reader_of(get_user_model().objects.get(pk=self.petra.pk))
        self.assertEqual(reader.read("salt to taste")[0].grams, vague.grams)

    def test_first_portions_in_grams(self) -> None:
        self.choose(portions="metric")
        self.client.post(
            reverse("bowls:add", args=[self.bowl.pk]), {"food": "millet-cooked"}, **HTMX
        )
        self.assertEqual(self.bowl.parts.get(food_key="millet-cooked").amount_text, "85 g")


class Exchange(WithDemo):
    """Own foods out and in again."""

    def upload(self, content: bytes, name: str = "foods.csv") -> str:
        """Upload a file and return the page."""
        self.answer = self.client.post(
            reverse("shelf:upload"), {"file": SimpleUploadedFile(name, content)}
        )
        return words_of(self.answer)

    def csv(self, *rows: dict[str, str]) -> bytes:
        """Rows as CSV."""
        buffer = io.StringIO()
        writer = csv.DictWriter(
            buffer,
            [
                "label",
                "name",
                "group",
                "basis",
                "energy_kcal",
                "protein_g",
                "fat_g",
                "carbohydrate_g",
            ],
        )
        writer.writeheader()
        writer.writerows(rows)
        return buffer.getvalue().encode()

    GOOD = {
        "name": "Pier paste",
        "group": "legume",
        "basis": "100 g",
        "energy_kcal": "180",
        "protein_g": "9",
        "fat_g": "8",
        "carbohydrate_g": "18",
    }

    def test_dry_run_then_confirm(self) -> None:
        before = Label.objects.count()
        page = self.upload(self.csv(self.GOOD))
        self.assertIn("1 added", page)
        self.assertEqual(Label.objects.count(), before)
        draft = ImportDraft.objects.get(practitioner=self.petra)
        self.client.post(reverse("shelf:upload-confirm", args=[draft.pk]))
        self.assertEqual(Label.objects.count(), before + 1)
        self.assertEqual(find(self.petra, "pier paste", 1)[0].food.per_100g["protein_g"], 9)

    def test_there_and_back_changes_nothing(self) -> None:
        for kind in ("csv", "xlsx"):
            answer = self.client.get(reverse(f"shelf:export-{kind}"))
            page = self.upload(answer.content, f"foods.{kind}")
            usable = Label.objects.filter(practitioner=self.petra, versions__draft=False).count()
            self.assertIn(f"0 added, 0 changed, {usable} the same", page)

    def test_a_change_is_a_new_version(self) -> None:
        label = Label.objects.filter(practitioner=self.petra).first()
        self.upload(self.csv({**self.GOOD, "label": str(label.pk)}))
        self.client.post(
            reverse(
                "shelf:upload-confirm", args=[ImportDraft.objects.get(practitioner=self.petra).pk]
            )
        )
        self.assertEqual(label.versions.first().number, 2)

    def test_bad_rows_are_refused_one_by_one(self) -> None:
        rows = [
            {**self.GOOD, "name": "=cmd|' /C calc'!A0"}, {**self.GOOD, "protein_g": "-3",
            "name": "B"}, {**self.GOOD, "name": ""},
            {**self.GOOD, "protein_g": "many", "name": "C"}, {**self.GOOD, "group": "rocket",
            "name": "D"},
            {**self.GOOD, "energy_kcal": "900", "name": "E"}, {**self.GOOD, "label": "99999",
            "name": "F"}, self.GOOD, self.GOOD,
            {**self.GOOD, "name": "Comma paste", "protein_g": "9,5"}, {**self.GOOD, "name": "G",
            "protein_g": "nan"},
        ]  # fmt: skip
        page = self.upload(self.csv(*rows))
        self.assertIn("2 added, 0 changed, 0 the same, 9 refused", page)
        for words in (
            "contains a formula",
            "zero or more",
            "name is empty",
            "not a number",
            "is not known",
            "is stated",
            "not one of yours",
            "is in row",
        ):
            self.assertIn(words, page)

    def test_files_that_are_no_table(self) -> None:
        huge = b"name\n" + b"x\n" * 1_200_000
        for content, name, words in (
            (b"", "a.csv", "empty"), (b"\xff\xfe\x00\xd8\x00", "a.csv", "not"),
            ("name;é".encode("latin-1"), "a.csv", "UTF-8"),
            (b"PK\x03\x04 broken", "a.xlsx", "workbook"), (huge, "a.csv", "is the most"),
            (b"name\n" + b"x\n" * 3000, "a.csv", "more than"),
            (b"who,what\n1,2\n", "a.csv", "name the columns"), (b"name,calories\nx,1\n", "a.csv",
            "Columns not known"),
            (b"\x00\x01\x02", "a.csv", "not text"),
        ):  # fmt: skip
            page = self.upload(content, name)
            self.assertEqual(self.answer.status_code, 422, name)
            self.assertIn(words, page)
        self.assertFalse(ImportDraft.objects.exists())

    def test_workbook_and_semicolons(self) -> None:
        book = Workbook()
        book.active.append(list(self.GOOD))
        book.active.append([float(v) if v.isdecimal() else v for v in self.GOOD.values()])
        buffer = io.BytesIO()
        book.save(buffer)
        self.assertIn("1 added", self.upload(buffer.getvalue(), "foods.xlsx"))
        self.assertIn("1 added", self.upload(self.csv(self.GOOD).replace(b",", b";")))

    def test_a_name_that_looks_like_a_formula_is_written_harmlessly(self) -> None:
        label = Label.objects.filter(practitioner=self.petra).first()
        LabelVersion.objects.filter(label=label).update(
            facts={**label.versions.first().facts, "name": "+SUM(A1)"}
        )
        text = self.client.get(reverse("shelf:export-csv")).content.decode("utf-8-sig")
        self.assertIn("'+SUM(A1)", text)
        sheet = load_workbook(
            io.BytesIO(self.client.get(reverse("shelf:export-xlsx")).content)
        ).active
        self.assertEqual([cell.value for cell in sheet[1]], list(COLUMNS))


class Pictures(WithDemo):
    """The ladder, foods side by side, and food pages."""

    def test_ladder_holds_every_food_with_a_place(self) -> None:
        self.client.get(self.url)
        page = self.client.get(reverse("bowls:ladder")).content.decode()
        self.assertIn("Maren Okafor: target at most 1.70 kcal/g", page)
        placed = sum(1 for f in load_shelf() if (f.per_100g["energy_kcal"] or 0) >= 10)
        own = LabelVersion.objects.filter(label__practitioner=self.petra, draft=False).count()
        self.assertEqual(page.count("data-rung"), placed + own)
        oils = sum(1 for food in load_shelf() if food.group == "oil")
        self.assertEqual(
            self.client.get(reverse("bowls:ladder"), {"group": "oil"})
            .content.decode()
            .count("data-rung"),
            oils,
        )

    def test_ladder_scale_is_logarithmic(self) -> None:
        from roundpantry.bowls.ladder import _x

        self.assertAlmostEqual(_x(0.4) - _x(0.2), _x(4.0) - _x(2.0))

    def test_a_food_goes_from_the_ladder_into_a_bowl(self) -> None:
        self.client.get(self.url)
        self.assertContains(
            self.client.get(reverse("bowls:ladder-food", args=["kale-raw"]), **HTMX),
            "Tideline bowl",
        )
        answer = self.client.post(
            reverse("bowls:add", args=[self.bowl.pk]), {"food": "millet-cooked", "then": "bench"}
        )
        self.assertRedirects(answer, self.url)

    def test_side_by_side(self) -> None:
        page = self.client.get(
            reverse("shelf:compare"), {"f": ["brown-rice-cooked", "quinoa-cooked"], "q": "celeriac"}
        ).content.decode()
        self.assertIn("Quinoa, cooked instead of Brown rice, cooked", page)
        self.assertIn("Celeriac, raw", page)
        many = self.client.get(
            reverse("shelf:compare"),
            {"f": ["kale-raw", "tempeh", "apple-raw", "tahini", "almonds"]},
        ).content.decode()
        self.assertNotIn("almonds", many.lower())
        self.assertEqual(
            self.client.get(reverse("shelf:compare"), {"f": "nothing-such"}).status_code, 200
        )

    def test_a_food_is_no_other_state_of_itself(self) -> None:
        shelf = load_shelf()
        again = replace(shelf.foods["tofu-firm"])  # read a second time, as two threads may at once
        self.assertNotIn("tofu-firm", [twin.key for twin, _ in twin_lines(again, shelf)])

    def test_food_page_tells_twins_amino_acids_and_the_other_table(self) -> None:
        page = self.client.get(reverse("shelf:food", args=["lentils-dry"])).content.decode()
        for words in (
            "100 g dry gives about 300 g",
            "Limited by methionine + cysteine",
            "Second source",
            "Phytate",
        ):
            self.assertIn(words, page)
