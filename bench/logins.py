"""How fast a practitioner's pages are while eight senders try passwords with ever-new names: as a
ratio to the same pages on an idle server. Once from one address, and once from a new address with
every try, which no count of tries can slow down.
"""

from __future__ import annotations

import shutil
import statistics
import subprocess
import sys
import time

from hostile.server import Server, Visitor, home_with_demo

SENDERS, ASKED, PAUSE_S = 8, 80, 0.03
PAGES = ("/today/", "/batches/", "/shelf/")


def measured() -> None:
    """Print the 95th percentiles and their ratios."""
    home = home_with_demo()
    server = Server(home, PANTRY_PROXIES="1")
    server.start()
    try:
        petra = Visitor(server.port).log_in()
        _pages_ms(petra)
        idle = _p95(_pages_ms(petra))
        for words, from_anywhere in (("one address", ""), ("ever-new addresses", "new")):
            sender = [sys.executable, "-m", "bench.senders", str(server.port)]
            senders = [
                subprocess.Popen([*sender, str(n), from_anywhere], stdout=subprocess.PIPE)
                for n in range(SENDERS)
            ]
            time.sleep(2.0)
            busy = _p95(_pages_ms(petra))
            for one in senders:
                one.terminate()
            tries = sum(int(one.communicate()[0] or 0) for one in senders)
            print(
                f"pages while {SENDERS} senders try passwords from {words}: p95 "
                f"{busy / idle:.1f} × idle ({idle:.0f} ms), {tries} tries"
            )
    finally:
        server.kill()
        shutil.rmtree(home)


def _p95(found: list[float]) -> float:
    return statistics.quantiles(found, n=20)[-1]


def _pages_ms(visitor: Visitor) -> list[float]:
    found = []
    for number in range(ASKED):
        began = time.perf_counter()
        visitor.get(PAGES[number % len(PAGES)])
        found.append((time.perf_counter() - began) * 1000)
        time.sleep(PAUSE_S)
    return found
