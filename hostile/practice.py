"""Two practitioners in one database: one attacks, the other's names carry a mark that must never be
seen.
"""

from __future__ import annotations

import hashlib
from collections.abc import Iterable, Iterator
from unittest import mock

from django.apps import apps
from django.contrib.auth import get_user_model
from django.db import models
from django.http import HttpResponse
from django.test import TestCase
from django.urls import reverse

from hostile import sample
from roundpantry.batches.models import Batch, BatchLine
from roundpantry.bowls.models import Bowl, BowlPart, Pattern
from roundpantry.clients.models import Client, OwnSchool
from roundpantry.counter import clock
from roundpantry.demo.tests.practice import load_practice
from roundpantry.demo.tests.support import HASTY
from roundpantry.shelf.models import Correction, ImportDraft, Label, LabelVersion
from roundpantry.targets.models import Meal, TargetSet
from roundpantry.weeks.models import Search, Week
from roundpantry.weeks.records import weeks_of

MARK = "Zephyrine"  # stands in every name that belongs to the other practitioner
NAMED = (Client, OwnSchool, Batch, Bowl, Pattern, LabelVersion)


def mark_everything_of(owner: models.Model) -> None:
    """Put the mark into every name that belongs to a practitioner, and give them one of each kind
    of thing.
    """
    client = Client.objects.filter(practitioner=owner).first()
    OwnSchool.objects.create(practitioner=owner, base="balanced-bowl", name="School")
    Pattern.objects.create(practitioner=owner, name="Pattern", roles=[])
    ImportDraft.objects.create(practitioner=owner, file_name="labels.csv", rows=[])
    Correction.objects.create(practitioner=owner, phrase=MARK.lower(), food_key="kale-raw")
    week = Week.objects.filter(client=client).first()
    if week is not None:
        Search.objects.create(week=week, revision=1)
    for model in (Client, OwnSchool, Bowl, Pattern):
        for row in rows_of(model, owner):
            type(row).objects.filter(pk=row.pk).update(name=f"{MARK} {row.name}"[:60])
    for batch in rows_of(Batch, owner):
        Batch.objects.filter(pk=batch.pk).update(
            title=f"{MARK} {batch.title}"[:120], changed_at=clock.now()
        )
    for version in rows_of(LabelVersion, owner):
        facts = {**version.facts, "name": f"{MARK} {version.name}"[:80]}
        LabelVersion.objects.filter(pk=version.pk).update(
            name=facts["name"], facts=facts, created_at=clock.now()
        )


def rows_of(model: type[models.Model], owner: models.Model) -> Iterable[models.Model]:
    """The rows of a table that belong to a practitioner, whichever way they hang together; none of
    a table of nobody's.
    """
    path = owner_path(model)
    return model.objects.filter(**{path: owner.pk}).order_by("pk") if path else model.objects.none()


def owner_path(model: type[models.Model], seen: tuple[type[models.Model], ...] = ()) -> str:
    """How a table leads to the practitioner, as a lookup ("bowl__client__practitioner"); "" where
    it does not.
    """
    user = get_user_model()
    for field in model._meta.fields:
        if not isinstance(field, models.ForeignKey):
            continue
        if field.related_model is user:
            return field.name
        if field.related_model not in (*seen, model) and not field.null:
            further = owner_path(field.related_model, (*seen, model))
            if further:
                return f"{field.name}__{further}"
    return ""


def owned_models() -> list[type[models.Model]]:
    """Every table of the program that belongs to a practitioner."""
    return [
        one
        for one in apps.get_models()
        if one.__module__.startswith("roundpantry.") and owner_path(one)
    ]


def digest_of(owner: models.Model) -> str:
    """A fingerprint of everything a practitioner has: the same before and after where nothing of
    theirs was touched.
    """
    found = hashlib.sha256()
    for model in owned_models():
        for row in rows_of(model, owner):
            values = [(f.attname, getattr(row, f.attname)) for f in model._meta.fields]
            found.update(repr((model.__name__, values)).encode("utf-8", "surrogatepass"))
    return found.hexdigest()


