"""Adjusting: targets change by a press alone and are taken back by one; a clinician's figures never
change; visits, letter and practice.
"""

from __future__ import annotations

import io
from datetime import date, timedelta

from django.urls import reverse
from pypdf import PdfReader

from roundpantry.clients.models import Client, Measurement
from roundpantry.follow.adjust_page import adjust_page
from roundpantry.follow.models import TakenProposal, Visit
from roundpantry.follow.services import keep_visit
from roundpantry.follow.tests.support import Followed
from roundpantry.targets.records import newest_set

PAGES = ("course", "values", "diary", "adjust", "visits", "new-visit", "report", "letter")


class Adjusting(Followed):
    def setUp(self) -> None:
        super().setUp()
        self.ines = Client.objects.get(name="Ines Bergström-Vale")  # loses what she should keep

    def codes(self, name: str) -> list[str]:
        """What is proposed for a client."""
        client = Client.objects.get(practitioner=self.petra, name__startswith=name)
        return [one.code for one in adjust_page(client)["proposals"]]

    def test_each_client_of_the_demo_as_the_story_says(self) -> None:
        self.assertIn("written-little", self.codes("Amina"))
        self.assertNotIn("energy", self.codes("Amina"))
        self.assertEqual(self.codes("Tobias")[0], "blood-potassium")
        self.assertIn("energy", self.codes("Ines"))
        self.assertFalse({"energy", "observed"} & {*self.codes("Sunniva")})

    def test_taken_it_makes_a_version_and_taken_back_the_old_figures_stand_again(self) -> None:
        before = newest_set(self.ines)
        old = before.windows.get(key="energy_kcal")
        self.client.post(self.at("take", self.ines), {"code": "energy"})
        after = newest_set(self.ines)
        new = after.windows.get(key="energy_kcal")
        self.assertEqual(after.number, before.number + 1)
        self.assertGreater(new.low, old.low)
        self.assertLessEqual(new.low + new.high, 1.1 * (old.low + old.high) + 10)
        self.assertIn("lost", after.reason)
        taken = TakenProposal.objects.get(client=self.ines)
        self.client.post(self.at("take-back", self.ines, taken.pk))
        again = newest_set(self.ines).windows.get(key="energy_kcal")
        self.assertEqual((again.low, again.high), (old.low, old.high))
        refused = self.client.post(self.at("take-back", self.ines, taken.pk))
        self.assertContains(refused, "Nothing was taken back", status_code=422)

    def test_what_is_not_proposed_cannot_be_taken(self) -> None:
        versions = self.tobias.target_sets.count()
        for code in ("energy", "blood-potassium", "nonsense", ""):
            answer = self.client.post(self.at("take", self.tobias), {"code": code})
            self.assertContains(answer, "no longer proposed", status_code=422)
        self.assertEqual(self.tobias.target_sets.count(), versions)

    def test_nothing_of_a_clinicians_is_changed(self) -> None:
        for days in range(0, 60, 3):
            day = self.today - timedelta(days=days)
            kg = 76 - days / 20
            Measurement.objects.create(client=self.tobias, kind="weight", day=day, value=kg)
        page = adjust_page(self.tobias)
        self.assertEqual(page["judgement"].course.value, "the other way")
        self.assertEqual([one.code for one in page["proposals"] if one.can_be_taken], [])

    def test_cautions_stand_before_proposals(self) -> None:
        page = self.client.get(self.at("adjust", self.ines)).content.decode()
        self.assertLess(page.index("More than 1 % of the weight"), page.index("What may be chang"))

    def test_the_next_week_begins_like_the_last(self) -> None:
        last = self.amina.weeks.first()
        answer = self.client.post(self.at("next-week"))
        made = self.amina.weeks.first()
        self.assertIn(f"/weeks/{made.pk}/", answer.url)
        self.assertGreater(made.start, last.start)
        self.assertGreater(made.start, self.today)

    def test_a_client_without_anything_has_every_page(self) -> None:
        empty = Client.objects.get(name="Maren Okafor")
        empty.measurements.all().delete()
        empty.weeks.all().delete()
        empty.target_sets.all().delete()
        for name in PAGES:
            self.assertEqual(self.client.get(self.at(name, empty)).status_code, 200, name)

    def test_one_weigh_in_is_too_early_to_say_anything(self) -> None:
        self.amina.measurements.filter(kind="weight").delete()
        Measurement.objects.create(client=self.amina, kind="weight", day=self.today, value=89)
        page = self.client.get(self.at("course"))
        self.assertContains(page, "Cannot be told yet: 1 weigh-in in 1 day.")


