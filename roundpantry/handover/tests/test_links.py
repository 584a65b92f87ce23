"""Links under attack and after a restore, and a client's words whatever is answered to them."""

from __future__ import annotations

import logging
import re
import sqlite3
import tempfile
from contextlib import closing
from datetime import date, timedelta
from pathlib import Path

from django.test import Client as Browser
from django.test import RequestFactory
from django.urls import reverse

from dietetics.handover.booklet import Wishes
from roundpantry.clients.models import Client
from roundpantry.config.logs import WithoutTokens, WithoutWords, without_tokens
from roundpantry.counter import clock
from roundpantry.handover import services
from roundpantry.handover.booklet_made import booklet_of
from roundpantry.handover.closed_links import close_after_restore
from roundpantry.handover.forms import LinkForm
from roundpantry.handover.links import MOST_WRONG, token_of
from roundpantry.handover.models import Answered, ShareLink
from roundpantry.handover.tests.support import Linked
from roundpantry.weeks.models import Week

PROTECTING = {  # of every answer, OWASP Secure Headers Project, 2024
    "X-Content-Type-Options": "nosniff",
    "X-Frame-Options": "DENY",
    "Referrer-Policy": "same-origin",
    "Cross-Origin-Opener-Policy": "same-origin",
}


class Guessed(Linked):
    """Whoever guesses shuts nothing that is right."""

    def test_a_right_link_opens_from_an_address_that_guessed(self) -> None:
        for n in range(MOST_WRONG + 5):
            self.phone.get(f"/s/guess-{n}/")
        self.assertEqual(self.phone.get("/s/guess/").status_code, 429)
        self.assertEqual(self.phone.get(self.address).status_code, 200)
        self.assertEqual(self.send("remark", text="still heard").status_code, 302)

    def test_a_link_ends_between_tomorrow_and_a_year_from_now(self) -> None:
        with clock.set_to(clock.at(date(2027, 2, 27))):
            for ends_on, is_taken in (
                ("2027-02-26", False),
                ("2027-02-27", False),
                ("2027-02-28", True),
                ("2028-02-27", True),
                ("2028-02-28", False),
                ("9999-12-31", False),
            ):
                form = LinkForm({"ends_on": ends_on})
                self.assertEqual(form.is_valid(), is_taken, ends_on)
        self.assertIn("31 Dec 9999 was understood", str(form.errors))

    def test_the_page_refuses_a_wrong_end_and_keeps_it(self) -> None:
        self.client.force_login(self.rower.practitioner)
        address = reverse("handover:give-link", args=[self.week.pk])
        page = self.client.post(address, {"ends_on": "9999-12-31", "allows": ["meals"]})
        self.assertContains(page, "A link ends between tomorrow", status_code=422)
        self.assertContains(page, 'value="9999-12-31"', status_code=422)
        self.assertEqual(ShareLink.objects.count(), 1)


class NumbersDoHarm(Linked):
    """With an eating disorder no page for the client shows figures or asks for a weight by
    itself.
    """

    FIGURES = re.compile(r"\d\s?(?:kcal|kJ)\b|energy \d|protein \d", re.IGNORECASE)

    def test_figures_are_off_and_no_weight_is_asked(self) -> None:
        self.assertRegex(self.phone.get(self.address).content.decode(), self.FIGURES)
        self.rower.conditions = ["eating-disorder"]
        self.rower.save()
        week = Week.objects.get(pk=self.week.pk)
        services.keep_booklet(week, booklet_of(week))
        page = self.phone.get(self.address).content.decode()
        self.assertNotRegex(page, self.FIGURES)
        self.client.force_login(self.rower.practitioner)
        booklet = self.client.get(reverse("handover:booklet", args=[week.pk])).content.decode()
        self.assertNotRegex(booklet, self.FIGURES)
        form = self.client.get(reverse("handover:week", args=[week.pk])).content.decode()
        self.assertIn('value="weight"> enter a weight', form)
        self.assertIn('value="remark" checked>', form)
        self.assertIn("Numbers can do harm", form)

    def test_what_was_made_before_shows_no_figures_either(self) -> None:
        """A booklet with figures went out, and wishes were kept; then the record changed."""
        services.keep_wishes(self.rower, Wishes("all"))
        week = Week.objects.get(pk=self.week.pk)
        services.keep_booklet(week, booklet_of(week))
        self.assertRegex(self.phone.get(self.address).content.decode(), self.FIGURES)
        self.rower.conditions = ["eating-disorder"]
        self.rower.save()
        page = self.phone.get(self.address).content.decode()
        self.assertNotRegex(page, self.FIGURES)
        self.assertNotRegex(page, r"kg a week")
        self.assertIn("eat well and regularly", page)
        # figures that the practitioner chooses when the page tells of the harm are shown
        services.keep_wishes(Client.objects.get(pk=self.rower.pk), Wishes("main"))
        week = Week.objects.get(pk=self.week.pk)
        services.keep_booklet(week, booklet_of(week))
        self.assertRegex(self.phone.get(self.address).content.decode(), self.FIGURES)

    def test_otherwise_a_weight_is_asked(self) -> None:
        self.client.force_login(self.rower.practitioner)
        form = self.client.get(reverse("handover:week", args=[self.week.pk])).content.decode()
        self.assertIn('value="weight" checked> enter a weight', form)
        self.assertNotIn("Numbers can do harm", form)


