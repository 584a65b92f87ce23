"""What carries a message to a client. Here it is an outbox that nobody empties: a practice that
has mail puts a class of its own behind `POSTBOX`.
"""

from __future__ import annotations

from typing import Protocol, cast

from django.conf import settings
from django.utils.module_loading import import_string

from roundpantry.clients.models import Client
from roundpantry.handover.models import OutboxMessage


class Postbox(Protocol):
    """Whatever takes messages for clients."""

    def send(self, client: Client, text: str) -> None:
        """Take a message; it may be carried at once or later."""


class SimulatedOutbox:
    """Keeps every message in a table, and sends none."""

    def send(self, client: Client, text: str) -> None:
        """Keep a message."""
        OutboxMessage.objects.create(client=client, text=text)


def postbox() -> Postbox:
    """What carries messages here, by the setting `POSTBOX`."""
    return cast(Postbox, import_string(settings.POSTBOX)())
