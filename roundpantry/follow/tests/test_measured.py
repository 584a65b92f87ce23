"""What is measured: a line is kept or asked about, a table shown before it is kept, and no target
changes by itself.
"""

from __future__ import annotations

import io
import json
from datetime import timedelta

from django.contrib.auth import get_user_model
from django.test import Client as Browser
from django.urls import reverse

from roundpantry.clients.models import Client, Measurement
from roundpantry.follow.models import Remark
from roundpantry.follow.tests.support import POUND, Followed
from roundpantry.handover import services as handover
from roundpantry.handover.booklet_made import booklet_of
from roundpantry.handover.links import token_of


class TypedLines(Followed):
    def enter(self, line: str, **more: str):
        """Type a line for Amina."""
        return self.client.post(self.at("enter"), {"line": line, **more})

    def test_a_line_is_kept_with_its_values_and_its_remark(self) -> None:
        count = self.amina.measurements.count()
        page = self.client.get(self.enter("88.6 kg today, waist 99, hungry in the evening").url)
        self.assertContains(page, "Kept: Weight 88.6 kg, Waist 99.0 cm.")
        self.assertEqual(self.amina.measurements.count(), count + 2)
        weight = self.newest("weight")
        self.assertEqual((weight.value, weight.day), (88.6, self.today))
        self.assertEqual(weight.remark, "hungry in the evening")

    def test_pounds_are_known_by_what_was_weighed_before(self) -> None:
        self.enter("196")
        self.assertAlmostEqual(self.newest("weight").value, 196 * POUND)

    def test_what_two_units_would_fit_is_asked_and_the_answer_is_kept(self) -> None:
        count = self.amina.measurements.count()
        asked = self.enter("B12 300, tired", reported_by="clinician")
        self.assertContains(asked, "Vitamin B12 300: in which unit?", status_code=422)
        self.assertContains(asked, 'value="B12 300, tired"', status_code=422)
        self.assertContains(asked, 'value="b12 300 pg/mL, tired"', status_code=422)
        self.assertEqual(self.amina.measurements.count(), count)
        self.enter("b12 300 pg/mL, tired", reported_by="clinician")
        kept = self.newest("b12")
        self.assertAlmostEqual(kept.value, 300 * 0.7378, places=3)  # pmol/L in a pg/mL
        self.assertEqual((kept.reported_by, kept.remark), ("clinician", "tired"))

    def test_what_cannot_be_is_refused_and_stays_in_the_field(self) -> None:
        count = self.amina.measurements.count()
        tomorrow = (self.today + timedelta(days=1)).isoformat()
        for line, words in (
            ("724 kg", "cannot be right"), (f"88 kg {tomorrow}", "has not been yet"),
            ("", "Nothing was written"), ("mood 9", "cannot be right"),
            ("88 kg on 31 Feb", "no day"), ("88 kg 1950-01-01", "not born yet"),
        ):  # fmt: skip
            page = self.enter(line)
            self.assertContains(page, words, status_code=422)
            self.assertContains(page, f'value="{line}"', status_code=422)
        self.assertEqual(self.amina.measurements.count(), count)

    def test_what_is_good_in_a_line_is_kept_and_the_rest_stays_in_the_field(self) -> None:
        page = self.enter("88.1 kg, potassium 52, waist 94 cm")
        self.assertContains(page, "Kept: Weight 88.1 kg, Waist 94.0 cm", status_code=422)
        self.assertContains(page, "Not kept: “potassium 52” was read as Potassium", status_code=422)
        self.assertNotContains(page, "Nothing was saved.", status_code=422)
        self.assertContains(page, 'value="potassium 52"', status_code=422)
        self.assertEqual(self.newest("waist").value, 94)
        self.assertEqual(self.newest("weight").value, 88.1)

    def test_a_weight_far_from_the_last_is_asked_and_then_kept(self) -> None:
        count = self.amina.measurements.count()
        asked = self.enter("68.5 kg, waist 94")
        self.assertContains(asked, "Weight 68.5 kg is far from the last value", status_code=422)
        self.assertEqual(self.amina.measurements.count(), count)
        self.assertContains(asked, 'value="weight 68.5 kg sure, waist 94"', status_code=422)
        self.enter("weight 68.5 kg sure, waist 94")
        self.assertEqual((self.newest("weight").value, self.newest("waist").value), (68.5, 94))

    def test_what_will_be_kept_is_shown_before_it_is(self) -> None:
        count = self.amina.measurements.count()
        for line, shown in (
            (
                "88.1 kg K 5.1, tired",
                ("Weight 88.1 kg", "Potassium 5.1 mmol/L", "As a remark: tired"),
            ),
            ("mom bp 160/90", ("As a remark: mom bp 160/90",)),
            ("68.5 kg", ("is far from the last",)),
            ("waist 32", ("you will be asked in which unit",)),
            ("88 kg, potassium 52", ("Weight 88.0 kg", "Not kept: “potassium 52”")),
            ("88 kg on 31 Feb", ("no day of the calendar",)),
            ("", ()),
        ):
            page = self.client.get(self.at("read-line"), {"line": line}).content.decode()
            for words in shown:
                self.assertIn(words, page.replace("&quot;", '"'), line)
        self.assertEqual(self.amina.measurements.count(), count)

    def test_words_without_a_value_are_a_remark_of_their_day(self) -> None:
        page = self.client.get(self.enter("no appetite yesterday, goal weight 77 kg").url)
        self.assertContains(page, "Not read as a value: goal weight 77 kg")
        remark = Remark.objects.filter(client=self.amina).first()
        self.assertEqual(remark.day, self.today - timedelta(days=1))
        self.assertEqual(remark.text, "no appetite, goal weight 77 kg")

    def test_two_values_of_one_day_are_both_kept_and_said(self) -> None:
        self.enter("88.6 kg")
        page = self.client.get(self.enter("89.1 kg").url)
        self.assertContains(page, "both are kept")
        weights = self.amina.measurements.filter(kind="weight", day=self.today)
        self.assertEqual(weights.count(), 2)

    def test_a_weigh_in_changes_no_target_until_it_is_pressed(self) -> None:
        versions, weight = self.amina.target_sets.count(), self.amina.weight_kg
        for days in range(0, 30, 3):
            self.enter(f"84 kg {(self.today - timedelta(days=days)).isoformat()}")
        self.amina.refresh_from_db()
        now = (self.amina.target_sets.count(), self.amina.weight_kg)
        self.assertEqual(now, (versions, weight))
        self.client.post(self.at("use-weight"))
        self.amina.refresh_from_db()
        self.assertEqual(self.amina.target_sets.count(), versions + 1)
        self.assertLess(float(self.amina.weight_kg), 88)

    def test_a_weight_far_from_the_others_is_marked_wherever_it_is_shown(self) -> None:
        words = "not believed"
        for name in ("course", "values", "new-visit"):
            self.assertNotContains(self.client.get(self.at(name)), words)
        self.amina.measurements.create(kind="weight", value=62.0, day=self.today)
        for name in ("course", "values", "new-visit"):
            page = self.client.get(self.at(name)).content.decode()
            row = page[page.index("62.0 kg</strong>") :][:200]
            self.assertIn(words, row, name)
        table = self.client.get(self.at("values-csv")).content.decode()
        self.assertEqual(
            [line for line in table.splitlines() if words in line],
            [line for line in table.splitlines() if "62.0" in line or ",62," in line],
        )
        sent = self.client.get(self.at("exchange")).json()["entry"]
        preliminary = [
            one["resource"] for one in sent if one["resource"].get("status") == "preliminary"
        ]
        self.assertEqual([one["valueQuantity"]["value"] for one in preliminary], [62.0])
        self.assertEqual(preliminary[0]["note"], [{"text": words}])

    def test_a_red_flag_stands_first_on_follow_the_visit_and_the_proposals(self) -> None:
        self.amina.pregnant, self.amina.pregnancy_week, self.amina.goal = True, 30, "hold"
        self.amina.save()
        for typed, is_flag in (("bp 128/82", False), ("bp 148/96", True)):
            self.enter(typed)
            for name in ("course", "new-visit", "adjust"):
                page = self.client.get(self.at(name)).content.decode()
                there = "Pregnant and a blood pressure of 148 mmHg." in page
                self.assertEqual(there, is_flag, (typed, name))

    def test_the_record_shows_what_was_measured_last(self) -> None:
        self.enter("87.3 kg")
        page = self.client.get(reverse("clients:change", args=[self.amina.pk]))
        self.assertContains(page, "last measured 87.3 kg on")

    def test_scripts_are_words(self) -> None:
        page = self.client.get(self.enter("88 kg, <script>alert(1)</script>").url)
        self.assertNotContains(page, "<script>alert")

    def test_the_picture_says_in_words_what_it_shows(self) -> None:
        page = self.client.get(self.at("course")).content.decode()
        label = page.split('aria-label="Weight over time.')[1].split('"')[0]
        self.assertIn("slower than agreed", label)
        circles = page.count('class="weigh-in"')
        self.assertEqual(circles, self.amina.measurements.filter(kind="weight").count())


