"""What may stand in for what on the card of a bowl: a food of the same group and state that gives
about as much energy and protein, and that nothing keeps from the client.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Sequence

from dietetics.cautions.exclusions import Terms, exclusions
from dietetics.cautions.facts import ClientFacts
from dietetics.composition.foods import Food

SWAPPED = frozenset({"leafy-green", "fruit", "legume", "grain", "nut", "seed"})
SALAD_LEAVES = frozenset(
    {"romaine", "spinach", "arugula", "leaf-lettuce", "red-leaf-lettuce", "butterhead",
     "little-gem", "watercress", "kale"}
)  # fmt: skip
NEAR_KCAL, NEAR_PROTEIN_G = 0.25, 0.35  # shares of the food's own, per 100 g (our judgement)
LEAST_KCAL, LEAST_PROTEIN_G = 10.0, 1.0  # so much is near in any case
MOST_SWAPS, MOST_LINES = 2, 2


def may_stand_in(clients: Sequence[ClientFacts], food: Food) -> bool:
    """True for a food that nothing keeps from anybody who eats the bowl. Nothing stands in for
    anything where one of them has a condition or takes a medicine: what is near in energy may be
    far in potassium or vitamin K (our judgement).
    """
    return not any(client.conditions or exclusions(food, Terms(client)) for client in clients)


def near_foods(food: Food, shelf: Iterable[Food], allowed: Callable[[Food], bool]) -> list[Food]:
    """The foods of a shelf that may stand in for one, the nearest in energy and protein first."""
    found = []
    for other in shelf:
        same = (other.group, other.state, other.salted) == (food.group, food.state, food.salted)
        if same and other.family != food.family and _is_swapped(food, other):
            apart = _apart(food, other)
            if apart is not None and allowed(other):
                found.append((apart, other.key, other))
    return [other for _, _, other in sorted(found, key=lambda one: one[:2])[:MOST_SWAPS]]


def _is_swapped(food: Food, other: Food) -> bool:
    usual = other.default or food.group in ("nut", "seed")  # of which each is a family of its own
    raw_leaves = food.group == "leafy-green" and food.state == "raw"
    return usual and food.group in SWAPPED and (not raw_leaves or other.family in SALAD_LEAVES)


def _apart(food: Food, other: Food) -> float | None:
    """How far apart two foods are, 0 the same, above 1 too far; None where they are too far or a
    figure is unknown.
    """
    apart = 0.0
    for key, share, least in (
        ("energy_kcal", NEAR_KCAL, LEAST_KCAL),
        ("protein_g", NEAR_PROTEIN_G, LEAST_PROTEIN_G),
    ):
        own, its = food.per_100g.get(key), other.per_100g.get(key)
        if own is None or its is None:
            return None
        apart = max(apart, abs(own - its) / max(share * own, least))
    return apart if apart <= 1.0 else None
