"""How fast the login page is while others weigh, send recipes and search: as a ratio to the same
page on an idle server.
"""

from __future__ import annotations

import re
import shutil
import statistics
import threading
import time

from hostile.server import Server, Visitor, home_with_demo

TABS, RECIPES, SEARCHES, ASKED = 20, 4, 10, 60
POLL_S = 0.5  # how often a weighing tab asks the scale
RECIPE = "<html>" + "<" * 200_000 + "x" * 200_000  # 400 kB that held a worker for minutes once


def measured() -> None:
    """Print the medians and their ratio."""
    home = home_with_demo()
    server = Server(home)
    server.start()
    over = threading.Event()
    try:
        petra = Visitor(server.port).log_in()
        idle = _login_ms(server.port)
        waiting = [threading.Thread(target=_weigh, args=(petra.copy(), over)) for _ in range(TABS)]
        waiting += [
            threading.Thread(target=_send_recipe, args=(petra.copy(),)) for _ in range(RECIPES)
        ]
        for one in waiting:
            one.start()
        client = petra.first("/today/", r"/clients/\d+/")
        week = petra.first(f"/weeks/of/{client.split('/')[2]}/", r"/weeks/\d+/")
        for _ in range(SEARCHES):
            petra.post(f"{week}search/", htmx=True, seconds="60")
        busy = _login_ms(server.port)
    finally:
        over.set()
        for one in waiting:
            one.join()
        server.kill()
        shutil.rmtree(home)
    middle, busy_middle = statistics.median(idle), statistics.median(busy)
    print(
        f"login page with {TABS} weighing tabs, {RECIPES} recipes of 400 kB and {SEARCHES} "
        "presses of Search: "
        f"median {busy_middle / middle:.1f} × idle ({middle:.0f} ms), worst "
        f"{max(busy) / middle:.0f} ×"
    )


def _login_ms(port: int) -> list[float]:
    found = []
    for _ in range(ASKED):
        began = time.perf_counter()
        Visitor(port).get("/login/")
        found.append((time.perf_counter() - began) * 1000)
        time.sleep(0.05)
    return found


def _weigh(tab: Visitor, over: threading.Event) -> None:
    while not over.wait(POLL_S):
        tab.get("/bowls/scale/")


def _send_recipe(window: Visitor) -> None:
    token = re.search(r'name="csrfmiddlewaretoken" value="([^"]+)"', window.get("/batches/new/")[2])
    fields = [("csrfmiddlewaretoken", token[1] if token else ""), ("text", ""), ("title", "")]
    edge = "edge-of-a-part"
    parts = [
        f'--{edge}\r\nContent-Disposition: form-data; name="{name}"\r\n\r\n{value}\r\n'
        for name, value in fields
    ]
    parts.append(
        f'--{edge}\r\nContent-Disposition: form-data; name="file"; '
        f'filename="a.html"\r\n\r\n{RECIPE}\r\n--{edge}--\r\n'
    )
    window.request(
        "POST",
        "/batches/new/",
        "".join(parts),
        {"Content-Type": f"multipart/form-data; boundary={edge}"},
    )
