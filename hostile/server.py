"""The program as it is served, on a home of its own: started, killed and started again, spoken to
by plain requests.
"""

from __future__ import annotations

import fcntl
import http.client
import os
import re
import signal
import socket
import subprocess
import sys
import tempfile
import time
from contextlib import suppress
from pathlib import Path
from urllib.parse import urlencode

from roundpantry.demo.people import PASSWORD
from roundpantry.demo.tests.practice import copy_practice

ROOT = Path(__file__).resolve().parent.parent
SETTINGS = "roundpantry.config.settings.local"
PATIENCE_S = 90.0


def environment(home: Path, port: int = 8471) -> dict[str, str]:
    """What a process of the program is told."""
    plain = {k: v for k, v in os.environ.items() if not k.startswith("PANTRY_")}
    return {
        **plain,
        "PANTRY_HOME": str(home),
        "PANTRY_DATABASE": "demo.sqlite3",
        "PANTRY_PORT": str(port),
        "PANTRY_SECRET_KEY": "for attacks only, never served to people",
        "DJANGO_SETTINGS_MODULE": SETTINGS,
    }


def run(home: Path, *words: str, **told: str) -> subprocess.CompletedProcess[str]:
    """One management command on a home, told some settings more; "" takes one away."""
    command = [sys.executable, "manage.py", *words]
    settings = {k: v for k, v in {**environment(home), **told}.items() if v}
    return subprocess.run(
        command, cwd=ROOT, env=settings, capture_output=True, text=True, check=False
    )


def home_with_demo() -> Path:
    """A fresh home with the made-up practice."""
    fresh = Path(tempfile.mkdtemp(prefix="pantry-attacked-"))
    copy_practice(fresh)
    return fresh


def collect_static_files(home: Path) -> None:
    """Into the folder that all servers of this machine share, so by one process at a time."""
    with (Path(tempfile.gettempdir()) / "pantry-collectstatic.lock").open("w") as lock:
        fcntl.flock(lock, fcntl.LOCK_EX)
        collected = run(home, "collectstatic", "--no-input", "--verbosity", "0")
    if collected.returncode:
        raise RuntimeError(collected.stderr[-2000:])


def free_port() -> int:
    """A port nobody listens at."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


class Server:
    """One server on one home, told some settings more."""

    def __init__(self, home: Path, **told: str) -> None:
        self.home, self.port, self.told = home, free_port(), told
        self.process: subprocess.Popen[bytes] | None = None

    def start(self) -> None:
        """Start it as ./pantry does, its static files collected, and wait until the login page is
        answered.
        """
        collect_static_files(self.home)
        command = [
            sys.executable,
            "-m",
            "gunicorn",
            "roundpantry.config.wsgi",
            "--config",
            "roundpantry/config/gunicorn.py",
        ]
        quiet = {"stdout": subprocess.DEVNULL, "stderr": subprocess.DEVNULL}
        self.process = subprocess.Popen(
            command,
            cwd=ROOT,
            env={**environment(self.home, self.port), **self.told},
            start_new_session=True,
            **quiet,
        )
        ends = time.monotonic() + PATIENCE_S
        while time.monotonic() < ends:
            with suppress(OSError, http.client.HTTPException):
                if Visitor(self.port).get("/login/")[0] == 200:
                    return
            time.sleep(0.1)
        raise RuntimeError("the server did not answer")

    def kill(self) -> None:
        """Kill every process of it at once, as a power cut would."""
        if self.process is not None:
            with suppress(ProcessLookupError):
                os.killpg(self.process.pid, signal.SIGKILL)
            self.process.wait()
            self.process = None


class Visitor:
    """A browser without a screen: keeps cookies, sends the token of the forms along."""

    def __init__(self, port: int) -> None:
        self.port, self.cookies = port, dict[str, str]()

    def copy(self) -> Visitor:
        """The same person in another window."""
        made = Visitor(self.port)
        made.cookies = dict(self.cookies)
        return made

    def request(
        self, method: str, where: str, body: str = "", headers: dict[str, str] | None = None
    ) -> tuple[int, str, str]:
        """The status, where the answer leads, and its text."""
        link = http.client.HTTPConnection("127.0.0.1", self.port, timeout=PATIENCE_S)
        cookies = "; ".join(f"{name}={value}" for name, value in self.cookies.items())
        sent = {
            "Cookie": cookies,
            "X-CSRFToken": self.cookies.get("csrftoken", ""),
            **(headers or {}),
        }
        if method == "POST" and "Content-Type" not in sent:
            sent["Content-Type"] = "application/x-www-form-urlencoded"
        link.request(method, where, body, sent)
        answer = link.getresponse()
        text = answer.read().decode("utf-8", "replace")
        for cookie in answer.headers.get_all("Set-Cookie") or ():
            name, _, value = cookie.split(";")[0].partition("=")
            self.cookies[name] = value
        link.close()
        return answer.status, answer.headers.get("Location") or "", text

    def get(self, where: str) -> tuple[int, str, str]:
        """Fetch a page."""
        return self.request("GET", where)

    def post(self, where: str, htmx: bool = False, **given: str) -> tuple[int, str, str]:
        """Send a form."""
        return self.request(
            "POST", where, urlencode(given), {"HX-Request": "true"} if htmx else None
        )

    def log_in(self, name: str = "petra") -> Visitor:
        """Log in with the password of the made-up practice."""
        self.get("/login/")
        status, where, _ = self.post("/login/", username=name, password=PASSWORD)
        if status != 302:
            raise RuntimeError(f"{name} could not log in: {status}")
        return self

    def first(self, page: str, pattern: str) -> str:
        """The first address on a page that looks like this."""
        found = re.search(pattern, self.get(page)[2])
        if found is None:
            raise RuntimeError(f"{page} holds nothing like {pattern}")
        return found[0]
