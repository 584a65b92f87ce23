"""Changes of state of this app."""

from __future__ import annotations

from collections.abc import Sequence

from django.contrib.auth.models import User
from django.db import connection, transaction

from dietetics.cautions.verdict import Verdict
from dietetics.errors import DieteticsError
from roundpantry.clients.models import (
    Acknowledgement,
    Client,
    FormerName,
    Measurement,
    OwnSchool,
)
from roundpantry.clients.records import PERSON_FACTS, client_mark
from roundpantry.clients.stored_data import erase_mentions
from roundpantry.counter import clock
from roundpantry.counter.state_changes import one_change

MEASURED = (("height", "height_cm"), ("weight", "weight_kg"))


@one_change
def add_client(practitioner: User, **facts: object) -> Client:
    """Store a new client of a practitioner, with the first measurement."""
    client = Client.objects.create(practitioner_id=practitioner.pk, **facts)
    _measure(client)
    return client


@one_change
def change_client(client: Client, mark: str = "", **facts: object) -> Client:
    """Store changed facts; a changed weight or height is a new measurement. Targets stay as they
    are: new ones are proposed where they are shown.

    Raises `client-moved-on` where `mark` is given and is not that of the client as stored now.
    """
    if mark and mark != client_mark(client):
        raise DieteticsError("client-moved-on", client=client.name)
    before = {name: getattr(client, name) for name in PERSON_FACTS}
    if facts.get("name", client.name) != client.name:
        FormerName.objects.create(client=client, name=client.name)
    for name, value in facts.items():
        setattr(client, name, value)
    client.save()
    changed = [kind for kind, name in MEASURED if before[name] != getattr(client, name)]
    _measure(client, changed)
    return client


def _measure(client: Client, kinds: Sequence[str] = ("height", "weight")) -> None:
    """Keep height and weight of the record as measured today."""
    values = {"height": client.height_cm, "weight": client.weight_kg}
    for kind in kinds:
        Measurement.objects.create(
            client=client, kind=kind, day=clock.today(), value=float(values[kind])
        )


@one_change
def archive_client(client: Client, archived: bool) -> None:
    """Put a client away, or take them up again; nothing is lost."""
    client.archived = archived
    client.save(update_fields=["archived"])


@one_change
def note_opened(client: Client) -> None:
    """Note that the practitioner has opened this client; Today shows and sorts by it."""
    client.opened_at = clock.now()
    client.save(update_fields=["opened_at"])


@one_change
def delete_client(client: Client) -> None:
    """Delete a client and everything planned for them, for good, and take their name out of what
    stays.

    Deleted rows are overwritten (secure_delete), and the log, where they still stand, is emptied.
    Copies taken before keep them until they are dropped.
    """
    erase_mentions(client)
    client.delete()
    transaction.on_commit(_empty_the_log)


def _empty_the_log() -> None:
    """Write everything from SQLite's log into the database and cut the log; where others read just
    now, the next time does it.
    """
    with connection.cursor() as cursor:
        cursor.execute("PRAGMA wal_checkpoint(TRUNCATE)")


@one_change
def acknowledge(
    client: Client, scope: str, caution: Verdict, reason: str, by: str
) -> Acknowledgement:
    """Record that somebody took note of a caution, and why they go on."""
    return Acknowledgement.objects.create(
        client=client,
        scope=scope,
        key=caution.key[:80],
        text=caution.text,
        reason=reason,
        by=by,
        measure=caution.measure,
    )


@one_change
def add_school(practitioner: User, **numbers: object) -> OwnSchool:
    """Store a school derived from another."""
    return OwnSchool.objects.create(practitioner_id=practitioner.pk, **numbers)