class NotInTheLog(Linked):
    """Who reads a log can open nothing."""

    def test_the_address_of_a_link_is_cut(self) -> None:
        token = token_of(self.link)
        for text in (f"/s/{token}/", f"GET /s/{token}/answer/?x=1 HTTP/1.1", f"/s/{token}"):
            self.assertNotIn(token[6:], without_tokens(text))
            self.assertNotIn(self.link.nonce[8:], without_tokens(text))
        self.assertEqual(without_tokens("/clients/4/"), "/clients/4/")

    def test_in_errors_of_the_program_and_of_the_server(self) -> None:
        request = RequestFactory().get(self.address)
        failed = logging.makeLogRecord({"msg": "failed", "request": request})
        slow = logging.makeLogRecord({"msg": "slow: %s", "args": (self.address,)})
        unread = logging.makeLogRecord({"msg": "Error handling %s", "args": (self.address,)})
        self.assertTrue(WithoutTokens().filter(unread))
        for line in (
            WithoutWords().format(failed),
            WithoutWords().format(slow),
            unread.getMessage(),
        ):
            self.assertIn("/s/", line)
            self.assertNotIn(self.link.nonce[8:], line)


class Headers(Linked):
    """The same headers, whatever the status."""

    def test_every_status_has_them(self) -> None:
        self.phone.raise_request_exception = False
        strict = Browser(enforce_csrf_checks=True)
        answers = {
            200: self.phone.get(self.address),
            302: self.phone.get("/today/"),
            400: self.phone.post(
                f"{self.address}answer/", "kind=x", content_type="text/plain; charset=utf-16"
            ),
            403: strict.post("/login/", {"username": "petra", "password": "x"}),
            404: self.phone.get("/s/nothing/"),
            405: self.phone.get(f"{self.address}answer/"),
            422: self.send("remark", text=""),
        }
        with self.settings(ROOT_URLCONF="roundpantry.handover.tests.failing_urls"):
            answers[500] = self.phone.get("/fails/")
        for status, answer in answers.items():
            with self.subTest(status):
                self.assertEqual(answer.status_code, status)
                for name, value in PROTECTING.items():
                    self.assertEqual(answer.get(name), value, name)
                self.assertIn("default-src 'none'", answer.get("Content-Security-Policy", ""))
                if status != 302:
                    self.assertIn("no-store", answer.get("Cache-Control", ""))

    def test_every_answer_under_a_link_is_kept_by_nobody(self) -> None:
        for address in (
            self.address,
            "/s/x/",
            f"{self.address}answer/",
            f"{self.address}worker.js",
        ):
            answer = self.phone.get(address)
            self.assertEqual(answer["Cache-Control"], "private, no-store")
            self.assertIn("noindex", answer["X-Robots-Tag"])


