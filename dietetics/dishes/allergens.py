"""What a dish holds that people are allergic to, what it may hold as traces, and whether that is
all of it.

Complete is said only when every written line was read and every food's list is known: a line that
was not read may hold anything.
"""

from __future__ import annotations

from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from dietetics.composition.sums import Item
from dietetics.dishes.batches import Batch, BatchContent
from dietetics.dishes.bowls import foods_of

TRACE_MARKS = {
    "gluten-trace": "gluten"
}  # marks of the shelf that stand for a trace and not for what a food holds


@dataclass(frozen=True)
class Allergens:
    """Keys of allergens in order; `unread` are the lines not read, `unlisted` the foods whose list
    is not known.
    """

    contains: tuple[str, ...]
    traces: tuple[str, ...]
    unread: tuple[str, ...] = ()
    unlisted: tuple[str, ...] = ()

    @property
    def complete(self) -> bool:
        """True when nothing was left unread and every list is known."""
        return not self.unread and not self.unlisted

    def words(self) -> str:
        """In a sentence or two, for screen and print."""
        held = (
            f"Contains {', '.join(self.contains)}."
            if self.contains
            else "None of the common allergens in the lines understood."
        )
        traces = f" May contain traces of {', '.join(self.traces)}." if self.traces else ""
        return f"{held}{traces} {self.open_words()}".strip()

    def open_words(self) -> str:
        """Why the list is not complete; "" where it is."""
        why = self.why_open()
        return f"Not complete: {why}." if why else ""

    def why_open(self) -> str:
        """What keeps the list from being complete, as the rest of a sentence; "" where nothing
        does.
        """
        found = []
        if self.unread:
            lines = "1 line was" if len(self.unread) == 1 else f"{len(self.unread)} lines were"
            found.append(f"{lines} not understood: {'; '.join(self.unread)}")
        if self.unlisted:
            found.append(f"no ingredient list for {', '.join(self.unlisted)}")
        return "; and ".join(found)


def allergens_of(items: Sequence[Item], unread: Iterable[str] = ()) -> Allergens:
    """The allergens of items, dishes among them taken apart, with the lines beside them that were
    not read.
    """
    foods = [food for item in items for food, _ in foods_of(item)]
    held = {mark for food in foods for mark in food.allergens}
    contains = held - TRACE_MARKS.keys()
    traces = {TRACE_MARKS[mark] for mark in held & TRACE_MARKS.keys()} | {
        t for food in foods for t in food.traces
    }
    missing = [*unread, *(line for item in items for line in _unread_in(item))]
    unlisted = dict.fromkeys(food.name for food in foods if not food.allergens_known)
    return Allergens(
        tuple(sorted(contains)), tuple(sorted(traces - contains)), tuple(missing), tuple(unlisted)
    )


def batch_allergens(batch: Batch) -> Allergens:
    """The allergens of a dish."""
    return allergens_of(batch.items, batch.unread)


def _unread_in(item: Item) -> list[str]:
    if not isinstance(item.content, BatchContent):
        return []
    batch = item.content.batch
    return [*batch.unread, *(line for inner in batch.items for line in _unread_in(inner))]