def references_to(owner: models.Model) -> list[str]:
    """Everything of a practitioner's that a request may name: numbers, and keys of every kind that
    holds one.
    """
    numbers: list[str] = []
    for model in (Client, Bowl, BowlPart, Batch, BatchLine, Label, OwnSchool, Pattern, Week, Search,
        Meal, TargetSet,
                  ImportDraft, Correction):  # fmt: skip
        row = next(iter(rows_of(model, owner)), None)
        if row is not None:
            numbers.append(str(row.pk))
    batch, bowl = (
        Batch.objects.filter(practitioner=owner).first(),
        Bowl.objects.filter(client__practitioner=owner).first(),
    )
    version = LabelVersion.objects.filter(label__practitioner=owner, draft=False).first()
    school = OwnSchool.objects.filter(practitioner=owner).first()
    label = f"own-{version.label_id}-{version.number}"
    keys = [label, f"food:{label}", f"drink:{label}", f"batch-{batch.pk}", f"bowl-{bowl.pk}",
        f"own-{school.pk}",
            f"dish-{batch.pk}", f"batch:{batch.pk}", f"DISH:{batch.pk}"]  # fmt: skip
    return [*dict.fromkeys(numbers), *keys]


class Attacked(TestCase):
    """The practice with two practitioners; Petra is logged in, and nothing of Joon's may reach
    her.
    """

    @classmethod
    def setUpTestData(cls) -> None:
        load_practice()
        users = get_user_model().objects
        cls.petra, cls.joon = users.get(username="petra"), users.get(username="joon")
        mark_everything_of(cls.joon)
        mark = {"name": "School", "base": "balanced-bowl"}
        OwnSchool.objects.create(practitioner=cls.petra, **mark)

    def setUp(self) -> None:
        for name, instead in HASTY.items():
            self.enterContext(mock.patch(name, instead))
        self.client.raise_request_exception = False
        self.client.force_login(self.petra)

    def everything(self) -> Iterator[tuple[str, HttpResponse]]:
        """Pages and files of Petra's practice that show what is stored, fetched: all of them in the
        long form.
        """
        for where in sample("pages", self.pages(), 0.1):
            yield where, self.client.get(where)

    def pages(self) -> list[str]:
        """The addresses of those pages."""
        found = [
            reverse(name)
            for name in (
                "today:today",
                "batches:list",
                "shelf:list",
                "shelf:preferences",
                "bowls:patterns",
                "bowls:ladder",
                "compare:plates",
                "shelf:export-csv",
                "shelf:export-xlsx",
            )
        ]
        for client in Client.objects.filter(practitioner=self.petra):
            found += [
                reverse(f"clients:{name}", args=[client.pk])
                for name in ("detail", "export", "change")
            ]
            found += [
                reverse(name, args=[client.pk])
                for name in ("targets:edit", "bowls:list", "weeks:list", "weeks:favourites")
            ]
        for bowl in Bowl.objects.filter(client__practitioner=self.petra):
            found += [
                reverse(f"bowls:{name}", args=[bowl.pk])
                for name in ("bench", "figures", "print", "table", "weigh")
            ]
        for batch in Batch.objects.filter(practitioner=self.petra):
            found += [
                reverse(f"batches:{name}", args=[batch.pk])
                for name in ("detail", "portions", "fit", "label")
            ]
            found += [
                reverse("batches:export", args=[batch.pk, kind])
                for kind in ("txt", "csv", "jsonld", "pdf")
            ]
        for label in Label.objects.filter(practitioner=self.petra):
            found += [reverse(f"shelf:{name}", args=[label.pk]) for name in ("label", "label-edit")]
        for week in weeks_of(self.petra):
            found += [
                reverse(f"weeks:{name}", args=[week.pk])
                for name in ("week", "print", "versions", "under", "pots")
            ]
            found += [
                reverse("weeks:export", args=[week.pk, kind])
                for kind in ("csv", "json", "xlsx", "ics")
            ]
            found += [reverse("weeks:day", args=[week.pk, day]) for day in range(7)]
        return found

    def unreadable(self) -> tuple[list[str], list[str]]:
        """The pages that do not answer, and those that show something of the other practitioner."""
        broken, leaking = [], []
        for where, answer in self.everything():
            if answer.status_code >= 500:
                broken.append(where)
            if MARK.encode() in answer.content:
                leaking.append(where)
        return broken, leaking
