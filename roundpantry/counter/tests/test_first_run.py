"""The first login: only with the code, only while nobody can log in."""

from __future__ import annotations

import io
from unittest import mock

from django.contrib.auth import get_user_model
from django.core.management import call_command
from django.urls import reverse

from roundpantry.counter import views
from roundpantry.counter.first_run import add_first_practitioner, first_run_code
from roundpantry.demo.tests.support import ReadsWords

GOOD = {
    "username": "ines", "first_name": "Ines Abara", "password1": "tideline-and-kale",
    "password2": "tideline-and-kale",
}  # fmt: skip


class FirstRun(ReadsWords):
    """An empty database."""

    def send(self, **changes: str):
        """The form, with some of it changed."""
        return self.client.post(reverse("first-run"), {**GOOD, "code": first_run_code(), **changes})

    def test_every_page_leads_there(self) -> None:
        self.assertRedirects(self.client.get(reverse("login")), reverse("first-run"))
        self.assertRedirects(self.client.get("/today/", follow=True), reverse("first-run"))

    def test_the_right_code_makes_a_plain_practitioner_and_logs_in(self) -> None:
        self.assertRedirects(self.send(), reverse("today:today"))
        person = get_user_model().objects.get()
        self.assertEqual(
            (person.is_staff, person.is_superuser, person.first_name), (False, False, "Ines Abara")
        )
        self.assertContains(self.client.get(reverse("today:today")), "Add the starter pantry")

    def test_the_code_is_read_in_any_case_and_spacing(self) -> None:
        self.assertEqual(
            self.send(code=f" {first_run_code().lower().replace('-', ' ')} ").status_code, 302
        )

    def test_a_wrong_code_or_a_weak_password_makes_nobody_and_keeps_what_was_typed(self) -> None:
        for changes, words in (
            ({"code": "AAAAA-AAAAA"}, "not the code"),
            ({"code": ""}, "required"),
            ({"password1": "abc", "password2": "abc"}, "too short"),
            ({"password2": "another-one-entirely"}, "didn’t match"),
            (
                {"username": "tideline", "password1": "tideline-1", "password2": "tideline-1"},
                "too similar",
            ),
        ):
            with self.subTest(words):
                answer = self.send(**changes)
                self.assertContains(answer, words, status_code=422)
                self.assertContains(answer, changes.get("username", "ines"), status_code=422)
        self.assertFalse(get_user_model().objects.exists())

    def test_it_is_closed_once_somebody_can_log_in(self) -> None:
        get_user_model().objects.create_user("first", password="x")
        self.assertRedirects(self.client.get(reverse("first-run")), reverse("login"))
        self.assertRedirects(self.send(), reverse("login"))
        self.assertEqual(get_user_model().objects.count(), 1)

    def test_of_two_at_once_one_is_made(self) -> None:
        def another_was_faster(person):
            get_user_model().objects.create_user("faster", password="x")
            return add_first_practitioner(person)

        with mock.patch.object(views, "add_first_practitioner", another_was_faster):
            self.assertRedirects(self.send(), reverse("login"))
        self.assertEqual(get_user_model().objects.get().username, "faster")

    def test_the_code_is_another_one_for_another_key(self) -> None:
        mine = first_run_code()
        with self.settings(SECRET_KEY="another key of another machine, long enough to be one"):
            self.assertNotEqual(first_run_code(), mine)

    def test_the_terminal_says_it_once(self) -> None:
        out = io.StringIO()
        call_command("first_run_code", stdout=out)
        self.assertIn(first_run_code(), out.getvalue())
        get_user_model().objects.create_user("first", password="x")
        out = io.StringIO()
        call_command("first_run_code", stdout=out)
        self.assertEqual(out.getvalue(), "")
