"""What every template may use: whose dish it is, and the steps of the rail."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import timedelta
from typing import Any

from django.urls import reverse
from django.utils.functional import SimpleLazyObject

from roundpantry.clients.models import Client
from roundpantry.clients.records import client_in_session
from roundpantry.clients.services import note_opened
from roundpantry.counter import clock
from roundpantry.counter.requests import Request

SESSION_CLIENT = "client_id"
OPENED_AGAIN = timedelta(minutes=10)  # a client that is worked with is not written to on every page


@dataclass(frozen=True)
class Step:
    """A step of the work on the rail, and the letter that goes there after `g`."""

    key: str
    name: str
    address: str
    letter: str
    here: bool


def work_with(request: Request, client: Client) -> None:
    """From now on this client stands at the top left of every page that is nobody's own."""
    request.whose, request.working_with = client, None
    request.session[SESSION_CLIENT] = client.pk


def take_up(request: Request, client: Client) -> None:
    """This page is this client's, and says so. Whom the practitioner works with changes by choice
    alone (`work_with`): a page of somebody else, in another window say, must not change whose
    allergies the next food is held against. Where nobody was chosen, this client is.
    """
    request.whose = client
    if client.opened_at is None or clock.now() - client.opened_at > OPENED_AGAIN:
        note_opened(client)
    if request.session.get(SESSION_CLIENT) == client.pk:
        return
    request.working_with = client_in_session(request.user, request.session.get(SESSION_CLIENT))
    if request.working_with is None:
        work_with(request, client)


def current_client(request: Request) -> Client | None:
    """Whose the page is: the client in its address, else the one that is worked with, or None."""
    if not hasattr(request, "whose"):
        request.whose = client_in_session(request.user, request.session.get(SESSION_CLIENT))
    client: Client | None = request.whose
    return client


def rail_of(app: str, client: Client | None) -> list[Step]:
    """The steps that can be taken now; those of a client lead to the client that stands top
    left.
    """
    entries = [("today", "Today", reverse("today:today"), "h")]
    if client:
        entries += [
            ("clients", "Client", reverse("clients:detail", args=[client.pk]), "c"),
            ("targets", "Targets", reverse("targets:edit", args=[client.pk]), "t"),
        ]
    entries.append(("batches", "Batches", reverse("batches:list"), "b"))
    if client:
        entries.append(("bowls", "Bowls", reverse("bowls:list", args=[client.pk]), "o"))
    entries.append(("compare", "Compare", reverse("compare:plates"), "m"))
    if client:
        entries.append(("weeks", "Week", reverse("weeks:list", args=[client.pk]), "k"))
        entries.append(("prep", "Prep", reverse("prep:of-client", args=[client.pk]), "r"))
        entries.append(("shopping", "Shop", reverse("shopping:of-client", args=[client.pk]), "p"))
        entries.append(
            ("handover", "Hand over", reverse("handover:of-client", args=[client.pk]), "v")
        )
        entries.append(("follow", "Follow", reverse("follow:course", args=[client.pk]), "f"))
    entries.append(("shelf", "Shelf", reverse("shelf:list"), "s"))
    return [Step(key, name, address, letter, key == app) for key, name, address, letter in entries]


def counter(request: Request) -> dict[str, Any]:
    """Template variables, looked up only where a template asks for them."""
    if not request.user.is_authenticated:
        return {}
    match = request.resolver_match
    app = match.app_name if match else ""
    if match and (match.url_name or "").startswith("ladder"):
        app = "shelf"  # the ladder needs bowls to pick into, but it is a picture of the shelf
    return {
        "whose": SimpleLazyObject(lambda: current_client(request)),
        "working_with": getattr(request, "working_with", None),  # where it is somebody else
        "rail": SimpleLazyObject(lambda: rail_of(app, current_client(request))),
    }
