"""Fill an empty database with the invented practice; a database that holds users already is left
alone.
"""

from __future__ import annotations

import json
from datetime import date, timedelta
from pathlib import Path
from typing import Any

from django.contrib.auth import get_user_model
from django.core.management.base import BaseCommand, CommandParser
from django.db import transaction

from dietetics.amounts.line_reader import ASK
from dietetics.composition.foods import load_shelf
from dietetics.labels.label_reader import read_label
from dietetics.targets.windows import Window
from dietetics.week.plan import Entry, cook, empty_plan, plan_json, put
from roundpantry.batches.adapting_page import substitution_of
from roundpantry.batches.models import Batch
from roundpantry.batches.services import (
    add_batch,
    add_share,
    confirm_line,
    log_cooking,
    read_pasted,
    set_vessel,
    take_substitution,
    vary,
)
from roundpantry.bowls.balance_services import again, balance_bowl
from roundpantry.bowls.models import Bowl
from roundpantry.bowls.patterns import add_option, keep_pattern
from roundpantry.bowls.services import add_batch as put_batch
from roundpantry.bowls.services import add_bowl, add_food, copy_bowl
from roundpantry.clients.models import Client
from roundpantry.clients.records import clients_of
from roundpantry.clients.services import add_client
from roundpantry.counter import clock
from roundpantry.demo.followed import load_followed
from roundpantry.demo.labels import LABELS
from roundpantry.demo.people import (
    CLIENTS,
    COOKED,
    FITTED,
    LEFT_AS_TYPED,
    PASSWORD,
    PRACTICE,
    PRACTITIONERS,
    REACH,
    SHARES,
    DemoClient,
)
from roundpantry.shelf.services import keep_label, set_preferences
from roundpantry.targets.services import set_targets
from roundpantry.weeks.models import Week
from roundpantry.weeks.services import hand_over, set_choice, week_start
from roundpantry.weeks.week_snapshot import kept_of

WEEKS = Path(__file__).resolve().parents[2] / "weeks.json"
LEFT_OUT_OF_WEEKS = ("too much", "swing")  # bowls made to be compared, not eaten
RECIPES = Path(__file__).resolve().parents[2] / "recipes"


class Command(BaseCommand):
    """Load the made-up data."""

    help = __doc__

    def add_arguments(self, parser: CommandParser) -> None:
        """The day is today, unless said."""
        parser.add_argument(
            "--day", type=date.fromisoformat, help="the day up to which everything happened"
        )

    def handle(self, *args: Any, day: date | None = None, **options: Any) -> None:
        """Load everything, or nothing when there are users already."""
        users = get_user_model()
        if users.objects.exists():
            return
        # the first minute of a named day: nothing of it lies ahead of whoever looks at it then
        moment = clock.at(day, 0, 1) if day else clock.now()
        with clock.set_to(moment), transaction.atomic():
            people = {
                name: users.objects.create_user(
                    name, password=PASSWORD, first_name=first, last_name=last
                )
                for name, first, last in PRACTITIONERS
            }
            set_preferences(people["petra"], practice=PRACTICE, reach=REACH)
            for person in people.values():
                for text in LABELS:
                    keep_label(person, read_label(text).facts)
            batches = {name: load_batches(person) for name, person in people.items()}
            for client in CLIENTS:
                load_client(people[client.practitioner], client, batches[client.practitioner])
            load_kitchen(batches["petra"])
            load_weeks(batches["petra"])
            load_followed()


def load_batches(practitioner: Any) -> list[Batch]:
    """Read every demo recipe as a batch of this practitioner, who answers what was asked of it."""
    texts = [path.read_text(encoding="utf-8") for path in sorted(RECIPES.glob("*.txt"))]
    made = [add_batch(practitioner, read_pasted(practitioner, text), text) for text in texts]
    for line in (line for batch in made for line in batch.lines.all()):
        if line.confidence == ASK:
            confirm_line(line)
    return made


