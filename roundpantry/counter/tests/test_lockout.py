"""Guessing at passwords: names and addresses wait, longer every time; nobody is locked out by a
stranger.
"""

from __future__ import annotations

from datetime import timedelta
from unittest import mock

from django.contrib.auth import get_user_model
from django.http import HttpResponse
from django.test import Client as Browser
from django.test import TestCase, override_settings
from django.urls import reverse

from roundpantry.counter import clock, login_gate
from roundpantry.counter.models import WrongLogins

PASSWORD = "seven-boats-at-noon"
HERE, ELSEWHERE = "192.0.2.7", "198.51.100.1"


class Guessing(TestCase):
    """The login page, tried from addresses and browsers."""

    def setUp(self) -> None:
        login_gate.forget_in_this_process()
        self.addCleanup(login_gate.forget_in_this_process)
        # nobody's wait ends because the machine is slow
        self.enterContext(clock.set_to(clock.now()))
        for name in ("wren", "tern"):
            get_user_model().objects.create_user(name, password=PASSWORD)

    def tried(
        self, name: str, password: str, at: str = HERE, browser: Browser | None = None, **meta: str
    ) -> HttpResponse:
        """What is answered to one try."""
        given = {"username": name, "password": password, "next": "/weeks/"}
        meta = {"REMOTE_ADDR": at, **meta}
        return (browser or Browser()).post(reverse("login"), given, **meta)

    def statuses(self, names: list[str], at: str = ELSEWHERE) -> list[int]:
        """A wrong try for each name."""
        return [self.tried(name, "guess", at).status_code for name in names]

    def test_a_name_waits_after_five_and_twice_as_long_every_time(self) -> None:
        self.assertEqual(self.statuses(["wren"] * 6), [200] * 5 + [429])
        began = clock.now()
        for seconds, wait in ((2, "4"), (6, "8"), (14, "16")):
            with clock.set_to(began + timedelta(seconds=seconds + 1)):
                self.assertEqual(self.tried("wren", "guess", ELSEWHERE).status_code, 200)
                refused = self.tried("wren", PASSWORD, ELSEWHERE)
                self.assertEqual((refused.status_code, refused["Retry-After"]), (429, wait))
                began = clock.now() - timedelta(seconds=seconds)

    def test_a_name_that_does_not_exist_waits_as_well(self) -> None:
        self.assertEqual(self.statuses(["nobody"] * 6), [200] * 5 + [429])

    def test_an_address_waits_whatever_names_it_tries(self) -> None:
        found = self.statuses([f"name-{n}" for n in range(22)])
        self.assertEqual(found, [200] * 20 + [429] * 2)
        self.assertEqual(self.tried("wren", PASSWORD, ELSEWHERE).status_code, 429)
        self.assertEqual(self.tried("wren", PASSWORD, HERE).status_code, 302)

    def test_a_refused_try_is_not_hashed_and_writes_nothing(self) -> None:
        self.statuses(["wren"] * 6)
        before = WrongLogins.objects.count()
        with (
            mock.patch("django.contrib.auth.authenticate") as asked,
            mock.patch("django.contrib.auth.forms.authenticate") as asked_by_form,
        ):
            self.statuses(["wren"] * 20)
        self.assertFalse(asked.called or asked_by_form.called)
        self.assertEqual(WrongLogins.objects.count(), before)

    def test_a_stranger_does_not_lock_a_practitioner_out(self) -> None:
        known = Browser()
        self.assertEqual(self.tried("wren", PASSWORD, HERE, known).status_code, 302)
        self.assertTrue(known.cookies["known-device"]["httponly"])
        for n in range(9):
            self.statuses(["wren"] * 9, f"198.51.100.{n}")
        self.assertEqual(self.tried("wren", PASSWORD, HERE).status_code, 302)  # another browser
        self.statuses(["wren"] * 30, HERE)  # now from the practice's own address
        self.assertEqual(self.tried("wren", PASSWORD, HERE).status_code, 429)
        self.assertEqual(self.tried("wren", PASSWORD, HERE, known).status_code, 302)
        self.assertEqual(self.tried("tern", PASSWORD, HERE).status_code, 302)

    def test_a_known_browser_is_counted_too(self) -> None:
        known = Browser()
        self.tried("wren", PASSWORD, HERE, known)
        known.logout()
        found = [self.tried("wren", "x", HERE, known).status_code for _ in range(6)]
        self.assertEqual(found, [200] * 5 + [429])
        with clock.set_to(clock.now() + timedelta(seconds=3)):
            self.assertEqual(self.tried("wren", PASSWORD, HERE, known).status_code, 302)
            self.assertEqual(self.tried("wren", "x", HERE, known).status_code, 200)

    def test_a_cookie_that_was_made_up_is_nobody(self) -> None:
        forger = Browser()
        forger.cookies["known-device"] = "wren.abc:def"
        self.statuses(["wren"] * 6, ELSEWHERE)
        self.assertEqual(self.tried("wren", "x", ELSEWHERE, forger).status_code, 429)

    def test_a_right_one_starts_the_count_anew(self) -> None:
        for _ in range(3):
            self.assertEqual(self.statuses(["wren"] * 4, HERE), [200] * 4)
            self.assertEqual(self.tried("wren", PASSWORD, HERE).status_code, 302)

    def test_after_a_day_everything_is_forgotten(self) -> None:
        self.statuses(["wren"] * 6)
        with clock.set_to(clock.now() + timedelta(days=1, seconds=1)):
            self.assertEqual(self.statuses(["wren"] * 5), [200] * 5)
            self.assertEqual(WrongLogins.objects.count(), 2)

    def test_without_a_proxy_a_claimed_address_is_not_believed(self) -> None:
        for n in range(20):
            self.tried(f"name-{n}", "x", HTTP_X_FORWARDED_FOR=f"203.0.113.{n}")
        self.assertEqual(self.tried("wren", PASSWORD).status_code, 429)

    @override_settings(PROXIES=1)
    def test_behind_a_proxy_the_address_it_names_is_counted(self) -> None:
        for n in range(20):  # the proxy wrote the last; what stands before it was claimed
            self.tried(f"name-{n}", "x", HTTP_X_FORWARDED_FOR=f"203.0.113.{n}, {ELSEWHERE}")
        for address, status in ((ELSEWHERE, 429), (HERE, 302)):
            answer = self.tried("wren", PASSWORD, HTTP_X_FORWARDED_FOR=address)
            self.assertEqual(answer.status_code, status, address)

    def test_a_flood_is_answered_with_a_line_and_people_with_a_page(self) -> None:
        self.statuses(["wren"] * 5)
        pages = [self.tried("wren", "x", ELSEWHERE) for _ in range(5)]
        kinds = [page["Content-Type"].partition(";")[0] for page in pages]
        self.assertEqual(kinds, ["text/html"] * 3 + ["text/plain"] * 2)
        self.assertContains(pages[-1], "Wait 2 seconds", status_code=429)

    def test_an_address_that_waits_is_refused_before_the_database_is_asked(self) -> None:
        known = Browser()
        self.tried("wren", PASSWORD, ELSEWHERE, known)
        self.statuses([f"name-{n}" for n in range(21)])
        with self.assertNumQueries(0):
            refused = self.tried("another", "x", ELSEWHERE)
        self.assertContains(refused, "Too many wrong passwords", status_code=429)
        self.assertEqual(self.tried("wren", PASSWORD, ELSEWHERE, known).status_code, 302)
        with clock.set_to(clock.now() + timedelta(seconds=3)):
            self.assertEqual(self.tried("another", "x", ELSEWHERE).status_code, 200)

    def test_strangers_leave_a_place_to_wait_for_known_browsers(self) -> None:
        known = Browser()
        self.tried("wren", PASSWORD, HERE, known)
        with mock.patch.object(login_gate, "HASHING_AT_ONCE", 2), login_gate.place_to_hash():
            self.assertEqual(self.tried("tern", PASSWORD, HERE).status_code, 503)
            self.assertEqual(self.tried("wren", PASSWORD, HERE, known).status_code, 302)

    def test_what_was_typed_as_a_name_is_not_stored(self) -> None:
        self.statuses(["my-secret-password"])
        stored = " ".join(WrongLogins.objects.values_list("key", flat=True))
        self.assertNotIn("secret", stored)
        self.assertNotIn(ELSEWHERE, stored)

    def test_the_page_says_how_long_and_keeps_the_name(self) -> None:
        self.statuses(["wren"] * 5)
        page = self.tried("wren", PASSWORD, ELSEWHERE)
        self.assertContains(page, "wait 2 seconds", status_code=429)
        self.assertContains(page, 'value="wren"', status_code=429)
        self.assertContains(page, 'value="/weeks/"', status_code=429)
        self.assertNotContains(page, PASSWORD, status_code=429)

    def test_when_every_place_to_hash_is_taken_it_is_said(self) -> None:
        with (
            mock.patch.object(login_gate, "WAIT_TO_HASH_S", 0.0),
            mock.patch.object(login_gate, "HASHING_AT_ONCE", 1),
            login_gate.place_to_hash(),
        ):
            page = self.tried("wren", PASSWORD)
        self.assertContains(page, "Try again in 5 seconds", status_code=503)
        self.assertFalse(WrongLogins.objects.exists())
        self.assertEqual(self.tried("wren", PASSWORD).status_code, 302)

    def test_the_longest_wait_is_a_quarter_of_an_hour(self) -> None:
        waits = [login_gate.seconds_to_wait(n, 5) for n in range(4, 60)]
        self.assertEqual(waits[:5], [0, 2, 4, 8, 16])
        self.assertEqual(set(waits[10:]), {900})
        self.assertEqual(waits, sorted(waits))
