"""What is stored of a client is handed over whole and erased whole, whatever tables there are."""

from __future__ import annotations

import json

from django.apps import apps
from django.db import connection, models
from django.urls import reverse

from roundpantry.batches import services as batch_services
from roundpantry.batches.models import Batch, Cooking
from roundpantry.bowls.models import BowlChange, Pattern
from roundpantry.clients.models import Acknowledgement, Client
from roundpantry.clients.stored_data import FORMER, path_to
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

NAME = "Wilhelmina Quillfeather"
BELONG_TO_A_CLIENT = {
    "clients.Measurement", "clients.Acknowledgement", "targets.TargetSet", "targets.TargetWindow",
    "targets.Meal", "bowls.Bowl",
    "bowls.BowlPart", "bowls.BowlChange", "weeks.Week", "weeks.WeekChange", "weeks.DishChoice",
    "weeks.Search", "shopping.HomeStock", "shopping.ShoppingTrip", "prep.ClientKitchen",
    "prep.CookingEvening", "handover.StoredBooklet", "handover.ShareLink", "handover.Answered",
    "handover.BookletWishes", "handover.OutboxMessage", "follow.DiaryEntry", "follow.Remark",
    "follow.Visit", "follow.TakenProposal",
}  # fmt: skip


class Traces(WithDemo):
    """A client with something in every table, and named in what is the practitioner's."""

    def setUp(self) -> None:
        super().setUp()
        client = self.subject = Client.objects.filter(
            practitioner=self.petra, weeks__isnull=False
        ).first()
        Client.objects.filter(pk=client.pk).update(name=NAME, notes=f"{NAME} likes oats")
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
