"""Two windows on one thing: the older is refused, both texts are shown, nothing typed is lost, and
a second press puts it in the place of the other knowingly.
"""

from __future__ import annotations

from django.http import HttpResponse
from django.urls import reverse

from dietetics.labels.facts import LabelFacts
from roundpantry.batches.models import Batch
from roundpantry.clients.models import Client
from roundpantry.demo.tests.support import WithDemo
from roundpantry.follow.models import Visit
from roundpantry.shelf.models import Label
from roundpantry.shelf.services import keep_label


class TwoWindows(WithDemo):
    """Each form opened twice, saved in one window and then in the other."""

    def setUp(self) -> None:
        super().setUp()
        self.rower = Client.objects.get(name="Maren Okafor")

    def opened(self, address: str) -> dict[str, object]:
        """What a browser would send of a page's form as it was opened."""
        form = self.client.get(address).context["form"]
        fields = {bound.html_name: bound.value() for bound in form if not bound.is_hidden}
        page = self.client.get(address)
        fields["mark"] = page.context["mark"]
        return {name: "" if value is None else value for name, value in fields.items()}

    def refused(self, answer: HttpResponse, stored: str, typed: str) -> None:
        """The answer shows both texts and says that nothing was saved."""
        self.assertContains(answer, "Changed in another window", status_code=422)
        both = {(one.stored, one.typed) for one in answer.context["both"]}
        self.assertEqual(both, {(stored, typed)})
        self.assertContains(answer, typed, status_code=422)

    def test_a_visit(self) -> None:
        visit = Visit.objects.create(client=self.rower, day="2026-11-20", talked="as it began")
        address = reverse("follow:visit", args=[self.rower.pk, visit.pk])
        first, second = self.opened(address), self.opened(address)
        self.client.post(address, {**first, "talked": "from the first window"})
        answer = self.client.post(address, {**second, "talked": "from the second window"})
        self.refused(answer, "from the first window", "from the second window")
        visit.refresh_from_db()
        self.assertEqual(visit.talked, "from the first window")
        again = {**second, "talked": "from the second window", "mark": answer.context["mark"]}
        self.assertEqual(self.client.post(address, again).status_code, 302)
        visit.refresh_from_db()
        self.assertEqual(visit.talked, "from the second window")

    def test_a_label(self) -> None:
        facts = LabelFacts(name="Plain oats", basis="100 g", values={"energy_kcal": 370.0})
        version, _ = keep_label(self.petra, facts)
        address = reverse("shelf:label-edit", args=[version.label_id])
        first, second = self.opened(address), self.opened(address)
        self.client.post(address, {**first, "ingredients": "oats"})
        answer = self.client.post(address, {**second, "ingredients": "oats, salt"})
        self.refused(answer, "oats", "oats, salt")
        label = Label.objects.get(pk=version.label_id)
        self.assertEqual(label.versions.count(), 2)
        again = {**second, "ingredients": "oats, salt", "mark": answer.context["mark"]}
        self.assertEqual(self.client.post(address, again).status_code, 302)
        self.assertEqual(label.versions.count(), 3)

    def test_a_label_that_was_filled_from_a_text_is_still_of_the_version_that_was_opened(
        self,
    ) -> None:
        facts = LabelFacts(name="Plain oats", basis="100 g", values={"energy_kcal": 370.0})
        version, _ = keep_label(self.petra, facts)
        address = reverse("shelf:label-edit", args=[version.label_id])
        opened = self.opened(address)
        keep_label(self.petra, facts, Label.objects.get(pk=version.label_id))
        filled = self.client.post(address, {**opened, "read": "1", "text": "Oats\n370 kcal"})
        self.assertEqual(filled.context["mark"], "1")
        answer = self.client.post(address, {**opened, "ingredients": "oats"})
        self.assertEqual(answer.status_code, 422)

    def test_the_clients_record(self) -> None:
        address = reverse("clients:change", args=[self.rower.pk])
        first, second = self.opened(address), self.opened(address)
        self.client.post(address, {**first, "notes": "first"})
        answer = self.client.post(address, {**second, "notes": "second"})
        self.refused(answer, "first", "second")
        self.rower.refresh_from_db()
        self.assertEqual(self.rower.notes, "first")
        again = {**second, "notes": "second", "mark": answer.context["mark"]}
        self.assertEqual(self.client.post(address, again).status_code, 302)

    def test_a_line_of_a_recipe(self) -> None:
        batch = Batch.objects.filter(practitioner=self.petra, lines__heading=False).first()
        line = batch.lines.filter(heading=False).first()
        address = reverse("batches:line", args=[batch.pk, line.pk])
        given = {"seen": line.text, "food": "", "grams": ""}
        self.client.post(address, {**given, "text": "200 g cooked chickpeas"})
        answer = self.client.post(address, {**given, "text": "150 g cooked chickpeas"})
        for words in ("200 g cooked chickpeas", "150 g cooked chickpeas", "in another window"):
            self.assertContains(answer, words, status_code=422)
        line.refresh_from_db()
        self.assertEqual(line.text, "200 g cooked chickpeas")
        self.assertContains(answer, 'name="seen" value="200 g cooked chickpeas"', status_code=422)
        seen = {**given, "seen": line.text, "text": "150 g cooked chickpeas"}
        self.client.post(address, seen)
        line.refresh_from_db()
        self.assertEqual(line.text, "150 g cooked chickpeas")

    def test_what_did_not_change_in_between_is_saved(self) -> None:
        address = reverse("clients:change", args=[self.rower.pk])
        opened = self.opened(address)
        answer = self.client.post(address, {**opened, "notes": "alone"})
        self.assertEqual(answer.status_code, 302)
