"""Today in words: one row a client, and what each needs."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date
from functools import lru_cache
from typing import Any

from django.contrib.auth.models import User
from django.core.paginator import Paginator
from django.template.loader import get_template
from django.urls import reverse

from dietetics.targets.client_needs import ClientState, Need, needs
from roundpantry.clients.models import Client
from roundpantry.counter import clock
from roundpantry.counter.backups.condition import condition
from roundpantry.counter.dates import day_text, short_day_text
from roundpantry.handover.records import closed_links_of
from roundpantry.starter.services import has_starters
from roundpantry.today.records import (
    NAME,
    NEEDS,
    OPENED,
    clients_found,
    clients_with_states,
    drafts_of,
)

PAGE_SIZE = 50
ORDERS = ((NAME, "name"), (OPENED, "last opened"), (NEEDS, "needs attention"))


def _day(value: object) -> str:
    assert isinstance(value, date)
    return short_day_text(value)


# code -> its words; "{on}" a day, "{count}" how many, with a word of their own for one
NEED_WORDS: Mapping[str, str | tuple[str, str]] = {
    "red-flag": "{text}",
    "targets-missing": "set targets",
    "cautions-open": ("1 caution to review", "{count} cautions to review"),
    "targets-conflict": ("1 target conflict", "{count} target conflicts"),
    "answers-unread": ("1 answer to read", "{count} answers to read"),
    "blood-outside": "blood value outside its range, {on}",
    "visit-overdue": "visit overdue since {on}",
    "visit-due": "visit {on}",
    "week-missing": "no week planned",
    "week-over": "week ended {on}",
    "week-ends": "week ends {on}",
    "weigh-in-due": ("weigh-in due", "weigh-in due ({days} days)"),
}


def need_words(need: Need) -> str:
    """A need in a few words."""
    words, p = NEED_WORDS[need.code], need.params
    if isinstance(words, tuple):
        alone = p.get("count") == 1 or ("days" in p and p["days"] is None)
        words = words[0] if alone else words[1]
    return words.format(**{**p, "on": _day(p["on"])} if "on" in p else p)


def need_address(need: Need, client: Client) -> str:
    """The page where a need is met."""
    if need.code in ("targets-missing", "targets-conflict"):
        return reverse("targets:edit", args=[client.pk])
    if need.code == "answers-unread":
        return reverse("handover:of-client", args=[client.pk])
    if need.code.startswith("week"):
        return reverse("weeks:list", args=[client.pk])
    if need.code.startswith("visit"):
        return reverse("follow:new-visit", args=[client.pk])
    if need.code in ("red-flag", "weigh-in-due", "blood-outside"):
        return reverse("follow:course", args=[client.pk])
    return reverse("clients:detail", args=[client.pk])


@dataclass(frozen=True)
class ClientRow:
    """One line of the list, ready to be drawn."""

    pk: int
    name: str
    person: str
    cautions: tuple[str, ...]
    needs: tuple[tuple[str, str, bool], ...]  # the words, the page, and whether it is a red flag
    opened: str


def _row(client: Client, state: ClientState, today: date) -> ClientRow:
    return ClientRow(
        client.pk,
        client.name,
        f"{client.sex}, {client.age_years} y",
        tuple(client.caution_list),
        tuple(
            (need_words(need), need_address(need, client), need.code == "red-flag")
            for need in needs(state, today)
        ),
        day_text(client.opened_at) if client.opened_at else "never",
    )


@lru_cache(maxsize=4096)
def row_html(row: ClientRow) -> str:
    """A line as HTML, made once for each state of it."""
    return get_template("today/row.html").render({"row": row})


def today_page(user: User, given: Mapping[str, str]) -> dict[str, Any]:
    """One page of clients: the words searched for, the order, and each row with what the client
    needs.
    """
    words, archived = given.get("q", "")[:80].strip(), "archived" in given
    order = given.get("sort", NAME) if given.get("sort") in dict(ORDERS) else NAME
    page = Paginator(
        clients_found(user, words, archived, order).values_list("pk", flat=True), PAGE_SIZE
    ).get_page(given.get("page"))
    today = clock.today()
    rows = [
        _row(client, state, today) for client, state in clients_with_states(list(page.object_list))
    ]
    return {
        "rows": rows,
        "rows_html": [row_html(row) for row in rows],
        "page": page,
        "words": words,
        "order": order,
        "orders": ORDERS,
        "archived": archived,
        "drafts": drafts_of(user),
        "closed_links": closed_links_of(user).count(),
        "copies": condition(),
        "starters": has_starters(user),
    }
