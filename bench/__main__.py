"""`./pantry bench`: each pair is measured in turn, many times; medians and their ratio are
printed.
"""

from __future__ import annotations

import itertools
import random
import sqlite3
import statistics
import time
from collections.abc import Callable, Iterator
from datetime import date, timedelta
from pathlib import Path
from typing import Any

import django
from django.conf import settings

django.setup()
settings.ROOT_URLCONF = "bench.urls"
settings.TEMPLATES[0]["DIRS"] = [Path(__file__).parent / "templates"]

from django.contrib.auth import get_user_model
from django.core.management import call_command
from django.db import connection
from django.test import Client as Browser
from django.test.utils import CaptureQueriesContext, setup_test_environment

from bench import evenings, growth, load, logins
from bench.weeks import measured
from dietetics.amounts.grammar import forget_amounts
from dietetics.amounts.line_reader import LineReader
from dietetics.amounts.phrases import read_phrase
from dietetics.amounts.weighing import Scales
from dietetics.balance.answer import balance
from dietetics.balance.question import Question, items_of, nutrient_rule
from dietetics.balance.question_parts import part_of_food
from dietetics.balance.solver import MOST_NODES, fresh_solver, highs_lp
from dietetics.balance.solver_program import sheet
from dietetics.composition.foods import load_shelf
from dietetics.composition.search import index_of
from dietetics.composition.sums import FoodContent, Item, compose
from dietetics.dishes.recipes import read_recipe
from dietetics.targets.windows import Window
from headless.__main__ import evaluation

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
    name: str,
    subject: Callable[[], object],
    base_name: str,
    base: Callable[[], object],
    runs: int,
    goal: str,
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
    print(
        f"{name:34} {a:8.3f} ms (p95 {p95:.3f})  ÷ {base_name:24} {b:8.3f} ms  = {a / b:7.2f}   "
        f"{goal}"
    )


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
            f"/bowls/{bowl.pk}/parts/{part.pk}/step/",
            {"steps": steps},
            headers={"HX-Request": "true"},
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
    pair(
        "b pressed, 10 parts, whole answer",
        lambda: browser.post(f"/bowls/{bowl.pk}/balance/", headers={"HX-Request": "true"}),
        "empty view",
        lambda: browser.get("/bench/empty/"),
        40,
        "< 80 ms",
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
    today_pages()
    week_pages(browser)


def today_pages() -> None:
    """Today with a thousand clients and with twenty, each of a practitioner of their own."""
    from roundpantry.clients.models import Client, Measurement

    browsers = {}
    for size in (20, 1000):
        user = get_user_model().objects.create_user(f"has{size}")
        facts = {
            "sex": "female",
            "age_years": 50,
            "height_cm": 165,
            "weight_kg": 70,
            "practitioner": user,
        }
        made = Client.objects.bulk_create(
            Client(
                name=f"Client {n:04}",
                conditions=["ckd-3", "diabetes-2"] if n % 3 == 0 else [],
                **facts,
            )
            for n in range(size)
        )
        Measurement.objects.bulk_create(
            Measurement(client=one, day=date(2026, 11, 1), kind="weight", value=70) for one in made
        )
        browsers[size] = Browser()
        browsers[size].force_login(user)
    pair(
        "Today, 1,000 clients",
        lambda: browsers[1000].get("/today/"),
        "Today, 20 clients",
        lambda: browsers[20].get("/today/"),
        40,
        "goal ≤ 1.5",
    )
    pair(
        "Today, 1,000 clients, searched",
        lambda: browsers[1000].get("/today/?q=0042"),
        "Today, 20 clients",
        lambda: browsers[20].get("/today/"),
        40,
        "",
    )


def week_pages(browser: Browser) -> None:
    """The page of a week with 28 cells, with one week stored and with 52."""
    from roundpantry.weeks.models import Week

    week = Week.objects.filter(client__name="Maren Okafor").first()
    assert week is not None
    for stored in (2, 52):
        for n in range(stored - Week.objects.filter(client=week.client).count()):
            Week.objects.create(
                client=week.client, start=date(2024, 1, 1) + timedelta(days=7 * n), plan=week.plan
            )
        with CaptureQueriesContext(connection) as seen:
            browser.get(f"/weeks/{week.pk}/")
        pair(
            f"week page, 28 cells, {len(seen)} queries, {stored} weeks",
            lambda: browser.get(f"/weeks/{week.pk}/"),
            "empty view",
            lambda: browser.get("/bench/empty/"),
            60,
            "goal ≤ 25",
        )
    for name, address in (("shopping list", "shopping"), ("evening of prep", "prep")):
        where = f"/{address}/{week.pk}/{'0/' if address == 'prep' else ''}"
        with CaptureQueriesContext(connection) as seen:
            assert browser.get(where).status_code == 200
        pair(
            f"{name} of a week, {len(seen)} queries",
            lambda where=where: browser.get(where),  # type: ignore[misc]
            "empty view",
            lambda: browser.get("/bench/empty/"),
            60,
            "goal ≤ 25",
        )


def core() -> None:
    """The core alone."""
    shelf = load_shelf()
    foods = list(shelf)
    week = [
        [Item.exact(f.key, FoodContent(f), 80.0) for f in foods[i * 8 : i * 8 + 8]]
        for i in range(21)
    ]
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
    base.executemany(
        "insert into names values (?, ?)", [(f.key, n) for f in foods for n in f.names]
    )
    index = index_of(shelf)
    words = [
        "quin",
        "black bea",
        "rocket",
        "tofu",
        "sweet pot",
        "garb",
        "kale",
        "almond b",
        "lent",
        "oat",
    ]

    def full_text() -> None:
        for query in words:
            match = " ".join(f'"{w}"*' for w in query.split())
            base.execute(
                "select key, name from names where names match ? limit 60", (match,)
            ).fetchall()

    pair(
        "ten searches",
        lambda: [index.search(q, 12) for q in words],
        "bare full-text queries",
        full_text,
        100,
        "goal ≤ 3",
    )
    wrong = ["chikpea", "spinich", "brocoli", "avacado", "tumeric"]
    pair(
        "five misspelt searches",
        lambda: [index.search(q, 12) for q in wrong],
        "yardstick",
        yardstick,
        60,
        "",
    )
    text = (INPUTS / "lamplighter-beans.txt").read_text(encoding="utf-8")
    reader = LineReader(shelf)

    def evaluated() -> None:
        forget_amounts()
        read_phrase.cache_clear()
        evaluation(read_recipe(text, reader), None, None)

    pair("evaluating a 13-line recipe, anew", evaluated, "yardstick", yardstick, 60, "at most 1.4")


ROLES = (
    ("grain",), ("soy-food", "wheat-protein"), ("legume",), ("vegetable",), ("vegetable",
    "mushroom"), ("leafy-green",),
    ("seed", "nut", "nut-butter"), ("fruit", "condiment"),
)  # fmt: skip


def eight_parts(rng: random.Random, possible: bool) -> Question:
    """A made-up bowl of eight parts with six windows around portions that exist, or around ones
    that do not.
    """
    shelf, parts = list(load_shelf()), []
    for number, groups in enumerate(ROLES):
        foods = [
            f for f in shelf if f.group in groups and f.state != "dry" and f.per_100g["energy_kcal"]
        ]
        parts.append(part_of_food(str(number), rng.choice(foods), Scales(load_shelf())))
    amounts = [rng.choice(part.amounts) for part in parts]
    whole = compose(items_of(Question(tuple(parts), ()), amounts))

    def around(key: str) -> float:
        return whole[key].amount or 0.0

    energy, protein = around("energy_kcal"), around("protein_g")
    shift = (1.0, 1.0) if possible else (0.5, 1.3)
    windows = [
        Window("energy_kcal", energy * 0.95 * shift[0], energy * 1.05 * shift[0], "must"),
        Window("protein_g", protein * 0.95 * shift[1], protein * 1.05 * shift[1], "must"),
        Window("kcal_per_g", None, around("kcal_per_g") * 1.03),
        Window("fibre_g", around("fibre_g") * 0.95, None),
        Window("sodium_mg", None, around("sodium_mg") * 1.05 + 5),
        Window("fat_g", None, around("fat_g") * 1.05 + 0.5),
    ]
    return Question(tuple(parts), tuple(nutrient_rule(w) for w in windows))


def balances() -> None:
    """Balancing eight parts with six windows, beside a bare call of the solver on the same
    matrix.
    """
    goal = "goal ≤ 1.5, < 80 ms, p95 ≤ 250"
    for name, share, aim in (
        ("all possible", 1.0, goal),
        ("a third not: 3–4 solves each", 0.67, "< 80 ms, p95 ≤ 250"),
    ):
        rng = random.Random(11)
        asked = [eight_parts(rng, rng.random() < share) for _ in range(24)]
        made = [sheet(q, hard=q.sides("must", "should"), goal="effort").program for q in asked]
        matrices = [highs_lp(program) for program in made]
        turn, other = itertools.cycle(asked), itertools.cycle(matrices)

        def bare(matrices: Iterator[Any] = other) -> None:
            solver = fresh_solver(2.0, MOST_NODES)
            solver.passModel(next(matrices))
            solver.run()

        pair(
            f"balance, 8 × 6, {name}",
            lambda t=turn: balance(next(t)),
            "bare solver, same matrix",
            bare,
            120,
            aim,
        )


if __name__ == "__main__":
    balances()
    core()
    web()
    measured(yardstick)
    evenings.measured()
    growth.measured()
    load.measured()
    logins.measured()
