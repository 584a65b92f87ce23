"""Add the starter pantry to a practice, and remove it again.

The recipes and patterns are our own and stand beside this module as text. They were never cooked
for the program: a starter has no measured yield until somebody weighs one. Each is read as if it
had been pasted, so that every line keeps its reading, measure and source like any other.
"""

from __future__ import annotations

import tomllib
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

from django.contrib.auth.models import User
from django.db.models import RestrictedError

from dietetics.dishes.patterns import Option, Role, roles_json
from dietetics.dishes.recipes import read_recipe
from roundpantry.batches.models import Batch
from roundpantry.batches.records import batches_of, dish_reader, dishes_of
from roundpantry.batches.services import add_batch, remove_batch
from roundpantry.bowls.models import Pattern
from roundpantry.bowls.patterns import BATCH, patterns_of
from roundpantry.counter.state_changes import one_change

HERE = Path(__file__).resolve().parent
BASES = "base-"  # file names of the batches that others are made from: they are added first


@dataclass(frozen=True)
class Removed:
    """What went when the starters were removed, and the titles of batches that bowls or other
    batches still use.
    """

    batches: int
    patterns: int
    in_use: tuple[str, ...]


def recipe_texts() -> tuple[list[str], list[str]]:
    """The recipes as text: the bases, and all others, some of which are made from bases."""
    texts = {
        file.name: file.read_text(encoding="utf-8")
        for file in sorted((HERE / "recipes").glob("*.txt"))
    }
    bases = [text for name, text in texts.items() if name.startswith(BASES)]
    return bases, [text for text in texts.values() if text not in bases]


def _title(text: str) -> str:
    return text.splitlines()[0].lstrip("# ").strip()


def has_starters(practitioner: User) -> bool:
    """Whether any starter is in this practice."""
    batches = batches_of(practitioner).filter(starter=True).exists()
    return batches or patterns_of(practitioner).filter(starter=True).exists()


@one_change
def add_starters(practitioner: User) -> tuple[int, int]:
    """Add every starter batch and pattern that is not there yet; return how many batches and
    patterns were added.
    """
    there = {batch.title: batch for batch in batches_of(practitioner).filter(starter=True)}
    before = len(there)
    for texts in recipe_texts():
        # one reader for each round: the second round's recipes name batches of the first
        reader, dishes = dish_reader(practitioner), dishes_of(practitioner)
        for text in texts:
            if _title(text) not in there:
                recipe = read_recipe(text, reader, "", dishes)
                there[recipe.title] = add_batch(practitioner, recipe, text, starter=True)
    added = len(there) - before
    names = set(patterns_of(practitioner).filter(starter=True).values_list("name", flat=True))
    made = [
        Pattern(
            practitioner_id=practitioner.pk,
            name=name,
            meal_kind=meal,
            purpose=purpose,
            starter=True,
            roles=roles_json(roles),
        )
        for name, meal, purpose, roles in _patterns(
            {title: batch.pk for title, batch in there.items()}
        )
        if name not in names
    ]
    Pattern.objects.bulk_create(made)
    return added, len(made)


def _patterns(batch_pks: dict[str, int]) -> Iterator[tuple[str, str, str, list[Role]]]:
    """Every starter pattern: its name, the kind of meal and the purpose it is for, and its
    roles.
    """
    for one in tomllib.loads((HERE / "patterns.toml").read_text(encoding="utf-8"))["patterns"]:
        roles = [
            Role(r["name"], tuple(_option(text, batch_pks) for text in r["options"]))
            for r in one["roles"]
        ]
        yield one["name"], one["meal"], one.get("purpose", ""), roles


def _option(text: str, batch_pks: dict[str, int]) -> Option:
    """An option from "kale-raw, 1 cup chopped" or "batch:Brown rice, 1 serving"."""
    what, _, amount = text.rpartition(", ")
    if what.startswith(BATCH):
        what = f"{BATCH}{batch_pks[what.removeprefix(BATCH)]}"
    return Option(what, amount)


@one_change
def remove_starters(practitioner: User) -> Removed:
    """Remove every starter pattern, and every starter batch that no bowl and no other batch
    uses.
    """
    patterns = patterns_of(practitioner).filter(starter=True)
    pattern_count = patterns.count()
    patterns.delete()
    removed, in_use = 0, []
    # those that are made from others go first, so that the bases are free when their turn comes
    for batch in sorted(_starters(practitioner), key=lambda one: one.title in _base_titles()):
        try:
            remove_batch(batch)
            removed += 1
        except RestrictedError:
            in_use.append(batch.title)
    return Removed(removed, pattern_count, tuple(in_use))


def _starters(practitioner: User) -> list[Batch]:
    return list(batches_of(practitioner).filter(starter=True))


def _base_titles() -> set[str]:
    return {_title(text) for text in recipe_texts()[0]}
