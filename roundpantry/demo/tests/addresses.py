"""Every named address of the program, and how to fill it with things of one practitioner."""

from __future__ import annotations

from collections.abc import Container
from datetime import date

from django.urls import URLPattern, URLResolver, get_resolver, reverse

from roundpantry.batches.models import Batch, BatchLine
from roundpantry.bowls.models import Bowl, Pattern
from roundpantry.clients.models import Client
from roundpantry.follow.models import TakenProposal, Visit
from roundpantry.handover.links import new_nonce
from roundpantry.handover.models import OutboxMessage, ShareLink
from roundpantry.shelf.models import Correction, ImportDraft, Label
from roundpantry.weeks.models import Search, Week
from roundpantry.weeks.services import add_week

OPEN_TO_ALL = {
    "login",
    "logout",
    "first-run",
    "shared:booklet",
    "shared:answer",
    "shared:worker",
    "shared:calendar",
}
OF_NOBODY = {
    "home",
    "handover:portion-card",
    "handover:outbox",
    "follow:practice",
    "follow:practice-csv",
    "today:today",
    "starter:add",
    "starter:remove",
    "glossary",
    "clients:new",
    "clients:schools",
    "clients:erased",
    "handover:closed-links",
    "batches:list",
    "batches:new",
    "shelf:list",
    "shelf:never-eaten",
    "shelf:usual-day",
    "shelf:food",
    "shelf:compare",
    "shelf:preferences",
    "shelf:label-new",
    "shelf:export-csv",
    "shelf:export-xlsx",
    "shelf:upload",
    "shelf:forget",
    "bowls:ladder",
    "bowls:patterns",
    "compare:plates",
    "bowls:scale",
    "bowls:ladder-food",
}


def all_urls() -> list[tuple[str, URLPattern]]:
    """Every named address of the program."""
    found: list[tuple[str, URLPattern]] = []

    def walk(patterns: list, prefix: str) -> None:
        for entry in patterns:
            if isinstance(entry, URLResolver):
                walk(entry.url_patterns, f"{prefix}{entry.app_name}:" if entry.app_name else prefix)
            else:
                found.append((prefix + entry.name, entry))

    walk(get_resolver().url_patterns, "")
    return found


def arguments(owner: object) -> dict[str, object]:
    """Real identifiers of things that belong to `owner`."""
    client = Client.objects.filter(practitioner=owner).first()
    bowl = Bowl.objects.filter(client=client).first()
    batch = Batch.objects.filter(practitioner=owner).first()
    return {
        "client_pk": client.pk,
        "bowl": bowl.pk,
        "batch": batch.pk,
        "bowl_pk": bowl.pk,
        "batch_pk": batch.pk,
        "part_pk": bowl.parts.first().pk,
        "line_pk": BatchLine.objects.filter(batch=batch).first().pk,
        "number": 0,
        "scope": "serving",
        "kind": "txt",
        "shelf:label": Label.objects.filter(practitioner=owner).first().pk,
        "shelf:forget": Correction.objects.get_or_create(
            practitioner=owner, phrase="x", unit="", food_key="kale-raw"
        )[0].pk,
        "shelf:upload-confirm": ImportDraft.objects.get_or_create(
            practitioner=owner, defaults={"rows": []}
        )[0].pk,
        "bowls:change-pattern": Pattern.objects.get_or_create(
            practitioner=owner, defaults={"roles": []}
        )[0].pk,
        "bowls:draw-pattern": Pattern.objects.filter(practitioner=owner).first().pk,
        "key": "protein_g",
        "week": week_of(client).pk,
        "search_pk": Search.objects.get_or_create(week=week_of(client), defaults={"revision": 1})[
            0
        ].pk,
        "day": 0,
        "meal": 0,
        "what": "clear",
        "section": "beans",
        "family": "kale",
        "link_pk": ShareLink.objects.get_or_create(
            week=week_of(client), defaults={"nonce": new_nonce(), "ends_on": date(2099, 1, 1)}
        )[0].pk,
        "token": "no-such-link",
        "measurement_pk": client.measurements.first().pk,
        "visit_pk": Visit.objects.get_or_create(client=client, day=date(2026, 1, 5))[0].pk,
        "taken_pk": TakenProposal.objects.get_or_create(client=client, code="x")[0].pk,
        "message_pk": OutboxMessage.objects.get_or_create(client=client)[0].pk,
    }


def week_of(client: Client) -> Week:
    """A week of a client, made where there is none."""
    made = client.weeks.first()
    return made or add_week(client, date(2026, 11, 23))


def addresses_of(owner: object, left: Container[str] = OPEN_TO_ALL) -> list[tuple[str, str]]:
    """Every named address but those `left` out, with its name, about things of `owner`'s."""
    ids = arguments(owner)
    return [(name, _filled(name, one, ids)) for name, one in all_urls() if name not in left]


def _filled(name: str, pattern: URLPattern, ids: dict[str, object]) -> str:
    """The address of a page about the things with these identifiers."""
    wanted = pattern.pattern.converters
    own = {"clients": ids["client_pk"], "bowls": ids["bowl"], "batches": ids["batch"]}
    own |= {
        "weeks": ids["week"],
        "shopping": ids["week"],
        "prep": ids["week"],
        "handover": ids["week"],
    }
    own |= {"shelf": ids.get(name, ids["shelf:label"]), "bowls": ids.get(name, ids["bowl"])}
    values = {k: own[name.split(":", maxsplit=1)[0]] if k == "pk" else ids[k] for k in wanted}
    if name == "weeks:pot":
        values["key"] = f"batch-{ids['batch']}"
    if name == "prep:task":
        values["key"] = f"batch-{ids['batch']}-s1-1"
    if name in ("shopping:of-batch", "shopping:of-bowl"):
        values = {"pk": ids["batch" if name == "shopping:of-batch" else "bowl"]}
    if name.startswith("shopping:") and "key" in values:
        values["key"] = "quinoa-dry"
    if name in ("shelf:food", "bowls:ladder-food"):
        values = {"key": "quinoa-cooked"}
    return reverse(name, kwargs=values)