def load_kitchen(batches: list[Batch]) -> None:
    """What was cooked before, who got what, and a dish fitted to a client."""
    named = {batch.title: batch for batch in batches}
    for title, day, measured, taste, notes in COOKED:
        log_cooking(named[title], day, measured, taste, notes)
    for title, who, amount, times in SHARES:
        add_share(named[title], who, amount, times)
    set_vessel(named[SHARES[0][0]], "ladle", "118 g")
    title, whose, taken = FITTED
    client = clients_of(named[title].practitioner).get(name=whose)
    made = vary(named[title], f"{title}, for {whose}", client=client)
    for words, key in taken:
        line = next(line for line in made.lines.all() if words in line.text and not line.instead_of)
        found = substitution_of(line, key)
        assert found is not None, f"{key} for {line.text}"
        take_substitution(line, found)


def load_client(practitioner: Any, demo: DemoClient, batches: list[Batch]) -> None:
    """Store a client with targets and bowls."""
    client = add_client(practitioner, **demo.facts)
    client.measurements.update(day=clock.today() - timedelta(days=6))
    meals_of_day = [(name, "", share, share) for name, share in demo.meals]
    # her own window lies under what an equation gives; the midwife has agreed to it
    agreed = "Annika Brandt, midwife" if client.pregnant else ""
    clinician = "Dr Eilidh Varga, kidney clinic" if "ckd-3" in client.conditions else agreed
    targets = set_targets(
        client,
        [Window(*window) for window in demo.windows],
        meals_of_day,
        reason="Agreed at the first talk.",
        clinician=clinician,
        clinician_on=date(2026, 5, 3) if clinician else None,
    )
    meals = {meal.name: meal for meal in targets.meals.all()}
    for name, meal, parts in demo.bowls:
        bowl = add_bowl(client, name, meals[meal])
        for part in parts.split(";"):
            put_part(bowl, part.strip(), batches)
        if name not in LEFT_AS_TYPED:
            balance_bowl(again(bowl))
            bowl.parts.update(chosen=None)
        bowl.changes.all().delete()
    for name, eater, share in demo.table:
        copy_bowl(again(client.bowls.get(name=name)), f"{name}, for {eater}", eater, None, share)
    for name, options in demo.patterns:
        pattern = keep_pattern(again(client.bowls.get(name=name)), name)
        for role, key, amount in options:
            add_option(pattern, role, load_shelf().food(key), amount)


def load_weeks(batches: list[Batch]) -> None:
    """This week and the last one of every client, as they were planned: few favourites, two cooking
    evenings.
    """
    titles = {batch.title: f"batch-{batch.pk}" for batch in batches}
    this_week = week_start(clock.today())
    for name, laid_out in json.loads(WEEKS.read_text(encoding="utf-8")).items():
        client = Client.objects.get(name=name)
        keys = {bowl.name: f"bowl-{bowl.pk}" for bowl in client.bowls.all()}
        for words in LEFT_OUT_OF_WEEKS:
            for title in (title for title in keys if words in title):
                set_choice(client, keys[title], {"left_out": True})
        plan = empty_plan([meal.name for meal in client.target_sets.all()[0].meals.all()])
        for day, cells in enumerate(laid_out["cells"]):
            for meal, (title, scale) in enumerate(cells):
                plan = put(plan, day, meal, Entry(keys[title], title, scale))
        for title, day, pots in laid_out["cook"]:
            plan = cook(plan, titles[title], day, pots)
        before = Week.objects.create(
            client=client, start=this_week - timedelta(days=7), plan=plan_json(plan)
        )
        hand_over(before, before.revision, kept_of(before), "")
        Week.objects.create(client=client, start=this_week, plan=plan_json(plan))


def put_part(bowl: Bowl, written: str, batches: list[Batch]) -> None:
    """Put "key amount" or "batch:Words of its title amount" into a bowl."""
    bowl = Bowl.objects.get(pk=bowl.pk)
    if written.startswith("batch:"):
        words = written.removeprefix("batch:").split()
        first_number = next(i for i, word in enumerate(words) if word[0].isdigit())
        title, amount = " ".join(words[:first_number]), " ".join(words[first_number:])
        put_batch(bowl, next(b for b in batches if b.title.startswith(title)), amount)
        return
    key, _, amount = written.partition(" ")
    add_food(bowl, key, amount)
