"""What is stored of a client is handed over whole and erased whole, whatever tables there are."""

from __future__ import annotations

import json
import shutil
import tempfile
from pathlib import Path
from unittest import mock

from django.apps import apps
from django.db import connection, models
from django.urls import reverse

from roundpantry.batches import services as batch_services
from roundpantry.batches.models import Batch, Cooking
from roundpantry.bowls.models import BowlChange, Pattern
from roundpantry.clients.models import Acknowledgement, Client, FormerName
from roundpantry.clients.services import change_client
from roundpantry.clients.stored_data import FORMER, path_to
from roundpantry.counter.backups import taking
from roundpantry.demo.tests.support import WithDemo
from roundpantry.follow.models import DiaryEntry, Remark, TakenProposal, Visit
from roundpantry.handover.models import (
    Answered,
    BookletWishes,
    OutboxMessage,
    ShareLink,
    StoredBooklet,
)
from roundpantry.prep.models import ClientKitchen, CookingEvening
from roundpantry.shopping.models import HomeStock, ShoppingTrip
from roundpantry.weeks.models import DishChoice, Search, Week, WeekChange

NAME, FORMER_NAME = "Wilhelmina Quillfeather", "Zoë Quillfeather"
BELONG_TO_A_CLIENT = {
    "clients.Measurement", "clients.Acknowledgement", "targets.TargetSet", "targets.TargetWindow",
    "targets.Meal", "bowls.Bowl",
    "bowls.BowlPart", "bowls.BowlChange", "weeks.Week", "weeks.WeekChange", "weeks.DishChoice",
    "weeks.Search", "shopping.HomeStock", "shopping.ShoppingTrip", "prep.ClientKitchen",
    "prep.CookingEvening", "handover.StoredBooklet", "handover.ShareLink", "handover.Answered",
    "handover.BookletWishes", "handover.OutboxMessage", "follow.DiaryEntry", "follow.Remark",
    "follow.Visit", "follow.TakenProposal", "clients.FormerName",
}  # fmt: skip


