"""Everything about one client as one file that they can take elsewhere: all that is stored, what
each column means, and the booklets as PDF.
"""

from __future__ import annotations

import csv
import io
import json
import zipfile
from collections.abc import Iterator

from django.apps import apps
from django.core.serializers.json import DjangoJSONEncoder
from django.db import models

from dietetics.errors import DieteticsError
from dietetics.handover.booklet import booklet_of_json
from roundpantry.clients.models import Client
from roundpantry.clients.records import client_json
from roundpantry.handover.pdf import booklet_pdf
from roundpantry.handover.records import booklets_of

READ_ME = """Everything that is stored about one client.

client.json   the facts of the client; under "tables" every row that belongs to them, table by
              table; under "named_elsewhere" the texts of the practice that name them.
columns.csv   what each column of client.json holds: its kind, its choices, what it leads to.
booklets/     each booklet that was handed over, as PDF. Its file says the first day of the week
              and the version.

Weights are in kg, lengths in cm, energy in kcal, amounts of food in g, times in UTC.
"""


def everything_of(client: Client) -> bytes:
    """A ZIP file of all that is stored about a client."""
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as file:
        file.writestr("README.txt", READ_ME)
        stored = client_json(client)
        written = json.dumps(stored, cls=DjangoJSONEncoder, indent=1, ensure_ascii=False)
        file.writestr("client.json", written)
        file.writestr("columns.csv", _columns(stored["tables"]))
        for name, content in _booklets(client):
            file.writestr(f"booklets/{name}", content)
    return out.getvalue()


def _columns(tables: dict[str, object]) -> str:
    out = io.StringIO()
    rows = csv.writer(out)
    rows.writerow(("table", "column", "kind", "choices", "leads to"))
    for label in (Client._meta.label_lower, *tables):
        for field in apps.get_model(label)._meta.concrete_fields:
            leads_to = ""
            if isinstance(field, models.ForeignKey):
                leads_to = field.related_model._meta.label_lower
            choices = "; ".join(str(key) for key, _ in field.flatchoices)
            rows.writerow((label, field.attname, _kind_of(field), choices, leads_to))
    return out.getvalue()


def _kind_of(field: models.Field[object, object]) -> str:
    name = field.get_internal_type().removesuffix("Field")
    return f"{name}{', may be empty' if field.null else ''}"


def _booklets(client: Client) -> Iterator[tuple[str, bytes]]:
    """Each booklet as PDF with its file name; what can no longer be read stands in client.json."""
    for row in booklets_of(client):
        try:
            booklet = booklet_of_json(row.content)
        except DieteticsError:
            continue
        name = f"week-{row.week.start.isoformat()}-version-{row.week.version}.pdf"
        yield name, booklet_pdf(booklet)
