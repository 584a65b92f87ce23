"""What is part of a meal and no meal itself: it is judged by what it adds, and not held against the
meal's targets.
"""

from __future__ import annotations

from collections.abc import Iterable

from dietetics.composition.sums import Composition
from dietetics.dishes.bowls import is_sauce_name
from dietetics.targets.windows import Window

COMPONENT_SHARE = (
    0.2  # of a meal's least energy: what brings less is part of a meal; common practice
)


def is_component(name: str, per_serving: Composition, windows: Iterable[Window]) -> bool:
    """True for a sauce by its name, and for a serving with under a fifth of the meal's energy.

    Energy that is not wholly known may be more than it says, and makes nothing a component.
    """
    energy = per_serving["energy_kcal"]
    bounds = (w.low if w.low is not None else w.high for w in windows if w.key == "energy_kcal")
    wanted = next((bound for bound in bounds if bound), None)
    small = (
        energy.complete
        and energy.amount is not None
        and wanted is not None
        and energy.amount < COMPONENT_SHARE * wanted
    )
    return is_sauce_name(name) or small