class Tables(Followed):
    TEXT = "day,kind,value,unit\n2026-11-01,weight,88.4,kg\n2026-11-02,ferritin,900000,\n"

    def test_a_table_is_shown_first_and_kept_when_asked(self) -> None:
        count = self.amina.measurements.count()
        shown = self.client.post(self.at("upload"), {"text": self.TEXT})
        self.assertContains(shown, "1 row read, 1 not")
        self.assertContains(shown, "Line 3:")
        self.assertEqual(self.amina.measurements.count(), count)
        for _ in range(2):  # kept twice it is there once
            self.client.post(self.at("upload"), {"text": self.TEXT, "keep": "yes"})
        self.assertEqual(self.amina.measurements.count(), count + 1)

    def test_a_file_is_read_as_well(self) -> None:
        file = io.BytesIO(self.TEXT.encode())
        file.name = "m.csv"
        shown = self.client.post(self.at("upload"), {"file": file})
        self.assertContains(shown, "1 row read, 1 not")

    def test_five_thousand_rows_are_kept_and_shown_page_by_page(self) -> None:
        day = self.today - timedelta(days=5000)
        days = [(day + timedelta(days=n)).isoformat() for n in range(5000)]
        text = "day,kind,value,unit\n" + "".join(f"{one},weight,88.4,kg\n" for one in days)
        self.client.post(self.at("upload"), {"text": text, "keep": "yes"})
        self.assertGreaterEqual(self.amina.measurements.count(), 5000)
        page = self.client.get(self.at("values"))
        self.assertContains(page, "Page 1 of 5")
        self.assertContains(self.client.get(self.at("course")), "kg a week")

    def test_what_is_no_table_is_refused_and_stays(self) -> None:
        page = self.client.post(self.at("upload"), {"text": "my weight is fine"})
        self.assertContains(page, "my weight is fine", status_code=422)
        self.assertContains(page, "Nothing was kept", status_code=422)

    def test_out_and_in_again(self) -> None:
        text = self.client.get(self.at("values-csv")).content.decode()
        other = Client.objects.get(name="Maren Okafor")
        other.measurements.all().delete()
        self.client.post(self.at("upload", other), {"text": text, "keep": "yes"})
        rows = [
            sorted(one.measurements.values_list("kind", "day", "value", "low", "high"), key=str)
            for one in (self.amina, other)
        ]
        self.assertEqual(rows[0], rows[1])

    def test_a_wrong_value_is_removed_and_only_ones_own(self) -> None:
        row = self.newest("weight")
        foreign = Browser()
        foreign.force_login(get_user_model().objects.get(username="joon"))
        where = self.at("remove-value", None, row.pk)
        self.assertEqual(foreign.post(where).status_code, 404)
        elsewhere = self.at("remove-value", self.tobias, row.pk)
        self.assertEqual(self.client.post(elsewhere).status_code, 404)
        self.client.post(where)
        self.assertFalse(Measurement.objects.filter(pk=row.pk).exists())

    def test_for_other_programs_as_fhir(self) -> None:
        answer = self.client.get(self.at("exchange"))
        self.assertEqual(answer["Content-Type"], "application/fhir+json")
        found = json.loads(answer.content)["entry"]
        kinds = [one["resource"]["resourceType"] for one in found]
        self.assertEqual(kinds.count("Observation"), self.amina.measurements.count())
        self.assertEqual(kinds.count("NutritionOrder"), 1)
        self.assertNotIn("Farouk", answer.content.decode())


class FromThePhone(Followed):
    def test_a_weight_on_the_link_is_a_measurement_reported_by_the_client(self) -> None:
        week = self.amina.weeks.first()
        handover.keep_booklet(week, booklet_of(week))
        link = handover.give_link(week, self.today, ["weight", "remark"])
        phone, where = Browser(), f"/s/{token_of(link)}/answer/"
        for typed in ("87.9 kg", "88.1 kg"):  # told on the telephone, typed for them
            self.client.post(self.at("enter"), {"line": typed, "reported_by": "client"})
        phone.post(where, {"kind": "weight", "kg": "194 lb"})
        phone.post(where, {"kind": "weight", "kg": "88.2"})
        phone.post(where, {"kind": "remark", "text": "The soup was good."})
        rows = self.amina.measurements.filter(reported_by="client", kind="weight")
        self.assertEqual(sorted(one.value for one in rows), [87.9, 88.1, 88.2])
        self.assertContains(self.client.get(self.at("course")), "The soup was good.")
