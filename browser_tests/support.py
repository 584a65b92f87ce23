"""A live server with the made-up practice, and a browser that tells what it complained about."""

from __future__ import annotations

import os
import threading
from collections.abc import Callable
from contextlib import suppress
from functools import cache
from pathlib import Path
from typing import Any, ClassVar

from django.conf import settings
from django.contrib.auth import get_user_model
from django.contrib.staticfiles.testing import StaticLiveServerTestCase
from django.core.signals import request_finished, request_started
from django.db import OperationalError
from playwright.sync_api import Browser, BrowserContext, Page, expect, sync_playwright

from roundpantry.counter import clock
from roundpantry.demo.tests.practice import load_practice
from roundpantry.demo.tests.support import clock_of_a_class

os.environ.setdefault("DJANGO_ALLOW_ASYNC_UNSAFE", "true")
ARGUMENTS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]
POLL_MS = 50
ANSWERED_S = 180  # a proof that a page asked for and left takes its time
PATIENCE_MS = 30_000  # a busy machine is no failure: nothing here tests how fast something is
expect.set_options(timeout=PATIENCE_MS)
AXE = Path(__file__).parent / "vendor" / "axe.min.js"


class UnderWay:
    """The requests that the live server is answering, by thread: a database is not emptied under
    one of them.
    """

    def __init__(self) -> None:
        self.changed = threading.Condition()
        self.threads: set[int] = set()
        request_started.connect(self._begun, weak=False)
        request_finished.connect(self._done, weak=False)

    def _begun(self, environ: dict[str, Any] | None = None, **_: object) -> None:
        if environ is not None:
            with self.changed:
                self.threads.add(threading.get_ident())

    def _done(self, **_: object) -> None:
        with self.changed:
            self.threads.discard(threading.get_ident())
            self.changed.notify_all()

    def _none(self) -> bool:
        return not self.threads & {one.ident for one in threading.enumerate()}

    def wait_for_none(self) -> bool:
        """True as soon as every request is answered."""
        with self.changed:
            return self.changed.wait_for(self._none, ANSWERED_S)


UNDER_WAY = UnderWay()


@cache
def the_browser(_process: int) -> Browser:
    """The browser of this process; each test has a context of its own in it, which shares nothing
    with another. It ends with the process.

    Chromium does not start under the library that sets the clock of the tests; its pages are told
    the time instead (`set_clock`).
    """
    playwright = sync_playwright().start()
    plain = {name: value for name, value in os.environ.items() if name != "LD_PRELOAD"}
    return playwright.chromium.launch(
        executable_path="/usr/bin/chromium", args=ARGUMENTS, env=plain
    )


def set_clock(context: BrowserContext) -> None:
    """Let the pages of a context have the day of the tests, where it is not the machine's."""
    if "FAKETIME" in os.environ:
        context.clock.install(time=clock.now())


class BrowserTestCase(StaticLiveServerTestCase):
    """One context a test, logged in as Petra; console errors fail the test."""

    viewport: ClassVar[dict[str, int]] = {"width": 1280, "height": 800}
    context_options: ClassVar[dict[str, Any]] = {}

    @classmethod
    def setUpClass(cls) -> None:
        cls.enterClassContext(clock_of_a_class())
        super().setUpClass()

    def setUp(self) -> None:
        self.fill_database()
        self.complaints: list[str] = []
        self.context: BrowserContext = the_browser(os.getpid()).new_context(
            viewport=self.viewport, **self.context_options
        )
        set_clock(self.context)
        self.page: Page = self.context.new_page()
        self.page.set_default_timeout(PATIENCE_MS)
        self.page.on(
            "console", lambda m: self.complaints.append(m.text) if m.type == "error" else None
        )
        self.page.on("pageerror", lambda e: self.complaints.append(str(e)))
        self.log_in()

    def fill_database(self) -> None:
        """What is there before the browser opens: the made-up practice."""
        load_practice()

    def log_in(self) -> None:
        """Log in as Petra, with a session instead of the form (`test_leaving` uses the form); no
        page is opened yet.
        """
        self.client.force_login(get_user_model().objects.get(username="petra"))
        session = self.client.cookies[settings.SESSION_COOKIE_NAME].value
        cookie = {"name": settings.SESSION_COOKIE_NAME, "value": session}
        self.context.add_cookies([{**cookie, "url": self.live_server_url}])

    def tearDown(self) -> None:
        self.context.close()
        self.assertTrue(UNDER_WAY.wait_for_none(), "a request was never answered")
        unexpected = [c for c in self.complaints if "422" not in c]
        self.assertEqual(unexpected, [], "the browser complained")

    def go(self, path: str) -> None:
        """Open an address of the program."""
        self.page.goto(self.live_server_url + path)

    def press_for(self, key: str, address: str) -> None:
        """Press a key and wait for the answer it asks the server for, then for the page to take it
        in.
        """
        with self.page.expect_response(lambda response: address in response.url):
            self.page.keyboard.press(key)
        self.settle()

    def until(self, done: Callable[[], bool], what: str) -> None:
        """Look again and again until something is so; no clock decides, only the patience of all
        these tests.
        """
        for _ in range(PATIENCE_MS // POLL_MS):
            with suppress(
                OperationalError
            ):  # the server writes just now; the shared memory database says so
                if done():
                    return
            self.page.wait_for_timeout(POLL_MS)
        self.fail(f"it never came to this: {what}")

    def settle(self) -> None:
        """Wait until htmx has nothing under way."""
        self.page.wait_for_function(
            "() => !document.querySelector('.htmx-request, .htmx-swapping, .htmx-settling')",
            polling=POLL_MS,
        )

    def axe(self) -> None:
        """Fail on anything axe-core finds against WCAG 2.2 A and AA."""
        self.page.evaluate(AXE.read_text(encoding="utf-8"))
        tags = ["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"]
        found = self.page.evaluate(
            "tags => axe.run({runOnly: {type: 'tag', values: tags}, resultTypes: ['violations']})",
            tags,
        )
        problems = [(v["id"], [n["target"] for n in v["nodes"]][:4]) for v in found["violations"]]
        self.assertEqual(problems, [], self.page.url)
