"""Today in words: one row a client, and what each needs."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date
from functools import lru_cache
from typing import Any

from django.contrib.auth.models import User
from django.core.paginator import Page, Paginator
from django.template.loader import get_template
from django.urls import reverse

from dietetics.targets.client_needs import Need, needs, urgency
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
ORDERS = ((NEEDS, "what is due"), (NAME, "name"), (OPENED, "last opened"))


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
    "hand-over-due": "week of {on} not handed over",
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
    if need.code.startswith("week") or need.code == "hand-over-due":
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


def _row(client: Client, found: Sequence[Need]) -> ClientRow:
    return ClientRow(
        client.pk,
        client.name,
        f"{client.sex}, {client.age_years} y",
        tuple(client.caution_list),
        tuple(
            (need_words(need), need_address(need, client), need.code == "red-flag")
            for need in found
        ),
        day_text(client.opened_at) if client.opened_at else "never",
    )


@lru_cache(maxsize=4096)
def row_html(row: ClientRow) -> str:
    """A line as HTML, made once for each state of it."""
    return get_template("today/row.html").render({"row": row})


def _page_of(
    user: User, words: str, archived: bool, order: str, number: str | None
) -> Page[tuple[Client, tuple[Need, ...]]]:
    """The clients of one page, each with what they need. By need they are sorted over all pages."""
    pks = list(clients_found(user, words, archived, order).values_list("pk", flat=True))
    if order == NEEDS:
        today = clock.today()
        pressing = sorted(_with_needs(pks), key=lambda row: urgency(row[1], today))
        return Paginator(pressing, PAGE_SIZE).get_page(number)
    page: Page[Any] = Paginator(pks, PAGE_SIZE).get_page(number)
    page.object_list = _with_needs(list(page))
    return page


def _with_needs(pks: Sequence[int]) -> list[tuple[Client, tuple[Need, ...]]]:
    today = clock.today()
    return [(client, needs(state, today)) for client, state in clients_with_states(pks)]


def today_page(user: User, given: Mapping[str, str]) -> dict[str, Any]:
    """One page of clients: the words searched for, the order, and each row with what the client
    needs.
    """
    words, archived = given.get("q", "")[:80].strip(), "archived" in given
    order = given.get("sort", NEEDS) if given.get("sort") in dict(ORDERS) else NEEDS
    page = _page_of(user, words, archived, order, given.get("page"))
    rows = [_row(client, found) for client, found in page.object_list]
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
