"""Making logins: no weak password passes, whichever way it comes."""

from __future__ import annotations

import io
from unittest import mock

from django.contrib.auth import authenticate, get_user_model
from django.core.management import CommandError, call_command
from django.test import TestCase


class Logins(TestCase):
    """The command behind ./pantry user, and the one it stands in for."""

    def made(self, name: str, password: str, **more: str) -> str:
        """Make one, and return what is said."""
        out = io.StringIO()
        with mock.patch.dict("os.environ", {"PANTRY_PASSWORD": password}):
            call_command("practitioner", name, stdout=out, **more)
        return out.getvalue()

    def test_a_good_one_can_log_in(self) -> None:
        self.assertIn("can log in", self.made("wren", "seven-boats-at-noon"))
        self.assertIsNotNone(authenticate(username="wren", password="seven-boats-at-noon"))

    def test_weak_ones_are_refused_with_the_reason(self) -> None:
        for password, words in (
            ("abc", "too short"),
            ("", "too short"),
            ("marigoldwren", "too similar"),
            ("1234567890123", "numeric"),
        ):
            with self.assertRaisesMessage(CommandError, words):
                self.made("marigoldwren", password)
        self.assertFalse(get_user_model().objects.exists())

    def test_a_name_is_taken_once(self) -> None:
        self.made("wren", "seven-boats-at-noon")
        with self.assertRaisesMessage(CommandError, "already"):
            self.made("Wren", "eight-boats-at-noon")

    def test_djangos_own_way_is_closed(self) -> None:
        with self.assertRaisesMessage(CommandError, "./pantry user"):
            call_command("createsuperuser")
