"""`./pantry bench`: each pair is measured in turn, many times; medians and their ratio are printed."""

from __future__ import annotations

import sqlite3
import statistics
import time
from collections.abc import Callable
from pathlib import Path

import django
from django.conf import settings

django.setup()
settings.ROOT_URLCONF = "bench.urls"
settings.TEMPLATES[0]["DIRS"] = [Path(__file__).parent / "templates"]

from django.contrib.auth import get_user_model
from django.core.management import call_command
from django.test import Client as Browser
from django.test.utils import setup_test_environment

from dietetics.amounts.reader import LineReader
from dietetics.composition.foods import load_shelf
from dietetics.composition.search import index_of
from dietetics.composition.sums import FoodContent, Item, compose
from dietetics.dishes.recipes import read_recipe

INPUTS = Path(__file__).resolve().parents[1] / "dietetics" / "tests" / "inputs"


def yardstick() -> None:
    """100,000 dictionary reads, multiplications and additions in plain Python."""
    table = {i: i * 0.5 for i in range(100)}
    total = 0.0
    for i in range(100_000):
        total += table[i % 100] * 1.5


def timed(action: Callable[[], object]) -> float:
    """Milliseconds of one call."""
    start = time.perf_counter()
    action()
    return (time.perf_counter() - start) * 1000


def pair(
    name: str, subject: Callable[[], object], base_name: str, base: Callable[[], object], runs: int, goal: str
) -> None:
    """Measure two things in turn and print their medians, the ratio and the 95th percentile."""
    for _ in range(min(10, runs)):
        subject(), base()
    ours, theirs = [], []
    for _ in range(runs):
        ours.append(timed(subject))
        theirs.append(timed(base))
    a, b = statistics.median(ours), statistics.median(theirs)
    p95 = sorted(ours)[int(len(ours) * 0.95) - 1]
    print(f"{name:34} {a:8.3f} ms (p95 {p95:.3f})  ÷ {base_name:24} {b:8.3f} ms  = {a / b:7.2f}   {goal}")


def web() -> None:
    """Requests through the whole stack with the test client."""
    call_command("migrate", verbosity=0)
    call_command("demo")
    setup_test_environment()
    browser = Browser()
    browser.force_login(get_user_model().objects.get(username="petra"))
    from roundpantry.bowls.models import Bowl

    bowl = Bowl.objects.get(name="Tideline bowl")
    part = bowl.parts.get(food_key="quinoa-cooked")
    turn = iter(range(1_000_000))

    def change() -> None:
        steps = 1 if next(turn) % 2 else -1
        answer = browser.post(
            f"/bowls/{bowl.pk}/parts/{part.pk}/step/", {"steps": steps}, headers={"HX-Request": "true"}
        )
        assert answer.status_code == 200

    pair(
        "portion change, 10 parts",
        change,
        "one-query fragment",
        lambda: browser.get("/bench/fragment/"),
        200,
        "goal ≤ 4",
    )
    pair(
        "bench page, whole",
        lambda: browser.get(f"/bowls/{bowl.pk}/"),
        "empty view",
        lambda: browser.get("/bench/empty/"),
        100,
        "",
    )
    batch = bowl.client.practitioner.batches.first()
    pair(
        "batch page, whole",
        lambda: browser.get(f"/batches/{batch.pk}/"),
        "empty view",
        lambda: browser.get("/bench/empty/"),
        60,
        "",
    )


def core() -> None:
    """The core alone."""
    shelf = load_shelf()
    foods = list(shelf)
    week = [[Item.exact(f.key, FoodContent(f), 80.0) for f in foods[i * 8 : i * 8 + 8]] for i in range(21)]
    pair(
        "a week of 21 bowls of 8, all nutrients",
        lambda: [compose(meal) for meal in week],
        "yardstick",
        yardstick,
        60,
        "",
    )

    base = sqlite3.connect(":memory:")
    base.execute("create virtual table names using fts5(key unindexed, name, prefix='2 3')")
    base.executemany("insert into names values (?, ?)", [(f.key, n) for f in foods for n in f.names])
    index = index_of(shelf)
    words = ["quin", "black bea", "rocket", "tofu", "sweet pot", "garb", "kale", "almond b", "lent", "oat"]

    def full_text() -> None:
        for query in words:
            match = " ".join(f'"{w}"*' for w in query.split())
            base.execute("select key, name from names where names match ? limit 60", (match,)).fetchall()

    pair(
        "ten searches",
        lambda: [index.search(q, 12) for q in words],
        "bare full-text queries",
        full_text,
        100,
        "goal ≤ 3",
    )
    wrong = ["chikpea", "spinich", "brocoli", "avacado", "tumeric"]
    pair("five misspelt searches", lambda: [index.search(q, 12) for q in wrong], "yardstick", yardstick, 60, "")
    text = (INPUTS / "lamplighter-beans.txt").read_text(encoding="utf-8")
    reader = LineReader(shelf)
    pair("reading a 13-line recipe", lambda: read_recipe(text, reader), "yardstick", yardstick, 60, "goal < 20 ms")


if __name__ == "__main__":
    core()
    web()
