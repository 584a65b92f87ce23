"""Seeded requests over every address, with rubbish in every field and in the request itself:
answered, readable, nothing leaked.

What a request changes stays for the next ones, so that a page is also asked for after whatever was
done to it; from time to time everything is looked through and put back.
"""

from __future__ import annotations

import random
from collections.abc import Sequence
from urllib.parse import quote_plus

from django.db import transaction
from django.urls import reverse

from hostile import LONG, SEED, again, sample
from hostile.practice import MARK, Attacked, digest_of, references_to
from roundpantry.demo.tests.addresses import addresses_of
from roundpantry.demo.tests.test_hostile_input import RUBBISH, SENSIBLE, watched
from roundpantry.weeks.models import Week
from roundpantry.weeks.services import ACTIONS

REQUESTS, EACH = (10_000, 500) if LONG else (40, 40)
ALONE = 40 if LONG else 1  # values tried in each field alone
WORSE = (
    "9" * 5000, "-" + "9" * 5000, "0." + "1" * 5000, "Infinity", "-Infinity", "NaN", "1e999999",
    "\r", "a\rb", "\n" * 2000, "x" * 200_000,
    "<" * 20_000, "=cmd|' /C calc'!A0", "＝1+1", "＠SUM(1)", "\x01\x02\x1b", "\u202e", "\ufffe",
    "a\u0000b", "9999-12-31", "0001-01-01",
    "2026-11-23", "Home", "home", "{}", "[[[[", '{"a":' * 200, "../../etc/passwd", "own-", "own--",
    "own-1-", "food:", "drink:", "batch:",
    "dish-", "²³", "１２", "1,5", "1/0", "0/0", "∞", "½½", "12345678901234567890 g", "1 cup " * 300,
    "100 %", "on",
)  # fmt: skip
SURROGATE = "%ED%A0%80"  # broken character: no text at all
BODIES: Sequence[tuple[str, bytes]] = (
    ("application/x-www-form-urlencoded; charset=utf-7", b"name=+AAA-&dish=+"),
    ("application/x-www-form-urlencoded; charset=utf-7", b"name=+&amount=\xff"),
    ("application/x-www-form-urlencoded; charset=nonsense", b"a=b"),
    ("application/json", b"{"), ("application/json; charset=utf-16", b"\x00"),
    ("multipart/form-data", b"--x"),
    ("multipart/form-data; boundary=x",
    b"--x\r\nContent-Disposition: form-data; name=\"file\"; filename=\"a.csv\"\r\n\r\n"),
    ("multipart/form-data; boundary=" + "x" * 300, b"x"), ("text/xml", b"<a/>"), ("", b"\xff\xfe"),
    ("application/x-www-form-urlencoded", b"name=" + SURROGATE.encode()),
    ("application/x-www-form-urlencoded", b"&".join(b"a%d=1" % n for n in range(1500))),
    ("application/x-www-form-urlencoded; charset=utf-16",
    "name=x&start=2026-11-23".encode("utf-16")),
)  # fmt: skip
VALUES = (*RUBBISH, *WORSE)


