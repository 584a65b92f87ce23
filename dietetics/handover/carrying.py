"""How a bowl that is put together keeps and travels, and whether it is a sweet meal: what its card
says behind the steps. All of it is common practice, from memory.
"""

from __future__ import annotations

from collections.abc import Sequence

from dietetics.dishes.bowls import VEGETABLE_GROUPS
from dietetics.handover.assembly import Part
from dietetics.week.question.question_building import SMALL_MEALS

KEEPS = "Put together it keeps a day in the fridge."
CUT_LATE = frozenset({"avocado", "banana-raw", "apple-raw", "pear-raw"})  # they turn brown
TRAVELS = "Travels in a box, kept cool; the sauce goes into a small jar."
STAYS = "Best eaten at home, or warm out of a flask."


def is_sweet(parts: Sequence[Part], meal: str) -> bool:
    """True for a breakfast or a snack without vegetables: its milk goes into the bowl, and its
    fruit is cut into it.
    """
    return meal.lower() in SMALL_MEALS and not VEGETABLE_GROUPS & {part.group for part in parts}


def keeps_words(parts: Sequence[Part]) -> str:
    """How long it keeps when it is put together, and what is cut only when it is eaten; "" for one
    part alone.
    """
    if len(parts) < 2:
        return ""
    late = [part.name for part in parts if part.food is not None and part.food.key in CUT_LATE]
    return f"{KEEPS} Cut the {late[0]} when you eat." if late else KEEPS


def travel_words(travels: bool) -> str:
    """How it is carried, or that it is better eaten at home."""
    return TRAVELS if travels else STAYS
