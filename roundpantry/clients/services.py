"""Changes of state of this app."""

from __future__ import annotations

from django.contrib.auth.models import AbstractBaseUser

from roundpantry.clients.models import Client


def add_client(practitioner: AbstractBaseUser, **facts: object) -> Client:
    """Store a new client of a practitioner."""
    return Client.objects.create(practitioner_id=practitioner.pk, **facts)


def change_client(client: Client, **facts: object) -> Client:
    """Store changed facts of a client."""
    for name, value in facts.items():
        setattr(client, name, value)
    client.save()
    return client