class SeededRequests(Attacked):
    """One of a million tries: what is sent is drawn by a seed, so that what breaks is found
    again.
    """

    def setUp(self) -> None:
        super().setUp()
        self.random = random.Random(SEED)
        self.fields: dict[tuple[str, str], list[str]] = {}
        self.addresses = [where for _, where in addresses_of(self.petra)]
        self.week = Week.objects.filter(client__practitioner=self.petra, frozen_at=None).first()
        self.addresses += [reverse("weeks:act", args=[self.week.pk, what]) for what in ACTIONS]
        self.values = [*VALUES, *references_to(self.joon), *references_to(self.petra)]

    def fields_of(self, where: str, method: str) -> list[str]:
        """The names an address looks for, found once by watching it."""
        if (where, method) not in self.fields:
            names: set[str] = set()
            point = transaction.savepoint()
            with watched(names):
                getattr(self.client, method)(where, SENSIBLE, headers={"HX-Request": "true"})
            transaction.savepoint_rollback(point)
            self.fields[where, method] = sorted(names - {"csrfmiddlewaretoken"})
        return self.fields[where, method]

    def drawn(self) -> tuple[str, int, bytes]:
        """One request drawn and sent: what it was, and what came back."""
        draw, where = self.random, self.random.choice(self.addresses)
        method = draw.choice(("get", "post", "post", "post"))
        headers = {"HX-Request": "true"} if draw.random() < 0.7 else {}
        if draw.random() < 0.12:
            content_type, body = draw.choice(BODIES)
            answer = self.client.generic(
                "POST", where, body, content_type=content_type, headers=headers
            )
            return f"post {where} {content_type} {body[:30]!r}", answer.status_code, answer.content
        if draw.random() < 0.03:
            other = draw.choice(("put", "delete", "patch", "head", "options"))
            answer = getattr(self.client, other)(where)
            return f"{other} {where}", answer.status_code, answer.content
        revision = Week.objects.filter(pk=self.week.pk).values_list("revision", flat=True).first()
        given = (
            {**SENSIBLE, "revision": str(revision), "because": "drawn"}
            if draw.random() < 0.7
            else {}
        )
        fields = self.fields_of(where, method)
        for field in (
            draw.sample(fields, draw.choice((1, 1, 2, len(fields)))) if len(fields) > 1 else fields
        ):
            given[field] = draw.choice(self.values)
        coded = "&".join(f"{quote_plus(k)}={quote_plus(v)}" for k, v in given.items())
        if given and draw.random() < 0.04:
            coded += f"&{draw.choice(sorted(given))}={SURROGATE}"
        if method == "get":
            answer = self.client.get(f"{where}?{coded[:8000]}", headers=headers)
        else:
            answer = self.client.post(
                where, coded, content_type="application/x-www-form-urlencoded", headers=headers
            )
        content = b"" if answer.streaming else answer.content
        odd = {name: value[:24] for name, value in given.items() if value != SENSIBLE.get(name)}
        return f"{method} {where} {odd}", answer.status_code, content

    def test_a_body_that_is_no_form_is_refused_everywhere(self) -> None:
        broken, sent = [], 0
        for where in sample("bodies", self.addresses, 0.15):
            for n in range(len(BODIES) if LONG else 3):
                content_type, body = BODIES[(sent + n) % len(BODIES)]
                answer = self.client.generic("POST", where, body, content_type=content_type)
                if answer.status_code >= 500:
                    broken.append(f"{where} {content_type} {body[:20]!r}")
            sent += n + 1
        print(f"\nbodies that are no form: {sent} sent, {len(broken)} broken")
        self.assertEqual(broken[:30], [], again())

    def test_each_field_alone_among_sensible_ones_is_answered(self) -> None:
        broken, sent = [], 0
        base = {**SENSIBLE, "because": "drawn"}
        for where in sample("fields alone", self.addresses, 0.05):
            for method in ("get", "post"):
                for field in self.fields_of(where, method):
                    for n in range(ALONE):
                        value = WORSE[(sent + n) % len(WORSE)]
                        if method == "get" and len(value) > 8000:
                            continue
                        revision = (
                            Week.objects.filter(pk=self.week.pk)
                            .values_list("revision", flat=True)
                            .first()
                        )
                        point = transaction.savepoint()
                        answer = getattr(self.client, method)(
                            where, {**base, "revision": str(revision), field: value}
                        )
                        transaction.savepoint_rollback(point)
                        if answer.status_code >= 500:
                            broken.append(f"{method} {where} {field}={value[:20]!r}")
                    sent += ALONE
        print(f"\neach field alone: {sent} sent, {len(broken)} broken")
        self.assertEqual(broken[:30], [], again())

    def test_whatever_is_sent_is_answered_and_what_is_stored_is_shown(self) -> None:
        theirs = digest_of(self.joon)
        broken: list[str] = []
        leaks: list[str] = []
        for _ in range(REQUESTS // EACH):
            point = transaction.savepoint()
            for _ in range(EACH):
                what, code, content = self.drawn()
                if code >= 500:
                    broken.append(what)
                if MARK.encode() in content:
                    leaks.append(what)
            unreadable, leaking = self.unreadable()
            broken += [f"afterwards {page}" for page in unreadable]
            leaks += [f"afterwards {page}" for page in leaking]
            transaction.savepoint_rollback(point)
            self.client.force_login(self.petra)
        print(f"\nseeded requests: {REQUESTS} sent, {len(broken)} broken, {len(leaks)} leaks")
        self.assertEqual((broken[:30], leaks[:10]), ([], []), again())
        self.assertEqual(digest_of(self.joon), theirs)
