"""Guessing a password: eight tries for a name from an address, then a 15 minutes; nobody else is
locked out.
"""

from __future__ import annotations

from axes.models import AccessAttempt
from django.contrib.auth import get_user_model
from django.test import TestCase, override_settings
from django.urls import reverse

PASSWORD = "seven-boats-at-noon"


@override_settings(AXES_ENABLED=True)
class LockOut(TestCase):
    """The login page."""

    def setUp(self) -> None:
        for name in ("wren", "tern"):
            get_user_model().objects.create_user(name, password=PASSWORD)

    def tried(self, name: str, password: str, **meta: str) -> int:
        """The status of one try."""
        return self.client.post(
            reverse("login"), {"username": name, "password": password}, **meta
        ).status_code

    def test_eight_wrong_ones_lock_the_name_for_that_address_alone(self) -> None:
        self.assertEqual([self.tried("wren", f"guess {n}") for n in range(8)], [200] * 7 + [429])
        self.assertEqual(self.tried("wren", PASSWORD), 429)
        self.assertEqual(self.tried("tern", PASSWORD), 302)
        self.assertEqual(self.tried("wren", PASSWORD, REMOTE_ADDR="192.0.2.7"), 302)

    def test_a_right_one_starts_the_count_anew(self) -> None:
        for _ in range(2):
            self.assertEqual([self.tried("wren", f"guess {n}") for n in range(6)], [200] * 6)
            self.assertEqual(self.tried("wren", PASSWORD), 302)

    def test_without_a_proxy_a_claimed_address_is_not_believed(self) -> None:
        found = [
            self.tried("wren", f"guess {n}", HTTP_X_FORWARDED_FOR=f"192.0.2.{n}") for n in range(8)
        ]
        self.assertEqual(found[-1], 429)

    @override_settings(PROXIES=1)
    def test_behind_a_proxy_the_address_it_names_is_counted(self) -> None:
        for told in (
            "192.0.2.1",
            "198.51.100.{n}, 192.0.2.1",
        ):  # the proxy wrote the last; what stands before it was claimed
            AccessAttempt.objects.all().delete()
            found = [
                self.tried("wren", f"guess {n}", HTTP_X_FORWARDED_FOR=told.format(n=n))
                for n in range(8)
            ]
            self.assertEqual(found[-1], 429, told)
            self.assertEqual(self.tried("wren", PASSWORD, HTTP_X_FORWARDED_FOR="192.0.2.2"), 302)

    def test_the_page_says_how_long(self) -> None:
        for n in range(8):
            self.tried("wren", f"guess {n}")
        answer = self.client.post(reverse("login"), {"username": "wren", "password": "x"})
        self.assertContains(answer, "15 minutes", status_code=429)