class Traces(WithDemo):
    """A client with something in every table, and named in what is the practitioner's."""

    def setUp(self) -> None:
        super().setUp()
        client = self.subject = Client.objects.filter(
            practitioner=self.petra, weeks__isnull=False
        ).first()
        Client.objects.filter(pk=client.pk).update(name=NAME, notes=f"{NAME} likes oats")
        FormerName.objects.create(client=client, name=FORMER_NAME)
        client.refresh_from_db()
        week = client.weeks.first()
        Week.objects.filter(pk=week.pk).update(
            note="handed over with a word", frozen_at="2026-11-01T08:00:00Z"
        )
        WeekChange.objects.create(week=week, what="a change", plan=week.plan)
        Search.objects.create(week=week, revision=1)
        DishChoice.objects.create(client=client, dish="bowl-77", liking=3)
        HomeStock.objects.create(client=client, food_key="kale-raw", grams=80)
        ShoppingTrip.objects.create(week=week, in_basket=["kale-raw"])
        ClientKitchen.objects.create(client=client)
        StoredBooklet.objects.create(week=week, content={"client": NAME})
        link = ShareLink.objects.create(week=week, nonce="n", ends_on="2099-01-01")
        Answered.objects.create(link=link, kind=Answered.REMARK, text="tasted of home")
        DiaryEntry.objects.create(client=client, day="2026-11-20", meal="Lunch", how="skipped")
        Remark.objects.create(client=client, day="2026-11-20", text="hungry at night")
        Visit.objects.create(client=client, day="2026-11-20", talked="about the soup")
        TakenProposal.objects.create(client=client, code="energy", title="less", why="slow")
        BookletWishes.objects.create(client=client)
        OutboxMessage.objects.create(client=client, text="your week is ready")
        CookingEvening.objects.create(week=week, day=0, said="five minutes later")
        BowlChange.objects.create(bowl=client.bowls.first(), what="a step", parts=[])
        Acknowledgement.objects.create(
            client=client, key="k", text="t", reason="agreed on the telephone", by="Petra"
        )
        client.target_sets.update(clinician="Dr Marram")
        batch = Batch.objects.filter(practitioner=self.petra, servings__isnull=False).first()
        self.made = batch_services.vary(
            batch, f"{batch.title[:80]}, for {NAME}", f"no salt for {NAME}"
        )
        batch_services.add_share(batch, NAME, "1 serving", 2)
        Cooking.objects.create(
            batch=batch, day="2026-11-01", yield_g=900, went_in_g=1000, notes=f"{NAME} liked it."
        )
        Pattern.objects.create(practitioner=self.petra, name=f"Bowl of {NAME}", roles=[])

    def belonging(self) -> list[type[models.Model]]:
        """Every table that leads to a client."""
        return [
            m
            for m in apps.get_models()
            if m.__module__.startswith("roundpantry.") and path_to(m, "clients.Client")
        ]

    def test_every_table_that_leads_to_a_client_is_known_here(self) -> None:
        self.assertEqual({model._meta.label for model in self.belonging()}, BELONG_TO_A_CLIENT)

    def test_the_export_holds_every_row_and_every_column(self) -> None:
        told = json.loads(
            self.client.get(reverse("clients:export", args=[self.subject.pk])).content
        )
        for model in self.belonging():
            rows = model.objects.filter(**{path_to(model, "clients.Client"): self.subject.pk})
            exported = told["tables"][model._meta.label_lower]
            self.assertEqual(
                sorted(row["id"] for row in exported),
                sorted(rows.values_list("pk", flat=True)),
                model,
            )
            self.assertEqual(
                set(exported[0]), {f.attname for f in model._meta.concrete_fields}, model
            )
        everything = json.dumps(told, ensure_ascii=False)
        for words in ("likes oats", "handed over with a word", "bowl-77", "Dr Marram",
            "agreed on the telephone", "no salt for", "liked it",
                      f"Bowl of {NAME}"):  # fmt: skip
            self.assertIn(words, everything)
        for field in Client._meta.concrete_fields:
            self.assertIn(field.name, {*told, "id", "practitioner"})

    def test_after_erasing_no_table_holds_the_name(self) -> None:
        self.client.post(reverse("clients:delete", args=[self.subject.pk]), {"name": NAME})
        self.assertFalse(Client.objects.filter(pk=self.subject.pk).exists())
        left = []
        with connection.cursor() as cursor:
            for table in connection.introspection.table_names(cursor):
                cursor.execute(f'SELECT * FROM "{table}"')
                left += [(table, row) for row in cursor.fetchall() if "Quillfeather" in repr(row)]
        self.assertEqual(left, [])
        self.made.refresh_from_db()
        self.assertTrue(self.made.title.endswith(f", for {FORMER}"))

    def other(self) -> Client:
        """Another client of the same practitioner, and of the same household."""
        return Client.objects.filter(practitioner=self.petra).exclude(pk=self.subject.pk).first()

    def test_the_names_are_taken_out_of_what_is_of_others_and_the_rest_stays(self) -> None:
        other = self.other()
        week = Week.objects.create(client=other, start="2025-01-06", plan={})
        content = {"client": other.name, "persons": [FORMER_NAME, NAME], "note": f"with {NAME}"}
        StoredBooklet.objects.create(week=week, content=content)
        OutboxMessage.objects.create(client=other, text=f"{NAME}'s week is ready as well")
        visit = Visit.objects.create(client=other, day="2026-11-20", talked=f"about {FORMER_NAME}")
        Client.objects.filter(pk=other.pk).update(notes=f"sister of {NAME}")
        batch = Batch.objects.filter(practitioner=self.petra, servings__isnull=False).first()
        cut = batch_services.vary(batch, f"{'Lentils ' * 13}, for {NAME[:9]}", "")
        Batch.objects.filter(pk=cut.pk).update(title=f"{'Lentils ' * 13}, for {NAME[:9]}")
        self.client.post(reverse("clients:delete", args=[self.subject.pk]), {"name": NAME})
        left = []
        with connection.cursor() as cursor:
            for table in connection.introspection.table_names(cursor):
                cursor.execute(f'SELECT * FROM "{table}"')
                left += [
                    (table, row)
                    for row in cursor.fetchall()
                    for part in ("Quillfeather", "Wilhel", "Zo\\u00eb", "Zoë")
                    if part in repr(row)
                ]
        self.assertEqual(left, [])
        booklet = StoredBooklet.objects.get(week=week).content
        self.assertEqual(booklet["persons"], [FORMER, FORMER])
        self.assertEqual(booklet["client"], other.name)
        visit.refresh_from_db()
        self.assertEqual(visit.talked, f"about {FORMER}")

    def test_of_others_a_name_of_one_word_goes_only_where_it_can_be_nothing_else(self) -> None:
        Client.objects.filter(pk=self.subject.pk).update(name="Olive")
        week = Week.objects.create(client=self.other(), start="2025-01-06", plan={})
        content = {"persons": ["Olive"], "text": "1 tbsp Olive oil", "dish": "Lentils, for Olive"}
        StoredBooklet.objects.create(week=week, content=content)
        self.client.post(reverse("clients:delete", args=[self.subject.pk]), {"name": "Olive"})
        self.assertEqual(
            StoredBooklet.objects.get(week=week).content,
            {"persons": [FORMER], "text": "1 tbsp Olive oil", "dish": f"Lentils, for {FORMER}"},
        )

    def test_what_is_of_other_clients_is_not_handed_over(self) -> None:
        Client.objects.filter(pk=self.other().pk).update(notes=f"quarrels with {NAME}")
        told = self.client.get(reverse("clients:export", args=[self.subject.pk])).content.decode()
        self.assertNotIn("quarrels", told)

    def test_a_new_name_is_remembered_with_the_old_one(self) -> None:
        change_client(self.subject, name="Wilma Q.")
        names = list(self.subject.former_names.values_list("name", flat=True))
        self.assertEqual(sorted(names), sorted([FORMER_NAME, NAME]))

    def test_what_cannot_be_reached_is_listed_before_and_after(self) -> None:
        folder = Path(tempfile.mkdtemp())
        self.addCleanup(shutil.rmtree, folder)
        daily = [folder / f"own-2099-01-0{n}-030000-daily.copy.zip" for n in (1, 2)]
        by_hand = folder / "own-2099-01-03-030000-by-hand.copy.zip"
        for file in (*daily, by_hand):
            file.touch()
        before_them = folder / "own-2020-01-01-030000-daily.copy.zip"
        before_them.touch()
        address = reverse("clients:delete", args=[self.subject.pk])
        with (
            mock.patch.object(taking, "backup_folder", return_value=folder),
            mock.patch.object(taking, "made_backup_folder", return_value=folder),
            mock.patch.object(taking, "database_file", return_value=Path("own.sqlite3")),
        ):
            page = self.client.get(address)
            done = self.client.post(address, {"name": NAME}, follow=True)
        for answer in (page, done):
            for words in ("a booklet, printed or saved", daily[1].name, "until you delete it"):
                self.assertContains(answer, words)
            self.assertNotContains(answer, before_them.name)
        self.assertNotContains(done, "Quillfeather")

    def test_a_wrong_name_deletes_nothing(self) -> None:
        address = reverse("clients:delete", args=[self.subject.pk])
        for given in ({"name": "Wilhelmina"}, {"name": ""}, {}):
            page = self.client.post(address, given)
            self.assertContains(page, "Not deleted: this is not", status_code=422)
        self.assertTrue(Client.objects.filter(pk=self.subject.pk).exists())

    def test_a_client_called_olive_changes_no_recipe(self) -> None:
        Client.objects.filter(pk=self.subject.pk).update(name="Olive")
        recipe = batch_services.read_pasted(
            self.petra, "Olive stew\n1 tbsp Olive oil\n200 g cooked lentils\n"
        )
        stew = batch_services.add_batch(
            self.petra, recipe, "Olive stew\n1 tbsp Olive oil\n200 g cooked lentils\n"
        )
        self.client.post(reverse("clients:delete", args=[self.subject.pk]), {"name": "Olive"})
        self.assertIn("1 tbsp Olive oil", [line.text for line in stew.lines.all()])
        stew.refresh_from_db()
        self.assertIn("Olive oil", stew.written)
