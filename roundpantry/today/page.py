"""Today in words: one row a client, and what each needs."""

from __future__ import annotations

from collections.abc import Mapping
from datetime import date
from typing import Any

from django.contrib.auth.models import AbstractBaseUser
from django.core.paginator import Paginator
from django.urls import reverse
from django.utils import timezone

from dietetics.targets.needs import ClientState, Need, needs
from roundpantry.clients.models import Client
from roundpantry.counter.dates import short_day_text
from roundpantry.starter.services import has_starters
from roundpantry.today.records import NAME, NEEDS, OPENED, clients_found, drafts_of, states_of

PAGE_SIZE = 50
ORDERS = ((NAME, "name"), (OPENED, "last opened"), (NEEDS, "needs attention"))


def _day(value: object) -> str:
    assert isinstance(value, date)
    return short_day_text(value)


def _plural(count: object, one: str, more: str) -> str:
    return one if count == 1 else f"{count} {more}"


def need_words(need: Need) -> str:
    """A need in a few words."""
    p: Mapping[str, Any] = need.params
    return {
        "targets-missing": lambda: "set targets",
        "cautions-open": lambda: _plural(p["count"], "1 caution to review", "cautions to review"),
        "targets-conflict": lambda: _plural(p["count"], "1 target conflict", "target conflicts"),
        "week-missing": lambda: "no week planned",
        "week-over": lambda: f"week ended {_day(p['on'])}",
        "week-ends": lambda: f"week ends {_day(p['on'])}",
        "weigh-in-due": lambda: "weigh-in due" if p["days"] is None else f"weigh-in due ({p['days']} days)",
    }[need.code]()


def need_address(need: Need, client: Client) -> str:
    """The page where a need is met."""
    if need.code in ("targets-missing", "targets-conflict"):
        return reverse("targets:edit", args=[client.pk])
    if need.code.startswith("week"):
        return reverse("weeks:list", args=[client.pk])
    return reverse("clients:change" if need.code == "weigh-in-due" else "clients:detail", args=[client.pk])


def _row(client: Client, state: ClientState, today: date) -> dict[str, Any]:
    return {
        "client": client,
        "needs": [(need_words(need), need_address(need, client)) for need in needs(state, today)],
    }


def today_page(user: AbstractBaseUser, given: Mapping[str, str]) -> dict[str, Any]:
    """One page of clients: the words searched for, the order, and each row with what the client needs."""
    words, archived = given.get("q", "")[:80].strip(), "archived" in given
    order = given.get("sort", NAME) if given.get("sort") in dict(ORDERS) else NAME
    page = Paginator(clients_found(user, words, archived, order), PAGE_SIZE).get_page(given.get("page"))
    clients = list(page.object_list)
    states = states_of(clients)
    return {
        "rows": [_row(client, states[client.pk], timezone.localdate()) for client in clients],
        "page": page,
        "words": words,
        "order": order,
        "orders": ORDERS,
        "archived": archived,
        "drafts": drafts_of(user),
        "starters": has_starters(user),
    }
