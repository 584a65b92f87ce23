"""What can be put side by side: a client's bowls and a practitioner's batches, as plates of the
core.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from django.contrib.auth.models import User

from dietetics.composition.sums import Item
from dietetics.dishes.batches import BatchContent
from dietetics.dishes.bowls import BATCH_DENSITY_G_PER_ML, Bowl, taken_apart
from dietetics.dishes.comparison import Plate
from roundpantry.batches.records import batch_value, batches_of
from roundpantry.bowls.records import bowl_value, bowls_of
from roundpantry.clients.models import Client
from roundpantry.counter.typed_numbers import whole

MOST = 4


@dataclass(frozen=True)
class Side:
    """A thing that was chosen: its address word, its plate, and itself as a bowl to be drawn."""

    word: str
    plate: Plate
    bowl: Bowl


def choices(
    user: User, client: Client | None, sides: Sequence[Side] = ()
) -> list[tuple[str, list[tuple[str, str]]]]:
    """Everything that can be chosen, in groups; what is chosen already and is another client's
    stands apart.
    """
    bowls = bowls_of(user).filter(client=client) if client else bowls_of(user)
    found = [
        (
            f"Bowls of {client.name}" if client else "Bowls",
            [(f"bowl-{b.pk}", b.name) for b in bowls],
        )
    ]
    found.append(("A serving of a batch", [(f"batch-{b.pk}", b.title) for b in batches_of(user)]))
    listed = {word for _, entries in found for word, _ in entries}
    others = [(side.word, side.plate.name) for side in sides if side.word not in listed]
    return [*found, ("Chosen, of another client", others)] if others else found


def side_of(user: User, word: str, client: Client | None = None) -> Side | None:
    """A bowl ("bowl-3") or a serving of a batch ("batch-5") of this practitioner; None for anything
    else.

    A bowl of another client than the one on the counter says whose it is.
    """
    kind, _, number = word.partition("-")
    pk = whole(number)
    if pk is None:
        return None
    if kind == "bowl":
        row = bowls_of(user).filter(pk=pk).first()
        if row is None:
            return None
        bowl = bowl_value(row)
        whose = f", of {row.client.name}" if client and row.client_id != client.pk else ""
        return Side(
            word, Plate(f"{bowl.name}{whose}", bowl.items, bowl.total.grams, bowl.volume_ml), bowl
        )
    if kind == "batch":
        batch = batches_of(user).filter(pk=pk).first()
        if batch is None:
            return None
        value = batch_value(batch)
        what, grams, _ = value.shown
        item = Item.exact(value.name, BatchContent(value), grams, what.lower())
        volume = grams / BATCH_DENSITY_G_PER_ML
        name = value.name if value.servings is not None else f"{value.name}, 100 g"
        return Side(
            word, Plate(name, (item,), grams, volume), Bowl(name, taken_apart(item, volume))
        )
    return None