class Visits(Followed):
    def test_a_visit_shows_what_changed_and_is_kept_and_printed(self) -> None:
        page = self.client.get(self.at("new-visit"))
        self.assertContains(page, "Agreed then: Write down what differs.")
        note = page.context["form"].initial["note"]
        self.assertIn("kg a week", note)
        sent = {
            "day": self.today.isoformat(), "minutes": "35", "talked": "about almonds",
            "agreed": "weigh the nuts", "note": note,
            "next_on": f"{self.today + timedelta(days=30)}",
        }  # fmt: skip
        answer = self.client.post(self.at("new-visit"), sent)
        row = Visit.objects.filter(client=self.amina).first()
        self.assertEqual((row.minutes, row.agreed), (35, "weigh the nuts"))
        printed = self.client.get(self.at("print-visit", None, row.pk))
        self.assertContains(printed, "weigh the nuts")
        self.assertContains(printed, "Type 2 diabetes")
        self.assertIn(str(row.pk), answer.url)

    def test_what_is_refused_stays_in_the_form(self) -> None:
        sent = {"day": "soon", "minutes": "many", "talked": "about almonds"}
        page = self.client.post(self.at("new-visit"), sent)
        self.assertContains(page, "about almonds", status_code=422)
        self.assertContains(page, "Not understood as a date", status_code=422)
        late = self.client.post(self.at("new-visit"), {"day": "9999-01-01", "talked": "x"})
        self.assertContains(late, "lies between", status_code=422)

    def test_today_says_what_is_due_until_it_is_done(self) -> None:
        def today() -> str:
            return self.client.get(reverse("today:today"), {"q": "tobias"}).content.decode()

        self.assertIn("blood value outside its range", today())
        facts = {"minutes": None, "talked": "", "agreed": "", "note": ""}
        keep_visit(self.tobias, None, day=self.today, next_on=self.today, **facts)
        self.assertNotIn("blood value outside", today())
        self.assertIn(">visit ", today())
        Visit.objects.filter(client=self.tobias).update(next_on=date(2020, 1, 1))
        self.assertIn("visit overdue since 1 Jan", today())

    def test_the_letter_is_one_page_with_figures_and_ranges(self) -> None:
        content = self.client.get(self.at("letter", self.tobias)).content
        pages = PdfReader(io.BytesIO(content)).pages
        self.assertEqual(len(pages), 1)
        said = " ".join(pages[0].extract_text().split())
        self.assertIn("Potassium: 5.6 mmol/L (range 3.5–5.1, above)", said)
        self.assertIn("set by Dr Eilidh Varga", said)
        self.assertIn("Kidney disease", said)

    def test_a_visit_that_has_been_is_not_announced(self) -> None:
        for days, told in ((5, True), (-5, False)):
            on = self.today + timedelta(days=days)
            Visit.objects.filter(client=self.amina).update(next_on=on)
            page = self.client.get(self.at("report")).content.decode()
            self.assertEqual("We meet again" in page, told)

    def test_no_number_of_weight_for_somebody_with_an_eating_disorder(self) -> None:
        self.amina.conditions = ["eating-disorder"]
        self.amina.save()
        page = self.client.get(self.at("report"))
        self.assertNotContains(page, " kg")
        self.assertNotContains(page, "<svg")

    def test_the_practice_counts_and_its_table_names_nobody(self) -> None:
        page = self.client.get(reverse("follow:practice"))
        self.assertContains(page, "too fast")
        table = self.client.get(reverse("follow:practice-csv")).content.decode()
        self.assertEqual(len(table.strip().splitlines()), 7)
        for client in Client.objects.filter(practitioner=self.petra):
            for part in client.name.split():
                self.assertNotIn(part, table)
