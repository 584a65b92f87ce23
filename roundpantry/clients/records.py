"""Queries of this app: a practitioner's own clients and nobody else's."""

from __future__ import annotations

from django.contrib.auth.models import AbstractBaseUser, AnonymousUser
from django.db.models import QuerySet

from roundpantry.clients.models import Client


def clients_of(user: AbstractBaseUser | AnonymousUser) -> QuerySet[Client]:
    """The clients of a practitioner; an anonymous user has none."""
    return Client.objects.filter(practitioner_id=user.pk) if user.is_authenticated else Client.objects.none()


def client_in_session(user: AbstractBaseUser | AnonymousUser, pk: int | None) -> Client | None:
    """The client last worked with, if it is still this practitioner's."""
    return clients_of(user).filter(pk=pk).first() if pk else None