class WordsOfAClient(Linked):
    """What a client wrote is taken, or shown back."""

    def test_taken_from_a_browser_without_cookies_and_scripts(self) -> None:
        phone = Browser(enforce_csrf_checks=True)
        for headers in ({}, {"Origin": "null"}, {"Sec-Fetch-Site": "same-origin"}):
            sent = {"kind": "remark", "text": f"with {headers}"}
            answer = phone.post(f"{self.address}answer/", sent, headers=headers)
            self.assertEqual(answer.status_code, 302, headers)
        self.assertEqual(Answered.objects.count(), 3)
        self.assertFalse(phone.cookies)

    def test_another_website_is_refused_and_the_words_are_shown(self) -> None:
        sent = {"kind": "remark", "text": "from elsewhere"}
        answer = self.phone.post(
            f"{self.address}answer/", sent, headers={"Sec-Fetch-Site": "cross-site"}
        )
        self.assertContains(answer, "from elsewhere", status_code=403)
        self.assertFalse(Answered.objects.exists())

    def test_shown_back_where_the_link_is_over_or_too_many_guessed(self) -> None:
        services.withdraw_link(self.link)
        words = "The soup was <b>thin</b>."
        for status in (404, 429):
            page = self.send("remark", text=words)
            self.assertContains(page, "The soup was &lt;b&gt;thin", status_code=status)
            self.assertEqual(page["X-Booklet"], "none")
            for n in range(MOST_WRONG):
                self.phone.get(f"/s/guess-{n}/")

    def test_the_page_says_when_its_booklet_was_made(self) -> None:
        before = self.phone.get(self.address)["X-Booklet"]
        self.assertEqual(self.phone.get(self.address)["X-Booklet"], before)
        services.keep_booklet(self.week, services.stored_booklet(self.week))
        self.assertGreater(self.phone.get(self.address)["X-Booklet"], before)
        self.assertNotIn("X-Booklet", self.phone.get(f"{self.address}calendar.ics"))


class AfterARestore(Linked):
    """Nothing that was withdrawn comes to life; the practitioner opens the rest."""

    def before(self, rows: list[tuple[str, str | None]]) -> Path:
        """A database as it stood before: links with when they were withdrawn."""
        folder = tempfile.TemporaryDirectory()
        self.addCleanup(folder.cleanup)
        file = Path(folder.name) / "before.sqlite3"
        with closing(sqlite3.connect(file)) as there:
            there.execute("CREATE TABLE handover_sharelink (nonce TEXT, withdrawn_at TEXT)")
            there.executemany("INSERT INTO handover_sharelink VALUES (?, ?)", rows)
            there.commit()
        return file

    def test_what_is_not_known_to_be_open_is_closed(self) -> None:
        ends = clock.today() + timedelta(days=7)
        withdrawn_since, unknown = (services.give_link(self.week, ends, []) for _ in range(2))
        before = self.before(
            [(self.link.nonce, None), (withdrawn_since.nonce, "2026-11-30"), ("another", None)]
        )
        self.assertEqual(close_after_restore(before), (2, 1))
        for link, status in ((self.link, 200), (withdrawn_since, 404), (unknown, 404)):
            self.assertEqual(self.phone.get(f"/s/{token_of(link)}/").status_code, status)

    def test_where_nobody_can_tell_every_link_is_closed(self) -> None:
        self.assertEqual(close_after_restore(None), (1, 0))
        self.assertEqual(self.phone.get(self.address).status_code, 404)

    def test_closed_twice_it_stays_closed(self) -> None:
        close_after_restore(None)
        file = self.before([(self.link.nonce, None)])
        with closing(sqlite3.connect(file)) as there:
            there.execute("ALTER TABLE handover_sharelink ADD COLUMN closed_by_restore_at TEXT")
            there.execute("UPDATE handover_sharelink SET closed_by_restore_at = '2026-11-30'")
            there.commit()
        self.assertEqual(close_after_restore(file), (1, 0))

    def test_today_leads_to_them_and_one_press_opens_one(self) -> None:
        close_after_restore(None)
        self.client.force_login(self.rower.practitioner)
        self.assertContains(self.client.get("/today/"), "1 link of your clients was closed")
        page = self.client.get(reverse("handover:closed-links"))
        self.assertContains(page, "Maren Okafor")
        press = reverse("handover:after-restore", args=[self.link.pk])
        self.assertEqual(self.client.post(press, {"do": "open"}).status_code, 302)
        self.assertEqual(self.phone.get(self.address).status_code, 200)
        self.assertEqual(self.client.post(press, {"do": "open"}).status_code, 404)
        close_after_restore(None)
        self.client.post(press, {"do": "withdraw"})
        self.assertEqual(self.phone.get(self.address).status_code, 404)
        self.assertNotContains(self.client.get("/today/"), "closed when a copy")
